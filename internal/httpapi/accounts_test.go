package httpapi_test

import (
	"bufio"
	"context"
	"encoding/json"
	"net/http"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"brightchalk/demo"
	"brightchalk/internal/library"
	"brightchalk/internal/store"
	"brightchalk/internal/tx"
	"brightchalk/test/testdb"
)

func demoPassword(i int) string { return demo.SignIns[i].Password }

func signInBody(i int, password string) string {
	return `{"email":"` + demo.SignIns[i].Email + `","password":"` + password + `"}`
}

func (c client) id(path string) string { return get[tx.Actor](c.t, c, path).MemberID }

// stream opens the event stream and returns a channel that closes when the stream ends.
func (c client) stream(t *testing.T) <-chan struct{} {
	t.Helper()
	r, err := http.NewRequestWithContext(t.Context(), "GET", c.base+"/api/events", nil)
	require.NoError(t, err)
	answer, err := c.http.Do(r)
	require.NoError(t, err)
	require.Equal(t, 200, answer.StatusCode)
	ended := make(chan struct{})
	lines := bufio.NewScanner(answer.Body)
	lines.Scan()
	go func() {
		defer close(ended)
		defer func() { _ = answer.Body.Close() }()
		for lines.Scan() {
		}
	}()
	return ended
}

func ends(t *testing.T, stream <-chan struct{}, why string) {
	t.Helper()
	select {
	case <-stream:
	case <-time.After(5 * time.Second):
		assert.Fail(t, "the stream goes on", why)
	}
}

func TestOwnPassword(t *testing.T) {
	p := demoPlace(t)
	here, there := p.signIn(t, 1), p.signIn(t, 1)
	elsewhere := there.stream(t)
	status, body := here.call("PUT", "/api/session/password", `{"current":"wrong","next":"heron under the bridge"}`)
	assert.Equal(t, 422, status)
	assert.Contains(t, body, `"field":"current"`)
	for next, why := range map[string]string{"short": "12 signs", demoPassword(1): "former one"} {
		status, body = here.call("PUT", "/api/session/password", `{"current":"`+demoPassword(1)+`","next":"`+next+`"}`)
		assert.Equal(t, 422, status)
		assert.Contains(t, body, why)
	}
	status, body = here.call("PUT", "/api/session/password",
		`{"current":"`+demoPassword(1)+`","next":"heron under the bridge"}`)
	require.Equal(t, 200, status, body)
	status, _ = here.call("GET", "/api/session", "")
	assert.Equal(t, 200, status, "the session that changed it goes on")
	status, _ = there.call("GET", "/api/session", "")
	assert.Equal(t, 401, status, "the others end")
	ends(t, elsewhere, "a stream of another session")
	status, _ = there.call("POST", "/api/session", signInBody(1, demoPassword(1)))
	assert.Equal(t, 422, status)
	status, _ = there.call("POST", "/api/session", signInBody(1, "heron under the bridge"))
	assert.Equal(t, 200, status)
}

// A lead resets, changes the role and removes; each counts at once, in sessions and streams that are open.
func TestLeadChangesAccounts(t *testing.T) {
	p := demoPlace(t)
	lead, teacher, assistant := p.signIn(t, 0), p.signIn(t, 1), p.signIn(t, 2)
	id := teacher.id("/api/session")
	member := "/api/members/" + id
	for _, call := range [][3]string{
		{"PUT", member + "/password", `{"password":"reeds along the water"}`},
		{"PUT", member + "/role", `{"role":"lead"}`},
		{"DELETE", member, ""},
		{"GET", "/api/account-events", ""},
	} {
		status, body := assistant.call(call[0], call[1], call[2])
		assert.Equal(t, 403, status, "%v %s", call, body)
	}
	b := lead.cardID("b")
	v := get[library.CardView](t, teacher, "/api/cards/"+b)
	v.Content.Rhyme = "A barge by the bank, b, b, b."
	content, err := json.Marshal(map[string]any{"base_version": v.Version, "content": v.Content})
	require.NoError(t, err)
	status, body := teacher.call("PUT", "/api/cards/"+b, string(content))
	require.Equal(t, 200, status, body)

	status, body = lead.call("PUT", member+"/role", `{"role":"assistant"}`)
	require.Equal(t, 200, status, body)
	status, _ = teacher.call("PUT", "/api/cards/"+b, string(content))
	assert.Equal(t, 403, status, "the session is that of an assistant now")

	status, body = lead.call("PUT", member+"/password", `{"password":"reeds along the water"}`)
	require.Equal(t, 200, status, body)
	status, _ = teacher.call("GET", "/api/session", "")
	assert.Equal(t, 401, status)
	status, _ = teacher.call("POST", "/api/session", signInBody(1, demoPassword(1)))
	assert.Equal(t, 422, status, "the former password")
	status, body = teacher.call("POST", "/api/session", signInBody(1, "reeds along the water"))
	require.Equal(t, 200, status, body)

	open := teacher.stream(t)
	status, body = lead.call("DELETE", member, "")
	require.Equal(t, 200, status, body)
	ends(t, open, "of somebody who was removed")
	status, _ = teacher.call("GET", "/api/cards", "")
	assert.Equal(t, 401, status)
	status, _ = teacher.call("POST", "/api/session", signInBody(1, "reeds along the water"))
	assert.Equal(t, 422, status)
	versions := get[[]store.VersionHead](t, lead, "/api/cards/"+b+"/versions")
	assert.Equal(t, p.nameOf(t, id), versions[0].ChangedBy, "what was written keeps the name")

	own := "/api/members/" + lead.id("/api/session")
	for _, call := range [][3]string{{"DELETE", own, ""}, {"PUT", own + "/role", `{"role":"teacher"}`}} {
		status, body = lead.call(call[0], call[1], call[2])
		assert.Equal(t, 422, status)
		assert.Contains(t, body, "only lead")
	}
	var kinds []string
	for _, e := range get[[]store.EventRow](t, lead, "/api/account-events") {
		kinds = append(kinds, string(e.Kind))
	}
	assert.Subset(t, kinds, []string{"signed-in", "sign-in-failed", "role-changed", "password-reset", "removed"})
}

// nameOf is the name of a member, removed or not.
func (p place) nameOf(t *testing.T, id string) (name string) {
	t.Helper()
	row := store.AllTeams{Pool: p.Pool}.QueryRow(context.Background(), "SELECT name FROM member WHERE member_id = $1", id)
	require.NoError(t, row.Scan(&name))
	return name
}

func TestStreamsEndWithTheSession(t *testing.T) {
	p := demoPlace(t)
	teacher, other := p.signIn(t, 1), p.signIn(t, 1)
	mine, theirs := teacher.stream(t), other.stream(t)
	status, _ := teacher.call("DELETE", "/api/session", "")
	require.Equal(t, 200, status)
	ends(t, mine, "of the session that signed out")
	select {
	case <-theirs:
		assert.Fail(t, "the stream of another session ended")
	case <-time.After(200 * time.Millisecond):
	}
}

// A session that cannot be kept is one answer, not two.
func TestASessionThatCannotBeKeptIsOneAnswer(t *testing.T) {
	p := demoPlace(t)
	_, err := testdb.Owner(t, p.Pool).Exec(context.Background(), "ALTER TABLE sessions ADD CHECK (token = '')")
	require.NoError(t, err)
	stranger := client{t: t, base: p.server.URL, http: http.DefaultClient}
	status, body := stranger.call("POST", "/api/session", signInBody(1, demoPassword(1)))
	assert.Equal(t, 503, status)
	d := json.NewDecoder(strings.NewReader(body))
	var first map[string]any
	require.NoError(t, d.Decode(&first))
	assert.False(t, d.More(), body)
}

// The wall is told apart by its revision: any change of the library by anybody gives new bytes, nothing else does.
func TestTheWallIsKeptUntilItChanges(t *testing.T) {
	p := demoPlace(t)
	lead := p.signIn(t, 0)
	ask := func(etag string) (int, string) {
		r, err := http.NewRequest("GET", lead.base+"/api/cards", nil)
		require.NoError(t, err)
		r.Header.Set("If-None-Match", etag)
		answer, err := lead.http.Do(r)
		require.NoError(t, err)
		_ = answer.Body.Close()
		return answer.StatusCode, answer.Header.Get("ETag")
	}
	status, etag := ask("")
	require.Equal(t, 200, status)
	require.NotEmpty(t, etag)
	status, _ = ask(etag)
	assert.Equal(t, 304, status)
	b := lead.cardID("b")
	for name, sql := range map[string]string{
		"move":        `UPDATE card SET step = step + 1000 WHERE card_id = '` + b + `'`,
		"take":        `UPDATE take SET chosen = false WHERE chosen`,
		"conventions": `UPDATE team SET conventions = jsonb_set(conventions, '{accent}', '"general-american"')`,
		"name":        `UPDATE member SET initials = initials || 'Z'`,
	} {
		_, err := store.AllTeams{Pool: p.Pool}.Exec(context.Background(), sql)
		require.NoError(t, err, name)
		var fresh string
		status, fresh = ask(etag)
		assert.Equal(t, 200, status, name)
		assert.NotEqual(t, etag, fresh, name)
		etag = fresh
	}
	status, _ = lead.call("POST", "/api/classes", `{"name":"Grebe class","kind":"class"}`)
	require.Equal(t, 200, status)
	status, _ = ask(etag)
	assert.Equal(t, 304, status, "a class is not on the wall")
}

func TestAPolicyReportIsLogged(t *testing.T) {
	p := demoPlace(t)
	stranger := client{t: t, base: p.server.URL, http: http.DefaultClient}
	status, _ := stranger.call("POST", "/csp-reports", `{"csp-report":{"document-uri":"https://x.example/cards?secret=1",
		"effective-directive":"script-src-elem","blocked-uri":"inline"}}`)
	assert.Equal(t, 204, status)
	assert.Contains(t, p.log.String(), "script-src-elem")
	assert.NotContains(t, p.log.String(), "secret")
	status, _ = stranger.call("POST", "/csp-reports", strings.Repeat("x", 10_000))
	assert.Equal(t, 404, status)
}
