package app

import (
	"brightchalk/internal/core/card"
	"brightchalk/internal/core/lesson"
	"brightchalk/internal/core/review"
	"brightchalk/internal/core/spelling"
	"brightchalk/internal/core/texts"
	"brightchalk/internal/store"
	"context"
	"errors"
	"slices"
	"strings"
	"time"

	"github.com/jackc/pgx/v5"
)

// Classes lists the team's classes and groups.
func (a *App) Classes(ctx context.Context, by Actor) ([]store.Class, error) {
	return store.Classes(ctx, a.Pool, by.TeamID)
}

// NewClass adds a class or a group.
func (a *App) NewClass(ctx context.Context, by Actor, name, kind string) (string, error) {
	if err := by.need(MayTeach); err != nil {
		return "", err
	}
	if name = strings.TrimSpace(name); name == "" {
		return "", wrong("name", "The class needs a name. Use the class's name, never a child's.")
	}
	id, err := store.CreateClass(ctx, a.Pool, by.TeamID, name, kind)
	if errors.Is(err, store.ErrTaken) {
		return "", wrong("name", "There is a class with this name already.")
	}
	return id, err
}

// classState is what the log says about a class.
type classState struct {
	introduced []string // card ids in the order in which they were met
	seen       []review.Seen
}

func (a *App) classState(ctx context.Context, db store.DB, teamID, classID string) (classState, error) {
	rows, err := store.Log(ctx, db, teamID, classID)
	if err != nil {
		return classState{}, err
	}
	var s classState
	at := map[string]int{}
	for _, r := range rows {
		i, ok := at[r.CardID]
		if !ok {
			i = len(s.seen)
			at[r.CardID] = i
			s.seen = append(s.seen, review.Seen{CardID: r.CardID})
		}
		s.seen[i] = review.Update(s.seen[i], r.MetAt, review.Sureness(r.Sureness))
		if r.Introduced && !slices.Contains(s.introduced, r.CardID) {
			s.introduced = append(s.introduced, r.CardID)
		}
	}
	return s, nil
}

// ClassCard is one taught card of a class.
type ClassCard struct {
	CardID  string        `json:"card_id"`
	Pair    spelling.Pair `json:"pair"`
	Sure    int           `json:"sure"` // 0 not yet, 1 shaky, 2 sure, 3 secure
	LastMet time.Time     `json:"last_met"`
	Times   int           `json:"times"`
}

// ClassView is a class with what it has been taught, and the next sound of the order.
type ClassView struct {
	store.Class
	Cards []ClassCard `json:"cards"`
	Next  string      `json:"next"` // card id, empty where the order is done
}

// Class returns a class.
func (a *App) Class(ctx context.Context, by Actor, classID string) (ClassView, error) {
	c, err := store.GetClass(ctx, a.Pool, by.TeamID, classID)
	if err != nil {
		return ClassView{}, err
	}
	s, err := a.classState(ctx, a.Pool, by.TeamID, classID)
	if err != nil {
		return ClassView{}, err
	}
	all, err := store.Cards(ctx, a.Pool, by.TeamID, false)
	if err != nil {
		return ClassView{}, err
	}
	conv, err := a.conventions(ctx, a.Pool, by.TeamID)
	if err != nil {
		return ClassView{}, err
	}
	v := ClassView{Class: c, Cards: []ClassCard{}}
	for _, r := range all {
		if !slices.Contains(s.introduced, r.CardID) {
			if v.Next == "" {
				v.Next = r.CardID
			}
			continue
		}
		for _, seen := range s.seen {
			if seen.CardID == r.CardID {
				v.Cards = append(v.Cards, ClassCard{r.CardID, r.Core(conv.Accent).Pair, int(seen.Sure), seen.Last, seen.Times})
			}
		}
	}
	return v, nil
}

// IntroductionView is a stored introduction.
type IntroductionView struct {
	IntroductionID string              `json:"introduction_id"`
	ClassID        string              `json:"class_id"`
	ClassName      string              `json:"class_name"`
	Revision       int                 `json:"revision"`
	CreatedBy      string              `json:"created_by"`
	CreatedAt      time.Time           `json:"created_at"`
	CardChanged    bool                `json:"card_changed"` // the card has changed since
	Lesson         lesson.Introduction `json:"lesson"`
}

func introductionView(i store.Introduction) IntroductionView {
	newest := i.CardVersionNow
	if i.Snapshot.Agreed && i.AgreedVersion != nil {
		newest = *i.AgreedVersion
	}
	return IntroductionView{
		i.IntroductionID,
		i.ClassID,
		i.ClassName,
		i.Revision,
		i.CreatedBy,
		i.CreatedAt,
		newest != i.Snapshot.Version,
		i.Snapshot,
	}
}

// input gathers what an introduction depends on. Cards are taken in their agreed version where they have one.
func (a *App) input(ctx context.Context, db store.DB, teamID, classID, cardID string) (lesson.Input, error) {
	in := lesson.Input{Now: a.Now()}
	team, err := store.GetTeam(ctx, db, teamID)
	if err != nil {
		return in, err
	}
	in.Conventions = team.Conventions
	o, err := speech(ctx, db, teamID, team.Conventions)
	if err != nil {
		return in, err
	}
	in.Pictures = o.Pictures
	if in.Routine, err = store.GetRoutine(ctx, db, teamID); errors.Is(err, store.ErrNotFound) {
		in.Routine = lesson.DefaultRoutine()
	} else if err != nil {
		return in, err
	}
	state, err := a.classState(ctx, db, teamID, classID)
	if err != nil {
		return in, err
	}
	rows, err := store.Cards(ctx, db, teamID, true)
	if err != nil {
		return in, err
	}
	agreed, err := store.AgreedContents(ctx, db, teamID)
	if err != nil {
		return in, err
	}
	if in.Letters, err = store.OwnLetters(ctx, db, teamID); err != nil {
		return in, err
	}
	bank, err := store.Bank(ctx, db, teamID)
	if err != nil {
		return in, err
	}
	for _, t := range bank {
		in.Bank = append(in.Bank, lesson.Text{Kind: t.Kind, Body: t.Body})
	}
	byID := map[string]card.Card{}
	for _, r := range rows {
		in.Refused = append(in.Refused, r.Content.Rejected...)
		byID[r.CardID] = withAgreed(r.Core(in.Conventions.Accent), agreed)
	}
	target, ok := byID[cardID]
	if !ok {
		return in, store.ErrNotFound
	}
	in.Target = target
	for _, id := range state.introduced {
		if c, ok := byID[id]; ok && id != cardID {
			in.Taught = append(in.Taught, c)
			in.Exceptions = append(in.Exceptions, c.Exceptions...)
		}
	}
	for _, s := range state.seen {
		if s.CardID != cardID {
			in.Log = append(in.Log, s)
		}
	}
	return in, nil
}

// Assemble makes and stores an introduction of a card for a class.
func (a *App) Assemble(ctx context.Context, by Actor, classID, cardID string, minutes int) (IntroductionView, error) {
	if err := by.need(MayTeach); err != nil {
		return IntroductionView{}, err
	}
	if _, err := store.GetClass(ctx, a.Pool, by.TeamID, classID); err != nil {
		return IntroductionView{}, wrong("class_id", "This class is not known.")
	}
	var out store.Introduction
	err := a.tx(ctx, func(tx pgx.Tx) error {
		in, err := a.input(ctx, tx, by.TeamID, classID, cardID)
		if err != nil {
			return err
		}
		in.Minutes, in.Seed = minutes, a.Seed()
		made, err := assemble(in)
		if err != nil {
			return err
		}
		id, err := store.AddIntroduction(ctx, tx, by.TeamID, classID, by.MemberID, made, a.Now())
		if err != nil {
			return err
		}
		out, err = store.GetIntroduction(ctx, tx, by.TeamID, id)
		return err
	})
	return introductionView(out), err
}

func assemble(in lesson.Input) (lesson.Introduction, error) {
	made, err := lesson.Assemble(in)
	switch {
	case errors.Is(err, lesson.ErrMinutes):
		return made, wrong("minutes", "%s.", capital(err.Error()))
	case errors.Is(err, lesson.ErrRoutine):
		return made, wrong("routine", "%s.", capital(err.Error()))
	}
	return made, err
}

// Introduction returns one introduction.
func (a *App) Introduction(ctx context.Context, by Actor, id string) (IntroductionView, error) {
	i, err := store.GetIntroduction(ctx, a.Pool, by.TeamID, id)
	return introductionView(i), err
}

// Recent lists the newest introductions.
func (a *App) Recent(ctx context.Context, by Actor) ([]store.RecentIntroduction, error) {
	return store.RecentIntroductions(ctx, a.Pool, by.TeamID)
}

// change edits the snapshot of an introduction at the revision that the caller saw.
func (a *App) change(
	ctx context.Context,
	by Actor,
	id string,
	revision int,
	f func(tx pgx.Tx, i *store.Introduction, conv card.Conventions) error,
) (IntroductionView, error) {
	if err := by.need(MayTeach); err != nil {
		return IntroductionView{}, err
	}
	var out store.Introduction
	err := a.tx(ctx, func(tx pgx.Tx) error {
		i, err := store.GetIntroduction(ctx, tx, by.TeamID, id)
		if err != nil {
			return err
		}
		conv, err := a.conventions(ctx, tx, by.TeamID)
		if err != nil {
			return err
		}
		if i.Revision != revision {
			return store.ErrChanged
		}
		if err := f(tx, &i, conv); err != nil {
			return err
		}
		if err := store.UpdateIntroduction(ctx, tx, by.TeamID, id, revision, i.Snapshot, a.Now()); err != nil {
			return err
		}
		out, err = store.GetIntroduction(ctx, tx, by.TeamID, id)
		return err
	})
	return introductionView(out), err
}

// Swap puts the next best in a slot.
func (a *App) Swap(ctx context.Context, by Actor, id string, revision int, slot string) (IntroductionView, error) {
	return a.change(ctx, by, id, revision, func(_ pgx.Tx, i *store.Introduction, conv card.Conventions) error {
		err := lesson.Swap(&i.Snapshot, slot, conv.Speech())
		if errors.Is(err, lesson.ErrNoNext) || errors.Is(err, lesson.ErrNoSlot) {
			return wrong("slot", "%s.", capital(err.Error()))
		}
		return err
	})
}

// Send puts words, a sentence or a page in a step of an introduction, where they stay on renewal. Words that
// the class cannot read yet are refused, but for made-up ones that it can.
func (a *App) Send(
	ctx context.Context,
	by Actor,
	id string,
	revision int,
	step lesson.Kind,
	values []string,
) (IntroductionView, error) {
	if len(values) == 0 || len(values) > 12 {
		return IntroductionView{}, wrong("values", "Choose one to twelve words to send.")
	}
	now, err := a.Introduction(ctx, by, id)
	if err != nil {
		return IntroductionView{}, err
	}
	t, _, err := a.asked(ctx, by, FindQuery{ClassID: now.ClassID, CardID: now.Lesson.CardID})
	if err != nil {
		return IntroductionView{}, err
	}
	return a.change(ctx, by, id, revision, func(_ pgx.Tx, i *store.Introduction, _ card.Conventions) error {
		if step == lesson.Ear {
			for _, v := range values {
				if _, err := a.WordPicture(ctx, by, v); err != nil {
					return wrong("values", "There is no picture of “%s”.", v)
				}
			}
			err := lesson.PutEar(&i.Snapshot, values, "sent from the ear games", t.conv.Speech())
			if errors.Is(err, lesson.ErrNoStep) {
				return wrong("step", "This introduction has no such step; add it to the routine, or give the lesson more time.")
			}
			return err
		}
		for _, v := range values {
			for _, k := range texts.Check(v, t.set, t.exceptions, t.conv.Speech()).Tokens {
				if len(k.Untaught) > 0 && k.Status != texts.Exception {
					return wrong(
						"values",
						"%s cannot be read yet: %s is not taught.",
						capital("“"+k.Text+"”"),
						strings.Join(k.Untaught, ", "),
					)
				}
			}
		}
		err := lesson.Put(&i.Snapshot, step, values, "sent from the word box", t.conv.Speech())
		if errors.Is(err, lesson.ErrNoStep) {
			return wrong("step", "This introduction has no such step; add it to the routine, or give the lesson more time.")
		}
		return err
	})
}

// Lock keeps a choice on renewal, or lets it go.
func (a *App) Lock(
	ctx context.Context,
	by Actor,
	id string,
	revision int,
	slot string,
	locked bool,
) (IntroductionView, error) {
	return a.change(ctx, by, id, revision, func(_ pgx.Tx, i *store.Introduction, _ card.Conventions) error {
		for s := range i.Snapshot.Steps {
			for c := range i.Snapshot.Steps[s].Choices {
				if choice := &i.Snapshot.Steps[s].Choices[c]; choice.Slot == slot {
					choice.Locked = locked
					return nil
				}
			}
		}
		return wrong("slot", "There is no such choice in this introduction.")
	})
}

// Renew assembles the introduction again, in so many minutes, from the cards and the log as they are now.
// Locked choices stay.
func (a *App) Renew(ctx context.Context, by Actor, id string, revision, minutes int) (IntroductionView, error) {
	return a.change(ctx, by, id, revision, func(tx pgx.Tx, i *store.Introduction, _ card.Conventions) error {
		in, err := a.input(ctx, tx, by.TeamID, i.ClassID, i.CardID)
		if err != nil {
			return err
		}
		in.Minutes, in.Seed, in.Locked = minutes, i.Snapshot.Seed, map[string]string{}
		for _, s := range i.Snapshot.Steps {
			for _, c := range s.Choices {
				if c.Locked {
					in.Locked[c.Slot] = c.Value
				}
			}
		}
		i.Snapshot, err = assemble(in)
		return err
	})
}

// Sure is how sure a class was of a card.
type Sure struct {
	CardID string `json:"card_id"`
	Sure   int    `json:"sure" minimum:"0" maximum:"3"`
}

// LogTaught notes that an introduction was taught: how far it went and how sure the class was of the new
// card and of the cards in the warm-up.
func (a *App) LogTaught(ctx context.Context, by Actor, id, reached string, sure []Sure) error {
	if err := by.need(MayTeach); err != nil {
		return err
	}
	return a.tx(ctx, func(tx pgx.Tx) error {
		i, err := store.GetIntroduction(ctx, tx, by.TeamID, id)
		if err != nil {
			return err
		}
		if len(sure) == 0 {
			return wrong("sure", "Say at least how sure the class was of the new sound.")
		}
		for _, s := range sure {
			if _, ok := i.Snapshot.Cards[s.CardID]; !ok {
				return wrong("sure", "One of the cards is not part of this introduction.")
			}
			row := store.LogRow{
				CardID:     s.CardID,
				Introduced: s.CardID == i.CardID,
				Sureness:   s.Sure,
				Reached:    reached,
				MetAt:      a.Now(),
			}
			if err := store.AddLog(ctx, tx, by.TeamID, i.ClassID, id, by.MemberID, row); err != nil {
				return err
			}
		}
		return nil
	})
}
