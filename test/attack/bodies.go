package attack

import (
	"context"
	"encoding/json"
	"fmt"
	"maps"
	"math/rand/v2"
	"net/http"
	"slices"
	"strings"
)

// bodies sends to every call what nobody should send.
func bodies(ctx context.Context, a *Arena) error {
	s, err := a.serve(ctx, a.db, 0)
	if err != nil {
		return err
	}
	defer s.kill()
	all, err := operations()
	if err != nil {
		return err
	}
	lead, err := a.otherTeam(ctx, s.base) // its team may be left in any state
	if err != nil {
		return err
	}
	if err := a.furnish(ctx, lead); err != nil {
		return err
	}
	t, err := contendedThings(ctx, lead)
	if err != nil {
		return err
	}
	sent, statuses := 0, map[int]int{}
	for _, o := range all {
		if o.id == "remove-member" || o.id == "change-password" {
			continue
		}
		for name, body := range a.hostile(o, t) {
			status, answer, err := lead.do(ctx, o.method, o.at(t), "application/json", body)
			if err != nil {
				a.Find("%s with %s: no answer: %v", o.id, name, err)
				continue
			}
			sent++
			statuses[status/100*100]++
			if status >= 500 && status != http.StatusServiceUnavailable || !ready(ctx, s.base) {
				a.Find("%s with %s answers %d %s", o.id, name, status, answer)
			}
		}
	}
	a.quiet(s, "bodies")
	a.Say("   %d inputs to %d calls: %v", sent, len(all), statuses)
	return nil
}

// hostile are bodies for a call: some for each, and mutations of its example.
func (a *Arena) hostile(o operation, t things) map[string][]byte {
	out := map[string][]byte{"nothing": nil}
	if o.body == nil && !o.file {
		return out
	}
	maps.Copy(out, map[string][]byte{
		"null": []byte("null"), "a list": []byte("[]"), "a text": []byte(`"x"`), "half": []byte(`{"a":`),
		"deep":     []byte(strings.Repeat(`{"a":`, 20_000)),
		"huge":     []byte(`{"a":"` + strings.Repeat("x", 3<<20) + `"}`),
		"not text": {0xff, 0xfe, 0x00, 0x01},
	})
	if o.body == nil {
		return out
	}
	good := o.with(t)
	for i := range a.Rounds {
		data, err := json.Marshal(mutated(a.Rand, good))
		if err == nil {
			out[fmt.Sprint("mutation ", i)] = data
		}
		if data, err = json.Marshal(good); err == nil && len(data) > 2 {
			at := a.Rand.IntN(len(data))
			data[at] = byte(a.Rand.IntN(256))
			out[fmt.Sprint("a wrong byte ", i)] = data
		}
	}
	return out
}

// strange are values that a field hardly expects.
var strange = []any{
	nil,
	true,
	"",
	"\x00",
	"a\u0000b",
	"\u202e",
	"😀😀",
	"<script>x</script>",
	strings.Repeat("long ", 5000),
	-1,
	0,
	1e300,
	2147483648,
	"00000000-0000-0000-0000-000000000000",
	"not-an-id",
	[]any{},
	map[string]any{},
	"../../etc/passwd",
	"' OR 1=1 --",
	"%s%n",
}

// mutated is a value with one of its parts exchanged, doubled or dropped.
func mutated(r *rand.Rand, v any) any {
	switch v := v.(type) {
	case map[string]any:
		if len(v) == 0 || r.IntN(8) == 0 {
			return strange[r.IntN(len(strange))]
		}
		out := maps.Clone(v)
		keys := slices.Sorted(maps.Keys(v))
		k := keys[r.IntN(len(keys))]
		if r.IntN(8) == 0 {
			delete(out, k)
		} else {
			out[k] = mutated(r, v[k])
		}
		return out
	case []any:
		switch {
		case r.IntN(3) == 0:
			many := []any{}
			for range 2000 {
				many = append(many, append(slices.Clone(v), "x")[0])
			}
			return many
		case len(v) > 0:
			out := slices.Clone(v)
			at := r.IntN(len(v))
			out[at] = mutated(r, v[at])
			return out
		}
	}
	return strange[r.IntN(len(strange))]
}
