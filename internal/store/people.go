package store

import (
	"context"
	"fmt"
	"time"
)

// Link lets somebody in once: an invitation, or a new password for a member.
type Link struct {
	LinkID    string    `json:"link_id" format:"uuid"`
	TeamID    string    `json:"-"`
	Kind      LinkKind  `json:"kind" enum:"invitation,reset"`
	Email     string    `json:"email"`
	Name      string    `json:"name"`
	Role      string    `json:"role" enum:"lead,teacher,assistant"`
	MemberID  string    `json:"-"`
	Team      string    `json:"team"`
	MadeBy    string    `json:"made_by"`
	MadeAt    time.Time `json:"made_at"`
	GoodUntil time.Time `json:"good_until"`
}

// LinkKind is what a link is for.
type LinkKind string

// Kinds of links.
const (
	Invitation LinkKind = "invitation"
	Reset      LinkKind = "reset"
)

// FormerMember is somebody who left, under the own name.
type FormerMember struct {
	MemberID string    `json:"member_id" format:"uuid"`
	Name     string    `json:"name"`
	Role     string    `json:"role" enum:"lead,teacher,assistant"`
	LeftAt   time.Time `json:"left_at"`
}

// KeptSession is a session of a person in a team, with the epoch of the member. ID is the SHA-256 of its token in hex.
type KeptSession struct {
	ID    string `db:"id"`
	Data  []byte
	Epoch int
	Team  string
}

var (
	linkAdd         = value[string]("link_add")
	linkList        = query[Link]("link_list")
	linkBySecret    = query[Link]("link_by_secret")
	linkEnd         = change("link_end")
	linkEndOfMember = change("link_end_of_member")
	memberPause     = change("member_pause")
	memberEnd       = value[int64]("member_end_sessions")
	sessionList     = query[KeptSession]("session_list")
	sessionDrop     = change("session_drop")
	memberFormer    = query[FormerMember]("member_former")
	memberData      = value[string]("member_data")
	memberErase     = change("member_erase")
	eraseEvents     = change("member_erase_events")
	eraseLinks      = change("member_erase_links")
	eraseNotices    = change("member_erase_notices")
)

// LinkBySecret finds a link of any team that is still good, by the SHA-256 of its secret.
func LinkBySecret(ctx context.Context, db DB, sum []byte, now time.Time) (Link, error) {
	return linkBySecret.one(ctx, db, args{"secret": sum, "now": now})
}

// Sessions lists those of a member, in all teams of the person.
func Sessions(ctx context.Context, db DB, memberID string, now time.Time) ([]KeptSession, error) {
	return sessionList.many(ctx, db, args{"member_id": memberID, "now": now})
}

// DropSession ends one of a person's sessions, in whatever team.
func DropSession(ctx context.Context, db DB, memberID, id string, now time.Time) error {
	n, _, err := sessionDrop.count(ctx, db, args{"member_id": memberID, "id": id, "now": now})
	if err == nil && n == 0 {
		return ErrNotFound
	}
	return err
}

// AddLink keeps a link by the SHA-256 of its secret.
func (l Library) AddLink(ctx context.Context, k Link, sum []byte, by string) (string, error) {
	return linkAdd.get(ctx, l.db, l.with(args{
		"kind": k.Kind, "secret": sum, "email": k.Email, "name": k.Name, "role": k.Role,
		"member_id": nullable(k.MemberID), "by": nullable(by), "now": k.MadeAt, "until": k.GoodUntil,
	}))
}

// Links lists those that are still good, the newest first.
func (l Library) Links(ctx context.Context, now time.Time) ([]Link, error) {
	return linkList.many(ctx, l.db, l.with(args{"now": now}))
}

// EndLink ends one; ErrNotFound where it has ended.
func (l Library) EndLink(ctx context.Context, id string, now time.Time) error {
	return linkEnd.run(ctx, l.db, l.with(args{"link_id": id, "now": now}))
}

// EndMemberLinks ends the links that would renew a member's password.
func (l Library) EndMemberLinks(ctx context.Context, memberID string, now time.Time) error {
	_, _, err := linkEndOfMember.count(ctx, l.db, l.with(args{"member_id": memberID, "now": now}))
	return err
}

// PauseMember keeps a member from signing in, or lets the member again where at is nil; the sessions end.
func (l Library) PauseMember(ctx context.Context, memberID string, at *time.Time) error {
	return memberPause.run(ctx, l.db, l.with(args{"member_id": memberID, "at": at}))
}

// EndSessions ends all sessions of the person, in every team.
func (l Library) EndSessions(ctx context.Context, memberID string) error {
	ended, err := memberEnd.get(ctx, l.db, l.with(args{"member_id": memberID}))
	return someone("member_end_sessions", ended, err)
}

// FormerMembers lists who left and was not erased, the last first.
func (l Library) FormerMembers(ctx context.Context) ([]FormerMember, error) {
	return memberFormer.many(ctx, l.db, l.with(nil))
}

// MemberData is all that is kept of a member, also of a former one, as JSON.
func (l Library) MemberData(ctx context.Context, memberID string) (string, error) {
	return memberData.get(ctx, l.db, l.with(args{"member_id": memberID}))
}

// EraseMember takes the name of a former member from all that stays, and drops what only concerned the member, with the
// account where the person is in no other team;
// ErrNotFound where nobody of that id has left under a name.
func (l Library) EraseMember(ctx context.Context, memberID string, now time.Time) error {
	a := args{"member_id": memberID}
	for _, c := range []command{eraseLinks, eraseEvents, eraseNotices, accountDrop} {
		if _, _, err := c.count(ctx, l.db, l.with(a)); err != nil {
			return err
		}
	}
	return memberErase.run(ctx, l.db, l.with(args{"member_id": memberID, "now": now}))
}

// someone is ErrNotFound where a statement that answers a count found nobody.
func someone(name string, n int64, err error) error {
	if err == nil && n == 0 {
		err = fmt.Errorf("%s: %w", name, ErrNotFound)
	}
	return err
}
