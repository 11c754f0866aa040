package calendar

import (
	"fmt"
	"io"
	"strings"
	"time"

	ics "github.com/arran4/golang-ical"

	"brightchalk/internal/core/lesson"
	"brightchalk/internal/core/spelling"
	"brightchalk/internal/core/year"
)

// Event is a day of a class with what is taught on it.
type Event struct {
	Date      year.Date
	Purpose   lesson.Purpose
	Pairs     []spelling.Pair
	Term      string // empty outside the terms
	Week      int
	MovedFrom year.Date
}

// asksAgain is how often a program should read a subscribed calendar anew.
const asksAgain = "PT6H"

// Write writes days as a calendar to subscribe to (RFC 5545). An event keeps its id (of the calendar and the day), so
// that a change of plan changes it in place.
func Write(w io.Writer, name, id string, events []Event, now time.Time) error {
	cal := ics.NewCalendarFor("Bright Chalk")
	cal.SetMethod(ics.MethodPublish)
	cal.SetXWRCalName(name)
	cal.SetRefreshInterval(asksAgain)
	cal.SetXPublishedTTL(asksAgain)
	for _, e := range events {
		v := cal.AddEvent(string(e.Date) + "-" + id + "@bright-chalk")
		v.SetDtStampTime(now)
		v.SetAllDayStartAt(e.Date.Time())
		v.SetAllDayEndAt(e.Date.Add(1).Time())
		v.SetSummary(summary(e))
		v.SetTimeTransparency(ics.TransparencyTransparent)
		var about []string
		if e.Week > 0 {
			about = append(about, fmt.Sprintf("%s, week %d.", e.Term, e.Week))
		}
		if e.MovedFrom != "" {
			about = append(about, "Moved from "+e.MovedFrom.Said()+".")
		}
		if len(about) > 0 {
			v.SetDescription(strings.Join(about, " "))
		}
	}
	return cal.SerializeTo(w, ics.WithNewLineWindows)
}

func summary(e Event) string {
	var names []string
	for _, p := range e.Pairs {
		names = append(names, fmt.Sprintf("%s /%s/", p.Grapheme, p.Sound))
	}
	kind, of := "Revision", strings.Join(names, ", ")
	if e.Purpose == lesson.Introduce {
		kind = "New"
	}
	if of == "" {
		return kind
	}
	return kind + ": " + of
}
