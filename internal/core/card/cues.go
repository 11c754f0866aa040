package card

import (
	"strings"

	"brightchalk/internal/core/convention"
	"brightchalk/internal/core/phoneme"
	"brightchalk/internal/core/spelling"
)

// TherapyCaution stands wherever a mouth cue stands.
const TherapyCaution = "Cues are for teaching, not for therapy. A child who does not hear or say a sound as " +
	"others do after teaching goes your school's usual way: hearing check, speech and language therapist."

const oneThatMoves = "One sound that moves: do not break it in two."

// Cues for teaching, not for therapy. Places of articulation after the IPA chart (revised to 2020); the
// wording is ours, the advice common practice with no published source.
var cues = map[phoneme.Phoneme][2]string{
	"p": {"Close both lips. Let them pop apart with a puff of breath.", "No “uh” after it: only the puff."},
	"b": {"Close both lips, hum a moment, let them pop apart.", "Keep it tiny. A long “uh” makes it two sounds."},
	"t": {
		"Tap the tip of the tongue just behind the top teeth and let a little breath go.",
		"Only the tap: no “uh” behind it.",
	},
	"d": {
		"Tap the tip of the tongue behind the top teeth with the voice.",
		"Keep it tiny. A long “uh” makes it two sounds.",
	},
	"k": {"Lift the back of the tongue, let go with a click of breath.", "Only the click: no “uh” behind it."},
	"ɡ": {"Lift the back of the tongue and let go with the voice.", "Keep it tiny. A long “uh” makes it two sounds."},
	"m": {"Lips together. Hum through the nose.", "Stop the hum with the lips still shut, or an “uh” slips out."},
	"n": {
		"Tongue tip behind the top teeth. Hum through the nose.",
		"Stop before the tongue comes down, or an “uh” slips out.",
	},
	"ŋ": {"Back of the tongue up. Hum through the nose with the mouth open.", "No hard “g” at the end."},
	"f": {"Top teeth on the bottom lip. Blow softly.", "Breath only: no voice and no “uh”."},
	"v": {
		"Top teeth on the bottom lip. Blow with the voice, so that the lip tickles.",
		"Stop before the teeth leave the lip, or an “uh” slips out.",
	},
	"θ": {
		"Tip of the tongue between the teeth. Blow softly.",
		"Watch that the teeth are not on the lip: that is another sound.",
	},
	"ð": {
		"Tip of the tongue between the teeth. Blow with the voice, so that the tongue tickles.",
		"Watch that the teeth are not on the lip: that is another sound.",
	},
	"s": {"Teeth together, tongue just behind them. Let the air hiss.", "Breath only: no voice and no “uh”."},
	"z": {
		"Teeth together, tongue just behind them. Hiss with the voice.",
		"Stop the voice with the teeth still together.",
	},
	"ʃ": {"Round the lips a little. Blow over the tongue as if to hush a room.", "Breath only: no voice and no “uh”."},
	"ʒ": {"Round the lips a little. Hush with the voice.", "Stop the voice before the lips open."},
	"h": {"Mouth open. Breathe out as on a cold window.", "Breath only: no “uh” after it."},
	"tʃ": {
		"Tongue behind the top teeth, lips forward. Let the air go all at once, like a sneeze.",
		"Breath only, and short.",
	},
	"dʒ": {
		"Tongue behind the top teeth, lips forward. Let go with the voice.",
		"Keep it tiny. A long “uh” makes it two sounds.",
	},
	"l": {
		"Tongue tip up behind the top teeth. Let the voice flow round it.",
		"Stop with the tongue still up, or an “uh” slips out.",
	},
	"r":  {"Curl the tongue back a little without touching. Let the voice flow.", "No “uh” in front or behind."},
	"w":  {"Make the lips small and round, then let them open with the voice.", "Gentle; no “uh” behind it."},
	"j":  {"Tongue high, as for “ee”, then let it glide away.", "Gentle; no “uh” behind it."},
	"æ":  {"Open the mouth wide, jaw down, lips spread.", "Stay on one sound; do not glide."},
	"e":  {"Mouth half open, lips a little spread.", "Stay on one sound; do not glide."},
	"ɪ":  {"Mouth nearly shut, lips a little spread. Light.", "Not a long “ee”."},
	"ɒ":  {"Mouth open, lips rounded.", "Stay on one sound; do not glide."},
	"ʌ":  {"Mouth open, lips loose, jaw drops a little.", "From the middle of the mouth."},
	"ʊ":  {"Lips round and loose.", "Not a long “oo”."},
	"iː": {"Lips spread as for a smile, teeth nearly shut. Let the voice go on.", "Keep the smile to the end."},
	"uː": {"Lips small and round, pushed forward. Let the voice go on.", "Keep the lips small to the end."},
	"ɑː": {"Mouth wide open, tongue low. Let the voice go on.", "Keep the mouth open to the end."},
	"ɔː": {"Lips round, jaw a little down. Let the voice go on.", "Keep the lips round to the end; do not glide."},
	"ɜː": {"Mouth half open, lips and tongue at rest. Let the voice go on.", "Lips stay loose: nothing moves."},
	"ə": {
		"Mouth hardly open, all at rest. A short, light voice.",
		"Short: it is the sound of a part that is not stressed.",
	},
	"eə": {"Mouth half open, lips a little spread. Let the voice go on.", "Keep the mouth still to the end."},
	"ɪə": {"From a small smile let the mouth come to rest while the voice goes on.", oneThatMoves},
	"ʊə": {"From small round lips let the mouth come to rest while the voice goes on.", oneThatMoves},
	"eɪ": {"From a mouth half open to a small smile while the voice goes on.", oneThatMoves},
	"aɪ": {"From a mouth wide open to a small smile while the voice goes on.", oneThatMoves},
	"ɔɪ": {"From round lips to a small smile while the voice goes on.", oneThatMoves},
	"əʊ": {"From a mouth at rest to small round lips while the voice goes on.", oneThatMoves},
	"oʊ": {"From round lips to smaller ones while the voice goes on.", oneThatMoves},
	"aʊ": {"From a mouth wide open to small round lips while the voice goes on.", oneThatMoves},
	"əl": {
		"Lift the tongue tip to behind the top teeth at once, and let the voice flow round it.",
		"Short and light: hardly a vowel before it.",
	},
	"kw": {
		"Lift the back of the tongue with the lips small and round already; click, and open the lips with the voice.",
		"Two sounds as one: no “uh” behind the w.",
	},
	"ks": {
		"Lift the back of the tongue, click, and let the air hiss behind the teeth at once.",
		"Breath only: no “uh” between the two or behind.",
	},
}

// SuggestCue returns a mouth cue and the usual slip for the sound or the unit of a pair, empty where there is
// none to give.
func SuggestCue(a phoneme.Accent, p spelling.Pair) (cue, slip string) {
	sounds, err := phoneme.Parse(a, p.Sound)
	if err != nil {
		return "", ""
	}
	if c, ok := cues[phoneme.Phoneme(phoneme.Join(sounds))]; ok {
		return c[0], c[1]
	}
	if plain, found := strings.CutSuffix(
		string(sounds[0]),
		"r",
	); found && len(sounds) == 1 &&
		cues[phoneme.Phoneme(plain)][0] != "" {
		return cues[phoneme.Phoneme(plain)][0] + " Curl the tongue back at its end.", oneThatMoves
	}
	if s, ok := phoneme.Lookup(a, sounds[0]); ok && len(sounds) == 1 && s.Manner == phoneme.Vowel {
		if s.VowelKind == phoneme.Diphthong {
			return "Let the mouth move from one shape to another while the voice goes on.", oneThatMoves
		}
		return "Hold the mouth still and let the voice go on.", "Keep the mouth still to the end."
	}
	return "Two sounds close together: say them as one.", "Nothing before and nothing after."
}

// Hold tells how a sound is said.
type Hold string

const (
	Stretch Hold = "stretch"
	Short   Hold = "short"
)

// FindHold is whether the sound is stretched or said short: by its phonetics, but for w and y, which a team may say
// short. A sequence such as kw is short.
func FindHold(c convention.Conventions, p spelling.Pair) Hold {
	sounds, err := phoneme.Parse(c.Accent, p.Sound)
	if err != nil || len(sounds) != 1 {
		return Short
	}
	s, _ := phoneme.Lookup(c.Accent, sounds[0])
	glide := s.Phoneme == "w" || s.Phoneme == "j"
	if s.Stretchable && !(glide && c.GlidesShort) {
		return Stretch
	}
	return Short
}

// Voice tells where in a sound the voice is on.
type Voice string

// Voices of a sound or a unit.
const (
	VoiceOn    Voice = "on"
	VoiceOff   Voice = "off"
	VoiceBoth  Voice = "off, then on"
	VoiceFalls Voice = "on, then off"
)

// FindVoice judges each sound of the pair: qu has both.
func FindVoice(a phoneme.Accent, p spelling.Pair) Voice {
	sounds, err := phoneme.Parse(a, p.Sound)
	if err != nil || len(sounds) == 0 {
		return VoiceOn
	}
	first, _ := phoneme.Lookup(a, sounds[0])
	last, _ := phoneme.Lookup(a, sounds[len(sounds)-1])
	switch {
	case first.Voiced && last.Voiced:
		return VoiceOn
	case last.Voiced:
		return VoiceBoth
	case first.Voiced:
		return VoiceFalls
	}
	return VoiceOff
}

// Voiced tells whether the voice is on at the start of the sound.
func Voiced(a phoneme.Accent, p spelling.Pair) bool {
	v := FindVoice(a, p)
	return v == VoiceOn || v == VoiceFalls
}
