package teaching

import (
	"cmp"
	"context"
	"errors"
	"slices"
	"time"

	"brightchalk/internal/core/assembly"
	"brightchalk/internal/core/fault"
	"brightchalk/internal/core/knowledge"
	"brightchalk/internal/core/lesson"
	"brightchalk/internal/core/pace"
	"brightchalk/internal/core/review"
	"brightchalk/internal/core/step"
	"brightchalk/internal/gather"
	"brightchalk/internal/planning"
	"brightchalk/internal/store"
	"brightchalk/internal/tx"
)

// Lessons assembles lessons, changes them and logs what was taught.
type Lessons struct{ Env tx.Env }

// LessonView is a stored lesson.
type LessonView struct {
	LessonID    string           `json:"lesson_id" format:"uuid"`
	ClassID     string           `json:"class_id" format:"uuid"`
	ClassName   string           `json:"class_name"`
	Revision    int              `json:"revision" doc:"sent back with each change"`
	CreatedBy   string           `json:"created_by"`
	CreatedAt   time.Time        `json:"created_at"`
	CardChanged bool             `json:"card_changed" doc:"one of its cards has changed since"`
	Logged      *store.LessonLog `json:"logged,omitempty" doc:"where it was taught"`
	Sure        []Sure           `json:"sure" doc:"how sure the class was, where it was taught"`
	Untouched   map[string]int   `json:"untouched" doc:"by card: how sure a meeting is in which nothing was unsure; 3 where the class was sure for long"`
	Lesson      lesson.Lesson    `json:"lesson"`
}

// view is a stored lesson with its log, and whether its cards have moved on.
func lessonView(ctx context.Context, s store.Library, id string) (LessonView, error) {
	l, err := s.Lesson(ctx, id)
	if err != nil {
		return LessonView{}, err
	}
	v := LessonView{
		LessonID: l.LessonID, ClassID: l.ClassID, ClassName: l.ClassName, Revision: l.Revision, CreatedBy: l.CreatedBy,
		CreatedAt: l.CreatedAt, Lesson: l.Snapshot, Sure: []Sure{},
	}
	agreed, err := s.AgreedContents(ctx)
	if err != nil {
		return v, err
	}
	for _, f := range l.Snapshot.Faces() {
		r, err := s.Card(ctx, f.ID)
		if err != nil && !errors.Is(err, store.ErrNotFound) {
			return v, err
		}
		newest := r.Version
		if f.Agreed {
			newest = gather.AgreedRow(r, agreed).Version
		}
		v.CardChanged = v.CardChanged || err == nil && newest != f.Version
	}
	rows, err := s.Log(ctx, l.ClassID)
	if err != nil {
		return v, err
	}
	v.Untouched = untouched(rows, l)
	g, err := s.LessonLog(ctx, id)
	if errors.Is(err, store.ErrNotFound) {
		return v, nil
	}
	v.Logged = &g
	for _, r := range rows {
		if r.LessonID == id {
			v.Sure = append(v.Sure, Sure{
				CardID: r.CardID, Sure: r.Sureness, Reading: r.Reading, Spelling: r.Spelling,
				Forming: r.Forming,
			})
		}
	}
	return v, err
}

// untouched is what each card of a lesson is logged as if nothing is noted of it, by its meetings in other lessons.
func untouched(rows []store.LogRow, l store.Lesson) map[string]int {
	seen := map[string]review.Seen{}
	for _, r := range rows {
		if r.LessonID != l.LessonID {
			seen[r.CardID] = review.Update(seen[r.CardID], r.MetAt, review.Sureness(r.Sureness))
		}
	}
	out := map[string]int{}
	for id := range l.Snapshot.Cards {
		out[id] = int(seen[id].Untouched())
	}
	return out
}

// LessonAsk is what a lesson is made from.
type LessonAsk struct {
	ClassID string         `json:"class_id" format:"uuid"`
	Purpose lesson.Purpose `json:"purpose" enum:"introduce,again,revise,compare,catch-up"`
	CardIDs []string       `json:"card_ids" maxItems:"12" doc:"its targets; none: by need"`
	Minutes int            `json:"minutes" doc:"4 to 60"`
}

// input gathers what a lesson depends on. Cards are taken in their agreed version where they have one, and all in the
// accent of the first target.
func (l Lessons) input(ctx context.Context, s store.Library, ask LessonAsk) (assembly.Input, error) {
	in := assembly.Input{Purpose: ask.Purpose, Minutes: ask.Minutes, Now: l.Env.Now()}
	team, err := gather.Conventions(ctx, s)
	if err != nil {
		return in, err
	}
	in.Conventions = team
	agreed, err := s.AgreedContents(ctx)
	if err != nil {
		return in, err
	}
	for i, id := range ask.CardIDs {
		r, err := s.Card(ctx, id)
		if errors.Is(err, store.ErrNotFound) {
			return in, fault.In("card_ids", "One of these cards is not known.")
		} else if err != nil {
			return in, err
		}
		if r = gather.AgreedRow(r, agreed); i == 0 {
			in.Conventions = r.Content.Conventions(team)
		}
		in.Targets = append(in.Targets, r.Core(in.Conventions.Accent))
	}
	if in.Class, err = gather.Knowledge(ctx, s, in.Conventions, ask.ClassID); err != nil {
		return in, err
	}
	if in.Routine, err = routineFor(ctx, s, ask.Purpose, ask.ClassID); err != nil {
		return in, err
	}
	times, err := readTimes(ctx, s)
	if err != nil {
		return in, err
	}
	in.Paces = pace.Ratios(learnt(times, ask.ClassID))
	return in, l.material(ctx, s, &in)
}

// material adds the team's pictures, letters, texts and clues.
func (l Lessons) material(ctx context.Context, s store.Library, in *assembly.Input) error {
	o, err := gather.Speech(ctx, s, in.Conventions)
	if err != nil {
		return err
	}
	in.Pictures = o.Pictures
	if in.Letters, err = s.OwnLetters(ctx); err != nil {
		return err
	}
	bank, err := s.Bank(ctx)
	if err != nil {
		return err
	}
	in.Bank = gather.LessonTexts(bank)
	in.Clues, err = readClues(ctx, s)
	return err
}

// routineFor is the routine of a class for a purpose: its own, else the team's, else ours.
func routineFor(ctx context.Context, s store.Library, p lesson.Purpose, classID string) (lesson.Routine, error) {
	kept, err := s.Routines(ctx)
	out := lesson.DefaultRoutine(p)
	for _, k := range kept {
		if k.Purpose == p && k.ClassID == "" {
			out = k.Routine
		}
	}
	for _, k := range kept {
		if k.Purpose == p && k.ClassID == classID && classID != "" {
			out = k.Routine
		}
	}
	return out, err
}

// Assemble makes and stores a lesson for a class.
func (l Lessons) Assemble(ctx context.Context, by tx.Actor, ask LessonAsk) (LessonView, error) {
	if err := by.Need(tx.MayTeach); err != nil {
		return LessonView{}, err
	}
	if ask.Purpose == lesson.CatchUp && len(ask.CardIDs) == 0 {
		var err error
		if ask.CardIDs, err = l.focus(ctx, by, ask.ClassID); err != nil {
			return LessonView{}, err
		}
	}
	var plan planning.PlannedLesson
	in, err := tx.Read(ctx, l.Env, by, func(s store.Library) (in assembly.Input, err error) {
		plan, err = planning.ReadPlan(ctx, s, ask.ClassID, l.Env.Now())
		if errors.Is(err, store.ErrNotFound) {
			return in, fault.In("class_id", "This class is not known.")
		} else if err != nil {
			return in, err
		}
		return l.input(ctx, s, ask)
	})
	if err != nil {
		return LessonView{}, err
	}
	in.Seed = l.Env.Seed()
	made, err := assemble(in)
	if err != nil {
		return LessonView{}, err
	}
	made.Planned = plan.For(ask.Purpose, ask.CardIDs)
	return tx.Write(ctx, l.Env, by, tx.MayTeach, func(s store.Library) (LessonView, error) {
		id, err := s.AddLesson(ctx, ask.ClassID, by.MemberID, made, l.Env.Now())
		if err != nil {
			return LessonView{}, err
		}
		return lessonView(ctx, s, id)
	})
}

// focus are the sounds of a group that catches up which it needs most; none where it has none of its own.
func (l Lessons) focus(ctx context.Context, by tx.Actor, groupID string) ([]string, error) {
	now := l.Env.Now()
	return tx.Read(ctx, l.Env, by, func(s store.Library) ([]string, error) {
		ids, err := s.Focus(ctx, groupID)
		if err != nil || len(ids) == 0 {
			return nil, err
		}
		conv, err := gather.Conventions(ctx, s)
		if err != nil {
			return nil, err
		}
		known, err := gather.Knowledge(ctx, s, conv, groupID)
		if err != nil {
			return nil, err
		}
		ids = needed(ids, known, now)
		return ids[:min(planning.MaxFocus, len(ids))], nil
	})
}

// needed sorts the sounds of a group, those that it needs most first.
func needed(ids []string, known knowledge.Class, now time.Time) []string {
	need := func(id string) float64 {
		k, met := known.Find(id)
		if !met {
			return 0
		}
		return planning.ShakyIn{Sure: int(k.Seen.Sure), Kept: k.Seen.Retrievability(now)}.Loss()
	}
	ids = slices.Clone(ids)
	slices.SortStableFunc(ids, func(a, b string) int { return cmp.Compare(need(b), need(a)) })
	return ids
}

// assemble names the field that a fault belongs to.
func assemble(in assembly.Input) (lesson.Lesson, error) {
	made, err := assembly.Assemble(in)
	fields := map[fault.Code]string{
		assembly.ErrMinutes: "minutes", assembly.ErrPurpose: "purpose", assembly.ErrTargets: "card_ids",
		assembly.ErrNothing: "class_id", step.ErrRoutine: "routine",
	}
	for code, field := range fields {
		if errors.Is(err, code) {
			return made, fault.At(field, err)
		}
	}
	return made, fault.At("card_ids", err)
}

// Lesson returns one lesson.
func (l Lessons) Lesson(ctx context.Context, by tx.Actor, id string) (LessonView, error) {
	return tx.Read(ctx, l.Env, by, func(s store.Library) (LessonView, error) { return lessonView(ctx, s, id) })
}

// lessonsAtOnce is how many rows of the list come at once.
const lessonsAtOnce = 30

// Lessons lists the newest lessons of a class, or of all, made before a time where it is given.
func (l Lessons) Lessons(
	ctx context.Context,
	by tx.Actor,
	classID string,
	before time.Time,
) ([]store.LessonRow, error) {
	return tx.Read(ctx, l.Env, by, func(s store.Library) ([]store.LessonRow, error) {
		var at *time.Time
		if !before.IsZero() {
			at = &before
		}
		return s.Lessons(ctx, classID, at, lessonsAtOnce)
	})
}

// ClassDay is where a class stands: one row of the lessons' page.
type ClassDay struct {
	store.Class
	Next     string   `json:"next" doc:"card id, empty where the order is done"`
	NextName string   `json:"next_name" doc:"its grapheme"`
	Due      []string `json:"due" doc:"card ids that the class is least sure of"`
	DueNames []string `json:"due_names"`
	// Again are cards that it forgot twice, and Focus those that a group catches up on.
	Again      []string   `json:"again" doc:"card ids that were forgotten twice"`
	AgainNames []string   `json:"again_names"`
	Focus      []string   `json:"focus" doc:"card ids that a group catches up on, those it needs most first"`
	FocusNames []string   `json:"focus_names"`
	LastTaught *time.Time `json:"last_taught,omitempty" doc:"where a lesson was logged"`
	LastName   string     `json:"last_name"`
	LastCard   string     `json:"last_card"`
}

const maxDue = 6

// Days tells where each class stands.
func (l Lessons) Days(ctx context.Context, by tx.Actor) ([]ClassDay, error) {
	return tx.Read(ctx, l.Env, by, func(s store.Library) ([]ClassDay, error) {
		classes, err := s.Classes(ctx)
		if err != nil {
			return nil, err
		}
		conv, err := gather.Conventions(ctx, s)
		if err != nil {
			return nil, err
		}
		library, err := gather.CardSources(ctx, s, conv)
		if err != nil {
			return nil, err
		}
		out := []ClassDay{}
		for _, c := range classes {
			d, err := l.day(ctx, s, library, c)
			if err != nil {
				return nil, err
			}
			out = append(out, d)
		}
		return out, nil
	})
}

func (l Lessons) day(ctx context.Context, s store.Library, library knowledge.Sources, c store.Class) (ClassDay, error) {
	d := ClassDay{
		Class: c, Due: []string{}, DueNames: []string{}, Again: []string{}, AgainNames: []string{}, Focus: []string{},
		FocusNames: []string{},
	}
	from, err := gather.AddClassLog(ctx, s, library, c.ClassID)
	if err != nil {
		return d, err
	}
	known := knowledge.Of(from)
	for _, k := range from.Cards {
		if k.ID == known.Next {
			d.Next, d.NextName = k.ID, k.Pair.Grapheme
		}
	}
	for _, k := range known.Due(maxDue) {
		d.Due, d.DueNames = append(d.Due, k.Card.ID), append(d.DueNames, k.Card.Pair.Grapheme)
	}
	for _, k := range known.Met {
		if k.Seen.Lapses >= planning.Forgotten && k.Seen.Sure <= review.Sure {
			d.Again, d.AgainNames = append(d.Again, k.Card.ID), append(d.AgainNames, k.Card.Pair.Grapheme)
		}
	}
	focus, err := s.Focus(ctx, c.ClassID)
	if err != nil {
		return d, err
	}
	for _, id := range needed(focus, known, l.Env.Now()) {
		if k, met := known.Find(id); met {
			d.Focus, d.FocusNames = append(d.Focus, id), append(d.FocusNames, k.Card.Pair.Grapheme)
		}
	}
	for _, e := range from.Log {
		if e.Introduced && (d.LastTaught == nil || !e.At.Before(*d.LastTaught)) {
			at := e.At
			k, _ := known.Find(e.CardID)
			d.LastTaught, d.LastName, d.LastCard = &at, k.Card.Pair.Grapheme, e.CardID
		}
	}
	return d, nil
}
