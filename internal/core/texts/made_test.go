package texts_test

import (
	"cmp"
	"fmt"
	"math/rand/v2"
	"slices"
	"strings"
	"testing"

	"github.com/sebdah/goldie/v2"
	"github.com/stretchr/testify/require"

	"brightchalk/internal/core/lexicon"
	"brightchalk/internal/core/phoneme"
	"brightchalk/internal/core/spelling"
	"brightchalk/internal/core/texts"
)

// stages of an order of teaching, as a class comes to them; each holds those before.
var stages = []struct{ name, taught, exceptions string }{
	{"first", "s,a,t,i,p,n", ""},
	{"second", "m,d,g,o,c,k,ck,e,u,r", "the,i"},
	{"third", "h,b,f,ff,l,ll,ss,s=z,j,v,w,x,y,z,zz,qu", "to,is,his,no,go"},
	{"fourth", "sh,ch,th=θ,th=ð,ng,ai,ee,oa,oo=uː,ar,or,er", "was,he,she,we,me,be,you,they,are,my,her"},
	{"fifth", "ay,ea=iː,igh,ow=aʊ,oi,ou=aʊ,oy,ir,ue=uː,ew=uː", "said,have,like,so,do,some,come,were,there,little,one"},
}

func stageAt(t *testing.T, i int) (spelling.Set, map[string]bool) {
	t.Helper()
	var all []string
	known := map[string]bool{}
	for _, s := range stages[:i+1] {
		all = append(all, s.taught)
		for word := range strings.SplitSeq(s.exceptions, ",") {
			known[word] = true
		}
	}
	return pairs(t, strings.Join(all, ",")), known
}

// What a class is offered at five stages, for every few spellings of each: to be read through whenever it changes.
func TestWhatIsMade(t *testing.T) {
	var out strings.Builder
	for i, stage := range stages {
		taught, known := stageAt(t, i)
		targets := strings.Split(stage.taught, ",")
		for n := 0; n < len(targets); n += 2 {
			target, err := spelling.ParsePair(south.Accent, targets[n])
			require.NoError(t, err)
			k := texts.NewMaker(texts.SuggestQuery{
				Taught: taught, Exceptions: known, Targets: []spelling.Pair{target}, Count: 4,
			}, south)
			fmt.Fprintf(&out, "== %s, %s\n", stage.name, target)
			for _, s := range k.Sentences(rand.New(rand.NewPCG(uint64(n), 5))) {
				fmt.Fprintf(&out, "%s  (%s)\n", s.Text, strings.Join(s.Holds, " "))
			}
			if p, ok := k.Page(rand.New(rand.NewPCG(uint64(n), 9))); ok {
				fmt.Fprintf(&out, "-- %s\n%s\n? %s\n", p.Title, p.Body, strings.Join(p.Questions, "\n? "))
			}
		}
		k := texts.NewMaker(texts.SuggestQuery{Taught: taught, Exceptions: known, Count: 3}, south)
		fmt.Fprintf(&out, "== %s, anything\n", stage.name)
		for _, s := range k.Sentences(rand.New(rand.NewPCG(3, 3))) {
			fmt.Fprintln(&out, s.Text, s.Because)
		}
		if p, ok := k.Page(rand.New(rand.NewPCG(4, 4))); ok {
			fmt.Fprintf(&out, "-- %s\n%s\n? %s\n", p.Title, p.Body, strings.Join(p.Questions, "\n? "))
		}
	}
	goldie.New(t).Assert(t, "made", []byte(out.String()))
}

// Sentences in pieces, plain ones about single words, and what may stand for a word that cannot be read yet.
func TestWhatIsCutAndPutInstead(t *testing.T) {
	var out strings.Builder
	for _, s := range strings.Split(`The big red hen sat in the wet pen.
Ten men had a nap in the tent.
A fox ran up the hill and hid in a den.
Can the cat get up on the bed?
Pip and Sam met at the shop.
She will not go to the park with him.
The frog in the pond can jump and swim.
My dad cut the thick log with a saw.
They were on the bus when it began to rain.
In the bag was a bun and a jam tart.
Run!
We had chips.
Did you see the tall ship sail off to the east on the tide?
The goat ate my hat, my sock and my map.
Tom said it was too hot to run.
That dog is as wet as a fish.
Six fat pigs sat in the mud.
I can hop, skip and jump.
It is his pen, not her pen.
The girl with the red coat fed the ducks.`, "\n") {
		pieces, err := texts.Chop(s)
		fmt.Fprintf(&out, "%s | %v\n", strings.Join(pieces, " / "), err)
	}
	taught, known := stageAt(t, 3)
	k := texts.NewMaker(texts.SuggestQuery{Taught: taught, Exceptions: known, Count: 3}, south)
	words := strings.Fields(
		"ship chin shock thin fang rain feet boat moon farm fork hammer shut chat sing wait meet soak zoom " +
			"dark short sharp deep loud quick king queen goat sheep chips fish bath soap tooth lamp tent hens ran running " +
			"keeper",
	)
	for _, w := range words {
		fmt.Fprintf(&out, "%s: %s\n", w, strings.Join(k.Plain([]string{w}), " "))
	}
	pool := lexicon.For(phoneme.SouthernBritish, spelling.Units{})
	mask := pool.Mask(taught)
	var readable []*lexicon.Entry
	worth := map[string]float64{}
	for i := range pool.Items {
		fits := true
		for n, bits := range pool.Items[i].Needs {
			fits = fits && bits&^mask[n] == 0
		}
		if fits {
			readable = append(readable, pool.Items[i].Entry)
			worth[pool.Items[i].Word] = pool.Items[i].Worth
		}
	}
	slices.SortStableFunc(readable, func(a, b *lexicon.Entry) int { return cmp.Compare(worth[b.Word], worth[a.Word]) })
	can := func(w string) bool {
		return slices.ContainsFunc(readable, func(e *lexicon.Entry) bool { return e.Word == w })
	}
	for _, w := range strings.Fields("horse pony whale shark apple bread knife spoon house castle bicycle lorry plane " +
		"walked jumped " +
		"climbed writes knocking huge tiny purple quietly beautiful nurse uncle baby tiger pencil guitar the a i xyz q") {
		fmt.Fprintf(&out, "%s → %s\n", w, strings.Join(texts.Instead(w, can, readable), " "))
	}
	goldie.New(t).Assert(t, "cut", []byte(out.String()))
}

// What is said of a text, word by word, at three stages.
func TestWhatIsSaidOfATextInWhole(t *testing.T) {
	var out strings.Builder
	for _, i := range []int{0, 2, 4} {
		taught, known := stageAt(t, i)
		for _, text := range []string{
			"Pat sat. Pat tapped a tin.",
			"The kitten's paws are wet, and it's cold.",
			"Mr Crabb said, “Stop!” Then he ran – and ran – to the well-lit shed.",
			"Zib and Plonk can't see 12 ships.",
			"I have said so. He read it; she will read it again",
			"a gun is in the den",
			"Sam's dog\nhid a bone.\n\nWas it hot?  Yes!",
			"One little light went out at night and the whole wide street was as dark as coal until the morning came.",
			"Don't you'll we've o'clock rock’n’roll",
			"Shh… it is a secret.",
			"At 3 p.m. we ran. At 10 a.m we sat. It is 4pm now, Pam. Up at 7 a.m. Ted naps.",
			"a.m. p.m a.n. p,m a. pm",
			"The Hot Pot\nPat has a hot pot.\nNot a hot pan.",
			"A cat sat on a mat and Tim\nRan.\nPat had a pin,\nTim had a tin\n\nit is hot",
			"Pat sat on a mat in a den in a hut on Sam. Pat sat on a mat in a den in a hut on a mat.",
			"A ten-pin top-hat-man met an up-set pig-pen.",
			"Zoë sat. Éva sat in a café. The 2nd man ran 10m to 3B at 9.",
			"ß a-b -a- 'em rock-",
		} {
			r := texts.Check(text, taught, known, south)
			for _, tok := range r.Tokens {
				if strings.Contains(tok.Text, "-") {
					fmt.Fprintf(&out, "%s:", tok.Text)
					for _, seg := range tok.Segments {
						fmt.Fprintf(&out, " %s%v", seg.Grapheme, seg.Letters)
					}
					fmt.Fprintln(&out)
				}
			}
			fmt.Fprintf(&out, "== %s: %q\n%.3f fits %v, remarks %q, unfit %v, new %v\n",
				stages[i].name, text, r.Decodable, r.Fits(), r.Remarks, r.Unfit, r.NewExceptions)
			for _, tok := range r.Tokens {
				fmt.Fprintf(&out, "%d %s %s %v %v\n", tok.Start, tok.Text, tok.Status, tok.Untaught, tok.Guessed)
			}
			for _, s := range r.Sentences {
				fmt.Fprintf(&out, "@%d %d words %.3f\n", s.Start, s.Words, s.Decodable)
			}
			counts := make([]string, 0, len(r.Untaught))
			for p, n := range r.Untaught {
				counts = append(counts, fmt.Sprintf("%s×%d", p, n))
			}
			slices.Sort(counts)
			fmt.Fprintln(&out, strings.Join(counts, " "))
		}
	}
	goldie.New(t).Assert(t, "said", []byte(out.String()))
}
