package app

import (
	"context"
	"errors"
	"time"

	"brightchalk/internal/core/fault"
	"brightchalk/internal/core/order"
	"brightchalk/internal/core/spelling"
	"brightchalk/internal/core/words"
	"brightchalk/internal/core/year"
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

// SearchPart is how far a search has come.
type SearchPart struct {
	Done float64 `json:"done" doc:"0 to 1"`
	Sum  int     `json:"sum" doc:"readable words of the best order so far, summed over all steps"`
}

// Improve looks for a better order until its time is over or ctx ends, and tells how far it has come. One search goes
// on at a time; another fails with ErrSearching.
func (o Orders) Improve(ctx context.Context, by Actor, q Search, tell func(SearchPart)) (FoundOrder, error) {
	if err := by.need(MayEdit); err != nil {
		return FoundOrder{}, err
	}
	l, err := read(ctx, o.desk, by, func(s orderStore) (orderLibrary, error) {
		return orderLibraryOf(ctx, s, year.On(o.desk.now()))
	})
	if err != nil {
		return FoundOrder{}, err
	}
	if err := l.check(q.Order); err != nil {
		return FoundOrder{}, err
	}
	end, err := o.desk.search()
	if err != nil {
		return FoundOrder{}, err
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
	begin, told, part := time.Now(), time.Time{}, SearchPart{}
	whole := time.Duration(q.Seconds) * time.Second
	ask.Found = func(sum int) { part.Sum = sum }
	ask.Left = func() float64 {
		if ctx.Err() != nil {
			return 0
		}
		now := time.Now()
		part.Done = min(1, now.Sub(begin).Seconds()/whole.Seconds())
		if now.Sub(told) > tellsEvery {
			told = now
			tell(part)
		}
		return 1 - part.Done
	}
	got, err := order.Improve(ask, words.Options(l.conv.Speech()))
	if err != nil {
		return FoundOrder{}, fault.At("order", err)
	}
	out := FoundOrder{Order: []string{}, Moves: got.Moves}
	for _, s := range got.Order {
		out.Order = append(out.Order, card[s.Pair])
	}
	return out, ctx.Err()
}

const tellsEvery = 200 * time.Millisecond
