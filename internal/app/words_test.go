package app_test

import (
	"bytes"
	"context"
	"fmt"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"brightchalk/internal/bundle"
	"brightchalk/internal/core/card"
	"brightchalk/internal/core/convention"
	"brightchalk/internal/core/fault"
	"brightchalk/internal/core/lesson"
	"brightchalk/internal/core/phoneme"
	"brightchalk/internal/exchange"
	"brightchalk/internal/media"
	"brightchalk/internal/store"
	"brightchalk/internal/teaching"
)

// field is the field that a refused input names, with its sentence.
func field(t *testing.T, err error, name, says string) {
	t.Helper()
	var wrong *fault.Fault
	require.ErrorAs(t, err, &wrong)
	assert.Equal(t, name, wrong.Field)
	assert.Contains(t, wrong.Error(), says)
}

func stepOf(t *testing.T, in lesson.Lesson, k lesson.Kind) lesson.Step {
	t.Helper()
	i := slices.IndexFunc(in.Steps, func(s lesson.Step) bool { return s.Kind == k })
	require.GreaterOrEqual(t, i, 0, "%s is left out: %v", k, in.Dropped)
	return in.Steps[i]
}

func TestBankFeedsTheAssembler(t *testing.T) {
	s := demoSchool(t)
	ctx := context.Background()
	in, err := s.Lessons.Assemble(ctx, s.teacher, introduce(s.class, s.cards["b"], 20))
	require.NoError(t, err)
	page := stepOf(t, in.Lesson, lesson.Page)
	assert.Equal(t, lesson.MadeByRule, page.Items[0].Origin, "no page of the bank holds the sound three times")
	sentence := stepOf(t, in.Lesson, lesson.Sentence)
	assert.GreaterOrEqual(t, len(sentence.Pieces), 4)
	joined := slices.Clone(sentence.Pieces)
	slices.Sort(joined)
	given := strings.Fields(sentence.Items[0].Value)
	slices.Sort(given)
	assert.ElementsMatch(t, given, strings.Fields(strings.Join(joined, " ")))

	id, err := s.Words.AddToBank(ctx, s.teacher, lesson.Text{Kind: "sentence", Body: "  A bad bat bit a cab. "})
	require.NoError(t, err)
	_, err = s.Words.AddToBank(ctx, s.teacher, lesson.Text{Kind: "sentence", Body: "A bad bat bit a cab."})
	field(t, err, "body", "has this text already")
	_, err = s.Words.AddToBank(ctx, s.teacher, lesson.Text{Kind: "sentence", Body: strings.Repeat("long ", 60)})
	field(t, err, "body", "longer than 200")
	_, err = s.Words.AddToBank(ctx, s.teacher, lesson.Text{Kind: "poem", Body: "A."})
	field(t, err, "kind", "sentences and pages")
	in, err = s.Lessons.Edit(
		ctx,
		s.teacher,
		in.LessonID,
		teaching.Edit{Revision: in.Revision, Do: teaching.Renew, Minutes: 20},
	)
	require.NoError(t, err)
	var offered []string
	for _, o := range stepOf(t, in.Lesson, lesson.Sentence).Items[0].Next {
		offered = append(offered, o.Value)
	}
	assert.Contains(t, offered, "A bad bat bit a cab.")
	_, err = s.Words.AddToBank(
		ctx,
		s.teacher,
		lesson.Text{Kind: "page", Body: "Ben got a big bag.\nA bat is in it.\nBad bat!"},
	)
	require.NoError(t, err)
	in, err = s.Lessons.Edit(
		ctx,
		s.teacher,
		in.LessonID,
		teaching.Edit{Revision: in.Revision, Do: teaching.Renew, Minutes: 20},
	)
	require.NoError(t, err)
	page = stepOf(t, in.Lesson, lesson.Page)
	assert.Contains(t, page.Items[0].Value, "Ben got a big bag.", "the team's page comes before one by rule")
	assert.Len(t, page.Items, 4, "and three questions")
	var zip bytes.Buffer
	require.NoError(t, s.Exports.Bundle(ctx, s.lead, exchange.BundleAsk{Class: s.class}, &zip))
	b, err := bundle.Read(zip.Bytes())
	require.NoError(t, err)
	assert.Contains(t, b.Bank, lesson.Text{Kind: "sentence", Body: "A bad bat bit a cab."})
	require.NoError(t, s.Words.DropFromBank(ctx, s.teacher, id, true))
	list, err := s.Words.Bank(ctx, s.assistant, s.class)
	require.NoError(t, err)
	for _, v := range list {
		assert.NotEqual(t, "A bad bat bit a cab.", v.Body)
		assert.Equal(t, v.Decodable == 1, len(v.Missing) == 0, v.Body)
	}
	require.NoError(t, s.Words.DropFromBank(ctx, s.teacher, id, false), "it can be put back")
}

// Words come by hand too, and a slip of the hand must not put one before the class that nobody wants to explain.
func TestAWordKeptFromChildrenIsNotTakenIntoALesson(t *testing.T) {
	s := demoSchool(t)
	ctx := context.Background()
	in, err := s.Lessons.Assemble(ctx, s.teacher, introduce(s.class, s.cards["b"], 20))
	require.NoError(t, err)
	for _, step := range []string{"read", "spell"} {
		for _, word := range []string{"gun", "Gun", "beer"} {
			_, err = s.Lessons.Edit(ctx, s.teacher, in.LessonID, teaching.Edit{
				Revision: in.Revision, Do: teaching.SendItems, Step: step, Values: []string{word},
			})
			field(t, err, "values", "kept")
		}
	}
	now, err := s.Lessons.Lesson(ctx, s.teacher, in.LessonID)
	require.NoError(t, err)
	assert.Equal(t, in.Revision, now.Revision, "nothing was changed")
}

func TestSendToALesson(t *testing.T) {
	s := demoSchool(t)
	ctx := context.Background()
	in, err := s.Lessons.Assemble(ctx, s.teacher, introduce(s.class, s.cards["b"], 20))
	require.NoError(t, err)
	sent, err := s.Lessons.Edit(ctx, s.teacher, in.LessonID, teaching.Edit{
		Revision: in.Revision, Do: teaching.SendItems, Step: "read", Values: []string{"crab", "bib"},
	})
	require.NoError(t, err)
	choices := stepOf(t, sent.Lesson, lesson.Read).Items
	assert.Equal(t, "crab", choices[0].Value)
	assert.True(t, choices[1].Locked)
	assert.NotEmpty(t, sent.Lesson.WordBits["bib"])
	renewed, err := s.Lessons.Edit(
		ctx,
		s.teacher,
		in.LessonID,
		teaching.Edit{Revision: sent.Revision, Do: teaching.Renew, Minutes: 20},
	)
	require.NoError(t, err)
	assert.Equal(t, "bib", stepOf(t, renewed.Lesson, lesson.Read).Items[1].Value, "what was sent stays")
	long := []string{"bad", "bed", "big", "bag", "bat", "bin", "bit", "bib", "beg", "bid", "cab", "rib"}
	many, err := s.Lessons.Edit(ctx, s.teacher, in.LessonID, teaching.Edit{
		Revision: renewed.Revision, Do: teaching.SendItems, Step: "spell", Values: long,
	})
	require.NoError(t, err)
	assert.Len(t, stepOf(t, many.Lesson, lesson.Spell).Items, len(long), "what has no slot is added behind")
	again, err := s.Lessons.Edit(
		ctx,
		s.teacher,
		in.LessonID,
		teaching.Edit{Revision: many.Revision, Do: teaching.Renew, Minutes: 20},
	)
	require.NoError(t, err)
	assert.Len(t, stepOf(t, again.Lesson, lesson.Spell).Items, len(long))
	swapped, err := s.Lessons.Edit(ctx, s.teacher, in.LessonID, teaching.Edit{
		Revision: again.Revision, Do: teaching.SendItems, Step: "sentence", Values: []string{"A cat can nap on a bed."},
	})
	require.NoError(t, err)
	sentence := stepOf(t, swapped.Lesson, lesson.Sentence)
	assert.Contains(t, strings.Join(sentence.Pieces, " "), "cat", "the pieces follow the sentence")
	_, err = s.Lessons.Edit(ctx, s.teacher, in.LessonID, teaching.Edit{
		Revision: swapped.Revision, Do: teaching.SendItems, Step: "read", Values: []string{"ship"},
	})
	field(t, err, "values", "sh=ʃ is not taught")
	_, err = s.Lessons.Edit(ctx, s.teacher, in.LessonID, teaching.Edit{
		Revision: swapped.Revision, Do: teaching.SendItems, Step: "hand", Item: lesson.WordItem, Values: []string{"bib"},
	})
	field(t, err, "step", "takes nothing of this kind")
	_, err = s.Lessons.Edit(ctx, s.teacher, in.LessonID, teaching.Edit{
		Revision: swapped.Revision, Do: teaching.SendItems, Step: "story", Values: []string{"A bib."},
	})
	field(t, err, "step", "no such step")
	_, err = s.Lessons.Edit(ctx, s.teacher, in.LessonID, teaching.Edit{
		Revision: swapped.Revision, Do: teaching.SendItems, Step: "read", Values: nil,
	})
	field(t, err, "values", "one to 12")
}

func TestWordGames(t *testing.T) {
	s := demoSchool(t)
	ctx := context.Background()
	q := teaching.FindQuery{ClassID: s.class, CardID: s.cards["b"], Seed: 3}
	for _, game := range []teaching.Game{teaching.ChainGame, teaching.SlipGame, teaching.CompoundGame, teaching.RingGame} {
		list, err := s.Words.Play(ctx, s.teacher, game, q, "")
		if game == teaching.CompoundGame { // with fifteen sounds there may be none: then it says so
			if err == nil {
				assert.Len(t, list[0].Parts, 2)
			}
			continue
		}
		require.NoError(t, err, game)
		assert.GreaterOrEqual(t, len(list), 4, game)
		for _, w := range list {
			assert.NotEmpty(t, w.Says, "%s: %s", game, w.Word)
			assert.NotEmpty(t, w.Bits)
		}
	}
	_, err := s.Words.Play(ctx, s.teacher, teaching.RingGame, teaching.FindQuery{ClassID: s.class}, "")
	field(t, err, "card", "found and ringed")
	_, err = s.Words.Play(ctx, s.teacher, teaching.ChainGame, q, "night")
	field(t, err, "card", "cannot start with")
	quarters, err := s.Words.FirstOrLast(ctx, s.teacher, s.cards["d"], 1)
	require.NoError(t, err)
	assert.Len(t, quarters, 4)
	_, err = s.Words.FirstOrLast(ctx, s.teacher, s.cards["h"], 1)
	field(t, err, "card", "none ends with")
	sets, err := s.Words.Contrast(ctx, s.teacher, s.class, s.cards["m"], s.cards["n"])
	require.NoError(t, err)
	assert.Len(t, sets.Right, len(sets.Left))
	look, err := s.Words.Look(ctx, s.teacher, q, "night")
	require.NoError(t, err)
	assert.Contains(t, look.Why, fmt.Sprint("comes in step ", s.stepOf(t, "igh")))
	u, err := s.Words.Unlocks(ctx, s.teacher, s.cards["b"])
	require.NoError(t, err)
	assert.Greater(t, u.Known, 20)
	assert.Greater(t, u.Total, u.Known)
	made, err := s.Words.Sentences(ctx, s.teacher, q)
	require.NoError(t, err)
	assert.NotEmpty(t, made)
	rows, err := s.Words.Spellings(ctx, s.teacher, "ai")
	require.NoError(t, err)
	assert.Equal(t, s.stepOf(t, "ai"), rows[0].Step)
	checked, err := s.Words.Check(ctx, s.teacher, s.class, "The dog sat. It is said.")
	require.NoError(t, err)
	assert.Equal(t, 16, checked.Words[0].Comes, "the team teaches “the” with step 16")
	assert.ElementsMatch(t, []string{"the", "said"}, checked.NewExceptions)
}

func TestRefusedWordsStayRefusedForTheTeam(t *testing.T) {
	s := demoSchool(t)
	ctx := context.Background()
	c, err := s.Cards.Card(ctx, s.teacher, s.cards["g"])
	require.NoError(t, err)
	c.Content.Rejected = append(c.Content.Rejected, "bad", "bed", "big")
	_, err = s.Cards.Save(ctx, s.teacher, s.cards["g"], c.Version, c.Content)
	require.NoError(t, err)
	offer, err := s.Words.ForCard(ctx, s.teacher, s.cards["b"])
	require.NoError(t, err)
	for _, w := range offer.Read {
		assert.NotContains(t, []string{"bad", "bed", "big"}, w.Word, "refused on another card")
	}
	in, err := s.Lessons.Assemble(ctx, s.teacher, introduce(s.class, s.cards["b"], 20))
	require.NoError(t, err)
	for _, step := range in.Lesson.Steps {
		for _, choice := range step.Items {
			assert.False(
				t,
				choice.Kind == "word" && slices.Contains([]string{"bad", "bed", "big"}, choice.Value),
				choice.Value,
			)
		}
	}
}

func TestDeparturesFromTheAccent(t *testing.T) {
	s := demoSchool(t)
	ctx := context.Background()
	conv := convention.Conventions{Accent: phoneme.SouthernBritish, Paper: "A4"}
	for _, row := range []struct {
		d    convention.Departure
		says string
	}{
		{convention.Departure{Word: "qqq", Accent: phoneme.NorthernEnglish, Note: "x"}, "not in the word list"},
		{convention.Departure{Word: "bath", Note: "x"}, "Choose the accent"},
		{convention.Departure{Word: "bath", Accent: phoneme.NorthernEnglish}, "why"},
	} {
		conv.Departures = []convention.Departure{row.d}
		field(t, s.Settings.SetConventions(ctx, s.lead, conv), "departures", row.says)
	}
	conv.Departures = []convention.Departure{
		{Word: " Grass ", Accent: phoneme.NorthernEnglish, Note: "as our families say it"},
	}
	require.NoError(t, s.Settings.SetConventions(ctx, s.lead, conv))
	look, err := s.Words.Look(ctx, s.teacher, teaching.FindQuery{ClassID: s.class}, "grass")
	require.NoError(t, err)
	assert.Equal(t, "æ", look.Found.Bits[2].Sound)

	c, err := s.Cards.Card(ctx, s.teacher, s.cards["a"])
	require.NoError(t, err)
	c.Content.Accent = "northern-english"
	_, err = s.Cards.Save(ctx, s.teacher, s.cards["a"], c.Version, c.Content)
	field(t, err, "accent_note", "why this card departs")
	c.Content.AccentNote = "Our class is half from the north."
	_, err = s.Cards.Save(ctx, s.teacher, s.cards["a"], c.Version, c.Content)
	require.NoError(t, err)
}

func TestOwnPicturesTakePartInEarGames(t *testing.T) {
	s := demoSchool(t)
	ctx := context.Background()
	sum, _, err := s.Cards.StorePicture(
		ctx,
		s.teacher,
		media.UploadOf([]byte(
			`<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 4 4"><rect width="4" height="4" fill="#c00"/></svg>`,
		)),
	)
	require.NoError(t, err)
	field(t, s.Words.PutPicture(ctx, s.teacher, store.NamedPicture{Name: "pistol", Picture: sum}), "name", "kept out")
	field(
		t,
		s.Words.PutPicture(ctx, s.teacher, store.NamedPicture{Name: "two words", Picture: sum}),
		"name",
		"one word",
	)
	field(
		t,
		s.Words.PutPicture(ctx, s.teacher, store.NamedPicture{Name: "sluice", Picture: strings.Repeat("0", 64)}),
		"picture",
		"Choose a picture",
	)
	require.NoError(
		t,
		s.Words.PutPicture(
			ctx,
			s.teacher,
			store.NamedPicture{Name: "Daffodil", Others: []string{"flower"}, Picture: sum},
		),
	)
	list, err := s.Words.Pictures(ctx, s.teacher)
	require.NoError(t, err)
	require.Equal(t, []store.NamedPicture{{Name: "daffodil", Others: []string{"flower"}, Picture: sum}}, list)
	seen := map[string]bool{}
	for seed := range uint64(40) {
		baskets, err := s.Words.Sort(ctx, s.teacher, []string{s.cards["d"], s.cards["m"]}, 5, "initial", seed)
		require.NoError(t, err)
		for _, p := range baskets[0].Pictures {
			seen[p] = true
		}
	}
	assert.True(t, seen["daffodil"], "%v", seen)
	m, err := s.Words.Picture(ctx, s.teacher, "daffodil")
	require.NoError(t, err)
	assert.Contains(t, string(m.Bytes), "<rect")
	require.NoError(t, s.Words.ArchivePicture(ctx, s.teacher, "daffodil", true))
	_, err = s.Words.Picture(ctx, s.teacher, "daffodil")
	require.ErrorIs(t, err, store.ErrNotFound)
	require.NoError(t, s.Words.ArchivePicture(ctx, s.teacher, "daffodil", false))
	_, err = s.Words.Picture(ctx, s.teacher, "daffodil")
	require.NoError(t, err, "what was taken away can be put back")
}

func TestEarGamesGoIntoALesson(t *testing.T) {
	s := demoSchool(t)
	ctx := context.Background()
	in, err := s.Lessons.Assemble(ctx, s.teacher, introduce(s.class, s.cards["b"], 30))
	require.NoError(t, err)
	out, err := s.Lessons.Edit(ctx, s.teacher, in.LessonID, teaching.Edit{
		Revision: in.Revision, Do: teaching.SendItems, Step: "ear", Values: []string{"bell", "bone", "map", "moon"},
	})
	require.NoError(t, err)
	sides := map[string]lesson.Basket{}
	for _, c := range stepOf(t, out.Lesson, lesson.Ear).Items {
		if !c.Basket.Quarter() {
			sides[c.Value] = c.Basket
			assert.True(t, c.Locked)
		}
	}
	assert.Equal(
		t,
		map[string]lesson.Basket{"bell": lesson.Has, "bone": lesson.Has, "map": lesson.HasNot, "moon": lesson.HasNot},
		sides,
	)
	_, err = s.Lessons.Edit(ctx, s.teacher, in.LessonID, teaching.Edit{
		Revision: out.Revision, Do: teaching.SendItems, Step: "ear", Values: []string{"xqzt"},
	})
	field(t, err, "values", "no picture")
}

func TestWordsOnACardAreFlagged(t *testing.T) {
	s := demoSchool(t)
	ctx := context.Background()
	flags, err := s.Cards.FlagWords(ctx, s.teacher, s.cards["igh"], []string{"light", "lihgt", "duck", "pistol"})
	require.NoError(t, err)
	codes := map[string]card.FlagCode{}
	for _, f := range flags {
		codes[f.Word] = f.Code
	}
	assert.Equal(t, map[string]card.FlagCode{"lihgt": card.Slip, "duck": card.Lacks, "pistol": card.Refused}, codes)
	assert.Contains(t, flags[0].Text, "light")
	c, err := s.Cards.Card(ctx, s.teacher, s.cards["igh"])
	require.NoError(t, err)
	c.Content.Words = []string{"lihgt", "duck", "night", "high"}
	saved, err := s.Cards.Save(ctx, s.teacher, s.cards["igh"], c.Version, c.Content)
	require.NoError(t, err)
	assert.True(
		t,
		slices.ContainsFunc(saved.Gaps, func(g card.Gap) bool { return g.Part == "words" }),
		"flagged words do not count",
	)
}

func TestALeadAllowsASingleWord(t *testing.T) {
	s := demoSchool(t)
	ctx := context.Background()
	team, err := s.Settings.Team(ctx, s.lead)
	require.NoError(t, err)
	team.Conventions.Allowed = []string{"cat"}
	field(t, s.Settings.SetConventions(ctx, s.lead, team.Conventions), "allowed", "nothing to allow")
	team.Conventions.Allowed = []string{"Sick"}
	require.NoError(t, s.Settings.SetConventions(ctx, s.lead, team.Conventions))
	look, err := s.Words.Look(ctx, s.teacher, teaching.FindQuery{ClassID: s.class}, "sick")
	require.NoError(t, err)
	assert.NotContains(t, look.Why, "kept out")
	other, err := s.Words.Look(ctx, s.teacher, teaching.FindQuery{ClassID: s.class}, "sickness")
	require.NoError(t, err)
	assert.Contains(t, other.Why, "kept out", "a word is allowed, not its theme")
}

// The wall of a team that changes its accent follows: cup is read with the card of u in the north.
func TestANorthernTeamReadsCup(t *testing.T) {
	s := demoSchool(t)
	ctx := context.Background()
	team, err := s.Settings.Team(ctx, s.lead)
	require.NoError(t, err)
	for _, a := range []phoneme.Accent{phoneme.NorthernEnglish, phoneme.NorthernStrut, phoneme.GeneralAmerican} {
		team.Conventions.Accent = a
		require.NoError(t, s.Settings.SetConventions(ctx, s.lead, team.Conventions))
		look, err := s.Words.Look(ctx, s.teacher, teaching.FindQuery{ClassID: s.class, CardID: s.cards["u"]}, "cup")
		require.NoError(t, err)
		assert.True(t, look.May, "%s: %s", a, look.Why)
		hot, err := s.Words.Look(ctx, s.teacher, teaching.FindQuery{ClassID: s.class, CardID: s.cards["o"]}, "hot")
		require.NoError(t, err)
		assert.True(t, hot.May, "%s: %s", a, hot.Why)
	}
}
