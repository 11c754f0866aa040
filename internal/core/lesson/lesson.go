package lesson

import (
	"brightchalk/internal/core/card"
	"brightchalk/internal/core/lexicon"
	"brightchalk/internal/core/phoneme"
	"brightchalk/internal/core/review"
	"brightchalk/internal/core/spelling"
	"brightchalk/internal/core/strokes"
	"brightchalk/internal/core/texts"
	"brightchalk/internal/core/words"
	"cmp"
	"errors"
	"fmt"
	"math/rand/v2"
	"slices"
	"strings"
	"time"
)

// Option is a runner-up for a choice.
type Option struct {
	Value   string `json:"value"`
	Detail  string `json:"detail,omitempty"`
	Because string `json:"because"`
}

// Choice is one thing that the assembler chose, with its reason and the next best.
type Choice struct {
	Slot    string   `json:"slot"` // "read.2", the same on every renewal
	Kind    string   `json:"kind" enum:"word,picture,card,sentence,page,material"`
	Value   string   `json:"value"`
	Detail  string   `json:"detail,omitempty"` // the basket of a picture, the sounds of a word
	Because string   `json:"because"`
	Locked  bool     `json:"locked"`
	Next    []Option `json:"next"`
}

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
	HasTake    bool             `json:"has_take"`
	Drawn      *strokes.Written `json:"drawn,omitempty"` // the letter as the team writes it
}

// Introduction is the assembled lesson: a snapshot that later edits of cards do not change.
type Introduction struct {
	CardID   string              `json:"card_id"`
	Version  int                 `json:"card_version"`
	Agreed   bool                `json:"agreed"`
	Pair     spelling.Pair       `json:"pair"`
	Keyword  string              `json:"keyword"`
	Routine  string              `json:"routine"`
	Minutes  int                 `json:"minutes"`
	Seconds  int                 `json:"seconds"` // planned, all steps
	Seed     uint64              `json:"seed"`
	Steps    []Step              `json:"steps"`
	Dropped  []string            `json:"dropped"` // steps left out, with the reason
	Notes    []string            `json:"notes"`
	Cards    map[string]CardFace `json:"cards"`
	WordBits map[string][]Bit    `json:"word_bits"` // words shown, cut into graphemes for the bridges
	Writing  *strokes.Written    `json:"writing,omitempty"`
	Capital  *strokes.Written    `json:"capital,omitempty"`
	Place    *card.Place         `json:"place,omitempty"` // of the letter over the picture
}

// Bit is one grapheme of a word for the bridges under it.
type Bit struct {
	Letters []int  `json:"letters"`
	Sound   string `json:"sound"`
	Odd     bool   `json:"odd,omitempty"`
	Target  bool   `json:"target,omitempty"`
}

// Input is all that an introduction depends on. Taught holds the cards that the class has been taught, as
// they are agreed; Log what the class knew of them.
type Input struct {
	Conventions card.Conventions
	Routine     Routine
	Target      card.Card
	Taught      []card.Card
	Log         []review.Seen
	Exceptions  []string                  // exception words taught before
	Bank        []Text                    // the team's sentences and pages
	Refused     []string                  // words that the team refused on any card
	Letters     map[string]strokes.Letter // the team's own forms
	Minutes     int
	Seed        uint64
	Now         time.Time
	Locked      map[string]string    // slot to value
	Pictures    []lexicon.OwnPicture // of the team, for ear games
}

// Text is a sentence or a page of the team's bank.
type Text struct {
	Kind string `json:"kind" enum:"sentence,page"`
	Body string `json:"body"`
}

// ErrMinutes says that the time asked for is out of bounds.
var ErrMinutes = errors.New("a lesson takes 10 to 40 minutes")

type assembler struct {
	Input
	taught   spelling.Set
	options  words.Options
	used     map[string]bool
	rng      *rand.Rand
	out      *Introduction
	sounds   []phoneme.Phoneme
	readable []words.Choice
	known    map[string]bool // exception words

	sentences, pages []Option
	unfit            string // why the card's sentences cannot be used
	far              map[words.Position]contrast
}

type contrast struct {
	sound    phoneme.Phoneme
	pictures []string
}

func (a *assembler) note(text string) {
	if !slices.Contains(a.out.Notes, text) {
		a.out.Notes = append(a.out.Notes, text)
	}
}

// Assemble builds the introduction. The same input gives the same introduction. It fails on a routine that
// cannot be used, on a time out of bounds, and on a sound that the accent lacks; what a card lacks is said
// in Notes and the steps that need it are left out.
func Assemble(in Input) (Introduction, error) {
	if err := in.Routine.Check(); err != nil {
		return Introduction{}, err
	}
	if in.Minutes < LeastMinutes || in.Minutes > MostMinutes {
		return Introduction{}, fmt.Errorf("%w, not %d", ErrMinutes, in.Minutes)
	}
	in.Conventions = in.Conventions.For(in.Target.Content)
	sounds, err := phoneme.Parse(in.Conventions.Accent, in.Target.Pair.Sound)
	if err != nil {
		return Introduction{}, err
	}
	a := &assembler{
		Input: in, taught: spelling.Set{}, used: map[string]bool{}, sounds: sounds,
		options: in.speech(), known: map[string]bool{}, far: map[words.Position]contrast{},
		out: &Introduction{
			CardID:   in.Target.ID,
			Version:  in.Target.Version,
			Agreed:   in.Target.State == card.Agreed,
			Pair:     in.Target.Pair,
			Keyword:  in.Target.Keyword,
			Routine:  in.Routine.Name,
			Minutes:  in.Minutes,
			Seed:     in.Seed,
			Steps:    []Step{},
			Dropped:  []string{},
			Notes:    []string{},
			Cards:    map[string]CardFace{},
			WordBits: map[string][]Bit{},
		},
	}
	for _, c := range in.Taught {
		a.taught[c.Pair] = true
	}
	a.taught[in.Target.Pair] = true
	a.taught = in.Conventions.Known(a.taught)
	for _, w := range slices.Concat(in.Exceptions, in.Target.Exceptions) {
		a.known[strings.ToLower(w)] = true
	}
	for _, v := range in.Locked {
		a.used[v] = true
	}
	a.face(in.Target)
	a.notes()
	a.steps()
	return *a.out, nil
}

// speech is how the team speaks, with its own pictures.
func (in Input) speech() words.Options {
	o := in.Conventions.Speech()
	o.Pictures = in.Pictures
	return o
}

func (a *assembler) steps() {
	steps := slices.Clone(a.Routine.Steps)
	if a.pages = a.pageOptions(); len(a.pages) == 0 && a.Locked["page.1"] == "" { // said before the time is shared out
		if i := slices.IndexFunc(steps, func(s RoutineStep) bool { return s.Kind == Page }); i >= 0 {
			a.out.Dropped = append(a.out.Dropped, cmp.Or(steps[i].Name, paces[Page].name)+": "+noPage)
			steps = slices.Delete(steps, i, i+1)
		}
	}
	for {
		seconds := share(steps, a.Minutes)
		a.out.Steps, a.out.Seconds = a.out.Steps[:0], 0
		var kept []RoutineStep
		a.used = map[string]bool{}
		for _, v := range a.Locked {
			a.used[v] = true
		}
		for i, s := range steps {
			p := paces[s.Kind]
			name := s.Name
			if name == "" {
				name = p.name
			}
			step := Step{
				Kind:     s.Kind,
				Name:     name,
				Family:   p.family,
				Seconds:  seconds[i],
				Adult:    []string{},
				Class:    []string{},
				Table:    []string{},
				Cautions: []string{},
				Choices:  []Choice{},
			}
			// Each step draws its own chance, so that one step less does not reshuffle the others.
			a.rng = rand.New(
				rand.NewPCG(a.Seed, uint64(len(s.Kind))*1000003+uint64(s.Kind[0])*131+uint64(s.Kind[len(s.Kind)-1])),
			)
			if why := a.fill(&step); why != "" {
				a.out.Dropped = append(a.out.Dropped, name+": "+why)
				continue
			}
			kept = append(kept, s)
			a.out.Steps = append(a.out.Steps, step)
			a.out.Seconds += step.Seconds
		}
		if len(kept) == len(steps) {
			break
		}
		steps = kept // the others share the time of those that fell out
	}
	if over := a.out.Seconds - a.Minutes*60; over > 30 {
		a.out.Notes = append(
			a.out.Notes,
			fmt.Sprintf(
				"The steps need %s at the least: %d seconds more than planned. Drop a step or plan more time.",
				clock(a.out.Seconds),
				over,
			),
		)
	} else if over < -60 {
		a.out.Notes = append(
			a.out.Notes,
			fmt.Sprintf("The steps fill %s at the most; %d seconds are left over.", clock(a.out.Seconds), -over),
		)
	}
}

func clock(seconds int) string { return fmt.Sprintf("%d:%02d", seconds/60, seconds%60) }

func (a *assembler) notes() {
	t := a.Target
	if t.State != card.Agreed {
		a.out.Notes = append(
			a.out.Notes,
			"This card is not agreed yet: the introduction uses its "+string(t.State)+" version.",
		)
	}
	for _, g := range t.Gaps(a.options) {
		if g.Part != "words" && g.Part != "strokes" {
			a.out.Notes = append(a.out.Notes, "The card "+g.Text+".")
		}
	}
	if len(a.Taught) == 0 {
		a.out.Notes = append(
			a.out.Notes,
			"Nothing has been logged as taught to this class, so there is nothing to warm up with and nothing to read yet.",
		)
	}
}

func (a *assembler) face(c card.Card) {
	a.out.Cards[c.ID] = CardFace{
		c.ID,
		c.Version,
		c.Pair,
		c.Keyword,
		c.Picture,
		c.PictureAlt,
		c.Rhyme,
		c.RhymeShort,
		c.Action,
		c.HasTake,
		a.Conventions.Lines.OrCommon().Drawn(c.Pair.Grapheme, a.Letters),
	}
}

// choose fills the slots of a step: locked values first, then the options in their order. Values used
// elsewhere in the introduction are passed over.
func (a *assembler) choose(prefix, kind string, n int, options []Option) []Choice {
	var out []Choice
	taken := map[string]bool{}
	free := func() *Option {
		for i := range options {
			if o := &options[i]; !taken[o.Value] && !a.used[kind+o.Value] && !a.isLocked(o.Value) {
				return o
			}
		}
		return nil
	}
	for i := 1; ; i++ {
		slot := fmt.Sprintf("%s.%d", prefix, i)
		value, ok := a.Locked[slot]
		if i > n && !ok {
			break
		}
		if ok {
			c := Choice{Slot: slot, Kind: kind, Value: value, Because: "locked by you", Locked: true, Next: []Option{}}
			for _, o := range options {
				if o.Value == value {
					c.Detail, c.Because = o.Detail, o.Because+"; locked"
				}
			}
			out = append(out, c)
			taken[value] = true
			continue
		}
		o := free()
		if o == nil {
			break
		}
		taken[o.Value] = true
		out = append(
			out,
			Choice{Slot: slot, Kind: kind, Value: o.Value, Detail: o.Detail, Because: o.Because, Next: []Option{}},
		)
	}
	for v := range taken {
		a.used[kind+v] = true
	}
	var rest []Option
	for _, o := range options {
		if !taken[o.Value] && !a.used[kind+o.Value] && len(rest) < 6 {
			rest = append(rest, o)
		}
	}
	for i := range out {
		if out[i].Next = slices.Clone(rest); out[i].Next == nil {
			out[i].Next = []Option{}
		}
	}
	return out
}

func (a *assembler) isLocked(value string) bool {
	for _, v := range a.Locked {
		if v == value {
			return true
		}
	}
	return false
}

// ErrNoSlot and ErrNoNext are what Swap may fail with.
var (
	ErrNoSlot = errors.New("there is no such choice in this introduction")
	ErrNoNext = errors.New("nothing else fits here")
)

// Swap puts the next best in a slot, the former choice to the end of the list. Runners-up that stand
// elsewhere in the step are passed over. It changes the introduction that it is given.
func Swap(in *Introduction, slot string, o words.Options) error {
	for s := range in.Steps {
		step := &in.Steps[s]
		for i := range step.Choices {
			c := &step.Choices[i]
			if c.Slot != slot {
				continue
			}
			for k, next := range c.Next {
				if in.holds(c.Kind, next.Value) || c.Kind == "picture" && next.Detail != c.Detail {
					continue
				}
				old := Option{c.Value, c.Detail, strings.TrimPrefix(c.Because, "swapped in: ")}
				c.Value, c.Detail, c.Because = next.Value, next.Detail, "swapped in: "+next.Because
				c.Next = append(slices.Delete(c.Next, k, k+1), old)
				in.shown(step, c, o)
				return nil
			}
			return fmt.Errorf("%w: %s", ErrNoNext, c.Value)
		}
	}
	return fmt.Errorf("%w: %s", ErrNoSlot, slot)
}

// shown puts the bits of a changed choice's words in the introduction, and the pieces of a sentence.
func (in *Introduction) shown(step *Step, c *Choice, o words.Options) {
	switch c.Kind {
	case "word":
		in.WordBits[c.Value] = bits(c.Value, in.Pair, o)
	case "sentence", "page":
		for _, t := range texts.Check(c.Value, spelling.Set{}, nil, o).Tokens {
			in.WordBits[t.Text] = toBits(t.Segments, in.Pair)
		}
	}
	if c.Kind == "sentence" {
		step.Adult = slices.DeleteFunc(step.Adult, func(line string) bool { return strings.HasPrefix(line, exceptionFirst) })
		step.Pieces = pieces(c.Value, in.Seed)
	}
}

func (in *Introduction) holds(kind, value string) bool {
	for _, s := range in.Steps {
		for _, c := range s.Choices {
			if c.Kind == kind && c.Value == value {
				return true
			}
		}
	}
	return false
}
