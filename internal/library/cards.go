package library

import (
	"context"
	"errors"
	"fmt"
	"time"

	"brightchalk/internal/core/card"
	"brightchalk/internal/core/convention"
	"brightchalk/internal/core/fault"
	"brightchalk/internal/core/lexicon"
	"brightchalk/internal/core/mouth"
	"brightchalk/internal/core/phoneme"
	"brightchalk/internal/core/script"
	"brightchalk/internal/core/spelling"
	"brightchalk/internal/gather"
	"brightchalk/internal/media"
	"brightchalk/internal/store"
	"brightchalk/internal/tx"
)

// Cards is the library: what is agreed about each sound.
type Cards struct{ Env tx.Env }

// findings are the contradictions on a card; conv are the conventions in its accent.
func findings(conv convention.Conventions, c card.Card) []card.Finding {
	var sounds []phoneme.Phoneme
	speech := conv.Speech()
	if seg, err := speech.Segment(c.Keyword); err == nil && seg.Source == lexicon.FromLexicon {
		sounds = seg.Phonemes
	}
	out := c.Check(conv.Accent, sounds)
	if theme, refused := speech.Refuses(c.Keyword); refused {
		text := fmt.Sprintf("“%s” is kept out of what children are offered (%s).", c.Keyword, theme)
		out = append(out, card.Finding{Field: "keyword", Text: text})
	}
	for _, f := range c.FlaggedWords(speech) {
		if f.Code == card.Refused {
			out = append(out, card.Finding{Field: "words", Text: f.Text})
		}
	}
	return out
}

// FlagWords looks through words that somebody is putting on a card.
func (c Cards) FlagWords(ctx context.Context, by tx.Actor, cardID string, list []string) ([]card.WordFlag, error) {
	return tx.Read(ctx, c.Env, by, func(s store.Library) ([]card.WordFlag, error) {
		r, err := s.Card(ctx, cardID)
		if err != nil {
			return nil, err
		}
		team, err := gather.Conventions(ctx, s)
		if err != nil {
			return nil, err
		}
		conv, k := gather.CardInAccent(team, r)
		k.Words = list
		return append([]card.WordFlag{}, k.FlaggedWords(conv.Speech())...), nil
	})
}

// CardView is all that the card's page shows.
type CardView struct {
	CardID         string          `json:"card_id" format:"uuid"`
	Step           int             `json:"step" doc:"place in the order of teaching, from 1"`
	Pair           spelling.Pair   `json:"pair"`
	Kind           string          `json:"kind" doc:"letter, digraph, split digraph, ..."`
	Version        int             `json:"version"`
	AgreedVersion  int             `json:"agreed_version" doc:"0 where none is agreed"`
	State          card.State      `json:"state" enum:"draft,in review,agreed"`
	Content        card.Content    `json:"content"`
	UpdatedAt      time.Time       `json:"updated_at"`
	UpdatedBy      string          `json:"updated_by" doc:"initials"`
	Gaps           []card.Gap      `json:"gaps"`
	Findings       []card.Finding  `json:"findings" doc:"contradictions on the card"`
	ObjectCautions []string        `json:"object_cautions" doc:"what to watch for with the things of its tray"`
	SuggestedCue   string          `json:"suggested_cue"`
	SuggestedSlip  string          `json:"suggested_slip"`
	TherapyCaution string          `json:"therapy_caution" doc:"stands beside every mouth cue"`
	Hold           card.Hold       `json:"hold" enum:"stretch,short"`
	Voiced         bool            `json:"voiced"`
	Place          string          `json:"place" doc:"of articulation"`
	Manner         phoneme.Manner  `json:"manner"`
	KeyWord        string          `json:"key_word" doc:"with this spelling; empty where no word has it"`
	Contrast       phoneme.Phoneme `json:"contrast" doc:"the same mouth with the voice on or off, empty where none"`
	TakeID         string          `json:"take_id" doc:"the chosen take, empty where there is none"`
	Archived       bool            `json:"archived"`
	Before         string          `json:"before" doc:"the card before it in the order, empty at the end"`
	After          string          `json:"after" doc:"the card after it in the order, empty at the end"`
}

// Card returns one card.
func (c Cards) Card(ctx context.Context, by tx.Actor, cardID string) (CardView, error) {
	return tx.Read(ctx, c.Env, by, func(s store.Library) (CardView, error) { return cardPage(ctx, s, cardID) })
}

// Mouth draws how the sound of a card is made, in its accent.
func (c Cards) Mouth(ctx context.Context, by tx.Actor, cardID string, contrast bool) (mouth.Drawing, error) {
	return tx.Read(ctx, c.Env, by, func(s store.Library) (mouth.Drawing, error) {
		r, err := s.Card(ctx, cardID)
		if err != nil {
			return mouth.Drawing{}, err
		}
		conv, err := gather.Conventions(ctx, s)
		if err != nil {
			return mouth.Drawing{}, err
		}
		if contrast {
			if r.Content.Contrast == "" {
				return mouth.Drawing{}, store.ErrNotFound
			}
			return mouth.Draw(r.Content.Conventions(conv).Accent, r.Content.Contrast)
		}
		return mouth.Draw(r.Content.Conventions(conv).Accent, r.Sound)
	})
}

func cardPage(ctx context.Context, s store.Library, cardID string) (CardView, error) {
	r, err := s.Card(ctx, cardID)
	if err != nil {
		return CardView{}, err
	}
	team, err := gather.Conventions(ctx, s)
	if err != nil {
		return CardView{}, err
	}
	v := view(team, r)
	n, err := s.CardNeighbours(ctx, cardID)
	if err != nil && !errors.Is(err, store.ErrNotFound) {
		return CardView{}, err
	}
	v.Before, v.After = n.Before, n.After
	return v, nil
}

func view(team convention.Conventions, r store.Card) CardView {
	conv, c := gather.CardInAccent(team, r)
	v := CardView{
		CardID: r.CardID, Step: r.Step, Pair: c.Pair, Kind: c.Pair.Kind(), Version: r.Version, State: r.State,
		Content: c.Content.Tidy(), UpdatedAt: r.UpdatedAt, UpdatedBy: r.UpdatedBy, Gaps: c.Gaps(conv.Speech()),
		Findings: findings(conv, c), TherapyCaution: card.TherapyCaution, Hold: card.FindHold(conv, c.Pair),
		Voiced: card.Voiced(conv.Accent, c.Pair), TakeID: r.TakeID, Archived: r.ArchivedAt != nil,
	}
	if r.AgreedVersion != nil {
		v.AgreedVersion = *r.AgreedVersion
	}
	v.KeyWord = script.Keyword(conv.Speech(), c.Pair, c.Keyword)
	v.ObjectCautions = append([]string{}, card.ObjectCautions(c.Objects)...)
	v.SuggestedCue, v.SuggestedSlip = card.SuggestCue(conv.Accent, c.Pair)
	if sounds, err := phoneme.Parse(conv.Accent, c.Pair.Sound); err == nil {
		s, _ := phoneme.Lookup(conv.Accent, sounds[0])
		v.Place, v.Manner, v.Contrast = s.Place, s.Manner, s.Contrast
	}
	return v
}

// Conflict says that two people changed the same fields. Theirs is what stands now.
type Conflict struct {
	Fields []string `json:"fields"`
	By     string   `json:"by" doc:"initials"`
	Theirs CardView `json:"theirs"`
}

// Error says who changed it.
func (c Conflict) Error() string {
	return fmt.Sprintf("%s changed the same part of this card while you were writing", c.By)
}

// Save writes a member's edit that began from base. Edits of different fields are joined; where both
// changed the same field nothing is written and a Conflict comes back. An agreed card that is edited is a
// draft again, its agreed version still in use.
func (c Cards) Save(ctx context.Context, by tx.Actor, cardID string, base int, content card.Content) (CardView, error) {
	content = content.Tidy()
	return tx.Write(ctx, c.Env, by, tx.MayEdit, func(s store.Library) (CardView, error) {
		team, err := gather.Conventions(ctx, s)
		if err != nil {
			return CardView{}, err
		}
		if err := CheckAccent(team, content); err != nil {
			return CardView{}, err
		}
		version, err := s.LockCard(ctx, cardID)
		if err != nil {
			return CardView{}, err
		}
		now, err := s.Card(ctx, cardID)
		if err != nil {
			return CardView{}, err
		}
		began, err := s.Version(ctx, cardID, base)
		if errors.Is(err, store.ErrNotFound) {
			return CardView{}, fault.In("base_version", "Version %d of this card is not known.", base)
		} else if err != nil {
			return CardView{}, err
		}
		current := now.Content.Tidy()
		merged, clashes := card.Merge(began.Content.Tidy(), content, current)
		if len(clashes) > 0 {
			return CardView{}, Conflict{clashes, now.UpdatedBy, view(team, now)}
		}
		changed := card.Changed(current, merged)
		if len(changed) == 0 {
			return cardPage(ctx, s, cardID)
		}
		if merged.Picture != "" && merged.Picture != current.Picture {
			if _, err := gather.Picture(ctx, s, merged.Picture); errors.Is(err, store.ErrNotFound) {
				return CardView{}, fault.In("picture", "Your team has no such picture. Send it again.")
			} else if err != nil {
				return CardView{}, err
			}
		}
		err = s.UpdateCard(ctx, store.CardEdit{
			CardID: cardID, Version: version + 1, State: StateAfterEdit(now.State), Content: merged, Changed: changed,
			By: &by.MemberID, Now: c.Env.Now(),
		})
		if err != nil {
			return CardView{}, err
		}
		return cardPage(ctx, s, cardID)
	})
}

// CheckAccent checks where a card departs from the team's accent, and the sound that it is contrasted with.
func CheckAccent(team convention.Conventions, content card.Content) error {
	if content.Accent != "" {
		if _, err := phoneme.ParseAccent(content.Accent); err != nil {
			return fault.At("accent", err)
		}
		if content.AccentNote == "" {
			return fault.In("accent_note", "Say in a few words why this card departs from the team's accent.")
		}
	}
	if p := phoneme.Phoneme(content.Contrast); p != "" {
		if _, ok := phoneme.Lookup(content.Conventions(team).Accent, p); !ok {
			return fault.In("contrast", "%q is not a sound of this accent.", p)
		}
	}
	return content.CheckExceptions()
}

// StateAfterEdit returns the state of a card after an edit. An agreed card becomes a draft; its agreed version stays
// in use.
func StateAfterEdit(state card.State) card.State {
	if state == card.InReview {
		return card.InReview
	}
	return card.Draft
}

// MaxSteps is how long an order of teaching may be.
const MaxSteps = 500

// New adds a pair to the library.
func (c Cards) New(ctx context.Context, by tx.Actor, pairText string, step int) (string, error) {
	return tx.Write(ctx, c.Env, by, tx.MayEdit, func(s store.Library) (string, error) {
		conv, err := gather.Conventions(ctx, s)
		if err != nil {
			return "", err
		}
		pair, err := spelling.ParsePair(conv.Accent, pairText)
		if err != nil {
			return "", fault.At("pair", err)
		}
		if step < 1 || step > MaxSteps {
			return "", fault.In("step", "The place in the order is a number from 1 to %d.", MaxSteps)
		}
		all, err := s.Cards(ctx, true)
		if err != nil {
			return "", err
		}
		id, err := s.CreateCard(ctx, min(step, LastPosition(all)+1), pair, store.CardEdit{
			State: card.Draft, Content: card.Content{}.Tidy(), By: &by.MemberID, Now: c.Env.Now(),
		})
		if errors.Is(err, store.ErrTaken) {
			return "", fault.In("pair", "The library has a card for %s already.", script.Named(conv.Speech(), pair))
		}
		return id, err
	})
}

// Move puts a card at another place in the order of teaching; only a lead may.
func (c Cards) Move(ctx context.Context, by tx.Actor, cardID string, step int) error {
	return tx.Exec(ctx, c.Env, by, tx.MayAgree, func(s store.Library) error {
		r, err := s.Card(ctx, cardID)
		if err != nil {
			return err
		}
		all, err := s.Cards(ctx, true)
		if err != nil {
			return err
		}
		last := LastPosition(all)
		if step < 1 || step > last {
			return fault.In("step", "The place in the order is a number from 1 to %d.", last)
		}
		return s.MoveCard(ctx, cardID, r.Step, step)
	})
}

// LastPosition returns the last position in the order of teaching, 0 if there are no cards.
func LastPosition(all []store.Card) int {
	if len(all) == 0 {
		return 0
	}
	return all[len(all)-1].Step
}

// Archive puts a card aside or brings it back.
func (c Cards) Archive(ctx context.Context, by tx.Actor, cardID string, archive bool) error {
	return tx.Exec(ctx, c.Env, by, tx.MayAgree, func(s store.Library) error {
		return s.ArchiveCard(ctx, cardID, c.Env.NowIf(archive))
	})
}

// VersionPage is how many versions are listed at once.
const VersionPage = 50

// Versions lists a card's versions, the newest first, without their content: those older than before, or from the
// newest where that is 0.
func (c Cards) Versions(ctx context.Context, by tx.Actor, cardID string, before int) ([]store.VersionHead, error) {
	return tx.Read(ctx, c.Env, by, func(s store.Library) ([]store.VersionHead, error) {
		return s.Versions(ctx, cardID, before, VersionPage)
	})
}

// VersionContent is the content of a card in one version.
func (c Cards) VersionContent(ctx context.Context, by tx.Actor, cardID string, version int) (card.Content, error) {
	return tx.Read(ctx, c.Env, by, func(s store.Library) (card.Content, error) {
		v, err := s.Version(ctx, cardID, version)
		return v.Content.Tidy(), err
	})
}

// StorePicture cleans an uploaded picture and stores it; the card is changed by a later save. It returns
// the picture's hash in hex and remarks on what was changed.
func (c Cards) StorePicture(
	ctx context.Context,
	by tx.Actor,
	file media.Upload,
) (sum string, remarks []string, err error) {
	if err := by.Need(tx.MayEdit); err != nil {
		return "", nil, err
	}
	if file.Size() > media.MaxPictureBytes {
		return "", nil, fault.In("picture", "The picture has more than %d MB.", media.MaxPictureBytes>>20)
	}
	data, err := media.ReadUpload(file)
	if err != nil {
		return "", nil, err
	}
	var p media.Picture
	err = c.Env.Decode(ctx, media.PictureCost(data), func() error {
		p, err = media.CleanPicture(data)
		return fault.At("picture", err)
	})
	if err != nil {
		return "", nil, err
	}
	raw, err := tx.Write(ctx, c.Env, by, tx.MayEdit, func(s store.Library) ([32]byte, error) {
		return s.PutMedium(ctx, store.Medium{MediaType: p.MediaType, Bytes: p.Bytes})
	})
	return fmt.Sprintf("%x", raw), append([]string{}, p.Remarks...), err
}

// Picture returns a stored picture by its hash in hex; store.ErrNotFound where the team has none.
func (c Cards) Picture(ctx context.Context, by tx.Actor, sum string) (store.Medium, error) {
	return tx.Read(ctx, c.Env, by, func(s store.Library) (store.Medium, error) { return gather.Picture(ctx, s, sum) })
}
