package convention

import "strings"

// SettingKind is how a setting is chosen.
type SettingKind string

// Kinds of settings.
const (
	Switch SettingKind = "switch" // on, or as Otherwise says
	Choice SettingKind = "choice" // one of Choices
	Words  SettingKind = "words"  // the team's wording; empty is as Otherwise says
	List   SettingKind = "list"   // several words, with a comma between them
)

// Option is one value of a choice.
type Option struct {
	Value string `json:"value"`
	Label string `json:"label"`
}

// Setting describes one convention that is a switch, a choice or a wording. The form, the page "What we agreed" and the
// documents are drawn from Settings; what is more than one value (accent, lines, materials, words) has a form of its
// own.
type Setting struct {
	Key       string      `json:"key"`       // its path in JSON, such as says.signs.adult
	Group     string      `json:"group"`     // heading of the form
	Label     string      `json:"label"`     // what it is about
	Otherwise string      `json:"otherwise"` // what holds if it is off or empty
	Kind      SettingKind `json:"kind"`
	Choices   []Option    `json:"choices"`
	Default   string      `json:"default"`    // the choice that holds if none is stored
	MaxLength int         `json:"max_length"` // characters of a wording, or of the words of a list together
	Effect    string      `json:"effect"`     // where it shows
	Needs     string      `json:"needs"`      // key of a switch without which it is not asked
}

// What the adult says and does where the team has written nothing (common practice, no published source).
const (
	DefaultMistake = "say the sound again, cross it out, write it beside"
	DefaultChecks  = "capital, spaces, stop, letter groups"
)

// DefaultVoices and DefaultSigns hold where the team has none of its own (common practice, no published source). The
// last voice needs a sound that can be held.
var (
	DefaultVoices = []string{"in a whisper", "low", "high", "on one long breath"}
	DefaultSigns  = Signs{
		Adult: "hand on your chest", Both: "arms open wide", Class: "an open hand towards them",
		Silently: "a finger on closed lips, then open it",
	}
)

// Groups of settings.
const (
	forTeam   = "For the whole team"
	inLessons = "In lessons"
	oneUnit   = "What counts as one unit"
	howSaid   = "How we say it"
)

// Settings lists the settings in the order of the form.
var Settings = []Setting{
	{
		Key: "paper", Group: forTeam, Label: "Paper", Kind: Choice, Effect: "everything that is printed",
		Choices: []Option{{"A4", "A4"}, {"Letter", "Letter"}}, Default: "A4",
	},
	{
		Key: "agreeing", Group: forTeam, Label: "Who agrees a card", Kind: Choice, Effect: "reviews",
		Choices: []Option{{"lead", "a lead"}, {"two", "two who write, whoever they are"}}, Default: "lead",
	},
	{
		Key: "letter_names", Group: inLessons, Label: "Letter names from day one", Otherwise: "only the sound is said",
		Kind: Switch, Effect: "the step that writes the letter",
	},
	{
		Key: "capitals", Group: inLessons, Label: "Capitals with the small letter", Otherwise: "as a set later",
		Kind: Switch, Effect: "the step that writes the letter, and its card",
	},
	{
		Key: "groups_first", Group: inLessons, Label: "Look for letter groups first",
		Otherwise: "sound out from left to right", Kind: Switch, Effect: "what is said before reading",
	},
	{
		Key: "doubles_apart", Group: inLessons, Label: "Doubled letters have cards of their own",
		Otherwise: "a class that knows b reads rabbit", Kind: Switch, Effect: "which words a class can read",
	},
	{
		Key: "written_words", Group: inLessons, Label: "Words on the board in the team’s own strokes",
		Otherwise: "in the font; never both in one word", Kind: Switch, Effect: "the board",
	},
	{
		Key: "whole_by_sight", Group: inLessons, Label: "Exception words as wholes",
		Otherwise: "the odd part is marked", Kind: Switch, Effect: "the step with exception words",
	},
	{
		Key:       "units.qu_two",
		Group:     oneUnit,
		Label:     "q and u are two units",
		Otherwise: "qu is one",
		Kind:      Switch,
		Effect:    "bridges",
	},
	{
		Key:       "units.nk_one",
		Group:     oneUnit,
		Label:     "nk is one unit",
		Otherwise: "n and k are two",
		Kind:      Switch,
		Effect:    "bridges",
	},
	{
		Key: "units.doubles_two", Group: oneUnit, Label: "Double letters are two units", Otherwise: "they are one",
		Kind: Switch, Effect: "bridges",
	},
	{
		Key:       "units.x_one",
		Group:     oneUnit,
		Label:     "x counts as one sound",
		Otherwise: "as two",
		Kind:      Switch,
		Effect:    "counting sounds",
	},
	{
		Key: "units.yoo_two", Group: oneUnit, Label: "The yoo of mule counts as two sounds", Otherwise: "as one",
		Kind: Switch, Effect: "counting sounds",
	},
	{
		Key: "says.answer", Group: howSaid, Label: "What the class answers to a card", Kind: Choice, Effect: "every drill",
		Choices: []Option{
			{"sound", "the sound"},
			{"keyword", "keyword and sound"},
			{"name", "letter name, keyword, sound"},
			{"action", "the sound with its action"},
		}, Default: "sound",
	},
	{
		Key: "says.writing", Group: howSaid, Label: "What is said while a letter is written", Kind: Choice,
		Effect: "writing steps",
		Choices: []Option{
			{"strokes", "the strokes"}, {"sound", "the sound"}, {"both", "the strokes, then the sound"},
		}, Default: "strokes",
	},
	{
		Key: "says.voices", Group: howSaid, Label: "Voices in which a sound is echoed", Kind: List, MaxLength: 200,
		Otherwise: strings.Join(DefaultVoices, ", "), Effect: "the step that listens to the sound",
	},
	{
		Key: "says.posture", Group: howSaid, Label: "Before writing", Kind: Words, MaxLength: 200,
		Otherwise: "nothing is said", Effect: "writing steps",
	},
	{
		Key: "says.mistake", Group: howSaid, Label: "When something is written wrong", Kind: Words, MaxLength: 200,
		Otherwise: DefaultMistake, Effect: "spelling",
	},
	{
		Key: "says.checks", Group: howSaid, Label: "Checks of a sentence", Kind: Words, MaxLength: 200,
		Otherwise: DefaultChecks, Effect: "writing a sentence",
	},
	{
		Key: "says.gesture", Group: howSaid, Label: "A gesture for the sounds of a word", Kind: Words, MaxLength: 200,
		Otherwise: "none", Effect: "blending and spelling",
	},
	{
		Key: "says.signs.adult", Group: howSaid, Label: "Sign: I speak", Kind: Words, MaxLength: 100,
		Otherwise: DefaultSigns.Adult, Effect: "drills in turns",
	},
	{
		Key: "says.signs.both", Group: howSaid, Label: "Sign: all together", Kind: Words, MaxLength: 100,
		Otherwise: DefaultSigns.Both, Effect: "drills in turns",
	},
	{
		Key: "says.signs.class", Group: howSaid, Label: "Sign: the class speaks", Kind: Words, MaxLength: 100,
		Otherwise: DefaultSigns.Class, Effect: "drills in turns",
	},
	{
		Key: "says.signs.silently", Group: howSaid, Label: "Sign: silently, then aloud", Kind: Words, MaxLength: 100,
		Otherwise: DefaultSigns.Silently, Effect: "drills in turns",
	},
	{
		Key: "says.one_side_first", Group: howSaid, Label: "The pack shows all pictures first, then all letters",
		Otherwise: "both sides of each card by turns", Kind: Switch, Effect: "the pack",
	},
	{
		Key: "says.guess_title", Group: howSaid, Label: "The title of a page is guessed first",
		Otherwise: "it is read like the rest", Kind: Switch, Effect: "reading a page",
	},
	{
		Key: "says.pick_answers", Group: howSaid, Label: "Questions have three answers to pick from",
		Otherwise: "they are answered in own words", Kind: Switch, Effect: "questions about a page",
	},
	{
		Key: "glides_short", Group: howSaid, Label: "w and y are said short", Otherwise: "stretched gently", Kind: Switch,
		Effect: "how sounds are said",
	},
	{
		Key: "glide_reason", Group: howSaid, Label: "Why they are said short", Kind: Words, MaxLength: 200,
		Needs: "glides_short", Effect: "this page",
	},
}
