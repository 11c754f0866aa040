package e2e

import (
	"context"
	"encoding/json"
	"fmt"
	"os"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"brightchalk/test/browser"
)

// visitor walks the main path in a browser that is not Chromium.
type visitor struct {
	t    *testing.T
	page browser.Page
}

func (v visitor) eval(js string) string {
	v.t.Helper()
	out, err := v.page.Eval(js)
	require.NoError(v.t, err)
	return out
}

func (v visitor) sees(text string) {
	v.t.Helper()
	quoted, _ := json.Marshal(text)
	for end := time.Now().Add(browser.Timeout / 2); time.Now().Before(end); time.Sleep(80 * time.Millisecond) {
		if out, err := v.page.Eval(`document.body.innerText.includes(` + string(quoted) + `)`); err == nil &&
			out == "true" {
			return
		}
	}
	require.Failf(v.t, "not seen", "%q; the page says: %s", text, v.eval("document.body.innerText.slice(0, 800)"))
}

func (v visitor) clicks(text string) {
	v.t.Helper()
	quoted, _ := json.Marshal(text)
	for end := time.Now().Add(browser.Timeout / 2); time.Now().Before(end); time.Sleep(80 * time.Millisecond) {
		out, err := v.page.Eval(`(() => {
			const e = [...document.querySelectorAll('button, a, summary')]
				.find(e => e.innerText.trim().includes(` + string(quoted) + `) && !e.disabled)
			if (e) e.click()
			return !!e
		})()`)
		if err == nil && out == "true" {
			return
		}
	}
	require.Failf(v.t, "no button", "%q; the page says: %s", text, v.eval("document.body.innerText.slice(0, 800)"))
}

// The main path in Firefox and WebKit: sign in, the wall, a card that is written on, a lesson, Teach by keys to the
// log, what can be printed. ./chalk browsers runs it.
func TestInOtherBrowsers(t *testing.T) {
	if os.Getenv("BRIGHT_CHALK_BROWSERS") == "" {
		t.Skip("./chalk browsers runs it")
	}
	for name, start := range map[string]func(context.Context) (browser.Page, error){
		"Firefox": browser.Firefox, "WebKit": browser.WebKit,
	} {
		t.Run(name, func(t *testing.T) {
			s := serve(t)
			page, err := start(context.Background())
			require.NoError(t, err)
			defer page.Close()
			v := visitor{t, page}
			t.Log(v.eval("navigator.userAgent"))
			require.NoError(t, page.Go(s.server.URL+"/"))
			v.sees("One agreed library")
			v.clicks("lead")
			v.sees("Waits for you")
			v.sees("live")
			v.clicks("Library")
			v.sees("79 complete")
			assert.Eventually(t, func() bool { // the count is there before the cards
				return v.eval(`(() => {
					const k = document.querySelector("[data-grapheme='k']")
					k?.click()
					return !!k
				})()`) == "true"
			}, 20*time.Second, 100*time.Millisecond)
			v.sees("✓ Saved")
			v.eval(`(() => {
				const label = [...document.querySelectorAll('label')].find(l => l.innerText.trim() === 'Rhyme')
				label.nextElementSibling.focus()
				label.nextElementSibling.select()
				return true
			})()`)
			require.NoError(t, page.Keys("Keep the kayak off the bank."))
			v.sees("✓ Saved")
			assert.Eventually(t, func() bool {
				return strings.Contains(
					v.eval(`fetch('/api' + location.pathname).then(r => r.text())`),
					"Keep the kayak off the bank.",
				)
			}, 10*time.Second, 100*time.Millisecond)
			v.clicks("Lessons")
			v.sees("Make a lesson")
			v.clicks("Make the lesson")
			v.sees("Write it in our words")
			lesson := v.eval("location.pathname")
			v.clicks("Teach")
			for end := time.Now().Add(20 * time.Second); v.eval("!!document.querySelector('[data-screen]')") != "true"; {
				require.True(t, time.Now().Before(end), "the stage comes")
				time.Sleep(100 * time.Millisecond)
			}
			for range 200 { // to the end, by the same key as anybody
				if v.eval(`document.body.innerText.includes('How did it go?')`) == "true" {
					break
				}
				require.NoError(t, page.Keys("\uE014")) // the arrow to the right
			}
			v.sees("How did it go?")
			v.clicks("Log it for the class")
			v.sees("Logged.")
			require.NoError(t, page.Go(s.server.URL+lesson))
			v.clicks("Print")
			v.sees("To take home")
			status := v.eval(
				fmt.Sprintf(
					`fetch('/api%s/print/all.pdf').then(r => r.status + ' ' + r.headers.get('content-type'))`,
					lesson,
				),
			)
			assert.Equal(t, "200 application/pdf", status)
			for _, path := range []string{"/words", "/letters", "/booth", "/team", "/texts"} {
				require.NoError(t, page.Go(s.server.URL+path))
				require.Eventually(t, func() bool { return v.eval(`document.querySelector('h1') !== null`) == "true" },
					20*time.Second, 100*time.Millisecond, path)
			}
			if dir := os.Getenv("BRIGHT_CHALK_SHOTS"); dir != "" {
				require.NoError(t, page.Go(s.server.URL+"/"))
				v.sees("complete")
				picture, err := page.Shot()
				require.NoError(t, err)
				require.NoError(t, os.WriteFile(dir+"/"+name+".png", picture, 0o600))
			}
		})
	}
}
