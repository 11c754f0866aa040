package httpapi

import (
	"bytes"
	"compress/gzip"
	"context"
	"crypto/sha256"
	"fmt"
	"net/http"
	"reflect"
	"strings"
	"sync"

	"github.com/danielgtaylor/huma/v2"
	"golang.org/x/sync/singleflight"

	"brightchalk/internal/tx"
)

// answerCache are answers that depend on nothing but a team's library and the question, with the revision that they
// were made at. Each call reads the revision with its session, so that no server ever gives an old answer.
type answerCache struct {
	mu      sync.Mutex
	of      map[question]keptAnswer
	working singleflight.Group
}

type question struct{ team, what string }

type keptAnswer struct {
	revision      int64
	etag          string
	plain, packed []byte
}

// maxKept bounds the questions whose answers are kept; beyond it any of them goes.
const maxKept = 200

func (k *answerCache) get(q question, revision int64, make func() ([]byte, error)) (keptAnswer, error) {
	k.mu.Lock()
	got, ok := k.of[q]
	k.mu.Unlock()
	if ok && got.revision == revision {
		return got, nil
	}
	made, err, _ := k.working.Do(fmt.Sprintf("%s %s %d", q.team, q.what, revision), func() (any, error) {
		plain, err := make()
		if err != nil {
			return keptAnswer{}, err
		}
		sum := sha256.Sum256(plain)
		a := keptAnswer{revision, fmt.Sprintf(`W/"%x"`, sum[:12]), plain, packed(plain)}
		k.mu.Lock()
		defer k.mu.Unlock()
		if k.of == nil {
			k.of = map[question]keptAnswer{}
		}
		if len(k.of) >= maxKept {
			for other := range k.of {
				delete(k.of, other)
				break
			}
		}
		if old := k.of[q]; old.revision <= revision {
			k.of[q] = a
		}
		return a, nil
	})
	a, _ := made.(keptAnswer)
	return a, err
}

func packed(plain []byte) []byte {
	var b bytes.Buffer
	w := gzip.NewWriter(&b)
	_, _ = w.Write(plain)
	_ = w.Close()
	return b.Bytes()
}

// cachedCall registers a call whose answer depends on nothing but the team's library and what the question says of
// itself. It knows an answer that the browser has, and keeps its bytes.
func cachedCall[I, O any](
	s *server,
	api huma.API,
	r route,
	what func(*I) string,
	f func(ctx context.Context, by tx.Actor, in *I) (O, error),
) {
	o := r.operation()
	schema := api.OpenAPI().Components.Schemas.Schema(reflect.TypeFor[O](), true, "")
	o.Responses = map[string]*huma.Response{
		"200": {
			Description: "OK", Content: map[string]*huma.MediaType{"application/json": {Schema: schema}},
			Headers: map[string]*huma.Header{"ETag": {Schema: &huma.Schema{Type: "string"}}},
		},
		"304": {Description: "As the browser has it, by If-None-Match"},
	}
	huma.Register(api, o, func(ctx context.Context, in *I) (*huma.StreamResponse, error) {
		by := actorFrom(ctx)
		revision, _ := ctx.Value(revisionKey).(int64)
		a, err := s.cache.get(question{by.TeamID, r.id + " " + what(in)}, revision, func() ([]byte, error) {
			out, err := f(context.WithoutCancel(ctx), by, in) // for all who wait for it
			if err != nil {
				return nil, err
			}
			var b bytes.Buffer
			err = answers.Marshal(&b, out)
			return b.Bytes(), err
		})
		if err != nil {
			return nil, s.fail(ctx, err)
		}
		return &huma.StreamResponse{Body: a.write}, nil
	})
}

func (a keptAnswer) write(c huma.Context) {
	c.SetHeader("ETag", a.etag)
	c.SetHeader("Cache-Control", asked)
	c.AppendHeader("Vary", "Accept-Encoding")
	if strings.Contains(c.Header("If-None-Match"), strings.TrimPrefix(a.etag, "W/")) {
		c.SetStatus(http.StatusNotModified)
		return
	}
	c.SetHeader("Content-Type", "application/json")
	body := a.plain
	if strings.Contains(c.Header("Accept-Encoding"), "gzip") {
		c.SetHeader("Content-Encoding", "gzip")
		body = a.packed
	}
	c.SetHeader("Content-Length", fmt.Sprint(len(body)))
	c.SetStatus(http.StatusOK)
	_, _ = c.BodyWriter().Write(body)
}
