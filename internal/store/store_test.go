package store_test

import (
	"context"
	"log/slog"
	"testing"
	"time"

	"github.com/jackc/pgx/v5"
	"github.com/jackc/pgx/v5/pgxpool"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"brightchalk/internal/core/card"
	"brightchalk/internal/core/lesson"
	"brightchalk/internal/core/recording"
	"brightchalk/internal/core/spelling"
	"brightchalk/internal/store"
	"brightchalk/internal/testdb"
)

var (
	ctx = context.Background()
	now = time.Date(2026, 11, 25, 9, 0, 0, 0, time.UTC)
)

type library struct {
	pool           *pgxpool.Pool
	team, id, klas string
}

func open(t *testing.T) library {
	t.Helper()
	l := library{pool: testdb.New(t)}
	l.team = makeTeam(t, l.pool, "One")
	var err error
	l.id, err = store.For(l.pool, l.team).
		CreateCard(ctx, 1, spelling.Pair{Grapheme: "m", Sound: "m"}, edit(card.Draft, "first"))
	require.NoError(t, err)
	l.klas, err = store.For(l.pool, l.team).CreateClass(ctx, "Heron class", "class")
	require.NoError(t, err)
	return l
}

func makeTeam(t *testing.T, db store.DB, name string) string {
	t.Helper()
	id, err := store.CreateTeam(ctx, db, name, card.Conventions{Accent: "southern-british"})
	require.NoError(t, err)
	return id
}

func edit(state card.State, rhyme string) store.CardEdit {
	return store.CardEdit{State: state, Content: card.Content{Rhyme: rhyme}.Tidy(), Now: now}
}

func TestMigrationsRunTwice(t *testing.T) {
	require.NoError(t, store.Migrate(ctx, testdb.New(t)))
}

func TestVersionsCanBeReadAgain(t *testing.T) {
	l := open(t)
	next := edit(card.Agreed, "second")
	next.CardID, next.Version, next.Changed = l.id, 2, []string{"rhyme"}
	require.NoError(t, store.For(l.pool, l.team).UpdateCard(ctx, next))
	first, err := store.For(l.pool, l.team).Version(ctx, l.id, 1)
	require.NoError(t, err)
	assert.Equal(t, "first", first.Content.Rhyme)
	c, err := store.For(l.pool, l.team).Card(ctx, l.id)
	require.NoError(t, err)
	require.NotNil(t, c.AgreedVersion)
	assert.Equal(t, 2, *c.AgreedVersion)
	require.ErrorIs(t, store.For(l.pool, l.team).UpdateCard(ctx, next), store.ErrTaken, "a version is written once")
	agreed, err := store.For(l.pool, l.team).AgreedContents(ctx)
	require.NoError(t, err)
	require.Len(t, agreed, 1)
	assert.Equal(t, "second", agreed[0].Content.Rhyme)
}

func TestOnePairOnce(t *testing.T) {
	l := open(t)
	_, err := store.For(l.pool, l.team).CreateCard(ctx, 9, spelling.Pair{Grapheme: "m", Sound: "m"}, edit(card.Draft, ""))
	require.ErrorIs(t, err, store.ErrTaken)
	_, err = store.For(l.pool, makeTeam(t, l.pool, "Two")).
		CreateCard(ctx, 9, spelling.Pair{Grapheme: "m", Sound: "m"}, edit(card.Draft, ""))
	require.NoError(t, err, "another team has a library of its own")
	_, err = store.For(l.pool, l.team).CreateCard(ctx, 0, spelling.Pair{Grapheme: "s", Sound: "s"}, edit(card.Draft, ""))
	require.Error(t, err, "the database refuses a step below 1")
}

func TestRowsOfAnotherTeamAreNotThere(t *testing.T) {
	l := open(t)
	other := makeTeam(t, l.pool, "Two")
	_, err := store.For(l.pool, other).Card(ctx, l.id)
	require.ErrorIs(t, err, store.ErrNotFound)
	require.ErrorIs(
		t,
		store.For(l.pool, other).AddLog(ctx, l.klas, "", "", store.LogRow{CardID: l.id, MetAt: now}),
		store.ErrNotFound,
	)
	_, err = store.For(l.pool, other).AddIntroduction(ctx, l.klas, "", lesson.Introduction{CardID: l.id}, now)
	require.ErrorIs(t, err, store.ErrNotFound)
	require.ErrorIs(t, store.For(l.pool, other).ArchiveCard(ctx, l.id, &now), store.ErrNotFound)
	_, err = store.For(l.pool, l.team).Card(ctx, "no id at all")
	require.ErrorIs(t, err, store.ErrNotFound)
}

func addTake(t *testing.T, l library, sound string) store.Take {
	t.Helper()
	sum, err := store.For(l.pool, l.team).PutMedium(ctx, store.Medium{MediaType: "audio/wav", Bytes: []byte(sound)})
	require.NoError(t, err)
	take := store.Take{
		CardID:    l.id,
		SHA256:    sum[:],
		Speaker:   "A",
		ConsentOn: now,
		TrimEndMs: 10,
		Verdict:   recording.Pure,
		CreatedAt: now,
	}
	take.TakeID, err = store.For(l.pool, l.team).AddTake(ctx, "", take)
	require.NoError(t, err)
	return take
}

func TestOneTakeIsChosen(t *testing.T) {
	l := open(t)
	one, two := addTake(t, l, "one"), addTake(t, l, "two")
	require.NoError(t, store.For(l.pool, l.team).ChooseTake(ctx, one))
	require.NoError(t, store.For(l.pool, l.team).ChooseTake(ctx, two))
	c, err := store.For(l.pool, l.team).Card(ctx, l.id)
	require.NoError(t, err)
	assert.Equal(t, two.TakeID, c.TakeID)
	_, err = l.pool.Exec(ctx, "UPDATE take SET chosen = true")
	require.Error(t, err, "the database holds the rule too")
	_, err = l.pool.Exec(ctx, "UPDATE take SET trim_end_ms = 0")
	require.Error(t, err)
}

func TestASoundStaysWhileATakeNeedsIt(t *testing.T) {
	l := open(t)
	one, same := addTake(t, l, "same"), addTake(t, l, "same")
	require.NoError(t, store.For(l.pool, l.team).WithdrawTake(ctx, one))
	_, err := store.For(l.pool, l.team).Medium(ctx, same.SHA256)
	require.NoError(t, err)
	require.NoError(t, store.For(l.pool, l.team).WithdrawTake(ctx, same))
	_, err = store.For(l.pool, l.team).Medium(ctx, same.SHA256)
	require.ErrorIs(t, err, store.ErrNotFound)
	require.ErrorIs(t, store.For(l.pool, l.team).FixTake(ctx, same.TakeID, 0, 5, false), store.ErrNotFound)
}

func TestArchivedCardsComeBack(t *testing.T) {
	l := open(t)
	require.NoError(t, store.For(l.pool, l.team).ArchiveCard(ctx, l.id, &now))
	shown, err := store.For(l.pool, l.team).Cards(ctx, false)
	require.NoError(t, err)
	assert.Empty(t, shown)
	all, err := store.For(l.pool, l.team).Cards(ctx, true)
	require.NoError(t, err)
	assert.Len(t, all, 1)
	require.NoError(t, store.For(l.pool, l.team).ArchiveCard(ctx, l.id, nil))
	shown, err = store.For(l.pool, l.team).Cards(ctx, false)
	require.NoError(t, err)
	assert.Len(t, shown, 1)
}

func TestIntroductionRevisions(t *testing.T) {
	l := open(t)
	id, err := store.For(l.pool, l.team).
		AddIntroduction(ctx, l.klas, "", lesson.Introduction{CardID: l.id, Minutes: 15}, now)
	require.NoError(t, err)
	require.NoError(
		t,
		store.For(l.pool, l.team).UpdateIntroduction(ctx, id, 1, lesson.Introduction{CardID: l.id, Minutes: 25}, now),
	)
	require.ErrorIs(
		t,
		store.For(l.pool, l.team).UpdateIntroduction(ctx, id, 1, lesson.Introduction{}, now),
		store.ErrChanged,
	)
	i, err := store.For(l.pool, l.team).Introduction(ctx, id)
	require.NoError(t, err)
	assert.Equal(t, 25, i.Snapshot.Minutes)
	recent, err := store.For(l.pool, l.team).RecentIntroductions(ctx)
	require.NoError(t, err)
	require.Len(t, recent, 1)
	assert.False(t, recent[0].Taught)
	require.NoError(
		t,
		store.For(l.pool, l.team).AddLog(ctx, l.klas,
			id,
			"",
			store.LogRow{CardID: l.id, Introduced: true, Sureness: 2, MetAt: now},
		),
	)
	recent, err = store.For(l.pool, l.team).RecentIntroductions(ctx)
	require.NoError(t, err)
	assert.True(t, recent[0].Taught)
	require.Error(
		t,
		store.For(l.pool, l.team).AddLog(ctx, l.klas, id, "", store.LogRow{CardID: l.id, Sureness: 7, MetAt: now}),
	)
}

func TestHub(t *testing.T) {
	l := open(t)
	hub := store.NewHub()
	listening, stop := context.WithCancel(ctx)
	done := make(chan struct{})
	go func() {
		hub.Run(listening, l.pool, slog.New(slog.DiscardHandler))
		close(done)
	}()
	mine, end := hub.Subscribe(l.team)
	defer end()
	others, endOthers := hub.Subscribe("another team")
	defer endOthers()
	require.Eventually(t, func() bool { // until the hub listens
		require.NoError(
			t,
			pgx.BeginFunc(ctx, l.pool, func(tx pgx.Tx) error { return store.For(tx, l.team).ArchiveCard(ctx, l.id, nil) }),
		)
		select {
		case c := <-mine:
			return c.Kind == "card" && c.ID == l.id
		case <-time.After(100 * time.Millisecond):
			return false
		}
	}, 60*time.Second, time.Millisecond)
	assert.Empty(t, others, "another team hears nothing")
	_, err := l.pool.Exec(
		ctx,
		"SELECT pg_terminate_backend(pid) FROM pg_stat_activity WHERE query = 'LISTEN bright_chalk' AND datname = "+
			"current_database()",
	)
	require.NoError(t, err)
	require.Eventually(t, func() bool {
		select {
		case c := <-mine:
			return c.Kind == "resync"
		default:
			return false
		}
	}, 60*time.Second, 20*time.Millisecond, "after a break everybody is told to look again")
	hub.Close()
	for range mine {
		continue // closed at last
	}
	stop()
	<-done
}
