package assembly

import (
	"cmp"
	"slices"

	"brightchalk/internal/core/lesson"
	"brightchalk/internal/core/prose"
	"brightchalk/internal/core/step"
	"brightchalk/internal/core/step/kinds"
)

// part is one step of the routine with what it could show and how long it may be.
type part struct {
	lesson.RoutineStep
	id       string
	record   step.Record
	material step.Material
	span     step.Span
	counts   [3]int // least, usual, most items
	n        int
	seconds  int
}

func (p part) name() string { return cmp.Or(p.Name, p.record.Name) }

func (p part) perItem() bool { return p.record.ItemSeconds > 0 && p.material.Span == nil }

// by is by how many items the step grows.
func (p part) by() int { return max(1, p.material.By) }

// A lesson of less than ten minutes makes do with fewer words.
const leanMinutes = 10

var leanLeast = map[lesson.Kind]int{lesson.Read: 3, lesson.Spell: 1, lesson.Blend: 2}

// steps fills the routine: what has no material falls out, then what has no time, then the time is shared.
func (a *assembler) steps(b *step.FillInput) {
	var parts []part
	ids := a.Routine.StepIDs()
	for i, s := range a.Routine.Steps {
		rec, _ := kinds.Registry.Of(s.Kind)
		pace := a.Paces[s.Kind]
		rec = rec.Paced(pace)
		if s.Least == 0 && a.Minutes < leanMinutes {
			s.Least = leanLeast[s.Kind]
		}
		p := part{RoutineStep: s, id: ids[i], record: rec}
		m, lack := kinds.Registry.Find(b, s)
		if lack != nil {
			a.drop(p, string(lack.Code), lack.Error())
			continue
		}
		if p.material = m; m.Span != nil {
			own := m.Span.Paced(pace)
			p.material.Span = &own
		}
		p.span, p.counts = rec.Span(p.material, s)
		p.record.ItemSeconds = rec.PerItem(s.Options.Times)
		parts = append(parts, p)
	}
	parts = a.fit(parts)
	share(parts, a.Minutes*60)
	b.Counts = map[string]int{}
	for _, p := range parts {
		b.Counts[p.id] = p.n
	}
	t := &step.Narration{Lesson: a.out, Conventions: a.Conventions, Speech: a.speech, Clues: a.Clues}
	for _, p := range parts {
		var f step.FillResult
		if p.material.Take != nil {
			f = p.material.Take(p.n)
		}
		a.showCards(f)
		s := kinds.Registry.Fill(t, f, p.RoutineStep, p.id, p.seconds, a.Locked[p.id])
		s.Seconds, s.Pace = max(s.Seconds, p.seconds), a.Paces[p.Kind]
		if len(a.Locked[p.id]) > 0 && len(s.Items) > p.n {
			s.Seconds = kinds.Registry.SecondsFor(s)
		}
		if was, ok := a.Edited[p.id]; ok {
			s.Adult, s.Class, s.Edited = was.Adult, was.Class, true
		}
		a.out.Steps = append(a.out.Steps, s)
		a.out.Seconds += s.Seconds
	}
	a.timeNotes()
}

// showCards keeps the faces of the cards of a step before its words are written.
func (a *assembler) showCards(f step.FillResult) {
	for _, s := range f.Items {
		if s.Kind == lesson.CardItem {
			a.keepFace(s.Value)
		}
	}
}

func (a *assembler) drop(p part, code, text string) {
	a.out.Dropped = append(a.out.Dropped, lesson.Dropped{
		Kind: p.Kind, Name: p.name(), Reason: lesson.Reason{Code: code, Text: text},
	})
}

// fit leaves out whole steps where the least of all is more than the time, the least needed first; one that would fit
// into what is left then stays.
func (a *assembler) fit(parts []part) []part {
	left := a.Minutes * 60
	order := make([]int, len(parts))
	for i := range order {
		order[i] = i
	}
	slices.SortStableFunc(order, func(x, y int) int { return cmp.Compare(parts[y].record.Rank, parts[x].record.Rank) })
	keep := map[int]bool{}
	for _, i := range order {
		if least := parts[i].span.Least; least <= left {
			keep[i] = true
			left -= least
		}
	}
	var out []part
	for i, p := range parts {
		if keep[i] {
			out = append(out, p)
		} else {
			a.drop(p, noTime, "it needs "+prose.Clock(p.span.Least)+" at the least, and what is needed more fills the time")
		}
	}
	return out
}

// at gives each part its time for one common fraction: -1 the least, 0 the usual, 1 the most. Items are whole.
func at(parts []part, f float64) (total int) {
	for i := range parts {
		p := &parts[i]
		want := float64(p.span.Usual)
		if f < 0 {
			want += f * float64(p.span.Usual-p.span.Least)
		} else {
			want += f * float64(p.span.Most-p.span.Usual)
		}
		if p.perItem() {
			each := p.record.ItemSeconds * p.by()
			p.n = max(p.counts[0], min(p.counts[2], int(want+0.001)/each*p.by()))
			p.seconds = p.n * p.record.ItemSeconds
		} else {
			p.n, p.seconds = p.material.Least, max(p.span.Least, int(want+0.001)/5*5)
		}
		total += p.seconds
	}
	within(parts)
	return total
}

// within holds a step to no more items than the one whose words it takes.
func within(parts []part) {
	for i := range parts {
		p := &parts[i]
		for _, o := range parts {
			if o.Kind == p.record.Within && p.perItem() && p.n > o.n {
				p.n = max(o.n, min(p.n, p.counts[0]))
				p.seconds = p.n * p.record.ItemSeconds
			}
		}
	}
}

const halvings = 24

// share gives the time out: all steps move from the usual towards their least or their most by one common fraction;
// what whole items leave over goes to the most needed step that has room for one more, then to steps that do not go
// by items, then a little to those that do.
func share(parts []part, seconds int) {
	lo, hi := -1.0, 1.0
	for range halvings {
		mid := (lo + hi) / 2
		at(parts, mid)
		if sum(parts) <= seconds {
			lo = mid
		} else {
			hi = mid
		}
	}
	at(parts, lo)
	order := make([]*part, len(parts))
	for i := range parts {
		order[i] = &parts[i]
	}
	slices.SortStableFunc(order, func(x, y *part) int { return cmp.Compare(y.record.Rank, x.record.Rank) })
	for grown := true; grown; {
		grown = false
		for _, p := range order {
			each := p.record.ItemSeconds * p.by()
			if p.perItem() && p.n+p.by() <= p.counts[2] && sum(parts)+each <= seconds && p.roomWithin(parts) {
				p.n += p.by()
				p.seconds += each
				grown = true
			}
		}
	}
	stretch(order, seconds-sum(parts), func(p *part) int {
		if p.perItem() {
			return 0
		}
		return p.span.Most - p.seconds
	})
	stretch(order, seconds-sum(parts), func(p *part) int {
		if !p.perItem() {
			return 0
		}
		return p.n*p.record.ItemSeconds*slackPercent/100 - (p.seconds - p.n*p.record.ItemSeconds)
	})
}

// slackPercent is how much longer than its items a step may be.
const slackPercent = 8

func (p *part) roomWithin(parts []part) bool {
	for _, o := range parts {
		if o.Kind == p.record.Within && p.n >= o.n {
			return false
		}
	}
	return true
}

// stretch gives out what is left in fives, in turn, as far as there is room.
func stretch(order []*part, left int, room func(*part) int) {
	for given := true; given && left >= 5; {
		given = false
		for _, p := range order {
			if left >= 5 && room(p) >= 5 {
				p.seconds += 5
				left -= 5
				given = true
			}
		}
	}
}

func sum(parts []part) int {
	n := 0
	for _, p := range parts {
		n += p.seconds
	}
	return n
}

func (a *assembler) timeNotes() {
	switch over := a.out.Seconds - a.Minutes*60; {
	case over > 30:
		a.note(noteOver, "The steps take %s, %d seconds more than planned. Take something out, or plan more time.",
			prose.Clock(a.out.Seconds), over)
	case over < -60:
		a.note(noteUnder, "The steps fill %s at the most; %s is left over. Add a step, or plan less time.",
			prose.Clock(a.out.Seconds), prose.Clock(-over))
	}
}
