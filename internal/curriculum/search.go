package curriculum

import (
	"context"
	"time"

	"brightchalk/internal/core/fault"
	"brightchalk/internal/core/order"
	"brightchalk/internal/core/spelling"
	"brightchalk/internal/core/words"
	"brightchalk/internal/store"
	"brightchalk/internal/tx"
)

// Search is what a better order is sought by.
type Search struct {
	Order   []string      `json:"order" maxItems:"500" doc:"card ids of the order to begin with"`
	Keep    []string      `json:"keep" maxItems:"500" doc:"card ids that stay at their places"`
	Groups  [][]string    `json:"groups" maxItems:"60" doc:"card ids that belong together"`
	Weights order.Weights `json:"weights"`
	Seconds int           `json:"seconds" minimum:"1" maximum:"30"`
}

// FoundOrder is a better order, or the same where none was found.
type FoundOrder struct {
	Order []string     `json:"order" doc:"card ids"`
	Moves []order.Move `json:"moves" doc:"why each card has another place"`
}

// Improve looks for a better order until its time is over, and tells how far it has come. One search goes on at a time
// on a server; another one waits.
func (o Orders) Improve(ctx context.Context, by tx.Actor, q Search) (FoundOrder, error) {
	if err := by.Need(tx.MayEdit); err != nil {
		return FoundOrder{}, err
	}
	l, err := tx.Read(ctx, o.Env, by, func(s store.Library) (orderLibrary, error) {
		return readOrderLibrary(ctx, s)
	})
	if err != nil {
		return FoundOrder{}, err
	}
	if err := l.check(q.Order); err != nil {
		return FoundOrder{}, err
	}
	end, err := o.Env.WaitForLongWork(ctx)
	if err != nil {
		return FoundOrder{}, err
	}
	defer end()
	ask := order.Ask{Steps: l.steps(q.Order), Keep: map[spelling.Pair]bool{}, Weights: q.Weights, Seed: o.Env.Seed()}
	card := map[spelling.Pair]string{}
	for _, id := range q.Order {
		card[l.cards[id].Pair] = id
	}
	for _, id := range q.Keep {
		ask.Keep[l.cards[id].Pair] = true
	}
	for _, g := range q.Groups {
		var pairs []spelling.Pair
		for _, id := range g {
			pairs = append(pairs, l.cards[id].Pair)
		}
		ask.Groups = append(ask.Groups, pairs)
	}
	begin := time.Now()
	whole := time.Duration(q.Seconds) * time.Second
	ask.Found = func(sum int) { tx.ReportNote(ctx, int64(sum)) }
	ask.Left = func() float64 {
		if ctx.Err() != nil {
			return 0
		}
		done := min(1, time.Since(begin).Seconds()/whole.Seconds())
		tx.ReportProgress(ctx, int(100*done), 100)
		return 1 - done
	}
	got, err := order.Improve(ask, words.Options(l.conv.Speech()))
	if err != nil {
		return FoundOrder{}, fault.At("search.order", err)
	}
	out := FoundOrder{Order: []string{}, Moves: got.Moves}
	for _, s := range got.Order {
		out.Order = append(out.Order, card[s.Pair])
	}
	return out, ctx.Err()
}
