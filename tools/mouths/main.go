// Command mouths draws a sheet of all stills of an accent, to be looked at one by one against the table:
//
//	go run ./tools/mouths -accent southern-british -out docs/mouths-southern-british.png
package main

import (
	"flag"
	"fmt"
	"html"
	"log"
	"net/url"
	"strings"

	"brightchalk/internal/core/mouth"
	"brightchalk/internal/core/phoneme"
	"brightchalk/test/browser"
)

func main() {
	name := flag.String("accent", string(phoneme.SouthernBritish), "accent")
	out := flag.String("out", "docs/mouths.png", "picture")
	only := flag.String("only", "", "sounds parted by commas; empty is all")
	flag.Parse()
	if err := draw(*name, *out, *only); err != nil {
		log.Fatal("mouths: ", err)
	}
}

func draw(name, out, only string) error {
	accent, err := phoneme.ParseAccent(name)
	if err != nil {
		return err
	}
	var sounds []string
	for _, s := range phoneme.Inventory(accent) {
		sounds = append(sounds, string(s.Phoneme))
	}
	sounds = append(sounds, "kw", "ks")
	if only != "" {
		sounds = strings.Split(only, ",")
	}
	var b strings.Builder
	b.WriteString(`<!doctype html><meta charset=utf-8><style>body{margin:8px;font:13px sans-serif;display:flex;` +
		`flex-wrap:wrap;gap:6px;background:#fbf8f1}figure{margin:0;border:1px solid #bbb;background:#fff;width:240px;` +
		`display:grid;grid-template-columns:136px 104px;align-items:start}` +
		`svg{width:100%}figcaption{grid-column:1/3;padding:2px 4px;line-height:1.15}</style>`)
	n := 0
	for _, s := range sounds {
		d, err := mouth.Draw(accent, s)
		if err != nil {
			return err
		}
		for _, still := range d.Stills[1 : len(d.Stills)-1] {
			n++
			fmt.Fprintf(&b, `<figure>%s%s<figcaption><b>/%s/ %s</b> %s</figcaption></figure>`, still.SVG(mouth.Side),
				still.SVG(mouth.Front), html.EscapeString(s), still.Phase, html.EscapeString(still.Seen+"; "+still.Felt))
		}
	}
	const width, across = 1510, 6
	br, err := browser.Start(browser.Options{Width: width, Height: 170*((n+across-1)/across) + 16})
	if err != nil {
		return err
	}
	defer br.Close()
	tab, err := br.Open()
	if err != nil {
		return err
	}
	if err := tab.Size(width, int64(170*((n+across-1)/across)+16)); err != nil {
		return err
	}
	if err := tab.Go("data:text/html;charset=utf-8," + url.PathEscape(b.String())); err != nil {
		return err
	}
	return tab.Shot(out)
}
