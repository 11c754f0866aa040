package strokes_test

import (
	"math"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"brightchalk/internal/core/strokes"
)

func of(t *testing.T, sign string) strokes.Letter {
	t.Helper()
	l, ok := strokes.Of(sign)
	require.True(t, ok, sign)
	return l
}

func TestEverySignIsThereAndStaysInItsLines(t *testing.T) {
	const want = "abcdefghijklmnopqrstuvwxyzABCDEFGHIJKLMNOPQRSTUVWXYZ0123456789."
	assert.ElementsMatch(t, strings.Split(want, ""), strokes.Signs())
	for _, style := range []strokes.Style{strokes.Print, strokes.LeadIn} {
		lines := strokes.CommonLines()
		lines.Style = style
		for _, sign := range strokes.Signs() {
			assert.Empty(t, lines.Geometry(lines.Form(of(t, sign))), "%s, %s", sign, style)
		}
	}
}

// Heights, starts, number of strokes and direction: common practice, no published source.
func TestHowLettersAreWritten(t *testing.T) {
	lifts := map[string]int{
		"a": 1,
		"b": 1,
		"e": 1,
		"f": 2,
		"g": 1,
		"i": 2,
		"j": 2,
		"k": 2,
		"m": 1,
		"o": 1,
		"p": 1,
		"t": 2,
		"x": 2,
		"y": 1,
		"A": 3,
		"E": 4,
		"H": 3,
		"L": 1,
		"T": 2,
		"4": 2,
		"5": 2,
		"8": 1,
	}
	for sign, n := range lifts {
		assert.Len(t, of(t, sign).Strokes, n, sign)
	}
	for _, sign := range strings.Split("bhkl", "") {
		assert.InDelta(t, 2, of(t, sign).Strokes[0].Start.Y, 1e-9, "%s starts on the top line", sign)
	}
	for _, sign := range strings.Split("ijmnpruvwxyz", "") {
		assert.InDelta(t, 1, of(t, sign).Strokes[0].Start.Y, 1e-9, "%s starts on the middle line", sign)
	}
	for _, sign := range strings.Split("acdgoqs", "") {
		s := of(t, sign).Strokes[0]
		assert.InDelta(t, 0.85, s.Start.Y, 0.03, sign)
		assert.Greater(t, math.Abs(s.Heading()), 90.0, "%s goes round to the left", sign)
	}
	for _, sign := range strokes.Signs() {
		_, high := of(t, sign).Bounds()
		switch {
		case sign >= "A" && sign <= "Z" || sign >= "0" && sign <= "9":
			assert.InDelta(t, 2, high.Y, 0.03, "%s is twice as high as a small letter", sign)
		case strings.Contains("acegmnopqrsuvwxyz", sign):
			assert.InDelta(t, 1, high.Y, 0.03, "%s is half as high as a capital", sign)
		}
	}
}

func TestFamiliesShareTheirStrokes(t *testing.T) {
	first := func(sign string, n int) []strokes.Segment { return of(t, sign).Strokes[0].Segments[:n] }
	for _, sign := range []string{"d", "g", "q"} {
		assert.Equal(t, first("a", 4), first(sign, 4), "%s begins as a", sign)
	}
	hump := of(t, "n").Strokes[0].Segments[1:5]
	for _, sign := range []string{"h", "m"} {
		assert.Equal(t, hump, of(t, sign).Strokes[0].Segments[1:5], "%s has the hump of n", sign)
	}
	assert.Equal(t, of(t, "b").Strokes[0].Segments[2:], of(t, "p").Strokes[0].Segments[2:], "b and p have one ball")
	assert.Equal(t, first("u", 4), first("y", 4), "u and y have one cup")
	for _, sign := range strokes.Signs() {
		assert.NotEmpty(t, of(t, sign).Family, sign)
	}
}

func TestWordsNameTheTeamsLines(t *testing.T) {
	l := strokes.CommonLines()
	assert.Equal(
		t,
		[]string{
			"Start just under the middle line. Round to the left, down to the base line and up again, closed. Straight " +
				"up to the middle line. Back straight down to the base line.",
		},
		l.Words(of(t, "a")),
	)
	l.Middle.Name, l.Base.Name, l.Top.Name = "water line", "bed", "bridge"
	words := l.Words(of(t, "t"))
	assert.Equal(t, "Lift. Start on the water line. Across to the right.", words[1])
	assert.Contains(t, l.Words(of(t, "h"))[0], "Start on the bridge. Straight down to the bed.")
	assert.Equal(t, "Lift. A dot above.", l.Words(of(t, "i"))[1])
	for _, sign := range strokes.Signs() {
		assert.Len(t, l.Words(of(t, sign)), len(of(t, sign).Strokes), sign)
	}
}

func TestProportionsFollowTheTeam(t *testing.T) {
	l := strokes.CommonLines()
	l.Capital, l.Hang = 1.6, 0.6
	_, high := l.On(of(t, "A")).Bounds()
	assert.InDelta(t, 1.6, high.Y, 1e-9)
	low, high := l.On(of(t, "p")).Bounds()
	assert.InDelta(t, -0.6, low.Y, 1e-9)
	assert.InDelta(t, 1, high.Y, 0.01, "small letters stay")
}

func TestGroups(t *testing.T) {
	l := strokes.CommonLines()
	sh, err := l.Group("sh", nil)
	require.NoError(t, err)
	assert.Len(t, sh.Strokes, 2, "side by side")
	_, s := of(t, "s").Bounds()
	low := strokes.Letter{Strokes: sh.Strokes[1:]}
	left, _ := low.Bounds()
	assert.Greater(t, left.X, s.X-0.1, "h stands clear of s")
	l.Style, l.Joined = strokes.LeadIn, true
	ai, err := l.Group("ai", nil)
	require.NoError(t, err)
	assert.Len(t, ai.Strokes, 2, "one joined stroke, then the dot")
	oa, err := l.Group("oa", nil)
	require.NoError(t, err)
	assert.Len(t, oa.Strokes, 2, "o ends at its top: side by side")
	split, err := l.Write("a-e", nil, nil)
	require.NoError(t, err)
	together, err := l.Write("ae", nil, nil)
	require.NoError(t, err)
	assert.False(t, split.Group, "no line under a split spelling: another letter stands between")
	assert.Greater(t, split.Right-split.Left, together.Right-together.Left+0.8)
	assert.Nil(t, l.Drawn("a-e", nil))
	_, err = l.Group("ré", nil)
	require.ErrorContains(t, err, `no strokes for "é"`)
	own := map[string]strokes.Letter{"é": of(t, "e")}
	_, err = l.Group("ré", own)
	require.NoError(t, err)
}

func TestGeometryFindsWhatIsWrong(t *testing.T) {
	l := strokes.CommonLines()
	shift := func(sign string, dy float64) strokes.Letter {
		return of(t, sign).Map(func(p strokes.Point) strokes.Point { p.Y += dy; return p })
	}
	text := func(x strokes.Letter) string {
		var b strings.Builder
		for _, f := range l.Geometry(x) {
			b.WriteString(f.Text + " ")
		}
		return b.String()
	}
	assert.Contains(t, text(shift("n", 0.08)), "Passes the middle line.")
	assert.Contains(t, text(shift("n", 0.08)), "Does not sit on the base line.")
	assert.Contains(t, text(shift("h", -0.08)), "Starts beside the top line, not on it.")
	assert.Contains(t, text(shift("p", 0.4)), "Does not hang down to the drop line.")
	flat := of(t, "h").Map(func(p strokes.Point) strokes.Point { p.Y *= 0.6; return p })
	assert.Contains(t, text(flat), "Does not reach the top line.")
	assert.Contains(t, text(strokes.Letter{Sign: "a"}), "no strokes yet")
	wild := of(t, "a").Map(func(p strokes.Point) strokes.Point { p.X = math.NaN(); return p })
	assert.Contains(t, text(wild), "far outside")
}

func TestPathsAndLengths(t *testing.T) {
	l := of(t, "l").Strokes[0]
	assert.InDelta(t, 2, l.Length(), 1e-9)
	assert.InDelta(t, -90, l.Heading(), 1e-9)
	assert.Equal(t, "M0.000 -2.000C0.000 -1.333 0.000 -0.667 0.000 0.000", l.Path())
	circle := of(t, "o").Strokes[0]
	assert.InDelta(t, math.Pi, circle.Length(), 0.01, "a circle of diameter 1")
}

func TestLinesAreChecked(t *testing.T) {
	l := strokes.CommonLines()
	field, _ := l.Check()
	assert.Empty(t, field)
	assert.Equal(t, l, strokes.Lines{}.OrCommon())
	twice := l
	twice.Top.Name = "Base Line"
	_, text := twice.Check()
	assert.Contains(t, text, "Two lines are called")
	hidden := l
	hidden.Base.Shown = false
	_, text = hidden.Check()
	assert.Contains(t, text, "always shown")
	high := l
	high.HeightMM = 200
	_, text = high.Check()
	assert.Contains(t, text, "3 to 40 mm")
}

// A team's own form of a letter may be any JSON: looking at it and drawing it never crashes.
func FuzzLetterDocuments(f *testing.F) {
	f.Add([]byte(`{"sign":"b","strokes":[{"points":[{"x":0,"y":1},{"x":0,"y":0}]}],"width":1}`))
	f.Add([]byte(`{"strokes":[{},{"points":[]}]}`))
	f.Fuzz(func(_ *testing.T, data []byte) {
		x, err := strokes.LetterDocuments.Read(data)
		if err != nil || len(data) > 4000 {
			return
		}
		lines := strokes.Lines{}.OrCommon()
		lines.Geometry(x)
		lines.Brief(x)
		x.Bounds()
		lines.Drawn("b", map[string]strokes.Letter{"b": x})
	})
}
