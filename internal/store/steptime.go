package store

import (
	"context"
	"time"
)

// StepTime is how long a step of a lesson was held, in seconds: as it was planned, as it would be planned for a class
// like any other, and as it was.
type StepTime struct {
	LessonID, StepID, ClassID, Kind string
	PlannedS, UsualS, TookS         int
	TaughtAt                        time.Time
}

var (
	stepTimeClear = change("step_time_clear")
	stepTimeAdd   = change("step_time_add")
	stepTimeList  = query[StepTime]("step_time_list")
)

// PutStepTimes replaces what is kept of a lesson that is logged.
func (l Library) PutStepTimes(ctx context.Context, lessonID string, list []StepTime) error {
	if _, _, err := stepTimeClear.count(ctx, l.db, l.with(args{"lesson_id": lessonID})); err != nil {
		return err
	}
	for _, t := range list {
		if err := stepTimeAdd.run(ctx, l.db, l.with(args{
			"lesson_id": lessonID, "step_id": t.StepID, "class_id": t.ClassID, "kind": t.Kind, "planned_s": t.PlannedS,
			"usual_s": t.UsualS, "took_s": t.TookS, "taught_at": t.TaughtAt,
		})); err != nil {
			return err
		}
	}
	return nil
}

// StepTimes lists the newest of the team.
func (l Library) StepTimes(ctx context.Context) ([]StepTime, error) {
	return stepTimeList.many(ctx, l.db, l.with(nil))
}
