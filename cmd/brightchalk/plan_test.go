package main

import (
	"strings"
	"testing"

	"brightchalk/internal/core/phoneme"
)

// An order of teaching is refused with a sentence or read, never a crash.
func FuzzOrder(f *testing.F) {
	f.Add("step,grapheme,sound,exception_words\n1,s,s,\n2,a,æ,\"the, to\"\n")
	f.Add("grapheme,step\n\"a\nb\",1")
	f.Fuzz(func(t *testing.T, text string) {
		rows, err := orderRows(phoneme.SouthernBritish, "order.csv", strings.NewReader(text))
		if err == nil && len(rows) == 0 {
			t.Fatal("no rows and no error")
		}
	})
}
