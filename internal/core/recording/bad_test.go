package recording_test

import (
	"math"
	"math/rand/v2"
	"os"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"brightchalk/internal/core/recording"
)

const badHertz = 44_100

// around is a take of two seconds in a quiet room, with what f puts in.
func around(seconds float64, f func(t float64, rng *rand.Rand) float64) recording.Clip {
	rng := rand.New(rand.NewPCG(11, 11))
	c := recording.Clip{Hertz: badHertz, Samples: make([]float64, int(seconds*badHertz))}
	for i := range c.Samples {
		c.Samples[i] = 0.0004*rng.NormFloat64() + f(float64(i)/badHertz, rng)
	}
	return c
}

// tune is a note every third of a second, each dying away.
func tune(t float64, _ *rand.Rand) (v float64) {
	notes := []float64{262, 330, 392, 523, 440, 349}
	at := math.Mod(t, 0.33)
	for h := 1.0; h < 5; h++ {
		v += 0.15 / h * math.Exp(-5*at) * math.Sin(2*math.Pi*notes[int(t/0.33)%len(notes)]*h*at)
	}
	return v
}

// sentence is a voice whose syllables open and close four times a second.
func sentence(t float64, rng *rand.Rand) (v float64) {
	if t < 0.5 || t > 3.2 {
		return 0
	}
	for h := 1.0; h < 15; h++ {
		v += 0.1 / h * math.Sin(2*math.Pi*(120+8*math.Sin(3*t))*h*t)
	}
	open := math.Pow(math.Abs(math.Sin(2*math.Pi*2*t)), 1.5)
	return open*v + 0.01*(1-open)*rng.NormFloat64()
}

// What is no sound at all gets its own sentence, whatever sound was asked for, and never passes.
func TestWhatIsNoSound(t *testing.T) {
	if testing.Short() {
		t.Skip("a sweep")
	}
	for name, c := range map[string]struct {
		take recording.Clip
		says string
	}{
		"nothing":   {recording.Clip{Hertz: badHertz, Samples: make([]float64, badHertz)}, "nothing on this take"},
		"no file":   {recording.Clip{Hertz: badHertz}, "nothing on this take"},
		"the room":  {around(2, func(float64, *rand.Rand) float64 { return 0 }), "Only the room is heard"},
		"one click": {around(2, click(1)), "Only a click is heard"},
		"clicks":    {around(3, click(0.6, 1.2, 1.8)), "3 attempts"},
		"a tune":    {around(4, tune), "Many sounds are heard"},
		"a sentence": {
			around(4, sentence), "Many sounds are heard",
		},
		"10 ms": {around(0.01, func(_ float64, rng *rand.Rand) float64 { return 0.1 * rng.NormFloat64() }), ""},
	} {
		for _, s := range []string{"m", "s", "t", "b", "æ", "eɪ"} {
			r := recording.Judge(c.take, sound(s))
			assert.Equal(t, recording.Retake, r.Verdict, "%s as /%s/", name, s)
			assert.Contains(t, r.Advice, c.says, "%s as /%s/", name, s)
		}
	}
}

func click(at ...float64) func(float64, *rand.Rand) float64 {
	return func(t float64, _ *rand.Rand) float64 {
		for _, from := range at {
			if since := t - from; since >= 0 && since < 0.002 {
				return 0.6 * math.Exp(-since*3000) * math.Cos(2*math.Pi*4000*since)
			}
		}
		return 0
	}
}

// A cough: two dark puffs, the first the stronger. No breath of a sound is as dark, and no short sound as long.
func TestACoughIsNoSound(t *testing.T) {
	slow := 0.0
	cough := around(2, func(t float64, rng *rand.Rand) float64 {
		slow = 0.93*slow + 0.07*rng.NormFloat64()
		puff := 0.0
		for _, from := range []float64{0.6, 0.95} {
			if since := t - from; since > 0 && since < 0.33 {
				puff += math.Exp(-5 * since)
			}
		}
		return 0.5 * puff * slow
	})
	for _, s := range []string{"s", "ʃ", "f", "θ", "m", "v", "æ", "t", "k", "b"} {
		r := recording.Judge(cough, sound(s))
		assert.Equal(t, recording.Retake, r.Verdict, "as /%s/: %s", s, r.Advice)
	}
}

// The demo's takes are pure; they are one of each kind.
func TestDemoTakesArePure(t *testing.T) {
	sounds := map[string]string{
		"a": "æ", "i": "ɪ", "o": "ɒ", "u": "ʌ", "c": "k", "g": "ɡ",
		"ee": "iː", "oo": "uː", "ar": "ɑː", "or": "ɔː", "oo-short": "ʊ", "er": "ə", "ai": "eɪ", "ie": "aɪ", "oa": "əʊ",
		"ou": "aʊ", "oi": "ɔɪ", "ng": "ŋ", "sh": "ʃ", "th": "θ", "ch": "tʃ", "j": "dʒ", "le": "əl", "x": "ks",
	}
	files, err := os.ReadDir("../../../demo/takes")
	require.NoError(t, err)
	for _, f := range files {
		name := strings.TrimSuffix(f.Name(), ".wav")
		s := sounds[name]
		if s == "" {
			s = name
		}
		r := recording.Judge(plainWAV(t, "../../../demo/takes/"+f.Name()), sound(s))
		assert.Equal(t, recording.Pure, r.Verdict, "%s: %s", name, r.Advice)
	}
}

// Voices next door come and go: they are no attempts, and the sound ends where it ends.
func TestVoicesNextDoor(t *testing.T) {
	next := 0.0
	take := around(2, func(t float64, rng *rand.Rand) float64 {
		next = 0.9*next + 0.1*rng.NormFloat64()
		v := 0.012 * next * (1 + 0.85*math.Sin(2*math.Pi*4*t))
		if since := t - 1; since > 0 && since < 0.05 { // a burst as of t
			v += 0.5 * rng.NormFloat64() * math.Exp(-60*since)
		}
		return v
	})
	r := recording.Judge(take, sound("t"))
	assert.Equal(t, 1, r.Takes)
	assert.InDelta(t, 1000, r.Trim.StartMs, 30)
	assert.Less(t, r.Trim.EndMs, 1150)
}
