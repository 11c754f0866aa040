package bundle

import (
	"archive/zip"
	"bytes"
	"crypto/sha256"
	"errors"
	"fmt"
	"io"
	"path"
	"slices"
	"strings"

	"brightchalk/internal/core/card"
	"brightchalk/internal/core/fault"
)

// Bounds of a bundle: what is larger, or packed closer than files are, is not opened.
const (
	maxFiles       = 4000
	maxUnpacked    = 1 << 30 // bytes of all files
	maxInOneFile   = 64 << 20
	closestPacking = 200 // times
)

// ErrNoFile says that a bundle lacks a file.
var ErrNoFile = errors.New("not in the bundle")

// Archive is an opened bundle.
type Archive struct {
	Library  Library
	Findings []Finding // about names, and what does not fit the schema
	files    map[string]func() ([]byte, error)
}

// Unpacked is a bundle whose files lie elsewhere.
func Unpacked(b Library, findings []Finding, files map[string]func() ([]byte, error)) *Archive {
	return &Archive{b, findings, files}
}

// Open opens a bundle. Its error names why it is none, is too large or was made by a newer version.
func Open(data []byte) (*Archive, error) {
	z, err := zip.NewReader(bytes.NewReader(data), int64(len(data)))
	if err != nil {
		return nil, notOne("it is not a ZIP file")
	}
	if err := bounded(z); err != nil {
		return nil, err
	}
	text, err := newLibrary(z)
	if err != nil {
		return nil, err
	}
	b, err := parse(text)
	if err != nil {
		return nil, err
	}
	a := &Archive{Library: b, files: map[string]func() ([]byte, error){}}
	for _, v := range Violations(text) {
		a.find("schema", v.Where, "%s", v.Text)
	}
	a.names(z)
	return a, nil
}

func bounded(z *zip.Reader) error {
	if len(z.File) > maxFiles {
		return fault.New(ErrBundle, "the bundle holds %d files; %d are the most", len(z.File), maxFiles)
	}
	var all uint64
	for _, f := range z.File {
		all += f.UncompressedSize64
		if f.UncompressedSize64 > maxInOneFile || all > maxUnpacked {
			return fault.New(ErrBundle, "the bundle is too large when it is unpacked: %s", f.Name)
		}
		if f.UncompressedSize64 > closestPacking*max(1024, f.CompressedSize64) {
			return fault.New(ErrBundle, "%s in the bundle is packed closer than files are", f.Name)
		}
	}
	return nil
}

func (a *Archive) find(code, where, format string, args ...any) {
	a.Findings = append(a.Findings, Finding{code, where, fmt.Sprintf(format, args...)})
}

var folders = []string{"pictures/", "takes/", "recordings/"}

// names takes in the files by their names. One whose name would lead out of the bundle is not taken.
func (a *Archive) names(z *zip.Reader) {
	for _, f := range z.File {
		folder, _ := path.Split(f.Name)
		switch {
		case strings.Contains(f.Name, "\\") || path.Clean("/"+f.Name) != "/"+strings.TrimSuffix(f.Name, "/"):
			a.find("path", f.Name, "a file of this name would lie outside the bundle")
			continue
		case a.files[f.Name] != nil:
			a.find("twice", f.Name, "the file stands there twice")
		case !slices.Contains(folders, folder) && !slices.Contains([]string{"library.json", "carry-pack.html"}, f.Name):
			a.find("unknown-file", f.Name, "nothing in a bundle has this name")
		}
		a.files[f.Name] = func() ([]byte, error) {
			in, err := f.Open()
			if err != nil {
				return nil, err
			}
			defer func() { _ = in.Close() }()
			return io.ReadAll(io.LimitReader(in, maxInOneFile))
		}
	}
}

// File unpacks a file, with its checksum compared; ErrNoFile where it is not there.
func (a *Archive) File(name string) ([]byte, error) {
	f := a.files[name]
	if f == nil {
		return nil, ErrNoFile
	}
	return f()
}

// Picture is the picture of a card with the name of its file, empty where it is not there.
func (a *Archive) Picture(c card.Card) (string, []byte, error) { return a.letters("pictures/" + c.ID) }

// Named is the picture of a word with the name of its file, empty where it is not there.
func (a *Archive) Named(p Picture) (string, []byte, error) {
	return a.letters("pictures/word-" + p.Name)
}

func (a *Archive) letters(stem string) (string, []byte, error) {
	name, ok := a.has(stem, ".svg", ".png")
	if !ok {
		return "", nil, ErrNoFile
	}
	data, err := a.File(name)
	return name, data, err
}

// Sum is the SHA-256 of a file in hex.
func Sum(data []byte) string { return fmt.Sprintf("%x", sha256.Sum256(data)) }
