package app

import (
	"archive/zip"
	"bytes"
	"context"
	"encoding/json"
	"fmt"
	"io"

	"brightchalk/internal/core/card"
	"brightchalk/internal/core/fault"
	"brightchalk/internal/core/lesson"
	"brightchalk/internal/core/review"
	"brightchalk/internal/core/spelling"
	"brightchalk/internal/core/strokes"
	"brightchalk/internal/media"
	"brightchalk/internal/pack"
	"brightchalk/internal/store"
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

// ErrBundle is the code of what ReadBundle refuses.
const ErrBundle fault.Code = "no-bundle"

// Bundle writes the library as a bundle; classID may be empty.
func (p Print) Bundle(ctx context.Context, by Actor, classID string, w io.Writer) error {
	_, err := read(ctx, p.desk, by, func(s printStore) (struct{}, error) {
		return struct{}{}, p.bundle(ctx, s, classID, w)
	})
	return err
}

func (p Print) bundle(ctx context.Context, s printStore, classID string, w io.Writer) error {
	b, rows, err := bundled(ctx, s, classID)
	if err != nil {
		return err
	}
	z := zip.NewWriter(w)
	for i, c := range b.Cards {
		if err := exportMedia(ctx, s, z, rows[i], c); err != nil {
			return fmt.Errorf("export card %s: %w", c.Pair, err)
		}
	}
	carry, err := z.Create("carry-pack.html")
	if err != nil {
		return err
	}
	made, err := p.packed(ctx, s, classID, PackOrder)
	if err != nil {
		return err
	}
	if err := pack.Write(carry, made); err != nil {
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

// bundled gathers a library, with the rows of its cards.
func bundled(ctx context.Context, s printStore, classID string) (Bundle, []store.Card, error) {
	team, err := s.Team(ctx)
	if err != nil {
		return Bundle{}, nil, err
	}
	b := Bundle{Format: bundleFormat, Team: team.Name, Conventions: team.Conventions}
	if b.Letters, err = s.OwnLetters(ctx); err != nil {
		return b, nil, err
	}
	if b.Routine, err = routineOf(ctx, s); err != nil {
		return b, nil, err
	}
	if classID != "" {
		c, err := s.Class(ctx, classID)
		if err != nil {
			return b, nil, err
		}
		state, err := stateOf(ctx, s, classID)
		if err != nil {
			return b, nil, err
		}
		b.Class, b.Taught, b.Log = c.Name, state.introduced, state.seen
	}
	bank, err := s.Bank(ctx)
	if err != nil {
		return b, nil, err
	}
	b.Bank = bankOf(bank)
	rows, err := s.Cards(ctx, false)
	if err != nil {
		return b, nil, err
	}
	agreed, err := s.AgreedContents(ctx)
	for _, r := range rows {
		_, c := own(team.Conventions, r)
		b.Cards = append(b.Cards, agreedNow(c, agreed))
	}
	return b, rows, err
}

func exportMedia(ctx context.Context, s printStore, z *zip.Writer, r store.Card, c card.Card) error {
	put := func(name string, data []byte) error {
		f, err := z.Create(name)
		if err != nil {
			return err
		}
		_, err = f.Write(data)
		return err
	}
	if c.Picture != "" {
		m, err := pictureBySum(ctx, s, c.Picture)
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
	sound, err := masterOf(ctx, s, r.TakeID)
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
		return b, fault.New(ErrBundle, "this is no bundle of Bright Chalk: it is not a ZIP file")
	}
	f, err := z.Open("library.json")
	if err != nil {
		return b, fault.New(ErrBundle, "this is no bundle of Bright Chalk: it holds no library.json")
	}
	defer func() { _ = f.Close() }()
	text, err := io.ReadAll(io.LimitReader(f, maxLibrary))
	if err == nil {
		err = json.Unmarshal(text, &b)
	}
	switch {
	case err != nil:
		return b, fault.New(ErrBundle, "this is no bundle of Bright Chalk: its library.json cannot be read")
	case b.Format != bundleFormat:
		return b, fault.New(ErrBundle, "this is no bundle of Bright Chalk: its format is %q, not %q", b.Format, bundleFormat)
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
		return in, fault.In("sound", "the bundle has no card for %s", pair)
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
