package lesson

import (
	"fmt"
	"math/rand/v2"
	"slices"
	"strings"

	"brightchalk/internal/core/spelling"
	"brightchalk/internal/core/texts"
)

// script is what a step of a text says and needs; it follows from the text alone, so that a swap writes it anew.
type script struct{ adult, class, table, pieces []string }

func (s *Step) script(is script) {
	s.Adult, s.Class, s.Table, s.Pieces = is.adult, is.class, append([]string{}, is.table...), is.pieces
}

func sentenceScript(from Origin, exceptions, pieces []string) script {
	out := script{class: []string{"Says, holds, writes, checks."}, pieces: pieces}
	if from == MadeByRule {
		out.adult = append(
			out.adult,
			"This sentence was made by rule: read it yourself first, and swap it if it does not please you.",
		)
	}
	for _, w := range exceptions {
		out.adult = append(
			out.adult,
			"Exception word first: “"+w+"”. Say it, look for the odd part, say it again.",
		)
	}
	out.adult = append(out.adult, "Say the sentence, hold it on fingers, write it. Check the capital and the full stop.")
	if len(pieces) > 0 {
		out.adult = append(
			out.adult,
			fmt.Sprintf("Or put it together first: %d pieces, the capital first, the full stop last.", len(pieces)),
		)
		out.table = []string{"The sentence cut into pieces"}
	}
	return out
}

func pageScript(exceptions []string) script {
	out := script{
		class: []string{"Reads three times, answers in whole sentences."},
		table: []string{"The page, one for two children"},
	}
	for _, w := range exceptions {
		out.adult = append(out.adult, "Exception word first: “"+w+"”.")
	}
	out.adult = append(
		out.adult,
		"Read it together three times: to get the words, to make it flow, to enjoy it.",
		"Ask three questions: one whose answer stands in the text, one that asks why, one that asks what may come next.",
	)
	return out
}

// pieces cuts a sentence for reordering and shuffles it; nil where it cannot be cut.
func pieces(text string, seed uint64) []string {
	cut, err := texts.Chop(text)
	if err != nil {
		return nil
	}
	given := slices.Clone(cut)
	rng := rand.New(rand.NewPCG(seed, uint64(len(text))))
	for slices.Equal(cut, given) {
		rng.Shuffle(len(cut), func(i, j int) { cut[i], cut[j] = cut[j], cut[i] })
	}
	return cut
}

func wordCount(n int) string { return fmt.Sprintf("%d words", n) }

const allReadable = "every word can be read or is a taught exception word"

// Enough sentences to choose from: from so few on none is made by rule, and up to so many of the bank's others
// are added.
const (
	fewSentences  = 3
	manySentences = 6
	madeSentences = 4
)

// sentenceOptions are the texts of the card, then those of the bank with the new sound, then made ones with it, then
// the bank's others; why says what the first unfit one lacks.
func (a *assembler) sentenceOptions() (options []Option, why string) {
	if a.sentences != nil { // the steps are filled anew when one is dropped
		return a.sentences, a.unfit
	}
	defer func() { a.sentences, a.unfit = options, why }()
	why = "neither the card nor the bank has a sentence that can be read yet"
	try := func(text string, from Origin, because string) {
		r := texts.Check(text, a.taught, a.known, a.options)
		if r.Fits() {
			options = append(
				options,
				Option{Value: text, Detail: wordCount(len(r.Tokens)), Origin: from, Because: because + allReadable},
			)
			return
		}
		for _, t := range r.Tokens {
			if len(t.Untaught) > 0 && t.Status != texts.Exception {
				why = fmt.Sprintf("“%s” needs %s, not yet taught", t.Text, strings.Join(t.Untaught, ", "))
				break
			}
		}
	}
	for _, text := range a.Target.Sentences {
		try(text, FromCard, "")
	}
	onCard := why
	var plain []string
	for _, b := range a.Bank {
		switch {
		case b.Kind != "sentence" || slices.Contains(a.Target.Sentences, b.Body):
		case a.holdsTarget(b.Body):
			try(b.Body, FromBank, "from the team's bank, with "+a.say()+"; ")
		default:
			plain = append(plain, b.Body)
		}
	}
	if len(options) < fewSentences {
		options = append(options, a.madeSentences()...)
	}
	for _, text := range plain {
		if len(options) < manySentences {
			try(text, FromBank, "from the team's bank, without the new sound; ")
		}
	}
	return options, onCard
}

func (a *assembler) madeSentences() (options []Option) {
	target := a.Target.Pair
	q := texts.SuggestQuery{
		Taught:     a.taught,
		Exceptions: a.known,
		Target:     &target,
		Exclude:    a.refused(),
		Count:      madeSentences,
	}
	for _, m := range texts.Suggest(q, a.options, a.rng) {
		options = append(options, Option{
			Value:   m.Text,
			Detail:  wordCount(len(strings.Fields(m.Text))),
			Origin:  MadeByRule,
			Because: texts.ReadFirst + " " + m.Because,
		})
	}
	return options
}

func (a *assembler) holdsTarget(text string) bool {
	for _, t := range texts.Check(text, a.taught, a.known, a.options).Tokens {
		if spelling.Holds(t.Segments, a.Target.Pair) {
			return true
		}
	}
	return false
}

// showText puts the words of a text under their bridges, and returns the exception words in it.
func (a *assembler) showText(text string) []string {
	return a.out.showText(text, spelling.Bridging{Target: &a.out.Pair, Taught: a.taught}, a.known, a.options)
}

func (a *assembler) sentence(s *Step) string {
	options, why := a.sentenceOptions()
	if s.Choices = a.choose("sentence", "sentence", 1, options); len(s.Choices) == 0 {
		return why
	}
	chosen := s.Choices[0]
	if len(a.Target.Sentences) > 0 && !slices.Contains(a.Target.Sentences, chosen.Value) && why != "" {
		a.note("No sentence of the card can be used yet: " + why + ".")
	}
	s.script(sentenceScript(chosen.Origin, a.showText(chosen.Value), pieces(chosen.Value, a.Seed)))
	return ""
}

const noPage = "the team's bank has no page that this class can read yet"

// pageOptions are the pages of the bank that can be read in full, those with the new sound first.
func (a *assembler) pageOptions() []Option {
	var with, without []Option
	for _, b := range a.Bank {
		if b.Kind != "page" {
			continue
		}
		r := texts.Check(b.Body, a.taught, a.known, a.options)
		if r.Decodable < 1 || len(r.Tokens) == 0 {
			continue
		}
		o := Option{
			Value:   b.Body,
			Detail:  wordCount(len(r.Tokens)),
			Origin:  FromBank,
			Because: "from the team's bank; " + allReadable,
		}
		if a.holdsTarget(b.Body) {
			o.Because = a.say() + " is in it; " + o.Because
			with = append(with, o)
		} else {
			without = append(without, o)
		}
	}
	return append(with, without...)
}

func (a *assembler) page(s *Step) string {
	if s.Choices = a.choose("page", "page", 1, a.pages); len(s.Choices) == 0 {
		return noPage
	}
	s.script(pageScript(a.showText(s.Choices[0].Value)))
	return ""
}
