package httpapi

import (
	"os"
	"regexp"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

func TestEveryPageHasItsRoot(t *testing.T) {
	router, err := os.ReadFile("../../web/src/app/router.tsx")
	require.NoError(t, err)
	found := regexp.MustCompile(`path: '/([a-z]*)`).FindAllStringSubmatch(string(router), -1)
	require.Greater(t, len(found), 10)
	for _, m := range found {
		assert.Contains(t, pageRoots, m[1])
	}
	for _, root := range pageRoots {
		assert.True(t, root == "index.html" || strings.Contains(string(router), "path: '/"+root), root)
	}
}
