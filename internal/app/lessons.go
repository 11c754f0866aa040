package app

import (
	"context"
	"errors"
	"strings"
	"time"

	"brightchalk/internal/core/card"
	"brightchalk/internal/core/fault"
	"brightchalk/internal/core/lesson"
	"brightchalk/internal/core/texts"
	"brightchalk/internal/store"
)

type introductionReader interface {
	Introduction(ctx context.Context, id string) (store.Introduction, error)
	RecentIntroductions(ctx context.Context) ([]store.RecentIntroduction, error)
}

type lessonStore interface {
	knowledgeReader
	letterReader
	pictureReader
	routineReader
	introductionReader
	Bank(ctx context.Context) ([]store.BankText, error)
	AddIntroduction(ctx context.Context, classID, by string, in lesson.Introduction, now time.Time) (string, error)
	UpdateIntroduction(ctx context.Context, id string, revision int, in lesson.Introduction, now time.Time) error
	AddLog(ctx context.Context, classID, introductionID, by string, r store.LogRow) error
}

// Lessons assembles introductions, changes them and logs what was taught.
type Lessons struct{ desk desk[lessonStore] }

// IntroductionView is a stored introduction.
type IntroductionView struct {
	IntroductionID string              `json:"introduction_id" format:"uuid"`
	ClassID        string              `json:"class_id" format:"uuid"`
	ClassName      string              `json:"class_name"`
	Revision       int                 `json:"revision" doc:"sent back with each change"`
	CreatedBy      string              `json:"created_by"`
	CreatedAt      time.Time           `json:"created_at"`
	CardChanged    bool                `json:"card_changed" doc:"the card has changed since"`
	Lesson         lesson.Introduction `json:"lesson"`
}

func introductionView(i store.Introduction) IntroductionView {
	newest := i.CardVersionNow
	if i.Snapshot.Agreed && i.AgreedVersion != nil {
		newest = *i.AgreedVersion
	}
	return IntroductionView{
		IntroductionID: i.IntroductionID, ClassID: i.ClassID, ClassName: i.ClassName, Revision: i.Revision,
		CreatedBy: i.CreatedBy, CreatedAt: i.CreatedAt, CardChanged: newest != i.Snapshot.Version, Lesson: i.Snapshot,
	}
}

// input gathers what an introduction depends on. Cards are taken in their agreed version where they have one, and all
// in the accent of the new one.
func input(ctx context.Context, s lessonStore, now time.Time, classID, cardID string) (lesson.Input, error) {
	in := lesson.Input{Now: now}
	var err error
	if in.Conventions, err = conventionsOf(ctx, s); err != nil {
		return in, err
	}
	o, err := speechOf(ctx, s, in.Conventions)
	if err != nil {
		return in, err
	}
	in.Pictures = o.Pictures
	if in.Routine, err = routineOf(ctx, s); err != nil {
		return in, err
	}
	if in.Letters, err = s.OwnLetters(ctx); err != nil {
		return in, err
	}
	bank, err := s.Bank(ctx)
	if err != nil {
		return in, err
	}
	in.Bank = bankOf(bank)
	return in, cardsOf(ctx, s, &in, classID, cardID)
}

// cardsOf adds the new card and those that the class has been taught.
func cardsOf(ctx context.Context, s lessonStore, in *lesson.Input, classID, cardID string) error {
	state, err := stateOf(ctx, s, classID)
	if err != nil {
		return err
	}
	rows, err := s.Cards(ctx, true)
	if err != nil {
		return err
	}
	agreed, err := s.AgreedContents(ctx)
	if err != nil {
		return err
	}
	byID := map[string]store.Card{}
	for _, r := range rows {
		in.Refused = append(in.Refused, r.Content.Rejected...)
		byID[r.CardID] = agreedRow(r, agreed)
	}
	target, ok := byID[cardID]
	if !ok {
		return store.ErrNotFound
	}
	var conv card.Conventions
	conv, in.Target = own(in.Conventions, target)
	for _, id := range state.introduced {
		if r, ok := byID[id]; ok && id != cardID {
			in.Taught = append(in.Taught, r.Core(conv.Accent))
			in.Exceptions = append(in.Exceptions, r.Content.Exceptions...)
		}
	}
	for _, seen := range state.seen {
		if seen.CardID != cardID {
			in.Log = append(in.Log, seen)
		}
	}
	return nil
}

// Assemble makes and stores an introduction of a card for a class.
func (l Lessons) Assemble(
	ctx context.Context,
	by Actor,
	classID, cardID string,
	minutes int,
) (IntroductionView, error) {
	return write(ctx, l.desk, by, MayTeach, func(s lessonStore) (IntroductionView, error) {
		if _, err := s.Class(ctx, classID); errors.Is(err, store.ErrNotFound) {
			return IntroductionView{}, wrong("class_id", "This class is not known.")
		} else if err != nil {
			return IntroductionView{}, err
		}
		in, err := input(ctx, s, l.desk.now(), classID, cardID)
		if err != nil {
			return IntroductionView{}, err
		}
		in.Minutes, in.Seed = minutes, l.desk.seed()
		made, err := assemble(in)
		if err != nil {
			return IntroductionView{}, err
		}
		id, err := s.AddIntroduction(ctx, classID, by.MemberID, made, l.desk.now())
		if err != nil {
			return IntroductionView{}, err
		}
		out, err := s.Introduction(ctx, id)
		return introductionView(out), err
	})
}

func assemble(in lesson.Input) (lesson.Introduction, error) {
	made, err := lesson.Assemble(in)
	if errors.Is(err, lesson.ErrMinutes) {
		err = fault.At("minutes", err)
	}
	return made, fault.At("routine", err)
}

// Introduction returns one introduction.
func (l Lessons) Introduction(ctx context.Context, by Actor, id string) (IntroductionView, error) {
	return read(ctx, l.desk, by, func(s lessonStore) (IntroductionView, error) {
		i, err := s.Introduction(ctx, id)
		return introductionView(i), err
	})
}

// Recent lists the newest introductions.
func (l Lessons) Recent(ctx context.Context, by Actor) ([]store.RecentIntroduction, error) {
	return read(ctx, l.desk, by, func(s lessonStore) ([]store.RecentIntroduction, error) {
		return s.RecentIntroductions(ctx)
	})
}

// change edits the snapshot of an introduction at the revision that the caller saw. conv are the conventions in the
// accent of its card.
func (l Lessons) change(
	ctx context.Context,
	by Actor,
	id string,
	revision int,
	f func(s lessonStore, i *store.Introduction, conv card.Conventions) error,
) (IntroductionView, error) {
	return write(ctx, l.desk, by, MayTeach, func(s lessonStore) (IntroductionView, error) {
		i, err := s.Introduction(ctx, id)
		if err != nil {
			return IntroductionView{}, err
		}
		team, err := conventionsOf(ctx, s)
		if err != nil {
			return IntroductionView{}, err
		}
		r, err := s.Card(ctx, i.CardID)
		if err != nil {
			return IntroductionView{}, err
		}
		if i.Revision != revision {
			return IntroductionView{}, store.ErrChanged
		}
		conv, _ := own(team, r)
		if err := f(s, &i, conv); err != nil {
			return IntroductionView{}, err
		}
		if err := s.UpdateIntroduction(ctx, id, revision, i.Snapshot, l.desk.now()); err != nil {
			return IntroductionView{}, err
		}
		out, err := s.Introduction(ctx, id)
		return introductionView(out), err
	})
}

// Swap puts the next best in a slot.
func (l Lessons) Swap(ctx context.Context, by Actor, id string, revision int, slot string) (IntroductionView, error) {
	swap := func(_ lessonStore, i *store.Introduction, conv card.Conventions) error {
		return fault.At("slot", lesson.Swap(&i.Snapshot, slot, conv.Speech()))
	}
	return l.change(ctx, by, id, revision, swap)
}

// mostSent is how many values are sent to a step at once.
const mostSent = 12

// Send puts words, a sentence or a page in a step of an introduction, where they stay on renewal. Words that
// the class cannot read yet are refused, but for made-up ones that it can.
func (l Lessons) Send(
	ctx context.Context,
	by Actor,
	id string,
	revision int,
	step lesson.Kind,
	values []string,
) (IntroductionView, error) {
	if len(values) == 0 || len(values) > mostSent {
		return IntroductionView{}, wrong("values", "Choose one to %d words to send.", mostSent)
	}
	send := func(s lessonStore, i *store.Introduction, conv card.Conventions) error {
		if step == lesson.Ear {
			return sendPictures(ctx, s, i, conv, values)
		}
		t, err := taughtOf(ctx, s, i.ClassID, i.CardID)
		if err != nil {
			return err
		}
		for _, v := range values {
			if err := t.canRead(v); err != nil {
				return err
			}
		}
		return noStep(lesson.Put(&i.Snapshot, step, values, "sent from the word box", t.conv.Speech()))
	}
	return l.change(ctx, by, id, revision, send)
}

func sendPictures(
	ctx context.Context,
	s lessonStore,
	i *store.Introduction,
	conv card.Conventions,
	values []string,
) error {
	for _, v := range values {
		if _, err := pictureOfWord(ctx, s, v); errors.Is(err, store.ErrNotFound) {
			return wrong("values", "There is no picture of “%s”.", v)
		} else if err != nil {
			return err
		}
	}
	o, err := speechOf(ctx, s, conv)
	if err != nil {
		return err
	}
	return noStep(lesson.PutEar(&i.Snapshot, values, "sent from the ear games", o))
}

func noStep(err error) error {
	if errors.Is(err, lesson.ErrNoStep) {
		return wrong(
			"step", "This introduction has no such step; add it to the routine, or give the lesson more time.",
		)
	}
	return err
}

// canRead says which word of a text cannot be read yet.
func (t taught) canRead(text string) error {
	for _, k := range texts.Check(text, t.set, t.exceptions, t.conv.Speech()).Tokens {
		if len(k.Untaught) > 0 && k.Status != texts.Exception {
			return wrong(
				"values", "“%s” cannot be read yet: %s is not taught.", k.Text, strings.Join(k.Untaught, ", "),
			)
		}
	}
	return nil
}

// Lock keeps a choice on renewal, or lets it go.
func (l Lessons) Lock(
	ctx context.Context,
	by Actor,
	id string,
	revision int,
	slot string,
	locked bool,
) (IntroductionView, error) {
	lock := func(_ lessonStore, i *store.Introduction, _ card.Conventions) error {
		for s := range i.Snapshot.Steps {
			for c := range i.Snapshot.Steps[s].Choices {
				if choice := &i.Snapshot.Steps[s].Choices[c]; choice.Slot == slot {
					choice.Locked = locked
					return nil
				}
			}
		}
		return wrong("slot", "There is no such choice in this introduction.")
	}
	return l.change(ctx, by, id, revision, lock)
}

// Renew assembles the introduction again, in so many minutes, from the cards and the log as they are now.
// Locked choices stay.
func (l Lessons) Renew(ctx context.Context, by Actor, id string, revision, minutes int) (IntroductionView, error) {
	renew := func(s lessonStore, i *store.Introduction, _ card.Conventions) error {
		in, err := input(ctx, s, l.desk.now(), i.ClassID, i.CardID)
		if err != nil {
			return err
		}
		in.Minutes, in.Seed, in.Locked = minutes, i.Snapshot.Seed, map[string]string{}
		for _, step := range i.Snapshot.Steps {
			for _, c := range step.Choices {
				if c.Locked {
					in.Locked[c.Slot] = c.Value
				}
			}
		}
		i.Snapshot, err = assemble(in)
		return err
	}
	return l.change(ctx, by, id, revision, renew)
}

// Sure is how sure a class was of a card.
type Sure struct {
	CardID string `json:"card_id" format:"uuid"`
	Sure   int    `json:"sure" minimum:"0" maximum:"3" doc:"0 not yet, 1 shaky, 2 sure, 3 secure"`
}

// Log notes that an introduction was taught: how far it went and how sure the class was of the new
// card and of the cards in the warm-up.
func (l Lessons) Log(ctx context.Context, by Actor, id, reached string, sure []Sure) error {
	return change(ctx, l.desk, by, MayTeach, func(s lessonStore) error {
		i, err := s.Introduction(ctx, id)
		if err != nil {
			return err
		}
		if len(sure) == 0 {
			return wrong("sure", "Say at least how sure the class was of the new sound.")
		}
		for _, k := range sure {
			if _, ok := i.Snapshot.Cards[k.CardID]; !ok {
				return wrong("sure", "One of the cards is not part of this introduction.")
			}
			row := store.LogRow{
				CardID: k.CardID, Introduced: k.CardID == i.CardID, Sureness: k.Sure, Reached: reached,
				MetAt: l.desk.now(),
			}
			if err := s.AddLog(ctx, i.ClassID, id, by.MemberID, row); err != nil {
				return err
			}
		}
		return nil
	})
}
