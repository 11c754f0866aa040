package httpapi

import (
	"bytes"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

func TestEmptyListsAreNeverNull(t *testing.T) {
	var b bytes.Buffer
	require.NoError(t, answers.Marshal(&b, struct {
		List    []string       `json:"list"`
		Left    []string       `json:"left,omitempty"`
		Numbers map[string]int `json:"numbers"`
		Zero    int            `json:"zero,omitempty"`
		Sign    string         `json:"sign"`
	}{Sign: "<ð>"}))
	assert.Equal(t, `{"list":[],"numbers":{},"sign":"<ð>"}`, b.String())
}
