package exchange

import (
	"context"
	"encoding/json"
	"slices"
	"time"

	"brightchalk/internal/core/card"
	"brightchalk/internal/core/fault"
	"brightchalk/internal/core/lesson"
	"brightchalk/internal/core/table"
	"brightchalk/internal/gather"
	"brightchalk/internal/library"
	"brightchalk/internal/sheet"
	"brightchalk/internal/store"
	"brightchalk/internal/teaching"
	"brightchalk/internal/tx"
)

const sheetsFile = "sheets.json"

// sheets reads a table that is brought in.
func sheets(data []byte) ([]parcelFile, error) {
	list, err := sheet.Read(data)
	if err != nil {
		return nil, err
	}
	text, err := json.Marshal(list)
	return []parcelFile{{sheetsFile, store.Medium{MediaType: jsonType, Bytes: text}}}, err
}

// TableAsk says how a table is read. What is left out is found: Kind and Columns by the sheet itself.
type TableAsk struct {
	Sheet   int            `json:"sheet" minimum:"0" maximum:"20" doc:"from 0"`
	Kind    table.Kind     `json:"kind,omitempty" required:"false" enum:",words,sentences,cards,pages,order"`
	Columns map[string]int `json:"columns,omitempty" doc:"in which column of the sheet, from 0, a thing stands" required:"false"`
	Header  *bool          `json:"header,omitempty" doc:"the first line names the columns" required:"false"`
	CardID  string         `json:"card_id,omitempty" doc:"for words and sentences that name none" required:"false"`
}

// TableView is a table that lies there, and what would become of its lines.
type TableView struct {
	store.Parcel
	Sheets  []string       `json:"sheets"`
	Sheet   int            `json:"sheet" doc:"from 0"`
	CardID  string         `json:"card_id" doc:"for words and sentences that name none; may be empty"`
	Notes   []string       `json:"notes" doc:"what was done to read the sheet"`
	Heads   []string       `json:"heads" doc:"the first line of the sheet"`
	Sample  [][]string     `json:"sample" doc:"its next lines"`
	Kind    table.Kind     `json:"kind" enum:"words,sentences,cards,pages,order"`
	Wanted  []table.Column `json:"wanted" doc:"what lines of this kind may hold"`
	Columns map[string]int `json:"columns" doc:"in which column of the sheet, from 0, each stands"`
	Header  bool           `json:"header" doc:"the first line names the columns"`
	Lines   []table.Line   `json:"lines"`
	Order   []string       `json:"order" doc:"card ids, of a table that is an order"`
	Unnamed []string       `json:"unnamed" doc:"card ids that it does not name"`
}

const sampleRows = 4

// Table looks at a table that lies there.
func (p Imports) Table(ctx context.Context, by tx.Actor, parcelID string, ask TableAsk) (TableView, error) {
	return tx.Read(ctx, p.Env, by, func(s store.Library) (TableView, error) {
		v, _, _, err := tabled(ctx, s, parcelID, ask)
		return v, err
	})
}

func tabled(
	ctx context.Context,
	s store.Library,
	parcelID string,
	ask TableAsk,
) (v TableView, l table.Library, rows []store.Card, err error) {
	parcel, err := s.Parcel(ctx, parcelID)
	if err == nil && parcel.Kind != store.TableParcel {
		err = store.ErrNotFound
	}
	if err != nil {
		return v, l, nil, err
	}
	m, err := s.ParcelFile(ctx, parcelID, sheetsFile)
	if err != nil {
		return v, l, nil, err
	}
	var list []table.Sheet
	if err := json.Unmarshal(m.Bytes, &list); err != nil {
		return v, l, nil, err
	}
	if ask.Sheet >= len(list) {
		return v, l, nil, fault.In("sheet", "The table has %d sheets.", len(list))
	}
	if l, rows, err = tableLibrary(ctx, s); err != nil {
		return v, l, nil, err
	}
	v = TableView{
		Parcel: parcel,
		Sheet:  ask.Sheet,
		CardID: ask.CardID,
		Notes:  list[ask.Sheet].Notes,
		Sheets: []string{},
	}
	v.Order, v.Unnamed = []string{}, []string{}
	for _, x := range list {
		v.Sheets = append(v.Sheets, x.Name)
	}
	v.look(list[ask.Sheet], l, ask)
	return v, l, rows, nil
}

func (v *TableView) look(s table.Sheet, l table.Library, ask TableAsk) {
	accent := l.Conventions.Accent
	var m table.Mapping
	if v.Kind = ask.Kind; v.Kind == "" {
		v.Kind, m, v.Header = table.Guess(s, accent)
	} else {
		m, v.Header = table.Columnwise(s, v.Kind, accent)
	}
	if ask.Columns != nil {
		m = ask.Columns
	}
	if ask.Header != nil {
		v.Header = *ask.Header
	}
	v.Columns, v.Wanted = m, table.Columns(v.Kind)
	v.Heads = append([]string{}, s.Rows[0]...)
	v.Sample = append([][]string{}, s.Rows[min(1, len(s.Rows)):min(len(s.Rows), 1+sampleRows)]...)
	v.Lines = l.Read(s, v.Kind, m, v.Header, ask.CardID)
	if v.Kind == table.Order {
		v.Order, v.Unnamed = l.ParseOrder(v.Lines)
		v.Unnamed = append([]string{}, v.Unnamed...)
	}
}

func tableLibrary(ctx context.Context, s store.Library) (l table.Library, rows []store.Card, err error) {
	if l.Conventions, err = gather.Conventions(ctx, s); err != nil {
		return l, nil, err
	}
	if rows, err = s.Cards(ctx, false); err != nil {
		return l, nil, err
	}
	for _, r := range rows {
		_, c := gather.CardInAccent(l.Conventions, r)
		c.Content = c.Content.Tidy()
		l.Cards = append(l.Cards, c)
	}
	bank, err := s.Bank(ctx)
	for _, t := range bank {
		l.Bank = append(l.Bank, t.Body)
	}
	return l, rows, err
}

// TableChoice is which lines of a table are taken, by their rows.
type TableChoice struct {
	TableAsk
	Rows []int `json:"rows" maxItems:"2000" doc:"of the file, from 1"`
}

// BroughtLines says what was taken of a table.
type BroughtLines struct {
	Lines int      `json:"lines" doc:"that were taken"`
	Added int      `json:"added" doc:"cards"`
	Cards []string `json:"cards" doc:"ids of the cards that changed or came"`
	Bank  int      `json:"bank" doc:"sentences that went to the bank, pages of books among them"`
}

// TakeTable takes the chosen lines of a table that lies there into the library, as it is read with the same ask. An
// order is not taken here: it is proposed.
func (p Imports) TakeTable(
	ctx context.Context,
	by tx.Actor,
	parcelID string,
	choice TableChoice,
) (BroughtLines, error) {
	return tx.Write(ctx, p.Env, by, tx.MayEdit, func(s store.Library) (BroughtLines, error) {
		out := BroughtLines{Cards: []string{}}
		v, l, rows, err := tabled(ctx, s, parcelID, choice.TableAsk)
		if err != nil {
			return out, err
		}
		if v.Kind == table.Order {
			return out, fault.In("kind", "An order is proposed to the team as a whole, on the order desk.")
		}
		t := lineImporter{Library: s, by: by, now: p.Env.Now(), library: l, rows: rows, out: &out}
		t.contents = map[string]card.Content{}
		for _, x := range v.Lines {
			if !slices.Contains(choice.Rows, x.Row) || x.Standing == card.Unfit || x.Standing == card.Same {
				continue
			}
			if err := t.line(ctx, v.Kind, x); err != nil {
				return out, err
			}
			out.Lines++
		}
		if out.Lines == 0 {
			return out, fault.In("rows", "No line was chosen that is new or different.")
		}
		if err := t.keep(ctx); err != nil {
			return out, err
		}
		return out, s.DropParcel(ctx, parcelID)
	})
}

// lineImporter is lines of a table on their way into the library.
type lineImporter struct {
	store.Library
	by       tx.Actor
	now      time.Time
	library  table.Library
	rows     []store.Card
	contents map[string]card.Content // of cards that change
	out      *BroughtLines
}

func (t *lineImporter) line(ctx context.Context, k table.Kind, x table.Line) error {
	switch {
	case k == table.Pages || k == table.Sentences && x.CardID == "":
		text := lesson.Text{Kind: "sentence", Body: x.Text}
		if k == table.Pages {
			text = lesson.Text{Kind: "page", Body: x.Text, Book: x.Book, Page: x.Page}
		}
		_, err := teaching.AddText(ctx, t.Library, t.by, text, t.now.Add(time.Duration(t.out.Bank)*time.Millisecond))
		t.out.Bank++
		return err
	case x.CardID == "":
		return t.create(ctx, x)
	}
	c, ok := t.contents[x.CardID]
	if !ok {
		i := slices.IndexFunc(t.rows, func(r store.Card) bool { return r.CardID == x.CardID })
		c = t.rows[i].Content.Tidy()
	}
	switch k {
	case table.Words:
		c.Words = append(slices.Clone(c.Words), x.Text)
		c.Rejected = slices.DeleteFunc(slices.Clone(c.Rejected), func(w string) bool { return w == x.Text })
	case table.Sentences:
		c.Sentences = append(slices.Clone(c.Sentences), x.Text)
	case table.Cards, table.Order, table.Pages:
		c = x.Content
	}
	t.contents[x.CardID] = c.Tidy()
	return nil
}

// create makes a card of a line, at the end of the order.
func (t *lineImporter) create(ctx context.Context, x table.Line) error {
	all, err := t.Cards(ctx, true)
	if err != nil {
		return err
	}
	for _, c := range all {
		if c.Core(t.library.Conventions.Accent).Pair == x.Pair {
			return fault.In(
				"rows",
				"Line %d: your team has put a card for %s aside; bring that back first.",
				x.Row,
				x.Pair,
			)
		}
	}
	id, err := t.CreateCard(ctx, library.LastPosition(all)+1, x.Pair, store.CardEdit{
		State: card.Draft, Content: x.Content.Tidy(), By: &t.by.MemberID, Now: t.now,
	})
	t.out.Added++
	t.out.Cards = append(t.out.Cards, id)
	return err
}

// keep stores the cards that changed, each as one version.
func (t *lineImporter) keep(ctx context.Context) error {
	for _, r := range t.rows {
		content, ok := t.contents[r.CardID]
		if !ok {
			continue
		}
		for field, n := range map[string]int{"words": len(content.Words), "sentences": len(content.Sentences)} {
			if f, _ := card.FieldOf(field); n > f.MaxItems {
				return fault.In("rows", "The card %s would hold %d %s; %d are the most.", r.Grapheme, n, field, f.MaxItems)
			}
		}
		t.out.Cards = append(t.out.Cards, r.CardID)
	}
	return library.StoreContents(ctx, t.Library, t.by, t.rows, t.contents, t.now)
}
