package mouth_test

import (
	"crypto/sha256"
	"fmt"
	"strings"
	"testing"

	"github.com/sebdah/goldie/v2"
	"github.com/stretchr/testify/require"

	"brightchalk/internal/core/mouth"
	"brightchalk/internal/core/phoneme"
)

// What is drawn of every sound: its features and times, and a digest of both views. Where a digest changes, look at the
// sheets that tools/mouths draws.
func TestWhatIsDrawn(t *testing.T) {
	var out strings.Builder
	seen := map[string]bool{}
	for _, a := range phoneme.Accents {
		for _, s := range phoneme.Inventory(a) {
			d, err := mouth.Draw(a, string(s.Phoneme))
			require.NoError(t, err)
			rows, err := mouth.Rows(a, string(s.Phoneme))
			require.NoError(t, err)
			var text strings.Builder
			for _, r := range rows {
				fmt.Fprintf(&text, "  %+v\n", r)
			}
			for _, k := range d.Keys {
				fmt.Fprintf(&text, "  %d ms: still %d within %d, sounds %v\n", k.At, k.Still, k.Move, k.Sound)
			}
			for _, v := range []mouth.View{mouth.Side, mouth.Front} {
				fmt.Fprintf(&text, "  %s %v %.8x\n", v, d.Windows[v], sha256.Sum256([]byte(d.SVG(v))))
			}
			if name := string(s.Phoneme) + text.String(); !seen[name] { // most accents draw it alike
				seen[name] = true
				fmt.Fprintf(&out, "%s in %s, %d ms\n%s", s.Phoneme, a, d.MS, text.String())
			}
		}
	}
	goldie.New(t, goldie.WithNameSuffix(".txt")).Assert(t, "drawn", []byte(out.String()))
}
