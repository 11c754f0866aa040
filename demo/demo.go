// Package demo is a made-up team in canal country: its library, classes and log. Nothing in it is real;
// the takes are synthesised and say so.
package demo

import (
	"brightchalk/internal/app"
	"brightchalk/internal/core/card"
	"brightchalk/internal/core/lesson"
	"brightchalk/internal/core/phoneme"
	"brightchalk/internal/core/recording"
	"brightchalk/internal/core/spelling"
	"brightchalk/internal/httpapi"
	"brightchalk/internal/media"
	"brightchalk/internal/store"
	"context"
	"crypto/sha256"
	"embed"
	"encoding/json"
	"errors"
	"fmt"
	"io/fs"
	"time"

	"github.com/jackc/pgx/v5"
)

//go:embed library.json pictures/*.svg takes/*.wav
var files embed.FS

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
	Team    string     `json:"team"`
	Speaker string     `json:"speaker"`
	Cards   []demoCard `json:"cards"`
	Bank    []struct {
		Kind string `json:"kind"`
		Body string `json:"body"`
	} `json:"bank"`
	Classes []struct {
		Name   string `json:"name"`
		Kind   string `json:"kind"`
		Taught int    `json:"taught"` // so many cards of the order
		Shaky  []int  `json:"shaky"`  // steps
	} `json:"classes"`
}

// SignIns are the demo's accounts, one for each role.
var SignIns = []httpapi.DemoSignIn{
	{Email: "lead@lockhouse.example", Password: "lantern on the towpath", Role: "lead"},
	{Email: "teacher@lockhouse.example", Password: "kettle on the barge", Role: "teacher"},
	{Email: "assistant@lockhouse.example", Password: "rope around the bollard", Role: "assistant"},
}

var names = map[string]string{"lead": "Odile Weir", "teacher": "Tam Quayle", "assistant": "Bea Sluice"}

// Load makes the demo team where the database holds no team, and returns its sign-ins.
func Load(ctx context.Context, a *app.App) ([]httpapi.DemoSignIn, error) {
	n, err := store.CountTeams(ctx, a.Pool)
	if err != nil || n > 0 {
		return SignIns, err
	}
	var lib library
	data, err := files.ReadFile("library.json")
	if err == nil {
		err = json.Unmarshal(data, &lib)
	}
	if err != nil {
		return nil, fmt.Errorf("read the demo library: %w", err)
	}
	return SignIns, pgx.BeginFunc(ctx, a.Pool, func(tx pgx.Tx) error { return lib.load(ctx, tx, a.Now()) })
}

func (l library) load(ctx context.Context, tx pgx.Tx, now time.Time) error {
	conv := card.Conventions{Accent: phoneme.SouthernBritish, GroupsFirst: true, Paper: "A4"}
	teamID, err := store.CreateTeam(ctx, tx, l.Team, conv)
	if err != nil {
		return err
	}
	if err := store.PutRoutine(ctx, tx, teamID, lesson.DefaultRoutine()); err != nil {
		return err
	}
	var leadID string
	for _, s := range SignIns {
		id, err := app.AddMember(ctx, tx, teamID, s.Email, names[s.Role], app.Role(s.Role), s.Password)
		if err != nil {
			return err
		}
		if s.Role == "lead" {
			leadID = id
		}
	}
	ids := make([]string, len(l.Cards))
	for i, c := range l.Cards {
		if ids[i], err = l.card(ctx, tx, teamID, leadID, i+1, c, conv, now); err != nil {
			return fmt.Errorf("card %s: %w", c.Pair, err)
		}
	}
	for _, t := range l.Bank {
		if _, err := store.AddBankText(ctx, tx, teamID, t.Kind, t.Body, leadID, now); err != nil {
			return fmt.Errorf("bank text %q: %w", t.Body, err)
		}
	}
	return l.classes(ctx, tx, teamID, leadID, ids, now)
}

func (l library) card(
	ctx context.Context,
	tx pgx.Tx,
	teamID, by string,
	step int,
	c demoCard,
	conv card.Conventions,
	now time.Time,
) (string, error) {
	pair, err := spelling.ParsePair(conv.Accent, c.Pair)
	if err != nil {
		return "", err
	}
	if c.Picture != "" {
		raw, err := files.ReadFile("pictures/" + c.Picture)
		if err != nil {
			return "", err
		}
		clean, err := media.CleanPicture(raw)
		if err != nil {
			return "", err
		}
		sum, err := store.PutMedium(ctx, tx, teamID, store.Medium{MediaType: clean.MediaType, Bytes: clean.Bytes})
		if err != nil {
			return "", err
		}
		c.Content.Picture = fmt.Sprintf("%x", sum)
	}
	id, err := store.CreateCard(
		ctx,
		tx,
		step,
		pair,
		store.CardEdit{
			TeamID:  teamID,
			State:   c.State,
			Content: c.Content.Tidy(),
			Changed: []string{"all"},
			By:      &by,
			Now:     now,
		},
	)
	if err != nil || c.Take == "" {
		return id, err
	}
	data, err := files.ReadFile("takes/" + c.Take)
	if errors.Is(err, fs.ErrNotExist) {
		return id, nil
	}
	if err != nil {
		return "", err
	}
	return id, l.take(ctx, tx, teamID, id, pair, data, conv, now)
}

func (l library) take(
	ctx context.Context,
	tx pgx.Tx,
	teamID, cardID string,
	pair spelling.Pair,
	data []byte,
	conv card.Conventions,
	now time.Time,
) error {
	clip, err := media.DecodeSound(data)
	if err != nil {
		return err
	}
	target, err := recording.TargetOf(conv.Accent, pair.Sound)
	if err != nil {
		return err
	}
	r := recording.Judge(clip, target)
	if _, err := store.PutMedium(ctx, tx, teamID, store.Medium{MediaType: "audio/wav", Bytes: data}); err != nil {
		return err
	}
	sum := sha256.Sum256(data)
	t := store.Take{
		CardID:      cardID,
		SHA256:      sum[:],
		Speaker:     l.Speaker,
		ConsentOn:   now,
		TrimStartMs: max(0, r.Trim.StartMs-20),
		TrimEndMs:   r.Trim.EndMs + 20,
		Verdict:     r.Verdict,
		Report:      r,
		CreatedAt:   now,
	}
	if t.TakeID, err = store.AddTake(ctx, tx, teamID, "", t); err != nil {
		return err
	}
	return store.ChooseTake(ctx, tx, teamID, t)
}

// classes writes a log as if each class had met a card a school day, and the first ones often.
func (l library) classes(ctx context.Context, tx pgx.Tx, teamID, by string, ids []string, now time.Time) error {
	for _, c := range l.Classes {
		classID, err := store.CreateClass(ctx, tx, teamID, c.Name, c.Kind)
		if err != nil {
			return err
		}
		for i := range c.Taught {
			met := now.AddDate(0, 0, -(c.Taught - i))
			for visit := range min(4, 1+(c.Taught-i)/3) {
				sure := min(3, 1+visit)
				for _, s := range c.Shaky {
					if s == i+1 {
						sure = min(1, visit)
					}
				}
				at := met.AddDate(0, 0, visit*(c.Taught-i)/5)
				if err := store.AddLog(
					ctx,
					tx,
					teamID,
					classID,
					"",
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
