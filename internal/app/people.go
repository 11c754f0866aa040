package app

import (
	"context"
	"errors"
	"net/mail"
	"strings"
	"sync"

	"github.com/alexedwards/argon2id"
	"github.com/jackc/pgx/v5"

	"brightchalk/internal/core/card"
	"brightchalk/internal/core/fault"
	"brightchalk/internal/core/phoneme"
	"brightchalk/internal/store"
)

type peopleStore interface {
	Members(ctx context.Context) ([]store.Member, error)
	CreateMember(ctx context.Context, m store.Member) (string, error)
}

// People signs members in and adds them.
type People struct {
	desk    desk[peopleStore]
	hashing *argon2id.Params
	turns   chan struct{}
	decoy   func() (string, error)
}

// dear is the second recommended option of RFC 9106 (memory 64 MiB, 3 passes) with fewer lanes for a machine of two
// cores.
var dear = &argon2id.Params{Memory: 64 * 1024, Iterations: 3, Parallelism: 2, SaltLength: 16, KeyLength: 32}

// hashesAtOnce bounds the memory: each takes 64 MiB.
const hashesAtOnce = 2

func newPeople(d desk[peopleStore], hashing *argon2id.Params) People {
	p := People{desk: d, hashing: hashing, turns: make(chan struct{}, hashesAtOnce)}
	p.decoy = sync.OnceValues(func() (string, error) { return p.hash(context.Background(), "no member has this") })
	return p
}

func (p People) inTurn(ctx context.Context, f func() error) error {
	select {
	case p.turns <- struct{}{}:
	case <-ctx.Done():
		return ctx.Err()
	}
	defer func() { <-p.turns }()
	return f()
}

// hash returns an argon2id hash in PHC form.
func (p People) hash(ctx context.Context, password string) (hash string, err error) {
	err = p.inTurn(ctx, func() error {
		hash, err = argon2id.CreateHash(password, p.hashing)
		return err
	})
	return hash, err
}

// SignIn checks an address and a password. The error is the same for an unknown address as for a wrong
// password, and takes as long.
func (p People) SignIn(ctx context.Context, email, password string) (Actor, error) {
	m, err := store.MemberByEmail(ctx, p.desk.pool, strings.TrimSpace(email))
	unknown := errors.Is(err, store.ErrNotFound)
	if err != nil && !unknown {
		return Actor{}, err
	}
	hash, err := p.decoy() // made at the first call, whoever that is
	if err != nil {
		return Actor{}, err
	}
	if !unknown {
		hash = m.PasswordHash
	}
	matches := false
	err = p.inTurn(ctx, func() error {
		matches, err = argon2id.ComparePasswordAndHash(password, hash)
		return err
	})
	if err != nil {
		return Actor{}, err
	}
	if !matches || unknown {
		return Actor{}, wrong("password", "The address and the password do not fit together.")
	}
	return actor(m), nil
}

func actor(m store.Member) Actor {
	return Actor{m.MemberID, m.TeamID, m.Name, m.Initials, Role(m.Role)}
}

// Who returns the member of a session; store.ErrNotFound where the account is gone.
func (p People) Who(ctx context.Context, memberID string) (Actor, error) {
	m, err := store.MemberByID(ctx, p.desk.pool, memberID)
	return actor(m), err
}

// NewTeam describes a team to be made with its first lead.
type NewTeam struct {
	Name, Email, LeadName, Password string
	Accent                          phoneme.Accent
}

// CreateTeam makes a team with its first lead and returns the team's id.
func (p People) CreateTeam(ctx context.Context, n NewTeam) (string, error) {
	if strings.TrimSpace(n.Name) == "" {
		return "", wrong("name", "The team needs a name.")
	}
	accent, err := phoneme.ParseAccent(string(n.Accent))
	if err != nil {
		return "", fault.At("accent", err)
	}
	lead, err := p.member(ctx, n.Email, n.LeadName, Lead, n.Password)
	if err != nil {
		return "", err
	}
	var teamID string
	err = pgx.BeginFunc(ctx, p.desk.pool, func(tx pgx.Tx) error {
		teamID, err = store.CreateTeam(ctx, tx, n.Name, card.Conventions{Accent: accent, Paper: "A4"})
		if err != nil {
			return err
		}
		s := store.For(tx, teamID)
		_, err = add(ctx, s, lead)
		return err
	})
	return teamID, err
}

// AddMember adds someone to a team in a transaction of the caller's and returns the id.
func (p People) AddMember(
	ctx context.Context,
	db store.DB,
	teamID, email, name string,
	role Role,
	password string,
) (string, error) {
	m, err := p.member(ctx, email, name, role, password)
	if err != nil {
		return "", err
	}
	return add(ctx, store.For(db, teamID), m)
}

// leastPassword is the shortest password in bytes.
const leastPassword = 12

// member checks what is known of somebody new and hashes the password.
func (p People) member(ctx context.Context, email, name string, role Role, password string) (store.Member, error) {
	address, err := mail.ParseAddress(email)
	switch {
	case err != nil:
		return store.Member{}, wrong("email", "%q is not an e-mail address.", email)
	case len(password) < leastPassword:
		return store.Member{}, wrong("password", "The password needs %d signs or more.", leastPassword)
	case strings.TrimSpace(name) == "":
		return store.Member{}, wrong("name", "A name is needed.")
	case rights[role] == nil:
		return store.Member{}, wrong("role", "The role is lead, teacher or assistant.")
	}
	initials := ""
	for part := range strings.FieldsSeq(name) {
		initials += strings.ToUpper(string([]rune(part)[:1]))
	}
	hash, err := p.hash(ctx, password)
	return store.Member{
		Email: address.Address, Name: name, Initials: initials, Role: string(role), PasswordHash: hash,
	}, err
}

func add(ctx context.Context, s peopleStore, m store.Member) (string, error) {
	id, err := s.CreateMember(ctx, m)
	if errors.Is(err, store.ErrTaken) {
		return "", wrong("email", "%s has an account already.", m.Email)
	}
	return id, err
}

// Person is a member as the team sees one.
type Person struct {
	Name  string `json:"name"`
	Email string `json:"email"`
	Role  Role   `json:"role" enum:"lead,teacher,assistant"`
}

// Members lists the actor's team.
func (p People) Members(ctx context.Context, by Actor) ([]Person, error) {
	return read(ctx, p.desk, by, func(s peopleStore) ([]Person, error) {
		rows, err := s.Members(ctx)
		out := []Person{}
		for _, m := range rows {
			out = append(out, Person{m.Name, m.Email, Role(m.Role)})
		}
		return out, err
	})
}

// Invite adds a member; only a lead may.
func (p People) Invite(ctx context.Context, by Actor, email, name string, role Role, password string) error {
	if err := by.need(MayAgree); err != nil {
		return err
	}
	m, err := p.member(ctx, email, name, role, password)
	if err != nil {
		return err
	}
	return change(ctx, p.desk, by, MayAgree, func(s peopleStore) error {
		_, err := add(ctx, s, m)
		return err
	})
}

// DemoSignIn is shown on the sign-in page of a demo.
type DemoSignIn struct {
	Email    string `json:"email"`
	Password string `json:"password"`
	Role     string `json:"role" enum:"lead,teacher,assistant"`
}
