package store

import (
	"brightchalk/internal/core/card"
	"brightchalk/internal/core/lesson"
	"context"
)

// Team is a school's phonics team.
type Team struct {
	TeamID      string
	Name        string
	Conventions card.Conventions
}

// Member of a team; PasswordHash is an argon2id hash in PHC form.
type Member struct {
	MemberID, TeamID, Email, Name, Initials, Role, PasswordHash string
}

// CreateTeam returns the new id.
func CreateTeam(ctx context.Context, db DB, name string, c card.Conventions) (string, error) {
	return scalar[string](ctx, db, "team_create", args{"name": name, "conventions": c})
}

// CountTeams counts all teams of the database.
func CountTeams(ctx context.Context, db DB) (int, error) {
	return scalar[int](ctx, db, "team_count", args{})
}

// GetTeam returns ErrNotFound where there is none.
func GetTeam(ctx context.Context, db DB, teamID string) (Team, error) {
	t, err := one[Team](ctx, db, "team_get", args{"team_id": teamID})
	t.Conventions.Lines = t.Conventions.Lines.OrCommon()
	return t, err
}

// SetConventions replaces a team's conventions.
func SetConventions(ctx context.Context, db DB, teamID string, c card.Conventions) error {
	return exec(ctx, db, "team_conventions", args{"team_id": teamID, "conventions": c})
}

// CreateMember returns the new id, or ErrTaken where the address is in use.
func CreateMember(ctx context.Context, db DB, m Member) (string, error) {
	return scalar[string](
		ctx,
		db,
		"member_create",
		args{
			"team_id":       m.TeamID,
			"email":         m.Email,
			"name":          m.Name,
			"initials":      m.Initials,
			"role":          m.Role,
			"password_hash": m.PasswordHash,
		},
	)
}

// MemberByEmail finds an active member by address, whatever its capitals.
func MemberByEmail(ctx context.Context, db DB, email string) (Member, error) {
	return one[Member](ctx, db, "member_by_email", args{"email": email})
}

// GetMember finds an active member.
func GetMember(ctx context.Context, db DB, memberID string) (Member, error) {
	return one[Member](ctx, db, "member_get", args{"member_id": memberID})
}

// Members lists a team's active members without their hashes.
func Members(ctx context.Context, db DB, teamID string) ([]Member, error) {
	return many[Member](ctx, db, "member_list", args{"team_id": teamID})
}

// GetRoutine returns ErrNotFound where the team has not set one.
func GetRoutine(ctx context.Context, db DB, teamID string) (lesson.Routine, error) {
	return one[lesson.Routine](ctx, db, "routine_get", args{"team_id": teamID})
}

// PutRoutine replaces the team's agreed routine.
func PutRoutine(ctx context.Context, db DB, teamID string, r lesson.Routine) error {
	return exec(ctx, db, "routine_put", args{"team_id": teamID, "name": r.Name, "steps": r.Steps})
}
