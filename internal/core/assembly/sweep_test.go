package assembly_test

import (
	"math/rand/v2"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"brightchalk/internal/core/assembly"
	"brightchalk/internal/core/lesson"
	"brightchalk/test/trial"
)

// Orders of chance: whatever is known, wanted and planned, a lesson comes back that keeps the rules.
func TestWhateverIsAsked(t *testing.T) {
	if testing.Short() {
		t.Skip("a sweep")
	}
	letters := strings.Fields("s a t i p n m d o g r c k e u h b f l j v w y z")
	groups := strings.Fields("sh ch th=θ th=ð ng ck ee oo=uː ai oa or ar er igh ow=aʊ qu=kw x=ks a-e oi air ea=iː ou ay")
	exceptions := strings.Fields("the I to he she was said")
	for seed := range uint64(120) {
		rng := rand.New(rand.NewPCG(seed, 7))
		all := append([]string{}, letters...)
		rng.Shuffle(len(all), func(i, j int) { all[i], all[j] = all[j], all[i] })
		more := append([]string{}, groups...)
		rng.Shuffle(len(more), func(i, j int) { more[i], more[j] = more[j], more[i] })
		all = append(all, more...)
		n := 2 + rng.IntN(len(all)-3)
		purpose := lesson.Purposes()[rng.IntN(5)]
		var targets []string
		switch purpose.Purpose {
		case lesson.Introduce:
			targets = all[n : n+1+rng.IntN(2)]
		case lesson.Compare:
			targets = all[n-2 : n]
		case lesson.Again:
			targets = all[n-1 : n]
		}
		accent := []string{"southern-british", "northern-english", "general-american"}[rng.IntN(3)]
		line := strings.Join([]string{
			string(purpose.Purpose), accent, []string{"5", "10", "20", "30", "45"}[rng.IntN(5)],
			strings.Join(targets, " "), strings.Join(all[:n], " "), strings.Join(exceptions[:rng.IntN(len(exceptions))], " "),
		}, "|")
		in, readable := trial.Plan(t, line)
		in.Seed = seed
		out, err := assembly.Assemble(in)
		require.NoError(t, err, line)
		sum := 0
		for _, s := range out.Steps {
			sum += s.Seconds
			checkStepOf(t, in, out, s, readable, line)
		}
		assert.Equal(t, sum, out.Seconds, line)
		assert.LessOrEqual(t, out.Seconds, in.Minutes*60+30, line)
		for _, d := range out.Dropped {
			assert.NotEmpty(t, d.Text, line)
			assert.NotEmpty(t, d.Code, line)
		}
	}
}
