package teaching

import (
	"context"
	"errors"
	"slices"
	"strings"

	"brightchalk/internal/core/assembly"
	"brightchalk/internal/core/convention"
	"brightchalk/internal/core/fault"
	"brightchalk/internal/core/lesson"
	"brightchalk/internal/core/lexicon"
	"brightchalk/internal/core/step"
	"brightchalk/internal/core/step/kinds"
	"brightchalk/internal/core/texts"
	"brightchalk/internal/gather"
	"brightchalk/internal/store"
	"brightchalk/internal/tx"
)

// change edits the snapshot of a lesson at the revision that the caller saw.
func (l Lessons) change(
	ctx context.Context,
	by tx.Actor,
	id string,
	revision int,
	f func(s store.Library, i *store.Lesson, t *step.Narration) error,
) (LessonView, error) {
	return tx.Write(ctx, l.Env, by, tx.MayTeach, func(s store.Library) (LessonView, error) {
		i, err := s.Lesson(ctx, id)
		if err != nil {
			return LessonView{}, err
		}
		if i.Revision != revision {
			return LessonView{}, store.ErrChanged
		}
		conv, err := gather.Conventions(ctx, s)
		if err != nil {
			return LessonView{}, err
		}
		if len(i.Snapshot.Targets) > 0 {
			if r, err := s.Card(ctx, i.Snapshot.Targets[0]); err == nil {
				conv = r.Content.Conventions(conv)
			}
		}
		o, err := gather.Speech(ctx, s, conv)
		if err != nil {
			return LessonView{}, err
		}
		clues, err := readClues(ctx, s)
		if err != nil {
			return LessonView{}, err
		}
		t := &step.Narration{Lesson: &i.Snapshot, Conventions: conv, Speech: o, Clues: clues}
		if t.Wardrobe, err = readWardrobe(ctx, s, conv); err != nil {
			return LessonView{}, err
		}
		if err := f(s, &i, t); err != nil {
			return LessonView{}, err
		}
		assembly.Dress(&i.Snapshot, conv, t.Wardrobe)
		if err := s.UpdateLesson(ctx, id, revision, i.Snapshot, l.Env.Now()); err != nil {
			return LessonView{}, err
		}
		return lessonView(ctx, s, id)
	})
}

// readWardrobe is what words that come into a lesson are dressed from.
func readWardrobe(ctx context.Context, s store.Library, conv convention.Conventions) (step.FaceSource, error) {
	library, err := gather.CardSources(ctx, s, conv)
	if err != nil {
		return step.FaceSource{}, err
	}
	letters, err := s.OwnLetters(ctx)
	return step.FaceSource{Cards: library.Cards, Letters: letters}, err
}

// TakeBack puts a lesson back as it was before its last change.
func (l Lessons) TakeBack(ctx context.Context, by tx.Actor, id string, revision int) (LessonView, error) {
	return tx.Write(ctx, l.Env, by, tx.MayTeach, func(s store.Library) (LessonView, error) {
		if err := s.TakeBack(ctx, id, revision, l.Env.Now()); err != nil {
			return LessonView{}, err
		}
		return lessonView(ctx, s, id)
	})
}

// Swap puts the next best in a slot.
func (l Lessons) Swap(ctx context.Context, by tx.Actor, id string, revision int, slot string) (LessonView, error) {
	return l.change(ctx, by, id, revision, func(_ store.Library, _ *store.Lesson, t *step.Narration) error {
		return fault.At("slot", assembly.Swap(t, slot))
	})
}

// Remove takes an item out of its step.
func (l Lessons) Remove(ctx context.Context, by tx.Actor, id string, revision int, slot string) (LessonView, error) {
	return l.change(ctx, by, id, revision, func(_ store.Library, _ *store.Lesson, t *step.Narration) error {
		return fault.At("slot", assembly.Remove(t, slot))
	})
}

// Move puts an item to another place of its step.
func (l Lessons) Move(
	ctx context.Context,
	by tx.Actor,
	id string,
	revision int,
	slot string,
	to int,
) (LessonView, error) {
	return l.change(ctx, by, id, revision, func(_ store.Library, _ *store.Lesson, t *step.Narration) error {
		return fault.At("slot", assembly.Move(t, slot, to))
	})
}

// Bounds of what is written for a step by hand.
const (
	maxLines = 30
	maxLine  = 500
)

// Retext replaces what the adult says and the class does in a step; without lines they are written by rule again.
func (l Lessons) Retext(
	ctx context.Context,
	by tx.Actor,
	id string,
	revision int,
	stepID string,
	adult, class []string,
) (LessonView, error) {
	lines := slices.Concat(adult, class)
	if len(lines) > maxLines || slices.ContainsFunc(lines, func(t string) bool { return len([]rune(t)) > maxLine }) {
		return LessonView{}, fault.In("adult", "A step has up to %d lines of up to %d signs.", maxLines, maxLine)
	}
	return l.change(ctx, by, id, revision, func(_ store.Library, _ *store.Lesson, t *step.Narration) error {
		return fault.At("step", assembly.Retext(t, stepID, adult, class))
	})
}

// maxSent is how many values are sent to a step at once.
const maxSent = 12

// SendRequest is what is put in a step: words, pictures, sentences, a page, materials or texts. Add lays them behind
// what is there; else they take the places of what is not locked.
type SendRequest struct {
	Step   string          `json:"step"           maxLength:"40" doc:"id of a step of the lesson"`
	Kind   lesson.ItemKind `json:"kind,omitempty"                doc:"empty: what the step takes first" required:"false" enum:"word,picture,sentence,page,material,text,question"`
	Values []string        `json:"values"                                                                                                                                         maxItems:"40"`
	Add    bool            `json:"add,omitempty"                                                        required:"false"`
}

// Send puts something in a step of a lesson, where it stays on renewal. Words that the class cannot read yet are
// refused where they are to be read, but for made-up ones that it can.
func (l Lessons) Send(
	ctx context.Context,
	by tx.Actor,
	id string,
	revision int,
	sent SendRequest,
) (LessonView, error) {
	if len(sent.Values) == 0 || len(sent.Values) > maxSent {
		return LessonView{}, fault.In("values", "Choose one to %d things to send.", maxSent)
	}
	return l.change(ctx, by, id, revision, func(s store.Library, i *store.Lesson, t *step.Narration) error {
		at := slices.IndexFunc(i.Snapshot.Steps, func(k lesson.Step) bool { return k.ID == sent.Step })
		if at < 0 {
			return fault.In(
				"step",
				"This lesson has no such step; add it to the routine, or give the lesson more time.",
			)
		}
		kind := i.Snapshot.Steps[at].Kind
		rec, _ := kinds.Registry.Of(kind)
		if sent.Kind == "" && len(rec.Takes) > 0 {
			sent.Kind = rec.Takes[0]
		}
		if !kinds.Registry.Takes(kind, sent.Kind) {
			return fault.In("step", "The step %s takes nothing of this kind.", i.Snapshot.Steps[at].Name)
		}
		byKind := map[lesson.ItemKind][]string{}
		for _, v := range sent.Values {
			if v = strings.TrimSpace(v); v == "" {
				continue
			}
			as, err := l.itemKind(ctx, s, kind, sent.Kind, v)
			if err == nil {
				err = l.checkFits(ctx, s, i.Snapshot, kind, as, v, t)
			}
			if err != nil {
				return err
			}
			byKind[as] = append(byKind[as], v)
		}
		if len(byKind) == 0 {
			return fault.In("values", "There is nothing to put there.")
		}
		for _, as := range []lesson.ItemKind{sent.Kind, lesson.WordItem} {
			values := byKind[as]
			delete(byKind, as)
			if len(values) == 0 {
				continue
			}
			err := assembly.Put(t, sent.Step, as, values, sent.Add || as != sent.Kind, "put there by you")
			if err != nil {
				return fault.At("step", err)
			}
		}
		return nil
	})
}

// itemKind is what a value is sent as: in the ear game a word without a picture is said.
func (l Lessons) itemKind(
	ctx context.Context,
	s store.Library,
	kind lesson.Kind,
	wanted lesson.ItemKind,
	v string,
) (lesson.ItemKind, error) {
	if kind != lesson.Ear || wanted != lesson.PictureItem {
		return wanted, nil
	}
	_, err := gather.WordPicture(ctx, s, v)
	if errors.Is(err, store.ErrNotFound) && lexicon.IsWord(strings.ToLower(v)) {
		return lesson.WordItem, nil
	}
	if errors.Is(err, store.ErrNotFound) {
		err = nil
	}
	return wanted, err
}

// read are kinds of steps whose words children read or write; in others they are only heard.
var readIn = []lesson.Kind{
	lesson.Read, lesson.Spell, lesson.Older, lesson.MadeUp, lesson.Sentence, lesson.Page, lesson.WordPlay, lesson.Contrast,
}

const maxText = 2000

// checkFits says what is wrong with something that is put in a step.
func (l Lessons) checkFits(
	ctx context.Context,
	s store.Library,
	in lesson.Lesson,
	kind lesson.Kind,
	item lesson.ItemKind,
	v string,
	t *step.Narration,
) error {
	switch item {
	case lesson.PictureItem:
		if _, err := gather.WordPicture(ctx, s, v); errors.Is(err, store.ErrNotFound) {
			return fault.In("values", "There is no picture of “%s”.", v)
		} else if err != nil {
			return err
		}
		return nil
	case lesson.MaterialItem, lesson.TextItem, lesson.QuestionItem:
		if len([]rune(v)) > maxText {
			return fault.In("values", "A text has up to %d signs.", maxText)
		}
		return nil
	case lesson.WordItem:
		if strings.ContainsRune(v, ' ') {
			return fault.In("values", "“%s” is more than one word.", v)
		}
		if theme, refused := t.Speech.Refuses(strings.ToLower(v)); refused {
			return fault.In("values", "“%s” is kept from children (%s).", v, theme)
		}
	}
	report := texts.Check(v, in.Set(), in.KnownSet(), t.Speech)
	if len(report.Tokens) == 0 {
		return fault.In("values", "“%s” holds no word.", v)
	}
	if !slices.Contains(readIn, kind) || in.Set() == nil {
		return nil
	}
	for _, k := range report.Tokens {
		if len(k.Untaught) > 0 && k.Status != texts.Exception {
			return fault.In(
				"values",
				"“%s” cannot be read yet: %s is not taught.",
				k.Text,
				strings.Join(k.Untaught, ", "),
			)
		}
	}
	return nil
}

// Lock keeps an item on renewal, or lets it go.
func (l Lessons) Lock(
	ctx context.Context,
	by tx.Actor,
	id string,
	revision int,
	slot string,
	locked bool,
) (LessonView, error) {
	return l.change(ctx, by, id, revision, func(_ store.Library, i *store.Lesson, _ *step.Narration) error {
		for s := range i.Snapshot.Steps {
			for k := range i.Snapshot.Steps[s].Items {
				if it := &i.Snapshot.Steps[s].Items[k]; it.Slot == slot {
					it.Locked = locked
					return nil
				}
			}
		}
		return fault.In("slot", "There is no such choice in this lesson.")
	})
}

// Renew assembles the lesson again, in so many minutes, from the cards and the log as they are now. Locked items and
// texts written by hand stay.
func (l Lessons) Renew(ctx context.Context, by tx.Actor, id string, revision, minutes int) (LessonView, error) {
	return l.change(ctx, by, id, revision, func(s store.Library, i *store.Lesson, _ *step.Narration) error {
		ask := LessonAsk{
			ClassID: i.ClassID,
			Purpose: i.Snapshot.Purpose,
			CardIDs: i.Snapshot.Targets,
			Minutes: minutes,
		}
		in, err := l.input(ctx, s, ask)
		if err != nil {
			return err
		}
		in.Seed, in.Locked, in.Edited = i.Snapshot.Seed, map[string][]lesson.Item{}, map[string]lesson.Step{}
		for _, k := range i.Snapshot.Steps {
			for _, it := range k.Items {
				if it.Locked {
					in.Locked[k.ID] = append(in.Locked[k.ID], it)
				}
			}
			if k.Edited {
				in.Edited[k.ID] = k
			}
		}
		made, err := assemble(in)
		if err == nil {
			made.Planned = i.Snapshot.Planned
			i.Snapshot = made
		}
		return err
	})
}

const maxClue = 160

// SetClue keeps what a word means in the team's words, for this lesson and every one that is made from now on; an empty
// clue goes back to the plain one.
func (l Lessons) SetClue(
	ctx context.Context,
	by tx.Actor,
	id string,
	revision int,
	word, clue string,
) (LessonView, error) {
	if err := by.Need(tx.MayEdit); err != nil {
		return LessonView{}, err
	}
	word, clue = strings.ToLower(strings.TrimSpace(word)), strings.Join(strings.Fields(clue), " ")
	switch {
	case word == "" || len(word) > 40:
		return LessonView{}, fault.In("word", "Name one word.")
	case len([]rune(clue)) > maxClue:
		return LessonView{}, fault.In("clue", "A clue has up to %d signs.", maxClue)
	}
	return l.change(ctx, by, id, revision, func(s store.Library, i *store.Lesson, t *step.Narration) error {
		if err := s.PutClue(ctx, word, clue, by.MemberID, l.Env.Now()); err != nil {
			return err
		}
		t.Clues[word] = clue
		for k := range i.Snapshot.Steps {
			assembly.Reword(t, &i.Snapshot.Steps[k])
		}
		return nil
	})
}

// Speak says who speaks an item.
func (l Lessons) Speak(
	ctx context.Context,
	by tx.Actor,
	id string,
	revision int,
	slot string,
	v lesson.Voice,
) (LessonView, error) {
	return l.change(ctx, by, id, revision, func(_ store.Library, _ *store.Lesson, t *step.Narration) error {
		return fault.At("slot", assembly.Speak(t, slot, v))
	})
}

func readClues(ctx context.Context, s store.Library) (map[string]string, error) {
	kept, err := s.Clues(ctx)
	out := map[string]string{}
	for _, c := range kept {
		out[c.Word] = c.Clue
	}
	return out, err
}
