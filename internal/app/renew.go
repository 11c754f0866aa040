package app

import (
	"context"
	"errors"

	"brightchalk/internal/core/recording"
	"brightchalk/internal/core/spelling"
	"brightchalk/internal/media"
	"brightchalk/internal/store"
)

// Rejudged is a part of judging all takes again.
type Rejudged struct {
	Judged  int             `json:"judged" doc:"takes of this part"`
	All     int             `json:"all" doc:"takes of the library"`
	Next    string          `json:"next" doc:"the take to go on behind, empty at the end"`
	Changed []RejudgedTake  `json:"changed" nullable:"false" doc:"whose verdict is another now"`
	Failed  []RejudgedFault `json:"failed" nullable:"false" doc:"that could not be read; they stay as they are"`
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

// renewAtOnce is how many takes are judged in one part.
const renewAtOnce = 12

// Renew judges some takes of the library again with the judge of today, those behind one of them. What is chosen stays
// chosen, and no card loses its state: the team decides what to do about a verdict that changed.
func (k Takes) Renew(ctx context.Context, by Actor, after string) (Rejudged, error) {
	out := Rejudged{Changed: []RejudgedTake{}, Failed: []RejudgedFault{}}
	if err := by.need(MayAgree); err != nil {
		return out, err
	}
	list, err := read(ctx, k.desk, by, func(s takeStore) ([]store.Take, error) {
		var err error
		if out.All, err = s.CountTakes(ctx); err != nil {
			return nil, err
		}
		return s.TakesAfter(ctx, after, renewAtOnce)
	})
	if err != nil {
		return out, err
	}
	for _, t := range list {
		changed, err := k.renew(ctx, by, t)
		switch {
		case errors.Is(err, media.ErrRefused):
			out.Failed = append(out.Failed, RejudgedFault{t.TakeID, err.Error()})
		case errors.Is(err, store.ErrNotFound): // withdrawn meanwhile
		case err != nil:
			return out, err
		case changed != nil:
			out.Changed = append(out.Changed, *changed)
		}
		out.Judged++
	}
	if len(list) == renewAtOnce {
		out.Next = list[len(list)-1].TakeID
	}
	return out, nil
}

// renew judges one take again, as it is heard now; nil where its verdict stays.
func (k Takes) renew(ctx context.Context, by Actor, t store.Take) (*RejudgedTake, error) {
	var pair spelling.Pair
	var target recording.Target
	from, err := read(ctx, k.desk, by, func(s takeStore) (kept, error) {
		c, err := s.Card(ctx, t.CardID)
		if err != nil {
			return kept{}, err
		}
		pair = spelling.Pair{Grapheme: c.Grapheme, Sound: c.Sound}
		if target, err = targetOf(ctx, s, t.CardID); err != nil {
			return kept{}, err
		}
		return takeKept(ctx, s, t.TakeID)
	})
	if err != nil {
		return nil, err
	}
	var report recording.Report
	file := Uploaded(from.Bytes)
	err = k.desk.decoding(ctx, media.SoundCost(file, file.Size()), func() error {
		clip, err := media.DecodeSound(from.Bytes)
		if err != nil {
			return err
		}
		report = recording.JudgeUntil(clip, from.TrimEndMs, target)
		return nil
	})
	if err != nil {
		return nil, err
	}
	err = change(ctx, k.desk, by, MayAgree, func(s takeStore) error {
		now, err := s.Take(ctx, t.TakeID)
		if err != nil || now.TrimEndMs != from.TrimEndMs { // trimmed meanwhile, and judged with that
			return err
		}
		return s.FixTake(ctx, t.TakeID, now.TrimStartMs, now.TrimEndMs, now.Plain, &report)
	})
	if err != nil || report.Verdict == from.Verdict {
		return nil, err
	}
	return &RejudgedTake{t.TakeID, t.CardID, pair, from.Chosen, from.Verdict, report.Verdict, report.Advice}, nil
}
