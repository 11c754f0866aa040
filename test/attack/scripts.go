package attack

import (
	"archive/zip"
	"bytes"
	"context"
	"encoding/json"
	"fmt"
	"io"
	"net/http"
	"os"
	"os/exec"
	"path/filepath"
	"regexp"
	"strings"
	"time"

	"brightchalk/internal/core/lesson"
	"brightchalk/internal/jobs"
	"brightchalk/internal/library"
	"brightchalk/internal/planning"
	"brightchalk/internal/printing"
	"brightchalk/internal/teaching"
	"brightchalk/test/browser"
)

// run runs a command of the binary against the cluster.
func (a *Arena) run(ctx context.Context, input string, args ...string) error {
	cmd := exec.CommandContext(ctx, a.binary, args...)
	cmd.Env = append(cmd.Environ(), a.db.env()...)
	cmd.Stdin = strings.NewReader(input)
	said, err := cmd.CombinedOutput()
	if err != nil {
		return fmt.Errorf("%s: %w: %s", strings.Join(args, " "), err, said)
	}
	return nil
}

// furnish gives a bare team cards and a class.
func (a *Arena) furnish(ctx context.Context, p person) error {
	have, err := cards(ctx, p)
	if err != nil || len(have) >= 10 {
		return err
	}
	for i, pair := range []string{"s=s", "a=æ", "t=t", "p=p", "i=ɪ", "n=n", "m=m", "d=d", "h=h", "e=ɛ"} {
		status, data, err := p.call(ctx, http.MethodPost, "/api/cards", map[string]any{"pair": pair, "step": i + 1})
		if err != nil || status != http.StatusOK && status != http.StatusUnprocessableEntity { // it may be there
			return fmt.Errorf("new card %s: %d %s %w", pair, status, data, err)
		}
	}
	_, _, err = p.call(ctx, http.MethodPost, "/api/classes", map[string]string{"name": "Mill class", "kind": "class"})
	if err != nil {
		return err
	}
	list, err := get[[]struct {
		ClassID string `json:"class_id"`
	}](ctx, p, "/api/classes")
	if err != nil {
		return err
	}
	_, _, err = p.call(
		ctx,
		http.MethodPost,
		"/api/classes/"+list[0].ClassID+"/known",
		planning.Declaration{Known: true, UpTo: 9},
	)
	return err
}

// probes are what a text may hold to be run: in HTML, in an attribute, in a script, in a style, in SVG.
var probes = []string{
	`<script>window.__ran=1</script>`,
	`"><img src=x onerror="window.__ran=1">`,
	`</script><script>window.__ran=1</script>`,
	`'-(window.__ran=1)-'`,
	`<svg onload="window.__ran=1">`,
	`</style><script>window.__ran=1</script>`,
	`{{constructor}}`,
}

// alive is a probe that stands in HTML as it was typed.
var alive = regexp.MustCompile(`<script>window\.__ran|<img src=x onerror|<svg onload="window`)

// scripts puts probes in every text of a team, then looks at all that is made from it: in the bytes, and in a browser.
func scripts(ctx context.Context, a *Arena) error {
	s, err := a.serve(ctx, a.db, 0)
	if err != nil {
		return err
	}
	defer s.kill()
	lead, err := a.otherTeam(ctx, s.base)
	if err != nil {
		return err
	}
	if err := a.furnish(ctx, lead); err != nil {
		return err
	}
	t, err := contendedThings(ctx, lead)
	if err != nil {
		return err
	}
	kept, err := a.poison(ctx, lead, t)
	if err != nil {
		return err
	}
	pages := 0
	look := func(what string, data []byte) {
		pages++
		for _, text := range unzipped(data) {
			if alive.Match(text) && !json.Valid(text) {
				a.Find("%s holds a script as it was typed: %s", what, alive.Find(text))
			}
		}
	}
	for _, path := range []string{
		"/api/classes/" + t.byName["class"] + "/log.csv", "/api/lessons/" + t.byPath["lessons"] + "/print/plan",
	} {
		status, data, err := lead.do(ctx, http.MethodGet, path, "", nil)
		if err != nil {
			return err
		}
		if status >= 500 {
			a.Find("%s answers %d", path, status)
		}
		look(path, data)
	}
	var carry []byte
	for _, ask := range []jobs.Ask{
		{Kind: jobs.Bundle, Class: t.byName["class"]},
		{Kind: jobs.Pack, Class: t.byName["class"], Size: printing.PackOrder},
	} {
		if _, carry, err = done(ctx, lead, ask); err != nil {
			return err
		}
		look(string(ask.Kind), carry)
	}
	pack := filepath.Join(a.dir, "carry-pack.html")
	if err := os.WriteFile(pack, carry, 0o600); err != nil {
		return err
	}
	seen, err := a.browse(s.base, "file://"+pack, t)
	if err != nil {
		return err
	}
	a.Say("   %d texts with probes kept, %d files and %d pages looked at", kept, pages, seen)
	return nil
}

// unzipped are the files of a ZIP, or the data itself.
func unzipped(data []byte) [][]byte {
	z, err := zip.NewReader(bytes.NewReader(data), int64(len(data)))
	if err != nil {
		return [][]byte{data}
	}
	var out [][]byte
	for _, f := range z.File {
		if r, err := f.Open(); err == nil {
			text, _ := io.ReadAll(io.LimitReader(r, 64<<20))
			out = append(out, text)
			_ = r.Close()
		}
	}
	return out
}

// poison writes probes wherever text is taken.
func (a *Arena) poison(ctx context.Context, p person, t things) (kept int, err error) {
	send := func(method, path string, body any) error {
		status, _, err := p.call(ctx, method, path, body)
		if err == nil && status == http.StatusOK {
			kept++
		}
		return err
	}
	wall, err := cards(ctx, p)
	if err != nil {
		return 0, err
	}
	for i, c := range wall {
		v, err := get[library.CardView](ctx, p, "/api/cards/"+c.CardID)
		if err != nil {
			return kept, err
		}
		probe := probes[i%len(probes)]
		for _, field := range []*string{
			&v.Content.Keyword, &v.Content.Rhyme, &v.Content.RhymeShort, &v.Content.Action, &v.Content.Story, &v.Content.Verse,
			&v.Content.MouthCue, &v.Content.Slip, &v.Content.StrokeWords, &v.Content.CapitalWords, &v.Content.Notes,
			&v.Content.PictureAlt, &v.Content.Materials,
		} {
			*field = probe
		}
		v.Content.Keyword = v.Content.Keyword[:min(40, len(v.Content.Keyword))]
		v.Content.Words, v.Content.Sentences, v.Content.Exceptions = []string{probe}, []string{probe}, []string{probe}
		if err := send(http.MethodPut, "/api/cards/"+c.CardID, map[string]any{
			"base_version": v.Version, "content": v.Content,
		}); err != nil {
			return kept, err
		}
	}
	for i, probe := range probes {
		for _, err := range []error{
			send(http.MethodPost, "/api/classes", map[string]string{"name": probe, "kind": "class"}),
			send(http.MethodPost, "/api/bank", map[string]string{"kind": "sentence", "body": probe}),
			send(http.MethodPost, "/api/members", map[string]string{
				"name": probe, "email": fmt.Sprintf("probe%d@weirside.example", i), "role": "teacher",
				"password": "a long enough one",
			}),
			send(http.MethodPost, "/api/classes/"+t.byName["class"]+"/known",
				planning.Declaration{Known: true, Words: []string{probe}}),
		} {
			if err != nil {
				return kept, err
			}
		}
	}
	status, data, err := p.call(ctx, http.MethodPost, "/api/lessons", teaching.LessonAsk{
		ClassID: t.byName["class"], Purpose: lesson.Introduce, CardIDs: []string{t.byName["card"]}, Minutes: 15,
	})
	var made teaching.LessonView
	if err == nil && status == http.StatusOK && json.Unmarshal(data, &made) == nil {
		t.byPath["lessons"] = made.LessonID
		for i, step := range made.Lesson.Steps {
			err := send(http.MethodPost, "/api/lessons/"+made.LessonID+"/edits", map[string]any{
				"do": teaching.SetText, "revision": made.Revision + i, "step": step.ID, "adult": probes, "class": probes,
			})
			if err != nil {
				return kept, err
			}
		}
	}
	return kept, err
}

// browse opens every page as the lead of the poisoned team and looks whether a probe ran.
func (a *Arena) browse(base, pack string, t things) (int, error) {
	if browser.Find() == "" {
		a.Say("   no Chromium: pages are not opened")
		return 0, nil
	}
	b, err := browser.Start(browser.Options{})
	if err != nil {
		return 0, err
	}
	defer b.Close()
	tab, err := b.Open()
	if err != nil {
		return 0, err
	}
	if err := tab.Go(base + "/"); err != nil {
		return 0, err
	}
	if err := tab.Type("input[type=email]", otherEmail); err != nil {
		return 0, err
	}
	if err := tab.Type("input[type=password]", otherPassword); err != nil {
		return 0, err
	}
	if err := tab.ClickText("Sign in"); err != nil {
		return 0, err
	}
	if err := tab.SeeText("live"); err != nil {
		return 0, err
	}
	pages := []string{
		"/",
		"/cards/" + t.byName["card"],
		"/lessons",
		"/lessons/" + t.byPath["lessons"],
		"/teach/" + t.byPath["lessons"],
		"/classes/" + t.byName["class"],
		"/words",
		"/texts",
		"/letters",
		"/booth",
		"/team",
	}
	for i := range pages {
		pages[i] = base + pages[i]
	}
	for _, page := range append(pages, pack) {
		if err := tab.Go(page); err != nil {
			return 0, fmt.Errorf("%s: %w", page, err)
		}
		time.Sleep(400 * time.Millisecond)
		ran, err := browser.Eval[bool](tab, "window.__ran === 1")
		if err != nil {
			return 0, fmt.Errorf("%s: %w", page, err)
		}
		if ran {
			a.Find("a script ran on %s", page)
		}
	}
	return len(pages) + 1, nil
}
