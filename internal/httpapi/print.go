package httpapi

import (
	"bytes"
	"context"
	"fmt"
	"net/http"
	"strings"

	"github.com/danielgtaylor/huma/v2"

	"brightchalk/internal/printing"
	"brightchalk/internal/render"
	"brightchalk/internal/tx"
)

// Paper asks for a page size.
type Paper struct {
	Paper string `query:"paper" enum:"A4,Letter" doc:"the team's where it is not given"`
}

func (p Paper) size() render.Paper { return render.PaperOf(p.Paper) }

func printed(name string, out bytes.Buffer, err error) (file, error) {
	return file{
		ContentType: "application/pdf", Disposition: `inline; filename="` + name + `"`, CacheControl: never,
		Body: out.Bytes(),
	}, err
}

func (s *server) printCalls(api huma.API) {
	a := s.app.Print
	pdf := []string{"application/pdf"}
	download(s, api, route{
		id: "print-sheet", method: http.MethodGet, path: "/lessons/{id}/print/{sheet}", tag: "print",
		summary: "A sheet of a lesson, as it was assembled",
	}, pdf, func(ctx context.Context, by tx.Actor, in *struct {
		ByID
		Paper
		Sheet string `path:"sheet" maxLength:"40" doc:"plan, practice, words, ... or all; may end in .pdf"`
		Line  string `query:"line" maxLength:"2000" doc:"the school's line in a family's language"`
	},
	) (file, error) {
		var out bytes.Buffer
		name := strings.TrimSuffix(in.Sheet, ".pdf")
		err := a.Sheet(ctx, by, printing.SheetAsk{
			Lesson: in.ID, Sheet: name, HomeLine: in.Line, Paper: in.size(),
		}, &out)
		return printed("lesson-"+name+".pdf", out, err)
	})
	call(s, api, route{
		id: "sheets-of-lesson", method: http.MethodGet, path: "/lessons/{id}/sheets", tag: "print",
		summary: "The sheets for which a lesson has something",
	}, func(ctx context.Context, by tx.Actor, in *ByID) ([]render.Sheet, error) {
		return a.Sheets(ctx, by, in.ID)
	})
	download(s, api, route{
		id: "preview-sheet", method: http.MethodGet, path: "/lessons/{id}/preview/{sheet}", tag: "print",
		summary: "The first page of a sheet, as a small picture",
	}, []string{"image/png"}, func(ctx context.Context, by tx.Actor, in *struct {
		ByID
		Paper
		Sheet string `path:"sheet" maxLength:"40" doc:"as in print; may end in .png"`
	},
	) (file, error) {
		var out bytes.Buffer
		ask := printing.SheetAsk{Lesson: in.ID, Sheet: strings.TrimSuffix(in.Sheet, ".png"), Paper: in.size()}
		err := a.Preview(ctx, by, ask, &out)
		return file{ContentType: "image/png", CacheControl: asked, Body: out.Bytes()}, err
	})
	download(s, api, route{
		id: "sheets-as-text", method: http.MethodGet, path: "/lessons/{id}/sheets.html", tag: "print",
		summary: "What the sheets of a lesson say, with headings and lists for a screen reader",
	}, []string{"text/html"}, func(ctx context.Context, by tx.Actor, in *struct {
		ByID
		Line string `query:"line" maxLength:"2000" doc:"the school's line in a family's language"`
	},
	) (file, error) {
		var out bytes.Buffer
		err := a.Readable(ctx, by, printing.SheetAsk{Lesson: in.ID, HomeLine: in.Line}, &out)
		return file{
			ContentType: "text/html; charset=utf-8", CacheControl: never,
			Policy: "default-src 'none'; style-src 'unsafe-inline'", Body: out.Bytes(),
		}, err
	})
	download(s, api, route{
		id: "print-mat", method: http.MethodGet, path: "/classes/{id}/mat.pdf", tag: "print",
		summary: "One page with all that a class knows: cards, letters that are written alike, exception words",
	}, pdf, func(ctx context.Context, by tx.Actor, in *struct {
		ByID
		Paper
	},
	) (file, error) {
		var out bytes.Buffer
		err := a.Mat(ctx, by, in.ID, in.size(), &out)
		return printed("mat.pdf", out, err)
	})
	download(s, api, route{
		id: "print-practice", method: http.MethodGet, path: "/practice.pdf", tag: "print",
		summary: "Practice sheets of any letters and words on the team's lines",
	}, pdf, func(ctx context.Context, by tx.Actor, in *struct {
		Paper
		Text string `query:"text" maxLength:"400" doc:"letters, groups and words, parted by spaces or commas"`
		Do   string `query:"do" maxLength:"40" doc:"trace, copy or both, parted by a comma; trace where it is not given"`
		Ring string `query:"ring" maxLength:"40" doc:"a spelling to ring in the words"`
	},
	) (file, error) {
		var out bytes.Buffer
		err := a.Practice(ctx, by, printing.PracticeAsk{
			Text: in.Text, Do: strings.Split(in.Do, ","), Ring: in.Ring, Paper: in.size(),
		}, &out)
		return printed("practice.pdf", out, err)
	})
	download(s, api, route{
		id: "print-cards", method: http.MethodGet, path: "/cards.pdf", tag: "print",
		summary: "Sound cards as they are agreed today", about: "A card that is not agreed yet says so.",
	}, pdf, func(ctx context.Context, by tx.Actor, in *struct {
		Paper
		Cards  string `query:"cards" maxLength:"20000" doc:"card ids parted by commas, or all"`
		Layout string `query:"layout" maxLength:"20" doc:"single, duplex, fold or frieze"`
		Size   string `query:"size" enum:"large,small" default:"large" doc:"90 by 120 mm, or 60 by 80"`
	},
	) (file, error) {
		var out bytes.Buffer
		err := a.Cards(ctx, by, printing.CardsAsk{
			IDs: strings.Split(in.Cards, ","), All: in.Cards == "all", Layout: render.Layout(in.Layout),
			Small: in.Size == "small", Paper: in.size(),
		}, &out)
		return printed("sound-cards.pdf", out, err)
	})
	download(s, api, route{
		id: "export-card-pictures", method: http.MethodGet, path: "/cards.zip", tag: "print",
		summary: "Both sides of each card as PNG and SVG, for slides and boards",
	}, []string{"application/zip"}, func(ctx context.Context, by tx.Actor, in *struct {
		Cards string `query:"cards" maxLength:"20000" doc:"card ids parted by commas, or all"`
	},
	) (file, error) {
		var out bytes.Buffer
		err := a.CardPictures(ctx, by, printing.CardsAsk{IDs: strings.Split(in.Cards, ","), All: in.Cards == "all"}, &out)
		return saved("application/zip", "cards.zip", out, err)
	})
	download(s, api, route{
		id: "export-log", method: http.MethodGet, path: "/classes/{id}/log.csv", tag: "print",
		summary: "What a class was taught, as a table: date, pair, sureness",
	}, []string{"text/csv"}, func(ctx context.Context, by tx.Actor, in *ByID) (file, error) {
		var out bytes.Buffer
		err := s.app.Lessons.Export(ctx, by, in.ID, &out)
		return saved("text/csv; charset=utf-8", "class-log.csv", out, err)
	})
}

// saved is a file that the browser saves under a name.
func saved(contentType, name string, out bytes.Buffer, err error) (file, error) {
	return file{
		ContentType: contentType, Disposition: fmt.Sprintf("attachment; filename=%q", name), CacheControl: never,
		Body: out.Bytes(),
	}, err
}
