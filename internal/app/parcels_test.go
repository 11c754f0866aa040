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

	"brightchalk/internal/app"
	"brightchalk/internal/bundle"
	"brightchalk/internal/core/card"
	"brightchalk/internal/core/lesson"
	"brightchalk/internal/store"
)

// another opens an empty library of another team in the same database.
func another(t *testing.T, s school) app.Actor {
	t.Helper()
	ctx := context.Background()
	_, err := s.People.CreateTeam(ctx, app.NewTeam{
		Name: "Weir Street", LeadName: "Wren Alder", Email: "lead@weirstreet.example", Password: "heron under the weir",
	})
	require.NoError(t, err)
	lead, err := s.People.SignIn(ctx, app.Attempt{Email: "lead@weirstreet.example", Password: "heron under the weir"})
	require.NoError(t, err)
	return lead
}

// whole chooses everything of a bundle.
func wholeOf(v app.BundleView) app.BundleChoice {
	c := app.BundleChoice{Texts: true, Voices: true}
	for _, l := range v.Cards {
		switch l.Standing {
		case card.New:
			c.Cards = append(c.Cards, app.CardChoice{ID: l.ID, How: app.AddCard})
		case card.Different:
			c.Cards = append(c.Cards, app.CardChoice{ID: l.ID, How: app.TakeCard, Version: l.Version})
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
	require.NoError(t, s.Parcels.SetOrigin(ctx, s.lead, m.Content.Picture, "Drawn by the team", "CC BY 4.0"))

	var out bytes.Buffer
	require.NoError(t, s.Print.Bundle(ctx, s.lead, app.BundleAsk{Class: s.class}, &out))
	they := another(t, s)
	parcel, err := s.Parcels.Bring(ctx, they, "../ours\x00.zip", app.Uploaded(out.Bytes()))
	require.NoError(t, err)
	assert.Equal(t, "ours.zip", parcel.Name)
	v, err := s.Parcels.Bundle(ctx, they, parcel.ParcelID)
	require.NoError(t, err)
	require.Len(t, v.Cards, 79)
	for _, l := range v.Cards {
		assert.Equal(t, card.New, l.Standing, l.Pair)
	}
	_, err = s.Parcels.Bundle(ctx, s.lead, parcel.ParcelID)
	require.ErrorIs(t, err, store.ErrNotFound, "another team's")
	choice := wholeOf(v)
	choice.Conventions, choice.AsAgreed = true, true
	teacher := they
	teacher.Role = app.Teacher
	_, err = s.Parcels.TakeBundle(ctx, teacher, parcel.ParcelID, choice)
	require.ErrorIs(t, err, app.ErrForbidden, "conventions are a lead's")
	got, err := s.Parcels.TakeBundle(ctx, they, parcel.ParcelID, choice)
	require.NoError(t, err)
	assert.Empty(t, got.Left)
	assert.Equal(t, 79, got.Added)
	assert.Equal(t, 18, got.Takes)
	_, err = s.Parcels.Bundle(ctx, they, parcel.ParcelID)
	require.ErrorIs(t, err, store.ErrNotFound, "it was taken")

	var back bytes.Buffer
	require.NoError(t, s.Print.Bundle(ctx, they, app.BundleAsk{}, &back))
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
		return o.Item == "medium "+m.Content.Picture && o.Maker == "Drawn by the team" && o.Licence == "CC BY 4.0" && o.Team != ""
	}), "where the picture came from, and how it may be used")

	again, err := s.Parcels.Bring(ctx, they, "again.zip", app.Uploaded(out.Bytes()))
	require.NoError(t, err)
	v, err = s.Parcels.Bundle(ctx, they, again.ParcelID)
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
	require.NoError(t, s.Print.Bundle(ctx, s.lead, app.BundleAsk{Voiceless: true}, &out))
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
	parcel, err := s.Parcels.Bring(ctx, s.teacher, "b.zip", app.Uploaded(out.Bytes()))
	require.NoError(t, err)
	look, err := s.Parcels.Bundle(ctx, s.teacher, parcel.ParcelID)
	require.NoError(t, err)
	i := slices.IndexFunc(look.Cards, func(l bundle.CardLine) bool { return l.CardID == ours })
	line := look.Cards[i]
	assert.Equal(t, card.Different, line.Standing)
	assert.Equal(t, 1, line.Fills, "%v", line.Fields)
	fill := app.BundleChoice{Cards: []app.CardChoice{{ID: line.ID, How: app.FillCard, Version: line.Version - 1}}}
	_, err = s.Parcels.TakeBundle(ctx, s.teacher, parcel.ParcelID, fill)
	require.ErrorIs(t, err, app.ErrCardMoved)
	fill.Cards[0].Version = line.Version
	got, err := s.Parcels.TakeBundle(ctx, s.teacher, parcel.ParcelID, fill)
	require.NoError(t, err)
	assert.Equal(t, 1, got.Changed)
	after, err := s.Cards.Card(ctx, s.teacher, ours)
	require.NoError(t, err)
	assert.NotEmpty(t, after.Content.Action)
	assert.Equal(t, "Ours.", after.Content.Notes, "what we had stays")
	assert.Equal(t, card.Draft, after.State)
	assert.Positive(t, after.AgreedVersion, "what is agreed stays in force")
	_, err = s.Parcels.Bring(ctx, s.assistant, "b.zip", app.Uploaded(out.Bytes()))
	require.ErrorIs(t, err, app.ErrForbidden)
	_, err = s.Parcels.Bring(ctx, s.teacher, "b.zip", app.Uploaded([]byte("no zip")))
	require.ErrorIs(t, err, bundle.ErrBundle)
}
