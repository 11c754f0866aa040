package people

import (
	"context"
	"errors"
	"io"
	"slices"
	"strings"
	"time"

	"brightchalk/internal/core/fault"
	"brightchalk/internal/core/table"
	"brightchalk/internal/sheet"
	"brightchalk/internal/store"
	"brightchalk/internal/tx"
)

// ErrLastLead is the code of what would leave a team without a lead.
const ErrLastLead fault.Code = "last-lead"

// ChangePassword replaces the actor's own password and ends the other sessions. It returns the actor in the new epoch.
// The former password is asked for, and wrong ones count as failed sign-ins.
func (p Accounts) ChangePassword(ctx context.Context, by tx.Actor, address, current, next string) (tx.Actor, error) {
	m, err := tx.Read(ctx, p.Env, by, func(s store.Library) (store.Member, error) { return s.Member(ctx, by.MemberID) })
	if err != nil {
		return by, err
	}
	if err := passwordFault("next", next, m.Email); err != nil {
		return by, err
	}
	if current == next {
		return by, fault.In("next", "The new password is the former one.")
	}
	err = p.compare(ctx, m, SignInAttempt{Email: m.Email, Password: current, Address: address}, nil)
	if errors.Is(err, fault.Invalid) {
		return by, fault.In("current", "This is not your password.")
	}
	if err != nil {
		return by, err
	}
	hash, err := p.hash(ctx, next)
	if err != nil {
		return by, err
	}
	return tx.WriteSelf(ctx, p.Env, by, func(s store.Library) (tx.Actor, error) {
		if err := s.SetPassword(ctx, m.MemberID, hash); err != nil {
			return by, err
		}
		if err := s.AddEvent(ctx, p.event(store.PasswordChanged, m, by, address)); err != nil {
			return by, err
		}
		m, err := s.Member(ctx, by.MemberID)
		return tx.ActorOf(m), err
	})
}

func (p Accounts) event(kind store.EventKind, m store.Member, by tx.Actor, note string) store.Event {
	e := store.Event{
		Kind: kind, MemberID: m.MemberID, By: by.MemberID, Email: m.Email, Note: note, At: p.Env.Now(),
	}
	switch by.MemberID {
	case m.MemberID:
		e.By, e.Address, e.Note = "", note, ""
	case "":
		e.Note = strings.TrimSpace(note + " by command line")
	}
	return e
}

// ResetPassword gives a member of the team a new password and ends the member's sessions; only a lead may.
func (p Accounts) ResetPassword(ctx context.Context, by tx.Actor, memberID, next string) error {
	if err := by.Need(tx.MayAgree); err != nil {
		return err
	}
	m, err := tx.Read(ctx, p.Env, by, func(s store.Library) (store.Member, error) { return s.Member(ctx, memberID) })
	if err != nil {
		return err
	}
	if err := p.onlyHere(ctx, by, m); err != nil {
		return err
	}
	if err := passwordFault("password", next, m.Email); err != nil {
		return err
	}
	hash, err := p.hash(ctx, next)
	if err != nil {
		return err
	}
	return tx.Exec(ctx, p.Env, by, tx.MayAgree, func(s store.Library) error {
		if err := s.SetPassword(ctx, m.MemberID, hash); err != nil {
			return err
		}
		return s.AddEvent(ctx, p.event(store.PasswordReset, m, by, ""))
	})
}

// SetRole changes what a member may do, from the next call on; only a lead may, and a team keeps one lead.
func (p Accounts) SetRole(ctx context.Context, by tx.Actor, memberID string, role tx.Role) error {
	if !role.Valid() {
		return fault.In("role", "The role is lead, teacher or assistant.")
	}
	return tx.Exec(ctx, p.Env, by, tx.MayAgree, func(s store.Library) error {
		m, err := s.Member(ctx, memberID)
		if err != nil || tx.Role(m.Role) == role {
			return err
		}
		if err := otherLead(ctx, s, m); err != nil {
			return err
		}
		if err := s.SetRole(ctx, memberID, string(role)); err != nil {
			return err
		}
		return s.AddEvent(ctx, p.event(store.RoleChanged, m, by, m.Role+" → "+string(role)))
	})
}

// Remove ends a member's account and sessions at once. What the member wrote, said and logged stays, under the name.
func (p Accounts) Remove(ctx context.Context, by tx.Actor, memberID string) error {
	return tx.Exec(ctx, p.Env, by, tx.MayAgree, func(s store.Library) error {
		m, err := s.Member(ctx, memberID)
		if err != nil {
			return err
		}
		if err := otherLead(ctx, s, m); err != nil {
			return err
		}
		if err := s.RemoveMember(ctx, memberID, p.Env.Now()); err != nil {
			return err
		}
		return s.AddEvent(ctx, p.event(store.Removed, m, by, ""))
	})
}

// otherLead refuses what takes the last lead from a team.
func otherLead(ctx context.Context, s store.Library, m store.Member) error {
	list, err := s.Members(ctx)
	if err != nil || tx.Role(m.Role) != tx.Lead {
		return err
	}
	if !slices.ContainsFunc(list, func(o store.Member) bool {
		return tx.Role(o.Role) == tx.Lead && o.MemberID != m.MemberID && o.PausedAt == nil
	}) {
		return fault.New(ErrLastLead, "%s is the only lead. Make somebody else a lead first.", m.Name)
	}
	return nil
}

// EventAsk is which events are looked for; what is empty is any.
type EventAsk struct {
	Kind store.EventKind
	Who  string // a part of a name
}

const (
	eventsShown = 200
	eventsOut   = 20_000
)

// EventsCSV writes all that is kept of what happened to the team's accounts as a table; only a lead may.
func (p Accounts) EventsCSV(ctx context.Context, by tx.Actor, ask EventAsk, w io.Writer) error {
	list, err := p.events(ctx, by, ask, eventsOut)
	if err != nil {
		return err
	}
	t := table.Sheet{Rows: [][]string{{"when", "what", "account", "by", "address", "note"}}}
	for _, e := range list {
		t.Rows = append(
			t.Rows,
			[]string{e.HappenedAt.UTC().Format(time.RFC3339), string(e.Kind), e.Member, e.By, e.Address, e.Note},
		)
	}
	return sheet.WriteCSV(w, t)
}

// Events lists what happened to the team's accounts, the newest first; only a lead may see it.
func (p Accounts) Events(ctx context.Context, by tx.Actor, ask EventAsk) ([]store.EventRow, error) {
	return p.events(ctx, by, ask, eventsShown)
}

func (p Accounts) events(ctx context.Context, by tx.Actor, ask EventAsk, most int) ([]store.EventRow, error) {
	if err := by.Need(tx.MayAgree); err != nil {
		return nil, err
	}
	return tx.Read(
		ctx,
		p.Env,
		by,
		func(s store.Library) ([]store.EventRow, error) { return s.Events(ctx, ask.Kind, ask.Who, most) },
	)
}

// AsOperator is whoever has the command line of the server, for the team of a member.
func (p Accounts) AsOperator(ctx context.Context, email string) (by tx.Actor, memberID string, err error) {
	m, err := store.MemberByEmail(ctx, p.Env.AllTeams(), email)
	return tx.Actor{TeamID: m.TeamID, Role: tx.Lead}, m.MemberID, err
}
