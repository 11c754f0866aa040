package library

import (
	"context"
	"errors"
	"fmt"
	"slices"
	"time"

	"brightchalk/internal/core/accord"
	"brightchalk/internal/core/card"
	"brightchalk/internal/core/convention"
	"brightchalk/internal/core/strokes"
	"brightchalk/internal/gather"
	"brightchalk/internal/store"
	"brightchalk/internal/tx"
)

// Face is what a team agrees of a card: its content, with the take and the letter beside it.
type Face struct {
	Version int              `json:"version"`
	Content card.Content     `json:"content"`
	TakeID  string           `json:"take_id" doc:"the chosen take; empty where there is none, or it was withdrawn"`
	Drawn   *strokes.Written `json:"drawn,omitempty" doc:"the letter as the team writes it; of a former face: where it is remembered"`
}

// VoiceView is what somebody said of a card that was put forward.
type VoiceView struct {
	MemberID string    `json:"member_id" format:"uuid"`
	Name     string    `json:"name"`
	Initials string    `json:"initials"`
	Version  int       `json:"version" doc:"of the card that it was said of"`
	Yes      bool      `json:"yes"`
	Stands   bool      `json:"stands" doc:"the card was not changed since"`
	Note     string    `json:"note"`
	SaidAt   time.Time `json:"said_at"`
}

// OpenReview is a card that waits for a decision.
type OpenReview struct {
	AskedID string         `json:"asked_id" doc:"who put it forward"`
	AskedBy string         `json:"asked_by"`
	AskedAt time.Time      `json:"asked_at"`
	Note    string         `json:"note"`
	Readers []store.Reader `json:"readers" doc:"who was asked to read it"`
	Voices  []VoiceView    `json:"voices"`
}

// PastReview is what became of a card that was put forward.
type PastReview struct {
	AskedBy    string      `json:"asked_by"`
	AskedAt    time.Time   `json:"asked_at"`
	Note       string      `json:"note"`
	State      string      `json:"state" enum:"agreed,sent back,taken back"`
	DecidedBy  string      `json:"decided_by"`
	DecidedAt  *time.Time  `json:"decided_at,omitempty"`
	Version    int         `json:"version" doc:"that was decided on"`
	Conclusion string      `json:"conclusion"`
	Voices     []VoiceView `json:"voices"`
}

// ReviewView is all that a reader of a card needs to decide.
type ReviewView struct {
	State    card.State      `json:"state" enum:"draft,in review,agreed"`
	Now      Face            `json:"now"`
	Before   *Face           `json:"before,omitempty" doc:"what is agreed and in force, where something is"`
	Changed  []string        `json:"changed" doc:"fields that differ, with take and letter"`
	Open     *OpenReview     `json:"open,omitempty"`
	Standing accord.Standing `json:"standing"`
	May      bool            `json:"may" doc:"the member's yes counts"`
	Findings []card.Finding  `json:"findings" doc:"contradictions that stand in the way"`
	Past     []PastReview    `json:"past" doc:"the newest first"`
	Remarks  []store.Remark  `json:"remarks" doc:"in the order in which they were made, answers among them"`
	People   []store.Reader  `json:"people" doc:"who can be named, the member left out"`
}

// Review shows a card beside what is agreed of it.
func (r Reviews) Review(ctx context.Context, by tx.Actor, cardID string) (ReviewView, error) {
	return tx.Read(ctx, r.Env, by, func(s store.Library) (ReviewView, error) { return reviewPage(ctx, s, by, cardID) })
}

func reviewPage(ctx context.Context, s store.Library, by tx.Actor, cardID string) (ReviewView, error) {
	d, err := readReviewState(ctx, s, cardID)
	if err != nil {
		return ReviewView{}, err
	}
	conv, k := gather.CardInAccent(d.team, d.row)
	v := ReviewView{
		State: d.row.State, Findings: findings(conv, k), Standing: d.standing(), May: by.Need(agreeing(d.team)) == nil,
		Changed: []string{}, Past: []PastReview{}, People: []store.Reader{},
		Now: Face{Version: d.row.Version, Content: d.row.Content.Tidy(), TakeID: d.row.TakeID},
	}
	letters, err := s.OwnLetters(ctx)
	if err != nil {
		return v, err
	}
	v.Now.Drawn = d.team.Lines.Drawn(k.Pair.Grapheme, letters)
	if err := d.before(ctx, s, &v); err != nil {
		return v, err
	}
	for _, p := range d.past {
		v.Past = append(v.Past, d.pastView(p))
	}
	if d.open != nil {
		if v.Open, err = d.openView(ctx, s); err != nil {
			return v, err
		}
	}
	if v.Remarks, err = s.Remarks(ctx, cardID); err != nil {
		return v, err
	}
	people, err := s.Members(ctx)
	for _, m := range people {
		if m.MemberID != by.MemberID {
			v.People = append(v.People, store.Reader{MemberID: m.MemberID, Name: m.Name, Initials: m.Initials})
		}
	}
	return v, err
}

// reviewState is a card with all that was said of it.
type reviewState struct {
	team   convention.Conventions
	row    store.Card
	open   *store.ReviewRow
	past   []store.ReviewRow // the newest first
	voices []store.VoiceRow
}

func readReviewState(ctx context.Context, s store.Library, cardID string) (d reviewState, err error) {
	if d.row, err = s.Card(ctx, cardID); err != nil {
		return d, err
	}
	if d.team, err = gather.Conventions(ctx, s); err != nil {
		return d, err
	}
	all, err := s.Reviews(ctx, cardID)
	if err != nil {
		return d, err
	}
	for i, r := range all {
		if r.State == "open" {
			d.open = &all[i]
		} else {
			d.past = append(d.past, r)
		}
	}
	d.voices, err = s.Voices(ctx, cardID)
	return d, err
}

func (d reviewState) standing() accord.Standing {
	if d.open == nil {
		return d.team.Agreeing.Of(nil, d.row.Version)
	}
	var voices []accord.Voice
	for _, v := range d.voices {
		if v.ReviewID == d.open.ReviewID {
			voices = append(voices, accord.Voice{MemberID: v.MemberID, Version: v.Version, Yes: v.Yes})
		}
	}
	return d.team.Agreeing.Of(voices, d.row.Version)
}

func (d reviewState) votes(reviewID string, version int) []VoiceView {
	out := []VoiceView{}
	for _, v := range d.voices {
		if v.ReviewID == reviewID {
			out = append(out, VoiceView{
				v.MemberID, v.Name, v.Initials, v.Version, v.Yes, v.Version == version, v.Note, v.SaidAt,
			})
		}
	}
	return out
}

func (d reviewState) pastView(p store.ReviewRow) PastReview {
	v := PastReview{
		AskedBy: p.AskedBy, AskedAt: p.AskedAt, Note: p.Note, State: p.State, DecidedBy: p.DecidedBy,
		DecidedAt: p.DecidedAt, Conclusion: p.Conclusion,
	}
	if p.DecidedVersion != nil {
		v.Version = *p.DecidedVersion
	}
	v.Voices = d.votes(p.ReviewID, v.Version)
	return v
}

func (d reviewState) openView(ctx context.Context, s store.Library) (*OpenReview, error) {
	readers, err := s.Readers(ctx, d.open.ReviewID)
	return &OpenReview{
		AskedID: d.open.AskedID, AskedBy: d.open.AskedBy, AskedAt: d.open.AskedAt, Note: d.open.Note, Readers: readers,
		Voices: d.votes(d.open.ReviewID, d.row.Version),
	}, err
}

// before puts what is agreed beside what stands, and names what differs. Where nothing is agreed, all that is filled in
// is new.
func (d reviewState) before(ctx context.Context, s store.Library, v *ReviewView) error {
	empty := card.Content{}.Tidy()
	if d.row.AgreedVersion == nil {
		v.Changed = append(v.Changed, card.Changed(empty, v.Now.Content)...)
		if v.Now.TakeID != "" {
			v.Changed = append(v.Changed, card.TakeField)
		}
		return nil
	}
	agreed, err := s.Version(ctx, d.row.CardID, *d.row.AgreedVersion)
	if err != nil {
		return err
	}
	v.Before = &Face{Version: agreed.Version, Content: agreed.Content.Tidy()}
	v.Changed = append(v.Changed, card.Changed(v.Before.Content, v.Now.Content)...)
	i := slices.IndexFunc(d.past, func(p store.ReviewRow) bool { return p.State == "agreed" })
	if i < 0 {
		return nil
	}
	if v.Before.Drawn, err = d.past[i].Drawn(); err != nil {
		return err
	}
	if id := d.past[i].TakeID; id != "" {
		_, err := s.Take(ctx, id)
		if err != nil && !errors.Is(err, store.ErrNotFound) {
			return err
		}
		if err == nil {
			v.Before.TakeID = id
		}
	}
	if d.past[i].TakeID != v.Now.TakeID {
		v.Changed = append(v.Changed, card.TakeField)
	}
	if v.Before.Drawn != nil && !sameInk(v.Before.Drawn, v.Now.Drawn) {
		v.Changed = append(v.Changed, card.LetterPart)
	}
	return nil
}

// sameInk tells whether two drawings look the same.
func sameInk(a, b *strokes.Written) bool {
	return a != nil && b != nil && fmt.Sprint(a.Strokes) == fmt.Sprint(b.Strokes)
}
