package tx

import (
	"errors"
	"fmt"
	"slices"

	"brightchalk/internal/store"
)

// Role of a member in a team.
type Role string

// Roles.
const (
	Lead      Role = "lead"
	Teacher   Role = "teacher"
	Assistant Role = "assistant"
)

// Valid reports whether the role is one of the three.
func (r Role) Valid() bool { return rights[r] != nil }

// Right is something that a role allows.
type Right string

// Rights.
const (
	MayEdit   Right = "edit"   // cards, letters, texts, pictures
	MayAgree  Right = "agree"  // cards, conventions, the order, accounts
	MayRecord Right = "record" // make recordings
	MayChoose Right = "choose" // choose and withdraw recordings
	MayTeach  Right = "teach"  // make, teach and log lessons
	MayTalk   Right = "talk"   // comment on cards
)

var rights = map[Role][]Right{
	Lead:      {MayEdit, MayAgree, MayRecord, MayChoose, MayTeach, MayTalk},
	Teacher:   {MayEdit, MayRecord, MayChoose, MayTeach, MayTalk},
	Assistant: {MayRecord, MayTeach, MayTalk},
}

// Actor is the signed-in member who makes a request, in one of the person's teams. Epoch is that of the member when
// the session began: a session with another epoch than the member's has ended.
type Actor struct {
	MemberID  string `json:"member_id" format:"uuid"`
	TeamID    string `json:"-"`
	AccountID string `json:"-"`
	Name      string `json:"name"`
	Initials  string `json:"initials"`
	Role      Role   `json:"role" enum:"lead,teacher,assistant"`
	Epoch     int    `json:"-"`
	position  *position
}

// ActorOf returns the member as an actor whose reads go to the primary.
func ActorOf(m store.Member) Actor {
	return Actor{m.MemberID, m.TeamID, m.AccountID, m.Name, m.Initials, Role(m.Role), m.Epoch, nil}
}

// ActorSeen returns the member of a session as an actor whose reads may go to a replica, once the replica has
// replayed the position that was read together with the session.
func ActorSeen(m store.Seen) Actor {
	return Actor{m.MemberID, m.TeamID, m.AccountID, m.Name, m.Initials, Role(m.Role), m.Epoch, &position{lsn: m.At}}
}

// ErrForbidden says that the member's role does not allow it.
var ErrForbidden = errors.New("not allowed")

// Need returns an error that unwraps to ErrForbidden if the actor's role lacks a right.
func (a Actor) Need(r Right) error {
	if slices.Contains(rights[a.Role], r) {
		return nil
	}
	return fmt.Errorf("%w: as %s you lack the right %q", ErrForbidden, a.Role, r)
}

// Rights lists what the actor may do, for the screens.
func (a Actor) Rights() []Right { return slices.Clone(rights[a.Role]) }
