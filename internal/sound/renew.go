package sound

import (
	"context"
	"encoding/json"
	"errors"

	"brightchalk/internal/core/recording"
	"brightchalk/internal/core/spelling"
	"brightchalk/internal/media"
	"brightchalk/internal/store"
	"brightchalk/internal/tx"
)

// Rejudged is what came of judging all takes again. After is the last one that was judged.
type Rejudged struct {
	Judged  int             `json:"judged"`
	All     int             `json:"all" doc:"takes of the library"`
	After   string          `json:"after,omitempty" doc:"the take that was judged last"`
	Changed []RejudgedTake  `json:"changed" doc:"whose verdict is another now"`
	Failed  []RejudgedFault `json:"failed" doc:"that could not be read; they stay as they are"`
}

// RejudgedTake is a take whose verdict has changed, and why.
type RejudgedTake struct {
	TakeID string            `json:"take_id" format:"uuid"`
	CardID string            `json:"card_id" format:"uuid"`
	Pair   spelling.Pair     `json:"pair"`
	Chosen bool              `json:"chosen"`
	Before recording.Verdict `json:"before" enum:"pure,fix,retake"`
	After  recording.Verdict `json:"after" enum:"pure,fix,retake"`
	Why    string            `json:"why"`
}

// RejudgedFault is a take that could not be judged.
type RejudgedFault struct {
	TakeID string `json:"take_id" format:"uuid"`
	Why    string `json:"why"`
}

// renewAtOnce is how many takes are listed at once.
const renewAtOnce = 12

// RejudgeAll judges all takes of the library again with the judge of today. What is chosen stays chosen, and no card
// loses its state: the team decides what to do about a verdict that changed. Where a run before broke off it goes on:
// what that one had found is kept in the transaction in which the verdict changed.
func (k Takes) RejudgeAll(ctx context.Context, by tx.Actor, j store.Job) (Rejudged, error) {
	out := Rejudged{Changed: []RejudgedTake{}, Failed: []RejudgedFault{}}
	if len(j.Result) > 0 {
		if err := json.Unmarshal(j.Result, &out); err != nil {
			return out, err
		}
	}
	for {
		list, err := tx.Read(ctx, k.Env, by, func(s store.Library) ([]store.Take, error) {
			var err error
			if out.All, err = s.CountTakes(ctx); err != nil {
				return nil, err
			}
			return s.TakesAfter(ctx, out.After, renewAtOnce)
		})
		if err != nil || len(list) == 0 {
			return out, err
		}
		for _, t := range list {
			err := k.renew(ctx, by, t, j, &out)
			if errors.Is(err, store.ErrNotFound) { // withdrawn meanwhile
				out.After = t.TakeID
			} else if err != nil {
				return out, err
			}
			tx.ReportProgress(ctx, out.Judged, out.All)
		}
	}
}

// renew judges one take again, as it is heard now, and adds it to what was judged.
func (k Takes) renew(ctx context.Context, by tx.Actor, t store.Take, j store.Job, out *Rejudged) error {
	report, from, pair, err := k.judgedNow(ctx, by, t)
	next := *out
	next.Judged++
	next.After = t.TakeID
	switch {
	case errors.Is(err, media.ErrRefused):
		next.Failed = append(next.Failed, RejudgedFault{t.TakeID, err.Error()})
	case err != nil:
		return err
	case report.Verdict != from.Verdict:
		next.Changed = append(next.Changed,
			RejudgedTake{t.TakeID, t.CardID, pair, from.Chosen, from.Verdict, report.Verdict, report.Advice})
	}
	kept, failed := json.Marshal(next)
	if failed != nil {
		return failed
	}
	refused := err != nil
	err = tx.Exec(ctx, k.Env, by, tx.MayAgree, func(s store.Library) error {
		if err := s.KeepJob(ctx, j.JobID, j.Run, kept); err != nil || refused {
			return err
		}
		now, err := s.Take(ctx, t.TakeID)
		if err != nil || now.TrimEndMs != from.TrimEndMs { // trimmed meanwhile, and judged with that
			return err
		}
		return s.FixTake(ctx, t.TakeID, now.TrimStartMs, now.TrimEndMs, now.Plain, &report)
	})
	if err == nil {
		*out = next
	}
	return err
}

// judgedNow is what the judge of today says of a take, and the take.
func (k Takes) judgedNow(
	ctx context.Context, by tx.Actor, t store.Take,
) (report recording.Report, from Recording, pair spelling.Pair, err error) {
	var target recording.Target
	from, err = tx.Read(ctx, k.Env, by, func(s store.Library) (Recording, error) {
		c, err := s.Card(ctx, t.CardID)
		if err != nil {
			return Recording{}, err
		}
		pair = spelling.Pair{Grapheme: c.Grapheme, Sound: c.Sound}
		if target, err = readTarget(ctx, s, t.CardID); err != nil {
			return Recording{}, err
		}
		return ReadRecording(ctx, s, t.TakeID)
	})
	if err != nil {
		return report, from, pair, err
	}
	file := media.UploadOf(from.Bytes)
	err = k.Env.Decode(ctx, media.SoundCost(file, file.Size()), func() error {
		clip, err := media.DecodeSound(from.Bytes)
		if err != nil {
			return err
		}
		report = recording.JudgeUntil(clip, from.TrimEndMs, target)
		return nil
	})
	return report, from, pair, err
}
