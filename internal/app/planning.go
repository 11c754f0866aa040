package app

import (
	"context"
	"errors"
	"slices"
	"strings"
	"time"

	"brightchalk/internal/core/card"
	"brightchalk/internal/core/fault"
	"brightchalk/internal/core/lesson"
	"brightchalk/internal/core/lexicon"
	"brightchalk/internal/core/phoneme"
	"brightchalk/internal/core/spelling"
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
	PutRoutine(ctx context.Context, r lesson.Routine) error
}

// Planning is what a team decides once and where its classes stand.
type Planning struct{ desk desk[planStore] }

// Team returns the actor's team.
func (p Planning) Team(ctx context.Context, by Actor) (store.Team, error) {
	return read(ctx, p.desk, by, func(s planStore) (store.Team, error) { return s.Team(ctx) })
}

// Routine returns the team's routine, the usual one where it has set none.
func (p Planning) Routine(ctx context.Context, by Actor) (lesson.Routine, error) {
	return read(ctx, p.desk, by, func(s planStore) (lesson.Routine, error) { return routineOf(ctx, s) })
}

func routineOf(ctx context.Context, s routineReader) (lesson.Routine, error) {
	r, err := s.Routine(ctx)
	if errors.Is(err, store.ErrNotFound) {
		return lesson.DefaultRoutine(), nil
	}
	return r, err
}

// SetRoutine replaces the team's routine; only a lead may.
func (p Planning) SetRoutine(ctx context.Context, by Actor, r lesson.Routine) error {
	return change(ctx, p.desk, by, MayAgree, func(s planStore) error {
		if err := r.Check(); err != nil {
			return fault.At("steps", err)
		}
		return s.PutRoutine(ctx, r)
	})
}

// SetConventions replaces the team's conventions; only a lead may.
func (p Planning) SetConventions(ctx context.Context, by Actor, c card.Conventions) error {
	return change(ctx, p.desk, by, MayAgree, func(s planStore) error {
		c, err := checked(c)
		if err != nil {
			return err
		}
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
	known := lesson.Materials()
	for _, m := range c.Materials {
		if !slices.ContainsFunc(known, func(k lesson.Material) bool { return k.Name == m }) {
			return c, wrong("materials", "“%s” is not among the materials, whose cautions are known.", m)
		}
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

// Vocabulary is what the screens choose from.
type Vocabulary struct {
	Accents   []phoneme.AccentName `json:"accents" nullable:"false"`
	Steps     []lesson.StepKind    `json:"steps" nullable:"false" doc:"kinds of steps, in the usual order"`
	Materials []lesson.Material    `json:"materials" nullable:"false"`
	Sheets    []render.Sheet       `json:"sheets" nullable:"false" doc:"what can be printed of an introduction"`
}

// TheVocabulary is the same for all teams.
func TheVocabulary() Vocabulary {
	return Vocabulary{phoneme.AccentNames(), lesson.StepKinds(), lesson.Materials(), render.Sheets()}
}

// Classes lists the team's classes and groups.
func (p Planning) Classes(ctx context.Context, by Actor) ([]store.Class, error) {
	return read(ctx, p.desk, by, func(s planStore) ([]store.Class, error) { return s.Classes(ctx) })
}

// NewClass adds a class or a group.
func (p Planning) NewClass(ctx context.Context, by Actor, name, kind string) (string, error) {
	return write(ctx, p.desk, by, MayTeach, func(s planStore) (string, error) {
		if name = strings.TrimSpace(name); name == "" {
			return "", wrong("name", "The class needs a name. Use the class's name, never a child's.")
		}
		id, err := s.CreateClass(ctx, name, kind)
		if errors.Is(err, store.ErrTaken) {
			return "", wrong("name", "There is a class with this name already.")
		}
		return id, err
	})
}

// ClassCard is one taught card of a class.
type ClassCard struct {
	CardID  string        `json:"card_id" format:"uuid"`
	Pair    spelling.Pair `json:"pair"`
	Sure    int           `json:"sure" doc:"0 not yet, 1 shaky, 2 sure, 3 secure"`
	LastMet time.Time     `json:"last_met"`
	Times   int           `json:"times" doc:"how often it was met"`
}

// ClassView is a class with what it has been taught, and the next sound of the order.
type ClassView struct {
	store.Class
	Cards []ClassCard `json:"cards" nullable:"false"`
	Next  string      `json:"next" doc:"card id, empty where the order is done"`
}

// Class returns a class.
func (p Planning) Class(ctx context.Context, by Actor, classID string) (ClassView, error) {
	return read(ctx, p.desk, by, func(s planStore) (ClassView, error) { return classView(ctx, s, classID) })
}

func classView(ctx context.Context, s knowledgeReader, classID string) (ClassView, error) {
	c, err := s.Class(ctx, classID)
	if err != nil {
		return ClassView{}, err
	}
	state, err := stateOf(ctx, s, classID)
	if err != nil {
		return ClassView{}, err
	}
	all, err := s.Cards(ctx, false)
	if err != nil {
		return ClassView{}, err
	}
	team, err := conventionsOf(ctx, s)
	if err != nil {
		return ClassView{}, err
	}
	v := ClassView{Class: c, Cards: []ClassCard{}}
	for _, r := range all {
		if !slices.Contains(state.introduced, r.CardID) {
			if v.Next == "" {
				v.Next = r.CardID
			}
			continue
		}
		_, k := own(team, r)
		for _, seen := range state.seen {
			if seen.CardID == r.CardID {
				v.Cards = append(v.Cards, ClassCard{r.CardID, k.Pair, int(seen.Sure), seen.Last, seen.Times})
			}
		}
	}
	return v, nil
}
