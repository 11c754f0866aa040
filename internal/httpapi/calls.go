package httpapi

import (
	"brightchalk/internal/app"
	"brightchalk/internal/core/card"
	"brightchalk/internal/core/lesson"
	"brightchalk/internal/core/lexicon"
	"brightchalk/internal/core/phoneme"
	"brightchalk/internal/core/strokes"
	"brightchalk/internal/store"
	"context"
	"net/http"

	"github.com/danielgtaylor/huma/v2"
)

type body[T any] struct{ Body T }

// ByID is exported because huma only looks into exported embedded types.
type ByID struct {
	ID string `path:"id" format:"uuid"`
}

type me struct {
	app.Actor
	Rights      []string         `json:"rights"`
	Team        string           `json:"team"`
	Conventions card.Conventions `json:"conventions"`
}

type created struct {
	ID string `json:"id"`
}

type segmentWord struct {
	Word     string            `json:"word"`
	Guess    bool              `json:"guess"`
	Sounds   int               `json:"sounds"`
	Bits     []lesson.Bit      `json:"bits"`
	Phonemes []phoneme.Phoneme `json:"phonemes"`
}

// call registers one JSON operation; f gets the signed-in member.
func call[I, O any](
	s *server,
	api huma.API,
	method, path, id string,
	f func(ctx context.Context, by app.Actor, in *I) (O, error),
) {
	huma.Register(
		api,
		huma.Operation{OperationID: id, Method: method, Path: path, MaxBodyBytes: 1 << 20},
		func(ctx context.Context, in *I) (*body[O], error) {
			out, err := f(ctx, actorOf(ctx), in)
			if err != nil {
				return nil, s.fail(ctx, err)
			}
			return &body[O]{out}, nil
		},
	)
}

type done struct {
	Done bool `json:"done"`
}

func ok(err error) (done, error) { return done{err == nil}, err }

func (s *server) jsonCalls(api huma.API) {
	type nothing struct{}
	call(s, api, http.MethodGet, "/session", "me", func(ctx context.Context, by app.Actor, _ *nothing) (me, error) {
		t, err := s.app.Team(ctx, by)
		return me{by, by.Rights(), t.Name, t.Conventions}, err
	})
	call(
		s,
		api,
		http.MethodDelete,
		"/session",
		"sign-out",
		func(ctx context.Context, _ app.Actor, _ *nothing) (done, error) {
			return ok(s.sessions.Destroy(ctx))
		},
	)
	s.cardCalls(api)
	s.takeCalls(api)
	s.letterCalls(api)
	s.introductionCalls(api)
	s.teamCalls(api)
	s.wordCalls(api)
}

func (s *server) cardCalls(api huma.API) {
	type wall struct {
		Archived bool `query:"archived"`
	}
	call(
		s,
		api,
		http.MethodGet,
		"/cards",
		"wall",
		func(ctx context.Context, by app.Actor, in *wall) ([]app.WallCard, error) {
			return s.app.Wall(ctx, by, in.Archived)
		},
	)
	call(s, api, http.MethodPost, "/cards", "new-card", func(ctx context.Context, by app.Actor, in *struct {
		body[struct {
			Pair string `json:"pair" maxLength:"40"`
			Step int    `json:"step"`
		}]
	},
	) (created, error) {
		id, err := s.app.NewCard(ctx, by, in.Body.Pair, in.Body.Step)
		return created{id}, err
	})
	call(
		s,
		api,
		http.MethodGet,
		"/cards/{id}",
		"card",
		func(ctx context.Context, by app.Actor, in *ByID) (app.CardView, error) {
			return s.app.Card(ctx, by, in.ID)
		},
	)
	call(s, api, http.MethodPut, "/cards/{id}", "save-card", func(ctx context.Context, by app.Actor, in *struct {
		ByID
		body[struct {
			BaseVersion int          `json:"base_version"`
			Content     card.Content `json:"content"`
		}]
	},
	) (app.CardView, error) {
		return s.app.SaveCard(ctx, by, in.ID, in.Body.BaseVersion, in.Body.Content)
	})
	call(s, api, http.MethodPut, "/cards/{id}/state", "set-state", func(ctx context.Context, by app.Actor, in *struct {
		ByID
		body[struct {
			State card.State `json:"state" enum:"draft,in review,agreed"`
		}]
	},
	) (app.CardView, error) {
		return s.app.SetState(ctx, by, in.ID, in.Body.State)
	})
	call(s, api, http.MethodPut, "/cards/{id}/step", "move-card", func(ctx context.Context, by app.Actor, in *struct {
		ByID
		body[struct {
			Step int `json:"step"`
		}]
	},
	) (done, error) {
		return ok(s.app.Move(ctx, by, in.ID, in.Body.Step))
	})
	call(
		s,
		api,
		http.MethodPut,
		"/cards/{id}/archived",
		"archive-card",
		func(ctx context.Context, by app.Actor, in *struct {
			ByID
			body[struct {
				Archived bool `json:"archived"`
			}]
		},
		) (done, error) {
			return ok(s.app.Archive(ctx, by, in.ID, in.Body.Archived))
		},
	)
	call(
		s,
		api,
		http.MethodGet,
		"/cards/{id}/versions",
		"card-versions",
		func(ctx context.Context, by app.Actor, in *ByID) ([]store.Version, error) {
			return s.app.Versions(ctx, by, in.ID)
		},
	)
	call(s, api, http.MethodGet, "/cards/{id}/flags", "flag-words", func(ctx context.Context, by app.Actor, in *struct {
		ByID
		Words []string `query:"words,explode" maxItems:"80" doc:"words that somebody is putting on the card"`
	},
	) ([]card.WordFlag, error) {
		return s.app.FlagWords(ctx, by, in.ID, in.Words)
	})
	call(
		s,
		api,
		http.MethodGet,
		"/cards/{id}/words",
		"card-words",
		func(ctx context.Context, by app.Actor, in *ByID) (app.WordOffer, error) {
			return s.app.WordsFor(ctx, by, in.ID)
		},
	)
	call(s, api, http.MethodGet, "/segment", "segment", func(ctx context.Context, by app.Actor, in *struct {
		Words string `query:"words" maxLength:"2000" doc:"words parted by spaces"`
	},
	) ([]segmentWord, error) {
		return s.segment(ctx, by, in.Words)
	})
}

func (s *server) segment(ctx context.Context, by app.Actor, text string) ([]segmentWord, error) {
	t, err := s.app.Team(ctx, by)
	if err != nil {
		return nil, err
	}
	out := []segmentWord{}
	for _, w := range fieldsOf(text) {
		seg, err := t.Conventions.Speech().Segment(w)
		if err != nil {
			continue
		}
		sw := segmentWord{
			Word:     w,
			Guess:    seg.Source == lexicon.FromRules,
			Sounds:   seg.Sounds,
			Phonemes: seg.Phonemes,
			Bits:     []lesson.Bit{},
		}
		for _, g := range seg.Segments {
			sw.Bits = append(sw.Bits, lesson.Bit{Letters: g.Letters, Sound: phoneme.Join(g.Phonemes), Odd: g.Odd || g.Rare})
		}
		out = append(out, sw)
	}
	return out, nil
}

func (s *server) takeCalls(api huma.API) {
	call(
		s,
		api,
		http.MethodGet,
		"/cards/{id}/takes",
		"takes",
		func(ctx context.Context, by app.Actor, in *ByID) ([]app.TakeView, error) {
			return s.app.Takes(ctx, by, in.ID)
		},
	)
	call(
		s,
		api,
		http.MethodPut,
		"/takes/{id}/chosen",
		"choose-take",
		func(ctx context.Context, by app.Actor, in *ByID) (done, error) {
			return ok(s.app.ChooseTake(ctx, by, in.ID))
		},
	)
	call(s, api, http.MethodPut, "/takes/{id}/fixes", "fix-take", func(ctx context.Context, by app.Actor, in *struct {
		ByID
		body[app.Fixes]
	},
	) (done, error) {
		return ok(s.app.FixTake(ctx, by, in.ID, in.Body))
	})
	call(s, api, http.MethodPut, "/cards/{id}/take", "reuse-take", func(ctx context.Context, by app.Actor, in *struct {
		ByID
		body[struct {
			TakeID string `json:"take_id" format:"uuid"`
		}]
	},
	) (app.TakeView, error) {
		return s.app.ReuseTake(ctx, by, in.ID, in.Body.TakeID)
	})
	call(
		s,
		api,
		http.MethodGet,
		"/sounds",
		"sounds",
		func(ctx context.Context, by app.Actor, _ *struct{}) (app.Shelf, error) {
			return s.app.Shelf(ctx, by)
		},
	)
	call(
		s,
		api,
		http.MethodPost,
		"/voices/withdraw",
		"withdraw-voice",
		func(ctx context.Context, by app.Actor, in *body[struct {
			Speaker string `json:"speaker" maxLength:"80"`
		}],
		) (app.Withdrawn, error) {
			return s.app.WithdrawVoice(ctx, by, in.Body.Speaker)
		},
	)
	call(
		s,
		api,
		http.MethodDelete,
		"/takes/{id}",
		"withdraw-take",
		func(ctx context.Context, by app.Actor, in *ByID) (done, error) {
			return ok(s.app.WithdrawTake(ctx, by, in.ID))
		},
	)
}

func (s *server) letterCalls(api huma.API) {
	call(
		s,
		api,
		http.MethodGet,
		"/materials",
		"materials",
		func(context.Context, app.Actor, *struct{}) ([]lesson.Material, error) {
			return lesson.Materials(), nil
		},
	)
	call(s, api, http.MethodGet, "/letters", "letters", func(ctx context.Context, by app.Actor, in *struct {
		Text  string   `query:"text" maxLength:"40"`
		Words []string `query:"words,explode" maxItems:"12"`
	},
	) (app.LetterView, error) {
		return s.app.Letters(ctx, by, in.Text, in.Words)
	})
	call(
		s,
		api,
		http.MethodPost,
		"/letters/show",
		"show-letter",
		func(ctx context.Context, by app.Actor, in *body[strokes.Letter]) (app.LetterView, error) {
			return s.app.ShowLetter(ctx, by, in.Body)
		},
	)
	call(
		s,
		api,
		http.MethodPut,
		"/letters",
		"save-letter",
		func(ctx context.Context, by app.Actor, in *body[strokes.Letter]) (done, error) {
			return ok(s.app.SaveLetter(ctx, by, in.Body))
		},
	)
	call(s, api, http.MethodDelete, "/letters", "reset-letter", func(ctx context.Context, by app.Actor, in *struct {
		Sign string `query:"sign" maxLength:"4"`
	},
	) (done, error) {
		return ok(s.app.ResetLetter(ctx, by, in.Sign))
	})
}

func (s *server) introductionCalls(api huma.API) {
	type nothing struct{}
	type revised struct {
		Revision int    `json:"revision"`
		Slot     string `json:"slot,omitempty" maxLength:"40"`
		Locked   bool   `json:"locked,omitempty"`
		Minutes  int    `json:"minutes,omitempty"`
	}
	type edit struct {
		ByID
		body[revised]
	}
	call(
		s,
		api,
		http.MethodGet,
		"/introductions",
		"introductions",
		func(ctx context.Context, by app.Actor, _ *nothing) ([]store.RecentIntroduction, error) {
			return s.app.Recent(ctx, by)
		},
	)
	call(s, api, http.MethodPost, "/introductions", "assemble", func(ctx context.Context, by app.Actor, in *struct {
		body[struct {
			ClassID string `json:"class_id" format:"uuid"`
			CardID  string `json:"card_id" format:"uuid"`
			Minutes int    `json:"minutes"`
		}]
	},
	) (app.IntroductionView, error) {
		return s.app.Assemble(ctx, by, in.Body.ClassID, in.Body.CardID, in.Body.Minutes)
	})
	call(
		s,
		api,
		http.MethodGet,
		"/introductions/{id}",
		"introduction",
		func(ctx context.Context, by app.Actor, in *ByID) (app.IntroductionView, error) {
			return s.app.Introduction(ctx, by, in.ID)
		},
	)
	call(
		s,
		api,
		http.MethodPost,
		"/introductions/{id}/swap",
		"swap",
		func(ctx context.Context, by app.Actor, in *edit) (app.IntroductionView, error) {
			return s.app.Swap(ctx, by, in.ID, in.Body.Revision, in.Body.Slot)
		},
	)
	call(
		s,
		api,
		http.MethodPost,
		"/introductions/{id}/lock",
		"lock",
		func(ctx context.Context, by app.Actor, in *edit) (app.IntroductionView, error) {
			return s.app.Lock(ctx, by, in.ID, in.Body.Revision, in.Body.Slot, in.Body.Locked)
		},
	)
	call(
		s,
		api,
		http.MethodPost,
		"/introductions/{id}/renew",
		"renew",
		func(ctx context.Context, by app.Actor, in *edit) (app.IntroductionView, error) {
			return s.app.Renew(ctx, by, in.ID, in.Body.Revision, in.Body.Minutes)
		},
	)
	call(
		s,
		api,
		http.MethodPost,
		"/introductions/{id}/log",
		"log-taught",
		func(ctx context.Context, by app.Actor, in *struct {
			ByID
			body[struct {
				Reached string     `json:"reached" maxLength:"40"`
				Sure    []app.Sure `json:"sure" maxItems:"60"`
			}]
		},
		) (done, error) {
			return ok(s.app.LogTaught(ctx, by, in.ID, in.Body.Reached, in.Body.Sure))
		},
	)
}

func (s *server) teamCalls(api huma.API) {
	type nothing struct{}
	call(
		s,
		api,
		http.MethodGet,
		"/classes",
		"classes",
		func(ctx context.Context, by app.Actor, _ *nothing) ([]store.Class, error) {
			return s.app.Classes(ctx, by)
		},
	)
	call(s, api, http.MethodPost, "/classes", "new-class", func(ctx context.Context, by app.Actor, in *struct {
		body[struct {
			Name string `json:"name" maxLength:"60"`
			Kind string `json:"kind" enum:"class,group"`
		}]
	},
	) (created, error) {
		id, err := s.app.NewClass(ctx, by, in.Body.Name, in.Body.Kind)
		return created{id}, err
	})
	call(
		s,
		api,
		http.MethodGet,
		"/classes/{id}",
		"class",
		func(ctx context.Context, by app.Actor, in *ByID) (app.ClassView, error) {
			return s.app.Class(ctx, by, in.ID)
		},
	)
	call(
		s,
		api,
		http.MethodGet,
		"/routine",
		"routine",
		func(ctx context.Context, by app.Actor, _ *nothing) (lesson.Routine, error) {
			return s.app.Routine(ctx, by)
		},
	)
	call(
		s,
		api,
		http.MethodPut,
		"/routine",
		"set-routine",
		func(ctx context.Context, by app.Actor, in *body[lesson.Routine]) (done, error) {
			return ok(s.app.SetRoutine(ctx, by, in.Body))
		},
	)
	call(
		s,
		api,
		http.MethodPut,
		"/conventions",
		"set-conventions",
		func(ctx context.Context, by app.Actor, in *body[card.Conventions]) (done, error) {
			return ok(s.app.SetConventions(ctx, by, in.Body))
		},
	)
	type member struct {
		Name  string `json:"name"`
		Email string `json:"email"`
		Role  string `json:"role"`
	}
	call(
		s,
		api,
		http.MethodGet,
		"/members",
		"members",
		func(ctx context.Context, by app.Actor, _ *nothing) ([]member, error) {
			rows, err := s.app.Members(ctx, by)
			out := []member{}
			for _, m := range rows {
				out = append(out, member{m.Name, m.Email, m.Role})
			}
			return out, err
		},
	)
	call(s, api, http.MethodPost, "/members", "invite", func(ctx context.Context, by app.Actor, in *struct {
		body[struct {
			Name     string `json:"name" maxLength:"80"`
			Email    string `json:"email" maxLength:"200"`
			Role     string `json:"role" enum:"lead,teacher,assistant"`
			Password string `json:"password" maxLength:"200"`
		}]
	},
	) (done, error) {
		return ok(s.app.Invite(ctx, by, in.Body.Email, in.Body.Name, app.Role(in.Body.Role), in.Body.Password))
	})
}
