package strokes

import (
	"fmt"
	"math"
	"strings"
	"unicode"
	"unicode/utf8"
)

// Finding is something about a letter's geometry that a writer would stumble over. Stroke counts from 0; -1
// is the letter as a whole.
type Finding struct {
	Stroke int    `json:"stroke"`
	Text   string `json:"text"`
}

// zone is how far up and down a sign goes.
type zone struct{ low, high float64 }

const (
	tall    = "bdfhklt"
	hanging = "gjpqy"
)

func findZone(sign string) zone {
	r, _ := utf8.DecodeRuneInString(sign)
	switch {
	case sign == ".":
		return zone{0, 0.2}
	case strings.ContainsRune(tall, r):
		return zone{0, 2}
	case strings.ContainsRune(hanging, r):
		return zone{-1, 1}
	case unicode.IsUpper(r), unicode.IsDigit(r):
		return zone{0, 2}
	}
	return zone{0, 1}
}

const slack = 0.03 // the width of a pencil line at a height of 8 mm

// Geometry finds what is wrong with a letter in the table's proportions: strokes that leave their zone or pass a
// line, tall and hanging letters that do not reach theirs, letters that do not sit on the base line, starts
// that miss a line narrowly. names are the team's lines.
func (l Lines) Geometry(x Letter) []Finding {
	out := []Finding{}
	if len(x.Strokes) == 0 {
		return []Finding{{-1, "This letter has no strokes yet."}}
	}
	z := findZone(x.Sign)
	low, high := math.Inf(1), math.Inf(-1)
	for i, s := range x.Strokes {
		if len(s.Segments) == 0 && x.Sign != "." { // the dot of i and j stands over its letter
			continue
		}
		sLow, sHigh := math.Inf(1), math.Inf(-1)
		for _, p := range s.Points() {
			if math.IsNaN(p.X+p.Y) || math.Abs(p.X) > 6 || math.Abs(p.Y) > 6 {
				return []Finding{{i, "A point lies far outside the lines."}}
			}
			sLow, sHigh = min(sLow, p.Y), max(sHigh, p.Y)
		}
		low, high = min(low, sLow), max(high, sHigh)
		if sHigh > z.high+slack {
			out = append(out, Finding{i, fmt.Sprintf("Passes the %s.", l.name(z.high))})
		}
		if sLow < z.low-slack {
			out = append(out, Finding{i, fmt.Sprintf("Passes the %s.", l.name(z.low))})
		}
		for _, y := range []float64{-1, 0, 1, 2} {
			if d := math.Abs(s.Start.Y - y); d > slack && d < 0.1 && x.Family != "round" && len(s.Segments) > 0 {
				out = append(out, Finding{i, fmt.Sprintf("Starts beside the %s, not on it.", l.name(y))})
			}
		}
	}
	least := z.high - slack
	if x.Sign == "t" { // shorter than the others in many schools
		least = 1.4
	}
	if high < least && x.Sign != "." {
		out = append(out, Finding{-1, fmt.Sprintf("Does not reach the %s.", l.name(z.high))})
	}
	if z.low < 0 && low > -0.8 {
		out = append(out, Finding{-1, fmt.Sprintf("Does not hang down to the %s.", l.Drop.Name)})
	}
	if z.low == 0 && low > slack && x.Sign != "." {
		out = append(out, Finding{-1, fmt.Sprintf("Does not sit on the %s.", l.Base.Name)})
	}
	return out
}

func (l Lines) name(y float64) string {
	switch y {
	case 2:
		return l.Top.Name
	case 1:
		return l.Middle.Name
	case -1:
		return l.Drop.Name
	}
	return l.Base.Name
}
