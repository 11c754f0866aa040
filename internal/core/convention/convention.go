// Package convention holds what a team agrees once and every core function that depends on it takes as a parameter:
// accent, units, lines, what the class says. A caller mostly asks for the speech:
//
//	speech := conv.Speech()
package convention

import (
	"strings"

	"brightchalk/internal/core/accord"
	"brightchalk/internal/core/document"
	"brightchalk/internal/core/lexicon"
	"brightchalk/internal/core/phoneme"
	"brightchalk/internal/core/spelling"
	"brightchalk/internal/core/strokes"
)

// Conventions are what a team decides once.
type Conventions struct {
	Accent       phoneme.Accent `json:"accent" enum:"southern-british,northern-english,northern-english-strut,general-american"`
	Units        spelling.Units `json:"units"`
	LetterNames  bool           `json:"letter_names"`   // said beside the sound from day one
	Capitals     bool           `json:"capitals"`       // shown with the small letter
	GroupsFirst  bool           `json:"groups_first"`   // look for letter groups before sounding out
	WholeByHeart bool           `json:"whole_by_sight"` // exception words as wholes; otherwise the odd part is marked
	Paper        string         `json:"paper" enum:"A4,Letter"`
	Departures   []Departure    `json:"departures,omitempty" maxItems:"200"`
	DoublesApart bool           `json:"doubles_apart,omitempty"` // a doubled letter is known by its own card only
	// single words of refused themes that the team allows
	Allowed []string `json:"allowed,omitempty" maxItems:"100"`
	// words and names of its own, with how they are said
	Words []OwnWord     `json:"words,omitempty" required:"false" maxItems:"400"`
	Lines strokes.Lines `json:"lines,omitzero" required:"false"`
	// words on the board in the team's own strokes, not in the font
	WrittenWords bool `json:"written_words,omitempty" required:"false"`
	// for the Hand step; empty: all of step.Materials
	Materials []string `json:"materials,omitempty" maxItems:"20"`
	// the first of them every day; else another each day
	OneMaterial bool `json:"one_material,omitempty"`
	Says        Says `json:"says,omitzero" required:"false"`
	// w and y are said short; else stretched, as their phonetics allow
	GlidesShort bool `json:"glides_short,omitempty" required:"false"`
	// spellings of which all sounds are taught and answered at once, in the order of their steps
	Together    []string `json:"together,omitempty" maxItems:"40" required:"false"`
	GlideReason string   `json:"glide_reason,omitempty" maxLength:"200" required:"false"`
	// who agrees a card; empty: a lead
	Agreeing accord.Rule `json:"agreeing,omitempty" enum:",lead,two" required:"false"`
}

// Says is what the team says and does in its own way; what is empty is as we say it.
type Says struct {
	Answer       Answer     `json:"answer,omitempty" required:"false" enum:",sound,keyword,name,action" doc:"to a card"`
	Writing      Writing    `json:"writing,omitempty" required:"false" enum:",strokes,sound,both" doc:"while writing"`
	Voices       []string   `json:"voices,omitempty" required:"false" maxItems:"8" doc:"in which the class echoes a sound"`
	Mistake      string     `json:"mistake,omitempty" required:"false" maxLength:"200" doc:"when a word is written wrong"`
	Checks       string     `json:"checks,omitempty" required:"false" maxLength:"200" doc:"of a written sentence"`
	Posture      string     `json:"posture,omitempty" required:"false" maxLength:"200" doc:"before writing"`
	Gesture      string     `json:"gesture,omitempty" required:"false" maxLength:"200" doc:"for the sounds of a word"`
	Signs        Signs      `json:"signs,omitzero" required:"false" doc:"for who speaks"`
	OneSideFirst bool       `json:"one_side_first,omitempty" required:"false" doc:"in the pack"`
	PickAnswers  bool       `json:"pick_answers,omitempty" required:"false" doc:"questions with three answers to pick from"`
	GuessTitle   bool       `json:"guess_title,omitempty" required:"false" doc:"of a page, before it is read"`
	Materials    []Material `json:"materials,omitempty" required:"false" maxItems:"12" doc:"the team's own"`
}

// Signs are what the adult does to show who speaks; what is empty is as we do it.
type Signs struct {
	Adult    string `json:"adult,omitempty" required:"false" maxLength:"100"`
	Both     string `json:"both,omitempty" required:"false" maxLength:"100"`
	Class    string `json:"class,omitempty" required:"false" maxLength:"100"`
	Silently string `json:"silently,omitempty" required:"false" maxLength:"100"`
}

// Answer is what a class says when it sees the letter side of a card.
type Answer string

// Answers to a card.
const (
	AnswerSound   Answer = "sound"
	AnswerKeyword Answer = "keyword" // keyword and sound
	AnswerName    Answer = "name"    // letter name, keyword, sound
	AnswerAction  Answer = "action"  // the sound with the action
)

// Writing is what is said while a letter is written.
type Writing string

// What is said while writing.
const (
	SayStrokes Writing = "strokes"
	SaySound   Writing = "sound"
	SayBoth    Writing = "both"
)

// Material is something to write with or in, with what to watch for.
type Material struct {
	Name    string `json:"name" maxLength:"60"`
	Caution string `json:"caution" maxLength:"200"`
}

// Departure is a word that the team says in another accent than its own, with the reason.
type Departure struct {
	Word   string         `json:"word" maxLength:"24"`
	Accent phoneme.Accent `json:"accent" enum:"southern-british,northern-english,northern-english-strut,general-american"`
	Note   string         `json:"note" maxLength:"200"`
}

// Speech is how the team speaks and cuts words.
func (c Conventions) Speech() lexicon.Speech {
	s := lexicon.Speech{Accent: c.Accent, Units: c.Units}
	for _, d := range c.Departures {
		if s.Depart == nil {
			s.Depart = map[string]phoneme.Accent{}
		}
		s.Depart[d.Word] = d.Accent
	}
	for _, w := range c.Allowed {
		if s.Allow == nil {
			s.Allow = map[string]bool{}
		}
		s.Allow[w] = true
	}
	for _, w := range c.Words {
		if s.Words == nil {
			s.Words = map[string]lexicon.OwnWord{}
		}
		if spoken, err := w.Spoken(c.Accent); err == nil { // of another accent, if the team has changed its own
			s.Words[strings.ToLower(w.Word)] = spoken
		}
	}
	return s
}

// Known is what a class can read that has been taught the pairs: with the doubled letters of single ones, unless the
// team teaches those apart.
func (c Conventions) Known(taught spelling.Set) spelling.Set {
	if c.DoublesApart {
		return taught
	}
	return taught.WithDoubles(c.Accent)
}

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

// Documents reads and writes the stored conventions of teams.
var Documents = document.Kind[Conventions]{Name: "conventions"}
