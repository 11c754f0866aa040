package people

import (
	"context"

	"brightchalk/internal/core/fault"
	"brightchalk/internal/store"
	"brightchalk/internal/tx"
)

// Former lists who left the team under a name; only a lead may see it.
func (p Accounts) Former(ctx context.Context, by tx.Actor) ([]store.FormerMember, error) {
	if err := by.Need(tx.MayAgree); err != nil {
		return nil, err
	}
	return tx.Read(ctx, p.Env, by, func(s store.Library) ([]store.FormerMember, error) { return s.FormerMembers(ctx) })
}

// Data is all that is kept of a member as JSON: for the member, and for a lead of any member, also of a former one.
func (p Accounts) Data(ctx context.Context, by tx.Actor, memberID string) ([]byte, error) {
	if memberID != by.MemberID {
		if err := by.Need(tx.MayAgree); err != nil {
			return nil, err
		}
	}
	return tx.Read(ctx, p.Env, by, func(s store.Library) ([]byte, error) {
		text, err := s.MemberData(ctx, memberID)
		return []byte(text), err
	})
}

// Erase takes the name of somebody who left from all that stays. Takes keep their speaker: a voice is withdrawn where
// the takes are.
func (p Accounts) Erase(ctx context.Context, by tx.Actor, memberID string) error {
	return tx.Exec(ctx, p.Env, by, tx.MayAgree, func(s store.Library) error {
		if _, err := s.Member(ctx, memberID); err == nil {
			return fault.In("", "Remove the member from the team first.")
		}
		return s.EraseMember(ctx, memberID, p.Env.Now())
	})
}
