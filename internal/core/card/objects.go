package card

import (
	"slices"
	"strings"

	"brightchalk/internal/core/lexicon"
)

// objectCare is what to watch for with things of a kind. Common practice, no published source; a school's own rules
// come first.
type objectCare struct {
	caution string
	things  []string
}

var objectCares = []objectCare{
	{
		"Small things stay in the adult’s hand, or are too large to swallow; nothing in mouths, noses or ears; count them " +
			"back in.",
		[]string{
			"acorn", "bead", "bean", "bell", "berry", "bolt", "brick", "button", "cap", "clip", "coin", "conker", "cork",
			"cube", "dice", "die", "eraser", "gem", "lid", "marble", "nail", "nut", "pea", "peg", "penny", "pebble", "pin",
			"pip", "ring", "rubber", "screw", "seed", "shell", "stone", "sweet", "tack", "thimble", "tooth", "zip",
		},
	},
	{
		"Food and what grows: check allergies first; no tasting.",
		[]string{
			"apple", "banana", "bean", "bread", "bun", "butter", "cheese", "cherry", "chocolate", "egg", "fig", "fish", "flour",
			"grape", "honey", "jam", "jelly", "kiwi", "lemon", "milk", "mushroom", "nut", "oats", "orange", "pasta", "pea",
			"peach", "peanut", "pear", "peas", "plum", "rice", "seed", "sesame", "strawberry", "sugar", "walnut", "yoghurt",
		},
	},
	{
		"Fur, feathers, wool and rubber: check allergies and skin first.",
		[]string{"balloon", "feather", "fleece", "fur", "glove", "hay", "straw", "wool", "yarn"},
	},
	{
		"Sharp: only the adult holds it.",
		[]string{
			"axe",
			"fork",
			"hook",
			"knife",
			"nail",
			"needle",
			"pin",
			"razor",
			"saw",
			"scissors",
			"screw",
			"skewer",
			"tack",
			"thorn",
		},
	},
	{"It breaks: only the adult holds it.", []string{"bottle", "bulb", "glass", "jar", "lamp", "mirror", "plate", "vase"}},
	{
		"No loose button cells or strong magnets near children: swallowed, they harm within hours. Is the case shut?",
		[]string{"battery", "magnet", "torch", "watch"},
	},
	{
		"Nothing goes round a neck.",
		[]string{"chain", "cord", "lace", "necklace", "ribbon", "rope", "scarf", "string", "tie"},
	},
}

// ObjectCautions are what to watch for with the things of a tray, each once.
func ObjectCautions(things []string) (out []string) {
	for _, care := range objectCares {
		if slices.ContainsFunc(things, func(t string) bool { return slices.ContainsFunc(thingWords(t), care.holds) }) {
			out = append(out, care.caution)
		}
	}
	return out
}

func (c objectCare) holds(word string) bool {
	return slices.Contains(c.things, word) || slices.Contains(c.things, strings.TrimSuffix(word, "s")) ||
		slices.Contains(c.things, strings.TrimSuffix(word, "es"))
}

func thingWords(thing string) []string {
	return strings.FieldsFunc(strings.ToLower(thing), func(r rune) bool { return r == ' ' || r == '-' || r == ',' })
}

// ThingNames are the words of a thing that children name: bus of "a red bus", chess and piece of "a chess piece". What
// only says how a thing looks is left out.
func ThingNames(thing string) (out []string) {
	words := thingWords(thing)
	for i, w := range words {
		if e, ok := lexicon.Find(w); i == len(words)-1 || ok && e.Thing() {
			out = append(out, w)
		}
	}
	return out
}
