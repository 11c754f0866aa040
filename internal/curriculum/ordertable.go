package curriculum

import (
	"context"
	"io"
	"slices"
	"strconv"
	"strings"

	"brightchalk/internal/core/card"
	"brightchalk/internal/core/fault"
	"brightchalk/internal/core/table"
	"brightchalk/internal/sheet"
	reader "brightchalk/internal/sheet"
	"brightchalk/internal/store"
	"brightchalk/internal/tx"
)

// OrderColumns say in which columns of a table its parts stand; empty where it has none.
type OrderColumns struct {
	Grapheme string `json:"grapheme" maxLength:"80"`
	Sound    string `json:"sound" maxLength:"80"`
	Step     string `json:"step" maxLength:"80"`
}

// OrderRow is a line of a table as it was read.
type OrderRow struct {
	Line     int    `json:"line" doc:"of the file, from 1"`
	Grapheme string `json:"grapheme"`
	Sound    string `json:"sound"`
	CardID   string `json:"card_id" doc:"the card that it names; empty where there is none"`
	Problem  string `json:"problem" doc:"why it is left out; empty where it is not"`
}

// OrderTable is what a table of an order says, before anything of it is kept.
type OrderTable struct {
	Columns []string     `json:"columns" doc:"of the table, by their names"`
	Taken   OrderColumns `json:"taken" doc:"which columns were read"`
	Rows    []OrderRow   `json:"rows"`
	Order   []string     `json:"order" doc:"card ids: those of the table, then those that it does not name"`
	Unnamed []string     `json:"unnamed" doc:"card ids that the table does not name"`
}

// ReadOrder reads an order out of a table with a line for each step. Columns that are not named are found by what they
// are usually called, or by what stands in them. Nothing is kept.
func (o Orders) ReadOrder(ctx context.Context, by tx.Actor, text string, columns OrderColumns) (OrderTable, error) {
	out := OrderTable{Rows: []OrderRow{}, Order: []string{}, Unnamed: []string{}}
	l, err := tx.Read(ctx, o.Env, by, func(s store.Library) (orderLibrary, error) {
		return readOrderLibrary(ctx, s)
	})
	if err != nil {
		return out, err
	}
	sheet, err := reader.CSV([]byte(text))
	if err == nil && len(sheet.Rows) < 2 {
		err = fault.New(reader.ErrNoTable, "The table needs a line for each step.")
	}
	if err != nil {
		return out, fault.At("text", err)
	}
	out.read(sheet, columns, l.table())
	return out, nil
}

// table is the library that a table is held against.
func (l orderLibrary) table() table.Library {
	t := table.Library{Conventions: l.conv}
	for _, id := range l.order {
		t.Cards = append(t.Cards, l.cards[id])
	}
	return t
}

func (t *OrderTable) read(s table.Sheet, columns OrderColumns, l table.Library) {
	m, header := table.Columnwise(s, table.Order, l.Conventions.Accent)
	t.Columns = s.Rows[0]
	for i := range t.Columns {
		t.Columns[i] = strings.TrimSpace(t.Columns[i])
	}
	for key, to := range map[string]struct {
		named string
		taken *string
	}{
		table.Grapheme: {columns.Grapheme, &t.Taken.Grapheme},
		table.Sound:    {columns.Sound, &t.Taken.Sound},
		table.Step:     {columns.Step, &t.Taken.Step},
	} {
		if i := slices.Index(t.Columns, to.named); i >= 0 {
			m[key], header = i, true
		}
		if i, ok := m[key]; ok && i < len(t.Columns) {
			*to.taken = t.Columns[i]
		}
	}
	if _, ok := m[table.Grapheme]; !ok {
		return // the screen asks
	}
	lines := l.Read(s, table.Order, m, header, "")
	for _, x := range lines {
		r := OrderRow{
			Line:     x.Row,
			Grapheme: t.cell(s, m, x.Row, table.Grapheme),
			Sound:    t.cell(s, m, x.Row, table.Sound),
		}
		r.CardID, r.Problem = x.CardID, x.Why
		if x.Standing == card.Unfit {
			r.CardID = ""
		}
		t.Rows = append(t.Rows, r)
	}
	t.Order, t.Unnamed = l.ParseOrder(lines)
	t.Unnamed = append([]string{}, t.Unnamed...)
}

func (t *OrderTable) cell(s table.Sheet, m table.Mapping, row int, key string) string {
	i, ok := m[key]
	if !ok || i >= len(s.Rows[row-1]) {
		return ""
	}
	return strings.TrimSpace(s.Rows[row-1][i])
}

// OrderCSV writes the order that stands as a table: step, grapheme, sound, exception words.
func (o Orders) OrderCSV(ctx context.Context, by tx.Actor, w io.Writer) error {
	l, err := tx.Read(ctx, o.Env, by, func(s store.Library) (orderLibrary, error) {
		return readOrderLibrary(ctx, s)
	})
	if err != nil {
		return err
	}
	rows := [][]string{{"step", "grapheme", "sound", "exception_words"}}
	for i, id := range l.order {
		k := l.cards[id]
		rows = append(
			rows,
			[]string{strconv.Itoa(i + 1), k.Pair.Grapheme, k.Pair.Sound, strings.Join(k.Exceptions, " ")},
		)
	}
	return sheet.WriteCSV(w, table.Sheet{Rows: rows})
}
