// Package calendar reads days off from calendars of other programs, in the format of RFC 5545.
package calendar

import (
	"bytes"
	"encoding/csv"
	"errors"
	"fmt"
	"io"
	"strings"
	"time"

	ics "github.com/arran4/golang-ical"
	"github.com/teambition/rrule-go"

	"brightchalk/internal/core/fault"
	"brightchalk/internal/core/year"
)

// Bounds of what is read.
const (
	MaxBytes   = 5 << 20
	maxEvents  = 5000
	maxDays    = 400 // of one event
	maxDaysOff = 3000
)

// What is wrong with a calendar.
const (
	ErrTooLarge fault.Code = "too-large"
	ErrNoICS    fault.Code = "no-calendar"
	ErrDates    fault.Code = "dates"
)

// Off are days off with what they are called. Skipped counts events that do not fill a day, such as an appointment.
type Off struct {
	Days    map[year.Date]string
	Skipped int
}

// Set are the days alone.
func (o Off) Set() map[year.Date]bool {
	out := map[year.Date]bool{}
	for d := range o.Days {
		out[d] = true
	}
	return out
}

// Read is DaysOff, or reads a table with a date and a name in each line, parted by commas, as spreadsheets write it;
// its first line may name the columns.
func Read(r io.Reader, from, to year.Date) (Off, error) {
	data, err := io.ReadAll(io.LimitReader(r, MaxBytes+1))
	if err != nil {
		return Off{}, err
	}
	if bytes.Contains(data, []byte("BEGIN:")) || len(data) > MaxBytes {
		return DaysOff(bytes.NewReader(data), from, to)
	}
	rows := csv.NewReader(bytes.NewReader(bytes.TrimPrefix(data, []byte("\ufeff"))))
	rows.FieldsPerRecord, rows.TrimLeadingSpace = -1, true
	out := Off{Days: map[year.Date]string{}}
	for line := 1; ; line++ {
		row, err := rows.Read()
		if errors.Is(err, io.EOF) {
			break
		}
		if err != nil {
			return out, fault.New(ErrNoICS, "this is neither a calendar (.ics) nor a table of dates (.csv)")
		}
		d, err := year.ParseDate(strings.TrimSpace(row[0]))
		switch {
		case err != nil && line == 1:
			continue // names of the columns
		case err != nil:
			return out, fault.New(ErrDates, "line %d: %s", line, err.Error())
		case d >= from && d <= to:
			name := "day off"
			if len(row) > 1 && strings.TrimSpace(row[1]) != "" {
				name = strings.TrimSpace(row[1])
			}
			out.Days[d] = name
		}
		if len(out.Days) > maxDaysOff {
			return out, fault.New(ErrTooLarge, "the table has more than %d days off", maxDaysOff)
		}
	}
	if len(out.Days) == 0 {
		return out, fault.New(
			ErrNoICS,
			"there is no day off of this school year in the file: "+
				"a calendar (.ics) or a table with a date in each line (.csv) is needed",
		)
	}
	return out, nil
}

// DaysOff reads the events that fill whole days between two days, both among them. A rule that has no end is followed
// until the last day. The error names the event.
func DaysOff(r io.Reader, from, to year.Date) (Off, error) {
	out := Off{Days: map[year.Date]string{}}
	data, err := io.ReadAll(io.LimitReader(r, MaxBytes+1))
	if err != nil {
		return out, err
	}
	if len(data) > MaxBytes {
		return out, fault.New(ErrTooLarge, "the calendar is larger than %d MB", MaxBytes>>20)
	}
	cal, err := ics.ParseCalendar(bytes.NewReader(data))
	if err != nil || cal == nil || !bytes.Contains(data, []byte("BEGIN:VCALENDAR")) {
		return out, fault.New(ErrNoICS, "this is no calendar: a file that ends in .ics is needed, as calendars write it")
	}
	events := cal.Events()
	if len(events) > maxEvents {
		return out, fault.New(ErrTooLarge, "the calendar has %d events; up to %d are read", len(events), maxEvents)
	}
	for _, e := range events {
		if err := out.add(e, from, to); err != nil {
			return out, err
		}
		if len(out.Days) > maxDaysOff {
			return out, fault.New(ErrTooLarge, "the calendar has more than %d days off", maxDaysOff)
		}
	}
	return out, nil
}

func (o *Off) add(e *ics.VEvent, from, to year.Date) error {
	name := "an event without a name"
	if p := e.GetProperty(ics.ComponentPropertySummary); p != nil && strings.TrimSpace(p.Value) != "" {
		name = p.Value
	}
	wrong := func(format string, args ...any) error {
		return fault.New(ErrDates, "“%s”: %s", name, fmt.Sprintf(format, args...))
	}
	start, err := e.GetStartAt()
	if err != nil {
		return wrong("its beginning is no date")
	}
	end, err := e.GetEndAt()
	whole := isDate(e)
	switch {
	case errors.Is(err, ics.ErrorPropertyNotFound) && whole:
		end = start.AddDate(0, 0, 1) // RFC 5545, section 3.6.1
	case errors.Is(err, ics.ErrorPropertyNotFound):
		end = start
	case err != nil:
		return wrong("its end is no date")
	}
	if end.Before(start) {
		return wrong("it ends before it begins")
	}
	length := int(end.Sub(start).Hours()+2) / 24 // a day in which the clocks change has 23 hours
	if !whole && end.Sub(start) < 20*time.Hour {
		o.Skipped++
		return nil
	}
	if length = max(1, length); length > maxDays {
		return wrong("it is %d days long", length)
	}
	begins, err := occurrences(e, start, from, to, length)
	if err != nil {
		return wrong("its rule of repetition cannot be read")
	}
	for _, b := range begins {
		for i := range length {
			if d := b.Add(i); d >= from && d <= to {
				o.Days[d] = name
			}
		}
	}
	return nil
}

func isDate(e *ics.VEvent) bool {
	p := e.GetProperty(ics.ComponentPropertyDtStart)
	return p != nil && len(p.Value) == len("20261126")
}

// occurrences are the days on which an event begins: once, or by its rule, without those that are taken out.
func occurrences(e *ics.VEvent, start time.Time, from, to year.Date, length int) ([]year.Date, error) {
	p := e.GetProperty(ics.ComponentPropertyRrule)
	if p == nil {
		return []year.Date{year.On(start)}, nil
	}
	o, err := rrule.StrToROption(p.Value)
	if err != nil {
		return nil, err
	}
	if o.Freq > rrule.DAILY { // hours and minutes are no days off
		return nil, errors.New("a rule of hours")
	}
	o.Dtstart = year.On(start).Time()
	if !o.Until.IsZero() {
		o.Until = year.On(o.Until).Time()
	}
	rule, err := rrule.NewRRule(*o)
	if err != nil {
		return nil, err
	}
	without := map[year.Date]bool{}
	for _, x := range e.GetProperties(ics.ComponentPropertyExdate) {
		for text := range strings.SplitSeq(x.Value, ",") {
			if t, err := time.Parse("20060102", text[:min(8, len(text))]); err == nil {
				without[year.On(t)] = true
			}
		}
	}
	var out []year.Date
	for _, t := range rule.Between(from.Add(-length).Time(), to.Add(1).Time(), true) {
		if d := year.On(t); !without[d] {
			out = append(out, d)
		}
	}
	return out, nil
}
