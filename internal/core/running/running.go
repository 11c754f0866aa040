// Package running holds the state of a lesson while it is taught: what several faces of it (the board, the desk, a
// phone) set, each by itself and sometimes without a line between them, joined so that all end with the same.
//
// A run is a set of marks. Each mark is a register of which the last setting wins, by a logical clock and then by the
// name of who set it (Lamport 1978, "Time, clocks, and the ordering of events in a distributed system"; the register is
// the LWW-Register of Shapiro et al. 2011, "A comprehensive study of convergent and commutative replicated data types",
// specification 8). Joining is commutative, associative and idempotent.
package running

import (
	"cmp"
	"encoding/json"
	"regexp"
	"slices"
	"strings"

	"brightchalk/internal/core/fault"
)

// Mark is one thing that a face set last. Value is a JSON text; N counts up, and By names the face.
type Mark struct {
	Name  string `json:"name" maxLength:"80" doc:"at, turned, clock, sure.<card>, order.<screen> …"`
	Value string `json:"value" maxLength:"2000" doc:"JSON"`
	N     int64  `json:"n" minimum:"1" doc:"logical time: one more than the greatest that the face has seen"`
	By    string `json:"by" maxLength:"40" doc:"the face that set it"`
}

// Bounds of a run. A face may be ahead of what is kept by what it did without a line, and not by more.
const (
	MaxMarks      = 600
	MaxClockAhead = 1_000_000
)

// ErrMark is wrapped by what is wrong with a mark.
const ErrMark fault.Code = "mark"

// names of marks: a word, and for some what it belongs to.
var names = regexp.MustCompile(
	`^(at|turned|played|open|own|letters|gap|clock|since|seen|ended|strip|` +
		`(sure|skip|more|order|side|board|took)\.[A-Za-z0-9.:_-]{1,60})$`,
)

// order compares when two marks were set.
func order(a, b Mark) int {
	return cmp.Or(cmp.Compare(a.N, b.N), strings.Compare(a.By, b.By), strings.Compare(a.Value, b.Value))
}

// Join is what was set last of both, by name.
func Join(a, b []Mark) []Mark {
	all := append(append([]Mark{}, a...), b...)
	slices.SortFunc(all, func(x, y Mark) int { return cmp.Or(strings.Compare(x.Name, y.Name), order(y, x)) })
	return slices.CompactFunc(all, func(x, y Mark) bool { return x.Name == y.Name })
}

// Check returns an error that says why marks cannot be joined to what is kept.
func Check(kept, marks []Mark) error {
	var newest int64
	for _, m := range kept {
		newest = max(newest, m.N)
	}
	for _, m := range marks {
		switch {
		case !names.MatchString(m.Name):
			return fault.New(ErrMark, "a running lesson has nothing that is called “%s”", m.Name)
		case !json.Valid([]byte(m.Value)):
			return fault.New(ErrMark, "the value of “%s” is no JSON", m.Name)
		case m.N > newest+MaxClockAhead:
			return fault.New(ErrMark, "“%s” comes from too far ahead", m.Name)
		}
	}
	if len(Join(kept, marks)) > MaxMarks {
		return fault.New(ErrMark, "a running lesson keeps up to %d things", MaxMarks)
	}
	return nil
}
