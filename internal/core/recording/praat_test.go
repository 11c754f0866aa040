package recording_test

import (
	"bytes"
	"encoding/binary"
	"os"
	"strconv"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"brightchalk/internal/core/recording"
)

// plainWAV reads the demo's takes: 16-bit mono with a head of 44 bytes.
func plainWAV(t *testing.T, file string) recording.Clip {
	t.Helper()
	data, err := os.ReadFile(file)
	require.NoError(t, err)
	samples := make([]int16, (len(data)-44)/2)
	require.NoError(t, binary.Read(bytes.NewReader(data[44:]), binary.LittleEndian, samples))
	c := recording.Clip{Hertz: int(binary.LittleEndian.Uint32(data[24:]))}
	for _, v := range samples {
		c.Samples = append(c.Samples, float64(v)/(1<<15))
	}
	return c
}

// Praat (P. Boersma and D. Weenink, the version is named in the file) is the outside reference: pitch within
// 5 %, the formants of vowels within 12 %, voiced or not alike.
func TestDemoTakesAgainstPraat(t *testing.T) {
	table, err := os.ReadFile("testdata/praat.tsv")
	require.NoError(t, err)
	sounds := map[string]string{"a": "æ", "e": "e", "i": "ɪ", "o": "ɒ", "u": "ʌ", "c": "k", "g": "ɡ"}
	seen := 0
	for line := range strings.Lines(string(table)) {
		f := strings.Fields(line)
		if strings.HasPrefix(line, "#") {
			continue
		}
		name := strings.TrimSuffix(f[0], ".wav")
		target, isVowel := sounds[name], strings.Contains("aeiou", name)
		if target == "" {
			target = name
		}
		r := recording.Judge(plainWAV(t, "../../../demo/takes/"+f[0]), sound(target))
		voiced, err := strconv.Atoi(f[1])
		require.NoError(t, err)
		seen++
		if voiced == 0 {
			for _, f := range r.Findings { // of a click, single frames may count as voiced
				assert.NotEqual(t, "voicing", f.Code, "%s: Praat hears no voice", name)
			}
			continue
		}
		f0, err := strconv.ParseFloat(f[2], 64)
		require.NoError(t, err)
		assert.InEpsilon(t, f0, r.F0Hertz, 0.05, "pitch of %s", name)
		if isVowel {
			f1, _ := strconv.ParseFloat(f[5], 64)
			f2, _ := strconv.ParseFloat(f[6], 64)
			assert.InEpsilon(t, f1, r.Measures.F1Hertz, 0.12, "F1 of %s", name)
			assert.InEpsilon(t, f2, r.Measures.F2Hertz, 0.12, "F2 of %s", name)
		}
	}
	assert.Equal(t, 18, seen)
}
