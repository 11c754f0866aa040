package httpapi

import (
	"brightchalk/internal/app"
	"brightchalk/internal/core/lesson"
	"brightchalk/internal/core/words"
	"brightchalk/internal/store"
	"context"
	"net/http"
	"strings"

	"github.com/danielgtaylor/huma/v2"
)

// FindIn is the finder's sentence as a query.
type FindIn struct {
	ClassID      string `query:"class" format:"uuid" required:"true"`
	CardID       string `query:"card" doc:"target, may be empty"`
	Position     string `query:"position" enum:"any,initial,medial,final" default:"any"`
	Frame        string `query:"frame" maxLength:"8"`
	Pictures     bool   `query:"pictures"`
	Sounds       int    `query:"sounds" minimum:"0" maximum:"12" doc:"exactly so many, 0 any"`
	Syllables    int    `query:"syllables" minimum:"0" maximum:"6" doc:"exactly so many, 0 any"`
	Familiarity  int    `query:"familiarity" minimum:"0" maximum:"5" doc:"at least"`
	NoHomophones bool   `query:"no_homophones"`
	Seed         uint32 `query:"seed"`
}

func (f FindIn) query() app.FindQuery {
	return app.FindQuery{
		ClassID:      f.ClassID,
		CardID:       f.CardID,
		Frame:        f.Frame,
		Position:     words.Position(f.Position),
		WithPicture:  f.Pictures,
		NoHomophones: f.NoHomophones,
		Sounds:       f.Sounds,
		Syllables:    f.Syllables,
		Familiarity:  f.Familiarity,
		Seed:         int(f.Seed),
	}
}

func (s *server) wordCalls(api huma.API) {
	call(
		s,
		api,
		http.MethodGet,
		"/words",
		"find-words",
		func(ctx context.Context, by app.Actor, in *FindIn) (app.Found, error) {
			return s.app.FindWords(ctx, by, in.query())
		},
	)
	call(s, api, http.MethodGet, "/words/look", "look-up-word", func(ctx context.Context, by app.Actor, in *struct {
		FindIn
		Word string `query:"word" maxLength:"40" required:"true"`
	},
	) (app.LookView, error) {
		return s.app.Look(ctx, by, in.query(), in.Word)
	})
	call(
		s,
		api,
		http.MethodGet,
		"/made-up",
		"make-words",
		func(ctx context.Context, by app.Actor, in *FindIn) (app.Found, error) {
			return s.app.MakeWords(ctx, by, in.query())
		},
	)
	call(s, api, http.MethodGet, "/play/{game}", "play", func(ctx context.Context, by app.Actor, in *struct {
		FindIn
		Game  string `path:"game" enum:"chain,slips,compounds,rings"`
		Start string `query:"start" maxLength:"24" doc:"first word of a chain, may be empty"`
	},
	) ([]app.PlayWord, error) {
		return s.app.Play(ctx, by, in.Game, in.query(), in.Start)
	})
	call(
		s,
		api,
		http.MethodGet,
		"/sentences",
		"make-sentences",
		func(ctx context.Context, by app.Actor, in *FindIn) ([]app.MadeSentence, error) {
			return s.app.Sentences(ctx, by, in.query())
		},
	)
	call(s, api, http.MethodGet, "/sort", "sort-game", func(ctx context.Context, by app.Actor, in *struct {
		Cards    string `query:"cards" maxLength:"400" doc:"card ids parted by commas"`
		Per      int    `query:"per" default:"4"`
		Position string `query:"position" enum:"any,initial,medial,final" default:"initial" doc:"any is the place that serves all sounds best"`
		Seed     uint32 `query:"seed"`
	},
	) ([]words.Basket, error) {
		return s.app.SortGame(ctx, by, strings.Split(in.Cards, ","), in.Per, words.Position(in.Position), uint64(in.Seed))
	})
	call(
		s,
		api,
		http.MethodGet,
		"/cards/{id}/first-or-last",
		"first-or-last",
		func(ctx context.Context, by app.Actor, in *struct {
			ByID
			Seed uint32 `query:"seed"`
		},
		) ([]words.Quarter, error) {
			return s.app.FirstOrLast(ctx, by, in.ID, int(in.Seed))
		},
	)
	call(s, api, http.MethodGet, "/contrast", "contrast", func(ctx context.Context, by app.Actor, in *struct {
		ClassID string `query:"class" format:"uuid" required:"true"`
		Left    string `query:"left" format:"uuid" required:"true"`
		Right   string `query:"right" format:"uuid" required:"true"`
	},
	) (app.ContrastView, error) {
		return s.app.Contrast(ctx, by, in.ClassID, in.Left, in.Right)
	})
	call(
		s,
		api,
		http.MethodGet,
		"/cards/{id}/unlocks",
		"unlocks",
		func(ctx context.Context, by app.Actor, in *ByID) (app.Unlocked, error) {
			return s.app.Unlocks(ctx, by, in.ID)
		},
	)
	call(s, api, http.MethodGet, "/spellings", "spellings", func(ctx context.Context, by app.Actor, in *struct {
		Of string `query:"of" maxLength:"12" doc:"a grapheme or a sound, may be empty"`
	},
	) ([]app.SpellingRow, error) {
		return s.app.Spellings(ctx, by, in.Of)
	})
	s.textCalls(api)
}

func (s *server) textCalls(api huma.API) {
	call(s, api, http.MethodPost, "/check-text", "check-text", func(ctx context.Context, by app.Actor, in *struct {
		body[struct {
			ClassID string `json:"class_id" format:"uuid"`
			Text    string `json:"text" maxLength:"60000"`
		}]
	},
	) (app.CheckedText, error) {
		return s.app.CheckText(ctx, by, in.Body.ClassID, in.Body.Text)
	})
	call(s, api, http.MethodPost, "/chop", "chop", func(ctx context.Context, by app.Actor, in *struct {
		body[struct {
			Text string `json:"text" maxLength:"400"`
		}]
	},
	) ([]string, error) {
		return s.app.Chop(ctx, by, in.Body.Text)
	})
	call(s, api, http.MethodGet, "/bank", "bank", func(ctx context.Context, by app.Actor, in *struct {
		ClassID string `query:"class" doc:"may be empty"`
	},
	) ([]app.BankView, error) {
		return s.app.Bank(ctx, by, in.ClassID)
	})
	call(s, api, http.MethodPost, "/bank", "add-to-bank", func(ctx context.Context, by app.Actor, in *struct {
		body[struct {
			Kind string `json:"kind" enum:"sentence,page"`
			Body string `json:"body" maxLength:"8000"`
		}]
	},
	) (created, error) {
		id, err := s.app.AddToBank(ctx, by, in.Body.Kind, in.Body.Body)
		return created{id}, err
	})
	call(
		s,
		api,
		http.MethodPut,
		"/bank/{id}/archived",
		"archive-bank-text",
		func(ctx context.Context, by app.Actor, in *struct {
			ByID
			body[struct {
				Archived bool `json:"archived"`
			}]
		},
		) (done, error) {
			return ok(s.app.DropFromBank(ctx, by, in.ID, in.Body.Archived))
		},
	)
	call(
		s,
		api,
		http.MethodGet,
		"/named-pictures",
		"named-pictures",
		func(ctx context.Context, by app.Actor, _ *struct{}) ([]store.NamedPicture, error) {
			return s.app.Pictures(ctx, by)
		},
	)
	call(
		s,
		api,
		http.MethodPut,
		"/named-pictures",
		"put-named-picture",
		func(ctx context.Context, by app.Actor, in *body[struct {
			Name    string   `json:"name" maxLength:"40"`
			Others  []string `json:"others" maxItems:"6"`
			Picture string   `json:"picture" maxLength:"64" doc:"SHA-256 of a stored picture, in hex"`
		}],
		) (done, error) {
			return ok(
				s.app.PutPicture(ctx, by, store.NamedPicture{Name: in.Body.Name, Others: in.Body.Others, Picture: in.Body.Picture}),
			)
		},
	)
	call(
		s,
		api,
		http.MethodPut,
		"/named-pictures/{name}/archived",
		"archive-named-picture",
		func(ctx context.Context, by app.Actor, in *struct {
			Name string `path:"name" maxLength:"24"`
			body[struct {
				Archived bool `json:"archived"`
			}]
		},
		) (done, error) {
			return ok(s.app.ArchivePicture(ctx, by, in.Name, in.Body.Archived))
		},
	)
	call(s, api, http.MethodPost, "/introductions/{id}/send", "send", func(ctx context.Context, by app.Actor, in *struct {
		ByID
		body[struct {
			Revision int         `json:"revision"`
			Step     lesson.Kind `json:"step" enum:"ear,blend,read,spell,sentence,page"`
			Values   []string    `json:"values" maxItems:"40"`
		}]
	},
	) (app.IntroductionView, error) {
		return s.app.Send(ctx, by, in.ID, in.Body.Revision, in.Body.Step, in.Body.Values)
	})
}
