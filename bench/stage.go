package main

import (
	"context"
	"fmt"
	"log/slog"
	"net/http/httptest"
	"slices"
	"time"

	"brightchalk/internal/app"
	"brightchalk/internal/core/lesson"
	"brightchalk/internal/httpapi"
	"brightchalk/internal/people"
	"brightchalk/internal/store"
	"brightchalk/internal/teaching"
	"brightchalk/internal/tx"
	"brightchalk/internal/webui"
	"brightchalk/test/browser"
)

// moves is how often the desk presses on.
const moves = 40

// faces measures the stage: how long after a press at the desk the board shows the next screen, in another window of
// the browser, in another browser, and over another server on the same database; how long a step takes and how evenly
// things move with the processor slowed down four times.
func faces(ctx context.Context, a *app.App, by tx.Actor, list []people.DemoSignIn) error {
	serve := func() (*httptest.Server, func()) {
		hub := store.NewHub()
		listening, stop := context.WithCancel(ctx)
		go hub.Run(listening, a.Pool, slog.New(slog.DiscardHandler))
		s := httptest.NewServer(
			httpapi.New(a, httpapi.Options{Hub: hub, Pages: webui.Pages(), PlainCookies: true, Demo: list}),
		)
		return s, func() { hub.Close(); stop(); s.CloseClientConnections(); s.Close() }
	}
	here, close1 := serve()
	defer close1()
	there, close2 := serve()
	defer close2()
	made, err := lessonToTeach(ctx, a, by)
	if err != nil {
		return err
	}
	opened := func(server *httptest.Server, face string) (*browser.Browser, *browser.Tab, error) {
		b, err := browser.Start(browser.Options{})
		if err != nil {
			return nil, nil, err
		}
		t, err := b.Open()
		if err == nil {
			err = first(
				t.Go(server.URL+"/?show=all"), t.ClickText("lead"), t.SeeText("complete"), openFace(t, server, made, face),
			)
		}
		return b, t, err
	}
	b, board, err := opened(here, "board")
	if err != nil {
		return err
	}
	defer b.Close()
	window, err := board.Beside()
	if err == nil {
		err = openFace(window, here, made, "desk")
	}
	if err != nil {
		return err
	}
	if err := inStep("another window of the browser", window, board); err != nil {
		return err
	}
	window.Close()
	for _, k := range []struct {
		name   string
		server *httptest.Server
	}{{"another browser, one server", here}, {"another browser, another server", there}} {
		b, desk, err := opened(k.server, "desk")
		if err != nil {
			return err
		}
		err = inStep(k.name, desk, board)
		b.Close()
		if err != nil {
			return err
		}
	}
	return slowed(board)
}

func first(errs ...error) error {
	for _, err := range errs {
		if err != nil {
			return err
		}
	}
	return nil
}

func openFace(t *browser.Tab, s *httptest.Server, lesson, face string) error {
	return first(t.Go(s.URL+"/teach/"+lesson+"?face="+face), t.See("[data-face='"+face+"']"))
}

func lessonToTeach(ctx context.Context, a *app.App, by tx.Actor) (string, error) {
	classes, err := a.Classes.Classes(ctx, by)
	if err != nil {
		return "", err
	}
	class, err := a.Classes.Class(ctx, by, classes[0].ClassID)
	if err != nil {
		return "", err
	}
	v, err := a.Lessons.Assemble(ctx, by, teaching.LessonAsk{
		ClassID: class.ClassID, Purpose: lesson.Introduce, CardIDs: []string{class.Next}, Minutes: 20,
	})
	return v.LessonID, err
}

const watch = `(window.shown = {}, new MutationObserver(() => {
	const at = document.querySelector('[data-screen]')?.dataset.screen
	if (at !== undefined && !(at in window.shown)) requestAnimationFrame(() => { window.shown[at] = Date.now() })
}).observe(document.body, {
	subtree: true, childList: true, attributes: true, attributeFilter: ['data-screen'],
}), true)`

// inStep presses on at one face and looks when the other shows it; both read the clock of this machine.
func inStep(name string, desk, board *browser.Tab) error {
	press := func(key string) error {
		_, err := browser.Eval[bool](desk, `(window.dispatchEvent(new KeyboardEvent('keydown', {key: '`+key+`'})), true)`)
		return err
	}
	for range 60 { // back to the beginning
		if err := press("ArrowUp"); err != nil {
			return err
		}
	}
	time.Sleep(time.Second)
	if _, err := browser.Eval[bool](board, watch); err != nil {
		return err
	}
	if _, err := browser.Eval[bool](desk, `(window.pressed = {}, true)`); err != nil {
		return err
	}
	var took []float64
	for range moves {
		pressed, err := browser.Eval[float64](desk, `(() => {
			const at = Date.now()
			window.dispatchEvent(new KeyboardEvent('keydown', {key: 'ArrowRight'}))
			return at
		})()`)
		if err != nil {
			return err
		}
		time.Sleep(350 * time.Millisecond)
		shown, err := browser.Eval[float64](board, `Math.max(0, ...Object.values(window.shown))`)
		if err != nil {
			return err
		}
		took = append(took, shown-pressed)
	}
	slices.Sort(took)
	fmt.Printf("faces in step, %s: median %.0f ms, 95th percentile %.0f, most %.0f of %d (aim 150)\n",
		name, took[len(took)/2], took[len(took)*95/100], took[len(took)-1], len(took))
	return nil
}

// slowed measures steps and movements of the board with a quarter of the processor.
func slowed(board *browser.Tab) error {
	if err := board.SlowCPU(4); err != nil {
		return err
	}
	took, err := browser.Eval[[]float64](board, `(async () => {
		const out = []
		const frame = () => new Promise(requestAnimationFrame)
		for (let i = 0; i < 60; i++) {
			const key = i < 30 ? 'ArrowRight' : 'ArrowLeft'
			await new Promise(r => setTimeout(r, 250))
			const at = performance.now()
			window.dispatchEvent(new KeyboardEvent('keydown', { key }))
			await frame()
			out.push(performance.now() - at)
		}
		return out.sort((a, b) => a - b)
	})()`)
	if err != nil {
		return err
	}
	fmt.Printf("next step at a quarter of the processor: median %.0f ms, 95th percentile %.0f, most %.0f (aim 50)\n",
		took[len(took)/2], took[len(took)*95/100], took[len(took)-1])
	rates, err := browser.Eval[[]float64](board, `(async () => {
		const press = key => window.dispatchEvent(new KeyboardEvent('keydown', { key }))
		const rate = async ms => {
			let n = 0, end = performance.now() + ms
			while (performance.now() < end) { await new Promise(requestAnimationFrame); n++ }
			return n / (ms / 1000)
		}
		const until = async kind => {
			for (let i = 0; i < 40 && document.querySelector('[data-step]')?.dataset.step !== kind; i++) {
				press(i < 1 ? 'ArrowUp' : 'ArrowDown')
				await new Promise(r => setTimeout(r, 200))
			}
			await new Promise(r => setTimeout(r, 600))
		}
		for (let i = 0; i < 30; i++) press('ArrowUp')
		await until('mouth')
		press('p')
		const mouth = await rate(1500)
		await until('hand'); press('ArrowRight')
		const hand = await rate(1500)
		await until('turnover')
		press('Enter')
		const card = await rate(500)
		return [mouth, hand, card]
	})()`)
	if err != nil {
		return err
	}
	fmt.Printf(
		"frames a second at a quarter of the processor: mouth %.0f, letter that writes itself %.0f, "+
			"card that turns %.0f (aim 60)\n",
		rates[0],
		rates[1],
		rates[2],
	)
	return board.SlowCPU(1)
}
