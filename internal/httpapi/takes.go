package httpapi

import (
	"context"
	"net/http"

	"github.com/danielgtaylor/huma/v2"

	"brightchalk/internal/core/recording"
	"brightchalk/internal/media"
	"brightchalk/internal/sound"
	"brightchalk/internal/tx"
)

type voice struct {
	Speaker string `json:"speaker" maxLength:"80"`
}

type reused struct {
	TakeID string `json:"take_id" format:"uuid"`
}

// Played asks for a sound.
type Played struct {
	ByID
	As string `query:"as" enum:"flac,wav" default:"flac"`
}

var soundTypes = []string{"audio/flac", "audio/wav"}

// played is a take with its fixes: FLAC, or WAV for those who ask for it.
func played(as string, master recording.Clip, err error) (file, error) {
	if err != nil {
		return file{}, err
	}
	if as == "wav" {
		return file{ContentType: "audio/wav", CacheControl: asked, Body: media.EncodeWAV(master)}, nil
	}
	data, err := media.EncodeFLAC(master)
	return file{ContentType: "audio/flac", CacheControl: asked, Body: data}, err
}

func (s *server) takeCalls(api huma.API) {
	a := s.app.Takes
	call(s, api, route{
		id: "takes", method: http.MethodGet, path: "/cards/{id}/takes", tag: "takes",
		summary: "Takes of a card, the newest first",
	}, func(ctx context.Context, by tx.Actor, in *ByID) ([]sound.TakeView, error) {
		return a.Of(ctx, by, in.ID)
	})
	upload(s, api, route{
		id: "upload-take", method: http.MethodPost, path: "/cards/{id}/takes", tag: "takes",
		summary: "Store and judge a recording",
		about:   "WAV, FLAC, MP3 or Ogg Vorbis of up to 60 seconds. Several attempts in it become a take each.",
	}, media.MaxSoundBytes, func(ctx context.Context, by tx.Actor, in *struct {
		ByID
		Speaker string `query:"speaker" maxLength:"200" doc:"whose voice it is: an adult of the team"`
		Consent string `query:"consent" enum:"yes,no" doc:"the speaker agrees to the recording being kept"`
		UploadedFile
	},
	) ([]sound.TakeView, error) {
		return a.Add(ctx, by, in.ID, in.Speaker, in.Consent == "yes", in.file)
	})
	call(s, api, route{
		id: "choose-take", method: http.MethodPut, path: "/takes/{id}/chosen", tag: "takes",
		summary: "Make a take its card's own",
	}, func(ctx context.Context, by tx.Actor, in *ByID) (done, error) { return ok(a.Choose(ctx, by, in.ID)) })
	call(s, api, route{
		id: "fix-take", method: http.MethodPut, path: "/takes/{id}/fixes", tag: "takes",
		summary: "Set what is done to a take when it is played", about: "The recording itself stays whole.",
		example: sound.Fixes{StartMs: 120, EndMs: 980},
	}, func(ctx context.Context, by tx.Actor, in *struct {
		ByID
		body[sound.Fixes]
	},
	) (done, error) {
		return ok(a.Fix(ctx, by, in.ID, in.Body))
	})
	call(s, api, route{
		id: "reuse-take", method: http.MethodPut, path: "/cards/{id}/take", tag: "takes",
		summary: "Take over the take of another card with the same sound",
		example: reused{"6f1d2a34-5b6c-4d7e-8f90-a1b2c3d4e5f6"},
	}, func(ctx context.Context, by tx.Actor, in *struct {
		ByID
		body[reused]
	},
	) (sound.TakeView, error) {
		return a.Reuse(ctx, by, in.ID, in.Body.TakeID)
	})
	call(s, api, route{
		id: "sounds", method: http.MethodGet, path: "/sounds", tag: "takes",
		summary: "The library as it sounds, and how alike its takes are",
	}, func(ctx context.Context, by tx.Actor, _ *nothing) (sound.Shelf, error) { return a.Shelf(ctx, by) })
	call(s, api, route{
		id: "withdraw-voice", method: http.MethodPost, path: "/voices/withdraw", tag: "takes",
		summary: "Remove all takes of a speaker for good", example: voice{"Odile Weir"},
	}, func(ctx context.Context, by tx.Actor, in *body[voice]) (sound.Withdrawn, error) {
		return a.WithdrawVoice(ctx, by, in.Body.Speaker)
	})
	call(s, api, route{
		id: "withdraw-take", method: http.MethodDelete, path: "/takes/{id}", tag: "takes",
		summary: "Remove a take for good",
	}, func(ctx context.Context, by tx.Actor, in *ByID) (done, error) { return ok(a.Withdraw(ctx, by, in.ID)) })
	upload(s, api, route{
		id: "check-room", method: http.MethodPost, path: "/room", tag: "takes",
		summary: "Judge the room and the microphone by two seconds of silence and a short word",
		about:   "Nothing of it is kept.",
	}, media.MaxSoundBytes, func(ctx context.Context, by tx.Actor, in *UploadedFile) (recording.RoomReport, error) {
		return a.Room(ctx, by, in.file)
	})
	s.hearingCalls(api)
	download(s, api, route{
		id: "take-original", method: http.MethodGet, path: "/takes/{id}/original", tag: "takes",
		summary: "The recording of a take as it came in",
	}, []string{"audio/wav", "audio/flac", "audio/mpeg", "audio/ogg"},
		func(ctx context.Context, by tx.Actor, in *ByID) (file, error) {
			m, err := a.Recording(ctx, by, in.ID)
			return file{ContentType: m.MediaType, CacheControl: asked, Body: m.Bytes}, err
		})
	download(s, api, route{
		id: "take-sound", method: http.MethodGet, path: "/takes/{id}/sound", tag: "takes",
		summary: "A take with its fixes",
	}, soundTypes, func(ctx context.Context, by tx.Actor, in *Played) (file, error) {
		master, err := a.Master(ctx, by, in.ID)
		return played(in.As, master, err)
	})
	download(s, api, route{
		id: "card-sound", method: http.MethodGet, path: "/cards/{id}/sound", tag: "takes",
		summary: "The chosen take of a card with its fixes",
	}, soundTypes, func(ctx context.Context, by tx.Actor, in *Played) (file, error) {
		master, err := a.OfCard(ctx, by, in.ID)
		return played(in.As, master, err)
	})
}
