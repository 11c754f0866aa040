package httpapi

import (
	"bytes"
	"context"
	"net/http"
	"time"

	"github.com/danielgtaylor/huma/v2"

	"brightchalk/internal/calendar"
	"brightchalk/internal/core/year"
	"brightchalk/internal/planning"
	"brightchalk/internal/teaching"
	"brightchalk/internal/tx"
)

type askedYear struct {
	ByID
	Lose    []year.Date `query:"lose" maxItems:"60" doc:"what if these days are lost"`
	Rule    year.Rule   `query:"rule" enum:"shift,drop-revision,double-up," doc:"what they do to the rest; empty: the team's rule"`
	PerWeek int         `query:"per_week" minimum:"0" maximum:"15" doc:"what if so many new sounds come in a week; 0: as planned"`
}

type newPace struct {
	Revision int       `json:"revision" minimum:"0" doc:"of the pace that was read; 0: none was made"`
	Pace     year.Pace `json:"pace" doc:"its lost days stay as they are"`
}

type feedAddress struct {
	Path string `json:"path" doc:"of the calendar on this server; it is shown once"`
}

func (s *server) yearCalls(everybody, members huma.API) {
	a := s.app.Years
	call(s, members, route{
		id: "school-year", method: http.MethodGet, path: "/school-year", tag: "year",
		summary: "Terms, days off and the pace of the school",
	}, func(ctx context.Context, by tx.Actor, _ *nothing) (planning.SchoolYear, error) {
		return a.SchoolYear(ctx, by)
	})
	call(s, members, route{
		id: "set-school-year", method: http.MethodPut, path: "/school-year", tag: "year",
		summary: "Replace the school year", about: "Only a lead may. 409 where somebody changed it since it was read.",
		example: planning.SchoolYear{School: year.Usual(), Suggested: []year.Term{}},
	}, func(ctx context.Context, by tx.Actor, in *body[planning.SchoolYear]) (planning.SchoolYear, error) {
		return a.SetSchoolYear(ctx, by, in.Body)
	})
	upload(s, members, route{
		id:      "read-days-off",
		method:  http.MethodPost,
		path:    "/school-year/days-off",
		tag:     "year",
		summary: "Read days off from a calendar or a table",
		about: "A calendar of another program (ICS), or a table with a date and a name in each line (CSV). Nothing is " +
			"kept: what is wanted of it is sent with the school year. Only a lead may.",
	}, calendar.MaxBytes, func(ctx context.Context, by tx.Actor, in *UploadedFile) (planning.DaysOffView, error) {
		return a.ReadDaysOff(ctx, by, in.file)
	})
	call(s, members, route{
		id: "class-year", method: http.MethodGet, path: "/classes/{id}/year", tag: "year",
		summary: "The year of a class: what was taught, and what comes when; or what it would be",
	}, func(ctx context.Context, by tx.Actor, in *askedYear) (planning.ClassYear, error) {
		return a.Year(ctx, by, in.ID, planning.WhatIf{Lose: in.Lose, Rule: in.Rule, PerWeek: in.PerWeek})
	})
	call(s, members, route{
		id: "forecast", method: http.MethodGet, path: "/classes/{id}/forecast", tag: "year",
		summary: "By which week a class can read which words and texts: as planned, with a week lost, at another speed",
	}, func(ctx context.Context, by tx.Actor, in *struct {
		ByID
		LoseWeek year.Date `query:"lose_week" maxLength:"10" doc:"a day of the week that is lost; empty: the next"`
		PerWeek  int       `query:"per_week" minimum:"1" maximum:"15" default:"5" doc:"the other speed"`
	},
	) ([]planning.Forecast, error) {
		return a.Forecasts(ctx, by, in.ID, in.LoseWeek, in.PerWeek)
	})
	call(s, members, route{
		id: "set-pace", method: http.MethodPut, path: "/classes/{id}/pace", tag: "year",
		summary: "How a class goes through the year, where it differs from the school",
		example: newPace{Pace: year.Pace{PerWeek: 3, Teaching: []time.Weekday{}, Lost: []year.Lost{}}},
	}, func(ctx context.Context, by tx.Actor, in *changed[newPace]) (done, error) {
		return ok(a.SetPace(ctx, by, in.ID, in.Body.Revision, in.Body.Pace))
	})
	call(s, members, route{
		id: "lose-day", method: http.MethodPost, path: "/classes/{id}/lost", tag: "year",
		summary: "Note a day on which a class had no lesson, or take that back",
		example: planning.Loss{Date: "2026-11-26", Rule: year.ShiftAll, Why: "snow", Everyone: true, Lost: true},
	}, func(ctx context.Context, by tx.Actor, in *changed[planning.Loss]) (done, error) {
		return ok(a.Lose(ctx, by, in.ID, in.Body))
	})
	call(s, members, route{
		id: "class-times", method: http.MethodGet, path: "/classes/{id}/times", tag: "year",
		summary: "How long the steps of a class take beside their plan, and what to drop where lessons always run over",
	}, func(ctx context.Context, by tx.Actor, in *ByID) (teaching.Times, error) {
		return s.app.Lessons.Times(ctx, by, in.ID)
	})
	s.feedCalls(everybody, members)
}

func (s *server) feedCalls(everybody, members huma.API) {
	a := s.app.Years
	call(s, members, route{
		id: "new-feed", method: http.MethodPost, path: "/classes/{id}/feed", tag: "year",
		summary: "A new address at which other calendars read the plan of a class",
		about:   "It holds a secret, is shown once, and ends the one before.",
	}, func(ctx context.Context, by tx.Actor, in *ByID) (feedAddress, error) {
		secret, err := a.NewFeed(ctx, by, in.ID)
		return feedAddress{"/api/feed.ics?secret=" + secret}, err
	})
	call(s, members, route{
		id: "end-feed", method: http.MethodDelete, path: "/classes/{id}/feed", tag: "year",
		summary: "End the subscriptions to the plan of a class",
	}, func(ctx context.Context, by tx.Actor, in *ByID) (done, error) { return ok(a.EndFeed(ctx, by, in.ID)) })
	call(s, members, route{
		id: "books", method: http.MethodGet, path: "/classes/{id}/books", tag: "year",
		summary: "The school's reading books, page by page, with the week from which on the class can read each",
	}, func(ctx context.Context, by tx.Actor, in *ByID) ([]planning.Book, error) {
		return a.Books(ctx, by, in.ID)
	})
	download(s, members, route{
		id: "year-table", method: http.MethodGet, path: "/classes/{id}/year.csv", tag: "year",
		summary: "The plan of a class as a table: date, term, week, purpose, pairs",
	}, []string{"text/csv"}, func(ctx context.Context, by tx.Actor, in *ByID) (file, error) {
		var out bytes.Buffer
		err := a.Table(ctx, by, in.ID, &out)
		return saved("text/csv; charset=utf-8", "year.csv", out, err)
	})
	feed := route{
		id: "feed", method: http.MethodGet, path: "/feed.ics", tag: "year",
		summary: "The plan of a class for programs that subscribe to calendars", about: "Whoever knows the secret may.",
		open: true,
	}
	download(s, everybody, feed, []string{"text/calendar"}, func(ctx context.Context, _ tx.Actor, in *struct {
		// It stands in the query because paths are logged.
		Secret string `query:"secret" maxLength:"64" required:"true"`
	},
	) (file, error) {
		var out bytes.Buffer
		err := a.Feed(ctx, in.Secret, &out)
		return file{ContentType: "text/calendar; charset=utf-8", CacheControl: never, Body: out.Bytes()}, err
	})
}
