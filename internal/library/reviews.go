package library

import (
	"context"

	"brightchalk/internal/core/accord"
	"brightchalk/internal/core/card"
	"brightchalk/internal/core/convention"
	"brightchalk/internal/core/fault"
	"brightchalk/internal/gather"
	"brightchalk/internal/store"
	"brightchalk/internal/tx"
)

// Reviews is how a team comes to agree: cards are put forward, talked about, agreed or sent back.
type Reviews struct{ Env tx.Env }

// agreeing is the right that a yes takes by the team's rule.
func agreeing(conv convention.Conventions) tx.Right {
	if conv.Agreeing == accord.Two {
		return tx.MayEdit
	}
	return tx.MayAgree
}

// ErrCardMoved is the code of a yes or a no to a version that is not the one that stands.
const ErrCardMoved fault.Code = "card-moved"

// ReviewRequest is a request to read a card.
type ReviewRequest struct {
	Note    string   `json:"note" maxLength:"1000" doc:"what the reader should look at"`
	Readers []string `json:"readers" doc:"member ids" maxItems:"40"`
}

// Ask puts a card forward, and asks members to read it.
func (r Reviews) Ask(ctx context.Context, by tx.Actor, cardID string, ask ReviewRequest) (ReviewView, error) {
	return tx.Write(ctx, r.Env, by, tx.MayEdit, func(s store.Library) (ReviewView, error) {
		d, err := r.lockCard(ctx, s, cardID)
		if err != nil {
			return ReviewView{}, err
		}
		switch {
		case d.row.State == card.Agreed:
			return ReviewView{}, fault.In("state", "This card is agreed. Change it first, then put the change forward.")
		case d.open == nil:
			if err := r.putForward(ctx, s, by, &d, ask.Note); err != nil {
				return ReviewView{}, err
			}
		}
		if err := s.AddReaders(ctx, d.open.ReviewID, ask.Readers); err != nil {
			return ReviewView{}, err
		}
		err = r.notify(ctx, s, by, store.NewNotice{
			Kind: store.NoticeAsked, Members: ask.Readers, CardID: cardID, Note: ask.Note,
		})
		if err != nil {
			return ReviewView{}, err
		}
		return reviewPage(ctx, s, by, cardID)
	})
}

// lockCard locks a card for what is decided of it.
func (r Reviews) lockCard(ctx context.Context, s store.Library, cardID string) (reviewState, error) {
	if _, err := s.LockCard(ctx, cardID); err != nil {
		return reviewState{}, err
	}
	return readReviewState(ctx, s, cardID)
}

// openReview opens a review of the card as it stands.
func (r Reviews) openReview(ctx context.Context, s store.Library, by tx.Actor, d *reviewState, note string) error {
	_, err := s.AddReview(ctx, d.row.CardID, note, by.MemberID, d.row.AgreedVersion, r.Env.Now())
	if err == nil {
		*d, err = readReviewState(ctx, s, d.row.CardID)
	}
	return err
}

// putForward opens a review and says on the card that it is in review.
func (r Reviews) putForward(ctx context.Context, s store.Library, by tx.Actor, d *reviewState, note string) error {
	if err := r.openReview(ctx, s, by, d, note); err != nil {
		return err
	}
	return r.setState(ctx, s, by, d, card.InReview)
}

// setState writes the next version of a card in another state.
func (r Reviews) setState(ctx context.Context, s store.Library, by tx.Actor, d *reviewState, state card.State) error {
	err := s.UpdateCard(ctx, store.CardEdit{
		CardID: d.row.CardID, Version: d.row.Version + 1, State: state, Content: d.row.Content.Tidy(),
		Changed: []string{"state"}, By: &by.MemberID, Now: r.Env.Now(),
	})
	d.row.Version, d.row.State = d.row.Version+1, state
	return err
}

// Verdict is what a reader says of a version of a card.
type Verdict struct {
	Version int    `json:"version" minimum:"1" doc:"that lay before the reader"`
	Yes     bool   `json:"yes" doc:"false sends it back"`
	Note    string `json:"note" maxLength:"1000"`
}

// Say gives a member's word on a card. A yes agrees it where enough said so by the team's rule, and needs a card
// without contradictions; a no sends it back to be changed. A word on another version than the one that stands is
// refused.
func (r Reviews) Say(ctx context.Context, by tx.Actor, cardID string, v Verdict) (ReviewView, error) {
	return tx.Write(ctx, r.Env, by, tx.MayEdit, func(s store.Library) (ReviewView, error) {
		d, err := r.lockCard(ctx, s, cardID)
		if err != nil {
			return ReviewView{}, err
		}
		if v.Version != d.row.Version {
			return ReviewView{}, movedOn(d)
		}
		if err := r.say(ctx, s, by, &d, v); err != nil {
			return ReviewView{}, err
		}
		return reviewPage(ctx, s, by, cardID)
	})
}

func movedOn(d reviewState) error {
	if d.open == nil && len(d.past) > 0 && d.past[0].DecidedBy != "" {
		return fault.New(ErrCardMoved, "%s decided it in the meantime: %s. Look at what stands now.",
			d.past[0].DecidedBy, d.past[0].State)
	}
	return fault.New(ErrCardMoved, "%s changed the card in the meantime. Look at what stands now.", d.row.UpdatedBy)
}

func (r Reviews) say(ctx context.Context, s store.Library, by tx.Actor, d *reviewState, v Verdict) error {
	if d.row.State == card.Agreed {
		return fault.In("state", "This card is agreed already.")
	}
	if !v.Yes {
		return r.sendBack(ctx, s, by, d, v.Note)
	}
	if err := by.Need(agreeing(d.team)); err != nil {
		return err
	}
	conv, k := gather.CardInAccent(d.team, d.row)
	if found := findings(conv, k); len(found) > 0 {
		return fault.In("state", "Not agreed: %s", found[0].Text)
	}
	if d.open == nil {
		begin := r.putForward
		if d.team.Agreeing.Need() == 1 {
			begin = r.openReview
		}
		if err := begin(ctx, s, by, d, ""); err != nil {
			return err
		}
	}
	err := s.PutVoice(ctx, store.VoiceRow{
		ReviewID: d.open.ReviewID, MemberID: by.MemberID, Version: d.row.Version, Yes: true, Note: v.Note,
		SaidAt: r.Env.Now(),
	})
	if err != nil {
		return err
	}
	if d.voices, err = s.Voices(ctx, d.row.CardID); err != nil {
		return err
	}
	kind := store.NoticeYes
	if d.standing().Agreed() {
		kind = store.NoticeAgreed
		if err := r.agree(ctx, s, by, d, v.Note); err != nil {
			return err
		}
	}
	return r.notify(ctx, s, by, store.NewNotice{
		Kind: kind, Members: []string{d.open.AskedID}, CardID: d.row.CardID, Note: v.Note,
	})
}

func (r Reviews) agree(ctx context.Context, s store.Library, by tx.Actor, d *reviewState, note string) error {
	letters, err := s.OwnLetters(ctx)
	if err != nil {
		return err
	}
	if err := r.setState(ctx, s, by, d, card.Agreed); err != nil {
		return err
	}
	return s.EndReview(ctx, store.ReviewEnd{
		ReviewID: d.open.ReviewID, State: "agreed", Conclusion: note, TakeID: d.row.TakeID, Version: d.row.Version,
		Letter: d.team.Lines.Drawn(d.row.Grapheme, letters), Now: r.Env.Now(),
	}, by.MemberID)
}

func (r Reviews) sendBack(ctx context.Context, s store.Library, by tx.Actor, d *reviewState, note string) error {
	if d.open == nil {
		return fault.In("state", "Nobody put this card forward.")
	}
	state := "sent back"
	if d.open.AskedID == by.MemberID {
		state = "taken back"
	} else {
		err := s.PutVoice(ctx, store.VoiceRow{
			ReviewID: d.open.ReviewID, MemberID: by.MemberID, Version: d.row.Version, Note: note, SaidAt: r.Env.Now(),
		})
		if err != nil {
			return err
		}
	}
	if err := r.setState(ctx, s, by, d, card.Draft); err != nil {
		return err
	}
	err := s.EndReview(ctx, store.ReviewEnd{
		ReviewID: d.open.ReviewID, State: state, Conclusion: note, Version: d.row.Version, Now: r.Env.Now(),
	}, by.MemberID)
	if err != nil {
		return err
	}
	return r.notify(ctx, s, by, store.NewNotice{
		Kind: store.NoticeSentBack, Members: []string{d.open.AskedID}, CardID: d.row.CardID, Note: note,
	})
}

// SetState moves a card between draft, in review and agreed, as it stands now. Where two must agree, the first yes
// leaves it in review.
func (r Reviews) SetState(ctx context.Context, by tx.Actor, cardID string, state card.State) (CardView, error) {
	return tx.Write(ctx, r.Env, by, tx.MayEdit, func(s store.Library) (CardView, error) {
		d, err := r.lockCard(ctx, s, cardID)
		if err != nil {
			return CardView{}, err
		}
		if state == card.Agreed {
			if err := by.Need(agreeing(d.team)); err != nil {
				return CardView{}, err
			}
		}
		if d.row.State != state {
			switch {
			case state == card.InReview:
				err = r.putForward(ctx, s, by, &d, "")
			case state == card.Agreed:
				err = r.say(ctx, s, by, &d, Verdict{Yes: true})
			case d.open != nil:
				err = r.sendBack(ctx, s, by, &d, "")
			default:
				err = r.setState(ctx, s, by, &d, state)
			}
		}
		if err != nil {
			return CardView{}, err
		}
		return cardPage(ctx, s, cardID)
	})
}
