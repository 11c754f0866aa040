package store

import (
	"context"
	"time"
)

// Class is a class or a small group. Taught counts the cards that it has met.
type Class struct {
	ClassID string `json:"class_id" format:"uuid"`
	Name    string `json:"name"`
	Kind    string `json:"kind" enum:"class,group"`
	Taught  int    `json:"taught" doc:"cards that it has met or is said to know"`
}

// LogRow is one meeting of a class with a card; what was seen apart for reading, spelling and forming may be nil.
type LogRow struct {
	LogID                      int64
	CardID, LessonID           string
	Introduced                 bool
	Sureness                   int
	Reading, Spelling, Forming *int
	Reached                    string
	MetAt                      time.Time
	LoggedBy                   string // initials
	GroupName                  string // whose lesson it was, where it flows back from a group; empty: its own
}

// LessonLog is that a lesson was taught.
type LessonLog struct {
	LessonID string    `json:"lesson_id" format:"uuid"`
	ClassID  string    `json:"class_id" format:"uuid"`
	TaughtAt time.Time `json:"taught_at"`
	Reached  string    `json:"reached" doc:"id of the last step that was held"`
	Skipped  []string  `json:"skipped" doc:"ids of steps left out"`
	Note     string    `json:"note" doc:"about the class, never about a child"`
	LoggedBy string    `json:"logged_by" doc:"initials"`
}

// KnownCard and KnownWord are what a class is said to know.
type KnownCard struct {
	CardID string    `json:"card_id" format:"uuid"`
	SaidBy string    `json:"said_by" doc:"initials"`
	SaidAt time.Time `json:"said_at"`
}

// KnownWord is an exception word that a class is said to know.
type KnownWord struct {
	Word   string    `json:"word"`
	SaidBy string    `json:"said_by" doc:"initials"`
	SaidAt time.Time `json:"said_at"`
}

var (
	classCreate   = value[string]("class_create")
	classList     = query[Class]("class_list")
	classGet      = query[Class]("class_get")
	logAdd        = change("log_add")
	logList       = query[LogRow]("log_list")
	logClear      = change("log_of_lesson_clear")
	logSet        = change("log_set")
	logDrop       = change("log_drop")
	lessonLogPut  = change("lesson_log_put")
	lessonLogGet  = query[LessonLog]("lesson_log_get")
	lessonLogList = query[LessonLog]("lesson_log_list")
	lessonLogDrop = change("lesson_log_drop")
	knownPut      = change("known_put")
	knownDrop     = change("known_drop")
	knownList     = query[KnownCard]("known_list")
	knownWordPut  = change("known_word_put")
	knownWordDrop = change("known_word_drop")
	knownWordList = query[KnownWord]("known_word_list")
)

// CreateClass returns the new id, or ErrTaken where the name is in use.
func (l Library) CreateClass(ctx context.Context, name, kind string) (string, error) {
	return classCreate.get(ctx, l.db, l.with(args{"name": name, "kind": kind}))
}

// Classes lists the team's classes and groups.
func (l Library) Classes(ctx context.Context) ([]Class, error) {
	return classList.many(ctx, l.db, l.with(nil))
}

// Class returns one class.
func (l Library) Class(ctx context.Context, classID string) (Class, error) {
	return classGet.one(ctx, l.db, l.with(args{"class_id": classID}))
}

// AddLog notes a meeting; by may be empty.
func (l Library) AddLog(ctx context.Context, classID, by string, r LogRow) error {
	return logAdd.run(ctx, l.db, l.with(args{
		"class_id": classID, "card_id": r.CardID, "lesson_id": nullable(r.LessonID), "introduced": r.Introduced,
		"sureness": r.Sureness, "reading": r.Reading, "spelling": r.Spelling, "forming": r.Forming,
		"reached": r.Reached, "met_at": r.MetAt, "by": nullable(by),
	}))
}

// Log lists a class's meetings, the oldest first.
func (l Library) Log(ctx context.Context, classID string) ([]LogRow, error) {
	return logList.many(ctx, l.db, l.with(args{"class_id": classID}))
}

// SetLog corrects how sure a class was at a meeting, and when it was.
func (l Library) SetLog(ctx context.Context, classID string, logID int64, sure int, at time.Time) error {
	return logSet.run(ctx, l.db, l.with(args{"class_id": classID, "log_id": logID, "sureness": sure, "met_at": at}))
}

// DropLog takes a meeting out of the log.
func (l Library) DropLog(ctx context.Context, classID string, logID int64) error {
	return logDrop.run(ctx, l.db, l.with(args{"class_id": classID, "log_id": logID}))
}

// PutLessonLog notes that a lesson was taught, or corrects that; the meetings of the former note are gone.
func (l Library) PutLessonLog(ctx context.Context, g LessonLog, by string, now time.Time) error {
	if _, _, err := logClear.count(ctx, l.db, l.with(args{"lesson_id": g.LessonID})); err != nil {
		return err
	}
	return lessonLogPut.run(ctx, l.db, l.with(args{
		"lesson_id": g.LessonID, "class_id": g.ClassID, "taught_at": g.TaughtAt, "reached": g.Reached,
		"skipped": g.Skipped, "note": g.Note, "by": nullable(by), "now": now,
	}))
}

// DropLessonLog takes back that a lesson was taught, with its meetings.
func (l Library) DropLessonLog(ctx context.Context, lessonID string) error {
	if _, _, err := logClear.count(ctx, l.db, l.with(args{"lesson_id": lessonID})); err != nil {
		return err
	}
	return lessonLogDrop.run(ctx, l.db, l.with(args{"lesson_id": lessonID}))
}

// LessonLog is ErrNotFound where the lesson was not taught.
func (l Library) LessonLog(ctx context.Context, lessonID string) (LessonLog, error) {
	return lessonLogGet.one(ctx, l.db, l.with(args{"lesson_id": lessonID}))
}

// LessonLogs lists the lessons that a class was taught, the newest first.
func (l Library) LessonLogs(ctx context.Context, classID string) ([]LessonLog, error) {
	return lessonLogList.many(ctx, l.db, l.with(args{"class_id": classID}))
}

// KnownCards lists what a class is said to know.
func (l Library) KnownCards(ctx context.Context, classID string) ([]KnownCard, error) {
	return knownList.many(ctx, l.db, l.with(args{"class_id": classID}))
}

// KnownWords lists the exception words that a class is said to know.
func (l Library) KnownWords(ctx context.Context, classID string) ([]KnownWord, error) {
	return knownWordList.many(ctx, l.db, l.with(args{"class_id": classID}))
}

// DeclareCards says that a class knows cards, or that it does not.
func (l Library) DeclareCards(
	ctx context.Context,
	classID string,
	cardIDs []string,
	known bool,
	by string,
	now time.Time,
) error {
	if len(cardIDs) == 0 {
		return nil
	}
	a := args{"class_id": classID, "card_ids": cardIDs}
	if !known {
		_, _, err := knownDrop.count(ctx, l.db, l.with(a))
		return err
	}
	a["by"], a["now"] = nullable(by), now
	_, _, err := knownPut.count(ctx, l.db, l.with(a))
	return err
}

// DeclareWords says that a class knows exception words, or that it does not.
func (l Library) DeclareWords(
	ctx context.Context,
	classID string,
	words []string,
	known bool,
	by string,
	now time.Time,
) error {
	if len(words) == 0 {
		return nil
	}
	a := args{"class_id": classID, "words": words}
	if !known {
		_, _, err := knownWordDrop.count(ctx, l.db, l.with(a))
		return err
	}
	a["by"], a["now"] = nullable(by), now
	_, _, err := knownWordPut.count(ctx, l.db, l.with(a))
	return err
}
