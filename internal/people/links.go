package people

import (
	"context"
	"crypto/rand"
	"crypto/sha256"
	"errors"
	"slices"
	"strings"
	"time"

	"brightchalk/internal/core/fault"
	"brightchalk/internal/store"
	"brightchalk/internal/tx"
)

// LinkGood is for how long a link lets somebody in.
const LinkGood = 7 * 24 * time.Hour

// ErrLink is the code of a link that is wrong, too old, or was used.
const ErrLink fault.Code = "link"

var errLink = fault.New(ErrLink, "This link is wrong, too old, or was used. Ask the lead of your team for a new one.")

// NewLink is a link that was just made; its secret is shown once.
type NewLink struct {
	Path      string    `json:"path" doc:"of the page, with the secret behind #, so that it reaches no log"`
	GoodUntil time.Time `json:"good_until"`
}

// Invitation is what an invitation says of somebody.
type Invitation struct {
	Name  string  `json:"name" maxLength:"100"`
	Email string  `json:"email" maxLength:"200"`
	Role  tx.Role `json:"role" enum:"lead,teacher,assistant"`
}

// Ask makes a link by which somebody joins the team; only a lead may.
func (p Accounts) Ask(ctx context.Context, by tx.Actor, a Invitation) (NewLink, error) {
	address, err := readAddress(a.Email)
	switch {
	case err != nil:
		return NewLink{}, fault.In("email", "%q is not an e-mail address.", a.Email)
	case strings.TrimSpace(a.Name) == "":
		return NewLink{}, fault.In("name", "A name is needed.")
	case !a.Role.Valid():
		return NewLink{}, fault.In("role", "The role is lead, teacher or assistant.")
	}
	k := store.Link{
		Kind: store.Invitation, Email: address, Name: strings.TrimSpace(a.Name), Role: string(a.Role),
	}
	return tx.Write(ctx, p.Env, by, tx.MayAgree, func(s store.Library) (NewLink, error) {
		team, err := s.Members(ctx)
		if err != nil {
			return NewLink{}, err
		}
		if slices.ContainsFunc(team, func(m store.Member) bool { return strings.EqualFold(m.Email, k.Email) }) {
			return NewLink{}, fault.In("email", "%s is in this team already.", k.Email)
		}
		made, err := p.link(ctx, s, by, k)
		if err != nil {
			return made, err
		}
		return made, s.AddEvent(ctx, store.Event{
			Kind: store.Invited, By: by.MemberID, Note: k.Name + ", " + k.Role, At: p.Env.Now(),
		})
	})
}

func (p Accounts) link(ctx context.Context, s store.Library, by tx.Actor, k store.Link) (NewLink, error) {
	secret := rand.Text()
	sum := sha256.Sum256([]byte(secret))
	k.MadeAt = p.Env.Now()
	k.GoodUntil = k.MadeAt.Add(LinkGood)
	_, err := s.AddLink(ctx, k, sum[:], by.MemberID)
	return NewLink{"/welcome#" + secret, k.GoodUntil}, err
}

// ResetLink makes a link by which a member chooses a new password; links made before end. Only a lead may.
func (p Accounts) ResetLink(ctx context.Context, by tx.Actor, memberID string) (NewLink, error) {
	return tx.Write(ctx, p.Env, by, tx.MayAgree, func(s store.Library) (NewLink, error) {
		m, err := s.Member(ctx, memberID)
		if err != nil {
			return NewLink{}, err
		}
		if err := p.onlyHere(ctx, by, m); err != nil {
			return NewLink{}, err
		}
		if err := s.EndMemberLinks(ctx, memberID, p.Env.Now()); err != nil {
			return NewLink{}, err
		}
		made, err := p.link(ctx, s, by, store.Link{
			Kind: store.Reset, Email: m.Email, Name: m.Name, Role: m.Role, MemberID: m.MemberID,
		})
		if err != nil {
			return made, err
		}
		return made, s.AddEvent(ctx, p.event(store.Invited, m, by, "to choose a new password"))
	})
}

// Links lists the links that still let somebody in, without their secrets; only a lead may see them.
func (p Accounts) Links(ctx context.Context, by tx.Actor) ([]store.Link, error) {
	if err := by.Need(tx.MayAgree); err != nil {
		return nil, err
	}
	return tx.Read(ctx, p.Env, by, func(s store.Library) ([]store.Link, error) { return s.Links(ctx, p.Env.Now()) })
}

// EndLink takes a link back.
func (p Accounts) EndLink(ctx context.Context, by tx.Actor, id string) error {
	return tx.Exec(ctx, p.Env, by, tx.MayAgree, func(s store.Library) error {
		if err := s.EndLink(ctx, id, p.Env.Now()); err != nil {
			return err
		}
		return s.AddEvent(ctx, store.Event{Kind: store.LinkEnded, By: by.MemberID, At: p.Env.Now()})
	})
}

// LinkView is whom a link lets in. Known is somebody who works in another team, and joins with the password of there.
type LinkView struct {
	store.Link
	Known bool `json:"known" doc:"works in another team, and joins with the password of there"`
}

// Opened tells whom a link lets in.
func (p Accounts) Opened(ctx context.Context, secret string) (LinkView, error) {
	sum := sha256.Sum256([]byte(secret))
	k, err := store.LinkBySecret(ctx, p.Env.AllTeams(), sum[:], p.Env.Now())
	if errors.Is(err, store.ErrNotFound) {
		return LinkView{}, errLink
	}
	if err != nil {
		return LinkView{}, err
	}
	_, err = store.MemberByEmail(ctx, p.Env.AllTeams(), k.Email)
	return LinkView{k, err == nil && k.Kind == store.Invitation}, orNothing(err)
}

// Entering is what somebody says who uses a link: a name where somebody joins, a password to have from now on or, for
// a person with an account, that of the account, with the code where one is wanted.
type Entering struct{ Secret, Name, Password, Code, Address string }

// Entered is whom a link let in. In is false for somebody who has a second step, and whom a new password alone does not
// let in.
type Entered struct {
	tx.Actor
	In bool
}

// Enter uses a link: somebody joins under a name, or a member gets the password.
func (p Accounts) Enter(ctx context.Context, e Entering) (Entered, error) {
	k, err := p.Opened(ctx, e.Secret)
	if err != nil {
		return Entered{}, err
	}
	who, err := p.enter(ctx, k, e)
	if err != nil || k.Known {
		return Entered{who, err == nil}, err
	}
	second, err := p.Second(ctx, who)
	return Entered{who, err == nil && !second.On}, err
}

func (p Accounts) enter(ctx context.Context, k LinkView, e Entering) (tx.Actor, error) {
	m := store.Member{Email: k.Email, Role: k.Role, MemberID: k.MemberID, Name: strings.TrimSpace(e.Name)}
	var err error
	if k.Kind == store.Invitation && m.Name == "" {
		return tx.Actor{}, fault.In("name", "A name is needed.")
	}
	if k.Known {
		m.AccountID, err = p.proved(ctx, SignInAttempt{
			Email: k.Email, Password: e.Password, Address: e.Address, Code: e.Code,
		})
	} else if err = passwordFault("password", e.Password, k.Email); err == nil {
		m.PasswordHash, err = p.hash(ctx, e.Password)
	}
	if err != nil {
		return tx.Actor{}, err
	}
	return p.useLink(ctx, k.Link, m, e.Address, nil)
}

// proved is the account of an address, after its password and its code.
func (p Accounts) proved(ctx context.Context, a SignInAttempt) (string, error) {
	m, err := store.MemberByEmail(ctx, p.Env.AllTeams(), a.Email)
	if err != nil {
		return "", err
	}
	return m.AccountID, p.compare(ctx, m, a, func() error { return p.second(ctx, m.AccountID, a.Code) })
}

// useLink ends a link and does what it is for; joined is asked in the same transaction, and may be nil.
func (p Accounts) useLink(
	ctx context.Context,
	k store.Link,
	m store.Member,
	address string,
	joined func(s store.Library, m store.Member) error,
) (tx.Actor, error) {
	by := tx.Actor{TeamID: k.TeamID, MemberID: k.MemberID}
	return tx.WriteSelf(ctx, p.Env, by, func(s store.Library) (tx.Actor, error) {
		if err := p.stillOnlyHere(ctx, s, k); err != nil {
			return tx.Actor{}, err
		}
		err := s.EndLink(ctx, k.LinkID, p.Env.Now())
		if errors.Is(err, store.ErrNotFound) {
			return tx.Actor{}, errLink // somebody was faster
		} else if err != nil {
			return tx.Actor{}, err
		}
		if k.Kind == store.Invitation {
			if m.MemberID, err = p.add(ctx, s, m, ""); err != nil {
				return tx.Actor{}, err
			}
		} else if err := p.renew(ctx, s, m, address); err != nil {
			return tx.Actor{}, err
		}
		now, err := s.Member(ctx, m.MemberID)
		if err == nil && now.PausedAt != nil {
			return tx.Actor{}, errPaused
		}
		if err == nil && joined != nil {
			err = joined(s, now)
		}
		return tx.ActorOf(now), err
	})
}

// stillOnlyHere refuses a link by which a lead of one team would choose the password of somebody who works in another
// one by now. Joining ends such links; this is asked again for a link that is used at the same moment.
func (p Accounts) stillOnlyHere(ctx context.Context, s store.Library, k store.Link) error {
	if k.Kind != store.Reset || k.MadeBy == "" { // by the command line of the server
		return nil
	}
	m, err := s.Member(ctx, k.MemberID)
	if err != nil {
		return err
	}
	elsewhere, err := p.worksElsewhere(ctx, m)
	if err == nil && elsewhere {
		err = errLink
	}
	return err
}

func (p Accounts) renew(ctx context.Context, s store.Library, m store.Member, address string) error {
	if err := s.SetPassword(ctx, m.MemberID, m.PasswordHash); err != nil {
		return err
	}
	return s.AddEvent(ctx, store.Event{
		Kind: store.PasswordReset, MemberID: m.MemberID, Email: m.Email, Address: address, Note: "by a link",
		At: p.Env.Now(),
	})
}

// ErrPaused is the code of a sign-in to an account that is paused.
const ErrPaused fault.Code = "paused"

var errPaused = fault.New(ErrPaused, "This account is paused. Ask the lead of your team.")

// Pause keeps a member from signing in until it is taken back; the sessions end at once. Only a lead may, and a team
// keeps one lead.
func (p Accounts) Pause(ctx context.Context, by tx.Actor, memberID string, paused bool) error {
	return tx.Exec(ctx, p.Env, by, tx.MayAgree, func(s store.Library) error {
		m, err := s.Member(ctx, memberID)
		if err != nil || paused == (m.PausedAt != nil) {
			return err
		}
		kind := store.Resumed
		if paused {
			kind = store.Paused
			if err := otherLead(ctx, s, m); err != nil {
				return err
			}
		}
		if err := s.PauseMember(ctx, memberID, p.Env.NowIf(paused)); err != nil {
			return err
		}
		return s.AddEvent(ctx, p.event(kind, m, by, ""))
	})
}

// EndSessions ends all sessions of the actor and returns the actor in the new epoch.
func (p Accounts) EndSessions(ctx context.Context, by tx.Actor, address string) (tx.Actor, error) {
	return tx.WriteSelf(ctx, p.Env, by, func(s store.Library) (tx.Actor, error) {
		if err := s.EndSessions(ctx, by.MemberID); err != nil {
			return by, err
		}
		m, err := s.Member(ctx, by.MemberID)
		if err != nil {
			return by, err
		}
		return tx.ActorOf(m), s.AddEvent(ctx, p.event(store.SessionsEnded, m, by, address))
	})
}

// Sessions are those of the actor, as the web keeps them.
func (p Accounts) Sessions(ctx context.Context, by tx.Actor) ([]store.KeptSession, error) {
	return store.Sessions(ctx, p.Env.AllTeams(), by.MemberID, p.Env.Now())
}

// EndSession ends one of the actor's sessions.
func (p Accounts) EndSession(ctx context.Context, by tx.Actor, id string) error {
	if err := store.DropSession(ctx, p.Env.AllTeams(), by.MemberID, id, p.Env.Now()); err != nil {
		return err
	}
	return store.TellSignOut(ctx, p.Env.AllTeams(), by.TeamID, by.MemberID)
}
