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
	"brightchalk/internal/core/fault"
	"brightchalk/internal/core/lesson"
	"brightchalk/internal/core/spelling"
	"brightchalk/internal/store"
)

type school struct {
	*app.App
	lead, teacher, assistant app.Actor
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
	for i, into := range []*app.Actor{&s.lead, &s.teacher, &s.assistant} {
		*into, err = s.People.SignIn(ctx, app.Attempt{Email: list[i].Email, Password: list[i].Password})
		require.NoError(t, err)
	}
	wall, err := s.Cards.Wall(ctx, s.lead, false)
	require.NoError(t, err)
	for _, c := range wall {
		if _, ok := s.cards[c.Pair.Grapheme]; !ok {
			s.cards[c.Pair.Grapheme] = c.CardID
		}
	}
	classes, err := s.Planning.Classes(ctx, s.lead)
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
		may  []app.Role
		call func(by app.Actor) error
	}{
		{
			"save a card",
			[]app.Role{app.Lead, app.Teacher},
			func(by app.Actor) error { _, err := s.Cards.Save(ctx, by, id, c.Version, c.Content); return err },
		},
		{
			"agree a card",
			[]app.Role{app.Lead},
			func(by app.Actor) error { _, err := s.Reviews.SetState(ctx, by, id, card.Agreed); return err },
		},
		{
			"ask for review",
			[]app.Role{app.Lead, app.Teacher},
			func(by app.Actor) error { _, err := s.Reviews.SetState(ctx, by, id, card.InReview); return err },
		},
		{"set conventions", []app.Role{app.Lead}, func(by app.Actor) error {
			return s.Planning.SetConventions(ctx, by, card.Conventions{Accent: "southern-british"})
		}},
		{
			"set the routine",
			[]app.Role{app.Lead},
			func(by app.Actor) error {
				v := app.RoutineView{Purpose: lesson.Introduce, Set: true, Routine: lesson.DefaultRoutine(lesson.Introduce)}
				return s.Planning.SetRoutine(ctx, by, v)
			},
		},
		{"archive", []app.Role{app.Lead}, func(by app.Actor) error { return s.Cards.Archive(ctx, by, id, false) }},
		{"keep a sentence", []app.Role{app.Lead, app.Teacher}, func(by app.Actor) error {
			_, err := s.Words.AddToBank(ctx, by, lesson.Text{Kind: "sentence", Body: "A cat sat on " + string(by.Role) + "."})
			return err
		}},
		{
			"assemble",
			[]app.Role{app.Lead, app.Teacher, app.Assistant},
			func(by app.Actor) error {
				_, err := s.Lessons.Assemble(ctx, by, introduce(s.class, id, 15))
				return err
			},
		},
		{"add a picture", []app.Role{app.Lead, app.Teacher}, func(by app.Actor) error {
			_, _, err := s.Cards.StorePicture(ctx, by, app.Uploaded([]byte("<svg xmlns='http://www.w3.org/2000/svg'></svg>")))
			return err
		}},
	}
	for _, r := range rows {
		for _, by := range []app.Actor{s.lead, s.teacher, s.assistant} {
			err := r.call(by)
			if strings.Contains(joined(r.may), string(by.Role)) {
				assert.NoError(t, err, "%s as %s", r.name, by.Role)
			} else {
				assert.ErrorIs(t, err, app.ErrForbidden, "%s as %s", r.name, by.Role)
			}
		}
	}
}

// introduce asks for the introduction of a card.
func introduce(class, card string, minutes int) app.LessonAsk {
	return app.LessonAsk{ClassID: class, Purpose: lesson.Introduce, CardIDs: []string{card}, Minutes: minutes}
}

func joined(roles []app.Role) string {
	out := ""
	for _, r := range roles {
		out += string(r) + " "
	}
	return out
}

func TestALessonIsASnapshot(t *testing.T) {
	s := demoSchool(t)
	ctx := context.Background()
	id := s.cards["b"]
	in, err := s.Lessons.Assemble(ctx, s.teacher, introduce(s.class, id, 20))
	require.NoError(t, err)
	c, err := s.Cards.Card(ctx, s.teacher, id)
	require.NoError(t, err)
	c.Content.Rhyme = "Big barrels bob."
	_, err = s.Cards.Save(ctx, s.teacher, id, c.Version, c.Content)
	require.NoError(t, err)
	again, err := s.Lessons.Lesson(ctx, s.teacher, in.LessonID)
	require.NoError(t, err)
	assert.Equal(t, in.Lesson, again.Lesson)
	assert.True(t, again.CardChanged)
	renewed, err := s.Lessons.Renew(ctx, s.teacher, in.LessonID, again.Revision, 25)
	require.NoError(t, err)
	assert.False(t, renewed.CardChanged)
	assert.Equal(t, 25, renewed.Lesson.Minutes)
	_, err = s.Lessons.Renew(ctx, s.teacher, in.LessonID, again.Revision, 25)
	require.ErrorIs(t, err, store.ErrChanged, "an older revision does not overwrite a newer")
	var input *fault.Fault
	_, err = s.Lessons.Renew(ctx, s.teacher, in.LessonID, renewed.Revision, 90)
	require.ErrorAs(t, err, &input)
	assert.Equal(t, "minutes", input.Field)
}

func TestAPictureOfNobodyIsRefused(t *testing.T) {
	s := demoSchool(t)
	ctx := context.Background()
	c, err := s.Cards.Card(ctx, s.teacher, s.cards["b"])
	require.NoError(t, err)
	had := c.Content.Picture
	require.NotEmpty(t, had)
	for _, sum := range []string{strings.Repeat("0", 64), "no hash", strings.Repeat("g", 64)} {
		c.Content.Picture = sum
		_, err = s.Cards.Save(ctx, s.teacher, c.CardID, c.Version, c.Content)
		var input *fault.Fault
		require.ErrorAs(t, err, &input, sum)
		assert.Equal(t, "picture", input.Field)
	}
	other, err := s.Cards.Card(ctx, s.teacher, s.cards["m"])
	require.NoError(t, err)
	c.Content.Picture = other.Content.Picture
	c, err = s.Cards.Save(ctx, s.teacher, c.CardID, c.Version, c.Content)
	require.NoError(t, err)
	assert.NotEqual(t, had, c.Content.Picture)
}

func TestAClueIsTheTeamsFromThenOn(t *testing.T) {
	s := demoSchool(t)
	ctx := context.Background()
	in, err := s.Lessons.Assemble(ctx, s.teacher, introduce(s.class, s.cards["b"], 20))
	require.NoError(t, err)
	word := stepOf(t, in.Lesson, lesson.Read).Items[0].Value
	_, err = s.Lessons.SetClue(ctx, s.assistant, in.LessonID, in.Revision, word, "ours")
	require.ErrorIs(t, err, app.ErrForbidden)
	after, err := s.Lessons.SetClue(ctx, s.teacher, in.LessonID, in.Revision, word, " what we  say ")
	require.NoError(t, err)
	assert.Equal(t, "what we say", stepOf(t, after.Lesson, lesson.Read).Items[0].Clue)
	again, err := s.Lessons.Assemble(ctx, s.teacher, introduce(s.class, s.cards["b"], 20))
	require.NoError(t, err)
	for _, it := range stepOf(t, again.Lesson, lesson.Read).Items {
		assert.Equal(t, it.Value == word, it.Clue == "what we say", it.Value)
	}
	_, err = s.Lessons.SetClue(ctx, s.teacher, in.LessonID, in.Revision, word, "too late")
	require.ErrorIs(t, err, store.ErrChanged)
	var input *fault.Fault
	_, err = s.Lessons.SetClue(ctx, s.teacher, in.LessonID, after.Revision, word, strings.Repeat("long ", 40))
	require.ErrorAs(t, err, &input)
	assert.Equal(t, "clue", input.Field)
}

func TestLogDecidesWhatIsTaughtAndNext(t *testing.T) {
	s := demoSchool(t)
	ctx := context.Background()
	id, err := s.Planning.NewClass(ctx, s.teacher, "Kingfisher class", "class")
	require.NoError(t, err)
	v, err := s.Planning.Class(ctx, s.teacher, id)
	require.NoError(t, err)
	assert.Equal(t, s.cards["t"], v.Next)
	in, err := s.Lessons.Assemble(ctx, s.teacher, introduce(id, v.Next, 15))
	require.NoError(t, err, "a class with nothing taught")
	require.NoError(
		t,
		s.Lessons.Log(ctx, s.teacher, in.LessonID, app.Taught{Reached: "hand", Sure: []app.Sure{{CardID: v.Next, Sure: 1}}}),
	)
	v, err = s.Planning.Class(ctx, s.teacher, id)
	require.NoError(t, err)
	assert.Equal(t, s.cards["a"], v.Next)
	require.Len(t, v.Cards, 1)
	assert.Equal(t, 1, v.Cards[0].Sure)
	in, err = s.Lessons.Assemble(ctx, s.teacher, introduce(id, v.Next, 15))
	require.NoError(t, err)
	assert.Contains(t, stepOf(t, in.Lesson, lesson.Pack).Items[0].Because.Text, "shaky")
	require.Error(t, s.Lessons.Log(ctx, s.teacher, in.LessonID, app.Taught{}))
	require.Error(
		t,
		s.Lessons.Log(ctx, s.teacher, in.LessonID, app.Taught{Sure: []app.Sure{{CardID: s.cards["z"], Sure: 1}}}),
	)
}

func TestWithdrawnVoiceIsGone(t *testing.T) {
	s := demoSchool(t)
	ctx := context.Background()
	id := s.cards["m"]
	takes, err := s.Takes.Of(ctx, s.lead, id)
	require.NoError(t, err)
	_, err = s.Takes.OfCard(ctx, s.lead, id)
	require.NoError(t, err)
	require.ErrorIs(t, s.Takes.Withdraw(ctx, s.assistant, takes[0].TakeID), app.ErrForbidden)
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
		"speaker": func() error { _, err := s.Takes.Add(ctx, s.assistant, id, " ", true, app.Uploaded(good)); return err },
		"consent": func() error {
			_, err := s.Takes.Add(ctx, s.assistant, id, "Bea", false, app.Uploaded(good))
			return err
		},
		"take": func() error {
			_, err := s.Takes.Add(ctx, s.assistant, id, "Bea", true, app.Uploaded([]byte("a text file")))
			return err
		},
	} {
		require.ErrorAs(t, call(), &input)
		assert.Equal(t, field, input.Field)
	}
	takes, err := s.Takes.Of(ctx, s.assistant, id)
	require.NoError(t, err)
	assert.Empty(t, takes, "nothing is half saved")
	added, err := s.Takes.Add(ctx, s.assistant, id, "Bea", true, app.Uploaded(good))
	require.NoError(t, err)
	require.Len(t, added, 1)
	wrong := added[0]
	assert.Equal(t, "retake", string(wrong.Report.Verdict), "a hiss is no z")
	assert.False(t, wrong.Chosen)
	require.NoError(t, s.Takes.Fix(ctx, s.assistant, wrong.TakeID, app.Fixes{StartMs: 300, EndMs: 500}))
	require.Error(t, s.Takes.Fix(ctx, s.assistant, wrong.TakeID, app.Fixes{StartMs: 500, EndMs: 300}))
}

func firstTake(t *testing.T, s school, g string) string {
	takes, err := s.Takes.Of(context.Background(), s.lead, s.cards[g])
	require.NoError(t, err)
	return takes[0].TakeID
}

func TestAnotherTeamSeesNothing(t *testing.T) {
	s := demoSchool(t)
	ctx := context.Background()
	_, err := s.People.CreateTeam(
		ctx,
		app.NewTeam{Name: "Other", Email: "other@school.example", LeadName: "Ann Other", Password: "a long enough one"},
	)
	require.NoError(t, err)
	other, err := s.People.SignIn(ctx, app.Attempt{Email: "OTHER@school.example", Password: "a long enough one"})
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
	for _, bad := range []app.NewTeam{{
		Name: "X", Email: "no address", LeadName: "A",
		Password: "a long enough one",
	}, {Name: "X", Email: "a@b.example", LeadName: "A", Password: "short"}, {
		Name:  "",
		Email: "a@b.example", LeadName: "A", Password: "a long enough one",
	}, {
		Name:  "X",
		Email: "other@school.example", Password: "a long enough one",
	}} {
		_, err := s.People.CreateTeam(ctx, bad)
		mendable(t, err)
	}
}

func TestBundleHoldsTheLibrary(t *testing.T) {
	s := demoSchool(t)
	ctx := context.Background()
	var out bytes.Buffer
	require.NoError(t, s.Print.Bundle(ctx, s.teacher, app.BundleAsk{Class: s.class}, &out))
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
	found, err := s.Words.Find(ctx, s.teacher, app.FindQuery{ClassID: s.class, CardID: s.cards["b"], Frame: "CVC"})
	require.NoError(t, err)
	require.Greater(t, found.Total, 10)
	assert.NotContains(t, found.Words[0].Word, "u", "u has not been taught to Heron class")
	none, err := s.Words.Find(
		ctx,
		s.teacher,
		app.FindQuery{ClassID: s.class, CardID: s.cards["qu"], Frame: "CCVCC", WithPicture: true},
	)
	require.NoError(t, err)
	assert.Contains(t, none.Note, "with or without")
	made, err := s.Words.MakeUp(ctx, s.teacher, app.FindQuery{ClassID: s.class, CardID: s.cards["b"], Frame: "CVC"})
	require.NoError(t, err)
	assert.NotEmpty(t, made.Words)
	_, err = s.Words.MakeUp(ctx, s.teacher, app.FindQuery{ClassID: s.class, Frame: "VVV"})
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
