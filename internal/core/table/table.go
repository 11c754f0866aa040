// Package table reads what a team has in spreadsheets: words, sentences, whole cards, an order. It finds which column
// holds what, and says of each line what would become of it before anything is kept.
package table

import (
	"slices"
	"strings"
	"unicode"
	"unicode/utf8"

	"brightchalk/internal/core/card"
	"brightchalk/internal/core/convention"
	"brightchalk/internal/core/lexicon"
	"brightchalk/internal/core/phoneme"
	"brightchalk/internal/core/prose"
	"brightchalk/internal/core/spelling"
)

// Kind is what the lines of a table are.
type Kind string

// Kinds of tables.
const (
	Words     Kind = "words"
	Sentences Kind = "sentences"
	Cards     Kind = "cards"
	Pages     Kind = "pages" // of books
	Order     Kind = "order"
)

// Kinds are all kinds, the most usual first.
func Kinds() []Kind { return []Kind{Words, Sentences, Cards, Pages, Order} }

// Sheet is a sheet of a table: its lines as they stand in the file.
type Sheet struct {
	Name  string     `json:"name"`
	Rows  [][]string `json:"rows"`
	Notes []string   `json:"notes" doc:"what was done to read it"`
}

// Column is something that a line of a kind may hold.
type Column struct {
	Key    string   `json:"key"`
	Title  string   `json:"title"`
	Needed bool     `json:"needed"`
	Usual  []string `json:"-"` // how the column is mostly called, in small letters
}

// Keys of the columns that are no fields of a card.
const (
	Word     = "word"
	Sentence = "sentence"
	Grapheme = "grapheme"
	Sound    = "sound"
	Step     = "step"
	Text     = "text"
	Book     = "book"
	Page     = "page"
)

var (
	graphemeColumn = Column{
		Grapheme, "Spelling", false, []string{"grapheme", "graphemes", "letters", "letter", "spelling", "gpc", "pair"},
	}
	soundColumn = Column{Sound, "Sound", false, []string{"sound", "phoneme", "ipa", "pronunciation"}}
)

func needed(c Column) Column {
	c.Needed = true
	return c
}

// fieldColumns are the fields of a card that tables hold.
func fieldColumns() []Column {
	var out []Column
	for _, f := range card.Fields {
		if len(f.ColumnNames) > 0 {
			out = append(out, Column{f.Name, prose.Capital(f.Label), false, f.ColumnNames})
		}
	}
	return out
}

// Columns are those of a kind, the needed ones first.
func Columns(k Kind) []Column {
	switch k {
	case Words:
		return []Column{{Word, "Word", true, []string{"word", "words", "example"}}, graphemeColumn, soundColumn}
	case Sentences:
		return []Column{
			{Sentence, "Sentence", true, []string{"sentence", "sentences", "text", "phrase"}}, graphemeColumn, soundColumn,
		}
	case Cards:
		return append([]Column{needed(graphemeColumn), soundColumn}, fieldColumns()...)
	case Pages:
		return []Column{
			{Text, "Text of the page", true, []string{"text", "page text", "words on the page", "body"}},
			{Book, "Book", true, []string{"book", "title", "book title", "reader"}},
			{Page, "Page", false, []string{"page", "page number", "p", "p.", "no", "number"}},
		}
	case Order:
		return []Column{
			needed(graphemeColumn), soundColumn,
			{Step, "Step", false, []string{"step", "order", "number", "no", "no.", "place", "position", "#"}},
		}
	}
	return nil
}

// Mapping says in which column of a sheet, from 0, a thing stands, by its key.
type Mapping map[string]int

// Guess finds what a sheet holds: its kind, which column is what, and whether its first line names them.
func Guess(s Sheet, a phoneme.Accent) (Kind, Mapping, bool) {
	best, most := Words, -1
	for _, k := range Kinds() {
		m := named(s, k)
		score := 0
		for _, c := range Columns(k) {
			if _, ok := m[c.Key]; ok {
				score++
				if c.Needed {
					score += 2
				}
			} else if c.Needed {
				score -= 4
			}
		}
		if len(m) > 0 && score > most {
			best, most = k, score
		}
	}
	if most > 0 {
		m, header := Columnwise(s, best, a)
		return best, m, header
	}
	for _, k := range []Kind{Sentences, Words, Order} {
		if m, header := Columnwise(s, k, a); complete(k, m) {
			return k, m, header
		}
	}
	m, header := Columnwise(s, Words, a)
	return Words, m, header
}

func complete(k Kind, m Mapping) bool {
	return !slices.ContainsFunc(Columns(k), func(c Column) bool {
		_, ok := m[c.Key]
		return c.Needed && !ok
	})
}

// Columnwise finds which column is what for a kind: by the names in the first line, and where one that is needed is not
// named by what stands in the columns.
func Columnwise(s Sheet, k Kind, a phoneme.Accent) (Mapping, bool) {
	m := named(s, k)
	header := len(m) > 0
	rows := s.Rows
	if header {
		rows = rows[1:]
	}
	for _, c := range Columns(k) {
		if _, ok := m[c.Key]; ok || !c.Needed && c.Key != Grapheme && c.Key != Sound {
			continue
		}
		if i := looksLike(rows, c.Key, a, m); i >= 0 {
			m[c.Key] = i
		}
	}
	return m, header
}

func named(s Sheet, k Kind) Mapping {
	m := Mapping{}
	if len(s.Rows) == 0 {
		return m
	}
	taken := map[int]bool{}
	for _, c := range Columns(k) {
	usual:
		for _, usual := range c.Usual {
			for i, cell := range s.Rows[0] {
				if !taken[i] && strings.EqualFold(strings.TrimSpace(cell), usual) {
					m[c.Key], taken[i] = i, true
					break usual
				}
			}
		}
	}
	return m
}

// shareNeeded is the share of cells that must look like something for the column to be taken for it.
const shareNeeded = 0.7

// looksLike is the free column whose cells look most like a thing, of equal ones that with the longer texts; -1 where
// none does.
func looksLike(rows [][]string, key string, a phoneme.Accent, m Mapping) int {
	wide := 0
	for _, r := range rows {
		wide = max(wide, len(r))
	}
	best, most, longest := -1, shareNeeded, 0.0
	for i := range wide {
		if slices.ContainsFunc(columnValues(m), func(at int) bool { return at == i }) {
			continue
		}
		cells, like, signs := 0.0, 0.0, 0.0
		for _, r := range rows {
			text := cell(r, i)
			if text == "" {
				continue
			}
			cells++
			signs += float64(utf8.RuneCountInString(text))
			if looks(text, key, a) {
				like++
			}
		}
		if cells == 0 {
			continue
		}
		if share, length := like/cells, signs/cells; share > most || share == most && length > longest {
			best, most, longest = i, share, length
		}
	}
	return best
}

func columnValues(m Mapping) []int {
	out := make([]int, 0, len(m))
	for _, i := range m {
		out = append(out, i)
	}
	return out
}

const (
	longestGrapheme = 5
	shortestWord    = 2
)

func looks(text, key string, a phoneme.Accent) bool {
	switch key {
	case Word:
		return oneWord(text) && utf8.RuneCountInString(text) >= shortestWord && lexicon.IsWord(strings.ToLower(text))
	case Sentence:
		return strings.Contains(strings.TrimSpace(text), " ")
	case Grapheme:
		if utf8.RuneCountInString(text) > longestGrapheme && !strings.Contains(text, "=") {
			return false
		}
		_, err := spelling.ParsePair(a, text)
		return err == nil
	case Sound:
		_, err := phoneme.Parse(a, bare(text))
		return err == nil && text != ""
	}
	return false
}

func oneWord(text string) bool {
	for _, r := range text {
		if !unicode.IsLetter(r) && r != '\'' && r != '’' && r != '-' {
			return false
		}
	}
	return text != ""
}

// bare is a sound without the signs that are written around it.
func bare(sound string) string { return strings.Trim(sound, "/[] ") }

// cell is a cell as it is read: a quote before a sign with which formulas begin is the table's own guard.
func cell(row []string, i int) string {
	if i < 0 || i >= len(row) {
		return ""
	}
	text := strings.TrimSpace(row[i])
	if len(text) > 1 && text[0] == '\'' && strings.ContainsRune(formula, rune(text[1])) {
		text = text[1:]
	}
	return text
}

// formula are the signs with which a cell begins that a spreadsheet would work out.
const formula = "=+-@"

// Guarded is a text as it is written into a table, so that no spreadsheet takes it for a formula.
func Guarded(text string) string {
	if text != "" && strings.ContainsRune(formula+"\t\r", rune(text[0])) {
		return "'" + text
	}
	return text
}

// Library is what a table is held against.
type Library struct {
	Conventions convention.Conventions
	Cards       []card.Card // newest versions, in teaching order
	Bank        []string    // sentences and pages
}

// Line is a line of a table, and what would become of it.
type Line struct {
	Row      int              `json:"row" doc:"of the file, from 1"`
	Text     string           `json:"text" doc:"the word, the sentence or the keyword"`
	Pair     spelling.Pair    `json:"pair" doc:"empty where it goes to no card"`
	CardID   string           `json:"card_id" doc:"ours; empty where we have none"`
	Standing card.Standing    `json:"standing" enum:"new,same,different,unfit"`
	Why      string           `json:"why" doc:"why it has no place, or what to look at first"`
	Doubt    bool             `json:"doubt" doc:"it can be taken, but look first"`
	Fields   []card.FieldLine `json:"fields" doc:"of a card that differs"`
	Book     string           `json:"book" doc:"of a page"`
	Page     int              `json:"page" doc:"of the book, 0 where none is told"`
	Content  card.Content     `json:"-"` // of a card, where it comes in
}

// Read says what would become of each line. fallback is the card for words and sentences that name none; empty leaves
// words to the card from which on they can be read, and sentences to the bank.
func (l Library) Read(s Sheet, k Kind, m Mapping, header bool, fallback string) []Line {
	out := []Line{}
	seen := map[string]int{}
	for i, row := range s.Rows {
		if header && i == 0 || blank(row) {
			continue
		}
		line := l.line(k, row, m, fallback)
		line.Row = i + 1
		if line.Fields == nil {
			line.Fields = []card.FieldLine{}
		}
		key := strings.ToLower(line.Text) + " " + line.Pair.String()
		if k == Cards || k == Order {
			key = line.Pair.String()
		}
		if at, twice := seen[key]; twice && line.Standing != card.Unfit {
			line.Standing, line.Why = card.Unfit, "it stands in line "+itoa(at)+" already"
		} else if line.Standing != card.Unfit {
			seen[key] = line.Row
		}
		out = append(out, line)
	}
	return out
}

func blank(row []string) bool {
	return !slices.ContainsFunc(row, func(c string) bool { return strings.TrimSpace(c) != "" })
}

func at(row []string, m Mapping, key string) string {
	i, ok := m[key]
	if !ok {
		return ""
	}
	return cell(row, i)
}

func (l Library) line(k Kind, row []string, m Mapping, fallback string) Line {
	switch k {
	case Words:
		return l.word(row, m, fallback)
	case Sentences:
		return l.sentence(row, m, fallback)
	case Cards:
		return l.card(row, m)
	case Order:
		return l.place(row, m)
	case Pages:
		return l.page(row, m)
	}
	return unfit(Line{}, "it is no kind of line we know")
}

func unfit(x Line, why string) Line {
	x.Standing, x.Why = card.Unfit, why
	return x
}
