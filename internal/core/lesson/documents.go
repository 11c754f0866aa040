package lesson

import "brightchalk/internal/core/document"

// Documents reads and writes stored lessons. Version 1 told a basket by an item's detail; version 2 has typed baskets
// and origins, and what was taught; version 3 has purposes, several targets, typed reasons, and the writing in the
// card.
var Documents = document.Kind[Lesson]{Name: "lesson", Steps: []func(map[string]any){typedChoices, purposes3}}

func object(v any) map[string]any {
	m, _ := v.(map[string]any)
	return m
}

func list(v any) []any {
	l, _ := v.([]any)
	return l
}

// objects are those of a list that are objects.
func objects(v any) (out []map[string]any) {
	for _, o := range list(v) {
		if m := object(o); m != nil {
			out = append(out, m)
		}
	}
	return out
}

func typedChoices(fields map[string]any) {
	baskets := map[string]Basket{"yes": Has, "no": HasNot, "first": First, "last": Last}
	typed := func(c map[string]any) {
		if b, ok := baskets[text(c["detail"])]; ok {
			c["basket"] = b
			delete(c, "detail")
		}
	}
	for _, step := range objects(fields["steps"]) {
		if text(step["kind"]) != string(Ear) {
			continue
		}
		for _, c := range objects(step["choices"]) {
			typed(c)
			for _, o := range objects(c["next"]) {
				typed(o)
			}
		}
	}
	fields["taught"], fields["known"], fields["rings"] = []any{}, []any{}, []any{}
}

// purposes3 makes the one kind of lesson that there was into one that introduces.
func purposes3(fields map[string]any) {
	target, _ := fields["card_id"].(string)
	fields["purpose"], fields["targets"] = string(Introduce), []any{target}
	face := object(object(fields["cards"])[target])
	for _, key := range []string{"writing", "capital", "place"} {
		if fields[key] != nil && face != nil {
			face[key] = fields[key]
		}
	}
	if face != nil {
		face["agreed"] = fields["agreed"]
		face["said"] = "/" + text(object(face["pair"])["grapheme"]) + "/"
	}
	role := map[string]Role{"word": TargetRole, "sentence": TargetRole, "page": TargetRole, "card": KnownRole}
	typed := func(o map[string]any) {
		o["because"] = map[string]any{"code": "", "text": text(o["because"])}
	}
	for _, step := range objects(fields["steps"]) {
		step["id"], step["items"] = step["kind"], []any{}
		if choices, ok := step["choices"].([]any); ok {
			step["items"] = choices
		}
		delete(step, "choices")
		for _, item := range objects(step["items"]) {
			typed(item)
			if r, ok := role[text(item["kind"])]; ok {
				item["role"] = string(r)
			}
			for _, o := range objects(item["next"]) {
				typed(o)
			}
		}
	}
	var dropped, notes []any
	for _, d := range list(fields["dropped"]) {
		dropped = append(dropped, map[string]any{"kind": "", "name": "", "code": "", "text": text(d)})
	}
	for _, n := range list(fields["notes"]) {
		notes = append(notes, map[string]any{"code": "", "text": text(n)})
	}
	fields["dropped"], fields["notes"] = dropped, notes
	for _, key := range []string{"card_id", "card_version", "agreed", "pair", "keyword", "writing", "capital", "place"} {
		delete(fields, key)
	}
}

func text(v any) string {
	s, _ := v.(string)
	return s
}
