package spelling

import (
	_ "embed"
	"fmt"
	"slices"
	"strconv"
	"strings"

	"brightchalk/internal/core/phoneme"
)

//go:embed table.txt
var tableText string

type row struct {
	grapheme string // letters before the e of a split spelling
	name     string // as taught: "a-e"
	codes    string
	cost     int
	rare     bool
	split    bool
	inflects bool // an ending that is put to words: -ed, -es
	end      endRule
	sound    [4]string
	phonemes [4][]phoneme.Phoneme // shared by all segments: not to be changed
}

type endRule byte

const (
	anywhere endRule = iota
	wordEnd
	wordEndOrConsonant
	softBefore // at the end, before a consonant, and before a and o: ge in pigeon
)

var (
	rows      []row
	tableRows = map[string][]row{}
	findRow   = map[string]int16{} // by name and codes: "a-e:A"
	// By first letter and first code: the rows that can start at a place.
	byStart  [26][256][]int16 // numbers in rows
	byLetter [26][]row
)

func init() {
	for line := range strings.Lines(tableText) {
		fields := strings.Fields(line)
		if len(fields) == 0 || fields[0] == "#" {
			continue
		}
		for _, f := range fields[1:] {
			codes, cost, ok := strings.Cut(f, "/")
			flags := strings.TrimLeft(cost, "0123456789")
			n, err := strconv.Atoi(cost[:len(cost)-len(flags)])
			if !ok || err != nil {
				panic(fmt.Sprintf("spelling: bad row %q", line))
			}
			r := row{
				grapheme: fields[0],
				name:     fields[0],
				codes:    codes,
				cost:     n,
				rare:     strings.Contains(flags, "!"),
				inflects: strings.Contains(flags, "&"),
			}
			if r.split = strings.HasSuffix(r.name, "-e"); r.split {
				r.grapheme = strings.TrimSuffix(r.name, "-e")
			}
			if strings.Contains(flags, "$") {
				r.end = wordEnd
			} else if strings.Contains(flags, "%") {
				r.end = wordEndOrConsonant
			} else if strings.Contains(flags, "~") {
				r.end = softBefore
			}
			for i, a := range phoneme.Accents {
				r.phonemes[i] = phoneme.Realise(a, codes, 0)
				r.sound[i] = phoneme.Join(r.phonemes[i])
			}
			findRow[r.name+":"+codes] = int16(len(rows))
			tableRows[r.name] = append(tableRows[r.name], r)
			byLetter[r.grapheme[0]-'a'] = append(byLetter[r.grapheme[0]-'a'], r)
			start := &byStart[r.grapheme[0]-'a'][r.codes[0]]
			*start = append(*start, int16(len(rows)))
			rows = append(rows, r)
		}
	}
}

// Row is one row of the table in an accent.
type Row struct {
	Pair
	Rare bool `json:"rare"` // only seen in exception words
}

// Table lists the rows in the accent by grapheme, without repeats.
func Table(a phoneme.Accent) []Row {
	var out []Row
	seen := map[Pair]bool{}
	for _, rows := range tableRows {
		for _, r := range rows {
			p := Pair{r.name, r.sound[a.Index()]}
			if !seen[p] {
				seen[p] = true
				out = append(out, Row{p, r.rare})
			}
		}
	}
	slices.SortFunc(out, func(x, y Row) int { return strings.Compare(x.String(), y.String()) })
	return out
}
