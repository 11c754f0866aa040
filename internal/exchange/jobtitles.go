package exchange

import (
	"context"

	"brightchalk/internal/core/fault"
	"brightchalk/internal/render"
	"brightchalk/internal/store"
)

func packTitle(ctx context.Context, s store.Library, a JobAsk) (string, error) {
	switch {
	case a.Size == PackOrder && a.Class == "":
		return "Carry pack, the whole order", nil
	case a.Size != PackOrder && a.Size != PackWeek || a.Class == "":
		return "", errPackSize
	}
	c, err := s.Class(ctx, a.Class)
	if a.Size == PackWeek {
		return "Carry pack, this week of " + c.Name, err
	}
	return "Carry pack, the order for " + c.Name, err
}

func searchTitle(_ context.Context, _ store.Library, a JobAsk) (string, error) {
	if a.Search == nil {
		return "", fault.In("search", "Say what matters in a better order.")
	}
	return "A better order", nil
}

func cardsTitle(_ context.Context, _ store.Library, a JobAsk) (string, error) {
	names := map[render.Layout]string{
		render.Single: "one side", render.Duplex: "both sides", render.Fold: "folded", render.Band: "as a frieze",
	}
	if names[a.Layout] == "" {
		return "", errLayout
	}
	return "All sound cards, " + names[a.Layout], nil
}
