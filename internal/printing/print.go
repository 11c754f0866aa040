package printing

import (
	"context"
	"io"
	"slices"
	"strings"
	"time"

	"brightchalk/internal/core/fault"
	handouts "brightchalk/internal/core/handout"
	"brightchalk/internal/core/knowledge"
	"brightchalk/internal/core/lexicon"
	"brightchalk/internal/core/mouth"
	"brightchalk/internal/core/strokes"
	"brightchalk/internal/gather"
	"brightchalk/internal/library"
	"brightchalk/internal/render"
	"brightchalk/internal/store"
	"brightchalk/internal/tx"
)

// Print is all that leaves the house on paper or in a file: sheets, cards, the carry pack, bundles.
type Print struct {
	Env   tx.Env
	Stage func() (script, style []byte)
}

// maxHomeLineBytes is the longest line for families, in letters.
const maxHomeLineBytes = 300

// SheetAsk is what to print of a lesson: a sheet by its name, or "all" of them. HomeLine is the school's line in
// a family's language; a Paper without width is the team's.
type SheetAsk struct {
	Lesson, Sheet, HomeLine string
	Paper                   render.Paper
}

// Sheet writes one sheet of a lesson, or with the name "all" every one of them. Everything on it is as it was
// assembled.
func (p Print) Sheet(ctx context.Context, by tx.Actor, ask SheetAsk, w io.Writer) error {
	h, paper, err := p.handout(ctx, by, ask)
	if err != nil {
		return err
	}
	return render.Print(w, h, ask.Sheet, paper)
}

// Sheets are those for which a lesson has something.
func (p Print) Sheets(ctx context.Context, by tx.Actor, lessonID string) ([]render.Sheet, error) {
	h, paper, err := p.handout(ctx, by, SheetAsk{Lesson: lessonID})
	if err != nil {
		return nil, err
	}
	return render.Offered(h, paper), nil
}

// previewWidth of the picture of a sheet, in pixels: twice as wide as it is shown.
const previewWidth = 320

// Preview writes the first page of a sheet as a small picture.
func (p Print) Preview(ctx context.Context, by tx.Actor, ask SheetAsk, w io.Writer) error {
	h, paper, err := p.handout(ctx, by, ask)
	if err != nil {
		return err
	}
	return render.Preview(w, h, ask.Sheet, paper, previewWidth)
}

// Readable writes what the sheets say as one page with headings and lists, which a screen reader can read.
func (p Print) Readable(ctx context.Context, by tx.Actor, ask SheetAsk, w io.Writer) error {
	h, _, err := p.handout(ctx, by, ask)
	if err != nil {
		return err
	}
	return render.HTML(w, h)
}

func (p Print) handout(ctx context.Context, by tx.Actor, ask SheetAsk) (render.Handout, render.Paper, error) {
	if len([]rune(ask.HomeLine)) > maxHomeLineBytes {
		return render.Handout{}, ask.Paper, fault.In(
			"line",
			"The line for families has up to %d letters.",
			maxHomeLineBytes,
		)
	}
	h, err := tx.Read(ctx, p.Env, by, func(s store.Library) (render.Handout, error) {
		i, err := s.Lesson(ctx, ask.Lesson)
		if err != nil {
			return render.Handout{}, err
		}
		team, err := s.Team(ctx)
		if err != nil {
			return render.Handout{}, err
		}
		ask.Paper = ask.Paper.Or(team.Conventions.Paper)
		return handout(ctx, s, team, i, ask.HomeLine)
	})
	return h, ask.Paper, err
}

func handout(
	ctx context.Context,
	s store.Library,
	team store.Team,
	i store.Lesson,
	homeLine string,
) (render.Handout, error) {
	speech, err := gather.Speech(ctx, s, team.Conventions)
	if err != nil {
		return render.Handout{}, err
	}
	sources, err := gather.CardSources(ctx, s, team.Conventions)
	if err != nil {
		return render.Handout{}, err
	}
	h := render.Handout{
		Lesson:   i.Snapshot,
		Options:  handouts.Options{Speech: speech, Refused: knowledge.Of(sources).Refused},
		Pictures: map[string]render.Image{},
		Faces:    map[string]render.Image{},
		Mouths:   map[string]mouth.Drawing{},
		Capitals: map[string]strokes.Written{},
		HeightMM: i.Snapshot.LineHeightMM,
		HomeLine: homeLine,
		Head:     render.PlanHead{Team: team.Name, Class: i.ClassName, Made: i.CreatedAt},
	}
	letters, err := s.OwnLetters(ctx)
	if err != nil {
		return h, err
	}
	for id, f := range i.Snapshot.Cards {
		if upper := team.Conventions.Lines.Drawn(
			strings.ToUpper(f.Pair.Grapheme),
			letters,
		); f.Pair.Letters() == 1 &&
			upper != nil {
			h.Capitals[id] = *upper
		}
	}
	if targets := i.Snapshot.Faces(); len(targets) == 1 { // of several the home sheet has no room for the mouth
		f := targets[0]
		accent := team.Conventions.Accent
		if r, err := s.Card(ctx, f.ID); err == nil {
			accent = r.Content.Conventions(team.Conventions).Accent
		}
		if d, err := mouth.Draw(accent, f.Pair.Sound); err == nil {
			h.Mouths[f.ID] = d
		}
	}
	if h.HeightMM == 0 { // assembled before it was kept
		h.HeightMM = team.Conventions.Lines.HeightMM
	}
	for _, f := range i.Snapshot.Faces() {
		m, err := gather.Picture(ctx, s, f.Picture)
		if err != nil { // a card without a picture, or one that was put aside
			continue
		}
		h.Faces[f.ID] = render.Image{MediaType: m.MediaType, Bytes: m.Bytes}
	}
	pictures, err := gather.LessonPictures(ctx, s, i.Snapshot)
	for word, m := range pictures {
		h.Pictures[word] = render.Image{MediaType: m.MediaType, Bytes: m.Bytes}
	}
	if err != nil {
		return h, err
	}
	for _, word := range handouts.New(h.Lesson, h.Options).PictureWords() {
		own := slices.ContainsFunc(speech.Pictures, func(p lexicon.OwnPicture) bool { return p.Name == word })
		if _, there := h.Pictures[word]; there || !own { // ours are at hand
			continue
		}
		m, err := gather.WordPicture(ctx, s, word)
		if err != nil {
			return h, err
		}
		h.Pictures[word] = render.Image{MediaType: m.MediaType, Bytes: m.Bytes}
	}
	return h, nil
}

// CardsAsk is what to print of the library: cards by their ids, or all of them.
type CardsAsk struct {
	IDs    []string
	All    bool
	Layout render.Layout
	Small  bool
	Paper  render.Paper
}

// Cards writes cards as they are agreed today, with the letters as the team writes them. One that is not agreed yet
// says so. A grapheme without strokes, or a split spelling, keeps the font.
func (p Print) Cards(ctx context.Context, by tx.Actor, ask CardsAsk, w io.Writer) error {
	faces, paper, err := p.Faces(ctx, by, ask)
	if err != nil {
		return err
	}
	ask.Paper = ask.Paper.Or(paper)
	if len(faces) == 0 {
		return fault.In("cards", "Choose at least one card to print.")
	}
	size := render.Large
	if ask.Small {
		size = render.Small
	}
	switch ask.Layout {
	case render.Band:
		return render.Frieze(w, faces, ask.Paper)
	case render.Single, render.Duplex, render.Fold:
		return render.Cards(w, faces, ask.Layout, size, ask.Paper)
	}
	return errLayout
}

// CardsTitle says how the cards are laid out, and refuses a layout that there is not.
func CardsTitle(layout render.Layout) (string, error) {
	names := map[render.Layout]string{
		render.Single: "one side", render.Duplex: "both sides", render.Fold: "folded", render.Band: "as a frieze",
	}
	if names[layout] == "" {
		return "", errLayout
	}
	return "All sound cards, " + names[layout], nil
}

var errLayout = fault.In("layout", "Choose single, duplex, fold or frieze.")

// CardPictures writes cards as they are agreed today as pictures, see render.Pictures.
func (p Print) CardPictures(ctx context.Context, by tx.Actor, ask CardsAsk, w io.Writer) error {
	faces, _, err := p.Faces(ctx, by, ask)
	if err != nil {
		return err
	}
	if len(faces) == 0 {
		return fault.In("cards", "Choose at least one card.")
	}
	return render.Pictures(ctx, w, faces, func(done int) { tx.ReportProgress(ctx, done, len(faces)) })
}

// Faces are the cards to be printed, and the team's paper.
func (p Print) Faces(ctx context.Context, by tx.Actor, ask CardsAsk) (out []render.Face, paper string, err error) {
	out, err = tx.Read(ctx, p.Env, by, func(s store.Library) ([]render.Face, error) {
		conv, err := gather.Conventions(ctx, s)
		if err != nil {
			return nil, err
		}
		paper = conv.Paper
		return faces(ctx, s, ask)
	})
	return out, paper, err
}

func faces(ctx context.Context, s store.Library, ask CardsAsk) ([]render.Face, error) {
	conv, err := gather.Conventions(ctx, s)
	if err != nil {
		return nil, err
	}
	letters, err := s.OwnLetters(ctx)
	if err != nil {
		return nil, err
	}
	rows, err := s.Cards(ctx, false)
	if err != nil {
		return nil, err
	}
	agreed, err := s.AgreedContents(ctx)
	if err != nil {
		return nil, err
	}
	wanted := map[string]bool{}
	for _, id := range ask.IDs {
		wanted[id] = true
	}
	out := []render.Face{}
	for _, r := range rows {
		if !ask.All && !wanted[r.CardID] {
			continue
		}
		c := library.ToWallCard(conv, gather.AgreedRow(r, agreed), letters)
		f := render.Face{
			Pair: c.Pair, Keyword: c.Keyword, Rhyme: c.Rhyme, Action: c.Action, Step: c.Step,
			ShowUpper: conv.Capitals, Draft: r.AgreedVersion == nil,
		}
		if m, err := gather.Picture(ctx, s, c.Picture); err == nil {
			f.Picture = &render.Image{MediaType: m.MediaType, Bytes: m.Bytes}
		}
		upper := conv.Lines.Drawn(strings.ToUpper(c.Pair.Grapheme), letters)
		if c.Drawn != nil && upper != nil && f.ShowUpper && len(c.Pair.Grapheme) == 1 {
			f.Writing = append(f.Writing, *upper)
		}
		if c.Drawn != nil {
			f.Writing = append(f.Writing, *c.Drawn)
		}
		out = append(out, f)
	}
	return out, nil
}

// recentLesson are the newest lessons of a class, or of all where it is empty, up to a number.
func recentLesson(ctx context.Context, s store.Library, classID string, most int) ([]store.Lesson, error) {
	recent, err := s.Lessons(ctx, classID, nil, most)
	if err != nil {
		return nil, err
	}
	out := []store.Lesson{}
	for _, r := range recent {
		i, err := s.Lesson(ctx, r.LessonID)
		if err != nil {
			return nil, err
		}
		out = append(out, i)
	}
	return out, nil
}

// recently tells whether a time lies within so many days before now.
func recently(now, at time.Time, days int) bool {
	return now.Sub(at) <= time.Duration(days)*24*time.Hour
}
