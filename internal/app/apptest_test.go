package app_test

import (
	"archive/zip"
	"bytes"
	"context"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"brightchalk/demo"
	"brightchalk/internal/app"
	"brightchalk/internal/bundle"
	"brightchalk/internal/core/assembly"
	"brightchalk/internal/core/card"
	"brightchalk/internal/core/convention"
	"brightchalk/internal/core/fault"
	"brightchalk/internal/core/lesson"
	"brightchalk/internal/core/spelling"
	"brightchalk/internal/curriculum"
	"brightchalk/internal/exchange"
	"brightchalk/internal/media"
	"brightchalk/internal/people"
	"brightchalk/internal/sound"
	"brightchalk/internal/store"
	"brightchalk/internal/teaching"
	"brightchalk/internal/tx"
)

type school struct {
	*app.App
	lead, teacher, assistant tx.Actor
	cards                    map[string]string // grapheme to id
	class                    string
}

// demoSchool loads the demo team into a fresh database.
func demoSchool(t testing.TB) school {
	t.Helper()
	ctx := context.Background()
	s := school{App: demoApp(t), cards: map[string]string{}}
	list := demo.SignIns
	var err error
	for i, into := range []*tx.Actor{&s.lead, &s.teacher, &s.assistant} {
		*into, err = s.Accounts.SignIn(ctx, people.SignInAttempt{Email: list[i].Email, Password: list[i].Password})
		require.NoError(t, err)
	}
	wall, err := s.Cards.Wall(ctx, s.lead, false)
	require.NoError(t, err)
	for _, c := range wall {
		if _, ok := s.cards[c.Pair.Grapheme]; !ok {
			s.cards[c.Pair.Grapheme] = c.CardID
		}
	}
	classes, err := s.Classes.Classes(ctx, s.lead)
	require.NoError(t, err)
	s.class = classes[0].ClassID
	return s
}

func TestDemoTeam(t *testing.T) {
	s := demoSchool(t)
	ctx := context.Background()
	wall, err := s.Cards.Wall(ctx, s.lead, false)
	require.NoError(t, err)
	complete, withTake, states := 0, 0, map[card.State]int{}
	for _, c := range wall {
		if len(c.Gaps) == 0 {
			complete++
		}
		if c.TakeID != "" {
			withTake++
			takes, err := s.Takes.Of(ctx, s.lead, c.CardID)
			require.NoError(t, err)
			assert.NotEqual(t, "retake", string(takes[0].Report.Verdict), "the take of %s", c.Pair)
		}
		if c.State == card.Agreed {
			assert.Zero(t, c.Remarks, "%s is agreed and contradicts itself", c.Pair)
		}
		states[c.State]++
	}
	assert.GreaterOrEqual(t, len(wall), 42)
	assert.GreaterOrEqual(t, complete, 16)
	assert.GreaterOrEqual(t, withTake, 16)
	assert.Len(t, states, 3, "drafts, cards in review and agreed ones are all there")
	again, err := demo.Load(ctx, s.App)
	require.NoError(t, err)
	assert.Len(t, again, 3)
	n, err := store.CountTeams(ctx, store.AllTeams{Pool: s.Pool})
	require.NoError(t, err)
	assert.Equal(t, 1, n, "a second start loads nothing")
}

// Every introduction of the demo's order can be assembled for a class that has been taught what stands before.
func TestEveryDemoCardCanBeIntroduced(t *testing.T) {
	s := demoSchool(t)
	ctx := context.Background()
	for g, id := range s.cards {
		in, err := s.Lessons.Assemble(ctx, s.teacher, introduce(s.class, id, 20))
		require.NoError(t, err, g)
		assert.NotEmpty(t, in.Lesson.Steps, g)
	}
	in, err := s.Lessons.Assemble(ctx, s.teacher, introduce(s.class, s.cards["b"], 20))
	require.NoError(t, err)
	assert.Empty(t, in.Lesson.Dropped, "the card b is complete, so no step is left out")
	assert.InDelta(t, 1200, in.Lesson.Seconds, 15)
}

func TestRolesAreEnforced(t *testing.T) {
	s := demoSchool(t)
	ctx := context.Background()
	id := s.cards["k"]
	c, err := s.Cards.Card(ctx, s.assistant, id)
	require.NoError(t, err, "an assistant may read")
	rows := []struct {
		name string
		may  []tx.Role
		call func(by tx.Actor) error
	}{
		{
			"save a card",
			[]tx.Role{tx.Lead, tx.Teacher},
			func(by tx.Actor) error { _, err := s.Cards.Save(ctx, by, id, c.Version, c.Content); return err },
		},
		{
			"agree a card",
			[]tx.Role{tx.Lead},
			func(by tx.Actor) error { _, err := s.Reviews.SetState(ctx, by, id, card.Agreed); return err },
		},
		{
			"ask for review",
			[]tx.Role{tx.Lead, tx.Teacher},
			func(by tx.Actor) error { _, err := s.Reviews.SetState(ctx, by, id, card.InReview); return err },
		},
		{"set conventions", []tx.Role{tx.Lead}, func(by tx.Actor) error {
			return s.Settings.SetConventions(ctx, by, convention.Conventions{Accent: "southern-british"})
		}},
		{
			"set the routine",
			[]tx.Role{tx.Lead},
			func(by tx.Actor) error {
				v := curriculum.RoutineView{
					Purpose: lesson.Introduce,
					Set:     true,
					Routine: lesson.DefaultRoutine(lesson.Introduce),
				}
				return s.Settings.SetRoutine(ctx, by, v)
			},
		},
		{"archive", []tx.Role{tx.Lead}, func(by tx.Actor) error { return s.Cards.Archive(ctx, by, id, false) }},
		{"keep a sentence", []tx.Role{tx.Lead, tx.Teacher}, func(by tx.Actor) error {
			_, err := s.Words.AddToBank(
				ctx,
				by,
				lesson.Text{Kind: "sentence", Body: "A cat sat on " + string(by.Role) + "."},
			)
			return err
		}},
		{
			"assemble",
			[]tx.Role{tx.Lead, tx.Teacher, tx.Assistant},
			func(by tx.Actor) error {
				_, err := s.Lessons.Assemble(ctx, by, introduce(s.class, id, 15))
				return err
			},
		},
		{"add a picture", []tx.Role{tx.Lead, tx.Teacher}, func(by tx.Actor) error {
			_, _, err := s.Cards.StorePicture(
				ctx,
				by,
				media.UploadOf([]byte("<svg xmlns='http://www.w3.org/2000/svg'></svg>")),
			)
			return err
		}},
	}
	for _, r := range rows {
		for _, by := range []tx.Actor{s.lead, s.teacher, s.assistant} {
			err := r.call(by)
			if strings.Contains(joined(r.may), string(by.Role)) {
				assert.NoError(t, err, "%s as %s", r.name, by.Role)
			} else {
				assert.ErrorIs(t, err, tx.ErrForbidden, "%s as %s", r.name, by.Role)
			}
		}
	}
}

// introduce asks for the introduction of a card.
func introduce(class, card string, minutes int) teaching.LessonAsk {
	return teaching.LessonAsk{ClassID: class, Purpose: lesson.Introduce, CardIDs: []string{card}, Minutes: minutes}
}

func joined(roles []tx.Role) string {
	out := ""
	for _, r := range roles {
		out += string(r) + " "
	}
	return out
}

func TestWithdrawnVoiceIsGone(t *testing.T) {
	s := demoSchool(t)
	ctx := context.Background()
	id := s.cards["m"]
	takes, err := s.Takes.Of(ctx, s.lead, id)
	require.NoError(t, err)
	_, err = s.Takes.OfCard(ctx, s.lead, id)
	require.NoError(t, err)
	require.ErrorIs(t, s.Takes.Withdraw(ctx, s.assistant, takes[0].TakeID), tx.ErrForbidden)
	require.NoError(t, s.Takes.Withdraw(ctx, s.lead, takes[0].TakeID))
	_, err = s.Takes.OfCard(ctx, s.lead, id)
	require.ErrorIs(t, err, store.ErrNotFound)
	var sounds int
	require.NoError(
		t,
		store.AllTeams{
			Pool: s.Pool,
		}.QueryRow(ctx, "SELECT count(*) FROM medium m WHERE media_type = 'audio/wav' AND NOT EXISTS (SELECT 1 "+
			"FROM take t WHERE t.sha256 = m.sha256)").
			Scan(&sounds),
	)
	assert.Zero(t, sounds, "the bytes are gone too")
	c, err := s.Cards.Card(ctx, s.lead, id)
	require.NoError(t, err)
	assert.Equal(t, "take", c.Gaps[0].Part)
}

func TestTakesAreJudgedAndRefused(t *testing.T) {
	s := demoSchool(t)
	ctx := context.Background()
	m, err := s.Takes.Recording(ctx, s.lead, firstTake(t, s, "s"))
	require.NoError(t, err)
	good := m.Bytes
	id := s.cards["qu"]
	var input *fault.Fault
	for field, call := range map[string]func() error{
		"speaker": func() error { _, err := s.Takes.Add(ctx, s.assistant, id, " ", true, media.UploadOf(good)); return err },
		"consent": func() error {
			_, err := s.Takes.Add(ctx, s.assistant, id, "Bea", false, media.UploadOf(good))
			return err
		},
		"take": func() error {
			_, err := s.Takes.Add(ctx, s.assistant, id, "Bea", true, media.UploadOf([]byte("a text file")))
			return err
		},
	} {
		require.ErrorAs(t, call(), &input)
		assert.Equal(t, field, input.Field)
	}
	takes, err := s.Takes.Of(ctx, s.assistant, id)
	require.NoError(t, err)
	assert.Empty(t, takes, "nothing is half saved")
	added, err := s.Takes.Add(ctx, s.assistant, id, "Bea", true, media.UploadOf(good))
	require.NoError(t, err)
	require.Len(t, added, 1)
	wrong := added[0]
	assert.Equal(t, "retake", string(wrong.Report.Verdict), "a hiss is no z")
	assert.False(t, wrong.Chosen)
	require.NoError(t, s.Takes.Fix(ctx, s.assistant, wrong.TakeID, sound.Fixes{StartMs: 300, EndMs: 500}))
	require.Error(t, s.Takes.Fix(ctx, s.assistant, wrong.TakeID, sound.Fixes{StartMs: 500, EndMs: 300}))
}

func firstTake(t *testing.T, s school, g string) string {
	takes, err := s.Takes.Of(context.Background(), s.lead, s.cards[g])
	require.NoError(t, err)
	return takes[0].TakeID
}

func TestAnotherTeamSeesNothing(t *testing.T) {
	s := demoSchool(t)
	ctx := context.Background()
	_, err := s.Accounts.CreateTeam(
		ctx,
		people.NewTeam{
			Name:     "Other",
			Email:    "other@school.example",
			LeadName: "Ann Other",
			Password: "a long enough one",
		},
	)
	require.NoError(t, err)
	other, err := s.Accounts.SignIn(
		ctx,
		people.SignInAttempt{Email: "OTHER@school.example", Password: "a long enough one"},
	)
	require.NoError(t, err)
	wall, err := s.Cards.Wall(ctx, other, true)
	require.NoError(t, err)
	assert.Empty(t, wall)
	_, err = s.Cards.Card(ctx, other, s.cards["m"])
	require.ErrorIs(t, err, store.ErrNotFound)
	_, err = s.Takes.Recording(ctx, other, firstTake(t, s, "m"))
	require.ErrorIs(t, err, store.ErrNotFound)
	_, err = s.Takes.Master(ctx, other, firstTake(t, s, "m"))
	require.ErrorIs(t, err, store.ErrNotFound)
	_, err = s.Lessons.Assemble(ctx, other, introduce(s.class, s.cards["m"], 20))
	require.Error(t, err)
	for _, bad := range []people.NewTeam{{
		Name: "X", Email: "no address", LeadName: "A",
		Password: "a long enough one",
	}, {Name: "X", Email: "a@b.example", LeadName: "A", Password: "short"}, {
		Name:  "",
		Email: "a@b.example", LeadName: "A", Password: "a long enough one",
	}, {
		Name:  "X",
		Email: "other@school.example", Password: "a long enough one",
	}} {
		_, err := s.Accounts.CreateTeam(ctx, bad)
		mendable(t, err)
	}
}

func TestBundleHoldsTheLibrary(t *testing.T) {
	s := demoSchool(t)
	ctx := context.Background()
	var out bytes.Buffer
	require.NoError(t, s.Exports.Bundle(ctx, s.teacher, exchange.BundleAsk{Class: s.class}, &out))
	b, err := bundle.Read(out.Bytes())
	require.NoError(t, err)
	assert.Len(t, b.Cards, 79)
	assert.Len(t, b.Taught, 14)
	in, err := b.Input(spelling.Pair{Grapheme: "b", Sound: "b"})
	require.NoError(t, err)
	in.Minutes, in.Seed, in.Now = 20, 3, s.Now()
	made, err := assembly.Assemble(in)
	require.NoError(t, err)
	assert.Empty(t, made.Dropped)
	z, err := zip.NewReader(bytes.NewReader(out.Bytes()), int64(out.Len()))
	require.NoError(t, err)
	assert.Len(t, z.File, 2+48+47+47, "the library, its carry pack, pictures, takes and recordings")
	_, err = b.Input(spelling.Pair{Grapheme: "zh", Sound: "ʒ"})
	require.ErrorContains(t, err, "no card for zh")
	_, err = bundle.Read([]byte("nonsense"))
	require.ErrorIs(t, err, bundle.ErrBundle)
}

func TestWorkbench(t *testing.T) {
	s := demoSchool(t)
	ctx := context.Background()
	found, err := s.Words.Find(
		ctx,
		s.teacher,
		teaching.FindQuery{ClassID: s.class, CardID: s.cards["b"], Frame: "CVC"},
	)
	require.NoError(t, err)
	require.Greater(t, found.Total, 10)
	assert.NotContains(t, found.Words[0].Word, "u", "u has not been taught to Heron class")
	none, err := s.Words.Find(
		ctx,
		s.teacher,
		teaching.FindQuery{ClassID: s.class, CardID: s.cards["qu"], Frame: "CCVCC", WithPicture: true},
	)
	require.NoError(t, err)
	assert.Contains(t, none.Note, "with or without")
	made, err := s.Words.MakeUp(
		ctx,
		s.teacher,
		teaching.FindQuery{ClassID: s.class, CardID: s.cards["b"], Frame: "CVC"},
	)
	require.NoError(t, err)
	assert.NotEmpty(t, made.Words)
	_, err = s.Words.MakeUp(ctx, s.teacher, teaching.FindQuery{ClassID: s.class, Frame: "VVV"})
	mendable(t, err)
	_, err = s.Words.Sort(ctx, s.teacher, []string{s.cards["ng"], s.cards["s"]}, 4, "initial", 1)
	mendable(t, err)
	checked, err := s.Words.Check(ctx, s.teacher, s.class, "A dog sat on a ship.")
	require.NoError(t, err)
	assert.InDelta(t, 5.0/6, checked.Decodable, 1e-9)
	assert.NotEmpty(t, checked.Words[5].Instead)
	_, err = s.Words.Check(ctx, s.teacher, s.class, strings.Repeat("long ", 5000))
	mendable(t, err)
}

// mendable checks that a person can mend what is wrong.
func mendable(t testing.TB, err error, why ...any) {
	t.Helper()
	var f *fault.Fault
	require.ErrorAs(t, err, &f, why...)
}
