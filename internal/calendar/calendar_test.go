package calendar_test

import (
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"brightchalk/internal/calendar"
)

func ics(events ...string) string {
	out := "BEGIN:VCALENDAR\r\nVERSION:2.0\r\nPRODID:-//test//EN\r\n"
	for _, e := range events {
		out += "BEGIN:VEVENT\r\nUID:" + e[:min(9, len(e))] + "\r\n" + strings.ReplaceAll(
			e,
			"\n",
			"\r\n",
		) + "\r\nEND:VEVENT\r\n"
	}
	return out + "END:VCALENDAR\r\n"
}

func off(t *testing.T, text string) []string {
	t.Helper()
	got, err := calendar.DaysOff(strings.NewReader(text), "2026-09-01", "2027-08-31")
	require.NoError(t, err)
	var out []string
	for d := range got.Days {
		out = append(out, string(d))
	}
	slices.Sort(out)
	return out
}

// The shapes are those of RFC 5545: DATE values with an exclusive end (section 3.6.1), an event without an end, one
// with a zone, rules with and without an end (section 3.8.5.3), exceptions (section 3.8.5.1), folded lines (section
// 3.1).
func TestDaysOffAsRFC5545WritesThem(t *testing.T) {
	assert.Equal(t, []string{"2026-10-26", "2026-10-27", "2026-10-28"},
		off(t, ics("SUMMARY:Autumn\nDTSTART;VALUE=DATE:20261026\nDTEND;VALUE=DATE:20261029")))
	assert.Equal(t, []string{"2026-11-05"}, off(t, ics("SUMMARY:Training\nDTSTART;VALUE=DATE:20261105")))
	assert.Equal(t, []string{"2026-12-24"},
		off(t, ics("SUMMARY:Eve\nDTSTART;TZID=Europe/London:20261224T000000\nDTEND;TZID=Europe/London:20261225T000000")))
	assert.Empty(t, off(t, ics("SUMMARY:Dentist\nDTSTART:20261105T100000Z\nDTEND:20261105T110000Z")))
	assert.Len(t, off(t, ics("SUMMARY:For ever\nDTSTART;VALUE=DATE:20260904\nRRULE:FREQ=WEEKLY;BYDAY=FR")), 52)
	assert.Equal(t, []string{"2026-11-03", "2026-11-17"}, off(t, ics(
		"SUMMARY:Two\nDTSTART;VALUE=DATE:20261103\nRRULE:FREQ=WEEKLY;COUNT=3\nEXDATE;VALUE=DATE:20261110",
	)))
	assert.Equal(t, []string{"2027-05-03"}, off(t, ics(
		"SUMMARY:First Monday of May\nDTSTART;VALUE=DATE:20100503\nRRULE:FREQ=YEARLY;BYMONTH=5;BYDAY=1MO",
	)))
	// The clocks go forward on 2027-03-28 in London: the day has 23 hours.
	assert.Equal(t, []string{"2027-03-28"},
		off(t, ics("SUMMARY:Short\nDTSTART;TZID=Europe/London:20270328T000000\nDTEND;TZID=Europe/London:20270329T000000")))
	assert.Equal(
		t,
		[]string{"2026-10-26"},
		off(t, ics("SUMMARY:A long name that is\n folded\nDTSTART;VALUE=DATE:20261026")),
	)
}

func TestWhatIsWrongWithACalendarIsSaid(t *testing.T) {
	for text, want := range map[string]string{
		"hello": "this is no calendar",
		ics("SUMMARY:Odd\nDTSTART;VALUE=DATE:20269926"):                                    "“Odd”: its beginning is no date",
		ics("SUMMARY:Odd\nDTSTART;VALUE=DATE:20261026\nDTEND;VALUE=DATE:soon"):             "“Odd”: its end is no date",
		ics("SUMMARY:Back\nDTSTART;VALUE=DATE:20261026\nDTEND;VALUE=DATE:20261001"):        "it ends before it begins",
		ics("SUMMARY:Long\nDTSTART;VALUE=DATE:20261026\nDTEND;VALUE=DATE:20291001"):        "days long",
		ics("SUMMARY:Rule\nDTSTART;VALUE=DATE:20261026\nRRULE:FREQ=SOMETIMES"):             "rule of repetition",
		ics("SUMMARY:Each minute\nDTSTART;VALUE=DATE:20261026\nRRULE:FREQ=MINUTELY"):       "rule of repetition",
		strings.Repeat("X", calendar.MaxBytes+1):                                           "larger than 5 MB",
		ics(slices.Repeat([]string{"SUMMARY:Much\nDTSTART;VALUE=DATE:20261026"}, 5001)...): "up to 5000",
	} {
		_, err := calendar.DaysOff(strings.NewReader(text), "2026-09-01", "2027-08-31")
		require.Error(t, err, want)
		assert.Contains(t, err.Error(), want)
	}
}
