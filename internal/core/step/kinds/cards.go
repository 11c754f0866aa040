package kinds

import (
	"fmt"
	"math"
	"math/rand/v2"
	"slices"

	"brightchalk/internal/core/card"
	"brightchalk/internal/core/fault"
	"brightchalk/internal/core/lesson"
	"brightchalk/internal/core/prose"
	"brightchalk/internal/core/script"
	"brightchalk/internal/core/spelling"
	"brightchalk/internal/core/step"
)

// cardOption is a card as it stands in a drill.
func cardOption(b *step.FillInput, c card.Card, side string, because map[string]string) lesson.Option {
	o := lesson.Option{
		Value: c.ID, Detail: c.Pair.Grapheme, Position: side, Role: lesson.KnownRole, Origin: lesson.FromLog,
		Because: step.Why("due", "%s", step.First(because[c.ID], "among the cards met last")),
	}
	if b.IsTarget(c.ID) {
		o.Role, o.Because = lesson.TargetRole, step.Why("target", "the lesson is about it")
	}
	return o
}

// drill are items and deck of shows.
func drill(b *step.FillInput, shows []lesson.Show, because map[string]string) step.FillResult {
	f := step.FillResult{Deck: shows}
	for _, s := range shows {
		f.Items = append(f.Items, step.NewItem(lesson.CardItem, cardOption(b, findCard(b, s.CardID), s.Side, because)))
	}
	return f
}

func findCard(b *step.FillInput, id string) card.Card {
	for _, t := range b.Targets {
		if t.ID == id {
			return t
		}
	}
	k, _ := b.Class.Find(id)
	return k.Card
}

const spacings = 40 // orders tried, for the one in which fewest neighbours are mixed up

// spaced is an order of chance in which no two that children mix up are neighbours, as far as that can be, and the
// first is none of the targets.
func spaced(b *step.FillInput, cards []card.Card, after *card.Card, rng *rand.Rand) []card.Card {
	best, least := slices.Clone(cards), math.MaxInt
	try := slices.Clone(cards)
	for range spacings {
		rng.Shuffle(len(try), func(i, j int) { try[i], try[j] = try[j], try[i] })
		n := 0
		for i, c := range try {
			before := after
			if i > 0 {
				before = &try[i-1]
			}
			switch {
			case before == nil:
				if b.IsTarget(c.ID) {
					n++
				}
			case before.Pair.Grapheme == c.Pair.Grapheme:
				n += 4
			case spelling.MixedUp(before.Pair.Grapheme, c.Pair.Grapheme):
				n += 2
			}
		}
		if n < least {
			best, least = slices.Clone(try), n
		}
		if n == 0 {
			break
		}
	}
	return best
}

// shows goes through the cards again and again until there are n shows, each time in another order.
func shows(b *step.FillInput,
	cards []card.Card,
	n int,
	side func(pass, i int, c card.Card) string,
	rng *rand.Rand,
) []lesson.Show {
	var out []lesson.Show
	var last *card.Card
	for pass := 0; len(out) < n; pass++ {
		for i, c := range spaced(b, cards, last, rng) {
			if len(out) == n {
				break
			}
			out = append(out, lesson.Show{CardID: c.ID, Side: side(pass, i, c)})
			last = &c
		}
	}
	return out
}

func letterSide(int, int, card.Card) string { return "letter" }

// WarmUp is the step: known cards, letter side, at a quick pace.
var WarmUp = step.Record{
	Kind: lesson.WarmUp, Name: "Warm-up", Family: lesson.EyeFamily, MinSeconds: 30, UsualSeconds: 75, MaxSeconds: 150,
	ItemSeconds: 5, Needs: []step.Need{step.NeedMet}, Shows: step.ShowDeck, Rank: 30, Ways: drillWays(),
	About: "Known cards, letter side, at a quick pace.",
	Material: func(b *step.FillInput, s lesson.RoutineStep) (step.Material, *fault.Fault) {
		cards, because := due(b, maxDrilled, s.Options.Way, b.Chance("warm-up"))
		if len(cards) == 0 {
			return step.Refuse(step.LacksMet, "%s", nothingFor[s.Options.Way])
		}
		return step.Material{Least: 2, Most: max(len(cards), 6), Take: func(n int) step.FillResult {
			rng := b.Chance("warm-up shows")
			return drill(b, shows(b, cards[:min(n, len(cards))], n, letterSide, rng), because)
		}}, nil
	},
	Tell: func(t *step.Narration, s *lesson.Step) {
		step.Adult(
			s,
			fmt.Sprintf("Show %d cards, letter side, at a quick pace. Say nothing; wait for the class.", len(s.Items)),
		)
		step.Class(s, "Says "+script.AnswerRule(t.Conventions)+" of each card.")
		step.Table(s, "Sound cards of the warm-up")
	},
}

// sides of a pack are mixed; a card without a picture shows its letter. With one side first the pictures come before
// the letters.
func packSide(b *step.FillInput, rng *rand.Rand) func(pass, i int, c card.Card) string {
	return func(pass, _ int, c card.Card) string {
		picture := rng.IntN(2) == 0
		if b.Conventions.Says.OneSideFirst {
			picture = pass%2 == 0
		}
		if picture && c.Picture != "" {
			return "picture"
		}
		return "letter"
	}
}

// maxDrilled is how many cards a drill holds at the most.
const maxDrilled = 24

const packShows = 2 // each card of the pack is shown so often

// Pack is the step: what is due, with the lesson's card somewhere in it, sides mixed.
var Pack = step.Record{
	Kind: lesson.Pack, Name: "Pack", Family: lesson.EyeFamily, MinSeconds: 30, UsualSeconds: 70, MaxSeconds: 100,
	ItemSeconds: 5, Needs: []step.Need{step.NeedMet}, Shows: step.ShowDeck, Rank: 65, Ways: drillWays(),
	About: "What is due, with the lesson's card somewhere in it, sides mixed.",
	Material: func(b *step.FillInput, s lesson.RoutineStep) (step.Material, *fault.Fault) {
		way := s.Options.Way
		due, because := due(b, 16, way, b.Chance("pack"))
		if len(due)+len(b.Targets) < 2 || len(due) == 0 && b.Purpose == lesson.Introduce {
			if way == "" || way == dueWay {
				return step.Refuse(step.LacksMet, "the class has met no other card yet")
			}
			return step.Refuse(step.LacksMet, "%s", nothingFor[way])
		}
		most := packShows * (len(due) + len(b.Targets))
		return step.Material{Least: 4, Most: max(most, 6), Take: func(n int) step.FillResult {
			rng := b.Chance("pack shows")
			room := max(1, (n+1)/packShows-len(b.Targets))
			cards := slices.Concat(due[:min(room, len(due))], b.Targets)
			return drill(b, shows(b, cards, n, packSide(b, rng), rng), because)
		}}, nil
	},
	Tell: func(t *step.Narration, s *lesson.Step) {
		cards := map[string]bool{}
		for _, it := range s.Items {
			cards[it.Value] = true
		}
		hidden := ""
		if t.Fresh() {
			hidden = " The new " + prose.Plural(len(t.Lesson.Targets), "one is", "ones are") + " somewhere among them."
		}
		pictures := slices.ContainsFunc(s.Items, func(it lesson.Item) bool { return it.Position == "picture" })
		sides, answer := "letter side", ""
		if pictures {
			sides, answer = "both sides mixed", " Picture side: the rhyme."
		}
		if pictures && t.Conventions.Says.OneSideFirst {
			sides = "one side first, then the other"
		}
		step.Adult(s, fmt.Sprintf("%d %s, %d shows, %s, in the order shown.%s", len(cards),
			prose.Plural(len(cards), "card", "cards"), len(s.Items), sides, hidden))
		step.Class(s, "Letter side: "+script.AnswerRule(t.Conventions)+"."+answer)
		step.Table(s, "The pack")
	},
}

// takeTurns is a fair order of the two sides of one card: an even number of shows, both sides equally often, never more
// than three of one side in a row. intN draws a number from 0 to n-1.
func takeTurns(shows int, intN func(n int) int) []string {
	sides := [2]string{"letter", "picture"}
	left := [2]int{(shows + 1) / 2, (shows + 1) / 2}
	var out []string
	last, run := 0, 0
	for left[0]+left[1] > 0 {
		side := 0
		if intN(left[0]+left[1]) >= left[0] {
			side = 1
		}
		fits := func(side int) bool {
			if left[side] == 0 {
				return false
			}
			r := 1
			if side == last {
				r = run + 1
			}
			same, other := left[side]-1, left[1-side]
			return r <= 3 && same <= 3-r+3*other && other <= 3*(same+1)
		}
		if !fits(side) {
			side = 1 - side
		}
		if side == last {
			run++
		} else {
			last, run = side, 1
		}
		left[side]--
		out = append(out, sides[side])
	}
	return out
}

// Turnover is the step: the new card turned over in shuffled order: picture side the rhyme, letter side the sound.
var Turnover = step.Record{
	Kind:         lesson.Turnover,
	Name:         "Turnover",
	Family:       lesson.EyeFamily,
	MinSeconds:   40,
	UsualSeconds: 70,
	MaxSeconds:   120,
	ItemSeconds:  5,
	Needs:        []step.Need{step.NeedTarget, step.NeedCardFace},
	Shows:        step.ShowDeck,
	Rank:         25,
	About:        "The new card turned over in shuffled order: picture side the rhyme, letter side the sound.",
	Material: func(b *step.FillInput, _ lesson.RoutineStep) (step.Material, *fault.Fault) {
		var cards []card.Card
		for _, t := range b.Targets {
			if t.Picture != "" {
				cards = append(cards, t)
			}
		}
		if len(cards) == 0 {
			return step.Refuse(step.LacksFace, "the card has no picture side yet")
		}
		return step.Material{Least: 8, Most: 24, By: 2, Take: func(n int) step.FillResult {
			rng := b.Chance("turnover")
			var deck []lesson.Show
			for i, side := range takeTurns(n, rng.IntN) {
				deck = append(deck, lesson.Show{CardID: cards[i%len(cards)].ID, Side: side})
			}
			return drill(b, deck, nil)
		}}, nil
	},
	Tell: func(t *step.Narration, s *lesson.Step) {
		step.Adult(s, fmt.Sprintf("Turn the card %d times in the order shown. Picture side: the rhyme. Letter side: %s.",
			len(s.Items), script.AnswerRule(t.Conventions)))
		for _, f := range t.Lesson.Faces() {
			if f.Picture == "" {
				continue
			}
			rhyme := step.First(f.RhymeShort, f.Rhyme, f.Keyword)
			step.Class(s, "Picture: “"+rhyme+"” Letter: "+script.Answer(t.Conventions, f.Pair, f.Keyword)+".")
		}
		step.Table(s, "The new sound card")
	},
}

// MixIn is the step: the new card hidden among known ones: first all picture sides, then all letter sides.
var MixIn = step.Record{
	Kind: lesson.MixIn, Name: "Mix-in", Family: lesson.EyeFamily, MinSeconds: 30, UsualSeconds: 70, MaxSeconds: 120,
	ItemSeconds: 5, Needs: []step.Need{step.NeedTarget, step.NeedMet, step.NeedCardFace}, Shows: step.ShowDeck, Rank: 20,
	About: "The new card hidden among known ones: first all picture sides, then all letter sides.",
	Material: func(b *step.FillInput, _ lesson.RoutineStep) (step.Material, *fault.Fault) {
		due, because := due(b, 40, dueWay, b.Chance("mix-in"))
		due = slices.DeleteFunc(due, func(c card.Card) bool { return c.Picture == "" })
		if len(due) < 2 || len(b.Targets) == 0 || b.Targets[0].Picture == "" {
			return step.Refuse(step.LacksFace, "fewer than two met cards have a picture side")
		}
		return step.Material{Least: 6, Most: 2 * (len(due) + 1), By: 2, Take: func(n int) step.FillResult {
			rng := b.Chance("mix-in shows")
			cards := append(slices.Clone(due[:min(n/2-1, len(due))]), b.Targets[0])
			var deck []lesson.Show
			for _, side := range []string{"picture", "letter"} {
				for _, c := range spaced(b, cards, nil, rng) {
					deck = append(deck, lesson.Show{CardID: c.ID, Side: side})
				}
			}
			return drill(b, deck, because)
		}}, nil
	},
	Tell: func(t *step.Narration, s *lesson.Step) {
		others := len(s.Items)/2 - 1
		step.Adult(s, fmt.Sprintf("The new card is hidden among %d %s. First all picture sides, then all letter sides.",
			others, prose.Plural(others, "other", "others")))
		step.Class(
			s,
			"Picture side: the rhyme. Letter side: "+script.AnswerRule(t.Conventions)+". A finger up for the new one.",
		)
		step.Table(s, "The mixed pack")
	},
}

const (
	minShown = 4 // graphemes in the set that children look through
	maxShown = 8
)

// HearFind is the step: the adult says a sound, the children find its grapheme in a set of four to eight.
var HearFind = step.Record{
	Kind: lesson.HearFind, Name: "Hear and find", Family: lesson.EarFamily, MinSeconds: 40, UsualSeconds: 60,
	MaxSeconds: 120, ItemSeconds: 10, Needs: []step.Need{step.NeedMet}, Shows: step.ShowSet, Rank: 50,
	About: "The adult says a sound, the children find its grapheme in a set of four to eight.",
	Material: func(b *step.FillInput, _ lesson.RoutineStep) (step.Material, *fault.Fault) {
		set := b.Recent()
		if len(set) < 2 {
			return step.Refuse(step.LacksMet, "with one card there is nothing to find it among")
		}
		set = set[:min(len(set), max(minShown, min(maxShown, 2*len(b.Targets)+4)))]
		return step.Material{Least: 2, Most: 12, Take: func(n int) step.FillResult {
			return drill(b, shows(b, set, n, letterSide, b.Chance("hear-find")), map[string]string{})
		}}, nil
	},
	Tell: func(_ *step.Narration, s *lesson.Step) {
		shown := map[string]bool{}
		for _, it := range s.Items {
			shown[it.Value] = true
		}
		step.Adult(
			s,
			fmt.Sprintf("%d graphemes are shown. Say one sound at a time, in the order given; wait until all point.",
				len(shown)),
		)
		step.Class(s, "Points to the grapheme and says its sound.")
		step.Table(s, "Grapheme strips, one for two children, or the screen")
	},
}

// QuickWrite is the step: known sounds dictated one after the other, the newest first.
var QuickWrite = step.Record{
	Kind: lesson.QuickWrite, Name: "Quick write", Family: lesson.HandFamily, MinSeconds: 48, UsualSeconds: 84,
	MaxSeconds: 144, ItemSeconds: 12, Needs: []step.Need{step.NeedMet}, Shows: step.ShowHidden, Rank: 40,
	Ways:  step.Ways("sounds", "say the sounds", "names", "say the letter names"),
	About: "Known sounds dictated one after the other, the newest first.",
	Material: func(b *step.FillInput, _ lesson.RoutineStep) (step.Material, *fault.Fault) {
		cards := b.Recent()
		if b.Purpose == lesson.Introduce {
			cards = cards[len(b.Targets):]
		}
		if len(cards) < 2 {
			return step.Refuse(step.LacksMet, "the class has met fewer than two cards to write")
		}
		return step.Material{Least: 2, Most: min(12, len(cards)), Take: func(n int) step.FillResult {
			var shows []lesson.Show
			for _, c := range cards[:min(n, len(cards))] {
				shows = append(shows, lesson.Show{CardID: c.ID, Side: "letter"})
			}
			return drill(b, shows, map[string]string{})
		}}, nil
	},
	Tell: func(t *step.Narration, s *lesson.Step) {
		say := "the sound"
		if s.Way == "names" {
			say = "the name of the letter"
		}
		step.Adult(
			s,
			t.Conventions.Says.Posture,
			fmt.Sprintf("Say %s, once; count to five; show it. %d of them, the newest first.",
				say, len(s.Items)),
		)
		step.Adult(s, t.Mistake())
		step.Class(s, "Writes, looks, puts right.")
		step.Table(s, "Small boards and pens")
	},
}
