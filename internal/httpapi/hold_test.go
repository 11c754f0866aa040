package httpapi

import (
	"context"
	"net/http/httptest"
	"os"
	"regexp"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

func TestEveryPageHasItsRoot(t *testing.T) {
	router, err := os.ReadFile("../../web/src/app/router.tsx")
	require.NoError(t, err)
	found := regexp.MustCompile(`path: '/([a-z-]*)`).FindAllStringSubmatch(string(router), -1)
	require.Greater(t, len(found), 10)
	for _, m := range found {
		assert.Contains(t, pageRoots, m[1])
	}
	for _, root := range pageRoots {
		assert.True(t, root == "index.html" || strings.Contains(string(router), "path: '/"+root), root)
	}
}

// Outside loopback the cookie is Secure, for this host alone, and not read by scripts.
func TestTheCookieIsSecure(t *testing.T) {
	m := sessionsOn(nil, Options{})
	w := httptest.NewRecorder()
	m.WriteSessionCookie(context.Background(), w, "token", time.Now().Add(time.Hour))
	line := w.Header().Get("Set-Cookie")
	for _, part := range []string{"__Host-bright_chalk=token", "Path=/", "Secure", "HttpOnly", "SameSite=Lax"} {
		assert.Contains(t, line, part)
	}
	assert.NotContains(t, line, "Domain")
	assert.Equal(t, cookieName, sessionsOn(nil, Options{PlainCookies: true}).Cookie.Name)
}

// A session that cannot be read, as a former version wrote it, is nobody's.
func TestAnOldSessionIsNobodys(t *testing.T) {
	_, values, err := plainSession{}.Decode([]byte("\x0d\x7f\x04\x01\x02\xff\x80"))
	require.NoError(t, err)
	assert.Empty(t, values)
	until := time.Now().Add(time.Hour).Round(0)
	data, err := plainSession{}.Encode(until, map[string]any{"member": "m", "epoch": 3, "seen": int64(7)})
	require.NoError(t, err)
	back, values, err := plainSession{}.Decode(data)
	require.NoError(t, err)
	assert.True(t, until.Equal(back))
	assert.Equal(t, map[string]any{"member": "m", "epoch": 3, "seen": int64(7)}, values)
}
