package httpapi_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"brightchalk/internal/bundle"
	"brightchalk/internal/httpapi"
)

// What is published of the form of a bundle is what is written.
func TestThePublishedBundleSchemaIsTrue(t *testing.T) {
	made, err := httpapi.BundleSchema()
	require.NoError(t, err)
	made = append(made, '\n')
	assert.Equal(t, string(made), string(bundle.Schema), "./chalk schema renews it")
}
