package bundle

import (
	"errors"
	"fmt"
	"slices"
	"strings"

	"brightchalk/internal/core/audit"
	"brightchalk/internal/core/card"
	"brightchalk/internal/core/phoneme"
	"brightchalk/internal/core/spelling"
	"brightchalk/internal/media"
)

// Finding is something that is wrong with a bundle.
type Finding struct {
	Code  string `json:"code"` // schema, path, twice, unknown-file, missing-file, changed-file, picture, take, card, unknown-card, library
	Where string `json:"where"`
	Text  string `json:"text"`
}

// Report is what a bundle holds and what is wrong with it.
type Report struct {
	Format   string         `json:"format"`
	Team     string         `json:"team"`
	Accent   phoneme.Accent `json:"accent"`
	Cards    int            `json:"cards"`
	Agreed   int            `json:"agreed"`
	Pictures int            `json:"pictures"`
	Takes    int            `json:"takes"`
	Texts    int            `json:"texts"`
	Letters  int            `json:"letters"` // forms of the team's own
	Class    string         `json:"class,omitempty"`
	Findings []Finding      `json:"findings"`
}

// Check looks through a bundle. What is none, is too large or was made by a newer version is an error; everything
// else that is wrong is a finding.
func Check(data []byte) (Report, error) {
	r := Report{Findings: []Finding{}}
	a, err := Open(data)
	if err != nil {
		return r, err
	}
	b := a.Library
	r.Format, r.Team, r.Accent, r.Class = b.Format, b.Team, b.Conventions.Accent, b.Class
	r.Cards, r.Texts, r.Letters = len(b.Cards), len(b.Bank), len(b.Letters)
	r.Findings = append(r.Findings, a.Findings...)
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
		r.picture(c, a)
		r.take(c, a)
	}
	for _, p := range b.Pictures {
		r.named(p, a)
	}
	for _, t := range b.Takes {
		r.recording(t, a)
	}
	for _, id := range b.Taught {
		if !slices.ContainsFunc(b.Cards, func(c card.Card) bool { return c.ID == id }) {
			r.find("unknown-card", id, "the class was taught a card that is not in the bundle")
		}
	}
	return r, nil
}

func (r *Report) find(code, where, format string, args ...any) {
	r.Findings = append(r.Findings, Finding{code, where, fmt.Sprintf(format, args...)})
}

// cards looks at the cards themselves, and tells whether the library can be looked over.
func (r *Report) cards(b Library) bool {
	if _, err := phoneme.ParseAccent(string(b.Conventions.Accent)); err != nil {
		r.find("card", "conventions", "%v", err)
		return false
	}
	fine, ids, pairs := true, map[string]bool{}, map[spelling.Pair]bool{}
	for _, c := range b.Cards {
		if _, err := phoneme.Parse(c.Content.Conventions(b.Conventions).Accent, c.Pair.Sound); err != nil ||
			c.Pair.Grapheme == "" {
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

func (r *Report) picture(c card.Card, a *Archive) {
	if c.Picture == "" {
		return
	}
	name, data, err := a.Picture(c)
	if name == "" {
		r.find("missing-file", "pictures/"+c.ID, "the picture of %s is not in the bundle", c.Pair)
		return
	}
	r.looked(name, fmt.Sprintf("the picture of %s", c.Pair), data, err, c.Picture)
}

func (r *Report) named(p Picture, a *Archive) {
	name, data, err := a.Named(p)
	if name == "" {
		r.find("missing-file", "pictures/word-"+p.Name, "the picture of “%s” is not in the bundle", p.Name)
		return
	}
	r.looked(name, fmt.Sprintf("the picture of “%s”", p.Name), data, err, p.SHA256)
}

// looked looks at a picture that should have a sum.
func (r *Report) looked(file, what string, data []byte, err error, sum string) {
	if err != nil {
		r.find("picture", file, "%s cannot be unpacked: %v", what, err)
		return
	}
	r.Pictures++
	if Sum(data) != sum {
		r.find("changed-file", file, "%s is not the one that its card names", what)
	}
	if _, err := media.CleanPicture(data); err != nil {
		r.find("picture", file, "%s cannot be used: %v", what, err)
	}
}

func (r *Report) take(c card.Card, a *Archive) {
	name := "takes/" + c.ID + ".wav"
	data, err := a.File(name)
	if errors.Is(err, ErrNoFile) {
		if c.HasTake {
			r.find("missing-file", name, "the take of %s is not in the bundle", c.Pair)
		}
		return
	}
	if err == nil {
		_, err = media.DecodeSound(data)
	}
	if err != nil {
		r.find("take", name, "the take of %s cannot be used: %v", c.Pair, err)
		return
	}
	r.Takes++
}

func (r *Report) recording(t Take, a *Archive) {
	data, err := a.File(t.File)
	switch {
	case errors.Is(err, ErrNoFile):
		r.find("missing-file", t.File, "the recording is not in the bundle")
	case err != nil:
		r.find("take", t.File, "the recording cannot be unpacked: %v", err)
	case Sum(data) != t.SHA256:
		r.find("changed-file", t.File, "the recording is not the one that the library names")
	}
}
