package app

import (
	"cmp"
	"context"
	"errors"
	"math"
	"slices"
	"strings"
	"time"

	"brightchalk/internal/core/card"
	"brightchalk/internal/core/cardstep"
	"brightchalk/internal/core/fault"
	"brightchalk/internal/core/lesson"
	"brightchalk/internal/core/lexicon"
	"brightchalk/internal/core/phoneme"
	"brightchalk/internal/core/review"
	"brightchalk/internal/core/spelling"
	"brightchalk/internal/core/step"
	"brightchalk/internal/core/steps"
	"brightchalk/internal/core/unfit"
	"brightchalk/internal/render"
	"brightchalk/internal/store"
)

type planStore interface {
	knowledgeReader
	routineReader
	Classes(ctx context.Context) ([]store.Class, error)
	CreateClass(ctx context.Context, name, kind string) (string, error)
	SetConventions(ctx context.Context, c card.Conventions) error
	PutRoutine(ctx context.Context, p lesson.Purpose, classID string, r lesson.Routine) error
	DropRoutine(ctx context.Context, p lesson.Purpose, classID string) error
	DeclareCards(ctx context.Context, classID string, cardIDs []string, known bool, by string, now time.Time) error
	DeclareWords(ctx context.Context, classID string, words []string, known bool, by string, now time.Time) error
	AddLog(ctx context.Context, classID, by string, r store.LogRow) error
	AddSource(ctx context.Context, groupID, classID string, flowsBack bool) error
	SetFlow(ctx context.Context, groupID string, flowsBack bool) error
	AddFocus(ctx context.Context, groupID string, cardIDs []string) error
	Teachers(ctx context.Context) ([]store.Teaches, error)
	SetTeachers(ctx context.Context, classID string, members []string) error
	RenameClass(ctx context.Context, classID, name string) error
	ArchiveClass(ctx context.Context, classID string, at *time.Time, movedTo string) error
	PastClasses(ctx context.Context) ([]store.PastClass, error)
	Inherit(ctx context.Context, classID, from string) error
}

// Planning is what a team decides once and where its classes stand.
type Planning struct{ desk desk[planStore] }

// Team returns the actor's team.
func (p Planning) Team(ctx context.Context, by Actor) (store.Team, error) {
	return read(ctx, p.desk, by, func(s planStore) (store.Team, error) { return s.Team(ctx) })
}

// RoutineView is a routine for a purpose: that of a class, of the team, or ours.
type RoutineView struct {
	Purpose lesson.Purpose `json:"purpose" enum:"introduce,again,revise,compare,catch-up"`
	ClassID string         `json:"class_id" doc:"empty: the team's"`
	Set     bool           `json:"set" doc:"false: as it ships"`
	Routine lesson.Routine `json:"routine"`
}

// Routines lists the routines of the team for all purposes, and the variants of its classes.
func (p Planning) Routines(ctx context.Context, by Actor) ([]RoutineView, error) {
	return read(ctx, p.desk, by, func(s planStore) ([]RoutineView, error) {
		kept, err := s.Routines(ctx)
		out := []RoutineView{}
		for _, k := range lesson.Purposes() {
			v := RoutineView{Purpose: k.Purpose, Routine: lesson.DefaultRoutine(k.Purpose)}
			for _, r := range kept {
				if r.Purpose == k.Purpose && r.ClassID == "" {
					v.Set, v.Routine = true, r.Routine
				}
			}
			out = append(out, v)
		}
		for _, r := range kept {
			if r.ClassID != "" {
				out = append(out, RoutineView{r.Purpose, r.ClassID, true, r.Routine})
			}
		}
		return out, err
	})
}

// SetRoutine replaces the routine for a purpose; the team's only a lead may, that of a class every teacher. One without
// steps goes back to what stood before.
func (p Planning) SetRoutine(ctx context.Context, by Actor, v RoutineView) error {
	right := MayAgree
	if v.ClassID != "" {
		right = MayEdit
	}
	return change(ctx, p.desk, by, right, func(s planStore) error {
		if _, ok := lesson.PurposeOf(v.Purpose); !ok {
			return wrong("purpose", "“%s” is no purpose of a lesson.", v.Purpose)
		}
		if v.ClassID != "" {
			if _, err := s.Class(ctx, v.ClassID); err != nil {
				return wrong("class_id", "This class is not known.")
			}
		}
		if !v.Set && len(v.Routine.Steps) == 0 {
			return s.DropRoutine(ctx, v.Purpose, v.ClassID)
		}
		if err := steps.CheckRoutine(v.Routine); err != nil {
			return fault.At("steps", err)
		}
		return s.PutRoutine(ctx, v.Purpose, v.ClassID, v.Routine)
	})
}

// SetConventions replaces the team's conventions; only a lead may.
func (p Planning) SetConventions(ctx context.Context, by Actor, c card.Conventions) error {
	return change(ctx, p.desk, by, MayAgree, func(s planStore) error {
		c, err := checked(c)
		if err != nil {
			return err
		}
		now, err := conventionsOf(ctx, s)
		if err != nil {
			return err
		}
		c.Words = now.Words // they are kept one by one, see Stock
		return s.SetConventions(ctx, c)
	})
}

// checked are the conventions as they are stored, or what is wrong with them.
func checked(c card.Conventions) (card.Conventions, error) {
	if c.Paper == "" {
		c.Paper = "A4"
	}
	c.Departures, c.Allowed = slices.Clone(c.Departures), slices.Clone(c.Allowed)
	for i := range c.Departures {
		if err := departure(&c.Departures[i]); err != nil {
			return c, err
		}
	}
	for i, w := range c.Allowed {
		w = strings.ToLower(strings.TrimSpace(w))
		if _, refused := unfit.Of(w); !refused || strings.ContainsAny(w, " -") {
			return c, wrong(
				"allowed", "“%s” is not among the words that are kept from children; there is nothing to allow.", w,
			)
		}
		c.Allowed[i] = w
	}
	for _, w := range c.Words {
		if _, refused := unfit.Of(strings.ToLower(w.Word)); refused && !slices.Contains(c.Allowed, strings.ToLower(w.Word)) {
			return c, wrong("words", "“%s” is among the words that are kept from children.", w.Word)
		}
	}
	for i := range c.Says.Materials {
		m := &c.Says.Materials[i]
		if m.Name, m.Caution = strings.TrimSpace(m.Name), strings.TrimSpace(m.Caution); m.Name == "" || m.Caution == "" {
			return c, wrong("says", "A material of your own needs a name and what to watch for.")
		}
	}
	known := slices.Concat(cardstep.Materials(), c.Says.Materials)
	for _, m := range c.Materials {
		if !slices.ContainsFunc(known, func(k card.Material) bool { return k.Name == m }) {
			return c, wrong("materials", "“%s” is not among the materials, whose cautions are known.", m)
		}
	}
	if c.GlidesShort && strings.TrimSpace(c.GlideReason) == "" {
		return c, wrong("glide_reason", "Say in a few words why w and y are said short in this team.")
	}
	c.Lines = c.Lines.OrCommon()
	if field, text := c.Lines.Check(); field != "" {
		return c, wrong(field, "%s", text)
	}
	return c, nil
}

func departure(d *card.Departure) error {
	d.Word, d.Note = strings.ToLower(strings.TrimSpace(d.Word)), strings.TrimSpace(d.Note)
	if _, known := lexicon.Find(d.Word); !known {
		return wrong(
			"departures", "“%s” is not in the word list, so its sounds in another accent are not known.", d.Word,
		)
	}
	if _, err := phoneme.ParseAccent(string(d.Accent)); err != nil || d.Accent == "" {
		return wrong("departures", "Choose the accent in which the team says “%s”.", d.Word)
	}
	if d.Note == "" {
		return wrong("departures", "Say in a few words why “%s” departs from the team's accent.", d.Word)
	}
	return nil
}

// AccentChange is what another accent makes of a card. It is Sure where that accent has the pair.
type AccentChange struct {
	CardID string        `json:"card_id" format:"uuid"`
	Step   int           `json:"step"`
	Before spelling.Pair `json:"before"`
	After  spelling.Pair `json:"after"`
	Sure   bool          `json:"sure" doc:"false: the accent has no such pair; look at the card"`
}

// AccentChanges lists the cards whose sound another accent would change, or does not have, in the order of teaching.
func (p Planning) AccentChanges(ctx context.Context, by Actor, to phoneme.Accent) ([]AccentChange, error) {
	if _, err := phoneme.ParseAccent(string(to)); err != nil {
		return nil, fault.At("accent", err)
	}
	return read(ctx, p.desk, by, func(s planStore) ([]AccentChange, error) {
		team, err := conventionsOf(ctx, s)
		if err != nil {
			return nil, err
		}
		rows, err := s.Cards(ctx, false)
		out := []AccentChange{}
		for _, r := range rows {
			if r.Content.Accent != "" {
				continue // it has an accent of its own
			}
			c := AccentChange{
				CardID: r.CardID, Step: r.Step, Before: r.Core(team.Accent).Pair, After: r.Core(to).Pair,
			}
			c.Sure = slices.Contains(spelling.Sounds(to, c.After.Grapheme), c.After.Sound)
			if c.Before != c.After || !c.Sure {
				out = append(out, c)
			}
		}
		return out, err
	})
}

// Vocabulary is what the screens choose from.
type Vocabulary struct {
	Accents   []phoneme.AccentName `json:"accents" nullable:"false"`
	Purposes  []lesson.PurposeKind `json:"purposes" nullable:"false" doc:"what a lesson may be for"`
	Steps     []step.Record        `json:"steps" nullable:"false" doc:"the registry of kinds of steps"`
	Materials []card.Material      `json:"materials" nullable:"false"`
	Sheets    []render.Sheet       `json:"sheets" nullable:"false" doc:"what can be printed of a lesson"`
}

// TheVocabulary is the same for all teams.
func TheVocabulary() Vocabulary {
	return Vocabulary{phoneme.AccentNames(), lesson.Purposes(), steps.Registry(), cardstep.Materials(), render.Sheets()}
}

// Classes lists the team's classes and groups.
func (p Planning) Classes(ctx context.Context, by Actor) ([]store.Class, error) {
	return read(ctx, p.desk, by, func(s planStore) ([]store.Class, error) { return s.Classes(ctx) })
}

// NewClass adds a class or a group.
func (p Planning) NewClass(ctx context.Context, by Actor, name, kind string) (string, error) {
	return write(ctx, p.desk, by, MayTeach, func(s planStore) (string, error) {
		name, err := className(name)
		if err != nil {
			return "", err
		}
		id, err := s.CreateClass(ctx, name, kind)
		return id, nameTaken(err, name)
	})
}

// ClassCard is one card that a class has met.
type ClassCard struct {
	CardID   string        `json:"card_id" format:"uuid"`
	Pair     spelling.Pair `json:"pair"`
	Sure     int           `json:"sure" doc:"0 not yet, 1 shaky, 2 sure, 3 secure"`
	LastMet  time.Time     `json:"last_met"`
	Times    int           `json:"times" doc:"how often it was met"`
	Declared bool          `json:"declared" doc:"known because somebody said so; no lesson with it was logged"`
	Readable bool          `json:"readable" doc:"false: met, and not yet known"`
	// Kept is how likely the class still has it, from 0 to 1, by its meetings.
	Kept   float64       `json:"kept"`
	Fading review.Fading `json:"fading" enum:"fresh,holds,fades,faded,not met"`
	Due    time.Time     `json:"due" doc:"when nine tenths are left"`
}

// ClassView is a class with what it knows, and the next sound of the order.
type ClassView struct {
	store.Class
	Cards []ClassCard       `json:"cards" nullable:"false"`
	Next  string            `json:"next" doc:"card id, empty where the order is done"`
	Said  []store.KnownCard `json:"said" nullable:"false" doc:"cards that it is said to know"`
	Words []ClassWord       `json:"words" nullable:"false" doc:"exception words of the team's cards, and others that are known"`
	Focus []string          `json:"focus" nullable:"false" doc:"card ids that a group catches up on; none in a class"`
	From  []store.Source    `json:"from" nullable:"false" doc:"the classes of a group"`
}

// ClassWord is an exception word of the team.
type ClassWord struct {
	Word   string     `json:"word"`
	Step   int        `json:"step" doc:"of the order, with which it comes; 0 where it is on no card"`
	Known  bool       `json:"known"`
	SaidBy string     `json:"said_by" doc:"initials; empty where it came with a card"`
	SaidAt *time.Time `json:"said_at,omitempty"`
}

// Class returns a class.
func (p Planning) Class(ctx context.Context, by Actor, classID string) (ClassView, error) {
	return read(ctx, p.desk, by, func(s planStore) (ClassView, error) { return classView(ctx, s, classID, p.desk.now()) })
}

func classView(ctx context.Context, s knowledgeReader, classID string, now time.Time) (ClassView, error) {
	c, err := s.Class(ctx, classID)
	if err != nil {
		return ClassView{}, err
	}
	team, err := conventionsOf(ctx, s)
	if err != nil {
		return ClassView{}, err
	}
	v := ClassView{Class: c, Cards: []ClassCard{}, Words: []ClassWord{}, From: []store.Source{}}
	if v.Focus, err = s.Focus(ctx, classID); err != nil {
		return v, err
	}
	sources, err := s.Sources(ctx)
	if err != nil {
		return v, err
	}
	for _, from := range sources {
		if from.GroupID == classID {
			v.From = append(v.From, from)
		}
	}
	if v.Said, err = s.KnownCards(ctx, classID); err != nil {
		return v, err
	}
	known, err := classOf(ctx, s, team, classID)
	if err != nil {
		return v, err
	}
	v.Next = known.Next
	for _, k := range known.Met {
		v.Cards = append(v.Cards, ClassCard{
			k.Card.ID, k.Card.Pair, int(k.Seen.Sure), k.Seen.Last, k.Seen.Times, k.Declared, k.Readable,
			math.Round(k.Seen.Retrievability(now)*1000) / 1000, review.FadingOf(k.Seen.Retrievability(now)), k.Seen.Due(),
		})
	}
	said, err := s.KnownWords(ctx, classID)
	for w, at := range known.Coming {
		v.Words = append(v.Words, ClassWord{Word: w, Step: at})
	}
	for w := range known.Exceptions {
		word := ClassWord{Word: w, Known: true}
		for _, k := range said {
			if k.Word == w {
				at := k.SaidAt
				word.SaidBy, word.SaidAt = k.SaidBy, &at
			}
		}
		v.Words = append(v.Words, word)
	}
	slices.SortFunc(v.Words, func(a, b ClassWord) int {
		return cmp.Or(cmp.Compare(a.Step, b.Step), strings.Compare(a.Word, b.Word))
	})
	return v, err
}

// Declaration says what a class knows that nobody logged, or takes that back. UpTo is a step of the order: all cards up
// to it, 0 for none.
type Declaration struct {
	Known   bool     `json:"known" doc:"false: it does not know them, after all"`
	UpTo    int      `json:"up_to,omitempty" required:"false" minimum:"0" doc:"every card up to this step of the order"`
	CardIDs []string `json:"card_ids,omitempty" required:"false" maxItems:"200" nullable:"false"`
	Words   []string `json:"words,omitempty" required:"false" maxItems:"200" nullable:"false" doc:"exception words"`
}

// Declare notes what a class knows, with who said so and when.
func (p Planning) Declare(ctx context.Context, by Actor, classID string, d Declaration) error {
	return change(ctx, p.desk, by, MayTeach, func(s planStore) error {
		if _, err := s.Class(ctx, classID); err != nil {
			return err
		}
		cards := slices.Clone(d.CardIDs)
		if d.UpTo > 0 {
			rows, err := s.Cards(ctx, false)
			if err != nil {
				return err
			}
			for _, r := range rows {
				if r.Step <= d.UpTo {
					cards = append(cards, r.CardID)
				}
			}
		}
		var list []string
		for _, w := range d.Words {
			w = strings.ToLower(strings.TrimSpace(w))
			if w == "" || strings.ContainsAny(w, " ,") || len(w) > 24 {
				return wrong("words", "“%s” is not one word.", w)
			}
			list = append(list, w)
		}
		if len(cards)+len(list) == 0 {
			return wrong("card_ids", "Tick at least one card or word.")
		}
		err := s.DeclareCards(ctx, classID, cards, d.Known, by.MemberID, p.desk.now())
		if errors.Is(err, store.ErrNotFound) {
			return wrong("card_ids", "One of these cards is not known.")
		}
		if err != nil {
			return err
		}
		return s.DeclareWords(ctx, classID, list, d.Known, by.MemberID, p.desk.now())
	})
}
