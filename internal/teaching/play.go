package teaching

import (
	"context"
	"strings"

	"brightchalk/internal/core/fault"
	"brightchalk/internal/core/lexicon"
	"brightchalk/internal/core/phoneme"
	"brightchalk/internal/core/spelling"
	"brightchalk/internal/core/words"
	"brightchalk/internal/gather"
	"brightchalk/internal/store"
	"brightchalk/internal/tx"
)

// PlayWord is a word of a word game. Shown is what stands on the board: the word, or its misspelling. Mark
// are the letters to mark in it.
type PlayWord struct {
	FoundWord
	Shown string   `json:"shown" doc:"what stands on the board"`
	Says  string   `json:"says"`
	Mark  []int    `json:"mark" doc:"places of the letters to mark, from 0"`
	Parts []string `json:"parts" doc:"of a compound"`
}

// Game is a game of words.
type Game string

// Games of words.
const (
	ChainGame    Game = "chain"
	SlipGame     Game = "slips"
	CompoundGame Game = "compounds"
	RingGame     Game = "rings"
)

const (
	gameWords = 8
	gameRings = 12
	compounds = 24
)

// Play makes a word game from what a class has been taught. start is the first word of a chain, or empty.
func (w Words) Play(ctx context.Context, by tx.Actor, game Game, q FindQuery, start string) ([]PlayWord, error) {
	games := map[Game]func(words.Query, gather.Taught) ([]PlayWord, error){
		ChainGame: func(query words.Query, t gather.Taught) ([]PlayWord, error) {
			return chain(t, query, strings.ToLower(strings.TrimSpace(start)), q)
		},
		SlipGame:     func(query words.Query, t gather.Taught) ([]PlayWord, error) { return slips(t, query, q) },
		CompoundGame: func(query words.Query, t gather.Taught) ([]PlayWord, error) { return compoundWords(t, query) },
		RingGame:     func(query words.Query, t gather.Taught) ([]PlayWord, error) { return rings(t, query, q) },
	}
	play := games[game]
	if play == nil {
		return nil, fault.In("game", "There is no word game %q.", game)
	}
	return parseQuery(ctx, w, by, q, func(_ store.Library, t gather.Taught) ([]PlayWord, error) {
		out, err := play(q.words(t), t)
		return out, fault.At("card", err)
	})
}

func played(t gather.Taught, c words.Choice, shown, says string, mark []int, parts ...string) PlayWord {
	return PlayWord{foundWord(c, t.Bridges()), shown, says, append([]int{}, mark...), append([]string{}, parts...)}
}

func chain(t gather.Taught, query words.Query, start string, q FindQuery) (out []PlayWord, err error) {
	links, err := words.Chain(query, start, gameWords, t.Conv.Speech(), q.chance(31))
	for _, l := range links {
		var mark []int
		if l.Changed >= 0 {
			mark = l.Segments[l.Changed].Letters
		}
		out = append(out, played(t, l.Choice, l.Word, l.Says, mark))
	}
	return out, err
}

func slips(t gather.Taught, query words.Query, q FindQuery) (out []PlayWord, err error) {
	slips, err := words.SlipHunt(query, gameWords, t.Conv.Speech(), q.chance(37))
	for _, s := range slips {
		out = append(out, played(t, s.Choice, s.Shown, s.Why, nil))
	}
	return out, err
}

func compoundWords(t gather.Taught, query words.Query) (out []PlayWord, err error) {
	query.Target, query.Limit = nil, compounds
	for _, c := range words.Compounds(query, t.Conv.Speech()) {
		says := c.First + " and " + c.Second + " make " + c.Word + "."
		out = append(out, played(t, c.Choice, c.Word, says, nil, c.First, c.Second))
	}
	if len(out) == 0 {
		return nil, fault.New(words.ErrTooFew, "no word that is made of two readable words can be read yet")
	}
	return out, nil
}

func rings(t gather.Taught, query words.Query, q FindQuery) (out []PlayWord, err error) {
	if t.Target == nil {
		return nil, fault.In("card", "Choose the sound that is to be found and ringed.")
	}
	says := map[words.Position]string{
		words.Initial: "at the start",
		words.Medial:  "in the middle",
		words.Final:   "at the end",
		words.Any:     "not in it",
	}
	rings, err := words.RingList(query, gameRings, t.Conv.Speech(), q.chance(41))
	for _, r := range rings {
		out = append(out, played(t, r.Choice, r.Word, says[r.Place], r.Letters))
	}
	return out, err
}

// ContrastView sets the words of two cards against one another.
type ContrastView struct {
	Left  []FoundWord `json:"left"`
	Right []FoundWord `json:"right"`
	Twins [][]string  `json:"twins" doc:"pairs of words that differ in these sounds alone"`
}

const contrasted = 12

// Contrast parts what a class can read by two cards; no word holds both sounds.
func (w Words) Contrast(ctx context.Context, by tx.Actor, classID, leftID, rightID string) (ContrastView, error) {
	q := FindQuery{ClassID: classID, CardID: leftID}
	return parseQuery(ctx, w, by, q, func(s store.Library, t gather.Taught) (ContrastView, error) {
		out := ContrastView{Left: []FoundWord{}, Right: []FoundWord{}, Twins: [][]string{}}
		other, err := s.Card(ctx, rightID)
		if err != nil {
			return out, err
		}
		right := other.Core(t.Conv.Accent).Pair
		if t.Target == nil || *t.Target == right {
			return out, fault.In("card", "Choose two different sounds.")
		}
		t.Pairs[right] = true
		query := words.Query{Taught: t.Pairs, Familiarity: 2, Exclude: t.Refused, Limit: contrasted}
		c, err := words.Contrast(*t.Target, right, query, t.Conv.Speech())
		if err != nil {
			return out, fault.At("card", err)
		}
		for i := range c.Left {
			out.Left = append(out.Left, foundWord(c.Left[i], t.Bridges()))
			out.Right = append(
				out.Right,
				foundWord(c.Right[i], spelling.Bridging{Targets: []spelling.Pair{right}, Taught: t.Pairs}),
			)
		}
		for _, twin := range c.Twins {
			out.Twins = append(out.Twins, twin[:])
		}
		return out, nil
	})
}

// LookView is a word with whether it may be used, and why.
type LookView struct {
	words.Answer
	Found FoundWord `json:"found"`
}

// Look tells whether a class can read a word, and why or why not.
func (w Words) Look(ctx context.Context, by tx.Actor, q FindQuery, word string) (LookView, error) {
	return parseQuery(ctx, w, by, q, func(_ store.Library, t gather.Taught) (LookView, error) {
		answer, err := words.Look(word, q.words(t), t.Steps, t.Conv.Speech())
		if err != nil {
			return LookView{}, fault.At("word", err)
		}
		bits := spelling.Bridges(answer.Segments, t.Bridges())
		return LookView{answer, FoundWord{answer.Word, bits, answer.Sounds, false, answer.Why}}, nil
	})
}

// SpellingRow is a row of the table with its place in the team's order, 0 where it has none.
type SpellingRow struct {
	lexicon.RowUse
	Kind string `json:"kind"`
	Step int    `json:"step" doc:"0 where the order does not have it"`
}

// Spellings lists the grapheme-sound table in the team's accent, or the rows of one sound or one grapheme.
func (w Words) Spellings(ctx context.Context, by tx.Actor, of string) ([]SpellingRow, error) {
	return tx.Read(ctx, w.Env, by, func(s store.Library) ([]SpellingRow, error) {
		conv, err := gather.Conventions(ctx, s)
		if err != nil {
			return nil, err
		}
		all, err := s.Cards(ctx, false)
		if err != nil {
			return nil, err
		}
		steps := map[spelling.Pair]int{}
		for _, c := range all {
			steps[c.Core(conv.Accent).Pair] = c.Step
		}
		of := strings.ToLower(strings.TrimSpace(of))
		sound := ""
		if ps, err := phoneme.Parse(conv.Accent, of); err == nil {
			sound = phoneme.Join(ps)
		}
		out := []SpellingRow{}
		for _, r := range lexicon.Table(conv.Accent, conv.Units) {
			if r.Types > 0 && (of == "" || r.Grapheme == of || r.Sound == sound) {
				out = append(out, SpellingRow{r, r.Kind(), steps[r.Pair]})
			}
		}
		return out, nil
	})
}
