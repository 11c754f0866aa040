package httpapi_test

import (
	"cmp"
	"context"
	"maps"
	"net/http"
	"net/url"
	"slices"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// hostile are values that no page sends: bytes that are no text, patterns, numbers without end, signs that turn a line
// round, very long text.
var hostile = []string{
	"%ff", "(", "-1", "%c3%28", "%00", "%ed%a0%80", "%", "*", "%5B", "%5C", "%27", "%22", "-1", "1e999", "NaN",
	"99999999999999999999", "%E2%80%AE", "..%2F..%2Fetc", "%7B%7D", strings.Repeat("a", 9000), strings.Repeat("%28", 500),
	"%F0%9F%A6%86", "0000-00-00", "9999-12-31", "-0001-01-01", "%0d%0aX-A:%20b",
}

// Nothing that stands in an address breaks a call: each parameter of each call that reads is given every such value,
// and the answer is a sentence, not an error of ours.
func TestNoAddressBreaksACall(t *testing.T) {
	p := demoPlace(t)
	lead := p.signIn(t, 0)
	c, err := described()
	require.NoError(t, err)
	card, lesson := lead.cardID("k"), lead.anyLesson()
	classes := get[[]struct {
		ClassID string `json:"class_id"`
	}](t, lead, "/api/classes")
	usual := map[string]string{"class": classes[0].ClassID, "card": card, "cards": card, "step": "1", "seed": "1"}
	values := hostile
	if testing.Short() {
		values = hostile[:3]
	}
	tried := 0
	ask := func(address string) {
		t.Helper()
		tried++
		ctx, stop := context.WithTimeout(t.Context(), 20*time.Second)
		defer stop()
		r, err := http.NewRequestWithContext(ctx, http.MethodGet, p.server.URL+"/api/x", nil)
		require.NoError(t, err)
		path, query, _ := strings.Cut(address, "?")
		r.URL.RawQuery = query
		if r.URL.Path, err = url.PathUnescape("/api" + path); err != nil {
			return // no client can send it
		}
		r.URL.RawPath = "/api" + path
		answer, err := lead.http.Do(r)
		if !assert.NoError(t, err, address) {
			return
		}
		_ = answer.Body.Close() // a stream of events has no end
		assert.Less(t, answer.StatusCode, 500, address[:min(len(address), 120)])
	}
	for at, o := range c.operations() {
		method, path, _ := strings.Cut(at, " ")
		if method != http.MethodGet {
			continue
		}
		fill := strings.NewReplacer("{id}", card, "{word}", "ship", "{table}", "cards")
		if strings.Contains(path, "/lessons/") {
			fill = strings.NewReplacer("{id}", lesson)
		}
		params, _ := o.body["parameters"].([]any)
		var names []string
		besides := url.Values{} // what the call needs beside the parameter that is tried
		for _, x := range params {
			x := x.(map[string]any)
			if x["in"] != "query" {
				continue
			}
			name := x["name"].(string)
			names = append(names, name)
			if required, _ := x["required"].(bool); required {
				besides.Set(name, cmp.Or(usual[name], "ship"))
			}
		}
		slices.Sort(names)
		for _, value := range values {
			for _, name := range names {
				others := maps.Clone(besides)
				others.Del(name)
				ask(fill.Replace(path) + "?" + name + "=" + value + "&" + others.Encode())
			}
			if i := strings.IndexByte(path, '{'); i >= 0 {
				ask(path[:i] + value + path[strings.IndexByte(path, '}')+1:])
			}
		}
	}
	assert.Greater(t, tried, 100*len(values))
}
