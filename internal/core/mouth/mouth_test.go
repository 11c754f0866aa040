package mouth_test

import (
	"encoding/json"
	"math"
	"regexp"
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"brightchalk/internal/core/mouth"
	"brightchalk/internal/core/phoneme"
)

func rowsOf(t *testing.T, a phoneme.Accent, sound string) []mouth.Row {
	t.Helper()
	r, err := mouth.Rows(a, sound)
	require.NoError(t, err, "%s in %s", sound, a)
	return r
}

// Every sound of every accent is drawn; phases stand once and in order.
func TestEverySoundOfEveryAccentIsDrawn(t *testing.T) {
	for _, a := range phoneme.Accents {
		for _, s := range phoneme.Inventory(a) {
			d, err := mouth.Draw(a, string(s.Phoneme))
			require.NoError(t, err, "%s in %s", s.Phoneme, a)
			r := rowsOf(t, a, string(s.Phoneme))
			phases := []string{}
			for _, x := range r {
				phases = append(phases, x.Phase)
			}
			want := [][]string{{"hold"}, {"closure", "release"}, {"closure", "friction"}, {"start", "end"}}
			assert.True(
				t,
				slices.ContainsFunc(want, func(w []string) bool { return slices.Equal(w, phases) }),
				"%s: %v",
				s.Phoneme,
				phases,
			)
			assert.Len(t, d.Stills, len(r)+2)
			for i, still := range d.Stills { // each part has as many points in every still, or it could not move
				assert.Equal(t, len(d.Stills[0].Side), len(still.Side))
				for k := range still.Side {
					assert.Len(
						t,
						still.Side[k].Points,
						len(d.Stills[0].Side[k].Points),
						"%s, still %d, %s",
						s.Phoneme,
						i,
						still.Side[k].Part,
					)
				}
				for k := range still.Front {
					assert.Len(t, still.Front[k].Points, len(d.Stills[0].Front[k].Points), still.Front[k].Part)
				}
			}
			for i := 1; i < len(d.Keys); i++ {
				assert.GreaterOrEqual(
					t,
					d.Keys[i].At-d.Keys[i].Move,
					d.Keys[i-1].At,
					"%s: a movement begins after the still before",
					s.Phoneme,
				)
			}
		}
	}
	for _, s := range []string{"kw", "ks"} {
		assert.Len(t, rowsOf(t, phoneme.SouthernBritish, s), 3)
	}
	both, err := mouth.Draw(phoneme.SouthernBritish, "juː")
	require.NoError(t, err, "several sounds are drawn one after the other")
	assert.Len(t, both.Stills, 4)
	_, err = mouth.Draw(phoneme.SouthernBritish, "q!")
	require.Error(t, err)
}

// Voicing, place and manner of the table against the inventory, which is held against the chart of the International
// Phonetic Association (revised to 2020).
func TestTheTableIsThatOfTheChart(t *testing.T) {
	for _, a := range phoneme.Accents {
		for _, s := range phoneme.Inventory(a) {
			r := rowsOf(t, a, string(s.Phoneme))
			for _, x := range r {
				assert.Equal(t, s.Voiced, x.Voice, "%s: voice", s.Phoneme)
				assert.Equal(t, s.Manner == phoneme.Nasal, x.Velum == "down", "%s: a nasal alone has the velum down", s.Phoneme)
				assert.Equal(t, s.Manner == phoneme.Lateral, x.Sides == "one-side-open", "%s: sides", s.Phoneme)
			}
			switch s.Manner {
			case phoneme.Stop:
				assert.Equal(t, "stopped", r[0].Air, s.Phoneme)
				assert.Equal(t, "burst", r[len(r)-1].Air, s.Phoneme)
			case phoneme.Fricative:
				assert.Equal(t, "friction", r[0].Air, s.Phoneme)
			case phoneme.Affricate:
				assert.Equal(t, []string{"stopped", "friction"}, []string{r[0].Air, r[1].Air}, s.Phoneme)
			case phoneme.Nasal:
				assert.Equal(t, "nose", r[0].Air, s.Phoneme)
			}
			place := map[string]func(mouth.Row) bool{
				"both lips":               func(x mouth.Row) bool { return x.Lips == "closed" },
				"teeth on the lip":        func(x mouth.Row) bool { return x.Lips == "lower-lip-to-teeth" },
				"tongue tip on the ridge": func(x mouth.Row) bool { return x.Tip == "ridge" },
				"tongue tip at the teeth": func(x mouth.Row) bool { return x.Tip == "between-teeth" },
				"tongue behind the ridge": func(x mouth.Row) bool { return x.Tip == "behind-ridge" },
				"back of the tongue":      func(x mouth.Row) bool { return x.BodyX > .75 && x.BodyY >= .88 },
			}
			if here, known := place[s.Place]; known {
				assert.True(t, here(r[0]), "%s: %s", s.Phoneme, s.Place)
			}
			if s.Contrast != "" { // partners differ in the voice alone
				for i, x := range rowsOf(t, a, string(s.Contrast)) {
					y := r[i]
					x.Sound, x.Voice, x.Felt, x.Slip, x.Contrast = y.Sound, y.Voice, y.Felt, y.Slip, y.Contrast
					one, _ := json.Marshal(x)
					other, _ := json.Marshal(y)
					assert.JSONEq(t, string(other), string(one), "%s and %s", s.Phoneme, s.Contrast)
				}
			}
		}
	}
}

func part(s []mouth.Shape, name string) []mouth.Point {
	i := slices.IndexFunc(s, func(x mouth.Shape) bool { return x.Part == name })
	return s[i].Points
}

// No tongue goes through palate or teeth or the wall; what closes is closed, what rubs has a gap.
func TestContactsAreContacts(t *testing.T) {
	for _, a := range phoneme.Accents {
		for _, s := range phoneme.Inventory(a) {
			d, err := mouth.Draw(a, string(s.Phoneme))
			require.NoError(t, err)
			for _, still := range d.Stills {
				roof := append(slices.Clone(part(still.Side, "palate")), part(still.Side, "velum")...)
				least := math.Inf(1)
				for _, p := range part(still.Side, "tongue") {
					assert.LessOrEqual(t, p.X, 1.481, "%s: the wall", s.Phoneme)
					for i := 1; i < len(roof); i++ {
						if u, v := roof[i-1], roof[i]; p.X >= u.X && p.X < v.X {
							gap := p.Y - (u.Y + (v.Y-u.Y)*(p.X-u.X)/(v.X-u.X))
							assert.GreaterOrEqual(t, gap, -1e-6, "%s %s: through the roof at %.2f", s.Phoneme, still.Phase, p.X)
							least = min(least, gap)
						}
					}
				}
				touch := still.TipContact == "touch" || still.BodyContact == "touch-soft-palate"
				if touch {
					assert.Less(t, least, .012, "%s %s: a closure without a gap", s.Phoneme, still.Phase)
				} else {
					assert.Greater(t, least, .012, "%s %s: it does not touch", s.Phoneme, still.Phase)
				}
				up, down := part(still.Side, "upper-lip"), part(still.Side, "lower-lip")
				near := math.Inf(1)
				for _, p := range up {
					for _, q := range down {
						near = min(near, math.Hypot(p.X-q.X, p.Y-q.Y))
					}
				}
				assert.Equal(t, still.Lips == "closed", near < .005, "%s %s: lips %.3f apart", s.Phoneme, still.Phase, near)
			}
		}
	}
}

// No two sounds of an accent look alike in the side view with its marks, but those that are alike on purpose.
func TestNoTwoSoundsLookAlike(t *testing.T) {
	alike := map[string]bool{"əɜː": true, "ɜːə": true, "ərɜːr": true, "ɜːrər": true}
	for _, a := range phoneme.Accents {
		seen := map[string]string{}
		for _, s := range phoneme.Inventory(a) {
			d, err := mouth.Draw(a, string(s.Phoneme))
			require.NoError(t, err)
			look := ""
			for _, still := range d.Stills[1 : len(d.Stills)-1] {
				look += still.SVG(mouth.Side)
			}
			look = titles.ReplaceAllString(look, "")
			if other, twice := seen[look]; twice && !alike[other+string(s.Phoneme)] {
				assert.Fail(t, "alike", "%s and %s in %s", other, s.Phoneme, a)
			}
			seen[look] = string(s.Phoneme)
		}
	}
}

var titles = regexp.MustCompile(`<title>.*?</title>`)
