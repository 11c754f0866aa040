package httpapi

import (
	"bytes"
	"context"
	"net/http"

	"github.com/danielgtaylor/huma/v2"

	"brightchalk/internal/bundle"
	"brightchalk/internal/core/lesson"
	"brightchalk/internal/exchange"
	"brightchalk/internal/store"
	"brightchalk/internal/tx"
)

const workbookType = "application/vnd.openxmlformats-officedocument.spreadsheetml.sheet"

var soundAndPictureTypes = []string{"image/png", "image/svg+xml", "audio/wav", "audio/flac", "audio/ogg", "audio/mpeg"}

func (s *server) parcelCalls(everybody, api huma.API) {
	a := s.app.Imports
	upload(s, api, route{
		id: "bring", method: http.MethodPost, path: "/parcels", tag: "bring",
		summary: "Bring in a bundle or a table",
		about: "Nothing is taken into the library yet: it lies there for a week, and a team keeps the newest four. A " +
			"bundle is a ZIP by the published schema; a table is XLSX or CSV.",
	}, exchange.MaxParcelBytes, func(ctx context.Context, by tx.Actor, in *struct {
		UploadedFile
		Name string `query:"name" maxLength:"400" doc:"of the file"`
	},
	) (store.Parcel, error) {
		return a.Bring(ctx, by, in.Name, in.file)
	})
	call(s, api, route{
		id: "parcels", method: http.MethodGet, path: "/parcels", tag: "bring",
		summary: "What was brought in and lies there, the newest first",
	}, func(ctx context.Context, by tx.Actor, _ *nothing) ([]store.Parcel, error) { return a.List(ctx, by) })
	call(s, api, route{
		id: "drop-parcel", method: http.MethodDelete, path: "/parcels/{id}", tag: "bring",
		summary: "Put away what was brought in, without taking it",
	}, func(ctx context.Context, by tx.Actor, in *ByID) (done, error) { return ok(a.Drop(ctx, by, in.ID)) })
	call(s, api, route{
		id: "look-at-bundle", method: http.MethodGet, path: "/parcels/{id}/bundle", tag: "bring",
		summary: "A bundle that lies there, against the library as it is now",
	}, func(ctx context.Context, by tx.Actor, in *ByID) (exchange.BundleView, error) {
		return a.Bundle(ctx, by, in.ID)
	})
	call(s, api, route{
		id: "take-bundle", method: http.MethodPost, path: "/parcels/{id}/bundle", tag: "bring",
		summary: "Take what was chosen of a bundle into the library",
		about:   "All of it, or nothing (409) where a card of ours has changed since it was looked at.",
		example: exchange.BundleChoice{
			Cards:   []exchange.CardChoice{{ID: "0b1e7a3c-6a53-4d0c-9f54-2f7d0a5f4a10", How: exchange.FillCard, Version: 3}},
			Letters: []string{}, Pictures: []string{}, Routines: []lesson.Purpose{}, Texts: true, Voices: true,
		},
	}, func(ctx context.Context, by tx.Actor, in *struct {
		ByID
		body[exchange.BundleChoice]
	},
	) (exchange.ImportResult, error) {
		return a.TakeBundle(ctx, by, in.ID, in.Body)
	})
	download(s, api, route{
		id: "parcel-file", method: http.MethodGet, path: "/parcels/{id}/file", tag: "bring",
		summary: "A picture or a sound of a bundle that lies there",
	}, soundAndPictureTypes, func(ctx context.Context, by tx.Actor, in *struct {
		ByID
		Name string `query:"name" required:"true" maxLength:"200"`
	},
	) (file, error) {
		m, err := a.File(ctx, by, in.ID, in.Name)
		return shown(m, never, err)
	})
	call(s, api, route{
		id: "look-at-table", method: http.MethodPost, path: "/parcels/{id}/table/look", tag: "bring",
		summary: "A table that lies there, and what would become of its lines",
		about:   "What is left out of the question is found by the sheet itself. Nothing is kept.",
		example: exchange.TableAsk{Kind: "words", Columns: map[string]int{"word": 0, "grapheme": 1}},
	}, func(ctx context.Context, by tx.Actor, in *struct {
		ByID
		body[exchange.TableAsk]
	},
	) (exchange.TableView, error) {
		return a.Table(ctx, by, in.ID, in.Body)
	})
	call(s, api, route{
		id: "take-table", method: http.MethodPost, path: "/parcels/{id}/table", tag: "bring",
		summary: "Take the chosen lines of a table into the library",
		example: exchange.TableChoice{TableAsk: exchange.TableAsk{Kind: "words"}, Rows: []int{2, 3, 5}},
	}, func(ctx context.Context, by tx.Actor, in *struct {
		ByID
		body[exchange.TableChoice]
	},
	) (exchange.BroughtLines, error) {
		return a.TakeTable(ctx, by, in.ID, in.Body)
	})
	call(s, api, route{
		id: "picture-origin", method: http.MethodGet, path: "/pictures/{sum}/origin", tag: "cards",
		summary: "Who made a picture, and how it may be used",
	}, func(ctx context.Context, by tx.Actor, in *BySum) (exchange.OriginView, error) {
		return a.Origin(ctx, by, in.Sum)
	})
	call(s, api, route{
		id: "set-picture-origin", method: http.MethodPut, path: "/pictures/{sum}/origin", tag: "cards",
		summary: "Note who made a picture, and how it may be used",
		example: exchange.OriginView{Maker: "Drawn by the team", Licence: "ours"},
	}, func(ctx context.Context, by tx.Actor, in *struct {
		BySum
		body[exchange.OriginView]
	},
	) (done, error) {
		return ok(a.SetOrigin(ctx, by, in.Sum, in.Body.Maker, in.Body.Licence))
	})
	download(s, api, route{
		id: "export-table", method: http.MethodGet, path: "/tables/{table}.csv", tag: "print",
		summary: "A table of the library as CSV: cards, words, sentences or voices",
		about:   "Cards, words and sentences come in again as they went out.",
	}, []string{"text/csv"}, func(ctx context.Context, by tx.Actor, in *struct {
		Table exchange.OutTable `path:"table" enum:"cards,words,sentences,voices"`
	},
	) (file, error) {
		var out bytes.Buffer
		err := s.app.Exports.CSV(ctx, by, in.Table, &out)
		return saved("text/csv; charset=utf-8", string(in.Table)+".csv", out, err)
	})
	download(s, api, route{
		id: "export-workbook", method: http.MethodGet, path: "/library.xlsx", tag: "print",
		summary: "All tables of the library in one workbook",
	}, []string{workbookType}, func(ctx context.Context, by tx.Actor, _ *nothing) (file, error) {
		var out bytes.Buffer
		err := s.app.Exports.Workbook(ctx, by, &out)
		return saved(workbookType, "library.xlsx", out, err)
	})
	download(s, everybody, route{
		id: "bundle-schema", method: http.MethodGet, path: "/bundle.schema.json", tag: "bring", open: true,
		summary: "The JSON Schema of a bundle's library.json",
	}, []string{"application/schema+json"}, func(context.Context, tx.Actor, *nothing) (file, error) {
		return file{ContentType: "application/schema+json", CacheControl: forMinutes, Body: bundle.Schema}, nil
	})
}
