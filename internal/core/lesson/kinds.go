package lesson

// Kind of a step.
type Kind string

// Kinds of steps; the names are those of the command-line contract.
const (
	WarmUp     Kind = "warm-up"
	Pack       Kind = "pack"
	Listen     Kind = "listen"
	Mouth      Kind = "mouth"
	Ear        Kind = "ear"
	Picture    Kind = "picture"
	Letter     Kind = "letter"
	Turnover   Kind = "turnover"
	Hand       Kind = "hand"
	MixIn      Kind = "mix-in"
	HearFind   Kind = "hear-find"
	QuickWrite Kind = "quick-write"
	Blend      Kind = "blend"
	Read       Kind = "read"
	Spell      Kind = "spell"
	MadeUp     Kind = "made-up"
	Exceptions Kind = "exceptions"
	Older      Kind = "older"
	Contrast   Kind = "contrast"
	Capitals   Kind = "capitals"
	LetterHunt Kind = "letter-hunt"
	Look       Kind = "look"
	WordPlay   Kind = "word-play"
	Song       Kind = "song"
	Story      Kind = "story"
	Meaning    Kind = "meaning"
	Sentence   Kind = "sentence"
	Page       Kind = "page"
	Challenge  Kind = "challenge"
	Free       Kind = "free"
	ClosePart  Kind = "close"
)

// Family groups steps by what works in them; the screens give each family a shape.
type Family string

// Families of steps.
const (
	EarFamily   Family = "ear"
	MouthFamily Family = "mouth"
	EyeFamily   Family = "eye"
	HandFamily  Family = "hand"
	WordFamily  Family = "word"
	PageFamily  Family = "page"
)

// Purpose is what a lesson is for.
type Purpose string

// Purposes.
const (
	Introduce Purpose = "introduce" // what is new
	Again     Purpose = "again"     // yesterday's sound, known: it is not logged as new
	Revise    Purpose = "revise"    // no new one: the shakiest, or those that are ticked
	Compare   Purpose = "compare"   // what is mixed up, or sounds alike, or is spelled alike
	CatchUp   Purpose = "catch-up"  // a small group, a few minutes
)

// PurposeKind describes a purpose for people, with how many targets it takes.
type PurposeKind struct {
	Purpose    Purpose `json:"purpose" enum:"introduce,again,revise,compare,catch-up"`
	Name       string  `json:"name"`
	About      string  `json:"about"`
	MinTargets int     `json:"least_targets" doc:"0: they are chosen by need where none is named"`
	MaxTargets int     `json:"most_targets"`
	Minutes    int     `json:"minutes" doc:"usual"`
}

var purposes = []PurposeKind{
	{Introduce, "introduce", "What is new: one sound, a few letters in one go, or all sounds of one spelling.", 1, 4, 20},
	{Again, "again", "Yesterday's sound once more. It is known: nothing is logged as new.", 1, 4, 15},
	{Revise, "revise", "Nothing new: what the class is least sure of, or what you tick.", 0, 12, 20},
	{Compare, "compare", "Two that get mixed up: two spellings, two sounds of one spelling, two sounds.", 2, 4, 20},
	{CatchUp, "catch up", "A few minutes for a group: few words, heard, read, spelled.", 0, 4, 8},
}

// Purposes lists the purposes in the order in which they are offered.
func Purposes() []PurposeKind { return append([]PurposeKind{}, purposes...) }

// FindPurpose finds a purpose.
func FindPurpose(p Purpose) (PurposeKind, bool) {
	for _, k := range purposes {
		if k.Purpose == p {
			return k, true
		}
	}
	return PurposeKind{}, false
}

// Bounds of a lesson in minutes.
const (
	MinMinutes = 4
	MaxMinutes = 60
)
