// Package lesson holds what a lesson is: its purpose, the team's routine for it, and the kept document with every
// step, word, reason and second, which screens and prints read and which later edits of cards do not change.
package lesson

import (
	"fmt"
	"strings"
	"time"

	"brightchalk/internal/core/card"
	"brightchalk/internal/core/phoneme"
	"brightchalk/internal/core/spelling"
	"brightchalk/internal/core/strokes"
)

// Origin tells where an item came from.
type Origin string

// Origins of items.
const (
	FromCard    Origin = "card"    // the team's card
	FromBank    Origin = "bank"    // the team's sentences and pages
	FromFinder  Origin = "finder"  // the words that the class can read, best first
	FromLog     Origin = "log"     // what the class met and how sure it was
	FromPicture Origin = "picture" // the pictures whose names have or lack the sound
	FromTeam    Origin = "team"    // the team's materials and words
	MadeByRule  Origin = "made"    // to be read by the adult first
	SentByYou   Origin = "sent"    // put there by hand
)

// Basket is where an item of an ear game or a contrast belongs.
type Basket string

// Baskets: of the sorting game, and of first or last.
const (
	Has    Basket = "has"
	HasNot Basket = "has-not"
	First  Basket = "first"
	Last   Basket = "last"
)

// Quarter tells whether the picture belongs to the game of four quarters.
func (b Basket) Quarter() bool { return b == First || b == Last }

// ItemKind says what an item is.
type ItemKind string

// Kinds of items.
const (
	WordItem     ItemKind = "word"
	PictureItem  ItemKind = "picture"
	CardItem     ItemKind = "card"
	SentenceItem ItemKind = "sentence"
	PageItem     ItemKind = "page"
	QuestionItem ItemKind = "question"
	MaterialItem ItemKind = "material"
	TextItem     ItemKind = "text"
)

// Role is why an item is in the lesson.
type Role string

// Roles of items.
const (
	TargetRole    Role = "target"    // it holds the sound of the lesson
	OlderRole     Role = "older"     // it holds what was taught before
	ExceptionRole Role = "exception" // an exception word
	MadeUpRole    Role = "made-up"
	FoilRole      Role = "foil"  // it has the sound not
	KnownRole     Role = "known" // a card of earlier lessons
)

// Reason is why something is as it is: a code for programs, a text for people.
type Reason struct {
	Code string `json:"code"`
	Text string `json:"text"`
}

// Voice is who speaks an item; empty is the class.
type Voice string

// Voices of items.
const (
	ByAdult  Voice = "adult"
	Together Voice = "both"
	ByClass  Voice = "class"
	Silently Voice = "silently"
)

// Voices are all voices with their names, in the order in which they take over.
var Voices = []struct {
	ID   Voice
	Name string
}{{ByAdult, "you"}, {Together, "all together"}, {ByClass, "the class"}, {Silently, "silently, then aloud"}}

// Option is a runner-up for an item.
type Option struct {
	Value    string `json:"value"`
	Detail   string `json:"detail,omitempty" doc:"for people: how many sounds or words it has, a caution"`
	Basket   Basket `json:"basket,omitempty" enum:"has,has-not,first,last"`
	Role     Role   `json:"role,omitempty" enum:"target,older,exception,made-up,foil,known"`
	Position string `json:"position,omitempty" doc:"of the sound in a word, or the side of a card"`
	Origin   Origin `json:"origin,omitempty" enum:"card,bank,finder,log,picture,team,made,sent"`
	Because  Reason `json:"because"`
}

// Item is one thing that a step shows or says, with its reason and the next best.
type Item struct {
	Slot string   `json:"slot" doc:"step and number, read.2; the same on every renewal"`
	Kind ItemKind `json:"kind" enum:"word,picture,card,sentence,page,question,material,text"`
	Option
	Locked  bool     `json:"locked"`
	Swapped bool     `json:"swapped,omitempty" doc:"it was not the first choice"`
	Voice   Voice    `json:"voice,omitempty" enum:"adult,both,class,silently" doc:"who speaks; empty: the class"`
	Picture bool     `json:"picture,omitempty" doc:"its picture is shown before the word"`
	Clue    string   `json:"clue,omitempty" doc:"what the word means, in plain words: read it before use"`
	Next    []Option `json:"next"`
}

// Show is one side of one card in a drill.
type Show struct {
	CardID string `json:"card_id"`
	Side   string `json:"side" enum:"letter,picture"`
}

// Step is one assembled step.
type Step struct {
	ID       string   `json:"id" doc:"its kind, with a number where the kind stands there again"`
	Kind     Kind     `json:"kind"`
	Name     string   `json:"name"`
	Family   Family   `json:"family"`
	Way      string   `json:"way,omitempty" doc:"the option by which it is held"`
	Times    int      `json:"times,omitempty" doc:"how often its items are gone through; 0: the usual"`
	Seconds  int      `json:"seconds"`
	Pace     float64  `json:"pace,omitempty" doc:"of the usual time, as it was learned; 0: the usual"`
	Adult    []string `json:"adult" doc:"what the adult says and does"`
	Class    []string `json:"class" doc:"what the class does"`
	Table    []string `json:"table" doc:"what lies ready"`
	Cautions []string `json:"cautions"`
	Items    []Item   `json:"items"`
	Deck     []Show   `json:"deck,omitempty"`
	Pieces   []string `json:"pieces,omitempty" doc:"of the sentence, shuffled, to be put in order"`
	Edited   bool     `json:"edited,omitempty" doc:"its words were written by hand"`
}

// CardFace is what a lesson needs of a card, as it stood when it was assembled.
type CardFace struct {
	ID         string           `json:"id"`
	Version    int              `json:"version"`
	Agreed     bool             `json:"agreed"`
	Pair       spelling.Pair    `json:"pair"`
	Said       string           `json:"said" doc:"how the sound is named for people"`
	Together   []string         `json:"together,omitempty" doc:"all sounds that the class answers to its letter side, in order"`
	Keyword    string           `json:"keyword"`
	Picture    string           `json:"picture"`
	PictureAlt string           `json:"picture_alt"`
	Rhyme      string           `json:"rhyme"`
	RhymeShort string           `json:"rhyme_short"`
	Action     string           `json:"action"`
	Workbook   string           `json:"workbook,omitempty" doc:"pages of the school's workbook"`
	Objects    []string         `json:"objects,omitempty" doc:"things with the sound, in its tray"`
	MouthCue   string           `json:"mouth_cue,omitempty"`
	Slip       string           `json:"slip,omitempty"`
	Contrast   string           `json:"contrast,omitempty" doc:"a sound to switch to and fro with"`
	HasTake    bool             `json:"has_take"`
	Stretch    bool             `json:"stretch,omitempty" doc:"the sound is held, not said short"`
	Drawn      *strokes.Written `json:"drawn,omitempty"`   // the letter as the team writes it
	Writing    *strokes.Written `json:"writing,omitempty"` // with the words of the strokes; of targets only
	Capital    *strokes.Written `json:"capital,omitempty"`
	Place      *card.Place      `json:"place,omitempty" doc:"of the letter over the picture"`
}

// Dropped is a step that was left out, and why.
type Dropped struct {
	Kind Kind   `json:"kind"`
	Name string `json:"name"`
	Reason
}

// Lesson is the assembled lesson: a snapshot that later edits of cards do not change. Screens and prints take
// everything from it. Taught and Known say what the class could read when it was assembled.
type Lesson struct {
	Purpose  Purpose                   `json:"purpose" enum:"introduce,again,revise,compare,catch-up"`
	Targets  []string                  `json:"targets" doc:"card ids"`
	Routine  string                    `json:"routine"`
	Minutes  int                       `json:"minutes"`
	Seconds  int                       `json:"seconds" doc:"planned, all steps"`
	Seed     uint64                    `json:"seed"`
	Accent   phoneme.Accent            `json:"accent,omitempty" doc:"in which its words were chosen"`
	Steps    []Step                    `json:"steps"`
	Dropped  []Dropped                 `json:"dropped" doc:"steps left out, with the reason"`
	Notes    []Reason                  `json:"notes"`
	Cards    map[string]CardFace       `json:"cards"`
	Signs    map[Voice]string          `json:"signs,omitempty" doc:"the team's sign for who speaks"`
	WordBits map[string][]spelling.Bit `json:"word_bits" doc:"words shown, cut into graphemes for the bridges"`
	// Ink are the words in the team's own strokes, where the team wants them so and all their letters have some.
	Ink    map[string]strokes.Ink `json:"ink,omitempty"`
	Taught []spelling.Pair        `json:"taught"`
	Known  []string               `json:"known" doc:"exception words"`
	Rings  []RingWord             `json:"rings" doc:"of the find-and-ring sheet"`
	// Planned is where the lesson stands in the year of its class; nil in one that does not say so.
	Planned *Planned `json:"planned,omitempty"`
	// LineHeightMM is how high the small letters are on the team's lines.
	LineHeightMM float64 `json:"line_height_mm" doc:"base to middle line, in millimetres"`
}

// Planned is a day of a school year.
type Planned struct {
	Date string `json:"date" doc:"2026-11-26"`
	Term string `json:"term" doc:"empty outside the terms"`
	Week int    `json:"week" doc:"in its term, from 1; 0 outside the terms"`
}

// Said is the day in words: "Autumn term, week 5, Thursday 26 November".
func (p Planned) Said() string {
	out := p.Date
	if at, err := time.Parse(time.DateOnly, p.Date); err == nil {
		out = at.Format("Monday 2 January")
	}
	if p.Week > 0 {
		out = fmt.Sprintf("%s, week %d, %s", p.Term, p.Week, out)
	}
	return out
}

// Day is when the lesson is held, in words: its place in the year, or the day on which it was made.
func (l Lesson) Day(made time.Time) string {
	if l.Planned != nil {
		return l.Planned.Said()
	}
	return made.Format("2 January 2006")
}

// RingWord is a word of the find-and-ring sheet with the letters to ring, none where it lacks the sound.
type RingWord struct {
	Target  string `json:"target,omitempty" doc:"id of the card that is looked for; empty: the first target"`
	Word    string `json:"word"`
	Letters []int  `json:"letters"`
}

// Text is a sentence or a page of the team's bank.
type Text struct {
	Kind string `json:"kind" enum:"sentence,page"`
	Body string `json:"body"`
	Book string `json:"book,omitempty" required:"false" maxLength:"80" doc:"title of the book that the page is of"`
	Page int    `json:"page,omitempty" required:"false" minimum:"0" maximum:"999" doc:"of the book"`
}

// Faces are the targets' faces in their order.
func (l Lesson) Faces() []CardFace {
	var out []CardFace
	for _, id := range l.Targets {
		if f, ok := l.Cards[id]; ok {
			out = append(out, f)
		}
	}
	return out
}

// Target is the first target's face; a zero one where the lesson has none.
func (l Lesson) Target() CardFace {
	if faces := l.Faces(); len(faces) > 0 {
		return faces[0]
	}
	return CardFace{}
}

// CardOf is the card of the lesson that teaches a bit of a word; empty where it has none.
func (l Lesson) CardOf(b spelling.Bit) string {
	for id, f := range l.Cards {
		if f.Pair == (spelling.Pair{Grapheme: b.Grapheme, Sound: b.Sound}) {
			return id
		}
	}
	return ""
}

// Pairs are the targets' pairs.
func (l Lesson) Pairs() []spelling.Pair {
	var out []spelling.Pair
	for _, f := range l.Faces() {
		out = append(out, f.Pair)
	}
	return out
}

// Title names what the lesson is about: its graphemes, or that nothing is new.
func (l Lesson) Title() string {
	var out []string
	for _, f := range l.Faces() {
		if !containsText(out, f.Pair.Grapheme) {
			out = append(out, f.Pair.Grapheme)
		}
	}
	return strings.Join(out, " · ")
}

func containsText(list []string, text string) bool {
	for _, t := range list {
		if t == text {
			return true
		}
	}
	return false
}

// Set is what the class could read when the lesson was assembled; nil in one that does not say so.
func (l Lesson) Set() spelling.Set {
	if len(l.Taught) == 0 {
		return nil
	}
	out := spelling.Set{}
	for _, p := range l.Taught {
		out[p] = true
	}
	return out
}

// KnownSet are the exception words that the class knew.
func (l Lesson) KnownSet() map[string]bool {
	out := map[string]bool{}
	for _, w := range l.Known {
		out[w] = true
	}
	return out
}
