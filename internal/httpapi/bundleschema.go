package httpapi

import (
	"encoding/json"
	"reflect"

	"github.com/danielgtaylor/huma/v2"

	"brightchalk/internal/bundle"
)

// BundleSchema is the JSON Schema of a bundle's library.json as the types give it; bundle.Schema is what is published,
// a test holds it to this. A later version may add parts, so parts that it does not name are allowed.
func BundleSchema() ([]byte, error) {
	registry := huma.NewMapRegistry("#/$defs/", huma.DefaultSchemaNamer)
	registry.Schema(reflect.TypeFor[bundle.Library](), true, "Library")
	boundCards(registry.Map()["Card"])
	raw, err := json.Marshal(map[string]any{
		"$schema":     "https://json-schema.org/draft/2020-12/schema",
		"title":       "Bright Chalk bundle: library.json",
		"description": "A team's library for introducing graphemes. Beside it stand pictures/, takes/ and recordings/.",
		"$ref":        "#/$defs/Library",
		"$defs":       registry.Map(),
	})
	if err != nil {
		return nil, err
	}
	var doc any
	if err := json.Unmarshal(raw, &doc); err != nil {
		return nil, err
	}
	return json.MarshalIndent(opened(doc), "", " ")
}

// opened lets go of what closes objects.
func opened(doc any) any {
	switch d := doc.(type) {
	case map[string]any:
		if d["additionalProperties"] == false {
			delete(d, "additionalProperties")
		}
		for k, v := range d {
			d[k] = opened(v)
		}
	case []any:
		for i, v := range d {
			d[i] = opened(v)
		}
	}
	return doc
}
