package texts

import (
	"slices"
	"strings"

	"brightchalk/internal/core/lexicon"
)

// Instead offers up to three readable words that could stand in the place of one that is not: of the same
// kind by the small grammar (an animal for an animal, a past form for a past form), else of the same part of
// speech by the lexicon. readable are words of the lexicon, best first.
func Instead(word string, can func(word string) bool, readable []*lexicon.Entry) []string {
	out := []string{}
	add := func(w string) bool {
		if w != "" && w != word && can(w) && !slices.Contains(out, w) {
			out = append(out, w)
		}
		return len(out) == 3
	}
	word = strings.ToLower(word)
	if len(word) < 2 || smallWords[word] != "" {
		return out
	}
	for _, kin := range kindred(word) {
		if add(kin) {
			return out
		}
	}
	e, ok := lexicon.Find(word)
	if !ok || e.Parts == "" || e.Parts[0] == 'n' && strings.Contains(e.Parts, "v") { // read is first of all no noun
		return out
	}
	for _, r := range readable {
		if r.Parts != "" && smallWords[r.Word] == "" && strings.ContainsRune("nNvVar", rune(r.Parts[0])) && r.Parts[0] == e.Parts[0] && (r.Parts[0] != 'n' || r.Picturable()) && add(r.Word) {
			break
		}
	}
	return out
}

// kindred lists the words of the small grammar that have the place of a word in it.
func kindred(word string) []string {
	var out []string
	v := fullVocabulary()
	for _, n := range v.nouns {
		if n.one != word && n.many != word {
			continue
		}
		for _, other := range v.nouns {
			switch {
			case other.class != n.class || other.plain != n.plain:
			case n.one == word:
				out = append(out, other.one)
			default:
				out = append(out, other.many)
			}
		}
	}
	for _, a := range v.adjectives {
		if a.word == word {
			for _, other := range v.adjectives {
				if strings.ContainsAny(other.classes, a.classes) {
					out = append(out, other.word)
				}
			}
		}
	}
	for _, verb := range v.verbs {
		form := slices.Index([]string{verb.base, verb.she, verb.past}, word)
		if form < 0 {
			continue
		}
		for _, other := range v.verbs {
			if (other.objects == "") == (verb.objects == "") && strings.ContainsAny(other.subjects, verb.subjects) {
				out = append(out, []string{other.base, other.she, other.past}[form])
			}
		}
	}
	for _, p := range v.places {
		if p.noun == word {
			for _, other := range v.places {
				if other.preposition == p.preposition {
					out = append(out, other.noun)
				}
			}
		}
	}
	return out
}
