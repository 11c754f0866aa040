package convention_test

import (
	"encoding/json"
	"reflect"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"brightchalk/internal/core/convention"
)

// ownForms are the conventions that hold more than one value; each has a form of its own.
var ownForms = []string{
	"accent",
	"departures",
	"allowed",
	"words",
	"lines",
	"materials",
	"one_material",
	"together",
	"says.materials",
}

// keysOf lists the paths of all values of a struct in JSON.
func keysOf(t reflect.Type, prefix string) (out []string) {
	for i := range t.NumField() {
		f := t.Field(i)
		name, _, _ := strings.Cut(f.Tag.Get("json"), ",")
		if f.Type.Kind() == reflect.Struct && f.Type.PkgPath() != "brightchalk/internal/core/strokes" {
			out = append(out, keysOf(f.Type, prefix+name+".")...)
			continue
		}
		out = append(out, prefix+name)
	}
	return out
}

// A convention that is not described cannot be changed by a lead, and a teacher does not see what was agreed.
func TestEveryConventionIsDescribedOrHasAFormOfItsOwn(t *testing.T) {
	var described []string
	for _, s := range convention.Settings {
		described = append(described, s.Key)
		assert.NotEmpty(t, s.Label, s.Key)
		assert.NotEmpty(t, s.Effect, s.Key)
		assert.Equal(t, s.Kind == convention.Choice, len(s.Choices) > 1, s.Key)
		assert.Equal(t, s.Kind == convention.Words || s.Kind == convention.List, s.MaxLength > 0, s.Key)
		assert.True(t, s.Kind != convention.Switch || s.Otherwise != "", "%s: what holds otherwise?", s.Key)
	}
	assert.ElementsMatch(t, keysOf(reflect.TypeFor[convention.Conventions](), ""), append(described, ownForms...))
}

// Each choice is a value that the conventions accept.
func TestEveryChoiceCanBeStored(t *testing.T) {
	for _, s := range convention.Settings {
		offered := slices.ContainsFunc(s.Choices, func(c convention.Option) bool { return c.Value == s.Default })
		assert.Equal(t, s.Kind == convention.Choice, offered, "%s: what holds if none is stored?", s.Key)
		for _, c := range s.Choices {
			value, _ := json.Marshal(c.Value)
			text := string(value)
			parts := strings.Split(s.Key, ".")
			for i := len(parts) - 1; i >= 0; i-- {
				text = `{"` + parts[i] + `":` + text + `}`
			}
			var conv convention.Conventions
			require.NoError(t, json.Unmarshal([]byte(text), &conv))
			back, err := json.Marshal(conv)
			require.NoError(t, err)
			assert.Contains(t, string(back), string(value), "%s=%s", s.Key, c.Value)
		}
	}
}
