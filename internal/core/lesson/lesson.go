package lesson

import (
	"cmp"
	"fmt"
	"maps"
	"math/rand/v2"
	"slices"
	"strings"
	"time"

	"brightchalk/internal/core/card"
	"brightchalk/internal/core/fault"
	"brightchalk/internal/core/lexicon"
	"brightchalk/internal/core/phoneme"
	"brightchalk/internal/core/prose"
	"brightchalk/internal/core/review"
	"brightchalk/internal/core/spelling"
	"brightchalk/internal/core/strokes"
	"brightchalk/internal/core/words"
)

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
const ErrMinutes fault.Code = "minutes"

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
		return Introduction{}, fault.New(ErrMinutes, "a lesson takes 10 to 40 minutes, not %d", in.Minutes)
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
			Taught:   []spelling.Pair{},
			Known:    []string{},
			Rings:    []RingWord{},
			Notes:    []string{},
			Cards:    map[string]CardFace{},
			WordBits: map[string][]spelling.Bit{},
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
	for p := range a.taught {
		a.out.Taught = append(a.out.Taught, p)
	}
	slices.SortFunc(a.out.Taught, func(x, y spelling.Pair) int {
		return cmp.Or(strings.Compare(x.Grapheme, y.Grapheme), strings.Compare(x.Sound, y.Sound))
	})
	a.out.Known = slices.Sorted(maps.Keys(a.known))
	a.out.LineHeightMM = in.Conventions.Lines.OrCommon().HeightMM
	a.face(in.Target)
	a.notes()
	a.steps()
	a.rings()
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
			a.out.Dropped = append(a.out.Dropped, cmp.Or(steps[i].Name, paces[Page].Name)+": "+noPage)
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
				name = p.Name
			}
			step := Step{
				Kind:     s.Kind,
				Name:     name,
				Family:   p.Family,
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
				prose.Clock(a.out.Seconds),
				over,
			),
		)
	} else if over < -60 {
		a.out.Notes = append(
			a.out.Notes,
			fmt.Sprintf("The steps fill %s at the most; %d seconds are left over.", prose.Clock(a.out.Seconds), -over),
		)
	}
}

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

// ringWords is how many words the find-and-ring sheet has.
const ringWords = 12

// rings chooses the words of the find-and-ring sheet; with too few of them there is no such sheet.
func (a *assembler) rings() {
	target := a.Target.Pair
	rng := rand.New(rand.NewPCG(a.Seed, 41))
	q := words.Query{Taught: a.taught, Target: &target, Exclude: a.refused()}
	found, err := words.RingList(q, ringWords, a.options, rng)
	if err != nil {
		return
	}
	for _, r := range found {
		a.out.Rings = append(a.out.Rings, RingWord{r.Word, append([]int{}, r.Letters...)})
	}
}

// refused are the words that the team refused, on this card or on another.
func (a *assembler) refused() map[string]bool {
	out := map[string]bool{}
	for _, w := range slices.Concat(a.Target.Rejected, a.Refused) {
		out[w] = true
	}
	return out
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
		c.MouthCue,
		c.Slip,
		c.HasTake,
		a.Conventions.Lines.OrCommon().Drawn(c.Pair.Grapheme, a.Letters),
	}
}
