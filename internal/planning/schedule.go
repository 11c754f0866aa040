package planning

import (
	"cmp"
	"context"
	"errors"
	"slices"
	"time"

	"brightchalk/internal/core/card"
	"brightchalk/internal/core/convention"
	"brightchalk/internal/core/knowledge"
	"brightchalk/internal/core/lesson"
	"brightchalk/internal/core/spelling"
	"brightchalk/internal/core/year"
	"brightchalk/internal/gather"
	"brightchalk/internal/store"
)

// schedule is all that a class's year is laid out from.
type schedule struct {
	class  store.Class
	today  year.Date
	school SchoolYear
	pace   year.Pace
	revise int // the pace's revision
	conv   convention.Conventions
	known  knowledge.Class
	order  []card.Card // the team's order, without what is put aside
	log    []meetingDay
	focus  []string // card ids of a group that catches up
}

// meetingDay is what was logged of a class on a day.
type meetingDay struct {
	date year.Date
	new  []string // card ids
	met  []string
}

func (y Years) today() year.Date { return year.On(y.Env.Now()) }

func (y Years) schedule(ctx context.Context, s store.Library, classID string) (schedule, error) {
	out := schedule{today: y.today()}
	var err error
	if out.class, err = s.Class(ctx, classID); err != nil {
		return out, err
	}
	return out, out.read(ctx, s, y.Env.Now().Location())
}

// teamPlan is what the years of all classes of a team are laid out from.
type teamPlan struct {
	school  SchoolYear
	conv    convention.Conventions
	library knowledge.Sources
}

func readTeamPlan(ctx context.Context, s store.Library, today year.Date) (t teamPlan, err error) {
	if t.school, err = readSchoolYear(ctx, s, today); err != nil {
		return t, err
	}
	if t.conv, err = gather.Conventions(ctx, s); err != nil {
		return t, err
	}
	t.library, err = gather.CardSources(ctx, s, t.conv)
	return t, err
}

// read fills a schedule of which the class and the day are known.
func (k *schedule) read(ctx context.Context, s store.Library, zone *time.Location) error {
	t, err := readTeamPlan(ctx, s, k.today)
	if err != nil {
		return err
	}
	return k.fill(ctx, s, t, zone)
}

// fill is read for whoever has read what the classes of a team share.
func (k *schedule) fill(ctx context.Context, s store.Library, t teamPlan, zone *time.Location) error {
	k.school, k.conv = t.school, t.conv
	var err error
	if k.pace, k.revise, err = readPace(ctx, s, k.class.ClassID); err != nil {
		return err
	}
	from, err := gather.AddClassLog(ctx, s, t.library, k.class.ClassID)
	if err != nil {
		return err
	}
	k.known = knowledge.Of(from)
	if k.focus, err = s.Focus(ctx, k.class.ClassID); err != nil {
		return err
	}
	for _, c := range from.Cards {
		if !from.Archived[c.ID] {
			k.order = append(k.order, c)
		}
	}
	slices.SortStableFunc(k.order, func(a, b card.Card) int { return cmp.Compare(a.Step, b.Step) })
	days := map[year.Date]*meetingDay{}
	for _, e := range from.Log {
		d := year.On(e.At.In(zone))
		if days[d] == nil {
			days[d] = &meetingDay{date: d}
		}
		if days[d].met = append(days[d].met, e.CardID); e.Introduced {
			days[d].new = append(days[d].new, e.CardID)
		}
	}
	for _, d := range days {
		k.log = append(k.log, *d)
	}
	slices.SortFunc(k.log, func(a, b meetingDay) int { return cmp.Compare(a.date, b.date) })
	return nil
}

func (k schedule) logged(d year.Date) (meetingDay, bool) {
	i, there := slices.BinarySearchFunc(k.log, d, func(m meetingDay, d year.Date) int { return cmp.Compare(m.date, d) })
	if !there {
		return meetingDay{}, false
	}
	return k.log[i], true
}

// layout is a year as it comes out, with the cards of each pair.
type layout struct {
	days  []year.Day
	cards map[spelling.Pair][]string
	left  []string
	ends  year.Date
}

func (l layout) ids(pairs []spelling.Pair) []string {
	out := []string{}
	for _, p := range pairs {
		out = append(out, l.cards[p]...)
	}
	return out
}

// lay lays out what the class has not met from this week on. Days of this week that are over hold what was logged on
// them; those of which nothing was logged are as if lost, and what they held comes later.
func (k schedule) lay(q WhatIf) (layout, error) {
	pace, school := k.pace, k.school.School
	if q.PerWeek != 0 {
		pace.PerWeek = q.PerWeek
		if err := pace.Check(school); err != nil {
			return layout{}, err
		}
	}
	for _, d := range q.Lose {
		var err error
		if pace, err = pace.Lose(school, year.Lost{Date: d, Rule: q.Rule}); err != nil {
			return layout{}, err
		}
	}
	monday := k.today.Monday()
	met := map[string]bool{}
	for _, m := range k.known.Met {
		met[m.Card.ID] = true
	}
	l := layout{cards: map[spelling.Pair][]string{}}
	var waiting []spelling.Pair
	first := map[string]spelling.Pair{} // by card: the pair under which it is laid out
	for _, c := range k.order {
		if _, with := first[c.ID]; with {
			continue
		}
		for _, a := range card.TaughtWith(k.conv, k.order, c) {
			if _, with := first[a.ID]; !with {
				first[a.ID] = c.Pair
				l.cards[c.Pair] = append(l.cards[c.Pair], a.ID)
			}
		}
		if !met[c.ID] && len(k.focus) == 0 && !slices.Contains(waiting, c.Pair) {
			waiting = append(waiting, c.Pair)
		}
	}
	a := school.Ask(pace, waiting, monday)
	a.Taught = map[year.Date][]spelling.Pair{}
	for d := monday; d <= k.today; d = d.Add(1) {
		m, there := k.logged(d)
		for _, id := range m.new {
			if p := first[id]; p.Grapheme != "" && !slices.Contains(a.Taught[d], p) {
				a.Taught[d] = append(a.Taught[d], p)
			}
		}
		if _, lost := a.Lost[d]; !there && !lost && d < k.today {
			a.Lost[d] = year.ShiftAll
		}
	}
	var err error
	if l.days, err = year.Plan(a); err != nil && !errors.Is(err, year.ErrRoom) {
		return l, err
	}
	placed := map[spelling.Pair]bool{}
	for _, d := range l.days {
		if d.Purpose != lesson.Introduce {
			continue
		}
		for _, p := range d.Pairs {
			placed[p] = true
			l.ends = d.Date
		}
	}
	l.left = []string{}
	for _, p := range waiting {
		if !placed[p] {
			l.left = append(l.left, l.cards[p]...)
		}
	}
	return l, nil
}

// behind is how many new sounds fewer a class has met than it would have if no day had been lost since its start.
func (k schedule) behind() int {
	if len(k.log) == 0 || len(k.focus) > 0 {
		return 0
	}
	start := k.school.School.First(k.pace, "")
	if k.pace.Start == "" {
		start = max(start, k.log[0].date)
	}
	if start > k.today {
		return 0
	}
	pace := k.pace
	pace.Lost = nil
	pairs := []spelling.Pair{}
	for _, c := range k.order {
		if !slices.Contains(pairs, c.Pair) {
			pairs = append(pairs, c.Pair)
		}
	}
	days, err := year.Plan(k.school.School.Ask(pace, pairs, start))
	if err != nil && !errors.Is(err, year.ErrRoom) {
		return 0
	}
	n := 0
	for _, d := range days {
		if d.Purpose == lesson.Introduce && d.Date < k.today {
			n += len(d.Pairs)
		}
	}
	for _, m := range k.known.Met {
		if slices.Contains(pairs, m.Card.Pair) {
			n--
		}
	}
	return n
}

const maxWeeksShown = 70

// weeks are all weeks of the year, with what was logged and what is laid out.
func (k schedule) weeks(l layout, q WhatIf) []YearWeek {
	school := k.school.School
	start, end := school.First(k.pace, k.today), l.ends
	if len(k.log) > 0 && k.log[0].date < start && len(school.Terms) == 0 {
		start = k.log[0].date
	}
	for _, t := range school.Terms {
		start, end = min(start, t.First), max(end, t.Last)
	}
	end = max(end, k.today)
	if len(l.days) > 0 && len(school.Terms) == 0 {
		end = max(end, l.days[len(l.days)-1].Date)
	}
	planned := map[year.Date]year.Day{}
	for _, d := range l.days {
		planned[d.Date] = d
	}
	lost := map[year.Date]string{}
	for _, d := range k.pace.Lost {
		lost[d.Date] = cmp.Or(d.Why, "lost")
	}
	for _, d := range q.Lose {
		lost[d] = "lost"
	}
	out := []YearWeek{}
	for monday := start.Monday(); monday <= end && len(out) < maxWeeksShown; monday = monday.Add(7) {
		w := YearWeek{Monday: monday, Days: []YearDay{}, Assess: slices.Contains(school.Assess, monday)}
		for i := range 7 {
			d := monday.Add(i)
			if t, n, in := school.Week(d); in && w.Number == 0 {
				w.Term, w.Number = t.Name, n
			}
			day := k.dayOfCard(l, d, planned, lost)
			if i < 5 || day.Kind != EmptyDay {
				w.Days = append(w.Days, day)
			}
		}
		out = append(out, w)
	}
	return out
}

func (k schedule) dayOfCard(l layout, d year.Date, planned map[year.Date]year.Day, lost map[year.Date]string) YearDay {
	day := YearDay{Date: d, Kind: EmptyDay, Cards: []string{}}
	if off := slices.IndexFunc(k.school.School.Off, func(o year.DayOff) bool { return o.Date == d }); off >= 0 {
		day.Kind, day.Name = OffDay, k.school.School.Off[off].Name
	}
	if why, is := lost[d]; is {
		day.Kind, day.Name = LostDay, why
	}
	p, there := planned[d]
	if m, met := k.logged(d); met {
		day.Kind, day.Purpose, day.Cards = TaughtDay, lesson.Revise, m.met
		if len(m.new) > 0 {
			day.Purpose, day.Cards = lesson.Introduce, m.new
		}
		return day
	}
	if there && d >= k.today {
		day.Kind, day.Purpose, day.Cards, day.MovedFrom = LessonDay, p.Purpose, l.ids(p.Pairs), p.MovedFrom
	}
	if d >= k.today && day.Kind == EmptyDay && len(k.focus) > 0 && k.school.School.Teaches(k.pace, d) {
		day.Kind, day.Purpose, day.Cards = LessonDay, lesson.CatchUp, k.catchesUp(d)
	}
	if d < k.today && day.Kind == EmptyDay && k.school.School.Teaches(k.pace, d) && len(k.log) > 0 &&
		d > k.log[0].date {
		day.Silent = true
	}
	return day
}

// MaxFocus is how many sounds a group catches up on in one lesson.
const MaxFocus = 2

// catchesUp are the sounds of a group for a day: a few at a time, in turn.
func (k schedule) catchesUp(d year.Date) []string {
	day := int(d.Time().Sub(k.today.Time()).Hours()+12) / 24
	out := []string{}
	for i := range min(MaxFocus, len(k.focus)) {
		out = append(out, k.focus[(day*MaxFocus+i)%len(k.focus)])
	}
	return out
}
