package httpapi_test

import (
	"bytes"
	"compress/gzip"
	"encoding/json"
	"fmt"
	"io"
	"maps"
	"net/http"
	"regexp"
	"slices"
	"strings"
	"sync"
	"testing"
	"time"

	"github.com/pquerna/otp/totp"
	"github.com/santhosh-tekuri/jsonschema/v6"
	"github.com/sebdah/goldie/v2"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"brightchalk/internal/httpapi"
	"brightchalk/internal/people"
	"brightchalk/internal/store"
	"brightchalk/internal/teaching"
)

// contract is the description of the calls, against which answers of the running server are held.
type contract struct {
	doc      map[string]any
	compiler *jsonschema.Compiler
	mu       sync.Mutex
	seen     map[string]bool // operation ids
}

var described = sync.OnceValues(func() (*contract, error) {
	data, err := httpapi.OpenAPI()
	if err != nil {
		return nil, err
	}
	doc, err := jsonschema.UnmarshalJSON(bytes.NewReader(data))
	if err != nil {
		return nil, err
	}
	c := &contract{doc: doc.(map[string]any), compiler: jsonschema.NewCompiler(), seen: map[string]bool{}}
	c.compiler.AssertFormat()
	return c, c.compiler.AddResource("https://bright.chalk/openapi.json", doc)
})

type operation struct {
	id, pointer string
	body        map[string]any
}

// operations lists what is described, by method and address.
func (c *contract) operations() map[string]operation {
	out := map[string]operation{}
	for path, item := range c.doc["paths"].(map[string]any) {
		for method, o := range item.(map[string]any) {
			at := "/paths/" + strings.NewReplacer("~", "~0", "/", "~1").Replace(path) + "/" + method
			id, _ := o.(map[string]any)["operationId"].(string)
			out[strings.ToUpper(method)+" "+path] = operation{id, at, o.(map[string]any)}
		}
	}
	return out
}

var hole = regexp.MustCompile(`\\\{\w+\\\}`)

// find looks for the operation of a request; a fixed address goes before one with holes.
func (c *contract) find(method, path string) (operation, bool) {
	all := c.operations()
	for _, key := range slices.SortedFunc(maps.Keys(all), func(a, b string) int {
		return strings.Count(a, "{") - strings.Count(b, "{")
	}) {
		pattern := "^" + hole.ReplaceAllString(regexp.QuoteMeta(key), `[^/]+`) + "$"
		if regexp.MustCompile(pattern).MatchString(method + " " + strings.TrimPrefix(path, "/api")) {
			return all[key], true
		}
	}
	return operation{}, false
}

func (c *contract) validate(pointer string, value any) error {
	escaped := strings.NewReplacer("%", "%25", "{", "%7B", "}", "%7D").Replace(pointer)
	c.mu.Lock()
	schema, err := c.compiler.Compile("https://bright.chalk/openapi.json#" + escaped)
	c.mu.Unlock()
	if err != nil {
		return err
	}
	return schema.Validate(value)
}

// held is a server whose every JSON answer is held against its description.
func held(t *testing.T, next http.Handler) http.Handler {
	c, err := described()
	require.NoError(t, err)
	return http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		answer := &copied{ResponseWriter: w, status: http.StatusOK}
		next.ServeHTTP(answer, r)
		media, _, _ := strings.Cut(w.Header().Get("Content-Type"), ";")
		o, ok := c.find(r.Method, r.URL.Path)
		if !ok || !strings.HasSuffix(media, "json") || strings.HasSuffix(media, "ndjson") { // a stream of lines
			return
		}
		var body io.Reader = &answer.body
		if w.Header().Get("Content-Encoding") == "gzip" {
			body, err = gzip.NewReader(body)
			assert.NoError(t, err)
		}
		value, err := jsonschema.UnmarshalJSON(body)
		if !assert.NoError(t, err, "%s answers no JSON", o.id) {
			return
		}
		status := fmt.Sprint(answer.status)
		if _, named := o.body["responses"].(map[string]any)[status]; !named {
			assert.Fail(t, "not described", "%s %s answers %s", r.Method, r.URL, status)
			return
		}
		at := o.pointer + "/responses/" + status + "/content/" + strings.ReplaceAll(media, "/", "~1") + "/schema"
		if answer.status < http.StatusInternalServerError {
			assert.NoError(t, c.validate(at, value), "%s %s answers otherwise than described", r.Method, r.URL)
		}
		if answer.status < http.StatusBadRequest {
			c.mu.Lock()
			c.seen[o.id] = true
			c.mu.Unlock()
		}
	})
}

type copied struct {
	http.ResponseWriter
	status int
	body   bytes.Buffer
}

func (c *copied) WriteHeader(status int) {
	c.status = status
	c.ResponseWriter.WriteHeader(status)
}

func (c *copied) Write(b []byte) (int, error) {
	c.body.Write(b)
	return c.ResponseWriter.Write(b)
}

func (c *copied) Unwrap() http.ResponseWriter { return c.ResponseWriter }

func (c *copied) Flush() { c.ResponseWriter.(http.Flusher).Flush() }

func TestEveryCallIsDescribed(t *testing.T) {
	c, err := described()
	require.NoError(t, err)
	all := c.operations()
	assert.Greater(t, len(all), 60)
	ids := map[string]bool{}
	for key, o := range all {
		assert.False(t, ids[o.id], "%s: the id %q stands twice", key, o.id)
		ids[o.id] = true
		assert.NotEmpty(t, o.body["summary"], key)
		assert.NotEmpty(t, o.body["tags"], key)
		body, _ := o.body["requestBody"].(map[string]any)
		content, _ := body["content"].(map[string]any)
		if json, ok := content["application/json"].(map[string]any); ok {
			require.Contains(t, json, "example", key)
			err := c.validate(o.pointer+"/requestBody/content/application~1json/schema", json["example"])
			assert.NoError(t, err, "the example of %s", key)
		}
		if raw, ok := content["application/octet-stream"].(map[string]any); ok {
			assert.Contains(t, raw["schema"], "maxLength", key)
		}
	}
	// The ids are what generated clients call: one that goes or is renamed breaks them.
	goldie.New(t, goldie.WithNameSuffix(".txt")).
		Assert(t, "operations", []byte(strings.Join(slices.Sorted(maps.Keys(ids)), "\n")+"\n"))
	var walk func(at string, v any)
	walk = func(at string, v any) {
		switch v := v.(type) {
		case map[string]any:
			if kinds, ok := v["type"].([]any); ok {
				assert.NotContains(t, kinds, "null", at)
			}
			for k, x := range v {
				walk(at+"/"+k, x)
			}
		case []any:
			for i, x := range v {
				walk(fmt.Sprint(at, "/", i), x)
			}
		}
	}
	walk("", c.doc["components"])
}

const exampleCard = "6f1c1c1e-5d0f-4c57-9d10-0d9f5f0f3b11"

// Every question and every example of a change, put to a demo team: the server holds what it describes (see held).
func TestAnswersAreAsDescribed(t *testing.T) {
	p := demoPlace(t)
	lead := p.signIn(t, 0)
	b, r := lead.cardID("b"), lead.cardID("r")
	var first struct {
		Classes []struct {
			ClassID string `json:"class_id"`
		}
		Takes []struct {
			TakeID string `json:"take_id"`
		}
		Made struct {
			ID string `json:"lesson_id"`
		}
		Bank struct{ ID string }
	}
	read := func(path string, into any) {
		_, body := lead.call("GET", path, "")
		require.NoError(t, json.Unmarshal([]byte(body), into), body)
	}
	read("/api/classes", &first.Classes)
	var members []struct {
		MemberID string `json:"member_id"`
		Role     string
	}
	read("/api/members", &members)
	var helper string
	for _, m := range members {
		if m.Role == "assistant" {
			helper = m.MemberID
		}
	}
	read("/api/cards/"+r+"/takes", &first.Takes)
	class, take := first.Classes[0].ClassID, first.Takes[0].TakeID
	make := func(path, body string, into any) {
		status, answer := lead.call("POST", path, body)
		require.Equal(t, 200, status, answer)
		require.NoError(t, json.Unmarshal([]byte(answer), into))
	}
	make("/api/lessons", `{"purpose":"introduce","card_ids":["`+b+`"],"class_id":"`+class+`","minutes":20}`, &first.Made)
	make("/api/bank", `{"kind":"sentence","body":"A hen sat on a mat."}`, &first.Bank)
	intro := "/api/lessons/" + first.Made.ID
	ask := "class=" + class + "&card=" + b
	for _, path := range []string{
		"/api/session", "/api/vocabulary", "/api/members", "/api/routines", "/api/days",
		"/api/accents/general-american/changes",
		"/api/classes/" + class + "/log", "/api/letters?text=b&words=down", "/api/sounds",
		"/api/cards/" + b, "/api/cards/" + b + "/mouth", "/api/cards/" + b + "/words",
		"/api/cards/" + b + "/unlocks", "/api/cards/" + b + "/versions",
		"/api/cards/" + b + "/versions/1", "/api/cards/" + b + "/flags?words=bat,lager",
		"/api/cards/" + b + "/flags?words=bat", "/api/cards/" + b + "/first-or-last",
		"/api/classes/" + class, "/api/lessons", intro, intro + "/sheets", "/api/bank?class=" + class, "/api/words?" + ask,
		"/api/words/look?word=boat&" + ask, "/api/made-up?" + ask, "/api/sentences?" + ask, "/api/play/chain?" + ask,
		"/api/play/slips?" + ask, "/api/play/compounds?" + ask, "/api/play/rings?" + ask, "/api/named-pictures",
		"/api/contrast?class=" + class + "&left=" + b + "&right=" + r, "/api/sort?cards=" + b + "," + r, "/api/demo",
		"/api/segment?words=said,boat,xyz", "/api/spellings?of=b",
		"/api/school-year", "/api/classes/" + class + "/year", "/api/classes/" + class + "/year?per_week=5",
		"/api/classes/" + class + "/forecast", "/api/classes/" + class + "/times", "/api/order", "/api/meeting",
		"/api/memory", "/api/shaky?classes=" + class, "/api/today", "/api/cards/" + b + "/review", "/api/notices",
		"/api/teachers", "/api/past-classes", "/api/audit",
		"/api/links", "/api/session/all", "/api/former-members", "/api/session/mail", "/api/session/second",
		"/api/session/provider", "/api/session/ways",
		"/api/stock/words", "/api/stock/uses?what=Pip&with=Moss", "/api/classes/" + class + "/books",

		"/api/listening", "/api/agreement", intro + "/run", intro + "/desks", intro + "/own-word?word=bat",
	} {
		status, body := lead.call("GET", path, "")
		assert.Equal(t, 200, status, "%s: %s", path, body)
	}
	var order struct{ Order []string }
	var group struct{ ID string }
	make("/api/groups", `{"name":"Dipper group","from":["`+class+`"],"cards":["`+r+`"],"flows_back":false}`, &group)
	var remark struct{ ID string }
	var reviewed struct{ Now struct{ Version int } }
	make("/api/cards/"+b+"/remarks", `{"field":"rhyme","parent_id":"","body":"","wording":"Big barrel."}`, &remark)
	var slip struct{ ID string }
	make("/api/cards/"+r+"/remarks", `{"field":"action","parent_id":"","body":"","wording":"Lift the barrle up."}`, &slip)
	taken, answer := lead.call("PUT", "/api/remarks/"+slip.ID+"/taken", `{"version":1}`)
	require.Equal(t, 200, taken, answer)
	var audit struct {
		Findings []struct{ Key, Code string }
	}
	read("/api/audit", &audit)
	at := slices.IndexFunc(audit.Findings, func(f struct{ Key, Code string }) bool { return f.Code == "slip" })
	require.GreaterOrEqual(t, at, 0)
	tables, theirs := lead.brought(t)
	var seen struct {
		Content struct{ Picture string }
	}
	read("/api/cards/"+r, &seen)
	for _, path := range []string{
		"/api/jobs", "/api/parcels",
		"/api/parcels/" + theirs + "/bundle", "/api/pictures/" + seen.Content.Picture + "/origin",
	} {
		status, answer := lead.call("GET", path, "")
		assert.Equal(t, 200, status, "%s: %s", path, answer)
	}
	kite, why := lead.call(
		"PUT",
		"/api/named-pictures",
		`{"name":"kite","others":[],"picture":"`+seen.Content.Picture+`"}`,
	)
	require.Equal(t, 200, kite, why)
	var second struct{ Secret string }
	make("/api/session/second", "", &second)
	digits, err := totp.GenerateCode(second.Secret, time.Now())
	require.NoError(t, err)
	confirmed, body := lead.call("PUT", "/api/session/second", `{"code":"`+digits+`"}`)
	require.Equal(t, 200, confirmed, body)
	c, err := described()
	require.NoError(t, err)
	var history struct {
		Meetings []struct {
			ID int64 `json:"log_id"`
		}
	}
	read("/api/classes/"+class+"/log", &history)
	meeting := fmt.Sprint(history.Meetings[0].ID)
	ids := strings.NewReplacer("/cards/{id}", "/cards/"+b, "/lessons/{id}", "/lessons/"+first.Made.ID,
		"/classes/{id}/log/{log}", "/classes/"+class+"/log/"+meeting, "/classes/{id}", "/classes/"+class,
		"/takes/{id}", "/takes/"+take, "/bank/{id}", "/bank/"+first.Bank.ID, "{name}", "kite",
		"/members/{id}", "/members/"+helper, "/groups/{id}", "/groups/"+group.ID, "/remarks/{id}", "/remarks/"+remark.ID,
		"{key}", audit.Findings[at].Key, "/parcels/{id}/table/look", "/parcels/"+tables[1]+"/table/look",
		"/parcels/{id}/table", "/parcels/"+tables[0]+"/table", "/parcels/{id}", "/parcels/"+theirs,
		"/pictures/{sum}", "/pictures/"+seen.Content.Picture)
	changes := c.operations()
	for _, key := range slices.Sorted(maps.Keys(changes)) {
		method, path, _ := strings.Cut(key, " ")
		request, _ := changes[key].body["requestBody"].(map[string]any)
		content, _ := request["content"].(map[string]any)
		described, ok := content["application/json"].(map[string]any)
		if !ok || path == "/session" {
			continue
		}
		example, err := json.Marshal(described["example"])
		require.NoError(t, err)
		body := string(example)
		read("/api/order", &order)
		cards, err := json.Marshal(order.Order)
		require.NoError(t, err)
		for field, id := range map[string]string{"class_id": class, "card_id": b, "take_id": take} {
			body = regexp.MustCompile(`"`+field+`":"[^"]*"`).ReplaceAllString(body, `"`+field+`":"`+id+`"`)
		}
		body = strings.NewReplacer(`"card_ids":["6f1d2a34-5b6c-4d7e-8f90-a1b2c3d4e5f6"]`, `"card_ids":["`+b+`"]`,
			`"order":["`+exampleCard+`"]`, `"order":`+string(cards), `"seconds":10`, `"seconds":1`,
			`"from":["`+exampleCard+`"]`, `"from":["`+class+`"]`, `"cards":["`+exampleCard+`"]`, `"cards":["`+r+`"]`,
			`["ship"]`, `["hen"]`).
			Replace(body)
		if key == "PUT /classes/{id}/archived" {
			body = `{"archived":false}` // the calls behind it need the class
		}
		var now struct{ Revision int }
		read(intro, &now)
		body = strings.NewReplacer(`"revision":1`, fmt.Sprint(`"revision":`, now.Revision), "Heron class", "Grebe class",
			"ow=aʊ", "eigh=eɪ", `"base_version":3`, `"base_version":1`).Replace(body)
		status, answer := lead.call(method, "/api"+ids.Replace(path), body)
		if status >= 300 {
			t.Log(key, status, answer)
		}
		assert.Less(t, status, 500, "%s: %s", key, answer)
	}
	read("/api/cards/"+b+"/review", &reviewed)
	version := fmt.Sprint(`"version":`, reviewed.Now.Version)
	make("/api/cards/"+b+"/remarks", `{"field":"notes","parent_id":"","body":"","wording":"Roll it."}`, &remark)
	for _, change := range [][3]string{
		{"PUT", "/api/remarks/" + remark.ID + "/taken", `{` + version + `}`},
		{"DELETE", "/api/remarks/" + remark.ID, ""},
		{"POST", "/api/cards/" + b + "/review", `{"note":"","readers":[]}`},
		{"POST", "/api/past-classes", `{"moves":[{"class_id":"` + group.ID + `","name":"","knows":false}]}`},
	} {
		status, answer := lead.call(change[0], change[1], change[2])
		assert.Equal(t, 200, status, "%s: %s", change[1], answer)
	}
	read("/api/cards/"+b+"/review", &reviewed)
	said, answer := lead.call("PUT", "/api/cards/"+b+"/review",
		fmt.Sprintf(`{"version":%d,"yes":false,"note":""}`, reviewed.Now.Version))
	assert.Equal(t, 200, said, answer)
	var now struct{ Revision int }
	read(intro, &now)
	var made struct{ ID string }
	read("/api/order", &order)
	swapped := slices.Clone(order.Order)
	swapped[0], swapped[1] = swapped[1], swapped[0]
	proposal, err := json.Marshal(map[string]any{"order": swapped, "note": "try"})
	require.NoError(t, err)
	make("/api/order/proposals", string(proposal), &made)
	for _, change := range [][3]string{
		{"POST", "/api/audit/" + audit.Findings[at].Key + "/mend", ""},
		{"DELETE", "/api/audit/" + audit.Findings[at].Key + "/left", ""},
	} {
		status, answer := lead.call(change[0], change[1], change[2])
		assert.Equal(t, 200, status, "%s: %s", change[1], answer)
	}
	status, answer := lead.call("PUT", "/api/order/proposals/"+made.ID, `{"agree":true}`)
	assert.Equal(t, 200, status, answer)
	var year struct {
		School map[string]any
		Pace   int `json:"pace_revision"`
	}
	read("/api/classes/"+class+"/year", &year)
	school, err := json.Marshal(year.School)
	require.NoError(t, err)
	for _, change := range [][3]string{
		{"PUT", "/api/school-year", string(school)},
		{"PUT", "/api/classes/" + class + "/pace", fmt.Sprintf(
			`{"revision":%d,"pace":{"start":"","speed":"","per_week":3,"teaching":[],"lost":[]}}`, year.Pace)},
		{"DELETE", "/api/memory/fit", ""},
		{"POST", "/api/school-year/days-off", "2026-12-17,fair\n"},
	} {
		status, answer := lead.call(change[0], change[1], change[2])
		assert.Equal(t, 200, status, "%s: %s", change[1], answer)
	}
	var link people.NewLink
	make("/api/members/"+helper+"/link", "", &link)
	_, secret, _ := strings.Cut(link.Path, "#")
	make("/api/welcome/look", `{"secret":"`+secret+`"}`, new(store.Link))
	var open []store.Link
	read("/api/links", &open)
	for _, path := range []string{"/api/links/" + open[0].LinkID, "/api/session/all"} {
		status, answer := lead.call("DELETE", path, "")
		assert.Equal(t, 200, status, "%s: %s", path, answer)
	}
	make("/api/classes/"+class+"/feed", "", new(struct{ Path string }))
	status, answer = lead.call("DELETE", "/api/classes/"+class+"/feed", "")
	assert.Equal(t, 200, status, answer)
	var code teaching.DeskCode
	make(intro+"/desks", "", &code)
	make("/api/desk", `{"code":"`+code.Code+`"}`, new(map[string]string))
	var back teaching.LessonView
	make(intro+"/edits", fmt.Sprint(`{"do":"undo","revision":`, now.Revision, `}`), &back)
	for _, path := range []string{"/api/account-events", "/api/members"} {
		status, answer := lead.call("GET", path, "")
		assert.Equal(t, 200, status, answer)
	}
	status, _ = lead.call("DELETE", "/api/members/"+helper, "")
	assert.Equal(t, 200, status)
	for _, path := range []string{
		"/api/parcels/" + tables[1], "/api/stock/words/Wharfside", intro + "/log", intro + "/desks",
		"/api/takes/" + take + "/hearing",
	} {
		status, _ = lead.call("DELETE", path, "")
		assert.Equal(t, 200, status, path)
	}
	_, _ = lead.call("DELETE", "/api/members/"+helper, "")
	status, answer = lead.call("DELETE", "/api/former-members/"+helper, "")
	assert.Equal(t, 200, status, answer)
	status, _ = lead.call("DELETE", "/api/session", "")
	assert.Equal(t, 200, status)
	var never []string
	for _, o := range changes {
		answers, _ := json.Marshal(o.body["responses"])
		if bytes.Contains(answers, []byte(`"200":{"content":{"application/json"`)) && !c.seen[o.id] {
			never = append(never, o.id)
		}
	}
	slices.Sort(never)
	t.Log("only refused here, or asked elsewhere:", never)
	assert.Less(t, len(never), 17, never) // each of them has a test of its own
}
