package recording

import (
	"brightchalk/internal/core/phoneme"
)

// Class parts the targets by what pure means for them.
type Class string

const (
	Hum       Class = "hum"       // m n ŋ l r w j: voiced and held
	Buzz      Class = "buzz"      // v z ð ʒ: voiced friction
	Breath    Class = "breath"    // f s ʃ θ h: friction without voice
	ShortOff  Class = "short off" // p t k tʃ and ks
	ShortOn   Class = "short on"  // b d ɡ dʒ
	ShortWord Class = "short on, then glide"
	Vowel     Class = "vowel"
	Glide     Class = "two-part vowel"
)

// Target is the sound that a take should hold: one phoneme, or the sequence kw or ks.
type Target struct {
	Text   string // IPA
	Sounds []phoneme.Sound
	Class  Class
}

// TargetOf reads IPA such as "m", "eɪ", "kw" or "ks". The error names what is no sound of the accent. Of any
// other sequence the first sound is judged.
func TargetOf(a phoneme.Accent, text string) (Target, error) {
	ps, err := phoneme.Parse(a, text)
	if err != nil {
		return Target{}, err
	}
	t := Target{Text: phoneme.Join(ps)}
	for _, p := range ps {
		s, _ := phoneme.Lookup(a, p)
		t.Sounds = append(t.Sounds, s)
	}
	switch t.Text {
	case "ks":
		t.Class = ShortOff
	case "kw":
		t.Class = ShortWord
	default:
		t.Class = soundClass(t.Sounds[0])
	}
	return t, nil
}

func soundClass(s phoneme.Sound) Class {
	switch {
	case s.VowelKind == phoneme.Diphthong:
		return Glide
	case s.Manner == phoneme.Vowel:
		return Vowel
	case !s.Stretchable && s.Voiced:
		return ShortOn
	case !s.Stretchable:
		return ShortOff
	case s.Voiced && s.Manner == phoneme.Fricative:
		return Buzz
	case s.Voiced:
		return Hum
	}
	return Breath
}

func (t Target) first() phoneme.Phoneme { return t.Sounds[0].Phoneme }
