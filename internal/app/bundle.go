package app

import (
	"archive/zip"
	"brightchalk/internal/core/card"
	"brightchalk/internal/core/lesson"
	"brightchalk/internal/core/review"
	"brightchalk/internal/core/spelling"
	"brightchalk/internal/core/strokes"
	"brightchalk/internal/media"
	"brightchalk/internal/store"
	"bytes"
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"io"
)

// Bundle is a team's library in one ZIP file of open files: library.json, pictures, takes and the carry pack. A class
// may stand in it with what it has been taught.
type Bundle struct {
	Format      string           `json:"format"` // "bright-chalk-bundle 1"
	Team        string           `json:"team"`
	Conventions card.Conventions `json:"conventions"`
	Routine     lesson.Routine   `json:"routine"`
	Cards       []card.Card      `json:"cards"` // agreed versions where there are any, in teaching order
	Class       string           `json:"class,omitempty"`
	// card ids; without a class all cards before the target
	Taught  []string                  `json:"taught,omitempty"`
	Log     []review.Seen             `json:"log,omitempty"`
	Bank    []lesson.Text             `json:"bank,omitempty"`
	Letters map[string]strokes.Letter `json:"letters,omitempty"` // the team's own forms
}

const bundleFormat = "bright-chalk-bundle 1"

// ErrBundle is wrapped by what ReadBundle refuses.
var ErrBundle = errors.New("this is no bundle of Bright Chalk")

// Export writes the library as a bundle; classID may be empty.
func (a *App) Export(ctx context.Context, by Actor, classID string, w io.Writer) error {
	team, err := store.GetTeam(ctx, a.Pool, by.TeamID)
	if err != nil {
		return err
	}
	b := Bundle{Format: bundleFormat, Team: team.Name, Conventions: team.Conventions}
	if b.Letters, err = store.OwnLetters(ctx, a.Pool, by.TeamID); err != nil {
		return err
	}
	if b.Routine, err = a.Routine(ctx, by); err != nil {
		return err
	}
	if classID != "" {
		c, err := store.GetClass(ctx, a.Pool, by.TeamID, classID)
		if err != nil {
			return err
		}
		state, err := a.classState(ctx, a.Pool, by.TeamID, classID)
		if err != nil {
			return err
		}
		b.Class, b.Taught, b.Log = c.Name, state.introduced, state.seen
	}
	bank, err := store.Bank(ctx, a.Pool, by.TeamID)
	if err != nil {
		return err
	}
	for _, t := range bank {
		b.Bank = append(b.Bank, lesson.Text{Kind: t.Kind, Body: t.Body})
	}
	rows, err := store.Cards(ctx, a.Pool, by.TeamID, false)
	if err != nil {
		return err
	}
	agreed, err := store.AgreedContents(ctx, a.Pool, by.TeamID)
	if err != nil {
		return err
	}
	z := zip.NewWriter(w)
	for _, r := range rows {
		c := withAgreed(r.Core(team.Conventions.Accent), agreed)
		b.Cards = append(b.Cards, c)
		if err := a.exportMedia(ctx, by, z, r, c); err != nil {
			return fmt.Errorf("export card %s: %w", c.Pair, err)
		}
	}
	carry, err := z.Create("carry-pack.html")
	if err != nil {
		return err
	}
	if err := a.Pack(ctx, by, classID, PackOrder, carry); err != nil {
		return err
	}
	f, err := z.Create("library.json")
	if err != nil {
		return err
	}
	e := json.NewEncoder(f)
	e.SetIndent("", " ")
	if err := e.Encode(b); err != nil {
		return err
	}
	return z.Close()
}

func withAgreed(c card.Card, agreed []store.AgreedContent) card.Card {
	for _, g := range agreed {
		if g.CardID == c.ID {
			c.Content, c.Version, c.State = g.Content, g.Version, card.Agreed
		}
	}
	return c
}

func (a *App) exportMedia(ctx context.Context, by Actor, z *zip.Writer, r store.Card, c card.Card) error {
	put := func(name string, data []byte) error {
		f, err := z.Create(name)
		if err != nil {
			return err
		}
		_, err = f.Write(data)
		return err
	}
	if c.Picture != "" {
		m, err := a.Picture(ctx, by, c.Picture)
		if err != nil {
			return err
		}
		ending := map[bool]string{true: ".svg", false: ".png"}[m.MediaType == "image/svg+xml"]
		if err := put("pictures/"+r.CardID+ending, m.Bytes); err != nil {
			return err
		}
	}
	if r.TakeID == "" {
		return nil
	}
	sound, err := a.MasterOf(ctx, by, r.TakeID)
	if err != nil {
		return err
	}
	return put("takes/"+r.CardID+".wav", media.EncodeWAV(sound))
}

const maxLibrary = 16 << 20

// ReadBundle reads the library of a bundle. The error names what is wrong.
func ReadBundle(data []byte) (Bundle, error) {
	var b Bundle
	z, err := zip.NewReader(bytes.NewReader(data), int64(len(data)))
	if err != nil {
		return b, fmt.Errorf("%w: it is not a ZIP file", ErrBundle)
	}
	f, err := z.Open("library.json")
	if err != nil {
		return b, fmt.Errorf("%w: it holds no library.json", ErrBundle)
	}
	defer func() { _ = f.Close() }()
	text, err := io.ReadAll(io.LimitReader(f, maxLibrary))
	if err == nil {
		err = json.Unmarshal(text, &b)
	}
	switch {
	case err != nil:
		return b, fmt.Errorf("%w: its library.json cannot be read", ErrBundle)
	case b.Format != bundleFormat:
		return b, fmt.Errorf("%w: its format is %q, not %q", ErrBundle, b.Format, bundleFormat)
	}
	return b, nil
}

// Input is what an introduction of a pair from the bundle depends on.
func (b Bundle) Input(pair spelling.Pair) (lesson.Input, error) {
	in := lesson.Input{Conventions: b.Conventions, Routine: b.Routine, Log: b.Log, Bank: b.Bank, Letters: b.Letters}
	taught := map[string]bool{}
	for _, id := range b.Taught {
		taught[id] = true
	}
	for _, c := range b.Cards {
		in.Refused = append(in.Refused, c.Rejected...)
		if c.Pair == pair {
			in.Target = c
		}
	}
	if in.Target.ID == "" {
		return in, fmt.Errorf("the bundle has no card for %s", pair)
	}
	for _, c := range b.Cards {
		if c.ID != in.Target.ID && (taught[c.ID] || b.Class == "" && c.Step < in.Target.Step) {
			in.Taught = append(in.Taught, c)
			in.Exceptions = append(in.Exceptions, c.Exceptions...)
			if b.Class == "" {
				in.Log = append(in.Log, review.Seen{CardID: c.ID, Sure: review.Sure, Times: 1})
			}
		}
	}
	return in, nil
}
