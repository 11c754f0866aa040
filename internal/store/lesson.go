package store

import (
	"context"
	"time"

	"brightchalk/internal/core/lesson"
)

// Lesson is a stored snapshot.
type Lesson struct {
	LessonID, ClassID, ClassName string
	Revision                     int
	Snapshot                     lesson.Lesson
	CreatedBy                    string
	CreatedAt                    time.Time
}

type lessonRow struct {
	LessonID, ClassID, ClassName string
	Revision                     int
	Snapshot                     []byte
	CreatedBy                    string
	CreatedAt                    time.Time
}

// LessonRow is a row of the list of lessons. Grapheme and sound are those of its first target.
type LessonRow struct {
	LessonID  string         `json:"lesson_id" format:"uuid"`
	ClassID   string         `json:"class_id" format:"uuid"`
	ClassName string         `json:"class_name"`
	Purpose   lesson.Purpose `json:"purpose" enum:"introduce,again,revise,compare,catch-up"`
	Grapheme  string         `json:"grapheme"`
	Sound     string         `json:"sound"`
	Targets   int            `json:"targets" doc:"how many sounds it is about"`
	Minutes   int            `json:"minutes"`
	CreatedAt time.Time      `json:"created_at"`
	TaughtAt  *time.Time     `json:"taught_at,omitempty" doc:"where it was taught"`
}

var (
	lessonAdd    = value[string]("lesson_add")
	lessonGet    = query[lessonRow]("lesson_get")
	lessonUpdate = change("lesson_update")
	lessonBack   = change("lesson_back")
	lessonList   = query[LessonRow]("lesson_list")
	lessonPlan   = query[PlannedLesson]("lesson_planned")
)

// PlannedLesson is a lesson that was made for a day.
type PlannedLesson struct {
	LessonID, ClassID string
	Date              string // 2026-12-07
}

// PlannedLessons lists the lessons of a class, or of all where it is empty, that were made for the days from first to
// last, by day and class. Of several lessons on the same for one class and day the newest is taken.
func (l Library) PlannedLessons(ctx context.Context, classID, first, last string, limit int) ([]PlannedLesson, error) {
	return lessonPlan.many(ctx, l.db, l.with(args{
		"class_id": nullable(classID), "first": first, "last": last, "max": limit,
	}))
}

// AddLesson stores a snapshot and returns its id. It needs at least one target.
func (l Library) AddLesson(ctx context.Context, classID, by string, in lesson.Lesson, now time.Time) (string, error) {
	snapshot, err := lesson.Documents.Write(in)
	if err != nil {
		return "", err
	}
	return lessonAdd.get(ctx, l.db, l.with(args{
		"class_id": classID, "card_id": in.Targets[0], "purpose": in.Purpose, "snapshot": snapshot, "by": nullable(by),
		"now": now,
	}))
}

// Lesson returns one lesson.
func (l Library) Lesson(ctx context.Context, id string) (Lesson, error) {
	r, err := lessonGet.one(ctx, l.db, l.with(args{"lesson_id": id}))
	if err != nil {
		return Lesson{}, err
	}
	snapshot, err := lesson.Documents.Read(r.Snapshot)
	return Lesson{r.LessonID, r.ClassID, r.ClassName, r.Revision, snapshot, r.CreatedBy, r.CreatedAt}, err
}

// UpdateLesson replaces the snapshot where the revision is still the one that was read; ErrChanged otherwise.
func (l Library) UpdateLesson(ctx context.Context, id string, revision int, in lesson.Lesson, now time.Time) error {
	snapshot, err := lesson.Documents.Write(in)
	if err != nil {
		return err
	}
	n, _, err := lessonUpdate.count(ctx, l.db, l.with(args{
		"lesson_id": id, "revision": revision, "snapshot": snapshot, "now": now,
	}))
	if err == nil && n == 0 {
		return ErrChanged
	}
	return err
}

// UndoLesson puts a lesson back as it was before its last change; a second time puts the change in again. ErrChanged
// where the revision is another one, or nothing was changed.
func (l Library) UndoLesson(ctx context.Context, id string, revision int, now time.Time) error {
	n, _, err := lessonBack.count(ctx, l.db, l.with(args{"lesson_id": id, "revision": revision, "now": now}))
	if err == nil && n == 0 {
		return ErrChanged
	}
	return err
}

// Lessons lists the newest lessons of a class, or of all where it is empty, made before a time where that is given.
func (l Library) Lessons(ctx context.Context, classID string, before *time.Time, most int) ([]LessonRow, error) {
	return lessonList.many(ctx, l.db, l.with(args{"class_id": nullable(classID), "before": before, "most": most}))
}
