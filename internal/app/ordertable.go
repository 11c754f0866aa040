package app

import (
	"context"
	"encoding/csv"
	"errors"
	"io"
	"slices"
	"strconv"
	"strings"

	"brightchalk/internal/core/fault"
	"brightchalk/internal/core/spelling"
	"brightchalk/internal/core/year"
)

// ErrNoTable says that a text is no table of an order.
const ErrNoTable fault.Code = "no-table"

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
	Columns []string     `json:"columns" nullable:"false" doc:"of the table, by their names"`
	Taken   OrderColumns `json:"taken" doc:"which columns were read"`
	Rows    []OrderRow   `json:"rows" nullable:"false"`
	Order   []string     `json:"order" nullable:"false" doc:"card ids: those of the table, then those that it does not name"`
	Unnamed []string     `json:"unnamed" nullable:"false" doc:"card ids that the table does not name"`
}

// usualColumns are how the columns are mostly called.
var usualColumns = map[string][]string{
	"grapheme": {"grapheme", "graphemes", "letters", "letter", "spelling", "gpc"},
	"sound":    {"sound", "phoneme", "ipa", "pronunciation"},
	"step":     {"step", "order", "number", "no", "no.", "place", "position", "#"},
}

const mostTable = 2000 // lines

// ReadOrder reads an order out of a table with a line for each step. Columns that are not named are found by what they
// are usually called. Nothing is kept.
func (o Orders) ReadOrder(ctx context.Context, by Actor, text string, columns OrderColumns) (OrderTable, error) {
	out := OrderTable{Rows: []OrderRow{}, Order: []string{}, Unnamed: []string{}}
	l, err := read(ctx, o.desk, by, func(s orderStore) (orderLibrary, error) {
		return orderLibraryOf(ctx, s, year.On(o.desk.now()))
	})
	if err != nil {
		return out, err
	}
	rows, err := table(text)
	if err != nil {
		return out, fault.At("text", err)
	}
	out.Columns = rows[0]
	out.choose(columns)
	steps := l.read(&out, rows[1:])
	slices.SortStableFunc(steps, func(a, b placed) int { return a.step - b.step })
	for _, p := range steps {
		out.Order = append(out.Order, p.id)
	}
	for _, id := range l.order {
		if !slices.Contains(out.Order, id) {
			out.Unnamed = append(out.Unnamed, id)
		}
	}
	out.Order = append(out.Order, out.Unnamed...)
	return out, nil
}

type placed struct {
	id   string
	step int
}

func table(text string) ([][]string, error) {
	text = strings.TrimPrefix(text, "\ufeff")
	first, _, _ := strings.Cut(text, "\n")
	r := csv.NewReader(strings.NewReader(text))
	r.FieldsPerRecord, r.TrimLeadingSpace, r.LazyQuotes = -1, true, true
	for _, comma := range []rune{'\t', ';'} {
		if strings.ContainsRune(first, comma) && !strings.Contains(first, ",") {
			r.Comma = comma
		}
	}
	var out [][]string
	for {
		row, err := r.Read()
		if errors.Is(err, io.EOF) {
			break
		}
		if err != nil || len(out) > mostTable {
			return nil, fault.New(ErrNoTable, "This is no table of an order, or it has more than %d lines.", mostTable)
		}
		out = append(out, row)
	}
	if len(out) < 2 {
		return nil, fault.New(ErrNoTable, "The table needs a line with the names of its columns, and a line for each step.")
	}
	return out, nil
}

// choose finds the columns; where none is of graphemes, the screen asks.
func (t *OrderTable) choose(c OrderColumns) {
	for i, name := range t.Columns {
		t.Columns[i] = strings.TrimSpace(name)
	}
	pick := func(named, kind string) string {
		if slices.Contains(t.Columns, named) {
			return named
		}
		for _, usual := range usualColumns[kind] {
			for _, name := range t.Columns {
				if strings.EqualFold(name, usual) {
					return name
				}
			}
		}
		return ""
	}
	t.Taken = OrderColumns{pick(c.Grapheme, "grapheme"), pick(c.Sound, "sound"), pick(c.Step, "step")}
}

// read finds the card of each row.
func (l orderLibrary) read(t *OrderTable, rows [][]string) []placed {
	if t.Taken.Grapheme == "" {
		return nil
	}
	column := func(name string) int { return slices.Index(t.Columns, name) }
	cell := func(row []string, name string) string {
		if i := column(name); name != "" && i >= 0 && i < len(row) {
			return strings.TrimSpace(row[i])
		}
		return ""
	}
	seen := map[string]int{}
	var out []placed
	for i, row := range rows {
		r := OrderRow{Line: i + 2, Grapheme: cell(row, t.Taken.Grapheme), Sound: cell(row, t.Taken.Sound)}
		if r.Grapheme == "" && r.Sound == "" {
			continue
		}
		step := i + 1
		if text := cell(row, t.Taken.Step); text != "" {
			n, err := strconv.Atoi(text)
			if err != nil {
				r.Problem = "the step “" + text + "” is no number"
			}
			step = n
		}
		if r.Problem == "" {
			r.CardID, r.Problem = l.cardOf(r.Grapheme, r.Sound)
		}
		if line, twice := seen[r.CardID]; twice && r.CardID != "" {
			r.CardID, r.Problem = "", "it stands in line "+strconv.Itoa(line)+" already"
		}
		if r.CardID != "" {
			seen[r.CardID] = r.Line
			out = append(out, placed{r.CardID, step})
		}
		t.Rows = append(t.Rows, r)
	}
	return out
}

// cardOf is the card of a pair as a table writes it, or why there is none.
func (l orderLibrary) cardOf(grapheme, sound string) (id, problem string) {
	text := strings.ToLower(grapheme)
	if sound != "" {
		text += "=" + strings.Trim(sound, "/ ")
	}
	pair, err := spelling.ParsePair(l.conv.Accent, text)
	if err != nil {
		return "", strings.TrimSuffix(err.Error(), ".")
	}
	for _, id := range l.order {
		if l.cards[id].Pair == pair {
			return id, ""
		}
	}
	if sound == "" { // a card of another sound of this spelling
		for _, id := range l.order {
			if l.cards[id].Pair.Grapheme == pair.Grapheme {
				return id, ""
			}
		}
	}
	return "", "the library has no card for it yet: add it on the wall first"
}

// OrderCSV writes the order that stands as a table: step, grapheme, sound, exception words.
func (o Orders) OrderCSV(ctx context.Context, by Actor, w io.Writer) error {
	l, err := read(ctx, o.desk, by, func(s orderStore) (orderLibrary, error) {
		return orderLibraryOf(ctx, s, year.On(o.desk.now()))
	})
	if err != nil {
		return err
	}
	c := csv.NewWriter(w)
	_ = c.Write([]string{"step", "grapheme", "sound", "exception_words"})
	for i, id := range l.order {
		k := l.cards[id]
		_ = c.Write([]string{strconv.Itoa(i + 1), k.Pair.Grapheme, k.Pair.Sound, strings.Join(k.Exceptions, " ")})
	}
	c.Flush()
	return c.Error()
}
