package exchange

import (
	"context"
	"io"
	"slices"
	"strconv"
	"strings"
	"time"

	"brightchalk/internal/core/card"
	"brightchalk/internal/core/fault"
	"brightchalk/internal/core/table"
	"brightchalk/internal/sheet"
	"brightchalk/internal/store"
	"brightchalk/internal/tx"
)

// OutTable is a table that the library is written as.
type OutTable string

// Tables of the library.
const (
	CardsOut     OutTable = "cards"
	WordsOut     OutTable = "words"
	SentencesOut OutTable = "sentences"
	VoicesOut    OutTable = "voices"
)

// OutTables are all tables of the library, as they stand in a workbook.
var OutTables = []OutTable{CardsOut, WordsOut, SentencesOut, VoicesOut}

// CSV writes one table of the library, in its newest versions.
func (x Exports) CSV(ctx context.Context, by tx.Actor, which OutTable, w io.Writer) error {
	s, err := tx.Read(ctx, x.Env, by, func(s store.Library) (table.Sheet, error) { return readTable(ctx, s, which) })
	if err != nil {
		return err
	}
	return sheet.WriteCSV(w, s)
}

// Workbook writes all tables of the library as one workbook.
func (x Exports) Workbook(ctx context.Context, by tx.Actor, w io.Writer) error {
	list, err := tx.Read(ctx, x.Env, by, func(s store.Library) ([]table.Sheet, error) {
		var out []table.Sheet
		for _, which := range OutTables {
			t, err := readTable(ctx, s, which)
			if err != nil {
				return nil, err
			}
			out = append(out, t)
		}
		return out, nil
	})
	if err != nil {
		return err
	}
	return sheet.WriteWorkbook(w, list)
}

func readTable(ctx context.Context, s store.Library, which OutTable) (table.Sheet, error) {
	t := table.Sheet{Name: string(which)}
	l, rows, err := tableLibrary(ctx, s)
	if err != nil {
		return t, err
	}
	switch which {
	case CardsOut:
		t.Rows = cardRows(l, rows)
	case WordsOut:
		t.Rows = [][]string{{"word", "grapheme", "sound"}}
		for _, c := range l.Cards {
			for _, w := range c.Words {
				t.Rows = append(t.Rows, []string{w, c.Pair.Grapheme, c.Pair.Sound})
			}
		}
	case SentencesOut:
		t.Rows = [][]string{{"sentence", "grapheme", "sound"}}
		for _, c := range l.Cards {
			for _, x := range c.Sentences {
				t.Rows = append(t.Rows, []string{x, c.Pair.Grapheme, c.Pair.Sound})
			}
		}
		for _, x := range l.Bank {
			t.Rows = append(t.Rows, []string{x, "", ""})
		}
	case VoicesOut:
		t.Rows, err = voiceRows(ctx, s, l)
	default:
		err = fault.In("table", "There is no table of this name.")
	}
	return t, err
}

// listSign parts the items of a list in one cell; a sentence may hold commas.
var listSign = map[string]string{"words": ", ", "exceptions": ", ", "sentences": "\n"}

// cardRows are all cards with all that people write on them, under the names by which they come in again.
func cardRows(l table.Library, rows []store.Card) [][]string {
	head := []string{"step", "grapheme", "sound"}
	var fields []string
	for _, c := range table.Columns(table.Cards) {
		if _, ok := (card.Content{}).Wording(c.Key); ok {
			fields = append(fields, c.Key)
		}
	}
	head = append(append(head, fields...), "state", "sound recorded", "changed on", "changed by")
	out := [][]string{head}
	for i, c := range l.Cards {
		row := []string{strconv.Itoa(c.Step), c.Pair.Grapheme, c.Pair.Sound}
		for _, f := range fields {
			text, _ := c.Wording(f)
			if sign, ok := listSign[f]; ok {
				text = strings.ReplaceAll(text, "\n", sign)
			}
			row = append(row, text)
		}
		r := rows[i]
		out = append(
			out,
			append(row, string(c.State), yesNo(c.HasTake), r.UpdatedAt.Format(time.DateOnly), r.UpdatedBy),
		)
	}
	return out
}

func yesNo(yes bool) string { return map[bool]string{true: "yes", false: "no"}[yes] }

func voiceRows(ctx context.Context, s store.Library, l table.Library) ([][]string, error) {
	out := [][]string{{"grapheme", "sound", "speaker", "agreed on", "recorded on", "verdict"}}
	takes, err := s.ChosenTakes(ctx)
	for _, c := range l.Cards {
		i := slices.IndexFunc(takes, func(t store.Take) bool { return t.CardID == c.ID })
		if i < 0 {
			continue
		}
		t := takes[i]
		out = append(out, []string{
			c.Pair.Grapheme, c.Pair.Sound, t.Speaker, t.ConsentOn.Format(time.DateOnly),
			t.CreatedAt.Format(time.DateOnly), string(t.Verdict),
		})
	}
	return out, err
}
