package teaching

import (
	"context"
	"encoding/hex"
	"errors"
	"fmt"
	"math/rand/v2"
	"regexp"
	"slices"
	"strings"
	"time"

	"brightchalk/internal/core/card"
	"brightchalk/internal/core/convention"
	"brightchalk/internal/core/fault"
	"brightchalk/internal/core/knowledge"
	"brightchalk/internal/core/phoneme"
	"brightchalk/internal/core/spelling"
	"brightchalk/internal/core/words"
	"brightchalk/internal/gather"
	"brightchalk/internal/store"
	"brightchalk/internal/tx"
)

// Words finds, makes, plays with and checks words and texts by what a class can read.
type Words struct{ Env tx.Env }

// FindQuery is a sentence of the finder. CardID names the target, and may be empty.
type FindQuery struct {
	ClassID, CardID, Frame               string
	Position                             words.Position
	WithPicture, NoHomophones            bool
	Sounds, Syllables, Familiarity, Seed int // 0 asks for any
}

func (q FindQuery) words(t gather.Taught) words.Query {
	return words.Query{
		Taught:       t.Pairs,
		Target:       t.Target,
		Position:     q.Position,
		Frame:        strings.ToUpper(q.Frame),
		WithPicture:  q.WithPicture,
		NoHomophones: q.NoHomophones,
		MinSounds:    q.Sounds,
		MaxSounds:    q.Sounds,
		Syllables:    q.Syllables,
		Familiarity:  q.Familiarity,
		Exclude:      t.Refused,
	}
}

func (q FindQuery) chance(stream uint64) *rand.Rand {
	return rand.New(rand.NewPCG(uint64(q.Seed), stream))
}

// FoundWords is what the finder answers. Note says what to relax where nothing fits.
type FoundWords struct {
	Words []FoundWord    `json:"words"`
	Total int            `json:"total"`
	Note  string         `json:"note" doc:"what to relax where nothing fits"`
	Near  []words.Answer `json:"near" doc:"words that need one pair more, and where it comes"`
	Most  *words.Unlock  `json:"most,omitempty" doc:"the one pair of the order that would unlock most words at once"`
}

// FoundWord is a word cut into graphemes for its bridges.
type FoundWord struct {
	Word    string         `json:"word"`
	Bits    []spelling.Bit `json:"bits"`
	Sounds  int            `json:"sounds"`
	Picture bool           `json:"picture"`
	Because string         `json:"because"`
}

const foundLimit = 60

func foundWord(c words.Choice, b spelling.Bridging) FoundWord {
	return FoundWord{c.Word, spelling.Bridges(c.Segments, b), c.Sounds, c.Picture, c.Because}
}

// parseQuery runs f on what the class of a query can read.
func parseQuery[T any](
	ctx context.Context,
	w Words,
	by tx.Actor,
	q FindQuery,
	f func(store.Library, gather.Taught) (T, error),
) (T, error) {
	return tx.Read(ctx, w.Env, by, func(s store.Library) (T, error) {
		t, err := gather.TaughtSet(ctx, s, q.ClassID, q.CardID)
		if err != nil {
			var none T
			return none, err
		}
		return f(s, t)
	})
}

// Find answers the finder.
func (w Words) Find(ctx context.Context, by tx.Actor, q FindQuery) (FoundWords, error) {
	return parseQuery(ctx, w, by, q, func(_ store.Library, t gather.Taught) (FoundWords, error) {
		query := q.words(t)
		found := words.Find(query, t.Conv.Speech())
		out := FoundWords{Words: []FoundWord{}, Total: len(found)}
		out.Near = append([]words.Answer{}, words.IsNear(query, t.Steps, 12, t.Conv.Speech())...)
		if most, ok := words.MaxUnlocked(query, t.Steps, t.Conv.Speech()); ok {
			out.Most = &most
		}
		for _, c := range found[:min(len(found), foundLimit)] {
			out.Words = append(out.Words, foundWord(c, t.Bridges()))
		}
		if len(found) == 0 {
			out.Note = relax(query)
		}
		return out, nil
	})
}

func relax(q words.Query) string {
	switch {
	case len(q.Taught) == 0 || len(q.Taught) == 1 && q.Target != nil:
		return "This class has been taught nothing yet, so nothing can be read."
	case q.WithPicture:
		return "No word with a picture fits. Ask for words with or without one."
	case q.NoHomophones:
		return "No word fits that sounds like no other. Allow words that sound alike."
	case q.MinSounds > 0:
		return fmt.Sprintf("No word of %d sounds fits. Ask for any number.", q.MinSounds)
	case q.Syllables > 0:
		return fmt.Sprintf("No word of %d syllables fits. Ask for any number.", q.Syllables)
	case q.Familiarity > 0:
		return "No word that is known so well fits. Ask for rarer words too."
	case q.Frame != "":
		return "No word of the shape " + q.Frame + " fits. Ask for any shape."
	case q.Position != words.Any && q.Position != "":
		return "No word has it at this place. Ask for any place."
	}
	return "No word fits with what this class has been taught."
}

const madeUpCount = 24

// MakeUp makes up words from what a class has been taught.
func (w Words) MakeUp(ctx context.Context, by tx.Actor, q FindQuery) (FoundWords, error) {
	return parseQuery(ctx, w, by, q, func(_ store.Library, t gather.Taught) (FoundWords, error) {
		o := t.Conv.Speech()
		query := words.MadeUpQuery{Taught: t.Pairs, Target: t.Target, Frame: q.Frame, Count: madeUpCount}
		made, err := words.MakeUp(query, o, q.chance(29))
		if err != nil {
			return FoundWords{}, fault.At("frame", err)
		}
		out := FoundWords{Words: []FoundWord{}, Near: []words.Answer{}, Total: len(made)}
		for _, m := range made {
			out.Words = append(out.Words, FoundWord{
				Word:    m.Word,
				Bits:    spelling.Bridges(m.Segments, t.Bridges()),
				Sounds:  spelling.SoundCount(m.Segments, o.Units),
				Because: "made up; no word in any accent",
			})
		}
		if out.Total == 0 {
			out.Note = "No made-up word fits. A short vowel and five or six consonants are needed; ask for another shape."
		}
		return out, nil
	})
}

// Cut cuts the words of a text for their bridges, as the team speaks.
func (w Words) Cut(ctx context.Context, by tx.Actor, text string) ([]words.CutSentence, error) {
	return tx.Read(ctx, w.Env, by, func(s store.Library) ([]words.CutSentence, error) {
		conv, err := gather.Conventions(ctx, s)
		return words.CutAll(text, conv.Speech()), err
	})
}

// hearWord runs f on the single sounds of cards, in the accent of the first.
func hearWord[T any](
	ctx context.Context,
	w Words,
	by tx.Actor,
	cardIDs []string,
	f func(sounds []phoneme.Phoneme, o words.Options) (T, error),
) (T, error) {
	return tx.Read(ctx, w.Env, by, func(s store.Library) (out T, err error) {
		conv, err := gather.Conventions(ctx, s)
		if err != nil {
			return out, err
		}
		var sounds []phoneme.Phoneme
		for i, id := range cardIDs {
			r, err := s.Card(ctx, id)
			if err != nil {
				return out, err
			}
			if i == 0 {
				conv = r.Content.Conventions(conv)
			}
			ps, err := phoneme.Parse(conv.Accent, r.Core(conv.Accent).Pair.Sound)
			if err != nil || len(ps) != 1 {
				return out, fault.In("sounds", "%s is more than one sound and cannot be sorted by ear.", r.Grapheme)
			}
			sounds = append(sounds, ps[0])
		}
		o, err := gather.Speech(ctx, s, conv)
		if err != nil {
			return out, err
		}
		return f(sounds, o)
	})
}

// Sort is a sorting game for two or more cards' sounds.
func (w Words) Sort(
	ctx context.Context,
	by tx.Actor,
	cardIDs []string,
	per int,
	at words.Position,
	seed uint64,
) ([]words.Basket, error) {
	return hearWord(ctx, w, by, cardIDs, func(sounds []phoneme.Phoneme, o words.Options) ([]words.Basket, error) {
		baskets, err := words.Sort(sounds, per, at, o, rand.New(rand.NewPCG(seed, 17)))
		return baskets, fault.At("sounds", err)
	})
}

// FirstOrLast makes the game of four quarters for a card's sound.
func (w Words) FirstOrLast(ctx context.Context, by tx.Actor, cardID string, seed int) ([]words.Quarter, error) {
	return hearWord(ctx, w, by, []string{cardID}, func(s []phoneme.Phoneme, o words.Options) ([]words.Quarter, error) {
		out, err := words.FirstOrLast(s[0], nil, o, FindQuery{Seed: seed}.chance(43))
		return out, fault.At("card", err)
	})
}

// Unlocked is what a step of the order makes readable.
type Unlocked struct {
	Step    int         `json:"step"`
	Total   int         `json:"total" doc:"all words, rare ones too"`
	Known   int         `json:"known" doc:"words that most children of that age know"`
	Words   []FoundWord `json:"words" doc:"the best known first"`
	Taught  int         `json:"taught" doc:"pairs up to and with this step"`
	Longest string      `json:"longest" doc:"the word of most sounds among the known ones"`
}

// upTo is what the order has taught before a card, and with it, in the card's accent.
func upTo(ctx context.Context, s store.Library, cardID string, with bool) (gather.Taught, store.Card, error) {
	t := gather.Taught{Class: knowledge.Class{Pairs: spelling.Set{}, Refused: map[string]bool{}}}
	conv, err := gather.Conventions(ctx, s)
	if err != nil {
		return t, store.Card{}, err
	}
	all, err := s.Cards(ctx, false)
	if err != nil {
		return t, store.Card{}, err
	}
	i := slices.IndexFunc(all, func(r store.Card) bool { return r.CardID == cardID })
	if i < 0 {
		return t, store.Card{}, store.ErrNotFound
	}
	row := all[i]
	var c card.Card
	t.Conv, c = gather.CardInAccent(conv, row)
	t.Target = &c.Pair
	t.Pairs[c.Pair] = true
	for _, r := range all {
		if r.Step < row.Step || with && r.Step == row.Step {
			t.Pairs[r.Core(t.Conv.Accent).Pair] = true
		}
		for _, w := range r.Content.Rejected {
			t.Refused[w] = true
		}
	}
	return t, row, nil
}

// Unlocks tells what a card makes readable at its place in the order.
func (w Words) Unlocks(ctx context.Context, by tx.Actor, cardID string) (Unlocked, error) {
	return tx.Read(ctx, w.Env, by, func(s store.Library) (Unlocked, error) {
		t, row, err := upTo(ctx, s, cardID, true)
		if err != nil {
			return Unlocked{}, err
		}
		q := words.Query{Taught: t.Conv.Known(t.Pairs), Target: t.Target, Exclude: t.Refused, Rare: true}
		found := words.Find(q, t.Conv.Speech())
		out := Unlocked{Step: row.Step, Total: len(found), Taught: len(t.Pairs), Words: []FoundWord{}}
		most := 0
		for _, c := range found {
			if c.Familiarity < 3 {
				continue
			}
			out.Known++
			if c.Sounds > most {
				most, out.Longest = c.Sounds, c.Word
			}
			if len(out.Words) < foundLimit {
				out.Words = append(out.Words, foundWord(c, spelling.Bridging{Targets: t.Targets(), Taught: q.Taught}))
			}
		}
		return out, nil
	})
}

// WordOffer is what the core proposes for a card's word stock.
type WordOffer struct {
	Read     []words.Choice `json:"read"`
	Starts   []string       `json:"starts" doc:"pictures that start with the sound"`
	Ends     []string       `json:"ends" doc:"pictures that end with it"`
	Holds    []string       `json:"holds" doc:"pictures that have it in the middle"`
	Unlocked int            `json:"unlocked" doc:"readable words with this pair, of all familiarities"`
	Note     string         `json:"note"`
}

const (
	offeredWords    = 24
	offeredPictures = 8
)

// ForCard proposes words for a card from what the order has taught up to its step.
func (w Words) ForCard(ctx context.Context, by tx.Actor, cardID string) (WordOffer, error) {
	return tx.Read(ctx, w.Env, by, func(s store.Library) (WordOffer, error) {
		t, row, err := upTo(ctx, s, cardID, false)
		if err != nil {
			return WordOffer{}, err
		}
		o, err := gather.Speech(ctx, s, t.Conv)
		if err != nil {
			return WordOffer{}, err
		}
		for _, w := range row.Content.Words {
			t.Refused[w] = true
		}
		found := words.Find(words.Query{Taught: t.Conv.Known(t.Pairs), Target: t.Target, Exclude: t.Refused}, o)
		out := WordOffer{
			Read:     append([]words.Choice{}, found[:min(offeredWords, len(found))]...),
			Unlocked: len(found) + len(row.Content.Words),
		}
		if out.Unlocked == 0 {
			out.Note = fmt.Sprintf(
				"With the %d pairs up to step %d no word with %s can be read. More pairs before it would help.",
				len(t.Pairs), row.Step, t.Target.Grapheme,
			)
		}
		pictures := func(at words.Position) []string {
			sounds, err := phoneme.Parse(t.Conv.Accent, t.Target.Sound)
			if err != nil || len(sounds) != 1 {
				return []string{}
			}
			p := words.EarPictures(sounds[0], at, t.Target.Grapheme, nil, o)
			return append([]string{}, p[:min(offeredPictures, len(p))]...)
		}
		out.Starts, out.Ends, out.Holds = pictures(words.Initial), pictures(words.Final), pictures(words.Medial)
		return out, nil
	})
}

var pictureName = regexp.MustCompile(`^[a-z]{2,24}$`)

const maxNames = 6

// Pictures lists the team's own pictures for ear games.
func (w Words) Pictures(ctx context.Context, by tx.Actor) ([]store.NamedPicture, error) {
	return tx.Read(ctx, w.Env, by, func(s store.Library) ([]store.NamedPicture, error) { return s.NamedPictures(ctx) })
}

// PutPicture names a stored picture for ear games. A name that is kept from children is refused.
func (w Words) PutPicture(ctx context.Context, by tx.Actor, p store.NamedPicture) error {
	return tx.Exec(
		ctx,
		w.Env,
		by,
		tx.MayEdit,
		func(s store.Library) error { return PutPicture(ctx, s, by, p, w.Env.Now()) },
	)
}

// PutPicture makes a stored picture the team's own for a word.
func PutPicture(ctx context.Context, s store.Library, by tx.Actor, p store.NamedPicture, now time.Time) error {
	conv, err := gather.Conventions(ctx, s)
	if err != nil {
		return err
	}
	if len(p.Others) > maxNames {
		return fault.In("others", "Up to %d other names can be held.", maxNames)
	}
	if p.Name, err = nameOfPicture(conv, "name", p.Name); err != nil {
		return err
	}
	others := []string{}
	for _, n := range p.Others {
		n, err := nameOfPicture(conv, "others", n)
		if err != nil {
			return err
		}
		others = append(others, n)
	}
	p.Others = others
	if _, err := gather.Picture(ctx, s, p.Picture); errors.Is(err, store.ErrNotFound) {
		return fault.In("picture", "Choose a picture first.")
	} else if err != nil {
		return err
	}
	sum, err := hex.DecodeString(p.Picture)
	if err != nil {
		return err
	}
	return s.PutNamedPicture(ctx, by.MemberID, p, sum, now)
}

func nameOfPicture(conv convention.Conventions, field, name string) (string, error) {
	name = strings.ToLower(strings.TrimSpace(name))
	if !pictureName.MatchString(name) {
		if field == "name" {
			return "", fault.In(field, "The name is one word of 2 to 24 letters, as a child says it.")
		}
		return "", fault.In(field, "“%s” is no single word.", name)
	}
	if theme, refused := conv.Speech().Refuses(name); refused {
		return "", fault.In(field, "“%s” is kept out of what children are offered (%s).", name, theme)
	}
	return name, nil
}

// ArchivePicture takes one of the team's pictures out of use, or brings it back.
func (w Words) ArchivePicture(ctx context.Context, by tx.Actor, name string, archived bool) error {
	return tx.Exec(ctx, w.Env, by, tx.MayEdit, func(s store.Library) error {
		return s.ArchiveNamedPicture(ctx, name, w.Env.NowIf(archived))
	})
}

// Picture is the picture that shows a word: the team's own, or the embedded one.
func (w Words) Picture(ctx context.Context, by tx.Actor, word string) (store.Medium, error) {
	return tx.Read(
		ctx,
		w.Env,
		by,
		func(s store.Library) (store.Medium, error) { return gather.WordPicture(ctx, s, word) },
	)
}
