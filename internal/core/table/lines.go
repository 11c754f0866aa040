package table

import (
	"cmp"
	"fmt"
	"slices"
	"strconv"
	"strings"
	"unicode/utf8"

	"brightchalk/internal/core/card"
	"brightchalk/internal/core/spelling"
)

func itoa(n int) string { return strconv.Itoa(n) }

// findCard is the card that a line names by its pair; ok is false where it names none.
func (l Library) findCard(row []string, m Mapping) (c *card.Card, pair spelling.Pair, ok bool, err error) {
	grapheme, sound := at(row, m, Grapheme), bare(at(row, m, Sound))
	if grapheme == "" {
		return nil, pair, false, nil
	}
	text := grapheme
	if sound != "" && !strings.Contains(grapheme, "=") {
		text += "=" + sound
	}
	pair, err = spelling.ParsePair(l.Conventions.Accent, text)
	if err != nil {
		return nil, pair, true, err
	}
	if i := slices.IndexFunc(l.Cards, func(c card.Card) bool { return c.Pair == pair }); i >= 0 {
		return &l.Cards[i], pair, true, nil
	}
	if sound == "" && !strings.Contains(grapheme, "=") { // a card of another sound of this spelling
		i := slices.IndexFunc(l.Cards, func(c card.Card) bool { return c.Pair.Grapheme == pair.Grapheme })
		if i >= 0 {
			return &l.Cards[i], l.Cards[i].Pair, true, nil
		}
	}
	return nil, pair, true, nil
}

func (l Library) byID(id string) *card.Card {
	if i := slices.IndexFunc(l.Cards, func(c card.Card) bool { return c.ID == id }); id != "" && i >= 0 {
		return &l.Cards[i]
	}
	return nil
}

// goesTo is the card that a line names, or the fallback where it names none; why says that it names one that is not
// there.
func (l Library) goesTo(row []string, m Mapping, fallback string) (c *card.Card, pair spelling.Pair, why string) {
	c, pair, named, err := l.findCard(row, m)
	switch {
	case err != nil:
		return nil, pair, strings.TrimSuffix(err.Error(), ".")
	case named && c == nil:
		return nil, pair, noCard
	case c == nil:
		c = l.byID(fallback)
	}
	return c, pair, ""
}

const noCard = "the library has no card for it yet: add it on the wall first"

func (l Library) word(row []string, m Mapping, fallback string) Line {
	x := Line{Text: strings.ToLower(at(row, m, Word)), Standing: card.New}
	x.Text = strings.ReplaceAll(x.Text, "’", "'")
	switch {
	case x.Text == "":
		return unfit(x, "there is no word in this line")
	case !oneWord(x.Text) || utf8.RuneCountInString(x.Text) > longestWord:
		return unfit(x, "it is no single word")
	}
	speech := l.Conventions.Speech()
	if theme, refused := speech.Refuses(x.Text); refused {
		return unfit(x, fmt.Sprintf("it is kept out of what children are offered (%s)",
			strings.ReplaceAll(string(theme), "-", " ")))
	}
	c, pair, why := l.goesTo(row, m, fallback)
	if x.Pair = pair; why != "" {
		return unfit(x, why)
	}
	missing := ""
	if c == nil {
		if c, missing = l.opens(x.Text); c == nil {
			return unfit(x, "no card of the library opens it: name its spelling, or choose a card for all")
		}
	}
	x.Pair, x.CardID = c.Pair, c.ID
	if slices.Contains(c.Words, x.Text) {
		x.Standing = card.Same
		return x
	}
	if slices.Contains(c.Rejected, x.Text) {
		x.Doubt, x.Why = true, "the team refused it on this card"
		return x
	}
	if len(c.Words) >= maxItems("words") {
		return unfit(x, "the card holds as many words as it can")
	}
	if missing != "" {
		x.Doubt, x.Why = true, fmt.Sprintf("no card of ours reads its “%s” so", missing)
		return x
	}
	one := *c
	one.Words = []string{x.Text}
	if flags := one.FlaggedWords(c.Content.Conventions(l.Conventions).Speech()); len(flags) > 0 {
		x.Doubt, x.Why = true, strings.TrimSuffix(flags[0].Text, ".")
	}
	return x
}

const (
	longestWord     = 24
	longestSentence = 200 // bytes
)

// opens is the card with which a word can first be read: the last in the order of those that it is made of. missing are
// the letters of the first part that is on none of them; a doubled letter is read by its single one.
func (l Library) opens(word string) (last *card.Card, missing string) {
	speech := l.Conventions.Speech()
	seg, err := speech.Segment(word)
	if err != nil {
		return nil, ""
	}
	taught := spelling.Set{}
	for _, c := range l.Cards {
		taught[c.Pair] = true
	}
	taught = taught.WithDoubles(speech.Accent)
	for _, s := range seg.Segments {
		if s.Odd || !taught[s.Pair] {
			missing = cmp.Or(missing, s.Grapheme)
			continue
		}
		i := slices.IndexFunc(l.Cards, func(c card.Card) bool { return c.Pair == s.Pair })
		if i >= 0 && (last == nil || l.Cards[i].Step > last.Step) {
			last = &l.Cards[i]
		}
	}
	return last, missing
}

func (l Library) sentence(row []string, m Mapping, fallback string) Line {
	x := Line{Text: at(row, m, Sentence), Standing: card.New}
	if x.Text == "" {
		return unfit(x, "there is no sentence in this line")
	}
	if len(x.Text) > longestSentence {
		return unfit(x, fmt.Sprintf("it is longer than %d signs", longestSentence))
	}
	if word, theme := l.refusedIn(x.Text); word != "" {
		return unfit(x, fmt.Sprintf("“%s” is kept out of what children are offered (%s)", word, theme))
	}
	c, pair, why := l.goesTo(row, m, fallback)
	if x.Pair = pair; why != "" {
		return unfit(x, why)
	}
	if c == nil { // to the bank
		if slices.Contains(l.Bank, x.Text) {
			x.Standing = card.Same
		}
		return x
	}
	x.Pair, x.CardID = c.Pair, c.ID
	switch {
	case slices.Contains(c.Sentences, x.Text):
		x.Standing = card.Same
	case len(c.Sentences) >= maxItems("sentences"):
		return unfit(x, "the card holds as many sentences as it can")
	case !l.holds(x.Text, c.Pair):
		x.Doubt, x.Why = true, fmt.Sprintf("no word of it holds %s as it sounds on this card", c.Pair.Grapheme)
	}
	return x
}

// holds tells whether a word of a sentence holds a pair.
func (l Library) holds(sentence string, p spelling.Pair) bool {
	speech := l.Conventions.Speech()
	for w := range strings.FieldsSeq(strings.ToLower(sentence)) {
		if seg, err := speech.Segment(strings.Trim(w, ".,;:!?“”‘’\"'()")); err == nil &&
			spelling.Holds(seg.Segments, p) {
			return true
		}
	}
	return false
}

// maxItems is how many items a list on a card holds.
func maxItems(field string) int {
	f, _ := card.FieldOf(field)
	return f.MaxItems
}

func (l Library) card(row []string, m Mapping) Line {
	x := Line{Text: at(row, m, "keyword"), Standing: card.New}
	c, pair, named, err := l.findCard(row, m)
	x.Pair = pair
	switch {
	case !named:
		return unfit(x, "there is no spelling in this line")
	case err != nil:
		return unfit(x, strings.TrimSuffix(err.Error(), "."))
	}
	var mine card.Content
	if c != nil {
		x.CardID, mine = c.ID, c.Content
	}
	mine = mine.Tidy()
	x.Content = mine
	for _, col := range fieldColumns() {
		text := at(row, m, col.Key)
		if text == "" {
			continue
		}
		if f, _ := card.FieldOf(col.Key); f.MaxItems > 0 {
			parted := func(r rune) bool { return strings.ContainsRune(f.Separators, r) }
			text = strings.Join(strings.FieldsFunc(text, parted), "\n")
			if col.Key == "words" {
				text = strings.ToLower(text)
			}
		}
		if x.Content, err = x.Content.Worded(col.Key, text); err != nil {
			return unfit(x, fmt.Sprintf("%s: %v", strings.ToLower(col.Title), err))
		}
	}
	x.Fields = card.Differences(mine, x.Content)
	switch {
	case c == nil:
		if theme, refused := l.Conventions.Speech().Refuses(x.Content.Keyword); refused {
			return unfit(x, fmt.Sprintf("its keyword is kept out of what children are offered (%s)",
				strings.ReplaceAll(string(theme), "-", " ")))
		}
	case len(x.Fields) == 0:
		x.Standing = card.Same
	default:
		x.Standing = card.Different
	}
	return x
}

// refusedIn is the first word of a text that is kept from children, with its theme; empty where there is none.
func (l Library) refusedIn(text string) (word, theme string) {
	speech := l.Conventions.Speech()
	for w := range strings.FieldsSeq(strings.ToLower(text)) {
		w = strings.Trim(w, ".,;:!?“”‘’\"'()")
		if theme, refused := speech.Refuses(w); refused {
			return w, strings.ReplaceAll(string(theme), "-", " ")
		}
	}
	return "", ""
}

const longestPage = 2000 // bytes

func (l Library) page(row []string, m Mapping) Line {
	x := Line{Text: at(row, m, Text), Book: at(row, m, Book), Standing: card.New}
	if n, err := strconv.Atoi(at(row, m, Page)); err == nil {
		x.Page = n
	}
	switch word, theme := l.refusedIn(x.Text); {
	case x.Text == "":
		return unfit(x, "there is no text in this line")
	case len(x.Text) > longestPage:
		return unfit(x, fmt.Sprintf("it is longer than %d signs", longestPage))
	case x.Page < 0 || x.Page > 999 || x.Page == 0 && at(row, m, Page) != "":
		return unfit(x, "the page “"+at(row, m, Page)+"” is no number from 1 to 999")
	case utf8.RuneCountInString(x.Book) > 80:
		return unfit(x, "the title of the book is longer than 80 signs")
	case slices.Contains(l.Bank, x.Text):
		x.Standing = card.Same
	case word != "":
		x.Doubt, x.Why = true, fmt.Sprintf(
			"“%s” is kept out of what children are offered (%s); it is in your book",
			word,
			theme,
		)
	}
	return x
}

func (l Library) place(row []string, m Mapping) Line {
	x := Line{Text: at(row, m, Step), Standing: card.Same}
	c, pair, named, err := l.findCard(row, m)
	x.Pair = pair
	switch {
	case !named:
		return unfit(x, "there is no spelling in this line")
	case err != nil:
		return unfit(x, strings.TrimSuffix(err.Error(), "."))
	case c == nil:
		return unfit(x, noCard)
	}
	if x.Text != "" {
		if _, err := strconv.Atoi(x.Text); err != nil {
			return unfit(x, "the step “"+x.Text+"” is no number")
		}
	}
	x.Pair, x.CardID = c.Pair, c.ID
	return x
}

// ParseOrder is an order of teaching as a table says it: the ids of the cards of its lines by their steps, then
// those of the library that it does not name, which come back too.
func (l Library) ParseOrder(lines []Line) (order, unnamed []string) {
	type placed struct {
		id   string
		step int
	}
	var steps []placed
	for i, x := range lines {
		if x.Standing == card.Unfit {
			continue
		}
		step := i + 1
		if n, err := strconv.Atoi(x.Text); err == nil {
			step = n
		}
		steps = append(steps, placed{x.CardID, step})
	}
	slices.SortStableFunc(steps, func(a, b placed) int { return a.step - b.step })
	for _, p := range steps {
		order = append(order, p.id)
	}
	for _, c := range l.Cards {
		if !slices.Contains(order, c.ID) {
			unnamed = append(unnamed, c.ID)
		}
	}
	return append(order, unnamed...), unnamed
}
