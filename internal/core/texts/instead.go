package texts

import (
	"cmp"
	"slices"
	"strings"

	"brightchalk/internal/core/lexicon"
)

const maxInstead = 3

// Instead offers up to three readable words that could stand in the place of one that is not. All are of the same
// kind: by the small grammar (an animal of the farm for an animal of the farm, a past form for a past form), else of
// the same part of speech and the same kind by the lexicon. Things of the same theme come first: a pram for a ship,
// no hat. readable are words of the lexicon, best first.
func Instead(word string, can func(word string) bool, readable []*lexicon.Entry) []string {
	word = strings.ToLower(word)
	if len(word) < 2 || smallWords[word] != "" {
		return []string{}
	}
	var fit []string
	for _, kin := range kindred(word) {
		if kin != "" && can(kin) {
			fit = append(fit, kin)
		}
	}
	e, ok := lexicon.Find(word)
	if ok && e.Parts != "" &&
		(len(fit) > 0 || e.Parts[0] != 'n' || !strings.Contains(e.Parts, "v")) { // read is first of all no noun
		others := 0 // of no common theme: the best few do
		for _, r := range readable {
			sameKind := r.Parts != "" && smallWords[r.Word] == "" && r.Parts[0] == e.Parts[0] && tail(r) == tail(e) &&
				(e.Kinds == "" || strings.ContainsAny(r.Kinds, e.Kinds))
			if !sameKind || !strings.ContainsRune("nNvVar", rune(r.Parts[0])) || r.Parts[0] == 'n' && !r.Picturable() {
				continue
			}
			if apart := e.Alike(r) == 0; (!apart || others <= maxInstead) && can(r.Word) {
				fit = append(fit, r.Word)
				if apart {
					others++
				}
			}
		}
	}
	if ok {
		slices.SortStableFunc(fit, func(a, b string) int { return cmp.Compare(alike(e, b), alike(e, a)) })
	}
	out := []string{}
	for _, w := range fit {
		if len(out) < maxInstead && w != word && !slices.Contains(out, w) {
			out = append(out, w)
		}
	}
	return out
}

// tail is the form of a verb by its end: acting is none for acts, and neither for walked.
func tail(e *lexicon.Entry) string {
	if e.Parts[0] != 'V' && e.Stem == "" {
		return ""
	}
	for _, end := range []string{"ing", "s"} {
		if strings.HasSuffix(e.Word, end) {
			return end
		}
	}
	return "past"
}

func alike(e *lexicon.Entry, word string) float64 {
	if other, ok := lexicon.Find(word); ok {
		return e.Alike(other)
	}
	return 0
}

// other is a word that may stand in the place of another, with how many themes they share.
type other struct {
	word   string
	common int
}

// shared counts the themes that are in both lists.
func shared(a, b []string) int {
	n := 0
	for _, t := range a {
		if slices.Contains(b, t) {
			n++
		}
	}
	return n
}

// kindredNouns lists the nouns of a noun's class and number.
func (v *vocabulary) kindredNouns(word string) (found []other) {
	for _, n := range v.nouns {
		if n.one != word && n.many != word || n.has("name") {
			continue
		}
		for _, o := range v.nouns {
			if o.class == n.class && o.bare == n.bare && (o.many == "") == (n.many == "") && !o.has("name") {
				found = append(found, other{form(o, n.one != word), shared(n.tags, o.tags)})
			}
		}
	}
	return found
}

// kindredVerbs lists the verbs of a list in the form of one of them, where somebody can do both to something.
func kindredVerbs(list []verb, word string) (found []other) {
	for _, verb := range list {
		at := slices.Index([]string{verb.base, verb.she, verb.past}, word)
		if at < 0 {
			continue
		}
		for _, o := range list {
			if n := shared(verb.what, o.what); n > 0 && overlap(verb.who, o.who) {
				found = append(found, other{[]string{o.base, o.she, o.past}[at], n})
			}
		}
	}
	return found
}

// kindred lists the words of the small grammar that have the place of a word in it, the most alike first.
func kindred(word string) []string {
	v := fullVocabulary()
	found := v.kindredNouns(word)
	for _, a := range v.adjectives {
		if a.word != word {
			continue
		}
		for _, o := range v.adjectives {
			if n := shared(a.tags, o.tags); n > 0 {
				found = append(found, other{o.word, n})
			}
		}
	}
	found = append(found, kindredVerbs(v.acts, word)...)
	found = append(found, kindredVerbs(v.uses, word)...)
	for _, p := range v.places {
		if p.word != word {
			continue
		}
		for _, o := range v.places {
			if o.preposition == p.preposition {
				found = append(found, other{o.word, shared(p.tags, o.tags)})
			}
		}
	}
	slices.SortStableFunc(found, func(a, b other) int { return cmp.Compare(b.common, a.common) })
	out := make([]string, len(found))
	for i, f := range found {
		out[i] = f.word
	}
	return out
}
