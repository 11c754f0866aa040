package app

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
)

// ErrLastLead is the code of what would leave a team without a lead.
const ErrLastLead fault.Code = "last-lead"

// ChangePassword replaces the actor's own password and ends the other sessions. It returns the actor in the new epoch.
// The former password is asked for, and wrong ones count as failed sign-ins.
func (p People) ChangePassword(ctx context.Context, by Actor, address, current, next string) (Actor, error) {
	m, err := read(ctx, p.desk, by, func(s peopleStore) (store.Member, error) { return s.Member(ctx, by.MemberID) })
	if err != nil {
		return by, err
	}
	if err := passwordFault("next", next, m.Email); err != nil {
		return by, err
	}
	if current == next {
		return by, wrong("next", "The new password is the former one.")
	}
	err = p.compare(ctx, m, Attempt{Email: m.Email, Password: current, Address: address}, nil)
	if errors.Is(err, fault.Invalid) {
		return by, wrong("current", "This is not your password.")
	}
	if err != nil {
		return by, err
	}
	hash, err := p.hash(ctx, next)
	if err != nil {
		return by, err
	}
	return in(ctx, p.desk, by, anyChange, func(s peopleStore) (Actor, error) {
		if err := s.SetPassword(ctx, m.MemberID, hash); err != nil {
			return by, err
		}
		if err := s.AddEvent(ctx, p.event(store.PasswordChanged, m, by, address)); err != nil {
			return by, err
		}
		m, err := s.Member(ctx, by.MemberID)
		return actor(m), err
	})
}

func (p People) event(kind store.EventKind, m store.Member, by Actor, note string) store.Event {
	e := store.Event{
		Kind: kind, MemberID: m.MemberID, By: by.MemberID, Email: m.Email, Note: note, At: p.desk.now(),
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
func (p People) ResetPassword(ctx context.Context, by Actor, memberID, next string) error {
	if err := by.need(MayAgree); err != nil {
		return err
	}
	m, err := read(ctx, p.desk, by, func(s peopleStore) (store.Member, error) { return s.Member(ctx, memberID) })
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
	return change(ctx, p.desk, by, MayAgree, func(s peopleStore) error {
		if err := s.SetPassword(ctx, m.MemberID, hash); err != nil {
			return err
		}
		return s.AddEvent(ctx, p.event(store.PasswordReset, m, by, ""))
	})
}

// SetRole changes what a member may do, from the next call on; only a lead may, and a team keeps one lead.
func (p People) SetRole(ctx context.Context, by Actor, memberID string, role Role) error {
	if rights[role] == nil {
		return wrong("role", "The role is lead, teacher or assistant.")
	}
	return change(ctx, p.desk, by, MayAgree, func(s peopleStore) error {
		m, err := s.Member(ctx, memberID)
		if err != nil || Role(m.Role) == role {
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
func (p People) Remove(ctx context.Context, by Actor, memberID string) error {
	return change(ctx, p.desk, by, MayAgree, func(s peopleStore) error {
		m, err := s.Member(ctx, memberID)
		if err != nil {
			return err
		}
		if err := otherLead(ctx, s, m); err != nil {
			return err
		}
		if err := s.RemoveMember(ctx, memberID, p.desk.now()); err != nil {
			return err
		}
		return s.AddEvent(ctx, p.event(store.Removed, m, by, ""))
	})
}

// otherLead refuses what takes the last lead from a team.
func otherLead(ctx context.Context, s peopleStore, m store.Member) error {
	list, err := s.Members(ctx)
	if err != nil || Role(m.Role) != Lead {
		return err
	}
	if !slices.ContainsFunc(list, func(o store.Member) bool {
		return Role(o.Role) == Lead && o.MemberID != m.MemberID && o.PausedAt == nil
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
func (p People) EventsCSV(ctx context.Context, by Actor, ask EventAsk, w io.Writer) error {
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
func (p People) Events(ctx context.Context, by Actor, ask EventAsk) ([]store.EventRow, error) {
	return p.events(ctx, by, ask, eventsShown)
}

func (p People) events(ctx context.Context, by Actor, ask EventAsk, most int) ([]store.EventRow, error) {
	if err := by.need(MayAgree); err != nil {
		return nil, err
	}
	return read(
		ctx,
		p.desk,
		by,
		func(s peopleStore) ([]store.EventRow, error) { return s.Events(ctx, ask.Kind, ask.Who, most) },
	)
}

// AsOperator is whoever has the command line of the server, for the team of a member.
func (p People) AsOperator(ctx context.Context, email string) (by Actor, memberID string, err error) {
	m, err := store.MemberByEmail(ctx, p.desk.all, email)
	return Actor{TeamID: m.TeamID, Role: Lead}, m.MemberID, err
}
