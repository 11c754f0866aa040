package main

import (
	"encoding/json"
	"fmt"
	"os"
	"os/exec"
	"path/filepath"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

func textOf(t *testing.T, file string) string {
	t.Helper()
	out, err := exec.Command("pdftotext", file, "-").Output()
	require.NoError(t, err)
	return string(out)
}

// tall is how high the first ink under the heading of a practice sheet is, in millimetres.
func tall(t *testing.T, file string) float64 {
	t.Helper()
	out, err := exec.Command("pdftoppm", "-gray", "-r", "100", "-f", "1", "-l", "1", file).Output()
	require.NoError(t, err)
	var w, h, top int
	_, err = fmt.Sscanf(string(out[:20]), "P5\n%d %d\n%d", &w, &h, &top)
	require.NoError(t, err)
	pixels := out[len(out)-w*h:]
	first, last := 0, 0
	const perMM = 100 / 25.4
	px := func(mm float64) int { return int(mm * perMM) }
	for y := px(34); y < px(60); y++ { // the first row; the model stands at the left
		for x := px(18); x < px(27.5); x++ {
			if pixels[y*w+x] < 70 && pixels[y*w+px(193)] > 120 { // ink of the letter, not of a line across the page
				if first == 0 {
					first = y
				}
				last = y
			}
		}
	}
	return float64(last-first) / perMM
}

func TestPrintAPracticeSheet(t *testing.T) {
	file := filepath.Join(t.TempDir(), "d.pdf")
	status, _, errs := call(t, "", "print", "--sheet", "practice", "--text", "d dog sad", "--size", "8", "-o", file)
	require.Zero(t, status, errs)
	assert.Contains(t, textOf(t, file), "Write d, dog, sad")
	assert.Greater(t, tall(t, file), 14.0, "a d of 8 mm stands 16 mm high: it has its ascender")
	a := filepath.Join(t.TempDir(), "a.pdf")
	status, _, errs = call(t, "", "print", "--sheet", "practice", "--text", "a", "-o", a)
	require.Zero(t, status, errs)
}

func TestPrintALesson(t *testing.T) {
	dir := t.TempDir()
	status, out, errs := call(t, "", "lesson", "--target", "ch", "--knows", "s,a,t,i,p,n,m,d,o,c,h,e,u,r", "--json")
	require.Zero(t, status, errs)
	file, pdf := filepath.Join(dir, "l.json"), filepath.Join(dir, "l.pdf")
	require.NoError(t, os.WriteFile(file, []byte(out), 0o600))
	status, _, errs = call(t, "", "print", "--lesson", file, "--sheet", "all", "-o", pdf)
	require.Zero(t, status, errs)
	assert.Contains(t, textOf(t, pdf), "/tʃ/", "phonetic signs are printed")

	var lesson map[string]any
	require.NoError(t, json.Unmarshal([]byte(out), &lesson))
	for _, s := range lesson["steps"].([]any) {
		step := s.(map[string]any)
		if step["kind"] == "read" {
			step["items"].([]any)[0].(map[string]any)["value"] = "chops"
		}
	}
	changed, err := json.Marshal(lesson)
	require.NoError(t, err)
	require.NoError(t, os.WriteFile(file, changed, 0o600))
	status, _, errs = call(t, "", "print", "--lesson", file, "--sheet", "words", "-o", pdf)
	require.Zero(t, status, errs)
	assert.Contains(t, textOf(t, pdf), "chops", "a step that was changed by hand counts")

	status, _, errs = call(t, string(changed), "print", "--lesson", "-", "--sheet", "hunt", "-o", pdf)
	assert.Contains(t, []int{0, 1}, status)
	if status == 1 {
		assert.Contains(t, errs, "nothing to print")
	}
}

func TestPrintSaysWhatIsWrong(t *testing.T) {
	dir := t.TempDir()
	pdf := filepath.Join(dir, "x.pdf")
	bad := filepath.Join(dir, "bad.json")
	require.NoError(t, os.WriteFile(bad, []byte(`{"steps":[]}`), 0o600))
	for _, c := range []struct {
		args   []string
		status int
		says   string
	}{
		{[]string{"print"}, 2, "name the file to write"},
		{[]string{"print", "-o", pdf}, 2, "say what to print"},
		{[]string{"print", "--text", "d", "--sheet", "home", "-o", pdf}, 2, "--text goes with"},
		{[]string{"print", "--text", "d", "--size", "99", "-o", pdf}, 1, "3 to 30 mm"},
		{[]string{"print", "--text", "d ☃", "-o", pdf}, 1, "☃"},
		{[]string{"print", "--text", strings.Repeat("d ", 30), "-o", pdf}, 1, "1 to 24"},
		{[]string{"print", "--lesson", bad, "-o", pdf}, 2, "say which sheet"},
		{[]string{"print", "--lesson", bad, "--sheet", "plan", "-o", pdf}, 1, "no document"},
		{[]string{"print", "--lesson", filepath.Join(dir, "none.json"), "--sheet", "plan", "-o", pdf}, 1, "none.json"},
		{[]string{"print", "--paper", "A3", "--text", "d", "-o", pdf}, 2, "unknown paper"},
	} {
		status, _, errs := call(t, "", c.args...)
		assert.Equal(t, c.status, status, "%v: %s", c.args, errs)
		assert.Contains(t, errs, c.says)
		assert.Equal(t, 1, strings.Count(errs, "\n"), "one line: %s", errs)
	}
	status, out, _ := call(t, "", "print", "--list", "--json")
	require.Zero(t, status)
	const promised = "plan practice sorting frames sort-words pieces words ring page marks labels box home eight"
	for _, name := range strings.Fields(promised) {
		assert.Contains(t, out, `"name":"`+name+`"`)
	}
}
