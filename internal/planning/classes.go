package planning

import (
	"context"
	"errors"
	"slices"
	"strings"

	"brightchalk/internal/core/fault"
	"brightchalk/internal/store"
	"brightchalk/internal/tx"
)

// MoveUp is what becomes of a class in a new school year.
type MoveUp struct {
	ClassID string `json:"class_id" format:"uuid"`
	// Name of the class that it becomes; empty: it leaves.
	Name string `json:"name" maxLength:"80" doc:"of the class that it becomes; empty: it leaves"`
	// Knows is false where the new class begins anew.
	Knows bool `json:"knows" doc:"what it knows and its meetings go along"`
}

// MaxMoves bounds the classes of one new school year.
const MaxMoves = 60

// SetTeachers says who teaches a class.
func (p Classes) SetTeachers(ctx context.Context, by tx.Actor, classID string, members []string) error {
	return tx.Exec(ctx, p.Env, by, tx.MayTeach, func(s store.Library) error {
		if _, err := s.Class(ctx, classID); err != nil {
			return err
		}
		return s.SetTeachers(ctx, classID, members)
	})
}

// Teachers lists who teaches which class.
func (p Classes) Teachers(ctx context.Context, by tx.Actor) ([]store.Teaches, error) {
	return tx.Read(ctx, p.Env, by, func(s store.Library) ([]store.Teaches, error) { return s.Teachers(ctx) })
}

func className(name string) (string, error) {
	if name = strings.TrimSpace(name); name == "" {
		return "", fault.In("name", "The class needs a name. Use the class's name, never a child's.")
	}
	return name, nil
}

// nameTaken says so of a name that another class has.
func nameTaken(err error, name string) error {
	if errors.Is(err, store.ErrTaken) {
		return fault.In("name", "There is a class “%s” already.", name)
	}
	return err
}

// RenameClass gives a class another name.
func (p Classes) RenameClass(ctx context.Context, by tx.Actor, classID, name string) error {
	name, err := className(name)
	if err != nil {
		return err
	}
	return tx.Exec(ctx, p.Env, by, tx.MayTeach, func(s store.Library) error {
		return nameTaken(s.RenameClass(ctx, classID, name), name)
	})
}

// ArchiveClass puts a class aside with all that was logged, or brings it back.
func (p Classes) ArchiveClass(ctx context.Context, by tx.Actor, classID string, archive bool) error {
	return tx.Exec(ctx, p.Env, by, tx.MayAgree, func(s store.Library) error {
		err := s.ArchiveClass(ctx, classID, p.Env.NowIf(archive), "")
		if errors.Is(err, store.ErrTaken) {
			return fault.In("name", "Another class has its name by now. Give that one another name first.")
		}
		return err
	})
}

// PastClasses lists the classes that were put aside.
func (p Classes) PastClasses(ctx context.Context, by tx.Actor) ([]store.PastClass, error) {
	return tx.Read(ctx, p.Env, by, func(s store.Library) ([]store.PastClass, error) { return s.PastClasses(ctx) })
}

// MoveUp begins a new school year: each class is put aside and becomes another one, with what it knows or without, or
// leaves. All of it is done, or nothing.
func (p Classes) MoveUp(ctx context.Context, by tx.Actor, moves []MoveUp) error {
	if len(moves) == 0 {
		return fault.In("moves", "Say of one class at least what becomes of it.")
	}
	return tx.Exec(ctx, p.Env, by, tx.MayAgree, func(s store.Library) error {
		now := p.Env.Now()
		list, err := s.Classes(ctx)
		if err != nil {
			return err
		}
		seen := map[string]bool{}
		for i, m := range moves {
			moves[i].Name = strings.TrimSpace(m.Name)
			at := slices.IndexFunc(list, func(c store.Class) bool { return c.ClassID == m.ClassID })
			if at < 0 || seen[m.ClassID] {
				return fault.In("moves", "One of the classes is not there, or stands there twice.")
			}
			seen[m.ClassID] = true
			if err := s.ArchiveClass(ctx, m.ClassID, &now, ""); err != nil {
				return err
			}
		}
		for _, m := range moves {
			if m.Name == "" {
				continue
			}
			kind := list[slices.IndexFunc(list, func(c store.Class) bool { return c.ClassID == m.ClassID })].Kind
			id, err := s.CreateClass(ctx, m.Name, kind)
			if err != nil {
				return nameTaken(err, m.Name)
			}
			if m.Knows {
				if err := s.Inherit(ctx, id, m.ClassID); err != nil {
					return err
				}
			}
			if err := s.ArchiveClass(ctx, m.ClassID, &now, id); err != nil {
				return err
			}
		}
		return nil
	})
}
