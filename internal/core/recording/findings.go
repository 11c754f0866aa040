package recording

import (
	"fmt"
	"math"
	"strings"
	"time"

	"brightchalk/internal/core/phoneme"
)

func (r *Report) level(a *analysis) {
	if r.Clipped >= 3 {
		r.add(
			"clipped",
			"retake",
			"The sound is too loud for the microphone and crackles. Move a hand's width further away.",
			float64(r.Clipped),
			"samples",
		)
	}
	if r.LevelLUFS < quietLUFS && r.PeakDBFS < -24 {
		severity, message := "fix", "The take is quiet; the tool can raise it."
		if r.PeakDBFS < -40 {
			severity, message = "retake", "The take is far too quiet. Go nearer to the microphone or turn it up."
		}
		r.add("quiet", severity, message, r.LevelLUFS, "LUFS")
	}
	if m := r.Measures; m.MainsHumDB > humDB {
		r.add(
			"hum",
			"fix",
			fmt.Sprintf(
				"The mains hum at %.0f Hz; the tool filters it out. Move the cable away from the power supply.",
				m.MainsHertz,
			),
			m.MainsHumDB,
			"dB",
		)
	}
	if m := r.Measures; a.hertz <= 8000 || m.CliffDB > cliffDB && m.NoiseCliffDB > cliffNoiseDB ||
		m.NoiseCliffDB > 15 && m.CliffDB > 8 {
		r.add(
			"narrow-band",
			"retake",
			"It sounds as if it came through a telephone: the high part is missing. Use another microphone, or record in "+
				"the browser.",
			m.CliffDB,
			"dB",
		)
	}
	if r.SNRDecibels < noisySNR {
		r.add(
			"noisy",
			"retake",
			"There is too much noise behind the sound. Close the window, switch the fan off, go nearer to the microphone.",
			r.SNRDecibels,
			"dB",
		)
	}
}

// swells counts how often the level rises and falls by a syllable's share within one stretch of sound, at its most: one
// sound does so once or twice, a sentence or a tune many times.
func swells(levels []float64, s span) int {
	const fall = 7.0 // dB
	runs := s.runs
	if len(runs) == 0 || s.cutStart && s.cutEnd {
		runs = [][2]int{{0, len(levels) - 1}}
	}
	most := 0
	for _, run := range runs {
		n, top, low, rising := 0, levels[run[0]], levels[run[0]], true
		for i := run[0]; i+4 <= run[1]; i += 2 {
			db := (levels[i] + levels[i+1] + levels[i+2] + levels[i+3]) / 4
			switch {
			case rising && db > top:
				top = db
			case rising && db < top-fall:
				if top > s.peak-20 {
					n++
				}
				rising, low = false, db
			case !rising && db < low:
				low = db
			case !rising && db > low+fall:
				rising, top = true, db
			}
		}
		most = max(most, n)
	}
	return most
}

// manySwells is how many of them are no one sound any more.
const manySwells = 5

func (r *Report) times(target Target, soundMs int, s span) {
	if r.Takes > 1 {
		r.add(
			"several-takes",
			"retake",
			fmt.Sprintf("There are %d attempts on this take. Keep one: record again or trim.", r.Takes),
			float64(r.Takes),
			"attempts",
		)
	}
	if s.cutStart {
		r.add(
			"cut-off",
			"retake",
			"The start is cut off. Wait a moment after pressing the key, then say the sound.",
			float64(r.Trim.StartMs),
			"ms",
		)
	} else if s.cutEnd {
		r.add(
			"cut-off",
			"retake",
			"The end is cut off. Wait a moment before you stop.",
			float64(r.DurationMs-r.Trim.EndMs),
			"ms",
		)
	}
	if lead, tail := r.Trim.StartMs, r.DurationMs-r.Trim.EndMs; lead > longSilence || tail > longSilence {
		r.add(
			"silence",
			"fix",
			"There is a long silence before or after the sound; the tool trims it.",
			float64(max(lead, tail)),
			"ms",
		)
	}
	b := limits(target)
	if soundMs < b.minMs {
		r.add("too-short", "retake", "The sound is over too soon. Hold it a little longer.", float64(soundMs), "ms")
	}
	switch {
	case b.maxMs > 0 && soundMs > b.maxMs:
		r.add("too-long", "retake", "This sound is short: let it go at once, and stop.", float64(soundMs), "ms")
	case time.Duration(soundMs)*time.Millisecond > tooLong:
		r.add("too-long", "retake", "The sound is held too long. About a second is enough.", float64(soundMs), "ms")
	}
}

// voicing judges only what can be told: friction with a voice, and hums or vowels without one. English
// b d g are often devoiced, so the short stops get no verdict on voicing. An added vowel does not count.
func (r *Report) voicing(a *analysis, added bool) {
	share := r.VoicedFraction
	if added {
		share = a.voicedShare(a.span.from, a.span.to-r.AddedVowelMs/hopMs)
	}
	switch b := limits(a.target); {
	case b.voiceMost > 0 && share > b.voiceMost:
		r.add("voicing", "retake", "The voice is on. This sound is only breath: hand on the throat, no hum.", share*100, "%")
	case share < b.voiceLeast:
		r.add("voicing", "retake", "The voice is off. This sound hums: hand on the throat and feel it.", share*100, "%")
	case a.target.Class == ShortOff && a.target.Sounds[0].Manner == phoneme.Stop && !added && share > likePartner &&
		r.F0Hertz > 0:
		r.add(
			"not-this-sound",
			"info",
			"This sounds like its voiced partner. Listen again before you choose it.",
			share*100,
			"%",
		)
	}
}

// likePartner is the share of voice from which on p t k may be b d ɡ.
const likePartner = 0.8

// quality compares what is heard with the target where that can be told: a vowel far off, friction far too
// low or too high.
func (r *Report) quality(a *analysis) {
	if (a.target.Class == Vowel || a.target.Class == Glide) && r.SNRDecibels >= formantSNR && r.VoicedFraction > 0.5 {
		d := a.vowelDistance()
		r.Measures.F1Hertz, r.Measures.F2Hertz, r.Measures.VowelBark, r.Measures.BalanceDB = a.f1, a.f2, d, a.balance()
		f2 := vowelMeans[string(a.target.first())][0][1]
		front, back := a.target.Class == Vowel &&
			f2 > 1800, a.target.Class == Vowel && f2 < 1250 && a.target.first() != "uː" &&
			a.target.first() != "ʊ"
		if d > farVowelBark || back && r.Measures.BalanceDB > -5 || front && r.Measures.BalanceDB < -38 {
			r.add(
				"not-this-sound",
				"retake",
				"This is another vowel. Listen to the team's take, look at the mouth cue, and say it again.",
				d,
				"Bark",
			)
		}
		return
	}
	if missing := a.secondMissing(); missing != "" {
		r.add("not-this-sound", "retake", missing, 0, "ms")
	}
	switch b, c := limits(a.target), r.Measures.CentroidHertz; {
	case c < b.centreLeast, b.darkMost != 0 && r.Measures.DarkDB > b.darkMost && r.VoicedFraction < 0.5:
		r.add("not-this-sound", "retake", "This is no such sound: the breath is far too dark. Say it again.", c, "Hz")
	case c < b.doubtLeast, b.doubtMost > 0 && c > b.doubtMost:
		r.add("not-this-sound", "info", "This sounds like another hissing sound. Listen again before you choose it.", c, "Hz")
	}
}

func (r *Report) addedVowel(target Target) bool {
	b := limits(target)
	if b.vowelMs == 0 {
		return false
	}
	limit := b.vowelMs
	if r.Measures.TurnScore > plainTurn {
		limit = plainVowelMs
	}
	turns := b.turn == 0 || r.Measures.TurnScore > b.turn
	if r.AddedVowelMs < limit || !turns {
		if !turns {
			r.AddedVowelMs = 0
		}
		return false
	}
	odds := r.Measures.TurnScore
	if b.turn == 0 {
		odds = float64(r.AddedVowelMs-limit)/surePerMs + sureAtLimit
	}
	sure := 1 / (1 + math.Exp(-odds))
	f := r.add("added-vowel", "retake", vowelWords(sure), float64(r.AddedVowelMs), "ms")
	f.Sure = math.Round(sure*100) / 100
	f.FromMs, f.ToMs = max(r.Trim.StartMs, r.Trim.EndMs-r.AddedVowelMs-turningMs), r.Trim.EndMs
	return true
}

// turningMs is how long before the vowel the mouth begins to move, about; what is cut off begins there.
const turningMs = 40

// How sure a vowel after a sound without voice, or after b, d, ɡ, dʒ, is by its length: the log odds where it is just
// long enough, and the milliseconds that make it e times as likely. Fitted by eye to the sources for tuning.
const (
	sureAtLimit = 0.4
	surePerMs   = 12.0
)

// vowelWords say how sure an added vowel is.
func vowelWords(sure float64) string {
	const stop = "Say it again without the uh: stop while the mouth is still in place."
	switch {
	case sure >= 0.9:
		return "An “uh” follows the sound. " + stop
	case sure >= 0.7:
		return "An “uh” seems to follow the sound. Hear the marked bit; if it is there: " + strings.ToLower(
			stop[:1],
		) + stop[1:]
	}
	return "There may be a short “uh” at the end. Hear the marked bit and decide."
}
