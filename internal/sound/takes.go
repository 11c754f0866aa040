package sound

import (
	"context"
	"strings"
	"time"

	"brightchalk/internal/core/fault"
	"brightchalk/internal/core/recording"
	"brightchalk/internal/core/spelling"
	"brightchalk/internal/gather"
	"brightchalk/internal/media"
	"brightchalk/internal/store"
	"brightchalk/internal/tx"
)

// Takes is what the library sounds like: recordings, their voices and their fixes.
type Takes struct{ Env tx.Env }

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
func (k Takes) Of(ctx context.Context, by tx.Actor, cardID string) ([]TakeView, error) {
	return tx.Read(ctx, k.Env, by, func(s store.Library) ([]TakeView, error) {
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
	maxAttempts     = 12 // takes in one recording
	MaxSpeakerBytes = 80 // bytes of a speaker's name
)

// Add decodes, judges and stores a recording: one take for each attempt in it, the last said first. Where
// the card has no sound yet, the first take that needs no retake becomes it. consent says that the speaker
// agreed to the recording being kept.
func (k Takes) Add(
	ctx context.Context,
	by tx.Actor,
	cardID, speaker string,
	consent bool,
	file media.Upload,
) (out []TakeView, err error) {
	if err := by.Need(tx.MayRecord); err != nil {
		return nil, err
	}
	speaker = strings.TrimSpace(speaker)
	if speaker == "" || len(speaker) > MaxSpeakerBytes {
		return nil, fault.In("speaker", "Write whose voice this is: an adult of the team.")
	}
	if !consent {
		return nil, fault.In(
			"consent",
			"Tick that the speaker agrees to the recording being kept. It can be withdrawn at any time.",
		)
	}
	if file.Size() > media.MaxSoundBytes {
		return nil, fault.In("take", "The file has more than %d MB.", media.MaxSoundBytes>>20)
	}
	target, err := tx.Read(
		ctx,
		k.Env,
		by,
		func(s store.Library) (recording.Target, error) { return readTarget(ctx, s, cardID) },
	)
	if err != nil {
		return nil, err
	}
	err = k.Env.Decode(ctx, media.SoundCost(file, file.Size()), func() error {
		parts, err := judgeAttempts(file, target)
		if err != nil {
			return err
		}
		out, err = k.store(ctx, by, cardID, speaker, parts)
		return err
	})
	return out, err
}

func (k Takes) store(ctx context.Context, by tx.Actor, cardID, speaker string, parts []attempt) ([]TakeView, error) {
	return tx.Write(ctx, k.Env, by, tx.MayRecord, func(s store.Library) ([]TakeView, error) {
		r, err := s.Card(ctx, cardID)
		if err != nil {
			return nil, err
		}
		out := []TakeView{}
		hasSound := r.TakeID != ""
		for i, p := range parts {
			t := store.Take{
				CardID: cardID, Speaker: speaker, ConsentOn: k.Env.Now(), Verdict: p.report.Verdict, Report: p.report,
				CreatedAt: k.Env.Now().Add(time.Duration(i+1) * time.Millisecond),
			}
			t.TrimStartMs, t.TrimEndMs = withFadeRoom(p.report)
			if err := StoreTake(ctx, s, by, &t, p.bytes, !hasSound && p.report.Verdict != recording.Retake); err != nil {
				return nil, err
			}
			hasSound = hasSound || t.Chosen
			out = append([]TakeView{takeView(t)}, out...)
		}
		return out, nil
	})
}

// withFadeRoom are the trim points with a little air around them, for the fades.
func withFadeRoom(r recording.Report) (startMs, endMs int) {
	const air = 20
	return max(0, r.Trim.StartMs-air), max(min(r.DurationMs, r.Trim.EndMs+air), r.Trim.StartMs+1)
}

// StoreTake stores a recording and its bytes, and makes it the card's own if choose is set.
func StoreTake(ctx context.Context, s store.Library, by tx.Actor, t *store.Take, bytes []byte, choose bool) error {
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
func (k Takes) Choose(ctx context.Context, by tx.Actor, takeID string) error {
	return k.changeOne(ctx, by, tx.MayChoose, takeID, store.Library.ChooseTake)
}

// Withdraw removes a take for good, its sound as well.
func (k Takes) Withdraw(ctx context.Context, by tx.Actor, takeID string) error {
	return k.changeOne(ctx, by, tx.MayChoose, takeID, store.Library.WithdrawTake)
}

// changeOne changes one take.
func (k Takes) changeOne(
	ctx context.Context,
	by tx.Actor,
	right tx.Right,
	takeID string,
	f func(store.Library, context.Context, store.Take) error,
) error {
	return tx.Exec(ctx, k.Env, by, right, func(s store.Library) error {
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

// minTrimMs is the shortest sound that a trim may leave, in milliseconds: a tap of t is about as long.
const minTrimMs = 50

// Fix sets the fixes of a take and judges it again as it is then heard; the recording itself stays whole. A chosen take
// is what the classes hear: only who may choose changes it.
func (k Takes) Fix(ctx context.Context, by tx.Actor, takeID string, f Fixes) error {
	if err := by.Need(tx.MayRecord); err != nil {
		return err
	}
	var target recording.Target
	from, err := tx.Read(ctx, k.Env, by, func(s store.Library) (Recording, error) {
		from, err := ReadRecording(ctx, s, takeID)
		if err == nil && from.Chosen {
			err = by.Need(tx.MayChoose)
		}
		if err != nil {
			return from, err
		}
		target, err = readTarget(ctx, s, from.CardID)
		return from, err
	})
	if err != nil {
		return err
	}
	file := media.UploadOf(from.Bytes)
	var report recording.Report
	err = k.Env.Decode(ctx, media.SoundCost(file, file.Size()), func() error {
		clip, err := media.DecodeSound(from.Bytes)
		if err != nil {
			return err
		}
		whole := recording.Judge(clip, target) // the kept report may be of a take that was cut
		if f.Propose {
			f.StartMs, f.EndMs = withFadeRoom(whole)
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
	fix := func(s store.Library, ctx context.Context, t store.Take) error {
		if t.Chosen {
			if err := by.Need(tx.MayChoose); err != nil {
				return err
			}
		}
		if err := s.FixTake(ctx, takeID, f.StartMs, f.EndMs, f.Plain, &report); err != nil {
			return err
		}
		return s.ForgetHearings(ctx, takeID) // it was another sound that was heard
	}
	return k.changeOne(ctx, by, tx.MayRecord, takeID, fix)
}

// fits refuses a trim that leaves nothing to hear of a take.
func fits(f Fixes, r recording.Report) error {
	sound := r.Trim
	switch {
	case f.StartMs < 0 || f.EndMs <= f.StartMs || f.EndMs > r.DurationMs+50:
		return fault.In("trim", "The trim runs from 0 to %d milliseconds, the start before the end.", r.DurationMs)
	case f.EndMs-f.StartMs < min(minTrimMs, r.DurationMs):
		return fault.In("trim", "The trim would leave %d milliseconds: nothing could be heard.", f.EndMs-f.StartMs)
	case sound.EndMs > sound.StartMs && (f.EndMs <= sound.StartMs || f.StartMs >= sound.EndMs):
		return fault.In(
			"trim",
			"The trim would leave only silence: the sound is from %d to %d milliseconds.",
			sound.StartMs,
			sound.EndMs,
		)
	}
	return nil
}

// readTarget is what a card's sound is judged as, in its accent.
func readTarget(ctx context.Context, s store.Library, cardID string) (recording.Target, error) {
	r, err := s.Card(ctx, cardID)
	if err != nil {
		return recording.Target{}, err
	}
	team, err := gather.Conventions(ctx, s)
	if err != nil {
		return recording.Target{}, err
	}
	conv, c := gather.CardInAccent(team, r)
	return recording.TargetOf(conv.Accent, c.Pair.Sound)
}

// Recording returns the recording of a take as it came in.
func (k Takes) Recording(ctx context.Context, by tx.Actor, takeID string) (store.Medium, error) {
	return tx.Read(ctx, k.Env, by, func(s store.Library) (store.Medium, error) {
		t, err := s.Take(ctx, takeID)
		if err != nil {
			return store.Medium{}, err
		}
		return s.Medium(ctx, t.SHA256)
	})
}

// Master is the take with its fixes, see media.Master.
func (k Takes) Master(ctx context.Context, by tx.Actor, takeID string) (recording.Clip, error) {
	return k.readAndPlay(ctx, by, func(s store.Library) (Recording, error) { return ReadRecording(ctx, s, takeID) })
}

// readAndPlay reads a take, and works it out when the database is free again.
func (k Takes) readAndPlay(
	ctx context.Context,
	by tx.Actor,
	f func(store.Library) (Recording, error),
) (out recording.Clip, err error) {
	from, err := tx.Read(ctx, k.Env, by, f)
	if err != nil {
		return out, err
	}
	file := media.UploadOf(from.Bytes)
	err = k.Env.Decode(ctx, media.SoundCost(file, file.Size()), func() error {
		out, err = from.Master()
		return err
	})
	return out, err
}

// OfCard is the master of the chosen take of a card; store.ErrNotFound where none is chosen.
func (k Takes) OfCard(ctx context.Context, by tx.Actor, cardID string) (recording.Clip, error) {
	return k.readAndPlay(ctx, by, func(s store.Library) (Recording, error) {
		c, err := s.Card(ctx, cardID)
		if err == nil && c.TakeID == "" {
			err = store.ErrNotFound
		}
		if err != nil {
			return Recording{}, err
		}
		return ReadRecording(ctx, s, c.TakeID)
	})
}

// Reuse makes a take of another card with the same sound this card's own, with its speaker and consent.
func (k Takes) Reuse(ctx context.Context, by tx.Actor, cardID, takeID string) (TakeView, error) {
	return tx.Write(ctx, k.Env, by, tx.MayChoose, func(s store.Library) (TakeView, error) {
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
			return TakeView{}, fault.In("take", "That take says /%s/; this card is for /%s/.", other.Sound, c.Sound)
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
	Missing []spelling.Pair `json:"missing" doc:"cards that have no sound now"`
}

// WithdrawVoice removes all takes of a speaker for good, their sounds as well.
func (k Takes) WithdrawVoice(ctx context.Context, by tx.Actor, speaker string) (Withdrawn, error) {
	speaker = strings.TrimSpace(speaker)
	return tx.Write(ctx, k.Env, by, tx.MayAgree, func(s store.Library) (Withdrawn, error) {
		out := Withdrawn{Missing: []spelling.Pair{}}
		takes, err := s.SpeakersTakes(ctx, speaker)
		if err != nil {
			return out, err
		}
		if len(takes) == 0 {
			return out, fault.In("speaker", "No take in the library is by %q.", speaker)
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
