package teaching

import (
	"context"
	"math"
	"slices"
	"time"

	"brightchalk/internal/core/fault"
	"brightchalk/internal/core/lesson"
	"brightchalk/internal/core/pace"
	"brightchalk/internal/core/step/kinds"
	"brightchalk/internal/store"
	"brightchalk/internal/tx"
)

// putTimes keeps how long the steps of a lesson were held. A log that is corrected without times keeps those it had.
func putTimes(ctx context.Context, s store.Library, l store.Lesson, t Taught, at time.Time) error {
	if len(t.Took) == 0 {
		return nil
	}
	var list []store.StepTime
	for _, k := range t.Took {
		i := slices.IndexFunc(l.Snapshot.Steps, func(x lesson.Step) bool { return x.ID == k.StepID })
		if i < 0 {
			return fault.In("took", "This lesson has no step %s.", k.StepID)
		}
		if slices.ContainsFunc(list, func(x store.StepTime) bool { return x.StepID == k.StepID }) {
			return fault.In("took", "The step %s stands there twice.", k.StepID)
		}
		step := l.Snapshot.Steps[i]
		if slices.Contains(t.Skipped, k.StepID) || step.Seconds < 1 {
			continue
		}
		usual := step.Seconds
		if step.Pace > 0 {
			usual = max(1, int(math.Round(float64(step.Seconds)/step.Pace)))
		}
		list = append(list, store.StepTime{
			StepID: k.StepID, ClassID: l.ClassID, Kind: string(step.Kind), PlannedS: step.Seconds, UsualS: usual,
			TookS: k.Seconds, TaughtAt: at,
		})
	}
	return s.PutStepTimes(ctx, l.LessonID, list)
}

func readTimes(ctx context.Context, s store.Library) ([]pace.Time, error) {
	rows, err := s.StepTimes(ctx)
	return heldTimes(rows), err
}

// heldTimes are stored times as the core learns from them.
func heldTimes(rows []store.StepTime) []pace.Time {
	var out []pace.Time
	for _, r := range rows {
		out = append(out, pace.Time{
			ClassID: r.ClassID, LessonID: r.LessonID, Kind: lesson.Kind(r.Kind), UsualSeconds: r.UsualS, TookSeconds: r.TookS,
		})
	}
	return out
}

// plain is how far a learned pace must be from the usual to change a plan.
const plain = 0.04

// learnt are the estimates of a class that change its plans.
func learnt(times []pace.Time, classID string) []pace.Estimate {
	return slices.DeleteFunc(pace.Learn(times, classID), func(e pace.Estimate) bool {
		return e.From == pace.Usual || math.Abs(e.Ratio-1) < plain
	})
}

// StepPace is how long a kind of step takes in a class.
type StepPace struct {
	pace.Estimate
	Name    string `json:"name"`
	Used    bool   `json:"used" doc:"the next plan goes by it"`
	Planned int    `json:"planned_s" doc:"seconds that were planned, the middle one of its lessons"`
	Took    int    `json:"took_s" doc:"seconds that it took, the middle one"`
}

// HeldLesson is a lesson beside its plan.
type HeldLesson struct {
	LessonID string    `json:"lesson_id" format:"uuid"`
	TaughtAt time.Time `json:"taught_at"`
	Planned  int       `json:"planned_s" doc:"of the steps that were held"`
	Took     int       `json:"took_s"`
}

// Times are plans and reality of a class.
type Times struct {
	Steps   []StepPace   `json:"steps"`
	Lessons []HeldLesson `json:"lessons" doc:"the newest first"`
	Over    int          `json:"over_s" doc:"by how many seconds its lessons run over, the middle one of the newest; 0 where they do not"`
	Drop    []string     `json:"drop" doc:"names of the steps to leave out so that they fit, those needed least first"`
}

const (
	lessonsShown = 12
	overCounts   = 5  // so many lessons must have been held before it is said that they always run over
	overSlack    = 60 // seconds
)

// Times lays the plans of a class beside what its lessons took, and says what to drop where they always run over.
func (l Lessons) Times(ctx context.Context, by tx.Actor, classID string) (Times, error) {
	rows, err := tx.Read(ctx, l.Env, by, func(s store.Library) ([]store.StepTime, error) {
		if _, err := s.Class(ctx, classID); err != nil {
			return nil, err
		}
		return s.StepTimes(ctx)
	})
	if err != nil {
		return Times{}, err
	}
	out := Times{Steps: []StepPace{}, Lessons: []HeldLesson{}, Drop: []string{}}
	all := heldTimes(rows)
	seconds := map[lesson.Kind][2][]int{}
	for _, r := range rows {
		if r.ClassID != classID {
			continue
		}
		kind := lesson.Kind(r.Kind)
		both := seconds[kind]
		both[0], both[1] = append(both[0], r.PlannedS), append(both[1], r.TookS)
		seconds[kind] = both
		out.add(r)
	}
	used := pace.Ratios(learnt(all, classID))
	for _, e := range pace.Learn(all, classID) {
		if e.Lessons == 0 {
			continue
		}
		rec, _ := kinds.Registry.Of(e.Kind)
		e.Ratio = math.Round(e.Ratio*100) / 100
		_, is := used[e.Kind]
		out.Steps = append(out.Steps, StepPace{e, rec.Name, is, middle(seconds[e.Kind][0]), middle(seconds[e.Kind][1])})
	}
	out.judge(seconds)
	out.Lessons = out.Lessons[:min(lessonsShown, len(out.Lessons))]
	return out, nil
}

func (t *Times) add(r store.StepTime) {
	if n := len(t.Lessons); n == 0 || t.Lessons[n-1].LessonID != r.LessonID {
		t.Lessons = append(t.Lessons, HeldLesson{LessonID: r.LessonID, TaughtAt: r.TaughtAt})
	}
	h := &t.Lessons[len(t.Lessons)-1]
	h.Planned += r.PlannedS
	h.Took += r.TookS
}

// judge says by how much the newest lessons run over, and what to leave out.
func (t *Times) judge(seconds map[lesson.Kind][2][]int) {
	if len(t.Lessons) < overCounts {
		return
	}
	var over []int
	runs := 0
	for _, h := range t.Lessons[:overCounts] {
		if over = append(over, h.Took-h.Planned); h.Took-h.Planned > overSlack {
			runs++
		}
	}
	if runs < overCounts-1 {
		return
	}
	t.Over = middle(over)
	var order []lesson.Kind
	for k := range seconds {
		order = append(order, k)
	}
	slices.SortFunc(order, func(a, b lesson.Kind) int {
		x, _ := kinds.Registry.Of(a)
		y, _ := kinds.Registry.Of(b)
		return x.Rank - y.Rank
	})
	left := t.Over
	for _, k := range order {
		if left <= overSlack/2 {
			return
		}
		rec, _ := kinds.Registry.Of(k)
		t.Drop = append(t.Drop, rec.Name)
		left -= middle(seconds[k][1])
	}
}

// middle is the median, the lower of two.
func middle(list []int) int {
	if len(list) == 0 {
		return 0
	}
	return slices.Sorted(slices.Values(list))[(len(list)-1)/2]
}
