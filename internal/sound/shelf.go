package sound

import (
	"cmp"
	"context"

	"brightchalk/internal/core/card"
	"brightchalk/internal/core/convention"
	"brightchalk/internal/core/phoneme"
	"brightchalk/internal/core/recording"
	"brightchalk/internal/core/script"
	"brightchalk/internal/core/spelling"
	"brightchalk/internal/core/strokes"
	"brightchalk/internal/gather"
	"brightchalk/internal/store"
	"brightchalk/internal/tx"
)

// ShelfSound is a card with what is needed to record it.
type ShelfSound struct {
	CardID    string           `json:"card_id" format:"uuid"`
	Pair      spelling.Pair    `json:"pair"`
	Step      int              `json:"step"`
	MouthCue  string           `json:"mouth_cue"`
	Slip      string           `json:"slip" doc:"what not to add"`
	KeyWord   string           `json:"key_word" doc:"with this spelling; empty where no word has it"`
	TakeID    string           `json:"take_id,omitempty"`
	Speaker   string           `json:"speaker,omitempty"`
	Verdict   string           `json:"verdict,omitempty" enum:"pure,fix,retake"`
	LevelLUFS float64          `json:"level_lufs,omitempty" doc:"of the master"`
	SNR       float64          `json:"snr_db,omitempty"`
	Plain     bool             `json:"plain,omitempty"`
	Contrast  *Contrasted      `json:"contrast,omitempty"`
	Same      *SameSound       `json:"same,omitempty" doc:"for a card without a take"`
	Drawn     *strokes.Written `json:"drawn,omitempty" doc:"the letter as the team writes it"`
}

// SameSound is another card with this sound that has its take already.
type SameSound struct {
	Grapheme string `json:"grapheme"`
	TakeID   string `json:"take_id" format:"uuid"`
}

// Contrasted is a sound to hear against another: the same mouth with the voice on or off, or, where English has
// none such, a hiss against a hum.
type Contrasted struct {
	CardID   string `json:"card_id" format:"uuid"`
	Grapheme string `json:"grapheme"`
	Sound    string `json:"sound"`
	Voiced   bool   `json:"voiced" doc:"the other sound is the voiced one"`
}

// Shelf is the library as it sounds: every card with its agreed take or without, and how alike the takes are.
type Shelf struct {
	Cards    []ShelfSound       `json:"cards"`
	Evenness recording.Evenness `json:"evenness"`
}

// Shelf measures the agreed takes as they are played.
func (k Takes) Shelf(ctx context.Context, by tx.Actor) (Shelf, error) {
	return tx.Read(ctx, k.Env, by, func(s store.Library) (Shelf, error) {
		team, err := gather.Conventions(ctx, s)
		if err != nil {
			return Shelf{}, err
		}
		rows, err := s.Cards(ctx, false)
		if err != nil {
			return Shelf{}, err
		}
		letters, err := s.OwnLetters(ctx)
		if err != nil {
			return Shelf{}, err
		}
		kept, err := MeasureChosen(ctx, s)
		if err != nil {
			return Shelf{}, err
		}
		of := map[string]recording.MeasuredTake{}
		for _, m := range kept {
			of[m.Card] = m
		}
		out := Shelf{Cards: []ShelfSound{}, Evenness: recording.Even(kept)}
		for _, r := range rows {
			out.Cards = append(out.Cards, shelfSound(team, r, of[r.CardID], rows, letters))
		}
		return out, nil
	})
}

// MeasureChosen measures the chosen recordings of all cards as they are played.
func MeasureChosen(ctx context.Context, s store.Library) ([]recording.MeasuredTake, error) {
	takes, err := s.ChosenTakes(ctx)
	if err != nil {
		return nil, err
	}
	kept := []recording.MeasuredTake{}
	for _, t := range takes {
		m, err := ReadMaster(ctx, s, t.TakeID)
		if err != nil {
			return nil, err
		}
		lufs, _ := recording.Loudness(m.Samples, m.Hertz)
		kept = append(kept, recording.MeasuredTake{
			Card: t.CardID, Speaker: t.Speaker, Verdict: t.Verdict, Advice: t.Report.Advice, LUFS: lufs,
			Gain: lufs - t.Report.LevelLUFS, Floor: t.Report.Measures.NoiseFloorDBFS,
			SNR: t.Report.SNRDecibels, Plain: t.Plain,
		})
	}
	return kept, nil
}

func shelfSound(
	team convention.Conventions,
	r store.Card,
	k recording.MeasuredTake,
	rows []store.Card,
	letters map[string]strokes.Letter,
) ShelfSound {
	conv, c := gather.CardInAccent(team, r)
	cue, slip := card.SuggestCue(conv.Accent, c.Pair)
	var same *SameSound
	for _, o := range rows {
		if r.TakeID == "" && o.Sound == r.Sound && o.TakeID != "" && same == nil {
			same = &SameSound{o.Grapheme, o.TakeID}
		}
	}
	return ShelfSound{
		CardID:   r.CardID,
		Pair:     c.Pair,
		Step:     r.Step,
		MouthCue: cmp.Or(r.Content.MouthCue, cue),
		Slip: cmp.Or(
			r.Content.Slip,
			slip,
		),
		KeyWord:   script.Keyword(conv.Speech(), c.Pair, c.Keyword),
		TakeID:    r.TakeID,
		Speaker:   k.Speaker,
		Verdict:   string(k.Verdict),
		LevelLUFS: k.LUFS,
		SNR:       k.SNR,
		Plain:     k.Plain,
		Contrast:  findContrast(conv.Accent, c, rows),
		Same:      same,
		Drawn:     team.Lines.Drawn(r.Grapheme, letters),
	}
}

// findContrast finds the earliest card with the sound to hear against c's: a card with an agreed take first.
func findContrast(accent phoneme.Accent, c card.Card, rows []store.Card) *Contrasted {
	sound, ok := phoneme.Lookup(accent, phoneme.Phoneme(c.Pair.Sound))
	if !ok || sound.Manner == phoneme.Vowel {
		return nil
	}
	want := sound.Contrast
	if want == "" {
		want = map[bool]phoneme.Phoneme{true: "s", false: "m"}[sound.Voiced]
	}
	var found *store.Card
	for i := range rows {
		if phoneme.Phoneme(rows[i].Sound) == want && (found == nil || found.TakeID == "" && rows[i].TakeID != "") {
			found = &rows[i]
		}
	}
	if found == nil {
		return nil
	}
	other, _ := phoneme.Lookup(accent, want)
	return &Contrasted{CardID: found.CardID, Grapheme: found.Grapheme, Sound: found.Sound, Voiced: other.Voiced}
}
