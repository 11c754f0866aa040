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

func TestWhatIsFound(t *testing.T) {
	p := &pinned{t: t}
	for i := range learnt {
		taught := learntAt(t, i)
		p.say("== stage %d\n%s", i, choices(words.Find(words.Query{Taught: taught, Limit: 25}, south)))
		for n, text := range strings.Split(learnt[i], ",") {
			target := pairOf(t, text)
			q := words.Query{Taught: taught, Target: &target, Limit: 6}
			p.say("-- %s\n%s", target, choices(words.Find(q, south)))
			switch n % 5 {
			case 0:
				q.Position = []words.Position{words.Initial, words.Medial, words.Final}[n/5%3]
			case 1:
				q.Frame = []string{"CVC", "CVCC", "VC"}[n/5%3]
			case 2:
				q.WithPicture, q.MinSounds, q.MaxSounds = true, 4, 5
			case 3:
				q.Syllables, q.Familiarity = 2, 3
			case 4:
				q.Rare, q.Doubtful, q.NoHomophones = true, true, n%2 == 0
			}
			p.say("-- %s, %v %q %v %d-%d %d %d %v\n%s", target, q.Position, q.Frame, q.WithPicture, q.MinSounds, q.MaxSounds,
				q.Syllables, q.Familiarity, q.Rare, choices(words.Find(q, south)))
		}
		for _, frame := range []string{"", "CVC", "CVCC", "CCVC", "VC"} {
			made, err := words.MakeUp(words.MadeUpQuery{Taught: taught, Frame: frame, Count: 12}, south, chance(uint64(i)))
			var list []string
			for _, m := range made {
				list = append(list, m.Word+" "+m.Frame)
			}
			p.say("made up %q: %s %v", frame, strings.Join(list, ", "), err)
		}
		for _, text := range []string{"sh", "ee", "ck"} {
			target := pairOf(t, text)
			made, err := words.MakeUp(words.MadeUpQuery{Taught: taught, Target: &target, Count: 6}, south, chance(1))
			p.say("made up with %s: %d %v", target, len(made), err)
		}
	}
	p.as("found")
}

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

func TestWhatIsHeard(t *testing.T) {
	p := &pinned{t: t}
	var sounds []phoneme.Phoneme
	for _, s := range phoneme.Inventory(south.Accent) {
		sounds = append(sounds, s.Phoneme)
	}
	for i, s := range sounds {
		avoid := []phoneme.Phoneme{sounds[(i+1)%len(sounds)]}
		for _, at := range []words.Position{words.Any, words.Initial, words.Medial, words.Final} {
			list := words.EarPictures(s, at, "", nil, south)
			p.say("/%s/ %s: %d %v %v", s, at, len(list), list, words.CheckPosition(south.Accent, s, at))
			p.say("  with ee not %v: %v", avoid, words.EarPictures(s, at, "ee", avoid, south))
		}
		for seed := range uint64(3) {
			game, err := words.FirstOrLast(s, map[string]bool{"sun": true, "map": true}, south, chance(seed))
			p.say("  first or last: %v %v", game, err)
		}
		for n, per := range []int{1, 3, 5, 8} {
			baskets, err := words.Sort([]phoneme.Phoneme{s, sounds[(i+7)%len(sounds)], "m"}[:2+n%2], per,
				[]words.Position{words.Any, words.Initial, words.Final, words.Medial}[n], south, chance(uint64(n)))
			for _, b := range baskets {
				p.say("  basket /%s/ %s %v %s", b.Sound, b.Position, b.Pictures, b.Note)
			}
			if err != nil {
				p.say("  %v", err)
			}
		}
	}
	for _, wrong := range []struct{ n, per int }{{1, 3}, {7, 1}, {8, 3}, {2, 0}, {2, 8}, {2, 9}} {
		baskets, err := words.Sort(sounds[:wrong.n], wrong.per, words.Any, south, chance(1))
		p.say("%v: %d %v", wrong, len(baskets), err)
	}
	p.as("heard")
}

func TestWhatIsAsked(t *testing.T) {
	p := &pinned{t: t}
	steps := stepsFor(t)
	asked := strings.Fields(`sat ship rain boat train light cake bread said was knee write bridge give have ski robot
		wind read lead tear mat2 x zzz gun lorry truck houses cats dogs jumped jumping wished catch edge badge queen box fox
		chef school island pizza mouse mice ring think finger singer sunshine rainbow butterfly blorp strimp yacht two you`)
	for i := 1; i < len(learnt); i++ {
		taught := learntAt(t, i)
		for _, target := range []string{"s", "ee"}[i%2 : i%2+1] {
			pair := pairOf(t, target)
			q := words.Query{Taught: taught, Target: &pair, Exclude: map[string]bool{"sat": i == 2}}
			for _, w := range asked {
				a, err := words.Look(w, q, steps, south)
				p.say("%s: %v %s %d %v %v %v %v %v", w, a.May, a.Why, a.Sounds, a.Guessed, a.Theme, a.Missing, a.WhyHere, err)
				for _, try := range a.Tries {
					p.say("  or %s: %s for %s, %.2f, %v %v", try.Shown, try.Grapheme, try.Instead, try.Share, try.Taught, try.IsWord)
				}
			}
			for _, n := range []int{3, 12} {
				for _, a := range words.IsNear(q, steps, n, south) {
					p.say("near %s %v %s", a.Word, a.Missing, a.Why)
				}
			}
			u, ok := words.MaxUnlocked(q, steps, south)
			p.say("unlock %v %v", u, ok)
		}
	}
	for _, c := range words.CutAll("The ship's knight-rain said: boxes, 7 cakes! blorp catch two", south) {
		p.say("cut %s %v %d %v %v", c.Word, c.Guess, c.Sounds, c.Bits, c.Phonemes)
	}
	american := words.Options{Accent: phoneme.GeneralAmerican}
	for _, w := range []string{"lorry", "truck", "tap", "faucet", "mum", "mom", "biscuit", "zebra"} {
		a, err := words.Look(w, words.Query{Taught: learntAt(t, 4)}, steps, american)
		p.say("%s over there: %v %s %v", w, a.May, a.Why, err)
	}
	for i := range lexicon.For(south.Accent, south.Units).Items {
		item := &lexicon.For(south.Accent, south.Units).Items[i]
		if i%211 == 0 {
			for _, r := range item.Readings {
				p.say("here %s %v", item.Word, words.WhyHere(r.Segments))
			}
		}
	}
	p.as("asked")
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
