package table_test

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"brightchalk/internal/core/card"
	"brightchalk/internal/core/convention"
	"brightchalk/internal/core/spelling"
	"brightchalk/internal/core/table"
)

const here = "southern-british"

func rows(lines ...string) table.Sheet {
	s := table.Sheet{}
	for _, l := range lines {
		s.Rows = append(s.Rows, strings.Split(l, "|"))
	}
	return s
}

func TestASheetIsRead(t *testing.T) {
	for _, c := range []struct {
		name   string
		sheet  table.Sheet
		kind   table.Kind
		in     table.Mapping
		header bool
	}{
		{"named words", rows("No|Word|Letters", "1|ship|sh"), table.Words, table.Mapping{"word": 1, "grapheme": 2}, true},
		{"only words", rows("ship", "shop", "dish"), table.Words, table.Mapping{"word": 0}, false},
		{"words and spellings", rows("sh|ship", "ee|feet", "ow|cow"), table.Words, table.Mapping{
			"word": 1, "grapheme": 0,
		}, false},
		{"only sentences", rows("Dad had a hot pan.", "Pip hid in a hat."), table.Sentences, table.Mapping{
			"sentence": 0,
		}, false},
		{"cards", rows("Grapheme|IPA|Key word|Rhyme|Action", "m|m|moorhen|Mum moorhen.|Rub."), table.Cards, table.Mapping{
			"grapheme": 0, "sound": 1, "keyword": 2, "rhyme": 3, "action": 4,
		}, true},
		{"an order", rows("Step|GPC", "1|s", "2|a"), table.Order, table.Mapping{"grapheme": 1, "step": 0}, true},
		{"an order of spellings alone", rows("s", "a", "t", "p"), table.Order, table.Mapping{"grapheme": 0}, false},
		{"big letters and blanks", rows(" WORD |", "Ship|"), table.Words, table.Mapping{"word": 0}, true},
	} {
		kind, in, header := table.Guess(c.sheet, here)
		assert.Equal(t, c.kind, kind, c.name)
		assert.Equal(t, c.in, in, c.name)
		assert.Equal(t, c.header, header, c.name)
	}
}

func library() table.Library {
	k := func(id string, step int, grapheme, sound string, c card.Content) card.Card {
		return card.Card{ID: id, Step: step, Pair: spelling.Pair{Grapheme: grapheme, Sound: sound}, Content: c.Tidy()}
	}
	return table.Library{
		Conventions: convention.Conventions{Accent: here},
		Bank:        []string{"A cat sat."},
		Cards: []card.Card{
			k("s", 1, "s", "s", card.Content{Keyword: "swan", Action: "Glide."}),
			k("a", 2, "a", "æ", card.Content{}),
			k(
				"t",
				3,
				"t",
				"t",
				card.Content{},
			),
			k("p", 4, "p", "p", card.Content{Words: []string{"tap"}, Rejected: []string{"pat"}}),
			k("i", 5, "i", "ɪ", card.Content{}),
			k("n", 6, "n", "n", card.Content{}),
			k("sh", 7, "sh", "ʃ", card.Content{}),
			k("ow", 8, "ow", "əʊ", card.Content{}),
		},
	}
}

func lineOf(t *testing.T, k table.Kind, head, line, fallback string) table.Line {
	t.Helper()
	s := rows(head, line)
	m, header := table.Columnwise(s, k, here)
	require.True(t, header)
	got := library().Read(s, k, m, header, fallback)
	require.Len(t, got, 1)
	assert.Equal(t, 2, got[0].Row)
	return got[0]
}

func TestWhatBecomesOfWords(t *testing.T) {
	for line, want := range map[string]struct {
		card     string
		standing card.Standing
		doubt    bool
		why      string
	}{
		"tap|p":     {"p", card.Same, false, ""},
		"Sip|":      {"i", card.New, false, ""},  // i comes last of s i p
		"shin|":     {"sh", card.New, false, ""}, // sh comes last
		"snap|a":    {"a", card.New, false, ""},
		"quit|":     {"i", card.New, true, "reads its “qu” so"},
		"pass|":     {"p", card.New, true, "reads its"}, // its a is ɑː here
		"sass|":     {"a", card.New, false, ""},         // ss is read as s is
		"nap|s":     {"s", card.New, true, "does not hold s"},
		"pat|p":     {"p", card.New, true, "refused it"},
		"snoww|ow":  {"ow", card.New, true, "snow"},
		"ship ship": {"", card.Unfit, false, "no single word"},
		"|p":        {"", card.Unfit, false, "no word"},
		"tap|oy":    {"", card.Unfit, false, "no card for it yet"},
		"tap|zz9":   {"", card.Unfit, false, "unknown pair"},
		"gun|n":     {"", card.Unfit, false, "kept out"},
		"'-ing|n":   {"", card.Unfit, false, "does not"},
	} {
		got := lineOf(t, table.Words, "word|grapheme", line, "")
		if line == "'-ing|n" { // a guard of the table before a word that is none
			assert.Equal(t, "-ing", got.Text)
			continue
		}
		assert.Equal(t, want.card, got.CardID, line)
		assert.Equal(t, want.standing, got.Standing, "%s: %s", line, got.Why)
		assert.Equal(t, want.doubt, got.Doubt, line)
		assert.Contains(t, got.Why, want.why, line)
	}
	assert.Equal(t, "a", lineOf(t, table.Words, "word", "snap", "a").CardID, "the card chosen for all")
	twice := rows("word|grapheme", "sat|a", "SAT|a", "|", "sat|t")
	m, _ := table.Columnwise(twice, table.Words, here)
	got := library().Read(twice, table.Words, m, true, "")
	require.Len(t, got, 3, "an empty line is none")
	assert.Equal(t, "it stands in line 2 already", got[1].Why)
	assert.Equal(t, card.New, got[2].Standing, "on another card")
}

func TestWhatBecomesOfSentencesAndCards(t *testing.T) {
	got := lineOf(t, table.Sentences, "sentence|grapheme", "A cat sat.|", "")
	assert.Equal(t, card.Same, got.Standing)
	assert.Empty(t, got.CardID, "in the bank")
	got = lineOf(t, table.Sentences, "sentence|grapheme", "The ship is in.|sh", "")
	assert.Equal(t, "sh", got.CardID)
	assert.False(t, got.Doubt)
	assert.True(t, lineOf(t, table.Sentences, "sentence|grapheme", "A cat sat on it.|sh", "").Doubt)
	assert.Contains(t, lineOf(t, table.Sentences, "sentence", "He has a gun.", "").Why, "“gun” is kept out")
	assert.Equal(t, card.Unfit, lineOf(t, table.Sentences, "sentence", strings.Repeat("a cat ", 40), "").Standing)

	head := "grapheme|keyword|action|words|sentences"
	got = lineOf(t, table.Cards, head, "s|swan|Glide.||", "")
	assert.Equal(t, card.Same, got.Standing)
	got = lineOf(t, table.Cards, head, "s|swan|Wave.|sat; Sip,sun|One, two. Three.", "")
	assert.Equal(t, card.Different, got.Standing)
	assert.Equal(t, []string{"sat", "sip", "sun"}, got.Content.Words)
	assert.Equal(t, []string{"One, two. Three."}, got.Content.Sentences)
	assert.Equal(t, card.FieldLine{Field: "action", Mine: "Glide.", Theirs: "Wave."}, got.Fields[0])
	got = lineOf(t, table.Cards, head, "ee|eel|Slip.||", "")
	assert.Equal(t, card.New, got.Standing)
	assert.Equal(t, spelling.Pair{Grapheme: "ee", Sound: "iː"}, got.Pair)
	assert.Contains(t, lineOf(t, table.Cards, head, "ng|"+strings.Repeat("k", 41)+"|||", "").Why, "keyword: ")
	assert.Equal(t, card.Unfit, lineOf(t, table.Cards, head, "|swan|||", "").Standing)
}

func TestAnOrderOutOfASheet(t *testing.T) {
	s := rows("step|grapheme", "2|s", "1|t", "x|a", "3|ow")
	m, header := table.Columnwise(s, table.Order, here)
	lines := library().Read(s, table.Order, m, header, "")
	order, unnamed := library().ParseOrder(lines)
	assert.Equal(t, []string{"t", "s", "ow"}, order[:3], "ow goes to the card of its other sound")
	assert.Equal(t, []string{"a", "p", "i", "n", "sh"}, unnamed)
	assert.Len(t, order, 8)
}

func TestFormulasAreGuarded(t *testing.T) {
	for _, text := range []string{"=1+1", "+4", "-ing", "@home"} {
		assert.Equal(t, "'"+text, table.Guarded(text))
	}
	assert.Equal(t, "a=b", table.Guarded("a=b"))
	assert.Empty(t, table.Guarded(""))
}

// Each bound of what a column looks like and of what a line may be, from both of its sides.
func TestTheBoundsOfATable(t *testing.T) {
	// A needed column that no line names is found by what stands in it; an optional one is not.
	m, header := table.Columnwise(rows("ship|sh|a ship", "shop|sh|a shop"), table.Words, here)
	assert.False(t, header)
	assert.Equal(t, table.Mapping{"word": 0, "grapheme": 1}, m)
	m, _ = table.Columnwise(rows("b|be", "c|at"), table.Words, here)
	assert.Equal(t, 1, m["word"], "a word has two letters")
	m, _ = table.Columnwise(rows("go|1", "to|2"), table.Words, here)
	assert.Equal(t, table.Mapping{"word": 0}, m, "a number is no spelling")
	m, _ = table.Columnwise(rows("eight|eigh", "weigh|eigh"), table.Words, here)
	assert.Equal(t, 1, m["grapheme"], "four letters are a spelling")
	// Of two columns of words the one with the longer words is it.
	m, _ = table.Columnwise(rows("at|cat", "in|pin"), table.Words, here)
	assert.Equal(t, 1, m["word"])
	m, _ = table.Columnwise(rows("cat|at", "pin|in"), table.Words, here)
	assert.Equal(t, 0, m["word"])
	m, _ = table.Columnwise(rows("qzx|cat", "dog|pin", "mop|tap"), table.Words, here)
	assert.Equal(t, 1, m["word"], "more of them are words")

	long := "a cat sat " + strings.Repeat("a", 190)
	require.Len(t, long, 200)
	assert.NotContains(t, lineOf(t, table.Sentences, "sentence", long, "").Why, "longer")
	assert.Contains(t, lineOf(t, table.Sentences, "sentence", long+"a", "").Why, "longer than 200 signs")
	assert.NotContains(t, lineOf(t, table.Words, "word|grapheme", strings.Repeat("a", 24)+"|a", "").Why, "no single word")
	assert.Contains(t, lineOf(t, table.Words, "word|grapheme", strings.Repeat("a", 25)+"|a", "").Why, "no single word")
	assert.Equal(t, "s", lineOf(t, table.Words, "word|grapheme", "sun|s", "").CardID, "the first card of the library")
	assert.Equal(t, "s", lineOf(t, table.Words, "word|grapheme|sound", "sun|s|s", "").CardID)

	full := library()
	var many []string
	for i := range 80 {
		many = append(many, "word"+strings.Repeat("x", i%7)+string(rune('a'+i%26)))
	}
	full.Cards[0].Words = many[:len(many)-1]
	s := rows("word|grapheme", "sat|s")
	m, header = table.Columnwise(s, table.Words, here)
	assert.Equal(t, card.New, full.Read(s, table.Words, m, header, "")[0].Standing, "room for one more")
	full.Cards[0].Words = many
	assert.Contains(t, full.Read(s, table.Words, m, header, "")[0].Why, "as many words as it can")

	// A line without a step stands where it stands.
	s = rows("step|grapheme", "|t", "1|s")
	m, header = table.Columnwise(s, table.Order, here)
	order, _ := library().ParseOrder(library().Read(s, table.Order, m, header, ""))
	assert.Equal(t, []string{"t", "s"}, order[:2])
	s = rows("step|grapheme", "2|t", "|s")
	order, _ = library().ParseOrder(library().Read(s, table.Order, m, header, ""))
	assert.Equal(t, []string{"t", "s"}, order[:2], "of two at one step the first")

	// The same pair twice is one line of an order, or of cards, whatever else it says.
	s = rows("step|grapheme", "1|t", "9|t")
	lines := library().Read(s, table.Order, m, header, "")
	assert.Equal(t, "it stands in line 2 already", lines[1].Why)
	s = rows("word|grapheme|notes", "tap", "'=sum|a")
	m, header = table.Columnwise(s, table.Words, here)
	short := library().Read(s, table.Words, m, header, "p")
	assert.Equal(t, card.Same, short[0].Standing, "a line may end early")
	assert.Equal(t, "=sum", short[1].Text)
}

// What a column is taken for is a share of its cells, whatever their number; lines are told apart by what they are.
func TestSharesAndTwins(t *testing.T) {
	m, _ := table.Columnwise(rows("qzx|1", "cat|2", "zzq|3", "dog|4", "vvq|5", "xqz|6"), table.Words, here)
	assert.NotContains(t, m, "word", "a third are words")
	m, _ = table.Columnwise(rows("at|cat", "in|", "on|dog", "up|", "am|"), table.Words, here)
	assert.Equal(t, 1, m["word"], "longer words in fewer cells")
	m, _ = table.Columnwise(rows("at|cat", "|dog", "|pin", "|qqx"), table.Words, here)
	assert.Equal(t, 0, m["word"], "all of one against three of four")

	s := rows("word|grapheme", "sat|a", "cat|a", "'|a")
	m, header := table.Columnwise(s, table.Words, here)
	got := library().Read(s, table.Words, m, header, "")
	assert.Equal(t, card.New, got[0].Standing)
	assert.Equal(t, card.New, got[1].Standing, "another word of the same card")
	assert.Equal(t, "'", got[2].Text, "a quote that guards nothing")
	s = rows("grapheme|keyword", "ng|ring", "ng|king", "ee|ring")
	m, header = table.Columnwise(s, table.Cards, here)
	got = library().Read(s, table.Cards, m, header, "")
	assert.Equal(t, []card.Standing{card.New, card.Unfit, card.New},
		[]card.Standing{got[0].Standing, got[1].Standing, got[2].Standing}, "one card for each pair")

	level := library()
	for i := range level.Cards {
		level.Cards[i].Step = 1
	}
	s = rows("word", "tap")
	m, header = table.Columnwise(s, table.Words, here)
	assert.Equal(t, "t", level.Read(s, table.Words, m, header, "")[0].CardID, "of cards of one step the first")
}
