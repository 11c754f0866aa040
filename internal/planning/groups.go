package planning

import (
	"cmp"
	"context"
	"errors"
	"math"
	"slices"
	"strings"

	"brightchalk/internal/core/fault"
	"brightchalk/internal/core/review"
	"brightchalk/internal/gather"
	"brightchalk/internal/store"
	"brightchalk/internal/tx"
)

// Shaky is a card of which one or several classes are unsure.
type Shaky struct {
	CardID string        `json:"card_id" format:"uuid"`
	Need   float64       `json:"need" doc:"how much of it is lost in the classes on average, from 0 to 1; what is not known counts whole"`
	In     []ShakyIn     `json:"in"`
	Fading review.Fading `json:"fading" doc:"in the class that has least of it" enum:"fresh,holds,fades,faded,not met"`
}

// ShakyIn is how a card stands in a class.
type ShakyIn struct {
	ClassID string  `json:"class_id" format:"uuid"`
	Sure    int     `json:"sure" doc:"when it was last met: 0 not yet, 1 shaky, 2 sure, 3 secure"`
	Kept    float64 `json:"kept" doc:"how likely the class still has it, from 0 to 1"`
	Lapses  int     `json:"lapses" doc:"how often it was not yet known again"`
}

// unsureBelow is what of a card is kept where it counts as shaky though it was sure when it was last met.
const unsureBelow = 0.85

func (s ShakyIn) shaky() bool { return s.Sure <= int(review.Shaky) || s.Kept < unsureBelow }

// Loss returns how much of a card is lost in a class, from 0 to 1: all of it if it was not known when last met.
func (s ShakyIn) Loss() float64 {
	switch review.Sureness(s.Sure) {
	case review.NotYet:
		return 1
	case review.Shaky:
		return math.Max(0.5, 1-s.Kept)
	}
	return 1 - s.Kept
}

// standings are how each card that was met stands in each class.
func standings(classes []gather.KnownClass, at func(review.Seen) float64) map[string][]ShakyIn {
	out := map[string][]ShakyIn{}
	for _, c := range classes {
		for _, k := range c.Known.Met {
			out[k.Card.ID] = append(out[k.Card.ID], ShakyIn{
				c.ClassID, int(k.Seen.Sure), math.Round(at(k.Seen)*1000) / 1000, k.Seen.Lapses,
			})
		}
	}
	return out
}

// Shakiest lists the cards of which classes are unsure, those that are needed most first.
func (p Classes) Shakiest(ctx context.Context, by tx.Actor, classIDs []string) ([]Shaky, error) {
	return tx.Read(ctx, p.Env, by, func(s store.Library) ([]Shaky, error) {
		classes, err := p.readChosen(ctx, s, classIDs)
		if err != nil {
			return nil, err
		}
		now := p.Env.Now()
		out := []Shaky{}
		for id, in := range standings(classes, func(s review.Seen) float64 { return s.Retrievability(now) }) {
			if k := shakyCards(id, in); slices.ContainsFunc(in, ShakyIn.shaky) {
				out = append(out, k)
			}
		}
		slices.SortFunc(out, func(a, b Shaky) int {
			return cmp.Or(cmp.Compare(b.Need, a.Need), strings.Compare(a.CardID, b.CardID))
		})
		return out, nil
	})
}

func shakyCards(id string, in []ShakyIn) Shaky {
	k := Shaky{CardID: id, In: in}
	least := 1.0
	for _, s := range in {
		k.Need += s.Loss() / float64(len(in))
		least = min(least, s.Kept)
	}
	k.Need, k.Fading = math.Round(k.Need*1000)/1000, review.FadingCards(least)
	return k
}

func (p Classes) readChosen(ctx context.Context, s store.Library, classIDs []string) ([]gather.KnownClass, error) {
	conv, err := gather.Conventions(ctx, s)
	if err != nil {
		return nil, err
	}
	library, err := gather.CardSources(ctx, s, conv)
	if err != nil {
		return nil, err
	}
	all, err := gather.Classes(ctx, s, library)
	if err != nil {
		return nil, err
	}
	var out []gather.KnownClass
	for _, c := range all {
		if slices.Contains(classIDs, c.ClassID) {
			out = append(out, c)
		}
	}
	if len(out) == 0 || len(out) < len(classIDs) {
		return nil, fault.In("from", "Choose at least one class; one of those chosen is not known.")
	}
	return out, nil
}

// GroupAsk is what a group that catches up is made from: sounds and classes, never names.
type GroupAsk struct {
	Name      string   `json:"name" maxLength:"60" doc:"of the group, never of a child"`
	From      []string `json:"from" doc:"class ids" maxItems:"30"`
	Cards     []string `json:"cards" doc:"card ids: its sounds" maxItems:"30"`
	FlowsBack bool     `json:"flows_back" doc:"its log counts for the classes too"`
}

// NewGroup makes a group that catches up on sounds of one or several classes. It begins with what all its classes know,
// and with how the sounds stand where they are shakiest.
func (p Classes) NewGroup(ctx context.Context, by tx.Actor, ask GroupAsk) (string, error) {
	return tx.Write(ctx, p.Env, by, tx.MayTeach, func(s store.Library) (string, error) {
		classes, err := p.readChosen(ctx, s, ask.From)
		if err != nil {
			return "", err
		}
		if len(ask.Cards) == 0 {
			return "", fault.In("cards", "Choose at least one sound to catch up on.")
		}
		if ask.Name = strings.TrimSpace(ask.Name); ask.Name == "" {
			return "", fault.In("name", "The group needs a name: of a day, a place, a colour. Never a child's.")
		}
		id, err := s.CreateClass(ctx, ask.Name, "group")
		if errors.Is(err, store.ErrTaken) {
			return "", fault.In("name", "There is a class or a group with this name already.")
		} else if err != nil {
			return "", err
		}
		for _, c := range classes {
			if err := s.AddSource(ctx, id, c.ClassID, ask.FlowsBack); err != nil {
				return "", err
			}
		}
		if err := s.AddFocus(ctx, id, ask.Cards); errors.Is(err, store.ErrNotFound) || errors.Is(err, store.ErrTaken) {
			return "", fault.In("cards", "One of these cards is not known, or stands there twice.")
		} else if err != nil {
			return "", err
		}
		if err := s.DeclareCards(ctx, id, knownToAll(classes, ask.Cards), true, by.MemberID, p.Env.Now()); err != nil {
			return "", err
		}
		for _, card := range ask.Cards {
			if err := p.copyLog(ctx, s, id, card, classes); err != nil {
				return "", err
			}
		}
		return id, nil
	})
}

// knownToAll are the cards that all classes can read, without those that the group catches up on.
func knownToAll(classes []gather.KnownClass, but []string) []string {
	count := map[string]int{}
	for _, c := range classes {
		for _, k := range c.Known.Met {
			if k.Readable && !slices.Contains(but, k.Card.ID) {
				count[k.Card.ID]++
			}
		}
	}
	var out []string
	for id, n := range count {
		if n == len(classes) {
			out = append(out, id)
		}
	}
	slices.Sort(out)
	return out
}

// copyLog gives the group the meetings that its shakiest class had with a card.
func (p Classes) copyLog(
	ctx context.Context,
	s store.Library,
	groupID, cardID string,
	classes []gather.KnownClass,
) error {
	var from *gather.KnownClass
	worst, now := -1.0, p.Env.Now()
	for i, c := range classes {
		if k, met := c.Known.Find(cardID); met {
			in := ShakyIn{Sure: int(k.Seen.Sure), Kept: k.Seen.Retrievability(now)}
			if in.Loss() > worst {
				from, worst = &classes[i], in.Loss()
			}
		}
	}
	if from == nil {
		return fault.In(
			"cards",
			"None of the classes has met one of these sounds. A group catches up on what was taught.",
		)
	}
	rows, err := s.Log(ctx, from.ClassID)
	if err != nil {
		return err
	}
	had := false
	for _, r := range rows {
		if r.CardID != cardID || r.GroupName != "" {
			continue
		}
		r.LessonID, r.Introduced, r.Reached = "", !had || r.Introduced, ""
		had = true
		if err := s.AddLog(ctx, groupID, "", r); err != nil {
			return err
		}
	}
	if !had { // it was declared, not logged
		return s.DeclareCards(ctx, groupID, []string{cardID}, true, "", now)
	}
	return nil
}

// SetFlow says whether the log of a group counts for its classes too.
func (p Classes) SetFlow(ctx context.Context, by tx.Actor, groupID string, flowsBack bool) error {
	return tx.Exec(
		ctx,
		p.Env,
		by,
		tx.MayTeach,
		func(s store.Library) error { return s.SetFlow(ctx, groupID, flowsBack) },
	)
}
