package people

import (
	"context"
	"errors"
	"strings"
	"time"

	"github.com/jackc/pgx/v5"

	"brightchalk/internal/core/fault"
	"brightchalk/internal/store"
	"brightchalk/internal/tx"
)

// ProviderIdentity is somebody for whom a provider of sign-ins vouches. Email is empty where the provider did not
// verify it.
type ProviderIdentity struct {
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
func (p Accounts) ByProvider(ctx context.Context, v ProviderIdentity, address string) (tx.Actor, error) {
	m, err := store.MemberByIdentity(ctx, p.Env.AllTeams(), v.Identity)
	if errors.Is(err, store.ErrNotFound) && v.Email != "" {
		m, err = p.firstTime(ctx, v, address)
	}
	if errors.Is(err, store.ErrNotFound) {
		return tx.Actor{}, fault.New(ErrNobody,
			"%s knows you, but no team here does. Ask the lead of your team for an invitation.", v.Name)
	}
	if err != nil {
		return tx.Actor{}, err
	}
	if m.PausedAt != nil {
		return tx.Actor{}, errPaused
	}
	return tx.ActorOf(m), store.AddEvent(ctx, p.Env.AllTeams(), store.Event{
		Kind: store.SignedIn, TeamID: m.TeamID, MemberID: m.MemberID, Email: m.Email, Address: address,
		Note: "by " + v.Name, At: p.Env.Now(),
	})
}

// firstTime connects the account of a verified address.
func (p Accounts) firstTime(ctx context.Context, v ProviderIdentity, address string) (store.Member, error) {
	m, err := store.MemberByEmail(ctx, p.Env.AllTeams(), v.Email)
	if err != nil {
		return m, err
	}
	f, err := store.For(p.Env.AllTeams(), "").SecondFactor(ctx, m.AccountID)
	if err == nil && f.Since != nil {
		return m, fault.New(
			ErrSecond,
			"Your sign-in has a second step. Come in with your password once, and connect %s on the page Team.",
			v.Name,
		)
	}
	if err != nil && !errors.Is(err, store.ErrNotFound) {
		return m, err
	}
	return m, p.Env.AllTeams().Begin(ctx, func(tx pgx.Tx) error {
		return p.connect(ctx, store.For(tx, m.TeamID), m, v, address)
	})
}

func (p Accounts) connect(
	ctx context.Context,
	s store.Library,
	m store.Member,
	v ProviderIdentity,
	address string,
) error {
	err := s.AddIdentity(ctx, v.Identity, m.AccountID, p.Env.Now())
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
		Kind: store.ProviderOn, MemberID: m.MemberID, Email: m.Email, Address: address, Note: v.Name, At: p.Env.Now(),
	})
}

// JoinByProvider uses an invitation for whom a provider vouches, without a password: for its address, and no other.
func (p Accounts) JoinByProvider(
	ctx context.Context,
	secret, name, address string,
	v ProviderIdentity,
) (tx.Actor, error) {
	k, err := p.Opened(ctx, secret)
	if err != nil {
		return tx.Actor{}, err
	}
	if k.Kind != store.Invitation {
		return tx.Actor{}, errLink
	}
	if !strings.EqualFold(k.Email, v.Email) {
		return tx.Actor{}, fault.New(
			ErrBound,
			"The invitation is for %s. %s vouches for another address.",
			k.Email,
			v.Name,
		)
	}
	m := store.Member{Email: k.Email, Role: k.Role, Name: strings.TrimSpace(name)}
	if m.Name == "" {
		m.Name = k.Link.Name
	}
	if k.Known {
		bound, err := store.MemberByIdentity(ctx, p.Env.AllTeams(), v.Identity)
		if orNothing(err) != nil {
			return tx.Actor{}, err
		}
		if !strings.EqualFold(bound.Email, k.Email) {
			return tx.Actor{}, fault.New(
				ErrBound,
				"You have an account here already. Join with its password, and connect %s afterwards on the page Team.",
				v.Name,
			)
		}
		m.AccountID = bound.AccountID
		return p.useLink(ctx, k.Link, m, address, nil)
	}
	return p.useLink(ctx, k.Link, m, address, func(s store.Library, m store.Member) error {
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
func (p Accounts) Connect(ctx context.Context, by tx.Actor, v ProviderIdentity, address string) error {
	_, err := tx.WriteUnlocked(ctx, p.Env, by, tx.MayTalk, func(s store.Library) (struct{}, error) {
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
func (p Accounts) Connected(ctx context.Context, by tx.Actor, issuer string) (ConnectedView, error) {
	return tx.Read(ctx, p.Env, by, func(s store.Library) (ConnectedView, error) {
		m, err := s.Member(ctx, by.MemberID)
		if err != nil {
			return ConnectedView{}, err
		}
		since, err := s.IdentitySince(ctx, by.MemberID, issuer)
		return ConnectedView{since, m.PasswordHash != ""}, err
	})
}

// Disconnect ends that the actor signs in by an issuer; whoever has no password keeps the way in.
func (p Accounts) Disconnect(ctx context.Context, by tx.Actor, issuer, name, address string) error {
	_, err := tx.WriteUnlocked(ctx, p.Env, by, tx.MayTalk, func(s store.Library) (struct{}, error) {
		m, err := s.Member(ctx, by.MemberID)
		if err != nil {
			return struct{}{}, err
		}
		if m.PasswordHash == "" {
			return struct{}{}, fault.In("", "You have no password yet: ask a lead for a link to choose one first.")
		}
		if err := s.DropIdentity(ctx, by.MemberID, issuer); err != nil {
			return struct{}{}, err
		}
		return struct{}{}, s.AddEvent(ctx, store.Event{
			Kind: store.ProviderOff, MemberID: m.MemberID, Email: m.Email, Address: address, Note: name, At: p.Env.Now(),
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
