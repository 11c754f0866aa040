package curriculum

import (
	"context"
	"math/rand/v2"
	"slices"
	"sort"
	"strings"

	"brightchalk/internal/core/card"
	"brightchalk/internal/core/convention"
	"brightchalk/internal/core/fault"
	"brightchalk/internal/core/knowledge"
	"brightchalk/internal/core/order"
	"brightchalk/internal/core/spelling"
	"brightchalk/internal/core/texts"
	"brightchalk/internal/gather"
	"brightchalk/internal/store"
	"brightchalk/internal/tx"
)

// Orders judges and changes the order of teaching.
type Orders struct{ Env tx.Env }

// What a member can mend in an order.
const (
	ErrOtherCards fault.Code = "other-cards"
	ErrNoChange   fault.Code = "no-change"
	ErrManyOpen   fault.Code = "many-open"
)

// OrderStep is a card at its place, with what it brings and what lies too close.
type OrderStep struct {
	CardID     string        `json:"card_id" format:"uuid"`
	Words      int           `json:"words" doc:"familiar words that become readable with it"`
	Pictures   int           `json:"pictures" doc:"those of them with a picture"`
	Best       []string      `json:"best"`
	Texts      int           `json:"texts" doc:"texts of the bank that become readable with it"`
	Clashes    []order.Clash `json:"clashes"`
	Kind       string        `json:"kind" doc:"letter, doubled letter, split digraph, ..."`
	Exceptions []string      `json:"exceptions" doc:"exception words that come with it"`
}

// OrderSum is what an order comes to. A week has as many steps as the school teaches sounds.
type OrderSum struct {
	PerWeek  int      `json:"per_week"`
	Readable []int    `json:"readable" doc:"familiar words that can be read after each step"`
	Weeks    []int    `json:"weeks" doc:"the same after each week"`
	Pictures int      `json:"pictures" doc:"words with a picture, summed over all steps"`
	Sum      int      `json:"sum" doc:"readable words, summed over all steps"`
	Clashes  int      `json:"clashes" doc:"pairs that are mixed up with too few steps between"`
	Missing  []string `json:"missing" doc:"graphemes that many words need and no card teaches"`
}

// PassedClass is a class that has met cards which move.
type PassedClass struct {
	Class  store.Class `json:"class"`
	Met    int         `json:"met" doc:"cards that it has met and that move: nothing changes for it with these"`
	Behind []string    `json:"behind" doc:"card ids that now stand before what it has met, and come to it next"`
}

// OrderLook is an order beside the one that stands.
type OrderLook struct {
	Steps  []OrderStep   `json:"steps"`
	Before OrderSum      `json:"before"`
	After  OrderSum      `json:"after"`
	Moved  int           `json:"moved" doc:"cards that have another place"`
	Passed []PassedClass `json:"passed" doc:"classes that the change concerns"`
}

// OrderView is the order that stands, with what was proposed.
type OrderView struct {
	Order     []string         `json:"order" doc:"card ids"`
	Proposals []store.Proposal `json:"proposals" doc:"the newest first"`
	Weights   order.Weights    `json:"weights" doc:"what a search for a better order begins with"`
}

// orderLibrary is what questions about an order need.
type orderLibrary struct {
	conv    convention.Conventions
	sources knowledge.Sources
	cards   map[string]card.Card
	order   []string // as it stands
	bank    []store.BankText
	perWeek int
	rows    []store.Card // with those that are put aside
}

func readOrderLibrary(ctx context.Context, s store.Library) (orderLibrary, error) {
	l := orderLibrary{cards: map[string]card.Card{}}
	var err error
	if l.conv, err = gather.Conventions(ctx, s); err != nil {
		return l, err
	}
	if l.sources, err = gather.CardSources(ctx, s, l.conv); err != nil {
		return l, err
	}
	if l.rows, err = s.Cards(ctx, true); err != nil {
		return l, err
	}
	for _, c := range l.sources.Cards {
		if !l.sources.Archived[c.ID] {
			l.cards[c.ID], l.order = c, append(l.order, c.ID)
		}
	}
	if l.bank, err = s.Bank(ctx); err != nil {
		return l, err
	}
	school, _, err := gather.School(ctx, s)
	l.perWeek = school.PerWeek
	return l, err
}

// check fails where an order does not hold each card of the library once.
func (l orderLibrary) check(ids []string) error {
	seen := map[string]bool{}
	for _, id := range ids {
		if _, there := l.cards[id]; !there {
			return fault.At(
				"order",
				fault.New(ErrOtherCards, "A card of this order is no longer in the library. Look at it again."),
			)
		}
		if seen[id] {
			return fault.At("order", fault.New(ErrOtherCards, "%s stands twice in this order.", l.cards[id].Pair))
		}
		seen[id] = true
	}
	if len(seen) < len(l.order) {
		return fault.At(
			"order",
			fault.New(ErrOtherCards, "The order lacks %d of the library’s cards. Look at it again.",
				len(l.order)-len(seen)),
		)
	}
	return nil
}

func (l orderLibrary) steps(ids []string) []order.Step {
	out := []order.Step{}
	for i, id := range ids {
		out = append(out, order.Step{Number: i + 1, Pair: l.cards[id].Pair})
	}
	return out
}

// taught are what is known before the first step, and after each.
func (l orderLibrary) taught(ids []string) (sets []spelling.Set, exceptions []map[string]bool) {
	class := knowledge.Class{Pairs: spelling.Set{}, Exceptions: map[string]bool{}}
	sets, exceptions = append(sets, class.Pairs), append(exceptions, class.Exceptions)
	for _, id := range ids {
		class = class.With(l.conv, l.cards[id])
		sets, exceptions = append(sets, class.Pairs), append(exceptions, class.Exceptions)
	}
	return sets, exceptions
}

func (l orderLibrary) sum(ids []string, gains []order.Gain) OrderSum {
	out := OrderSum{PerWeek: l.perWeek, Readable: []int{}, Weeks: []int{}, Missing: []string{}}
	for i, g := range gains {
		out.Readable = append(out.Readable, g.Words)
		out.Sum += g.Words
		out.Pictures += g.Pictures
		if (i+1)%l.perWeek == 0 || i == len(gains)-1 {
			out.Weeks = append(out.Weeks, g.Words)
		}
	}
	steps := l.steps(ids)
	for i, list := range order.Clashes(steps) {
		for _, c := range list {
			if c.Apart > 0 && c.Close && spelling.MixedUp(steps[i].Pair.Grapheme, c.Pair.Grapheme) {
				out.Clashes++
			}
		}
	}
	out.Missing = order.Missing(steps, l.conv.Speech())
	return out
}

// look judges an order.
func (l orderLibrary) look(ids []string) ([]OrderStep, OrderSum) {
	sets, exceptions := l.taught(ids)
	gains := order.Growth(sets[1:], l.conv.Speech())
	clashes := order.Clashes(l.steps(ids))
	out := []OrderStep{}
	before := 0
	for i, id := range ids {
		c := l.cards[id]
		k := OrderStep{
			CardID: id, Words: gains[i].New, Pictures: gains[i].Pictures - before, Best: gains[i].Best, Clashes: clashes[i],
			Kind: c.Pair.Kind(), Exceptions: append([]string{}, c.Exceptions...),
		}
		before = gains[i].Pictures
		out = append(out, k)
	}
	for _, t := range l.bank {
		reads := func(i int) bool {
			return texts.Check(t.Body, sets[i], exceptions[i], l.conv.Speech()).Decodable >= 1
		}
		if at := sort.Search(len(sets), reads); at > 0 && at < len(sets) {
			out[at-1].Texts++
		}
	}
	return out, l.sum(ids, gains)
}

// Order returns the order that stands, with what was proposed.
func (o Orders) Order(ctx context.Context, by tx.Actor) (OrderView, error) {
	return tx.Read(ctx, o.Env, by, func(s store.Library) (OrderView, error) {
		l, err := readOrderLibrary(ctx, s)
		if err != nil {
			return OrderView{}, err
		}
		list, err := s.Proposals(ctx)
		return OrderView{append([]string{}, l.order...), list, order.UsualWeights()}, err
	})
}

// Look judges an order beside the one that stands.
func (o Orders) Look(ctx context.Context, by tx.Actor, ids []string) (OrderLook, error) {
	var classes []gather.KnownClass
	l, err := tx.Read(ctx, o.Env, by, func(s store.Library) (orderLibrary, error) {
		l, err := readOrderLibrary(ctx, s)
		if err == nil {
			classes, err = gather.Classes(ctx, s, l.sources)
		}
		return l, err
	})
	if err != nil {
		return OrderLook{}, err
	}
	if err := l.check(ids); err != nil {
		return OrderLook{}, err
	}
	_, before := l.look(l.order)
	out := OrderLook{Before: before, Passed: []PassedClass{}}
	out.Steps, out.After = l.look(ids)
	moved := map[string]bool{}
	for _, id := range order.Moved(l.order, ids) {
		moved[id] = true
	}
	out.Moved = len(moved)
	for _, c := range classes {
		if p := passed(c, ids, moved); p.Met > 0 || len(p.Behind) > 0 {
			out.Passed = append(out.Passed, p)
		}
	}
	return out, nil
}

// passed is what a change of the order is to a class.
func passed(c gather.KnownClass, ids []string, moved map[string]bool) PassedClass {
	p := PassedClass{Class: c.Class, Behind: []string{}}
	last := -1
	met := map[string]bool{}
	for _, k := range c.Known.Met {
		met[k.Card.ID] = true
		if moved[k.Card.ID] {
			p.Met++
		}
		last = max(last, slices.Index(ids, k.Card.ID))
	}
	for _, id := range ids[:last+1] {
		if !met[id] && moved[id] {
			p.Behind = append(p.Behind, id)
		}
	}
	return p
}

// Sentences are, for each step of an order, a made sentence with its sound; empty where none can be made.
func (o Orders) Sentences(ctx context.Context, by tx.Actor, ids []string) ([]string, error) {
	l, err := tx.Read(ctx, o.Env, by, func(s store.Library) (orderLibrary, error) {
		return readOrderLibrary(ctx, s)
	})
	if err != nil {
		return nil, err
	}
	if err := l.check(ids); err != nil {
		return nil, err
	}
	sets, exceptions := l.taught(ids)
	out := []string{}
	for i, id := range ids {
		if err := ctx.Err(); err != nil {
			return nil, err
		}
		q := texts.SuggestQuery{
			Taught: sets[i+1], Exceptions: exceptions[i+1], Targets: []spelling.Pair{l.cards[id].Pair}, Count: 1,
		}
		made := texts.Suggest(q, l.conv.Speech(), rand.New(rand.NewPCG(uint64(i), 1)))
		text := ""
		if len(made) > 0 {
			text = made[0].Text
		}
		out = append(out, text)
	}
	return out, nil
}

const (
	maxOpen = 12
	maxNote = 300
)

// Propose keeps a change of the order for the lead to decide.
func (o Orders) Propose(ctx context.Context, by tx.Actor, ids []string, note string) (string, error) {
	return tx.Write(ctx, o.Env, by, tx.MayEdit, func(s store.Library) (string, error) {
		l, err := readOrderLibrary(ctx, s)
		if err != nil {
			return "", err
		}
		if err := l.check(ids); err != nil {
			return "", err
		}
		if slices.Equal(ids, l.order) {
			return "", fault.At(
				"order",
				fault.New(ErrNoChange, "This is the order as it stands. Move something first."),
			)
		}
		if n, err := s.OpenProposals(ctx); err != nil {
			return "", err
		} else if n >= maxOpen {
			return "", fault.At("order", fault.New(ErrManyOpen, "%d proposals are open already. Decide one first.", n))
		}
		if note = strings.TrimSpace(note); len(note) > maxNote {
			return "", fault.In("note", "The note is longer than %d signs.", maxNote)
		}
		return s.AddProposal(ctx, note, l.order, ids, by.MemberID, o.Env.Now())
	})
}

// Decide agrees a proposal as a whole, or puts it aside; only a lead may. A proposal that was made from another order
// than the one that stands is not agreed: it is to be looked at again.
func (o Orders) Decide(ctx context.Context, by tx.Actor, id string, agreed bool) error {
	return tx.Exec(ctx, o.Env, by, tx.MayAgree, func(s store.Library) error {
		p, err := s.Proposal(ctx, id)
		if err != nil {
			return err
		}
		state := "put aside"
		if agreed {
			state = "agreed"
			l, err := readOrderLibrary(ctx, s)
			if err != nil {
				return err
			}
			if err := l.check(p.After); err != nil {
				return err
			}
			if !slices.Equal(p.Before, l.order) {
				return fault.At("order", fault.New(
					ErrOtherCards,
					"The order was changed since this was proposed. Look at it beside the order of today, and propose it anew.",
				))
			}
			if err := l.put(ctx, s, p.After); err != nil {
				return err
			}
		}
		return s.DecideProposal(ctx, id, state, by.MemberID, o.Env.Now())
	})
}

// put gives the cards of an order the steps that they had between them, in their new order; what is put aside stays.
func (l orderLibrary) put(ctx context.Context, s store.Library, ids []string) error {
	var steps []int
	for _, r := range l.rows {
		if r.ArchivedAt == nil {
			steps = append(steps, r.Step)
		}
	}
	slices.Sort(steps)
	return s.SetOrder(ctx, ids, steps)
}
