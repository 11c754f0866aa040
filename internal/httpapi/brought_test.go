package httpapi_test

import (
	"encoding/json"
	"testing"

	"github.com/stretchr/testify/require"
)

// bundle is the whole library of the team of a client, as it goes out.
func (c client) bundle(t *testing.T) string {
	t.Helper()
	status, data := c.call("GET", "/api/bundle.zip?voiceless=true", "")
	require.Equal(t, 200, status)
	return data
}

// brought brings in two tables of words and a bundle, and gives their ids.
func (c client) brought(t *testing.T) (tables [2]string, theirs string) {
	t.Helper()
	bring := func(name, data string) string {
		var parcel struct {
			ID string `json:"parcel_id"`
		}
		status, answer := c.call("POST", "/api/parcels?name="+name, data)
		require.Equal(t, 200, status, answer)
		require.NoError(t, json.Unmarshal([]byte(answer), &parcel))
		return parcel.ID
	}
	for i := range tables {
		tables[i] = bring("words.csv", "word,spelling\nbarge,b\nbilge,b\n")
	}
	return tables, bring("theirs.zip", c.bundle(t))
}
