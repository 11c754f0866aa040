package planning

import (
	"cmp"
	"context"
	"slices"
	"time"

	"brightchalk/internal/core/card"
	"brightchalk/internal/core/convention"
	"brightchalk/internal/core/knowledge"
	"brightchalk/internal/core/lesson"
	"brightchalk/internal/core/review"
	"brightchalk/internal/core/year"
	"brightchalk/internal/gather"
	"brightchalk/internal/store"
	"brightchalk/internal/tx"
)

// Meetings gather what a team should talk about.
type Meetings struct{ Env tx.Env }

// Variant is one way in which a card was taught, with the classes that were taught so.
type Variant struct {
	Text    string   `json:"text"`
	Classes []string `json:"classes" doc:"class ids"`
}

// Drift is a part of a card that was not the same in all classes.
type Drift struct {
	CardID   string    `json:"card_id" format:"uuid"`
	Part     string    `json:"part" enum:"rhyme,action,keyword,picture,routine"`
	Variants []Variant `json:"variants"`
}

// Outdated is a part of a card that was changed after classes had learned it.
type Outdated struct {
	CardID  string   `json:"card_id" format:"uuid"`
	Part    string   `json:"part" enum:"rhyme,action,keyword,picture"`
	Was     string   `json:"was" doc:"as the classes were taught; empty for a picture"`
	Is      string   `json:"is" doc:"as it is agreed now"`
	Classes []string `json:"classes" doc:"class ids"`
}

// TaughtVersion is which version of a card a class was taught.
type TaughtVersion struct {
	ClassID  string    `json:"class_id" format:"uuid"`
	CardID   string    `json:"card_id" format:"uuid"`
	Version  int       `json:"version"`
	Routine  string    `json:"routine"`
	TaughtAt time.Time `json:"taught_at"`
}

// Unfinished is a card that a class comes to soon and that is not ready.
type Unfinished struct {
	CardID  string     `json:"card_id" format:"uuid"`
	On      year.Date  `json:"on" doc:"the first day on which a class comes to it"`
	ClassID string     `json:"class_id" format:"uuid"`
	State   card.State `json:"state" enum:"draft,in review,agreed"`
	Gaps    []card.Gap `json:"gaps"`
	By      string     `json:"by" doc:"initials of who changed it last"`
}

// Again is a sound that a class forgot twice.
type Again struct {
	CardID  string         `json:"card_id" format:"uuid"`
	ClassID string         `json:"class_id" format:"uuid"`
	Lapses  int            `json:"lapses"`
	Purpose lesson.Purpose `json:"purpose" enum:"again,catch-up" doc:"the lesson that is put forward"`
}

// ClassDue is how many cards of a class fade.
type ClassDue struct {
	Class store.Class `json:"class"`
	Met   int         `json:"met"`
	Due   []string    `json:"due" doc:"card ids of which less than nine tenths are left, the least first"`
}

// MeetingSheet is the sheet for a lead before the team meets.
type MeetingSheet struct {
	Today      year.Date       `json:"today"`
	Due        []ClassDue      `json:"due"`
	Everywhere []Shaky         `json:"everywhere" doc:"shaky in most of the classes that met it, and in two at least: look at the card"`
	InOne      []Shaky         `json:"in_one" doc:"shaky in one class only, and sure in the others: look at the lesson"`
	Again      []Again         `json:"again" doc:"forgotten twice: taught again, or in a group"`
	Unfinished []Unfinished    `json:"unfinished" doc:"cards that a class comes to within three weeks and that are not ready"`
	Drifts     []Drift         `json:"drifts" doc:"what classes were taught differently"`
	Outdated   []Outdated      `json:"outdated" doc:"what was changed after classes had learned it"`
	Taught     []TaughtVersion `json:"taught" doc:"which version of each card each class was taught, the newest last"`
	Proposals  int             `json:"proposals" doc:"changes of the order that wait for a decision"`
	Dates      []MeetingDate   `json:"dates" doc:"what comes in the calendar"`
}

// MeetingDate is something that comes in the calendar of the school.
type MeetingDate struct {
	Date year.Date `json:"date"`
	What string    `json:"what"`
}

// weeksAhead is how far the sheet looks, in weeks; forgotten how often a sound is forgotten until it is put forward.
const (
	weeksAhead    = 3
	Forgotten     = 2
	datesAhead    = 42 // days
	datesShown    = 8
	everywhereMin = 2
)

// Meeting gathers the sheet.
func (m Meetings) Meeting(ctx context.Context, by tx.Actor) (MeetingSheet, error) {
	now := m.Env.Now()
	return tx.Read(ctx, m.Env, by, func(s store.Library) (MeetingSheet, error) {
		out := MeetingSheet{
			Today: year.On(now), Due: []ClassDue{}, Everywhere: []Shaky{}, InOne: []Shaky{}, Again: []Again{},
			Unfinished: []Unfinished{}, Drifts: []Drift{}, Outdated: []Outdated{}, Taught: []TaughtVersion{},
			Dates: []MeetingDate{},
		}
		conv, err := gather.Conventions(ctx, s)
		if err != nil {
			return out, err
		}
		library, err := gather.CardSources(ctx, s, conv)
		if err != nil {
			return out, err
		}
		classes, err := gather.Classes(ctx, s, library)
		if err != nil {
			return out, err
		}
		out.memory(classes, now)
		rows, err := s.Cards(ctx, false)
		if err != nil {
			return out, err
		}
		if err := m.unfinished(ctx, s, &out, classes, rows, conv); err != nil {
			return out, err
		}
		faces, err := s.TaughtFaces(ctx)
		if err != nil {
			return out, err
		}
		agreed, err := s.AgreedContents(ctx)
		if err != nil {
			return out, err
		}
		for i := range rows {
			rows[i] = gather.AgreedRow(rows[i], agreed)
		}
		out.consistency(faces, rows)
		school, err := readSchoolYear(ctx, s, out.Today)
		if err != nil {
			return out, err
		}
		out.dates(school.School)
		proposals, err := s.Proposals(ctx)
		for _, p := range proposals {
			if p.State == "open" {
				out.Proposals++
			}
		}
		return out, err
	})
}

// memory tells what fades in which class, what is shaky everywhere and what in one class only.
func (m *MeetingSheet) memory(classes []gather.KnownClass, now time.Time) {
	kept := func(s review.Seen) float64 { return s.Retrievability(now) }
	for _, c := range classes {
		d := ClassDue{Class: c.Class, Met: len(c.Known.Met), Due: []string{}}
		met := slices.Clone(c.Known.Met)
		slices.SortFunc(met, func(a, b knowledge.Known) int { return cmp.Compare(kept(a.Seen), kept(b.Seen)) })
		for _, k := range met {
			if kept(k.Seen) < review.Retention {
				d.Due = append(d.Due, k.Card.ID)
			}
			if k.Seen.Lapses >= Forgotten {
				purpose := lesson.Again
				if c.Kind == "group" {
					purpose = lesson.CatchUp
				}
				m.Again = append(m.Again, Again{k.Card.ID, c.ClassID, k.Seen.Lapses, purpose})
			}
		}
		m.Due = append(m.Due, d)
	}
	for id, in := range standings(classes, kept) {
		shaky := 0
		for _, s := range in {
			if s.shaky() {
				shaky++
			}
		}
		switch {
		case shaky >= everywhereMin && 2*shaky > len(in):
			m.Everywhere = append(m.Everywhere, shakyCards(id, in))
		case shaky == 1 && len(in) > 1:
			m.InOne = append(m.InOne, shakyCards(id, in))
		}
	}
	byNeed := func(a, b Shaky) int { return cmp.Or(cmp.Compare(b.Need, a.Need), cmp.Compare(a.CardID, b.CardID)) }
	slices.SortFunc(m.Everywhere, byNeed)
	slices.SortFunc(m.InOne, byNeed)
	slices.SortFunc(m.Again, func(a, b Again) int {
		return cmp.Or(cmp.Compare(b.Lapses, a.Lapses), cmp.Compare(a.CardID, b.CardID))
	})
}

// unfinished finds the cards that a class comes to within some weeks and that are not ready.
func (m Meetings) unfinished(
	ctx context.Context,
	s store.Library,
	out *MeetingSheet,
	classes []gather.KnownClass,
	rows []store.Card,
	conv convention.Conventions,
) error {
	t, err := readTeamPlan(ctx, s, out.Today)
	if err != nil {
		return err
	}
	var plans []schedule
	for _, c := range classes {
		k := schedule{today: out.Today, class: c.Class}
		if err := k.fill(ctx, s, t, m.Env.Now().Location()); err != nil {
			return err
		}
		plans = append(plans, k)
	}
	out.Unfinished, err = unfinished(plans, rows, conv, out.Today.Add(7*weeksAhead))
	return err
}

// unfinished are the cards that a class comes to until a day and that are not ready, those that are needed first before
// the others.
func unfinished(
	plans []schedule,
	rows []store.Card,
	team convention.Conventions,
	until year.Date,
) ([]Unfinished, error) {
	first := map[string]Unfinished{}
	for _, k := range plans {
		l, err := k.lay(WhatIf{})
		if err != nil {
			return nil, err
		}
		for _, d := range l.days {
			if d.Purpose != lesson.Introduce || d.Date < k.today || d.Date > until {
				continue
			}
			for _, id := range l.ids(d.Pairs) {
				if u, there := first[id]; !there || d.Date < u.On {
					first[id] = Unfinished{CardID: id, On: d.Date, ClassID: k.class.ClassID}
				}
			}
		}
	}
	out := []Unfinished{}
	for _, r := range rows {
		u, soon := first[r.CardID]
		if !soon {
			continue
		}
		conv, c := gather.CardInAccent(team, r)
		u.State, u.Gaps, u.By = r.State, c.Gaps(conv.Speech()), r.UpdatedBy
		if r.State != card.Agreed || len(u.Gaps) > 0 {
			out = append(out, u)
		}
	}
	slices.SortStableFunc(out, func(a, b Unfinished) int { return cmp.Compare(a.On, b.On) })
	return out, nil
}

// consistency tells which versions were taught, where classes drift apart, and what was changed afterwards.
func (m *MeetingSheet) consistency(faces []store.TaughtFace, rows []store.Card) {
	type key struct{ card, part string }
	variants := map[key][]Variant{}
	last := map[[2]string]store.TaughtFace{} // by class and card
	for _, f := range faces {
		last[[2]string{f.ClassID, f.CardID}] = f
	}
	var newest []store.TaughtFace
	for _, f := range last {
		newest = append(newest, f)
		m.Taught = append(m.Taught, TaughtVersion{f.ClassID, f.CardID, f.Version, f.Routine, f.TaughtAt})
	}
	slices.SortFunc(newest, func(a, b store.TaughtFace) int {
		return cmp.Or(a.TaughtAt.Compare(b.TaughtAt), cmp.Compare(a.ClassID+a.CardID, b.ClassID+b.CardID))
	})
	slices.SortFunc(m.Taught, func(a, b TaughtVersion) int {
		return cmp.Or(a.TaughtAt.Compare(b.TaughtAt), cmp.Compare(a.ClassID+a.CardID, b.ClassID+b.CardID))
	})
	for _, f := range newest {
		for part, text := range splitParts(f) {
			k := key{f.CardID, part}
			i := slices.IndexFunc(variants[k], func(v Variant) bool { return v.Text == text })
			if i < 0 {
				variants[k] = append(variants[k], Variant{Text: text})
				i = len(variants[k]) - 1
			}
			variants[k][i].Classes = append(variants[k][i].Classes, f.ClassID)
		}
	}
	for _, r := range rows {
		for _, part := range append(slices.Clone(cardParts), "routine") {
			if v := variants[key{r.CardID, part}]; len(v) > 1 {
				m.Drifts = append(m.Drifts, Drift{r.CardID, part, v})
			}
		}
		m.outdated(r, newest)
	}
}

// cardParts are the parts of a card that must not differ from class to class.
var cardParts = []string{"rhyme", "action", "keyword", "picture"}

func splitParts(f store.TaughtFace) map[string]string {
	return map[string]string{
		"rhyme": f.Rhyme, "action": f.Action, "keyword": f.Keyword, "picture": f.Picture, "routine": f.Routine,
	}
}

// outdated notes what of a card was changed after classes had learned it.
func (m *MeetingSheet) outdated(r store.Card, taught []store.TaughtFace) {
	now := map[string]string{
		"rhyme": r.Content.Rhyme, "action": r.Content.Action, "keyword": r.Content.Keyword, "picture": r.Content.Picture,
	}
	for _, part := range cardParts {
		var list []Outdated
		for _, f := range taught {
			was := splitParts(f)[part]
			if f.CardID != r.CardID || was == now[part] || was == "" {
				continue
			}
			i := slices.IndexFunc(list, func(o Outdated) bool { return o.Was == was })
			if i < 0 {
				list = append(list, Outdated{CardID: r.CardID, Part: part, Was: was, Is: now[part]})
				i = len(list) - 1
			}
			list[i].Classes = append(list[i].Classes, f.ClassID)
		}
		m.Outdated = append(m.Outdated, list...)
	}
}

// dates are the ends of terms, runs of days off and weeks to look back that come.
func (m *MeetingSheet) dates(s year.School) {
	until := m.Today.Add(datesAhead)
	add := func(d year.Date, what string) {
		if d >= m.Today && d <= until {
			m.Dates = append(m.Dates, MeetingDate{d, what})
		}
	}
	for _, t := range s.Terms {
		add(t.First, t.Name+" begins")
		add(t.Last, t.Name+" ends")
	}
	for i, o := range s.Off {
		if i == 0 || s.Off[i-1].Date.Add(1) != o.Date || s.Off[i-1].Name != o.Name {
			add(o.Date, o.Name)
		}
	}
	for _, d := range s.Assess {
		add(d, "a week to look back: nothing new")
	}
	slices.SortFunc(m.Dates, func(a, b MeetingDate) int { return cmp.Compare(a.Date, b.Date) })
	m.Dates = m.Dates[:min(datesShown, len(m.Dates))]
}
