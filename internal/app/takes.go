package app

import (
	"brightchalk/internal/core/recording"
	"brightchalk/internal/media"
	"brightchalk/internal/store"
	"context"
	"strings"
	"time"

	"github.com/jackc/pgx/v5"
)

// TakeView is a take with its report.
type TakeView struct {
	TakeID    string           `json:"take_id"`
	CardID    string           `json:"card_id"`
	Speaker   string           `json:"speaker"`
	ConsentOn time.Time        `json:"consent_on"`
	Trim      recording.Trim   `json:"trim"`
	Plain     bool             `json:"plain"` // played as recorded, without the tool's fixes
	Report    recording.Report `json:"report"`
	Chosen    bool             `json:"chosen"`
	CreatedBy string           `json:"created_by"`
	CreatedAt time.Time        `json:"created_at"`
}

func takeView(t store.Take) TakeView {
	return TakeView{
		t.TakeID,
		t.CardID,
		t.Speaker,
		t.ConsentOn,
		recording.Trim{StartMs: t.TrimStartMs, EndMs: t.TrimEndMs},
		t.Plain,
		t.Report,
		t.Chosen,
		t.CreatedBy,
		t.CreatedAt,
	}
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

// mostAttempts is how many takes one recording may hold.
const mostAttempts = 12

// AddTake decodes, judges and stores a recording: one take for each attempt in it, the last said first. Where
// the card has no sound yet, the first take that needs no retake becomes it. consent says that the speaker
// agreed to the recording being kept.
func (a *App) AddTake(
	ctx context.Context,
	by Actor,
	cardID, speaker string,
	consent bool,
	data []byte,
) ([]TakeView, error) {
	if err := by.need(MayRecord); err != nil {
		return nil, err
	}
	speaker = strings.TrimSpace(speaker)
	switch {
	case speaker == "" || len(speaker) > 80:
		return nil, wrong("speaker", "Write whose voice this is: an adult of the team.")
	case !consent:
		return nil, wrong(
			"consent",
			"Tick that the speaker agrees to the recording being kept. It can be withdrawn at any time.",
		)
	}
	c, err := store.GetCard(ctx, a.Pool, by.TeamID, cardID)
	if err != nil {
		return nil, err
	}
	conv, err := a.conventions(ctx, a.Pool, by.TeamID)
	if err != nil {
		return nil, err
	}
	clip, err := media.DecodeSound(data)
	if err != nil {
		return nil, wrong("take", "%s", err)
	}
	target, err := recording.TargetOf(conv.For(c.Content).Accent, c.Sound)
	if err != nil {
		return nil, err
	}
	attempts := recording.Attempts(clip)
	if len(attempts) > mostAttempts {
		return nil, wrong(
			"take",
			"There are %d attempts on this recording; up to %d are taken at once.",
			len(attempts),
			mostAttempts,
		)
	}
	out := []TakeView{}
	hasSound := c.TakeID != ""
	err = a.tx(ctx, func(tx pgx.Tx) error {
		for i := range max(1, len(attempts)) {
			part, bytes := clip, data
			if len(attempts) > 1 {
				part = media.Part(clip, attempts[i].StartMs, attempts[i].EndMs)
				bytes = media.EncodeWAV(part)
			}
			r := recording.Judge(part, target)
			t := store.Take{
				CardID:    cardID,
				Speaker:   speaker,
				ConsentOn: a.Now(),
				Verdict:   r.Verdict,
				Report:    r,
				CreatedAt: a.Now().Add(time.Duration(i+1) * time.Millisecond),
			}
			t.TrimStartMs, t.TrimEndMs = widened(r)
			if err := a.keepTake(ctx, tx, by, &t, bytes, !hasSound && r.Verdict != recording.Retake); err != nil {
				return err
			}
			hasSound = hasSound || t.Chosen
			out = append([]TakeView{takeView(t)}, out...)
		}
		return nil
	})
	return out, err
}

// widened are the trim points with a little air around them, for the fades.
func widened(r recording.Report) (startMs, endMs int) {
	const air = 20
	return max(0, r.Trim.StartMs-air), max(min(r.DurationMs, r.Trim.EndMs+air), r.Trim.StartMs+1)
}

func (a *App) keepTake(ctx context.Context, tx pgx.Tx, by Actor, t *store.Take, bytes []byte, choose bool) error {
	sum, err := store.PutMedium(ctx, tx, by.TeamID, store.Medium{MediaType: media.MediaType(bytes), Bytes: bytes})
	if err != nil {
		return err
	}
	t.SHA256 = sum[:]
	if t.TakeID, err = store.AddTake(ctx, tx, by.TeamID, by.MemberID, *t); err != nil {
		return err
	}
	if choose {
		if err := store.ChooseTake(ctx, tx, by.TeamID, *t); err != nil {
			return err
		}
	}
	*t, err = store.GetTake(ctx, tx, by.TeamID, t.TakeID)
	return err
}

// ChooseTake makes a take the card's own.
func (a *App) ChooseTake(ctx context.Context, by Actor, takeID string) error {
	if err := by.need(MayChoose); err != nil {
		return err
	}
	return a.withTake(
		ctx,
		by,
		takeID,
		func(tx pgx.Tx, t store.Take) error { return store.ChooseTake(ctx, tx, by.TeamID, t) },
	)
}

// WithdrawTake removes a take for good, its sound as well.
func (a *App) WithdrawTake(ctx context.Context, by Actor, takeID string) error {
	if err := by.need(MayChoose); err != nil {
		return err
	}
	return a.withTake(
		ctx,
		by,
		takeID,
		func(tx pgx.Tx, t store.Take) error { return store.WithdrawTake(ctx, tx, by.TeamID, t) },
	)
}

// Fixes are what is done to a take when it is played: where it starts and ends, and, unless plain, rumble taken
// out and the library's loudness.
type Fixes struct {
	StartMs int  `json:"start_ms"`
	EndMs   int  `json:"end_ms"`
	Plain   bool `json:"plain,omitempty"`
	Propose bool `json:"propose,omitempty"` // take the tool's own trim points
}

// FixTake sets the fixes of a take; the recording itself stays whole.
func (a *App) FixTake(ctx context.Context, by Actor, takeID string, f Fixes) error {
	if err := by.need(MayRecord); err != nil {
		return err
	}
	return a.withTake(ctx, by, takeID, func(tx pgx.Tx, t store.Take) error {
		if f.Propose {
			f.StartMs, f.EndMs = widened(t.Report)
		}
		if f.StartMs < 0 || f.EndMs <= f.StartMs || f.EndMs > t.Report.DurationMs+50 {
			return wrong("trim", "The trim runs from 0 to %d milliseconds, the start before the end.", t.Report.DurationMs)
		}
		return store.FixTake(ctx, tx, by.TeamID, takeID, f.StartMs, f.EndMs, f.Plain)
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

// Sound returns the recording of a take as it came in, with its media type.
func (a *App) Sound(ctx context.Context, by Actor, takeID string) ([]byte, string, error) {
	t, err := store.GetTake(ctx, a.Pool, by.TeamID, takeID)
	if err != nil {
		return nil, "", err
	}
	m, err := store.GetMedium(ctx, a.Pool, by.TeamID, t.SHA256)
	return m.Bytes, m.MediaType, err
}

// MasterOf is the take with its fixes, see media.Master.
func (a *App) MasterOf(ctx context.Context, by Actor, takeID string) (recording.Clip, error) {
	t, err := store.GetTake(ctx, a.Pool, by.TeamID, takeID)
	if err != nil {
		return recording.Clip{}, err
	}
	return a.master(ctx, by, t)
}

func (a *App) master(ctx context.Context, by Actor, t store.Take) (recording.Clip, error) {
	m, err := store.GetMedium(ctx, a.Pool, by.TeamID, t.SHA256)
	if err != nil {
		return recording.Clip{}, err
	}
	clip, err := media.DecodeSound(m.Bytes)
	if err != nil {
		return recording.Clip{}, err
	}
	return media.Master(clip, t.TrimStartMs, t.TrimEndMs, t.Plain), nil
}

// CardMaster is MasterOf the chosen take of a card; store.ErrNotFound where none is chosen.
func (a *App) CardMaster(ctx context.Context, by Actor, cardID string) (recording.Clip, error) {
	c, err := store.GetCard(ctx, a.Pool, by.TeamID, cardID)
	if err != nil {
		return recording.Clip{}, err
	}
	if c.TakeID == "" {
		return recording.Clip{}, store.ErrNotFound
	}
	return a.MasterOf(ctx, by, c.TakeID)
}
