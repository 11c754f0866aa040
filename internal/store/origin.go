package store

import (
	"context"
	"time"
)

// OriginKind is of what an origin is told.
type OriginKind string

// Kinds of things that have an origin.
const (
	OfMedium OriginKind = "medium" // by its SHA-256 in hex
	OfCard   OriginKind = "card"   // by its id
	OfText   OriginKind = "text"   // by its id
	OfLetter OriginKind = "letter" // by its sign
)

// Origin is where a thing of the library comes from.
type Origin struct {
	Kind     OriginKind
	Item     string
	Maker    string // who made it
	Licence  string // how it may be used
	FromTeam string // from whose library it came
}

var (
	originList = query[Origin]("origin_list")
	originPut  = change("origin_put")
)

// Origins lists what is known of where things come from.
func (l Library) Origins(ctx context.Context) ([]Origin, error) {
	return originList.many(ctx, l.db, l.with(nil))
}

// PutOrigin notes where a thing comes from. The library that it came from stays noted.
func (l Library) PutOrigin(ctx context.Context, by string, o Origin, now time.Time) error {
	return originPut.run(ctx, l.db, l.with(args{
		"kind": o.Kind, "item": o.Item, "maker": o.Maker, "licence": o.Licence, "from_team": o.FromTeam,
		"by": nullable(by), "now": now,
	}))
}
