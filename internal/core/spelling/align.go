package spelling

import (
	"math/bits"
	"slices"
	"strings"

	"brightchalk/internal/core/phoneme"
)

const (
	maxLetters = 24
	maxCodes   = 24
	maxPending = 5
	// An odd letter or sound costs more than any row, so that rows explain what they can.
	oddCost = 9
)

type cell struct {
	cost int16
	kind byte // 0 unseen, 1 row, 2 odd letter, 3 odd sound, 4 the e of a split spelling
	row  int16
	from int32
}

// An Aligner is reused for many words by one goroutine.
type Aligner struct {
	cells [(maxLetters + 1) * (maxCodes + 1) * maxPending]cell
	live  [maxLetters + 1]uint32 // of each letter place, the sound places that a path has reached
	ops   []int32
	out   []piece
	cut   Cut
}

// places are the letter positions, shared by all segments: not to be changed.
var places = func() (all [maxLetters]int) {
	for i := range all {
		all[i] = i
	}
	return all
}()

func at(i, j, pending int) int { return (i*(maxCodes+1)+j)*maxPending + pending }

// piece is an aligned stretch in codes: what Align turns into segments for an accent.
type piece struct {
	letters []int
	codes   string
	row     *row // nil for an odd part
}

// Cut tells of a word what its letters do not: where it is joined, and whether it ends in an inflection.
type Cut struct {
	Seams []int // letter positions that no grapheme crosses: 3 in hothead
	// Plain words end in no -ed or -es of their own: naked, hundred.
	Plain bool
}

func (c Cut) at(letter int) bool { return slices.Contains(c.Seams, letter) }

func (c Cut) crosses(from, to int) bool {
	for _, s := range c.Seams {
		if from < s && to > s {
			return true
		}
	}
	return false
}

// Align joins the letters (a to z) of word to codes with the cheapest path through the table. The result is
// nil where the word or its codes are empty or longer than 24. A letter or a sound that no row explains comes
// back as odd segments; nothing is invented for them.
func (al *Aligner) Align(word, codes string, c Cut, a phoneme.Accent, u Units) []Segment {
	pieces := al.pieces(word, codes, c)
	if pieces == nil {
		return nil
	}
	return segments(word, codes, pieces, a, u)
}

func (al *Aligner) pieces(word, codes string, c Cut) []piece {
	al.cut = c
	n, m := len(word), len(codes)
	if n == 0 || m == 0 || n > maxLetters || m > maxCodes {
		return nil
	}
	for i := range n {
		if word[i] < 'a' || word[i] > 'z' {
			return nil
		}
	}
	// A path of rows alone is looked for first; only a word without one may have odd parts.
	end := at(n, m, 0)
	if !al.search(word, codes, false) && !al.search(word, codes, true) {
		return nil
	}
	al.ops = al.ops[:0]
	for k := end; k != 0; k = int(al.cells[k].from) {
		al.ops = append(al.ops, int32(k))
	}
	out := al.out[:0]
	i, j := 0, 0
	var splits [maxLetters]int // position of an e to the piece that owns it
	for k := len(al.ops) - 1; k >= 0; k-- {
		c := al.cells[al.ops[k]]
		switch c.kind {
		case 1:
			r := &rows[c.row]
			letters := places[i : i+len(r.grapheme) : i+len(r.grapheme)]
			i += len(r.grapheme)
			if r.split {
				pending := int(al.ops[k]) % maxPending
				splits[i+pending-1] = len(out)
			}
			out = append(out, piece{letters, codes[j : j+len(r.codes)], r})
			j += len(r.codes)
		case 4:
			owner := splits[i]
			out[owner].letters = append(out[owner].letters, i)
			i++
		case 2, 3:
			if len(out) == 0 || out[len(out)-1].row != nil {
				out = append(out, piece{})
			}
			last := &out[len(out)-1]
			if c.kind == 2 {
				last.letters = append(last.letters, i)
				i++
			} else {
				last.codes += codes[j : j+1]
				j++
			}
		}
	}
	al.out = out
	return lettered(word, out)
}

// lettered gives the sounds that no letter was found for to letters beside them, which are odd then: c a f e, and not
// a-e with a sound behind it; the u of popular.
func lettered(word string, pieces []piece) []piece {
	without := func(p piece) bool { return len(p.letters) == 0 }
	if !slices.ContainsFunc(pieces, without) || len(pieces) == 1 {
		return pieces
	}
	pieces = slices.Clone(pieces)
	for k := slices.IndexFunc(pieces, without); k >= 0; k = slices.IndexFunc(pieces, without) {
		if apart := isParted(pieces, k); apart >= 0 {
			p := &pieces[apart]
			n := len(p.letters) - 1
			first, e := p.letters[:n:n], p.letters[n:]
			*p = piece{first, p.codes, nil}
			if row, ok := findRow[word[first[0]:first[0]+n]+":"+p.codes]; ok {
				p.row = &rows[row]
			}
			pieces[k].letters = e
			continue
		}
		into := k - 1
		if k+1 < len(pieces) && !without(pieces[k+1]) {
			glides := strings.ContainsAny(pieces[k].codes, "j@") && word[pieces[k+1].letters[0]] == 'u'
			if k == 0 || glides || pieces[k-1].row != nil && pieces[k-1].row.split {
				into = k + 1
			}
		}
		one := pieces[into]
		pieces[into] = piece{one.letters, pieces[min(into, k)].codes + pieces[max(into, k)].codes, nil}
		pieces = slices.Delete(pieces, k, k+1)
	}
	return pieces
}

// isParted is the split spelling whose e stands where piece k sounds, -1 where none does.
func isParted(pieces []piece, k int) int {
	return slices.IndexFunc(pieces[:k], func(p piece) bool {
		if p.row == nil || !p.row.split || len(p.letters) < 2 {
			return false
		}
		e := p.letters[len(p.letters)-1]
		before := pieces[k-1].letters
		return (len(before) == 0 || before[0] < e) && (k+1 == len(pieces) || pieces[k+1].letters0() > e)
	})
}

// search fills the cells and tells whether a path reaches the end. Costs in them are one more than the true
// cost, so that 0 means unseen.
func (al *Aligner) search(word, codes string, odd bool) bool {
	n, m := len(word), len(codes)
	clear(al.live[:n+1])
	al.put(0, 0, 0, cell{cost: 1, kind: 1})
	for i := range n + 1 {
		for al.live[i] != 0 { // an odd sound sets a later bit of the same place
			j := bits.TrailingZeros32(al.live[i])
			al.live[i] &^= 1 << j
			for p := range maxPending {
				if cost := al.cells[at(i, j, p)].cost; cost != 0 {
					al.step(word, codes, i, j, p, cost, odd)
				}
			}
			if i == n && j == m {
				return al.cells[at(n, m, 0)].cost != 0
			}
		}
	}
	return false
}

func (al *Aligner) put(i, j, p int, c cell) {
	k := at(i, j, 0)
	if al.live[i]&(1<<j) == 0 {
		al.live[i] |= 1 << j
		clear(al.cells[k : k+maxPending])
	}
	if old := &al.cells[k+p]; old.cost == 0 || c.cost < old.cost {
		*old = c
	}
}

func (al *Aligner) step(word, codes string, i, j, p int, cost int16, odd bool) {
	n, m := len(word), len(codes)
	from := int32(at(i, j, p))
	if p == 1 { // the e of a split spelling stands here
		al.put(i+1, j, 0, cell{cost, 4, 0, from})
		return
	}
	if i < n && j < m {
		for _, k := range byStart[word[i]-'a'][codes[j]] {
			al.spell(word, codes, i, j, p, cell{cost, 1, k, from})
		}
	}
	if odd && i < n && p == 0 {
		al.put(i+1, j, 0, cell{cost + oddCost*2, 2, 0, from})
	}
	if odd && j < m {
		al.put(i, j+1, p, cell{cost + oddCost*2, 3, 0, from})
	}
}

// spell puts a row of the table where it fits: its letters at i, its codes at j. P letters on, the e of a split
// spelling stands.
func (al *Aligner) spell(word, codes string, i, j, p int, c cell) {
	r := &rows[c.row]
	g := len(r.grapheme)
	if !strings.HasPrefix(word[i:], r.grapheme) || !strings.HasPrefix(codes[j:], r.codes) || p > 0 && g >= p {
		return
	}
	after := i + g
	if al.cut.crosses(i, after) || r.inflects && al.cut.Plain || !al.mayEnd(r, word, after) {
		return
	}
	c.cost += int16(r.cost * 2)
	switch {
	case r.split && p == 0:
		al.leap(word, i, after, j+len(r.codes), c)
	case r.split:
	case p > 0:
		al.put(after, j+len(r.codes), p-g, c)
	default:
		al.put(after, j+len(r.codes), 0, c)
	}
}

// mayEnd tells whether a row that is bound to a place may end before the letter at after.
func (al *Aligner) mayEnd(r *row, word string, after int) bool {
	vowel := after < len(word) && isVowelLetter(word[after])
	switch r.end {
	case wordEnd:
		return after == len(word)
	case wordEndOrConsonant:
		return !vowel || al.cut.at(after)
	case softBefore:
		return !vowel || word[after] == 'o' || word[after] == 'a'
	}
	return true
}

// leap looks for the e of a split spelling, over one to three letters.
func (al *Aligner) leap(word string, i, after, j int, c cell) {
	for gap := 1; gap <= 3 && after+gap < len(word); gap++ {
		if isVowelLetter(word[after+gap-1]) && word[after+gap-1] != 'u' {
			return
		}
		if word[after+gap] == 'e' && !al.cut.crosses(i, after+gap+1) {
			c.cost += int16(3 * (gap - 1))
			al.put(after, j, gap+1, c)
			return
		}
	}
}

func isVowelLetter(c byte) bool {
	return c == 'a' || c == 'e' || c == 'i' || c == 'o' || c == 'u' || c == 'y'
}

func segments(word, codes string, pieces []piece, a phoneme.Accent, u Units) []Segment {
	out := make([]Segment, 0, len(pieces))
	column := a.Index()
	at := 0
	for _, p := range pieces {
		at += len(p.codes)
		next := byte(0)
		if at < len(codes) {
			next = codes[at]
		}
		s := Segment{Letters: p.letters}
		if p.row != nil {
			s.Grapheme, s.Rare = p.row.name, p.row.rare
			s.Pair = Pair{s.Grapheme, p.row.sound[column]}
			s.Phonemes = p.row.phonemes[column]
			if phoneme.IsRVowel(p.codes[len(p.codes)-1]) && phoneme.IsVowelSet(next) {
				s.Phonemes = phoneme.Realise(a, p.codes, next)
			}
		} else {
			s.Phonemes = phoneme.Realise(a, p.codes, next)
			for _, l := range p.letters {
				s.Grapheme += word[l : l+1]
			}
			s.Odd, s.Rare = true, true
			s.Pair = Pair{s.Grapheme, phoneme.Join(s.Phonemes)}
		}
		out = append(out, s)
	}
	return applyUnits(out, u)
}

func applyUnits(in []Segment, u Units) []Segment {
	if !u.QuTwo && !u.NkOne && !u.DoublesTwo {
		return in
	}
	var out []Segment
	for i, s := range in {
		switch {
		case u.QuTwo && s.Grapheme == "qu" && len(s.Phonemes) == 2:
			out = append(out, single("q", s.Letters[:1], s.Phonemes[:1]), single("u", s.Letters[1:], s.Phonemes[1:]))
		case u.NkOne && s.Pair == Pair{"k", "k"} && i > 0 && in[i-1].Pair == Pair{"n", "ŋ"}:
			last := &out[len(out)-1]
			last.Grapheme, last.Letters = "nk", append(append([]int{}, last.Letters...), s.Letters...)
			last.Phonemes, last.Pair = []phoneme.Phoneme{"ŋ", "k"}, Pair{"nk", "ŋk"}
		case u.DoublesTwo && s.Pair.Kind() == "doubled letter" && len(s.Phonemes) == 1:
			g := s.Grapheme[:1]
			out = append(
				out,
				single(g, s.Letters[:1], s.Phonemes),
				Segment{Grapheme: g, Letters: s.Letters[1:], Pair: Pair{g, phoneme.Join(s.Phonemes)}},
			)
		default:
			out = append(out, s)
		}
	}
	return out
}

func single(g string, letters []int, ps []phoneme.Phoneme) Segment {
	return Segment{Grapheme: g, Letters: letters, Phonemes: ps, Pair: Pair{g, phoneme.Join(ps)}}
}

// Cost is the cost of the cheapest path, for choosing between spellings of a pronunciation; 0 where there
// is none.
func (al *Aligner) Cost(word, codes string, c Cut) int {
	if al.pieces(word, codes, c) == nil {
		return 0
	}
	return int(al.cells[at(len(word), len(codes), 0)].cost)
}
