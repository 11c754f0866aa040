package store

import (
	"context"
	"time"

	"brightchalk/internal/core/card"
	"brightchalk/internal/core/phoneme"
	"brightchalk/internal/core/spelling"
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

type cardRow struct {
	CardID, Grapheme, Sound string
	Step, Version           int
	AgreedVersion           *int
	State                   card.State
	Content                 []byte
	UpdatedAt               time.Time
	UpdatedBy, TakeID       string
	ArchivedAt              *time.Time
}

func (r cardRow) card() (Card, error) {
	content, err := contents.read(r.Content)
	return Card{
		CardID: r.CardID, Step: r.Step, Grapheme: r.Grapheme, Sound: r.Sound, Version: r.Version,
		AgreedVersion: r.AgreedVersion, State: r.State, Content: content, UpdatedAt: r.UpdatedAt,
		UpdatedBy: r.UpdatedBy, ArchivedAt: r.ArchivedAt, TakeID: r.TakeID,
	}, err
}

// Version is one state of a card that can be read again; a list of them leaves the content out.
type Version struct {
	Version   int
	State     card.State
	Content   card.Content
	Changed   []string
	ChangedBy string
	ChangedAt time.Time
}

type versionRow struct {
	Version   int
	State     card.State
	Content   []byte
	Changed   []string
	ChangedBy string
	ChangedAt time.Time
}

func (r versionRow) version() (Version, error) {
	content, err := contents.read(r.Content)
	return Version{r.Version, r.State, content, r.Changed, r.ChangedBy, r.ChangedAt}, err
}

// VersionHead is a version without its content.
type VersionHead struct {
	Version   int        `json:"version"`
	State     card.State `json:"state" enum:"draft,in review,agreed"`
	Changed   []string   `json:"changed" doc:"names of the fields that changed"`
	ChangedBy string     `json:"changed_by"`
	ChangedAt time.Time  `json:"changed_at"`
}

// CardEdit is a new version to be stored. By may be nil: the application itself.
type CardEdit struct {
	CardID  string
	Version int
	State   card.State
	Content card.Content
	Changed []string
	By      *string
	Now     time.Time
}

// AgreedContent is the content of a card in its newest agreed version.
type AgreedContent struct {
	CardID  string
	Version int
	Content card.Content
}

type agreedRow struct {
	CardID  string
	Version int
	Content []byte
}

// Neighbours are the ids of the cards before and after in the order, empty at the ends.
type Neighbours struct{ Before, After string }

var (
	cardCreate     = value[string]("card_create")
	cardList       = query[cardRow]("card_list")
	cardGet        = query[cardRow]("card_get")
	cardNeighbours = query[Neighbours]("card_neighbours")
	cardLock       = value[int]("card_lock")
	cardUpdate     = change("card_update")
	cardMove       = change("card_move")
	cardMakeRoom   = change("card_make_room")
	cardArchive    = change("card_archive")
	versionAdd     = change("version_add")
	versionList    = query[VersionHead]("version_list")
	versionGet     = query[versionRow]("version_get")
	agreedContents = query[agreedRow]("agreed_contents")
)

// CreateCard stores a card with its first version and returns its id, or ErrTaken where the pair is there. Where a card
// stands at the step, it and those behind it make room.
func (l Library) CreateCard(ctx context.Context, step int, p spelling.Pair, e CardEdit) (string, error) {
	content, err := card.Contents.Write(e.Content)
	if err != nil {
		return "", err
	}
	if _, _, err := cardMakeRoom.count(ctx, l.db, l.with(args{"step": step})); err != nil {
		return "", err
	}
	id, err := cardCreate.get(ctx, l.db, l.with(args{
		"step": step, "grapheme": p.Grapheme, "sound": p.Sound, "state": e.State, "content": content, "by": e.By,
	}))
	if err != nil {
		return "", err
	}
	e.CardID, e.Version = id, 1
	return id, l.addVersion(ctx, e, content)
}

// Cards lists the cards in teaching order.
func (l Library) Cards(ctx context.Context, archived bool) ([]Card, error) {
	rows, err := cardList.many(ctx, l.db, l.with(args{"archived": archived}))
	return each(rows, err, cardRow.card)
}

// Card returns ErrNotFound for another team's card as for none.
func (l Library) Card(ctx context.Context, cardID string) (Card, error) {
	row, err := cardGet.one(ctx, l.db, l.with(args{"card_id": cardID}))
	if err != nil {
		return Card{}, err
	}
	return row.card()
}

// CardNeighbours returns ErrNotFound for an archived card.
func (l Library) CardNeighbours(ctx context.Context, cardID string) (Neighbours, error) {
	return cardNeighbours.one(ctx, l.db, l.with(args{"card_id": cardID}))
}

// LockCard holds the card for the transaction and returns its version.
func (l Library) LockCard(ctx context.Context, cardID string) (int, error) {
	return cardLock.get(ctx, l.db, l.with(args{"card_id": cardID}))
}

// UpdateCard writes the next version.
func (l Library) UpdateCard(ctx context.Context, e CardEdit) error {
	content, err := card.Contents.Write(e.Content)
	if err != nil {
		return err
	}
	err = cardUpdate.run(ctx, l.db, l.with(args{
		"card_id": e.CardID, "version": e.Version, "state": e.State, "content": content, "by": e.By, "now": e.Now,
	}))
	if err != nil {
		return err
	}
	return l.addVersion(ctx, e, content)
}

func (l Library) addVersion(ctx context.Context, e CardEdit, content []byte) error {
	if e.Changed == nil {
		e.Changed = []string{}
	}
	return versionAdd.run(ctx, l.db, l.with(args{
		"card_id": e.CardID, "version": e.Version, "state": e.State, "content": content, "changed": e.Changed,
		"by": e.By, "now": e.Now,
	}))
}

// MoveCard puts a card at another step; the cards between make room, so that steps stay without gaps.
func (l Library) MoveCard(ctx context.Context, cardID string, from, to int) error {
	first, last, by := from+1, to, -1
	if to < from {
		first, last, by = to, from-1, 1
	}
	return cardMove.run(ctx, l.db, l.with(args{"card_id": cardID, "step": to, "first": first, "last": last, "by": by}))
}

// ArchiveCard puts a card aside, or brings it back where at is nil.
func (l Library) ArchiveCard(ctx context.Context, cardID string, at *time.Time) error {
	return cardArchive.run(ctx, l.db, l.with(args{"card_id": cardID, "at": at}))
}

// Versions lists a page of a card's versions, the newest first: those older than before, up to a limit.
func (l Library) Versions(ctx context.Context, cardID string, before, limit int) ([]VersionHead, error) {
	return versionList.many(ctx, l.db, l.with(args{"card_id": cardID, "before": before, "limit": limit}))
}

// Version returns one version.
func (l Library) Version(ctx context.Context, cardID string, version int) (Version, error) {
	row, err := versionGet.one(ctx, l.db, l.with(args{"card_id": cardID, "version": version}))
	if err != nil {
		return Version{}, err
	}
	return row.version()
}

// AgreedContents lists the newest agreed version of all cards that have one.
func (l Library) AgreedContents(ctx context.Context) ([]AgreedContent, error) {
	rows, err := agreedContents.many(ctx, l.db, l.with(nil))
	return each(rows, err, func(r agreedRow) (AgreedContent, error) {
		content, err := contents.read(r.Content)
		return AgreedContent{r.CardID, r.Version, content}, err
	})
}
