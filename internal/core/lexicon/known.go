package lexicon

import (
	"bytes"
	"compress/gzip"
	_ "embed"
	"io"
	"strings"
	"sync"

	"brightchalk/internal/core/phoneme"
	"brightchalk/internal/core/wordform"
)

// Words of up to seven letters of several large word lists, and what the pronouncing dictionary makes of
// them; tools/lexicon/known.mjs.
//
//go:embed data/known.txt.gz
var knownText []byte

type knownSets struct{ words, sounds map[string]bool }

var known = sync.OnceValue(func() knownSets {
	words, sounds, _ := strings.Cut(unzip(knownText), "\n\n")
	k := knownSets{make(map[string]bool, 90_000), make(map[string]bool, 60_000)}
	for w := range strings.Lines(words) {
		k.words[strings.TrimSpace(w)] = true
	}
	for s := range strings.Lines(sounds) {
		k.sounds[strings.TrimSpace(s)] = true
	}
	for w := range load() {
		k.words[w] = true
	}
	return k
})

// unzip reads an embedded file.
func unzip(data []byte) string {
	z, err := gzip.NewReader(bytes.NewReader(data))
	if err != nil {
		panic(err)
	}
	text, err := io.ReadAll(z)
	if err != nil {
		panic(err)
	}
	return string(text)
}

// IsWord tells whether any list holds the word, common or rare, fit for children or not.
func IsWord(word string) bool { return known().words[word] }

// arpabet writes a lexical set in the symbols of the pronouncing dictionary, without stress.
var arpabet = map[byte]string{
	'p': "P",
	'b': "B",
	't': "T",
	'd': "D",
	'k': "K",
	'g': "G",
	'm': "M",
	'n': "N",
	'N': "NG",
	'f': "F",
	'v': "V",
	'T': "TH",
	'D': "DH",
	's': "S",
	'z': "Z",
	'S': "SH",
	'Z': "ZH",
	'h': "HH",
	'C': "CH",
	'J': "JH",
	'l': "L",
	'r': "R",
	'w': "W",
	'j': "Y",
	'i': "IH",
	'e': "EH",
	'a': "AE",
	'q': "AE",
	'o': "AA",
	'x': "AO",
	'u': "AH",
	'U': "UH",
	'@': "AH",
	'E': "IY",
	'y': "IY",
	'A': "EY",
	'Y': "AY",
	'X': "OY",
	'G': "OW",
	'W': "AW",
	'L': "UW",
	'P': "AA",
	'c': "AO",
	'R': "AA R",
	'K': "AO R",
	'3': "ER",
	'4': "ER",
	'5': "IH R",
	'6': "EH R",
	'7': "UH R",
}

// HomophoneOfWord tells whether the codes sound like a word in America by the pronouncing dictionary, or
// like a word of the lexicon in any accent.
func HomophoneOfWord(codes string) bool {
	var parts []string
	for i := range len(codes) {
		if s := arpabet[codes[i]]; s != "" {
			parts = append(parts, s)
		}
	}
	spoken := strings.Join(parts, " ")
	k := known()
	// LOT and CLOTH fall together or apart from place to place.
	if k.sounds[spoken] || k.sounds[strings.ReplaceAll(spoken, "AA", "AO")] {
		return true
	}
	for i, a := range phoneme.Accents {
		if spokenWords(i)[phoneme.Join(phoneme.Realise(a, codes, 0))] {
			return true
		}
	}
	return false
}

// HomophoneOfForm tells whether the codes sound like a plural or a past form of a word: joid, like joy with its ending.
func HomophoneOfForm(codes string) bool {
	for _, ending := range []string{"s", "ed"} {
		for _, more := range []string{"s", "z", "iz", "t", "d", "id"} {
			stem, ok := strings.CutSuffix(codes, more)
			if !ok {
				continue
			}
			if made, _ := wordform.Sound("", stem, wordform.Ending{Letters: ending}); made == codes && HomophoneOfWord(stem) {
				return true
			}
		}
	}
	return false
}

// GuessCodes gives the codes of a word that the lexicon lacks, as Segment reads it.
func GuessCodes(word string, a phoneme.Accent) string {
	codes, _, _ := guess(word, a)
	return codes
}

var spokenCache = make([]func() map[string]bool, len(phoneme.Accents))

func init() {
	for i, a := range phoneme.Accents {
		spokenCache[i] = sync.OnceValue(func() map[string]bool {
			out := make(map[string]bool, 24_000)
			for _, e := range Words() {
				for _, c := range e.CodesIn(a) {
					out[phoneme.Join(phoneme.Realise(a, c, 0))] = true
				}
			}
			return out
		})
	}
}

func spokenWords(i int) map[string]bool { return spokenCache[i]() }
