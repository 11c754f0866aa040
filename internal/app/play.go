package app

import (
	"brightchalk/internal/core/lexicon"
	"brightchalk/internal/core/phoneme"
	"brightchalk/internal/core/spelling"
	"brightchalk/internal/core/texts"
	"brightchalk/internal/core/words"
	"brightchalk/internal/store"
	"context"
	"errors"
	"strings"
)

// PlayWord is a word of a word game. Shown is what stands on the board: the word, or its misspelling. Mark
// are the letters to mark in it.
type PlayWord struct {
	FoundWord
	Shown string   `json:"shown"`
	Says  string   `json:"says"`
	Mark  []int    `json:"mark"`
	Parts []string `json:"parts"` // of a compound
}

// Games of words.
const (
	ChainGame    = "chain"
	SlipGame     = "slips"
	CompoundGame = "compounds"
	RingGame     = "rings"
)

const gameWords = 8

// Play makes a word game from what a class has been taught. start is the first word of a chain, or empty.
func (a *App) Play(ctx context.Context, by Actor, game string, q FindQuery, start string) ([]PlayWord, error) {
	t, p, err := a.asked(ctx, by, q)
	if err != nil {
		return nil, err
	}
	o, query := t.conv.Speech(), q.words(t, p)
	out := []PlayWord{}
	add := func(c words.Choice, shown, says string, mark []int, parts ...string) {
		out = append(out, PlayWord{foundWord(c, p), shown, says, append([]int{}, mark...), append([]string{}, parts...)})
	}
	switch game {
	case ChainGame:
		var links []words.Link
		links, err = words.Chain(query, strings.ToLower(strings.TrimSpace(start)), gameWords, o, q.chance(31))
		for _, l := range links {
			var mark []int
			if l.Changed >= 0 {
				mark = l.Segments[l.Changed].Letters
			}
			add(l.Choice, l.Word, l.Says, mark)
		}
	case SlipGame:
		var slips []words.Slip
		slips, err = words.SlipHunt(query, gameWords, o, q.chance(37))
		for _, s := range slips {
			add(s.Choice, s.Shown, s.Why, nil)
		}
	case CompoundGame:
		query.Target, query.Limit = nil, 24
		for _, c := range words.Compounds(query, o) {
			add(c.Choice, c.Word, c.First+" and "+c.Second+" make "+c.Word+".", nil, c.First, c.Second)
		}
		if len(out) == 0 {
			err = errors.New("no word that is made of two readable words can be read yet")
		}
	case RingGame:
		if p == nil {
			return nil, wrong("card", "Choose the sound that is to be found and ringed.")
		}
		var rings []words.Ring
		rings, err = words.RingList(query, 12, o, q.chance(41))
		for _, r := range rings {
			says := map[words.Position]string{
				words.Initial: "at the start", words.Medial: "in the middle",
				words.Final: "at the end", words.Any: "not in it",
			}[r.Place]
			add(r.Choice, r.Word, says, r.Letters)
		}
	default:
		return nil, wrong("game", "There is no word game %q.", game)
	}
	if err != nil {
		return nil, wrong("card", "%s.", capital(err.Error()))
	}
	return out, nil
}

// FirstOrLast makes the game of four quarters for a card's sound.
func (a *App) FirstOrLast(ctx context.Context, by Actor, cardID string, seed int) ([]words.Quarter, error) {
	conv, err := a.conventions(ctx, a.Pool, by.TeamID)
	if err != nil {
		return nil, err
	}
	sounds, err := a.sounds(ctx, by, []string{cardID})
	if err != nil {
		return nil, err
	}
	o, err := speech(ctx, a.Pool, by.TeamID, conv)
	if err != nil {
		return nil, err
	}
	out, err := words.FirstOrLast(sounds[0], nil, o, FindQuery{Seed: seed}.chance(43))
	if err != nil {
		return nil, wrong("card", "%s.", capital(err.Error()))
	}
	return out, nil
}

// ContrastView sets the words of two cards against one another.
type ContrastView struct {
	Left  []FoundWord `json:"left"`
	Right []FoundWord `json:"right"`
	Twins [][]string  `json:"twins"`
}

// Contrast parts what a class can read by two cards; no word holds both sounds.
func (a *App) Contrast(ctx context.Context, by Actor, classID, leftID, rightID string) (ContrastView, error) {
	out := ContrastView{Left: []FoundWord{}, Right: []FoundWord{}, Twins: [][]string{}}
	t, left, err := a.asked(ctx, by, FindQuery{ClassID: classID, CardID: leftID})
	if err != nil {
		return out, err
	}
	other, err := store.GetCard(ctx, a.Pool, by.TeamID, rightID)
	if err != nil {
		return out, err
	}
	right := other.Core(t.conv.Accent).Pair
	if left == nil || *left == right {
		return out, wrong("card", "Choose two different sounds.")
	}
	t.set[right] = true
	c, err := words.Contrast(
		*left,
		right,
		words.Query{Taught: t.set, Familiarity: 2, Exclude: t.refused, Limit: 12},
		t.conv.Speech(),
	)
	if err != nil {
		return out, wrong("card", "%s.", capital(err.Error()))
	}
	for i := range c.Left {
		out.Left = append(out.Left, foundWord(c.Left[i], left))
		out.Right = append(out.Right, foundWord(c.Right[i], &right))
	}
	for _, w := range c.Twins {
		out.Twins = append(out.Twins, w[:])
	}
	return out, nil
}

// LookView is a word with whether it may be used, and why.
type LookView struct {
	words.Answer
	Found FoundWord `json:"found"`
}

// Look tells whether a class can read a word, and why or why not.
func (a *App) Look(ctx context.Context, by Actor, q FindQuery, word string) (LookView, error) {
	t, p, err := a.asked(ctx, by, q)
	if err != nil {
		return LookView{}, err
	}
	answer, err := words.Look(word, q.words(t, p), t.steps, t.conv.Speech())
	if err != nil {
		return LookView{}, wrong("word", "%s.", capital(err.Error()))
	}
	return LookView{answer, FoundWord{answer.Word, bitsOf(answer.Segments, p), answer.Sounds, false, answer.Why}}, nil
}

// Unlocked is what a step of the order makes readable.
type Unlocked struct {
	Step    int         `json:"step"`
	Total   int         `json:"total"`   // all words, rare ones too
	Known   int         `json:"known"`   // words that most children of that age know
	Words   []FoundWord `json:"words"`   // the best known first
	Taught  int         `json:"taught"`  // pairs up to and with this step
	Longest string      `json:"longest"` // the word of most sounds among the known ones
}

// Unlocks tells what a card makes readable at its place in the order.
func (a *App) Unlocks(ctx context.Context, by Actor, cardID string) (Unlocked, error) {
	out := Unlocked{Words: []FoundWord{}}
	conv, err := a.conventions(ctx, a.Pool, by.TeamID)
	if err != nil {
		return out, err
	}
	c, err := store.GetCard(ctx, a.Pool, by.TeamID, cardID)
	if err != nil {
		return out, err
	}
	all, err := store.Cards(ctx, a.Pool, by.TeamID, false)
	if err != nil {
		return out, err
	}
	target := c.Core(conv.Accent).Pair
	set := spelling.Set{target: true}
	refused := map[string]bool{}
	for _, r := range all {
		if r.Step <= c.Step {
			set[r.Core(conv.Accent).Pair] = true
		}
		for _, w := range r.Content.Rejected {
			refused[w] = true
		}
	}
	found := words.Find(words.Query{Taught: conv.Known(set), Target: &target, Exclude: refused, Rare: true}, conv.Speech())
	out.Step, out.Total, out.Taught = c.Step, len(found), len(set)
	most := 0
	for _, w := range found {
		if w.Familiarity < 3 {
			continue
		}
		out.Known++
		if w.Sounds > most {
			most, out.Longest = w.Sounds, w.Word
		}
		if len(out.Words) < foundLimit {
			out.Words = append(out.Words, foundWord(w, &target))
		}
	}
	return out, nil
}

// MadeSentence is a made sentence, always to be read before use. Pieces are empty where it cannot be cut.
type MadeSentence struct {
	texts.Suggestion
	Pieces []string `json:"pieces"`
}

// Sentences makes sentences from what a class has been taught.
func (a *App) Sentences(ctx context.Context, by Actor, q FindQuery) ([]MadeSentence, error) {
	t, p, err := a.asked(ctx, by, q)
	if err != nil {
		return nil, err
	}
	out := []MadeSentence{}
	for _, s := range texts.Suggest(texts.SuggestQuery{
		Taught: t.set, Exceptions: t.exceptions, Target: p,
		Exclude: t.refused, Count: 12,
	}, t.conv.Speech(), q.chance(47)) {
		pieces, err := texts.Chop(s.Text)
		if err != nil {
			pieces = []string{}
		}
		out = append(out, MadeSentence{s, pieces})
	}
	return out, nil
}

// Chop cuts a sentence into pieces to be put in order.
func (a *App) Chop(_ context.Context, _ Actor, text string) ([]string, error) {
	pieces, err := texts.Chop(text)
	if err != nil {
		return nil, wrong("text", "%s.", capital(err.Error()))
	}
	return pieces, nil
}

// SpellingRow is a row of the table with its place in the team's order, 0 where it has none.
type SpellingRow struct {
	lexicon.RowUse
	Kind string `json:"kind"`
	Step int    `json:"step"`
}

// Spellings lists the grapheme-sound table in the team's accent, or the rows of one sound or one grapheme.
func (a *App) Spellings(ctx context.Context, by Actor, of string) ([]SpellingRow, error) {
	conv, err := a.conventions(ctx, a.Pool, by.TeamID)
	if err != nil {
		return nil, err
	}
	all, err := store.Cards(ctx, a.Pool, by.TeamID, false)
	if err != nil {
		return nil, err
	}
	steps := map[spelling.Pair]int{}
	for _, c := range all {
		steps[c.Core(conv.Accent).Pair] = c.Step
	}
	of = strings.ToLower(strings.TrimSpace(of))
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
}
