package curriculum

import (
	"context"
	"slices"
	"strings"

	"brightchalk/internal/core/convention"
	"brightchalk/internal/core/fault"
	"brightchalk/internal/core/lesson"
	"brightchalk/internal/core/lexicon"
	"brightchalk/internal/core/phoneme"
	"brightchalk/internal/core/spelling"
	"brightchalk/internal/core/step"
	"brightchalk/internal/core/step/kinds"
	"brightchalk/internal/core/unfit"
	"brightchalk/internal/gather"
	"brightchalk/internal/render"
	"brightchalk/internal/store"
	"brightchalk/internal/tx"
)

// Settings is what a team decides once: conventions and routines.
type Settings struct{ Env tx.Env }

// Team returns the actor's team.
func (t Settings) Team(ctx context.Context, by tx.Actor) (store.Team, error) {
	return tx.Read(ctx, t.Env, by, func(s store.Library) (store.Team, error) { return s.Team(ctx) })
}

// RoutineView is a routine for a purpose: that of a class, of the team, or ours.
type RoutineView struct {
	Purpose lesson.Purpose `json:"purpose" enum:"introduce,again,revise,compare,catch-up"`
	ClassID string         `json:"class_id" doc:"empty: the team's"`
	Set     bool           `json:"set" doc:"false: as it ships"`
	Routine lesson.Routine `json:"routine"`
}

// Routines lists the routines of the team for all purposes, and the variants of its classes.
func (t Settings) Routines(ctx context.Context, by tx.Actor) ([]RoutineView, error) {
	return tx.Read(ctx, t.Env, by, func(s store.Library) ([]RoutineView, error) {
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
func (t Settings) SetRoutine(ctx context.Context, by tx.Actor, v RoutineView) error {
	right := tx.MayAgree
	if v.ClassID != "" {
		right = tx.MayEdit
	}
	return tx.Exec(ctx, t.Env, by, right, func(s store.Library) error {
		if _, ok := lesson.FindPurpose(v.Purpose); !ok {
			return fault.In("purpose", "“%s” is no purpose of a lesson.", v.Purpose)
		}
		if v.ClassID != "" {
			if _, err := s.Class(ctx, v.ClassID); err != nil {
				return fault.In("class_id", "This class is not known.")
			}
		}
		if !v.Set && len(v.Routine.Steps) == 0 {
			return s.DropRoutine(ctx, v.Purpose, v.ClassID)
		}
		if err := kinds.Registry.CheckRoutine(v.Routine); err != nil {
			return fault.At("steps", err)
		}
		return s.PutRoutine(ctx, v.Purpose, v.ClassID, v.Routine)
	})
}

// SetConventions replaces the team's conventions; only a lead may.
func (t Settings) SetConventions(ctx context.Context, by tx.Actor, c convention.Conventions) error {
	return tx.Exec(ctx, t.Env, by, tx.MayAgree, func(s store.Library) error {
		c, err := CheckConventions(c)
		if err != nil {
			return err
		}
		now, err := gather.Conventions(ctx, s)
		if err != nil {
			return err
		}
		c.Words = now.Words // they are kept one by one, see Stock
		return s.SetConventions(ctx, c)
	})
}

// CheckConventions returns the conventions in the form in which they are stored, or what is wrong with them.
func CheckConventions(c convention.Conventions) (convention.Conventions, error) {
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
			return c, fault.In(
				"allowed", "“%s” is not among the words that are kept from children; there is nothing to allow.", w,
			)
		}
		c.Allowed[i] = w
	}
	for _, w := range c.Words {
		if _, refused := unfit.Of(strings.ToLower(w.Word)); refused &&
			!slices.Contains(c.Allowed, strings.ToLower(w.Word)) {
			return c, fault.In("words", "“%s” is among the words that are kept from children.", w.Word)
		}
	}
	for i := range c.Says.Materials {
		m := &c.Says.Materials[i]
		if m.Name, m.Caution = strings.TrimSpace(m.Name), strings.TrimSpace(m.Caution); m.Name == "" ||
			m.Caution == "" {
			return c, fault.In("says", "A material of your own needs a name and what to watch for.")
		}
	}
	known := slices.Concat(kinds.Materials(), c.Says.Materials)
	for _, m := range c.Materials {
		if !slices.ContainsFunc(known, func(k convention.Material) bool { return k.Name == m }) {
			return c, fault.In("materials", "“%s” is not among the materials, whose cautions are known.", m)
		}
	}
	if c.GlidesShort && strings.TrimSpace(c.GlideReason) == "" {
		return c, fault.In("glide_reason", "Say in a few words why w and y are said short in this team.")
	}
	c.Lines = c.Lines.OrCommon()
	if field, text := c.Lines.Check(); field != "" {
		return c, fault.In(field, "%s", text)
	}
	return c, nil
}

func departure(d *convention.Departure) error {
	d.Word, d.Note = strings.ToLower(strings.TrimSpace(d.Word)), strings.TrimSpace(d.Note)
	if _, known := lexicon.Find(d.Word); !known {
		return fault.In(
			"departures", "“%s” is not in the word list, so its sounds in another accent are not known.", d.Word,
		)
	}
	if _, err := phoneme.ParseAccent(string(d.Accent)); err != nil || d.Accent == "" {
		return fault.In("departures", "Choose the accent in which the team says “%s”.", d.Word)
	}
	if d.Note == "" {
		return fault.In("departures", "Say in a few words why “%s” departs from the team's accent.", d.Word)
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
func (t Settings) AccentChanges(ctx context.Context, by tx.Actor, to phoneme.Accent) ([]AccentChange, error) {
	if _, err := phoneme.ParseAccent(string(to)); err != nil {
		return nil, fault.At("accent", err)
	}
	return tx.Read(ctx, t.Env, by, func(s store.Library) ([]AccentChange, error) {
		team, err := gather.Conventions(ctx, s)
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
	Accents   []phoneme.AccentName  `json:"accents"`
	Purposes  []lesson.PurposeKind  `json:"purposes" doc:"what a lesson may be for"`
	Steps     []step.Record         `json:"steps" doc:"the registry of kinds of steps"`
	Materials []convention.Material `json:"materials"`
	Sheets    []render.Sheet        `json:"sheets" doc:"what can be printed of a lesson"`
}

// TheVocabulary is the same for all teams.
func TheVocabulary() Vocabulary {
	return Vocabulary{phoneme.AccentNames(), lesson.Purposes(), kinds.Registry.All(), kinds.Materials(), render.Sheets()}
}
