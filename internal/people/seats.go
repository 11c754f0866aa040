package people

import (
	"context"
	"slices"

	"brightchalk/internal/core/fault"
	"brightchalk/internal/store"
	"brightchalk/internal/tx"
)

// ErrElsewhere is the code of what a lead would change for another team too.
const ErrElsewhere fault.Code = "works-elsewhere"

// Seats lists the teams in which the actor works and is not paused, by name.
func (p Accounts) Seats(ctx context.Context, by tx.Actor) ([]store.Seat, error) {
	list, err := store.Seats(ctx, p.Env.AllTeams(), by.AccountID)
	return slices.DeleteFunc(list, func(s store.Seat) bool { return s.PausedAt != nil }), err
}

// Switch lets the actor work in another one of the own teams, and returns who the actor is there. The next sign-in
// leads there too.
func (p Accounts) Switch(ctx context.Context, by tx.Actor, memberID, address string) (tx.Actor, error) {
	err := store.EnterSeat(ctx, p.Env.AllTeams(), by.AccountID, memberID, p.Env.Now())
	if err != nil {
		return by, err
	}
	m, err := store.MemberSeen(ctx, p.Env.AllTeams(), memberID)
	if err != nil {
		return by, err
	}
	if err := store.TellSignOut(ctx, p.Env.AllTeams(), by.TeamID, by.MemberID); err != nil {
		return by, err
	}
	return tx.ActorSeen(m), store.AddEvent(ctx, p.Env.AllTeams(), store.Event{
		Kind: store.SignedIn, TeamID: m.TeamID, MemberID: m.MemberID, Email: m.Email, Address: address,
		Note: "from another team", At: p.Env.Now(),
	})
}

// worksElsewhere tells whether a member's account is in more teams than one.
func (p Accounts) worksElsewhere(ctx context.Context, m store.Member) (bool, error) {
	list, err := store.Seats(ctx, p.Env.AllTeams(), m.AccountID)
	return len(list) > 1, err
}

// onlyHere refuses a lead what would also open, or close, the person's account in another team. Whoever has the command
// line of the server may.
func (p Accounts) onlyHere(ctx context.Context, by tx.Actor, m store.Member) error {
	if by.MemberID == "" || by.MemberID == m.MemberID {
		return nil
	}
	elsewhere, err := p.worksElsewhere(ctx, m)
	if err != nil || !elsewhere {
		return err
	}
	return fault.New(ErrElsewhere,
		"%s works in another team too. Only they can change how they sign in, or whoever runs the server.", m.Name)
}
