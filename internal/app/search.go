package app

import (
	"context"
	"errors"
	"io"
	"time"

	"brightchalk/internal/core/fault"
	"brightchalk/internal/core/order"
	"brightchalk/internal/core/spelling"
	"brightchalk/internal/core/words"
	"brightchalk/internal/core/year"
	"brightchalk/internal/store"
)

// ErrSearching says that another search goes on.
var ErrSearching = errors.New("another search goes on")

// search takes the one place for what takes a core for long, and returns what gives it back; ErrSearching where it is
// taken.
func (g ground) search() (end func(), err error) {
	select {
	case g.searching <- struct{}{}:
		return func() { <-g.searching }, nil
	default:
		return nil, ErrSearching
	}
}

// turn waits for that place.
func (g ground) turn(ctx context.Context) (end func(), err error) {
	select {
	case g.searching <- struct{}{}:
		return func() { <-g.searching }, nil
	case <-ctx.Done():
		return nil, ctx.Err()
	}
}

// Search is what a better order is sought by.
type Search struct {
	Order   []string      `json:"order" maxItems:"500" nullable:"false" doc:"card ids of the order to begin with"`
	Keep    []string      `json:"keep" maxItems:"500" nullable:"false" doc:"card ids that stay at their places"`
	Groups  [][]string    `json:"groups" maxItems:"60" nullable:"false" doc:"card ids that belong together"`
	Weights order.Weights `json:"weights"`
	Seconds int           `json:"seconds" minimum:"1" maximum:"30"`
}

// FoundOrder is a better order, or the same where none was found.
type FoundOrder struct {
	Order []string     `json:"order" nullable:"false" doc:"card ids"`
	Moves []order.Move `json:"moves" nullable:"false" doc:"why each card has another place"`
}

// improve looks for a better order until its time is over, and tells how far it has come. One search goes on at a time
// on a server; another one waits.
func (o Orders) improve(ctx context.Context, by Actor, a JobAsk, _ io.Writer, _ store.Job) (any, error) {
	q := a.Search
	if err := by.need(MayEdit); err != nil {
		return nil, err
	}
	l, err := read(ctx, o.desk, by, func(s orderStore) (orderLibrary, error) {
		return orderLibraryOf(ctx, s, year.On(o.desk.now()))
	})
	if err != nil {
		return nil, err
	}
	if err := l.check(q.Order); err != nil {
		return nil, err
	}
	end, err := o.desk.turn(ctx)
	if err != nil {
		return nil, err
	}
	defer end()
	ask := order.Ask{Steps: l.steps(q.Order), Keep: map[spelling.Pair]bool{}, Weights: q.Weights, Seed: o.desk.seed()}
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
	ask.Found = func(sum int) { noted(ctx, int64(sum)) }
	ask.Left = func() float64 {
		if ctx.Err() != nil {
			return 0
		}
		done := min(1, time.Since(begin).Seconds()/whole.Seconds())
		count(ctx, int(100*done), 100)
		return 1 - done
	}
	got, err := order.Improve(ask, words.Options(l.conv.Speech()))
	if err != nil {
		return nil, fault.At("search.order", err)
	}
	out := FoundOrder{Order: []string{}, Moves: got.Moves}
	for _, s := range got.Order {
		out.Order = append(out.Order, card[s.Pair])
	}
	return out, ctx.Err()
}
