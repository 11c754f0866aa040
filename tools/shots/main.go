// Command shots takes the pictures of docs/screenshots from a running demo:
//
//	./chalk start          # in one terminal
//	go run ./tools/shots   # in another
package main

import (
	"flag"
	"log"
	"os"
	"path/filepath"
	"strings"
	"time"

	"brightchalk/internal/browser"
)

func main() {
	log.SetFlags(0)
	base := flag.String("base", "http://127.0.0.1:8484", "address of the demo")
	out := flag.String("out", "docs/screenshots", "folder for the pictures")
	only := flag.String("only", "", "names of pictures to keep, parted by commas")
	flag.Parse()
	if err := run(*base, *out, *only); err != nil {
		log.Fatal(err)
	}
}

type step func(t *browser.Tab) error

func run(base, out, only string) error {
	if err := os.MkdirAll(out, 0o755); err != nil {
		return err
	}
	b, err := browser.Start(browser.Options{})
	if err != nil {
		return err
	}
	defer b.Close()
	t, err := b.Open()
	if err != nil {
		return err
	}
	shot := func(name string) step {
		return func(t *browser.Tab) error {
			time.Sleep(700 * time.Millisecond)
			if only != "" && !strings.Contains(","+only+",", ","+name+",") {
				return nil
			}
			return t.Shot(filepath.Join(out, name+".png"))
		}
	}
	steps := []step{
		func(t *browser.Tab) error { return t.Size(1280, 800) },
		visit(base+"/", "One agreed library"), shot("sign-in"),
		press("lead"), text("52 complete"), shot("library"),
		visit(base+"/", "52 complete"), card("[data-grapheme='h']"), text("Say it"), shot("card"),
		scroll("Record it"), shot("card-record"),
		scroll("Words"), shot("card-words"),
		visit(base+"/introductions", "This is the next one"), shot("introduce"),
		press("Make the introduction"), text("planned"), shot("introduction"),
		open("Read"), shot("introduction-step"),
		press("Teach"), text("works without network"), shot("teach-warm-up"),
		key("ArrowDown", 3), shot("teach-ear"),
		key("ArrowDown", 1), shot("teach-picture"),
		key("ArrowDown", 1), shot("teach-letter"),
		key("ArrowDown", 5), key("Enter", 1), shot("teach-read"),
		key("ArrowDown", 4), key("Space", 6), text("How did it go"), shot("log"),
		visit(base+"/words", "the best first"), shot("words-find"),
		tab("Make words up"), text("Others"), shot("words-made-up"),
		tab("Sort by ear"), text("Equal numbers"), shot("words-sort"),
		tab("Check a text"), write("#text-to-check", "The dog had a nap on a big ship. I read it at night."), text("can be read"), shot("words-check"),
		visit(base+"/team", "What we agreed"), shot("team"),
	}
	for _, s := range steps {
		if err := s(t); err != nil {
			return err
		}
	}
	return nil
}

func visit(url, see string) step {
	return func(t *browser.Tab) error {
		if err := t.Go(url); err != nil {
			return err
		}
		return t.SeeText(see)
	}
}
func press(text string) step { return func(t *browser.Tab) error { return t.ClickText(text) } }
func text(s string) step     { return func(t *browser.Tab) error { return t.SeeText(s) } }
func write(selector, text string) step {
	return func(t *browser.Tab) error { return t.Type(selector, text) }
}

// tab chooses a tab as the pointer does: on pressing, not on release.
func tab(name string) step {
	return func(t *browser.Tab) error {
		_, err := browser.Eval[bool](t, `(() => { const b = [...document.querySelectorAll('[role=tab]')].find(b => b.innerText === '`+name+`'); b.focus(); return true })()`)
		return err
	}
}

func card(selector string) step {
	return func(t *browser.Tab) error { return t.Click(selector) }
}

func open(name string) step {
	return func(t *browser.Tab) error {
		_, err := browser.Eval[bool](t, `(() => { const b = [...document.querySelectorAll('ol button')].find(b => b.querySelector('b')?.innerText === '`+name+`'); b.click(); b.scrollIntoView({block: 'start'}); return true })()`)
		return err
	}
}

func scroll(heading string) step {
	return func(t *browser.Tab) error {
		_, err := browser.Eval[bool](t, `(() => { [...document.querySelectorAll('h2')].find(h => h.innerText === '`+heading+`').scrollIntoView(); return true })()`)
		return err
	}
}

func key(name string, times int) step {
	return func(t *browser.Tab) error {
		for range times {
			k := name
			if name == "Space" {
				k = " "
			}
			if _, err := browser.Eval[bool](t, `(window.dispatchEvent(new KeyboardEvent('keydown', {key: '`+k+`', bubbles: true})), true)`); err != nil {
				return err
			}
			time.Sleep(60 * time.Millisecond)
		}
		return nil
	}
}
