package lesson_test

import (
	"encoding/json"
	"fmt"
	"math/rand/v2"
	"slices"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"brightchalk/internal/core/card"
	"brightchalk/internal/core/lesson"
	"brightchalk/internal/core/phoneme"
	"brightchalk/internal/core/review"
	"brightchalk/internal/core/spelling"
	"brightchalk/internal/core/texts"
)

var south = texts.Options{Accent: phoneme.SouthernBritish}

var order = strings.Fields("t a m s i n p o d h c e g r b u l f k ck")

// input is a lesson on the pair that follows n taught ones.
func input(t testing.TB, n int) lesson.Input {
	t.Helper()
	in := lesson.Input{
		Conventions: card.Conventions{Accent: phoneme.SouthernBritish},
		Routine:     lesson.DefaultRoutine(),
		Minutes:     20,
		Seed:        7,
		Now:         time.Date(2026, 11, 25, 9, 0, 0, 0, time.UTC),
	}
	for i, g := range order[:n+1] {
		p, err := spelling.ParsePair(phoneme.SouthernBritish, g)
		require.NoError(t, err)
		c := card.Card{
			ID:      g,
			Step:    i + 1,
			Pair:    p,
			State:   card.Agreed,
			Version: 1,
			HasTake: true,
			Content: card.Content{
				Keyword:    "thing",
				Picture:    "x",
				Rhyme:      "A rhyme of " + g,
				RhymeShort: "Rhyme " + g,
				Action:     "Tap.",
				MouthCue:   "Cue.",
			},
		}
		if i == n {
			c.Sentences = []string{"A man has a hat.", "Dad sat."}
			in.Target = c
			break
		}
		in.Taught = append(in.Taught, c)
		in.Log = append(
			in.Log,
			review.Seen{CardID: g, Last: in.Now.AddDate(0, 0, i-n), Sure: review.Sureness(i % 4), Times: 2},
		)
	}
	return in
}

func assemble(t testing.TB, in lesson.Input) lesson.Introduction {
	t.Helper()
	out, err := lesson.Assemble(in)
	require.NoError(t, err)
	return out
}

func step(t testing.TB, in lesson.Introduction, k lesson.Kind) lesson.Step {
	t.Helper()
	for _, s := range in.Steps {
		if s.Kind == k {
			return s
		}
	}
	require.Fail(t, "no step", "%s; left out: %v", k, in.Dropped)
	return lesson.Step{}
}

func TestEveryChoiceHasAReasonAndIsTaught(t *testing.T) {
	for n := 5; n < len(order); n++ {
		in := input(t, n)
		out := assemble(t, in)
		taught := spelling.Set{in.Target.Pair: true}
		for _, c := range in.Taught {
			taught[c.Pair] = true
		}
		taught = taught.WithDoubles(phoneme.SouthernBritish)
		used := map[string]bool{}
		for _, s := range out.Steps {
			assert.NotEmpty(t, s.Adult, "%s says nothing", s.Name)
			for _, c := range s.Choices {
				assert.NotEmpty(t, c.Because, "%s %s", s.Name, c.Value)
				if c.Kind == "word" {
					assert.False(t, used[c.Value], "%s stands twice", c.Value)
					used[c.Value] = true
					r := texts.Check(c.Value, taught, nil, texts.Options{Accent: phoneme.SouthernBritish})
					assert.Equal(t, texts.Decodable, r.Tokens[0].Status, "%s after %s", c.Value, order[n])
				}
			}
		}
	}
}

func TestItFitsTheTime(t *testing.T) {
	for minutes := lesson.LeastMinutes; minutes <= lesson.MostMinutes; minutes++ {
		in := input(t, 14)
		in.Minutes = minutes
		out := assemble(t, in)
		assert.InDelta(t, minutes*60, out.Seconds, 15, "%d minutes; left out %v", minutes, out.Dropped)
	}
	for _, minutes := range []int{9, 41, 0, -5} {
		in := input(t, 9)
		in.Minutes = minutes
		_, err := lesson.Assemble(in)
		require.ErrorIs(t, err, lesson.ErrMinutes)
	}
}

func TestSameSeedSameLesson(t *testing.T) {
	first, err := json.Marshal(assemble(t, input(t, 14)))
	require.NoError(t, err)
	second, _ := json.Marshal(assemble(t, input(t, 14)))
	assert.Equal(t, string(first), string(second))
}

// Two classes hear the same script, rhyme and action; only what depends on what they were taught differs.
func TestTwoClassesHearTheSameScript(t *testing.T) {
	one, two := input(t, 14), input(t, 14)
	two.Taught, two.Log, two.Seed = two.Taught[:9], two.Log[:9], 99
	a, b := assemble(t, one), assemble(t, two)
	for _, k := range []lesson.Kind{lesson.Listen, lesson.Mouth, lesson.Picture, lesson.Letter, lesson.ClosePart} {
		assert.Equal(t, step(t, a, k).Adult, step(t, b, k).Adult, "%s", k)
		assert.Equal(t, step(t, a, k).Class, step(t, b, k).Class, "%s", k)
	}
	assert.NotEqual(t, step(t, a, lesson.Read).Choices, step(t, b, lesson.Read).Choices)
}

func TestLockedChoicesStay(t *testing.T) {
	in := input(t, 14)
	before := assemble(t, in)
	slot := step(t, before, lesson.Read).Choices[1]
	other := slot.Next[len(slot.Next)-1].Value
	in.Locked, in.Minutes = map[string]string{slot.Slot: other}, 30
	after := assemble(t, in)
	for _, c := range step(t, after, lesson.Read).Choices {
		if c.Slot == slot.Slot {
			assert.Equal(t, other, c.Value)
			assert.True(t, c.Locked)
		}
	}
	count := 0
	for _, s := range after.Steps {
		for _, c := range s.Choices {
			if c.Kind == "word" && c.Value == other {
				count++
			}
		}
	}
	assert.Equal(t, 1, count, "a locked word stands nowhere else")
}

func TestSwap(t *testing.T) {
	in := assemble(t, input(t, 14))
	c := step(t, in, lesson.Spell).Choices[0]
	require.NoError(t, lesson.Swap(&in, c.Slot, south))
	now := step(t, in, lesson.Spell).Choices[0]
	assert.NotEqual(t, c.Value, now.Value)
	assert.True(t, now.Swapped)
	assert.False(t, c.Swapped)
	assert.Equal(t, c.Value, now.Next[len(now.Next)-1].Value, "the former choice can come back")
	assert.NotEmpty(t, in.WordBits[now.Value])
	require.ErrorIs(t, lesson.Swap(&in, "spell.99", south), lesson.ErrNoSlot)
	pictures := step(t, in, lesson.Ear).Choices
	require.NoError(t, lesson.Swap(&in, pictures[0].Slot, south))
	assert.Equal(t, lesson.Has, step(t, in, lesson.Ear).Choices[0].Basket, "a picture is swapped within its basket")
}

func TestNothingTaught(t *testing.T) {
	in := input(t, 0)
	out := assemble(t, in)
	assert.Contains(t, strings.Join(out.Notes, " "), "Nothing has been logged as taught")
	assert.Contains(t, strings.Join(out.Dropped, " "), "taught nothing to put with this sound")
	assert.NotEmpty(t, out.Steps)
}

func TestRoutineIsChecked(t *testing.T) {
	for name, steps := range map[string][]lesson.RoutineStep{
		"empty": {}, "unknown": {{Kind: "juggling"}},
		"twice": {{Kind: lesson.Read}, {Kind: lesson.Read}}, "heavy": {{Kind: lesson.Read, Weight: 9}},
	} {
		in := input(t, 9)
		in.Routine.Steps = steps
		_, err := lesson.Assemble(in)
		require.ErrorIs(t, err, lesson.ErrRoutine, name)
	}
	in := input(t, 14)
	in.Routine.Steps = []lesson.RoutineStep{{Kind: lesson.Spell, Name: "Ticks"}, {Kind: lesson.Listen}}
	out := assemble(t, in)
	assert.Equal(t, "Ticks", out.Steps[0].Name)
	assert.Contains(t, strings.Join(out.Notes, " "), "left over")
}

func TestNoFirstOrLastGameForH(t *testing.T) {
	out := assemble(t, input(t, slices.Index(order, "h")))
	assert.Contains(t, strings.Join(step(t, out, lesson.Ear).Adult, " "), "does not end words with this sound")
}

func TestSentenceNeedsWhatIsTaught(t *testing.T) {
	in := input(t, 9)
	in.Target.Sentences = []string{"A ship is big."}
	assert.Contains(t, strings.Join(assemble(t, in).Notes, " "), "“ship” needs sh=ʃ")
}

func TestDeckIsFair(t *testing.T) {
	for seed := range uint64(300) {
		shows := 8 + int(seed%17)
		deck := lesson.Deck(shows, rand.New(rand.NewPCG(seed, 1)).IntN)
		count, run, last := map[string]int{}, 0, ""
		for _, side := range deck {
			count[side]++
			if side == last {
				run++
			} else {
				last, run = side, 1
			}
			require.LessOrEqual(t, run, 3, "seed %d: %v", seed, deck)
		}
		require.Equal(t, count["letter"], count["picture"], "seed %d", seed)
	}
}

func TestMixInHidesTheNewCard(t *testing.T) {
	deck := step(t, assemble(t, input(t, 14)), lesson.MixIn).Deck
	half := len(deck) / 2
	for i, s := range deck {
		assert.Equal(t, map[bool]string{true: "picture", false: "letter"}[i < half], s.Side)
	}
	assert.NotEqual(t, order[14], deck[0].CardID)
	assert.NotEqual(t, order[14], deck[half].CardID)
}

func ExampleAssemble() {
	in := lesson.Input{
		Conventions: card.Conventions{
			Accent: phoneme.SouthernBritish,
		},
		Routine: lesson.Routine{Steps: []lesson.RoutineStep{{Kind: lesson.Mouth}}},
		Minutes: 10,
		Target:  card.Card{ID: "m", Pair: spelling.Pair{Grapheme: "m", Sound: "m"}},
	}
	out, _ := lesson.Assemble(in)
	fmt.Println(out.Steps[0].Adult[0])
	// Output: Lips together. Hum through the nose.
}

func BenchmarkAssemble(b *testing.B) {
	in := input(b, 19)
	assemble(b, in)
	var times []time.Duration
	for b.Loop() {
		begin := time.Now()
		assemble(b, in)
		times = append(times, time.Since(begin))
	}
	slices.Sort(times)
	b.ReportMetric(float64(times[len(times)*99/100].Microseconds())/1000, "p99-ms")
}
