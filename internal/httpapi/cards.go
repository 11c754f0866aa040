package httpapi

import (
	"context"
	"net/http"
	"strconv"

	"github.com/danielgtaylor/huma/v2"

	"brightchalk/internal/core/card"
	"brightchalk/internal/core/mouth"
	"brightchalk/internal/library"
	"brightchalk/internal/media"
	"brightchalk/internal/store"
	"brightchalk/internal/tx"
)

type newCard struct {
	Pair string `json:"pair" maxLength:"40" doc:"grapheme and sound, ow=aʊ; a bare grapheme means its commonest sound"`
	Step int    `json:"step" doc:"place in the order, from 1"`
}

type cardEdit struct {
	BaseVersion int          `json:"base_version" doc:"the version that the edit began from"`
	Content     card.Content `json:"content"`
}

type cardState struct {
	State card.State `json:"state" enum:"draft,in review,agreed"`
}

type cardStep struct {
	Step int `json:"step" doc:"place in the order, from 1"`
}

type archiveBody struct {
	Archived bool `json:"archived" doc:"false brings it back"`
}

type storedPicture struct {
	Picture string   `json:"picture" doc:"SHA-256 in hex, to be put on a card"`
	Remarks []string `json:"remarks" doc:"what was changed in cleaning"`
}

// BySum names a picture.
type BySum struct {
	Sum string `path:"sum" maxLength:"64" doc:"SHA-256 in hex"`
}

type allCards struct {
	Archived bool `query:"archived" doc:"those put aside too"`
}

const (
	forAYear    = "private, max-age=31536000, immutable"
	forMinutes  = "private, max-age=300"
	asked       = "private, no-cache"
	never       = "no-store"
	inertPolicy = "default-src 'none'; style-src 'unsafe-inline'; sandbox"
)

var pictureTypes = []string{"image/png", "image/svg+xml"}

func shown(m store.Medium, cache string, err error) (file, error) {
	return file{ContentType: m.MediaType, CacheControl: cache, Policy: inertPolicy, Body: m.Bytes}, err
}

func (s *server) cardCalls(api huma.API) {
	a := s.app.Cards
	cachedCall(s, api, route{
		id: "wall", method: http.MethodGet, path: "/cards", tag: "cards", summary: "All cards, in teaching order",
	}, func(in *allCards) string {
		return strconv.FormatBool(in.Archived)
	}, func(ctx context.Context, by tx.Actor, in *allCards) ([]library.WallCard, error) {
		return a.Wall(ctx, by, in.Archived)
	})
	call(s, api, route{
		id: "new-card", method: http.MethodPost, path: "/cards", tag: "cards", summary: "Add a card",
		example: newCard{"ow=aʊ", 41},
	}, func(ctx context.Context, by tx.Actor, in *body[newCard]) (created, error) {
		id, err := a.New(ctx, by, in.Body.Pair, in.Body.Step)
		return created{id}, err
	})
	call(s, api, route{
		id: "card", method: http.MethodGet, path: "/cards/{id}", tag: "cards", summary: "One card",
	}, func(ctx context.Context, by tx.Actor, in *ByID) (library.CardView, error) {
		return a.Card(ctx, by, in.ID)
	})
	call(s, api, route{
		id: "card-mouth", method: http.MethodGet, path: "/cards/{id}/mouth", tag: "cards",
		summary: "How the mouth makes the sound of a card: its stills from the side and the front, and its course in time",
		about:   mouth.Caution,
	}, func(ctx context.Context, by tx.Actor, in *struct {
		ByID
		Contrast bool `query:"contrast" doc:"of the sound that the card switches to and fro with"`
	},
	) (mouth.Drawing, error) {
		return a.Mouth(ctx, by, in.ID, in.Contrast)
	})
	call(s, api, route{
		id: "save-card", method: http.MethodPut, path: "/cards/{id}", tag: "cards", summary: "Save an edit of a card",
		about: "Edits of different fields are joined with what others wrote since the base version. Where both " +
			"changed one field nothing is written, and the problem carries what stands there now.",
		example: cardEdit{3, card.Content{Keyword: "owl", Rhyme: "Owl on the prow, bow to us now."}.Tidy()},
	}, func(ctx context.Context, by tx.Actor, in *struct {
		ByID
		body[cardEdit]
	},
	) (library.CardView, error) {
		return a.Save(ctx, by, in.ID, in.Body.BaseVersion, in.Body.Content)
	})
	call(s, api, route{
		id: "set-state", method: http.MethodPut, path: "/cards/{id}/state", tag: "cards",
		summary: "Move a card between draft, in review and agreed", example: cardState{card.InReview},
		about: "A lead agrees, or two who write, as the team decided; and only a card without contradictions.",
	}, func(ctx context.Context, by tx.Actor, in *struct {
		ByID
		body[cardState]
	},
	) (library.CardView, error) {
		return s.app.Reviews.SetState(ctx, by, in.ID, in.Body.State)
	})
	call(s, api, route{
		id: "move-card", method: http.MethodPut, path: "/cards/{id}/step", tag: "cards",
		summary: "Put a card at another place in the order", example: cardStep{12},
	}, func(ctx context.Context, by tx.Actor, in *struct {
		ByID
		body[cardStep]
	},
	) (done, error) {
		return ok(a.Move(ctx, by, in.ID, in.Body.Step))
	})
	call(s, api, route{
		id: "archive-card", method: http.MethodPut, path: "/cards/{id}/archived", tag: "cards",
		summary: "Put a card aside, or bring it back", example: archiveBody{true},
	}, func(ctx context.Context, by tx.Actor, in *struct {
		ByID
		body[archiveBody]
	},
	) (done, error) {
		return ok(a.Archive(ctx, by, in.ID, in.Body.Archived))
	})
	call(s, api, route{
		id: "card-versions", method: http.MethodGet, path: "/cards/{id}/versions", tag: "cards",
		summary: "Versions of a card without their content, the newest first", about: "At most 50 at once.",
	}, func(ctx context.Context, by tx.Actor, in *struct {
		ByID
		Before int `query:"before" minimum:"0" doc:"only those older than this version; 0 begins with the newest"`
	},
	) ([]store.VersionHead, error) {
		return a.Versions(ctx, by, in.ID, in.Before)
	})
	call(s, api, route{
		id: "card-version", method: http.MethodGet, path: "/cards/{id}/versions/{version}", tag: "cards",
		summary: "The content of a card in one version",
	}, func(ctx context.Context, by tx.Actor, in *struct {
		ByID
		Version int `path:"version" minimum:"1"`
	},
	) (card.Content, error) {
		return a.VersionContent(ctx, by, in.ID, in.Version)
	})
	call(s, api, route{
		id: "flag-words", method: http.MethodGet, path: "/cards/{id}/flags", tag: "cards",
		summary: "Look through words that somebody is putting on a card",
	}, func(ctx context.Context, by tx.Actor, in *struct {
		ByID
		Words []string `query:"words,explode" maxItems:"80"`
	},
	) ([]card.WordFlag, error) {
		return a.FlagWords(ctx, by, in.ID, in.Words)
	})
	upload(s, api, route{
		id: "upload-picture", method: http.MethodPost, path: "/pictures", tag: "cards", summary: "Store a picture",
		about: "PNG, JPEG or SVG. Pixels are written anew and an SVG keeps only known drawing elements.",
	}, media.MaxPictureBytes, func(ctx context.Context, by tx.Actor, in *UploadedFile) (storedPicture, error) {
		sum, remarks, err := a.StorePicture(ctx, by, in.file)
		return storedPicture{sum, append([]string{}, remarks...)}, err
	})
	download(s, api, route{
		id: "picture", method: http.MethodGet, path: "/pictures/{sum}", tag: "cards", summary: "A stored picture",
	}, pictureTypes, func(ctx context.Context, by tx.Actor, in *BySum) (file, error) {
		m, err := a.Picture(ctx, by, in.Sum)
		return shown(m, forAYear, err)
	})
}
