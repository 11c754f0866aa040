package strokes_test

import (
	"fmt"
	"strings"
	"testing"

	"github.com/sebdah/goldie/v2"

	"brightchalk/internal/core/strokes"
)

// All letters as they are drawn and said under several ways of a team, kept as text. After a change run
// "go test ./internal/core/strokes -update", look at the letters on the letter desk, and read the difference.
func TestLettersAsTheyAreDrawn(t *testing.T) {
	g := goldie.New(t, goldie.WithFixtureDir("testdata"), goldie.WithNameSuffix(".txt"))
	common := strokes.CommonLines()
	for name, change := range map[string]func(l *strokes.Lines){
		"common":  func(*strokes.Lines) {},
		"low":     func(l *strokes.Lines) { l.Capital, l.Hang, l.HeightMM = 1.6, 0.7, 12 },
		"lead-in": func(l *strokes.Lines) { l.Style, l.Middle.Name = strokes.LeadIn, "waterline" },
		"joined":  func(l *strokes.Lines) { l.Style, l.Joined = strokes.LeadIn, true },
	} {
		l := common
		change(&l)
		var b strings.Builder
		for _, sign := range strokes.Signs() {
			letter, _ := strokes.Of(sign)
			for _, by := range []strokes.Point{{Y: 0.05}, {Y: -0.05}, {Y: 0.2}, {Y: -0.2}, {X: 7}} {
				moved := letter.Map(func(p strokes.Point) strokes.Point { return strokes.Point{X: p.X + by.X, Y: p.Y + by.Y} })
				fmt.Fprintf(&b, "  moved by %.2f, %.2f: %v\n", by.X, by.Y, l.Geometry(moved))
			}
			letter = l.Form(letter)
			low, high := letter.Bounds()
			fmt.Fprintf(&b, "%s %.2f..%.2f by %.2f..%.2f %v\n", sign, low.X, high.X, low.Y, high.Y, l.Geometry(letter))
			for _, s := range letter.Strokes {
				fmt.Fprintf(&b, "  %s | %.2f long, heads %.0f°\n", s.Path(), s.Length(), s.Heading())
			}
			for _, w := range l.Words(letter) {
				fmt.Fprintf(&b, "  “%s”\n", w)
			}
		}
		for _, text := range []string{"sh", "igh", "qu", "ck", "a-e", "Th", "dge"} {
			w, err := l.Write(text, nil, []string{"down", "up"})
			fmt.Fprintf(&b, "%s: %+v %v\n", text, w, err)
		}
		g.Assert(t, name, []byte(b.String()))
	}
}
