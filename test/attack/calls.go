package attack

import (
	"bytes"
	"context"
	"encoding/json"
	"fmt"
	"maps"
	"net/http"
	"regexp"
	"slices"
	"strings"
	"time"

	"brightchalk/demo"
	"brightchalk/internal/core/lesson"
	"brightchalk/internal/httpapi"
	"brightchalk/internal/jobs"
	"brightchalk/internal/people"
	"brightchalk/internal/printing"
	"brightchalk/internal/teaching"
	"brightchalk/internal/tx"
)

// operation is a call of the OpenAPI document.
type operation struct {
	id, method, path string
	open             bool // for everybody
	body             any  // the example of a JSON body
	file             bool // takes the bytes of a file
}

// operations lists all calls but the event stream, which does not end, in an order that signs out last.
func operations() ([]operation, error) {
	doc, err := httpapi.OpenAPI()
	if err != nil {
		return nil, err
	}
	var read struct {
		Paths map[string]map[string]struct {
			ID       string                 `json:"operationId"`
			Security *[]map[string][]string `json:"security"`
			Body     struct {
				Content map[string]struct{ Example any }
			} `json:"requestBody"`
		}
	}
	if err := json.Unmarshal(doc, &read); err != nil {
		return nil, err
	}
	var out []operation
	for _, path := range slices.Sorted(maps.Keys(read.Paths)) {
		for _, method := range slices.Sorted(maps.Keys(read.Paths[path])) {
			o := read.Paths[path][method]
			one := operation{id: o.ID, method: strings.ToUpper(method), path: path}
			one.open = o.Security != nil && len(*o.Security) == 0
			if content, ok := o.Body.Content["application/json"]; ok {
				one.body = content.Example
			}
			_, one.file = o.Body.Content["application/octet-stream"]
			if !strings.HasSuffix(one.path, "/events") && one.id != "sign-out" { // streams have no end
				out = append(out, one)
			}
		}
	}
	return out, nil
}

// things are ids of a team that calls are made with.
type things struct {
	byPath map[string]string // the first part of a path, to an id
	byName map[string]string // a field of a body or a query
}

// contendedThings makes one of each thing that calls are about.
func contendedThings(ctx context.Context, p person) (t things, err error) {
	wall, err := cards(ctx, p)
	if err != nil || len(wall) == 0 {
		return t, fmt.Errorf("no cards: %w", err)
	}
	card := wall[len(wall)/3].CardID
	classes, err := get[[]struct {
		ClassID string `json:"class_id"`
	}](ctx, p, "/api/classes")
	if err != nil || len(classes) == 0 {
		return t, fmt.Errorf("no classes: %w", err)
	}
	class := classes[0].ClassID
	_, data, err := p.call(ctx, http.MethodPost, "/api/lessons", teaching.LessonAsk{
		ClassID: class, Purpose: lesson.Introduce, CardIDs: []string{card}, Minutes: 15,
	})
	if err != nil {
		return t, err
	}
	var made teaching.LessonView
	if err := json.Unmarshal(data, &made); err != nil {
		return t, fmt.Errorf("no lesson: %s", data)
	}
	var take string
	for _, c := range wall {
		if c.TakeID != "" {
			take = c.TakeID
		}
	}
	members, err := get[[]people.Person](ctx, p, "/api/members")
	if err != nil {
		return t, err
	}
	other := class // no member
	for _, m := range members {
		if m.Role != tx.Lead {
			other = m.MemberID
		}
	}
	job, _, err := done(ctx, p, jobs.Ask{Kind: jobs.Pack, Size: printing.PackOrder})
	if err != nil {
		return t, err
	}
	return things{
		byPath: map[string]string{
			"cards": card, "classes": class, "lessons": made.LessonID, "takes": take, "members": other,
			"bank": class, "pictures": wall[0].Picture, "jobs": job,
		},
		byName: map[string]string{
			"class": class, "class_id": class, "card": card, "card_id": card, "left": card, "right": wall[1].CardID,
			"take_id": take, "cards": card,
		},
	}, nil
}

// done is the id and the file of a job, when it is done.
func done(ctx context.Context, p person, ask jobs.Ask) (id string, file []byte, err error) {
	_, data, err := p.call(ctx, http.MethodPost, "/api/jobs", ask)
	var j jobs.View
	if err == nil {
		err = json.Unmarshal(data, &j)
	}
	if err != nil || j.JobID == "" {
		return "", nil, fmt.Errorf("no job: %s: %w", data, err)
	}
	for until := time.Now().Add(time.Minute); time.Now().Before(until); time.Sleep(50 * time.Millisecond) {
		status, file, err := p.do(ctx, http.MethodGet, "/api/jobs/"+j.JobID+"/file", "", nil)
		if err != nil || status == http.StatusOK {
			return j.JobID, file, err
		}
	}
	return j.JobID, nil, fmt.Errorf("the job %s is not done within a minute", ask.Kind)
}

var inBraces = regexp.MustCompile(`\{[a-z]+\}`)

// at is the address of a call about the things.
func (o operation) at(t things) string {
	first, _, _ := strings.Cut(strings.TrimPrefix(o.path, "/"), "/")
	n := 0
	path := inBraces.ReplaceAllStringFunc(o.path, func(name string) string {
		n++
		if id := t.byPath[first]; id != "" && n == 1 {
			return id
		}
		usual := map[string]string{
			"{game}": "chain", "{accent}": "general-american", "{sheet}": "plan", "{word}": "dog", "{name}": "kite",
		}
		if v, ok := usual[name]; ok {
			return v
		}
		return "1"
	})
	query := []string{}
	for _, k := range []string{"class", "card", "left", "right", "cards"} {
		query = append(query, k+"="+t.byName[k])
	}
	return "/api" + path + "?" + strings.Join(
		append(query, "speaker=Ida", "consent=yes", "words=hen", "of=b", "text=b"),
		"&",
	)
}

// with is the example of the body, about the things.
func (o operation) with(t things) any {
	var fill func(name string, v any) any
	fill = func(name string, v any) any {
		switch v := v.(type) {
		case map[string]any:
			out := map[string]any{}
			for k, inner := range v {
				out[k] = fill(k, inner)
			}
			return out
		case []any:
			out := make([]any, len(v))
			for i, inner := range v {
				out[i] = fill(strings.TrimSuffix(name, "s"), inner)
			}
			return out
		}
		if id := t.byName[name]; id != "" {
			return id
		}
		return v
	}
	return fill("", o.body)
}

// send makes the call.
func (o operation) send(ctx context.Context, p person, t things) (int, []byte, error) {
	switch {
	case o.file && strings.Contains(o.path, "take"):
		return p.do(ctx, o.method, o.at(t), "application/octet-stream", tone(44_100, 0.6))
	case o.file:
		return p.do(ctx, o.method, o.at(t), "application/octet-stream", []byte(square))
	case o.body != nil:
		return p.call(ctx, o.method, o.at(t), o.with(t))
	}
	return p.do(ctx, o.method, o.at(t), "", nil)
}

// own are the tables of a team whose rows a role may not change by any call; "" is somebody of no team or another.
var own = map[string][]string{
	"": {
		"team",
		"member",
		"card",
		"card_version",
		"take",
		"medium",
		"school_class",
		"routine",
		"lesson",
		"class_log",
		"bank_text",
		"letter_form",
		"named_picture",
		"lesson_log",
		"class_known",
		"class_known_word",
		"word_clue",
		"parcel",
		"parcel_file",
		"origin",
		"account",
		"account_identity",
		"second_factor",
		"member_mail",
		"job",
		"job_file",
	},
	"assistant": {
		"team", "member", "card", "card_version", "letter_form", "routine", "bank_text", "named_picture", "parcel",
		"parcel_file", "origin", "account",
	},
	"teacher": {"team", "member", "account"},
}

// rows are what stands in a table of a team, but for what a role may change there: a teacher keeps words of the team's
// own, which stand among its conventions.
func (a *Arena) rows(ctx context.Context, table, team, role string) (string, error) {
	columns := "*"
	switch {
	case table == "team" && role == "teacher":
		columns = "name, conventions - 'words' AS conventions"
	case table == "team":
		columns = "name, conventions"
	}
	where := "team_id = $1"
	if slices.Contains([]string{"account", "account_identity", "second_factor"}, table) {
		where = "account_id IN (SELECT account_id FROM member WHERE team_id = $1)"
	}
	return ask[string](ctx, a.db, fmt.Sprintf(
		`SELECT coalesce(md5(string_agg(to_jsonb(t)::text, '' ORDER BY to_jsonb(t)::text)), '') FROM (SELECT %s FROM %s t
		WHERE %s) t`, columns, table, where), team)
}

// rights sends every call as everybody with the real ids of a team, and looks at the team's rows before and after.
func rights(ctx context.Context, a *Arena) error {
	s, err := a.serve(ctx, a.db, 0)
	if err != nil {
		return err
	}
	defer s.kill()
	all, err := operations()
	if err != nil {
		return err
	}
	lead, err := member(ctx, s.base, 0)
	if err != nil {
		return err
	}
	t, err := contendedThings(ctx, lead)
	if err != nil {
		return err
	}
	team, err := ask[string](
		ctx,
		a.db,
		"SELECT m.team_id::text FROM member m JOIN account a USING (account_id) WHERE a.email = $1",
		demo.SignIns[0].Email,
	)
	if err != nil {
		return err
	}
	other, err := a.otherTeam(ctx, s.base)
	if err != nil {
		return err
	}
	asked := 0
	for _, who := range []struct {
		name, role string
		sign       func() (person, error)
	}{
		{"nobody", "", func() (person, error) { return stranger(s.base), nil }},
		{"another team's lead", "", func() (person, error) { return other, nil }},
		{"assistant", "assistant", func() (person, error) { return member(ctx, s.base, 2) }},
		{"teacher", "teacher", func() (person, error) { return member(ctx, s.base, 1) }},
	} {
		p, err := who.sign()
		if err != nil {
			return err
		}
		before, err := a.look(ctx, who.role, team, seen{})
		if err != nil {
			return err
		}
		for _, o := range all {
			if slices.Contains([]string{"change-password", "end-other-sessions", "sign-in", "set-own-mail"}, o.id) {
				continue // of the own account, whoever asks
			}
			status, answer, err := o.send(ctx, p, t)
			if err != nil {
				return err
			}
			asked++
			switch {
			case status >= 500 && status != http.StatusServiceUnavailable:
				a.Find("%s as %s answers %d %s", o.id, who.name, status, answer)
			case who.name == "nobody" && !o.open && status != http.StatusUnauthorized:
				a.Find("%s answers %d to nobody", o.id, status)
			case who.role == "" && !o.open && leaks(answer, t):
				a.Find("%s shows %s an id of the team: %s", o.id, who.name, answer)
			}
			after, err := a.look(ctx, who.role, team, before)
			if err != nil {
				return err
			}
			for table, h := range after.rows {
				if h != before.rows[table] {
					a.Find("%s as %s changed the table %s", o.id, who.name, table)
				}
			}
			before = after
		}
	}
	a.quiet(s, "rights")
	a.Say("   %d calls × 4 people, %d asked, their rows compared after each", len(all), asked)
	return nil
}

// leaks tells whether an answer of success holds an id that the asker did not get from us but from the team.
func leaks(answer []byte, t things) bool {
	if bytes.Contains(answer, []byte(`"status":4`)) {
		return false // a refusal may name what was asked for
	}
	for _, id := range t.byPath {
		if id != "" && bytes.Contains(answer, []byte(id)) {
			return true
		}
	}
	return false
}

// seen is what stood in the tables of a team when it was last looked at: versions are marks of their rows' versions,
// which tell without reading the rows whether anything was written there.
type seen struct{ rows, versions map[string]string }

// look compares only the tables that were written to since.
func (a *Arena) look(ctx context.Context, role, team string, last seen) (seen, error) {
	now := seen{map[string]string{}, map[string]string{}}
	for _, table := range own[role] {
		v, err := ask[string](ctx, a.db, fmt.Sprintf(
			"SELECT count(*) || ' ' || coalesce(sum(hashtext(ctid::text || xmin::text)), 0) FROM %s", table))
		if err != nil {
			return seen{}, err
		}
		now.versions[table], now.rows[table] = v, last.rows[table]
		if v == last.versions[table] {
			continue
		}
		if now.rows[table], err = a.rows(ctx, table, team, role); err != nil {
			return seen{}, err
		}
	}
	return now, nil
}

const otherEmail, otherPassword = "lead@weirside.example", "a door on the other side"

// otherTeam makes another team by the command line, once, and signs its lead in.
func (a *Arena) otherTeam(ctx context.Context, base string) (person, error) {
	if p, err := signedIn(ctx, base, otherEmail, otherPassword); err == nil {
		return p, nil
	}
	err := a.run(
		ctx,
		otherPassword+"\n",
		"team",
		"create",
		"--name",
		"Weirside School",
		"--email",
		otherEmail,
		"--lead",
		"Una Sill",
	)
	if err != nil {
		return person{}, err
	}
	return signedIn(ctx, base, otherEmail, otherPassword)
}
