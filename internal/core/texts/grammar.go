package texts

import (
	_ "embed"
	"slices"
	"strings"
	"sync"
)

//go:embed data/grammar.txt
var grammarText string

// class says how a noun is used in a sentence.
type class byte

const (
	animal class = 'a'
	person class = 'p'
	thing  class = 't'
	food   class = 'f'
)

// noun is a word for somebody or something. Tags say what it can do, what is done with it and where it is.
type noun struct {
	one, many string // many is empty for what is not counted, kin and names
	class     class
	tags      []string
	bare      bool // kin and names: without an article, with a capital
	uncounted bool // the ham, some ham
}

func (n noun) has(tag string) bool { return slices.Contains(n.tags, tag) }

// pronoun is his or her, or empty.
func (n noun) pronoun() string {
	switch {
	case n.class == person && n.has("m"):
		return "his"
	case n.class == person && n.has("f"):
		return "her"
	}
	return ""
}

// place is where something happens or stands: in the shed; or a goal: to the shed.
type place struct {
	preposition, word string
	tags              []string
	the               bool // the mud, not a mud
}

type adjective struct {
	word string
	tags []string
}

// verb with the tags of who does it, and of where or to what.
type verb struct {
	base, she, past string
	who, what       []string
}

// against is two adjectives for the two sides of a "but".
type against struct {
	one, other string
	tags       []string
}

type vocabulary struct {
	nouns      []noun
	places     []place
	goals      []place
	adjectives []adjective
	acts, uses []verb // without and with an object
	opposites  []against
}

var fullVocabulary = sync.OnceValue(func() vocabulary {
	var v vocabulary
	for line := range strings.Lines(grammarText) {
		f := strings.Fields(line)
		if len(f) == 0 {
			continue
		}
		list := func(i int) []string { return strings.Split(f[i], ",") }
		switch f[0] {
		case "animal", "person", "thing", "food":
			n := noun{one: f[1], many: strings.Trim(f[2], "-"), class: class(f[0][0]), tags: f[3:]}
			n.bare = n.has("kin")
			n.uncounted = n.many == "" && !n.bare
			v.nouns = append(v.nouns, n)
		case "name":
			v.nouns = append(v.nouns, noun{one: f[1], class: person, tags: append(f[2:], "name"), bare: true})
		case "place":
			p := place{f[1], f[2], f[3:], false}
			p.the = slices.Contains(p.tags, "the")
			v.places = append(v.places, p)
		case "to":
			v.goals = append(v.goals, place{"to", f[1], f[2:], true})
		case "like":
			v.adjectives = append(v.adjectives, adjective{f[1], f[2:]})
		case "do":
			v.acts = append(v.acts, verb{f[1], f[2], f[3], list(4), list(5)})
		case "take":
			v.uses = append(v.uses, verb{f[1], f[2], f[3], list(4), list(5)})
		case "against":
			v.opposites = append(v.opposites, against{f[1], f[2], f[3:]})
		}
	}
	return v
})

func overlap(a, b []string) bool {
	return slices.ContainsFunc(a, func(t string) bool { return slices.Contains(b, t) })
}

// does tells whether somebody may be the subject of a verb.
func does(n noun, v verb) bool {
	return overlap(v.who, n.tags) || n.class == person && slices.Contains(v.who, "person")
}

// Where a person, an animal, a small thing, food and a vehicle may be.
var (
	personPlaces = []string{
		"home",
		"town",
		"garden",
		"farm",
		"outdoors",
		"inside",
		"canal",
		"ride",
		"home-out",
		"seat",
		"shop",
	}
	noPersons     = []string{"container", "tiny", "nest", "high", "rubbish", "lap", "wild"}
	habitats      = []string{"pet", "farm", "pond", "wood", "sea", "wild", "nest", "lap", "den"}
	smallPlaces   = []string{"container", "top", "soft", "inside", "kitchen", "home"}
	foodPlaces    = []string{"meal", "kitchen"}
	vehiclePlaces = []string{"road", "dock"}
)

// mayBe tells whether a noun may be at a place at all.
func mayBe(n noun, p place) bool {
	switch {
	case n.one == p.word:
		return false
	case n.class == person:
		return overlap(p.tags, personPlaces) && !overlap(p.tags, noPersons)
	case n.class == animal:
		tiny := !slices.Contains(p.tags, "tiny") || n.has("tiny")
		return tiny && slices.ContainsFunc(habitats, func(h string) bool { return n.has(h) && slices.Contains(p.tags, h) })
	case n.has("water"):
		return slices.Contains(p.tags, "water")
	case n.class == food:
		return !n.has("drink") && overlap(p.tags, foodPlaces) && !slices.Contains(p.tags, "rubbish")
	case n.has("small") && (slices.Contains(p.tags, "tiny") && !n.has("tiny") || n.has("kitchen") &&
		!overlap(p.tags, foodPlaces)):
		return false
	case n.has("small"):
		return overlap(p.tags, smallPlaces) && !slices.Contains(p.tags, "rubbish") && p.word != "bath"
	case n.has("ride"):
		return overlap(p.tags, vehiclePlaces)
	}
	return false
}
