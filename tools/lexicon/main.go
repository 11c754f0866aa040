// Command lexicon builds the embedded word list from open data (docs/data-and-licences.md): American
// pronunciations turned into lexical sets by rule and by reviewed overrides, families of words in one voice, how
// well young children know each word, and the letters joined to the sounds. Run tools/lexicon/build.sh.
package main

import (
	"cmp"
	"fmt"
	"log"
	"os"
	"path/filepath"
	"slices"
	"strings"

	"brightchalk/internal/core/spelling"
	"brightchalk/internal/core/unfit"
	"brightchalk/internal/core/wordform"
)

// word is a row in the making.
type word struct {
	letters  string
	codes    []string
	american []string
	decided  bool   // by hand: overrides, early list
	stem     string // that it was made from, or empty
	ending   wordform.Ending
	band     int
	side     string // "g" British only, "u" American only
	kind     string // T thing, D doing, L like, O other: from the early list
}

func main() {
	log.SetFlags(0)
	here := os.Args[1]
	src := read(here)
	b := builder{src: src, words: map[string]*word{}, al: &spelling.Aligner{}}
	b.pronounce()
	b.families()
	b.rate()
	b.write()
	b.writeThemes(filepath.Join(here, "../../internal/core/lexicon/data/themes.txt"))
	b.report(filepath.Join(here, "apart.txt"))
}

type builder struct {
	src   *sources
	words map[string]*word
	al    *spelling.Aligner
	apart []string // words of a family that do not speak with its voice
}

// pronounce gives each candidate its codes: by hand, else from the dictionary, else from its other spelling.
func (b *builder) pronounce() {
	for letters := range b.src.candidates() {
		w := &word{letters: letters, american: b.src.american[letters]}
		if w.codes = b.src.overrides[letters]; w.codes != nil {
			w.decided = true
		} else {
			w.codes = b.dictionary(letters, letters)
		}
		if w.codes == nil && b.src.britishOf[letters] != "" {
			w.codes = b.dictionary(letters, b.src.britishOf[letters])
			if other := b.src.overrides[b.src.britishOf[letters]]; other != nil {
				w.codes, w.decided = other, true
			}
		}
		b.words[letters] = w
	}
	for letters, parts := range b.src.parts {
		if w := b.words[letters]; len(w.codes) == 0 {
			front, back := b.part(parts[0]), b.part(parts[1])
			if front == "" || back == "" {
				log.Fatalf("early.txt: no sounds for %s+%s", parts[0], parts[1])
			}
			w.codes = []string{front + back}
		}
	}
}

// part gives the codes of a part of a compound.
func (b *builder) part(letters string) string {
	if w := b.words[letters]; w != nil && len(w.codes) > 0 {
		return w.codes[0]
	}
	if c := b.src.overrides[letters]; c != nil {
		return c[0]
	}
	return first(b.dictionary(letters, letters))
}

func (b *builder) dictionary(letters, under string) []string {
	for _, p := range b.src.cmu[under] {
		if c := best(b.al, letters, strings.Fields(p), b.src.bath[letters], b.src.cloth[letters]); c != "" {
			return []string{c} // second pronunciations are only taken from the overrides
		}
	}
	return nil
}

// families lets every inflected or derived form speak as its stem does. The stems come first, so that a form of a
// form follows too.
func (b *builder) families() {
	all := slices.SortedFunc(mapValues(b.words), func(x, y *word) int {
		return cmp.Or(cmp.Compare(len(x.letters), len(y.letters)), strings.Compare(x.letters, y.letters))
	})
	for _, w := range all {
		stem, ending, codes := b.stem(w)
		if stem == nil {
			if at, joined := b.seams(w.letters, first(w.codes)); at > 0 && !w.decided { // a compound speaks as its parts do
				w.codes = []string{joined}
			}
			continue
		}
		w.stem, w.ending = stem.letters, ending
		if w.american == nil && stem.american != nil {
			if c, ok := wordform.Sound(stem.letters, stem.american[0], ending); ok && c != codes {
				w.american = []string{c}
			}
		}
		if w.decided {
			if w.codes[0] != codes && !slices.Contains(w.codes, codes) {
				b.apart = append(b.apart, fmt.Sprintf("%s %s %s %s", w.letters, w.codes[0], stem.letters, codes))
			}
			continue
		}
		w.codes = []string{codes}
	}
}

// stem finds the word that w is a form of: one whose sounds with the ending are w's, or nearly so. Of a word that
// the dictionary lacks the likeliest stem is taken.
func (b *builder) stem(w *word) (*word, wordform.Ending, string) {
	if b.src.alone[w.letters] {
		return nil, wordform.Ending{}, ""
	}
	var found *word
	var how wordform.Ending
	var said string
	for _, s := range wordform.Stems(w.letters) {
		stem := b.words[s.Word]
		if stem == nil || len(stem.codes) == 0 || len(s.Word) < 3 && !s.Ending.Inflects || stem == w {
			continue
		}
		for _, c := range stem.codes {
			codes, ok := wordform.Sound(stem.letters, c, s.Ending)
			switch {
			case !ok:
			case len(w.codes) == 0 && found == nil:
				found, how, said = stem, s.Ending, codes
			case len(w.codes) > 0 && w.codes[0] == codes && s.Ending.Inflects: // slippers are more than one slipper
				return stem, s.Ending, codes
			case len(w.codes) > 0 && w.codes[0] == codes && (found == nil || said != codes):
				found, how, said = stem, s.Ending, codes
			case len(w.codes) > 0 && s.Ending.Inflects && found == nil && (s.Ending.Letters == "s" &&
				!strings.HasSuffix(w.letters, "ss") && !voiced(s.Word) && strings.Contains(b.src.early[s.Word].kind, "T") ||
				b.formInDictionary(w, s)): // caterpillars: the stem was decided by hand
				found, how, said = stem, s.Ending, codes
			case len(w.codes) > 0 && found == nil && (wordform.IsNear(w.codes[0], codes) || strings.HasSuffix(stem.letters,
				"le") && lax(w.codes[0], codes)):
				found, how, said = stem, s.Ending, codes
			}
		}
	}
	return found, how, said
}

// voiced tells whether a plural may voice the end of its stem: paths, houses.
func voiced(stem string) bool {
	return strings.HasSuffix(stem, "th") || strings.HasSuffix(stem, "house")
}

// formInDictionary tells whether the dictionary's own sounds of the stem make those of the form.
func (b *builder) formInDictionary(w *word, s wordform.Stem) bool {
	for _, c := range b.dictionary(s.Word, s.Word) {
		codes, ok := wordform.Sound(s.Word, c, s.Ending)
		if ok && wordform.IsNear(w.codes[0], codes) {
			return true
		}
	}
	return false
}

// lax passes over a schwa before l: the dictionary gives tickling three syllables.
func lax(a, b string) bool {
	drop := strings.NewReplacer("@l", "l")
	return wordform.IsNear(drop.Replace(a), drop.Replace(b))
}

// cut tells where a word is joined and whether its last letters are an inflection.
func (b *builder) cut(w *word, codes string) spelling.Cut {
	var c spelling.Cut
	bare, un := strings.CutPrefix(w.letters, "un")
	c.Plain = !(w.stem != "" && w.ending.Inflects) && !b.inflected(w.letters) &&
		!(un && b.words[bare] != nil && b.words[bare].stem != "")
	if w.stem != "" && b.words[w.stem] != nil && !strings.HasSuffix(w.letters, "s") {
		if seams, _ := b.seams(w.stem, first(b.words[w.stem].codes)); strings.HasPrefix(w.letters, w.stem) && seams > 0 {
			c.Seams = append(c.Seams, seams)
			return c
		}
	}
	base, baseCodes := w.letters, codes
	if s, ok := strings.CutSuffix(base, "s"); ok && b.words[s] != nil && w.stem == s {
		base, baseCodes = s, b.words[s].codes[0]
	}
	if at, _ := b.seams(base, baseCodes); at > 0 {
		c.Seams = append(c.Seams, at)
	}
	return c
}

// Beginnings that are set before words, with their codes.
var beginnings = map[string]string{
	"mis":   "mis",
	"dis":   "dis",
	"un":    "un",
	"re":    "rE",
	"over":  "Gv4",
	"under": "und4",
	"out":   "Wt",
	"up":    "up",
	"in":    "in",
	"any":   "eny",
	"every": "evry",
	"some":  "sum",
	"no":    "nG",
	"fore":  "fK",
	"after": "qft4",
	"sub":   "sub",
	"grand": "gran",
}

// inflected tells whether a word that has no stem in the list may have one outside it: mashed.
func (b *builder) inflected(letters string) bool {
	return slices.ContainsFunc(wordform.Stems(letters), func(s wordform.Stem) bool {
		return s.Ending.Inflects && b.src.isWord[s.Word] && (b.words[s.Word] == nil || len(b.words[s.Word].codes) == 0)
	})
}

func first(codes []string) string {
	if len(codes) == 0 {
		return ""
	}
	return codes[0]
}

// seams gives the place where two words are joined, or 0, and the codes of both: both are known, and the sounds of
// the whole are theirs.
func (b *builder) seams(letters, codes string) (int, string) {
	if b.src.alone[letters] {
		return 0, ""
	}
	for i := len(letters) - 2; i >= 2; i-- {
		first, second := b.words[letters[:i]], b.words[letters[i:]]
		var heads []string
		whole := first != nil && i >= 3
		if whole {
			heads = append(heads, first.codes...)
		}
		if c, ok := beginnings[letters[:i]]; ok {
			heads = append(heads, c)
		}
		if second == nil || len(letters)-i < 3 {
			continue
		}
		for _, h := range heads {
			for _, t := range second.codes {
				switch {
				case !wordform.IsNear(h+t, codes):
				case whole:
					return i, h + t
				default: // a beginning may be weak: repair
					return i, codes
				}
			}
		}
	}
	return 0, ""
}

func (b *builder) join(w *word, codes string) string {
	c := b.cut(w, codes)
	joined := b.al.Join(w.letters, codes, c)
	if strings.Contains(joined, "!") && len(c.Seams) > 0 {
		c.Seams = nil
		joined = b.al.Join(w.letters, codes, c)
	}
	return joined
}

// writeThemes lists the things of each theme that the lexicon holds.
func (b *builder) writeThemes(path string) {
	out := "# Theme, its things. Made by tools/lexicon from early.txt; do not edit.\n"
	for _, theme := range slices.Sorted(mapKeys(b.src.themes)) {
		out += theme
		for _, letters := range b.src.themes[theme] {
			if w := b.words[letters]; w != nil && len(w.codes) > 0 {
				out += " " + letters
			}
		}
		out += "\n"
	}
	if err := os.WriteFile(path, []byte(out), 0o600); err != nil {
		log.Fatal(err)
	}
}

func (b *builder) write() {
	fmt.Println(
		"# word, letters joined to codes (readings parted by commas; after a | the American ones where they differ), " +
			"familiarity 0 (rare) to 5 (every child of five), count in film subtitles in hundreds (coarse), flags, stem",
	)
	fmt.Println(
		"# flags: n v a r parts of speech, N plural, V verb form; T thing, D doing, L like, O small word of a young " +
			"child; g British only, u American only; x not for children; - none",
	)
	fmt.Println("# Made by tools/lexicon; do not edit. Sources and licences: docs/data-and-licences.md")
	for _, letters := range slices.Sorted(mapKeys(b.words)) {
		w := b.words[letters]
		if len(w.codes) == 0 {
			continue
		}
		list := func(codes []string) string {
			var out []string
			for _, c := range codes {
				joined := b.join(w, c)
				back, err := spelling.ReadJoined(letters, joined)
				if err != nil || back.Codes != c {
					log.Fatalf("%s %s: %s: %v", letters, c, joined, err)
				}
				out = append(out, joined)
			}
			return strings.Join(out, ",")
		}
		all := list(w.codes)
		if w.american != nil {
			all += "|" + list(w.american)
		}
		stem := w.stem
		if verb := b.src.irregular[letters]; verb != "" && verb != letters {
			stem = verb
		}
		if stem == "" {
			stem = "-"
		}
		fmt.Printf("%s\t%s\t%d\t%d\t%s\t%s\n", letters, all, w.band, b.src.subtlex[letters]/100, b.flags(w), stem)
	}
}

func (b *builder) flags(w *word) string {
	pos := b.src.pos[w.letters]
	if w.stem != "" && w.ending.Inflects {
		stem, kind := b.src.pos[w.stem], w.kindOf(b)
		kept := only(pos, "a")
		pos = ""
		if strings.HasSuffix(w.letters, "s") && (strings.Contains(stem, "n") && kind != "D" || strings.Contains(kind, "T")) {
			pos = "N"
		}
		if verbal := !strings.HasSuffix(
			w.letters,
			"s",
		); verbal || strings.Contains(stem, "v") && kind != "T" ||
			strings.Contains(kind, "D") {
			pos += "V" + kept
		}
	}
	if b.src.irregular[w.letters] != "" {
		pos = "v" + only(pos, "n")
		if b.src.pos[w.letters] == "n" && w.kind == "" { // sat and ran are no nouns to a child
			pos = "v"
		}
	}
	pos += w.kind + w.side
	if _, refused := unfit.Of(w.letters); refused {
		pos += "x"
	}
	if pos == "" {
		return "-"
	}
	return pos
}

func (w *word) kindOf(b *builder) string {
	if s := b.words[w.stem]; s != nil {
		return s.kind
	}
	return w.kind
}

func only(s, keep string) string {
	return strings.Map(func(r rune) rune {
		if strings.ContainsRune(keep, r) {
			return r
		}
		return -1
	}, s)
}

// report writes the words decided by hand that do not speak as their family does, and what is new among them.
func (b *builder) report(path string) {
	listed := map[string]bool{}
	for line := range strings.Lines(readFile(path)) {
		if f := strings.Fields(line); len(f) > 0 && f[0] != "#" {
			listed[f[0]] = true
		}
	}
	slices.Sort(b.apart)
	for _, a := range b.apart {
		if w, _, _ := strings.Cut(a, " "); !listed[w] {
			fmt.Fprintln(os.Stderr, "apart from its family, and not in apart.txt:", a)
		}
	}
	counts := [6]int{}
	for _, w := range b.words {
		if len(w.codes) == 0 {
			if w.band >= 4 || b.src.early[w.letters].kind != "" {
				fmt.Fprintln(os.Stderr, "no pronunciation:", w.letters)
			}
			continue
		}
		counts[w.band]++
	}
	fmt.Fprintln(os.Stderr, "words by familiarity 0 to 5:", counts)
}
