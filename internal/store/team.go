package store

import (
	"context"
	"encoding/json"
	"time"

	"brightchalk/internal/core/convention"
	"brightchalk/internal/core/lesson"
)

// Team is a school's phonics team.
type Team struct {
	TeamID      string
	Name        string
	Conventions convention.Conventions
}

type teamRow struct {
	TeamID, Name string
	Conventions  []byte
}

type routineRow struct {
	Purpose, ClassID string
	Steps            []byte
}

var (
	teamCreate      = value[string]("team_create")
	teamCount       = value[int]("team_count")
	teamGet         = query[teamRow]("team_get")
	teamConventions = change("team_conventions")
	teamWords       = change("team_words")
	teamHold        = value[int64]("team_hold")
	routineList     = query[routineRow]("routine_list")
	routinePut      = change("routine_put")
	routineDrop     = change("routine_drop")
	clueList        = query[Clue]("clue_list")
	cluePut         = change("clue_put")
	clueDrop        = change("clue_drop")
)

// CreateTeam returns the new id.
func CreateTeam(ctx context.Context, db DB, name string, c convention.Conventions) (string, error) {
	conventions, err := convention.Documents.Write(c)
	if err != nil {
		return "", err
	}
	return teamCreate.get(ctx, db, args{"name": name, "conventions": conventions})
}

// CountTeams counts all teams of the database.
func CountTeams(ctx context.Context, db DB) (int, error) {
	return teamCount.get(ctx, db, args{})
}

// Lock lets one transaction at a time change the team's library; the others wait for its end. Every change begins with
// it, so that no two can wait for each other, and what one has read nobody else changes.
func (l Library) Lock(ctx context.Context) error {
	_, err := teamHold.get(ctx, l.db, l.with(nil))
	return err
}

// Team returns ErrNotFound where there is none.
func (l Library) Team(ctx context.Context) (Team, error) {
	row, err := teamGet.one(ctx, l.db, l.with(nil))
	if err != nil {
		return Team{}, err
	}
	c, err := convention.Documents.Read(row.Conventions)
	c.Lines = c.Lines.OrCommon()
	return Team{row.TeamID, row.Name, c}, err
}

// SetWords replaces the words of the team's own among its conventions.
func (l Library) SetWords(ctx context.Context, words []convention.OwnWord) error {
	if words == nil {
		words = []convention.OwnWord{}
	}
	text, err := json.Marshal(words)
	if err != nil {
		return err
	}
	return teamWords.run(ctx, l.db, l.with(args{"words": text}))
}

// SetConventions replaces the team's conventions.
func (l Library) SetConventions(ctx context.Context, c convention.Conventions) error {
	conventions, err := convention.Documents.Write(c)
	if err != nil {
		return err
	}
	return teamConventions.run(ctx, l.db, l.with(args{"conventions": conventions}))
}

// KeptRoutine is a routine of the team for a purpose, or of one class.
type KeptRoutine struct {
	Purpose lesson.Purpose
	ClassID string // empty: the team's
	Routine lesson.Routine
}

// Routines lists what the team and its classes have set; what is missing is as it ships.
func (l Library) Routines(ctx context.Context) ([]KeptRoutine, error) {
	rows, err := routineList.many(ctx, l.db, l.with(nil))
	if err != nil {
		return nil, err
	}
	out := make([]KeptRoutine, len(rows))
	for i, r := range rows {
		read, err := lesson.RoutineDocuments.Read(r.Steps)
		if err != nil {
			return nil, err
		}
		out[i] = KeptRoutine{lesson.Purpose(r.Purpose), r.ClassID, read}
	}
	return out, nil
}

// PutRoutine replaces the agreed routine for a purpose; classID is empty for the team's.
func (l Library) PutRoutine(ctx context.Context, p lesson.Purpose, classID string, r lesson.Routine) error {
	document, err := lesson.RoutineDocuments.Write(r)
	if err != nil {
		return err
	}
	return routinePut.run(ctx, l.db, l.with(args{
		"purpose": p, "class_id": nullable(classID), "name": r.Name, "steps": document,
	}))
}

// DropRoutine goes back to the team's routine, or to the one that ships.
func (l Library) DropRoutine(ctx context.Context, p lesson.Purpose, classID string) error {
	_, _, err := routineDrop.count(ctx, l.db, l.with(args{"purpose": p, "class_id": nullable(classID)}))
	return err
}

// Clue is what a word means, in the team's words.
type Clue struct {
	Word string `json:"word"`
	Clue string `json:"clue"`
}

// Clues lists the team's clues by word.
func (l Library) Clues(ctx context.Context) ([]Clue, error) {
	return clueList.many(ctx, l.db, l.with(nil))
}

// PutClue keeps a clue; an empty one goes back to the plain one.
func (l Library) PutClue(ctx context.Context, word, clue, by string, now time.Time) error {
	if clue == "" {
		_, _, err := clueDrop.count(ctx, l.db, l.with(args{"word": word}))
		return err
	}
	return cluePut.run(ctx, l.db, l.with(args{"word": word, "clue": clue, "by": nullable(by), "now": now}))
}
