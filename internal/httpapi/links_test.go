package httpapi_test

import (
	"context"
	"encoding/json"
	"net/http"
	"net/http/cookiejar"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"brightchalk/internal/people"
	"brightchalk/internal/store"
)

type listed struct {
	ID   string
	Here bool
	Desk bool
}

func TestOwnSessionsAreListedAndEnded(t *testing.T) {
	p := demoPlace(t)
	here, there, third, other := p.signIn(t, 1), p.signIn(t, 1), p.signIn(t, 1), p.signIn(t, 2)
	list := get[[]listed](t, here, "/api/session/all")
	require.Len(t, list, 3, "nobody else's")
	var far string
	for _, s := range get[[]listed](t, there, "/api/session/all") {
		if s.Here {
			far = s.ID
		}
	}
	status, _ := other.call("DELETE", "/api/session/all/"+far, "")
	assert.Equal(t, 404, status, "somebody else ends nothing")
	stream := there.stream(t)
	status, body := here.call("DELETE", "/api/session/all/"+far, "")
	require.Equal(t, 200, status, body)
	status, _ = there.call("GET", "/api/session", "")
	assert.Equal(t, 401, status)
	ends(t, stream, "the stream of the session that was ended")
	status, _ = third.call("GET", "/api/session", "")
	assert.Equal(t, 200, status)
	status, body = here.call("DELETE", "/api/session/all", "")
	require.Equal(t, 200, status, body)
	status, _ = third.call("GET", "/api/session", "")
	assert.Equal(t, 401, status)
	assert.Len(t, get[[]listed](t, here, "/api/session/all"), 1, "the one that asked goes on")
}

// A link opens for somebody without a session, lets in once, and its secret reaches no log.
func TestALinkLetsInOnce(t *testing.T) {
	p := demoPlace(t)
	lead := p.signIn(t, 0)
	_, body := lead.call("POST", "/api/links", `{"name":"Otto Wick","email":"otto@lockhouse.example","role":"assistant"}`)
	var made people.NewLink
	require.NoError(t, json.Unmarshal([]byte(body), &made), body)
	_, secret, _ := strings.Cut(made.Path, "#")
	jar, err := cookiejar.New(nil)
	require.NoError(t, err)
	stranger := client{t: t, base: lead.base, http: &http.Client{Jar: jar}}
	status, body := stranger.call("POST", "/api/welcome/look", `{"secret":"`+secret+`"}`)
	require.Equal(t, 200, status, body)
	assert.Contains(t, body, "otto@lockhouse.example")
	enter := `{"secret":"` + secret + `","name":"Otto Wick","password":"heron under the bridge"}`
	status, body = stranger.call("POST", "/api/welcome", enter)
	require.Equal(t, 200, status, body)
	status, body = stranger.call("GET", "/api/session", "")
	require.Equal(t, 200, status)
	assert.Contains(t, body, `"initials":"OW2"`)
	status, body = stranger.call("POST", "/api/welcome", enter)
	assert.Equal(t, 422, status)
	assert.Contains(t, body, "was used")
	var kept int
	require.NoError(t, store.AllTeams{Pool: p.Pool}.QueryRow(context.Background(),
		"SELECT count(*) FROM account_link WHERE secret = $1", []byte(secret)).Scan(&kept))
	assert.Zero(t, kept, "only its hash is kept")
	status, body = stranger.call("GET", "/api/members/"+stranger.id("/api/session")+"/data", "")
	assert.Equal(t, 200, status)
	assert.Contains(t, body, "otto@lockhouse.example", "what is kept of oneself")
	status, _ = stranger.call("GET", "/api/members/"+lead.id("/api/session")+"/data", "")
	assert.Equal(t, 403, status)
	events := get[[]store.EventRow](t, lead, "/api/account-events")
	assert.Equal(t, store.Added, events[0].Kind)
}
