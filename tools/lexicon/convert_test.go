package main

import (
	"os"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"brightchalk/internal/core/lexicon"
	"brightchalk/internal/core/phoneme"
	"brightchalk/internal/core/spelling"
)

// The pronouncing dictionary's own sounds in the project's American inventory; unstressed AH and IH, and AA
// and AO, are not told apart, since speakers and the dictionary do not keep to it.
var plain = map[string]string{
	"AA": "ɑː",
	"AO": "ɑː",
	"AE": "æ",
	"AH": "ə",
	"IH": "ə",
	"EH": "e",
	"UH": "ʊ",
	"IY": "iː",
	"UW": "uː",
	"EY": "eɪ",
	"AY": "aɪ",
	"OY": "ɔɪ",
	"OW": "oʊ",
	"AW": "aʊ",
	"ER": "ɜːr",
	"P":  "p",
	"B":  "b",
	"T":  "t",
	"D":  "d",
	"K":  "k",
	"G":  "ɡ",
	"M":  "m",
	"N":  "n",
	"NG": "ŋ",
	"F":  "f",
	"V":  "v",
	"TH": "θ",
	"DH": "ð",
	"S":  "s",
	"Z":  "z",
	"SH": "ʃ",
	"ZH": "ʒ",
	"HH": "h",
	"CH": "tʃ",
	"JH": "dʒ",
	"L":  "l",
	"R":  "r",
	"W":  "w",
	"Y":  "j",
}

var merged = strings.NewReplacer("ɔːr", "ɑːr", "ɔɪ", "ɔɪ", "ɔː", "ɑː", "ɪər", "ɪər", "ɪ", "ə", "ʌ", "ə", "ər", "ɜːr")

// Words that neither the table nor the list was made from: nearly all align with no odd part, and what the
// rules guess is compared with the dictionary.
func TestHeldOutWordsOfThePronouncingDictionary(t *testing.T) {
	data, err := os.ReadFile("testdata/held-out.txt")
	require.NoError(t, err)
	al := &spelling.Aligner{}
	total, guessed := 0, 0
	var odd []string
	for line := range strings.Lines(string(data)) {
		word, sounds, ok := strings.Cut(strings.TrimSpace(line), "\t")
		if !ok {
			continue
		}
		total++
		phones := strings.Fields(sounds)
		codes := best(al, word, phones, false, false)
		segs := al.Align(word, codes, spelling.Cut{}, phoneme.GeneralAmerican, spelling.Units{})
		clean := len(segs) > 0
		for _, s := range segs {
			clean = clean && !s.Odd
		}
		if !clean {
			odd = append(odd, word)
		}
		want := ""
		for _, p := range phones {
			want += plain[strings.TrimRight(p, "012")]
		}
		if got, err := lexicon.Segment(
			word,
			phoneme.GeneralAmerican,
			spelling.Units{},
		); err == nil &&
			merged.Replace(phoneme.Join(got.Phonemes)) == merged.Replace(want) {
			guessed++
		}
	}
	t.Logf(
		"%d of %d align with no odd part; the rules guess %d as the dictionary has them; odd: %v",
		total-len(odd),
		total,
		guessed,
		odd,
	)
	require.Greater(t, total, 400)
	assert.LessOrEqual(t, len(odd)*100, total*8)
	assert.GreaterOrEqual(t, guessed*100, total*35)
}
