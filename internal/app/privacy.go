package app

import (
	"context"

	"brightchalk/internal/store"
)

// Former lists who left the team under a name; only a lead may see it.
func (p People) Former(ctx context.Context, by Actor) ([]store.FormerMember, error) {
	if err := by.need(MayAgree); err != nil {
		return nil, err
	}
	return read(ctx, p.desk, by, func(s peopleStore) ([]store.FormerMember, error) { return s.FormerMembers(ctx) })
}

// Data is all that is kept of a member as JSON: for the member, and for a lead of any member, also of a former one.
func (p People) Data(ctx context.Context, by Actor, memberID string) ([]byte, error) {
	if memberID != by.MemberID {
		if err := by.need(MayAgree); err != nil {
			return nil, err
		}
	}
	return read(ctx, p.desk, by, func(s peopleStore) ([]byte, error) {
		text, err := s.MemberData(ctx, memberID)
		return []byte(text), err
	})
}

// Erase takes the name of somebody who left from all that stays. Takes keep their speaker: a voice is withdrawn where
// the takes are.
func (p People) Erase(ctx context.Context, by Actor, memberID string) error {
	return change(ctx, p.desk, by, MayAgree, func(s peopleStore) error {
		if _, err := s.Member(ctx, memberID); err == nil {
			return wrong("", "Remove the member from the team first.")
		}
		return s.EraseMember(ctx, memberID, p.desk.now())
	})
}
