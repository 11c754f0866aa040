package spelling_test

import (
	"fmt"
	"math/rand"
	"os"
	"slices"
	"strings"
	"testing"
	"testing/quick"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"brightchalk/internal/core/phoneme"
	"brightchalk/internal/core/spelling"
)

const sb = phoneme.SouthernBritish

func TestParsePair(t *testing.T) {
	rows := []struct{ name, text, want string }{
		{"given sound", "ow=əʊ", "ow=əʊ"},
		{"most common sound", "sh", "sh=ʃ"},
		{"a split spelling", "a-e", "a-e=eɪ"},
		{"underscore for the dash", "i_e", "i-e=aɪ"},
		{"two sounds", "qu=kw", "qu=kw"},
		{"typed g", "g=g", "g=ɡ"},
		{"voiced th", "th=ð", "th=ð"},
		{"nk as a unit", "nk", "nk=ŋk"},
	}
	for _, r := range rows {
		t.Run(r.name, func(t *testing.T) {
			p, err := spelling.ParsePair(sb, r.text)
			require.NoError(t, err)
			assert.Equal(t, r.want, p.String())
		})
	}
	for text, says := range map[string]string{"zh": "not in the " +
		"table", "sh=m": "not spelled", "m=☃": "not a sound", "": "not in the table"} {
		_, err := spelling.ParsePair(sb, text)
		require.ErrorIs(t, err, spelling.ErrUnknownPair)
		assert.ErrorContains(t, err, says)
	}
}

// Digraph two letters, trigraph three: common practice, no published source.
func TestKinds(t *testing.T) {
	for g, kind := range map[string]string{"s": "letter", "sh": "digraph", "igh": "trigraph", "eigh": "four-letter " +
		"group", "a-e": "split digraph", "ss": "doubled letter", "oo": "digraph", "ee": "digraph"} {
		assert.Equal(t, kind, spelling.Pair{Grapheme: g}.Kind(), g)
	}
	assert.Equal(t, 2, spelling.Pair{Grapheme: "a-e"}.Letters())
}

func TestSetSaysWhatIsUntaught(t *testing.T) {
	set, err := spelling.ParsePairs(sb, "n=n, t=t, i=ɪ")
	require.NoError(t, err)
	var al spelling.Aligner
	night := al.Align("night", "nYt", spelling.Cut{}, sb, spelling.Units{})
	assert.Equal(t, []spelling.Pair{{Grapheme: "igh", Sound: "aɪ"}}, set.Untaught(night))
	assert.False(t, set.Covers(night))
	assert.True(t, set.Covers(al.Align("tin", "tin", spelling.Cut{}, sb, spelling.Units{})))
}

func TestAlignNeverInvents(t *testing.T) {
	var al spelling.Aligner
	segs := al.Align("yacht", "jot", spelling.Cut{}, sb, spelling.Units{})
	odd := ""
	for _, s := range segs {
		if s.Odd {
			odd += s.Grapheme
		}
	}
	assert.Equal(t, "ch", odd)
	assert.Nil(t, al.Align("", "", spelling.Cut{}, sb, spelling.Units{}))
	assert.Nil(t, al.Align("Ship", "Sip", spelling.Cut{}, sb, spelling.Units{}), "capitals are the caller's work")
}

func shown(segments []spelling.Segment) string {
	parts := make([]string, len(segments))
	for i, s := range segments {
		parts[i] = s.Grapheme + "=" + phoneme.Join(s.Phonemes)
		if s.Odd {
			parts[i] += "!"
		}
		if s.Rare {
			parts[i] += "?"
		}
	}
	return strings.Join(parts, " ")
}

// Words joined to their sounds, read line by line by hand (common practice, no published source).
func TestAlignJoinsAsATeacherWould(t *testing.T) {
	data, err := os.ReadFile("testdata/joined.txt")
	require.NoError(t, err)
	var al spelling.Aligner
	lines := 0
	for line := range strings.Lines(string(data)) {
		word, rest, _ := strings.Cut(strings.TrimSpace(line), "\t")
		codes, want, _ := strings.Cut(rest, "\t")
		assert.Equal(t, want, shown(al.Align(word, codes, spelling.Cut{}, sb, spelling.Units{})), word)
		lines++
	}
	assert.Greater(t, lines, 200)
}

func TestSeamsAndEndings(t *testing.T) {
	var al spelling.Aligner
	for _, r := range []struct {
		word, codes string
		cut         spelling.Cut
		want        string
	}{
		{"hothead", "hothed", spelling.Cut{Seams: []int{3}}, "h=h o=ɒ t=t h=h ea=e d=d"},
		{"naked", "nAkid", spelling.Cut{Plain: true}, "n=n a=eɪ k=k e=ɪ d=d"},
		{"naked", "nAkid", spelling.Cut{}, "n=n a=eɪ k=k ed=ɪd"},
		{"xylo", "zYlG", spelling.Cut{}, "x=z y=aɪ l=l o=əʊ"},
		{"yacht", "jot", spelling.Cut{}, "y=j a=ɒ ch=!? t=t"},
		{"cat", "katz", spelling.Cut{}, "c=k a=æ t=tz!?"},
		// A sound without a letter of its own goes to a letter beside it: no e behind the f of cafe is silent.
		{"cafe", "kafA", spelling.Cut{}, "c=k a=æ f=f e=eɪ!?"},
		{"popular", "popjUl4", spelling.Cut{}, "p=p o=ɒ p=p u=jʊ!? l=l ar=ə"},
		{"eighth", "AtT", spelling.Cut{}, "eigh=eɪt!? th=θ"},
		{"urine", "j3in", spelling.Cut{}, "ur=jɜːr!? i-e=ɪ n=n"},
		{"azalea", "@zAlj@", spelling.Cut{}, "a=ə z=z a=eɪ l=l e=j!? a=ə"},
		{"naive", "nYEv", spelling.Cut{}, "n=n a=!? i-e=aɪ v=iːv!?"},
		{"a", "bdg", spelling.Cut{}, "a=bdɡ!?"},
	} {
		got := shown(al.Align(r.word, r.codes, r.cut, sb, spelling.Units{}))
		assert.Equal(t, r.want, got, r.word)
	}
	long := strings.Repeat("at", 12)
	assert.Len(t, al.Align(long, long, spelling.Cut{}, sb, spelling.Units{}), 24)
	assert.Nil(t, al.Align(long+"a", long+"a", spelling.Cut{}, sb, spelling.Units{}), "longer than 24")
	assert.Nil(t, al.Align("a", "", spelling.Cut{}, sb, spelling.Units{}))
	assert.Nil(t, al.Align("", "a", spelling.Cut{}, sb, spelling.Units{}))
	assert.Nil(t, al.Align("a{", "at", spelling.Cut{}, sb, spelling.Units{}), "{ comes after z")
	assert.Nil(t, al.Align("a`", "at", spelling.Cut{}, sb, spelling.Units{}), "` comes before a")
}

// Whatever stands in the table: the letters come back once and in order, but for those that a split spelling takes
// from behind, and the sounds are those that were given.
func TestAlignKeepsAllThatItIsGiven(t *testing.T) {
	var al spelling.Aligner
	letters := "abcdefghijklmnopqrstuvwxyz"
	sounds := "pbtdkgmnNfvTDszSZhCJlrwjieaoxuU@ELRcAYXW"
	check := func(w, s []byte) bool {
		word, codes := make([]byte, 0, 24), make([]byte, 0, 24)
		for _, b := range w[:min(len(w), 24)] {
			word = append(word, letters[int(b)%len(letters)])
		}
		for _, b := range s[:min(len(s), 24)] {
			codes = append(codes, sounds[int(b)%len(sounds)])
		}
		got := al.Align(string(word), string(codes), spelling.Cut{}, sb, spelling.Units{})
		if len(word) == 0 || len(codes) == 0 {
			return got == nil
		}
		seen := make([]bool, len(word))
		var said []phoneme.Phoneme
		for _, g := range got {
			for i, l := range g.Letters {
				if seen[l] || i > 0 && l <= g.Letters[i-1] {
					return false
				}
				seen[l] = true
			}
			said = append(said, g.Phonemes...)
		}
		want := phoneme.AppendRealised(nil, phoneme.GeneralAmerican, string(codes), 0)
		gotAmerican := al.Align(string(word), string(codes), spelling.Cut{}, phoneme.GeneralAmerican, spelling.Units{})
		var saidThere []phoneme.Phoneme
		for _, g := range gotAmerican {
			saidThere = append(saidThere, g.Phonemes...)
		}
		return !slices.Contains(seen, false) && len(said) > 0 && phoneme.Join(saidThere) == phoneme.Join(want)
	}
	require.NoError(t, quick.Check(check, &quick.Config{MaxCount: 2000, Rand: rand.New(rand.NewSource(1))}))
}

func TestGuess(t *testing.T) {
	for word, want := range map[string]string{
		"zib": "zib", "shope": "SGp", "fleck": "flek", "cend": "send", "grump": "grump", "sploot": "splLt",
		"crinked": "kriNkt", "fy": "fY", "rute": "rLt", "lute": "lLt", "jute": "JLt", "mube": "mjLb", "thyme": "TYm",
		"kede": "kEd", "wape": "wAp", "wapes": "wAps", "zomes": "zGmz", "mages": "mAgiz", "baked": "bAkt", "ware": "w6",
		"quog": "kwog", "whid": "wid", "phob": "fob", "knip": "nip", "wrop": "rop", "ribs": "ribz", "rips": "rips",
		"judge": "JuJ", "batch": "baC", "hiss": "his", "hall": "hal", "mung": "muN", "mink": "miNk", "minx": "miNks",
		"staw": "stc", "gair": "g6", "goard": "gKd", "firp": "f3p", "nerse": "n3s", "gice": "gYs", "pance": "pans",
		"ticked": "tikt", "zanded": "zandid", "dished": "diSt", "latched": "laCt", "hummed": "humd", "boxes": "boksiz",
		"tishes": "tiSiz", "i": "Y", "she": "SE", "go": "gG", "flu": "flL", "lamb": "lam", "lambs": "lambz",
		"taughter": "tct4", "sofa": "sof@", "hello": "helG", "gipsy": "gipsy", "gym": "gim", "fleight": "flAt",
		"baul": "bcl", "loun": "lWn", "oink": "XNk", "fow": "fW", "puce": "pjLs", "cube": "kjLb",
		"bes": "bez", "gled": "gled", "zel": "zel", "ple": "plE", "fes": "fez", "tres": "trez",
		"vothier": "voTE4", "vothiers": "voTE4z", "blierow": "blErW",
	} {
		assert.Equal(t, want, spelling.Guess(word), word)
	}
}

func FuzzAlign(f *testing.F) {
	f.Add("ship", "Sip")
	f.Add("table", "tAb@l")
	f.Fuzz(func(t *testing.T, word, codes string) {
		var al spelling.Aligner
		for i := range len(codes) {
			if !phoneme.KnownSet(codes[i]) {
				return
			}
		}
		letters := 0
		for _, s := range al.Align(word, codes, spelling.Cut{}, sb, spelling.Units{}) {
			letters += len(s.Letters)
		}
		if letters != 0 && letters != len(word) {
			t.Fatalf("%q with %q: %d of %d letters", word, codes, letters, len(word))
		}
	})
}

func ExampleParsePair() {
	p, _ := spelling.ParsePair(sb, "igh")
	fmt.Println(p, p.Kind())
	// Output: igh=aɪ trigraph
}

// The most common sound of a bare grapheme (common practice, no published source), and what a pair of one accent is in
// another.
func TestBareGraphemesAndAccents(t *testing.T) {
	for text, want := range map[string]string{
		"th": "th=θ", "oo": "oo=uː", "ow": "ow=aʊ", "ea": "ea=iː", "c": "c=k", "g": "g=ɡ", "s": "s=s", "ch": "ch=tʃ",
		"ou": "ou=aʊ", "a": "a=æ", "o": "o=ɒ", "u": "u=ʌ", "x": "x=ks", "nk=ŋk": "nk=ŋk", "SH": "sh=ʃ", "i_e = aɪ": "i-e=aɪ",
		"er=ər": "er=ə", "o=ɑː": "o=ɒ", "oa=oʊ": "oa=əʊ", "u=ʊ": "u=ʊ",
	} {
		p, err := spelling.ParsePair(sb, text)
		require.NoError(t, err, text)
		assert.Equal(t, want, p.String(), text)
	}
	for _, r := range []struct {
		accent phoneme.Accent
		pair   spelling.Pair
		want   string
	}{
		{phoneme.GeneralAmerican, spelling.Pair{Grapheme: "er", Sound: "ə"}, "er=ər"},
		{phoneme.GeneralAmerican, spelling.Pair{Grapheme: "o", Sound: "ɒ"}, "o=ɑː"},
		{phoneme.GeneralAmerican, spelling.Pair{Grapheme: "sh", Sound: "ʃ"}, "sh=ʃ"},
		{phoneme.NorthernEnglish, spelling.Pair{Grapheme: "u", Sound: "ʌ"}, "u=ʊ"},
		{sb, spelling.Pair{Grapheme: "ar", Sound: "ɑːr"}, "ar=ɑː"},
		{sb, spelling.Pair{Grapheme: "zz", Sound: "m"}, "zz=m"},
		{sb, spelling.Pair{Grapheme: "?", Sound: "m"}, "?=m"},
	} {
		assert.Equal(t, r.want, r.pair.In(r.accent).String(), "%s in %s", r.pair, r.accent)
	}
	_, err := spelling.ParsePair(sb, "nk=m")
	require.ErrorIs(t, err, spelling.ErrUnknownPair)
	_, err = spelling.ParsePair(sb, "sh=nk")
	require.ErrorIs(t, err, spelling.ErrUnknownPair)
}

// What is read as pairs is written as pairs that are read as the same.
func FuzzPairs(f *testing.F) {
	f.Add("s,a=æ,a-e=eɪ,qu=kw,th=θ,igh")
	f.Add(" x=ks ; ")
	f.Fuzz(func(t *testing.T, text string) {
		for part := range strings.SplitSeq(text, ",") {
			p, err := spelling.ParsePair(sb, part)
			if err != nil {
				continue
			}
			again, err := spelling.ParsePair(sb, p.String())
			if err != nil || again != p {
				t.Fatalf("%q is %v, written %q, read %v (%v)", part, p, p, again, err)
			}
		}
		_, _ = spelling.ParsePairs(sb, text)
	})
}

func FuzzReadJoined(f *testing.F) {
	f.Add("ship", "sh=S i=i p=p")
	f.Fuzz(func(_ *testing.T, word, stored string) { _, _ = spelling.ReadJoined(word, stored) })
}

// What is written down of a word is read again as it was; what does not fit is refused.
func TestWhatIsStoredIsRead(t *testing.T) {
	al := &spelling.Aligner{}
	for word, want := range map[string][2]string{
		"cake": {"kAk", "c a-e k"}, "these": {"DEz", "th e-e s"}, "ship": {"Sip", "sh i p"}, "cakes": {"kAks", "c a-e k s"},
		"box": {"boks", "b o x"}, "huge": {"hjLJ", "h u-e g"}, "bathe": {"bAD", "b a-e th"}, "bee": {"bE", "b ee"},
	} {
		stored := al.Join(word, want[0], spelling.Cut{})
		j, err := spelling.ReadJoined(word, stored)
		require.NoError(t, err, stored)
		assert.Equal(t, want[0], j.Codes, word)
		var got []string
		for _, s := range j.Segments(phoneme.SouthernBritish, spelling.Units{}) {
			got = append(got, s.Grapheme)
		}
		assert.Equal(t, want[1], strings.Join(got, " "), stored)
		_, err = spelling.ReadJoined(word+"s", stored)
		require.Error(t, err, "a letter too many")
		_, err = spelling.ReadJoined(word[:len(word)-1], stored)
		require.Error(t, err, "a letter too few")
		_, err = spelling.ReadJoined(word+"e", stored+" -")
		require.Error(t, err, "an e that nothing asks for")
		_, err = spelling.ReadJoined("e"+word, "- "+stored)
		require.Error(t, err, "nor at the start")
	}
}
