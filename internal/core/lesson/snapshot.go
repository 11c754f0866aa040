package lesson

import (
	"brightchalk/internal/core/card"
	"brightchalk/internal/core/document"
	"brightchalk/internal/core/spelling"
	"brightchalk/internal/core/strokes"
)

// Origin tells where a choice came from.
type Origin string

// Origins of choices.
const (
	FromCard    Origin = "card"    // the team's card
	FromBank    Origin = "bank"    // the team's sentences and pages
	FromFinder  Origin = "finder"  // the words that the class can read, best first
	FromLog     Origin = "log"     // what the class met and how sure it was
	FromPicture Origin = "picture" // the pictures whose names have or lack the sound
	FromTeam    Origin = "team"    // the team's materials
	MadeByRule  Origin = "made"    // to be read by the adult first
	SentByYou   Origin = "sent"    // put there from the word box or the ear games
)

// Basket is where a picture of an ear game belongs.
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

// Option is a runner-up for a choice.
type Option struct {
	Value   string `json:"value"`
	Detail  string `json:"detail,omitempty" doc:"for people: how many sounds or words it has, a caution"`
	Basket  Basket `json:"basket,omitempty" enum:"has,has-not,first,last"`
	Origin  Origin `json:"origin,omitempty" enum:"card,bank,finder,log,picture,team,made,sent"`
	Because string `json:"because"`
}

// Choice is one thing that the assembler chose, with its reason and the next best.
type Choice struct {
	Slot    string   `json:"slot" doc:"step and number, read.2; the same on every renewal"`
	Kind    string   `json:"kind" enum:"word,picture,card,sentence,page,material"`
	Value   string   `json:"value"`
	Detail  string   `json:"detail,omitempty" doc:"for people: how many sounds or words it has, a caution"`
	Basket  Basket   `json:"basket,omitempty" enum:"has,has-not,first,last"`
	Origin  Origin   `json:"origin,omitempty" enum:"card,bank,finder,log,picture,team,made,sent"`
	Because string   `json:"because"`
	Locked  bool     `json:"locked"`
	Swapped bool     `json:"swapped,omitempty" doc:"it was not the first choice"`
	Next    []Option `json:"next" nullable:"false"`
}

func (c *Choice) take(o Option) {
	c.Value, c.Detail, c.Basket, c.Origin, c.Because = o.Value, o.Detail, o.Basket, o.Origin, o.Because
}

func (c *Choice) option() Option { return Option{c.Value, c.Detail, c.Basket, c.Origin, c.Because} }

// Show is one side of one card in a drill.
type Show struct {
	CardID string `json:"card_id"`
	Side   string `json:"side" enum:"letter,picture"`
}

// Step is one assembled step.
type Step struct {
	Kind     Kind     `json:"kind"`
	Name     string   `json:"name"`
	Family   Family   `json:"family"`
	Seconds  int      `json:"seconds"`
	Adult    []string `json:"adult"` // what the adult says and does
	Class    []string `json:"class"` // what the class does
	Table    []string `json:"table"` // what lies ready
	Cautions []string `json:"cautions"`
	Choices  []Choice `json:"choices"`
	Deck     []Show   `json:"deck,omitempty"`
	Pieces   []string `json:"pieces,omitempty"` // of the sentence, shuffled, to be put in order
}

// CardFace is what Teach and print need of a card, as it stood when the introduction was assembled.
type CardFace struct {
	ID         string           `json:"id"`
	Version    int              `json:"version"`
	Pair       spelling.Pair    `json:"pair"`
	Keyword    string           `json:"keyword"`
	Picture    string           `json:"picture"`
	PictureAlt string           `json:"picture_alt"`
	Rhyme      string           `json:"rhyme"`
	RhymeShort string           `json:"rhyme_short"`
	Action     string           `json:"action"`
	MouthCue   string           `json:"mouth_cue,omitempty"`
	Slip       string           `json:"slip,omitempty"`
	HasTake    bool             `json:"has_take"`
	Drawn      *strokes.Written `json:"drawn,omitempty"` // the letter as the team writes it
}

// Introduction is the assembled lesson: a snapshot that later edits of cards do not change. Screens and prints take
// everything from it. Taught and Known say what the class could read when it was assembled.
type Introduction struct {
	CardID   string                    `json:"card_id"`
	Version  int                       `json:"card_version"`
	Agreed   bool                      `json:"agreed"`
	Pair     spelling.Pair             `json:"pair"`
	Keyword  string                    `json:"keyword"`
	Routine  string                    `json:"routine"`
	Minutes  int                       `json:"minutes"`
	Seconds  int                       `json:"seconds" doc:"planned, all steps"`
	Seed     uint64                    `json:"seed"`
	Steps    []Step                    `json:"steps" nullable:"false"`
	Dropped  []string                  `json:"dropped" nullable:"false" doc:"steps left out, with the reason"`
	Notes    []string                  `json:"notes" nullable:"false"`
	Cards    map[string]CardFace       `json:"cards"`
	WordBits map[string][]spelling.Bit `json:"word_bits" doc:"words shown, cut into graphemes for the bridges"`
	Taught   []spelling.Pair           `json:"taught" nullable:"false"`
	Known    []string                  `json:"known" nullable:"false" doc:"exception words"`
	Rings    []RingWord                `json:"rings" nullable:"false" doc:"of the find-and-ring sheet"`
	// LineHeightMM is how high the small letters are on the team's lines.
	LineHeightMM float64          `json:"line_height_mm" doc:"base to middle line, in millimetres"`
	Writing      *strokes.Written `json:"writing,omitempty"`
	Capital      *strokes.Written `json:"capital,omitempty"`
	Place        *card.Place      `json:"place,omitempty" doc:"of the letter over the picture"`
}

// RingWord is a word of the find-and-ring sheet with the letters to ring, none where it lacks the new sound.
type RingWord struct {
	Word    string `json:"word"`
	Letters []int  `json:"letters" nullable:"false"`
}

// Documents reads and writes stored introductions. Version 2 has typed baskets and origins, and what was taught;
// version 1 told a basket by a choice's detail.
var Documents = document.Kind[Introduction]{Name: "introduction", Steps: []func(map[string]any){typedChoices}}

func typedChoices(fields map[string]any) {
	baskets := map[any]Basket{"yes": Has, "no": HasNot, "first": First, "last": Last}
	typed := func(choice any) {
		c, _ := choice.(map[string]any)
		if b, ok := baskets[c["detail"]]; ok {
			c["basket"] = b
			delete(c, "detail")
		}
	}
	steps, _ := fields["steps"].([]any)
	for _, s := range steps {
		step, _ := s.(map[string]any)
		if step["kind"] != string(Ear) {
			continue
		}
		choices, _ := step["choices"].([]any)
		for _, c := range choices {
			typed(c)
			choice, _ := c.(map[string]any)
			next, _ := choice["next"].([]any)
			for _, o := range next {
				typed(o)
			}
		}
	}
	fields["taught"], fields["known"], fields["rings"] = []any{}, []any{}, []any{}
}
