package kinds_test

import (
	"fmt"
	"strings"
	"testing"

	"github.com/sebdah/goldie/v2"

	"brightchalk/internal/core/assembly"
	"brightchalk/internal/core/lesson"
	"brightchalk/internal/core/step/kinds"
	"brightchalk/test/trial"
)

// What each sound is heard in, what two are told apart by, and the steps of words and texts in little and much time.
func TestEarsAndWords(t *testing.T) {
	var out strings.Builder
	say := func(name string, kind lesson.Kind, in assembly.Input) {
		out.WriteString(trial.StepLesson(name, kind, in))
	}
	pairs := strings.Fields(
		`m n ng t d p b k ck g f v th=θ th=ð s s=z z zz sh zh=ʒ si=ʒ ch j h l ll r w wh y x=ks qu=kw nk=ŋk
		a e i o u ai ay a-e ee ea=iː igh i-e oa ow=əʊ oo=uː oo=ʊ ou=aʊ oi oy ar or er ur air ear ew=juː tch dge kn`,
	)
	for i, p := range pairs {
		in := trial.Taught(t, 4+i%22, lesson.Introduce)
		in.Seed, in.Minutes = uint64(i), []int{8, 14, 25}[i%3]
		in.Targets = trial.Targets(t, p)
		if len(in.Targets) == 0 {
			continue
		}
		way := []string{"", "sort", "ask", "name"}[i%4]
		in.Routine.Steps = []lesson.RoutineStep{
			{Kind: lesson.Ear, Options: lesson.Options{Way: way}, Weight: float64(1 + i%3)}, {Kind: lesson.Listen},
		}
		say("ear "+p, lesson.Ear, in)
	}
	for i, two := range [][]string{
		{"m", "n"},
		{"s", "sh"},
		{"th=θ", "th=ð"},
		{"oo=uː", "oo=ʊ"},
		{"a", "e"},
		{"ai", "ay"},
		{"t", "d", "p"},
		{"m", "s", "f", "sh"},
		{"ch", "sh"},
		{"ng", "nk=ŋk"},
		{"c", "k"},
		{"x=ks", "qu=kw"},
	} {
		for _, kind := range []lesson.Kind{lesson.Ear, lesson.Contrast, lesson.WordPlay} {
			in := trial.Taught(t, 24, lesson.Introduce)
			in.Seed, in.Minutes, in.Targets = uint64(i), 6+3*i, trial.Targets(t, two...)
			in.Routine.Steps = []lesson.RoutineStep{{Kind: kind, Weight: 2}, {Kind: lesson.Listen}}
			say(fmt.Sprintf("%s %v", kind, two), kind, in)
		}
	}
	for _, r := range kinds.Registry.All() {
		if !r.Words {
			continue
		}
		for i, minutes := range []int{4, 9, 30} {
			in := trial.Everything(t)
			in.Minutes, in.Seed = minutes, uint64(minutes)
			if i == 1 {
				in.Targets = in.Targets[1:]
			}
			way := ""
			if i < len(r.Ways) {
				way = r.Ways[i].ID
			}
			o := lesson.Options{Way: way, Times: i, Words: []string{"Count the boats."}}
			in.Routine.Steps = []lesson.RoutineStep{{Kind: r.Kind, Options: o}, {Kind: lesson.Listen}}
			say(fmt.Sprintf("%s %q in %d", r.Kind, way, minutes), r.Kind, in)
		}
	}
	for i, kind := range []lesson.Kind{
		lesson.Challenge, lesson.Page, lesson.Story, lesson.Free, lesson.Read, lesson.MadeUp,
	} {
		in := trial.Taught(t, 0, lesson.Introduce) // a class that can read nothing yet
		in.Targets, in.Seed = trial.Targets(t, []string{"m", "sh"}[i%2]), uint64(i)
		o := lesson.Options{Words: []string{"A boat lies at the lock."}}
		in.Routine.Steps = []lesson.RoutineStep{{Kind: kind, Options: o}, {Kind: lesson.Listen}}
		say(fmt.Sprintf("%s of nothing", kind), kind, in)
	}
	goldie.New(t, goldie.WithNameSuffix(".txt")).Assert(t, "ears", []byte(out.String()))
}
