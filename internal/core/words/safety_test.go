package words_test

import (
	_ "embed"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"brightchalk/internal/core/lexicon"
	"brightchalk/internal/core/phoneme"
	"brightchalk/internal/core/spelling"
	"brightchalk/internal/core/unfit"
	"brightchalk/internal/core/words"
)

// Every word that is offered unasked, read through by eye; the file has the date.
//
//go:embed testdata/reviewed.txt
var reviewedText string

// longOrder is an order of single letters, groups and split spellings that ends with most of what English has.
const longOrder = "s,a,t,i,p,n,m,d,g,o,c,k,ck,e,u,r,h,b,f,ff,l,ll,ss,s=z,j,v,w,x,y=j,z,zz,qu,ch,sh,th=θ,th=ð,ng," +
	"n=ŋ,ai,ee,igh,oa,oo=uː,oo=ʊ,ar,or,ur,ow=aʊ,oi,er=ə,ear=ɪə,air,ure=jʊə,ay,ou=aʊ,ie=aɪ,ea=iː,oy," +
	"ir,ue=uː,aw,wh=w,ph,ew=uː,ew=juː,oe,au,a-e,e-e,i-e,o-e,u-e=juː,u-e=uː,y=iː,y=aɪ,ow=əʊ,tch,dge," +
	"kn,wr,le=əl,ea=e,are=eə,ed=t,ed=d,ed=ɪd,c=s,g=dʒ,se=s,ve,mb"

func stepsOf(t *testing.T, a phoneme.Accent) []spelling.Set {
	t.Helper()
	var out []spelling.Set
	taught := spelling.Set{}
	for text := range strings.SplitSeq(longOrder, ",") {
		p, err := spelling.ParsePair(a, text)
		require.NoError(t, err, text)
		taught[p] = true
		now := spelling.Set{}
		for q := range taught {
			now[q] = true
		}
		out = append(out, now)
	}
	return out
}

// All words at every step and in every accent: none refused, none rare, none of the other side of the ocean, each one
// read through by eye.
func TestEveryOfferedWordIsFit(t *testing.T) {
	if testing.Short() {
		t.Skip("a sweep")
	}
	reviewed := map[string]bool{}
	for line := range strings.Lines(reviewedText) {
		if !strings.HasPrefix(line, "#") {
			for w := range strings.FieldsSeq(line) {
				reviewed[w] = true
			}
		}
	}
	for _, a := range phoneme.Accents {
		o := words.Options{Accent: a}
		all := 0
		for _, taught := range stepsOf(t, a) {
			for _, c := range words.Find(words.Query{Taught: taught}, o) {
				all++
				require.True(t, reviewed[c.Word], "%s has not been read by anybody", c.Word)
				require.GreaterOrEqual(t, c.Familiarity, 2, "%s is rare", c.Word)
			}
		}
		t.Logf("%s: %d words over all steps", a, all)
	}
	for w := range reviewed {
		theme, refused := unfit.Of(w)
		assert.False(t, refused, "%s was read, and is %s", w, theme)
	}
}

// Made-up words at every step: up to 20,000 in each frame, as many as there are.
func TestNoMadeUpWordIsNearAnUnfitOne(t *testing.T) {
	if testing.Short() {
		t.Skip("a sweep")
	}
	all := map[string]bool{}
	for _, a := range phoneme.Accents {
		o := words.Options{Accent: a}
		steps := stepsOf(t, a)
		for i, taught := range steps {
			if i < 5 || a != phoneme.SouthernBritish && i%12 != 0 && i != len(steps)-1 {
				continue
			}
			target := newest(steps, i)
			for _, frame := range []string{"CVC", "CCVC", "CVCC", "VC", "CV"} {
				made, err := words.MakeUp(
					words.MadeUpQuery{Taught: taught, Target: target, Frame: frame, Count: 20_000},
					o,
					chance(uint64(i)),
				)
				require.NoError(t, err)
				for _, m := range made {
					all[m.Word] = true
					_, refused := unfit.Of(m.Word)
					require.False(t, refused, m.Word)
					require.False(t, lexicon.IsWord(m.Word), m.Word)
					require.False(t, unfit.LooksLike(m.Word), m.Word)
					for _, b := range phoneme.Accents {
						read, err := lexicon.Segment(m.Word, b, o.Units)
						require.NoError(t, err)
						known := lexicon.For(b, o.Units).Heard(read.Phonemes) >= 2
						require.False(t, unfit.SoundsLike(read.Phonemes, b), "%s sounds unfit in %s", m.Word, b)
						require.False(t, known, "%s sounds like a known word in %s", m.Word, b)
					}
					require.NotContains(t, m.Word, "cw")
					require.NotContains(t, m.Word, "ngk")
					for k, s := range o.Sounds(m.Word)[1:] {
						before := o.Sounds(m.Word)[k]
						require.False(
							t,
							s == "j" && strings.Contains(" tʃ ʃ w j z r l ", " "+string(before)+" "),
							"%s: no /j/ after %s",
							m.Word,
							before,
						)
					}
					require.False(
						t,
						m.Word[0] == m.Word[1] && !strings.ContainsRune("aeo", rune(m.Word[0])),
						"%s: English begins no word with a doubled letter",
						m.Word,
					)
				}
			}
		}
	}
	t.Logf("%d different made-up words", len(all))
	require.Greater(t, len(all), 3_000)
}

// newest is the pair that a step adds.
func newest(steps []spelling.Set, i int) *spelling.Pair {
	for p := range steps[i] {
		if !steps[i-1][p] {
			return &p
		}
	}
	return nil
}

func TestGamesOfferNothingUnfit(t *testing.T) {
	if testing.Short() {
		t.Skip("a sweep")
	}
	o := south
	steps := stepsOf(t, o.Accent)
	for i := 12; i < len(steps); i += 6 {
		q := words.Query{Taught: steps[i]}
		for seed := range uint64(6) {
			links, err := words.Chain(q, "", 8, o, chance(seed))
			require.NoError(t, err)
			for _, l := range links {
				_, refused := unfit.Of(l.Word)
				require.False(t, refused, l.Word)
			}
			slips, err := words.SlipHunt(q, 12, o, chance(seed))
			require.NoError(t, err)
			for _, s := range slips {
				_, refused := unfit.Of(s.Shown)
				require.False(t, refused, s.Shown)
				sounds := o.Sounds(s.Shown)
				if lexicon.For(o.Accent, o.Units).Heard(sounds) < 2 {
					require.False(t, unfit.SoundsLike(sounds, o.Accent), "%s for %s", s.Shown, s.Word)
				}
			}
		}
	}
}

// A word that the team allows is offered, the rest of its theme is not.
func TestATeamAllowsASingleWord(t *testing.T) {
	taught := stepsOf(t, south.Accent)[26]
	has := func(o words.Options, w string) bool {
		for _, c := range words.Find(words.Query{Taught: taught}, o) {
			if c.Word == w {
				return true
			}
		}
		return false
	}
	assert.False(t, has(south, "sick"))
	allowing := words.Options{Accent: south.Accent, Allow: map[string]bool{"sick": true}}
	assert.True(t, has(allowing, "sick"))
	assert.False(t, has(allowing, "ill"))
}
