package calendar_test

import (
	"bytes"
	"strings"
	"testing"
	"time"

	other "github.com/emersion/go-ical"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"brightchalk/internal/calendar"
	"brightchalk/internal/core/lesson"
	"brightchalk/internal/core/spelling"
)

// What is written is read back by another library (emersion/go-ical), and by our own reader of days off. Lines end and
// fold as RFC 5545 says (section 3.1), a day is a DATE with an exclusive end (section 3.6.1).
func TestAPlanIsReadByOtherPrograms(t *testing.T) {
	sh := spelling.Pair{Grapheme: "sh", Sound: "ʃ"}
	var out bytes.Buffer
	require.NoError(t, calendar.Write(&out, "Heron class; new, sounds", "plan-1", []calendar.Event{
		{
			Date:      "2026-11-26",
			Purpose:   lesson.Introduce,
			Pairs:     []spelling.Pair{sh},
			Term:      "Autumn term",
			Week:      12,
			MovedFrom: "2026-11-25",
		},
		{Date: "2026-11-27", Purpose: lesson.Revise},
	}, time.Date(2026, 11, 25, 9, 0, 0, 0, time.UTC)))
	for line := range strings.SplitSeq(strings.TrimSuffix(out.String(), "\r\n"), "\r\n") {
		assert.NotContains(t, line, "\n")
		assert.LessOrEqual(t, len(line), 75, line)
	}
	cal, err := other.NewDecoder(bytes.NewReader(out.Bytes())).Decode()
	require.NoError(t, err)
	events := cal.Events()
	require.Len(t, events, 2)
	text, err := events[0].Props.Text(other.PropSummary)
	require.NoError(t, err)
	assert.Equal(t, "New: sh /ʃ/", text)
	start, err := events[0].DateTimeStart(time.UTC)
	require.NoError(t, err)
	end, err := events[0].DateTimeEnd(time.UTC)
	require.NoError(t, err)
	assert.Equal(t, "2026-11-26", start.Format(time.DateOnly))
	assert.Equal(t, "2026-11-27", end.Format(time.DateOnly))
	about, err := events[0].Props.Text(other.PropDescription)
	require.NoError(t, err)
	assert.Equal(t, "Autumn term, week 12. Moved from Wednesday 25 November 2026.", about)
	text, err = events[1].Props.Text(other.PropSummary)
	require.NoError(t, err)
	assert.Equal(t, "Revision", text)
	id, err := events[0].Props.Text(other.PropUID)
	require.NoError(t, err)
	assert.Equal(t, "2026-11-26-plan-1@bright-chalk", id, "the same on the next reading, so that it is changed in place")

	own, err := calendar.DaysOff(&out, "2026-11-01", "2026-11-30")
	require.NoError(t, err)
	assert.Len(t, own.Days, 2)
}

func TestDaysOffOutOfATable(t *testing.T) {
	got, err := calendar.Read(strings.NewReader("\ufeffdate,what\r\n2026-10-26, half term\n2026-10-27\n2031-01-01,far\n"),
		"2026-09-01", "2027-08-31")
	require.NoError(t, err)
	assert.Len(t, got.Days, 2)
	assert.Equal(t, "half term", got.Days["2026-10-26"])
	assert.Equal(t, "day off", got.Days["2026-10-27"])
	for text, want := range map[string]string{
		"date\n2026-13-01\n":      "line 2: “2026-13-01” is no date",
		"hello":                   "neither",
		"":                        "no day off",
		"\"2026-10-26":            "neither",
		"2031-01-01,another year": "no day off of this school year",
	} {
		_, err := calendar.Read(strings.NewReader(text), "2026-09-01", "2027-08-31")
		if assert.Error(t, err, text) && want != "neither" {
			assert.Contains(t, err.Error(), want)
		}
	}
	_, err = calendar.Read(strings.NewReader("BEGIN:VCALENDAR\nBEGIN"), "2026-09-01", "2027-08-31")
	assert.Error(t, err)
}
