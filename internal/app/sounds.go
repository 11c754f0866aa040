package app

import (
	"brightchalk/internal/core/card"
	"brightchalk/internal/core/phoneme"
	"brightchalk/internal/core/recording"
	"brightchalk/internal/core/spelling"
	"brightchalk/internal/core/strokes"
	"brightchalk/internal/store"
	"cmp"
	"context"
	"strings"

	"github.com/jackc/pgx/v5"
)

// ShelfSound is a card with what is needed to record it.
type ShelfSound struct {
	CardID    string           `json:"card_id"`
	Pair      spelling.Pair    `json:"pair"`
	Step      int              `json:"step"`
	MouthCue  string           `json:"mouth_cue"`
	Slip      string           `json:"slip"` // what not to add
	KeyWord   string           `json:"key_word"`
	TakeID    string           `json:"take_id,omitempty"`
	Speaker   string           `json:"speaker,omitempty"`
	Verdict   string           `json:"verdict,omitempty"`
	LevelLUFS float64          `json:"level_lufs,omitempty"` // of the master
	SNR       float64          `json:"snr_db,omitempty"`
	Plain     bool             `json:"plain,omitempty"`
	Contrast  *Contrasted      `json:"contrast,omitempty"`
	Same      *SameSound       `json:"same,omitempty"` // for a card without a take
	Drawn     *strokes.Written `json:"drawn,omitempty"`
}

// SameSound is another card with this sound that has its take already.
type SameSound struct {
	Grapheme string `json:"grapheme"`
	TakeID   string `json:"take_id"`
}

// Contrasted is a sound to hear against another: the same mouth with the voice on or off, or, where English has
// none such, a hiss against a hum.
type Contrasted struct {
	CardID   string `json:"card_id"`
	Grapheme string `json:"grapheme"`
	Sound    string `json:"sound"`
	Voiced   bool   `json:"voiced"` // the other sound is the voiced one
}

// Shelf is the library as it sounds: every card with its agreed take or without, and how alike the takes are.
type Shelf struct {
	Cards    []ShelfSound       `json:"cards"`
	Evenness recording.Evenness `json:"evenness"`
}

// Shelf measures the agreed takes as they are played.
func (a *App) Shelf(ctx context.Context, by Actor) (Shelf, error) {
	conv, err := a.conventions(ctx, a.Pool, by.TeamID)
	if err != nil {
		return Shelf{}, err
	}
	rows, err := store.Cards(ctx, a.Pool, by.TeamID, false)
	if err != nil {
		return Shelf{}, err
	}
	own, err := store.OwnLetters(ctx, a.Pool, by.TeamID)
	if err != nil {
		return Shelf{}, err
	}
	takes, err := store.ChosenTakes(ctx, a.Pool, by.TeamID)
	if err != nil {
		return Shelf{}, err
	}
	kept, of := []recording.Kept{}, map[string]recording.Kept{}
	for _, t := range takes {
		m, err := a.master(ctx, by, t)
		if err != nil {
			return Shelf{}, err
		}
		lufs, _ := recording.Loudness(m.Samples, m.Hertz)
		k := recording.Kept{
			Card:    t.CardID,
			Speaker: t.Speaker,
			Verdict: t.Verdict,
			Advice:  t.Report.Advice,
			LUFS:    lufs,
			Gain:    lufs - t.Report.LevelLUFS,
			Floor:   t.Report.Measures.NoiseFloorDBFS,
			SNR:     t.Report.SNRDecibels,
			Plain:   t.Plain,
		}
		kept, of[t.CardID] = append(kept, k), k
	}
	s := Shelf{Cards: []ShelfSound{}, Evenness: recording.Even(kept)}
	for _, r := range rows {
		k := of[r.CardID]
		cue, slip := card.SuggestCue(conv.For(r.Content).Accent, spelling.Pair{Grapheme: r.Grapheme, Sound: r.Sound})
		var same *SameSound
		for _, o := range rows {
			if r.TakeID == "" && o.Sound == r.Sound && o.TakeID != "" && same == nil {
				same = &SameSound{o.Grapheme, o.TakeID}
			}
		}
		s.Cards = append(s.Cards, ShelfSound{
			CardID:    r.CardID,
			Pair:      spelling.Pair{Grapheme: r.Grapheme, Sound: r.Sound},
			Step:      r.Step,
			MouthCue:  cmp.Or(r.Content.MouthCue, cue),
			Slip:      cmp.Or(r.Content.Slip, slip),
			KeyWord:   keyWord(conv, r),
			TakeID:    r.TakeID,
			Speaker:   k.Speaker,
			Verdict:   string(k.Verdict),
			LevelLUFS: k.LUFS,
			SNR:       k.SNR,
			Plain:     k.Plain,
			Contrast:  contrastOf(conv.Accent, r, rows),
			Same:      same,
			Drawn:     conv.Lines.Drawn(r.Grapheme, own),
		})
	}
	return s, nil
}

func keyWord(conv card.Conventions, r store.Card) string {
	if r.Content.Keyword != "" {
		return r.Content.Keyword
	}
	ps, err := phoneme.Parse(conv.For(r.Content).Accent, r.Sound)
	if err != nil || len(ps) == 0 {
		return ""
	}
	s, _ := phoneme.Lookup(conv.For(r.Content).Accent, ps[0])
	return s.KeyWord
}

// contrastOf finds the earliest card with the sound to hear against r's: a card with an agreed take first.
func contrastOf(accent phoneme.Accent, r store.Card, rows []store.Card) *Contrasted {
	sound, ok := phoneme.Lookup(accent, phoneme.Phoneme(r.Sound))
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

// ReuseTake makes a take of another card with the same sound this card's own, with its speaker and consent.
func (a *App) ReuseTake(ctx context.Context, by Actor, cardID, takeID string) (TakeView, error) {
	if err := by.need(MayChoose); err != nil {
		return TakeView{}, err
	}
	c, err := store.GetCard(ctx, a.Pool, by.TeamID, cardID)
	if err != nil {
		return TakeView{}, err
	}
	var t store.Take
	err = a.withTake(ctx, by, takeID, func(tx pgx.Tx, from store.Take) error {
		other, err := store.GetCard(ctx, tx, by.TeamID, from.CardID)
		if err != nil {
			return err
		}
		if other.Sound != c.Sound {
			return wrong("take", "That take says /%s/; this card is for /%s/.", other.Sound, c.Sound)
		}
		t = from
		t.CardID, t.Chosen = cardID, false
		if t.TakeID, err = store.AddTake(ctx, tx, by.TeamID, by.MemberID, t); err != nil {
			return err
		}
		if err := store.FixTake(ctx, tx, by.TeamID, t.TakeID, t.TrimStartMs, t.TrimEndMs, t.Plain); err != nil {
			return err
		}
		if err := store.ChooseTake(ctx, tx, by.TeamID, t); err != nil {
			return err
		}
		t, err = store.GetTake(ctx, tx, by.TeamID, t.TakeID)
		return err
	})
	return takeView(t), err
}

// Withdrawn says what a withdrawn voice leaves behind.
type Withdrawn struct {
	Takes   int             `json:"takes"`
	Missing []spelling.Pair `json:"missing"` // cards that have no sound now
}

// WithdrawVoice removes all takes of a speaker for good, their sounds as well.
func (a *App) WithdrawVoice(ctx context.Context, by Actor, speaker string) (Withdrawn, error) {
	if err := by.need(MayAgree); err != nil {
		return Withdrawn{}, err
	}
	speaker = strings.TrimSpace(speaker)
	out := Withdrawn{Missing: []spelling.Pair{}}
	err := a.tx(ctx, func(tx pgx.Tx) error {
		takes, err := store.SpeakersTakes(ctx, tx, by.TeamID, speaker)
		if err != nil {
			return err
		}
		if len(takes) == 0 {
			return wrong("speaker", "No take in the library is by %q.", speaker)
		}
		for _, t := range takes {
			if err := store.WithdrawTake(ctx, tx, by.TeamID, t); err != nil {
				return err
			}
			if !t.Chosen {
				continue
			}
			c, err := store.GetCard(ctx, tx, by.TeamID, t.CardID)
			if err != nil {
				return err
			}
			out.Missing = append(out.Missing, spelling.Pair{Grapheme: c.Grapheme, Sound: c.Sound})
		}
		out.Takes = len(takes)
		return nil
	})
	return out, err
}
