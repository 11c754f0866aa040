package app

import (
	"context"
	"strings"
	"time"

	"github.com/jackc/pgx/v5"

	"brightchalk/internal/core/phoneme"
	"brightchalk/internal/core/recording"
	"brightchalk/internal/media"
	"brightchalk/internal/store"
)

// TakeView is a take with its report.
type TakeView struct {
	TakeID    string           `json:"take_id"`
	CardID    string           `json:"card_id"`
	Speaker   string           `json:"speaker"`
	ConsentOn time.Time        `json:"consent_on"`
	Trim      recording.Trim   `json:"trim"`
	Report    recording.Report `json:"report"`
	Chosen    bool             `json:"chosen"`
	CreatedBy string           `json:"created_by"`
	CreatedAt time.Time        `json:"created_at"`
}

func takeView(t store.Take) TakeView {
	return TakeView{t.TakeID, t.CardID, t.Speaker, t.ConsentOn, recording.Trim{StartMs: t.TrimStartMs, EndMs: t.TrimEndMs}, t.Report, t.Chosen, t.CreatedBy, t.CreatedAt}
}

// Takes lists a card's takes, the newest first.
func (a *App) Takes(ctx context.Context, by Actor, cardID string) ([]TakeView, error) {
	rows, err := store.Takes(ctx, a.Pool, by.TeamID, cardID)
	if err != nil {
		return nil, err
	}
	out := []TakeView{}
	for _, t := range rows {
		out = append(out, takeView(t))
	}
	return out, nil
}

// AddTake decodes, judges and stores a take. The first take that needs no retake becomes the card's own.
// consent says that the speaker agreed to the recording being kept.
func (a *App) AddTake(ctx context.Context, by Actor, cardID, speaker string, consent bool, data []byte) (TakeView, error) {
	if err := by.need(MayRecord); err != nil {
		return TakeView{}, err
	}
	speaker = strings.TrimSpace(speaker)
	switch {
	case speaker == "" || len(speaker) > 80:
		return TakeView{}, wrong("speaker", "Write whose voice this is: an adult of the team.")
	case !consent:
		return TakeView{}, wrong("consent", "Tick that the speaker agrees to the recording being kept. It can be withdrawn at any time.")
	}
	c, err := store.GetCard(ctx, a.Pool, by.TeamID, cardID)
	if err != nil {
		return TakeView{}, err
	}
	conv, err := a.conventions(ctx, a.Pool, by.TeamID)
	if err != nil {
		return TakeView{}, err
	}
	clip, err := media.DecodeWAV(data)
	if err != nil {
		return TakeView{}, wrong("take", "%s", err)
	}
	report, err := judge(conv.For(c.Content).Accent, c.Sound, clip)
	if err != nil {
		return TakeView{}, err
	}
	t := store.Take{CardID: cardID, Speaker: speaker, ConsentOn: a.Now(), TrimStartMs: max(0, report.Trim.StartMs-20), TrimEndMs: max(report.Trim.EndMs+20, report.Trim.StartMs+1), Verdict: report.Verdict, Report: report, CreatedAt: a.Now()}
	err = a.tx(ctx, func(tx pgx.Tx) error {
		sum, err := store.PutMedium(ctx, tx, by.TeamID, store.Medium{MediaType: "audio/wav", Bytes: data})
		if err != nil {
			return err
		}
		t.SHA256 = sum[:]
		id, err := store.AddTake(ctx, tx, by.TeamID, by.MemberID, t)
		if err != nil {
			return err
		}
		t.TakeID = id
		if c.TakeID == "" && report.Verdict != recording.Retake {
			if err := store.ChooseTake(ctx, tx, by.TeamID, t); err != nil {
				return err
			}
		}
		t, err = store.GetTake(ctx, tx, by.TeamID, id)
		return err
	})
	return takeView(t), err
}

func judge(accent phoneme.Accent, sound string, clip recording.Clip) (recording.Report, error) {
	target, err := recording.TargetOf(accent, sound)
	if err != nil {
		return recording.Report{}, err
	}
	return recording.Judge(clip, target), nil
}

// ChooseTake makes a take the card's own.
func (a *App) ChooseTake(ctx context.Context, by Actor, takeID string) error {
	if err := by.need(MayChoose); err != nil {
		return err
	}
	return a.withTake(ctx, by, takeID, func(tx pgx.Tx, t store.Take) error { return store.ChooseTake(ctx, tx, by.TeamID, t) })
}

// WithdrawTake removes a take for good, its sound as well.
func (a *App) WithdrawTake(ctx context.Context, by Actor, takeID string) error {
	if err := by.need(MayChoose); err != nil {
		return err
	}
	return a.withTake(ctx, by, takeID, func(tx pgx.Tx, t store.Take) error { return store.WithdrawTake(ctx, tx, by.TeamID, t) })
}

// TrimTake moves the trim points of a take.
func (a *App) TrimTake(ctx context.Context, by Actor, takeID string, startMs, endMs int) error {
	if err := by.need(MayRecord); err != nil {
		return err
	}
	return a.withTake(ctx, by, takeID, func(tx pgx.Tx, t store.Take) error {
		if startMs < 0 || endMs <= startMs || endMs > t.Report.DurationMs+50 {
			return wrong("trim", "The trim runs from 0 to %d milliseconds, the start before the end.", t.Report.DurationMs)
		}
		return store.TrimTake(ctx, tx, by.TeamID, takeID, startMs, endMs)
	})
}

func (a *App) withTake(ctx context.Context, by Actor, takeID string, f func(pgx.Tx, store.Take) error) error {
	return a.tx(ctx, func(tx pgx.Tx) error {
		t, err := store.GetTake(ctx, tx, by.TeamID, takeID)
		if err != nil {
			return err
		}
		return f(tx, t)
	})
}

// Sound returns the WAV of a take: trimmed and levelled, or the original as it came in.
func (a *App) Sound(ctx context.Context, by Actor, takeID string, original bool) ([]byte, error) {
	t, err := store.GetTake(ctx, a.Pool, by.TeamID, takeID)
	if err != nil {
		return nil, err
	}
	m, err := store.GetMedium(ctx, a.Pool, by.TeamID, t.SHA256)
	if err != nil || original {
		return m.Bytes, err
	}
	clip, err := media.DecodeWAV(m.Bytes)
	if err != nil {
		return nil, err
	}
	return media.TrimmedWAV(clip, t.TrimStartMs, t.TrimEndMs), nil
}

// CardSound is Sound for the chosen take of a card; store.ErrNotFound where none is chosen.
func (a *App) CardSound(ctx context.Context, by Actor, cardID string) ([]byte, error) {
	c, err := store.GetCard(ctx, a.Pool, by.TeamID, cardID)
	if err != nil {
		return nil, err
	}
	if c.TakeID == "" {
		return nil, store.ErrNotFound
	}
	return a.Sound(ctx, by, c.TakeID, false)
}
