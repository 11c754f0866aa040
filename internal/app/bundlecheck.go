package app

import (
	"archive/zip"
	"bytes"
	"crypto/sha256"
	"fmt"
	"io"
	"path"
	"slices"
	"strings"

	"brightchalk/internal/core/audit"
	"brightchalk/internal/core/card"
	"brightchalk/internal/core/fault"
	"brightchalk/internal/core/phoneme"
	"brightchalk/internal/core/spelling"
	"brightchalk/internal/media"
)

// Bounds of a bundle: what is larger, or packed closer than files are, is not opened.
const (
	mostFiles      = 4000
	mostUnpacked   = 1 << 30 // bytes of all files
	mostInOneFile  = 64 << 20
	closestPacking = 200 // times
)

// BundleFinding is something that is wrong with a bundle.
type BundleFinding struct {
	Code  string `json:"code"` // path, twice, unknown-file, missing-file, changed-file, picture, take, card, unknown-card, library
	Where string `json:"where"`
	Text  string `json:"text"`
}

// BundleReport is what a bundle holds and what is wrong with it.
type BundleReport struct {
	Format   string          `json:"format"`
	Team     string          `json:"team"`
	Accent   phoneme.Accent  `json:"accent"`
	Cards    int             `json:"cards"`
	Agreed   int             `json:"agreed"`
	Pictures int             `json:"pictures"`
	Takes    int             `json:"takes"`
	Texts    int             `json:"texts"`
	Letters  int             `json:"letters"` // forms of the team's own
	Class    string          `json:"class,omitempty"`
	Findings []BundleFinding `json:"findings"`
}

// CheckBundle looks through a bundle. What is none, is too large or was made by a newer version is an error; everything
// else that is wrong is a finding.
func CheckBundle(data []byte) (BundleReport, error) {
	r := BundleReport{Findings: []BundleFinding{}}
	z, err := zip.NewReader(bytes.NewReader(data), int64(len(data)))
	if err != nil {
		return r, fault.New(ErrBundle, "this is no bundle of Bright Chalk: it is not a ZIP file")
	}
	if err := bounded(z); err != nil {
		return r, err
	}
	b, err := ReadBundle(data)
	if err != nil {
		return r, err
	}
	r.Format, r.Team, r.Accent, r.Class = b.Format, b.Team, b.Conventions.Accent, b.Class
	r.Cards, r.Texts, r.Letters = len(b.Cards), len(b.Bank), len(b.Letters)
	files := r.names(z)
	if r.cards(b) {
		for _, f := range (audit.Library{Team: b.Conventions, Cards: b.Cards}).Look() {
			at := slices.IndexFunc(b.Cards, func(c card.Card) bool { return c.ID == f.Cards[0] })
			r.find("library", b.Cards[at].Pair.String(), "%s", f.Text)
		}
	}
	for _, c := range b.Cards {
		if c.State == card.Agreed {
			r.Agreed++
		}
		r.picture(c, files)
		r.take(c, files)
	}
	for _, id := range b.Taught {
		if !slices.ContainsFunc(b.Cards, func(c card.Card) bool { return c.ID == id }) {
			r.find("unknown-card", id, "the class was taught a card that is not in the bundle")
		}
	}
	return r, nil
}

func bounded(z *zip.Reader) error {
	if len(z.File) > mostFiles {
		return fault.New(ErrBundle, "the bundle holds %d files; %d are the most", len(z.File), mostFiles)
	}
	var all uint64
	for _, f := range z.File {
		all += f.UncompressedSize64
		if f.UncompressedSize64 > mostInOneFile || all > mostUnpacked {
			return fault.New(ErrBundle, "the bundle is too large when it is unpacked: %s", f.Name)
		}
		if f.UncompressedSize64 > closestPacking*max(1024, f.CompressedSize64) {
			return fault.New(ErrBundle, "%s in the bundle is packed closer than files are", f.Name)
		}
	}
	return nil
}

func (r *BundleReport) find(code, where, format string, args ...any) {
	r.Findings = append(r.Findings, BundleFinding{code, where, fmt.Sprintf(format, args...)})
}

// names looks at the names of the files, and gives the files by them.
func (r *BundleReport) names(z *zip.Reader) map[string]*zip.File {
	files := map[string]*zip.File{}
	for _, f := range z.File {
		folder, _ := path.Split(f.Name)
		switch {
		case strings.Contains(f.Name, "\\") || path.Clean("/"+f.Name) != "/"+strings.TrimSuffix(f.Name, "/"):
			r.find("path", f.Name, "a file of this name would lie outside the bundle")
			continue
		case files[f.Name] != nil:
			r.find("twice", f.Name, "the file stands there twice")
		case !slices.Contains([]string{"pictures/", "takes/"}, folder) &&
			!slices.Contains([]string{"library.json", "carry-pack.html"}, f.Name):
			r.find("unknown-file", f.Name, "nothing in a bundle has this name")
		}
		files[f.Name] = f
	}
	return files
}

// cards looks at the cards themselves, and tells whether the library can be looked over.
func (r *BundleReport) cards(b Bundle) bool {
	if _, err := phoneme.ParseAccent(string(b.Conventions.Accent)); err != nil {
		r.find("card", "conventions", "%v", err)
		return false
	}
	fine, ids, pairs := true, map[string]bool{}, map[spelling.Pair]bool{}
	for _, c := range b.Cards {
		if _, err := phoneme.Parse(b.Conventions.For(c.Content).Accent, c.Pair.Sound); err != nil || c.Pair.Grapheme == "" {
			r.find("card", c.ID, "%s is no pair of this accent", c.Pair)
			fine = false
		}
		if c.ID == "" || ids[c.ID] || strings.ContainsAny(c.ID, "/\\.") {
			r.find("card", c.ID, "the id of the card of %s is missing, twice there, or no id", c.Pair)
		}
		if pairs[c.Pair] {
			r.find("card", c.ID, "%s has two cards", c.Pair)
		}
		ids[c.ID], pairs[c.Pair] = true, true
	}
	return fine
}

func (r *BundleReport) picture(c card.Card, files map[string]*zip.File) {
	if c.Picture == "" {
		return
	}
	f := files["pictures/"+c.ID+".svg"]
	if f == nil {
		f = files["pictures/"+c.ID+".png"]
	}
	if f == nil {
		r.find("missing-file", "pictures/"+c.ID, "the picture of %s is not in the bundle", c.Pair)
		return
	}
	data, err := unpacked(f)
	if err != nil {
		r.find("picture", f.Name, "the picture cannot be unpacked: %v", err)
		return
	}
	r.Pictures++
	if fmt.Sprintf("%x", sha256.Sum256(data)) != c.Picture {
		r.find("changed-file", f.Name, "the picture of %s is not the one that its card names", c.Pair)
	}
	if _, err := media.CleanPicture(data); err != nil {
		r.find("picture", f.Name, "the picture of %s cannot be used: %v", c.Pair, err)
	}
}

func (r *BundleReport) take(c card.Card, files map[string]*zip.File) {
	f := files["takes/"+c.ID+".wav"]
	if f == nil {
		if c.HasTake {
			r.find("missing-file", "takes/"+c.ID+".wav", "the take of %s is not in the bundle", c.Pair)
		}
		return
	}
	data, err := unpacked(f)
	if err == nil {
		_, err = media.DecodeSound(data)
	}
	if err != nil {
		r.find("take", f.Name, "the take of %s cannot be used: %v", c.Pair, err)
		return
	}
	r.Takes++
}

// unpacked is a file of a bundle, with its checksum compared.
func unpacked(f *zip.File) ([]byte, error) {
	in, err := f.Open()
	if err != nil {
		return nil, err
	}
	defer func() { _ = in.Close() }()
	return io.ReadAll(io.LimitReader(in, mostInOneFile))
}
