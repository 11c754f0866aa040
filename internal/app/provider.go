package app

import (
	"context"
	"errors"
	"strings"
	"time"

	"github.com/jackc/pgx/v5"

	"brightchalk/internal/core/fault"
	"brightchalk/internal/store"
)

// Vouched is somebody for whom a provider of sign-ins vouches. Email is empty where the provider did not verify it.
type Vouched struct {
	store.Identity
	Email string
	Name  string // of the provider
}

// Codes of a sign-in by a provider that is refused.
const (
	ErrNobody fault.Code = "nobody-here"
	ErrBound  fault.Code = "bound-otherwise"
)

// ByProvider signs in whom a provider vouches for. At the first time the verified address tells which account it is; an
// account with a second step is connected by its owner only, because the provider would go round that step.
func (p People) ByProvider(ctx context.Context, v Vouched, address string) (Actor, error) {
	m, err := store.MemberByIdentity(ctx, p.desk.all, v.Identity)
	if errors.Is(err, store.ErrNotFound) && v.Email != "" {
		m, err = p.firstTime(ctx, v, address)
	}
	if errors.Is(err, store.ErrNotFound) {
		return Actor{}, fault.New(ErrNobody,
			"%s knows you, but no team here does. Ask the lead of your team for an invitation.", v.Name)
	}
	if err != nil {
		return Actor{}, err
	}
	if m.PausedAt != nil {
		return Actor{}, errPaused
	}
	return actor(m), store.AddEvent(ctx, p.desk.all, store.Event{
		Kind: store.SignedIn, TeamID: m.TeamID, MemberID: m.MemberID, Email: m.Email, Address: address,
		Note: "by " + v.Name, At: p.desk.now(),
	})
}

// firstTime connects the account of a verified address.
func (p People) firstTime(ctx context.Context, v Vouched, address string) (store.Member, error) {
	m, err := store.MemberByEmail(ctx, p.desk.all, v.Email)
	if err != nil {
		return m, err
	}
	f, err := store.For(p.desk.all, "").SecondFactor(ctx, m.AccountID)
	if err == nil && f.Since != nil {
		return m, fault.New(ErrSecond,
			"Your sign-in has a second step. Come in with your password once, and connect %s on the page Team.", v.Name)
	}
	if err != nil && !errors.Is(err, store.ErrNotFound) {
		return m, err
	}
	return m, p.desk.all.Begin(ctx, func(tx pgx.Tx) error {
		return p.connect(ctx, store.For(tx, m.TeamID), m, v, address)
	})
}

func (p People) connect(ctx context.Context, s peopleStore, m store.Member, v Vouched, address string) error {
	err := s.AddIdentity(ctx, v.Identity, m.AccountID, p.desk.now())
	if errors.Is(err, store.ErrTaken) {
		return fault.New(
			ErrBound,
			"This sign-in at %s belongs to another account here, or yours to another one there.",
			v.Name,
		)
	}
	if err != nil {
		return err
	}
	return s.AddEvent(ctx, store.Event{
		Kind: store.ProviderOn, MemberID: m.MemberID, Email: m.Email, Address: address, Note: v.Name, At: p.desk.now(),
	})
}

// JoinByProvider uses an invitation for whom a provider vouches, without a password: for its address, and no other.
func (p People) JoinByProvider(ctx context.Context, secret, name, address string, v Vouched) (Actor, error) {
	k, err := p.Opened(ctx, secret)
	if err != nil {
		return Actor{}, err
	}
	if k.Kind != store.Invitation {
		return Actor{}, errLink
	}
	if !strings.EqualFold(k.Email, v.Email) {
		return Actor{}, fault.New(ErrBound, "The invitation is for %s. %s vouches for another address.", k.Email, v.Name)
	}
	m := store.Member{Email: k.Email, Role: k.Role, Name: strings.TrimSpace(name)}
	if m.Name == "" {
		m.Name = k.Link.Name
	}
	if k.Known {
		bound, err := store.MemberByIdentity(ctx, p.desk.all, v.Identity)
		if orNothing(err) != nil {
			return Actor{}, err
		}
		if !strings.EqualFold(bound.Email, k.Email) {
			return Actor{}, fault.New(ErrBound,
				"You have an account here already. Join with its password, and connect %s afterwards on the page Team.", v.Name)
		}
		m.AccountID = bound.AccountID
		return p.useLink(ctx, k.Link, m, address, nil)
	}
	return p.useLink(ctx, k.Link, m, address, func(s peopleStore, m store.Member) error {
		// Who left every team and comes back may have a second step still, which the provider would go round.
		if f, err := s.SecondFactor(ctx, m.AccountID); err == nil && f.Since != nil {
			return fault.New(
				ErrSecond,
				"Your sign-in has a second step. Join with a password, and connect %s afterwards.",
				v.Name,
			)
		} else if orNothing(err) != nil {
			return err
		}
		return p.connect(ctx, s, m, v, address)
	})
}

// Connect lets the actor sign in by a provider from now on.
func (p People) Connect(ctx context.Context, by Actor, v Vouched, address string) error {
	_, err := beside(ctx, p.desk, by, MayTalk, func(s peopleStore) (struct{}, error) {
		m, err := s.Member(ctx, by.MemberID)
		if err != nil {
			return struct{}{}, err
		}
		return struct{}{}, p.connect(ctx, s, m, v, address)
	})
	return err
}

// ConnectedView is whether somebody signs in by a provider.
type ConnectedView struct {
	Since    *time.Time `json:"since,omitempty" doc:"no time: not connected"`
	Password bool       `json:"password" doc:"there is a password too"`
}

// Connected tells whether the actor signs in by an issuer.
func (p People) Connected(ctx context.Context, by Actor, issuer string) (ConnectedView, error) {
	return read(ctx, p.desk, by, func(s peopleStore) (ConnectedView, error) {
		m, err := s.Member(ctx, by.MemberID)
		if err != nil {
			return ConnectedView{}, err
		}
		since, err := s.IdentitySince(ctx, by.MemberID, issuer)
		return ConnectedView{since, m.PasswordHash != ""}, err
	})
}

// Disconnect ends that the actor signs in by an issuer; whoever has no password keeps the way in.
func (p People) Disconnect(ctx context.Context, by Actor, issuer, name, address string) error {
	_, err := beside(ctx, p.desk, by, MayTalk, func(s peopleStore) (struct{}, error) {
		m, err := s.Member(ctx, by.MemberID)
		if err != nil {
			return struct{}{}, err
		}
		if m.PasswordHash == "" {
			return struct{}{}, wrong("", "You have no password yet: ask a lead for a link to choose one first.")
		}
		if err := s.DropIdentity(ctx, by.MemberID, issuer); err != nil {
			return struct{}{}, err
		}
		return struct{}{}, s.AddEvent(ctx, store.Event{
			Kind: store.ProviderOff, MemberID: m.MemberID, Email: m.Email, Address: address, Note: name, At: p.desk.now(),
		})
	})
	return err
}

// orNothing is nil for what was not found.
func orNothing(err error) error {
	if errors.Is(err, store.ErrNotFound) {
		return nil
	}
	return err
}
