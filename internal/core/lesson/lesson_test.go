package lesson_test

import (
	"encoding/json"
	"fmt"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"brightchalk/internal/core/lesson"
	"brightchalk/internal/core/spelling"
)

// Introductions that were kept before lessons had purposes still open: of version 1 (baskets by a choice's detail)
// and of version 2.
func TestWhatWasKeptBeforeStillOpens(t *testing.T) {
	first := `{"card_id":"b","minutes":20,"seconds":60,"pair":{"grapheme":"b","sound":"b"},"keyword":"barrel",
		"dropped":["Page: none"],"notes":["A note."],"cards":{"b":{"id":"b","pair":{"grapheme":"b","sound":"b"}}},
		"writing":{"text":"b"},"steps":[
		{"kind":"ear","name":"Ear","choices":[
			{"slot":"ear.1","kind":"picture","value":"bed","detail":"yes","because":"has it",
				"next":[{"value":"bag","detail":"yes","because":"has it too"}]},
			{"slot":"ear.2","kind":"picture","value":"sun","detail":"no"},
			{"slot":"ear-quarter.1","kind":"picture","value":"bell","detail":"first"},
			{"slot":"ear-quarter.2","kind":"picture","value":"web","detail":"last"}]},
		{"kind":"read","choices":[{"slot":"read.1","kind":"word","value":"bat","detail":"3 sounds","because":"known"}]},
		{"kind":"listen","adult":["Say it."]}]}`
	l, err := lesson.Documents.Read([]byte(first))
	require.NoError(t, err)
	assert.Equal(t, lesson.Introduce, l.Purpose)
	assert.Equal(t, []string{"b"}, l.Targets)
	assert.Equal(t, "b", l.Target().Writing.Text, "the writing stands on its card")
	assert.Equal(t, []lesson.Reason{{Text: "A note."}}, l.Notes)
	assert.Equal(t, "Page: none", l.Dropped[0].Text)
	var baskets []lesson.Basket
	for _, it := range l.Steps[0].Items {
		baskets = append(baskets, it.Basket)
		assert.Empty(t, it.Detail)
	}
	assert.Equal(t, []lesson.Basket{lesson.Has, lesson.HasNot, lesson.First, lesson.Last}, baskets)
	assert.Equal(t, lesson.Has, l.Steps[0].Items[0].Next[0].Basket)
	assert.Equal(t, "has it too", l.Steps[0].Items[0].Next[0].Because.Text)
	assert.Equal(t, "ear", l.Steps[0].ID)
	word := l.Steps[1].Items[0]
	assert.Equal(t, lesson.TargetRole, word.Role)
	assert.Equal(t, "known", word.Because.Text)
	assert.Equal(t, "3 sounds", word.Detail)
	assert.NotNil(t, l.Steps[2].Items, "a step without choices has none")

	second := `{"version":2,"card_id":"b","agreed":true,"taught":[{"grapheme":"a","sound":"æ"}],"known":["the"],"rings":[],
		"cards":{"b":{"id":"b","pair":{"grapheme":"b","sound":"b"}}},"steps":[{"kind":"ear","choices":[
			{"slot":"ear-yes.1","kind":"picture","value":"bed","basket":"has"}]}]}`
	l, err = lesson.Documents.Read([]byte(second))
	require.NoError(t, err)
	assert.True(t, l.Target().Agreed)
	assert.Equal(t, spelling.Set{{Grapheme: "a", Sound: "æ"}: true}, l.Set())
	assert.Equal(t, map[string]bool{"the": true}, l.KnownSet())

	data, err := lesson.Documents.Write(l)
	require.NoError(t, err)
	var stored struct{ Version int }
	require.NoError(t, json.Unmarshal(data, &stored))
	assert.Equal(t, 3, stored.Version)
	again, err := lesson.Documents.Read(data)
	require.NoError(t, err)
	assert.Equal(t, l, again)
}

func TestRoutines(t *testing.T) {
	for _, p := range lesson.Purposes() {
		r := lesson.DefaultRoutine(p.Purpose)
		assert.NotEmpty(t, r.Steps, p.Name)
		r.Steps[0].Name = "changed"
		assert.Empty(t, lesson.DefaultRoutine(p.Purpose).Steps[0].Name, "a copy each time")
		assert.LessOrEqual(t, p.MinTargets, p.MaxTargets)
		assert.NotEmpty(t, p.About)
	}
	_, ok := lesson.FindPurpose("party")
	assert.False(t, ok)
	twice := lesson.Routine{Steps: []lesson.RoutineStep{{Kind: "read"}, {Kind: "spell"}, {Kind: "read"}, {Kind: "read"}}}
	assert.Equal(t, []string{"read", "spell", "read-2", "read-3"}, twice.StepIDs())
	assert.InDelta(t, 1.0/3, lesson.Options{}.OlderShare(), 1e-9)
	none := 0.0
	assert.Zero(t, lesson.Options{Older: &none}.OlderShare())
	assert.InDelta(t, 1, lesson.RoutineStep{}.WeightOr1(), 1e-9)
	old, err := lesson.RoutineDocuments.Read([]byte(`{"version":1,"name":"x","steps":[{"kind":"read","weight":2}]}`))
	require.NoError(t, err)
	assert.InDelta(t, 2, old.Steps[0].WeightOr1(), 1e-9)
}

func ExampleLesson_Title() {
	l := lesson.Lesson{Targets: []string{"1", "2", "3"}, Cards: map[string]lesson.CardFace{
		"1": {Pair: spelling.Pair{Grapheme: "th", Sound: "θ"}}, "2": {Pair: spelling.Pair{Grapheme: "th", Sound: "ð"}},
		"3": {Pair: spelling.Pair{Grapheme: "sh", Sound: "ʃ"}},
	}}
	fmt.Println(l.Title())
	// Output: th · sh
}

// A stored lesson or routine of any kind is refused or read, never a crash.
func FuzzDocuments(f *testing.F) {
	f.Add(
		[]byte(`{"version":1,"steps":[{"id":"s1","kind":"blend","chosen":[{"kind":"word","value":"bat"}]}],"card_id":"x"}`),
	)
	f.Add([]byte(`{"version":2,"steps":null,"purpose":7}`))
	f.Add([]byte(`{"steps":[1,null,{"kind":{}}]}`))
	f.Fuzz(func(_ *testing.T, data []byte) {
		if l, err := lesson.Documents.Read(data); err == nil {
			_, _ = lesson.Documents.Write(l)
			l.Faces()
		}
		_, _ = lesson.RoutineDocuments.Read(data)
	})
}
