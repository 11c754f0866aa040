// Package recording measures a decoded take of one sound and judges whether a child could copy it.
package recording

import (
	"math"
	"slices"
	"time"

	"gonum.org/v1/gonum/stat"

	"brightchalk/internal/core/document"
)

// Clip is a decoded take: mono samples between -1 and 1.
type Clip struct {
	Samples []float64
	Hertz   int
}

// Duration of the clip.
func (c Clip) Duration() time.Duration {
	if c.Hertz == 0 {
		return 0
	}
	return time.Duration(float64(len(c.Samples)) / float64(c.Hertz) * float64(time.Second))
}

// Verdict on a take: pure may be used; fix may be used after what the tool can mend; retake asks for another.
type Verdict string

const (
	Pure   Verdict = "pure"
	Fix    Verdict = "fix"
	Retake Verdict = "retake"
)

// Finding is one thing about a take. FromMs and ToMs mark the part that is meant, both 0 for the whole.
type Finding struct {
	Code     string  `json:"code"`
	Severity string  `json:"severity" enum:"info,fix,retake"`
	Message  string  `json:"message"`
	Value    float64 `json:"value"`
	Unit     string  `json:"unit"`
	FromMs   int     `json:"from_ms,omitempty"`
	ToMs     int     `json:"to_ms,omitempty"`
	// Sure is how likely it is, 0 to 1, where that can be told.
	Sure float64 `json:"sure,omitempty"`
}

// Trim is where the sound starts and ends.
type Trim struct {
	StartMs int `json:"start_ms"`
	EndMs   int `json:"end_ms"`
}

// Report is what Judge finds. LevelLUFS is the loudness of the trimmed sound, see Loudness.
type Report struct {
	Verdict        Verdict   `json:"verdict"`
	Advice         string    `json:"advice"`
	Findings       []Finding `json:"findings"`
	DurationMs     int       `json:"duration_ms"`
	Trim           Trim      `json:"trim"`
	VoicedFraction float64   `json:"voiced_fraction"`
	F0Hertz        float64   `json:"f0_hz"`
	SNRDecibels    float64   `json:"snr_db"`
	LevelLUFS      float64   `json:"level_lufs"`
	PeakDBFS       float64   `json:"peak_dbfs"`
	Clipped        int       `json:"clipped"` // samples in flattened peaks
	AddedVowelMs   int       `json:"added_vowel_ms"`
	Takes          int       `json:"takes"`
	Measures       Measures  `json:"measures"`
}

// Measures are for the details of a take; those that do not apply are 0.
type Measures struct {
	NoiseFloorDBFS float64 `json:"noise_floor_dbfs"`
	DCOffset       float64 `json:"dc_offset"` // share of full scale
	MainsHumDB     float64 `json:"mains_hum_db"`
	MainsHertz     float64 `json:"mains_hz"`
	CentroidHertz  float64 `json:"centroid_hz"` // above 1 kHz, median over the sound
	DarkDB         float64 `json:"dark_db"`     // power under 900 Hz against that over 1.8 kHz, median over the sound
	F1Hertz        float64 `json:"f1_hz"`
	F2Hertz        float64 `json:"f2_hz"`
	BalanceDB      float64 `json:"balance_db"`    // of a vowel: 1.8 to 3 kHz against 450 to 1800 Hz
	VowelBark      float64 `json:"vowel_bark"`    // distance from the target vowel
	SteadinessDB   float64 `json:"steadiness_db"` // spread of the level inside the sound; smaller is steadier
	AttackMs       int     `json:"attack_ms"`
	ReleaseMs      int     `json:"release_ms"`
	TurnScore      float64 `json:"turn_score"` // how clearly a hum or a buzz turns into a vowel
	// fall of the spectrum across the end of a telephone's band, in the sound
	CliffDB      float64 `json:"cliff_db"`
	NoiseCliffDB float64 `json:"noise_cliff_db"` // the same in the noise around it
}

// Limits of the verdicts; from trials on synthesised takes, no published source but where named.
const (
	quietLUFS      = -38.0
	noisySNR       = 24.0
	onlyRoomDBFS   = -45.0
	onlyClick      = 0.97 // share of the energy
	floorDB        = -96.0
	tooLong        = 3 * time.Second
	longSilence    = 700 // ms at either end that the tool trims away
	attemptGapMs   = 200
	hopMs          = 5
	frameMs        = 25
	hopSeconds     = hopMs / 1000.0
	frameSeconds   = frameMs / 1000.0
	analysisHertz  = 16_000
	startBelowPeak = 43.0
	endBelowPeak   = 30.0
	formantSNR     = 30.0
	humDB          = 12.0
	cliffDB        = 21.0
	cliffNoiseDB   = 9.0
	farVowelBark   = 2.15
)

// plainTurn is a turn so clear that even a short vowel, of plainVowelMs, is sure.
const (
	plainTurn    = 0.8
	plainVowelMs = 30
)

// analysis is a take with what has been measured of it.
type analysis struct {
	target Target
	hertz  int       // of the take
	mono   []float64 // at analysisHertz
	low    []float64 // at lowHertz
	levels []float64
	span   span
	frames []frame
	voice  voiceTrack
	f1, f2 float64
}

// Judge measures the take and compares it with what a pure recording of the target is. It keeps the clip
// as it is. Not-a-number samples count as silence.
func Judge(take Clip, target Target) Report {
	r := Report{Findings: []Finding{}, DurationMs: ms(take.Duration()), PeakDBFS: floorDB, LevelLUFS: floorDB}
	if take.Hertz < 4000 || len(take.Samples) == 0 {
		r.add("silence", "retake", "There is nothing on this take. Check the microphone and record again.", 0, "ms")
		return r.close()
	}
	clean := newSignal(take)
	r.Measures.DCOffset = clean.mean
	r.PeakDBFS = decibels(clean.peak)
	if clean.peak < 0.0008 {
		r.add(
			"silence",
			"retake",
			"There is nothing on this take. Check the microphone and record again.",
			r.PeakDBFS,
			"dBFS",
		)
		return r.close()
	}
	a := analysed(clean, target)
	sound := a.span
	if sound.runs == nil && sound.peak-sound.floor < 9 && sound.peak < onlyRoomDBFS {
		r.Measures.NoiseFloorDBFS = sound.floor
		r.add("silence", "retake", "Only the room is heard: no sound was said.", sound.peak, "dBFS")
		return r.close()
	}
	r.Trim = Trim{max(0, sound.from*hopMs), min(r.DurationMs, sound.to*hopMs+frameMs)}
	r.Takes = sound.attempts
	r.SNRDecibels = sound.snr
	part := clean.part(r.Trim)
	r.LevelLUFS = part.loudness()
	r.Clipped = clean.clipped()
	r.VoicedFraction, r.F0Hertz = a.voice.fraction, a.voice.f0
	if r.VoicedFraction < 0.3 {
		r.Clipped = max(r.Clipped, clean.clippedHiss())
	}
	r.measure(a)
	if n := swells(a.levels, sound); n >= manySwells {
		r.add(
			"many-sounds", "retake", "Many sounds are heard, as in a sentence or a tune. Say the one sound alone.", float64(n),
			"sounds",
		)
		return r.close()
	}
	if clean.clickShare() > onlyClick && r.Takes <= 1 {
		r.add("silence", "retake", "Only a click is heard: no sound was said.", 0, "ms")
		return r.close()
	}
	r.level(a)
	r.times(target, len(part.samples)*1000/take.Hertz, sound)
	if r.SNRDecibels >= noisySNR && r.Takes <= 1 {
		r.AddedVowelMs, r.Measures.TurnScore = a.addedVowel()
		if sound := a.span.to - a.span.from; target.Class == Breath && target.first() != "h" &&
			r.AddedVowelMs/hopMs > sound*7/10 &&
			!a.frictionBefore() {
			r.AddedVowelMs = 0 // voiced nearly from the start: that is the voice, no vowel after it
		}
		added := r.addedVowel(target)
		r.voicing(a, added)
		r.quality(a)
	}
	return r.close()
}

// JudgeUntil judges a take as if it had been said only up to a moment: what follows is exchanged for the silence
// before the sound, so that the room stays the same. The lengths of the whole take stay in the report.
func JudgeUntil(take Clip, endMs int, target Target) Report {
	whole := Judge(take, target)
	end := clampIndex(endMs*take.Hertz/1000, len(take.Samples))
	if endMs >= whole.DurationMs-1 || endMs >= whole.Trim.EndMs+100 {
		return whole
	}
	const fadeMs, aroundMs, restMs = 20, 50, 300
	samples := slices.Clone(take.Samples[:end])
	if fade := min(end, fadeMs*take.Hertz/1000); fade > 0 {
		for i := range fade {
			samples[end-1-i] *= float64(i) / float64(fade)
		}
	}
	room := take.Samples[:clampIndex((whole.Trim.StartMs-aroundMs)*take.Hertz/1000, len(take.Samples))]
	for i := range restMs * take.Hertz / 1000 {
		v := 0.0
		if len(room) > 0 {
			v = room[i%len(room)]
		}
		samples = append(samples, v)
	}
	r := Judge(Clip{Hertz: take.Hertz, Samples: samples}, target)
	r.DurationMs = whole.DurationMs
	return r
}

// analysed measures a take: what is heard above the rumble, the sound in it, its spectra and its voice.
func analysed(clean signal, target Target) *analysis {
	a := &analysis{target: target, hertz: clean.hertz}
	a.levels, a.mono = clean.heard(analysisHertz)
	a.low = Resample(a.mono, analysisHertz, lowHertz)
	a.span = findSound(a.levels)
	a.frames = frames(a.mono, len(a.levels), a.span)
	a.voice = a.trackVoice()
	return a
}

func (r *Report) measure(a *analysis) {
	m := &r.Measures
	m.NoiseFloorDBFS = a.span.floor
	m.MainsHumDB, m.MainsHertz = mainsHum(a.low, a.levels, a.span)
	m.CliffDB, m.NoiseCliffDB = a.bandLimit()
	var centroids, inside, dark []float64
	first, last := -1, 0
	for i := a.span.from; i <= a.span.to && i < len(a.frames); i++ {
		if a.levels[i] > a.span.peak-12 {
			centroids = append(centroids, a.frames[i].centroid)
			dark = append(dark, a.frames[i].between(0, 2)-a.frames[i].between(4, bandCount-1))
			inside = append(inside, a.levels[i])
		}
		if a.levels[i] > a.span.peak-3 {
			if first < 0 {
				first = i
			}
			last = i
		}
	}
	if len(centroids) > 0 {
		slices.Sort(centroids)
		m.CentroidHertz = centroids[len(centroids)/2]
		slices.Sort(dark)
		m.DarkDB = dark[len(dark)/2]
		m.SteadinessDB = stat.StdDev(append(inside, inside[0]), nil)
		m.AttackMs, m.ReleaseMs = (first-a.span.from)*hopMs, (a.span.to-last)*hopMs
	}
}

// Attempts are the parts of a take in which a sound is said, each with a little silence around it; one for a
// take with one attempt, none for silence.
func Attempts(take Clip) []Trim {
	if take.Hertz < 4000 || len(take.Samples) == 0 {
		return nil
	}
	levels, _ := newSignal(take).heard(0)
	s := findSound(levels)
	if s.peak < floorDB+20 || len(s.runs) == 0 {
		return nil
	}
	const around = 300 // ms
	var out []Trim
	for i, run := range s.runs {
		t := Trim{max(0, run[0]*hopMs-around), min(ms(take.Duration()), run[1]*hopMs+frameMs+around)}
		if i > 0 { // two attempts share the silence between them
			middle := (s.runs[i-1][1] + run[0]) * hopMs / 2
			t.StartMs = max(t.StartMs, middle)
			out[i-1].EndMs = min(out[i-1].EndMs, middle)
		}
		out = append(out, t)
	}
	return out
}

func (r *Report) add(code, severity, message string, value float64, unit string) *Finding {
	r.Findings = append(
		r.Findings,
		Finding{Code: code, Severity: severity, Message: message, Value: math.Round(value*10) / 10, Unit: unit},
	)
	return &r.Findings[len(r.Findings)-1]
}

func (r Report) close() Report {
	r.Verdict, r.Advice = Pure, "Clean and pure. Ready to use."
	for _, severity := range []string{"fix", "retake"} {
		for i := len(r.Findings) - 1; i >= 0; i-- {
			if r.Findings[i].Severity == severity {
				r.Verdict, r.Advice = Verdict(severity), r.Findings[i].Message
			}
		}
	}
	return r
}

func ms(d time.Duration) int { return int(d.Milliseconds()) }

func clampIndex(i, n int) int { return max(0, min(i, n)) }

func decibels(amplitude float64) float64 {
	if amplitude <= 0 {
		return floorDB
	}
	return max(floorDB, 20*math.Log10(amplitude))
}

// Reports reads and writes stored reports.
var Reports = document.Kind[Report]{Name: "report"}
