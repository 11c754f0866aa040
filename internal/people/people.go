// Package people holds accounts, memberships, invitations, sign-in with its second step and its provider, sessions and
// mails:
//
//	actor, err := app.Accounts.SignIn(ctx, people.Attempt{Email: email, Password: password})
package people

import (
	"context"
	"errors"
	"net/mail"
	"slices"
	"strings"

	"github.com/jackc/pgx/v5"
	"golang.org/x/text/unicode/norm"

	"brightchalk/internal/core/accord"
	"brightchalk/internal/core/convention"
	"brightchalk/internal/core/fault"
	"brightchalk/internal/core/phoneme"
	"brightchalk/internal/store"
	"brightchalk/internal/tx"
)

// NewTeam describes a team to be made with its first lead. Somebody who has an account keeps its password.
type NewTeam struct {
	Name, Email, LeadName, Password string
	Accent                          phoneme.Accent
}

// CreateTeam makes a team with its first lead and returns the team's id.
func (p Accounts) CreateTeam(ctx context.Context, n NewTeam) (string, error) {
	if strings.TrimSpace(n.Name) == "" {
		return "", fault.In("name", "The team needs a name.")
	}
	accent, err := phoneme.ParseAccent(string(n.Accent))
	if err != nil {
		return "", fault.At("accent", err)
	}
	var lead store.Member
	known, err := store.AccountByEmail(ctx, p.Env.AllTeams(), strings.TrimSpace(n.Email))
	switch {
	case err == nil && strings.TrimSpace(n.LeadName) == "":
		return "", fault.In("name", "A name is needed.")
	case err == nil:
		lead = store.Member{
			AccountID: known.AccountID, Email: known.Email, Name: strings.TrimSpace(n.LeadName), Role: string(tx.Lead),
		}
	case errors.Is(err, store.ErrNotFound):
		lead, err = p.member(ctx, n.Email, n.LeadName, tx.Lead, n.Password)
	}
	if err != nil {
		return "", err
	}
	var teamID string
	err = p.Env.AllTeams().Begin(ctx, func(tx pgx.Tx) error {
		teamID, err = store.CreateTeam(ctx, tx, n.Name, convention.Conventions{Accent: accent, Paper: "A4"})
		if err != nil {
			return err
		}
		_, err = p.add(ctx, store.For(tx, teamID), lead, "")
		return err
	})
	return teamID, err
}

// AddMember adds someone to a team in a transaction of the caller's and returns the id.
func (p Accounts) AddMember(
	ctx context.Context,
	db store.DB,
	teamID, email, name string,
	role tx.Role,
	password string,
) (string, error) {
	m, err := p.member(ctx, email, name, role, password)
	if err != nil {
		return "", err
	}
	return p.add(ctx, store.For(db, teamID), m, "")
}

// minPassword is the shortest password in bytes.
const minPassword = 12

// passwordFault says why a password is not taken, nil where it is.
func passwordFault(field, password, email string) error {
	if len(password) < minPassword {
		return fault.In(field, "The password needs %d signs or more.", minPassword)
	}
	if strings.EqualFold(password, email) {
		return fault.In(field, "The password is the address itself. Choose one that nobody guesses.")
	}
	return nil
}

// readAddress reads a mail address that was typed. Wide letters, ligatures and the like become the plain letters that
// they stand for (NFKC of Unicode Standard Annex 15). Letters of another script that look alike stay what they are.
func readAddress(text string) (string, error) {
	a, err := mail.ParseAddress(norm.NFKC.String(text))
	if err != nil {
		return "", err
	}
	return a.Address, nil
}

// member checks what is known of somebody new and hashes the password.
func (p Accounts) member(ctx context.Context, email, name string, role tx.Role, password string) (store.Member, error) {
	address, err := readAddress(email)
	switch {
	case err != nil:
		return store.Member{}, fault.In("email", "%q is not an e-mail address.", email)
	case passwordFault("password", password, address) != nil:
		return store.Member{}, passwordFault("password", password, address)
	case strings.TrimSpace(name) == "":
		return store.Member{}, fault.In("name", "A name is needed.")
	case !role.Valid():
		return store.Member{}, fault.In("role", "The role is lead, teacher or assistant.")
	}
	hash, err := p.hash(ctx, password)
	return store.Member{
		Email: address, Name: strings.TrimSpace(name), Role: string(role), PasswordHash: hash,
	}, err
}

// add stores somebody new; by is empty where no member did it.
func (p Accounts) add(ctx context.Context, s store.Library, m store.Member, by string) (string, error) {
	others, err := s.Members(ctx)
	if err != nil {
		return "", err
	}
	var taken []string
	for _, o := range others {
		taken = append(taken, o.Initials)
	}
	m.Initials = accord.Initials(m.Name, taken)
	id, err := s.CreateMember(ctx, m)
	switch {
	case errors.Is(err, store.ErrTaken) && m.AccountID == "":
		return "", fault.In("email", "%s has an account already. Invite by a link: it lets them join with it.", m.Email)
	case errors.Is(err, store.ErrTaken):
		return "", fault.In("email", "%s is in this team already.", m.Email)
	}
	if err != nil {
		return "", err
	}
	return id, s.AddEvent(ctx, store.Event{Kind: store.Added, MemberID: id, By: by, Note: m.Role, At: p.Env.Now()})
}

// Person is a member as the team sees one.
type Person struct {
	MemberID string  `json:"member_id" format:"uuid"`
	Name     string  `json:"name"`
	Email    string  `json:"email"`
	Role     tx.Role `json:"role" enum:"lead,teacher,assistant"`
	Paused   bool    `json:"paused" doc:"cannot sign in"`
	Second   bool    `json:"second" doc:"a code is asked for at each sign-in"`
}

// Members lists the actor's team.
func (p Accounts) Members(ctx context.Context, by tx.Actor) ([]Person, error) {
	return tx.Read(ctx, p.Env, by, func(s store.Library) ([]Person, error) {
		rows, err := s.Members(ctx)
		if err != nil {
			return nil, err
		}
		second, err := s.WithSecondFactor(ctx)
		out := []Person{}
		for _, m := range rows {
			out = append(
				out,
				Person{
					m.MemberID,
					m.Name,
					m.Email,
					tx.Role(m.Role),
					m.PausedAt != nil,
					slices.Contains(second, m.MemberID),
				},
			)
		}
		return out, err
	})
}

// Invite adds a member; only a lead may.
func (p Accounts) Invite(ctx context.Context, by tx.Actor, email, name string, role tx.Role, password string) error {
	if err := by.Need(tx.MayAgree); err != nil {
		return err
	}
	m, err := p.member(ctx, email, name, role, password)
	if err != nil {
		return err
	}
	return tx.Exec(ctx, p.Env, by, tx.MayAgree, func(s store.Library) error {
		_, err := p.add(ctx, s, m, by.MemberID)
		return err
	})
}

// DemoSignIn is shown on the sign-in page of a demo.
type DemoSignIn struct {
	Email    string `json:"email"`
	Password string `json:"password"`
	Role     string `json:"role" enum:"lead,teacher,assistant"`
}
