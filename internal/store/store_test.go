package store_test

import (
	"brightchalk/internal/core/card"
	"brightchalk/internal/core/lesson"
	"brightchalk/internal/core/recording"
	"brightchalk/internal/core/spelling"
	"brightchalk/internal/store"
	"brightchalk/internal/testdb"
	"context"
	"log/slog"
	"testing"
	"time"

	"github.com/jackc/pgx/v5"
	"github.com/jackc/pgx/v5/pgxpool"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
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
	l.id, err = store.CreateCard(
		ctx,
		l.pool,
		1,
		spelling.Pair{Grapheme: "m", Sound: "m"},
		edit(l.team, card.Draft, "first"),
	)
	require.NoError(t, err)
	l.klas, err = store.CreateClass(ctx, l.pool, l.team, "Heron class", "class")
	require.NoError(t, err)
	return l
}

func makeTeam(t *testing.T, db store.DB, name string) string {
	t.Helper()
	id, err := store.CreateTeam(ctx, db, name, card.Conventions{Accent: "southern-british"})
	require.NoError(t, err)
	return id
}

func edit(team string, state card.State, rhyme string) store.CardEdit {
	return store.CardEdit{TeamID: team, State: state, Content: card.Content{Rhyme: rhyme}.Tidy(), Now: now}
}

func TestMigrationsRunTwice(t *testing.T) {
	require.NoError(t, store.Migrate(ctx, testdb.New(t)))
}

func TestVersionsCanBeReadAgain(t *testing.T) {
	l := open(t)
	next := edit(l.team, card.Agreed, "second")
	next.CardID, next.Version, next.Changed = l.id, 2, []string{"rhyme"}
	require.NoError(t, store.UpdateCard(ctx, l.pool, next))
	first, err := store.GetVersion(ctx, l.pool, l.team, l.id, 1)
	require.NoError(t, err)
	assert.Equal(t, "first", first.Content.Rhyme)
	c, err := store.GetCard(ctx, l.pool, l.team, l.id)
	require.NoError(t, err)
	require.NotNil(t, c.AgreedVersion)
	assert.Equal(t, 2, *c.AgreedVersion)
	require.ErrorIs(t, store.UpdateCard(ctx, l.pool, next), store.ErrTaken, "a version is written once")
	agreed, err := store.AgreedContents(ctx, l.pool, l.team)
	require.NoError(t, err)
	require.Len(t, agreed, 1)
	assert.Equal(t, "second", agreed[0].Content.Rhyme)
}

func TestOnePairOnce(t *testing.T) {
	l := open(t)
	_, err := store.CreateCard(ctx, l.pool, 9, spelling.Pair{Grapheme: "m", Sound: "m"}, edit(l.team, card.Draft, ""))
	require.ErrorIs(t, err, store.ErrTaken)
	_, err = store.CreateCard(
		ctx,
		l.pool,
		9,
		spelling.Pair{Grapheme: "m", Sound: "m"},
		edit(makeTeam(t, l.pool, "Two"), card.Draft, ""),
	)
	require.NoError(t, err, "another team has a library of its own")
	_, err = store.CreateCard(ctx, l.pool, 0, spelling.Pair{Grapheme: "s", Sound: "s"}, edit(l.team, card.Draft, ""))
	require.Error(t, err, "the database refuses a step below 1")
}

func TestRowsOfAnotherTeamAreNotThere(t *testing.T) {
	l := open(t)
	other := makeTeam(t, l.pool, "Two")
	_, err := store.GetCard(ctx, l.pool, other, l.id)
	require.ErrorIs(t, err, store.ErrNotFound)
	require.ErrorIs(
		t,
		store.AddLog(ctx, l.pool, other, l.klas, "", "", store.LogRow{CardID: l.id, MetAt: now}),
		store.ErrNotFound,
	)
	_, err = store.AddIntroduction(ctx, l.pool, other, l.klas, "", lesson.Introduction{CardID: l.id}, now)
	require.ErrorIs(t, err, store.ErrNotFound)
	require.ErrorIs(t, store.ArchiveCard(ctx, l.pool, other, l.id, &now), store.ErrNotFound)
	_, err = store.GetCard(ctx, l.pool, l.team, "no id at all")
	require.ErrorIs(t, err, store.ErrNotFound)
}

func addTake(t *testing.T, l library, sound string) store.Take {
	t.Helper()
	sum, err := store.PutMedium(ctx, l.pool, l.team, store.Medium{MediaType: "audio/wav", Bytes: []byte(sound)})
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
	take.TakeID, err = store.AddTake(ctx, l.pool, l.team, "", take)
	require.NoError(t, err)
	return take
}

func TestOneTakeIsChosen(t *testing.T) {
	l := open(t)
	one, two := addTake(t, l, "one"), addTake(t, l, "two")
	require.NoError(t, store.ChooseTake(ctx, l.pool, l.team, one))
	require.NoError(t, store.ChooseTake(ctx, l.pool, l.team, two))
	c, err := store.GetCard(ctx, l.pool, l.team, l.id)
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
	require.NoError(t, store.WithdrawTake(ctx, l.pool, l.team, one))
	_, err := store.GetMedium(ctx, l.pool, l.team, same.SHA256)
	require.NoError(t, err)
	require.NoError(t, store.WithdrawTake(ctx, l.pool, l.team, same))
	_, err = store.GetMedium(ctx, l.pool, l.team, same.SHA256)
	require.ErrorIs(t, err, store.ErrNotFound)
	require.ErrorIs(t, store.FixTake(ctx, l.pool, l.team, same.TakeID, 0, 5, false), store.ErrNotFound)
}

func TestArchivedCardsComeBack(t *testing.T) {
	l := open(t)
	require.NoError(t, store.ArchiveCard(ctx, l.pool, l.team, l.id, &now))
	shown, err := store.Cards(ctx, l.pool, l.team, false)
	require.NoError(t, err)
	assert.Empty(t, shown)
	all, err := store.Cards(ctx, l.pool, l.team, true)
	require.NoError(t, err)
	assert.Len(t, all, 1)
	require.NoError(t, store.ArchiveCard(ctx, l.pool, l.team, l.id, nil))
	shown, err = store.Cards(ctx, l.pool, l.team, false)
	require.NoError(t, err)
	assert.Len(t, shown, 1)
}

func TestIntroductionRevisions(t *testing.T) {
	l := open(t)
	id, err := store.AddIntroduction(ctx, l.pool, l.team, l.klas, "", lesson.Introduction{CardID: l.id, Minutes: 15}, now)
	require.NoError(t, err)
	require.NoError(
		t,
		store.UpdateIntroduction(ctx, l.pool, l.team, id, 1, lesson.Introduction{CardID: l.id, Minutes: 25}, now),
	)
	require.ErrorIs(t, store.UpdateIntroduction(ctx, l.pool, l.team, id, 1, lesson.Introduction{}, now), store.ErrChanged)
	i, err := store.GetIntroduction(ctx, l.pool, l.team, id)
	require.NoError(t, err)
	assert.Equal(t, 25, i.Snapshot.Minutes)
	recent, err := store.RecentIntroductions(ctx, l.pool, l.team)
	require.NoError(t, err)
	require.Len(t, recent, 1)
	assert.False(t, recent[0].Taught)
	require.NoError(
		t,
		store.AddLog(
			ctx,
			l.pool,
			l.team,
			l.klas,
			id,
			"",
			store.LogRow{CardID: l.id, Introduced: true, Sureness: 2, MetAt: now},
		),
	)
	recent, err = store.RecentIntroductions(ctx, l.pool, l.team)
	require.NoError(t, err)
	assert.True(t, recent[0].Taught)
	require.Error(
		t,
		store.AddLog(ctx, l.pool, l.team, l.klas, id, "", store.LogRow{CardID: l.id, Sureness: 7, MetAt: now}),
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
			pgx.BeginFunc(ctx, l.pool, func(tx pgx.Tx) error { return store.ArchiveCard(ctx, tx, l.team, l.id, nil) }),
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
