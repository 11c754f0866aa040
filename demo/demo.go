// Package demo is a made-up team in canal country: its library, classes and log. Nothing in it is real;
// the takes are synthesised and say so.
package demo

import (
	"context"
	"crypto/sha256"
	"embed"
	"encoding/json"
	"fmt"
	"io/fs"
	"slices"
	"sync"
	"time"

	"github.com/jackc/pgx/v5"

	"brightchalk/internal/app"
	"brightchalk/internal/core/card"
	"brightchalk/internal/core/convention"
	"brightchalk/internal/core/lesson"
	"brightchalk/internal/core/phoneme"
	"brightchalk/internal/core/recording"
	"brightchalk/internal/core/spelling"
	"brightchalk/internal/core/year"
	"brightchalk/internal/media"
	"brightchalk/internal/people"
	"brightchalk/internal/store"
	"brightchalk/internal/tx"
)

//go:embed library.json pictures/*.svg takes/*.wav
var files embed.FS

const accent = phoneme.SouthernBritish

// Takes are the demo's synthesised takes, in takes/.
func Takes() fs.FS { return files }

type demoCard struct {
	Pair    string     `json:"pair"`
	State   card.State `json:"state"`
	Picture string     `json:"picture_file"`
	Take    string     `json:"take_file"`
	card.Content
}

type library struct {
	Team    string               `json:"team"`
	Speaker string               `json:"speaker"`
	Cards   []demoCard           `json:"cards"`
	Words   []convention.OwnWord `json:"words"`
	Bank    []lesson.Text        `json:"bank"`
	Classes []struct {
		Name   string `json:"name"`
		Kind   string `json:"kind"`
		Taught int    `json:"taught"` // so many cards of the order
		Shaky  []int  `json:"shaky"`  // steps
	} `json:"classes"`
}

// SignIns are the demo's accounts, one for each role.
var SignIns = []people.DemoSignIn{
	{Email: "lead@lockhouse.example", Password: "lantern on the towpath", Role: "lead"},
	{Email: "teacher@lockhouse.example", Password: "kettle on the barge", Role: "teacher"},
	{Email: "assistant@lockhouse.example", Password: "rope around the bollard", Role: "assistant"},
}

var names = map[string]string{"lead": "Odile Weir", "teacher": "Tam Quayle", "assistant": "Bea Sluice"}

// Load makes the demo team where the database holds no team, and returns its sign-ins.
func Load(ctx context.Context, a *app.App) ([]people.DemoSignIn, error) {
	n, err := store.CountTeams(ctx, store.AllTeams{Pool: a.Pool})
	if err != nil || n > 0 {
		return SignIns, err
	}
	lib, err := read()
	if err != nil {
		return nil, err
	}
	return SignIns, store.AllTeams{Pool: a.Pool}.Begin(ctx, func(db pgx.Tx) error {
		return lib.load(ctx, db, a.Accounts, a.Now())
	})
}

func read() (lib library, err error) {
	data, err := files.ReadFile("library.json")
	if err == nil {
		err = json.Unmarshal(data, &lib)
	}
	if err != nil {
		return lib, fmt.Errorf("read the demo library: %w", err)
	}
	return lib, nil
}

func (l library) load(ctx context.Context, db pgx.Tx, accounts people.Accounts, now time.Time) error {
	conv := convention.Conventions{Accent: accent, GroupsFirst: true, Paper: "A4", Words: l.Words}
	teamID, err := store.CreateTeam(ctx, db, l.Team, conv)
	if err != nil {
		return err
	}
	s := store.For(db, teamID)
	team := memberIDs{}
	for _, m := range SignIns {
		id, err := accounts.AddMember(ctx, db, teamID, m.Email, names[m.Role], tx.Role(m.Role), m.Password)
		if err != nil {
			return err
		}
		team[m.Role] = id
	}
	leadID := team["lead"]
	authors := []string{leadID, team["teacher"]} // a card each in turn
	ids := make([]string, len(l.Cards))
	for i, c := range l.Cards {
		if ids[i], err = l.card(ctx, s, authors[i%2], i+1, c, conv, now.AddDate(0, -2, 0)); err != nil {
			return fmt.Errorf("card %s: %w", c.Pair, err)
		}
	}
	for _, t := range l.Bank {
		if _, err := s.AddBankText(ctx, leadID, t, now); err != nil {
			return fmt.Errorf("bank text %q: %w", t.Body, err)
		}
	}
	if err := s.PutSchoolYear(ctx, 0, schoolYear(year.On(now)), leadID, now); err != nil {
		return err
	}
	if err := l.classes(ctx, s, team, ids, now); err != nil {
		return err
	}
	for _, id := range team {
		if err := s.Look(ctx, id, now.AddDate(0, 0, -3)); err != nil {
			return err
		}
	}
	return l.talk(ctx, s, team, ids, now)
}

// schoolYear is a made-up one around today: three terms, a week off in the middle of each, and a day for the boats.
func schoolYear(today year.Date) year.School {
	out := year.Usual()
	out.Terms = year.Suggested(today)
	for _, t := range out.Terms {
		half := t.First.Monday().Add(7 * 7)
		for i := range 5 {
			out.Off = append(out.Off, year.DayOff{Date: half.Add(i), Name: "half term"})
		}
		out.Assess = append(out.Assess, t.Last.Monday())
	}
	out.Off = append(out.Off, year.DayOff{Date: out.Terms[2].First.Monday().Add(4*7 + 4), Name: "boat day"})
	out.Speeds = []year.Speed{{Name: "catching up", PerWeek: 2}}
	return out
}

func (l library) card(
	ctx context.Context,
	s store.Library,
	by string,
	step int,
	c demoCard,
	conv convention.Conventions,
	now time.Time,
) (string, error) {
	pair, err := spelling.ParsePair(conv.Accent, c.Pair)
	if err != nil {
		return "", err
	}
	if c.Picture != "" {
		clean, err := picture(c.Picture)
		if err != nil {
			return "", err
		}
		sum, err := s.PutMedium(ctx, store.Medium{MediaType: clean.MediaType, Bytes: clean.Bytes})
		if err != nil {
			return "", err
		}
		c.Content.Picture = fmt.Sprintf("%x", sum)
	}
	id, err := s.CreateCard(ctx, step, pair, store.CardEdit{
		State:   c.State,
		Content: c.Content.Tidy(),
		Changed: []string{"all"},
		By:      &by,
		Now:     now,
	})
	if err != nil || c.Take == "" {
		return id, err
	}
	j, err := judged(c.Take, pair.Sound)
	if err != nil {
		return "", err
	}
	return id, l.take(ctx, s, id, j, now)
}

// judgement is a take with what is found in it.
type judgement struct {
	data   []byte
	report recording.Report
}

// What the files of the demo are does not change: each is cleaned, or judged, once in a process.
var pictures, takes sync.Map

func picture(name string) (media.Picture, error) {
	if known, ok := pictures.Load(name); ok {
		return known.(media.Picture), nil
	}
	raw, err := files.ReadFile("pictures/" + name)
	if err != nil {
		return media.Picture{}, err
	}
	clean, err := media.CleanPicture(raw)
	if err == nil {
		pictures.Store(name, clean)
	}
	return clean, err
}

func judged(name, sound string) (judgement, error) {
	key := name + " " + sound
	if known, ok := takes.Load(key); ok {
		return known.(judgement), nil
	}
	data, err := files.ReadFile("takes/" + name)
	if err != nil {
		return judgement{}, err
	}
	clip, err := media.DecodeSound(data)
	if err != nil {
		return judgement{}, err
	}
	target, err := recording.TargetOf(accent, sound)
	if err != nil {
		return judgement{}, err
	}
	j := judgement{data, recording.Judge(clip, target)}
	takes.Store(key, j)
	return j, nil
}

func (l library) take(ctx context.Context, s store.Library, cardID string, j judgement, now time.Time) error {
	if _, err := s.PutMedium(ctx, store.Medium{MediaType: "audio/wav", Bytes: j.data}); err != nil {
		return err
	}
	sum := sha256.Sum256(j.data)
	t := store.Take{
		CardID:      cardID,
		SHA256:      sum[:],
		Speaker:     l.Speaker,
		ConsentOn:   now,
		TrimStartMs: max(0, j.report.Trim.StartMs-20),
		TrimEndMs:   j.report.Trim.EndMs + 20,
		Verdict:     j.report.Verdict,
		Report:      j.report,
		CreatedAt:   now,
	}
	var err error
	if t.TakeID, err = s.AddTake(ctx, "", t); err != nil {
		return err
	}
	return s.ChooseTake(ctx, t)
}

// lessonDays are the last days before now with a new sound: Monday to Thursday outside the days off, the oldest first.
func lessonDays(school year.School, now time.Time, n int) []time.Time {
	var out []time.Time
	for at := now.AddDate(0, 0, -1); len(out) < n; at = at.AddDate(0, 0, -1) {
		day := at.Weekday()
		off := slices.ContainsFunc(school.Off, func(o year.DayOff) bool { return o.Date == year.On(at) })
		if day >= time.Monday && day <= time.Thursday && !off {
			out = append(out, at)
		}
	}
	slices.Reverse(out)
	return out
}

// schoolDay is the day itself, or the Friday before a weekend.
func schoolDay(at time.Time) time.Time {
	switch at.Weekday() {
	case time.Saturday:
		return at.AddDate(0, 0, -1)
	case time.Sunday:
		return at.AddDate(0, 0, -2)
	}
	return at
}

// classes writes a log as if each class had met a card a lesson, and the first ones often.
func (l library) classes(ctx context.Context, s store.Library, team memberIDs, ids []string, now time.Time) error {
	for _, c := range l.Classes {
		classID, err := s.CreateClass(ctx, c.Name, c.Kind)
		if err != nil {
			return err
		}
		by := team[teach[c.Name]]
		if err := s.SetTeachers(ctx, classID, []string{by}); err != nil {
			return err
		}
		for i, met := range lessonDays(schoolYear(year.On(now)), now, c.Taught) {
			since := int(now.Sub(met).Hours()) / 24
			for visit := range min(4, 1+(c.Taught-i)/3) {
				sure := min(3, 1+visit)
				for _, shaky := range c.Shaky {
					if shaky == i+1 {
						sure = min(1, visit)
					}
				}
				at := schoolDay(met.AddDate(0, 0, visit*since/5))
				if at.Before(met) {
					at = met
				}
				if err := s.AddLog(ctx, classID,
					by,
					store.LogRow{CardID: ids[i], Introduced: visit == 0, Sureness: sure, MetAt: at},
				); err != nil {
					return err
				}
			}
		}
	}
	return nil
}
