package library

import (
	"context"

	"brightchalk/internal/core/card"
	"brightchalk/internal/core/convention"
	"brightchalk/internal/core/script"
	"brightchalk/internal/core/spelling"
	"brightchalk/internal/core/strokes"
	"brightchalk/internal/gather"
	"brightchalk/internal/store"
	"brightchalk/internal/tx"
)

// WallCard is a card as the wall shows it.
type WallCard struct {
	CardID     string           `json:"card_id" format:"uuid"`
	Step       int              `json:"step" doc:"place in the order of teaching, from 1"`
	Pair       spelling.Pair    `json:"pair"`
	Kind       string           `json:"kind" doc:"letter, digraph, split digraph, ..."`
	State      card.State       `json:"state" enum:"draft,in review,agreed"`
	Version    int              `json:"version"`
	UpdatedBy  string           `json:"updated_by" doc:"initials"`
	Keyword    string           `json:"keyword"`
	AsIn       string           `json:"as_in" doc:"a word with this spelling of the sound: the keyword, or else the best known; may be empty"`
	Picture    string           `json:"picture" doc:"SHA-256 in hex, empty where there is none"`
	PictureAlt string           `json:"picture_alt"`
	Rhyme      string           `json:"rhyme"`
	Action     string           `json:"action"`
	TakeID     string           `json:"take_id" doc:"the chosen take, empty where there is none"`
	Gaps       []card.Gap       `json:"gaps"`
	Remarks    int              `json:"remarks" doc:"contradictions found on the card"`
	Archived   bool             `json:"archived"`
	Drawn      *strokes.Written `json:"drawn,omitempty" doc:"the letter as the team writes it"`
	Along      []string         `json:"along" doc:"card ids that are taught at once with it, itself among them"`
}

// Wall lists the library in teaching order.
func (c Cards) Wall(ctx context.Context, by tx.Actor, archived bool) ([]WallCard, error) {
	return tx.Read(ctx, c.Env, by, func(s store.Library) ([]WallCard, error) { return wall(ctx, s, archived) })
}

func wall(ctx context.Context, s store.Library, archived bool) ([]WallCard, error) {
	rows, err := s.Cards(ctx, archived)
	if err != nil {
		return nil, err
	}
	team, err := gather.Conventions(ctx, s)
	if err != nil {
		return nil, err
	}
	letters, err := s.OwnLetters(ctx)
	if err != nil {
		return nil, err
	}
	out := make([]WallCard, 0, len(rows))
	all := make([]card.Card, len(rows))
	for i, r := range rows {
		_, all[i] = gather.CardInAccent(team, r)
		out = append(out, ToWallCard(team, r, letters))
	}
	for i := range out {
		for _, k := range card.TaughtWith(team, all, all[i]) {
			out[i].Along = append(out[i].Along, k.ID)
		}
	}
	return out, nil
}

// ToWallCard returns what the library's wall shows of a card.
func ToWallCard(team convention.Conventions, r store.Card, letters map[string]strokes.Letter) WallCard {
	conv, c := gather.CardInAccent(team, r)
	rhyme := c.RhymeShort
	if rhyme == "" {
		rhyme = c.Rhyme
	}
	return WallCard{
		CardID: r.CardID, Step: r.Step, Pair: c.Pair, Kind: c.Pair.Kind(), State: r.State, Version: r.Version,
		UpdatedBy: r.UpdatedBy, Keyword: c.Keyword,
		AsIn: script.Keyword(
			conv.Speech(),
			c.Pair,
			c.Keyword,
		), Picture: c.Picture, PictureAlt: c.PictureAlt, Rhyme: rhyme,
		Action: c.Action, TakeID: r.TakeID, Gaps: c.Gaps(conv.Speech()), Remarks: len(findings(conv, c)),
		Archived: r.ArchivedAt != nil, Drawn: team.Lines.Drawn(c.Pair.Grapheme, letters),
	}
}
