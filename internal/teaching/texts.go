package teaching

import (
	"context"
	"errors"
	"slices"
	"strings"
	"time"

	"brightchalk/internal/core/fault"
	"brightchalk/internal/core/lesson"
	"brightchalk/internal/core/lexicon"
	"brightchalk/internal/core/spelling"
	"brightchalk/internal/core/texts"
	"brightchalk/internal/core/words"
	"brightchalk/internal/gather"
	"brightchalk/internal/store"
	"brightchalk/internal/tx"
)

// CheckedWord is one word of a checked text.
type CheckedWord struct {
	Text     string         `json:"text"`
	Start    int            `json:"start" doc:"in runes, from the start of the text"`
	Status   texts.Status   `json:"status" enum:"decodable,exception,untaught,ambiguous,unknown,name"`
	Untaught []string       `json:"untaught"`
	Instead  []string       `json:"instead" doc:"readable words that could stand here"`
	Comes    int            `json:"comes" doc:"step that teaches it as an exception word, 0 where none does"`
	Bits     []spelling.Bit `json:"bits"`
}

// CheckedText is a text against what a class has been taught.
type CheckedText struct {
	Decodable     float64          `json:"decodable" doc:"share of the words, 0 to 1"`
	Words         []CheckedWord    `json:"words"`
	Remarks       []string         `json:"remarks"`
	NewExceptions []string         `json:"new_exceptions" doc:"words with an odd part, not taught yet"`
	Sentences     []texts.Sentence `json:"sentences" doc:"how long each is"`
}

// MaxText is the longest text that is checked, in bytes.
const MaxText = 20_000

// wellKnown is from which familiarity on a word is put instead of another.
const wellKnown = 4

// Check checks a sentence or a page.
func (w Words) Check(ctx context.Context, by tx.Actor, classID, text string) (CheckedText, error) {
	if len(text) > MaxText {
		return CheckedText{}, fault.In("text", "The text is longer than %d signs. Check it a page at a time.", MaxText)
	}
	return tx.Read(ctx, w.Env, by, func(s store.Library) (CheckedText, error) {
		t, err := gather.TaughtSet(ctx, s, classID, "")
		if errors.Is(err, store.ErrNotFound) {
			return CheckedText{}, fault.In("class_id", "Choose a class first.")
		}
		if err != nil {
			return CheckedText{}, err
		}
		return check(t, text), nil
	})
}

func check(t gather.Taught, text string) CheckedText {
	o := t.Conv.Speech()
	r := texts.Check(text, t.Pairs, t.Exceptions, o)
	out := CheckedText{
		Decodable:     r.Decodable,
		Remarks:       append([]string{}, r.Remarks...),
		NewExceptions: append([]string{}, r.NewExceptions...),
		Sentences:     append([]texts.Sentence{}, r.Sentences...),
		Words:         make([]CheckedWord, 0, len(r.Tokens)),
	}
	var readable []*lexicon.Entry
	can := func(w string) bool {
		k := texts.Check(w, t.Pairs, t.Exceptions, o).Tokens
		return len(k) == 1 && k[0].Status == texts.Decodable
	}
	for _, k := range r.Tokens {
		b := spelling.Bridging{Taught: t.Pairs, Exception: k.Status == texts.Exception}
		w := CheckedWord{
			Text: k.Text, Start: k.Start, Status: k.Status, Untaught: append([]string{}, k.Untaught...),
			Instead: []string{}, Bits: spelling.Bridges(k.Segments, b),
		}
		if k.Status == texts.Untaught || k.Status == texts.Ambiguous {
			small := strings.ToLower(k.Text)
			if w.Comes = t.Coming[small]; w.Comes > 0 && !slices.Contains(out.NewExceptions, small) {
				out.NewExceptions = append(out.NewExceptions, small)
			}
			if readable == nil {
				readable = readableWords(t)
			}
			w.Instead = append(w.Instead, texts.Instead(k.Text, can, readable)...)
		}
		out.Words = append(out.Words, w)
	}
	return out
}

// readableWords are the well-known words that the class can read.
func readableWords(t gather.Taught) []*lexicon.Entry {
	out := []*lexicon.Entry{}
	q := words.Query{Taught: t.Pairs, Familiarity: wellKnown, Exclude: t.Refused}
	for _, c := range words.Find(q, t.Conv.Speech()) {
		e, _ := lexicon.Find(c.Word)
		out = append(out, e)
	}
	return out
}

// MadeSentence is a made sentence, always to be read before use. Pieces are empty where it cannot be cut.
type MadeSentence struct {
	texts.Suggestion
	Pieces []string `json:"pieces"`
}

const suggested = 12

// Sentences makes sentences from what a class has been taught.
func (w Words) Sentences(ctx context.Context, by tx.Actor, q FindQuery) ([]MadeSentence, error) {
	return parseQuery(ctx, w, by, q, func(_ store.Library, t gather.Taught) ([]MadeSentence, error) {
		out := []MadeSentence{}
		query := texts.SuggestQuery{
			Taught: t.Pairs, Exceptions: t.Exceptions, Targets: t.Targets(), Exclude: t.Refused, Count: suggested,
		}
		for _, s := range texts.Suggest(query, t.Conv.Speech(), q.chance(47)) {
			pieces, err := texts.Chop(s.Text)
			if err != nil {
				pieces = []string{}
			}
			out = append(out, MadeSentence{s, pieces})
		}
		return out, nil
	})
}

// Chop cuts a sentence into pieces to be put in order.
func (w Words) Chop(text string) ([]string, error) {
	pieces, err := texts.Chop(text)
	return pieces, fault.At("text", err)
}

// BankView is a text of the bank against what a class has been taught.
type BankView struct {
	store.BankText
	Decodable float64  `json:"decodable" doc:"share of words that the class can read, 0 to 1; 0 without a class"`
	Missing   []string `json:"missing" doc:"pairs not yet taught"`
	Remarks   []string `json:"remarks"`
}

// Bank lists the team's sentences and pages; classID may be empty.
func (w Words) Bank(ctx context.Context, by tx.Actor, classID string) ([]BankView, error) {
	return tx.Read(ctx, w.Env, by, func(s store.Library) ([]BankView, error) {
		rows, err := s.Bank(ctx)
		if err != nil {
			return nil, err
		}
		var t gather.Taught
		if classID != "" {
			if t, err = gather.TaughtSet(ctx, s, classID, ""); err != nil {
				return nil, err
			}
		}
		out := []BankView{}
		for _, r := range rows {
			v := BankView{BankText: r, Missing: []string{}, Remarks: []string{}}
			if classID != "" {
				v.against(t)
			}
			out = append(out, v)
		}
		return out, nil
	})
}

func (v *BankView) against(t gather.Taught) {
	report := texts.Check(v.Body, t.Pairs, t.Exceptions, t.Conv.Speech())
	v.Decodable = report.Decodable
	v.Remarks = append(v.Remarks, report.Remarks...)
	for _, k := range report.Tokens {
		for _, p := range k.Untaught {
			if !slices.Contains(v.Missing, p) {
				v.Missing = append(v.Missing, p)
			}
		}
	}
}

// Bounds of a text of the bank, in bytes.
const (
	MaxSentence = 200
	MaxPage     = 2_000
)

// AddToBank stores a sentence or a page for the whole team.
func (w Words) AddToBank(ctx context.Context, by tx.Actor, t lesson.Text) (string, error) {
	return tx.Write(ctx, w.Env, by, tx.MayEdit, func(s store.Library) (string, error) {
		return AddText(ctx, s, by, t, w.Env.Now())
	})
}

// maxBook is the longest title of a book, in bytes.
const maxBook = 80

// AddText adds a text to the team's collection and returns its id.
func AddText(ctx context.Context, s store.Library, by tx.Actor, t lesson.Text, now time.Time) (string, error) {
	t.Body, t.Book = strings.TrimSpace(t.Body), strings.TrimSpace(t.Book)
	most := map[string]int{"sentence": MaxSentence, "page": MaxPage}[t.Kind]
	switch {
	case most == 0:
		return "", fault.In("kind", "The bank keeps sentences and pages.")
	case t.Body == "":
		return "", fault.In("body", "There is no text to keep.")
	case len(t.Body) > most:
		return "", fault.In("body", "The %s is longer than %d signs.", t.Kind, most)
	case len(t.Book) > maxBook || t.Page < 0 || t.Page > 999:
		return "", fault.In("book", "The title of a book has up to %d signs, its pages are from 1 to 999.", maxBook)
	}
	id, err := s.AddBankText(ctx, by.MemberID, t, now)
	if errors.Is(err, store.ErrTaken) {
		return "", fault.In("body", "The bank has this text already.")
	}
	return id, err
}

// DropFromBank takes a text out of use, or brings it back.
func (w Words) DropFromBank(ctx context.Context, by tx.Actor, textID string, archived bool) error {
	return tx.Exec(ctx, w.Env, by, tx.MayEdit, func(s store.Library) error {
		return s.ArchiveBankText(ctx, textID, w.Env.NowIf(archived))
	})
}
