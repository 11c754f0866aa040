package people

import (
	"bytes"
	"context"
	"crypto/rand"
	"crypto/sha256"
	"crypto/subtle"
	"encoding/base32"
	"errors"
	"fmt"
	"image/png"
	"strings"
	"time"

	"github.com/pquerna/otp"
	"github.com/pquerna/otp/totp"

	"brightchalk/internal/core/fault"
	"brightchalk/internal/store"
	"brightchalk/internal/tx"
)

// ErrSecond is the code of a sign-in that needs the code of the member's app.
const ErrSecond fault.Code = "second-step"

// Codes by RFC 6238, as the usual apps make them: six digits, anew each half minute; one half minute early or late is
// taken.
var codes = totp.ValidateOpts{Period: 30, Digits: otp.DigitsSix, Algorithm: otp.AlgorithmSHA1}

const (
	spareCodes = 8
	spareBytes = 6 // of chance, written as ten signs
	qrPixels   = 240
)

// second asks for the code of a member who wants one. A wrong code is a fault of the field; none is ErrSecond.
func (p Accounts) second(ctx context.Context, accountID, code string) error {
	l := store.For(p.Env.AllTeams(), "")
	f, err := l.SecondFactor(ctx, accountID)
	if errors.Is(err, store.ErrNotFound) || err == nil && f.Since == nil {
		return nil
	}
	if err != nil {
		return err
	}
	code = strings.ToUpper(
		strings.Join(strings.FieldsFunc(code, func(r rune) bool { return r == ' ' || r == '-' }), ""),
	)
	if code == "" {
		return fault.New(ErrSecond, "Now the six digits that your app shows.")
	}
	step, err := timeStep(f.Secret, code, p.Env.Now())
	if err != nil {
		return err
	}
	var good bool
	if step > 0 {
		good, err = l.UseSecond(ctx, accountID, step)
	} else {
		good, err = l.UseSpare(ctx, accountID, hashCode(code))
	}
	if err == nil && !good {
		err = errCode
	}
	return err
}

var errCode = fault.In("code", "This code is wrong, or it was used. Take the one that your app shows now.")

// timeStep is the step of time whose code it is, 0 where it is none of now.
func timeStep(secret, code string, now time.Time) (int64, error) {
	for _, late := range []time.Duration{0, -1, 1} {
		at := now.Add(late * time.Duration(codes.Period) * time.Second)
		right, err := totp.GenerateCodeCustom(secret, at, codes)
		if err != nil {
			return 0, fmt.Errorf("make a code: %w", err)
		}
		if subtle.ConstantTimeCompare([]byte(right), []byte(code)) == 1 {
			return at.Unix() / int64(codes.Period), nil
		}
	}
	return 0, nil
}

func hashCode(code string) string { return fmt.Sprintf("%x", sha256.Sum256([]byte(code))) }

// SecondView is the second step of the own sign-in.
type SecondView struct {
	On    bool       `json:"on" doc:"a code is asked for at each sign-in"`
	Since *time.Time `json:"since,omitempty"`
	Spare int        `json:"spare" doc:"codes left for when the app is gone"`
}

// Second tells of the own second step.
func (p Accounts) Second(ctx context.Context, by tx.Actor) (SecondView, error) {
	return tx.Read(ctx, p.Env, by, func(s store.Library) (SecondView, error) {
		f, err := s.SecondFactor(ctx, by.AccountID)
		if errors.Is(err, store.ErrNotFound) {
			return SecondView{}, nil
		}
		return SecondView{On: f.Since != nil, Since: f.Since, Spare: len(f.Spare)}, err
	})
}

// SecondSecret is what an app needs to make codes: a picture to scan, and the same as text.
type SecondSecret struct {
	Secret string `json:"secret" doc:"base32, to be typed into an app"`
	QR     []byte `json:"qr" doc:"PNG, base64"`
}

// BeginSecond makes a secret for the own second step. It is asked for only after a first right code.
func (p Accounts) BeginSecond(ctx context.Context, by tx.Actor) (SecondSecret, error) {
	m, err := tx.Read(ctx, p.Env, by, func(s store.Library) (store.Member, error) { return s.Member(ctx, by.MemberID) })
	if err != nil {
		return SecondSecret{}, err
	}
	key, err := totp.Generate(totp.GenerateOpts{
		Issuer: "Bright Chalk", AccountName: m.Email, Period: codes.Period, Digits: codes.Digits, Algorithm: codes.Algorithm,
	})
	if err != nil {
		return SecondSecret{}, fmt.Errorf("make a secret: %w", err)
	}
	picture, err := key.Image(qrPixels, qrPixels)
	if err != nil {
		return SecondSecret{}, fmt.Errorf("draw a secret: %w", err)
	}
	var qr bytes.Buffer
	if err := png.Encode(&qr, picture); err != nil {
		return SecondSecret{}, err
	}
	_, err = tx.WriteUnlocked(ctx, p.Env, by, tx.MayTalk, func(s store.Library) (struct{}, error) {
		begun, err := s.BeginSecond(ctx, by.AccountID, key.Secret())
		if err == nil && !begun {
			err = fault.In("code", "A second step is set up already. Take it away first.")
		}
		return struct{}{}, err
	})
	return SecondSecret{key.Secret(), qr.Bytes()}, err
}

// ConfirmSecond begins to ask for a code, after a first right one. It returns the spare codes, which nobody sees again.
func (p Accounts) ConfirmSecond(ctx context.Context, by tx.Actor, address, code string) ([]string, error) {
	spare, sums := make([]string, spareCodes), make([]string, spareCodes)
	for i := range spare {
		raw := make([]byte, spareBytes)
		_, _ = rand.Read(raw) // it never fails
		spare[i] = base32.StdEncoding.WithPadding(base32.NoPadding).EncodeToString(raw)
		sums[i] = hashCode(spare[i])
	}
	_, err := tx.WriteUnlocked(ctx, p.Env, by, tx.MayTalk, func(s store.Library) (struct{}, error) {
		f, err := s.SecondFactor(ctx, by.AccountID)
		if err != nil {
			return struct{}{}, err
		}
		step, err := timeStep(f.Secret, strings.TrimSpace(code), p.Env.Now())
		if err != nil {
			return struct{}{}, err
		}
		if step == 0 {
			return struct{}{}, errCode
		}
		if _, err := s.UseSecond(ctx, by.AccountID, step); err != nil {
			return struct{}{}, err
		}
		if err := s.ConfirmSecond(ctx, by.AccountID, sums, p.Env.Now()); err != nil {
			return struct{}{}, err
		}
		return struct{}{}, s.AddEvent(ctx, store.Event{
			Kind: store.SecondOn, TeamID: by.TeamID, MemberID: by.MemberID, Address: address, At: p.Env.Now(),
		})
	})
	return spare, err
}

// DropSecond asks for no code any more: for the own account after the password, for another one by a lead.
func (p Accounts) DropSecond(ctx context.Context, by tx.Actor, memberID, password, address string) error {
	if memberID != by.MemberID {
		if err := by.Need(tx.MayAgree); err != nil {
			return err
		}
	} else {
		m, err := tx.Read(ctx, p.Env, by, func(s store.Library) (store.Member, error) { return s.Member(ctx, by.MemberID) })
		if err != nil {
			return err
		}
		err = p.compare(ctx, m, SignInAttempt{Email: m.Email, Password: password, Address: address}, nil)
		if errors.Is(err, fault.Invalid) {
			return fault.In("password", "This is not your password.")
		}
		if err != nil {
			return err
		}
	}
	_, err := tx.WriteUnlocked(ctx, p.Env, by, tx.MayTalk, func(s store.Library) (struct{}, error) {
		m, err := s.Member(ctx, memberID)
		if err != nil {
			return struct{}{}, err
		}
		if err := p.onlyHere(ctx, by, m); err != nil {
			return struct{}{}, err
		}
		if err := s.DropSecond(ctx, m.AccountID); err != nil {
			return struct{}{}, err
		}
		return struct{}{}, s.AddEvent(ctx, store.Event{
			Kind: store.SecondOff, TeamID: by.TeamID, MemberID: memberID, By: by.MemberID, Address: address, At: p.Env.Now(),
		})
	})
	return err
}
