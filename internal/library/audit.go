package library

import (
	"context"
	"slices"
	"strings"

	"brightchalk/internal/core/audit"
	"brightchalk/internal/core/card"
	"brightchalk/internal/core/fault"
	"brightchalk/internal/gather"
	"brightchalk/internal/sound"
	"brightchalk/internal/store"
	"brightchalk/internal/tx"
)

// Audits look over the whole library for what contradicts itself.
type Audits struct{ Env tx.Env }

// AuditFinding is what was found, and whether the team leaves it.
type AuditFinding struct {
	audit.Finding
	Left *store.LeftFinding `json:"left,omitempty" doc:"the team knows, and leaves it as it is"`
}

// AuditView is what was found in the library.
type AuditView struct {
	Findings []AuditFinding `json:"findings" doc:"the gravest kinds first"`
	Open     int            `json:"open" doc:"those that are not left"`
	Cards    int            `json:"cards" doc:"that were looked at"`
	Takes    int            `json:"takes" doc:"that were measured"`
}

// ErrFindingGone is the code of a finding that is not there any more.
const ErrFindingGone fault.Code = "finding-gone"

// Audit looks over the library as it stands, drafts included.
func (a Audits) Audit(ctx context.Context, by tx.Actor) (AuditView, error) {
	return tx.Read(ctx, a.Env, by, func(s store.Library) (AuditView, error) {
		l, _, err := auditLibrary(ctx, s)
		if err != nil {
			return AuditView{}, err
		}
		kept, err := sound.MeasureChosen(ctx, s)
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
func auditLibrary(ctx context.Context, s store.Library) (l audit.Library, rows []store.Card, err error) {
	if l.Team, err = gather.Conventions(ctx, s); err != nil {
		return l, nil, err
	}
	if rows, err = s.Cards(ctx, false); err != nil {
		return l, nil, err
	}
	for _, r := range rows {
		_, c := gather.CardInAccent(l.Team, r)
		l.Cards = append(l.Cards, c)
	}
	return l, rows, nil
}

// Mend does what a finding proposes, if it is still there.
func (a Audits) Mend(ctx context.Context, by tx.Actor, key string) error {
	return tx.Exec(ctx, a.Env, by, tx.MayEdit, func(s store.Library) error {
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
			CardID: row.CardID, Version: row.Version + 1, State: StateAfterEdit(row.State), Content: after,
			Changed: card.Changed(now, after), By: &by.MemberID, Now: a.Env.Now(),
		})
	})
}

// Leave keeps a finding as it is, with the reason.
func (a Audits) Leave(ctx context.Context, by tx.Actor, key, why string) error {
	if why = strings.TrimSpace(why); why == "" {
		return fault.In("why", "Say in a few words why it stays as it is.")
	}
	return tx.Exec(ctx, a.Env, by, tx.MayEdit, func(s store.Library) error {
		return s.LeaveFinding(ctx, key, why, by.MemberID, a.Env.Now())
	})
}

// TakeUp shows a finding again that was left.
func (a Audits) TakeUp(ctx context.Context, by tx.Actor, key string) error {
	return tx.Exec(ctx, a.Env, by, tx.MayEdit, func(s store.Library) error { return s.TakeUpFinding(ctx, key) })
}
