// Package phoneme holds the sounds of four accents of English with their articulation,
// and the lexical sets from which each accent's sounds follow.
package phoneme

import (
	"slices"
	"strings"

	"brightchalk/internal/core/fault"
)

// Phoneme is one sound in IPA, as in the inventory of an accent: "ʃ", "iː", "ɑːr".
type Phoneme string

// Accent names one of the inventories.
type Accent string

const (
	SouthernBritish Accent = "southern-british"
	NorthernEnglish Accent = "northern-english"
	GeneralAmerican Accent = "general-american"
	// NorthernStrut is Northern English for teams that keep cup and put apart.
	NorthernStrut Accent = "northern-english-strut"
)

// Accents lists the accents, the default first.
var Accents = []Accent{SouthernBritish, NorthernEnglish, GeneralAmerican, NorthernStrut}

// Rhotic tells whether the accent sounds r where it is written after a vowel.
func (a Accent) Rhotic() bool { return a == GeneralAmerican }

// American tells on which side of the ocean the accent is at home, for spellings and for words.
func (a Accent) American() bool { return a == GeneralAmerican }

// AccentName is an accent with its name for people.
type AccentName struct {
	ID   Accent `json:"id" enum:"southern-british,northern-english,northern-english-strut,general-american"`
	Name string `json:"name"`
}

// AccentNames lists the accents in the order in which they are offered.
func AccentNames() []AccentName {
	return []AccentName{
		{SouthernBritish, "Southern British"},
		{NorthernEnglish, "Northern English: cup has the vowel of put"},
		{NorthernStrut, "Northern English: cup and put kept apart"},
		{GeneralAmerican, "General American"},
	}
}

// ErrUnknownAccent and ErrUnknownSound are wrapped by what ParseAccent and Parse return.
const (
	ErrUnknownAccent fault.Code = "unknown-accent"
	ErrUnknownSound  fault.Code = "unknown-sound"
)

// ParseAccent reads an accent's name; the empty text is the default.
func ParseAccent(text string) (Accent, error) {
	if text == "" {
		return SouthernBritish, nil
	}
	if a := Accent(text); slices.Contains(Accents, a) {
		return a, nil
	}
	return "", fault.New(
		ErrUnknownAccent,
		"unknown accent %q: choose southern-british, northern-english, northern-english-strut or general-american",
		text,
	)
}

// Manner of articulation.
type Manner string

const (
	Stop        Manner = "stop"
	Affricate   Manner = "affricate"
	Fricative   Manner = "fricative"
	Nasal       Manner = "nasal"
	Approximant Manner = "approximant"
	Lateral     Manner = "lateral"
	Vowel       Manner = "vowel"
)

// VowelKind parts the vowels as teachers do.
type VowelKind string

const (
	NoVowel   VowelKind = ""
	Short     VowelKind = "short"
	Long      VowelKind = "long"
	Diphthong VowelKind = "two-part"
	Reduced   VowelKind = "reduced"
)

// Sound is a phoneme with its features.
type Sound struct {
	Phoneme     Phoneme   `json:"phoneme"`
	Voiced      bool      `json:"voiced"`
	Place       string    `json:"place"`
	Manner      Manner    `json:"manner"`
	Stretchable bool      `json:"stretchable"`
	VowelKind   VowelKind `json:"vowel_kind,omitempty"`
	KeyWord     string    `json:"key_word"`
	Contrast    Phoneme   `json:"contrast,omitempty"` // same place and manner, other voicing
	Initial     bool      `json:"initial"`            // English starts words with it
	Final       bool      `json:"final"`              // English ends words with it
}

// Consonants: voicing, place and manner after the IPA chart (International Phonetic Association,
// revised to 2020); English r as its chart's alveolar approximant, tʃ dʒ as affricates; positions and
// "stretchable" are common practice, no published source.
var consonants = []Sound{
	{"p", false, "both lips", Stop, false, NoVowel, "pan", "b", true, true},
	{"b", true, "both lips", Stop, false, NoVowel, "bat", "p", true, true},
	{"t", false, "tongue tip on the ridge", Stop, false, NoVowel, "tin", "d", true, true},
	{"d", true, "tongue tip on the ridge", Stop, false, NoVowel, "dig", "t", true, true},
	{"k", false, "back of the tongue", Stop, false, NoVowel, "kit", "ɡ", true, true},
	{"ɡ", true, "back of the tongue", Stop, false, NoVowel, "gap", "k", true, true},
	{"m", true, "both lips", Nasal, true, NoVowel, "map", "", true, true},
	{"n", true, "tongue tip on the ridge", Nasal, true, NoVowel, "net", "", true, true},
	{"ŋ", true, "back of the tongue", Nasal, true, NoVowel, "ring", "", false, true},
	{"f", false, "teeth on the lip", Fricative, true, NoVowel, "fan", "v", true, true},
	{"v", true, "teeth on the lip", Fricative, true, NoVowel, "van", "f", true, true},
	{"θ", false, "tongue tip at the teeth", Fricative, true, NoVowel, "thin", "ð", true, true},
	{"ð", true, "tongue tip at the teeth", Fricative, true, NoVowel, "this", "θ", true, true},
	{"s", false, "tongue tip on the ridge", Fricative, true, NoVowel, "sun", "z", true, true},
	{"z", true, "tongue tip on the ridge", Fricative, true, NoVowel, "zip", "s", true, true},
	{"ʃ", false, "tongue behind the ridge", Fricative, true, NoVowel, "ship", "ʒ", true, true},
	{"ʒ", true, "tongue behind the ridge", Fricative, true, NoVowel, "treasure", "ʃ", false, true},
	{"h", false, "open throat", Fricative, true, NoVowel, "hat", "", true, false},
	{"tʃ", false, "tongue behind the ridge", Affricate, false, NoVowel, "chip", "dʒ", true, true},
	{"dʒ", true, "tongue behind the ridge", Affricate, false, NoVowel, "jam", "tʃ", true, true},
	{"l", true, "tongue tip on the ridge", Lateral, true, NoVowel, "leg", "", true, true},
	{"r", true, "tongue tip behind the ridge", Approximant, true, NoVowel, "rug", "", true, false},
	{"w", true, "rounded lips", Approximant, true, NoVowel, "wet", "", true, false},
	{"j", true, "middle of the tongue", Approximant, true, NoVowel, "yes", "", true, false},
}

func vowel(p Phoneme, place string, kind VowelKind, key string, initial, final bool) Sound {
	return Sound{p, true, place, Vowel, kind != Reduced, kind, key, "", initial, final}
}

// Vowels common to the accents: quality after the IPA chart's vowel diagram; key words from memory.
var sharedVowels = []Sound{
	vowel("ɪ", "close front, lax", Short, "pin", true, false),
	vowel("e", "mid front", Short, "pen", true, false),
	vowel("æ", "open front", Short, "tap", true, false),
	vowel("ʌ", "open central", Short, "cup", true, false),
	vowel("ʊ", "close back, lax", Short, "foot", false, false),
	vowel("ə", "mid central", Reduced, "about", true, true),
	vowel("iː", "close front", Long, "feet", true, true),
	vowel("uː", "close back", Long, "moon", false, true),
	vowel("ɑː", "open back", Long, "palm", true, true),
	vowel("ɔː", "mid back, rounded", Long, "saw", true, true),
	vowel("eɪ", "mid to close front", Diphthong, "rain", true, true),
	vowel("aɪ", "open to close front", Diphthong, "night", true, true),
	vowel("ɔɪ", "back to close front", Diphthong, "coin", true, true),
	vowel("aʊ", "open to close back", Diphthong, "owl", true, true),
}

var britishVowels = []Sound{
	vowel("ɒ", "open back, rounded", Short, "pot", true, false),
	vowel("əʊ", "central to close back", Diphthong, "boat", true, true),
	vowel("ɜː", "mid central", Long, "turn", true, true),
	vowel("ɪə", "close front to central", Diphthong, "ear", true, true),
	vowel("eə", "mid front to central", Diphthong, "chair", true, true),
	vowel("ʊə", "close back to central", Diphthong, "pure", false, true),
}

var americanVowels = []Sound{
	vowel("oʊ", "back to close back", Diphthong, "boat", true, true),
	vowel("ɜːr", "r-coloured central", Long, "turn", true, true),
	vowel("ər", "r-coloured central", Reduced, "letter", false, true),
	vowel("ɑːr", "open back, then r", Long, "car", true, true),
	vowel("ɔːr", "mid back, then r", Long, "fork", true, true),
	vowel("ɪər", "close front, then r", Long, "ear", true, true),
	vowel("eər", "mid front, then r", Long, "chair", true, true),
	vowel("ʊər", "close back, then r", Long, "pure", false, true),
}

// joined is the inventory of an accent in which cup has the vowel of put.
func joined(sounds []Sound) []Sound {
	out := slices.DeleteFunc(slices.Clone(sounds), func(s Sound) bool { return s.Phoneme == "ʌ" })
	for i := range out {
		if out[i].Phoneme == "ʊ" {
			out[i].KeyWord, out[i].Initial = "cup", true
		}
	}
	return out
}

var inventories = func() map[Accent][]Sound {
	british := slices.Concat(consonants, sharedVowels, britishVowels)
	return map[Accent][]Sound{
		SouthernBritish: british,
		NorthernEnglish: joined(british),
		NorthernStrut:   british,
		GeneralAmerican: slices.Concat(consonants, sharedVowels, americanVowels),
	}
}()

var lookup = func() map[Accent]map[Phoneme]Sound {
	all := map[Accent]map[Phoneme]Sound{}
	for a, sounds := range inventories {
		all[a] = map[Phoneme]Sound{}
		for _, s := range sounds {
			all[a][s.Phoneme] = s
		}
	}
	return all
}()

// Inventory returns the sounds of an accent, consonants first. The caller may keep and change the slice.
func Inventory(a Accent) []Sound { return slices.Clone(inventories[a]) }

// Lookup finds a sound of the accent.
func Lookup(a Accent, p Phoneme) (Sound, bool) {
	s, ok := lookup[a][p]
	return s, ok
}

// IsVowel tells whether p is a vowel in any accent.
func IsVowel(p Phoneme) bool {
	for _, a := range Accents {
		if s, ok := lookup[a][p]; ok {
			return s.Manner == Vowel
		}
	}
	return false
}

var typed = strings.NewReplacer("g", "ɡ", "ɛ", "e", "ɹ", "r", ":", "ː", "ʧ", "tʃ", "ʤ", "dʒ", "/", "", " ", "", "'", "")

// Parse splits a text such as "kw", "juː" or "ʃ" into the accent's sounds, the longest first. ASCII g and
// colon are read as ɡ and ː; the sign of another accent stands for the vowel that this one has there.
// The error names the part that no sound fits.
func Parse(a Accent, text string) ([]Phoneme, error) {
	rest := typed.Replace(text)
	if a == NorthernEnglish {
		rest = strings.ReplaceAll(rest, "ʌ", "ʊ")
	}
	if a == GeneralAmerican {
		rest = strings.NewReplacer("əʊ", "oʊ", "ɒ", "ɑː").Replace(rest)
	} else {
		rest = strings.NewReplacer("oʊ", "əʊ", "ɜːr", "ɜː", "ɑːr", "ɑː", "ɔːr", "ɔː", "ɪər", "ɪə", "eər", "eə", "ʊər", "ʊə").
			Replace(rest)
	}
	if rest == "" {
		return nil, fault.New(ErrUnknownSound, "the sound is empty")
	}
	known := lookup[a]
	var out []Phoneme
next:
	for rest != "" {
		runes := []rune(rest)
		for n := min(3, len(runes)); n > 0; n-- {
			if _, ok := known[Phoneme(runes[:n])]; ok {
				out = append(out, Phoneme(runes[:n]))
				rest = string(runes[n:])
				continue next
			}
		}
		if runes[0] == 'a' && (len(runes) == 1 || runes[1] != 'ɪ' && runes[1] != 'ʊ') {
			out = append(out, "æ")
			rest = string(runes[1:])
			continue
		}
		return nil, fault.New(ErrUnknownSound, "unknown sound %q in %q: it is not a sound of %s", string(runes[0]), text, a)
	}
	return out, nil
}

// Join writes sounds one after the other without a mark between them.
func Join(sounds []Phoneme) string {
	var b strings.Builder
	for _, s := range sounds {
		b.WriteString(string(s))
	}
	return b.String()
}
