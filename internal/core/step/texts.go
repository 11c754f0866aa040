package step

import (
	"fmt"
	"math/rand/v2"
	"slices"
	"strings"

	"brightchalk/internal/core/fault"
	"brightchalk/internal/core/lesson"
	"brightchalk/internal/core/prose"
	"brightchalk/internal/core/script"
	"brightchalk/internal/core/texts"
)

func textOptions(list []Text) []lesson.Option {
	var out []lesson.Option
	for _, t := range list {
		role := lesson.OlderRole
		if t.Held > 0 {
			role = lesson.TargetRole
		}
		out = append(out, lesson.Option{
			Value: t.Body, Detail: fmt.Sprintf("%d words", t.Words), Role: role, Origin: t.Origin, Because: t.Because,
		})
	}
	return out
}

var sentenceStep = Record{
	Kind: lesson.Sentence, Name: "Sentence", Family: lesson.PageFamily, LeastSeconds: 60, UsualSeconds: 90,
	MostSeconds: 190, ItemSeconds: 90, Needs: []Need{NeedSentence}, Takes: []lesson.ItemKind{lesson.SentenceItem},
	Shows: ShowSentence, Sheet: "pieces", rank: 78,
	Ways: []Way{
		{"carry", "carried on the fingers, written"}, {"pieces", "put together from pieces"}, {"open", "the class ends it"},
	},
	About: "Exception words first; then carried: said, walked along the fingers, written.",
	material: func(b *Brief, _ lesson.RoutineStep) (Material, *fault.Fault) {
		if len(b.Sentences) == 0 {
			return refuse(lacksSentence, "%s", first(b.NoSentence, "no sentence can be read or made yet"))
		}
		return ofTexts(lesson.SentenceItem, textOptions(b.Sentences), 1), nil
	},
	tell: tellSentence,
}

func tellSentence(t *Telling, s *lesson.Step) {
	var odd []string
	for _, it := range s.Items {
		if it.Origin == lesson.MadeByRule {
			adult(s, "Made by rule: read it yourself first, and swap it if it does not please you.")
		}
		for _, w := range t.exceptions(it.Value) {
			if !slices.Contains(odd, w) {
				odd = append(odd, w)
			}
		}
	}
	if len(odd) > 0 {
		adult(s, "Exception "+prose.Plural(len(odd), "word", "words")+" first: "+quoted(odd)+".")
	}
	s.Adult = slices.Compact(s.Adult)
	if len(s.Items) > 0 {
		s.Pieces = pieces(s.Items[0].Value, t.Lesson.Seed)
	}
	checks := first(t.Conventions.Says.Checks, "Check together: capital, spaces, stop, letter groups.")
	switch {
	case s.Way == "open" && len(s.Items) > 0:
		adult(s, "Write it without its end: “"+open(s.Items[0].Value)+" …” Each child ends it. "+checks)
		class(s, "Reads the beginning, says and writes an end.")
	case s.Way == "pieces" && len(s.Pieces) > 0:
		adult(s, fmt.Sprintf("Put it together from %d pieces, the capital first, the stop last. Read it, then write it.",
			len(s.Pieces)), checks)
		class(s, "Moves the pieces, reads, writes.")
		table(s, "The sentence cut into pieces")
	default:
		adult(s, "Carry it: say it, walk it along the fingers, one word a finger, write it. "+checks)
		class(s, "Says, walks it along the fingers, writes, checks.")
		if len(s.Pieces) > 0 {
			table(s, "The sentence cut into pieces, for those who put it together first")
		}
	}
	adult(s, t.mistake())
}

func quoted(list []string) string {
	out := make([]string, len(list))
	for i, w := range list {
		out[i] = "“" + prose.Word(w) + "”"
	}
	return script.List(out)
}

// open is a sentence without its last word.
func open(text string) string {
	if i := strings.LastIndexByte(text, ' '); i > 0 {
		return text[:i]
	}
	return text
}

// exceptions are the exception words in a text.
func (t *Telling) exceptions(text string) []string {
	var out []string
	for _, k := range texts.Check(text, t.Lesson.Set(), t.Lesson.KnownSet(), t.Speech).Tokens {
		if w := strings.ToLower(k.Text); k.Status == texts.Exception && !slices.Contains(out, w) {
			out = append(out, w)
		}
	}
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

// A page is read three times, at about a word a second and a little, and three questions are asked (common practice, no
// published source).
const (
	readings       = 3
	wordsASecond   = 0.9
	questionSecond = 20
)

var pageStep = Record{
	Kind: lesson.Page, Name: "Page", Family: lesson.PageFamily, LeastSeconds: 80, UsualSeconds: 130, MostSeconds: 300,
	Needs: []Need{NeedPage}, Takes: []lesson.ItemKind{lesson.PageItem}, Shows: ShowPage, Sheet: "page", rank: 42,
	Ways:  []Way{{"three", "read three times"}, {"twice", "read twice"}},
	About: "A short text read together more than once, with three questions.",
	material: func(b *Brief, s lesson.RoutineStep) (Material, *fault.Fault) {
		if len(b.Pages) == 0 {
			return refuse(lacksPage, "no page holds the sound three times and can be read in full")
		}
		times := readings
		if s.Options.Way == "twice" {
			times = 2
		}
		page := b.Pages[0]
		need := int(float64(times*page.Words)/wordsASecond) + questionSecond*len(page.Questions)
		span := Span{need * 9 / 10 / 5 * 5, need / 5 * 5, need * 5 / 4 / 5 * 5}
		options := textOptions(b.Pages)
		return Material{Least: 1, Most: 1, Span: &span, Take: func(int) Filling {
			f := Filling{Items: []lesson.Item{item(lesson.PageItem, options[0])}, Rest: options[1:]}
			for _, q := range page.Questions {
				f.Items = append(f.Items, item(lesson.QuestionItem, lesson.Option{
					Value: q, Origin: lesson.MadeByRule, Because: why("question", "found, thought out, what next"),
				}))
			}
			return f
		}}, nil
	},
	tell: func(t *Telling, s *lesson.Step) {
		for _, it := range s.Items {
			if it.Kind != lesson.PageItem {
				continue
			}
			if it.Origin == lesson.MadeByRule {
				adult(s, "Composed by rule: read it yourself first, and swap it if it does not please you.")
			}
			if odd := t.exceptions(it.Value); len(odd) > 0 {
				adult(s, "Exception "+prose.Plural(len(odd), "word", "words")+" first: "+quoted(odd)+".")
			}
		}
		if t.Conventions.Says.GuessTitle {
			adult(s, "Cover the text. “What may it be about? Which title would you give it?”")
		}
		if s.Way == "twice" {
			adult(s, "Read it together twice: to get the words, to enjoy it.")
		} else {
			adult(s, "Read it together three times: to get the words, to make it flow, to enjoy it.")
		}
		ask := "Then ask: "
		if t.Conventions.Says.PickAnswers {
			ask = "Then ask, each with three answers to pick from: "
		}
		var questions []string
		for _, it := range s.Items {
			if it.Kind == lesson.QuestionItem {
				questions = append(questions, "“"+it.Value+"”")
			}
		}
		if len(questions) > 0 {
			adult(s, ask+strings.Join(questions, " "))
		}
		class(s, "Reads together, answers in whole sentences.")
		table(s, "The page, one for two children")
	},
}

// ofTeam are texts that the routine brings, then those given.
func ofTeam(s lesson.RoutineStep, more ...lesson.Option) []lesson.Option {
	var out []lesson.Option
	for _, text := range s.Options.Words {
		out = append(out, lesson.Option{Value: text, Origin: lesson.FromTeam, Because: why("team", "the team's words")})
	}
	return append(out, more...)
}

var storyStep = Record{
	Kind: lesson.Story, Name: "Story", Family: lesson.EarFamily, LeastSeconds: 30, UsualSeconds: 45, MostSeconds: 90,
	Needs: []Need{NeedTarget}, Takes: []lesson.ItemKind{lesson.TextItem}, Shows: ShowSound, rank: 22, words: true,
	About: "Two lines rich in the sound, read by the adult.",
	material: func(b *Brief, s lesson.RoutineStep) (Material, *fault.Fault) {
		var more []lesson.Option
		for _, t := range b.Targets {
			if t.Story != "" {
				more = append(more, lesson.Option{Value: t.Story, Origin: lesson.FromCard, Because: why("card", "on the card")})
			}
		}
		if b.Story != "" {
			more = append(more, lesson.Option{
				Value: b.Story, Origin: lesson.MadeByRule, Because: why("made", "made by rule: read it before you use it"),
			})
		}
		list := ofTeam(s, more...)
		if len(list) == 0 {
			return refuse(lacksTeam, "the card has no story yet and none can be made")
		}
		return single(lesson.TextItem, list, Span{30, 45, 90}), nil
	},
	tell: func(t *Telling, s *lesson.Step) {
		adult(s, "Read it slowly, twice, leaning on "+t.sound()+". The second time hands go up at each one.")
		class(s, "Listens; a hand up at each "+t.sound()+".")
	},
}

var songStep = Record{
	Kind: lesson.Song, Name: "Song", Family: lesson.EarFamily, LeastSeconds: 30, UsualSeconds: 45, MostSeconds: 90,
	Needs: []Need{NeedTarget, NeedTeamWords}, Takes: []lesson.ItemKind{lesson.TextItem}, Shows: ShowSound, rank: 14,
	words: true,
	About: "The team's verse, or a chant of the rhyme between finds.",
	material: func(b *Brief, s lesson.RoutineStep) (Material, *fault.Fault) {
		var more []lesson.Option
		for _, t := range b.Targets {
			if v := first(t.Verse, t.Rhyme, t.RhymeShort); v != "" {
				more = append(more, lesson.Option{Value: v, Origin: lesson.FromCard, Because: why("card", "on the card")})
			}
		}
		list := ofTeam(s, more...)
		if len(list) == 0 {
			return refuse(lacksTeam, "the card has neither a verse nor a rhyme yet")
		}
		return single(lesson.TextItem, list, Span{30, 45, 90}), nil
	},
	tell: func(t *Telling, s *lesson.Step) {
		adult(s, "Say or sing it together, with a clap at each "+t.sound()+"; once low, once high.")
		class(s, "Sings, claps.")
		care(s, "Voices stay friendly to ears.")
	},
}

var lookStep = Record{
	Kind: lesson.Look, Name: "Look", Family: lesson.EyeFamily, LeastSeconds: 40, UsualSeconds: 60, MostSeconds: 120,
	Needs: []Need{NeedTarget, NeedCardFace}, Takes: []lesson.ItemKind{lesson.QuestionItem}, Shows: ShowCard, rank: 13,
	About: "Picture talk: things to find, two questions.",
	material: func(b *Brief, _ lesson.RoutineStep) (Material, *fault.Fault) {
		if len(b.Targets) == 0 || b.Targets[0].Picture == "" {
			return refuse(lacksFace, "the card has no picture to talk about yet")
		}
		questions := []string{
			"What do you see? Find something that begins like " + first(b.Targets[0].Keyword, "our sound") + ".",
			"What happened just before? What comes next?",
		}
		return Material{Span: &Span{40, 60, 120}, Take: func(int) Filling {
			var f Filling
			for _, q := range questions {
				f.Items = append(f.Items, item(lesson.QuestionItem, lesson.Option{
					Value: q, Origin: lesson.MadeByRule, Because: why("question", "one to find, one to think about"),
				}))
			}
			return f
		}}, nil
	},
	tell: func(_ *Telling, s *lesson.Step) {
		adult(s, "Show the picture without a word, count to five. “"+strings.Join(values(s.Items), "” “")+"”")
		class(s, "Looks, finds, tells in whole sentences.")
	},
}

var challengeStep = Record{
	Kind: lesson.Challenge, Name: "Challenge", Family: lesson.HandFamily, LeastSeconds: 60, UsualSeconds: 120,
	MostSeconds: 300, Takes: []lesson.ItemKind{lesson.TextItem}, Shows: ShowText, rank: 10, words: true,
	About: "Three to choose one from, each with an easier form.",
	material: func(b *Brief, s lesson.RoutineStep) (Material, *fault.Fault) {
		word := "a word"
		if len(b.Words) > 0 {
			word = "“" + b.Words[0].Value + "”"
		}
		list := ofTeam(s)
		for _, pair := range [][2]string{
			{"Write a sentence with " + word + ".", "write the word and draw it"},
			{"Make a chain: change one sound at a time, four words.", "change only the first sound"},
			{"Find three things in the room with our sound and write them.", "find them and say them"},
		} {
			list = append(list, lesson.Option{
				Value: pair[0], Detail: "easier: " + pair[1], Origin: lesson.MadeByRule, Because: why("challenge", "one of three"),
			})
		}
		m := ofTexts(lesson.TextItem, list, 1)
		take := m.Take
		m.Span, m.Take = &Span{60, 120, 300}, func(int) Filling { return take(3) }
		return m, nil
	},
	tell: func(_ *Telling, s *lesson.Step) {
		adult(s, "“Choose one.” "+strings.Join(values(s.Items), " Or: ")+" The easier form stands beside each.")
		class(s, "Chooses one and does it.")
	},
}

const freeSeconds = 60

var freeStep = Record{
	Kind: lesson.Free, Name: "Free", Family: lesson.PageFamily, LeastSeconds: 15, UsualSeconds: freeSeconds,
	MostSeconds: 600, Needs: []Need{NeedTeamWords}, Takes: []lesson.ItemKind{lesson.TextItem}, Shows: ShowText, rank: 58,
	words: true,
	About: "The team's own words, with their own minutes.",
	material: func(_ *Brief, s lesson.RoutineStep) (Material, *fault.Fault) {
		list := ofTeam(s)
		if len(list) == 0 {
			return refuse(lacksTeam, "nothing has been written for it in the routine")
		}
		n := freeSeconds
		if s.Options.Seconds > 0 {
			n = s.Options.Seconds
		}
		m := ofTexts(lesson.TextItem, list, 1)
		take := m.Take
		m.Span, m.Take = &Span{n, n, n}, func(int) Filling { return take(len(list)) }
		return m, nil
	},
	tell: func(_ *Telling, s *lesson.Step) { adult(s, values(s.Items)...) },
}
