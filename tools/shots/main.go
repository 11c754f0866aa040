// Command shots takes the pictures of docs/screenshots from a running demo:
//
//	./chalk start          # in one terminal
//	go run ./tools/shots   # in another
package main

import (
	"flag"
	"fmt"
	"log"
	"os"
	"path/filepath"
	"strings"
	"time"

	"brightchalk/test/browser"
)

func main() {
	log.SetFlags(0)
	base := flag.String("base", "http://127.0.0.1:8484", "address of the demo")
	out := flag.String("out", "docs/screenshots", "folder for the pictures")
	only := flag.String(
		"only",
		"today,library,card,review,audit,lessons,lesson-step,class,plan,order,meeting,teach-desk,"+
			"teach-read,log,words-find,texts,letters,booth,team",
		"names of pictures to keep, parted by commas; empty keeps all",
	)
	flag.Parse()
	if err := run(*base, *out, *only); err != nil {
		log.Fatal(err)
	}
}

type step func(t *browser.Tab) error

func wait(ms int) step {
	return func(*browser.Tab) error { time.Sleep(time.Duration(ms) * time.Millisecond); return nil }
}

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
		visit(base+"/", "One agreed library"),
		shot("sign-in"),
		press("lead"),
		text("Waits for you"),
		shot("today"),
		visit(base+"/", "79 complete"),
		shot("library"),
		visit(base+"/", "79 complete"),
		card("[data-grapheme='h']"),
		text("Say it"),
		shot("card"),
		scroll("Record it"),
		shot("card-record"),
		press("Measurements"),
		text("centre of the hiss"),
		wait(1500),
		shot("card-closer"),
		scroll("Words"),
		shot("card-words"),
		visit(base+"/today", "Waits for you"),
		press("Shorter, so that"),
		text("put it forward"),
		shot("review"),
		visit(base+"/audit", "stand out"),
		shot("audit"),
		visit(base+"/lessons", "This is the next one"),
		shot("lessons"),
		press("Heron class"),
		text("What it knows"),
		shot("class"),
		visit(base+"/plan", "This week"),
		shot("plan"),
		visit(base+"/plan?tab=year", "nothing was logged"),
		shot("year"),
		visit(base+"/plan?tab=reading", "Week by week"),
		shot("forecast"),
		visit(base+"/order", "The order that stands"),
		wait(1500),
		shot("order"),
		visit(base+"/meeting", "Finish before their week"),
		shot("meeting"),
		visit(base+"/lessons", "This is the next one"),
		press("Make the lesson"),
		text("planned"),
		shot("lesson"),
		open("Read"),
		shot("lesson-step"),
		press("Teach"),
		text("works without network"),
		shot("teach-listen"),
		key("ArrowDown", 1),
		shot("teach-ear"),
		key("ArrowDown", 2),
		shot("teach-picture"),
		key("ArrowDown", 1),
		shot("teach-letter"),
		key("ArrowDown", 1),
		wait(6500),
		shot("teach-hand"),
		key("ArrowDown", 4),
		key("Enter", 1),
		shot("teach-read"),
		key("ArrowDown", 1),
		face("?face=desk"),
		text("How it goes"),
		card("[data-card]"),
		shot("teach-desk"),
		face(""),
		text("Spell"),
		key("s", 1),
		key("ArrowUp", 1),
		key("ArrowDown", 2),
		shot("teach-sentence"),
		key("ArrowDown", 1),
		key("Enter", 1),
		shot("teach-page"),
		key("ArrowDown", 1),
		key("Space", 6),
		text("How did it go"),
		shot("log"),
		visit(base+"/letters?text=h", "What is said"),
		wait(300),
		press("Write it"),
		wait(2500),
		shot("letters"),
		scroll("Over the picture"),
		shot("letters-over"),
		visit(
			base+"/letters?text=h",
			"What is said",
		),
		visit(base+"/letters?text=g", "What is said"),
		press("Slowly"),
		wait(4200),
		shot("letters-hand"),
		visit(base+"/letters?text=igh", "What is said"),
		press("Write it"),
		wait(2500),
		shot("letters-group"),
		visit(base+"/booth", "Still without a sound"),
		shot("booth"),
		tab("How the library sounds"),
		text("One after the other"),
		shot("booth-shelf"),
		visit(base+"/words", "the best first"),
		shot("words-find"),
		write("[placeholder='any word']", "night"),
		press("Look"),
		text("comes in step"),
		shot("words-look"),
		tab("Make up"),
		text("Others"),
		shot("words-made-up"),
		tab("Ear games"),
		text("Equal numbers"),
		shot("words-sort"),
		pick(
			"Game",
			"First or last",
		),
		pick("Sound", "d as in donkey"),
		press("Show the answers"),
		text("first"),
		shot("words-ear"),
		pick(
			"Game",
			"This or that word",
		),
		pick("One sound", "m as in market"),
		pick("The other sound", "n as in nap"),
		text("Only this sound differs"),
		shot("words-contrast"),
		tab("Word play"),
		text("One sound changes"),
		press("Pick all"),
		text("on to the card"),
		shot("words-play"),
		press("put all back"),
		pick("Word game", "A slip hunt"),
		text("mend it"),
		shot("words-slips"),
		pick("Word game", "Find and ring"),
		text("at the end"),
		shot("words-rings"),
		tab("What a step unlocks"),
		text("words that most children know"),
		shot("words-unlocks"),
		tab("Spellings"),
		text("at the start"),
		shot("words-spellings"),
		visit(
			base+"/texts",
			"readable",
		),
		write("#text-to-check", "The dog had a nap on a big ship. I read it at night."),
		text("can be read"),
		shot("texts"),
		scroll("Made sentences"),
		shot("texts-bank"),
		visit(base+"/team", "What we agreed"),
		shot("team"),
		scroll("Writing lines"),
		shot("team-lines"),
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
		_, err := browser.Eval[bool](
			t,
			`(() => { const b = [...document.querySelectorAll('[role=tab]')].find(b => b.innerText === '`+name+`');
				b.focus(); return true })()`,
		)
		return err
	}
}

// pick chooses in a select by its label, as a change by hand.
func pick(label, option string) step {
	return func(t *browser.Tab) error {
		ok, err := browser.Eval[bool](t, `(() => {
			const s = document.querySelector('select[aria-label="`+label+`"]'),
o = [...(s?.options ?? [])].find(o => o.text.trim() === '`+option+`')
			if (!o) return false
			Object.getOwnPropertyDescriptor(HTMLSelectElement.prototype, 'value').set.call(s, o.value)
			s.dispatchEvent(new Event('change', {bubbles: true}))
			return true
		})()`)
		if err == nil && !ok {
			err = fmt.Errorf("no option %q in %q", option, label)
		}
		return err
	}
}

// face opens another face of the lesson that is held.
func face(search string) step {
	return func(t *browser.Tab) error {
		_, err := browser.Eval[bool](t, `(setTimeout(() => { location.href = location.pathname + '`+search+`' }, 50), true)`)
		time.Sleep(2 * time.Second)
		return err
	}
}

func card(selector string) step {
	return func(t *browser.Tab) error { return t.Click(selector) }
}

func open(name string) step {
	return func(t *browser.Tab) error {
		_, err := browser.Eval[bool](
			t,
			`(() => {
				const b = [...document.querySelectorAll('ol button')].find(b => b.querySelector('b')?.innerText === '`+name+`')
				b.click()
				b.scrollIntoView({block: 'start'})
				return true
			})()`,
		)
		return err
	}
}

func scroll(heading string) step {
	return func(t *browser.Tab) error {
		_, err := browser.Eval[bool](
			t,
			`(() => {
				const all = [...document.querySelectorAll('h2, legend')]
				all.find(h => h.innerText.startsWith('`+heading+`')).scrollIntoView()
				return true
			})()`,
		)
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
			if _, err := browser.Eval[bool](
				t,
				`(window.dispatchEvent(new KeyboardEvent('keydown', {key: '`+k+`', bubbles: true})), true)`,
			); err != nil {
				return err
			}
			time.Sleep(60 * time.Millisecond)
		}
		return nil
	}
}
