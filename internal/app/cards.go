package app

import (
	"brightchalk/internal/core/card"
	"brightchalk/internal/core/lexicon"
	"brightchalk/internal/core/phoneme"
	"brightchalk/internal/core/spelling"
	"brightchalk/internal/core/strokes"
	"brightchalk/internal/core/words"
	"brightchalk/internal/media"
	"brightchalk/internal/store"
	"context"
	"encoding/hex"
	"errors"
	"fmt"
	"slices"
	"strings"
	"time"

	"github.com/jackc/pgx/v5"
)

// WallCard is a card as the wall shows it.
type WallCard struct {
	CardID     string           `json:"card_id"`
	Step       int              `json:"step"`
	Pair       spelling.Pair    `json:"pair"`
	Kind       string           `json:"kind"`
	State      card.State       `json:"state" enum:"draft,in review,agreed"`
	Version    int              `json:"version"`
	UpdatedBy  string           `json:"updated_by"`
	Keyword    string           `json:"keyword"`
	Picture    string           `json:"picture"`
	PictureAlt string           `json:"picture_alt"`
	Rhyme      string           `json:"rhyme"`
	Action     string           `json:"action"`
	TakeID     string           `json:"take_id"`
	Gaps       []card.Gap       `json:"gaps"`
	Remarks    int              `json:"remarks"` // contradictions found on the card
	Archived   bool             `json:"archived"`
	Drawn      *strokes.Written `json:"drawn,omitempty"` // the letter as the team writes it
}

// Wall lists the library in teaching order.
func (a *App) Wall(ctx context.Context, by Actor, archived bool) ([]WallCard, error) {
	rows, err := store.Cards(ctx, a.Pool, by.TeamID, archived)
	if err != nil {
		return nil, err
	}
	conv, err := a.conventions(ctx, a.Pool, by.TeamID)
	if err != nil {
		return nil, err
	}
	own, err := store.OwnLetters(ctx, a.Pool, by.TeamID)
	if err != nil {
		return nil, err
	}
	out := make([]WallCard, 0, len(rows))
	for _, r := range rows {
		c := r.Core(conv.Accent)
		rhyme := c.RhymeShort
		if rhyme == "" {
			rhyme = c.Rhyme
		}
		out = append(out, WallCard{
			r.CardID,
			r.Step,
			c.Pair,
			c.Pair.Kind(),
			r.State,
			r.Version,
			r.UpdatedBy,
			c.Keyword,
			c.Picture,
			c.PictureAlt,
			rhyme,
			c.Action,
			r.TakeID,
			c.Gaps(
				conv.For(c.Content).Speech(),
			),
			len(findings(conv, c)),
			r.ArchivedAt != nil,
			conv.Lines.Drawn(c.Pair.Grapheme, own),
		})
	}
	return out, nil
}

func findings(conv card.Conventions, c card.Card) []card.Finding {
	var sounds []phoneme.Phoneme
	conv = conv.For(c.Content)
	if seg, err := conv.Speech().Segment(c.Keyword); err == nil && seg.Source == lexicon.FromLexicon {
		sounds = seg.Phonemes
	}
	out := c.Check(conv.Accent, sounds)
	if theme, refused := conv.Speech().Refuses(c.Keyword); refused {
		out = append(
			out,
			card.Finding{
				Field: "keyword",
				Text:  fmt.Sprintf("“%s” is kept out of what children are offered (%s).", c.Keyword, theme),
			},
		)
	}
	for _, f := range c.FlaggedWords(conv.Speech()) {
		if f.Code == card.Refused {
			out = append(out, card.Finding{Field: "words", Text: f.Text})
		}
	}
	return out
}

// FlagWords looks through words that somebody is putting on a card.
func (a *App) FlagWords(ctx context.Context, by Actor, cardID string, list []string) ([]card.WordFlag, error) {
	r, err := store.GetCard(ctx, a.Pool, by.TeamID, cardID)
	if err != nil {
		return nil, err
	}
	conv, err := a.conventions(ctx, a.Pool, by.TeamID)
	if err != nil {
		return nil, err
	}
	c := r.Core(conv.Accent)
	c.Words = list
	return c.FlaggedWords(conv.For(c.Content).Speech()), nil
}

// CardView is all that the card's page shows.
type CardView struct {
	CardID        string          `json:"card_id"`
	Step          int             `json:"step"`
	Pair          spelling.Pair   `json:"pair"`
	Kind          string          `json:"kind"`
	Version       int             `json:"version"`
	AgreedVersion int             `json:"agreed_version"` // 0 where none is agreed
	State         card.State      `json:"state" enum:"draft,in review,agreed"`
	Content       card.Content    `json:"content"`
	UpdatedAt     time.Time       `json:"updated_at"`
	UpdatedBy     string          `json:"updated_by"`
	Gaps          []card.Gap      `json:"gaps"`
	Findings      []card.Finding  `json:"findings"`
	SuggestedCue  string          `json:"suggested_cue"`
	SuggestedSlip string          `json:"suggested_slip"`
	Hold          card.Hold       `json:"hold" enum:"stretch,short"`
	Voiced        bool            `json:"voiced"`
	Place         string          `json:"place"`
	Manner        phoneme.Manner  `json:"manner"`
	KeyWord       string          `json:"key_word"`
	Contrast      phoneme.Phoneme `json:"contrast"`
	TakeID        string          `json:"take_id"`
	Archived      bool            `json:"archived"`
	Before        string          `json:"before"` // neighbours in the order
	After         string          `json:"after"`
}

// Card returns one card.
func (a *App) Card(ctx context.Context, by Actor, cardID string) (CardView, error) {
	r, err := store.GetCard(ctx, a.Pool, by.TeamID, cardID)
	if err != nil {
		return CardView{}, err
	}
	conv, err := a.conventions(ctx, a.Pool, by.TeamID)
	if err != nil {
		return CardView{}, err
	}
	v := view(conv, r)
	n, err := store.CardNeighbours(ctx, a.Pool, by.TeamID, cardID)
	if err != nil && !errors.Is(err, store.ErrNotFound) {
		return CardView{}, err
	}
	v.Before, v.After = n.Before, n.After
	return v, nil
}

func view(conv card.Conventions, r store.Card) CardView {
	c := r.Core(conv.Accent)
	conv = conv.For(c.Content)
	v := CardView{
		CardID:    r.CardID,
		Step:      r.Step,
		Pair:      c.Pair,
		Kind:      c.Pair.Kind(),
		Version:   r.Version,
		State:     r.State,
		Content:   c.Content.Tidy(),
		UpdatedAt: r.UpdatedAt,
		UpdatedBy: r.UpdatedBy,
		Gaps: c.Gaps(
			conv.Speech(),
		),
		Findings: findings(conv, c),
		Hold:     card.HoldOf(conv.Accent, c.Pair),
		Voiced:   card.Voiced(conv.Accent, c.Pair),
		TakeID:   r.TakeID,
		Archived: r.ArchivedAt != nil,
	}
	if r.AgreedVersion != nil {
		v.AgreedVersion = *r.AgreedVersion
	}
	v.SuggestedCue, v.SuggestedSlip = card.SuggestCue(conv.Accent, c.Pair)
	if sounds, err := phoneme.Parse(conv.Accent, c.Pair.Sound); err == nil {
		s, _ := phoneme.Lookup(conv.Accent, sounds[0])
		v.Place, v.Manner, v.KeyWord, v.Contrast = s.Place, s.Manner, s.KeyWord, s.Contrast
	}
	return v
}

// Conflict says that two people changed the same fields. Theirs is what stands now.
type Conflict struct {
	Fields []string `json:"fields"`
	By     string   `json:"by"`
	Theirs CardView `json:"theirs"`
}

func (c Conflict) Error() string {
	return fmt.Sprintf("%s changed the same part of this card while you were writing", c.By)
}

// SaveCard writes a member's edit that began from base. Edits of different fields are joined; where both
// changed the same field nothing is written and a Conflict comes back. An agreed card that is edited is a
// draft again, its agreed version still in use.
func (a *App) SaveCard(ctx context.Context, by Actor, cardID string, base int, content card.Content) (CardView, error) {
	if err := by.need(MayEdit); err != nil {
		return CardView{}, err
	}
	content = content.Tidy()
	conv, err := a.conventions(ctx, a.Pool, by.TeamID)
	if err != nil {
		return CardView{}, err
	}
	if content.Accent != "" {
		switch _, err := phoneme.ParseAccent(content.Accent); {
		case err != nil:
			return CardView{}, wrong("accent", "%s.", capital(err.Error()))
		case content.AccentNote == "":
			return CardView{}, wrong("accent_note", "Say in a few words why this card departs from the team's accent.")
		}
	}
	if p := content.Contrast; p != "" {
		if _, ok := phoneme.Lookup(conv.For(content).Accent, phoneme.Phoneme(p)); !ok {
			return CardView{}, wrong("contrast", "%q is not a sound of this accent.", p)
		}
	}
	var out CardView
	err = a.tx(ctx, func(tx pgx.Tx) error {
		version, err := store.LockCard(ctx, tx, by.TeamID, cardID)
		if err != nil {
			return err
		}
		now, err := store.GetCard(ctx, tx, by.TeamID, cardID)
		if err != nil {
			return err
		}
		began, err := store.GetVersion(ctx, tx, by.TeamID, cardID, base)
		if err != nil {
			return wrong("base_version", "Version %d of this card is not known.", base)
		}
		current := now.Content.Tidy()
		merged, clashes := card.Merge(began.Content.Tidy(), content, current)
		if len(clashes) > 0 {
			return Conflict{clashes, now.UpdatedBy, view(conv, now)}
		}
		changed := card.Changed(current, merged)
		if len(changed) == 0 {
			out = view(conv, now)
			return nil
		}
		state := card.Draft
		if now.State == card.InReview {
			state = card.InReview
		}
		if err := store.UpdateCard(
			ctx,
			tx,
			store.CardEdit{
				TeamID:  by.TeamID,
				CardID:  cardID,
				Version: version + 1,
				State:   state,
				Content: merged,
				Changed: changed,
				By:      &by.MemberID,
				Now:     a.Now(),
			},
		); err != nil {
			return err
		}
		after, err := store.GetCard(ctx, tx, by.TeamID, cardID)
		out = view(conv, after)
		return err
	})
	return out, err
}

// SetState moves a card between draft, in review and agreed. Only a lead agrees, and only a card without
// contradictions.
func (a *App) SetState(ctx context.Context, by Actor, cardID string, state card.State) (CardView, error) {
	may := MayEdit
	if state == card.Agreed {
		may = MayAgree
	}
	if err := by.need(may); err != nil {
		return CardView{}, err
	}
	conv, err := a.conventions(ctx, a.Pool, by.TeamID)
	if err != nil {
		return CardView{}, err
	}
	err = a.tx(ctx, func(tx pgx.Tx) error {
		version, err := store.LockCard(ctx, tx, by.TeamID, cardID)
		if err != nil {
			return err
		}
		c, err := store.GetCard(ctx, tx, by.TeamID, cardID)
		if err != nil || c.State == state {
			return err
		}
		if found := findings(conv, c.Core(conv.Accent)); state == card.Agreed && len(found) > 0 {
			return wrong("state", "Not agreed: %s", found[0].Text)
		}
		return store.UpdateCard(
			ctx,
			tx,
			store.CardEdit{
				TeamID:  by.TeamID,
				CardID:  cardID,
				Version: version + 1,
				State:   state,
				Content: c.Content.Tidy(),
				Changed: []string{"state"},
				By:      &by.MemberID,
				Now:     a.Now(),
			},
		)
	})
	if err != nil {
		return CardView{}, err
	}
	return a.Card(ctx, by, cardID)
}

// NewCard adds a pair to the library.
func (a *App) NewCard(ctx context.Context, by Actor, pairText string, step int) (string, error) {
	if err := by.need(MayEdit); err != nil {
		return "", err
	}
	conv, err := a.conventions(ctx, a.Pool, by.TeamID)
	if err != nil {
		return "", err
	}
	pair, err := spelling.ParsePair(conv.Accent, pairText)
	if err != nil {
		return "", wrong("pair", "%s.", capital(err.Error()))
	}
	if step < 1 || step > 500 {
		return "", wrong("step", "The place in the order is a number from 1 to 500.")
	}
	var id string
	err = a.tx(ctx, func(tx pgx.Tx) error {
		id, err = store.CreateCard(
			ctx,
			tx,
			step,
			pair,
			store.CardEdit{TeamID: by.TeamID, State: card.Draft, Content: card.Content{}.Tidy(), By: &by.MemberID, Now: a.Now()},
		)
		if errors.Is(err, store.ErrTaken) {
			return wrong("pair", "The library has a card for %s already.", pair)
		}
		return err
	})
	return id, err
}

// Move puts a card at another place in the order of teaching; only a lead may.
func (a *App) Move(ctx context.Context, by Actor, cardID string, step int) error {
	if err := by.need(MayAgree); err != nil {
		return err
	}
	return a.tx(ctx, func(tx pgx.Tx) error {
		c, err := store.GetCard(ctx, tx, by.TeamID, cardID)
		if err != nil {
			return err
		}
		all, err := store.Cards(ctx, tx, by.TeamID, true)
		if err != nil {
			return err
		}
		last := all[len(all)-1].Step
		if step < 1 || step > last {
			return wrong("step", "The place in the order is a number from 1 to %d.", last)
		}
		return store.MoveCard(ctx, tx, by.TeamID, cardID, c.Step, step)
	})
}

// Archive puts a card aside or brings it back.
func (a *App) Archive(ctx context.Context, by Actor, cardID string, archive bool) error {
	if err := by.need(MayAgree); err != nil {
		return err
	}
	var at *time.Time
	if now := a.Now(); archive {
		at = &now
	}
	return store.ArchiveCard(ctx, a.Pool, by.TeamID, cardID, at)
}

// Versions lists a card's versions, the newest first.
func (a *App) Versions(ctx context.Context, by Actor, cardID string) ([]store.Version, error) {
	return store.Versions(ctx, a.Pool, by.TeamID, cardID)
}

// WordOffer is what the core proposes for a card's word stock.
type WordOffer struct {
	Read     []words.Choice `json:"read"`
	Starts   []string       `json:"starts"` // pictures that start with, end with or hold the sound
	Ends     []string       `json:"ends"`
	Holds    []string       `json:"holds"`
	Unlocked int            `json:"unlocked"` // readable words with this pair, of all familiarities
	Note     string         `json:"note"`
}

// WordsFor proposes words for a card from what the order has taught up to its step.
func (a *App) WordsFor(ctx context.Context, by Actor, cardID string) (WordOffer, error) {
	conv, err := a.conventions(ctx, a.Pool, by.TeamID)
	if err != nil {
		return WordOffer{}, err
	}
	all, err := store.Cards(ctx, a.Pool, by.TeamID, false)
	if err != nil {
		return WordOffer{}, err
	}
	i := slices.IndexFunc(all, func(c store.Card) bool { return c.CardID == cardID })
	if i < 0 {
		return WordOffer{}, store.ErrNotFound
	}
	target := all[i].Core(conv.Accent)
	taught := spelling.Set{target.Pair: true}
	for _, c := range all {
		if c.Step < target.Step {
			taught[c.Core(conv.Accent).Pair] = true
		}
	}
	conv = conv.For(target.Content)
	o, err := speech(ctx, a.Pool, by.TeamID, conv)
	if err != nil {
		return WordOffer{}, err
	}
	exclude := map[string]bool{}
	for _, c := range all {
		for _, w := range c.Content.Rejected {
			exclude[w] = true
		}
	}
	for _, w := range target.Words {
		exclude[w] = true
	}
	q := words.Query{Taught: conv.Known(taught), Target: &target.Pair, Exclude: exclude}
	offer := WordOffer{Starts: []string{}, Ends: []string{}, Holds: []string{}, Read: []words.Choice{}}
	found := words.Find(q, o)
	offer.Unlocked = len(found) + len(target.Words)
	offer.Read = append(offer.Read, found[:min(24, len(found))]...)
	if len(found) == 0 && len(target.Words) == 0 {
		offer.Note = fmt.Sprintf(
			"With the %d pairs up to step %d no word with %s can be read. More pairs before it would help.",
			len(taught),
			target.Step,
			target.Pair.Grapheme,
		)
	}
	if sounds, err := phoneme.Parse(conv.Accent, target.Pair.Sound); err == nil && len(sounds) == 1 {
		for at, list := range map[words.Position]*[]string{
			words.Initial: &offer.Starts, words.Final: &offer.Ends,
			words.Medial: &offer.Holds,
		} {
			p := words.EarPictures(sounds[0], at, target.Pair.Grapheme, nil, o)
			*list = append(*list, p[:min(8, len(p))]...)
		}
	}
	return offer, nil
}

// StorePicture cleans an uploaded picture and stores it; the card is changed by a later save. It returns
// the picture's hash in hex and remarks on what was changed.
func (a *App) StorePicture(ctx context.Context, by Actor, data []byte) (string, []string, error) {
	if err := by.need(MayEdit); err != nil {
		return "", nil, err
	}
	p, err := media.CleanPicture(data)
	if err != nil {
		return "", nil, wrong("picture", "%s", err)
	}
	sum, err := store.PutMedium(ctx, a.Pool, by.TeamID, store.Medium{MediaType: p.MediaType, Bytes: p.Bytes})
	return fmt.Sprintf("%x", sum), p.Remarks, err
}

// Picture returns a stored picture by its hash in hex; store.ErrNotFound where the team has none.
func (a *App) Picture(ctx context.Context, by Actor, sum string) (store.Medium, error) {
	raw, err := hex.DecodeString(sum)
	if err != nil || len(raw) != 32 {
		return store.Medium{}, store.ErrNotFound
	}
	m, err := store.GetMedium(ctx, a.Pool, by.TeamID, raw)
	if err == nil && !strings.HasPrefix(m.MediaType, "image/") {
		err = store.ErrNotFound
	}
	return m, err
}
