package app

import (
	"brightchalk/internal/core/card"
	"brightchalk/internal/core/lesson"
	"brightchalk/internal/core/phoneme"
	"brightchalk/internal/store"
	"context"
	"crypto/rand"
	"crypto/subtle"
	"encoding/base64"
	"errors"
	"fmt"
	"net/mail"
	"strings"
	"sync"

	"github.com/jackc/pgx/v5"
	"golang.org/x/crypto/argon2"
)

// Parameters of argon2id, the second recommended option of RFC 9106 (memory 64 MiB, 3 passes) with fewer
// lanes for a machine of two cores.
const (
	argonMemory = 64 * 1024
	argonPasses = 3
	argonLanes  = 2
)

// HashPassword returns an argon2id hash in PHC form.
func HashPassword(password string) string {
	salt := make([]byte, 16)
	_, _ = rand.Read(salt)
	key := argon2.IDKey([]byte(password), salt, argonPasses, argonMemory, argonLanes, 32)
	enc := base64.RawStdEncoding
	return fmt.Sprintf(
		"$argon2id$v=%d$m=%d,t=%d,p=%d$%s$%s",
		argon2.Version,
		argonMemory,
		argonPasses,
		argonLanes,
		enc.EncodeToString(salt),
		enc.EncodeToString(key),
	)
}

func passwordMatches(password, hash string) bool {
	parts := strings.Split(hash, "$")
	if len(parts) != 6 || parts[1] != "argon2id" {
		return false
	}
	var memory, passes uint32
	var lanes uint8
	if _, err := fmt.Sscanf(parts[3], "m=%d,t=%d,p=%d", &memory, &passes, &lanes); err != nil {
		return false
	}
	salt, err1 := base64.RawStdEncoding.DecodeString(parts[4])
	key, err2 := base64.RawStdEncoding.DecodeString(parts[5])
	if err1 != nil || err2 != nil {
		return false
	}
	return subtle.ConstantTimeCompare(
		key,
		argon2.IDKey([]byte(password), salt, passes, memory, lanes, uint32(len(key))),
	) == 1
}

var decoy = sync.OnceValue(func() string { return HashPassword("no member has this") })

// At most two hashes are computed at once: each takes 64 MiB.
var hashing = make(chan struct{}, 2)

// SignIn checks an address and a password. The error is the same for an unknown address as for a wrong
// password, and takes as long.
func (a *App) SignIn(ctx context.Context, email, password string) (Actor, error) {
	m, err := store.MemberByEmail(ctx, a.Pool, strings.TrimSpace(email))
	if err != nil && !errors.Is(err, store.ErrNotFound) {
		return Actor{}, err
	}
	hash := decoy() // made at the first call, whoever that is
	if err == nil {
		hash = m.PasswordHash
	}
	select {
	case hashing <- struct{}{}:
	case <-ctx.Done():
		return Actor{}, ctx.Err()
	}
	matches := passwordMatches(password, hash)
	<-hashing
	if !matches || err != nil {
		return Actor{}, wrong("password", "The address and the password do not fit together.")
	}
	return actor(m), nil
}

func actor(m store.Member) Actor {
	return Actor{m.MemberID, m.TeamID, m.Name, m.Initials, Role(m.Role)}
}

// Who returns the member of a session; store.ErrNotFound where the account is gone.
func (a *App) Who(ctx context.Context, memberID string) (Actor, error) {
	m, err := store.GetMember(ctx, a.Pool, memberID)
	return actor(m), err
}

// NewTeam describes a team to be made with its first lead.
type NewTeam struct {
	Name, Email, LeadName, Password string
	Accent                          phoneme.Accent
}

// CreateTeam makes a team with its first lead and returns the team's id.
func (a *App) CreateTeam(ctx context.Context, n NewTeam) (string, error) {
	if strings.TrimSpace(n.Name) == "" {
		return "", wrong("name", "The team needs a name.")
	}
	accent, err := phoneme.ParseAccent(string(n.Accent))
	if err != nil {
		return "", wrong("accent", "%s.", capital(err.Error()))
	}
	var teamID string
	err = a.tx(ctx, func(tx pgx.Tx) error {
		teamID, err = store.CreateTeam(ctx, tx, n.Name, card.Conventions{Accent: accent, Paper: "A4"})
		if err != nil {
			return err
		}
		if err := store.PutRoutine(ctx, tx, teamID, lesson.DefaultRoutine()); err != nil {
			return err
		}
		_, err = AddMember(ctx, tx, teamID, n.Email, n.LeadName, Lead, n.Password)
		return err
	})
	return teamID, err
}

// AddMember adds someone to a team and returns the id.
func AddMember(
	ctx context.Context,
	db store.DB,
	teamID, email, name string,
	role Role,
	password string,
) (string, error) {
	address, err := mail.ParseAddress(email)
	switch {
	case err != nil:
		return "", wrong("email", "%q is not an e-mail address.", email)
	case len(password) < 12:
		return "", wrong("password", "The password needs 12 signs or more.")
	case strings.TrimSpace(name) == "":
		return "", wrong("name", "A name is needed.")
	case rights[role] == nil:
		return "", wrong("role", "The role is lead, teacher or assistant.")
	}
	initials := ""
	for _, part := range strings.Fields(name) {
		initials += strings.ToUpper(string([]rune(part)[:1]))
	}
	id, err := store.CreateMember(
		ctx,
		db,
		store.Member{
			TeamID:       teamID,
			Email:        address.Address,
			Name:         name,
			Initials:     initials,
			Role:         string(role),
			PasswordHash: HashPassword(password),
		},
	)
	if errors.Is(err, store.ErrTaken) {
		return "", wrong("email", "%s has an account already.", address.Address)
	}
	return id, err
}

// Members lists the actor's team.
func (a *App) Members(ctx context.Context, by Actor) ([]store.Member, error) {
	return store.Members(ctx, a.Pool, by.TeamID)
}

// Invite adds a member; only a lead may.
func (a *App) Invite(ctx context.Context, by Actor, email, name string, role Role, password string) error {
	if err := by.need(MayAgree); err != nil {
		return err
	}
	_, err := AddMember(ctx, a.Pool, by.TeamID, email, name, role, password)
	return err
}
