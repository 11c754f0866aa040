package main

import (
	"bytes"
	"context"
	"encoding/base64"
	"fmt"
	"html"
	"os"
	"os/exec"
	"path/filepath"
	"strings"
	"time"

	"brightchalk/internal/app"
	"brightchalk/internal/printing"
	"brightchalk/internal/render"
	"brightchalk/internal/tx"
	"brightchalk/test/browser"
)

const cardsPrinted = 60

// prints measures the PDF of 60 cards against headless Chromium printing the same content, and the carry pack.
func prints(ctx context.Context, a *app.App, by tx.Actor) error {
	wall, _, err := a.Print.Faces(ctx, by, printing.CardsAsk{All: true})
	if err != nil {
		return err
	}
	var faces []render.Face
	for i := 0; len(faces) < cardsPrinted; i = (i + 1) % len(wall) {
		faces = append(faces, wall[i])
	}
	var out bytes.Buffer
	if err := render.Cards(&out, faces[:1], render.Duplex, render.Large, render.A4); err != nil { // fonts are read once
		return err
	}
	out.Reset()
	begin := time.Now()
	if err := render.Cards(&out, faces, render.Duplex, render.Large, render.A4); err != nil {
		return err
	}
	ours := time.Since(begin)
	fmt.Printf("PDF of %d cards: %.0f ms, %d KB (aim 1500 ms)\n", cardsPrinted, ms(ours), out.Len()>>10)
	dir, err := os.MkdirTemp("", "bright-chalk-bench")
	if err != nil {
		return err
	}
	defer os.RemoveAll(dir)
	chromiumTime := func(name, page string) (time.Duration, error) {
		file := filepath.Join(dir, name+".html")
		if err := os.WriteFile(file, []byte(page), 0o600); err != nil {
			return 0, err
		}
		begin := time.Now()
		err := exec.Command(browser.Find(), "--headless", "--no-sandbox", "--disable-gpu",
			"--disable-background-networking", "--no-first-run", "--user-data-dir="+dir+"/profile",
			"--no-pdf-header-footer", "--print-to-pdf="+dir+"/"+name+".pdf", "file://"+file).
			Run()
		return time.Since(begin), err
	}
	if _, err := chromiumTime("warm", "<p>a"); err != nil {
		return err
	}
	empty, err := chromiumTime("empty", "<p>a")
	if err != nil {
		return err
	}
	full, err := chromiumTime("cards", cardsPage(faces))
	if err != nil {
		return err
	}
	fmt.Printf(
		"headless Chromium, the same cards: %.0f ms, of which %.0f ms for an empty page; ours is %.1f times as fast, "+
			"%.1f times without its start (aim 5)\n",
		ms(full),
		ms(empty),
		full.Seconds()/ours.Seconds(),
		(full-empty).Seconds()/ours.Seconds(),
	)
	out.Reset()
	begin = time.Now()
	if err := a.Print.Pack(ctx, by, "", printing.PackOrder, &out); err != nil {
		return err
	}
	fmt.Printf(
		"carry pack of %d cards: %.0f ms, %.1f MB (aim 2000 ms, 15 MB for 60 cards)\n",
		len(wall),
		ms(time.Since(begin)),
		float64(out.Len())/(1<<20),
	)
	return nil
}

// cardsPage is the content of render.Cards as a page for a browser.
func cardsPage(faces []render.Face) string {
	var b strings.Builder
	child, _, _ := render.Fonts()
	font := base64.StdEncoding.EncodeToString(child)
	fmt.Fprintf(
		&b,
		`<!doctype html><meta charset=utf-8><style>
@font-face{font-family:C;src:url(data:font/woff2;base64,%s)}
@page{size:A4;margin:0}body{margin:0;font-family:C}
.p{width:210mm;height:297mm;break-after:page;display:grid;grid-template:120mm 120mm/90mm 90mm;
place-content:center}
.c{border:.35mm solid #888;text-align:center;overflow:hidden}
.l{font-size:120pt;line-height:100mm}img{width:72mm;height:72mm}</style>`,
		font,
	)
	for at := 0; at < len(faces); at += 4 {
		group := faces[at:min(at+4, len(faces))]
		for side := range 2 {
			b.WriteString(`<div class=p>`)
			for _, f := range group {
				if side == 0 {
					fmt.Fprintf(
						&b,
						`<div class=c><div class=l>%s</div>sound card as in %s</div>`,
						html.EscapeString(f.Pair.Grapheme),
						html.EscapeString(f.Keyword),
					)
					continue
				}
				src := ""
				if f.Picture != nil {
					src = "data:" + f.Picture.MediaType + ";base64," + base64.StdEncoding.EncodeToString(f.Picture.Bytes)
				}
				fmt.Fprintf(
					&b,
					`<div class=c><img src="%s"><p>%s<p>%s</div>`,
					src,
					html.EscapeString(f.Rhyme),
					html.EscapeString(f.Action),
				)
			}
			b.WriteString(`</div>`)
		}
	}
	return b.String()
}
