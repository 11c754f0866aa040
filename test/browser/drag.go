package browser

import (
	"fmt"
	"time"

	"github.com/chromedp/cdproto/input"
	"github.com/chromedp/chromedp"
)

// Hand is with what something is dragged.
type Hand int

// Hands.
const (
	Mouse Hand = iota
	Finger
)

const (
	dragSteps = 12
	holdTime  = 320 * time.Millisecond // a finger rests before it drags
)

// Drag drags the middle of one element to the middle of another, as a hand would: held, moved in small steps, let go.
func (t *Tab) Drag(from, to string, with Hand) error {
	middle := func(selector string) ([]float64, error) {
		return Eval[[]float64](t, fmt.Sprintf(`(() => {
			const r = document.querySelector(%q).getBoundingClientRect()
			return [r.x + r.width / 2, r.y + r.height / 2]
		})()`, selector))
	}
	a, err := middle(from)
	if err != nil {
		return err
	}
	b, err := middle(to)
	if err != nil {
		return err
	}
	press, move, release := t.mouse, t.mouse, t.mouse
	kinds := [3]string{"mousePressed", "mouseMoved", "mouseReleased"}
	if with == Finger {
		press, move, release = t.finger, t.finger, t.finger
		kinds = [3]string{"touchStart", "touchMove", "touchEnd"}
	}
	if err := press(kinds[0], a[0], a[1]); err != nil {
		return err
	}
	time.Sleep(holdTime)
	for i := 1; i <= dragSteps; i++ {
		part := float64(i) / dragSteps
		if err := move(kinds[1], a[0]+(b[0]-a[0])*part, a[1]+(b[1]-a[1])*part); err != nil {
			return err
		}
		time.Sleep(30 * time.Millisecond)
	}
	time.Sleep(holdTime)
	return release(kinds[2], b[0], b[1])
}

func (t *Tab) mouse(kind string, x, y float64) error {
	_, err := chromedp.Call(t.ctx, input.DispatchMouseEvent, input.DispatchMouseEventParams{
		Type: input.DispatchMouseEventType(kind), X: x, Y: y, Button: input.MouseButtonLeft, Buttons: 1, ClickCount: 1,
	})
	return err
}

func (t *Tab) finger(kind string, x, y float64) error {
	points := []*input.TouchPoint{{X: x, Y: y}}
	if kind == "touchEnd" {
		points = []*input.TouchPoint{}
	}
	_, err := chromedp.Call(t.ctx, input.DispatchTouchEvent, input.DispatchTouchEventParams{
		Type: input.DispatchTouchEventType(kind), TouchPoints: points,
	})
	return err
}
