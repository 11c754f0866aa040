// Package browser drives Debian's Chromium for the end-to-end tests and the screenshots.
package browser

import (
	"context"
	"encoding/json"
	"fmt"
	"os"
	"os/exec"
	"sync"
	"time"

	"github.com/chromedp/cdproto/emulation"
	"github.com/chromedp/cdproto/page"
	"github.com/chromedp/chromedp"
)

// Timeout is how long a tab waits for something to appear.
const Timeout = 60 * time.Second

// Options of a browser.
type Options struct {
	Width, Height int
	Microphone    string // absolute path of a WAV that feeds the fake microphone
	ShortLived    bool   // pages stay for seconds, too short for optimised code to be worth its making
}

// Browser is one running Chromium.
type Browser struct {
	alloc context.Context
	stop  context.CancelFunc
	dir   string

	first sync.Once
	root  context.Context // of the tab that the browser starts with, where tabs are opened apart
	fails error           // of that
}

// Find returns the path of Debian's Chromium, empty if it is not installed. The headless shell comes first: it needs a
// fifth less of a processor than the browser with its hidden window.
func Find() string {
	for _, name := range []string{"chromium-headless-shell", "chromium", "chromium-browser", "google-chrome"} {
		if p, err := exec.LookPath(name); err == nil {
			return p
		}
	}
	return ""
}

// Start runs a headless Chromium with an empty profile.
func Start(o Options) (*Browser, error) {
	if o.Width == 0 {
		o.Width, o.Height = 1280, 800
	}
	dir, err := os.MkdirTemp("", "chalk-browser-")
	if err != nil {
		return nil, err
	}
	flags := []chromedp.ExecAllocatorOption{
		chromedp.ExecPath(Find()),
		chromedp.Headless,
		chromedp.NoSandbox,
		chromedp.NoFirstRun,
		chromedp.DisableGPU,
		chromedp.UserDataDir(dir),
		chromedp.WindowSize(o.Width, o.Height),
	}
	for _, f := range []string{
		"disable-dev-shm-usage", "disable-background-networking", "disable-component-update",
		"disable-sync", "disable-quic", "hide-scrollbars", "use-fake-ui-for-media-stream",
		"use-fake-device-for-media-stream",
	} {
		flags = append(flags, chromedp.Flag(f, true))
	}
	if o.ShortLived {
		flags = append(flags, chromedp.Flag("js-flags", "--max-lazy,--no-opt"))
	}
	flags = append(flags, chromedp.Flag("autoplay-policy", "no-user-gesture-required"))
	if o.Microphone != "" {
		flags = append(flags, chromedp.Flag("use-file-for-fake-audio-capture", o.Microphone+"%noloop"))
	}
	alloc, stop := chromedp.NewExecAllocator(context.Background(), flags...)
	return &Browser{alloc: alloc, stop: stop, dir: dir}, nil
}

// Close ends the browser and removes its profile.
func (b *Browser) Close() {
	b.stop()
	_ = os.RemoveAll(b.dir)
}

// Tab is one page. The first tab of a browser starts it; tabs opened beside it share its cookies.
type Tab struct {
	ctx  context.Context
	stop context.CancelFunc
}

// Open opens a tab.
func (b *Browser) Open() (*Tab, error) {
	ctx, stop := chromedp.NewContext(b.alloc)
	t := &Tab{ctx, stop}
	return t, chromedp.Do(ctx, chromedp.Navigate("about:blank"))
}

// Apart opens a tab in a running browser as if it were another one: it shares nothing with the other tabs. Starting a
// browser costs more than most of what a test does in it.
func (b *Browser) Apart() (*Tab, error) {
	b.first.Do(func() {
		b.root, _ = chromedp.NewContext(b.alloc) //nolint:govet // Close ends it
		b.fails = chromedp.Do(b.root, chromedp.Navigate("about:blank"))
	})
	if b.fails != nil {
		return nil, b.fails
	}
	ctx, stop := chromedp.NewContext(b.root, chromedp.WithNewBrowserContext())
	t := &Tab{ctx, stop}
	return t, chromedp.Do(ctx, chromedp.Navigate("about:blank"))
}

// Beside opens one more tab of the same browser.
func (t *Tab) Beside() (*Tab, error) {
	ctx, stop := chromedp.NewContext(t.ctx)
	other := &Tab{ctx, stop}
	return other, chromedp.Do(ctx, chromedp.Navigate("about:blank"))
}

// Close closes the tab.
func (t *Tab) Close() { t.stop() }

func (t *Tab) do(steps ...chromedp.Action[chromedp.Void]) error {
	ctx, cancel := context.WithTimeout(t.ctx, Timeout)
	defer cancel()
	return chromedp.Do(ctx, steps...)
}

// Go loads an address.
func (t *Tab) Go(url string) error { return t.do(chromedp.Navigate(url)) }

// See waits until an element is visible.
func (t *Tab) See(selector string) error {
	if err := t.do(chromedp.WaitVisible(selector)); err != nil {
		return fmt.Errorf("waiting for %s: %w; the page says: %s", selector, err, t.textOfPage())
	}
	return nil
}

func (t *Tab) textOfPage() string {
	text, _ := Eval[string](t, `document.body.innerText.slice(0, 1500)`)
	return text
}

// seen is a promise of whether the page shows a text within a second. It looks when the page has changed: to ask for
// the text of a large page again and again takes more of a processor than what is waited for.
const seen = `new Promise((done) => {
	const text = %s
	let waiting = false
	const look = () => {
		waiting = false
		if (document.body?.innerText.includes(text)) end(true)
	}
	const end = (found) => { changes.disconnect(); clearTimeout(late); done(found) }
	const changes = new MutationObserver(() => {
		if (!waiting) setTimeout(look, 20)
		waiting = true
	})
	const late = setTimeout(() => end(Boolean(document.body?.innerText.includes(text))), 1000)
	changes.observe(document, { subtree: true, childList: true, characterData: true, attributes: true })
	look()
})`

// SeeText waits until the page shows a text.
func (t *Tab) SeeText(text string) error {
	quoted, _ := json.Marshal(text)
	end := time.Now().Add(Timeout)
	for time.Now().Before(end) {
		found, err := Eval[bool](t, fmt.Sprintf(seen, quoted))
		if err == nil && found {
			return nil
		}
		if err != nil { // the page goes away
			time.Sleep(40 * time.Millisecond)
		}
	}
	return fmt.Errorf("the page does not say %q; it says: %s", text, t.textOfPage())
}

// Click clicks an element.
func (t *Tab) Click(selector string) error {
	if err := t.do(chromedp.Click(selector)); err != nil {
		return fmt.Errorf("clicking %s: %w", selector, err)
	}
	return nil
}

// ClickText clicks the first button, link, summary or line of a menu with the text.
func (t *Tab) ClickText(text string) error {
	quoted, _ := json.Marshal(text)
	end := time.Now().Add(Timeout)
	for time.Now().Before(end) {
		clicked, err := Eval[bool](
			t,
			`(() => {
				const e = [...document.querySelectorAll('button, a, summary, [role=menuitem]')]
					.find(e => e.innerText.trim().includes(`+string(quoted)+`) && !e.disabled)
				if (e) e.click()
				return !!e
			})()`,
		)
		if err == nil && clicked {
			return nil
		}
		time.Sleep(40 * time.Millisecond)
	}
	return fmt.Errorf("no button says %q; the page says: %s", text, t.textOfPage())
}

// Type puts text into a field as a person would.
func (t *Tab) Type(selector, text string) error {
	return t.do(chromedp.SendKeys(selector, text))
}

// Upload chooses a file in a file field.
func (t *Tab) Upload(selector, path string) error {
	return t.do(chromedp.SetUploadFiles(selector, []string{path}))
}

// Key presses a key.
func (t *Tab) Key(key string) error { return t.do(chromedp.KeyEvent(key)) }

// Size sets the size of the window's inside.
func (t *Tab) Size(width, height int64) error { return t.do(chromedp.EmulateViewport(width, height)) }

// Before runs a script in each page that the tab loads from now on, before its own.
func (t *Tab) Before(js string) error {
	_, err := chromedp.Call(t.ctx, page.AddScriptToEvaluateOnNewDocument,
		page.AddScriptToEvaluateOnNewDocumentParams{Source: js})
	return err
}

// Print is the page as the browser prints it, as PDF.
func (t *Tab) Print() ([]byte, error) {
	r, err := chromedp.Call(t.ctx, page.PrintToPDF, page.PrintToPDFParams{})
	return r.Data, err
}

// SlowCPU makes the tab's processor so many times slower; 1 is as it is.
func (t *Tab) SlowCPU(times float64) error {
	_, err := chromedp.Call(t.ctx, emulation.SetCPUThrottlingRate, emulation.SetCPUThrottlingRateParams{Rate: times})
	return err
}

// Eval runs JavaScript, waits for a promise, and returns its value.
func Eval[T any](t *Tab, js string) (T, error) {
	ctx, cancel := context.WithTimeout(t.ctx, Timeout)
	defer cancel()
	return chromedp.Run(ctx, chromedp.Evaluate[T](js, chromedp.EvalAwaitPromise))
}

// Shot writes a PNG of what is seen.
func (t *Tab) Shot(path string) error {
	ctx, cancel := context.WithTimeout(t.ctx, Timeout)
	defer cancel()
	data, err := chromedp.Run(ctx, chromedp.CaptureScreenshot())
	if err != nil {
		return err
	}
	return os.WriteFile(path, data, 0o644)
}
