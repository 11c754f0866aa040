package library

import (
	"context"
	"errors"
	"slices"
	"strings"
	"time"
	"unicode"
	"unicode/utf8"

	"brightchalk/internal/core/card"
	"brightchalk/internal/core/convention"
	"brightchalk/internal/core/fault"
	"brightchalk/internal/core/lexicon"
	"brightchalk/internal/core/phoneme"
	"brightchalk/internal/core/prose"
	"brightchalk/internal/core/spelling"
	"brightchalk/internal/gather"
	"brightchalk/internal/store"
	"brightchalk/internal/tx"
)

// OwnWords is what a team uses over and over: its own words and names, and the wordings that go through the library.
type OwnWords struct{ Env tx.Env }

// OwnWordView is a word of the team's own, cut.
type OwnWordView struct {
	convention.OwnWord
	Bits   []spelling.Bit `json:"bits"`
	From   int            `json:"from" doc:"step of the order from which on it can be read; 0 where none is"`
	Lacks  []string       `json:"lacks" doc:"spellings in it that no card teaches so"`
	Uses   int            `json:"uses" doc:"places of the library where it stands"`
	Broken string         `json:"broken" doc:"why its sounds are not used; empty where they are"`
}

// WordPart is a part of a word with the sounds that its letters may have.
type WordPart struct {
	Grapheme string   `json:"grapheme"`
	Sound    string   `json:"sound"`
	Others   []string `json:"others" doc:"other sounds of this spelling, the most usual first"`
}

// TriedWord is a word before it is kept.
type TriedWord struct {
	OwnWordView
	Parts  []WordPart `json:"parts"`
	Known  bool       `json:"known" doc:"the word list has it; sounds given here go before those"`
	Spoken []string   `json:"spoken" doc:"other ways in which the list says it"`
}

// Words lists the words of the team's own, in alphabetical order.
func (k OwnWords) Words(ctx context.Context, by tx.Actor) ([]OwnWordView, error) {
	return tx.Read(ctx, k.Env, by, func(s store.Library) ([]OwnWordView, error) {
		l, err := readStockLibrary(ctx, s)
		if err != nil {
			return nil, err
		}
		out := []OwnWordView{}
		for _, w := range l.conv.Words {
			out = append(out, l.view(w))
		}
		slices.SortFunc(out, func(a, b OwnWordView) int {
			return strings.Compare(strings.ToLower(a.Word), strings.ToLower(b.Word))
		})
		return out, nil
	})
}

// stockLibrary is the library that wordings are looked for in.
type stockLibrary struct {
	conv  convention.Conventions
	rows  []store.Card
	cards []card.Card
	bank  []store.BankText
}

func readStockLibrary(ctx context.Context, s store.Library) (l stockLibrary, err error) {
	if l.conv, err = gather.Conventions(ctx, s); err != nil {
		return l, err
	}
	if l.rows, err = s.Cards(ctx, false); err != nil {
		return l, err
	}
	for _, r := range l.rows {
		_, c := gather.CardInAccent(l.conv, r)
		c.Content = c.Tidy()
		l.cards = append(l.cards, c)
	}
	l.bank, err = s.Bank(ctx)
	return l, err
}

func (l stockLibrary) view(w convention.OwnWord) OwnWordView {
	v := OwnWordView{OwnWord: w, Bits: []spelling.Bit{}, Lacks: []string{}}
	for _, u := range l.uses(w.Word) {
		v.Uses += u.Times
	}
	spoken, err := w.Spoken(l.conv.Accent)
	if err != nil {
		v.Broken = err.Error()
		return v
	}
	r, err := spoken.Cut(l.conv.Accent, l.conv.Units)
	if err != nil {
		v.Broken = err.Error()
		return v
	}
	v.Bits = spelling.Bridges(r.Segments, spelling.Bridging{})
	known := map[spelling.Pair]int{}
	taught := spelling.Set{}
	for _, c := range l.cards {
		known[c.Pair] = c.Step
		taught[c.Pair] = true
	}
	doubles := l.conv.Known(taught)
	for _, seg := range r.Segments {
		switch step, ok := known[seg.Pair]; {
		case ok && !seg.Odd:
			v.From = max(v.From, step)
		case seg.Odd || !doubles[seg.Pair]:
			v.Lacks = append(v.Lacks, seg.Pair.String())
		}
	}
	if len(v.Lacks) > 0 {
		v.From = 0
	}
	return v
}

const longestOwn = 24

// Try cuts a word with sounds that somebody gives, or by rule where none are given. Nothing is kept.
func (k OwnWords) Try(ctx context.Context, by tx.Actor, w convention.OwnWord) (TriedWord, error) {
	return tx.Read(ctx, k.Env, by, func(s store.Library) (TriedWord, error) {
		l, err := readStockLibrary(ctx, s)
		if err != nil {
			return TriedWord{}, err
		}
		return l.try(w)
	})
}

func (l stockLibrary) try(w convention.OwnWord) (TriedWord, error) {
	out := TriedWord{Parts: []WordPart{}, Spoken: []string{}}
	w.Word = strings.TrimSpace(strings.ReplaceAll(w.Word, "’", "'"))
	if n := utf8.RuneCountInString(w.Word); n < 2 || n > longestOwn || strings.ContainsFunc(w.Word, notOfWord) {
		return out, fault.In("word", "Write one word of 2 to %d letters.", longestOwn)
	}
	plain := l.conv
	plain.Words = nil
	if theme, refused := plain.Speech().Refuses(strings.ToLower(w.Word)); refused {
		return out, fault.In(
			"word",
			"“%s” is kept out of what children are offered (%s). A lead can allow the single word under "+
				"Team.",
			w.Word,
			strings.ReplaceAll(string(theme), "-", " "),
		)
	}
	seg, err := plain.Speech().Segment(w.Word)
	if err != nil {
		return out, fault.At("word", err)
	}
	out.Known = seg.Source == lexicon.FromLexicon
	for _, r := range seg.Alternatives {
		out.Spoken = append(out.Spoken, phoneme.Join(r.Phonemes))
	}
	w.Sounds = strings.TrimSpace(w.Sounds)
	if w.Sounds == "" {
		w.Sounds = phoneme.Join(seg.Phonemes)
	}
	spoken, err := w.Spoken(l.conv.Accent)
	if err != nil {
		return out, fault.At("sounds", err)
	}
	w.Sounds = phoneme.Join(spoken.Sounds)
	cut, err := spoken.Cut(l.conv.Accent, l.conv.Units)
	if err != nil {
		return out, fault.At("sounds", err)
	}
	for _, s := range cut.Segments {
		p := WordPart{Grapheme: s.Grapheme, Sound: phoneme.Join(s.Phonemes), Others: []string{}}
		for _, other := range spelling.Sounds(l.conv.Accent, s.Grapheme) {
			if other != p.Sound {
				p.Others = append(p.Others, other)
			}
		}
		out.Parts = append(out.Parts, p)
	}
	out.OwnWordView = l.view(w)
	return out, nil
}

func notOfWord(r rune) bool { return !unicode.IsLetter(r) && r != '\'' && r != '-' }

// maxOwnWords is how many words of its own a team keeps; the bound of card.Conventions.
const maxOwnWords = 400

// PutWord keeps a word of the team's own, in the place of one that is written so.
func (k OwnWords) PutWord(ctx context.Context, by tx.Actor, w convention.OwnWord) error {
	return tx.Exec(ctx, k.Env, by, tx.MayEdit, func(s store.Library) error {
		l, err := readStockLibrary(ctx, s)
		if err != nil {
			return err
		}
		tried, err := l.try(w)
		if err != nil {
			return err
		}
		tried.Note = strings.TrimSpace(w.Note)
		if w.Part != "" && !w.Name {
			return fault.In("part", "Only a name has a part in lessons: write it with its capital.")
		}
		words := without(l.conv.Words, tried.Word)
		if len(words) >= maxOwnWords {
			return fault.In("word", "%d words of your own are the most.", maxOwnWords)
		}
		return s.SetWords(ctx, append(words, tried.OwnWord))
	})
}

func without(list []convention.OwnWord, word string) []convention.OwnWord {
	return slices.DeleteFunc(
		slices.Clone(list),
		func(w convention.OwnWord) bool { return strings.EqualFold(w.Word, word) },
	)
}

// DropWord lets go of a word of the team's own; it is said by the list again, or by rule.
func (k OwnWords) DropWord(ctx context.Context, by tx.Actor, word string) error {
	return tx.Exec(ctx, k.Env, by, tx.MayEdit, func(s store.Library) error {
		c, err := gather.Conventions(ctx, s)
		if err != nil {
			return err
		}
		left := without(c.Words, word)
		if len(left) == len(c.Words) {
			return store.ErrNotFound
		}
		return s.SetWords(ctx, left)
	})
}

// Use is a place of the library where a wording stands.
type Use struct {
	Key    string        `json:"key" doc:"by which it is chosen to be replaced"`
	CardID string        `json:"card_id" doc:"empty for a text of the bank"`
	Pair   spelling.Pair `json:"pair"`
	TextID string        `json:"text_id" doc:"empty for a card"`
	Field  string        `json:"field" doc:"of the card; empty for a text of the bank"`
	Text   string        `json:"text" doc:"as it stands"`
	After  string        `json:"after" doc:"as it would stand"`
	Times  int           `json:"times"`
	Agreed bool          `json:"agreed" doc:"the card is agreed: the change is a draft beside that"`
}

func (l stockLibrary) uses(what string) []Use { return l.replaced(what, what) }

// replaced are the places where a wording stands, and what stood there with another one.
func (l stockLibrary) replaced(what, with string) []Use {
	out, wording := []Use{}, prose.Whole(what)
	for _, c := range l.cards {
		for _, field := range card.Fields {
			f := field.Name
			text, _ := c.Wording(f)
			if n := wording.Uses(text); n > 0 {
				out = append(out, Use{
					Key: c.ID + " " + f, CardID: c.ID, Pair: c.Pair, Field: f, Text: text,
					After: wording.Replace(text, with), Times: n, Agreed: c.State == card.Agreed,
				})
			}
		}
	}
	for _, t := range l.bank {
		if n := wording.Uses(t.Body); n > 0 {
			out = append(out, Use{
				Key: t.TextID, TextID: t.TextID, Text: t.Body, After: wording.Replace(t.Body, with), Times: n,
			})
		}
	}
	return out
}

// Bounds of what is looked for.
const maxWording = 120

// Uses lists where a wording stands whole, and what would stand there with another one.
func (k OwnWords) Uses(ctx context.Context, by tx.Actor, what, with string) ([]Use, error) {
	if strings.TrimSpace(what) == "" || len(what) > maxWording || len(with) > maxWording {
		return nil, fault.In("what", "Write the word or the wording to look for, up to %d signs.", maxWording)
	}
	return tx.Read(ctx, k.Env, by, func(s store.Library) ([]Use, error) {
		l, err := readStockLibrary(ctx, s)
		if err != nil {
			return nil, err
		}
		return l.replaced(what, with), nil
	})
}

// Replace puts another wording in the chosen places; cards change as drafts. A place where the wording does not stand
// any more is passed over. It returns how many places changed.
func (k OwnWords) Replace(ctx context.Context, by tx.Actor, what, with string, keys []string) (int, error) {
	with = strings.TrimSpace(with)
	switch {
	case strings.TrimSpace(what) == "" || len(what) > maxWording:
		return 0, fault.In("what", "Write the word or the wording to look for, up to %d signs.", maxWording)
	case with == "" || len(with) > maxWording:
		return 0, fault.In("with", "Write what shall stand there instead, up to %d signs.", maxWording)
	}
	return tx.Write(ctx, k.Env, by, tx.MayEdit, func(s store.Library) (int, error) {
		l, err := readStockLibrary(ctx, s)
		if err != nil {
			return 0, err
		}
		if theme, refused := l.conv.Speech().Refuses(strings.ToLower(with)); refused {
			return 0, fault.In("with", "“%s” is kept out of what children are offered (%s).", with,
				strings.ReplaceAll(string(theme), "-", " "))
		}
		n := 0
		contents := map[string]card.Content{}
		for _, u := range l.replaced(what, with) {
			if !slices.Contains(keys, u.Key) {
				continue
			}
			n++
			if u.TextID != "" {
				if err := s.ReplaceBankText(ctx, u.TextID, u.After); errors.Is(err, store.ErrTaken) {
					return 0, fault.In("with", "The bank has “%s” already.", u.After)
				} else if err != nil {
					return 0, err
				}
				continue
			}
			c, ok := contents[u.CardID]
			if !ok {
				c = l.content(u.CardID)
			}
			if c, err = c.Worded(u.Field, u.After); err != nil {
				return 0, fault.In("with", "On the card %s it does not fit: %v", u.Pair.Grapheme, err)
			}
			contents[u.CardID] = c
		}
		return n, StoreContents(ctx, s, by, l.rows, contents, k.Env.Now())
	})
}

func (l stockLibrary) content(cardID string) card.Content {
	i := slices.IndexFunc(l.cards, func(c card.Card) bool { return c.ID == cardID })
	return l.cards[i].Content
}

// StoreContents stores changed contents of cards, each as a new version; a card whose content is the same is left
// alone.
func StoreContents(
	ctx context.Context,
	s store.Library,
	by tx.Actor,
	rows []store.Card,
	contents map[string]card.Content,
	now time.Time,
) error {
	for _, r := range rows {
		content, ok := contents[r.CardID]
		if !ok {
			continue
		}
		changed := card.Changed(r.Content.Tidy(), content)
		if len(changed) == 0 {
			continue
		}
		err := s.UpdateCard(ctx, store.CardEdit{
			CardID: r.CardID, Version: r.Version + 1, State: StateAfterEdit(r.State), Content: content, Changed: changed,
			By: &by.MemberID, Now: now,
		})
		if err != nil {
			return err
		}
	}
	return nil
}
