package app_test

import (
	"bytes"
	"context"
	"encoding/json"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"brightchalk/internal/bundle"
	"brightchalk/internal/core/card"
	"brightchalk/internal/core/lesson"
	"brightchalk/internal/core/table"
	"brightchalk/internal/exchange"
	"brightchalk/internal/library"
	"brightchalk/internal/media"
	"brightchalk/internal/people"
	"brightchalk/internal/store"
	"brightchalk/internal/tx"
)

// another opens an empty library of another team in the same database.
func another(t *testing.T, s school) tx.Actor {
	t.Helper()
	ctx := context.Background()
	_, err := s.Accounts.CreateTeam(ctx, people.NewTeam{
		Name: "Weir Street", LeadName: "Wren Alder", Email: "lead@weirstreet.example", Password: "heron under the weir",
	})
	require.NoError(t, err)
	lead, err := s.Accounts.SignIn(
		ctx,
		people.SignInAttempt{Email: "lead@weirstreet.example", Password: "heron under the weir"},
	)
	require.NoError(t, err)
	return lead
}

// whole chooses everything of a bundle.
func wholeOf(v exchange.BundleView) exchange.BundleChoice {
	c := exchange.BundleChoice{Texts: true, Voices: true}
	for _, l := range v.Cards {
		switch l.Standing {
		case card.New:
			c.Cards = append(c.Cards, exchange.CardChoice{ID: l.ID, How: exchange.AddCard})
		case card.Different:
			c.Cards = append(c.Cards, exchange.CardChoice{ID: l.ID, How: exchange.TakeCard, Version: l.Version})
		}
	}
	for _, l := range v.Letters {
		c.Letters = append(c.Letters, l.Name)
	}
	for _, l := range v.Pictures {
		c.Pictures = append(c.Pictures, l.Name)
	}
	for _, l := range v.Routines {
		c.Routines = append(c.Routines, lesson.Purpose(l.Name))
	}
	return c
}

// plainly is a bundle's library with its cards named by their pairs, so that two libraries can be compared.
func plainly(t *testing.T, data []byte) (bundle.Library, map[string]string) {
	t.Helper()
	a, err := bundle.Open(data)
	require.NoError(t, err)
	b := a.Library
	ids, sums := map[string]string{}, map[string]string{}
	for i, c := range b.Cards {
		ids[c.ID] = c.Pair.String()
		for _, name := range []string{"pictures/" + c.ID + ".svg", "pictures/" + c.ID + ".png", "takes/" + c.ID + ".wav"} {
			if data, err := a.File(name); err == nil {
				sums[strings.ReplaceAll(name, c.ID, c.Pair.String())] = bundle.Sum(data)
			}
		}
		b.Cards[i].ID, b.Cards[i].Version = c.Pair.String(), 1
		if c.State == card.InReview { // a review stays at home
			b.Cards[i].State = card.Draft
		}
	}
	for i, k := range b.Takes {
		raw, err := a.File(k.File)
		require.NoError(t, err)
		assert.Equal(t, k.SHA256, bundle.Sum(raw))
		b.Takes[i].Card = ids[k.Card]
		b.Takes[i].File = ids[k.Card]
	}
	b.Team, b.Origins, b.Taught, b.Log, b.Class, b.Known = "", nil, nil, nil, "", nil
	return b, sums
}

// What goes out and comes in elsewhere, and goes out there, is the same: texts, pictures and sounds by their hashes.
func TestABundleComesInWholeAndLosesNothing(t *testing.T) {
	s := demoSchool(t)
	ctx := context.Background()
	letter, err := s.Letters.Write(ctx, s.lead, "n", nil)
	require.NoError(t, err)
	require.NoError(t, s.Letters.Save(ctx, s.lead, *letter.Letter))
	m, err := s.Cards.Card(ctx, s.lead, s.cards["m"])
	require.NoError(t, err)
	require.NoError(t, s.Words.PutPicture(ctx, s.lead, store.NamedPicture{
		Name: "heron", Others: []string{"bird"}, Picture: m.Content.Picture,
	}))
	require.NoError(t, s.Imports.SetOrigin(ctx, s.lead, m.Content.Picture, "Drawn by the team", "CC BY 4.0"))

	var out bytes.Buffer
	require.NoError(t, s.Exports.Bundle(ctx, s.lead, exchange.BundleAsk{Class: s.class}, &out))
	they := another(t, s)
	parcel, err := s.Imports.Bring(ctx, they, "../ours\x00.zip", media.UploadOf(out.Bytes()))
	require.NoError(t, err)
	assert.Equal(t, "ours.zip", parcel.Name)
	v, err := s.Imports.Bundle(ctx, they, parcel.ParcelID)
	require.NoError(t, err)
	require.Len(t, v.Cards, 79)
	for _, l := range v.Cards {
		assert.Equal(t, card.New, l.Standing, l.Pair)
	}
	_, err = s.Imports.Bundle(ctx, s.lead, parcel.ParcelID)
	require.ErrorIs(t, err, store.ErrNotFound, "another team's")
	choice := wholeOf(v)
	choice.Conventions, choice.AsAgreed = true, true
	teacher := they
	teacher.Role = tx.Teacher
	_, err = s.Imports.TakeBundle(ctx, teacher, parcel.ParcelID, choice)
	require.ErrorIs(t, err, tx.ErrForbidden, "conventions are a lead's")
	got, err := s.Imports.TakeBundle(ctx, they, parcel.ParcelID, choice)
	require.NoError(t, err)
	assert.Empty(t, got.Left)
	assert.Equal(t, 79, got.Added)
	assert.Equal(t, 47, got.Takes)
	_, err = s.Imports.Bundle(ctx, they, parcel.ParcelID)
	require.ErrorIs(t, err, store.ErrNotFound, "it was taken")

	var back bytes.Buffer
	require.NoError(t, s.Exports.Bundle(ctx, they, exchange.BundleAsk{}, &back))
	first, sums := plainly(t, out.Bytes())
	second, backSums := plainly(t, back.Bytes())
	assert.Equal(t, sums, backSums)
	assert.NotEmpty(t, sums)
	a, err := json.MarshalIndent(first, "", " ")
	require.NoError(t, err)
	b, err := json.MarshalIndent(second, "", " ")
	require.NoError(t, err)
	assert.Equal(t, string(a), string(b))
	there, err := bundle.Read(back.Bytes())
	require.NoError(t, err)
	assert.True(t, slices.ContainsFunc(there.Origins, func(o bundle.Origin) bool {
		return o.Item == "medium "+m.Content.Picture && o.Maker == "Drawn by the team" && o.Licence == "CC BY 4.0" &&
			o.Team != ""
	}), "where the picture came from, and how it may be used")

	again, err := s.Imports.Bring(ctx, they, "again.zip", media.UploadOf(out.Bytes()))
	require.NoError(t, err)
	v, err = s.Imports.Bundle(ctx, they, again.ParcelID)
	require.NoError(t, err)
	for _, l := range v.Cards {
		assert.Equal(t, card.Same, l.Standing, "%s: %v", l.Pair, l.Fields)
	}
	assert.Empty(t, v.Conventions)
}

// A card that differs is taken, or fills only what ours lacks; what was changed meanwhile is not overwritten.
func TestABundleComesInCardByCard(t *testing.T) {
	s := demoSchool(t)
	ctx := context.Background()
	var out bytes.Buffer
	require.NoError(t, s.Exports.Bundle(ctx, s.lead, exchange.BundleAsk{Voiceless: true}, &out))
	a, err := bundle.Open(out.Bytes())
	require.NoError(t, err)
	assert.Empty(t, a.Library.Takes, "no voice goes along")

	ours := s.cards["m"]
	v, err := s.Cards.Card(ctx, s.teacher, ours)
	require.NoError(t, err)
	mine := v.Content
	mine.Action, mine.Notes = "", "Ours."
	v, err = s.Cards.Save(ctx, s.teacher, ours, v.Version, mine)
	require.NoError(t, err)
	parcel, err := s.Imports.Bring(ctx, s.teacher, "b.zip", media.UploadOf(out.Bytes()))
	require.NoError(t, err)
	look, err := s.Imports.Bundle(ctx, s.teacher, parcel.ParcelID)
	require.NoError(t, err)
	i := slices.IndexFunc(look.Cards, func(l bundle.CardLine) bool { return l.CardID == ours })
	line := look.Cards[i]
	assert.Equal(t, card.Different, line.Standing)
	assert.Equal(t, 1, line.Fills, "%v", line.Fields)
	fill := exchange.BundleChoice{
		Cards: []exchange.CardChoice{{ID: line.ID, How: exchange.FillCard, Version: line.Version - 1}},
	}
	_, err = s.Imports.TakeBundle(ctx, s.teacher, parcel.ParcelID, fill)
	require.ErrorIs(t, err, library.ErrCardMoved)
	fill.Cards[0].Version = line.Version
	got, err := s.Imports.TakeBundle(ctx, s.teacher, parcel.ParcelID, fill)
	require.NoError(t, err)
	assert.Equal(t, 1, got.Changed)
	after, err := s.Cards.Card(ctx, s.teacher, ours)
	require.NoError(t, err)
	assert.NotEmpty(t, after.Content.Action)
	assert.Equal(t, "Ours.", after.Content.Notes, "what we had stays")
	assert.Equal(t, card.Draft, after.State)
	assert.Positive(t, after.AgreedVersion, "what is agreed stays in force")
	_, err = s.Imports.Bring(ctx, s.assistant, "b.zip", media.UploadOf(out.Bytes()))
	require.ErrorIs(t, err, tx.ErrForbidden)
	_, err = s.Imports.Bring(ctx, s.teacher, "b.zip", media.UploadOf([]byte("PK no zip")))
	require.ErrorIs(t, err, bundle.ErrBundle)
}

// What goes out as a workbook comes in again; lines that are new are taken, those that have no place are told.
func TestTablesComeIn(t *testing.T) {
	s := demoSchool(t)
	ctx := context.Background()
	bring := func(name, text string) string {
		p, err := s.Imports.Bring(ctx, s.teacher, name, media.UploadOf([]byte(text)))
		require.NoError(t, err)
		require.Equal(t, store.TableParcel, p.Kind)
		return p.ParcelID
	}
	var out bytes.Buffer
	require.NoError(t, s.Exports.Workbook(ctx, s.assistant, &out))
	id := bring("library.xlsx", out.String())
	for i, kind := range []table.Kind{table.Cards, table.Words, table.Sentences} {
		v, err := s.Imports.Table(ctx, s.teacher, id, exchange.TableAsk{Sheet: i})
		require.NoError(t, err)
		assert.Equal(t, kind, v.Kind)
		assert.NotEmpty(t, v.Lines)
		for _, l := range v.Lines {
			assert.Equal(t, card.Same, l.Standing, "%s line %d: %s %v", kind, l.Row, l.Why, l.Fields)
		}
	}
	_, err := s.Imports.Table(ctx, s.teacher, id, exchange.TableAsk{Sheet: 9})
	require.ErrorContains(t, err, "4 sheets")

	id = bring("words.csv", "spelling,word\nsh,rush\nsh,gun\nsh,rash\nsh,cat\nm,mist\n")
	v, err := s.Imports.Table(ctx, s.teacher, id, exchange.TableAsk{})
	require.NoError(t, err)
	require.Len(t, v.Lines, 5)
	before, err := s.Cards.Card(ctx, s.teacher, s.cards["sh"])
	require.NoError(t, err)
	_, err = s.Imports.TakeTable(ctx, s.assistant, id, exchange.TableChoice{Rows: []int{2}})
	require.ErrorIs(t, err, tx.ErrForbidden)
	_, err = s.Imports.TakeTable(ctx, s.teacher, id, exchange.TableChoice{Rows: []int{3}})
	require.ErrorContains(t, err, "No line was chosen", "a refused word is not taken")
	got, err := s.Imports.TakeTable(ctx, s.teacher, id, exchange.TableChoice{Rows: []int{2, 3, 4, 6}})
	require.NoError(t, err)
	assert.Equal(t, 3, got.Lines)
	assert.Len(t, got.Cards, 2)
	after, err := s.Cards.Card(ctx, s.teacher, s.cards["sh"])
	require.NoError(t, err)
	assert.Equal(t, before.Version+1, after.Version, "one version for all its words")
	assert.Subset(t, after.Content.Words, []string{"rush", "rash"})
	assert.NotContains(t, after.Content.Words, "gun")
	_, err = s.Imports.Table(ctx, s.teacher, id, exchange.TableAsk{})
	require.ErrorIs(t, err, store.ErrNotFound, "it was taken")

	id = bring("cards.csv", "grapheme,keyword,rhyme\nm,moorhen,\nzh,x,\nch=ʃ,chef,A chef.\n")
	v, err = s.Imports.Table(ctx, s.lead, id, exchange.TableAsk{Kind: table.Cards})
	require.NoError(t, err)
	rows := []int{}
	for _, l := range v.Lines {
		rows = append(rows, l.Row)
	}
	got, err = s.Imports.TakeTable(
		ctx,
		s.lead,
		id,
		exchange.TableChoice{TableAsk: exchange.TableAsk{Kind: table.Cards}, Rows: rows},
	)
	require.NoError(t, err)
	assert.Equal(t, 1, got.Added, "%v", v.Lines)
	m, err := s.Cards.Card(ctx, s.lead, s.cards["m"])
	require.NoError(t, err)
	assert.Equal(t, "moorhen", m.Content.Keyword)
	assert.NotEmpty(t, m.Content.Rhyme, "an empty cell takes nothing away")

	id = bring("order.csv", "step,grapheme\n1,sh\n2,a\n3,t\n")
	v, err = s.Imports.Table(ctx, s.lead, id, exchange.TableAsk{})
	require.NoError(t, err)
	assert.Equal(t, table.Order, v.Kind)
	assert.Equal(t, []string{s.cards["sh"], s.cards["a"], s.cards["t"]}, v.Order[:3])
	_, err = s.Imports.TakeTable(ctx, s.lead, id, exchange.TableChoice{Rows: []int{2}})
	require.ErrorContains(t, err, "order desk")
	require.NoError(t, s.Imports.Drop(ctx, s.lead, id))
	for range 6 {
		bring("x.csv", "word\ncat\n")
	}
	list, err := s.Imports.List(ctx, s.lead)
	require.NoError(t, err)
	assert.Len(t, list, 4, "the newest")
}
