package store

import (
	"brightchalk/internal/core/card"
	"brightchalk/internal/core/phoneme"
	"brightchalk/internal/core/spelling"
	"context"
	"time"
)

// Card is a stored card in its newest version. TakeID is the chosen take, empty where there is none.
type Card struct {
	CardID        string
	Step          int
	Grapheme      string
	Sound         string
	Version       int
	AgreedVersion *int
	State         card.State
	Content       card.Content
	UpdatedAt     time.Time
	UpdatedBy     string // initials
	ArchivedAt    *time.Time
	TakeID        string
}

// Core turns the row into the card that the core works on.
func (c Card) Core(a phoneme.Accent) card.Card {
	return card.Card{
		ID:      c.CardID,
		Step:    c.Step,
		Pair:    spelling.Pair{Grapheme: c.Grapheme, Sound: c.Sound}.In(a),
		Version: c.Version,
		State:   c.State,
		HasTake: c.TakeID != "",
		Content: c.Content,
	}
}

// Version is one state of a card that can be read again.
type Version struct {
	Version   int          `json:"version"`
	State     card.State   `json:"state"`
	Content   card.Content `json:"content"`
	Changed   []string     `json:"changed"`
	ChangedBy string       `json:"changed_by"`
	ChangedAt time.Time    `json:"changed_at"`
}

// CardEdit is a new version to be stored. By may be nil: the application itself.
type CardEdit struct {
	TeamID, CardID string
	Version        int
	State          card.State
	Content        card.Content
	Changed        []string
	By             *string
	Now            time.Time
}

// CreateCard stores a card with its first version and returns its id, or ErrTaken where the pair is there.
func CreateCard(ctx context.Context, db DB, step int, p spelling.Pair, e CardEdit) (string, error) {
	id, err := scalar[string](
		ctx,
		db,
		"card_create",
		args{
			"team_id":  e.TeamID,
			"step":     step,
			"grapheme": p.Grapheme,
			"sound":    p.Sound,
			"state":    e.State,
			"content":  e.Content,
			"by":       e.By,
		},
	)
	if err != nil {
		return "", err
	}
	e.CardID, e.Version = id, 1
	return id, addVersion(ctx, db, e)
}

// Cards lists the cards in teaching order.
func Cards(ctx context.Context, db DB, teamID string, archived bool) ([]Card, error) {
	return many[Card](ctx, db, "card_list", args{"team_id": teamID, "archived": archived})
}

// GetCard returns ErrNotFound for another team's card as for none.
func GetCard(ctx context.Context, db DB, teamID, cardID string) (Card, error) {
	return one[Card](ctx, db, "card_get", args{"team_id": teamID, "card_id": cardID})
}

// Neighbours are the ids of the cards before and after in the order, empty at the ends.
type Neighbours struct{ Before, After string }

// CardNeighbours returns ErrNotFound for an archived card.
func CardNeighbours(ctx context.Context, db DB, teamID, cardID string) (Neighbours, error) {
	return one[Neighbours](ctx, db, "card_neighbours", args{"team_id": teamID, "card_id": cardID})
}

// LockCard holds the card for the transaction and returns its version.
func LockCard(ctx context.Context, db DB, teamID, cardID string) (int, error) {
	return scalar[int](ctx, db, "card_lock", args{"team_id": teamID, "card_id": cardID})
}

// UpdateCard writes the next version.
func UpdateCard(ctx context.Context, db DB, e CardEdit) error {
	if err := exec(
		ctx,
		db,
		"card_update",
		args{
			"team_id": e.TeamID,
			"card_id": e.CardID,
			"version": e.Version,
			"state":   e.State,
			"content": e.Content,
			"by":      e.By,
			"now":     e.Now,
		},
	); err != nil {
		return err
	}
	return addVersion(ctx, db, e)
}

func addVersion(ctx context.Context, db DB, e CardEdit) error {
	if e.Changed == nil {
		e.Changed = []string{}
	}
	return exec(
		ctx,
		db,
		"version_add",
		args{
			"team_id": e.TeamID,
			"card_id": e.CardID,
			"version": e.Version,
			"state":   e.State,
			"content": e.Content,
			"changed": e.Changed,
			"by":      e.By,
			"now":     e.Now,
		},
	)
}

// MoveCard puts a card at another step; the cards between make room, so that steps stay without gaps.
func MoveCard(ctx context.Context, db DB, teamID, cardID string, from, to int) error {
	first, last, by := from+1, to, -1
	if to < from {
		first, last, by = to, from-1, 1
	}
	if _, err := db.Exec(
		ctx,
		query("card_shift"),
		args{"team_id": teamID, "first": first, "last": last, "by": by},
	); err != nil {
		return wrap("card_shift", err)
	}
	return exec(ctx, db, "card_move", args{"team_id": teamID, "card_id": cardID, "step": to})
}

// ArchiveCard puts a card aside, or brings it back where at is nil.
func ArchiveCard(ctx context.Context, db DB, teamID, cardID string, at *time.Time) error {
	return exec(ctx, db, "card_archive", args{"team_id": teamID, "card_id": cardID, "at": at})
}

// Versions lists a card's versions, the newest first.
func Versions(ctx context.Context, db DB, teamID, cardID string) ([]Version, error) {
	return many[Version](ctx, db, "version_list", args{"team_id": teamID, "card_id": cardID})
}

// GetVersion returns one version.
func GetVersion(ctx context.Context, db DB, teamID, cardID string, version int) (Version, error) {
	return one[Version](ctx, db, "version_get", args{"team_id": teamID, "card_id": cardID, "version": version})
}

// AgreedContent is the content of a card in its newest agreed version.
type AgreedContent struct {
	CardID  string
	Version int
	Content card.Content
}

// AgreedContents lists them for all cards that have one.
func AgreedContents(ctx context.Context, db DB, teamID string) ([]AgreedContent, error) {
	return many[AgreedContent](ctx, db, "agreed_contents", args{"team_id": teamID})
}
