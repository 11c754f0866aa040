// Package recording measures a decoded take of one sound and judges whether a child could copy it.
package recording

import (
	"fmt"
	"math"
	"time"

	"brightchalk/internal/core/phoneme"
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
}

// Trim is where the sound starts and ends.
type Trim struct {
	StartMs int `json:"start_ms"`
	EndMs   int `json:"end_ms"`
}

// Report is what Judge finds. Level is the K-weighted level of the sound itself: takes are too short for
// the gating blocks of ITU-R BS.1770, so LevelLUFS is its ungated measure over the trimmed part.
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
}

// Limits of the verdicts; from trials on synthesised takes, no published source but where named.
const (
	quietLUFS      = -38.0
	noisySNR       = 20.0
	floorDB        = -96.0
	tooShort       = 25 * time.Millisecond
	tooLong        = 3 * time.Second
	longSilence    = 700 // ms at either end that the tool trims away
	attemptGapMs   = 200
	frameSeconds   = 0.025
	hopSeconds     = 0.005
	analysisHertz  = 16_000
	startBelowPeak = 43.0
	endBelowPeak   = 30.0
)

// Judge measures the take and compares it with what a pure recording of the target is. It keeps the clip
// as it is. Not-a-number samples count as silence.
func Judge(take Clip, target phoneme.Sound) Report {
	r := Report{Findings: []Finding{}, DurationMs: ms(take.Duration()), PeakDBFS: floorDB, LevelLUFS: floorDB}
	if take.Hertz < 4000 || len(take.Samples) == 0 {
		r.add("silence", "retake", "There is nothing on this take. Check the microphone and record again.", 0, "ms")
		return r.close()
	}
	clean := sanitised(take.Samples)
	peak := 0.0
	for _, v := range clean {
		peak = max(peak, math.Abs(v))
	}
	r.PeakDBFS = decibels(peak)
	if peak < 0.0008 {
		r.add("silence", "retake", "There is nothing on this take. Check the microphone and record again.", r.PeakDBFS, "dBFS")
		return r.close()
	}
	mono := Resample(clean, take.Hertz, analysisHertz)
	levels := frameLevels(clean, take.Hertz)
	sound := findSound(levels)
	r.Trim = Trim{max(0, sound.from*5), min(r.DurationMs, sound.to*5+25)}
	r.Takes = sound.attempts
	r.SNRDecibels = sound.snr
	part := clean[clampIndex(r.Trim.StartMs*take.Hertz/1000, len(clean)):clampIndex(r.Trim.EndMs*take.Hertz/1000, len(clean))]
	r.LevelLUFS = kWeightedLevel(part, take.Hertz)
	r.Clipped = clippedSamples(clean, peak)
	voice := trackVoice(mono, levels, sound)
	r.VoicedFraction, r.F0Hertz = voice.fraction, voice.f0
	r.level(peak)
	r.times(target, len(part)*1000/take.Hertz, sound)
	if r.SNRDecibels >= noisySNR && r.Takes <= 1 {
		r.voicing(target)
		r.AddedVowelMs = addedVowel(mono, levels, sound, voice, target)
		r.addedVowel(target)
	}
	return r.close()
}

func (r *Report) add(code, severity, message string, value float64, unit string) *Finding {
	r.Findings = append(r.Findings, Finding{Code: code, Severity: severity, Message: message, Value: math.Round(value*10) / 10, Unit: unit})
	return &r.Findings[len(r.Findings)-1]
}

func (r *Report) level(peak float64) {
	if r.Clipped >= 3 {
		r.add("clipped", "retake", "The sound is too loud for the microphone and crackles. Move a hand's width further away.", float64(r.Clipped), "samples")
	}
	if r.LevelLUFS < quietLUFS && r.PeakDBFS < -24 {
		severity, message := "fix", "The take is quiet; the tool can raise it."
		if r.PeakDBFS < -40 {
			severity, message = "retake", "The take is far too quiet. Go nearer to the microphone or turn it up."
		}
		r.add("quiet", severity, message, r.LevelLUFS, "LUFS")
	}
	if r.SNRDecibels < noisySNR {
		r.add("noisy", "retake", "There is too much noise behind the sound. Close the window, switch the fan off, go nearer to the microphone.", r.SNRDecibels, "dB")
	}
}

func (r *Report) times(target phoneme.Sound, soundMs int, s span) {
	if r.Takes > 1 {
		r.add("several-takes", "retake", fmt.Sprintf("There are %d attempts on this take. Keep one: record again or trim.", r.Takes), float64(r.Takes), "attempts")
	}
	if s.cutStart {
		r.add("cut-off", "retake", "The start is cut off. Wait a moment after pressing the key, then say the sound.", float64(r.Trim.StartMs), "ms")
	} else if s.cutEnd {
		r.add("cut-off", "retake", "The end is cut off. Wait a moment before you stop.", float64(r.DurationMs-r.Trim.EndMs), "ms")
	}
	if lead, tail := r.Trim.StartMs, r.DurationMs-r.Trim.EndMs; lead > longSilence || tail > longSilence {
		r.add("silence", "fix", "There is a long silence before or after the sound; the tool trims it.", float64(max(lead, tail)), "ms")
	}
	least := ms(tooShort)
	if target.Stretchable && target.Manner != phoneme.Vowel {
		least = 120
	}
	if soundMs < least {
		r.add("too-short", "retake", "The sound is over too soon. Hold it a little longer.", float64(soundMs), "ms")
	}
	if time.Duration(soundMs)*time.Millisecond > tooLong {
		r.add("too-long", "retake", "The sound is held too long. About a second is enough.", float64(soundMs), "ms")
	}
}

// voicing judges only what can be told: friction with a voice, and hums or vowels without one. English
// b d g are often devoiced, so the short stops get no verdict on voicing.
func (r *Report) voicing(target phoneme.Sound) {
	switch {
	case target.Manner == phoneme.Fricative && !target.Voiced && target.Phoneme != "h" && r.VoicedFraction > 0.5:
		r.add("voicing", "retake", "The voice is on. This sound is only breath: hand on the throat, no hum.", r.VoicedFraction*100, "%")
	case target.Manner == phoneme.Fricative && target.Voiced && r.VoicedFraction < 0.15:
		r.add("voicing", "retake", "The voice is off. This sound hums: hand on the throat and feel it.", r.VoicedFraction*100, "%")
	case (target.Manner == phoneme.Nasal || target.Manner == phoneme.Vowel || target.Manner == phoneme.Lateral) && r.VoicedFraction < 0.3:
		r.add("voicing", "retake", "The voice is off. This sound hums: hand on the throat and feel it.", r.VoicedFraction*100, "%")
	case !target.Voiced && target.Manner == phoneme.Stop && r.VoicedFraction > 0.8 && r.F0Hertz > 0:
		r.add("not-this-sound", "info", "This sounds like its voiced partner. Listen again before you choose it.", r.VoicedFraction*100, "%")
	}
}

func (r *Report) addedVowel(target phoneme.Sound) {
	if limit := map[bool]int{true: 130, false: 45}[target.Voiced && (target.Manner == phoneme.Stop || target.Manner == phoneme.Affricate)]; r.AddedVowelMs > limit {
		f := r.add("added-vowel", "retake", "An “uh” follows the sound. Say it again without the uh: stop while the mouth is still in place.", float64(r.AddedVowelMs), "ms")
		f.FromMs, f.ToMs = r.Trim.EndMs-r.AddedVowelMs, r.Trim.EndMs
	}
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

func sanitised(in []float64) []float64 {
	out := make([]float64, len(in))
	sum := 0.0
	for i, v := range in {
		if math.IsNaN(v) || math.IsInf(v, 0) {
			v = 0
		}
		out[i] = max(-8, min(8, v))
		sum += out[i]
	}
	mean := sum / float64(len(out))
	for i := range out {
		out[i] -= mean
	}
	return out
}
