package httpapi

import (
	"context"
	"net/http"
	"strings"

	"github.com/danielgtaylor/huma/v2"

	"brightchalk/internal/core/words"
	"brightchalk/internal/store"
	"brightchalk/internal/teaching"
	"brightchalk/internal/tx"
)

// FindIn is the finder's sentence as a query.
type FindIn struct {
	ClassID      string `query:"class" format:"uuid" required:"true"`
	CardID       string `query:"card" doc:"target, may be empty"`
	Position     string `query:"position" enum:"any,initial,medial,final" default:"any" doc:"of the target"`
	Frame        string `query:"frame" maxLength:"8" doc:"CVC, CCVC, ...; empty for any"`
	Pictures     bool   `query:"pictures" doc:"only words with a picture"`
	Sounds       int    `query:"sounds" minimum:"0" maximum:"12" doc:"exactly so many, 0 any"`
	Syllables    int    `query:"syllables" minimum:"0" maximum:"6" doc:"exactly so many, 0 any"`
	Familiarity  int    `query:"familiarity" minimum:"0" maximum:"5" doc:"at least; 5 is known by every child of five"`
	NoHomophones bool   `query:"no_homophones" doc:"none that sounds like another word"`
	Seed         uint32 `query:"seed" doc:"of chance; the same seed gives the same answer"`
}

func (f FindIn) query() teaching.FindQuery {
	return teaching.FindQuery{
		ClassID: f.ClassID, CardID: f.CardID, Frame: f.Frame, Position: words.Position(f.Position),
		WithPicture: f.Pictures, NoHomophones: f.NoHomophones, Sounds: f.Sounds, Syllables: f.Syllables,
		Familiarity: f.Familiarity, Seed: int(f.Seed),
	}
}

// maxPathBytes is how many words are cut at once.
const maxPathBytes = 60

func (s *server) wordCalls(api huma.API) {
	a := s.app.Words
	call(s, api, route{
		id: "find-words", method: http.MethodGet, path: "/words", tag: "words",
		summary: "Words that a class can read, the best first",
	}, func(ctx context.Context, by tx.Actor, in *FindIn) (teaching.FoundWords, error) {
		return a.Find(ctx, by, in.query())
	})
	call(s, api, route{
		id: "look-up-word", method: http.MethodGet, path: "/words/look", tag: "words",
		summary: "Whether a class can read a word, and why or why not",
	}, func(ctx context.Context, by tx.Actor, in *struct {
		FindIn
		Word string `query:"word" maxLength:"40" required:"true"`
	},
	) (teaching.LookView, error) {
		return a.Look(ctx, by, in.query(), in.Word)
	})
	call(s, api, route{
		id: "make-words", method: http.MethodGet, path: "/made-up", tag: "words",
		summary: "Made-up words that a class can read",
	}, func(ctx context.Context, by tx.Actor, in *FindIn) (teaching.FoundWords, error) {
		return a.MakeUp(ctx, by, in.query())
	})
	call(s, api, route{
		id: "segment", method: http.MethodGet, path: "/segment", tag: "words",
		summary: "Cut words into graphemes for their bridges",
	}, func(ctx context.Context, by tx.Actor, in *struct {
		Words string `query:"words" maxLength:"2000" doc:"words parted by spaces, up to 60"`
	},
	) ([]words.CutSentence, error) {
		list := strings.Fields(in.Words)
		return a.Cut(ctx, by, strings.Join(list[:min(len(list), maxPathBytes)], " "))
	})
	call(s, api, route{
		id: "card-words", method: http.MethodGet, path: "/cards/{id}/words", tag: "words",
		summary: "Words and pictures for a card by its place in the order",
	}, func(ctx context.Context, by tx.Actor, in *ByID) (teaching.WordOffer, error) {
		return a.ForCard(ctx, by, in.ID)
	})
	call(s, api, route{
		id: "unlocks", method: http.MethodGet, path: "/cards/{id}/unlocks", tag: "words",
		summary: "What a card makes readable at its place in the order",
	}, func(ctx context.Context, by tx.Actor, in *ByID) (teaching.Unlocked, error) {
		return a.Unlocks(ctx, by, in.ID)
	})
	call(s, api, route{
		id: "spellings", method: http.MethodGet, path: "/spellings", tag: "words",
		summary: "The grapheme-sound table in the team's accent",
	}, func(ctx context.Context, by tx.Actor, in *struct {
		Of string `query:"of" maxLength:"12" doc:"a grapheme or a sound, may be empty"`
	},
	) ([]teaching.SpellingRow, error) {
		return a.Spellings(ctx, by, in.Of)
	})
	s.gameCalls(api)
	s.namedPictureCalls(api)
}

func (s *server) gameCalls(api huma.API) {
	a := s.app.Words
	call(s, api, route{
		id: "play", method: http.MethodGet, path: "/play/{game}", tag: "words", summary: "A game of words",
	}, func(ctx context.Context, by tx.Actor, in *struct {
		FindIn
		Game  teaching.Game `path:"game" enum:"chain,slips,compounds,rings"`
		Start string        `query:"start" maxLength:"24" doc:"first word of a chain, may be empty"`
	},
	) ([]teaching.PlayWord, error) {
		return a.Play(ctx, by, in.Game, in.query(), in.Start)
	})
	call(s, api, route{
		id: "sort-game", method: http.MethodGet, path: "/sort", tag: "words", summary: "Pictures to sort by sound",
	}, func(ctx context.Context, by tx.Actor, in *struct {
		Cards    string         `query:"cards" maxLength:"400" doc:"card ids parted by commas"`
		Per      int            `query:"per" default:"4" doc:"pictures for each sound"`
		Position words.Position `query:"position" enum:"any,initial,medial,final" default:"initial" doc:"any: the best for all"`
		Seed     uint32         `query:"seed" doc:"of chance; the same seed gives the same answer"`
	},
	) ([]words.Basket, error) {
		return a.Sort(ctx, by, strings.Split(in.Cards, ","), in.Per, in.Position, uint64(in.Seed))
	})
	call(s, api, route{
		id: "first-or-last", method: http.MethodGet, path: "/cards/{id}/first-or-last", tag: "words",
		summary: "Pictures in four quarters: is the sound first or last",
	}, func(ctx context.Context, by tx.Actor, in *struct {
		ByID
		Seed uint32 `query:"seed" doc:"of chance; the same seed gives the same answer"`
	},
	) ([]words.Quarter, error) {
		return a.FirstOrLast(ctx, by, in.ID, int(in.Seed))
	})
	call(s, api, route{
		id: "contrast", method: http.MethodGet, path: "/contrast", tag: "words",
		summary: "The words of two cards set against one another",
	}, func(ctx context.Context, by tx.Actor, in *struct {
		ClassID string `query:"class" format:"uuid" required:"true"`
		Left    string `query:"left" format:"uuid" required:"true"`
		Right   string `query:"right" format:"uuid" required:"true"`
	},
	) (teaching.ContrastView, error) {
		return a.Contrast(ctx, by, in.ClassID, in.Left, in.Right)
	})
}

type namedPicture struct {
	Name    string   `json:"name" maxLength:"40"`
	Others  []string `json:"others" maxItems:"6" doc:"other names that children give it"`
	Picture string   `json:"picture" maxLength:"64" doc:"SHA-256 of a stored picture, in hex"`
}

// ByName names a picture of the team's own.
type ByName struct {
	Name string `path:"name" maxLength:"24"`
}

func (s *server) namedPictureCalls(api huma.API) {
	a := s.app.Words
	call(s, api, route{
		id: "named-pictures", method: http.MethodGet, path: "/named-pictures", tag: "words",
		summary: "The team's own pictures for ear games",
	}, func(ctx context.Context, by tx.Actor, _ *nothing) ([]store.NamedPicture, error) {
		return a.Pictures(ctx, by)
	})
	call(s, api, route{
		id: "put-named-picture", method: http.MethodPut, path: "/named-pictures", tag: "words",
		summary: "Name a stored picture for ear games",
		example: namedPicture{"lock", []string{"gate"}, strings.Repeat("0f", 32)},
	}, func(ctx context.Context, by tx.Actor, in *body[namedPicture]) (done, error) {
		p := store.NamedPicture{Name: in.Body.Name, Others: in.Body.Others, Picture: in.Body.Picture}
		return ok(a.PutPicture(ctx, by, p))
	})
	call(s, api, route{
		id: "archive-named-picture", method: http.MethodPut, path: "/named-pictures/{name}/archived", tag: "words",
		summary: "Take one of the team's pictures out of use, or bring it back", example: archiveBody{true},
	}, func(ctx context.Context, by tx.Actor, in *struct {
		ByName
		body[archiveBody]
	},
	) (done, error) {
		return ok(a.ArchivePicture(ctx, by, in.Name, in.Body.Archived))
	})
	download(s, api, route{
		id: "word-picture", method: http.MethodGet, path: "/word-pictures/{word}", tag: "words",
		summary: "The picture that shows a word: the team's own, or the one that ships",
	}, pictureTypes, func(ctx context.Context, by tx.Actor, in *struct {
		Word string `path:"word" maxLength:"40" doc:"may end in .svg"`
	},
	) (file, error) {
		m, err := a.Picture(ctx, by, strings.TrimSuffix(in.Word, ".svg"))
		return shown(m, forMinutes, err)
	})
}
