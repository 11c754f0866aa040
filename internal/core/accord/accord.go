// Package accord holds how a team comes to agree on a card: whose yes counts, what becomes of a proposal, and who is
// meant by what is written beside it.
package accord

import (
	"fmt"
	"regexp"
	"slices"
	"strings"
)

// Rule is who agrees a card.
type Rule string

// Rules. The empty one is Lead.
const (
	Lead Rule = "lead" // a lead
	Two  Rule = "two"  // two who write, whoever they are; who proposed it may be one of them
)

// Need is how many must say yes.
func (r Rule) Need() int {
	if r == Two {
		return 2
	}
	return 1
}

// Voice is what somebody says of a proposal, of the version that lay before them.
type Voice struct {
	MemberID string
	Version  int
	Yes      bool
}

// Count is how many say yes to a version. A voice for a former version says nothing of this one, and nobody counts
// twice.
func Count(voices []Voice, version int) int {
	var said []string
	for _, v := range voices {
		if v.Yes && v.Version == version && !slices.Contains(said, v.MemberID) {
			said = append(said, v.MemberID)
		}
	}
	return len(said)
}

// Standing is how far a proposal has come.
type Standing struct {
	Yes  int `json:"yes" doc:"voices for the version that stands"`
	Need int `json:"need" doc:"voices that agree it"`
}

// Agreed tells whether the voices are enough.
func (s Standing) Agreed() bool { return s.Yes >= s.Need }

// Of is how far a version has come by a rule.
func (r Rule) Of(voices []Voice, version int) Standing {
	return Standing{Count(voices, version), r.Need()}
}

var mention = regexp.MustCompile(`(?:^|[^\pL\pN])@([\pL\pN]{1,8})`)

// Mentions are those of the initials that a text names with an @ before them, as @OW or @ow, in the order of the text.
func Mentions(text string, initials []string) []string {
	out := []string{}
	for _, m := range mention.FindAllStringSubmatch(text, -1) {
		i := slices.IndexFunc(initials, func(s string) bool { return strings.EqualFold(s, m[1]) })
		if i >= 0 && !slices.Contains(out, initials[i]) {
			out = append(out, initials[i])
		}
	}
	return out
}

// Initials are those of a name, which nobody in the team has: with a number behind them where they are taken. A name
// without a letter gives X.
func Initials(name string, taken []string) string {
	plain := ""
	for part := range strings.FieldsSeq(name) {
		for _, r := range part {
			if letter.MatchString(string(r)) {
				plain += strings.ToUpper(string(r))
				break
			}
		}
		if len([]rune(plain)) == maxInitials {
			break
		}
	}
	if plain == "" {
		plain = "X"
	}
	for n, out := 2, plain; ; n++ {
		if !slices.ContainsFunc(taken, func(t string) bool { return strings.EqualFold(t, out) }) {
			return out
		}
		out = fmt.Sprintf("%s%d", plain, n)
	}
}

const maxInitials = 3

var letter = regexp.MustCompile(`^\pL$`)
