package httpapi_test

import (
	"encoding/json"
	"net/http"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"brightchalk/internal/core/strokes"
	"brightchalk/internal/library"
	"brightchalk/internal/media"
	"brightchalk/internal/render"
	"brightchalk/internal/sound"
	"brightchalk/internal/store"
	"brightchalk/internal/teaching"
)

func get[T any](t *testing.T, c client, path string) T {
	t.Helper()
	var out T
	status, body := c.call("GET", path, "")
	require.Equal(t, 200, status, body)
	require.NoError(t, json.Unmarshal([]byte(body), &out))
	return out
}

func TestEverythingOfALessonIsPrinted(t *testing.T) {
	p := demoPlace(t)
	lead := p.signIn(t, 0)
	class := get[[]store.Class](t, lead, "/api/classes")[0]
	_, body := lead.call(
		"POST",
		"/api/lessons",
		`{"class_id":"`+class.ClassID+`","purpose":"introduce","card_ids":["`+lead.cardID("b")+`"],"minutes":40}`,
	)
	var in teaching.LessonView
	require.NoError(t, json.Unmarshal([]byte(body), &in))
	base := "/api/lessons/" + in.LessonID + "/print/"
	all := ""
	offered := get[[]render.Sheet](t, lead, "/api/lessons/"+in.LessonID+"/sheets")
	require.Greater(t, len(offered), 14)
	for _, s := range append(offered, render.Sheet{Name: render.All}) {
		status, data := lead.call("GET", base+s.Name+".pdf?line=Merci", "")
		require.Equal(t, 200, status, s.Name)
		require.True(t, strings.HasPrefix(data, "%PDF"), s.Name)
		all = pdf(t, []byte(data), "pdftotext", "FILE", "-")
		assertFontsEmbedded(t, []byte(data), s.Name)
	}
	for _, want := range []string{
		"as in barrel", "Write b", "Which have b as in barrel?", "Sound frames", "My book of",
		"Find b as in barrel and ring it", "Put the sentence in order", "Talk about it", "Our new sound", "Merci",
	} {
		assert.Contains(t, all, want)
	}
	status, body := lead.call("GET", base+"poster.pdf", "")
	assert.Equal(t, 422, status)
	assert.Contains(t, body, "no sheet of this name")
	status, _ = lead.call("GET", base+"home.pdf?line="+strings.Repeat("a", 301), "")
	assert.Equal(t, 422, status)
	status, _ = lead.call("GET", "/api/lessons/5/print/plan.pdf", "")
	assert.Equal(t, 422, status, "no id at all")
	status, _ = lead.call("GET", "/api/lessons/00000000-0000-0000-0000-000000000000/print/plan.pdf", "")
	assert.Equal(t, 404, status)

	status, data := lead.call("GET", "/api/lessons/"+in.LessonID+"/preview/"+offered[0].Name+".png", "")
	require.Equal(t, 200, status)
	assert.True(t, strings.HasPrefix(data, "\x89PNG"))
	status, data = lead.call("GET", "/api/lessons/"+in.LessonID+"/sheets.html?line=Merci", "")
	require.Equal(t, 200, status)
	assert.Contains(t, data, "Merci")
	status, data = lead.call("GET", "/api/classes/"+class.ClassID+"/mat.pdf", "")
	require.Equal(t, 200, status, data)
	assert.Contains(t, pdf(t, []byte(data), "pdftotext", "FILE", "-"), "We know")
	status, data = lead.call("GET", "/api/practice.pdf?text=ship,%20fish%20cat&do=trace,copy&ring=sh", "")
	require.Equal(t, 200, status)
	assert.Contains(t, pdf(t, []byte(data), "pdftotext", "FILE", "-"), "2 of 3 hold it")
	status, _ = lead.call("GET", "/api/practice.pdf?text=cat&do=sing", "")
	assert.Equal(t, 422, status)
	status, _ = lead.call("GET", "/api/practice.pdf?text="+strings.Repeat("a,", 30), "")
	assert.Equal(t, 422, status)

	status, data = lead.call("GET", "/api/practice.pdf?text=igh", "")
	require.Equal(t, 200, status)
	assert.Contains(t, pdf(t, []byte(data), "pdftotext", "FILE", "-"), "Write igh")
	status, body = lead.call("GET", "/api/practice.pdf?text=%C3%A9", "")
	assert.Equal(t, 422, status)
	assert.Contains(t, body, "no strokes")
	for _, query := range []string{"layout=single", "layout=fold&size=small", "layout=frieze"} {
		status, data := lead.call("GET", "/api/cards.pdf?cards=all&"+query, "")
		require.Equal(t, 200, status, query)
		assert.True(t, strings.HasPrefix(data, "%PDF"))
	}
	status, _ = lead.call("GET", "/api/cards.pdf?cards=all&layout=poster", "")
	assert.Equal(t, 422, status)
}

func TestSoundsAndVoicesOverHTTP(t *testing.T) {
	p := demoPlace(t)
	lead, assistant := p.signIn(t, 0), p.signIn(t, 2)
	shelf := get[sound.Shelf](t, assistant, "/api/sounds")
	require.NotEmpty(t, shelf.Evenness.Voices)
	m := lead.cardID("m")
	takes := get[[]sound.TakeView](t, assistant, "/api/cards/"+m+"/takes")
	for path, kind := range map[string]string{
		"/sound": "audio/flac", "/sound?as=wav": "audio/wav",
		"/original": "audio/wav",
	} {
		answer, err := assistant.http.Get(assistant.base + "/api/takes/" + takes[0].TakeID + path)
		require.NoError(t, err)
		assert.Equal(t, kind, answer.Header.Get("Content-Type"), path)
		_ = answer.Body.Close()
	}
	_, flac := assistant.call("GET", "/api/cards/"+m+"/sound", "")
	_, wav := assistant.call("GET", "/api/takes/"+takes[0].TakeID+"/sound?as=wav", "")
	one, err := media.DecodeSound([]byte(flac))
	require.NoError(t, err)
	other, err := media.DecodeSound([]byte(wav))
	require.NoError(t, err)
	assert.Len(t, other.Samples, len(one.Samples), "the card plays its chosen take")

	fixes := "/api/takes/" + takes[0].TakeID + "/fixes"
	status, _ := assistant.call("PUT", fixes, `{"start_ms":100,"end_ms":101}`)
	assert.Equal(t, 403, status, "what the classes hear is changed by who may choose it")
	for fix, why := range map[string]string{
		`{"start_ms":900,"end_ms":100}`:   "the start before the end",
		`{"start_ms":300,"end_ms":301}`:   "nothing could be heard",
		`{"start_ms":0,"end_ms":60}`:      "only silence",
		`{"start_ms":1150,"end_ms":1250}`: "only silence",
	} {
		status, body := lead.call("PUT", fixes, fix)
		assert.Equal(t, 422, status, fix)
		assert.Contains(t, body, why)
	}
	status, body := lead.call("PUT", fixes, `{"start_ms":0,"end_ms":500,"plain":true}`)
	assert.Equal(t, 200, status, body)
	assert.True(t, get[[]sound.TakeView](t, assistant, "/api/cards/"+m+"/takes")[0].Plain)

	status, _ = assistant.call("PUT", "/api/cards/"+lead.cardID("k")+"/take", `{"take_id":"`+takes[0].TakeID+`"}`)
	assert.Equal(t, 403, status, "an assistant does not choose")
	status, body = lead.call("PUT", "/api/cards/"+lead.cardID("k")+"/take", `{"take_id":"`+takes[0].TakeID+`"}`)
	assert.Equal(t, 422, status)
	assert.Contains(t, body, "That take says /m/")
	voice, _ := json.Marshal(map[string]string{"speaker": shelf.Evenness.Voices[0].Speaker})
	status, _ = p.signIn(t, 1).call("POST", "/api/voices/withdraw", string(voice))
	assert.Equal(t, 403, status, "only a lead withdraws a voice")
	status, body = lead.call("POST", "/api/voices/withdraw", string(voice))
	require.Equal(t, 200, status, body)
	status, _ = lead.call("GET", "/api/takes/"+takes[0].TakeID+"/original", "")
	assert.Equal(t, 404, status)
	body = lead.made(`{"kind":"pack","size":"order"}`)
	assert.False(t, strings.Contains(body, "data:audio/"), "no pack holds a withdrawn voice")
}

func TestLettersOverHTTP(t *testing.T) {
	p := demoPlace(t)
	teacher, assistant := p.signIn(t, 1), p.signIn(t, 2)
	v := get[library.LetterView](t, assistant, "/api/letters?text=h&words=Down,+up+and+over")
	assert.Equal(t, "Down, up and over", v.Strokes[0].Words, "a comma stays in its words")
	require.NotNil(t, v.Letter)
	drawn := v.Letter.Map(func(q strokes.Point) strokes.Point { q.Y *= 0.7; return q })
	body, err := json.Marshal(drawn)
	require.NoError(t, err)
	status, answer := assistant.call("POST", "/api/letters/show", string(body))
	require.Equal(t, 200, status, answer)
	assert.Contains(t, answer, "Does not reach the top line.")
	status, _ = assistant.call("PUT", "/api/letters", string(body))
	assert.Equal(t, 403, status)
	status, answer = teacher.call("PUT", "/api/letters", string(body))
	assert.Equal(t, 422, status)
	assert.Contains(t, answer, "Not kept yet: Does not reach the top line.")
	status, answer = teacher.call("PUT", "/api/letters", `{"sign":"h","family":"hump","strokes":[]}`)
	assert.Equal(t, 422, status, answer)
	status, answer = teacher.call("GET", "/api/letters?text="+strings.Repeat("a", 30), "")
	assert.Equal(t, 422, status)
	assert.Contains(t, answer, "one to 24 letters")
}

func TestNewDoorsNeedASession(t *testing.T) {
	p := demoPlace(t)
	stranger := client{t: t, base: p.server.URL, http: http.DefaultClient}
	for _, path := range []string{
		"/api/sounds", "/api/letters?text=a", "/api/jobs",
		"/api/practice.pdf?text=a", "/api/lessons/00000000-0000-0000-0000-000000000000/print/all.pdf",
		"/api/takes/00000000-0000-0000-0000-000000000000/original",
	} {
		status, _ := stranger.call("GET", path, "")
		assert.Equal(t, 401, status, path)
	}
	lead := p.signIn(t, 0)
	status, body := lead.call("POST", "/api/jobs", `{"kind":"pack","size":"week"}`)
	assert.Equal(t, 422, status)
	assert.Contains(t, body, "Choose the whole order")
	status, _ = lead.call("POST", "/api/jobs",
		`{"kind":"pack","size":"week","class":"00000000-0000-0000-0000-000000000000"}`)
	assert.Equal(t, 404, status)
}

// What was agreed is printed, as it is taught, while a draft is being written.
func TestTheHomeSheetHoldsTheAgreedCard(t *testing.T) {
	p := demoPlace(t)
	lead := p.signIn(t, 0)
	id := lead.cardID("h")
	card := get[library.CardView](t, lead, "/api/cards/"+id)
	require.Equal(t, "agreed", string(card.State))
	agreedCue := card.Content.MouthCue
	card.Content.MouthCue = "A cue that nobody agreed."
	body, err := json.Marshal(map[string]any{"base_version": card.Version, "content": card.Content})
	require.NoError(t, err)
	status, answer := lead.call("PUT", "/api/cards/"+id, string(body))
	require.Equal(t, 200, status, answer)
	class := get[[]store.Class](t, lead, "/api/classes")[0]
	_, answer = lead.call(
		"POST",
		"/api/lessons",
		`{"class_id":"`+class.ClassID+`","purpose":"introduce","card_ids":["`+id+`"],"minutes":20}`,
	)
	var in teaching.LessonView
	require.NoError(t, json.Unmarshal([]byte(answer), &in))
	status, data := lead.call("GET", "/api/lessons/"+in.LessonID+"/print/home.pdf", "")
	require.Equal(t, 200, status)
	text := strings.Join(strings.Fields(pdf(t, []byte(data), "pdftotext", "FILE", "-")), " ")
	assert.Contains(t, text, agreedCue)
	assert.NotContains(t, text, "nobody agreed")
}
