// Package document gives what is stored as JSON a version number, and reads older versions as if they were today's.
package document

import (
	"encoding/json"
	"fmt"
	"strings"
)

// Kind is a kind of stored document. Steps holds what brings version i+1 to version i+2, so that the newest version is
// one more than there are steps. A document without a number is of version 1.
type Kind[T any] struct {
	Name  string
	Steps []func(fields map[string]any)
}

const versionKey = "version"

// Version is the newest version.
func (k Kind[T]) Version() int { return len(k.Steps) + 1 }

// Read reads a document of any version up to the newest; a newer one is refused, since what it says is not known here.
func (k Kind[T]) Read(data []byte) (T, error) {
	var out T
	var mark struct {
		Version int `json:"version"`
	}
	if err := json.Unmarshal(data, &mark); err != nil {
		return out, fmt.Errorf("read %s: %w", k.Name, err)
	}
	if strings.TrimSpace(string(data)) == "null" {
		return out, fmt.Errorf("read %s: there is none", k.Name)
	}
	version := max(1, mark.Version)
	if version > k.Version() {
		return out, fmt.Errorf("read %s: version %d is newer than %d", k.Name, version, k.Version())
	}
	if version < k.Version() {
		var fields map[string]any
		if err := json.Unmarshal(data, &fields); err != nil {
			return out, fmt.Errorf("read %s: %w", k.Name, err)
		}
		for _, step := range k.Steps[version-1:] {
			step(fields)
		}
		var err error
		if data, err = json.Marshal(fields); err != nil {
			return out, fmt.Errorf("read %s: %w", k.Name, err)
		}
	}
	if err := json.Unmarshal(data, &out); err != nil {
		return out, fmt.Errorf("read %s: %w", k.Name, err)
	}
	return out, nil
}

// Write writes a document with the newest version's number.
func (k Kind[T]) Write(v T) ([]byte, error) {
	data, err := json.Marshal(v)
	if err != nil {
		return nil, fmt.Errorf("write %s: %w", k.Name, err)
	}
	var fields map[string]json.RawMessage
	if err := json.Unmarshal(data, &fields); err != nil {
		return nil, fmt.Errorf("write %s: %w", k.Name, err)
	}
	fields[versionKey] = json.RawMessage(fmt.Sprint(k.Version()))
	return json.Marshal(fields)
}
