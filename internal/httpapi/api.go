package httpapi

import (
	"context"
	"errors"
	"fmt"
	"io"
	"math"
	"net/http"
	"os"
	"path"
	"reflect"
	"strings"
	"syscall"
	"time"

	"github.com/danielgtaylor/huma/v2"
	"github.com/danielgtaylor/huma/v2/adapters/humachi"
	"github.com/go-chi/chi/v5"
	"github.com/go-json-experiment/json"
	"github.com/go-json-experiment/json/jsontext"
	jsonv1 "github.com/go-json-experiment/json/v1"

	"brightchalk/internal/app"
	"brightchalk/internal/core/card"
	"brightchalk/internal/media"
	"brightchalk/internal/store"
	"brightchalk/internal/tx"
)

// route is what the description says of a call beside its types.
type route struct {
	id, method, path, tag string
	summary               string
	about                 string // may be empty
	example               any    // of the body, where there is one
	open                  bool   // to everybody: no session is needed
}

// Tags of the calls, in the order of the description.
var tags = []*huma.Tag{
	{Name: "session", Description: "Signing in and out, and who is signed in."},
	{Name: "today", Description: "What a member comes to in the morning."},
	{Name: "cards", Description: "The library: what is agreed about each sound."},
	{Name: "reviews", Description: "Cards put forward, what is said beside them, and notices of it."},
	{Name: "jobs", Description: "What takes longer than a screen waits, with its progress and its file."},
	{Name: "audit", Description: "What contradicts itself over the whole library."},
	{Name: "takes", Description: "Recordings, their voices and their fixes."},
	{Name: "letters", Description: "How the team writes."},
	{Name: "words", Description: "Words, games and pictures by what a class can read."},
	{Name: "texts", Description: "Sentences and pages by what a class can read, and the team's bank."},
	{Name: "lessons", Description: "Lessons: assembled, changed, logged."},
	{Name: "running", Description: "A lesson while it is taught: its faces, in step, and phones that join as its desk."},
	{Name: "planning", Description: "Classes, conventions and the routine."},
	{Name: "year", Description: "The school year, what comes when in each class, and calendars."},
	{Name: "order", Description: "The order of teaching: judged, proposed, agreed, and a better one sought."},
	{Name: "people", Description: "Members of the team."},
	{Name: "print", Description: "Sheets, cards, the carry pack and bundles."},
	{Name: "stock", Description: "Words of the team's own, and the wordings that go through the library."},
	{Name: "bring", Description: "Bundles of other libraries and tables, looked at before anything of them is taken."},
	{Name: "events", Description: "What changed, as it changes."},
}

// maxJSON bounds the body of a JSON call, in bytes.
const maxJSON = 1 << 20

func (r route) operation() huma.Operation {
	o := huma.Operation{
		OperationID: r.id, Method: r.method, Path: r.path, Tags: []string{r.tag}, Summary: r.summary,
		Description: r.about, MaxBodyBytes: maxJSON,
		Errors: []int{
			http.StatusUnauthorized, http.StatusForbidden, http.StatusNotFound, http.StatusUnprocessableEntity,
			http.StatusInternalServerError, http.StatusServiceUnavailable,
		},
	}
	if r.method != http.MethodGet {
		o.Errors = append(o.Errors, http.StatusBadRequest, http.StatusConflict)
	}
	if r.open {
		o.Security = []map[string][]string{}
	}
	return o
}

// describe puts the example of a registered call's body in its description.
func (r route) describe(api huma.API) {
	item := api.OpenAPI().Paths[r.path]
	o := map[string]*huma.Operation{
		http.MethodGet: item.Get, http.MethodPost: item.Post, http.MethodPut: item.Put, http.MethodDelete: item.Delete,
	}[r.method]
	if o.RequestBody == nil {
		return
	}
	if content := o.RequestBody.Content["application/json"]; content != nil {
		content.Example = r.example
	}
}

type body[T any] struct{ Body T }

// ByID is exported because huma only looks into exported embedded types.
type ByID struct {
	ID string `path:"id" format:"uuid"`
}

type created struct {
	ID string `json:"id" format:"uuid"`
}

type done struct {
	Done bool `json:"done"`
}

func ok(err error) (done, error) { return done{err == nil}, err }

type nothing struct{}

// call registers a call of a signed-in member that answers JSON.
func call[I, O any](
	s *server,
	api huma.API,
	r route,
	f func(ctx context.Context, by tx.Actor, in *I) (O, error),
) {
	huma.Register(api, r.operation(), func(ctx context.Context, in *I) (*body[O], error) {
		out, err := f(ctx, actorFrom(ctx), in)
		if err != nil {
			return nil, s.fail(ctx, err)
		}
		return &body[O]{out}, nil
	})
	r.describe(api)
}

// file is an answer that is no JSON.
type file struct {
	ContentType  string `header:"Content-Type"`
	Disposition  string `header:"Content-Disposition"`
	CacheControl string `header:"Cache-Control"`
	Policy       string `header:"Content-Security-Policy"`
	Body         []byte
}

// download registers a call of a signed-in member that answers a file of one of the media types.
func download[I any](
	s *server,
	api huma.API,
	r route,
	mediaTypes []string,
	f func(ctx context.Context, by tx.Actor, in *I) (file, error),
) {
	o := r.operation()
	content := map[string]*huma.MediaType{}
	for _, t := range mediaTypes {
		content[t] = &huma.MediaType{Schema: &huma.Schema{Type: "string", Format: "binary"}}
	}
	o.Responses = map[string]*huma.Response{"200": {Description: "The file", Content: content}}
	huma.Register(api, o, func(ctx context.Context, in *I) (*file, error) {
		out, err := f(ctx, actorFrom(ctx), in)
		if err != nil {
			return nil, s.fail(ctx, err)
		}
		return &out, nil
	})
}

// UploadedFile is the body of a call that takes a file: it goes to the disk as it comes, and into memory only when
// there is room for it.
type UploadedFile struct {
	file media.Upload
	err  error
	drop func()
}

// Resolve reads the body.
func (u *UploadedFile) Resolve(c huma.Context) []error {
	limit := c.Operation().MaxBodyBytes
	_ = c.SetReadDeadline(time.Now().Add(uploadTime))
	f, err := os.CreateTemp("", "bright-chalk-upload-*")
	if err != nil {
		u.err = fmt.Errorf("%w: keep an upload: %w", store.ErrBusy, err)
		return nil
	}
	_ = os.Remove(f.Name()) // it goes when it is closed, whatever happens
	u.drop = func() { _ = f.Close() }
	n, err := io.Copy(f, io.LimitReader(c.BodyReader(), limit+1))
	switch {
	case n > limit:
		u.err = refused(http.StatusRequestEntityTooLarge, "", limit, nil)
	case errors.Is(err, syscall.ENOSPC):
		u.err = fmt.Errorf("%w: keep an upload: %w", store.ErrBusy, err)
	case err != nil:
		u.err = refused(http.StatusBadRequest, "", limit, nil)
	}
	u.file = io.NewSectionReader(f, 0, n)
	return nil
}

// received is the input of a call that takes a file.
type received interface{ upload() *UploadedFile }

func (u *UploadedFile) upload() *UploadedFile { return u }

const uploadTime = time.Minute

// upload registers a call that takes the bytes of a file, up to a limit.
func upload[I, O any](
	s *server,
	api huma.API,
	r route,
	limit int64,
	f func(ctx context.Context, by tx.Actor, in *I) (O, error),
) {
	o := r.operation()
	o.MaxBodyBytes = limit
	o.Errors = append(o.Errors, http.StatusRequestEntityTooLarge)
	bytes := int(limit)
	o.RequestBody = &huma.RequestBody{
		Description: fmt.Sprintf("The bytes of the file, up to %d MB.", limit>>20),
		Content: map[string]*huma.MediaType{
			"application/octet-stream": {Schema: &huma.Schema{Type: "string", Format: "binary", MaxLength: &bytes}},
		},
	}
	huma.Register(api, o, func(ctx context.Context, in *I) (*body[O], error) {
		from, _ := any(in).(received)
		u := from.upload()
		if u.drop != nil {
			defer u.drop()
		}
		if u.err != nil {
			var p *problem
			if errors.As(u.err, &p) {
				return nil, p
			}
			return nil, s.fail(ctx, u.err)
		}
		out, err := f(ctx, actorFrom(ctx), in)
		if err != nil {
			return nil, s.fail(ctx, err)
		}
		return &body[O]{out}, nil
	})
}

// answers is JSON as encoding/json writes it, but that an empty list is [] and never null.
var answers = huma.Format{
	Marshal: func(w io.Writer, v any) error {
		return json.MarshalWrite(w, v, jsonv1.DefaultOptionsV1(), json.FormatNilSliceAsNull(false),
			json.FormatNilMapAsNull(false), jsontext.EscapeForHTML(false))
	},
	Unmarshal: huma.DefaultJSONFormat.Unmarshal,
}

func apiConfig() huma.Config {
	c := huma.DefaultConfig("Bright Chalk", "1")
	c.Formats = map[string]huma.Format{"application/json": answers, "json": answers}
	c.DocsPath, c.SchemasPath, c.OpenAPIPath = "", "", ""
	c.CreateHooks = nil // no $schema links in the answers
	c.Components.Schemas = huma.NewMapRegistry("#/components/schemas/", schemaName)
	c.Servers = []*huma.Server{{URL: "/api"}}
	c.Tags = tags
	c.Info.Description = "One team's library of sounds, and all that is made from it. A member signs in and gets a " +
		"cookie; every call is for the team of that member. Times are RFC 3339, durations are in the unit that the " +
		"name ends in, sounds are IPA. A call that fails answers application/problem+json with a code for programs " +
		"and a sentence for people."
	c.Components.SecuritySchemes = map[string]*huma.SecurityScheme{
		"session": {Type: "apiKey", In: "cookie", Name: cookieName},
	}
	c.Security = []map[string][]string{{"session": {}}}
	return c
}

// Lists are never null in answers, so the description says so. Huma has this as a global setting only.
func init() { huma.DefaultArrayNullable = false }

// plainNames are the packages whose types keep their names in the description: those of the API and the use cases.
var plainNames = map[string]bool{
	"httpapi": true, "tx": true, "library": true, "sound": true, "curriculum": true, "planning": true, "teaching": true,
	"people": true, "printing": true, "exchange": true,
}

// schemaName puts the package before the type, so that card.Finding and recording.Finding stay apart.
func schemaName(t reflect.Type, hint string) string {
	name := huma.DefaultSchemaNamer(t, hint)
	for t.Kind() == reflect.Pointer {
		t = t.Elem()
	}
	pkg := path.Base(t.PkgPath())
	ours := t.Name() != "" && strings.HasPrefix(t.PkgPath(), "brightchalk/") && !strings.Contains(t.Name(), "[")
	if ours && !plainNames[pkg] {
		return strings.ToUpper(pkg[:1]) + pkg[1:] + name
	}
	return name
}

// register puts every call on the routers: those of everybody, and those of signed-in members.
func (s *server) register(everybody, members huma.API) {
	s.sessionCalls(everybody, members)
	s.cardCalls(members)
	s.reviewCalls(members)
	s.auditCalls(members)
	s.jobCalls(members)
	s.parcelCalls(everybody, members)
	s.stockCalls(members)
	s.takeCalls(members)
	s.letterCalls(members)
	s.wordCalls(members)
	s.textCalls(members)
	s.lessonCalls(members)
	s.planningCalls(members)
	s.classCalls(members)
	s.peopleCalls(members)
	s.linkCalls(everybody, members)
	s.providerCalls(everybody, members)
	s.printCalls(members)
	s.eventCalls(members)
	s.runCalls(everybody, members)
	s.yearCalls(everybody, members)
	s.orderCalls(members)
	boundCards(members.OpenAPI().Components.Schemas.Map()["CardContent"])
	boundInput(members.OpenAPI())
}

// boundCards gives the fields of a card the limits that the core lists.
func boundCards(content *huma.Schema) {
	for _, f := range card.Fields {
		p := content.Properties[f.Name]
		if f.MaxLength > 0 {
			p.MaxLength = &f.MaxLength
		}
		if f.MaxItems > 0 {
			p.MaxItems = &f.MaxItems
		}
		p.PrecomputeMessages()
	}
}

// Bounds of what an input says nothing else of.
const (
	maxCharacters = 4000 // of a text
	maxItems      = 500  // of a list
	maxListText   = 500  // signs of a text in a list
)

// boundInput gives every text and list of the calls a bound, those inside lists as well, and every whole number of an
// input that of the database.
func boundInput(all *huma.OpenAPI) {
	seen := map[*huma.Schema]bool{}
	walk(all, boundSchema, seen)
	for _, at := range all.Paths {
		for _, o := range []*huma.Operation{at.Get, at.Put, at.Post, at.Delete} {
			if o == nil {
				continue
			}
			for _, p := range o.Parameters {
				walk(all, boundWhole, seen, p.Schema)
			}
			if o.RequestBody != nil {
				for _, c := range o.RequestBody.Content {
					walk(all, boundWhole, map[*huma.Schema]bool{}, c.Schema)
				}
			}
		}
	}
}

func bound[T any](field **T, most T) {
	if *field == nil {
		*field = &most
	}
}

func boundSchema(s *huma.Schema) {
	switch s.Type {
	case huma.TypeString:
		bound(&s.MaxLength, maxCharacters)
	case huma.TypeArray:
		bound(&s.MaxItems, maxItems)
		if s.Items != nil && s.Items.Type == huma.TypeString {
			bound(&s.Items.MaxLength, maxListText)
		}
	case huma.TypeObject:
		if _, ok := s.AdditionalProperties.(*huma.Schema); ok {
			bound(&s.MaxProperties, maxItems)
		}
	}
}

func boundWhole(s *huma.Schema) {
	boundSchema(s)
	if s.Type == huma.TypeInteger {
		bound(&s.Minimum, math.MinInt32)
		bound(&s.Maximum, math.MaxInt32)
	}
}

// walk calls f for schemas and those inside them; without any, for all that have a name.
func walk(all *huma.OpenAPI, f func(*huma.Schema), seen map[*huma.Schema]bool, from ...*huma.Schema) {
	if len(from) == 0 {
		for _, s := range all.Components.Schemas.Map() {
			from = append(from, s)
		}
	}
	for _, s := range from {
		if s != nil && s.Ref != "" {
			s = all.Components.Schemas.SchemaFromRef(s.Ref)
		}
		if s == nil || seen[s] {
			continue
		}
		seen[s] = true
		f(s)
		for _, p := range s.Properties {
			walk(all, f, seen, p)
		}
		if s.Items != nil {
			walk(all, f, seen, s.Items)
		}
		if values, ok := s.AdditionalProperties.(*huma.Schema); ok {
			walk(all, f, seen, values)
		}
		s.PrecomputeMessages()
	}
}

// OpenAPI is the description of the calls, for the typed client and for other programs.
func OpenAPI() ([]byte, error) {
	c := apiConfig()
	r := chi.NewRouter()
	everybody, members := humachi.New(r, c), humachi.New(r, c)
	(&server{app: &app.App{}}).register(everybody, members)
	return everybody.OpenAPI().MarshalJSON()
}
