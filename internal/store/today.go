package store

import (
	"context"
	"time"

	"brightchalk/internal/core/lesson"
)

// LastLesson is the lesson that a class was taught last, with the ids and the names of its steps.
type LastLesson struct {
	ClassID, LessonID string
	TaughtAt          time.Time
	Reached           string
	Skipped           []string
	Purpose           lesson.Purpose
	IDs               []string `db:"ids"`
	Names             []string
}

// LeftLesson is a lesson that was made and not logged.
type LeftLesson struct {
	LessonRow
	Begun bool `json:"begun" doc:"it was on the stage"`
}

// Teaches is who teaches a class.
type Teaches struct {
	ClassID string `json:"class_id" format:"uuid"`
	Reader
}

var (
	teacherList  = query[Teaches]("teacher_list")
	teacherClear = change("teacher_clear")
	teacherAdd   = change("teacher_add")
	lastLessons  = query[LastLesson]("last_lessons")
	lessonsLeft  = query[LeftLesson]("lessons_left")
)

// Teachers lists who teaches which class.
func (l Library) Teachers(ctx context.Context) ([]Teaches, error) {
	return teacherList.many(ctx, l.db, l.with(nil))
}

// SetTeachers says who teaches a class; who is not of the team is left out.
func (l Library) SetTeachers(ctx context.Context, classID string, members []string) error {
	a := args{"class_id": classID, "members": members}
	if _, _, err := teacherClear.count(ctx, l.db, l.with(a)); err != nil {
		return err
	}
	_, _, err := teacherAdd.count(ctx, l.db, l.with(a))
	return err
}

// LastLessons are the lessons that the classes were taught last.
func (l Library) LastLessons(ctx context.Context) ([]LastLesson, error) {
	return lastLessons.many(ctx, l.db, l.with(nil))
}

// LeftLessons lists what was made since a time and not logged, the newest first.
func (l Library) LeftLessons(ctx context.Context, since time.Time) ([]LeftLesson, error) {
	return lessonsLeft.many(ctx, l.db, l.with(args{"since": since}))
}
