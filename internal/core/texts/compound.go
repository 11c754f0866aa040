package texts

import (
	"slices"
)

// both: The cat and the dog nap in the sun. Sam got a bun and a plum.
func (m *maker) both() (string, []string) {
	if m.rng.IntN(2) == 0 {
		v, ok := pick(m, m.words.acts, func(v verb) string { return v.past }, func(verb) bool { return true })
		one, who, content, ok2 := m.actor(&v, false)
		other, ok3 := m.noun(false, func(n noun) bool {
			return n.class == one.class && n.one != one.one && n.bare == one.bare && does(n, v) &&
				(n.class == person || overlap(n.tags, []string{"pet", "farm", "wood"}) && sameHome(n, one))
		})
		if !ok || !ok2 || !ok3 {
			return "", nil
		}
		second, more := m.phrase(other, false, "the")
		if !one.bare {
			who, content = m.phrase(one, false, "the")
		}
		where := m.where(one, v.what)
		return m.finish(
				".",
				who,
				"and",
				second,
				m.says(v, true),
				where,
			), append(
				append(content, more...),
				v.base+v.she,
				last(where),
			)
	}
	v, ok := pick(m, m.words.uses, func(v verb) string { return v.past }, func(v verb) bool {
		return slices.Contains([]string{"got", "had", "has", "packed", "sold", "ate"}, v.past)
	})
	n, who, content, ok2 := m.actor(&v, false)
	if !ok || !ok2 || n.class != person {
		return "", nil
	}
	first, ok3 := m.noun(
		false,
		func(n noun) bool { return overlap(v.what, n.tags) && !n.uncounted && !n.bare && n.class != animal },
	)
	second, ok4 := m.noun(false, func(n noun) bool {
		return overlap(v.what, n.tags) && !n.uncounted && !n.bare && n.class == first.class && n.one != first.one
	})
	if !ok3 || !ok4 {
		return "", nil
	}
	one, more := m.phrase(first, false, "a")
	two, most := m.phrase(second, false, "a")
	return m.finish(".", who, m.says(v, false), one, "and", two), slices.Concat(content, more, most)
}

// sameHome tells whether two animals live together: pets, or the farm, or the wood.
func sameHome(a, b noun) bool {
	for _, home := range []string{"pet", "farm", "wood"} {
		if a.has(home) && b.has(home) {
			return true
		}
	}
	return false
}

// but: The bus is big but the bike is little.
func (m *maker) but() (string, []string) {
	o, ok := pick(m, m.words.opposites, func(o against) string { return o.one }, func(against) bool { return true })
	fits := func(n noun) bool { return !n.bare && !n.uncounted && overlap(o.tags, n.tags) }
	first, ok2 := m.noun(false, func(n noun) bool { return fits(n) && (o.one != "big" || larger(n)) })
	second, ok3 := m.noun(false, func(n noun) bool {
		return fits(n) && n.one != first.one && n.class == first.class && (o.one != "big" || !larger(n))
	})
	if !ok || !ok2 || !ok3 {
		return "", nil
	}
	text := m.finish(".", "the "+first.one, "is", o.one, "but the "+second.one, "is", o.other)
	return text, []string{first.one, second.one, o.one, o.other}
}

// larger tells what is big beside the others of its class.
func larger(n noun) bool {
	return n.has("road") || n.has("munch") || n.has("roar") || slices.Contains(largeThings, n.one)
}

var largeThings = []string{"ship", "barge", "train", "whale", "pig", "swan", "box", "sack", "bin"}

// firstPerson: I can see a ship. We ran to the shop. This is my hat.
func (m *maker) firstPerson() (string, []string) {
	who := []string{"I", "we"}[m.rng.IntN(2)]
	switch m.rng.IntN(4) {
	case 0:
		n, ok := m.noun(false, func(n noun) bool {
			return !n.bare && !n.uncounted && (n.class == animal || overlap(n.tags, []string{"water", "ride", "garden"}))
		})
		if !ok {
			return "", nil
		}
		what, content := m.phrase(n, false, "a", "the")
		return m.finish(".", who, "can see", what), content
	case 1:
		v, ok := pick(m, m.words.uses, func(v verb) string { return v.past }, func(v verb) bool {
			odd := slices.Contains([]string{"saw", "needed", "sold", "rang"}, v.past)
			return v.past != "" && !odd && slices.Contains(v.who, "person")
		})
		what, content := m.object(v, noun{class: person})
		if !ok {
			return "", nil
		}
		return m.finish(".", who, v.past, what), append(content, v.past)
	case 2:
		v, ok := pick(
			m,
			m.words.acts,
			func(v verb) string { return v.past },
			func(v verb) bool { return v.past != "" && slices.Contains(v.who, "person") },
		)
		if !ok {
			return "", nil
		}
		where := m.where(noun{class: person}, v.what)
		return m.finish(".", who, v.past, where), []string{v.past, last(where)}
	}
	n, ok := m.noun(
		false,
		func(n noun) bool { return overlap(n.tags, []string{"wear", "toy", "mine", "bike-ride", "pet"}) },
	)
	if !ok {
		return "", nil
	}
	what, content := m.phrase(n, false, "my")
	return m.finish(".", "this is", what), content
}
