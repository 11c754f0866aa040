package app

import (
	"brightchalk/internal/core/texts"
	"brightchalk/internal/store"
	"context"
	"errors"
	"strings"
)

// BankView is a text of the bank against what a class has been taught.
type BankView struct {
	store.BankText
	Decodable float64  `json:"decodable"` // share of words that the class can read, 0 to 1; 0 without a class
	Missing   []string `json:"missing"`   // pairs not yet taught
	Remarks   []string `json:"remarks"`
}

// Bank lists the team's sentences and pages; classID may be empty.
func (a *App) Bank(ctx context.Context, by Actor, classID string) ([]BankView, error) {
	rows, err := store.Bank(ctx, a.Pool, by.TeamID)
	if err != nil {
		return nil, err
	}
	var t taught
	if classID != "" {
		if t, err = a.taught(ctx, by, classID); err != nil {
			return nil, err
		}
	}
	out := []BankView{}
	for _, r := range rows {
		v := BankView{BankText: r, Missing: []string{}, Remarks: []string{}}
		if classID != "" {
			report := texts.Check(r.Body, t.set, t.exceptions, t.conv.Speech())
			v.Decodable = report.Decodable
			v.Remarks = report.Remarks
			for _, k := range report.Tokens {
				for _, p := range k.Untaught {
					if !strings.Contains(strings.Join(v.Missing, " ")+" ", p+" ") {
						v.Missing = append(v.Missing, p)
					}
				}
			}
		}
		out = append(out, v)
	}
	return out, nil
}

// Bounds of a text of the bank, in bytes.
const (
	maxSentence = 200
	maxPage     = 2_000
)

// AddToBank stores a sentence or a page for the whole team.
func (a *App) AddToBank(ctx context.Context, by Actor, kind, body string) (string, error) {
	if err := by.need(MayEdit); err != nil {
		return "", err
	}
	body = strings.TrimSpace(body)
	most := map[string]int{"sentence": maxSentence, "page": maxPage}[kind]
	switch {
	case most == 0:
		return "", wrong("kind", "The bank keeps sentences and pages.")
	case body == "":
		return "", wrong("body", "There is no text to keep.")
	case len(body) > most:
		return "", wrong("body", "The %s is longer than %d signs.", kind, most)
	}
	id, err := store.AddBankText(ctx, a.Pool, by.TeamID, kind, body, by.MemberID, a.Now())
	if errors.Is(err, store.ErrTaken) {
		return "", wrong("body", "The bank has this text already.")
	}
	return id, err
}

// DropFromBank takes a text out of use, or brings it back.
func (a *App) DropFromBank(ctx context.Context, by Actor, textID string, archived bool) error {
	if err := by.need(MayEdit); err != nil {
		return err
	}
	if !archived {
		return store.ArchiveBankText(ctx, a.Pool, by.TeamID, textID, nil)
	}
	now := a.Now()
	return store.ArchiveBankText(ctx, a.Pool, by.TeamID, textID, &now)
}
