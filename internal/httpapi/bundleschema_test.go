package httpapi_test

import (
	"encoding/json"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"brightchalk/internal/bundle"
	"brightchalk/internal/core/card"
	"brightchalk/internal/httpapi"
)

// What is published of the form of a bundle is what is written.
func TestThePublishedBundleSchemaIsTrue(t *testing.T) {
	made, err := httpapi.BundleSchema()
	require.NoError(t, err)
	made = append(made, '\n')
	assert.Equal(t, string(made), string(bundle.Schema), "./chalk schema renews it")
}

// A bundle comes from outside: each field of a card that it brings is bounded as on the card's own page.
func TestTheCardsOfABundleAreBounded(t *testing.T) {
	raw, err := httpapi.BundleSchema()
	require.NoError(t, err)
	var doc struct {
		Defs map[string]struct {
			Properties map[string]struct{ MaxLength, MaxItems int }
		} `json:"$defs"`
	}
	require.NoError(t, json.Unmarshal(raw, &doc))
	for _, f := range card.Fields {
		got := doc.Defs["Card"].Properties[f.Name]
		assert.Equal(t, [2]int{f.MaxLength, f.MaxItems}, [2]int{got.MaxLength, got.MaxItems}, f.Name)
	}
}
