package document_test

import (
	"fmt"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"brightchalk/internal/core/document"
)

type note struct {
	Text  string   `json:"text"`
	Words []string `json:"words"`
}

// Version 1 had one word; 2 has a list; 3 has its text in another field.
var notes = document.Kind[note]{Name: "note", Steps: []func(map[string]any){
	func(f map[string]any) { f["words"] = []any{f["word"]} },
	func(f map[string]any) { f["text"] = f["body"] },
}}

func ExampleKind_Read() {
	n, err := notes.Read([]byte(`{"body":"A ship.","word":"ship"}`))
	fmt.Println(n.Text, n.Words, err)
	// Output: A ship. [ship] <nil>
}

func TestEachVersionIsReadAsTodays(t *testing.T) {
	want := note{"A ship.", []string{"ship"}}
	written, err := notes.Write(want)
	require.NoError(t, err)
	for _, data := range []string{
		`{"body":"A ship.","word":"ship"}`,
		`{"version":1,"body":"A ship.","word":"ship"}`,
		`{"version":2,"body":"A ship.","words":["ship"]}`,
		`{"version":3,"text":"A ship.","words":["ship"]}`,
		string(written),
	} {
		n, err := notes.Read([]byte(data))
		require.NoError(t, err, data)
		assert.Equal(t, want, n, data)
	}
	assert.JSONEq(t, `{"version":3,"text":"A ship.","words":["ship"]}`, string(written))
}

func TestWhatCannotBeReadIsAnError(t *testing.T) {
	for data, says := range map[string]string{
		`{"version":4}`:           "version 4 is newer than 3",
		`[]`:                      "read note",
		`{"version":3,"text":7}`:  "read note",
		`{"version":1,"body":{}}`: "read note",
	} {
		_, err := notes.Read([]byte(data))
		assert.ErrorContains(t, err, says, data)
	}
	_, err := document.Kind[int]{Name: "number"}.Write(3)
	assert.ErrorContains(t, err, "write number")
}
