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

// EditKind is what an edit does.
type EditKind string

// Kinds of edits.
const (
	SwapItem   EditKind = "swap"   // Slot: put the next best there
	RemoveItem EditKind = "remove" // Slot
	LockItem   EditKind = "lock"   // Slot, Locked: keep it on renewal
	MoveItem   EditKind = "move"   // Slot, To
	SetVoice   EditKind = "voice"  // Slot, Voice: who speaks it
	SetClue    EditKind = "clue"   // Word, Clue: what it means, here and in lessons to come
	SetText    EditKind = "text"   // Step, Adult, Class: both empty is by rule again
	SendItems  EditKind = "send"   // Step, Item, Values, Add
	Renew      EditKind = "renew"  // Minutes: assemble it again from the cards and the log of now
	Undo       EditKind = "undo"   // put it back as it was before its last edit
)

// Edit is one change of a lesson. It applies to one revision, so that one that is sent twice counts once.
type Edit struct {
	Revision int             `json:"revision" doc:"that the edit began from; for undo, that it left behind"`
	Do       EditKind        `json:"do" enum:"swap,remove,lock,move,voice,clue,text,send,renew,undo"`
	Slot     string          `json:"slot,omitempty" maxLength:"40" doc:"of an item: swap, remove, lock, move, voice"`
	Locked   bool            `json:"locked,omitempty" doc:"lock: keep it, or let it go"`
	To       int             `json:"to,omitempty" minimum:"0" doc:"move: place in the step, from 0"`
	Voice    lesson.Voice    `json:"voice,omitempty" enum:",adult,both,class,silently" doc:"voice: empty is the class, as usual"`
	Word     string          `json:"word,omitempty" maxLength:"40" doc:"clue"`
	Clue     string          `json:"clue,omitempty" maxLength:"400" doc:"clue: empty is the plain one again"`
	Step     string          `json:"step,omitempty" maxLength:"40" doc:"id of a step: text, send"`
	Adult    []string        `json:"adult,omitempty" maxItems:"30" doc:"text"`
	Class    []string        `json:"class,omitempty" maxItems:"30" doc:"text"`
	Item     lesson.ItemKind `json:"item,omitempty" enum:"word,picture,sentence,page,material,text,question" doc:"send: empty is what the step takes first"`
	Values   []string        `json:"values,omitempty" maxItems:"40" doc:"send: words, pictures, sentences, a page, materials or texts"`
	Add      bool            `json:"add,omitempty" doc:"send: lay them behind what is there; else they take the places of what is not locked"`
	Minutes  int             `json:"minutes,omitempty" doc:"renew: 4 to 60"`
}

// Edit applies an edit to a lesson and returns it. store.ErrChanged says that the lesson has another revision.
func (l Lessons) Edit(ctx context.Context, by tx.Actor, id string, e Edit) (LessonView, error) {
	if e.Do == Undo {
		return tx.Write(ctx, l.Env, by, tx.MayTeach, func(s store.Library) (LessonView, error) {
			if err := s.UndoLesson(ctx, id, e.Revision, l.Env.Now()); err != nil {
				return LessonView{}, err
			}
			return lessonView(ctx, s, id)
		})
	}
	return l.change(ctx, by, id, e.Revision, func(s store.Library, i *store.Lesson, t *step.Narration) error {
		switch e.Do {
		case SwapItem:
			return fault.At("slot", assembly.Swap(t, e.Slot))
		case RemoveItem:
			return fault.At("slot", assembly.Remove(t, e.Slot))
		case LockItem:
			return lock(&i.Snapshot, e.Slot, e.Locked)
		case MoveItem:
			return fault.At("slot", assembly.Move(t, e.Slot, e.To))
		case SetVoice:
			return fault.At("slot", assembly.Speak(t, e.Slot, e.Voice))
		case SetClue:
			return l.setClue(ctx, s, by, i, t, e)
		case SetText:
			return retext(t, e)
		case SendItems:
			return l.send(ctx, s, i, t, e)
		case Renew:
			return l.renew(ctx, s, i, e.Minutes)
		}
		return fault.In("do", "There is no such edit.")
	})
}

// Bounds of what is written for a step by hand.
const (
	maxLines = 30
	maxLine  = 500
)

// retext replaces what the adult says and the class does in a step; without lines they are written by rule again.
func retext(t *step.Narration, e Edit) error {
	lines := slices.Concat(e.Adult, e.Class)
	if len(lines) > maxLines || slices.ContainsFunc(lines, func(t string) bool { return len([]rune(t)) > maxLine }) {
		return fault.In("adult", "A step has up to %d lines of up to %d signs.", maxLines, maxLine)
	}
	return fault.At("step", assembly.Retext(t, e.Step, e.Adult, e.Class))
}

// maxSent is how many values are sent to a step at once.
const maxSent = 12

// send puts values in a step of a lesson, where they stay on renewal. Words that the class cannot read yet are refused
// where they are to be read, but for made-up ones that it can.
func (l Lessons) send(ctx context.Context, s store.Library, i *store.Lesson, t *step.Narration, e Edit) error {
	if len(e.Values) == 0 || len(e.Values) > maxSent {
		return fault.In("values", "Choose one to %d things to send.", maxSent)
	}
	at := slices.IndexFunc(i.Snapshot.Steps, func(k lesson.Step) bool { return k.ID == e.Step })
	if at < 0 {
		return fault.In("step", "This lesson has no such step; add it to the routine, or give the lesson more time.")
	}
	kind := i.Snapshot.Steps[at].Kind
	rec, _ := kinds.Registry.Of(kind)
	if e.Item == "" && len(rec.Takes) > 0 {
		e.Item = rec.Takes[0]
	}
	if !kinds.Registry.Takes(kind, e.Item) {
		return fault.In("step", "The step %s takes nothing of this kind.", i.Snapshot.Steps[at].Name)
	}
	byKind := map[lesson.ItemKind][]string{}
	for _, v := range e.Values {
		if v = strings.TrimSpace(v); v == "" {
			continue
		}
		as, err := l.itemKind(ctx, s, kind, e.Item, v)
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
	for _, as := range []lesson.ItemKind{e.Item, lesson.WordItem} {
		values := byKind[as]
		delete(byKind, as)
		if len(values) == 0 {
			continue
		}
		if err := assembly.Put(t, e.Step, as, values, e.Add || as != e.Item, "put there by you"); err != nil {
			return fault.At("step", err)
		}
	}
	return nil
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

// lock keeps an item on renewal, or lets it go.
func lock(in *lesson.Lesson, slot string, locked bool) error {
	for s := range in.Steps {
		for k := range in.Steps[s].Items {
			if it := &in.Steps[s].Items[k]; it.Slot == slot {
				it.Locked = locked
				return nil
			}
		}
	}
	return fault.In("slot", "There is no such choice in this lesson.")
}

// renew assembles the lesson again, in so many minutes, from the cards and the log as they are now. Locked items and
// texts written by hand stay.
func (l Lessons) renew(ctx context.Context, s store.Library, i *store.Lesson, minutes int) error {
	in, err := l.input(ctx, s, LessonAsk{
		ClassID: i.ClassID, Purpose: i.Snapshot.Purpose, CardIDs: i.Snapshot.Targets, Minutes: minutes,
	})
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
}

const maxClue = 160

// setClue keeps what a word means in the team's words, for this lesson and every one that is made from now on; an empty
// clue goes back to the plain one.
func (l Lessons) setClue(
	ctx context.Context, s store.Library, by tx.Actor, i *store.Lesson, t *step.Narration, e Edit,
) error {
	if err := by.Need(tx.MayEdit); err != nil {
		return err
	}
	word, clue := strings.ToLower(strings.TrimSpace(e.Word)), strings.Join(strings.Fields(e.Clue), " ")
	switch {
	case word == "" || len(word) > 40:
		return fault.In("word", "Name one word.")
	case len([]rune(clue)) > maxClue:
		return fault.In("clue", "A clue has up to %d signs.", maxClue)
	}
	if err := s.PutClue(ctx, word, clue, by.MemberID, l.Env.Now()); err != nil {
		return err
	}
	t.Clues[word] = clue
	for k := range i.Snapshot.Steps {
		assembly.Reword(t, &i.Snapshot.Steps[k])
	}
	return nil
}

func readClues(ctx context.Context, s store.Library) (map[string]string, error) {
	kept, err := s.Clues(ctx)
	out := map[string]string{}
	for _, c := range kept {
		out[c.Word] = c.Clue
	}
	return out, err
}
