package handout

import (
	"math/rand/v2"
	"slices"
	"strings"
	"unicode"

	"brightchalk/internal/core/lesson"
	"brightchalk/internal/core/lexicon"
	"brightchalk/internal/core/phoneme"
	"brightchalk/internal/core/spelling"
	"brightchalk/internal/core/texts"
	"brightchalk/internal/core/words"
)

// ReadWords are the words that children read from paper, the targets' first. Words that are only heard are not among
// them.
func (h Handout) ReadWords() []string {
	list := slices.Concat(h.items(lesson.Read, lesson.WordItem), h.items(lesson.Older, lesson.WordItem))
	slices.SortStableFunc(list, func(a, b lesson.Item) int {
		rank := func(it lesson.Item) int {
			if it.Role == lesson.TargetRole {
				return 0
			}
			return 1
		}
		return rank(a) - rank(b)
	})
	return values(list)
}

// ExceptionWords are those of the lesson: of its own step, and of its sentence and page.
func (h Handout) ExceptionWords() []string {
	out := values(h.items(lesson.Exceptions, lesson.WordItem))
	for _, text := range append(h.Sentences(), h.page()) {
		for token := range strings.FieldsSeq(text) {
			word := strings.ToLower(strings.Trim(token, ".,!?;:“”‘’\"'()–—"))
			if slices.Contains(h.Lesson.Known, word) && !slices.Contains(out, word) {
				out = append(out, word)
			}
		}
	}
	return out
}

// SpellWords are the words that children write, with as many sounds as a frame holds.
func (h Handout) SpellWords() []string {
	return slices.DeleteFunc(values(h.items(lesson.Spell, lesson.WordItem)), func(w string) bool {
		_, bits := h.Bits(w)
		return len(bits) < 2 || len(bits) > 7
	})
}

// Sentences are those of the lesson.
func (h Handout) Sentences() []string { return values(h.items(lesson.Sentence, lesson.SentenceItem)) }

// Chopped is a sentence that is cut into pieces, which are mixed.
type Chopped struct {
	Sentence string
	Pieces   []string
}

// Chopped are the sentences of the lesson that can be cut and put in order in one way only.
func (h Handout) Chopped() []Chopped {
	var out []Chopped
	for i, s := range h.Sentences() {
		if pieces := h.onBoard(s); len(pieces) > 1 {
			out = append(out, Chopped{s, pieces})
			continue
		}
		cut, err := texts.Chop(s)
		if err != nil {
			continue
		}
		given := slices.Clone(cut)
		rng := rand.New(rand.NewPCG(h.Lesson.Seed, uint64(300+i)))
		for slices.Equal(cut, given) {
			rng.Shuffle(len(cut), func(i, j int) { cut[i], cut[j] = cut[j], cut[i] })
		}
		out = append(out, Chopped{s, cut})
	}
	return out
}

// onBoard are the pieces of a sentence as the board shows them, so that board and paper agree.
func (h Handout) onBoard(sentence string) []string {
	for _, s := range h.Lesson.Steps {
		if s.Kind == lesson.Sentence && len(s.Items) > 0 && s.Items[0].Value == sentence {
			return s.Pieces
		}
	}
	return nil
}

func (h Handout) page() string {
	if list := values(h.items(lesson.Page, lesson.PageItem)); len(list) > 0 {
		return list[0]
	}
	return ""
}

// Page is a text to read together.
type Page struct {
	Title     string
	Text      string
	Questions []string
	Holders   []Holder
	Picture   string // a word of the text that can be drawn; empty where there is none
}

// Holder says which words of a text have a target.
type Holder struct {
	Target Target
	Words  []string // each as often as it stands there
}

// Page is the page of the lesson, or else its sentences; false where it has neither.
func (h Handout) Page() (Page, bool) {
	p := Page{Text: h.page(), Questions: values(h.items(lesson.Page, lesson.QuestionItem))}
	if p.Text == "" {
		p.Text = strings.Join(h.Sentences(), "\n")
		p.Questions = nil
	}
	if p.Text == "" {
		return p, false
	}
	p.Title, p.Picture = h.title(p.Text)
	p.Holders = h.holders(p.Text)
	return p, true
}

func (h Handout) holders(text string) []Holder {
	var out []Holder
	for _, t := range h.Targets {
		held := Holder{Target: t}
		for token := range strings.FieldsSeq(text) {
			if word, _ := h.Bits(token); h.Holds(token, t) > 0 {
				held.Words = append(held.Words, word)
			}
		}
		out = append(out, held)
	}
	return out
}

// title names a text by who or what it is about most: a name, or the thing that stands there most often and can be
// drawn. The picture is a word with a picture of ours.
func (h Handout) title(text string) (title, picture string) {
	names, things := map[string]int{}, map[string]int{}
	var nameOrder, thingOrder []string
	begins := true
	for token := range strings.FieldsSeq(text) {
		word, _ := h.Bits(token)
		low := strings.ToLower(word)
		first := []rune(word + " ")[0]
		_, known := lexicon.Find(low)
		switch {
		case h.speech.Pictured(low):
			if things[low]++; things[low] == 1 {
				thingOrder = append(thingOrder, low)
			}
		case unicode.IsUpper(first) && len(word) > 1 && (!begins && !known || h.speech.Named(low)):
			if names[word]++; names[word] == 1 {
				nameOrder = append(nameOrder, word)
			}
		}
		begins = strings.ContainsAny(token, ".!?")
	}
	best := func(order []string, count map[string]int) string {
		out := ""
		for _, w := range order {
			if out == "" || count[w] > count[out] {
				out = w
			}
		}
		return out
	}
	name, thing := best(nameOrder, names), best(thingOrder, things)
	switch {
	case name != "" && thing != "" && things[thing] > 1:
		return name + " and the " + thing, thing
	case name != "":
		return name, thing
	case thing != "":
		return "The " + thing, thing
	}
	return "", ""
}

// LetterHunt is a text in which children ring the targets.
type LetterHunt struct {
	Text   string
	Counts []Count
}

// Count says how often a target stands in a text: its spelling with its sound, by how the words are cut.
type Count struct {
	Target Target
	N      int
}

// minHunted is how often a page holds the targets when it serves as a hunt.
const minHunted = 4

// LetterHunt is the text of the letter hunt, or else the page where it holds the targets often enough.
func (h Handout) LetterHunt() (LetterHunt, bool) {
	text, minCount := "", 1
	if list := values(h.items(lesson.LetterHunt, lesson.TextItem)); len(list) > 0 {
		text = list[0]
	} else if p, ok := h.Page(); ok {
		text, minCount = p.Text, minHunted
	}
	out := LetterHunt{Text: text}
	found := 0
	for _, t := range h.Targets {
		n := 0
		for token := range strings.FieldsSeq(text) {
			n += h.Holds(token, t)
		}
		if found += n; n > 0 {
			out.Counts = append(out.Counts, Count{t, n})
		}
	}
	return out, found >= minCount
}

// Group is a part of a list of words.
type Group struct {
	Head  string
	Words []string
}

// Bank are all words of the lesson, to be used when children write: with each target, others, exception words.
func (h Handout) Bank() []Group {
	all := h.ReadWords()
	for _, w := range append(h.SpellWords(), h.ringWords()...) {
		if !slices.Contains(all, w) {
			all = append(all, w)
		}
	}
	var out []Group
	used := map[string]bool{}
	for _, t := range h.Targets {
		g := Group{Head: t.Label}
		for _, w := range all {
			if h.Holds(w, t) > 0 && !used[w] {
				used[w] = true
				g.Words = append(g.Words, w)
			}
		}
		if len(g.Words) > 0 {
			out = append(out, g)
		}
	}
	others := Group{Head: "more words"}
	for _, w := range h.ReadWords() {
		if !used[w] {
			others.Words = append(others.Words, w)
		}
	}
	for _, g := range []Group{others, {"words to know", h.ExceptionWords()}} {
		if len(g.Words) > 0 {
			out = append(out, g)
		}
	}
	return out
}

func (h Handout) ringWords() []string {
	var out []string
	for _, r := range h.Lesson.Rings {
		if len(r.Letters) > 0 {
			out = append(out, r.Word)
		}
	}
	return out
}

// most things on a list for one target.
const maxThings = 6

// Begins tells whether the things of a target are told apart by how they begin.
func (h Handout) Begins(t Target) bool { return h.thingsFor(t).begin }

// things are the pictures for a target, and whether they begin with it.
type things struct {
	begin bool
	words []string
}

// things looks the things of a target up once: a sheet asks for them several times.
func (h Handout) thingsFor(t Target) things {
	if found, ok := h.things[t.ID]; ok {
		return found
	}
	var out things
	if words.CheckPosition(h.speech.Accent, phoneme.Phoneme(t.Pair.Sound), words.Initial) == nil {
		out = things{true, h.pictured(t, true)}
	}
	if len(out.words) < 3 {
		out = things{false, h.pictured(t, false)}
	}
	h.things[t.ID] = out
	return out
}

// Things are pictures for a target, those of the lesson first: their names begin with the target's sound in the
// target's spelling, so that no shark stands under c; where too few do, they hold it.
func (h Handout) Things(t Target) []string { return h.thingsFor(t).words }

func (h Handout) pictured(t Target, begins bool) []string {
	var out []string
	add := func(w string) {
		_, bits := h.Bits(w)
		if len(out) >= maxThings || slices.Contains(out, w) || h.refused[w] || !h.speech.Pictured(w) || len(bits) == 0 {
			return
		}
		fits := func(b spelling.Bit) bool { return b.Grapheme == t.Pair.Grapheme && b.Sound == t.Pair.Sound }
		if begins && fits(bits[0]) || !begins && slices.ContainsFunc(bits, fits) {
			out = append(out, w)
		}
	}
	for _, it := range h.items(lesson.Ear, lesson.PictureItem) {
		if it.Basket != lesson.HasNot {
			add(it.Value)
		}
	}
	sounds, err := phoneme.Parse(h.speech.Accent, t.Pair.Sound)
	if err != nil {
		return out
	}
	if len(sounds) == 1 {
		places := []words.Position{words.Initial}
		if !begins {
			places = []words.Position{words.Initial, words.Final, words.Medial}
		}
		for _, at := range places {
			for _, w := range words.EarPictures(sounds[0], at, t.Pair.Grapheme, nil, h.speech) {
				add(w)
			}
		}
		return out
	}
	pool := lexicon.For(h.speech.Accent, h.speech.Units) // a unit of two sounds
	for _, it := range pool.With(t.Pair) {
		if it.Picturable() {
			add(it.Word)
		}
	}
	return out
}

// Hunt are things for a hunt at home, by target, the best known first. A target without things is left out.
func (h Handout) Hunt() []Group {
	var out []Group
	each := max(2, maxThings/max(1, len(h.Targets)))
	for _, t := range h.Targets {
		list := slices.Clone(h.Things(t))
		slices.SortStableFunc(list, func(a, b string) int { return familiarity(b) - familiarity(a) })
		if len(list) > 0 {
			out = append(out, Group{t.Named(), list[:min(each, len(list))]})
		}
	}
	return out
}

func familiarity(w string) int {
	e, _ := lexicon.Find(w)
	return e.Familiarity
}

// Compound is a word of two words that both can be drawn.
type Compound struct{ Word, First, Second string }

// maxCompounds is how many a sheet holds.
const maxCompounds = 5

// Compounds are picture compounds: those of the lesson first, then some that children of five say.
func (h Handout) Compounds() []Compound {
	var out []Compound
	add := func(word string) {
		first, second, ok := words.Halves(word)
		if ok && len(out) < maxCompounds && !h.refused[word] && h.speech.Pictured(first) && h.speech.Pictured(second) &&
			!slices.ContainsFunc(out, func(c Compound) bool { return c.Word == word }) {
			out = append(out, Compound{word, first, second})
		}
	}
	for _, w := range values(h.items(lesson.WordPlay, lesson.WordItem)) {
		add(w)
	}
	for _, w := range words.CompoundWords() {
		e, ok := lexicon.Find(w)
		if ok && e.Familiarity >= 4 && slices.ContainsFunc(h.Targets, func(t Target) bool { return h.Holds(w, t) > 0 }) {
			add(w)
		}
	}
	return out
}

// CapitalCards are the cards of one letter whose capitals are written: of the lesson's own step, or else its targets.
func (h Handout) CapitalCards() []lesson.CardFace {
	var out []lesson.CardFace
	add := func(f lesson.CardFace) {
		if f.Pair.Letters() == 1 && !slices.ContainsFunc(out, func(o lesson.CardFace) bool { return o.ID == f.ID }) {
			out = append(out, f)
		}
	}
	for _, id := range values(h.items(lesson.Capitals, lesson.CardItem)) {
		add(h.Lesson.Cards[id])
	}
	if len(out) == 0 {
		for _, t := range h.Targets {
			add(t.CardFace)
		}
	}
	return out
}

// PictureWords are the words whose pictures the sheets show beside those of the lesson's own items.
func (h Handout) PictureWords() []string {
	var out []string
	for _, t := range h.Targets {
		out = append(append(out, h.Things(t)...), t.Keyword)
	}
	for _, c := range h.Compounds() {
		out = append(out, c.First, c.Second)
	}
	if p, ok := h.Page(); ok {
		out = append(out, p.Picture)
	}
	slices.Sort(out)
	return slices.Compact(slices.DeleteFunc(out, func(w string) bool { return w == "" }))
}
