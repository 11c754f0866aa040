package words

import (
	"math/rand/v2"
	"slices"
	"strings"
	"sync"

	"brightchalk/internal/core/fault"
	"brightchalk/internal/core/lexicon"
	"brightchalk/internal/core/phoneme"
	"brightchalk/internal/core/spelling"
	"brightchalk/internal/core/unfit"
)

// MadeUp is a made-up word.
type MadeUp struct {
	Word     string             `json:"word"`
	Segments []spelling.Segment `json:"segments"`
	Frame    string             `json:"frame"`
}

// MadeUpQuery asks for made-up words from taught pairs.
type MadeUpQuery struct {
	Taught spelling.Set
	Target *spelling.Pair
	Frame  string // "CVC" where empty
	Count  int
}

// legal is what occurs in known words of one syllable, by sounds and by letters.
type legal struct {
	onsets, codas map[string]int // by sounds; of codas with the vowel before them
	ends          map[string]int // codas alone, by sounds
	starts, rimes map[string]int // by pairs: what stands before the vowel; the vowel with the first grapheme after it
	finals        map[string]int // what stands after the vowel, by pairs
	glides        map[string]int // by pairs: the last grapheme before a vowel that begins with /j/, with it
}

type speechKey struct {
	accent phoneme.Accent
	units  spelling.Units
}

// atLeast is how many known words must share an onset or a coda before a made-up word may.
const atLeast = 2

// joined writes sounds with a mark between them, so that t and ʃ are not taken for tʃ.
func joined(sounds []phoneme.Phoneme) string {
	var b strings.Builder
	for _, s := range sounds {
		b.WriteString(string(s) + ".")
	}
	return b.String()
}

func pairsKey(pairs []spelling.Pair) string {
	var b strings.Builder
	for _, p := range pairs {
		b.WriteString(p.Grapheme + "=" + p.Sound + " ")
	}
	return b.String()
}

var (
	legalLock sync.Mutex
	legals    = map[speechKey]legal{}
)

func legalFor(o Options) legal {
	legalLock.Lock()
	defer legalLock.Unlock()
	key := speechKey{o.Accent, o.Units}
	if l, ok := legals[key]; ok {
		return l
	}
	l := legal{
		map[string]int{},
		map[string]int{},
		map[string]int{},
		map[string]int{},
		map[string]int{},
		map[string]int{},
		map[string]int{},
	}
	for _, item := range lexicon.For(o.Accent, o.Units).Items {
		if item.Familiarity < 1 || item.Inflected() || item.Syllables != 1 {
			continue
		}
		first := slices.IndexFunc(
			item.Readings[0].Segments,
			func(s spelling.Segment) bool { return slices.ContainsFunc(s.Phonemes, phoneme.IsVowel) },
		)
		onset, rest := item.Pairs[:first], item.Pairs[first+1:]
		l.starts[pairsKey(onset)]++
		l.finals[pairsKey(rest)]++
		l.rimes[pairsKey(item.Pairs[first:min(first+2, len(item.Pairs))])]++
		if strings.HasPrefix(item.Pairs[first].Sound, "j") && first > 0 {
			l.glides[pairsKey(item.Pairs[first-1:first+1])]++
		}
		if item.Familiarity < minOffered {
			continue
		}
		s := item.Readings[0].Phonemes
		v := slices.IndexFunc(s, phoneme.IsVowel)
		l.onsets[joined(s[:v])]++
		l.codas[joined(s[v:])]++
		l.ends[joined(s[v+1:])]++
	}
	legals[key] = l
	return l
}

// doubled are the sounds that English writes with a doubled letter or ck after one short vowel.
var doubled = map[string]string{"f": "ff", "l": "ll", "s": "ss", "z": "zz", "k": "ck"}

// MakeUp returns made-up words in the frame, in an order set by rng: legal in English, no word and no
// homophone of one in any accent, not rude or nearly so, and with one reading only. Fewer than Count come
// back where the taught pairs give no more. The error says what cannot be asked.
func MakeUp(q MadeUpQuery, o Options, rng *rand.Rand) ([]MadeUp, error) {
	frame := strings.ToUpper(q.Frame)
	if frame == "" {
		frame = "CVC"
	}
	if strings.Trim(frame, "CV") != "" || strings.Count(frame, "V") != 1 || len(frame) > 6 ||
		strings.HasPrefix(frame, "CCCC") ||
		strings.HasSuffix(frame, "CCCC") {
		return nil, fault.New(
			fault.Invalid,
			"the frame %q is no syllable of English: one V with up to three C on either side",
			q.Frame,
		)
	}
	if q.Target != nil && !q.Taught[*q.Target] {
		return nil, fault.New(fault.Invalid, "the target %s is not among the taught pairs", q.Target)
	}
	m := maker{q: q, o: o, legal: legalFor(o), frame: frame}
	m.sort()
	v := strings.IndexByte(frame, 'V')
	m.onsets = m.clusters(v, m.legal.onsets, m.legal.starts)
	m.codas = m.clusters(len(frame)-v-1, m.legal.ends, m.legal.finals)
	out := []MadeUp{}
	seen := map[string]bool{}
	all := m.space()
	total := all.size()
	if total == 0 {
		return out, nil
	}
	// A walk with a step that shares no divisor with the size meets each combination once, in an order that
	// chance sets.
	at, step := rng.IntN(total), 1+rng.IntN(total)
	for gcd(step, total) != 1 {
		step = 1 + rng.IntN(total)
	}
	for range total {
		if len(out) >= q.Count {
			break
		}
		m.try(all.pick(at), seen, &out)
		at = (at + step) % total
	}
	return out, nil
}

func gcd(a, b int) int {
	for b != 0 {
		a, b = b, a%b
	}
	return a
}

type maker struct {
	q             MadeUpQuery
	o             Options
	legal         legal
	frame         string
	consonants    []spelling.Pair
	vowels        []spelling.Pair
	onsets, codas [][]spelling.Pair // legal ones of the frame's length
}

// clusters lists the runs of so many taught consonants that known words have, by their sounds and by their letters.
func (m *maker) clusters(length int, sounds, letters map[string]int) [][]spelling.Pair {
	out := [][]spelling.Pair{nil}
	for range length {
		var longer [][]spelling.Pair
		for _, run := range out {
			for _, p := range m.consonants {
				longer = append(longer, append(slices.Clone(run), p))
			}
		}
		out = longer
	}
	return slices.DeleteFunc(
		out,
		func(run []spelling.Pair) bool {
			return sounds[wordSounds(run)] < atLeast || letters[pairsKey(run)] == 0
		},
	)
}

func wordSounds(run []spelling.Pair) string {
	var b strings.Builder
	for _, p := range run {
		b.WriteString(p.Sound)
		b.WriteByte('.')
	}
	return b.String()
}

func (m *maker) sort() {
	var all []spelling.Pair
	for p := range m.q.Taught {
		all = append(all, p)
	}
	slices.SortFunc(all, func(a, b spelling.Pair) int { return strings.Compare(a.String(), b.String()) })
	for _, p := range all {
		sounds, err := phoneme.Parse(m.o.Accent, p.Sound)
		switch {
		case err != nil:
		case strings.HasSuffix(p.Grapheme, "-e") || len(sounds) == 1 && phoneme.IsVowel(sounds[0]) &&
			sounds[0] != "ə" && sounds[0] != "ər":
			m.vowels = append(m.vowels, p)
		case len(sounds) == 1 && !phoneme.IsVowel(sounds[0]):
			m.consonants = append(m.consonants, p)
		}
	}
}

// block is every combination of its onsets, vowels and codas.
type block struct {
	onsets, codas [][]spelling.Pair
	vowels        []spelling.Pair
}

type blocks []block

func (b block) size() int { return len(b.onsets) * len(b.vowels) * len(b.codas) }

func (bs blocks) size() int {
	n := 0
	for _, b := range bs {
		n += b.size()
	}
	return n
}

func (bs blocks) pick(i int) []spelling.Pair {
	for _, b := range bs {
		if i >= b.size() {
			i -= b.size()
			continue
		}
		vowel := b.vowels[i%len(b.vowels)]
		i /= len(b.vowels)
		return slices.Concat(b.onsets[i%len(b.onsets)], []spelling.Pair{vowel}, b.codas[i/len(b.onsets)])
	}
	panic("words: no such combination")
}

// space is all combinations of legal runs, with the target in each where there is one.
func (m *maker) space() blocks {
	t := m.q.Target
	if t == nil {
		return blocks{{m.onsets, m.codas, m.vowels}}
	}
	if slices.Contains(m.vowels, *t) {
		return blocks{{m.onsets, m.codas, []spelling.Pair{*t}}}
	}
	part := func(runs [][]spelling.Pair) (with, without [][]spelling.Pair) {
		for _, r := range runs {
			if slices.Contains(r, *t) {
				with = append(with, r)
			} else {
				without = append(without, r)
			}
		}
		return with, without
	}
	startsWith, others := part(m.onsets)
	endsWith, _ := part(m.codas)
	return blocks{{startsWith, m.codas, m.vowels}, {others, endsWith, m.vowels}}
}

func (m *maker) try(pairs []spelling.Pair, seen map[string]bool, out *[]MadeUp) {
	word, ok := m.spell(pairs)
	if !ok || seen[word] {
		return
	}
	seen[word] = true
	read, err := lexicon.Segment(word, m.o.Accent, m.o.Units)
	if err != nil || read.Source != lexicon.FromRules { // a word, or one with an ending
		return
	}
	segs := read.Segments
	if len(segs) != len(pairs) { // the rules read it in another way: two readings
		return
	}
	for i, s := range segs {
		if s.Odd || s.Rare || s.Pair != pairs[i] {
			return
		}
	}
	if lexicon.IsWord(word) || soundsUnfit(word, m.o) {
		return
	}
	if codes := lexicon.GuessCodes(word, m.o.Accent); lexicon.HomophoneOfWord(codes) || lexicon.HomophoneOfForm(codes) {
		return
	}
	*out = append(*out, MadeUp{word, segs, m.frame})
}

// soundsUnfit tells whether what is no word looks like a word that is kept from children, or sounds in any accent like
// a strong one or one sound away from it.
func soundsUnfit(letters string, o Options) bool {
	if _, refused := unfit.Of(letters); refused {
		return true
	}
	if lexicon.For(o.Accent, o.Units).Heard(o.Sounds(letters)) >= minOffered { // duk sounds like duck: a fit word
		return false
	}
	if unfit.LooksLike(letters) {
		return true
	}
	for _, a := range phoneme.Accents {
		read, err := lexicon.Segment(letters, a, o.Units)
		if err != nil || unfit.SoundsLike(read.Phonemes, a) {
			return true
		}
	}
	return false
}

// inflection tells whether the end looks like a plural or a past form.
func inflection(coda []spelling.Pair) bool {
	if len(coda) < 2 {
		return false
	}
	last, before := coda[len(coda)-1].Sound, coda[len(coda)-2].Sound
	return last == "z" || last == "d" && before != "n" && before != "l" || last == "s" ||
		last == "t" && strings.Contains("ʃ tʃ p k θ", before)
}

// spell joins the pairs to a word where English would spell it so.
func (m *maker) spell(pairs []spelling.Pair) (string, bool) {
	v := strings.IndexByte(m.frame, 'V')
	if len(pairs) == 0 {
		return "", false
	}
	coda := wordSounds(pairs[v+1:])
	vowel := pairs[v]
	split := strings.HasSuffix(vowel.Grapheme, "-e")
	vs, _ := phoneme.Lookup(m.o.Accent, phoneme.Phoneme(vowel.Sound))
	short := vs.VowelKind == phoneme.Short
	if len(pairs) > v+2 && m.legal.codas[vowel.Sound+"."+coda] < atLeast ||
		m.legal.rimes[pairsKey(pairs[v:min(v+2, len(pairs))])] == 0 {
		return "", false
	}
	if strings.HasPrefix(vowel.Sound, "j") && (v == 0 || m.legal.glides[pairsKey(pairs[v-1:v+1])] == 0) {
		return "", false
	}
	if inflection(pairs[v+1:]) || short && v == len(pairs)-1 { // no English word ends in a short vowel
		return "", false
	}
	if split && len(pairs) != v+2 {
		return "", false
	}
	var b strings.Builder
	for i, p := range pairs {
		g := p.Grapheme
		last := i == len(pairs)-1
		switch {
		case i > v && last && i == v+1 && short && len(vowel.Grapheme) == 1 && doubled[p.Sound] != "" &&
			g != doubled[p.Sound]:
			return "", false
		case p.Sound == "k" && i+1 < len(pairs) && (g == "c") == strings.Contains("eiy", pairs[i+1].Grapheme[:1]),
			p.Sound == "k" && g == "c" && last:
			return "", false
		case p.Sound == "ɡ" && i+1 < len(pairs) && strings.Contains("eiy", pairs[i+1].Grapheme[:1]),
			p.Sound == "z" && g == "s",
			p.Sound == "tʃ" && g == "ch" && last && short:
			return "", false
		}
		if i == v && split {
			g = strings.TrimSuffix(g, "-e")
		}
		b.WriteString(g)
	}
	if split {
		b.WriteString("e")
	}
	word := b.String()
	if len(word) < 3 || met(pairs) {
		return "", false
	}
	for _, unclear := range []string{
		"wa", "qua", "wo", "ind", "ild", "old", "oll", "ost", "all", "alk", "alt",
		"ead", "ough", "wor", "war", "igh" + "t" + "e", "ange", "aste", "thm", "psh", "sc" + "e",
	} {
		if strings.Contains(word, unclear) {
			return "", false
		}
	}
	return word, true
}

// met tells whether two graphemes meet in the same letter, as no English word has it.
func met(pairs []spelling.Pair) bool {
	for i := 1; i < len(pairs); i++ {
		before, now := strings.TrimSuffix(pairs[i-1].Grapheme, "-e"), pairs[i].Grapheme
		if before[len(before)-1] == now[0] {
			return true
		}
	}
	return false
}
