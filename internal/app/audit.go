package app

import (
	"context"
	"slices"
	"strings"
	"time"

	"brightchalk/internal/core/audit"
	"brightchalk/internal/core/card"
	"brightchalk/internal/core/fault"
	"brightchalk/internal/store"
)

type auditStore interface {
	takeStore
	UpdateCard(ctx context.Context, e store.CardEdit) error
	LeftFindings(ctx context.Context) ([]store.LeftFinding, error)
	LeaveFinding(ctx context.Context, key, why, by string, now time.Time) error
	TakeUpFinding(ctx context.Context, key string) error
}

// Audits look over the whole library for what contradicts itself.
type Audits struct{ desk desk[auditStore] }

// AuditFinding is what was found, and whether the team leaves it.
type AuditFinding struct {
	audit.Finding
	Left *store.LeftFinding `json:"left,omitempty" doc:"the team knows, and leaves it as it is"`
}

// AuditView is what was found in the library.
type AuditView struct {
	Findings []AuditFinding `json:"findings" nullable:"false" doc:"the gravest kinds first"`
	Open     int            `json:"open" doc:"those that are not left"`
	Cards    int            `json:"cards" doc:"that were looked at"`
	Takes    int            `json:"takes" doc:"that were measured"`
}

// ErrFindingGone is the code of a finding that is not there any more.
const ErrFindingGone fault.Code = "finding-gone"

// Audit looks over the library as it stands, drafts included.
func (a Audits) Audit(ctx context.Context, by Actor) (AuditView, error) {
	return read(ctx, a.desk, by, func(s auditStore) (AuditView, error) {
		l, _, err := auditLibrary(ctx, s)
		if err != nil {
			return AuditView{}, err
		}
		kept, err := measured(ctx, s)
		if err != nil {
			return AuditView{}, err
		}
		for _, k := range kept {
			l.Takes = append(l.Takes, audit.Take{CardID: k.Card, Speaker: k.Speaker, LUFS: k.LUFS})
		}
		left, err := s.LeftFindings(ctx)
		if err != nil {
			return AuditView{}, err
		}
		out := AuditView{Findings: []AuditFinding{}, Cards: len(l.Cards), Takes: len(l.Takes)}
		for _, f := range l.Look() {
			one := AuditFinding{Finding: f}
			if i := slices.IndexFunc(left, func(k store.LeftFinding) bool { return k.Key == f.Key }); i >= 0 {
				one.Left = &left[i]
			} else {
				out.Open++
			}
			out.Findings = append(out.Findings, one)
		}
		return out, nil
	})
}

// auditLibrary is the library without its takes, with the rows of its cards.
func auditLibrary(ctx context.Context, s auditStore) (l audit.Library, rows []store.Card, err error) {
	if l.Team, err = conventionsOf(ctx, s); err != nil {
		return l, nil, err
	}
	if rows, err = s.Cards(ctx, false); err != nil {
		return l, nil, err
	}
	for _, r := range rows {
		_, c := own(l.Team, r)
		l.Cards = append(l.Cards, c)
	}
	return l, rows, nil
}

// Mend does what a finding proposes, if it is still there.
func (a Audits) Mend(ctx context.Context, by Actor, key string) error {
	return change(ctx, a.desk, by, MayEdit, func(s auditStore) error {
		l, rows, err := auditLibrary(ctx, s)
		if err != nil {
			return err
		}
		list := l.Look()
		i := slices.IndexFunc(list, func(f audit.Finding) bool { return f.Key == key && f.Mend != nil })
		if i < 0 {
			return fault.New(ErrFindingGone, "That is not there any more: somebody changed it in the meantime.")
		}
		m := list[i].Mend
		row := rows[slices.IndexFunc(rows, func(r store.Card) bool { return r.CardID == m.CardID })]
		now := row.Content.Tidy()
		after, err := now.Worded(m.Field, m.Wording)
		if err != nil {
			return err
		}
		return s.UpdateCard(ctx, store.CardEdit{
			CardID: row.CardID, Version: row.Version + 1, State: edited(row.State), Content: after,
			Changed: card.Changed(now, after), By: &by.MemberID, Now: a.desk.now(),
		})
	})
}

// Leave keeps a finding as it is, with the reason.
func (a Audits) Leave(ctx context.Context, by Actor, key, why string) error {
	if why = strings.TrimSpace(why); why == "" {
		return wrong("why", "Say in a few words why it stays as it is.")
	}
	return change(ctx, a.desk, by, MayEdit, func(s auditStore) error {
		return s.LeaveFinding(ctx, key, why, by.MemberID, a.desk.now())
	})
}

// TakeUp shows a finding again that was left.
func (a Audits) TakeUp(ctx context.Context, by Actor, key string) error {
	return change(ctx, a.desk, by, MayEdit, func(s auditStore) error { return s.TakeUpFinding(ctx, key) })
}
