package teaching

import (
	"context"
	"crypto/rand"
	"errors"
	"math/big"
	"strings"
	"time"

	"brightchalk/internal/core/fault"
	"brightchalk/internal/core/running"
	"brightchalk/internal/core/spelling"
	"brightchalk/internal/core/words"
	"brightchalk/internal/gather"
	"brightchalk/internal/people"
	"brightchalk/internal/store"
	"brightchalk/internal/tx"
)

// Running keeps what the faces of a lesson set while it is taught, and lets phones join as its desk.
type Running struct{ Env tx.Env }

// RunView is a running lesson. NowMS is the server's clock, so that faces on several machines count alike.
type RunView struct {
	Marks []running.Mark `json:"marks" maxItems:"600"`
	NowMS int64          `json:"now_ms" doc:"milliseconds since 1970 by the server's clock"`
}

func (r Running) view(marks []running.Mark) RunView { return RunView{marks, r.Env.Now().UnixMilli()} }

// Run is what is kept of a running lesson; no marks before it was begun.
func (r Running) Run(ctx context.Context, by tx.Actor, lessonID string) (RunView, error) {
	return tx.Read(ctx, r.Env, by, func(s store.Library) (RunView, error) {
		marks, err := s.Run(ctx, lessonID)
		if err == nil && len(marks) == 0 { // is there such a lesson?
			_, err = s.Lesson(ctx, lessonID)
		}
		return r.view(marks), err
	})
}

// Join takes what a face set, and returns what holds.
func (r Running) Join(ctx context.Context, by tx.Actor, lessonID string, marks []running.Mark) (RunView, error) {
	return tx.WriteUnlocked(ctx, r.Env, by, tx.MayTeach, func(s store.Library) (RunView, error) {
		kept, err := s.HoldRun(ctx, lessonID, r.Env.Now())
		if err != nil {
			return RunView{}, err
		}
		if err := running.Check(kept, marks); err != nil {
			return RunView{}, fault.At("marks", err)
		}
		joined := running.Join(kept, marks)
		return r.view(joined), s.PutRun(ctx, lessonID, joined, r.Env.Now())
	})
}

// How a phone joins: a code of eight signs that cannot be mistaken for one another, good once and for ten minutes; a
// pass that it gives is good for one lesson and four hours. Wrong codes count: ten from an address, a thousand in all.
const (
	codeSigns     = "ABCDEFGHJKMNPQRSTVWXYZ23456789"
	codeLength    = 8
	codeGood      = 10 * time.Minute
	refusalsHere  = 10
	refusalsInAll = 1000
	refusalWindow = 10 * time.Minute
)

// PassLifetime is for how long a phone that joined is the desk.
const PassLifetime = 4 * time.Hour

// DeskCode lets one phone join.
type DeskCode struct {
	Code  string    `json:"code" doc:"eight signs, typed on the phone at /join"`
	Until time.Time `json:"until"`
}

// Invite makes a code for a phone to be the desk of a lesson.
func (r Running) Invite(ctx context.Context, by tx.Actor, lessonID string) (DeskCode, error) {
	now := r.Env.Now()
	if err := store.ForgetPasses(ctx, r.Env.AllTeams(), now.Add(-people.EventsKept)); err != nil {
		return DeskCode{}, err
	}
	var code strings.Builder
	for range codeLength {
		i, err := rand.Int(rand.Reader, big.NewInt(int64(len(codeSigns))))
		if err != nil {
			return DeskCode{}, err
		}
		code.WriteByte(codeSigns[i.Int64()])
	}
	out := DeskCode{code.String(), now.Add(codeGood)}
	return tx.WriteUnlocked(ctx, r.Env, by, tx.MayTeach, func(s store.Library) (DeskCode, error) {
		return out, s.AddPass(ctx, lessonID, by.MemberID, out.Code, now, out.Until)
	})
}

// Phones counts those that are a desk of the lesson.
func (r Running) Phones(ctx context.Context, by tx.Actor, lessonID string) (int, error) {
	return tx.Read(ctx, r.Env, by, func(s store.Library) (int, error) { return s.Phones(ctx, lessonID) })
}

// Dismiss lets go of all phones of a lesson, and of codes not yet used.
func (r Running) Dismiss(ctx context.Context, by tx.Actor, lessonID string) error {
	_, err := tx.WriteUnlocked(ctx, r.Env, by, tx.MayTeach, func(s store.Library) (struct{}, error) {
		return struct{}{}, s.EndPasses(ctx, lessonID, r.Env.Now())
	})
	return err
}

// tidy is a code as it was meant: capitals, without what people put between.
func tidy(code string) string {
	return strings.Map(func(c rune) rune {
		if c == ' ' || c == '-' {
			return -1
		}
		return c
	}, strings.ToUpper(code))
}

// JoinByCode uses up a code that was typed on a phone. The error is the same for a wrong code, an old one and one
// that was used; it is a TooMany after too many.
func (r Running) JoinByCode(ctx context.Context, code, address string) (store.Pass, tx.Actor, error) {
	now := r.Env.Now()
	failed, err := store.DeskRefusals(ctx, r.Env.AllTeams(), address, now.Add(-refusalWindow))
	if err != nil {
		return store.Pass{}, tx.Actor{}, store.Classify(err)
	}
	if failed.Here >= refusalsHere || failed.All >= refusalsInAll {
		return store.Pass{}, tx.Actor{}, people.TooMany{
			Wait:  max(time.Second, failed.First.Add(refusalWindow).Sub(now)),
			Codes: true,
		}
	}
	pass, err := store.TakePass(ctx, r.Env.AllTeams(), tidy(code), now)
	var who store.Seen
	if err == nil {
		who, err = store.MemberSeen(ctx, r.Env.AllTeams(), pass.MemberID)
	}
	event := store.Event{
		Kind:     store.DeskJoined,
		TeamID:   pass.TeamID,
		MemberID: pass.MemberID,
		Address:  address,
		At:       now,
	}
	if errors.Is(err, store.ErrNotFound) {
		event = store.Event{Kind: store.DeskRefused, Address: address, At: now}
		if err := store.AddEvent(ctx, r.Env.AllTeams(), event); err != nil {
			return store.Pass{}, tx.Actor{}, store.Classify(err)
		}
		return pass, tx.Actor{}, fault.In(
			"code",
			"This code is wrong, too old, or was used. Let the laptop show a new one.",
		)
	}
	if err == nil {
		err = store.AddEvent(ctx, r.Env.AllTeams(), event)
	}
	return pass, tx.ActorSeen(who), store.Classify(err)
}

// Stands tells whether a phone with a pass was not let go.
func (r Running) Stands(ctx context.Context, passID, lessonID string) (bool, error) {
	return store.PassStands(ctx, r.Env.AllTeams(), passID, lessonID)
}

// OwnWord is a word that a child brought, as the board shows it.
type OwnWord struct {
	Word     string         `json:"word"`
	Bits     []spelling.Bit `json:"bits"`
	Readable bool           `json:"readable"`
	Why      string         `json:"why" doc:"where the class cannot read it: which pair is not taught yet"`
	Guess    bool           `json:"guess" doc:"the word is in no list: look at its bridges before it is shown"`
}

// OwnWord cuts a word that a child brought, and tells whether the class of the lesson can read it.
func (r Running) OwnWord(ctx context.Context, by tx.Actor, lessonID, word string) (OwnWord, error) {
	return tx.Read(ctx, r.Env, by, func(s store.Library) (OwnWord, error) {
		l, err := s.Lesson(ctx, lessonID)
		if err != nil {
			return OwnWord{}, err
		}
		conv, err := gather.Conventions(ctx, s)
		if err != nil {
			return OwnWord{}, err
		}
		speech, err := gather.Speech(ctx, s, conv)
		if err != nil {
			return OwnWord{}, err
		}
		taught, known := l.Snapshot.Set(), l.Snapshot.KnownSet()
		class, err := gather.TaughtSet(ctx, s, l.ClassID, "") // for the steps of the order
		if err != nil {
			return OwnWord{}, err
		}
		answer, err := words.Look(word, words.Query{Taught: taught}, class.Steps, speech)
		if err != nil {
			return OwnWord{}, fault.At("word", err)
		}
		bridges := spelling.Bridging{Targets: l.Snapshot.Pairs(), Taught: taught, Exception: known[answer.Word]}
		out := OwnWord{answer.Word, spelling.Bridges(answer.Segments, bridges), answer.May, answer.Why, answer.Guessed}
		if known[answer.Word] {
			out.Readable, out.Why = true, "The class knows it as an exception word."
		}
		for i, b := range out.Bits {
			out.Bits[i].Card = l.Snapshot.CardOf(b)
		}
		return out, nil
	})
}
