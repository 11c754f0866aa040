package app

import (
	"cmp"
	"context"
	"errors"
	"math"
	"slices"
	"strings"

	"brightchalk/internal/core/review"
	"brightchalk/internal/store"
)

// Shaky is a card of which one or several classes are unsure.
type Shaky struct {
	CardID string        `json:"card_id" format:"uuid"`
	Need   float64       `json:"need" doc:"how much of it is lost in the classes on average, from 0 to 1; what is not known counts whole"`
	In     []ShakyIn     `json:"in" nullable:"false"`
	Fading review.Fading `json:"fading" enum:"fresh,holds,fades,faded,not met" doc:"in the class that has least of it"`
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

// need of a card in a class: what is lost of it, and all where it was not known or shaky.
func (s ShakyIn) need() float64 {
	switch review.Sureness(s.Sure) {
	case review.NotYet:
		return 1
	case review.Shaky:
		return math.Max(0.5, 1-s.Kept)
	}
	return 1 - s.Kept
}

// standings are how each card that was met stands in each class.
func standings(classes []knownClass, at func(review.Seen) float64) map[string][]ShakyIn {
	out := map[string][]ShakyIn{}
	for _, c := range classes {
		for _, k := range c.known.Met {
			out[k.Card.ID] = append(out[k.Card.ID], ShakyIn{
				c.ClassID, int(k.Seen.Sure), math.Round(at(k.Seen)*1000) / 1000, k.Seen.Lapses,
			})
		}
	}
	return out
}

// Shakiest lists the cards of which classes are unsure, those that are needed most first.
func (p Planning) Shakiest(ctx context.Context, by Actor, classIDs []string) ([]Shaky, error) {
	return read(ctx, p.desk, by, func(s planStore) ([]Shaky, error) {
		classes, err := p.chosen(ctx, s, classIDs)
		if err != nil {
			return nil, err
		}
		now := p.desk.now()
		out := []Shaky{}
		for id, in := range standings(classes, func(s review.Seen) float64 { return s.Retrievability(now) }) {
			if k := shakyOf(id, in); slices.ContainsFunc(in, ShakyIn.shaky) {
				out = append(out, k)
			}
		}
		slices.SortFunc(out, func(a, b Shaky) int {
			return cmp.Or(cmp.Compare(b.Need, a.Need), strings.Compare(a.CardID, b.CardID))
		})
		return out, nil
	})
}

func shakyOf(id string, in []ShakyIn) Shaky {
	k := Shaky{CardID: id, In: in}
	least := 1.0
	for _, s := range in {
		k.Need += s.need() / float64(len(in))
		least = min(least, s.Kept)
	}
	k.Need, k.Fading = math.Round(k.Need*1000)/1000, review.FadingOf(least)
	return k
}

func (p Planning) chosen(ctx context.Context, s planStore, classIDs []string) ([]knownClass, error) {
	conv, err := conventionsOf(ctx, s)
	if err != nil {
		return nil, err
	}
	library, err := cardSources(ctx, s, conv)
	if err != nil {
		return nil, err
	}
	all, err := classesOf(ctx, s, library)
	if err != nil {
		return nil, err
	}
	var out []knownClass
	for _, c := range all {
		if slices.Contains(classIDs, c.ClassID) {
			out = append(out, c)
		}
	}
	if len(out) == 0 || len(out) < len(classIDs) {
		return nil, wrong("from", "Choose at least one class; one of those chosen is not known.")
	}
	return out, nil
}

// GroupAsk is what a group that catches up is made from: sounds and classes, never names.
type GroupAsk struct {
	Name      string   `json:"name" maxLength:"60" doc:"of the group, never of a child"`
	From      []string `json:"from" maxItems:"30" nullable:"false" doc:"class ids"`
	Cards     []string `json:"cards" maxItems:"30" nullable:"false" doc:"card ids: its sounds"`
	FlowsBack bool     `json:"flows_back" doc:"its log counts for the classes too"`
}

// NewGroup makes a group that catches up on sounds of one or several classes. It begins with what all its classes know,
// and with how the sounds stand where they are shakiest.
func (p Planning) NewGroup(ctx context.Context, by Actor, ask GroupAsk) (string, error) {
	return write(ctx, p.desk, by, MayTeach, func(s planStore) (string, error) {
		classes, err := p.chosen(ctx, s, ask.From)
		if err != nil {
			return "", err
		}
		if len(ask.Cards) == 0 {
			return "", wrong("cards", "Choose at least one sound to catch up on.")
		}
		if ask.Name = strings.TrimSpace(ask.Name); ask.Name == "" {
			return "", wrong("name", "The group needs a name: of a day, a place, a colour. Never a child's.")
		}
		id, err := s.CreateClass(ctx, ask.Name, "group")
		if errors.Is(err, store.ErrTaken) {
			return "", wrong("name", "There is a class or a group with this name already.")
		} else if err != nil {
			return "", err
		}
		for _, c := range classes {
			if err := s.AddSource(ctx, id, c.ClassID, ask.FlowsBack); err != nil {
				return "", err
			}
		}
		if err := s.AddFocus(ctx, id, ask.Cards); errors.Is(err, store.ErrNotFound) || errors.Is(err, store.ErrTaken) {
			return "", wrong("cards", "One of these cards is not known, or stands there twice.")
		} else if err != nil {
			return "", err
		}
		if err := s.DeclareCards(ctx, id, knownToAll(classes, ask.Cards), true, by.MemberID, p.desk.now()); err != nil {
			return "", err
		}
		for _, card := range ask.Cards {
			if err := p.bequeath(ctx, s, id, card, classes); err != nil {
				return "", err
			}
		}
		return id, nil
	})
}

// knownToAll are the cards that all classes can read, without those that the group catches up on.
func knownToAll(classes []knownClass, but []string) []string {
	count := map[string]int{}
	for _, c := range classes {
		for _, k := range c.known.Met {
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

// bequeath gives the group the meetings that its shakiest class had with a card.
func (p Planning) bequeath(ctx context.Context, s planStore, groupID, cardID string, classes []knownClass) error {
	var from *knownClass
	worst, now := -1.0, p.desk.now()
	for i, c := range classes {
		if k, met := c.known.Find(cardID); met {
			in := ShakyIn{Sure: int(k.Seen.Sure), Kept: k.Seen.Retrievability(now)}
			if in.need() > worst {
				from, worst = &classes[i], in.need()
			}
		}
	}
	if from == nil {
		return wrong("cards", "None of the classes has met one of these sounds. A group catches up on what was taught.")
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
func (p Planning) SetFlow(ctx context.Context, by Actor, groupID string, flowsBack bool) error {
	return change(ctx, p.desk, by, MayTeach, func(s planStore) error { return s.SetFlow(ctx, groupID, flowsBack) })
}
