package store

import (
	"context"

	"brightchalk/internal/core/card"
	"brightchalk/internal/core/lesson"
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

type teamRow struct {
	TeamID, Name string
	Conventions  []byte
}

type routineRow struct{ Steps []byte }

var (
	teamCreate      = value[string]("team_create")
	teamCount       = value[int]("team_count")
	teamGet         = query[teamRow]("team_get")
	teamConventions = change("team_conventions")
	memberCreate    = value[string]("member_create")
	memberByEmail   = query[Member]("member_by_email")
	memberGet       = query[Member]("member_get")
	memberList      = query[Member]("member_list")
	routineGet      = query[routineRow]("routine_get")
	routinePut      = change("routine_put")
)

// CreateTeam returns the new id.
func CreateTeam(ctx context.Context, db DB, name string, c card.Conventions) (string, error) {
	conventions, err := card.ConventionDocuments.Write(c)
	if err != nil {
		return "", err
	}
	return teamCreate.get(ctx, db, args{"name": name, "conventions": conventions})
}

// CountTeams counts all teams of the database.
func CountTeams(ctx context.Context, db DB) (int, error) {
	return teamCount.get(ctx, db, args{})
}

// MemberByEmail finds an active member of any team by address, whatever its capitals.
func MemberByEmail(ctx context.Context, db DB, email string) (Member, error) {
	return memberByEmail.one(ctx, db, args{"email": email})
}

// MemberByID finds an active member of any team.
func MemberByID(ctx context.Context, db DB, memberID string) (Member, error) {
	return memberGet.one(ctx, db, args{"member_id": memberID})
}

// Team returns ErrNotFound where there is none.
func (l Library) Team(ctx context.Context) (Team, error) {
	row, err := teamGet.one(ctx, l.db, l.with(nil))
	if err != nil {
		return Team{}, err
	}
	c, err := card.ConventionDocuments.Read(row.Conventions)
	c.Lines = c.Lines.OrCommon()
	return Team{row.TeamID, row.Name, c}, err
}

// SetConventions replaces the team's conventions.
func (l Library) SetConventions(ctx context.Context, c card.Conventions) error {
	conventions, err := card.ConventionDocuments.Write(c)
	if err != nil {
		return err
	}
	return teamConventions.run(ctx, l.db, l.with(args{"conventions": conventions}))
}

// CreateMember returns the new id, or ErrTaken where the address is in use.
func (l Library) CreateMember(ctx context.Context, m Member) (string, error) {
	return memberCreate.get(ctx, l.db, l.with(args{
		"email": m.Email, "name": m.Name, "initials": m.Initials, "role": m.Role, "password_hash": m.PasswordHash,
	}))
}

// Members lists the team's active members without their hashes.
func (l Library) Members(ctx context.Context) ([]Member, error) {
	return memberList.many(ctx, l.db, l.with(nil))
}

// Routine returns ErrNotFound where the team has not set one.
func (l Library) Routine(ctx context.Context) (lesson.Routine, error) {
	row, err := routineGet.one(ctx, l.db, l.with(nil))
	if err != nil {
		return lesson.Routine{}, err
	}
	return lesson.RoutineDocuments.Read(row.Steps)
}

// PutRoutine replaces the team's agreed routine.
func (l Library) PutRoutine(ctx context.Context, r lesson.Routine) error {
	document, err := lesson.RoutineDocuments.Write(r)
	if err != nil {
		return err
	}
	return routinePut.run(ctx, l.db, l.with(args{"name": r.Name, "steps": document}))
}
