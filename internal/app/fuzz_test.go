package app_test

import (
	"archive/zip"
	"bytes"
	"testing"

	"brightchalk/internal/bundle"
	"brightchalk/internal/core/lesson"
	"brightchalk/internal/core/spelling"
)

// A bundle may come from anywhere.
func FuzzReadBundle(f *testing.F) {
	var b bytes.Buffer
	z := zip.NewWriter(&b)
	w, _ := z.Create("library.json")
	_, _ = w.Write([]byte(`{"format":"bright-chalk-bundle 1","cards":[{"pair":{"grapheme":"s","sound":"s"}}]}`))
	_ = z.Close()
	f.Add(b.Bytes())
	f.Add([]byte("PK\x05\x06"))
	f.Fuzz(func(_ *testing.T, data []byte) {
		read, err := bundle.Read(data)
		if err != nil {
			return
		}
		read.Lesson(lesson.Introduce)
		_, _ = read.Input(spelling.Pair{Grapheme: "s", Sound: "s"})
	})
}
