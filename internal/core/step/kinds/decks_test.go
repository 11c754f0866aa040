package kinds_test

import (
	"fmt"
	"strings"
	"testing"

	"github.com/sebdah/goldie/v2"
	"github.com/stretchr/testify/require"

	"brightchalk/internal/core/assembly"
	"brightchalk/internal/core/lesson"
	"brightchalk/internal/core/step/kinds"
	"brightchalk/test/trial"
)

// The decks of every way to drill, for classes that know little and much, and what is said to them; and how each letter
// is written in its family.
func TestDecksAndLetters(t *testing.T) {
	var out strings.Builder
	say := func(name string, kind lesson.Kind, in assembly.Input) {
		out.WriteString(trial.StepLesson(name, kind, in))
	}
	for _, kind := range []lesson.Kind{lesson.Pack, lesson.WarmUp, lesson.Turnover, lesson.QuickWrite, lesson.HearFind} {
		rec, ok := kinds.Registry.Of(kind)
		require.True(t, ok)
		ways := []string{""}
		for _, w := range rec.Ways {
			ways = append(ways, w.ID)
		}
		for i, way := range ways {
			for _, n := range []int{1, 3, 12, 25} {
				in := trial.Remembered(t, n, lesson.Introduce, way, trial.Order[n])
				in.Seed, in.Minutes = uint64(n+i), 10+n
				in.Targets[0].Picture, in.Targets[0].Rhyme = "x", "A rhyme."
				for k := range in.Class.Met {
					in.Class.Met[k].Card.Picture = map[bool]string{true: "y"}[k%3 != 0]
				}
				in.Routine.Steps = []lesson.RoutineStep{{Kind: kind, Options: lesson.Options{Way: way}}, {Kind: lesson.Listen}}
				say(fmt.Sprintf("%s %q of %d", kind, way, n), kind, in)
			}
		}
	}
	for i, letter := range strings.Fields("a b c d e f g h i j k l m n o p q=k r s t u v w x=ks y z") {
		in := trial.Taught(t, 3*(i%8), lesson.Introduce, letter)
		in.Conventions.Capitals, in.Minutes = i%2 == 0, 12
		in.Routine.Steps = []lesson.RoutineStep{
			{Kind: lesson.Hand, Options: lesson.Options{Way: "family", Times: i % 4}}, {Kind: lesson.Listen},
		}
		say("hand "+letter, lesson.Hand, in)
		in.Routine.Steps[0] = lesson.RoutineStep{Kind: lesson.Capitals}
		say("capital "+letter, lesson.Capitals, in)
	}
	// Words to listen to, also where there are none.
	for i, target := range strings.Fields("m si=ʒ th=ð ng sh ai ph=f ture=tʃə wh") {
		in := trial.Taught(t, 6*(i%4), lesson.Introduce)
		in.Targets, in.Seed = trial.Targets(t, target), uint64(i)
		in.Routine.Steps = []lesson.RoutineStep{{Kind: lesson.Listen, Options: lesson.Options{Way: "words"}}}
		say("listen "+target, lesson.Listen, in)
	}
	goldie.New(t, goldie.WithNameSuffix(".txt")).Assert(t, "decks", []byte(out.String()))
}
