package pack_test

import (
	"bytes"
	"crypto/sha256"
	"encoding/base64"
	"html"
	"regexp"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"brightchalk/internal/core/lesson"
	"brightchalk/internal/core/mouth"
	"brightchalk/internal/core/phoneme"
	"brightchalk/internal/core/spelling"
	"brightchalk/internal/core/strokes"
	"brightchalk/internal/pack"
)

func TestAPackDrawsTheMouthWithItsCaution(t *testing.T) {
	page := written(t, sample(t))
	assert.Contains(t, page, "lips pushed out, teeth nearly shut; broad warm stream on hand</title>")
	assert.Contains(t, page, "For teaching, not for therapy")
	assert.Equal(t, 1, strings.Count(page, `class="mouth"`), "the card without a drawing has none")
}

func written(t *testing.T, p pack.Pack) string {
	t.Helper()
	var out bytes.Buffer
	require.NoError(t, pack.Write(&out, p))
	return out.String()
}

func sample(t *testing.T) pack.Pack {
	t.Helper()
	sh, err := strokes.CommonLines().Write("sh", nil, nil)
	require.NoError(t, err)
	drawn, err := mouth.Draw(phoneme.SouthernBritish, "ʃ")
	require.NoError(t, err)
	return pack.Pack{
		Team:  "Lock <b>House</b>",
		Class: "Heron class",
		Made:  time.Date(2026, 11, 25, 0, 0, 0, 0, time.UTC),
		Child: []byte("wOF2"), Adult: []byte("wOF2"), Bold: []byte("wOF2"),
		Cards: []pack.Card{
			{
				ID:         "1",
				Grapheme:   "sh",
				Sound:      "ʃ",
				Keyword:    "shed",
				Rhyme:      `"Hush" </script><script>alert(1)</script>`,
				Picture:    pack.Data("image/png", []byte("x")),
				PictureAlt: `a "shed"`,
				Take:       pack.Data("audio/flac", []byte("y")),
				Writing:    &sh,
				Mouth:      &drawn,
				Words:      []string{"ship", "fish"},
				Sentences:  []string{"A fish & a ship."},
			},
			{ID: "2", Grapheme: "th", Sound: "θ"},
		},
		Lessons: []pack.Lesson{
			{
				Lesson: lesson.Lesson{
					Targets: []string{"1"},
					Cards:   map[string]lesson.CardFace{"1": {Pair: spelling.Pair{Grapheme: "sh", Sound: "ʃ"}}},
					Minutes: 20,
					Steps: []lesson.Step{
						{
							Kind:     lesson.Hand,
							Name:     "Hand",
							Seconds:  95,
							Adult:    []string{"Write it in the air."},
							Cautions: []string{"Check allergies."},
						},
					},
				},
				Class: "Heron class",
				Made:  time.Now(),
			},
		},
	}
}

// The page's policy names the one script by its sum; anything else is refused by the browser.
func TestTheScriptIsTheOneThatThePolicyNames(t *testing.T) {
	page := written(t, sample(t))
	script := regexp.MustCompile(`(?s)<script>(.*)</script>\s*</body>`).FindStringSubmatch(page)
	require.Len(t, script, 2)
	sum := sha256.Sum256([]byte(script[1]))
	policy := html.UnescapeString(
		regexp.MustCompile(`Content-Security-Policy" content="([^"]*)"`).FindStringSubmatch(page)[1],
	)
	assert.Contains(t, policy, "'sha256-"+base64.StdEncoding.EncodeToString(sum[:])+"'")
	assert.Contains(t, policy, "default-src 'none'")
}

func TestWhatPeopleWroteIsTextNotMarkup(t *testing.T) {
	page := written(t, sample(t))
	assert.Equal(t, 1, strings.Count(page, "<script>"), "a rhyme cannot bring a script")
	assert.Contains(t, page, "Lock &lt;b&gt;House")
	assert.Contains(t, page, "A fish &amp; a ship.")
	assert.NotContains(t, page, "ZgotmplZ", "no address was refused by the template")
	assert.NotContains(t, page, "<nil>")
}

func TestCardsStandWithoutScript(t *testing.T) {
	page := written(t, sample(t))
	body := page[:strings.LastIndex(page, "<script>")]
	for _, want := range []string{
		`<audio controls`, "data:audio/flac;base64,", "data:image/png;base64,",
		"No recorded sound in this pack", "1:35", "Write it in the air.", "Care: Check allergies.", "ship   fish",
		"25 November 2026",
	} {
		assert.Contains(t, body, want)
	}
	assert.Equal(t, 2, strings.Count(body, `<path class="ink"`), "s and h")
	assert.NotContains(t, strings.ReplaceAll(page, "http://www.w3.org/", ""), "://")
}
