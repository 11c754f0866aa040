package main

import (
	"fmt"
	"os"
	"strings"
	"time"

	"brightchalk/internal/browser"
)

func must(err error) {
	if err != nil {
		fmt.Println(err)
		os.Exit(1)
	}
}

func choose(t *browser.Tab, label, option string) {
	for range 50 {
		ok, _ := browser.Eval[bool](t, fmt.Sprintf(`(() => { const l = document.querySelector('select[aria-label=%q]'); const o=[...(l?.options??[])].find(o=>o.value===%q||o.text.includes(%q)); if(!o) return false; Object.getOwnPropertyDescriptor(HTMLSelectElement.prototype,'value').set.call(l,o.value); l.dispatchEvent(new Event('change',{bubbles:true})); return true })()`, label, option, option))
		if ok {
			time.Sleep(300 * time.Millisecond)
			return
		}
		time.Sleep(100 * time.Millisecond)
	}
	fmt.Println("no", label, option)
}

func main() {
	b, err := browser.Start(browser.Options{})
	must(err)
	defer b.Close()
	t, err := b.Open()
	must(err)
	must(t.Size(1280, 800))
	base := "http://127.0.0.1:8484"
	must(t.Go(base + "/"))
	must(t.ClickText("lead"))
	must(t.SeeText("79 complete"))
	for _, a := range os.Args[1:] {
		k, v, _ := strings.Cut(a, "=")
		switch k {
		case "go":
			must(t.Go(base + v))
			time.Sleep(1200 * time.Millisecond)
		case "text":
			must(t.ClickText(v))
			time.Sleep(900 * time.Millisecond)
		case "see":
			must(t.SeeText(v))
		case "click":
			must(t.Click(v))
			time.Sleep(700 * time.Millisecond)
		case "key":
			must(t.Key(v))
			time.Sleep(300 * time.Millisecond)
		case "js":
			_, err := browser.Eval[bool](t, v+"; true")
			must(err)
			time.Sleep(600 * time.Millisecond)
		case "choose":
			l, o, _ := strings.Cut(v, "/")
			choose(t, l, o)
		case "shot":
			must(t.Shot("/tmp/shots/" + v + ".png"))
		case "print":
			s, err := browser.Eval[string](t, "document.body.innerText")
			must(err)
			fmt.Println(s)
		}
	}
}
