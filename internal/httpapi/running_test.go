package httpapi_test

import (
	"bufio"
	"encoding/json"
	"fmt"
	"net/http"
	"net/http/cookiejar"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"brightchalk/internal/core/running"
	"brightchalk/internal/store"
	"brightchalk/internal/teaching"
)

func (c client) anyLesson() string {
	classes := get[[]store.Class](c.t, c, "/api/classes")
	status, body := c.call("POST", "/api/lessons", fmt.Sprintf(
		`{"class_id":%q,"purpose":"introduce","card_ids":[%q],"minutes":20}`, classes[0].ClassID, c.cardID("sh"),
	))
	require.Equal(c.t, 200, status, body)
	var v teaching.LessonView
	require.NoError(c.t, json.Unmarshal([]byte(body), &v))
	return v.LessonID
}

func (c client) set(lesson, name, value string, n int, by string) teaching.RunView {
	status, body := c.call("PUT", "/api/lessons/"+lesson+"/run", fmt.Sprintf(
		`{"marks":[{"name":%q,"value":%q,"n":%d,"by":%q}]}`, name, value, n, by,
	))
	require.Equal(c.t, 200, status, body)
	var v teaching.RunView
	require.NoError(c.t, json.Unmarshal([]byte(body), &v))
	return v
}

// faces opens the stream of a running lesson.
func (c client) faces(lesson string) <-chan teaching.RunView {
	r, err := http.NewRequestWithContext(c.t.Context(), "GET", c.base+"/api/lessons/"+lesson+"/run/events", nil)
	require.NoError(c.t, err)
	answer, err := c.http.Do(r)
	require.NoError(c.t, err)
	require.Equal(c.t, 200, answer.StatusCode)
	out := make(chan teaching.RunView, 32)
	go func() {
		defer close(out)
		defer func() { _ = answer.Body.Close() }()
		lines := bufio.NewScanner(answer.Body)
		lines.Buffer(nil, 1<<20)
		for lines.Scan() {
			if data, ok := strings.CutPrefix(lines.Text(), "data: "); ok {
				var v teaching.RunView
				if json.Unmarshal([]byte(data), &v) == nil {
					out <- v
				}
			}
		}
	}()
	return out
}

func next(t *testing.T, faces <-chan teaching.RunView) teaching.RunView {
	t.Helper()
	select {
	case v, open := <-faces:
		require.True(t, open, "the stream ended")
		return v
	case <-time.After(5 * time.Second):
		require.Fail(t, "nothing came")
		return teaching.RunView{}
	}
}

// Two servers on one database: what one face sets reaches the other by the other server.
func TestFacesOfALessonStayInStepOverTwoServers(t *testing.T) {
	p := demoPlace(t)
	other := open(t, p.App)
	board, desk := p.signIn(t, 1), other.signIn(t, 1)
	lesson := board.anyLesson()
	seen := board.faces(lesson)
	assert.Empty(t, next(t, seen).Marks, "nothing was begun")
	desk.set(lesson, "at", "3", 1, "desk")
	assert.Equal(t, []running.Mark{{Name: "at", Value: "3", N: 1, By: "desk"}}, next(t, seen).Marks)
	// Both steer at once; both see the same afterwards, whoever came first.
	board.set(lesson, "at", "4", 2, "board")
	holds := desk.set(lesson, "at", "5", 2, "desk")
	assert.Equal(t, "5", holds.Marks[0].Value)
	assert.Equal(t, holds.Marks, get[teaching.RunView](t, board, "/api/lessons/"+lesson+"/run").Marks)
	// A late one changes nothing.
	assert.Equal(t, holds.Marks, board.set(lesson, "at", "1", 1, "board").Marks)

	status, body := board.call("PUT", "/api/lessons/"+lesson+"/run", `{"marks":[{"name":"x","value":"1","n":1,"by":"b"}]}`)
	assert.Equal(t, 422, status, body)
	status, _ = board.call("GET", "/api/lessons/"+strings.Repeat("0", 8)+"-0000-4000-8000-000000000000/run", "")
	assert.Equal(t, 404, status)
}

func (p place) phone(t *testing.T) client {
	t.Helper()
	jar, err := cookiejar.New(nil)
	require.NoError(t, err)
	return client{t: t, base: p.server.URL, http: &http.Client{Jar: jar}}
}

func TestAPhoneJoinsOneLessonByACode(t *testing.T) {
	p := demoPlace(t)
	laptop, phone := p.signIn(t, 1), p.phone(t)
	lesson, another := laptop.anyLesson(), laptop.anyLesson()
	_, body := laptop.call("POST", "/api/lessons/"+lesson+"/desks", "")
	var code teaching.DeskCode
	require.NoError(t, json.Unmarshal([]byte(body), &code), body)
	spaced := code.Code[:4] + " " + strings.ToLower(code.Code[4:])
	status, body := phone.call("POST", "/api/desk", `{"code":"`+spaced+`"}`)
	require.Equal(t, 200, status, body)
	assert.Contains(t, body, lesson)

	seen := phone.faces(lesson)
	next(t, seen)
	laptop.set(lesson, "at", "2", 1, "board")
	assert.Equal(t, "2", next(t, seen).Marks[0].Value)
	phone.set(lesson, "sure.x", "1", 2, "phone")
	assert.Equal(t, 1, get[struct{ Joined int }](t, laptop, "/api/lessons/"+lesson+"/desks").Joined)
	word := get[teaching.OwnWord](t, phone, "/api/lessons/"+lesson+"/own-word?word=ship")
	assert.True(t, word.Readable, word.Why)
	assert.Len(t, word.Bits, 3)
	assert.NotEmpty(t, word.Bits[0].Card, "sh has a card in this lesson")
	assert.False(t, get[teaching.OwnWord](t, phone, "/api/lessons/"+lesson+"/own-word?word=light").Readable)

	// The phone is the desk of this lesson, and of nothing else.
	for _, path := range []string{
		"/api/cards", "/api/lessons", "/api/lessons/" + another, "/api/lessons/" + another + "/run", "/api/members",
		"/api/events", "/api/classes", "/api/lessons/" + lesson + "/desks", "/api/words?class_id=x", "/api/takes",
	} {
		status, _ := phone.call("GET", path, "")
		assert.Contains(t, []int{403, 404}, status, path)
	}
	status, _ = phone.call("PUT", "/api/session/password", `{"current":"a","next":"bbbbbbbbbbbbbb"}`)
	assert.Equal(t, 403, status)
	status, _ = phone.call("POST", "/api/lessons/"+lesson+"/desks", "")
	assert.Equal(t, 403, status, "a phone lets no other in")

	// Used once; and let go at once.
	status, _ = p.phone(t).call("POST", "/api/desk", `{"code":"`+code.Code+`"}`)
	assert.Equal(t, 422, status)
	status, _ = laptop.call("DELETE", "/api/lessons/"+lesson+"/desks", "")
	require.Equal(t, 200, status)
	status, _ = phone.call("GET", "/api/lessons/"+lesson, "")
	assert.Equal(t, 401, status)
	for range seen { // its stream ends
	}
}

func TestGuessedCodesAreStopped(t *testing.T) {
	p := demoPlace(t)
	laptop, stranger := p.signIn(t, 1), p.phone(t)
	lesson := laptop.anyLesson()
	_, body := laptop.call("POST", "/api/lessons/"+lesson+"/desks", "")
	var code teaching.DeskCode
	require.NoError(t, json.Unmarshal([]byte(body), &code))
	for i := range 10 {
		status, _ := stranger.call("POST", "/api/desk", fmt.Sprintf(`{"code":"AAAA%04d"}`, i))
		require.Equal(t, 422, status)
	}
	status, body := stranger.call("POST", "/api/desk", `{"code":"`+code.Code+`"}`)
	assert.Equal(t, 429, status, "even the right one waits")
	assert.Contains(t, body, "Too many wrong codes. Wait 10 minutes")
	assert.NotContains(t, p.log.String(), code.Code)
}
