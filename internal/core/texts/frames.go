package texts

import (
	"slices"
	"strings"

	"brightchalk/internal/core/prose"
)

// Frames of sentences: who did what, where is it, a question, a command, a cry, and, but, I and we.
type frame struct {
	name   string
	weight int
	make   func(m *maker) (text string, content []string)
}

// Filled at start: the makers call one another through it.
var frames []frame

func init() {
	frames = []frame{
		{"does", 22, (*maker).does},
		{"goes", 8, (*maker).goes},
		{"takes", 26, (*maker).takes},
		{"stands", 8, (*maker).stands},
		{"asks", 9, (*maker).asks},
		{"orders", 8, (*maker).orders},
		{"cries", 5, (*maker).cries},
		{"both", 8, (*maker).both},
		{"but", 6, (*maker).but},
		{"first person", 9, (*maker).firstPerson},
	}
}

func (m *maker) sentence() draft {
	total := 0
	for _, f := range frames {
		total += f.weight
	}
	at := m.rng.IntN(total)
	for _, f := range frames {
		if at -= f.weight; at < 0 {
			text, content := f.make(m)
			return draft{text: text, frame: f.name, content: content}
		}
	}
	return draft{}
}

// finish joins the parts to a sentence; empty where one is missing or cannot be read.
func (m *maker) finish(mark string, parts ...string) string {
	for _, p := range parts {
		if p == "" {
			return ""
		}
		for w := range strings.FieldsSeq(p) {
			if !m.can(w) {
				return ""
			}
		}
	}
	return prose.Capital(strings.Join(parts, " ")) + mark
}

func form(n noun, many bool) string {
	if many {
		return n.many
	}
	return n.one
}

func (m *maker) noun(many bool, fits func(noun) bool) (noun, bool) {
	return pick(
		m,
		m.words.nouns,
		func(n noun) string { return form(n, many) },
		func(n noun) bool { return form(n, many) != "" && fits(n) },
	)
}

// like is an adjective for a noun, one time in so many, or empty.
func (m *maker) like(n noun, of int) string {
	if m.rng.IntN(of) > 0 || n.bare {
		return ""
	}
	a, ok := pick(m, m.words.adjectives, func(a adjective) string { return a.word }, func(a adjective) bool {
		return overlap(a.tags, n.tags) || n.class == person && slices.Contains(a.tags, "person")
	})
	if !ok {
		return ""
	}
	return a.word
}

// phrase puts a determiner and at times an adjective before a noun.
func (m *maker) phrase(n noun, many bool, determiners ...string) (string, []string) {
	word := form(n, many)
	if n.bare {
		return word, []string{strings.ToLower(word)}
	}
	content := []string{word}
	if a := m.like(n, 3); a != "" {
		content = []string{a, word}
	}
	text := strings.Join(content, " ")
	switch {
	case len(determiners) > 0:
	case many && n.class == person:
		determiners = []string{"the"}
	case many:
		determiners = []string{"the", "the", "six", "ten", "two", "three"}
	case n.uncounted:
		determiners = []string{"the", "the", "some"}
	default:
		determiners = []string{"the", "a", "the", "a", "the"}
	}
	d, ok := pick(
		m,
		determiners,
		func(d string) string { return d },
		func(d string) bool { return m.can(article(d, text)) },
	)
	if !ok {
		return "", nil
	}
	return article(d, text) + " " + text, content
}

func article(d, next string) string {
	if d == "a" && strings.ContainsRune("aeiou", rune(next[0])) {
		return "an"
	}
	return d
}

// actor is somebody who can do the verb, or anybody where it is nil.
func (m *maker) actor(v *verb, many bool) (n noun, text string, content []string, ok bool) {
	if m.subject != nil {
		n, ok = *m.subject, v == nil || does(*m.subject, *v)
		text, content = m.named(n)
		return n, text, content, ok
	}
	n, ok = m.noun(many, func(n noun) bool {
		return (n.class == animal || n.class == person) && !n.has("mine") && (v == nil || does(n, *v))
	})
	if !ok {
		return n, "", nil, false
	}
	text, content = m.phrase(n, many)
	return n, text, content, text != ""
}

// says gives the form of a verb: past, or present for one or for many.
func (m *maker) says(v verb, many bool) string {
	present := v.she
	if many {
		present = v.base
	}
	if m.past = v.past != "" && (present == "" || m.tense == then || m.tense == either && m.rng.IntN(3) > 0); m.past {
		return v.past
	}
	return present
}

// where is a place that suits both the verb and who does it.
func (m *maker) where(n noun, tags []string) string {
	p, ok := pick(m, m.words.places, func(p place) string { return p.word }, func(p place) bool {
		bathes := slices.Contains(tags, "swim")
		if n.class == person && bathes && overlap(p.tags, tags) {
			return p.word != "canal" // nobody swims there
		}
		return overlap(p.tags, tags) && mayBe(n, p) &&
			(n.class != person || !overlap(p.tags, []string{"water", "swim"}))
	})
	if !ok {
		return ""
	}
	d := "the"
	if !p.the && m.rng.IntN(5) == 0 {
		d = article("a", p.word)
	}
	return p.preposition + " " + d + " " + p.word
}

func last(text string) string { return text[strings.LastIndexByte(text, ' ')+1:] }

// fewPlaces is how many places a class must be able to read about before nobody does anything without one.
const fewPlaces = 6

// does: The hen sat on the mat.
func (m *maker) does() (string, []string) {
	v, ok := pick(m, m.words.acts, func(v verb) string { return v.past }, func(verb) bool { return true })
	many := m.rng.IntN(4) == 0 && m.subject == nil
	n, who, content, ok2 := m.actor(&v, many)
	if !ok || !ok2 {
		return "", nil
	}
	where := m.where(n, v.what)
	if where == "" && len(m.words.places) < fewPlaces {
		return m.finish(".", who, m.says(v, many)), append(content, v.base+v.she)
	}
	return m.finish(".", who, m.says(v, many), where), append(content, v.base+v.she, last(where))
}

// goers are the forms of verbs with which somebody goes to a place.
var goers = func() map[string]bool {
	out := map[string]bool{}
	for base := range strings.FieldsSeq("run hop swim creep march skip fly rush walk tiptoe race") {
		out[base], out[base+"s"], out[base+"es"] = true, true, true // skips, rushes
	}
	return out
}()

// goes: The duck ran to the pond.
func (m *maker) goes() (string, []string) {
	v, ok := pick(m, m.words.acts, func(v verb) string { return v.past }, func(v verb) bool {
		return goers[v.she] || goers[v.base]
	})
	many := m.rng.IntN(5) == 0 && m.subject == nil
	n, who, content, ok2 := m.actor(&v, many)
	p, ok3 := pick(m, m.words.goals, func(p place) string { return p.word }, func(p place) bool {
		if slices.Contains(v.what, "water") && !slices.Contains(p.tags, "water") {
			return false // nobody swims to a fire
		}
		return p.word != n.one && (overlap(p.tags, n.tags) || n.class == person && overlap(p.tags, personPlaces))
	})
	if !ok || !ok2 || !ok3 {
		return "", nil
	}
	to := "to the " + p.word
	if p.word == "bed" || p.word == "school" {
		to = "to " + p.word
	}
	return m.finish(".", who, m.says(v, many), to), append(content, v.base+v.she, p.word)
}

// object is what a verb is done to, with his or her where it is the doer's own.
func (m *maker) object(v verb, by noun) (string, []string) {
	many := m.rng.IntN(4) == 0
	n, ok := m.noun(many, func(n noun) bool { return overlap(v.what, n.tags) && !n.bare && n.one != by.one })
	if !ok {
		return "", nil
	}
	own := (!many || n.has("pair")) && n.class == thing &&
		overlap(n.tags, []string{"wear", "toy", "lost", "bike-ride"}) &&
		by.pronoun() != "" &&
		m.rng.IntN(3) == 0
	switch {
	case n.has("mine"):
		return m.phrase(n, many, by.pronoun())
	case own:
		return m.phrase(n, many, by.pronoun())
	case n.has("kinship"):
		return m.phrase(n, many, "his", "her")
	case many:
		return m.phrase(n, many, "the", "the", "two", "six")
	}
	return m.phrase(n, many)
}

// takes: Sam had a red hat.
func (m *maker) takes() (string, []string) {
	v, ok := pick(m, m.words.uses, func(v verb) string { return v.past }, func(verb) bool { return true })
	many := m.rng.IntN(6) == 0 && m.subject == nil
	n, who, content, ok2 := m.actor(&v, many)
	if !ok || !ok2 {
		return "", nil
	}
	if many {
		n.tags = nil // no his or her of many
	}
	what, more := m.object(v, n)
	return m.finish(".", who, m.says(v, many), what), append(append(content, v.base+v.she), more...)
}

// standing is a thing or an animal and where it is.
func (m *maker) standing(many bool) (what, where string, content []string) {
	n, ok := m.noun(many, func(n noun) bool { return !n.bare && n.class != person })
	if !ok {
		return "", "", nil
	}
	p, ok := pick(m, m.words.places, func(p place) string { return p.word }, func(p place) bool { return mayBe(n, p) })
	what, content = m.phrase(n, many, "the")
	if !ok || what == "" {
		return "", "", nil
	}
	return what, p.preposition + " the " + p.word, append(content, p.word)
}

// stands: The hat is in the box.
func (m *maker) stands() (string, []string) {
	many := m.rng.IntN(4) == 0
	what, where, content := m.standing(many)
	be := map[bool]string{false: "is", true: "are"}[many]
	return m.finish(".", what, be, where), content
}

// asks: Is the hat in the box? Can a hen swim? Did Sam get the bun?
func (m *maker) asks() (string, []string) {
	switch m.rng.IntN(3) {
	case 0:
		what, where, content := m.standing(false)
		return m.finish("?", "is", what, where), content
	case 1:
		v, ok := pick(
			m,
			m.words.acts,
			func(v verb) string { return v.base },
			func(v verb) bool { return v.base != "" && v.base != "wait" && v.base != "stand" && v.base != "rest" },
		)
		n, ok2 := m.noun(false, func(n noun) bool { return n.class == animal && does(n, v) })
		if !ok || !ok2 {
			return "", nil
		}
		who, content := m.phrase(n, false, "a", "the")
		return m.finish("?", "can", who, v.base), append(content, v.base)
	}
	v, ok := pick(
		m,
		m.words.uses,
		func(v verb) string { return v.base },
		func(v verb) bool { return v.base != "" && v.base != "see" && v.base != "need" },
	)
	n, ok2 := m.noun(false, func(n noun) bool { return n.class == person && n.bare && does(n, v) })
	if !ok || !ok2 {
		return "", nil
	}
	what, content := m.object(v, n)
	ask := []string{"did", "can"}[m.rng.IntN(2)]
	return m.finish("?", ask, n.one, v.base, what), append(content, strings.ToLower(n.one), v.base)
}

// Verbs that an adult asks a child to do.
var orders = []string{
	"get",
	"pack",
	"wash",
	"pat",
	"hold",
	"lift",
	"fill",
	"shut",
	"ring",
	"push",
	"feed",
	"mend",
	"find",
	"hug",
	"cut",
	"pick",
}

// orders: Get the red mug. Put the hat on the bed.
func (m *maker) orders() (string, []string) {
	if m.rng.IntN(2) == 0 {
		n, ok := m.noun(false, func(n noun) bool { return n.has("small") || n.class == food && n.has("eat") })
		p, ok2 := pick(
			m,
			m.words.places,
			func(p place) string { return p.word },
			func(p place) bool { return mayBe(n, p) && p.preposition != "under" },
		)
		if !ok || !ok2 {
			return "", nil
		}
		what, content := m.phrase(n, false, "the")
		return m.finish(".", "put", what, p.preposition, "the", p.word), append(content, p.word)
	}
	v, ok := pick(
		m,
		m.words.uses,
		func(v verb) string { return v.base },
		func(v verb) bool { return slices.Contains(orders, v.base) },
	)
	n, ok2 := m.noun(false, func(n noun) bool { return overlap(v.what, n.tags) && !n.bare && !n.has("kinship") })
	if !ok || !ok2 {
		return "", nil
	}
	what, content := m.phrase(n, false, "the")
	return m.finish(".", v.base, what), append(content, v.base)
}

// cries: It is a big dog! This is fun!
func (m *maker) cries() (string, []string) {
	n, ok := m.noun(false, func(n noun) bool { return !n.bare && !n.uncounted && n.class != person })
	if !ok {
		return "", nil
	}
	a := m.like(n, 1)
	if a == "" {
		return "", nil
	}
	text := a + " " + n.one
	if m.rng.IntN(3) == 0 {
		return m.finish("!", "look at the", text), []string{a, n.one}
	}
	return m.finish("!", "it is", article("a", text), text), []string{a, n.one}
}
