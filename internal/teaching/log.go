package teaching

import (
	"context"
	"io"
	"slices"
	"strconv"
	"strings"
	"time"

	"brightchalk/internal/core/fault"
	"brightchalk/internal/core/lesson"
	"brightchalk/internal/core/spelling"
	"brightchalk/internal/core/table"
	"brightchalk/internal/gather"
	"brightchalk/internal/sheet"
	"brightchalk/internal/store"
	"brightchalk/internal/tx"
)

// Sure is how sure a class was of a card; reading, spelling and forming may be given apart.
type Sure struct {
	CardID   string `json:"card_id" format:"uuid"`
	Sure     int    `json:"sure" minimum:"0" maximum:"3" doc:"0 not yet, 1 shaky, 2 sure, 3 secure"`
	Reading  *int   `json:"reading,omitempty" minimum:"0" maximum:"3" required:"false"`
	Spelling *int   `json:"spelling,omitempty" minimum:"0" maximum:"3" required:"false"`
	Forming  *int   `json:"forming,omitempty" minimum:"0" maximum:"3" required:"false"`
}

// Taught is what is noted when a lesson was taught. TaughtOn is a day, empty for now.
type Taught struct {
	TaughtOn string   `json:"taught_on,omitempty" required:"false" maxLength:"10" doc:"2026-11-26; empty: now"`
	Reached  string   `json:"reached" maxLength:"40" doc:"id of the last step that was held"`
	Skipped  []string `json:"skipped,omitempty" required:"false" doc:"ids of steps left out" maxItems:"40"`
	Note     string   `json:"note,omitempty" required:"false" maxLength:"600" doc:"about the class, never about a child"`
	Sure     []Sure   `json:"sure" maxItems:"80"`
	Took     []Took   `json:"took,omitempty" required:"false" doc:"steps that were held to their end" maxItems:"40"`
}

// Took is how long a step was held.
type Took struct {
	StepID  string `json:"step_id" maxLength:"60"`
	Seconds int    `json:"seconds" minimum:"1" maximum:"7200"`
}

// earliest is how far back a log may lie.
const earliest = 3 * 366 * 24 * time.Hour

// taughtOn reads a date of the log: not in the future, and not longer ago than a school keeps a class.
func (l Lessons) taughtOn(text string) (time.Time, error) {
	now := l.Env.Now()
	if text == "" || text == now.Format(time.DateOnly) {
		return now, nil
	}
	at, err := time.ParseInLocation(time.DateOnly, text, now.Location())
	switch {
	case err != nil:
		return now, fault.In("taught_on", "“%s” is no date; write it as 2026-11-26.", text)
	case at.After(now):
		return now, fault.In(
			"taught_on",
			"%s has not come yet: a log is of what was taught.",
			at.Format("2 January 2006"),
		)
	case now.Sub(at) > earliest:
		return now, fault.In("taught_on", "%s is more than three years ago.", at.Format("2 January 2006"))
	}
	return at.Add(12 * time.Hour), nil
}

// Log notes that a lesson was taught: how far it went and how sure the class was of its cards. A second time corrects
// the first. Only a lesson that introduces makes its targets new; they are known only if the class was not "not yet"
// sure.
func (l Lessons) Log(ctx context.Context, by tx.Actor, id string, t Taught) error {
	return tx.Exec(ctx, l.Env, by, tx.MayTeach, func(s store.Library) error {
		i, err := s.Lesson(ctx, id)
		if err != nil {
			return err
		}
		at, err := l.taughtOn(t.TaughtOn)
		if err != nil {
			return err
		}
		if len(t.Sure) == 0 {
			return fault.In("sure", "Say at least how sure the class was of one card.")
		}
		ids := map[string]bool{}
		for _, k := range i.Snapshot.Steps {
			ids[k.ID] = true
		}
		for _, k := range t.Skipped {
			if !ids[k] {
				return fault.In("skipped", "This lesson has no step %s.", k)
			}
		}
		g := store.LessonLog{
			LessonID: id, ClassID: i.ClassID, TaughtAt: at, Reached: t.Reached, Skipped: append([]string{}, t.Skipped...),
			Note: strings.TrimSpace(t.Note),
		}
		if err := s.PutLessonLog(ctx, g, by.MemberID, l.Env.Now()); err != nil {
			return err
		}
		if err := putTimes(ctx, s, i, t, at); err != nil {
			return err
		}
		seen := map[string]bool{}
		for _, k := range t.Sure {
			if _, ok := i.Snapshot.Cards[k.CardID]; !ok || seen[k.CardID] {
				return fault.In("sure", "One of the cards is not part of this lesson, or stands there twice.")
			}
			seen[k.CardID] = true
			row := store.LogRow{
				CardID: k.CardID, LessonID: id, Sureness: k.Sure, Reading: k.Reading, Spelling: k.Spelling, Forming: k.Forming,
				Introduced: i.Snapshot.Purpose == lesson.Introduce && slices.Contains(i.Snapshot.Targets, k.CardID),
				Reached:    t.Reached, MetAt: at,
			}
			if err := s.AddLog(ctx, i.ClassID, by.MemberID, row); err != nil {
				return err
			}
		}
		return nil
	})
}

// Unlog takes back that a lesson was taught.
func (l Lessons) Unlog(ctx context.Context, by tx.Actor, id string) error {
	return tx.Exec(ctx, l.Env, by, tx.MayTeach, func(s store.Library) error { return s.DropLessonLog(ctx, id) })
}

// Meeting is one line of a class's log.
type Meeting struct {
	LogID      int64         `json:"log_id"`
	CardID     string        `json:"card_id" format:"uuid"`
	Pair       spelling.Pair `json:"pair"`
	LessonID   string        `json:"lesson_id" doc:"empty where it was not in a lesson of ours"`
	Introduced bool          `json:"introduced"`
	Sure       int           `json:"sure" doc:"0 not yet, 1 shaky, 2 sure, 3 secure"`
	Reading    *int          `json:"reading,omitempty"`
	Spelling   *int          `json:"spelling,omitempty"`
	Forming    *int          `json:"forming,omitempty"`
	MetAt      time.Time     `json:"met_at"`
	LoggedBy   string        `json:"logged_by" doc:"initials"`
	Group      string        `json:"group" doc:"the group whose lesson it was, where its log flows back; else empty"`
}

// History is what a class was taught: lessons and meetings, the newest first.
type History struct {
	Lessons  []store.LessonLog `json:"lessons"`
	Meetings []Meeting         `json:"meetings"`
}

const maxMeetings = 1000

// History returns what a class was taught.
func (l Lessons) History(ctx context.Context, by tx.Actor, classID string) (History, error) {
	return tx.Read(ctx, l.Env, by, func(s store.Library) (History, error) {
		h := History{Meetings: []Meeting{}}
		if _, err := s.Class(ctx, classID); err != nil {
			return h, err
		}
		conv, err := gather.Conventions(ctx, s)
		if err != nil {
			return h, err
		}
		if h.Lessons, err = s.LessonLogs(ctx, classID); err != nil {
			return h, err
		}
		cards, err := s.Cards(ctx, true)
		if err != nil {
			return h, err
		}
		pairs := map[string]spelling.Pair{}
		for _, c := range cards {
			pairs[c.CardID] = c.Core(conv.Accent).Pair
		}
		rows, err := s.Log(ctx, classID)
		for _, r := range slices.Backward(rows) {
			if len(h.Meetings) < maxMeetings {
				h.Meetings = append(h.Meetings, Meeting{
					r.LogID, r.CardID, pairs[r.CardID], r.LessonID, r.Introduced, r.Sureness, r.Reading, r.Spelling, r.Forming,
					r.MetAt, r.LoggedBy, r.GroupName,
				})
			}
		}
		return h, err
	})
}

// Correct changes how sure a class was at a meeting, or takes the meeting out of the log where sure is nil.
func (l Lessons) Correct(ctx context.Context, by tx.Actor, classID string, logID int64, sure *int, on string) error {
	return tx.Exec(ctx, l.Env, by, tx.MayTeach, func(s store.Library) error {
		rows, err := s.Log(ctx, classID)
		if err != nil {
			return err
		}
		i := slices.IndexFunc(rows, func(r store.LogRow) bool { return r.LogID == logID })
		if i >= 0 && rows[i].GroupName != "" {
			return fault.In("log", "This is in the log of %s. Correct it there.", rows[i].GroupName)
		}
		if sure == nil {
			return s.DropLog(ctx, classID, logID)
		}
		if i < 0 {
			return store.ErrNotFound
		}
		at := rows[i].MetAt
		if on != "" {
			if at, err = l.taughtOn(on); err != nil {
				return err
			}
		}
		return s.SetLog(ctx, classID, logID, *sure, at)
	})
}

// Export writes a class's log as CSV: date, pair, sureness, the day first.
func (l Lessons) Export(ctx context.Context, by tx.Actor, classID string, w io.Writer) error {
	h, err := l.History(ctx, by, classID)
	if err != nil {
		return err
	}
	rows := [][]string{{"date", "pair", "sureness", "new", "by"}}
	for _, m := range slices.Backward(h.Meetings) {
		rows = append(rows, []string{
			m.MetAt.Format(
				time.DateOnly,
			), m.Pair.String(), strconv.Itoa(m.Sure), strconv.FormatBool(m.Introduced), m.LoggedBy,
		})
	}
	return sheet.WriteCSV(w, table.Sheet{Rows: rows})
}
