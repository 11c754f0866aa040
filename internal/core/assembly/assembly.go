// Package assembly puts a lesson together: which words travel through it, which sentence and page hold its sound, how
// long each step takes, what falls out when time is short, and why.
package assembly

import (
	"cmp"
	"fmt"
	"maps"
	"slices"
	"strings"
	"time"

	"brightchalk/internal/core/card"
	"brightchalk/internal/core/convention"
	"brightchalk/internal/core/fault"
	"brightchalk/internal/core/knowledge"
	"brightchalk/internal/core/lesson"
	"brightchalk/internal/core/lexicon"
	"brightchalk/internal/core/phoneme"
	"brightchalk/internal/core/script"
	"brightchalk/internal/core/spelling"
	"brightchalk/internal/core/step"
	"brightchalk/internal/core/step/kinds"
	"brightchalk/internal/core/strokes"
	"brightchalk/internal/core/words"
)

// Input is all that a lesson depends on. Targets are the cards that it is about, as they are agreed; none for a
// revision by need. Class is what the class knew before.
type Input struct {
	Purpose     lesson.Purpose
	Conventions convention.Conventions
	Routine     lesson.Routine
	Targets     []card.Card
	Class       knowledge.Class
	Bank        []lesson.Text
	Letters     map[string]strokes.Letter // the team's own forms
	Pictures    []lexicon.OwnPicture
	Clues       map[string]string // the team's own, by word
	Minutes     int
	Seed        uint64
	Now         time.Time
	Locked      map[string][]lesson.Item // by step
	Edited      map[string]lesson.Step   // steps whose words were written by hand, by step
	Paces       map[lesson.Kind]float64  // of the usual time that the class takes with a kind; what is missing is usual
}

// Codes of what keeps a lesson from being assembled.
const (
	ErrMinutes fault.Code = "minutes"
	ErrPurpose fault.Code = "purpose"
	ErrTargets fault.Code = "targets"
	ErrNothing fault.Code = "nothing-to-teach"
)

// Codes of notes and of dropped steps.
const (
	noteDraft   = "not-agreed"
	noteGap     = "card-gap"
	noteNothing = "nothing-known"
	noteOver    = "too-long"
	noteUnder   = "time-left"
	noteWithout = "without-target"
	noteCard    = "card-sentence"
	noteStrokes = "no-strokes"
	noTime      = "no-time"
)

// Assemble builds the lesson. The same input gives the same lesson. It fails on a routine that cannot be used, on a
// time out of bounds, on too few or too many targets, on a sound that the accent lacks, and where no step can be
// held; what a card lacks is said in the notes and the steps that need it are left out.
func Assemble(in Input) (lesson.Lesson, error) {
	if err := check(&in); err != nil {
		return lesson.Lesson{}, err
	}
	if len(in.Targets) == 0 {
		in.Targets = byNeed(in)
	}
	a := &assembler{Input: in, known: in.Class.With(in.Conventions, in.Targets...)}
	a.speech = in.Conventions.Speech()
	a.speech.Pictures = in.Pictures
	a.begin()
	b := a.brief()
	a.steps(b)
	if len(a.out.Steps) == 0 {
		return lesson.Lesson{}, fault.New(ErrNothing, "no step can be held: %s", a.out.Dropped[0].Text)
	}
	a.faces()
	a.bits()
	if slices.ContainsFunc(a.out.Steps, func(s lesson.Step) bool { return s.Kind == lesson.Read }) {
		a.rings()
	}
	return *a.out, nil
}

func check(in *Input) error {
	kind, ok := lesson.FindPurpose(in.Purpose)
	if !ok {
		return fault.New(ErrPurpose, "unknown purpose %q: choose introduce, again, revise, compare or catch-up", in.Purpose)
	}
	if in.Minutes < lesson.MinMinutes || in.Minutes > lesson.MaxMinutes {
		return fault.New(ErrMinutes, "a lesson takes %d to %d minutes, not %d",
			lesson.MinMinutes, lesson.MaxMinutes, in.Minutes)
	}
	if err := kinds.Registry.CheckRoutine(in.Routine); err != nil {
		return err
	}
	if n := len(in.Targets); n < kind.MinTargets || n > kind.MaxTargets {
		return fault.New(ErrTargets, "a lesson that is to %s takes %d to %d sounds, not %d",
			kind.Name, kind.MinTargets, kind.MaxTargets, n)
	}
	for i, t := range in.Targets {
		if _, err := phoneme.Parse(in.Conventions.Accent, t.Pair.Sound); err != nil {
			return err
		}
		if slices.ContainsFunc(in.Targets[:i], func(o card.Card) bool { return o.ID == t.ID }) {
			return fault.New(ErrTargets, "%s is named twice", script.Named(in.Conventions.Speech(), t.Pair))
		}
	}
	if len(in.Targets) == 0 && len(in.Class.Met) == 0 {
		return fault.New(ErrNothing, "the class knows nothing yet: introduce a first sound, or say what it knows")
	}
	return nil
}

type assembler struct {
	Input
	speech lexicon.Speech
	known  knowledge.Class // with the targets
	out    *lesson.Lesson
}

// begin makes the lesson without its steps.
func (a *assembler) begin() {
	a.out = &lesson.Lesson{
		Purpose: a.Purpose, Targets: []string{}, Routine: a.Routine.Name, Minutes: a.Minutes, Seed: a.Seed,
		Accent: a.Conventions.Accent,
		Steps:  []lesson.Step{}, Dropped: []lesson.Dropped{}, Notes: []lesson.Reason{},
		Cards: map[string]lesson.CardFace{}, WordBits: map[string][]spelling.Bit{}, Taught: []spelling.Pair{},
		Known: slices.Sorted(maps.Keys(a.known.Exceptions)), Rings: []lesson.RingWord{},
		Signs: step.Signs(a.Conventions), LineHeightMM: a.Conventions.Lines.OrCommon().HeightMM,
	}
	if a.out.Known == nil {
		a.out.Known = []string{}
	}
	for p := range a.known.Pairs {
		a.out.Taught = append(a.out.Taught, p)
	}
	slices.SortFunc(a.out.Taught, func(x, y spelling.Pair) int {
		return cmp.Or(strings.Compare(x.Grapheme, y.Grapheme), strings.Compare(x.Sound, y.Sound))
	})
	for _, t := range a.Targets {
		a.out.Targets = append(a.out.Targets, t.ID)
		f := a.face(t)
		f.Said = script.Said(a.speech, t.Pair, t.Keyword)
		a.write(&f, t)
		a.out.Cards[t.ID] = f
		a.cardNotes(t)
	}
	if len(a.Class.Met) == 0 && len(a.Class.Pairs) == 0 {
		a.note(noteNothing, "The class has met nothing yet: there is nothing to come back, and little to read. "+
			"If it knows more, say so on the class's page.")
	}
}

func (a *assembler) note(code, format string, args ...any) {
	n := lesson.Reason{Code: code, Text: fmt.Sprintf(format, args...)}
	if !slices.Contains(a.out.Notes, n) {
		a.out.Notes = append(a.out.Notes, n)
	}
}

func (a *assembler) cardNotes(t card.Card) {
	name := ""
	if len(a.Targets) > 1 {
		name = " of " + t.Pair.Grapheme
	}
	if a.Bare(t) {
		return
	}
	if t.State != card.Agreed {
		uses := "draft"
		if t.State == card.InReview {
			uses = "version in review"
		}
		a.note(noteDraft, "The card%s is not agreed yet: the lesson uses its %s.", name, uses)
	}
	for _, g := range t.Gaps(a.speech) {
		if g.Part != "words" && g.Part != "strokes" {
			a.note(noteGap, "The card%s %s.", name, g.Text)
		}
	}
}

// Bare tells whether a card comes from no library: all on it is by rule.
func (Input) Bare(c card.Card) bool { return c.State == "" }

// face is what the lesson keeps of a card.
func (a *assembler) face(c card.Card) lesson.CardFace {
	f := newCardFace(a.Conventions, a.Letters, c)
	f.Together = a.answered(c)
	return f
}

func newCardFace(conv convention.Conventions, letters map[string]strokes.Letter, c card.Card) lesson.CardFace {
	cue, slip := card.SuggestCue(conv.Accent, c.Pair)
	f := lesson.CardFace{
		ID:         c.ID,
		Version:    c.Version,
		Agreed:     c.State == card.Agreed,
		Pair:       c.Pair,
		Said:       script.Sound(c.Pair),
		Keyword:    c.Keyword,
		Picture:    c.Picture,
		PictureAlt: c.PictureAlt,
		Rhyme:      c.Rhyme,
		RhymeShort: c.RhymeShort,
		Action:     c.Action,
		Objects:    c.Objects,
		Workbook:   c.Workbook,
		MouthCue:   c.MouthCue,
		Slip:       c.Slip,
		Contrast:   c.Contrast,
		HasTake:    c.HasTake,
		Stretch:    card.FindHold(conv, c.Pair) == card.Stretch,
		Drawn:      conv.Lines.OrCommon().Drawn(c.Pair.Grapheme, letters),
	}
	if (Input{}).Bare(c) {
		f.MouthCue, f.Slip = cue, slip
	}
	return f
}

// answered are all sounds of a spelling that the class says to its letter side, where the team teaches them at once;
// none where it says one.
func (a *assembler) answered(c card.Card) []string {
	if !slices.Contains(a.Conventions.Together, c.Pair.Grapheme) {
		return nil
	}
	known := slices.Clone(a.Targets)
	for _, k := range a.Class.Met {
		if !slices.ContainsFunc(known, func(o card.Card) bool { return o.ID == k.Card.ID }) {
			known = append(known, k.Card)
		}
	}
	along := card.TaughtWith(a.Conventions, known, c)
	if len(along) < 2 {
		return nil
	}
	var out []string
	for _, k := range along {
		out = append(out, script.Said(a.speech, k.Pair, k.Keyword))
	}
	return out
}

// write sets the letters of a target on the team's lines; what has no strokes is left out with a note.
func (a *assembler) write(f *lesson.CardFace, t card.Card) {
	lines := a.Conventions.Lines.OrCommon()
	set := func(text, words string) *strokes.Written {
		w, err := lines.Write(text, a.Letters, strings.Split(words, "\n"))
		if err != nil {
			a.note(noteStrokes, "The letter cannot be shown stroke by stroke: %s.", err)
			return nil
		}
		return &w
	}
	f.Writing, f.Place = set(t.Pair.Grapheme, t.StrokeWords), t.Place
	if t.Pair.Letters() == 1 && a.Conventions.Capitals {
		f.Capital = set(strings.ToUpper(t.Pair.Grapheme), t.CapitalWords)
	}
}

// faces are those of the cards that the steps show.
func (a *assembler) faces() {
	for _, s := range a.out.Steps {
		for _, it := range s.Items {
			if it.Kind == lesson.CardItem {
				a.keepFace(it.Value)
			}
			for _, o := range it.Next {
				if it.Kind == lesson.CardItem {
					a.keepFace(o.Value)
				}
			}
		}
	}
}

func (a *assembler) keepFace(id string) {
	if _, there := a.out.Cards[id]; there {
		return
	}
	if k, ok := a.Class.Find(id); ok {
		a.out.Cards[id] = a.face(k.Card)
	}
}

// bits cuts every word that is shown for its bridges.
func (a *assembler) bits() {
	var items []lesson.Item
	for _, s := range a.out.Steps {
		items = append(items, s.Items...)
	}
	Bits(a.out, a.speech, items...)
	cards := slices.Clone(a.Targets)
	for _, k := range a.Class.Met {
		cards = append(cards, k.Card)
	}
	Dress(a.out, a.Conventions, step.FaceSource{Cards: cards, Letters: a.Letters})
}

const ringWords = 12

// maxRingTargets is for how many targets there is a list to find and ring: more are no sheet for one lesson.
const maxRingTargets = 4

// rings chooses the words of the find-and-ring sheet for each target; one with too few of them has no list.
func (a *assembler) rings() {
	for i, t := range a.Targets[:min(maxRingTargets, len(a.Targets))] {
		q := words.Query{Taught: a.known.Pairs, Target: &a.Targets[i].Pair, Exclude: a.known.Refused}
		found, err := words.RingList(q, ringWords, a.speech, step.Chance(a.Seed, "rings"))
		if err != nil {
			continue
		}
		for _, r := range found {
			a.out.Rings = append(a.out.Rings, lesson.RingWord{
				Target: t.ID, Word: r.Word, Letters: append([]int{}, r.Letters...),
			})
		}
	}
}
