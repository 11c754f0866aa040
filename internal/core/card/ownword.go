package card

import (
	"brightchalk/internal/core/lexicon"
	"brightchalk/internal/core/phoneme"
)

// OwnWord is a word of the team's own: of the school, the place, a character of its stories.
type OwnWord struct {
	Word   string `json:"word" maxLength:"24" doc:"as it is written: a name with its capital"`
	Sounds string `json:"sounds" maxLength:"60" doc:"in the team's accent, one after the other"`
	Name   bool   `json:"name,omitempty" doc:"a name: read by the adult until its sounds are taught, and not offered as a word"`
	Note   string `json:"note,omitempty" maxLength:"200" doc:"who or what it is"`
	Part   Part   `json:"part,omitempty" required:"false" enum:",slips,sounds" doc:"of a character in lessons"`
}

// Part is what a character of the team's does in lessons.
type Part string

// Parts of characters.
const (
	Slips  Part = "slips"  // says the usual slip, and the class helps
	Sounds Part = "sounds" // talks in sounds only, and the class says the word
)

// Character is the name of who has a part, empty where nobody has.
func (c Conventions) Character(p Part) string {
	for _, w := range c.Words {
		if w.Name && w.Part == p {
			return w.Word
		}
	}
	return ""
}

// Spoken is the word as the lexicon takes it; the error says what is wrong with its sounds.
func (w OwnWord) Spoken(a phoneme.Accent) (lexicon.OwnWord, error) {
	sounds, err := phoneme.Parse(a, w.Sounds)
	return lexicon.OwnWord{Word: w.Word, Sounds: sounds, Name: w.Name}, err
}
