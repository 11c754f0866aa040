package store

import (
	"context"
	"errors"
	"fmt"
	"time"
)

// Account is how a person signs in, whatever teams the person is in.
type Account struct{ AccountID, Email, PasswordHash string }

// Seat is a person's place in a team.
type Seat struct {
	MemberID string     `json:"member_id" format:"uuid"`
	TeamID   string     `json:"-"`
	Team     string     `json:"team"`
	Role     string     `json:"role" enum:"lead,teacher,assistant"`
	PausedAt *time.Time `json:"-"`
	Waiting  int        `json:"waiting" minimum:"0" doc:"notices that were not seen"`
}

// Identity is who a person is at a provider of sign-ins: Subject is never given to anybody else by the Issuer.
type Identity struct{ Issuer, Subject string }

type identityRow struct{ Since time.Time }

var (
	accountCreate    = value[string]("account_create")
	accountByEmail   = query[Account]("account_by_email")
	accountDrop      = change("account_drop_last")
	seatList         = query[Seat]("seat_list")
	seatEnter        = change("seat_enter")
	memberByIdentity = query[Member]("member_by_identity")
	identityByMember = query[identityRow]("identity_of")
	identityAdd      = change("identity_add")
	identityDrop     = change("identity_drop")
)

// AccountByEmail finds an account by address, whatever its capitals.
func AccountByEmail(ctx context.Context, db DB, email string) (Account, error) {
	return accountByEmail.one(ctx, db, args{"email": email})
}

// Seats lists the teams of an account, also those where it is paused, by name.
func Seats(ctx context.Context, db DB, accountID string) ([]Seat, error) {
	return seatList.many(ctx, db, args{"account_id": accountID})
}

// EnterSeat notes that a person chose a team; ErrNotFound where the seat is not one of the account that lets in.
func EnterSeat(ctx context.Context, db DB, accountID, memberID string, now time.Time) error {
	return seatEnter.run(ctx, db, args{"account_id": accountID, "member_id": memberID, "now": now})
}

// MemberByIdentity finds the member whom a provider knows, in the team that was chosen last.
func MemberByIdentity(ctx context.Context, db DB, who Identity) (Member, error) {
	return memberByIdentity.one(ctx, db, args{"issuer": who.Issuer, "subject": who.Subject})
}

// AddIdentity lets a person sign in by a provider, which may be so already; ErrTaken where the account or the identity
// is bound otherwise.
func (l Library) AddIdentity(ctx context.Context, who Identity, accountID string, now time.Time) error {
	n, _, err := identityAdd.count(ctx, l.db, args{
		"issuer": who.Issuer, "subject": who.Subject, "account_id": accountID, "now": now,
	})
	if err == nil && n == 0 {
		err = fmt.Errorf("identity_add: %w", ErrTaken)
	}
	return err
}

// IdentitySince is since when a member signs in by an issuer, nil for never.
func (l Library) IdentitySince(ctx context.Context, memberID, issuer string) (*time.Time, error) {
	row, err := identityByMember.one(ctx, l.db, l.with(args{"member_id": memberID, "issuer": issuer}))
	if errors.Is(err, ErrNotFound) {
		return nil, nil
	}
	return &row.Since, err
}

// DropIdentity ends that a member signs in by an issuer.
func (l Library) DropIdentity(ctx context.Context, memberID, issuer string) error {
	_, _, err := identityDrop.count(ctx, l.db, l.with(args{"member_id": memberID, "issuer": issuer}))
	return err
}
