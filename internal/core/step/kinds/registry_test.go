package kinds_test

import (
	"fmt"
	"math"
	"slices"
	"strings"
	"testing"

	"github.com/sebdah/goldie/v2"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"brightchalk/internal/core/lesson"
	"brightchalk/internal/core/step"
	"brightchalk/internal/core/step/kinds"
)

// All kinds of steps as the screens read them, to be read.
func TestTheRegistryInWhole(t *testing.T) {
	var out strings.Builder
	for _, r := range kinds.Registry.All() {
		require.NotNil(t, r.Needs, r.Kind)
		require.NotNil(t, r.Takes, r.Kind)
		require.NotNil(t, r.Offers, r.Kind)
		fmt.Fprintf(
			&out,
			"%s (%s) %s: %s\n  %d to %d s, usually %d, %d for an item; rank %d\n",
			r.Kind,
			r.Name,
			r.Family,
			r.About,
			r.MinSeconds,
			r.MaxSeconds,
			r.UsualSeconds,
			r.ItemSeconds,
			r.Rank,
		)
		fmt.Fprintf(&out, "  shows %s, needs %v, takes %v, offers %v\n", r.Shows, r.Needs, r.Takes, r.Offers)
		for _, w := range r.Ways {
			fmt.Fprintf(&out, "  %s: %s\n", w.ID, w.Name)
		}
	}
	goldie.New(t, goldie.WithNameSuffix(".txt")).Assert(t, "registry", []byte(out.String()))
}

func TestWhatARoutineMayAsk(t *testing.T) {
	share := func(v float64) *float64 { return &v }
	routine := func(change func(s *lesson.RoutineStep)) lesson.Routine {
		s := lesson.RoutineStep{Kind: lesson.Read}
		change(&s)
		return lesson.Routine{Steps: []lesson.RoutineStep{s}}
	}
	for name, c := range map[string]struct {
		routine lesson.Routine
		fits    bool
	}{
		"none":         {lesson.Routine{}, false},
		"thirty":       {lesson.Routine{Steps: slices.Repeat(routine(func(*lesson.RoutineStep) {}).Steps, 30)}, true},
		"thirty-one":   {lesson.Routine{Steps: slices.Repeat(routine(func(*lesson.RoutineStep) {}).Steps, 31)}, false},
		"no weight":    {routine(func(s *lesson.RoutineStep) { s.Weight = 0 }), true},
		"a quarter":    {routine(func(s *lesson.RoutineStep) { s.Weight = 0.25 }), true},
		"less":         {routine(func(s *lesson.RoutineStep) { s.Weight = 0.24 }), false},
		"four times":   {routine(func(s *lesson.RoutineStep) { s.Weight = 4 }), true},
		"more":         {routine(func(s *lesson.RoutineStep) { s.Weight = 4.01 }), false},
		"no older":     {routine(func(s *lesson.RoutineStep) { s.Options.Older = share(0) }), true},
		"all older":    {routine(func(s *lesson.RoutineStep) { s.Options.Older = share(1) }), true},
		"less than 0":  {routine(func(s *lesson.RoutineStep) { s.Options.Older = share(-0.01) }), false},
		"more than 1":  {routine(func(s *lesson.RoutineStep) { s.Options.Older = share(1.01) }), false},
		"no number":    {routine(func(s *lesson.RoutineStep) { s.Options.Older = share(math.NaN()) }), false},
		"a way":        {routine(func(s *lesson.RoutineStep) { s.Options.Way = "words" }), true},
		"another":      {routine(func(s *lesson.RoutineStep) { s.Options.Way = "backwards" }), false},
		"of another":   {routine(func(s *lesson.RoutineStep) { s.Options.Way = "family" }), false},
		"unknown kind": {routine(func(s *lesson.RoutineStep) { s.Kind = "juggle" }), false},
	} {
		if err := kinds.Registry.CheckRoutine(c.routine); c.fits {
			assert.NoError(t, err, name)
		} else {
			assert.ErrorIs(t, err, step.ErrRoutine, name)
		}
	}
}

func TestSecondsAndSlots(t *testing.T) {
	three := []lesson.Item{{Slot: "read.1"}, {Slot: "read.7"}, {Slot: "read.x"}}
	assert.Equal(t, 75, kinds.Registry.SecondsFor(lesson.Step{Kind: lesson.Read, Items: three, Seconds: 5}))
	assert.Equal(t, 5, kinds.Registry.SecondsFor(lesson.Step{Kind: lesson.Read, Seconds: 5}), "without items")
	assert.Equal(t, 5, kinds.Registry.SecondsFor(lesson.Step{Kind: lesson.Listen, Items: three, Seconds: 5}),
		"not by items")
	assert.Greater(t, kinds.Registry.SecondsFor(lesson.Step{Kind: lesson.Read, Items: three, Times: 4}), 75)
	assert.Equal(t, "read.8", step.FreeSlot(lesson.Step{ID: "read", Items: three}, ""))
	assert.Equal(t, "read-has.1", step.FreeSlot(lesson.Step{ID: "read", Items: three}, lesson.Has))
	assert.True(t, kinds.Registry.Takes(lesson.Ear, lesson.PictureItem))
	assert.False(t, kinds.Registry.Takes("juggle", lesson.PictureItem))
}
