package httpapi_test

import (
	"encoding/json"
	"net/http"
	"net/http/cookiejar"
	"net/http/httptest"
	"net/url"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"brightchalk/internal/httpapi"
	"brightchalk/internal/people"
	"brightchalk/internal/provider"
	"brightchalk/internal/tx"
	"brightchalk/test/providertest"
)

// withProvider opens a further server that lets people in by a provider.
func (p place) withProvider(t *testing.T) (*providertest.Provider, string) {
	t.Helper()
	at := providertest.New(t)
	vouching, err := provider.Open(provider.Settings{
		Name: "Canal ID", Issuer: at.URL, Client: providertest.Client, Secret: providertest.Secret,
		Address: "http://lockhouse.example",
	})
	require.NoError(t, err)
	s := httptest.NewServer(held(t, httpapi.New(p.App, httpapi.Options{PlainCookies: true, Provider: vouching})))
	t.Cleanup(s.Close)
	return at, s.URL
}

func browser(t *testing.T, base string) client {
	t.Helper()
	jar, err := cookiejar.New(nil)
	require.NoError(t, err)
	return client{
		t:    t,
		base: base,
		http: &http.Client{Jar: jar, CheckRedirect: func(*http.Request, []*http.Request) error {
			return http.ErrUseLastResponse
		}},
	}
}

// out begins a way and goes to the provider; it returns what the provider sends the browser back with.
func (c client) out(ask string) url.Values {
	c.t.Helper()
	status, text := c.call("POST", "/api/session/provider", ask)
	require.Equal(c.t, 200, status, text)
	var start struct{ Address string }
	require.NoError(c.t, json.Unmarshal([]byte(text), &start))
	resp, err := c.http.Get(start.Address) //nolint:noctx // a test
	require.NoError(c.t, err)
	defer func() { _ = resp.Body.Close() }()
	back, err := resp.Location()
	require.NoError(c.t, err)
	assert.Equal(c.t, provider.BackPath, back.Path)
	return back.Query()
}

func (c client) back(q url.Values) (int, string) {
	c.t.Helper()
	data, err := json.Marshal(map[string]string{"code": q.Get("code"), "state": q.Get("state")})
	require.NoError(c.t, err)
	return c.call("PUT", "/api/session/provider", string(data))
}

func TestSignInByAProvider(t *testing.T) {
	p := demoPlace(t)
	at, base := p.withProvider(t)
	at.As("17", "teacher@lockhouse.example", true, nil)
	b := browser(t, base)
	status, text := b.call("GET", "/api/session/ways", "")
	require.Equal(t, 200, status)
	assert.Contains(t, text, "Canal ID")
	q := b.out(`{"purpose":"sign-in"}`)

	// Another browser finishes nothing with what this one brought back, nor this one with another state.
	status, text = browser(t, base).back(q)
	assert.Equal(t, 409, status, text)
	status, text = b.back(url.Values{"code": q["code"], "state": {"x"}})
	assert.Equal(t, 409, status, text)
	status, text = b.back(q)
	require.Equal(t, 200, status, text)
	assert.Contains(t, get[tx.Actor](t, b, "/api/session").Name, "Tam Quayle")
	status, _ = b.back(q)
	assert.Equal(t, 409, status, "a way ends once")

	for why, who := range map[string]func(){
		"nobody here":      func() { at.As("18", "stranger@lockhouse.example", true, nil) },
		"not verified":     func() { at.As("19", "lead@lockhouse.example", false, nil) },
		"for another one":  func() { at.As("17", "", true, map[string]any{"aud": "another application"}) },
		"too old":          func() { at.As("17", "", true, map[string]any{"exp": 1000}) },
		"another question": func() { at.As("17", "", true, map[string]any{"nonce": "x"}) },
		"for another client": func() {
			at.As("17", "", true, map[string]any{"aud": []string{providertest.Client, "x"}, "azp": "x"})
		},
		"for nobody in particular": func() {
			at.As("17", "", true, map[string]any{"aud": []string{providertest.Client, "x"}})
		},
		"an address that looks like another": func() { at.As("21", "teacher@loc\u212Ahouse.example", true, nil) },
		"another issuer":                     func() { at.As("17", "", true, map[string]any{"iss": "https://id.example"}) },
	} {
		who()
		b := browser(t, base)
		status, text := b.back(b.out(`{"purpose":"sign-in"}`))
		assert.GreaterOrEqual(t, status, 400, why)
		assert.Less(t, status, 500, "%s: %s", why, text)
		status, _ = b.call("GET", "/api/session", "")
		assert.Equal(t, 401, status, why)
	}
}

// A provider that writes "true" as text has verified the address; one that fails half way is away, which is not a no.
func TestWhatAProviderMayAnswer(t *testing.T) {
	p := demoPlace(t)
	at, base := p.withProvider(t)
	at.As("31", "assistant@lockhouse.example", false, map[string]any{"email_verified": "true"})
	b := browser(t, base)
	status, text := b.back(b.out(`{"purpose":"sign-in"}`))
	require.Equal(t, 200, status, text)
	assert.Equal(t, tx.Assistant, get[tx.Actor](t, b, "/api/session").Role)

	b = browser(t, base)
	q := b.out(`{"purpose":"sign-in"}`)
	at.CloseClientConnections()
	at.Close()
	status, text = b.back(q)
	assert.Equal(t, 503, status, text)
	assert.Contains(t, text, "provider-away")
}

func TestConnectingAProvider(t *testing.T) {
	p := demoPlace(t)
	at, base := p.withProvider(t)
	at.As("20", "private@canal.example", true, nil)
	b := browser(t, base)
	q := b.out(`{"purpose":"connect"}`)
	status, _ := b.back(q)
	assert.Equal(t, 401, status, "nobody is signed in")
	status, text := b.call("POST", "/api/session", signInBody(1, demoPassword(1)))
	require.Equal(t, 200, status, text)
	status, text = b.back(b.out(`{"purpose":"connect"}`))
	require.Equal(t, 200, status, text)
	assert.NotNil(t, get[people.ConnectedView](t, b, "/api/session/provider").Since)
	other := browser(t, base)
	status, text = other.back(other.out(`{"purpose":"sign-in"}`))
	require.Equal(t, 200, status, text)
	assert.Equal(t, "Tam Quayle", get[tx.Actor](t, other, "/api/session").Name)
	status, text = b.call("DELETE", "/api/session/provider", "")
	require.Equal(t, 200, status, text)
	status, text = other.back(other.out(`{"purpose":"sign-in"}`))
	assert.Equal(t, 422, status, text)

	at.Close()
	status, text = browser(t, base).call("POST", "/api/session/provider", `{"purpose":"sign-in"}`)
	assert.Equal(t, 200, status, "the provider's addresses are known by now: %s", text)
}

func TestAProviderThatIsAway(t *testing.T) {
	p := demoPlace(t)
	at, base := p.withProvider(t)
	at.Close()
	status, text := browser(t, base).call("POST", "/api/session/provider", `{"purpose":"sign-in"}`)
	assert.Equal(t, 503, status)
	assert.Contains(t, text, "use your password")
	lead := p.signIn(t, 0)
	status, _ = lead.call("POST", "/api/session/provider", `{"purpose":"sign-in"}`)
	assert.Equal(t, 404, status, "where none is set up")
	for _, bad := range []provider.Settings{
		{Issuer: "http://id.example", Client: "x", Address: "https://x.example"},
		{Issuer: "https://id.example", Address: "https://x.example"},
		{Issuer: "https://id.example", Client: "x"},
	} {
		_, err := provider.Open(bad)
		assert.Error(t, err)
	}
	none, err := provider.Open(provider.Settings{})
	require.NoError(t, err)
	assert.Nil(t, none)
}

// The session of one team becomes one of another, and nothing of the first stays open.
func TestSwitchTeam(t *testing.T) {
	p := demoPlace(t)
	teacher := p.signIn(t, 1)
	_, err := p.Accounts.CreateTeam(t.Context(), people.NewTeam{
		Name: "Basin Nursery", Email: "teacher@lockhouse.example", LeadName: "Tam Quayle", Accent: "southern-british",
	})
	require.NoError(t, err)
	card := teacher.cardID("ai")
	stream := teacher.stream(t)
	type team struct {
		MemberID string `json:"member_id"`
		Team     string
	}
	mine := get[struct{ Teams []team }](t, teacher, "/api/session")
	require.Len(t, mine.Teams, 2)
	require.Equal(t, "Basin Nursery", mine.Teams[0].Team)
	status, text := teacher.call("PUT", "/api/session/team", `{"member_id":"`+mine.Teams[0].MemberID+`"}`)
	require.Equal(t, 200, status, text)
	ends(t, stream, "the stream of the former team")
	assert.Equal(t, tx.Lead, get[tx.Actor](t, teacher, "/api/session").Role)
	status, _ = teacher.call("GET", "/api/cards/"+card, "")
	assert.Equal(t, 404, status)
	status, _ = p.signIn(t, 2).call("PUT", "/api/session/team", `{"member_id":"`+mine.Teams[0].MemberID+`"}`)
	assert.Equal(t, 404, status, "somebody else's seat")
}

// A phone that was lent as the desk of a lesson becomes no way into the account.
func TestADeskConnectsNothing(t *testing.T) {
	p := demoPlace(t)
	at, base := p.withProvider(t)
	at.As("30", "stranger@canal.example", true, nil)
	teacher := p.signIn(t, 1)
	var code struct{ Code string }
	_, text := teacher.call("POST", "/api/lessons/"+teacher.anyLesson()+"/desks", "")
	require.NoError(t, json.Unmarshal([]byte(text), &code))
	phone := browser(t, base)
	status, text := phone.call("POST", "/api/desk", `{"code":"`+code.Code+`"}`)
	require.Equal(t, 200, status, text)
	status, text = phone.back(phone.out(`{"purpose":"connect"}`))
	assert.Equal(t, 403, status, text)
	status, _ = phone.call("PUT", "/api/session/team", `{"member_id":"`+teacher.id("/api/session")+`"}`)
	assert.Equal(t, 403, status)
	assert.Empty(t, get[struct{ Teams []any }](t, phone, "/api/session").Teams)
	stranger := browser(t, base)
	status, _ = stranger.back(stranger.out(`{"purpose":"sign-in"}`))
	assert.Equal(t, 422, status)
}
