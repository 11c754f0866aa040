package recording

import (
	"cmp"
	"fmt"
	"math"
	"slices"
)

// MeasuredTake is the agreed take of a card as the library plays it.
type MeasuredTake struct {
	Card    string
	Speaker string
	Verdict Verdict
	Advice  string
	LUFS    float64 // loudness of the master
	Gain    float64 // dB from the take to the master
	Floor   float64 // dBFS of the noise in the take
	SNR     float64 // dB
	Plain   bool    // kept as recorded, without the tool's fixes
}

// noise is the level of the room as it is heard, in dBFS: levelling a soft take lifts its room too.
func (k MeasuredTake) noise() float64 { return k.Floor + k.Gain }

// Voice is a speaker with how many agreed takes are theirs.
type Voice struct {
	Speaker string `json:"speaker"`
	Takes   int    `json:"takes"`
}

// Again is an agreed take that should be recorded again, and why.
type Again struct {
	Card string `json:"card_id"`
	Why  string `json:"why"`
	rank float64
}

// Evenness is how alike the agreed takes of a library sound one after the other.
type Evenness struct {
	Takes          int     `json:"takes"`
	LoudnessLUFS   float64 `json:"loudness_lufs"`    // median of the masters
	LoudnessSpread float64 `json:"loudness_spread"`  // LU between the softest and the loudest
	NoiseSpread    float64 `json:"noise_spread"`     // dB between the quietest and the noisiest room
	SNRMedian      float64 `json:"snr_median_db"`    // dB
	Voices         []Voice `json:"voices,omitempty"` // the commonest first
	Again          []Again `json:"again,omitempty"`  // the most urgent first
}

// Limits of evenness: what is heard as a step between two sounds. Common practice, no published source.
const (
	loudnessStep = 2.0  // LU
	noiseStep    = 12.0 // dB
)

// Even measures how alike the takes sound and says which to record again first: those with a verdict of
// retake, then noisy rooms, then takes whose loudness could not be brought to the others', then the only takes
// of another voice.
func Even(kept []MeasuredTake) Evenness {
	e := Evenness{Takes: len(kept), Voices: []Voice{}, Again: []Again{}}
	if len(kept) == 0 {
		return e
	}
	var loud, noise, snr []float64
	count := map[string]int{}
	for _, k := range kept {
		loud, noise, snr = append(loud, k.LUFS), append(noise, k.noise()), append(snr, k.SNR)
		count[k.Speaker]++
	}
	e.LoudnessLUFS, e.SNRMedian = median(slices.Clone(loud)), median(slices.Clone(snr))
	e.LoudnessSpread, e.NoiseSpread = spread(loud), spread(noise)
	for name, n := range count {
		e.Voices = append(e.Voices, Voice{name, n})
	}
	slices.SortFunc(e.Voices, func(a, b Voice) int { return cmp.Or(b.Takes-a.Takes, cmp.Compare(a.Speaker, b.Speaker)) })
	usual := median(slices.Clone(noise))
	for _, k := range kept {
		if a := k.again(e, usual); a.Why != "" {
			e.Again = append(e.Again, a)
		}
	}
	slices.SortStableFunc(e.Again, func(a, b Again) int { return cmp.Compare(b.rank, a.rank) })
	return e
}

func (k MeasuredTake) again(e Evenness, typicalNoise float64) Again {
	off := k.LUFS - e.LoudnessLUFS
	switch louder := k.noise() - typicalNoise; {
	case k.Verdict == Retake:
		return Again{k.Card, k.Advice, 1000}
	case k.SNR < noisySNR:
		return Again{k.Card, fmt.Sprintf("The room is heard: only %.0f dB between sound and noise.", k.SNR), 500 - k.SNR}
	case louder > noiseStep:
		return Again{
			k.Card,
			fmt.Sprintf("The room behind it is %.0f dB louder than behind the others.", louder),
			300 + louder,
		}
	case math.Abs(off) > loudnessStep && k.Plain:
		return Again{k.Card, fmt.Sprintf("It is kept as recorded and %s.", loudness(off)), 200 + math.Abs(off)}
	case math.Abs(off) > loudnessStep:
		return Again{
			k.Card,
			fmt.Sprintf("It is %s: the click in it leaves no room to level it.", loudness(off)),
			200 + math.Abs(off),
		}
	case len(e.Voices) > 1 && k.Speaker != e.Voices[0].Speaker && e.Voices[0].Takes*2 > e.Takes:
		return Again{k.Card, "Another voice than most of the library: " + k.Speaker + ".", 100}
	}
	return Again{}
}

func loudness(off float64) string {
	if off > 0 {
		return fmt.Sprintf("%.0f LU louder than the others", off)
	}
	return fmt.Sprintf("%.0f LU softer than the others", -off)
}

func spread(in []float64) float64 { return slices.Max(in) - slices.Min(in) }
