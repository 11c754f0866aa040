package library

import (
	"context"
	"errors"
	"slices"
	"strings"

	"brightchalk/internal/core/accord"
	"brightchalk/internal/core/card"
	"brightchalk/internal/core/fault"
	"brightchalk/internal/store"
	"brightchalk/internal/tx"
)

// Saying is something to be said beside a card.
type Saying struct {
	Field    string  `json:"field" maxLength:"40" doc:"the part of the card by its name, take or letter; empty: the whole card"`
	ParentID string  `json:"parent_id" maxLength:"36" doc:"of an answer, empty otherwise"`
	Body     string  `json:"body" maxLength:"4000" doc:"@ and initials name a member"`
	Wording  *string `json:"wording,omitempty" maxLength:"4000" doc:"what should stand in the field instead; a list has a line for each item"`
}

// Remark says something beside a card; whoever is named in it, has said something in the thread or put the card forward
// is told.
func (r Reviews) Remark(ctx context.Context, by tx.Actor, cardID string, said Saying) (string, error) {
	said.Body = strings.TrimSpace(said.Body)
	return tx.Write(ctx, r.Env, by, tx.MayTalk, func(s store.Library) (string, error) {
		d, err := readReviewState(ctx, s, cardID)
		if err != nil {
			return "", err
		}
		all, err := s.Remarks(ctx, cardID)
		if err != nil {
			return "", err
		}
		if err := said.check(d.row.Content, all); err != nil {
			return "", err
		}
		id, err := s.AddRemark(ctx, store.NewRemark{
			CardID: cardID, ParentID: said.ParentID, Field: said.Field, Body: said.Body, Wording: said.Wording,
			By: by.MemberID, Version: d.row.Version, Now: r.Env.Now(),
		})
		if err != nil {
			return "", err
		}
		return id, r.pass(ctx, s, by, d, id, said, all)
	})
}

// check looks at what is to be said and fits an answer to its field.
func (said *Saying) check(content card.Content, all []store.Remark) error {
	if said.Body == "" && said.Wording == nil {
		return fault.In("body", "Say something, or propose a wording.")
	}
	if !card.HasField(said.Field) {
		return fault.In("field", "A card has no part %q.", said.Field)
	}
	if said.ParentID != "" {
		i := slices.IndexFunc(all, func(k store.Remark) bool { return k.RemarkID == said.ParentID })
		if i < 0 || all[i].ParentID != "" {
			return fault.In("parent_id", "What you answer is not there any more.")
		}
		said.Field = all[i].Field
	}
	if said.Wording == nil {
		return nil
	}
	after, err := content.Worded(said.Field, *said.Wording)
	if err == nil && len(card.Changed(content.Tidy(), after)) == 0 {
		return fault.In("wording", "That is what stands there.")
	}
	return err
}

// pass tells those whom a remark concerns, each once.
func (r Reviews) pass(
	ctx context.Context,
	s store.Library,
	by tx.Actor,
	d reviewState,
	id string,
	said Saying,
	all []store.Remark,
) error {
	members, err := s.Members(ctx)
	if err != nil {
		return err
	}
	var initials, named, answered, forward []string
	for _, m := range members {
		initials = append(initials, m.Initials)
	}
	for _, n := range accord.Mentions(said.Body, initials) {
		i := slices.IndexFunc(members, func(m store.Member) bool { return m.Initials == n })
		named = append(named, members[i].MemberID)
	}
	for _, k := range all {
		if said.ParentID != "" && (k.RemarkID == said.ParentID || k.ParentID == said.ParentID) {
			answered = append(answered, k.MadeID)
		}
	}
	if d.open != nil {
		forward = []string{d.open.AskedID}
	}
	var told []string
	for _, n := range []store.NewNotice{
		{Kind: store.NoticeMention, Members: named},
		{Kind: store.NoticeAnswer, Members: answered},
		{Kind: store.NoticeRemark, Members: forward},
	} {
		n.Members = slices.DeleteFunc(n.Members, func(m string) bool { return slices.Contains(told, m) })
		told = append(told, n.Members...)
		n.CardID, n.RemarkID, n.Note = d.row.CardID, id, said.Body
		if err := r.notify(ctx, s, by, n); err != nil {
			return err
		}
	}
	return nil
}

// noticeSigns is how much of what was said a notice holds.
const noticeSigns = 160

// notify leaves a notice for members; nobody is told what they did themselves.
func (r Reviews) notify(ctx context.Context, s store.Library, by tx.Actor, n store.NewNotice) error {
	n.Members = slices.DeleteFunc(slices.Clone(n.Members), func(m string) bool { return m == by.MemberID || m == "" })
	slices.Sort(n.Members)
	n.Members = slices.Compact(n.Members)
	if len(n.Members) == 0 {
		return nil
	}
	n.From, n.Now = by.MemberID, r.Env.Now()
	if signs := []rune(n.Note); len(signs) > noticeSigns {
		n.Note = string(signs[:noticeSigns-1]) + "…"
	}
	return s.AddNotices(ctx, n)
}

// newRemarkView is a remark of the member's own.
func newRemarkView(ctx context.Context, s store.Library, by tx.Actor, id string) (store.Remark, error) {
	k, err := s.Remark(ctx, id)
	if err == nil && k.MadeID != by.MemberID {
		return k, fault.In("", "Only %s changes what %s said.", k.MadeBy, k.MadeBy)
	}
	return k, err
}

// EditRemark changes what the member said.
func (r Reviews) EditRemark(ctx context.Context, by tx.Actor, id, body string) error {
	if body = strings.TrimSpace(body); body == "" {
		return fault.In("body", "Say something, or take it away.")
	}
	return tx.Exec(ctx, r.Env, by, tx.MayTalk, func(s store.Library) error {
		if _, err := newRemarkView(ctx, s, by, id); err != nil {
			return err
		}
		return s.EditRemark(ctx, id, body, r.Env.Now())
	})
}

// DropRemark takes away what the member said, unless somebody answered.
func (r Reviews) DropRemark(ctx context.Context, by tx.Actor, id string) error {
	return tx.Exec(ctx, r.Env, by, tx.MayTalk, func(s store.Library) error {
		k, err := newRemarkView(ctx, s, by, id)
		if err != nil {
			return err
		}
		all, err := s.Remarks(ctx, k.CardID)
		if err != nil {
			return err
		}
		if slices.ContainsFunc(all, func(o store.Remark) bool { return o.ParentID == id }) {
			return fault.In("", "Somebody answered it. Change it, or settle it.")
		}
		return s.DropRemark(ctx, id)
	})
}

// Settle ends what a remark began, or opens it again.
func (r Reviews) Settle(ctx context.Context, by tx.Actor, id string, settled bool) error {
	return tx.Exec(ctx, r.Env, by, tx.MayTalk, func(s store.Library) error {
		k, err := s.Remark(ctx, id)
		if err != nil {
			return err
		}
		if k.ParentID != "" {
			return fault.In("", "A thread is settled where it began.")
		}
		if settled == (k.SettledAt != nil) {
			return nil
		}
		return s.SettleRemark(ctx, id, by.MemberID, r.Env.NowIf(settled))
	})
}

// TakeOver puts the wording that a remark proposes in its field, and settles the remark. It says which version came of
// it. A field that was changed since the remark was made is not overwritten unless the member has seen what stands.
func (r Reviews) TakeOver(ctx context.Context, by tx.Actor, id string, version int) (CardView, error) {
	return tx.Write(ctx, r.Env, by, tx.MayEdit, func(s store.Library) (CardView, error) {
		k, err := s.Remark(ctx, id)
		if err != nil {
			return CardView{}, err
		}
		if k.Wording == nil {
			return CardView{}, fault.In("", "Nothing is proposed there.")
		}
		d, err := r.lockCard(ctx, s, k.CardID)
		if err != nil {
			return CardView{}, err
		}
		now := d.row.Content.Tidy()
		seen, err := s.Version(ctx, k.CardID, version)
		if errors.Is(err, store.ErrNotFound) {
			return CardView{}, fault.In("version", "Version %d of this card is not known.", version)
		} else if err != nil {
			return CardView{}, err
		}
		if slices.Contains(card.Changed(seen.Content.Tidy(), now), k.Field) {
			return CardView{}, movedOn(d)
		}
		after, err := now.Worded(k.Field, *k.Wording)
		if err != nil {
			return CardView{}, err
		}
		if err := CheckAccent(d.team, after); err != nil {
			return CardView{}, err
		}
		if changed := card.Changed(now, after); len(changed) > 0 {
			err = s.UpdateCard(ctx, store.CardEdit{
				CardID: k.CardID, Version: d.row.Version + 1, State: StateAfterEdit(d.row.State), Content: after, Changed: changed,
				By: &by.MemberID, Now: r.Env.Now(),
			})
		}
		if err != nil {
			return CardView{}, err
		}
		if err := s.TakeRemark(ctx, id, by.MemberID, r.Env.Now()); err != nil {
			return CardView{}, err
		}
		err = r.notify(ctx, s, by, store.NewNotice{
			Kind: store.NoticeTaken, Members: []string{k.MadeID}, CardID: k.CardID, RemarkID: id, Note: *k.Wording,
		})
		if err != nil {
			return CardView{}, err
		}
		return cardPage(ctx, s, k.CardID)
	})
}

// Notices lists what the member should know, the newest first.
func (r Reviews) Notices(ctx context.Context, by tx.Actor) ([]store.Notice, error) {
	return tx.Read(ctx, r.Env, by, func(s store.Library) ([]store.Notice, error) { return s.Notices(ctx, by.MemberID) })
}

// See marks the member's notices up to one as seen.
func (r Reviews) See(ctx context.Context, by tx.Actor, upTo int64) error {
	_, err := tx.WriteUnlocked(ctx, r.Env, by, tx.MayTalk, func(s store.Library) (struct{}, error) {
		return struct{}{}, s.SeeNotices(ctx, by.MemberID, upTo, r.Env.Now())
	})
	return err
}
