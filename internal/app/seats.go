package app

import (
	"context"
	"slices"

	"brightchalk/internal/core/fault"
	"brightchalk/internal/store"
)

// ErrElsewhere is the code of what a lead would change for another team too.
const ErrElsewhere fault.Code = "works-elsewhere"

// Seats lists the teams in which the actor works and is not paused, by name.
func (p People) Seats(ctx context.Context, by Actor) ([]store.Seat, error) {
	list, err := store.Seats(ctx, p.desk.all, by.AccountID)
	return slices.DeleteFunc(list, func(s store.Seat) bool { return s.PausedAt != nil }), err
}

// Switch lets the actor work in another one of the own teams, and returns who the actor is there. The next sign-in
// leads there too.
func (p People) Switch(ctx context.Context, by Actor, memberID, address string) (Actor, error) {
	err := store.EnterSeat(ctx, p.desk.all, by.AccountID, memberID, p.desk.now())
	if err != nil {
		return by, err
	}
	m, err := store.MemberSeen(ctx, p.desk.all, memberID)
	if err != nil {
		return by, err
	}
	if err := store.TellSignOut(ctx, p.desk.all, by.TeamID, by.MemberID); err != nil {
		return by, err
	}
	return seen(m), store.AddEvent(ctx, p.desk.all, store.Event{
		Kind: store.SignedIn, TeamID: m.TeamID, MemberID: m.MemberID, Email: m.Email, Address: address,
		Note: "from another team", At: p.desk.now(),
	})
}

// onlyHere refuses a lead what would also open, or close, the person's account in another team. Whoever has the command
// line of the server may.
func (p People) onlyHere(ctx context.Context, by Actor, m store.Member) error {
	if by.MemberID == "" || by.MemberID == m.MemberID {
		return nil
	}
	list, err := store.Seats(ctx, p.desk.all, m.AccountID)
	if err != nil || len(list) < 2 {
		return err
	}
	return fault.New(ErrElsewhere,
		"%s works in another team too. Only they can change how they sign in, or whoever runs the server.", m.Name)
}
