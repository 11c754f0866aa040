package main

import (
	"cmp"
	"maps"
	"slices"
	"strings"
)

// rate says how well a child of four to seven knows each word: 5 and 4 from the early list and the picture names,
// 4 to 2 from lists for young readers and from use, read through by hand (tools/lexicon/older.txt takes words down).
// A form comes after its stem.
func (b *builder) rate() {
	for _, w := range b.words {
		e := b.src.early[w.letters]
		w.kind, w.side = e.kind, e.side
		if w.side == "" {
			w.side = b.src.sides[w.letters]
		}
		w.band = b.band(w.letters)
	}
	shortFirst := slices.SortedFunc(maps.Values(b.words), func(x, y *word) int { // so that a stem comes before its forms
		return cmp.Or(cmp.Compare(len(x.letters), len(y.letters)), cmp.Compare(x.letters, y.letters))
	})
	for _, w := range shortFirst { // a stem outside the lists is known where its forms are, not the other way round
		stem := b.words[w.stem]
		if stem == nil || b.src.early[w.letters].kind != "" || b.src.seldom[w.letters] || b.src.older[w.letters] {
			continue
		}
		of := b.band(stem.letters)
		switch {
		case strings.HasSuffix(w.letters, "ed") && b.src.isVerb[stem.letters]: // teared
			w.band = 0
		case stem.kind == "O" || b.src.met[w.letters] < leastMet(stem.kind, w.ending.Letters):
			w.band = min(w.band, 1) // anythings, purpler
		case w.ending.Inflects:
			w.band = max(of-1, min(w.band, of))
		case strings.Contains("y er est ly ful", w.ending.Letters) && of == 5:
			w.band = max(min(w.band, 4), 3)
		}
		if w.side == "" {
			w.side = stem.side
		}
	}
}

// leastMet is how often a form must be met in film subtitles to be offered: the forms that a thing, a doing or a
// describing word has by nature hardly at all, others often.
func leastMet(kind, ending string) int {
	natural := map[string]string{
		"s":    "TD",
		"es":   "TD",
		"ies":  "TD",
		"ed":   "D",
		"ied":  "D",
		"ing":  "D",
		"er":   "LD",
		"est":  "L",
		"ier":  "L",
		"iest": "L",
	}
	switch {
	case strings.ContainsAny(kind, natural[ending]) && strings.HasPrefix(natural[ending], "L"):
		return 15
	case strings.ContainsAny(kind, natural[ending]):
		return 0
	case kind == "T" && natural[ending] == "D": // pegged, wigged
		return 1000
	case kind == "" && natural[ending] != "" && !strings.HasPrefix(natural[ending], "L"):
		return 20
	}
	return 100
}

func (b *builder) band(w string) int {
	s := b.src
	n := s.subtlex[w]
	if s.seldom[w] {
		return 2
	}
	if e := s.early[w]; e.kind != "" {
		return e.band
	}
	if s.pictures[w] {
		return 5
	}
	if s.older[w] {
		return 1
	}
	switch {
	case s.spache[w] && n >= 400:
		return 4
	case s.spache[w], s.dale[w] && n >= 800, s.everyday[w]:
		return 3
	case s.dale[w] && n >= 100, n >= 2500 && s.scowl[w] > 0:
		return 2
	case s.dale[w], n >= 200:
		return 1
	}
	return 0
}
