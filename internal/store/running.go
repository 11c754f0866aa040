package store

import (
	"context"
	"crypto/sha256"
	"encoding/json"
	"errors"
	"time"

	"brightchalk/internal/core/running"
)

// Kinds of events of a desk that joins by a code.
const (
	DeskJoined  EventKind = "desk-joined"
	DeskRefused EventKind = "desk-refused"
)

// Pass lets a phone be the desk of one lesson, as the member who asked for it.
type Pass struct{ PassID, TeamID, LessonID, MemberID string }

// Refusals are the wrong codes since a time: from an address of the network, and from all.
type Refusals struct {
	Here, All int
	First     time.Time
}

var (
	runBegin     = change("run_begin")
	runGet       = value[[]byte]("run_get")
	runHold      = value[[]byte]("run_hold")
	runPut       = change("run_put")
	passAdd      = value[string]("pass_add")
	passTake     = query[Pass]("pass_take")
	passStands   = value[bool]("pass_stands")
	passEnd      = change("pass_end")
	passOpen     = value[int]("pass_open")
	passForget   = change("pass_forget")
	deskRefusals = query[Refusals]("desk_refusals")
)

// Run is what is kept of a running lesson; nothing before it was begun.
func (l Library) Run(ctx context.Context, lessonID string) ([]running.Mark, error) {
	data, err := runGet.get(ctx, l.db, l.with(args{"lesson_id": lessonID}))
	if errors.Is(err, ErrNotFound) {
		return []running.Mark{}, nil
	}
	return runMarks(data, err)
}

// HoldRun is Run for a change: another waits until the transaction ends.
func (l Library) HoldRun(ctx context.Context, lessonID string, now time.Time) ([]running.Mark, error) {
	if _, _, err := runBegin.count(ctx, l.db, l.with(args{"lesson_id": lessonID, "now": now})); err != nil {
		return nil, err
	}
	return runMarks(runHold.get(ctx, l.db, l.with(args{"lesson_id": lessonID})))
}

func runMarks(data []byte, err error) ([]running.Mark, error) {
	out := []running.Mark{}
	if err == nil {
		err = json.Unmarshal(data, &out)
	}
	return out, err
}

// PutRun keeps the marks of a running lesson.
func (l Library) PutRun(ctx context.Context, lessonID string, marks []running.Mark, now time.Time) error {
	data, err := json.Marshal(marks)
	if err != nil {
		return err
	}
	return runPut.run(ctx, l.db, l.with(args{"lesson_id": lessonID, "marks": data, "now": now}))
}

func codeKey(code string) []byte {
	sum := sha256.Sum256([]byte(code))
	return sum[:]
}

// AddPass keeps a code, as its hash, until a time. ErrTaken where the same code is open.
func (l Library) AddPass(ctx context.Context, lessonID, memberID, code string, now, until time.Time) error {
	_, err := passAdd.get(ctx, l.db, l.with(args{
		"lesson_id": lessonID, "member_id": memberID, "code": codeKey(code), "now": now, "until": until,
	}))
	return err
}

// EndPasses lets go of all phones of a lesson, and of codes not yet used.
func (l Library) EndPasses(ctx context.Context, lessonID string, now time.Time) error {
	_, _, err := passEnd.count(ctx, l.db, l.with(args{"lesson_id": lessonID, "now": now}))
	return err
}

// Phones counts those that joined and were not let go.
func (l Library) Phones(ctx context.Context, lessonID string) (int, error) {
	return passOpen.get(ctx, l.db, l.with(args{"lesson_id": lessonID}))
}

// TakePass uses up a code; ErrNotFound where it is wrong, old or used.
func TakePass(ctx context.Context, db DB, code string, now time.Time) (Pass, error) {
	return passTake.one(ctx, db, args{"code": codeKey(code), "now": now})
}

// PassStands tells whether a phone that joined was not let go.
func PassStands(ctx context.Context, db DB, passID, lessonID string) (bool, error) {
	return passStands.get(ctx, db, args{"pass_id": passID, "lesson_id": lessonID})
}

// ForgetPasses drops those made before a time.
func ForgetPasses(ctx context.Context, db DB, before time.Time) error {
	_, _, err := passForget.count(ctx, db, args{"before": before})
	return err
}

// DeskRefusals counts wrong codes since a time.
func DeskRefusals(ctx context.Context, db DB, address string, since time.Time) (Refusals, error) {
	return deskRefusals.one(ctx, db, args{"address": address, "since": since})
}
