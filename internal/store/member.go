package store

import (
	"context"
	"crypto/sha256"
	"errors"
	"fmt"
	"strings"
	"time"
)

// Member is what a person is in one team, with the person's account; PasswordHash is an argon2id hash in PHC form,
// empty where the person has no password. A session that was begun in another epoch has ended.
type Member struct {
	MemberID, TeamID, AccountID, Email, Name, Initials, Role string
	Epoch                                                    int
	PausedAt                                                 *time.Time
	PasswordHash                                             string
}

// Seen is a member as a session needs one, with the revision of the team's library.
type Seen struct {
	MemberID, TeamID, AccountID, Email, Name, Initials, Role string
	Epoch                                                    int
	PausedAt                                                 *time.Time
	Revision                                                 int64
	At                                                       string // in the log of changes, where it was asked
}

// EventKind is what happened to an account.
type EventKind string

// Kinds of events.
const (
	SignedIn        EventKind = "signed-in"
	SignInFailed    EventKind = "sign-in-failed"
	SignedOut       EventKind = "signed-out"
	Added           EventKind = "added"
	PasswordChanged EventKind = "password-changed"
	PasswordReset   EventKind = "password-reset"
	RoleChanged     EventKind = "role-changed"
	Removed         EventKind = "removed"
	Invited         EventKind = "invited"
	LinkEnded       EventKind = "link-ended"
	Paused          EventKind = "paused"
	Resumed         EventKind = "resumed"
	SessionsEnded   EventKind = "sessions-ended"
	SecondOn        EventKind = "second-on"
	SecondOff       EventKind = "second-off"
	ProviderOn      EventKind = "provider-on"
	ProviderOff     EventKind = "provider-off"
)

// Event is something that happened to an account. TeamID, MemberID and By may be empty: nobody known, or the operator.
type Event struct {
	Kind                 EventKind
	TeamID, MemberID, By string
	Email                string // as it was typed; only its hash is kept
	Address              string // of the network
	Note                 string
	At                   time.Time
}

// EventRow is an event with names.
type EventRow struct {
	Kind       EventKind `json:"kind" enum:"signed-in,sign-in-failed,signed-out,added,password-changed,password-reset,role-changed,removed,desk-joined,desk-refused,invited,link-ended,paused,resumed,sessions-ended,second-on,second-off,provider-on,provider-off"`
	Member     string    `json:"member" doc:"whose account"`
	By         string    `json:"by" doc:"who did it, empty for the account itself or the operator"`
	Address    string    `json:"address" doc:"of the network"`
	Note       string    `json:"note"`
	HappenedAt time.Time `json:"happened_at"`
}

// Failures are the failed sign-ins since a time.
type Failures struct {
	Account int // of the account: from the address, where it has signed in from there before, else from all others
	Address int // from the address, whatever the account
	First   time.Time
}

var (
	memberCreate   = value[string]("member_create")
	memberByEmail  = query[Member]("member_by_email")
	memberGet      = query[Member]("member_get")
	memberSeen     = query[Seen]("member_seen")
	memberList     = query[Member]("member_list")
	memberPassword = value[int64]("member_password")
	memberRole     = change("member_role")
	memberRemove   = change("member_remove")
	eventAdd       = change("event_add")
	eventList      = query[EventRow]("event_list")
	eventForget    = change("event_forget")
	failuresCount  = query[Failures]("failures_count")
	signOutTell    = value[int]("sign_out_tell")
)

// MemberByEmail finds an active member of any team by address, whatever its capitals.
func MemberByEmail(ctx context.Context, db DB, email string) (Member, error) {
	return memberByEmail.one(ctx, db, args{"email": email})
}

// MemberSeen finds an active member of any team.
func MemberSeen(ctx context.Context, db DB, memberID string) (Seen, error) {
	return memberSeen.one(ctx, db, args{"member_id": memberID})
}

// accountKey stands for a typed address without keeping it.
func accountKey(email string) []byte {
	if email = strings.ToLower(strings.TrimSpace(email)); email == "" {
		return nil
	}
	sum := sha256.Sum256([]byte(email))
	return sum[:]
}

// AddEvent notes what happened to an account.
func AddEvent(ctx context.Context, db DB, e Event) error {
	return eventAdd.run(ctx, db, args{
		"team_id": nullable(e.TeamID), "member_id": nullable(e.MemberID), "by": nullable(e.By), "kind": e.Kind,
		"account": accountKey(e.Email), "address": e.Address, "note": e.Note, "now": e.At,
	})
}

// ForgetEvents drops those before a time.
func ForgetEvents(ctx context.Context, db DB, before time.Time) error {
	_, _, err := eventForget.count(ctx, db, args{"before": before})
	return err
}

// FailuresSince counts failed sign-ins that stand in the way of one more.
func FailuresSince(ctx context.Context, db DB, email, address string, since time.Time) (Failures, error) {
	return failuresCount.one(ctx, db, args{"account": accountKey(email), "address": address, "since": since})
}

// TellSignOut lets the event streams of a member look whether their sessions still stand.
func TellSignOut(ctx context.Context, db DB, teamID, memberID string) error {
	_, err := signOutTell.get(ctx, db, args{"team_id": teamID, "member_id": memberID})
	return err
}

// CreateMember adds the person of an account to the team, anew where the person left it, and returns the member's id.
// Where no account is said one is made, or renewed where the person left every team. ErrTaken where somebody works
// under the address, or the person is in the team already.
func (l Library) CreateMember(ctx context.Context, m Member) (string, error) {
	if m.AccountID == "" {
		id, err := accountCreate.get(ctx, l.db, args{"email": m.Email, "password_hash": m.PasswordHash})
		if errors.Is(err, ErrNotFound) {
			err = fmt.Errorf("account_create: %w", ErrTaken)
		}
		if err != nil {
			return "", err
		}
		m.AccountID = id
	}
	id, err := memberCreate.get(ctx, l.db, l.with(args{
		"account_id": m.AccountID, "name": m.Name, "initials": m.Initials, "role": m.Role,
	}))
	if errors.Is(err, ErrNotFound) {
		err = fmt.Errorf("member_create: %w", ErrTaken)
	}
	return id, err
}

// Members lists the team's active members without their hashes.
func (l Library) Members(ctx context.Context) ([]Member, error) {
	return memberList.many(ctx, l.db, l.with(nil))
}

// Member is an active member of the team.
func (l Library) Member(ctx context.Context, memberID string) (Member, error) {
	return memberGet.one(ctx, l.db, l.with(args{"member_id": memberID}))
}

// SetPassword replaces a password's hash and ends all sessions, in each of the person's teams. Failed sign-ins before
// it do not count any more.
func (l Library) SetPassword(ctx context.Context, memberID, hash string) error {
	ended, err := memberPassword.get(ctx, l.db, l.with(args{"member_id": memberID, "password_hash": hash}))
	return someone("member_password", ended, err)
}

// SetRole changes what a member may do, from the next call on.
func (l Library) SetRole(ctx context.Context, memberID, role string) error {
	return memberRole.run(ctx, l.db, l.with(args{"member_id": memberID, "role": role}))
}

// RemoveMember ends an account and its sessions; what the member wrote keeps the name.
func (l Library) RemoveMember(ctx context.Context, memberID string, now time.Time) error {
	return memberRemove.run(ctx, l.db, l.with(args{"member_id": memberID, "now": now}))
}

// AddEvent notes what happened to an account of the team.
func (l Library) AddEvent(ctx context.Context, e Event) error {
	e.TeamID = l.team
	return AddEvent(ctx, l.db, e)
}

// Events lists the newest events of the team's accounts, of a kind and of people whose name holds a text; what is empty
// is any.
func (l Library) Events(ctx context.Context, kind EventKind, who string, most int) ([]EventRow, error) {
	return eventList.many(ctx, l.db, l.with(args{"kind": kind, "who": likeText(who), "most": most}))
}

var likeSigns = strings.NewReplacer(`\`, `\\`, `%`, `\%`, `_`, `\_`)

// likeText is a text as LIKE takes it, without its signs.
func likeText(text string) string { return likeSigns.Replace(text) }
