package planning

import (
	"context"
	"time"

	"brightchalk/internal/core/review"
	"brightchalk/internal/store"
	"brightchalk/internal/tx"
)

// MemoryView is how the classes of a team forget: as usual, or as was fitted to their logs.
type MemoryView struct {
	Meetings int         `json:"meetings" doc:"meetings after the first in the logs of all classes"`
	Lapses   int         `json:"lapses" doc:"of them with a card that was not yet known again"`
	Needed   int         `json:"needed" doc:"meetings from which on a fit can be made"`
	Fit      *review.Fit `json:"fit,omitempty" doc:"where one was made"`
	MadeAt   *time.Time  `json:"made_at,omitempty"`
}

// maxFitted bounds what a fit looks at, in meetings: the newest classes first.
const maxFitted = 6000

// Memory tells how the classes forget, and whether a fit can be made.
func (m Meetings) Memory(ctx context.Context, by tx.Actor) (MemoryView, error) {
	return tx.Read(ctx, m.Env, by, func(s store.Library) (MemoryView, error) {
		out := MemoryView{Needed: review.MinMeetings}
		histories, err := readHistories(ctx, s)
		if err != nil {
			return out, err
		}
		for _, h := range histories {
			for _, k := range h[1:] {
				out.Meetings++
				if k.Sure == review.NotYet {
					out.Lapses++
				}
			}
		}
		fit, at, err := s.Fit(ctx)
		if fit != nil {
			out.Fit, out.MadeAt = fit, &at
		}
		return out, err
	})
}

// readHistories are the meetings of each class with each card.
func readHistories(ctx context.Context, s store.Library) ([][]review.Meeting, error) {
	classes, err := s.Classes(ctx)
	if err != nil {
		return nil, err
	}
	var out [][]review.Meeting
	n := 0
	for _, c := range classes {
		rows, err := s.Log(ctx, c.ClassID)
		if err != nil {
			return nil, err
		}
		at := map[string]int{}
		for _, r := range rows {
			if r.GroupName != "" {
				continue // it is the group's own
			}
			i, there := at[r.CardID]
			if !there {
				if n >= maxFitted {
					continue
				}
				i = len(out)
				at[r.CardID] = i
				out = append(out, nil)
			}
			out[i] = append(out[i], review.Meeting{At: r.MetAt, Sure: review.Sureness(r.Sureness)})
			n++
		}
	}
	return out, nil
}

// FitMemory fits the memory to the logs of all classes; only a lead may. The fit is used where it foretells meetings
// that were held out better than the usual memory does.
func (m Meetings) FitMemory(ctx context.Context, by tx.Actor) (MemoryView, error) {
	if err := by.Need(tx.MayAgree); err != nil {
		return MemoryView{}, err
	}
	histories, err := tx.Read(ctx, m.Env, by, func(s store.Library) ([][]review.Meeting, error) {
		return readHistories(ctx, s)
	})
	if err != nil {
		return MemoryView{}, err
	}
	end, err := m.Env.StartLongWork()
	if err != nil {
		return MemoryView{}, err
	}
	defer end()
	fit, err := review.FitTo(histories)
	if err != nil {
		return MemoryView{}, err
	}
	err = tx.Exec(ctx, m.Env, by, tx.MayAgree, func(s store.Library) error { return s.PutFit(ctx, fit, m.Env.Now()) })
	if err != nil {
		return MemoryView{}, err
	}
	return m.Memory(ctx, by)
}

// ForgetFit goes back to the usual memory; only a lead may.
func (m Meetings) ForgetFit(ctx context.Context, by tx.Actor) error {
	return tx.Exec(ctx, m.Env, by, tx.MayAgree, func(s store.Library) error { return s.DropFit(ctx) })
}
