package assembly_test

import (
	"fmt"
	"strings"
	"testing"

	"github.com/sebdah/goldie/v2"
	"github.com/stretchr/testify/require"

	"brightchalk/internal/core/assembly"
	"brightchalk/internal/core/lesson"
	"brightchalk/test/trial"
)

// Changes in a row, and the lesson after each of them, to be read.
func TestWhatChangesALesson(t *testing.T) {
	in := trial.Everything(t)
	in.Minutes = 30
	made, err := assembly.Assemble(in)
	require.NoError(t, err)
	tell := telling(&made)
	var out strings.Builder
	before := trial.Written(made)
	fmt.Fprintln(&out, before)
	do := func(name string, err error) {
		now := trial.Written(made) + trial.Inside(made)
		was := map[string]bool{}
		for line := range strings.Lines(before) {
			was[line] = true
		}
		fmt.Fprintf(&out, "== %s: %v\n", name, err)
		for line := range strings.Lines(now) {
			if !was[line] {
				out.WriteString(line)
			}
		}
		before = now
	}
	do("nothing", nil)
	deck := made.Steps[0]
	for _, s := range made.Steps {
		if len(s.Deck) > 4 {
			deck = s
		}
	}
	slot := func(i int) string { return deck.Items[i].Slot }
	do("move within a deck", assembly.Move(tell, slot(3), 0))
	do("move behind the end", assembly.Move(tell, slot(1), 99))
	do("move before the start", assembly.Move(tell, slot(4), -5))
	do("remove from a deck", assembly.Remove(tell, slot(2)))
	do("swap a card", assembly.Swap(tell, slot(0)))
	for _, s := range []string{"read.1", "spell.2", "ear-has.1", "sentence.1", "page.1", "hand.1", "contrast-has.1"} {
		do("swap "+s, assembly.Swap(tell, s))
		do("swap again "+s, assembly.Swap(tell, s))
	}
	put := func(step string, kind lesson.ItemKind, add bool, values ...string) {
		do(fmt.Sprintf("put %v into %s, added %v", values, step, add), assembly.Put(tell, step, kind, values, add, "by you"))
	}
	put("read", lesson.WordItem, false, "shop", "she", "dog")
	put("read", lesson.WordItem, true, "the", "shop", "chin")
	put("sentence", lesson.SentenceItem, true, "The chip is in the dish.")
	put("sentence", lesson.SentenceItem, false, "The dog is in the den.")
	put("page", lesson.PageItem, true, "The chip is hot.\nThe dish is hot.")
	put("ear", lesson.PictureItem, false, "ship", "chair", "dog", "fish")
	put("ear", lesson.PictureItem, true, "sun", "dog")
	put("story", lesson.WordItem, true, "ship")
	put("spell", lesson.WordItem, false, "ship")
	do("remove", assembly.Remove(tell, "read.2"))
	do("speak", assembly.Speak(tell, "read.1", lesson.Together))
	do("retext", assembly.Retext(tell, "read", []string{"Read."}, nil))
	do("swap what is written by hand", assembly.Swap(tell, "read.1"))
	goldie.New(t, goldie.WithNameSuffix(".txt")).Assert(t, "changes", []byte(out.String()))
}

// What is locked beyond the plan takes its own seconds, and what stands first already stays there.
func TestWhatIsLockedTakesItsTime(t *testing.T) {
	in := trial.Taught(t, 24, lesson.Introduce, "sh")
	in.Routine.Steps = []lesson.RoutineStep{{Kind: lesson.Read}}
	var plain lesson.Lesson
	var read lesson.Step
	for in.Minutes = 4; read.Seconds == 25*len(read.Items); in.Minutes++ { // with a little time that no word fills
		var err error
		plain, err = assembly.Assemble(in)
		require.NoError(t, err)
		read = findStep(plain, lesson.Read)
	}
	in.Minutes--
	in.Locked = map[string][]lesson.Item{"read": {}}
	for i := range len(read.Items) + 6 {
		o := lesson.Option{Value: fmt.Sprintf("word%d", i), Role: lesson.TargetRole}
		in.Locked["read"] = append(
			in.Locked["read"],
			lesson.Item{Slot: fmt.Sprintf("read.%d", i+1), Kind: lesson.WordItem, Option: o},
		)
	}
	more, err := assembly.Assemble(in)
	require.NoError(t, err)
	got := findStep(more, lesson.Read)
	require.Len(t, got.Items, len(read.Items)+6)
	require.Equal(t, 25*len(got.Items), got.Seconds)
	in.Locked["read"] = in.Locked["read"][:len(read.Items)]
	same, err := assembly.Assemble(in)
	require.NoError(t, err)
	require.Equal(t, read.Seconds, findStep(same, lesson.Read).Seconds, "no more than planned: the plan's seconds")

	tell := telling(&plain)
	values := func() (out []string) {
		for _, it := range findStep(plain, lesson.Read).Items {
			out = append(out, it.Value)
		}
		return out
	}
	before := values()
	for range 2 { // the second time it is locked
		require.NoError(t, assembly.Put(tell, "read", lesson.WordItem, before[:1], false, "by you"))
		require.Equal(t, before, values())
	}
}
