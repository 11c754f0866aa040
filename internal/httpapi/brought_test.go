package httpapi_test

import (
	"encoding/json"
	"testing"

	"github.com/stretchr/testify/require"

	"brightchalk/internal/jobs"
)

// bundle is the whole library of the team of a client, as it goes out.
func (c client) bundle(t *testing.T) string {
	t.Helper()
	return c.made(`{"kind":"bundle","voiceless":true}`)
}

// made is the file of a job, which is done at once.
func (c client) made(ask string) string {
	c.t.Helper()
	status, body := c.call("POST", "/api/jobs", ask)
	require.Equal(c.t, 200, status, body)
	var j jobs.View
	require.NoError(c.t, json.Unmarshal([]byte(body), &j))
	require.NoError(c.t, c.work(c.t.Context(), j.JobID))
	status, data := c.call("GET", "/api/jobs/"+j.JobID+"/file", "")
	require.Equal(c.t, 200, status, data)
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
