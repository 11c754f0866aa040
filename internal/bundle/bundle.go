// Package bundle is a team's library in one ZIP file of open files: library.json by a published schema
// (bundle.schema.json), pictures, the sounds as they are played and as they were recorded, and the carry pack.
package bundle

import (
	"archive/zip"
	"bytes"
	"encoding/json"
	"io"
	"slices"
	"strings"

	"brightchalk/internal/core/assembly"
	"brightchalk/internal/core/card"
	"brightchalk/internal/core/convention"
	"brightchalk/internal/core/fault"
	"brightchalk/internal/core/knowledge"
	"brightchalk/internal/core/lesson"
	"brightchalk/internal/core/recording"
	"brightchalk/internal/core/review"
	"brightchalk/internal/core/spelling"
	"brightchalk/internal/core/strokes"
)

// Library is what a bundle says. A class may stand in it with what it has been taught.
type Library struct {
	Format      string                 `json:"format" doc:"bright-chalk-bundle and the number of the format"`
	Team        string                 `json:"team" maxLength:"200"`
	Conventions convention.Conventions `json:"conventions"`
	Routine     lesson.Routine         `json:"routine" doc:"for a new sound"`
	// those that the team has set for other purposes
	Routines map[lesson.Purpose]lesson.Routine `json:"routines,omitempty"`
	Cards    []card.Card                       `json:"cards" maxItems:"500" doc:"agreed versions where there are any, in teaching order"`
	Class    string                            `json:"class,omitempty"`
	Taught   []string                          `json:"taught,omitempty" doc:"card ids; without a class all cards before the target"`
	Log      []review.Seen                     `json:"log,omitempty"`
	Known    []string                          `json:"known,omitempty" doc:"exception words of the class"`
	Bank     []lesson.Text                     `json:"bank,omitempty" maxItems:"4000"`
	Letters  map[string]strokes.Letter         `json:"letters,omitempty" doc:"the team's own forms, by sign"`
	Pictures []Picture                         `json:"pictures,omitempty" maxItems:"2000" doc:"for ear games, by name"`
	Takes    []Take                            `json:"takes,omitempty" maxItems:"500" doc:"the chosen sounds"`
	Origins  []Origin                          `json:"origins,omitempty" maxItems:"4000" doc:"where things come from"`
}

// Picture is a picture of a word. Its file is pictures/word-NAME.svg or .png.
type Picture struct {
	Name   string   `json:"name" maxLength:"40"`
	Others []string `json:"others,omitempty" maxItems:"20" doc:"other names that children give it"`
	SHA256 string   `json:"sha256" maxLength:"64" doc:"of the file, in hex"`
}

// Take is the chosen sound of a card: takes/CARD.wav is how it is played, File how it was recorded.
type Take struct {
	Card      string         `json:"card"`
	Speaker   string         `json:"speaker" maxLength:"80" doc:"whose voice it is"`
	ConsentOn string         `json:"consent_on" format:"date" doc:"when the speaker agreed that it is kept"`
	File      string         `json:"file" maxLength:"120" doc:"the recording as it came in"`
	SHA256    string         `json:"sha256" maxLength:"64" doc:"of that file, in hex"`
	Trim      recording.Trim `json:"trim"`
	Plain     bool           `json:"plain,omitempty" doc:"played as recorded, without fixes"`
}

// Origin says where a thing comes from.
type Origin struct {
	Item    string `json:"item" maxLength:"2100" doc:"card ID, text BODY, letter SIGN, or medium SHA-256"`
	Maker   string `json:"maker,omitempty" maxLength:"200" doc:"who made it"`
	Licence string `json:"licence,omitempty" maxLength:"200" doc:"how it may be used"`
	Team    string `json:"team,omitempty" maxLength:"200" doc:"from whose library it came"`
}

const (
	kind   = "bright-chalk-bundle "
	Format = kind + "1" // of the bundles that are written
)

// ErrBundle is the code of what Read refuses.
const ErrBundle fault.Code = "no-bundle"

const maxLibrary = 16 << 20

func notOne(format string, args ...any) error {
	return fault.New(ErrBundle, "this is no bundle of Bright Chalk: "+format, args...)
}

// Read reads the library of a bundle. The error names what is wrong.
func Read(data []byte) (Library, error) {
	z, err := zip.NewReader(bytes.NewReader(data), int64(len(data)))
	if err != nil {
		return Library{}, notOne("it is not a ZIP file")
	}
	text, err := newLibrary(z)
	if err != nil {
		return Library{}, err
	}
	return parse(text)
}

func newLibrary(z *zip.Reader) ([]byte, error) {
	f, err := z.Open("library.json")
	if err != nil {
		return nil, notOne("it holds no library.json")
	}
	defer func() { _ = f.Close() }()
	text, err := io.ReadAll(io.LimitReader(f, maxLibrary))
	if err != nil {
		return nil, notOne("its library.json cannot be read")
	}
	return text, nil
}

func parse(text []byte) (Library, error) {
	var b Library
	err := json.Unmarshal(text, &b)
	switch {
	case err != nil:
		return b, notOne("its library.json cannot be read")
	case strings.HasPrefix(b.Format, kind):
		if b.Format != Format {
			return b, fault.New(ErrBundle, "this bundle was made by a newer version of Bright Chalk: its format is %q", b.Format)
		}
	default:
		return b, notOne("its format is %q, not %q", b.Format, Format)
	}
	return b, nil
}

// Lesson is what a lesson from the bundle depends on, and what tells what the class of the bundle knows.
func (b Library) Lesson(p lesson.Purpose) (assembly.Input, knowledge.Sources) {
	in := assembly.Input{Purpose: p, Conventions: b.Conventions, Bank: b.Bank, Letters: b.Letters}
	in.Routine = lesson.DefaultRoutine(p)
	if r, ok := b.Routines[p]; ok {
		in.Routine = r
	}
	if p == lesson.Introduce && len(b.Routine.Steps) > 0 {
		in.Routine = b.Routine
	}
	s := knowledge.Sources{Conventions: b.Conventions, Cards: b.Cards, Seen: b.Log}
	if len(b.Known) > 0 {
		s.Declared = append(s.Declared, knowledge.Declaration{Words: b.Known})
	}
	for _, c := range b.Cards {
		s.Refused = append(s.Refused, c.Rejected...)
	}
	return in, s
}

// Input is what the introduction of a pair from the bundle depends on. Without a class every card before it is known.
func (b Library) Input(pair spelling.Pair) (assembly.Input, error) {
	in, sources := b.Lesson(lesson.Introduce)
	i := slices.IndexFunc(b.Cards, func(c card.Card) bool { return c.Pair == pair })
	if i < 0 {
		return in, fault.In("sound", "the bundle has no card for %s", pair)
	}
	target := b.Cards[i]
	in.Targets = []card.Card{target}
	in.Conventions = target.Content.Conventions(in.Conventions)
	sources.Seen = slices.DeleteFunc(slices.Clone(sources.Seen), func(s review.Seen) bool { return s.CardID == target.ID })
	if b.Class == "" {
		for _, c := range b.Cards {
			if c.Step < target.Step {
				sources.Seen = append(sources.Seen, review.Seen{CardID: c.ID, Sure: review.Sure, Times: 1})
			}
		}
	}
	in.Class = knowledge.Of(sources)
	return in, nil
}
