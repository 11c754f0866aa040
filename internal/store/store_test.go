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
	"brightchalk/internal/core/convention"
	"brightchalk/internal/core/lesson"
	"brightchalk/internal/core/recording"
	"brightchalk/internal/core/spelling"
	"brightchalk/internal/store"
	"brightchalk/test/testdb"
)

var (
	ctx = context.Background()
	now = time.Date(2026, 11, 25, 9, 0, 0, 0, time.UTC)
)

type library struct {
	pool           *pgxpool.Pool
	db             store.AllTeams
	team, id, klas string
}

func TestMain(m *testing.M) { testdb.Main(m) }

func open(t *testing.T) library {
	t.Helper()
	l := library{pool: testdb.New(t)}
	l.db = store.AllTeams{Pool: l.pool}
	l.team = makeTeam(t, l.db, "One")
	var err error
	l.id, err = store.For(l.db, l.team).
		CreateCard(ctx, 1, spelling.Pair{Grapheme: "m", Sound: "m"}, edit(card.Draft, "first"))
	require.NoError(t, err)
	l.klas, err = store.For(l.db, l.team).CreateClass(ctx, "Heron class", "class")
	require.NoError(t, err)
	return l
}

func makeTeam(t *testing.T, db store.DB, name string) string {
	t.Helper()
	id, err := store.CreateTeam(ctx, db, name, convention.Conventions{Accent: "southern-british"})
	require.NoError(t, err)
	return id
}

func edit(state card.State, rhyme string) store.CardEdit {
	return store.CardEdit{State: state, Content: card.Content{Rhyme: rhyme}.Tidy(), Now: now}
}

func TestMigrationsRunTwice(t *testing.T) {
	require.NoError(t, store.Migrate(ctx, testdb.Owner(t, testdb.New(t))))
}

func TestVersionsCanBeReadAgain(t *testing.T) {
	l := open(t)
	next := edit(card.Agreed, "second")
	next.CardID, next.Version, next.Changed = l.id, 2, []string{"rhyme"}
	require.NoError(t, store.For(l.db, l.team).UpdateCard(ctx, next))
	first, err := store.For(l.db, l.team).Version(ctx, l.id, 1)
	require.NoError(t, err)
	assert.Equal(t, "first", first.Content.Rhyme)
	c, err := store.For(l.db, l.team).Card(ctx, l.id)
	require.NoError(t, err)
	require.NotNil(t, c.AgreedVersion)
	assert.Equal(t, 2, *c.AgreedVersion)
	require.ErrorIs(t, store.For(l.db, l.team).UpdateCard(ctx, next), store.ErrTaken, "a version is written once")
	agreed, err := store.For(l.db, l.team).AgreedContents(ctx)
	require.NoError(t, err)
	require.Len(t, agreed, 1)
	assert.Equal(t, "second", agreed[0].Content.Rhyme)
}

func TestOnePairOnce(t *testing.T) {
	l := open(t)
	_, err := store.For(l.db, l.team).CreateCard(ctx, 9, spelling.Pair{Grapheme: "m", Sound: "m"}, edit(card.Draft, ""))
	require.ErrorIs(t, err, store.ErrTaken)
	_, err = store.For(l.db, makeTeam(t, l.db, "Two")).
		CreateCard(ctx, 9, spelling.Pair{Grapheme: "m", Sound: "m"}, edit(card.Draft, ""))
	require.NoError(t, err, "another team has a library of its own")
	_, err = store.For(l.db, l.team).CreateCard(ctx, 0, spelling.Pair{Grapheme: "s", Sound: "s"}, edit(card.Draft, ""))
	require.Error(t, err, "the database refuses a step below 1")
}

func TestRowsOfAnotherTeamAreNotThere(t *testing.T) {
	l := open(t)
	other := makeTeam(t, l.db, "Two")
	_, err := store.For(l.db, other).Card(ctx, l.id)
	require.ErrorIs(t, err, store.ErrNotFound)
	require.ErrorIs(
		t,
		store.For(l.db, other).AddLog(ctx, l.klas, "", store.LogRow{CardID: l.id, MetAt: now}),
		store.ErrNotFound,
	)
	_, err = store.For(l.db, other).AddLesson(ctx, l.klas, "", about(l.id, 15), now)
	require.ErrorIs(t, err, store.ErrNotFound)
	require.ErrorIs(t, store.For(l.db, other).ArchiveCard(ctx, l.id, &now), store.ErrNotFound)
	_, err = store.For(l.db, l.team).Card(ctx, "no id at all")
	require.ErrorIs(t, err, store.ErrNotFound)
}

func addTake(t *testing.T, l library, sound string) store.Take {
	t.Helper()
	sum, err := store.For(l.db, l.team).PutMedium(ctx, store.Medium{MediaType: "audio/wav", Bytes: []byte(sound)})
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
	take.TakeID, err = store.For(l.db, l.team).AddTake(ctx, "", take)
	require.NoError(t, err)
	return take
}

func TestOneTakeIsChosen(t *testing.T) {
	l := open(t)
	one, two := addTake(t, l, "one"), addTake(t, l, "two")
	require.NoError(t, store.For(l.db, l.team).ChooseTake(ctx, one))
	require.NoError(t, store.For(l.db, l.team).ChooseTake(ctx, two))
	c, err := store.For(l.db, l.team).Card(ctx, l.id)
	require.NoError(t, err)
	assert.Equal(t, two.TakeID, c.TakeID)
	_, err = l.db.Exec(ctx, "UPDATE take SET chosen = true")
	require.Error(t, err, "the database holds the rule too")
	_, err = l.db.Exec(ctx, "UPDATE take SET trim_end_ms = 0")
	require.Error(t, err)
}

func TestASoundStaysWhileATakeNeedsIt(t *testing.T) {
	l := open(t)
	one, same := addTake(t, l, "same"), addTake(t, l, "same")
	require.NoError(t, store.For(l.db, l.team).WithdrawTake(ctx, one))
	_, err := store.For(l.db, l.team).Medium(ctx, same.SHA256)
	require.NoError(t, err)
	require.NoError(t, store.For(l.db, l.team).WithdrawTake(ctx, same))
	_, err = store.For(l.db, l.team).Medium(ctx, same.SHA256)
	require.ErrorIs(t, err, store.ErrNotFound)
	require.ErrorIs(t, store.For(l.db, l.team).FixTake(ctx, same.TakeID, 0, 5, false, nil), store.ErrNotFound)
}

func TestArchivedCardsComeBack(t *testing.T) {
	l := open(t)
	require.NoError(t, store.For(l.db, l.team).ArchiveCard(ctx, l.id, &now))
	shown, err := store.For(l.db, l.team).Cards(ctx, false)
	require.NoError(t, err)
	assert.Empty(t, shown)
	all, err := store.For(l.db, l.team).Cards(ctx, true)
	require.NoError(t, err)
	assert.Len(t, all, 1)
	require.NoError(t, store.For(l.db, l.team).ArchiveCard(ctx, l.id, nil))
	shown, err = store.For(l.db, l.team).Cards(ctx, false)
	require.NoError(t, err)
	assert.Len(t, shown, 1)
}

// about is a lesson on a card.
func about(card string, minutes int) lesson.Lesson {
	return lesson.Lesson{Purpose: lesson.Introduce, Targets: []string{card}, Minutes: minutes}
}

func TestLessonRevisions(t *testing.T) {
	l := open(t)
	lib := store.For(l.db, l.team)
	id, err := lib.AddLesson(ctx, l.klas, "", about(l.id, 15), now)
	require.NoError(t, err)
	require.NoError(t, lib.UpdateLesson(ctx, id, 1, about(l.id, 25), now))
	require.ErrorIs(t, lib.UpdateLesson(ctx, id, 1, about(l.id, 30), now), store.ErrChanged)
	i, err := lib.Lesson(ctx, id)
	require.NoError(t, err)
	assert.Equal(t, 25, i.Snapshot.Minutes)
	require.NoError(t, lib.UndoLesson(ctx, id, 2, now))
	require.ErrorIs(t, lib.UndoLesson(ctx, id, 2, now), store.ErrChanged)
	i, err = lib.Lesson(ctx, id)
	require.NoError(t, err)
	assert.Equal(t, 15, i.Snapshot.Minutes, "as it was before")
	require.NoError(t, lib.UndoLesson(ctx, id, 3, now))
	i, err = lib.Lesson(ctx, id)
	require.NoError(t, err)
	assert.Equal(t, 25, i.Snapshot.Minutes, "a second time the change is in again")
	untouched, err := lib.AddLesson(ctx, l.klas, "", about(l.id, 15), now.Add(-time.Minute))
	require.NoError(t, err)
	require.ErrorIs(t, lib.UndoLesson(ctx, untouched, 1, now), store.ErrChanged, "nothing was changed")
	list, err := lib.Lessons(ctx, l.klas, nil, 10)
	require.NoError(t, err)
	require.Len(t, list, 2)
	assert.Nil(t, list[0].TaughtAt)
	assert.Equal(t, 1, list[0].Targets)
	older := now.Add(-time.Hour)
	none, err := lib.Lessons(ctx, "", &older, 10)
	require.NoError(t, err)
	assert.Empty(t, none, "made before a time")

	g := store.LessonLog{LessonID: id, ClassID: l.klas, TaughtAt: now, Skipped: []string{"page"}, Note: "Windy."}
	row := store.LogRow{CardID: l.id, LessonID: id, Introduced: true, Sureness: 2, MetAt: now}
	require.NoError(t, lib.PutLessonLog(ctx, g, "", now))
	require.NoError(t, lib.AddLog(ctx, l.klas, "", row))
	require.ErrorIs(t, lib.AddLog(ctx, l.klas, "", row), store.ErrTaken, "a card is logged once for a lesson")
	require.NoError(t, lib.PutLessonLog(ctx, g, "", now), "a second log of a lesson corrects the first")
	require.NoError(t, lib.AddLog(ctx, l.klas, "", row))
	rows, err := lib.Log(ctx, l.klas)
	require.NoError(t, err)
	require.Len(t, rows, 1)
	list, err = lib.Lessons(ctx, "", nil, 10)
	require.NoError(t, err)
	require.NotNil(t, list[0].TaughtAt)
	row.Sureness = 7
	row.LessonID = ""
	require.Error(t, lib.AddLog(ctx, l.klas, "", row), "sureness goes up to 3")
	require.NoError(t, lib.DropLessonLog(ctx, id))
	rows, err = lib.Log(ctx, l.klas)
	require.NoError(t, err)
	assert.Empty(t, rows)
}

func TestWhatAClassIsSaidToKnow(t *testing.T) {
	l := open(t)
	lib := store.For(l.db, l.team)
	require.NoError(t, lib.DeclareCards(ctx, l.klas, []string{l.id}, true, "", now))
	require.NoError(
		t,
		lib.DeclareCards(ctx, l.klas, []string{l.id}, true, "", now.Add(time.Hour)),
		"said twice is said once",
	)
	require.NoError(t, lib.DeclareWords(ctx, l.klas, []string{"the", "to"}, true, "", now))
	require.NoError(t, lib.DeclareWords(ctx, l.klas, []string{"to"}, false, "", now))
	cards, err := lib.KnownCards(ctx, l.klas)
	require.NoError(t, err)
	require.Len(t, cards, 1)
	assert.True(t, now.Equal(cards[0].SaidAt))
	words, err := lib.KnownWords(ctx, l.klas)
	require.NoError(t, err)
	require.Len(t, words, 1)
	assert.Equal(t, "the", words[0].Word)
	class, err := lib.Class(ctx, l.klas)
	require.NoError(t, err)
	assert.Equal(t, 1, class.Taught)
	require.NoError(t, lib.DeclareCards(ctx, l.klas, []string{l.id}, false, "", now))
	cards, err = lib.KnownCards(ctx, l.klas)
	require.NoError(t, err)
	assert.Empty(t, cards)
	other := store.For(l.db, makeTeam(t, l.db, "Two"))
	require.ErrorIs(t, other.DeclareCards(ctx, l.klas, []string{l.id}, true, "", now), store.ErrNotFound)
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
			l.db.Begin(ctx, func(tx pgx.Tx) error { return store.For(tx, l.team).ArchiveCard(ctx, l.id, nil) }),
		)
		select {
		case c := <-mine:
			return c.Kind == "card" && c.ID == l.id
		case <-time.After(100 * time.Millisecond):
			return false
		}
	}, 60*time.Second, time.Millisecond)
	assert.Empty(t, others, "another team hears nothing")
	_, err := l.db.Exec(
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

// Contents that were read before are the caller's own: what one does with them does not show to the next.
func TestContentsAreTheCallersOwn(t *testing.T) {
	raw := []byte(`{"version":1,"keyword":"barge","words":["bat","bun"],"place":{"x":0.5,"y":0.5,"size":0.2}}`)
	first, err := store.ReadContent(raw)
	require.NoError(t, err)
	first.Words[0], first.Place.X = "changed", 9
	_ = append(first.Words[:1], "gone")
	second, err := store.ReadContent(raw)
	require.NoError(t, err)
	assert.Equal(t, []string{"bat", "bun"}, second.Words)
	assert.InDelta(t, 0.5, second.Place.X, 1e-9)
	_, err = store.ReadContent([]byte(`{"version":99}`))
	require.Error(t, err)
}
