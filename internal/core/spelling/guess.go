package spelling

import "strings"

// Guess gives the codes that a reader would try for an unknown word of letters a to z: the most common
// sound of each grapheme, with the usual rules for c, g, y, the final e and open syllables. It is a guess
// and callers say so.
func Guess(word string) string {
	var out strings.Builder
	n := len(word)
	vowelSeen := false
	silent := -1 // where the e of a split spelling stands
	for i := 0; i < n; {
		rest := word[i:]
		last := func(l int) bool { return i+l == n }
		if code, ok := splitVowel(word, i); ok {
			out.WriteString(code)
			vowelSeen = true
			silent = i + 2
			i++
			continue
		}
		if rest == "e" && vowelSeen { // silent at the end
			break
		}
		g, codes := longest(rest, vowelSeen)
		switch {
		case rest == "es" && i == silent && strings.IndexByte("cgsxz", word[i-1]) < 0:
			g, codes = rest, "z"
			if strings.IndexByte("ptkf", word[i-1]) >= 0 {
				codes = "s"
			}
		case rest == "es" && vowelSeen && strings.HasSuffix(word[:i], "s"):
			g, codes = rest, "iz"
		case rest == "ed" && vowelSeen && i > 1:
			g, codes = rest, pastCodes(word[:i])
		case rest[0] == 'c' && len(g) == 1 && len(rest) > 1 && strings.ContainsRune("eiy", rune(rest[1])):
			codes = "s"
		case rest[0] == 'n' && len(g) == 1 && len(rest) > 1 && (rest[1] == 'k' || rest[1] == 'x'):
			codes = "N"
		case g == "y" && i > 0:
			codes = "i"
			if last(1) {
				codes = "y"
				if !vowelSeen {
					codes = "Y"
				}
			}
		case len(g) == 1 && last(1) && !vowelSeen && strings.Contains("eiou", g):
			codes = map[string]string{"e": "E", "i": "Y", "o": "G", "u": "L"}[g]
		case g == "o" && last(1):
			codes = "G"
		case g == "a" && last(1):
			codes = "@"
		case g == "er" && i > 0 && vowelSeen:
			codes = "4"
		case g == "r" && (last(1) || !isVowelLetter(rest[1])) && strings.HasSuffix(out.String(), "E"):
			codes = "4" // happier
		case g == "s" && last(1) && i > 0 && !strings.ContainsRune("ptkf", rune(word[i-1])):
			codes = "z"
		}
		for k := range len(codes) {
			if strings.IndexByte(vowelCodeBytes, codes[k]) >= 0 {
				vowelSeen = true
			}
		}
		out.WriteString(codes)
		i += len(g)
	}
	return out.String()
}

// pastCodes are the sounds of -ed after a stem.
func pastCodes(stem string) string {
	switch c := stem[len(stem)-1]; {
	case c == 't' || c == 'd':
		return "id"
	case strings.IndexByte("pkfsx", c) >= 0, strings.HasSuffix(stem, "sh"), strings.HasSuffix(stem, "ch"):
		return "t"
	}
	return "d"
}

const vowelCodeBytes = "ieaqoxuU@EyAYXGWLPcRK34567"

func splitVowel(word string, i int) (string, bool) {
	if i+2 >= len(word) || isVowelLetter(word[i+1]) || strings.IndexByte("wxr", word[i+1]) >= 0 || word[i+2] != 'e' {
		return "", false
	}
	if tail := word[i+3:]; tail != "" && tail != "s" && tail != "d" {
		return "", false
	}
	if i > 0 && isVowelLetter(word[i-1]) && word[i-1] != 'y' {
		return "", false
	}
	code, ok := map[byte]string{'a': "A", 'e': "E", 'i': "Y", 'o': "G", 'u': "jL", 'y': "Y"}[word[i]]
	if ok && word[i] == 'u' && i > 0 && strings.IndexByte("rlj", word[i-1]) >= 0 {
		code = "L"
	}
	return code, ok
}

// weakEnd tells whether a row is the unstressed end of a longer word: jumped, boxes, camel, table.
func weakEnd(r row) bool {
	begins := isVowelLetter(r.grapheme[0]) || strings.Contains(r.codes, "@")
	return len(r.grapheme) > 1 && begins && !strings.ContainsAny(strings.Trim(r.codes, "i@"), vowelCodeBytes)
}

// longest is the longest grapheme at the start of letters, and its most usual codes.
func longest(rest string, vowelSeen bool) (grapheme, codes string) {
	best := row{grapheme: rest[:1]}
	for _, r := range byLetter[rest[0]-'a'] {
		if r.split || r.rare || !strings.HasPrefix(rest, r.grapheme) || r.end == wordEnd && r.grapheme != rest {
			continue
		}
		if !vowelSeen && r.grapheme == rest && weakEnd(r) { // gled, zel: their e is all the vowel they have
			continue
		}
		if (r.end == wordEndOrConsonant || r.end == softBefore || r.grapheme == "mb") && len(rest) > len(r.grapheme) {
			continue
		}
		if r.cost > 2 && len(r.grapheme) > 1 && r.grapheme != "ze" {
			continue
		}
		if len(r.grapheme) > len(best.grapheme) ||
			len(r.grapheme) == len(best.grapheme) && (best.codes == "" || r.cost < best.cost) {
			best = r
		}
	}
	return best.grapheme, best.codes
}
