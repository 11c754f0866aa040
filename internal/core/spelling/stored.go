package spelling

import (
	"fmt"
	"strings"

	"brightchalk/internal/core/phoneme"
)

// Joined is a word whose letters are joined to its codes once and for all, as it is stored: "sh:S i:i p:p". The
// letter of a split spelling that stands apart is "-", as in "c:k a-e:A k:k -"; an odd part is "!ch:".
type Joined struct {
	Word, Codes string
	pieces      []piece
}

// Join is Align in the form that is stored; empty where there is no path.
func (al *Aligner) Join(word, codes string, c Cut) string {
	return stored(word, al.pieces(word, codes, c))
}

func stored(word string, pieces []piece) string {
	var tokens []string
	at := 0
	for _, p := range pieces {
		for at < p.letters0() { // letters before this piece that belong to a split spelling
			tokens = append(tokens, "-")
			at++
		}
		switch {
		case p.row == nil:
			part := ""
			for _, l := range p.letters {
				part += word[l : l+1]
			}
			tokens = append(tokens, "!"+part+":"+p.codes)
			at += len(p.letters)
		default:
			tokens = append(tokens, p.row.name+":"+p.codes)
			at += len(p.row.grapheme)
		}
	}
	if pieces != nil {
		for ; at < len(word); at++ {
			tokens = append(tokens, "-")
		}
	}
	return strings.Join(tokens, " ")
}

// letters0 is the place of the piece's first letter, or -1 where it has sounds alone.
func (p piece) letters0() int {
	if len(p.letters) == 0 {
		return -1
	}
	return p.letters[0]
}

// ReadJoined reads what Join wrote.
func ReadJoined(word, stored string) (Joined, error) {
	j := Joined{Word: word, pieces: make([]piece, 0, strings.Count(stored, " ")+1)}
	if len(word) > maxLetters {
		return j, fmt.Errorf("spelling: %q is too long", word)
	}
	var codes strings.Builder
	codes.Grow(len(stored) / 3)
	at := 0
	waiting := -1 // the piece of a split spelling whose e is still to come
	for token := range strings.SplitSeq(stored, " ") {
		if token == "-" {
			if waiting < 0 || at >= len(word) {
				return j, fmt.Errorf("spelling: %q holds an e that no split spelling asks for", stored)
			}
			p := &j.pieces[waiting]
			p.letters = append(p.letters[:len(p.letters):len(p.letters)], at)
			waiting = -1
			at++
			continue
		}
		name, sounds, ok := strings.Cut(token, ":")
		p := piece{codes: sounds}
		g := strings.TrimPrefix(name, "!")
		if len(g) == len(name) {
			k, known := findRow[token]
			if !known {
				return j, fmt.Errorf("spelling: the table has no row %q", token)
			}
			p.row = &rows[k]
			g = p.row.grapheme
			if p.row.split {
				waiting = len(j.pieces)
			}
		}
		if !ok || at+len(g) > len(word) || word[at:at+len(g)] != g {
			return j, fmt.Errorf("spelling: %q does not fit %q", stored, word)
		}
		p.letters = places[at : at+len(g) : at+len(g)]
		at += len(g)
		codes.WriteString(sounds)
		j.pieces = append(j.pieces, p)
	}
	if at != len(word) || waiting >= 0 {
		return j, fmt.Errorf("spelling: %q does not fit %q", stored, word)
	}
	j.Codes = codes.String()
	return j, nil
}

// Segments are the graphemes with their sounds in an accent.
func (j Joined) Segments(a phoneme.Accent, u Units) []Segment {
	return segments(j.Word, j.Codes, j.pieces, a, u)
}

// Cuts visits the places between graphemes where no split spelling reaches over, with the codes before and after.
func (j Joined) Cuts(visit func(at int, before, after string)) {
	reach, codes := -1, 0
	for i, p := range j.pieces {
		if i > 0 && len(p.letters) > 0 && p.letters[0] > reach {
			visit(p.letters[0], j.Codes[:codes], j.Codes[codes:])
		}
		for _, l := range p.letters {
			reach = max(reach, l)
		}
		codes += len(p.codes)
	}
}
