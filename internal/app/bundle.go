package app

import (
	"archive/zip"
	"bytes"
	"context"
	"encoding/json"
	"fmt"
	"io"
	"maps"
	"slices"
	"strings"

	"brightchalk/internal/core/assembly"
	"brightchalk/internal/core/card"
	"brightchalk/internal/core/fault"
	"brightchalk/internal/core/knowledge"
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
	Routine     lesson.Routine   `json:"routine"` // for a new sound
	// those that the team has set for other purposes
	Routines map[lesson.Purpose]lesson.Routine `json:"routines,omitempty"`
	Cards    []card.Card                       `json:"cards"` // agreed versions where there are any, in teaching order
	Class    string                            `json:"class,omitempty"`
	// card ids; without a class all cards before the target
	Taught  []string                  `json:"taught,omitempty"`
	Log     []review.Seen             `json:"log,omitempty"`
	Known   []string                  `json:"known,omitempty"` // exception words of the class
	Bank    []lesson.Text             `json:"bank,omitempty"`
	Letters map[string]strokes.Letter `json:"letters,omitempty"` // the team's own forms
}

const (
	bundleKind   = "bright-chalk-bundle "
	bundleFormat = bundleKind + "1"
)

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
	kept, err := s.Routines(ctx)
	if err != nil {
		return b, nil, err
	}
	b.Routine = lesson.DefaultRoutine(lesson.Introduce)
	for _, k := range kept {
		switch {
		case k.ClassID != "":
		case k.Purpose == lesson.Introduce:
			b.Routine = k.Routine
		default:
			if b.Routines == nil {
				b.Routines = map[lesson.Purpose]lesson.Routine{}
			}
			b.Routines[k.Purpose] = k.Routine
		}
	}
	if classID != "" {
		c, err := s.Class(ctx, classID)
		if err != nil {
			return b, nil, err
		}
		known, err := classOf(ctx, s, team.Conventions, classID)
		if err != nil {
			return b, nil, err
		}
		b.Class, b.Known = c.Name, slices.Sorted(maps.Keys(known.Exceptions))
		for _, k := range known.Met {
			b.Taught, b.Log = append(b.Taught, k.Card.ID), append(b.Log, k.Seen)
		}
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
	case strings.HasPrefix(b.Format, bundleKind):
		if b.Format != bundleFormat {
			return b, fault.New(ErrBundle, "this bundle was made by a newer version of Bright Chalk: its format is %q", b.Format)
		}
	default:
		return b, fault.New(ErrBundle, "this is no bundle of Bright Chalk: its format is %q, not %q", b.Format, bundleFormat)
	}
	return b, nil
}

// Lesson is what a lesson from the bundle depends on, and what tells what the class of the bundle knows.
func (b Bundle) Lesson(p lesson.Purpose) (assembly.Input, knowledge.Sources) {
	in := assembly.Input{Purpose: p, Conventions: b.Conventions, Bank: b.Bank, Letters: b.Letters}
	in.Routine = lesson.DefaultRoutine(p)
	if r, ok := b.Routines[p]; ok {
		in.Routine = r
	}
	if p == lesson.Introduce && len(b.Routine.Steps) > 0 {
		in.Routine = b.Routine
	}
	s := knowledge.Sources{Conventions: b.Conventions, Cards: b.Cards, Seen: b.Log}
	if len(b.Known) > 0 {
		s.Declared = append(s.Declared, knowledge.Declaration{Words: b.Known})
	}
	for _, c := range b.Cards {
		s.Refused = append(s.Refused, c.Rejected...)
	}
	return in, s
}

// Input is what the introduction of a pair from the bundle depends on. Without a class every card before it is known.
func (b Bundle) Input(pair spelling.Pair) (assembly.Input, error) {
	in, sources := b.Lesson(lesson.Introduce)
	i := slices.IndexFunc(b.Cards, func(c card.Card) bool { return c.Pair == pair })
	if i < 0 {
		return in, fault.In("sound", "the bundle has no card for %s", pair)
	}
	target := b.Cards[i]
	in.Targets = []card.Card{target}
	in.Conventions = in.Conventions.For(target.Content)
	sources.Seen = slices.DeleteFunc(slices.Clone(sources.Seen), func(s review.Seen) bool { return s.CardID == target.ID })
	if b.Class == "" {
		for _, c := range b.Cards {
			if c.Step < target.Step {
				sources.Seen = append(sources.Seen, review.Seen{CardID: c.ID, Sure: review.Sure, Times: 1})
			}
		}
	}
	in.Class = knowledge.Of(sources)
	return in, nil
}
