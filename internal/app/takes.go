package app

import (
	"context"
	"strings"
	"time"

	"brightchalk/internal/core/recording"
	"brightchalk/internal/core/spelling"
	"brightchalk/internal/media"
	"brightchalk/internal/store"
)

type takeReader interface {
	Take(ctx context.Context, takeID string) (store.Take, error)
	Medium(ctx context.Context, sum []byte) (store.Medium, error)
}

type takeStore interface {
	letterReader
	cardReader
	takeReader
	Takes(ctx context.Context, cardID string) ([]store.Take, error)
	TakesAfter(ctx context.Context, after string, most int) ([]store.Take, error)
	CountTakes(ctx context.Context) (int, error)
	KeepJob(ctx context.Context, id string, run int, result []byte) error
	ChosenTakes(ctx context.Context) ([]store.Take, error)
	SpeakersTakes(ctx context.Context, speaker string) ([]store.Take, error)
	AddTake(ctx context.Context, by string, t store.Take) (string, error)
	ChooseTake(ctx context.Context, t store.Take) error
	FixTake(ctx context.Context, takeID string, startMs, endMs int, plain bool, report *recording.Report) error
	WithdrawTake(ctx context.Context, t store.Take) error
	PutMedium(ctx context.Context, m store.Medium) ([32]byte, error)
	PutHearing(ctx context.Context, h store.Hearing) error
	DropHearing(ctx context.Context, takeID, memberID string) error
	ForgetHearings(ctx context.Context, takeID string) error
	Hearings(ctx context.Context) ([]store.Hearing, error)
	HeardTakes(ctx context.Context) ([]store.HeardTake, error)
}

// Takes is what the library sounds like: recordings, their voices and their fixes.
type Takes struct{ desk desk[takeStore] }

// TakeView is a take with its report.
type TakeView struct {
	TakeID    string           `json:"take_id" format:"uuid"`
	CardID    string           `json:"card_id" format:"uuid"`
	Speaker   string           `json:"speaker"`
	ConsentOn time.Time        `json:"consent_on"`
	Trim      recording.Trim   `json:"trim"`
	Plain     bool             `json:"plain" doc:"played as recorded, without the tool's fixes"`
	Report    recording.Report `json:"report"`
	Chosen    bool             `json:"chosen"`
	CreatedBy string           `json:"created_by"`
	CreatedAt time.Time        `json:"created_at"`
}

func takeView(t store.Take) TakeView {
	return TakeView{
		TakeID: t.TakeID, CardID: t.CardID, Speaker: t.Speaker, ConsentOn: t.ConsentOn,
		Trim: recording.Trim{StartMs: t.TrimStartMs, EndMs: t.TrimEndMs}, Plain: t.Plain, Report: t.Report,
		Chosen: t.Chosen, CreatedBy: t.CreatedBy, CreatedAt: t.CreatedAt,
	}
}

// Of lists a card's takes, the newest first.
func (k Takes) Of(ctx context.Context, by Actor, cardID string) ([]TakeView, error) {
	return read(ctx, k.desk, by, func(s takeStore) ([]TakeView, error) {
		rows, err := s.Takes(ctx, cardID)
		out := []TakeView{}
		for _, t := range rows {
			out = append(out, takeView(t))
		}
		return out, err
	})
}

// Bounds of a recording.
const (
	mostAttempts = 12 // takes in one recording
	mostSpeaker  = 80 // bytes of a speaker's name
)

// Add decodes, judges and stores a recording: one take for each attempt in it, the last said first. Where
// the card has no sound yet, the first take that needs no retake becomes it. consent says that the speaker
// agreed to the recording being kept.
func (k Takes) Add(
	ctx context.Context,
	by Actor,
	cardID, speaker string,
	consent bool,
	file Upload,
) (out []TakeView, err error) {
	if err := by.need(MayRecord); err != nil {
		return nil, err
	}
	speaker = strings.TrimSpace(speaker)
	if speaker == "" || len(speaker) > mostSpeaker {
		return nil, wrong("speaker", "Write whose voice this is: an adult of the team.")
	}
	if !consent {
		return nil, wrong(
			"consent",
			"Tick that the speaker agrees to the recording being kept. It can be withdrawn at any time.",
		)
	}
	if file.Size() > media.MaxSoundBytes {
		return nil, wrong("take", "The file has more than %d MB.", media.MaxSoundBytes>>20)
	}
	target, err := read(ctx, k.desk, by, func(s takeStore) (recording.Target, error) { return targetOf(ctx, s, cardID) })
	if err != nil {
		return nil, err
	}
	err = k.desk.decoding(ctx, media.SoundCost(file, file.Size()), func() error {
		parts, err := judged(file, target)
		if err != nil {
			return err
		}
		out, err = k.store(ctx, by, cardID, speaker, parts)
		return err
	})
	return out, err
}

func (k Takes) store(ctx context.Context, by Actor, cardID, speaker string, parts []attempt) ([]TakeView, error) {
	return write(ctx, k.desk, by, MayRecord, func(s takeStore) ([]TakeView, error) {
		r, err := s.Card(ctx, cardID)
		if err != nil {
			return nil, err
		}
		out := []TakeView{}
		hasSound := r.TakeID != ""
		for i, p := range parts {
			t := store.Take{
				CardID: cardID, Speaker: speaker, ConsentOn: k.desk.now(), Verdict: p.report.Verdict, Report: p.report,
				CreatedAt: k.desk.now().Add(time.Duration(i+1) * time.Millisecond),
			}
			t.TrimStartMs, t.TrimEndMs = widened(p.report)
			if err := keep(ctx, s, by, &t, p.bytes, !hasSound && p.report.Verdict != recording.Retake); err != nil {
				return nil, err
			}
			hasSound = hasSound || t.Chosen
			out = append([]TakeView{takeView(t)}, out...)
		}
		return out, nil
	})
}

// widened are the trim points with a little air around them, for the fades.
func widened(r recording.Report) (startMs, endMs int) {
	const air = 20
	return max(0, r.Trim.StartMs-air), max(min(r.DurationMs, r.Trim.EndMs+air), r.Trim.StartMs+1)
}

func keep(ctx context.Context, s takeStore, by Actor, t *store.Take, bytes []byte, choose bool) error {
	sum, err := s.PutMedium(ctx, store.Medium{MediaType: media.TypeOf(bytes), Bytes: bytes})
	if err != nil {
		return err
	}
	t.SHA256 = sum[:]
	if t.TakeID, err = s.AddTake(ctx, by.MemberID, *t); err != nil {
		return err
	}
	if choose {
		if err := s.ChooseTake(ctx, *t); err != nil {
			return err
		}
	}
	*t, err = s.Take(ctx, t.TakeID)
	return err
}

// Choose makes a take the card's own.
func (k Takes) Choose(ctx context.Context, by Actor, takeID string) error {
	return k.with(ctx, by, MayChoose, takeID, takeStore.ChooseTake)
}

// Withdraw removes a take for good, its sound as well.
func (k Takes) Withdraw(ctx context.Context, by Actor, takeID string) error {
	return k.with(ctx, by, MayChoose, takeID, takeStore.WithdrawTake)
}

// with changes one take.
func (k Takes) with(
	ctx context.Context,
	by Actor,
	right Right,
	takeID string,
	f func(takeStore, context.Context, store.Take) error,
) error {
	return change(ctx, k.desk, by, right, func(s takeStore) error {
		t, err := s.Take(ctx, takeID)
		if err != nil {
			return err
		}
		return f(s, ctx, t)
	})
}

// Fixes are what is done to a take when it is played: where it starts and ends, and, unless plain, rumble taken
// out and the library's loudness.
type Fixes struct {
	StartMs int  `json:"start_ms" minimum:"0" doc:"milliseconds from the start of the recording"`
	EndMs   int  `json:"end_ms" minimum:"0" doc:"milliseconds from the start of the recording"`
	Plain   bool `json:"plain,omitempty" doc:"play it as recorded"`
	Propose bool `json:"propose,omitempty" doc:"take the tool's own trim points"`
}

// leastTrim is the shortest sound that a trim may leave, in milliseconds: a tap of t is about as long.
const leastTrim = 50

// Fix sets the fixes of a take and judges it again as it is then heard; the recording itself stays whole. A chosen take
// is what the classes hear: only who may choose changes it.
func (k Takes) Fix(ctx context.Context, by Actor, takeID string, f Fixes) error {
	if err := by.need(MayRecord); err != nil {
		return err
	}
	var target recording.Target
	from, err := read(ctx, k.desk, by, func(s takeStore) (kept, error) {
		from, err := takeKept(ctx, s, takeID)
		if err == nil && from.Chosen {
			err = by.need(MayChoose)
		}
		if err != nil {
			return from, err
		}
		target, err = targetOf(ctx, s, from.CardID)
		return from, err
	})
	if err != nil {
		return err
	}
	file := Uploaded(from.Bytes)
	var report recording.Report
	err = k.desk.decoding(ctx, media.SoundCost(file, file.Size()), func() error {
		clip, err := media.DecodeSound(from.Bytes)
		if err != nil {
			return err
		}
		whole := recording.Judge(clip, target) // the kept report may be of a take that was cut
		if f.Propose {
			f.StartMs, f.EndMs = widened(whole)
		}
		if err := fits(f, whole); err != nil {
			return err
		}
		report = recording.JudgeUntil(clip, f.EndMs, target)
		return nil
	})
	if err != nil {
		return err
	}
	fix := func(s takeStore, ctx context.Context, t store.Take) error {
		if t.Chosen {
			if err := by.need(MayChoose); err != nil {
				return err
			}
		}
		if err := s.FixTake(ctx, takeID, f.StartMs, f.EndMs, f.Plain, &report); err != nil {
			return err
		}
		return s.ForgetHearings(ctx, takeID) // it was another sound that was heard
	}
	return k.with(ctx, by, MayRecord, takeID, fix)
}

// fits refuses a trim that leaves nothing to hear of a take.
func fits(f Fixes, r recording.Report) error {
	sound := r.Trim
	switch {
	case f.StartMs < 0 || f.EndMs <= f.StartMs || f.EndMs > r.DurationMs+50:
		return wrong("trim", "The trim runs from 0 to %d milliseconds, the start before the end.", r.DurationMs)
	case f.EndMs-f.StartMs < min(leastTrim, r.DurationMs):
		return wrong("trim", "The trim would leave %d milliseconds: nothing could be heard.", f.EndMs-f.StartMs)
	case sound.EndMs > sound.StartMs && (f.EndMs <= sound.StartMs || f.StartMs >= sound.EndMs):
		return wrong(
			"trim", "The trim would leave only silence: the sound is from %d to %d milliseconds.", sound.StartMs, sound.EndMs,
		)
	}
	return nil
}

// targetOf is what a card's sound is judged as, in its accent.
func targetOf(ctx context.Context, s takeStore, cardID string) (recording.Target, error) {
	r, err := s.Card(ctx, cardID)
	if err != nil {
		return recording.Target{}, err
	}
	team, err := conventionsOf(ctx, s)
	if err != nil {
		return recording.Target{}, err
	}
	conv, c := own(team, r)
	return recording.TargetOf(conv.Accent, c.Pair.Sound)
}

// Recording returns the recording of a take as it came in.
func (k Takes) Recording(ctx context.Context, by Actor, takeID string) (store.Medium, error) {
	return read(ctx, k.desk, by, func(s takeStore) (store.Medium, error) {
		t, err := s.Take(ctx, takeID)
		if err != nil {
			return store.Medium{}, err
		}
		return s.Medium(ctx, t.SHA256)
	})
}

// Master is the take with its fixes, see media.Master.
func (k Takes) Master(ctx context.Context, by Actor, takeID string) (recording.Clip, error) {
	return k.played(ctx, by, func(s takeStore) (kept, error) { return takeKept(ctx, s, takeID) })
}

// played reads a take, and works it out when the database is free again.
func (k Takes) played(
	ctx context.Context,
	by Actor,
	f func(takeStore) (kept, error),
) (out recording.Clip, err error) {
	from, err := read(ctx, k.desk, by, f)
	if err != nil {
		return out, err
	}
	file := Uploaded(from.Bytes)
	err = k.desk.decoding(ctx, media.SoundCost(file, file.Size()), func() error {
		out, err = from.master()
		return err
	})
	return out, err
}

// OfCard is the master of the chosen take of a card; store.ErrNotFound where none is chosen.
func (k Takes) OfCard(ctx context.Context, by Actor, cardID string) (recording.Clip, error) {
	return k.played(ctx, by, func(s takeStore) (kept, error) {
		c, err := s.Card(ctx, cardID)
		if err == nil && c.TakeID == "" {
			err = store.ErrNotFound
		}
		if err != nil {
			return kept{}, err
		}
		return takeKept(ctx, s, c.TakeID)
	})
}

// Reuse makes a take of another card with the same sound this card's own, with its speaker and consent.
func (k Takes) Reuse(ctx context.Context, by Actor, cardID, takeID string) (TakeView, error) {
	return write(ctx, k.desk, by, MayChoose, func(s takeStore) (TakeView, error) {
		c, err := s.Card(ctx, cardID)
		if err != nil {
			return TakeView{}, err
		}
		t, err := s.Take(ctx, takeID)
		if err != nil {
			return TakeView{}, err
		}
		other, err := s.Card(ctx, t.CardID)
		if err != nil {
			return TakeView{}, err
		}
		if other.Sound != c.Sound {
			return TakeView{}, wrong("take", "That take says /%s/; this card is for /%s/.", other.Sound, c.Sound)
		}
		t.CardID, t.Chosen = cardID, false
		if t.TakeID, err = s.AddTake(ctx, by.MemberID, t); err != nil {
			return TakeView{}, err
		}
		if err := s.FixTake(ctx, t.TakeID, t.TrimStartMs, t.TrimEndMs, t.Plain, nil); err != nil {
			return TakeView{}, err
		}
		if err := s.ChooseTake(ctx, t); err != nil {
			return TakeView{}, err
		}
		t, err = s.Take(ctx, t.TakeID)
		return takeView(t), err
	})
}

// Withdrawn says what a withdrawn voice leaves behind.
type Withdrawn struct {
	Takes   int             `json:"takes"`
	Missing []spelling.Pair `json:"missing" nullable:"false" doc:"cards that have no sound now"`
}

// WithdrawVoice removes all takes of a speaker for good, their sounds as well.
func (k Takes) WithdrawVoice(ctx context.Context, by Actor, speaker string) (Withdrawn, error) {
	speaker = strings.TrimSpace(speaker)
	return write(ctx, k.desk, by, MayAgree, func(s takeStore) (Withdrawn, error) {
		out := Withdrawn{Missing: []spelling.Pair{}}
		takes, err := s.SpeakersTakes(ctx, speaker)
		if err != nil {
			return out, err
		}
		if len(takes) == 0 {
			return out, wrong("speaker", "No take in the library is by %q.", speaker)
		}
		for _, t := range takes {
			if err := s.WithdrawTake(ctx, t); err != nil {
				return out, err
			}
			if !t.Chosen {
				continue
			}
			c, err := s.Card(ctx, t.CardID)
			if err != nil {
				return out, err
			}
			out.Missing = append(out.Missing, spelling.Pair{Grapheme: c.Grapheme, Sound: c.Sound})
		}
		out.Takes = len(takes)
		return out, nil
	})
}
