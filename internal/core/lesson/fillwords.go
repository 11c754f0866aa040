package lesson

import (
	"brightchalk/internal/core/lexicon"
	"brightchalk/internal/core/phoneme"
	"brightchalk/internal/core/spelling"
	"brightchalk/internal/core/texts"
	"brightchalk/internal/core/words"
	"fmt"
	"math/rand/v2"
	"slices"
	"strings"
)

// wordOptions ranks the words for reading: those on the card first, then those the finder offers.
func (a *assembler) wordOptions(maxSounds int) []Option {
	target := a.Target.Pair
	if a.readable == nil {
		exclude := map[string]bool{}
		for _, w := range slices.Concat(a.Target.Rejected, a.Refused) {
			exclude[w] = true
		}
		a.readable = words.Find(
			words.Query{
				Taught:      a.taught,
				Target:      &target,
				Exclude:     exclude,
				Familiarity: 2,
				MinSounds:   2,
				MaxSounds:   5,
				Limit:       60,
			},
			a.options,
		)
		for _, c := range a.readable {
			a.out.WordBits[c.Word] = toBits(c.Segments, target)
		}
	}
	mine := a.ownWords(maxSounds)
	var rest []Option
	for _, c := range a.readable {
		if c.Sounds <= maxSounds && !slices.Contains(a.Target.Words, c.Word) && len(rest) < 24 {
			rest = append(rest, Option{c.Word, fmt.Sprintf("%d sounds", c.Sounds), c.Because})
		}
	}
	return append(mine, rest...)
}

// ownWords are the card's words that the class can read, in the order of the card; flagged ones are left out.
func (a *assembler) ownWords(maxSounds int) []Option {
	flagged := map[string]bool{}
	for _, f := range a.Target.FlaggedWords(a.options) {
		flagged[f.Word] = true
	}
	var out []Option
	for _, w := range a.Target.Words {
		seg, err := a.options.Segment(w)
		if err != nil || flagged[strings.ToLower(w)] || slices.Contains(a.Refused, w) ||
			slices.Contains(a.Target.Rejected, w) {
			continue
		}
		readable := a.taught.Covers(seg.Segments) &&
			!slices.ContainsFunc(seg.Alternatives, func(r lexicon.Reading) bool { return !a.taught.Covers(r.Segments) })
		if readable && seg.Sounds <= maxSounds {
			a.out.WordBits[w] = toBits(seg.Segments, a.Target.Pair)
			out = append(out, Option{w, fmt.Sprintf("%d sounds", seg.Sounds), "on the team's card"})
		}
	}
	return out
}

func toBits(segments []spelling.Segment, target spelling.Pair) []Bit {
	out := make([]Bit, len(segments))
	for i, s := range segments {
		out[i] = Bit{s.Letters, phoneme.Join(s.Phonemes), s.Odd, s.Pair == target}
	}
	return out
}

func bits(word string, target spelling.Pair, o words.Options) []Bit {
	seg, err := o.Segment(word)
	if err != nil {
		return []Bit{}
	}
	return toBits(seg.Segments, target)
}

func (a *assembler) noWords() string {
	if len(a.Taught) == 0 {
		return "the class has been taught nothing to put with this sound yet"
	}
	return fmt.Sprintf("no familiar word with %s can be read with the %d pairs taught so far", a.say(), len(a.Taught))
}

func (a *assembler) blend(s *Step) string {
	s.Choices = a.choose("blend", "word", a.items(s, 2, 6), a.wordOptions(4))
	if len(s.Choices) == 0 {
		return a.noWords()
	}
	s.Adult = append(s.Adult, "No letters yet. Say the sounds one by one with a clear gap; the class says the word.")
	s.Class = append(s.Class, "Listens, then says the whole word.")
	return ""
}

func (a *assembler) read(s *Step) string {
	s.Choices = a.choose("read", "word", a.items(s, 3, 8), a.wordOptions(5))
	if len(s.Choices) == 0 {
		return a.noWords()
	}
	if a.Conventions.GroupsFirst {
		s.Adult = append(s.Adult, "Spot the letter groups first and draw their bridges. Then sound out, then blend.")
	} else {
		s.Adult = append(s.Adult, "Sound out from left to right, one bridge at a time, then blend.")
	}
	s.Adult = append(s.Adult, "Once more, faster. Then in the head: lips closed, thumbs up, all together.")
	s.Class = append(s.Class, "Sounds out and says each word.")
	s.Table = append(s.Table, "Word cards or the screen")
	return ""
}

func (a *assembler) spell(s *Step) string {
	s.Choices = a.choose("spell", "word", a.items(s, 2, 6), a.wordOptions(4))
	if len(s.Choices) == 0 {
		if len(a.out.WordBits) > 0 {
			return "all readable words are used in the steps before"
		}
		return a.noWords()
	}
	s.Adult = append(s.Adult, "Say the word. Count its sounds on your fingers. Write it. Then a tick under each sound.")
	s.Class = append(s.Class, "Says, counts, writes, ticks.")
	s.Table = append(s.Table, "Whiteboards and pens")
	return ""
}

const exceptionFirst = "Exception word first: "

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

// sentenceOptions are the texts of the card, then those of the bank with the new sound, then made ones with it, then
// the bank's others; why says what the first unfit one lacks.
func (a *assembler) sentenceOptions() (options []Option, why string) {
	if a.sentences != nil { // the steps are filled anew when one is dropped
		return a.sentences, a.unfit
	}
	defer func() { a.sentences, a.unfit = options, why }()
	why = "neither the card nor the bank has a sentence that can be read yet"
	try := func(text, from string) {
		r := texts.Check(text, a.taught, a.known, a.options)
		if r.Fits() {
			options = append(
				options,
				Option{text, fmt.Sprintf("%d words", len(r.Tokens)), from + "every word can be read or is a taught exception word"},
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
		try(text, "")
	}
	onCard := why
	var plain []string
	for _, b := range a.Bank {
		switch {
		case b.Kind != "sentence" || slices.Contains(a.Target.Sentences, b.Body):
		case a.holdsTarget(b.Body):
			try(b.Body, "from the team's bank, with "+a.say()+"; ")
		default:
			plain = append(plain, b.Body)
		}
	}
	if len(options) < 3 {
		refused := map[string]bool{}
		for _, w := range slices.Concat(a.Target.Rejected, a.Refused) {
			refused[w] = true
		}
		target := a.Target.Pair
		made := texts.Suggest(
			texts.SuggestQuery{Taught: a.taught, Exceptions: a.known, Target: &target, Exclude: refused, Count: 4},
			a.options,
			a.rng,
		)
		for _, m := range made {
			options = append(
				options,
				Option{m.Text, fmt.Sprintf("%d words", len(strings.Fields(m.Text))), texts.ReadFirst + " " + m.Because},
			)
		}
	}
	for _, text := range plain {
		if len(options) < 6 {
			try(text, "from the team's bank, without the new sound; ")
		}
	}
	return options, onCard
}

func (a *assembler) holdsTarget(text string) bool {
	for _, t := range texts.Check(text, a.taught, a.known, a.options).Tokens {
		if slices.ContainsFunc(t.Segments, func(s spelling.Segment) bool { return s.Pair == a.Target.Pair }) {
			return true
		}
	}
	return false
}

// showText puts the words of a text under their bridges, and returns the exception words in it.
func (a *assembler) showText(text string) []string {
	var exceptions []string
	for _, t := range texts.Check(text, a.taught, a.known, a.options).Tokens {
		a.out.WordBits[t.Text] = toBits(t.Segments, a.Target.Pair)
		if t.Status == texts.Exception && !slices.Contains(exceptions, t.Text) {
			exceptions = append(exceptions, t.Text)
		}
	}
	return exceptions
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
	if strings.HasPrefix(chosen.Because, texts.ReadFirst) {
		s.Adult = append(
			s.Adult,
			"This sentence was made by rule: read it yourself first, and swap it if it does not please you.",
		)
	}
	for _, w := range a.showText(chosen.Value) {
		s.Adult = append(s.Adult, exceptionFirst+"“"+w+"”. Say it, look for the odd part, say it again.")
	}
	s.Adult = append(s.Adult, "Say the sentence, hold it on fingers, write it. Check the capital and the full stop.")
	s.Class = append(s.Class, "Says, holds, writes, checks.")
	if s.Pieces = pieces(chosen.Value, a.Seed); s.Pieces != nil {
		s.Adult = append(
			s.Adult,
			fmt.Sprintf("Or put it together first: %d pieces, the capital first, the full stop last.", len(s.Pieces)),
		)
		s.Table = append(s.Table, "The sentence cut into pieces")
	}
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
			b.Body,
			fmt.Sprintf("%d words", len(r.Tokens)),
			"from the team's bank; every word can be read or is a taught exception word",
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
	for _, w := range a.showText(s.Choices[0].Value) {
		s.Adult = append(s.Adult, exceptionFirst+"“"+w+"”.")
	}
	s.Adult = append(s.Adult, "Read it together three times: to get the words, to make it flow, to enjoy it.",
		"Ask three questions: one whose answer stands in the text, one that asks why, one that asks what may come next.")
	s.Class = append(s.Class, "Reads three times, answers in whole sentences.")
	s.Table = append(s.Table, "The page, one for two children")
	return ""
}

func (a *assembler) close(s *Step) {
	s.Adult = append(s.Adult, "“One last time: the sound, the action, the letter in the air.”")
	s.Adult = append(s.Adult, "What goes home: the sheet for "+a.say()+".")
	s.Class = append(s.Class, "Says "+a.say()+" once more and does the action.")
}
