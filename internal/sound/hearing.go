package sound

import (
	"cmp"
	"context"
	"hash/fnv"
	"io"
	"slices"
	"strconv"
	"strings"
	"time"

	"brightchalk/internal/core/fault"
	"brightchalk/internal/core/recording"
	"brightchalk/internal/core/script"
	"brightchalk/internal/core/spelling"
	"brightchalk/internal/core/table"
	"brightchalk/internal/gather"
	"brightchalk/internal/sheet"
	"brightchalk/internal/store"
	"brightchalk/internal/tx"
)

// BlindTake is a take to listen to: no verdict, no speaker and nobody else's opinion stands beside it.
type BlindTake struct {
	TakeID string         `json:"take_id" format:"uuid"`
	Pair   spelling.Pair  `json:"pair"`
	AsIn   string         `json:"as_in" doc:"a word with the sound; may be empty"`
	Mine   *HearingResult `json:"mine,omitempty" doc:"what I said of it"`
}

// HearingResult is what a listener says of a take.
type HearingResult struct {
	Pure bool     `json:"pure"`
	Why  []string `json:"why" doc:"codes of what is wrong; none where it is pure"`
}

// Listening is what somebody has to listen to, in an order of their own, what is left first.
type Listening struct {
	Takes  []BlindTake       `json:"takes"`
	Left   int               `json:"left"`
	Faults []recording.Fault `json:"faults" doc:"what may be wrong with a take"`
}

// hearings are the takes that may be listened to, and all that was said of them.
func hearings(ctx context.Context, s store.Library) (takes []store.HeardTake, all []store.Hearing, err error) {
	if takes, err = s.HeardTakes(ctx); err != nil {
		return nil, nil, err
	}
	all, err = s.Hearings(ctx)
	return takes, all, err
}

// Listening lists the takes of the library for a blind hearing.
func (k Takes) Listening(ctx context.Context, by tx.Actor) (Listening, error) {
	if err := by.Need(tx.MayChoose); err != nil {
		return Listening{}, err
	}
	return tx.Read(ctx, k.Env, by, func(s store.Library) (Listening, error) {
		out := Listening{Takes: []BlindTake{}, Faults: recording.Faults}
		takes, all, err := hearings(ctx, s)
		if err != nil {
			return out, err
		}
		team, err := gather.Conventions(ctx, s)
		if err != nil {
			return out, err
		}
		mine := map[string]*HearingResult{}
		for _, h := range all {
			if h.MemberID == by.MemberID {
				mine[h.TakeID] = &HearingResult{h.Pure, h.Why}
			}
		}
		for _, t := range takes {
			pair := spelling.Pair{Grapheme: t.Grapheme, Sound: t.Sound}
			b := BlindTake{t.TakeID, pair, script.Keyword(team.Speech(), pair, ""), mine[t.TakeID]}
			if b.Mine == nil {
				out.Left++
			}
			out.Takes = append(out.Takes, b)
		}
		place := func(takeID string) uint64 {
			h := fnv.New64a()
			_, _ = io.WriteString(h, by.MemberID+takeID)
			return h.Sum64()
		}
		slices.SortFunc(out.Takes, func(a, b BlindTake) int {
			if (a.Mine == nil) != (b.Mine == nil) {
				return cmp.Compare(rank(a.Mine != nil), rank(b.Mine != nil))
			}
			return cmp.Compare(place(a.TakeID), place(b.TakeID))
		})
		return out, nil
	})
}

func rank(later bool) int {
	if later {
		return 1
	}
	return 0
}

// Hear notes what a member hears in a take, in place of what they said before.
func (k Takes) Hear(ctx context.Context, by tx.Actor, takeID string, h HearingResult) error {
	slices.Sort(h.Why)
	h.Why = slices.Compact(h.Why)
	for _, code := range h.Why {
		if !slices.ContainsFunc(recording.Faults, func(f recording.Fault) bool { return f.Code == code }) {
			return fault.In("why", "There is no reason %q.", code)
		}
	}
	switch {
	case h.Pure && len(h.Why) > 0:
		return fault.In("why", "A pure take has nothing wrong: say that it is not pure, or take the reasons away.")
	case h.Why == nil:
		h.Why = []string{}
	}
	return k.changeOne(ctx, by, tx.MayChoose, takeID, func(s store.Library, ctx context.Context, t store.Take) error {
		return s.PutHearing(ctx, store.Hearing{
			TakeID: t.TakeID, MemberID: by.MemberID, Pure: h.Pure, Why: h.Why, HeardAt: k.Env.Now(),
		})
	})
}

// Unhear takes back what a member said of a take.
func (k Takes) Unhear(ctx context.Context, by tx.Actor, takeID string) error {
	return k.changeOne(ctx, by, tx.MayChoose, takeID, func(s store.Library, ctx context.Context, t store.Take) error {
		return s.DropHearing(ctx, t.TakeID, by.MemberID)
	})
}

// ListenerPair is how far two listeners agree; B is empty for the check.
type ListenerPair struct {
	A string `json:"a" doc:"initials"`
	B string `json:"b" doc:"initials, empty for the check"`
	recording.Agreement
}

// Divided is a take on which not all agree.
type Divided struct {
	TakeID  string            `json:"take_id" format:"uuid"`
	CardID  string            `json:"card_id" format:"uuid"`
	Pair    spelling.Pair     `json:"pair"`
	Verdict recording.Verdict `json:"verdict" enum:"pure,fix,retake"`
	Said    []HearingVote     `json:"said"`
}

// HearingVote is one listener's word on a take.
type HearingVote struct {
	Initials string `json:"initials"`
	HearingResult
}

// Agreements is how far the listeners of a team agree with each other and with the check. Nothing is told of takes that
// the one who asks has not heard yet.
type Agreements struct {
	Pairs   []ListenerPair `json:"pairs"`
	Divided []Divided      `json:"divided"`
}

// Agreements counts them. A take that is good after a small fix counts as pure for the check.
func (k Takes) Agreements(ctx context.Context, by tx.Actor) (Agreements, error) {
	out := Agreements{Pairs: []ListenerPair{}, Divided: []Divided{}}
	if err := by.Need(tx.MayChoose); err != nil {
		return out, err
	}
	return tx.Read(ctx, k.Env, by, func(s store.Library) (Agreements, error) {
		takes, all, err := hearings(ctx, s)
		if err != nil {
			return out, err
		}
		out.Pairs = hearingPairs(takes, all)
		out.Divided = dividedFor(by.MemberID, takes, all)
		return out, nil
	})
}

func checkSays(t store.HeardTake) bool { return t.Verdict != recording.Retake }

// hearingPairs compares each listener with the check, then with each other.
func hearingPairs(takes []store.HeardTake, all []store.Hearing) []ListenerPair {
	said := map[string]map[string]bool{} // by member, by take
	name := map[string]string{}
	var members []string
	for _, h := range all {
		if said[h.MemberID] == nil {
			said[h.MemberID] = map[string]bool{}
			members = append(members, h.MemberID)
			name[h.MemberID] = h.Initials
		}
		said[h.MemberID][h.TakeID] = h.Pure
	}
	slices.SortFunc(members, func(a, b string) int { return cmp.Or(cmp.Compare(name[a], name[b]), cmp.Compare(a, b)) })
	check := map[string]bool{}
	for _, t := range takes {
		check[t.TakeID] = checkSays(t)
	}
	compare := func(a, b map[string]bool) recording.Agreement {
		var one, other []bool
		for _, t := range takes {
			x, heardA := a[t.TakeID]
			y, heardB := b[t.TakeID]
			if heardA && heardB {
				one, other = append(one, x), append(other, y)
			}
		}
		return recording.Kappa(one, other)
	}
	out := []ListenerPair{}
	for _, m := range members {
		out = append(out, ListenerPair{name[m], "", compare(said[m], check)})
	}
	for i, a := range members {
		for _, b := range members[i+1:] {
			out = append(out, ListenerPair{name[a], name[b], compare(said[a], said[b])})
		}
	}
	return out
}

// dividedFor are the takes that a member has heard and on which somebody, or the check, says otherwise.
func dividedFor(memberID string, takes []store.HeardTake, all []store.Hearing) []Divided {
	of := map[string][]store.Hearing{}
	for _, h := range all {
		of[h.TakeID] = append(of[h.TakeID], h)
	}
	out := []Divided{}
	for _, t := range takes {
		mine := slices.ContainsFunc(of[t.TakeID], func(h store.Hearing) bool { return h.MemberID == memberID })
		differ := slices.ContainsFunc(of[t.TakeID], func(h store.Hearing) bool { return h.Pure != checkSays(t) })
		if !mine || !differ {
			continue
		}
		d := Divided{t.TakeID, t.CardID, spelling.Pair{Grapheme: t.Grapheme, Sound: t.Sound}, t.Verdict, []HearingVote{}}
		for _, h := range of[t.TakeID] {
			d.Said = append(d.Said, HearingVote{h.Initials, HearingResult{h.Pure, h.Why}})
		}
		out = append(out, d)
	}
	return out
}

// ExportHearings writes all that was heard as CSV, a line for each listener and take.
func (k Takes) ExportHearings(ctx context.Context, by tx.Actor, w io.Writer) error {
	if err := by.Need(tx.MayAgree); err != nil {
		return err
	}
	var takes []store.HeardTake
	all, err := tx.Read(ctx, k.Env, by, func(s store.Library) (all []store.Hearing, err error) {
		takes, all, err = hearings(ctx, s)
		return all, err
	})
	if err != nil {
		return err
	}
	of := map[string]store.HeardTake{}
	for _, t := range takes {
		of[t.TakeID] = t
	}
	rows := [][]string{{"take", "grapheme", "sound", "check", "by", "pure", "why", "heard"}}
	for _, h := range all {
		t, ok := of[h.TakeID]
		if !ok { // of a card that is put away
			continue
		}
		rows = append(rows, []string{
			t.TakeID, t.Grapheme, t.Sound, string(t.Verdict), h.Initials, strconv.FormatBool(h.Pure),
			strings.Join(h.Why, " "), h.HeardAt.UTC().Format(time.RFC3339),
		})
	}
	return sheet.WriteCSV(w, table.Sheet{Rows: rows})
}
