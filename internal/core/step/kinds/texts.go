package kinds

import (
	"fmt"
	"math/rand/v2"
	"slices"
	"strings"

	"brightchalk/internal/core/card"
	"brightchalk/internal/core/convention"
	"brightchalk/internal/core/fault"
	"brightchalk/internal/core/lesson"
	"brightchalk/internal/core/prose"
	"brightchalk/internal/core/script"
	"brightchalk/internal/core/step"
	"brightchalk/internal/core/texts"
)

func textOptions(list []step.Text) []lesson.Option {
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

// Sentence is the step: exception words first; then carried: said, walked along the fingers, written.
var Sentence = step.Record{
	Kind:         lesson.Sentence,
	Name:         "Sentence",
	Family:       lesson.PageFamily,
	MinSeconds:   60,
	UsualSeconds: 90,
	MaxSeconds:   280,
	ItemSeconds:  90,
	Needs:        []step.Need{step.NeedSentence},
	Takes:        []lesson.ItemKind{lesson.SentenceItem},
	Shows:        step.ShowSentence,
	Sheet:        "pieces",
	Rank:         78,
	Ways: step.Ways(
		"carry",
		"carried on the fingers, written",
		"pieces",
		"put together from pieces",
		"open",
		"the class ends it",
	),
	About: "Exception words first; then carried: said, walked along the fingers, written.",
	Material: func(b *step.FillInput, _ lesson.RoutineStep) (step.Material, *fault.Fault) {
		if len(b.Sentences) == 0 {
			return step.Refuse(step.LacksSentence, "%s", step.First(b.NoSentence, "no sentence can be read or made yet"))
		}
		return step.OfTexts(lesson.SentenceItem, textOptions(b.Sentences), 1), nil
	},
	Tell: tellSentence,
}

func tellSentence(t *step.Narration, s *lesson.Step) {
	var odd []string
	for _, it := range s.Items {
		if it.Origin == lesson.MadeByRule {
			step.Adult(s, "Made by rule: read it yourself first, and swap it if it does not please you.")
		}
		for _, w := range t.Exceptions(it.Value) {
			if !slices.Contains(odd, w) {
				odd = append(odd, w)
			}
		}
	}
	if len(odd) > 0 {
		step.Adult(s, "Exception "+prose.Plural(len(odd), "word", "words")+" first: "+quoted(odd)+".")
	}
	s.Adult = slices.Compact(s.Adult)
	if len(s.Items) > 0 {
		s.Pieces = pieces(s.Items[0].Value, t.Lesson.Seed)
	}
	checks := step.First(t.Conventions.Says.Checks, "Check together: "+convention.DefaultChecks+".")
	switch {
	case s.Way == "open" && len(s.Items) > 0:
		step.Adult(s, "Write it without its end: “"+unfinished(s.Items[0].Value)+" …” Each child ends it. "+checks)
		step.Class(s, "Reads the beginning, says and writes an end.")
	case s.Way == "pieces" && len(s.Pieces) > 0:
		step.Adult(s, fmt.Sprintf("Put it together from %d pieces, the capital first, the stop last. Read it, then write it.",
			len(s.Pieces)), checks)
		step.Class(s, "Moves the pieces, reads, writes.")
		step.Table(s, "The sentence cut into pieces")
	default:
		step.Adult(s, "Carry it: say it, walk it along the fingers, one word a finger, write it. "+checks)
		step.Class(s, "Says, walks it along the fingers, writes, checks.")
		if len(s.Pieces) > 0 {
			step.Table(s, "The sentence cut into pieces, for those who put it together first")
		}
	}
	step.Adult(s, t.Mistake())
}

func quoted(list []string) string {
	out := make([]string, len(list))
	for i, w := range list {
		out[i] = "“" + prose.Word(w) + "”"
	}
	return script.List(out)
}

// unfinished is a sentence without its last word.
func unfinished(text string) string {
	if i := strings.LastIndexByte(text, ' '); i > 0 {
		return text[:i]
	}
	return text
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

// Page is the step: a short text read together more than once, with three questions.
var Page = step.Record{
	Kind:         lesson.Page,
	Name:         "Page",
	Family:       lesson.PageFamily,
	MinSeconds:   80,
	UsualSeconds: 130,
	MaxSeconds:   300,
	Needs: []step.Need{
		step.NeedPage,
	},
	Takes: []lesson.ItemKind{lesson.PageItem},
	Shows: step.ShowPage,
	Sheet: "page",
	Rank:  42,
	Ways:  step.Ways("three", "read three times", "twice", "read twice"),
	About: "A short text read together more than once, with three questions.",
	Material: func(b *step.FillInput, s lesson.RoutineStep) (step.Material, *fault.Fault) {
		if len(b.Pages) == 0 {
			return step.Refuse(step.LacksPage, "no page holds the sound three times and can be read in full")
		}
		times := readings
		if s.Options.Way == "twice" {
			times = 2
		}
		page := b.Pages[0]
		need := int(float64(times*page.Words)/wordsASecond) + questionSecond*len(page.Questions)
		span := step.Span{Least: need * 9 / 10 / 5 * 5, Usual: need / 5 * 5, Most: need * 3 / 2 / 5 * 5}
		options := textOptions(b.Pages)
		return step.Material{Least: 1, Most: 1, Span: &span, Take: func(int) step.FillResult {
			f := step.FillResult{Items: []lesson.Item{step.NewItem(lesson.PageItem, options[0])}, Rest: options[1:]}
			for _, q := range page.Questions {
				f.Items = append(f.Items, step.NewItem(lesson.QuestionItem, lesson.Option{
					Value: q, Origin: lesson.MadeByRule, Because: step.Why("question", "found, thought out, what next"),
				}))
			}
			return f
		}}, nil
	},
	Tell: func(t *step.Narration, s *lesson.Step) {
		for _, it := range s.Items {
			if it.Kind != lesson.PageItem {
				continue
			}
			if it.Origin == lesson.MadeByRule {
				step.Adult(s, "Composed by rule: read it yourself first, and swap it if it does not please you.")
			}
			if odd := t.Exceptions(it.Value); len(odd) > 0 {
				step.Adult(s, "Exception "+prose.Plural(len(odd), "word", "words")+" first: "+quoted(odd)+".")
			}
		}
		if t.Conventions.Says.GuessTitle {
			step.Adult(s, "Cover the text. “What may it be about? Which title would you give it?”")
		}
		if s.Way == "twice" {
			step.Adult(s, "Read it together twice: to get the words, to enjoy it.")
		} else {
			step.Adult(s, "Read it together three times: to get the words, to make it flow, to enjoy it.")
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
			step.Adult(s, ask+strings.Join(questions, " "))
		}
		step.Class(s, "Reads together, answers in whole sentences.")
		step.Table(s, "The page, one for two children")
	},
}

// ofTeam are texts that the routine brings, then those given.
func ofTeam(s lesson.RoutineStep, more ...lesson.Option) []lesson.Option {
	var out []lesson.Option
	for _, text := range s.Options.Words {
		out = append(out, lesson.Option{Value: text, Origin: lesson.FromTeam, Because: step.Why("team", "the team's words")})
	}
	return append(out, more...)
}

// ofCards are the texts that the targets' cards bring.
func ofCards(b *step.FillInput, text func(card.Card) string) []lesson.Option {
	var out []lesson.Option
	for _, t := range b.Targets {
		if v := text(t); v != "" {
			out = append(out, lesson.Option{Value: v, Origin: lesson.FromCard, Because: step.Why("card", "on the card")})
		}
	}
	return out
}

// Story is the step: two lines rich in the sound, read by the adult.
var Story = step.Record{
	Kind:         lesson.Story,
	Name:         "Story",
	Family:       lesson.EarFamily,
	MinSeconds:   30,
	UsualSeconds: 45,
	MaxSeconds:   90,
	Needs: []step.Need{
		step.NeedTarget,
	},
	Takes: []lesson.ItemKind{lesson.TextItem},
	Shows: step.ShowSound,
	Rank:  22,
	Words: true,
	About: "Two lines rich in the sound, read by the adult.",
	Material: func(b *step.FillInput, s lesson.RoutineStep) (step.Material, *fault.Fault) {
		more := ofCards(b, func(c card.Card) string { return c.Story })
		if b.Story != "" {
			more = append(more, lesson.Option{
				Value: b.Story, Origin: lesson.MadeByRule, Because: step.Why("made", "made by rule: read it before you use it"),
			})
		}
		list := ofTeam(s, more...)
		if len(list) == 0 {
			return step.Refuse(step.LacksTeam, "the card has no story yet and none can be made")
		}
		return step.Single(lesson.TextItem, list), nil
	},
	Tell: func(t *step.Narration, s *lesson.Step) {
		step.Adult(s, "Read it slowly, twice, leaning on "+t.Sound()+". The second time hands go up at each one.")
		step.Class(s, "Listens; a hand up at each "+t.Sound()+".")
	},
}

// Song is the step: the team's verse, or a chant of the rhyme between finds.
var Song = step.Record{
	Kind:         lesson.Song,
	Name:         "Song",
	Family:       lesson.EarFamily,
	MinSeconds:   30,
	UsualSeconds: 45,
	MaxSeconds:   90,
	Needs: []step.Need{
		step.NeedTarget,
		step.NeedTeamWords,
	},
	Takes: []lesson.ItemKind{lesson.TextItem},
	Shows: step.ShowSound,
	Rank:  14,
	Words: true,
	About: "The team's verse, or a chant of the rhyme between finds.",
	Material: func(b *step.FillInput, s lesson.RoutineStep) (step.Material, *fault.Fault) {
		list := ofTeam(s, ofCards(b, func(c card.Card) string { return step.First(c.Verse, c.Rhyme, c.RhymeShort) })...)
		if len(list) == 0 {
			return step.Refuse(step.LacksTeam, "the card has neither a verse nor a rhyme yet")
		}
		return step.Single(lesson.TextItem, list), nil
	},
	Tell: func(t *step.Narration, s *lesson.Step) {
		step.Adult(s, "Say or sing it together, with a clap at each "+t.Sound()+"; once low, once high.")
		step.Class(s, "Sings, claps.")
		step.Care(s, "Voices stay friendly to ears.")
	},
}

// Look is the step: picture talk: things to find, two questions.
var Look = step.Record{
	Kind:         lesson.Look,
	Name:         "Look",
	Family:       lesson.EyeFamily,
	MinSeconds:   40,
	UsualSeconds: 60,
	MaxSeconds:   120,
	Needs: []step.Need{
		step.NeedTarget,
		step.NeedCardFace,
	},
	Takes: []lesson.ItemKind{lesson.QuestionItem},
	Shows: step.ShowCard,
	Rank:  13,
	About: "Picture talk: things to find, two questions.",
	Material: func(b *step.FillInput, _ lesson.RoutineStep) (step.Material, *fault.Fault) {
		if len(b.Targets) == 0 || b.Targets[0].Picture == "" {
			return step.Refuse(step.LacksFace, "the card has no picture to talk about yet")
		}
		questions := []string{
			"What do you see? Find something that begins like " + step.First(b.Targets[0].Keyword, "our sound") + ".",
			"What happened just before? What comes next?",
		}
		return step.Material{Take: func(int) step.FillResult {
			var f step.FillResult
			for _, q := range questions {
				f.Items = append(f.Items, step.NewItem(lesson.QuestionItem, lesson.Option{
					Value: q, Origin: lesson.MadeByRule, Because: step.Why("question", "one to find, one to think about"),
				}))
			}
			return f
		}}, nil
	},
	Tell: func(_ *step.Narration, s *lesson.Step) {
		step.Adult(s, "Show the picture without a word, count to five. “"+strings.Join(step.Values(s.Items), "” “")+"”")
		step.Class(s, "Looks, finds, tells in whole sentences.")
	},
}

// Challenge is the step: three to choose one from, each with an easier form.
var Challenge = step.Record{
	Kind: lesson.Challenge, Name: "Challenge", Family: lesson.HandFamily, MinSeconds: 60, UsualSeconds: 120,
	MaxSeconds: 300, Takes: []lesson.ItemKind{lesson.TextItem}, Shows: step.ShowText, Rank: 10, Words: true,
	About: "Three to choose one from, each with an easier form.",
	Material: func(b *step.FillInput, s lesson.RoutineStep) (step.Material, *fault.Fault) {
		tasks := [][2]string{ // of a class that reads no word with it yet
			{"Draw two things with our sound.", "draw one"},
			{"Write our letters in three colours.", "write them big, once"},
			{"Find three things in the room with our sound.", "find one"},
		}
		if len(b.Words) > 0 {
			tasks = [][2]string{
				{"Write a sentence with “" + b.Words[0].Value + "”.", "write the word and draw it"},
				{"Make a chain: change one sound at a time, four words.", "change only the first sound"},
				{"Find three things in the room with our sound and write them.", "find them and say them"},
			}
		}
		list := ofTeam(s)
		for _, pair := range tasks {
			list = append(list, lesson.Option{
				Value:   pair[0],
				Detail:  "easier: " + pair[1],
				Origin:  lesson.MadeByRule,
				Because: step.Why("challenge", "one of three"),
			})
		}
		m := step.OfTexts(lesson.TextItem, list, 1)
		take := m.Take
		m.Take = func(int) step.FillResult { return take(3) }
		return m, nil
	},
	Tell: func(_ *step.Narration, s *lesson.Step) {
		step.Adult(s, "“Choose one.” "+strings.Join(step.Values(s.Items), " Or: ")+" The easier form stands beside each.")
		step.Class(s, "Chooses one and does it.")
	},
}

const freeSeconds = 60

// Free is the step: the team's own words, with their own minutes.
var Free = step.Record{
	Kind:         lesson.Free,
	Name:         "Free",
	Family:       lesson.PageFamily,
	MinSeconds:   15,
	UsualSeconds: freeSeconds,
	MaxSeconds:   600,
	Needs:        []step.Need{step.NeedTeamWords},
	Takes:        []lesson.ItemKind{lesson.TextItem},
	Shows:        step.ShowText,
	Rank:         58,
	Words:        true,
	Seconds:      true,
	About:        "The team's own words, with their own minutes.",
	Material: func(_ *step.FillInput, s lesson.RoutineStep) (step.Material, *fault.Fault) {
		list := ofTeam(s)
		if len(list) == 0 {
			return step.Refuse(step.LacksTeam, "nothing has been written for it in the routine")
		}
		n := freeSeconds
		if s.Options.Seconds > 0 {
			n = s.Options.Seconds
		}
		m := step.OfTexts(lesson.TextItem, list, 1)
		take := m.Take
		m.Span = &step.Span{Least: n, Usual: n, Most: n}
		m.Take = func(int) step.FillResult { return take(len(list)) }
		return m, nil
	},
	Tell: func(_ *step.Narration, s *lesson.Step) { step.Adult(s, step.Values(s.Items)...) },
}
