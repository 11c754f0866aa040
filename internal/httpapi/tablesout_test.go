package httpapi_test

import (
	"encoding/json"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"brightchalk/internal/store"
)

// A spreadsheet opens our tables with their phonetic signs, and works nothing out of what somebody wrote: each begins
// with a byte-order mark, and a cell that would be a formula begins with a quote.
func TestTablesOpenInASpreadsheet(t *testing.T) {
	p := demoPlace(t)
	lead := p.signIn(t, 0)
	class := get[[]store.Class](t, lead, "/api/classes")[0]
	_, body := lead.call("GET", "/api/school-year", "")
	var year map[string]any
	require.NoError(t, json.Unmarshal([]byte(body), &year))
	terms := year["school"].(map[string]any)["terms"].([]any)
	require.NotEmpty(t, terms)
	for _, term := range terms {
		term.(map[string]any)["name"] = `=HYPERLINK("http://x.example")`
	}
	changed, err := json.Marshal(year)
	require.NoError(t, err)
	status, body := lead.call("PUT", "/api/school-year", string(changed))
	require.Equal(t, 200, status, body)
	for _, path := range []string{
		"/api/order.csv", "/api/classes/" + class.ClassID + "/year.csv", "/api/classes/" + class.ClassID + "/log.csv",
		"/api/hearings.csv",
	} {
		status, table := lead.call("GET", path, "")
		require.Equal(t, 200, status, path)
		assert.True(t, strings.HasPrefix(table, "\ufeff"), "%s begins with a byte-order mark", path)
		assert.NotRegexp(t, `(^|[,\n"])=`, table, path)
	}
	_, table := lead.call("GET", "/api/classes/"+class.ClassID+"/year.csv", "")
	assert.Contains(t, table, "'=HYPERLINK", "the name of the term is there, as a text")
}
