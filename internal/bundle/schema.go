package bundle

import (
	"bytes"
	_ "embed"
	"errors"
	"slices"
	"strings"
	"sync"

	"github.com/santhosh-tekuri/jsonschema/v6"
	"golang.org/x/text/language"
	"golang.org/x/text/message"
)

// Schema is the JSON Schema (2020-12) of library.json, as it is published.
//
//go:embed bundle.schema.json
var Schema []byte

var compiled = sync.OnceValue(func() *jsonschema.Schema {
	doc, err := jsonschema.UnmarshalJSON(bytes.NewReader(Schema))
	if err != nil {
		panic(err)
	}
	c := jsonschema.NewCompiler()
	c.DefaultDraft(jsonschema.Draft2020)
	if err := c.AddResource("bundle.schema.json", doc); err != nil {
		panic(err)
	}
	return c.MustCompile("bundle.schema.json")
})

// Violation is where a library does not fit the schema.
type Violation struct{ Where, Text string }

const maxViolations = 20

// Violations are the first places where the text of a library.json does not fit the schema.
func Violations(text []byte) []Violation {
	doc, err := jsonschema.UnmarshalJSON(bytes.NewReader(text))
	if err != nil {
		return []Violation{{"/", err.Error()}}
	}
	var invalid *jsonschema.ValidationError
	if err := compiled().Validate(doc); !errors.As(err, &invalid) {
		return nil
	}
	out := leaves(invalid, message.NewPrinter(language.English))
	slices.SortStableFunc(out, func(a, b Violation) int { return strings.Compare(a.Where, b.Where) })
	return out[:min(len(out), maxViolations)]
}

func leaves(e *jsonschema.ValidationError, p *message.Printer) []Violation {
	if len(e.Causes) == 0 {
		return []Violation{{"/" + strings.Join(e.InstanceLocation, "/"), e.ErrorKind.LocalizedString(p)}}
	}
	var out []Violation
	for _, c := range e.Causes {
		out = append(out, leaves(c, p)...)
	}
	return out
}
