// Package knowledge answers what a class knows: which pairs it can read, which exception words, how sure it was of each
// card and when it last met it. Its sources are the log, a declaration, and the team's conventions; everything that
// needs to know asks here.
package knowledge

import (
	"cmp"
	"maps"
	"slices"
	"strings"
	"time"

	"brightchalk/internal/core/card"
	"brightchalk/internal/core/convention"
	"brightchalk/internal/core/lexicon"
	"brightchalk/internal/core/review"
	"brightchalk/internal/core/spelling"
)

// Entry is one meeting of the class with a card.
type Entry struct {
	CardID     string
	Introduced bool
	Sure       review.Sureness
	At         time.Time
}

// Declaration says that the class knows cards and exception words that nobody logged.
type Declaration struct {
	CardIDs []string
	Words   []string
	By      string
	On      time.Time
}

// Sources is all that tells what a class knows. Cards are the team's, in the accent of the question and in the order
// of teaching; those that are Archived are known by classes that met them, but no longer coming. Refused are the
// words that the team refused on any card.
type Sources struct {
	Conventions convention.Conventions
	Cards       []card.Card
	Archived    map[string]bool // card ids
	Log         []Entry         // the oldest first
	Seen        []review.Seen   // what a log came to, where its entries are not at hand
	Declared    []Declaration
	Refused     []string
	Memory      review.Memory // how the team's classes forget; the zero value is the usual
}

// Known is a card that the class has met.
type Known struct {
	Card     card.Card
	Seen     review.Seen
	Declared bool // by a declaration only
	Readable bool // false: met, and not yet known
}

// Class is what a class knows.
type Class struct {
	Met        []Known // in the order in which they were met
	Pairs      spelling.Set
	Exceptions map[string]bool       // small letters
	Coming     map[string]int        // exception words not met yet, with their step
	Steps      map[spelling.Pair]int // of the team's order
	Refused    map[string]bool
	Next       string // card id of the first of the order that was not met; empty where all were
}

// Of reads the sources. A card is met by its first entry that introduced it, or by a declaration; it is readable unless
// the class did not know it yet when it was last met.
func Of(s Sources) Class {
	c := Class{
		Pairs: spelling.Set{}, Exceptions: map[string]bool{}, Coming: map[string]int{},
		Steps: map[spelling.Pair]int{}, Refused: map[string]bool{},
	}
	for _, w := range s.Refused {
		c.Refused[w] = true
	}
	c.Met = met(s)
	taught := spelling.Set{}
	for _, k := range c.Met {
		if k.Readable {
			taught[k.Card.Pair] = true
		}
	}
	c.Pairs = s.Conventions.Known(taught)
	c.words(s)
	return c
}

func met(s Sources) []Known {
	seen := map[string]review.Seen{}
	since := map[string]time.Time{}
	declared := map[string]bool{}
	for _, d := range s.Declared {
		for _, id := range d.CardIDs {
			since[id], declared[id] = d.On, true
			seen[id] = review.Seen{CardID: id, Last: d.On, Sure: review.Sure, Memory: s.Memory}
		}
	}
	logged := map[string]bool{}
	for _, k := range s.Seen {
		seen[k.CardID], since[k.CardID], logged[k.CardID] = k, k.Last, true
	}
	for _, e := range s.Log {
		before := seen[e.CardID]
		before.CardID, before.Memory = e.CardID, s.Memory
		if declared[e.CardID] && e.At.Before(since[e.CardID]) && e.Sure == review.NotYet {
			continue // what was said later stands
		}
		seen[e.CardID] = review.Update(before, e.At, e.Sure)
		if e.Introduced {
			logged[e.CardID] = true
		}
		if at, ok := since[e.CardID]; e.Introduced && (!ok || e.At.Before(at)) {
			since[e.CardID] = e.At
		}
	}
	var out []Known
	for _, c := range s.Cards {
		if !logged[c.ID] && !declared[c.ID] {
			continue
		}
		k := Known{Card: c, Seen: seen[c.ID], Declared: !logged[c.ID]}
		k.Readable = k.Seen.Sure != review.NotYet
		out = append(out, k)
	}
	slices.SortStableFunc(out, func(a, b Known) int {
		return cmp.Or(since[a.Card.ID].Compare(since[b.Card.ID]), cmp.Compare(a.Card.Step, b.Card.Step))
	})
	return out
}

// words sorts the exception words of the cards, and finds the next card of the order.
func (c *Class) words(s Sources) {
	known := map[string]bool{}
	for _, k := range c.Met {
		known[k.Card.ID] = true
	}
	for _, d := range s.Declared {
		for _, w := range d.Words {
			c.Exceptions[strings.ToLower(w)] = true
		}
	}
	ordered := slices.Clone(s.Cards)
	slices.SortStableFunc(ordered, func(a, b card.Card) int { return cmp.Compare(a.Step, b.Step) })
	for _, k := range ordered {
		there := !s.Archived[k.ID]
		if there {
			c.Steps[k.Pair] = k.Step
		}
		if there && c.Next == "" && !known[k.ID] {
			c.Next = k.ID
		}
		for _, w := range k.Exceptions {
			w = strings.ToLower(w)
			step, coming := c.Coming[w]
			switch {
			case known[k.ID]:
				c.Exceptions[w] = true
			case there && (!coming || k.Step < step):
				c.Coming[w] = k.Step
			}
		}
	}
	maps.DeleteFunc(c.Coming, func(w string, _ int) bool { return c.Exceptions[w] })
}

// With is what the class knows when the cards have been taught: their pairs are readable, and the exception words that
// come with them known.
func (c Class) With(conv convention.Conventions, cards ...card.Card) Class {
	out := c
	out.Pairs, out.Exceptions = maps.Clone(c.Pairs), maps.Clone(c.Exceptions)
	for _, k := range cards {
		out.Pairs[k.Pair] = true
		for _, w := range k.Exceptions {
			out.Exceptions[strings.ToLower(w)] = true
		}
	}
	out.Pairs = conv.Known(out.Pairs)
	return out
}

// Log are the meetings of the cards but for those named, for the choice of what comes back.
func (c Class) Log(but ...string) []review.Seen {
	var out []review.Seen
	for _, k := range c.Met {
		if !slices.Contains(but, k.Card.ID) {
			out = append(out, k.Seen)
		}
	}
	return out
}

// Due are up to n cards that the class is not sure of, the shakiest first.
func (c Class) Due(n int) []Known {
	var out []Known
	for _, k := range c.Met {
		if k.Seen.Sure <= review.Shaky {
			out = append(out, k)
		}
	}
	slices.SortStableFunc(out, func(a, b Known) int {
		return cmp.Or(cmp.Compare(a.Seen.Sure, b.Seen.Sure), a.Seen.Last.Compare(b.Seen.Last))
	})
	return out[:min(n, len(out))]
}

// Find is a card that the class has met.
func (c Class) Find(cardID string) (Known, bool) {
	i := slices.IndexFunc(c.Met, func(k Known) bool { return k.Card.ID == cardID })
	if i < 0 {
		return Known{}, false
	}
	return c.Met[i], true
}

// Reads tells whether every reading of a word is covered by what is known.
func (c Class) Reads(seg lexicon.Segmented) bool {
	return c.Pairs.Covers(seg.Segments) &&
		!slices.ContainsFunc(seg.Alternatives, func(r lexicon.Reading) bool { return !c.Pairs.Covers(r.Segments) })
}

// Bridges is for whom words are cut: a target may be nil.
func (c Class) Bridges(targets ...spelling.Pair) spelling.Bridging {
	return spelling.Bridging{Targets: targets, Taught: c.Pairs}
}
