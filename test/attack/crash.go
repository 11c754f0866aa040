package attack

import (
	"context"
	"encoding/json"
	"fmt"
	"net/http"
	"sync"
	"time"

	"brightchalk/internal/core/lesson"
	"brightchalk/internal/library"
	"brightchalk/internal/teaching"
	"brightchalk/test/loopback"
)

// journal is what was acknowledged, and what may or may not have been stored when the answer did not come.
type journal struct {
	mu      sync.Mutex
	rhymes  map[string][]string // by card: the last acknowledged, then what was sent after it
	classes map[string]bool
	lessons map[string]int // by id: the revision that was acknowledged
	acked   int
	open    int
}

// writers change things of their own until ctx ends: each writes the rhymes of some cards, makes classes and lessons.
func (j *journal) write(ctx context.Context, p person, who int, own []library.WallCard, classID string) {
	for n := 0; ctx.Err() == nil; n++ {
		c := own[n%len(own)]
		switch n % 4 {
		case 0, 1:
			j.rhyme(ctx, p, c, fmt.Sprintf("Writer %d sings line %d.", who, n))
		case 2:
			name := fmt.Sprintf("Class %d-%d-%d", who, n, time.Now().UnixNano()%1_000_000)
			status, _, err := p.call(ctx, http.MethodPost, "/api/classes", map[string]string{"name": name, "kind": "group"})
			if err == nil && status == http.StatusOK {
				j.note(func() { j.classes[name] = true })
			}
		case 3:
			status, data, err := p.call(ctx, http.MethodPost, "/api/lessons", teaching.LessonAsk{
				ClassID: classID, Purpose: lesson.Introduce, CardIDs: []string{c.CardID}, Minutes: 15,
			})
			var made teaching.LessonView
			if err == nil && status == http.StatusOK && json.Unmarshal(data, &made) == nil {
				j.note(func() { j.lessons[made.LessonID] = made.Revision })
			}
		}
	}
}

func (j *journal) note(f func()) {
	j.mu.Lock()
	defer j.mu.Unlock()
	f()
	j.acked++
}

func (j *journal) rhyme(ctx context.Context, p person, c library.WallCard, text string) {
	v, err := get[library.CardView](ctx, p, "/api/cards/"+c.CardID)
	if err != nil {
		return
	}
	j.mu.Lock()
	if j.rhymes[c.CardID] == nil {
		j.rhymes[c.CardID] = []string{v.Content.Rhyme}
	}
	v.Content.Rhyme = text
	j.rhymes[c.CardID] = append(j.rhymes[c.CardID], text)
	j.open++
	j.mu.Unlock()
	status, _, err := p.call(ctx, http.MethodPut, "/api/cards/"+c.CardID,
		map[string]any{"base_version": v.Version, "content": v.Content})
	if err == nil && status == http.StatusOK {
		j.note(func() { j.rhymes[c.CardID] = []string{text}; j.open-- })
	}
}

// check compares what stands now with what was promised.
func (j *journal) check(ctx context.Context, a *Arena, p person, why string) error {
	for id, may := range j.rhymes {
		v, err := get[library.CardView](ctx, p, "/api/cards/"+id)
		if err != nil {
			return err
		}
		stands := false
		for _, m := range may {
			stands = stands || v.Content.Rhyme == m
		}
		if !stands && len(may) > 0 {
			a.Find("%s: a card says %q, promised was %q", why, v.Content.Rhyme, may)
		}
	}
	classes, err := get[[]struct{ Name string }](ctx, p, "/api/classes")
	if err != nil {
		return err
	}
	there := map[string]bool{}
	for _, c := range classes {
		there[c.Name] = true
	}
	for name := range j.classes {
		if !there[name] {
			a.Find("%s: the class %s is lost", why, name)
		}
	}
	for id, revision := range j.lessons {
		v, err := get[teaching.LessonView](ctx, p, "/api/lessons/"+id)
		if err != nil || v.Revision != revision {
			a.Find("%s: the lesson %s is lost or torn: %v", why, id, err)
		}
	}
	return a.whole(ctx, a.db, why)
}

// whole checks what holds of every library at any time, in SQL.
func (a *Arena) whole(ctx context.Context, db *database, why string) error {
	for rule, sql := range map[string]string{
		"two cards stand at one step": `SELECT count(*) FROM (
			SELECT 1 FROM card GROUP BY team_id, step HAVING count(*) > 1) x`,
		"the order has a gap": `SELECT count(*) FROM (
			SELECT 1 FROM card GROUP BY team_id HAVING max(step) <> count(*) OR min(step) <> 1) x`,
		"a card's version is not in its history": `SELECT count(*) FROM card c
			WHERE NOT EXISTS (SELECT 1 FROM card_version v WHERE v.card_id = c.card_id AND v.version = c.version)`,
		"a card's history has a gap": `SELECT count(*) FROM (
			SELECT 1 FROM card_version GROUP BY card_id HAVING max(version) <> count(*)) x`,
		"a card differs from its newest version": `SELECT count(*) FROM card c JOIN card_version v USING (card_id, version)
			WHERE v.content <> c.content`,
		"a card has two sounds": `SELECT count(*) FROM (
			SELECT 1 FROM take WHERE chosen GROUP BY card_id HAVING count(*) > 1) x`,
		"a team has no lead": `SELECT count(*) FROM team t WHERE NOT EXISTS (
			SELECT 1 FROM member m WHERE m.team_id = t.team_id AND m.role = 'lead' AND m.archived_at IS NULL)`,
		"a lesson counts twice": `SELECT count(*) FROM (
			SELECT 1 FROM class_log WHERE lesson_id IS NOT NULL GROUP BY lesson_id, card_id HAVING count(*) > 1) x`,
	} {
		n, err := ask[int](ctx, db, sql)
		if err != nil {
			return err
		}
		if n > 0 {
			a.Find("%s: %s (%d times)", why, rule, n)
		}
	}
	return nil
}

// crew are writers at work; stop ends them.
type crew struct {
	*journal
	stop func()
}

func (a *Arena) crew(ctx context.Context, base string, n int) (*crew, error) {
	lead, err := member(ctx, base, 0)
	if err != nil {
		return nil, err
	}
	wall, err := cards(ctx, lead)
	if err != nil {
		return nil, err
	}
	classes, err := get[[]struct {
		ClassID string `json:"class_id"`
	}](ctx, lead, "/api/classes")
	if err != nil {
		return nil, err
	}
	j := &journal{rhymes: map[string][]string{}, classes: map[string]bool{}, lessons: map[string]int{}}
	working, stop := context.WithCancel(ctx)
	var wait sync.WaitGroup
	per := len(wall) / n
	for i := range n {
		wait.Go(func() { j.write(working, lead, i, wall[i*per:(i+1)*per], classes[0].ClassID) })
	}
	return &crew{j, func() { stop(); wait.Wait() }}, nil
}

// kills ends the server at any moment and starts it at the same address again.
func kills(ctx context.Context, a *Arena) error {
	port := loopback.FreePort()
	s, err := a.serve(ctx, a.db, port)
	if err != nil {
		return err
	}
	defer func() { s.kill() }()
	var back times
	acked := 0
	for i := range a.Kills {
		w, err := a.crew(ctx, s.base, 6)
		if err != nil {
			return err
		}
		time.Sleep(time.Duration(100+a.Rand.IntN(400)) * time.Millisecond)
		s.kill()
		w.stop()
		began := time.Now()
		if s, err = a.serve(ctx, a.db, port); err != nil {
			return err
		}
		if err := a.firstWrite(ctx, s.base); err != nil {
			return err
		}
		back.add(time.Since(began))
		lead, err := member(ctx, s.base, 0)
		if err != nil {
			return err
		}
		acked += w.acked
		if err := w.check(ctx, a, lead, fmt.Sprintf("kill %d", i+1)); err != nil {
			return err
		}
	}
	a.Say("   %d kills, %d acknowledged changes; first write after a restart: median %d ms, at most %d ms",
		a.Kills, acked, back.at(0.5).Milliseconds(), back.at(1).Milliseconds())
	return nil
}

// firstWrite waits for a change to be taken.
func (a *Arena) firstWrite(ctx context.Context, base string) error {
	var last error
	for until := time.Now().Add(30 * time.Second); time.Now().Before(until); time.Sleep(20 * time.Millisecond) {
		lead, err := member(ctx, base, 0)
		if err == nil {
			name := fmt.Sprintf("Group %d", time.Now().UnixNano())
			status, data, err := lead.call(
				ctx,
				http.MethodPost,
				"/api/classes",
				map[string]string{"name": name, "kind": "group"},
			)
			if err == nil && status == http.StatusOK {
				return nil
			}
			last = fmt.Errorf("%d %s %w", status, data, err)
			continue
		}
		last = err
	}
	return fmt.Errorf("no change is taken: %w", last)
}

// crashes ends the database as a cut of the power would, while the server runs on.
func crashes(ctx context.Context, a *Arena) error {
	s, err := a.serve(ctx, a.db, 0)
	if err != nil {
		return err
	}
	defer s.kill()
	var back times
	acked := 0
	for i := range a.Crashes {
		w, err := a.crew(ctx, s.base, 6)
		if err != nil {
			return err
		}
		time.Sleep(time.Duration(200+a.Rand.IntN(600)) * time.Millisecond)
		if err := a.db.crash(); err != nil {
			return err
		}
		time.Sleep(300 * time.Millisecond)
		if err := a.db.start(); err != nil {
			return err
		}
		began := time.Now()
		if err := a.firstWrite(ctx, s.base); err != nil {
			return err
		}
		back.add(time.Since(began))
		w.stop()
		lead, err := member(ctx, s.base, 0)
		if err != nil {
			return err
		}
		acked += w.acked
		if err := w.check(ctx, a, lead, fmt.Sprintf("crash %d", i+1)); err != nil {
			return err
		}
	}
	a.quiet(s, "crash")
	a.Say("   %d crashes, %d acknowledged changes; first write after the database is back: median %d ms, at most %d ms",
		a.Crashes, acked, back.at(0.5).Milliseconds(), back.at(1).Milliseconds())
	return nil
}
