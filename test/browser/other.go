package browser

import (
	"bytes"
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"net/http"
	"os"
	"os/exec"
	"strconv"
	"strings"
	"time"

	"github.com/coder/websocket"

	"brightchalk/test/loopback"
)

// Page is one page of a browser that is not Chromium, driven by what the W3C has agreed.
type Page interface {
	Go(url string) error
	// Eval runs an expression, waits for its promise and returns its value as text.
	Eval(js string) (string, error)
	// Keys presses keys one after the other in what has the focus.
	Keys(text string) error
	// Shot is a picture of what is seen, as PNG.
	Shot() ([]byte, error)
	Close()
}

// presses are the actions of typing a text, the same in both protocols (WebDriver, 17.4.2).
func presses(text string) []any {
	var out []any
	for _, r := range text {
		out = append(
			out,
			map[string]any{"type": "keyDown", "value": string(r)},
			map[string]any{"type": "keyUp", "value": string(r)},
		)
	}
	return []any{map[string]any{"type": "key", "id": "keyboard", "actions": out}}
}

// firefox is driven by WebDriver BiDi over a socket of its own.
type firefox struct {
	run     *exec.Cmd
	dir     string
	socket  *websocket.Conn
	context string
	last    int
}

// Firefox starts Debian's Firefox without a window.
func Firefox(ctx context.Context) (Page, error) {
	at := strconv.Itoa(loopback.FreePort())
	dir, err := os.MkdirTemp("", "chalk-firefox-")
	if err != nil {
		return nil, err
	}
	f := &firefox{dir: dir}
	f.run = exec.Command("firefox-esr", "--headless", "--no-remote", "--profile", dir, //nolint:noctx // Close ends it
		"--width", "1280", "--height", "800", "--remote-debugging-port", at, "about:blank")
	f.run.Env = append(os.Environ(), "HOME="+dir, "MOZ_DISABLE_CONTENT_SANDBOX=1")
	if err := f.run.Start(); err != nil {
		return nil, err
	}
	for end := time.Now().Add(Timeout); ; time.Sleep(200 * time.Millisecond) {
		f.socket, _, err = websocket.Dial(ctx, "ws://127.0.0.1:"+at+"/session", nil) //nolint:bodyclose // a socket
		if err == nil {
			break
		}
		if time.Now().After(end) {
			f.Close()
			return nil, fmt.Errorf("firefox does not answer: %w", err)
		}
	}
	f.socket.SetReadLimit(64 << 20)
	if _, err := f.call("session.new", map[string]any{"capabilities": map[string]any{}}); err != nil {
		f.Close()
		return nil, err
	}
	var tree struct {
		Contexts []struct {
			Context string `json:"context"`
		} `json:"contexts"`
	}
	answer, err := f.call("browsingContext.getTree", map[string]any{})
	if err == nil {
		err = json.Unmarshal(answer, &tree)
	}
	if err != nil || len(tree.Contexts) == 0 {
		f.Close()
		return nil, fmt.Errorf("firefox has no page: %w", err)
	}
	f.context = tree.Contexts[0].Context
	return f, nil
}

func (f *firefox) call(method string, params map[string]any) (json.RawMessage, error) {
	ctx, cancel := context.WithTimeout(context.Background(), Timeout)
	defer cancel()
	f.last++
	body, err := json.Marshal(map[string]any{"id": f.last, "method": method, "params": params})
	if err != nil {
		return nil, err
	}
	if err := f.socket.Write(ctx, websocket.MessageText, body); err != nil {
		return nil, err
	}
	for {
		_, data, err := f.socket.Read(ctx)
		if err != nil {
			return nil, fmt.Errorf("%s: %w", method, err)
		}
		var answer struct {
			ID      int             `json:"id"`
			Type    string          `json:"type"`
			Result  json.RawMessage `json:"result"`
			Message string          `json:"message"`
		}
		if err := json.Unmarshal(data, &answer); err != nil {
			return nil, err
		}
		if answer.ID != f.last { // an event
			continue
		}
		if answer.Type == "error" {
			return nil, fmt.Errorf("%s: %s", method, answer.Message)
		}
		return answer.Result, nil
	}
}

func (f *firefox) Go(url string) error {
	_, err := f.call("browsingContext.navigate", map[string]any{"context": f.context, "url": url, "wait": "complete"})
	return err
}

func (f *firefox) Eval(js string) (string, error) {
	data, err := f.call("script.evaluate", map[string]any{
		"expression": "(async () => String(await (" + js + ")))()", "target": map[string]any{"context": f.context},
		"awaitPromise": true,
	})
	if err != nil {
		return "", err
	}
	var out struct {
		Type   string `json:"type"`
		Result struct {
			Value string `json:"value"`
		} `json:"result"`
		ExceptionDetails struct {
			Text string `json:"text"`
		} `json:"exceptionDetails"`
	}
	if err := json.Unmarshal(data, &out); err != nil {
		return "", err
	}
	if out.Type == "exception" {
		return "", errors.New(out.ExceptionDetails.Text)
	}
	return out.Result.Value, nil
}

func (f *firefox) Keys(text string) error {
	_, err := f.call("input.performActions", map[string]any{"context": f.context, "actions": presses(text)})
	return err
}

func (f *firefox) Shot() ([]byte, error) {
	data, err := f.call("browsingContext.captureScreenshot", map[string]any{"context": f.context})
	if err != nil {
		return nil, err
	}
	var out struct{ Data []byte }
	err = json.Unmarshal(data, &out)
	return out.Data, err
}

func (f *firefox) Close() {
	if f.socket != nil {
		_ = f.socket.CloseNow()
	}
	_ = f.run.Process.Kill()
	_ = f.run.Wait()
	_ = os.RemoveAll(f.dir)
}

// webkit is driven by the classic WebDriver over HTTP.
type webkit struct {
	run, screen *exec.Cmd
	session     string // its address
}

// WebKit starts WebKitGTK's small browser by its driver, on a screen in memory.
func WebKit(context.Context) (Page, error) {
	at := strconv.Itoa(loopback.FreePort())
	w := &webkit{screen: exec.Command("Xvfb", ":97", "-screen", "0", "1400x1000x24")} //nolint:noctx // Close ends it
	if err := w.screen.Start(); err != nil {
		return nil, err
	}
	w.run = exec.Command("WebKitWebDriver", "--port="+at) //nolint:noctx // Close ends it
	w.run.Env = append(os.Environ(), "DISPLAY=:97", "WEBKIT_DISABLE_SANDBOX_THIS_IS_DANGEROUS=1",
		"LIBGL_ALWAYS_SOFTWARE=1", "WEBKIT_DISABLE_COMPOSITING_MODE=1")
	if err := w.run.Start(); err != nil {
		_ = w.screen.Process.Kill()
		return nil, err
	}
	base := "http://127.0.0.1:" + at + "/session"
	found, err := exec.Command("sh", "-c", "ls /usr/lib/*/webkit2gtk-4*/MiniBrowser | tail -1").
		Output()
		//nolint:noctx // quick
	if err != nil {
		w.Close()
		return nil, err
	}
	ask := map[string]any{"capabilities": map[string]any{"alwaysMatch": map[string]any{
		"webkitgtk:browserOptions": map[string]any{
			"binary": strings.TrimSpace(string(found)),
			"args":   []string{"--automation"},
		},
	}}}
	for end := time.Now().Add(Timeout); ; time.Sleep(200 * time.Millisecond) {
		var made struct {
			SessionID string `json:"sessionId"`
		}
		err = post(base, ask, &made)
		if err == nil && made.SessionID != "" {
			w.session = base + "/" + made.SessionID
			break
		}
		if time.Now().After(end) {
			w.Close()
			return nil, fmt.Errorf("webkit does not answer: %w", err)
		}
	}
	return w, post(w.session+"/window/rect", map[string]any{"x": 0, "y": 0, "width": 1280, "height": 860}, nil)
}

func send(method, url string, body any, into any) error {
	data, err := json.Marshal(body)
	if err != nil {
		return err
	}
	if body == nil {
		data = nil
	}
	ctx, cancel := context.WithTimeout(context.Background(), Timeout)
	defer cancel()
	r, err := http.NewRequestWithContext(ctx, method, url, bytes.NewReader(data))
	if err != nil {
		return err
	}
	answer, err := http.DefaultClient.Do(r)
	if err != nil {
		return err
	}
	defer answer.Body.Close() //nolint:errcheck // read to its end
	said, err := io.ReadAll(answer.Body)
	if err != nil {
		return err
	}
	if answer.StatusCode != http.StatusOK {
		return fmt.Errorf("%s: %s", url, said)
	}
	if into == nil {
		return nil
	}
	var out struct {
		Value json.RawMessage `json:"value"`
	}
	if err := json.Unmarshal(said, &out); err != nil {
		return err
	}
	return json.Unmarshal(out.Value, into)
}

func post(url string, body, into any) error { return send(http.MethodPost, url, body, into) }

func (w *webkit) Go(url string) error { return post(w.session+"/url", map[string]any{"url": url}, nil) }

func (w *webkit) Eval(js string) (string, error) {
	var out string
	script := "const done = arguments[0]; (async () => String(await (" + js + ")))().then(done, e => done('!! ' + e))"
	err := post(w.session+"/execute/async", map[string]any{"script": script, "args": []any{}}, &out)
	if failure, failed := strings.CutPrefix(out, "!! "); failed {
		return "", errors.New(failure)
	}
	return out, err
}

func (w *webkit) Keys(text string) error {
	return post(w.session+"/actions", map[string]any{"actions": presses(text)}, nil)
}

func (w *webkit) Shot() ([]byte, error) {
	var out []byte
	err := send(http.MethodGet, w.session+"/screenshot", nil, &out)
	return out, err
}

func (w *webkit) Close() {
	if w.session != "" {
		_ = send(http.MethodDelete, w.session, nil, nil)
	}
	for _, p := range []*exec.Cmd{w.run, w.screen} {
		_ = p.Process.Kill()
		_ = p.Wait()
	}
}
