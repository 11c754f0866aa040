package exchange

import (
	"archive/zip"
	"bytes"
	"context"
	"encoding/json"
	"fmt"
	"io"
	"maps"
	"slices"
	"time"

	"brightchalk/internal/bundle"
	"brightchalk/internal/core/card"
	"brightchalk/internal/core/lesson"
	"brightchalk/internal/core/recording"
	"brightchalk/internal/gather"
	"brightchalk/internal/media"
	"brightchalk/internal/pack"
	"brightchalk/internal/printing"
	"brightchalk/internal/sound"
	"brightchalk/internal/store"
	"brightchalk/internal/tx"
)

// Exports write the library as files.
type Exports struct {
	Env   tx.Env
	Print printing.Print
}

// BundleAsk is what goes into a bundle beside the library. Class may be empty.
type BundleAsk struct {
	Class     string
	Voiceless bool // without recordings: a voice goes to another school only if its speaker agrees
}

// Bundle writes the library as a bundle.
func (x Exports) Bundle(ctx context.Context, by tx.Actor, ask BundleAsk, w io.Writer) error {
	out, err := tx.Read(ctx, x.Env, by, func(s store.Library) (*bytes.Buffer, error) {
		var out bytes.Buffer
		return &out, x.bundle(ctx, s, ask, &out)
	})
	if err != nil {
		return err
	}
	_, err = out.WriteTo(w)
	return err
}

// packer puts files into a bundle.
type packer struct {
	store.Library
	zip  *zip.Writer
	sums map[string]bool // of the files that went in
}

func (x Exports) bundle(ctx context.Context, s store.Library, ask BundleAsk, w io.Writer) error {
	b, rows, err := bundled(ctx, s, ask.Class)
	if err != nil {
		return err
	}
	z := zip.NewWriter(w)
	put := packer{s, z, map[string]bool{}}
	for i, c := range b.Cards {
		tx.ReportProgress(ctx, i, len(b.Cards))
		if ask.Voiceless {
			rows[i].TakeID, b.Cards[i].HasTake = "", false
		}
		take, err := put.card(ctx, rows[i].TakeID, c)
		if err != nil {
			return fmt.Errorf("export card %s: %w", c.Pair, err)
		}
		b.Takes = append(b.Takes, take...)
	}
	if b.Pictures, err = put.words(ctx); err != nil {
		return err
	}
	if b.Origins, err = put.origins(ctx, b); err != nil {
		return err
	}
	if !ask.Voiceless {
		if err := x.carry(ctx, s, ask.Class, z); err != nil {
			return err
		}
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

func (x Exports) carry(ctx context.Context, s store.Library, classID string, z *zip.Writer) error {
	carry, err := z.Create("carry-pack.html")
	if err != nil {
		return err
	}
	made, err := x.Print.PackIn(ctx, s, classID, printing.PackOrder)
	if err != nil {
		return err
	}
	return pack.Write(carry, made)
}

// bundled gathers a library, with the rows of its cards.
func bundled(ctx context.Context, s store.Library, classID string) (bundle.Library, []store.Card, error) {
	team, err := s.Team(ctx)
	if err != nil {
		return bundle.Library{}, nil, err
	}
	b := bundle.Library{Format: bundle.Format, Team: team.Name, Conventions: team.Conventions}
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
		known, err := gather.Knowledge(ctx, s, team.Conventions, classID)
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
	b.Bank = gather.LessonTexts(bank)
	rows, err := s.Cards(ctx, false)
	if err != nil {
		return b, nil, err
	}
	agreed, err := s.AgreedContents(ctx)
	for _, r := range rows {
		_, c := gather.CardInAccent(team.Conventions, r)
		b.Cards = append(b.Cards, gather.AgreedCard(c, agreed))
	}
	return b, rows, err
}

func (p packer) put(name string, data []byte) (sum string, err error) {
	f, err := p.zip.Create(name)
	if err != nil {
		return "", err
	}
	sum = bundle.Sum(data)
	p.sums[sum] = true
	_, err = f.Write(data)
	return sum, err
}

// card puts in the picture and the sound of a card.
func (p packer) card(ctx context.Context, takeID string, c card.Card) ([]bundle.Take, error) {
	if c.Picture != "" {
		m, err := gather.Picture(ctx, p.Library, c.Picture)
		if err != nil {
			return nil, err
		}
		if _, err := p.put("pictures/"+c.ID+media.Ending(m.MediaType), m.Bytes); err != nil {
			return nil, err
		}
	}
	if takeID == "" {
		return nil, nil
	}
	k, err := sound.ReadRecording(ctx, p.Library, takeID)
	if err != nil {
		return nil, err
	}
	sound, err := k.Master()
	if err != nil {
		return nil, err
	}
	if _, err := p.put("takes/"+c.ID+".wav", media.EncodeWAV(sound)); err != nil {
		return nil, err
	}
	t := bundle.Take{
		Card: c.ID, Speaker: k.Speaker, ConsentOn: k.ConsentOn.Format(time.DateOnly),
		File: "recordings/" + c.ID + media.Ending(k.MediaType), Plain: k.Plain,
		Trim: recording.Trim{StartMs: k.TrimStartMs, EndMs: k.TrimEndMs},
	}
	t.SHA256, err = p.put(t.File, k.Bytes)
	return []bundle.Take{t}, err
}

// words puts in the pictures of words.
func (p packer) words(ctx context.Context) ([]bundle.Picture, error) {
	list, err := p.NamedPictures(ctx)
	if err != nil {
		return nil, err
	}
	var out []bundle.Picture
	for _, n := range list {
		m, err := p.PictureByName(ctx, n.Name)
		if err != nil {
			return nil, err
		}
		sum, err := p.put("pictures/word-"+n.Name+media.Ending(m.MediaType), m.Bytes)
		if err != nil {
			return nil, err
		}
		out = append(out, bundle.Picture{Name: n.Name, Others: n.Others, SHA256: sum})
	}
	return out, nil
}

// origins are those of what is in the bundle.
func (p packer) origins(ctx context.Context, b bundle.Library) ([]bundle.Origin, error) {
	kept, err := p.Origins(ctx)
	if err != nil {
		return nil, err
	}
	bank, err := p.Bank(ctx)
	if err != nil {
		return nil, err
	}
	var out []bundle.Origin
	for _, o := range kept {
		item := o.Item
		switch o.Kind {
		case store.OfMedium:
			if !p.sums[item] {
				continue
			}
		case store.OfCard:
			if !slices.ContainsFunc(b.Cards, func(c card.Card) bool { return c.ID == item }) {
				continue
			}
		case store.OfText:
			i := slices.IndexFunc(bank, func(t store.BankText) bool { return t.TextID == item })
			if i < 0 {
				continue
			}
			item = bank[i].Body
		case store.OfLetter:
		}
		out = append(out, bundle.Origin{
			Item: string(o.Kind) + " " + item, Maker: o.Maker, Licence: o.Licence, Team: o.FromTeam,
		})
	}
	return out, nil
}
