package app_test

import (
	"archive/zip"
	"bytes"
	"context"
	"encoding/json"
	"io"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"brightchalk/internal/bundle"
	"brightchalk/internal/exchange"
)

// rezipped is a bundle of which each file goes through a function; one that gives nil is left out.
func rezipped(t *testing.T, data []byte, f func(name string, data []byte) (string, []byte)) []byte {
	t.Helper()
	in, err := zip.NewReader(bytes.NewReader(data), int64(len(data)))
	require.NoError(t, err)
	var out bytes.Buffer
	z := zip.NewWriter(&out)
	for _, file := range in.File {
		r, err := file.Open()
		require.NoError(t, err)
		text, err := io.ReadAll(r)
		require.NoError(t, err)
		name, text := f(file.Name, text)
		if text == nil {
			continue
		}
		h := zip.FileHeader{Name: name, Method: zip.Store}
		if strings.HasPrefix(file.Name, "carry") {
			h.Method = zip.Deflate
		}
		w, err := z.CreateHeader(&h)
		require.NoError(t, err)
		_, err = w.Write(text)
		require.NoError(t, err)
	}
	require.NoError(t, z.Close())
	return out.Bytes()
}

func TestABundleIsChecked(t *testing.T) {
	s := demoSchool(t)
	var out bytes.Buffer
	require.NoError(t, s.Exports.Bundle(context.Background(), s.lead, exchange.BundleAsk{Class: s.class}, &out))
	whole := out.Bytes()
	r, err := bundle.Check(whole)
	require.NoError(t, err)
	assert.Equal(t, 79, r.Cards)
	assert.Equal(t, 34, r.Agreed)
	assert.Positive(t, r.Takes)
	assert.Positive(t, r.Pictures)
	assert.Positive(t, r.Texts)
	for _, f := range r.Findings {
		assert.Equal(t, "library", f.Code, "of what we write only what the audit says too: %v", f)
	}

	picture, take := "pictures/"+s.cards["m"], "takes/"+s.cards["m"]
	library := func(change func(map[string]any)) func(string, []byte) (string, []byte) {
		return func(name string, data []byte) (string, []byte) {
			if name != "library.json" {
				return name, data
			}
			var b map[string]any
			require.NoError(t, json.Unmarshal(data, &b))
			change(b)
			data, err := json.Marshal(b)
			require.NoError(t, err)
			return name, data
		}
	}
	on := func(prefix string, to func([]byte) (string, []byte)) func(string, []byte) (string, []byte) {
		return func(name string, data []byte) (string, []byte) {
			if strings.HasPrefix(name, prefix) {
				renamed, data := to(data)
				if renamed != "" {
					name = renamed
				}
				return name, data
			}
			return name, data
		}
	}
	for code, change := range map[string]func(string, []byte) (string, []byte){
		"missing-file": on(take, func([]byte) (string, []byte) { return "", nil }),
		"changed-file": on(picture, func(d []byte) (string, []byte) { return "", append(d, '\n') }),
		"take":         on(take, func(d []byte) (string, []byte) { return "", d[:20] }),
		"picture":      on(picture, func([]byte) (string, []byte) { return "", []byte("<svg") }),
		"path":         on("carry-pack", func(d []byte) (string, []byte) { return "../../etc/passwd", d }),
		"unknown-file": on("carry-pack", func(d []byte) (string, []byte) { return "run.exe", d }),
		"unknown-card": library(func(b map[string]any) { b["taught"] = []string{"nobody"} }),
		"card": library(func(b map[string]any) {
			cards, _ := b["cards"].([]any)
			b["cards"] = append(cards, cards[0])
		}),
	} {
		r, err := bundle.Check(rezipped(t, whole, change))
		require.NoError(t, err, code)
		var codes []string
		for _, f := range r.Findings {
			codes = append(codes, f.Code)
		}
		assert.Contains(t, codes, code)
	}
	zeros := func(megabytes int) func(string, []byte) (string, []byte) {
		return on("carry", func([]byte) (string, []byte) { return "", make([]byte, megabytes<<20) })
	}
	for why, bad := range map[string][]byte{
		"not a ZIP":        []byte("no bundle"),
		"no library.json":  rezipped(t, whole, on("library", func([]byte) (string, []byte) { return "", nil })),
		"cannot be read":   rezipped(t, whole, on("library", func([]byte) (string, []byte) { return "", []byte("{") })),
		"closer than":      rezipped(t, whole, zeros(32)),
		"its format is":    rezipped(t, whole, library(func(b map[string]any) { b["format"] = "else" })),
		"by a newer":       rezipped(t, whole, library(func(b map[string]any) { b["format"] = "bright-chalk-bundle 7" })),
		"too large when i": rezipped(t, whole, zeros(65)),
	} {
		_, err := bundle.Check(bad)
		require.ErrorIs(t, err, bundle.ErrBundle, why)
		assert.ErrorContains(t, err, why)
	}
}
