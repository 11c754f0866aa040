package phoneme_test

import (
	"fmt"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"brightchalk/internal/core/phoneme"
)

// Voicing, place and manner from the IPA chart (International Phonetic Association, revised to 2020).
func TestFeaturesFollowTheIPAChart(t *testing.T) {
	rows := []struct {
		sounds string
		voiced bool
		manner phoneme.Manner
	}{
		{"ptk", false, phoneme.Stop},
		{"bdɡ", true, phoneme.Stop},
		{"mnŋ", true, phoneme.Nasal},
		{"fθsʃh", false, phoneme.Fricative},
		{"vðzʒ", true, phoneme.Fricative},
		{"rwj", true, phoneme.Approximant},
		{"l", true, phoneme.Lateral},
	}
	for _, accent := range phoneme.Accents {
		for _, r := range rows {
			for _, c := range r.sounds {
				s, ok := phoneme.Lookup(accent, phoneme.Phoneme(c))
				require.True(t, ok, "%s lacks %c", accent, c)
				assert.Equal(t, r.voiced, s.Voiced, "voicing of %c", c)
				assert.Equal(t, r.manner, s.Manner, "manner of %c", c)
			}
		}
	}
	places := map[phoneme.Phoneme]string{
		"p": "both lips",
		"m": "both lips",
		"f": "teeth on the lip",
		"k": "back of the tongue",
		"θ": "tongue tip at the teeth",
		"ð": "tongue tip at the teeth",
	}
	for p, place := range places {
		s, _ := phoneme.Lookup(phoneme.SouthernBritish, p)
		assert.Equal(t, place, s.Place, "place of %s", p)
	}
}

// Which sounds can be stretched, and where English does not put a sound: common practice, no published source.
func TestStretchAndPositions(t *testing.T) {
	for _, p := range []phoneme.Phoneme{"m", "s", "θ", "f", "l", "n", "r", "v", "z"} {
		s, _ := phoneme.Lookup(phoneme.SouthernBritish, p)
		assert.True(t, s.Stretchable, "%s", p)
	}
	for _, p := range []phoneme.Phoneme{"p", "b", "t", "d", "k", "ɡ", "tʃ", "dʒ"} {
		s, _ := phoneme.Lookup(phoneme.SouthernBritish, p)
		assert.False(t, s.Stretchable, "%s", p)
	}
	for p, initial := range map[phoneme.Phoneme]bool{"ŋ": false, "h": true, "w": true, "j": true} {
		s, _ := phoneme.Lookup(phoneme.SouthernBritish, p)
		assert.Equal(t, initial, s.Initial, "%s at the start", p)
		assert.Equal(t, !initial, s.Final, "%s at the end", p)
	}
}

func TestParse(t *testing.T) {
	rows := []struct {
		name, text string
		accent     phoneme.Accent
		want       []phoneme.Phoneme
	}{
		{"two sounds", "kw", phoneme.SouthernBritish, []phoneme.Phoneme{"k", "w"}},
		{"an affricate is one", "tʃ", phoneme.SouthernBritish, []phoneme.Phoneme{"tʃ"}},
		{"typed g and colon", "gu:", phoneme.SouthernBritish, []phoneme.Phoneme{"ɡ", "uː"}},
		{"a plain a is the trap vowel", "a", phoneme.SouthernBritish, []phoneme.Phoneme{"æ"}},
		{"an American vowel for a British team", "oʊ", phoneme.SouthernBritish, []phoneme.Phoneme{"əʊ"}},
		{"a British vowel for an American team", "əʊ", phoneme.GeneralAmerican, []phoneme.Phoneme{"oʊ"}},
		{"r colour in one slot", "ɔːr", phoneme.GeneralAmerican, []phoneme.Phoneme{"ɔːr"}},
	}
	for _, r := range rows {
		t.Run(r.name, func(t *testing.T) {
			got, err := phoneme.Parse(r.accent, r.text)
			require.NoError(t, err)
			assert.Equal(t, r.want, got)
		})
	}
	for _, bad := range []string{"", "q", "☃", "ʔ"} {
		_, err := phoneme.Parse(phoneme.SouthernBritish, bad)
		assert.ErrorIs(t, err, phoneme.ErrUnknownSound, "%q", bad)
	}
}

// The accents' differences as J. C. Wells describes the sets in Accents of English, 1982 (from memory).
func TestRealise(t *testing.T) {
	rows := []struct {
		name, codes             string
		south, north, americans string
	}{
		{"bath", "bqT", "bɑːθ", "bæθ", "bæθ"},
		{"lot", "hot", "hɒt", "hɒt", "hɑːt"},
		{"r at the end", "kR", "kɑː", "kɑː", "kɑːr"},
		{"r before a vowel is heard everywhere", "stKy", "stɔːriː", "stɔːriː", "stɔːriː"},
		{"yod", "n^L", "njuː", "njuː", "nuː"},
	}
	for _, r := range rows {
		t.Run(r.name, func(t *testing.T) {
			assert.Equal(t, r.south, phoneme.Join(phoneme.Realise(phoneme.SouthernBritish, r.codes, 0)))
			assert.Equal(t, r.north, phoneme.Join(phoneme.Realise(phoneme.NorthernEnglish, r.codes, 0)))
			assert.Equal(t, r.americans, phoneme.Join(phoneme.Realise(phoneme.GeneralAmerican, r.codes, 0)))
		})
	}
}

func TestParseAccent(t *testing.T) {
	a, err := phoneme.ParseAccent("")
	require.NoError(t, err)
	assert.Equal(t, phoneme.SouthernBritish, a)
	_, err = phoneme.ParseAccent("martian")
	require.ErrorIs(t, err, phoneme.ErrUnknownAccent)
}

func ExampleParse() {
	sounds, _ := phoneme.Parse(phoneme.SouthernBritish, "kw")
	fmt.Println(sounds)
	// Output: [k w]
}

func ExampleInventory() {
	fmt.Println(len(phoneme.Inventory(phoneme.SouthernBritish)))
	// Output: 44
}

func TestWhatOnlyOneAccentHas(t *testing.T) {
	for _, r := range []struct {
		accent phoneme.Accent
		text   string
		want   string
	}{
		{phoneme.GeneralAmerican, "əʊ", "oʊ"},
		{phoneme.GeneralAmerican, "ɒ", "ɑː"},
		{phoneme.GeneralAmerican, "ɜːr", "ɜːr"},
		{phoneme.SouthernBritish, "oʊ", "əʊ"},
		{phoneme.SouthernBritish, "ɜːr", "ɜː"},
		{phoneme.SouthernBritish, "eər", "eə"},
		{phoneme.NorthernEnglish, "ʌ", "ʊ"},
		{phoneme.NorthernStrut, "ʌ", "ʌ"},
		{phoneme.SouthernBritish, "a", "æ"},
		{phoneme.SouthernBritish, "at", "æ t"},
		{phoneme.SouthernBritish, "aɪ", "aɪ"},
		{phoneme.SouthernBritish, "aʊ", "aʊ"},
		{phoneme.SouthernBritish, "ta", "t æ"},
		{phoneme.SouthernBritish, "/k s/", "k s"},
		{phoneme.SouthernBritish, "jʊə", "j ʊə"},
	} {
		got, err := phoneme.Parse(r.accent, r.text)
		require.NoError(t, err, r.text)
		parts := make([]string, len(got))
		for i, p := range got {
			parts[i] = string(p)
		}
		assert.Equal(t, r.want, strings.Join(parts, " "), "%s in %s", r.text, r.accent)
	}
	_, err := phoneme.Parse(phoneme.SouthernBritish, "")
	assert.ErrorIs(t, err, phoneme.ErrUnknownSound)
	_, err = phoneme.Parse(phoneme.SouthernBritish, "t?")
	assert.ErrorContains(t, err, `unknown sound "?"`)
}

// The reduced vowel is not held, every other is; cup is the key word where it has the vowel of put.
func TestVowelsAreHeld(t *testing.T) {
	for _, a := range phoneme.Accents {
		for _, s := range phoneme.Inventory(a) {
			if s.Manner == phoneme.Vowel {
				assert.Equal(t, s.VowelKind != phoneme.Reduced, s.Stretchable, "%s in %s", s.Phoneme, a)
				assert.True(t, phoneme.IsVowel(s.Phoneme))
			} else {
				assert.False(t, phoneme.IsVowel(s.Phoneme))
			}
		}
	}
	north, _ := phoneme.Lookup(phoneme.NorthernEnglish, "ʊ")
	assert.Equal(t, "cup", north.KeyWord)
	assert.True(t, north.Initial)
	other, _ := phoneme.Lookup(phoneme.NorthernEnglish, "e")
	assert.Equal(t, "pen", other.KeyWord)
	south, _ := phoneme.Lookup(phoneme.SouthernBritish, "ʊ")
	assert.False(t, south.Initial)
	_, there := phoneme.Lookup(phoneme.NorthernEnglish, "ʌ")
	assert.False(t, there)
	assert.False(t, phoneme.IsVowel("no sound"))
}

func TestOnlyTheAmericanAccentSoundsItsR(t *testing.T) {
	for _, a := range phoneme.Accents {
		assert.Equal(t, a == phoneme.GeneralAmerican, a.Rhotic(), a)
		assert.Equal(t, a == phoneme.GeneralAmerican, a.American(), a)
	}
}
