package texts

import (
	_ "embed"
	"slices"
	"strings"
	"sync"

	"brightchalk/internal/core/lexicon"
	"brightchalk/internal/core/prose"
)

// Words by which somebody comes to have a thing; the plainest sentences are made with them.
var having = []string{"had", "got", "has", "met"}

// ofThings are the themes whose things somebody may have: no night, no nose.
var ofThings = []string{
	"clothes", "farm-and-pets", "food", "garden-and-wood", "home", "school", "toys-and-games", "vehicles", "wild",
}

// alive are the themes of whom somebody may meet.
var alive = []string{"farm-and-pets", "people", "wild"}

// maxNames is how many names the plainest sentences are made with.
const maxNames = 3

// seen are sentences that hold for any thing.
func (m *maker) seen(w, a string, add func(mark string, parts ...string)) {
	for _, begin := range []string{"it is", "I can see", "I see"} {
		switch count := counts()[w]; {
		case count == "some" && begin == "it is":
			add(".", begin, w)
		case count == "many" && begin == "it is":
		case count != "" || a == "the":
			add(".", begin, "the", w)
		default:
			add(".", begin, a, w)
			add(".", begin, "the", w)
		}
	}
	add(".", "look at the", w)
}

//go:embed data/counted.txt
var countedText string

// counts are the things of which nobody says "a": many (feet), some (rain), only (the moon).
var counts = sync.OnceValue(func() map[string]string {
	out := map[string]string{}
	for line := range strings.Lines(countedText) {
		if f := strings.Fields(line); len(f) > 0 && f[0] != "#" {
			for _, w := range f[1:] {
				out[w] = f[0]
			}
		}
	}
	return out
})

// had are sentences about a thing that somebody may have.
func (m *maker) had(e *lexicon.Entry, names []string, add func(mark string, parts ...string)) {
	w := e.Word
	a := article("a", w)
	if slices.Contains(e.Themes(), "food") || counts()[w] != "" { // the ham, not a ham
		a = "the"
	}
	for _, n := range names {
		for _, v := range having {
			if v == "met" && !overlap(e.Themes(), alive) { // nobody meets a soap
				continue
			}
			add(".", n, v, a, w)
		}
	}
	for _, v := range []string{"get", "tap", "pat"} {
		add(".", v, "the", w)
		if a != "the" {
			add(".", v, a, w)
		}
	}
	m.seen(w, a, add)
}

// personDoes tells whether the grammar has the verb, and people do it.
func (m *maker) personDoes(w string) bool {
	return slices.ContainsFunc(fullVocabulary().acts, func(v verb) bool {
		return v.base == w && slices.Contains(v.who, "person")
	})
}

// Plain are the plainest sentences about single words, for words of which the grammar has no sense: somebody had it,
// can do it, it is so. Every word of them can be read.
func (k *Maker) Plain(words []string) []string {
	m := k.m
	var names []string
	for _, n := range m.words.nouns {
		if n.bare && n.one != "" && len(names) < maxNames {
			names = append(names, n.one)
		}
	}
	var out []string
	add := func(mark string, parts ...string) {
		if text := m.finish(mark, parts...); text != "" {
			out = append(out, text)
		}
	}
	for _, w := range words {
		e, ok := lexicon.Find(w)
		if !ok || e.Inflected() {
			continue
		}
		switch {
		case strings.Contains(e.Kinds, "T") && lexicon.Pictured(w) && overlap(e.Themes(), ofThings):
			m.had(e, names, add)
		case strings.Contains(e.Kinds, "T"):
			m.seen(w, article("a", w), add)
		case strings.Contains(e.Kinds, "D") && m.personDoes(w):
			for _, n := range names {
				add(".", n, "can", w)
				if m.can(w) && m.can(n) {
					out = append(out, prose.Capital(w)+", "+n+".")
				}
			}
			add(".", "I can", w)
		case strings.Contains(e.Kinds, "L"):
			add(".", "it is", w)
		}
	}
	return out
}
