package words_test

import (
	"fmt"
	"strings"
	"testing"

	"github.com/sebdah/goldie/v2"

	"brightchalk/internal/core/lexicon"
	"brightchalk/internal/core/phoneme"
	"brightchalk/internal/core/spelling"
	"brightchalk/internal/core/words"
)

// learnt are stages of an order of teaching, invented; each holds those before.
var learnt = []string{
	"s,a,t,i,p,n",
	"m,d,g,o,c,k,ck,e,u,r",
	"h,b,f,ff,l,ll,ss,s=z,j,v,w,x=ks,y,z,zz,qu=kw",
	"sh,ch,th=θ,th=ð,ng,ai,ee,oa,oo=uː,ar,or,er,tch,wh",
	"ay,ea=iː,igh,ow=aʊ,oi,ou=aʊ,a-e,i-e,o-e,ir,ew=uː,kn,wr,dge,ve",
}

func learntAt(t testing.TB, i int) spelling.Set { return set(t, strings.Join(learnt[:i+1], ",")) }

func pairOf(t testing.TB, text string) spelling.Pair {
	t.Helper()
	for p := range set(t, text) {
		return p
	}
	return spelling.Pair{}
}

// stepsFor numbers the pairs of all stages as an order does.
func stepsFor(t testing.TB) map[spelling.Pair]int {
	out := map[spelling.Pair]int{}
	for i, text := range strings.Split(strings.Join(learnt, ","), ",") {
		out[pairOf(t, text)] = i + 1
	}
	return out
}

func choices(list []words.Choice) string {
	var out strings.Builder
	for _, c := range list {
		fmt.Fprintf(
			&out,
			"  %s %s %v %d %v %d: %s\n",
			c.Word,
			c.Frame,
			c.Positions,
			c.Familiarity,
			c.Picture,
			c.Sounds,
			c.Because,
		)
	}
	return out.String()
}

// pinned collects what is chosen, to be read through whenever it changes: run with -update, then read the difference.
type pinned struct {
	strings.Builder
	t *testing.T
}

func (p *pinned) say(format string, args ...any) { fmt.Fprintf(p, format+"\n", args...) }

func (p *pinned) as(name string) { goldie.New(p.t).Assert(p.t, name, []byte(p.String())) }

func TestWhatIsPlayed(t *testing.T) {
	p := &pinned{t: t}
	for i := range learnt {
		q := words.Query{Taught: learntAt(t, i)}
		for _, start := range []string{"", "pat", "sit", "shop"} {
			for length := 2; length < 9; length += 3 {
				chain, err := words.Chain(q, start, length, south, chance(uint64(length)))
				var said []string
				for _, l := range chain {
					said = append(said, fmt.Sprintf("%s %d %s %s", l.Word, l.Changed, l.Place, l.Says))
				}
				p.say("chain %d from %q: %s %v", length, start, strings.Join(said, "; "), err)
			}
		}
		for _, c := range words.Compounds(q, south) {
			p.say("compound %s = %s + %s", c.Word, c.First, c.Second)
		}
		for _, text := range strings.Split(learnt[i], ",")[:5] {
			target := pairOf(t, text)
			q.Target = &target
			for _, n := range []int{4, 9} {
				rings, err := words.RingList(q, n, south, chance(uint64(n)))
				var said []string
				for _, r := range rings {
					said = append(said, fmt.Sprintf("%s %v %s", r.Word, r.Letters, r.Place))
				}
				p.say("ring %d of %s: %s %v", n, target, strings.Join(said, "; "), err)
				slips, err := words.SlipHunt(q, n, south, chance(uint64(n)))
				said = nil
				for _, s := range slips {
					said = append(said, fmt.Sprintf("%s as %s, %s: %s", s.Word, s.Shown, s.Kind, s.Why))
				}
				p.say("slips %d of %s: %s %v", n, target, strings.Join(said, "; "), err)
			}
			for _, c := range words.Find(words.Query{Taught: q.Taught, Target: &target, Limit: 4}, south) {
				for _, s := range words.Slips(c, q.Taught, south) {
					p.say("slip %s as %s, %s: %s", s.Word, s.Shown, s.Kind, s.Why)
				}
			}
		}
	}
	last := learntAt(t, len(learnt)-1)
	for _, two := range [][2]string{
		{"th=θ", "th=ð"}, {"ai", "ay"}, {"s", "s=z"}, {"ee", "ea=iː"}, {"a", "e"}, {"kn", "wr"},
	} {
		for _, limit := range []int{0, 3} {
			c, err := words.Contrast(pairOf(t, two[0]), pairOf(t, two[1]), words.Query{Taught: last, Limit: limit}, south)
			p.say("contrast %v: %d and %d, %v, %v\n%s%s", two, len(c.Left), len(c.Right), c.Twins, err,
				choices(c.Left[:min(3, len(c.Left))]), choices(c.Right[:min(3, len(c.Right))]))
		}
	}
	p.as("played")
}

// What hangs on a sound to keep, on the team's own pictures, and on bounds.
func TestWhatIsChosenFor(t *testing.T) {
	p := &pinned{t: t}
	last := learntAt(t, len(learnt)-1)
	for pair := range set(t, "u-e=juː,ue=juː,ew=juː,u-e=uː") {
		last[pair] = true
	}
	for i, text := range []string{"sh", "ee", "ck", "ng", "kn", "qu=kw", "ai", "p"} {
		target := pairOf(t, text)
		for _, start := range []string{"", "ship", "cat", "zebra"} {
			chain, err := words.Chain(words.Query{Taught: last, Target: &target}, start, 3+i, south, chance(uint64(i)))
			var said []string
			for _, l := range chain {
				said = append(said, l.Word+" "+l.Place)
			}
			p.say("chain for %s from %q: %s %v", target, start, strings.Join(said, "; "), err)
		}
		for _, limit := range []int{1, 4} {
			for _, c := range words.Compounds(words.Query{Taught: last, Target: &target, Limit: limit}, south) {
				p.say("compound for %s: %s = %s + %s: %s", target, c.Word, c.First, c.Second, c.Because)
			}
		}
	}
	for _, length := range []int{2, 3, 12, 13} {
		chain, err := words.Chain(words.Query{Taught: last}, "", length, south, chance(2))
		p.say("chain of %d: %d %v", length, len(chain), err)
	}
	for _, text := range []string{"u-e=juː", "ue=juː", "ew=juː", "u-e=uː"} {
		target := pairOf(t, text)
		for _, frame := range []string{"CVC", "CCVC", "CV"} {
			made, err := words.MakeUp(
				words.MadeUpQuery{Taught: last, Target: &target, Frame: frame, Count: 40},
				south,
				chance(3),
			)
			var list []string
			for _, m := range made {
				list = append(list, m.Word)
			}
			p.say("made up with %s in %s: %v %v", target, frame, list, err)
		}
	}
	ours := south
	ours.Pictures = []lexicon.OwnPicture{
		{
			Name:   "sun",
			Others: []string{"star"},
		},
		{Name: "barge", Others: []string{"boat", "ship"}},
		{Name: "?"},
		{Name: "moss"},
	}
	departs := south
	departs.Depart = map[string]phoneme.Accent{"bath": phoneme.NorthernEnglish, "glass": phoneme.NorthernEnglish}
	for _, s := range []phoneme.Phoneme{"s", "b", "m", "ɑː", "æ", "n", "st"} {
		for _, at := range []words.Position{words.Initial, words.Medial, words.Final} {
			p.say("/%s/ %s: ours %v, departing %v", s, at, words.EarPictures(s, at, "", []phoneme.Phoneme{"t"}, ours),
				words.EarPictures(s, at, "", nil, departs))
		}
	}
	steps := stepsFor(t)
	for i := range learnt {
		for pair := range learntAt(t, i) {
			steps[pair] %= 7 // several pairs of one step
		}
		u, ok := words.MaxUnlocked(words.Query{Taught: learntAt(t, i), Familiarity: 5, MaxSounds: 3}, steps, south)
		p.say("of all that come at once: %v %v", u, ok)
	}
	p.as("chosen")
}
