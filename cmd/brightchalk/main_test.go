package main

import (
	"bytes"
	"encoding/json"
	"io"
	"net/http"
	"os"
	"path/filepath"
	"regexp"
	"strings"
	"sync"
	"syscall"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"brightchalk/test/testdb"
)

func TestMain(m *testing.M) { testdb.Main(m) }

func call(t *testing.T, in string, args ...string) (status int, out, errs string) {
	t.Helper()
	var o, e bytes.Buffer
	status = run(stdio{strings.NewReader(in), &o, &e}, args)
	return status, o.String(), e.String()
}

func TestSegmentPrintsTheContract(t *testing.T) {
	status, out, _ := call(t, "shower cute read", "segment", "--json")
	require.Zero(t, status)
	lines := strings.Split(strings.TrimSpace(out), "\n")
	require.Len(t, lines, 3)
	var first struct {
		Word, Accent, Source string
		Phonemes             []string
		Segments             []struct {
			Grapheme string
			Letters  []int
			Phonemes []string
		}
		Alternatives []any
	}
	require.NoError(t, json.Unmarshal([]byte(lines[0]), &first))
	assert.Equal(t, []string{"ʃ", "aʊ", "ə"}, first.Phonemes)
	assert.Equal(t, "sh", first.Segments[0].Grapheme)
	assert.Equal(t, []int{0, 1}, first.Segments[0].Letters)
	assert.Contains(t, lines[1], `"grapheme":"u-e","letters":[1,3]`)
	assert.Contains(t, lines[2], `"alternatives":[{`)
	_, out, _ = call(t, "", "segment", "bath", "--accent", "northern-english", "--json")
	assert.Contains(t, out, `"phonemes":["b","æ","θ"]`)
}

func TestExitStatuses(t *testing.T) {
	dir := t.TempDir()
	text := filepath.Join(dir, "text.txt")
	require.NoError(t, os.WriteFile(text, []byte("The cat sat."), 0o600))
	order := filepath.Join(dir, "order.csv")
	require.NoError(
		t,
		os.WriteFile(order, []byte("step,grapheme,sound,exception_words\n1,s,,\n2,a,,the\n3,t,,\n4,p,,\n"), 0o600),
	)
	log := filepath.Join(t.TempDir(), "log.csv")
	meetings := "date,pair,sureness\n2026-03-09,s,2\n2026-03-12,m=m,1\n2026-03-30,m,0\n"
	require.NoError(t, os.WriteFile(log, []byte(meetings), 0o600))
	off := filepath.Join(t.TempDir(), "off.ics")
	event := "BEGIN:VCALENDAR\r\nBEGIN:VEVENT\r\nSUMMARY:Fair\r\nDTSTART;VALUE=DATE:20260909\r\n" +
		"END:VEVENT\r\nEND:VCALENDAR\r\n"
	require.NoError(t, os.WriteFile(off, []byte(event), 0o600))
	rows := []struct {
		name   string
		args   []string
		status int
		says   string
	}{
		{"sounds", []string{"sounds", "--json"}, 0, `"phoneme":"ŋ"`},
		{"words", []string{"words", "--taught", "s,a,t,p", "--limit", "3", "--json"}, 0, `"word":"sat"`},
		{"words of an order", []string{"words", "--order", order, "--upto", "t", "--json"}, 0, `"frame":"CVC"`},
		{
			"check-text",
			[]string{"check-text", "--taught", "c,a,t,s", "--exceptions", "the", "--json", text},
			0,
			`"decodable":1`,
		},
		{"sort", []string{"sort", "--sounds", "m,s", "--json"}, 0, `"pictures"`},
		{"made-up words", []string{"nonsense", "--taught", "s,a,t,p,i,n,m", "--count", "2", "--json"}, 0, `"frame":"CVC"`},
		{"an impossible frame", []string{"nonsense", "--taught", "s,a", "--frame", "CVCV"}, 1, "no syllable"},
		{"an order checked", []string{"order", "check", order, "--json"}, 0, `"unlocked":[{"step":1`},
		{"an order that is none", []string{"order", "check", text}, 1, "is no order of teaching"},
		{
			"an order improved",
			[]string{"order", "improve", order, "--seconds", "0.2", "--keep", "s", "--json"},
			0,
			`"before":{"readable":[`,
		},
		{"an order improved for no time", []string{"order", "improve", order, "--seconds", "0"}, 2, "0.1 to 600 seconds"},
		{"a pair kept that is not there", []string{"order", "improve", order, "--keep", "m"}, 1, "m=m is not in"},
		{"a bundle that is none", []string{"introduce", "--bundle", text, "--sound", "m"}, 1, "not a ZIP file"},
		{"a bundle to check that is none", []string{"bundle", "check", text}, 1, "not a ZIP file"},
		{"no bundle to check", []string{"bundle", "check"}, 2, "say: brightchalk bundle check"},
		{"a mouth", []string{"mouth", "--sound", "tʃ", "--view", "front"}, 0, "lips pushed out, teeth nearly shut"},
		{"a mouth without a sound", []string{"mouth"}, 2, "name the sound"},
		{"a sound that is none", []string{"mouth", "--sound", "q7"}, 1, "q7"},
		{"a view that is none", []string{"mouth", "--sound", "m", "--view", "back"}, 2, "side or front"},
		{
			"a timetable",
			[]string{
				"timetable", "--order", order, "--start", "2026-09-07", "--days", off, "--lost", "2026-09-08", "--json",
			},
			0,
			`{"date":"2026-09-10","purpose":"introduce","pairs":["a=æ"],"moved_from":"2026-09-08"}`,
		},
		{"a timetable without a start", []string{"timetable", "--order", order}, 2, "--start"},
		{"a start that is no date", []string{"timetable", "--order", order, "--start", "soon"}, 2, "is no date"},
		{
			"days off that are none",
			[]string{"timetable", "--order", order, "--start", "2026-09-07", "--days", text},
			1,
			"no calendar",
		},
		{
			"a rule that is none",
			[]string{"timetable", "--order", order, "--start", "2026-09-07", "--rule", "pray"},
			1,
			"choose shift",
		},
		{
			"a memory",
			[]string{"memory", "--log", log, "--on", "2026-03-12", "--json"},
			0,
			`{"pair":"s=s","retrievability":0.9047,"stability_days":3.17,"due":"2026-03-12",` +
				`"because":"sure, last met 3 days ago"}`,
		},
		{"a memory in words", []string{"memory", "--log", log, "--on", "2026-03-12"}, 0, "m=m\t100 %\tfresh"},
		{"a memory without a log", []string{"memory"}, 2, "--log FILE.csv"},
		{"a log that is none", []string{"memory", "--log", text}, 1, "lacks a column"},
		{"a date that is none", []string{"memory", "--log", log, "--on", "yesterday"}, 2, "is no date"},
		{"steps", []string{"steps", "--json"}, 0, `{"kind":"warm-up","name":"Warm-up"`},
		{
			"a lesson from an order",
			[]string{"lesson", "--order", order, "--upto", "t", "--json"},
			0,
			`{"purpose":"introduce","targets":["p=p"],"minutes":20,`,
		},
		{
			"a lesson that compares",
			[]string{"lesson", "--purpose", "compare", "--target", "s,t", "--knows", "s,a,t,p,i,n", "--minutes", "15"},
			0,
			"Contrast",
		},
		{"a class that knows nothing", []string{"lesson", "--purpose", "revise"}, 1, "knows nothing yet"},
		{"no target", []string{"lesson", "--knows", "s,a"}, 1, "takes 1 to 4 sounds"},
		{"a lesson of an hour and more", []string{"lesson", "--target", "m", "--minutes", "61"}, 1, "4 to 60 minutes"},
		{"an unknown purpose", []string{"lesson", "--purpose", "party"}, 2, "unknown purpose"},
		{"known twice over", []string{"lesson", "--knows", "s", "--order", order}, 2, "once"},
		{"a library that is none", []string{"lesson", "--library", text, "--target", "m"}, 1, "not a ZIP file"},
		{"recording", []string{"recording", "--sound", "m", "--json", "../../demo/takes/m.wav"}, 0, `"verdict":"pure"`},
		{"help", []string{"help"}, 0, "segment"},
		{"no command", []string{"juggle"}, 2, "is no command"},
		{"words without a taught set", []string{"words"}, 2, "--taught"},
		{"unknown flag", []string{"words", "--colour", "red"}, 2, "colour"},
		{"an unknown pair", []string{"words", "--taught", "zh"}, 1, "not in the table"},
		{"a target that is not taught", []string{"words", "--taught", "s,a", "--target", "m"}, 1, "not among the taught"},
		{"a frame of other letters", []string{"words", "--taught", "s,a", "--frame", "XYZ"}, 1, "not made of C and V"},
		{"an unknown accent", []string{"segment", "--accent", "martian", "ship"}, 1, "unknown accent"},
		{"no word", []string{"segment", "123"}, 1, "holds the sign"},
		{"a sound that never starts a word", []string{"sort", "--sounds", "ng,s"}, 1, "none starts"},
		{"a missing file", []string{"recording", "--sound", "m", "nowhere.wav"}, 1, "cannot be opened"},
		{"a text file as a take", []string{"recording", "--sound", "m", text}, 1, "no WAV, FLAC"},
		{"an order without the pair", []string{"words", "--order", order, "--upto", "m"}, 1, "does not teach"},
		{"serve without a database", []string{"serve", "--addr", "127.0.0.1:0"}, 1, "DATABASE_URL is not set"},
	}
	t.Setenv("DATABASE_URL", "")
	for _, r := range rows {
		t.Run(r.name, func(t *testing.T) {
			status, out, errs := call(t, "", r.args...)
			assert.Equal(t, r.status, status, errs)
			assert.Contains(t, out+errs, r.says)
			if status != 0 {
				assert.NotContains(t, errs, "goroutine")
				assert.Equal(t, 1, strings.Count(strings.TrimSpace(errs), "\n")+1, "one line: %s", errs)
			}
		})
	}
}

// lockedBuffer may be written by the server and read by the test at once.
type lockedBuffer struct {
	mu sync.Mutex
	b  bytes.Buffer
}

func (l *lockedBuffer) Write(p []byte) (int, error) {
	l.mu.Lock()
	defer l.mu.Unlock()
	return l.b.Write(p)
}

func (l *lockedBuffer) String() string {
	l.mu.Lock()
	defer l.mu.Unlock()
	return l.b.String()
}

// A real installation: the first lead by command, then serve, then SIGTERM.
func TestServe(t *testing.T) {
	pool := testdb.New(t)
	t.Setenv("DATABASE_URL", pool.Config().ConnString())
	status, _, errs := call(
		t,
		"short\n",
		"team",
		"create",
		"--name",
		"Our school",
		"--email",
		"lead@school.example",
		"--lead",
		"First Lead",
	)
	require.Equal(t, 1, status)
	assert.Contains(t, errs, "12 signs")
	status, out, errs := call(
		t,
		"long enough for us\n",
		"team",
		"create",
		"--name",
		"Our school",
		"--email",
		"lead@school.example",
		"--lead",
		"First Lead",
	)
	require.Zero(t, status, errs)
	assert.Contains(t, out, "Our school")
	var log lockedBuffer
	done := make(chan int, 1)
	go func() {
		done <- run(stdio{strings.NewReader(""), io.Discard, &log}, []string{"serve", "--addr", "127.0.0.1:0"})
	}()
	var address string
	require.Eventually(t, func() bool {
		m := regexp.MustCompile(`"address":"([^"]+)"`).FindStringSubmatch(log.String())
		if m != nil {
			address = m[1]
		}
		return m != nil
	}, 60*time.Second, 20*time.Millisecond, "%s", log.String())
	answer, err := http.Get(address + "/readyz")
	require.NoError(t, err)
	_ = answer.Body.Close()
	assert.Equal(t, 200, answer.StatusCode)
	status, _, errs = call(t, "", "serve", "--addr", strings.TrimPrefix(address, "http://"))
	assert.Equal(t, 1, status)
	assert.Contains(t, errs, "in use")
	require.NoError(t, syscall.Kill(os.Getpid(), syscall.SIGTERM))
	select {
	case status := <-done:
		assert.Zero(t, status)
	case <-time.After(40 * time.Second):
		require.Fail(t, "the server did not stop")
	}
	assert.NotContains(t, log.String(), "long enough")
}
