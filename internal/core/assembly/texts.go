package assembly

import (
	"cmp"
	"fmt"
	"slices"
	"strings"
	"time"

	"brightchalk/internal/core/knowledge"
	"brightchalk/internal/core/lesson"
	"brightchalk/internal/core/lexicon"
	"brightchalk/internal/core/prose"
	"brightchalk/internal/core/review"
	"brightchalk/internal/core/spelling"
	"brightchalk/internal/core/step"
	"brightchalk/internal/core/texts"
)

type knownCards = knowledge.Known

func shaky(k knownCards) int {
	if k.Seen.Sure <= review.Shaky {
		return 1
	}
	return 0
}

func metWhen(k knownCards, now time.Time) string {
	if k.Seen.Last.IsZero() || k.Declared {
		return "known by this class"
	}
	days := int(now.Sub(k.Seen.Last).Hours()/24 + 0.5)
	switch {
	case days <= 0:
		return "met today"
	case days == 1:
		return "met yesterday"
	}
	return fmt.Sprintf("met %d days ago", days)
}

// brief gathers all that the steps of the routine may be filled from.
func (a *assembler) brief() *step.FillInput {
	b := &step.FillInput{
		Purpose: a.Purpose, Conventions: a.Conventions, Speech: a.speech, Targets: a.Targets, Class: a.known,
		Letters: a.Letters, Now: a.Now, Seed: a.Seed, Clues: a.Clues, NoWords: nil,
	}
	b.Class.Met = a.Class.Met
	for _, t := range a.Targets {
		for _, w := range t.Exceptions {
			if w = strings.ToLower(w); !a.Class.Exceptions[w] {
				b.NewWords = append(b.NewWords, w)
			}
		}
	}
	for w := range a.Class.Exceptions {
		b.OldWords = append(b.OldWords, w)
	}
	slices.Sort(b.OldWords)
	rng := step.Chance(a.Seed, "exceptions")
	rng.Shuffle(len(b.OldWords), func(i, j int) { b.OldWords[i], b.OldWords[j] = b.OldWords[j], b.OldWords[i] })
	has := func(k lesson.Kind) bool {
		return slices.ContainsFunc(a.Routine.Steps, func(s lesson.RoutineStep) bool { return s.Kind == k })
	}
	for _, s := range a.Routine.Steps {
		if s.Kind == lesson.Read {
			b.ReadShare = s.Options.OlderShare()
			break
		}
	}
	if has(lesson.Sentence) || has(lesson.Page) || has(lesson.LetterHunt) {
		maker := a.maker()
		b.Sentences, b.NoSentence = a.sentences(maker)
		b.Pages = a.pages(maker)
	}
	meet := map[string]bool{} // in the sentence and the page: these words travel first
	for _, list := range [][]step.Text{b.Sentences, b.Pages} {
		for _, t := range list[:min(1, len(list))] {
			for _, w := range t.Holds {
				meet[w] = true
			}
		}
	}
	if b.Words, b.Older = a.travel(meet), a.olderWords(); len(b.Words)+len(b.Older) == 0 {
		b.NoWords = a.noWords()
	}
	if has(lesson.LetterHunt) {
		b.Hunts = a.hunts(b)
	}
	if has(lesson.Story) {
		b.Story = a.story()
	}
	return b
}

func (a *assembler) pairs() []spelling.Pair {
	out := make([]spelling.Pair, len(a.Targets))
	for i, t := range a.Targets {
		out[i] = t.Pair
	}
	return out
}

const madeSentences = 4

func (a *assembler) maker() *texts.Maker {
	return texts.NewMaker(texts.SuggestQuery{
		Taught: a.known.Pairs, Exceptions: a.known.Exceptions, Targets: a.pairs(), Exclude: a.known.Refused,
		Count: madeSentences,
	}, a.speech)
}

const allReadable = "every word can be read or is a taught exception word"

// text reads a sentence or a page: fits is false where something in it cannot be read yet, lacks says what.
func (a *assembler) text(body string, from lesson.Origin, sentence bool) (t step.Text, fits bool, lacks string) {
	r := texts.Check(body, a.known.Pairs, a.known.Exceptions, a.speech)
	t = step.Text{Body: body, Words: len(r.Tokens), Origin: from}
	var held []string
	covered := map[int]bool{}
	for _, k := range r.Tokens {
		if w := strings.ToLower(
			k.Text,
		); k.Status != texts.Exception && a.holdsTarget(k.Segments) &&
			!slices.Contains(held, w) {
			held = append(held, w)
			for i, c := range a.Targets {
				covered[i] = covered[i] || spelling.Holds(k.Segments, c.Pair)
			}
		}
		if len(k.Untaught) > 0 && k.Status != texts.Exception && lacks == "" {
			lacks = fmt.Sprintf("“%s” needs %s, not yet taught", k.Text, strings.Join(k.Untaught, ", "))
		}
	}
	t.Because = lesson.Reason{Code: string(from), Text: allReadable}
	t.Holds, t.Held = held, len(held)
	for _, c := range covered {
		if c {
			t.Covers++
		}
	}
	if len(held) > 0 {
		t.Because.Text = "holds " + strings.Join(held, ", ") + "; " + allReadable
	}
	fits = r.Fits()
	if !sentence {
		fits = r.Decodable == 1 && len(r.Tokens) > 0
	}
	return t, fits, lacks
}

const maxTexts = 8

// sentences are those of the cards, then of the bank, then made ones, all with a target, those with two words of it
// before those with one; only where there are none, others of the bank, which say so.
func (a *assembler) sentences(maker *texts.Maker) (out []step.Text, why string) {
	var without []step.Text
	onCard := 0
	add := func(body string, from lesson.Origin) {
		there := slices.ContainsFunc(out, func(t step.Text) bool { return t.Body == body })
		t, fits, lacks := a.text(body, from, true)
		switch {
		case there:
		case !fits:
			if from == lesson.FromCard && why == "" {
				why = lacks
			}
		case t.Held > 0 || len(a.Targets) == 0:
			out = append(out, t)
			if from == lesson.FromCard {
				onCard++
			}
		default:
			without = append(without, t)
		}
	}
	for _, c := range a.Targets {
		for _, s := range c.Sentences {
			add(s, lesson.FromCard)
		}
	}
	if why != "" && onCard == 0 {
		a.note(noteCard, "No sentence of the card can be used yet: %s.", why)
	}
	for _, s := range a.Bank {
		if s.Kind == "sentence" {
			add(s.Body, lesson.FromBank)
		}
	}
	for _, m := range maker.Sentences(step.Chance(a.Seed, "sentences")) {
		add(m.Text, lesson.MadeByRule)
	}
	if len(out) == 0 {
		var list []string
		for _, w := range a.travel(nil) {
			list = append(list, w.Value)
		}
		for _, body := range maker.Plain(list) {
			add(body, lesson.MadeByRule)
		}
	}
	slices.SortStableFunc(out, func(x, y step.Text) int {
		return cmp.Or(cmp.Compare(origins[x.Origin], origins[y.Origin]),
			cmp.Compare(y.Covers, x.Covers), cmp.Compare(min(2, y.Held), min(2, x.Held)))
	})
	if len(out) == 0 && len(without) > 0 {
		a.note(noteWithout, "No sentence with the sound can be read or made yet; this one is without it.")
		for i := range without {
			without[i].Because.Text = "without the sound: none with it can be made yet; " + allReadable
		}
		out = without
	}
	other(out)
	return out[:min(len(out), maxTexts)], why
}

// other brings a text with another word of the target to the second place: two that are held practise two words.
func other(list []step.Text) {
	for i := 1; i < len(list); i++ {
		if slices.ContainsFunc(list[i].Holds, func(w string) bool { return !slices.Contains(list[0].Holds, w) }) {
			t := list[i]
			copy(list[2:i+1], list[1:i])
			list[1] = t
			return
		}
	}
}

// origins are the order in which texts are offered.
var origins = map[lesson.Origin]int{lesson.FromCard: 0, lesson.FromBank: 1, lesson.MadeByRule: 2}

// pages are those of the bank with at least three words of the target, then one that is composed.
func (a *assembler) pages(maker *texts.Maker) []step.Text {
	var out []step.Text
	for _, p := range a.Bank {
		if p.Kind != "page" {
			continue
		}
		if t, fits, _ := a.text(p.Body, lesson.FromBank, false); fits && (t.Held >= texts.MinHeld || len(a.Targets) == 0) {
			t.Questions = bankQuestions(p.Body)
			out = append(out, t)
		}
	}
	if made, ok := maker.Page(step.Chance(a.Seed, "page")); ok {
		if t, fits, _ := a.text(made.Body, lesson.MadeByRule, false); fits && t.Held >= texts.MinHeld {
			t.Title, t.Questions = made.Title, made.Questions
			out = append(out, t)
		}
	}
	return out
}

// bankQuestions ask about a page of the team's: the thing found, the reason of a statement, what comes next.
func bankQuestions(body string) []string {
	out := []string{"Who or what is it about? Show it in the text."}
	lines := strings.FieldsFunc(body, func(r rune) bool { return r == '\n' })
	for _, l := range slices.Backward(lines) {
		first, _, _ := strings.Cut(l, " ")
		e, ok := lexicon.Find(strings.ToLower(first))
		if strings.HasSuffix(l, ".") && strings.Count(l, ".") == 1 {
			out = append(out, texts.WhyAsk(l, !ok || e.Familiarity < knownWords && len(first) > 1))
			break
		}
	}
	if len(out) == 1 {
		out = append(out, "Why do you think it happens?")
	}
	return append(out, "What could come next?")
}

// hunts are texts that hold the grapheme five times, readable or not.
func (a *assembler) hunts(b *step.FillInput) []lesson.Option {
	const least = 5
	var out []lesson.Option
	try := func(body string, from lesson.Origin) {
		if slices.ContainsFunc(out, func(o lesson.Option) bool { return o.Value == body }) {
			return // a page of the bank comes again among the pages
		}
		n := 0
		for _, t := range a.Targets {
			n += strings.Count(strings.ToLower(body), t.Pair.Grapheme)
		}
		if n >= least {
			out = append(out, lesson.Option{
				Value: body, Role: lesson.TargetRole, Origin: from,
				Because: lesson.Reason{Code: "hunt", Text: fmt.Sprintf("the grapheme stands there %d times", n)},
			})
		}
	}
	for _, t := range a.Bank {
		if t.Kind == "page" {
			try(t.Body, lesson.FromBank)
		}
	}
	for _, p := range b.Pages {
		try(p.Body, p.Origin)
	}
	if len(out) == 0 {
		var list []string
		for _, w := range b.Words {
			list = append(list, w.Value)
		}
		try(prose.Capital(strings.Join(list, ", "))+".", lesson.MadeByRule)
	}
	return out
}

// story is two lines for the ear, made with every pair of the accent: nobody has to read them.
func (a *assembler) story() string {
	all := spelling.Set{}
	for _, r := range spelling.Table(a.Conventions.Accent) {
		all[r.Pair] = true
	}
	m := texts.NewMaker(texts.SuggestQuery{
		Taught: all, Exceptions: map[string]bool{"the": true, "his": true, "her": true, "to": true}, Targets: a.pairs(),
		Exclude: a.known.Refused, Count: 2,
	}, a.speech)
	var lines []string
	for _, s := range m.Sentences(step.Chance(a.Seed, "story")) {
		lines = append(lines, s.Text)
	}
	return strings.Join(lines, "\n")
}
