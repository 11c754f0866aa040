package bundle

import (
	"cmp"
	"encoding/json"
	"maps"
	"slices"
	"strings"

	"brightchalk/internal/core/card"
	"brightchalk/internal/core/convention"
	"brightchalk/internal/core/lesson"
	"brightchalk/internal/core/spelling"
	"brightchalk/internal/core/strokes"
)

// Mine is the library that a bundle is held against.
type Mine struct {
	Conventions convention.Conventions
	Cards       []card.Card       // newest versions
	Takes       map[string]string // SHA-256 of the chosen recordings, by card id
	Routines    map[lesson.Purpose]lesson.Routine
	Bank        []lesson.Text
	Letters     map[string]strokes.Letter
	Pictures    []Picture
}

// CardLine is a card of a bundle against the library.
type CardLine struct {
	ID        string           `json:"id" doc:"in the bundle"`
	Pair      spelling.Pair    `json:"pair"`
	Standing  card.Standing    `json:"standing" enum:"new,same,different,unfit"`
	Why       string           `json:"why" doc:"why it has no place here"`
	Agreed    bool             `json:"agreed" doc:"in their library"`
	CardID    string           `json:"card_id" doc:"ours; empty where we have none"`
	Version   int              `json:"version" doc:"of ours"`
	Keyword   string           `json:"keyword"`
	Fields    []card.FieldLine `json:"fields"`
	Fills     int              `json:"fills" doc:"fields that ours lacks and theirs has"`
	Picture   string           `json:"picture" doc:"file of theirs; empty where it has none"`
	Take      string           `json:"take" doc:"file of theirs; empty where it has none"`
	Speaker   string           `json:"speaker" doc:"whose voice their take is"`
	NewTake   bool             `json:"new_take" doc:"their take is not the one we chose"`
	WithSound bool             `json:"with_sound" doc:"ours has a sound"`
}

// Line is another thing of a bundle against the library.
type Line struct {
	Name     string        `json:"name"`
	Standing card.Standing `json:"standing" enum:"new,same,different,unfit"`
}

// Comparison is a bundle against a library.
type Comparison struct {
	Cards       []CardLine `json:"cards" doc:"in their order of teaching"`
	Letters     []Line     `json:"letters" doc:"by sign"`
	Pictures    []Line     `json:"pictures" doc:"of words"`
	Texts       []Line     `json:"texts"`
	Routines    []Line     `json:"routines" doc:"by purpose"`
	Conventions []Line     `json:"conventions" doc:"what they decided otherwise"`
	Voices      []string   `json:"voices" doc:"who speaks on their takes"`
}

// Compare holds a bundle against a library.
func (a *Archive) Compare(m Mine) Comparison {
	b := a.Library
	out := Comparison{
		Cards: []CardLine{}, Letters: []Line{}, Pictures: []Line{}, Texts: []Line{}, Routines: []Line{},
		Conventions: []Line{}, Voices: []string{},
	}
	cards := slices.Clone(b.Cards)
	slices.SortStableFunc(cards, func(x, y card.Card) int { return cmp.Compare(x.Step, y.Step) })
	seen := map[spelling.Pair]bool{}
	for _, c := range cards {
		line := a.card(c, m)
		if seen[line.Pair] {
			line.Standing, line.Why = card.Unfit, "it stands in the bundle twice"
		}
		seen[line.Pair] = true
		out.Cards = append(out.Cards, line)
	}
	for _, sign := range slices.Sorted(maps.Keys(b.Letters)) {
		mine, ok := m.Letters[sign]
		out.Letters = append(out.Letters, Line{sign, standing(ok, alike(mine, b.Letters[sign]))})
	}
	for _, p := range b.Pictures {
		i := slices.IndexFunc(m.Pictures, func(x Picture) bool { return x.Name == p.Name })
		out.Pictures = append(out.Pictures, Line{p.Name, standing(i >= 0, i >= 0 && m.Pictures[i].SHA256 == p.SHA256)})
	}
	for _, t := range b.Bank {
		i := slices.IndexFunc(m.Bank, func(x lesson.Text) bool { return x.Body == t.Body })
		out.Texts = append(out.Texts, Line{t.Body, standing(i >= 0, true)})
	}
	theirs := maps.Clone(b.Routines)
	if theirs == nil {
		theirs = map[lesson.Purpose]lesson.Routine{}
	}
	if len(b.Routine.Steps) > 0 {
		theirs[lesson.Introduce] = b.Routine
	}
	for _, p := range slices.Sorted(maps.Keys(theirs)) {
		mine, ok := m.Routines[p]
		if !ok {
			mine = lesson.DefaultRoutine(p)
		}
		out.Routines = append(out.Routines, Line{string(p), standing(true, alike(mine, theirs[p]))})
	}
	out.Conventions = append(out.Conventions, unlike(m.Conventions, b.Conventions)...)
	for _, t := range b.Takes {
		if !slices.Contains(out.Voices, t.Speaker) {
			out.Voices = append(out.Voices, t.Speaker)
		}
	}
	return out
}

func standing(known, alike bool) card.Standing {
	switch {
	case !known:
		return card.New
	case alike:
		return card.Same
	}
	return card.Different
}

// Recording is the chosen take of a card in the bundle.
func (b Library) Recording(cardID string) (Take, bool) {
	i := slices.IndexFunc(b.Takes, func(t Take) bool { return t.Card == cardID })
	if i < 0 {
		return Take{}, false
	}
	return b.Takes[i], true
}

func (a *Archive) card(c card.Card, m Mine) CardLine {
	line := CardLine{
		ID: c.ID, Pair: c.Pair.In(c.Content.Conventions(m.Conventions).Accent), Agreed: c.State == card.Agreed,
		Keyword: c.Keyword, Fields: []card.FieldLine{},
	}
	line.Picture, _ = a.has("pictures/"+c.ID, ".svg", ".png")
	line.Take, _ = a.has("takes/"+c.ID, ".wav")
	take, told := a.Library.Recording(c.ID)
	if line.Take != "" && told {
		line.Speaker = take.Speaker
	}
	if _, err := spelling.ParsePair(c.Content.Conventions(m.Conventions).Accent, line.Pair.String()); err != nil {
		line.Standing, line.Why = card.Unfit, strings.TrimSuffix(err.Error(), ".")
		return line
	}
	i := slices.IndexFunc(m.Cards, func(x card.Card) bool { return x.Pair == line.Pair })
	line.NewTake = line.Take != "" && (i < 0 || m.Takes[m.Cards[i].ID] != take.SHA256)
	if i < 0 {
		line.Standing = card.New
		return line
	}
	mine := m.Cards[i]
	line.CardID, line.Version, line.WithSound = mine.ID, mine.Version, mine.HasTake
	theirs := a.content(c).Tidy()
	own := mine.Content.Tidy()
	filled := card.Changed(own, card.Filled(own, theirs))
	line.Fills = len(filled)
	if line.Take != "" && !mine.HasTake {
		line.Fills++
	}
	line.Fields = card.Differences(own, theirs)
	line.Standing = standing(true, len(line.Fields) == 0 && !line.NewTake)
	return line
}

// content is what a card says, without a picture that is not in the bundle.
func (a *Archive) content(c card.Card) card.Content {
	if _, ok := a.has("pictures/"+c.ID, ".svg", ".png"); !ok {
		c.Picture, c.Place = "", nil
	}
	return c.Content
}

func (a *Archive) has(stem string, endings ...string) (string, bool) {
	for _, e := range endings {
		if a.files[stem+e] != nil {
			return stem + e, true
		}
	}
	return "", false
}

func alike(x, y any) bool {
	a, _ := json.Marshal(x)
	b, _ := json.Marshal(y)
	return string(a) == string(b)
}

// unlike are the conventions that differ, by their names.
func unlike(mine, theirs convention.Conventions) []Line {
	fields := func(c convention.Conventions) map[string]json.RawMessage {
		raw, _ := json.Marshal(c)
		out := map[string]json.RawMessage{}
		_ = json.Unmarshal(raw, &out)
		return out
	}
	m, t := fields(mine), fields(theirs)
	names := map[string]bool{}
	for n := range m {
		names[n] = true
	}
	for n := range t {
		names[n] = true
	}
	var out []Line
	for _, n := range slices.Sorted(maps.Keys(names)) {
		if string(m[n]) != string(t[n]) {
			out = append(out, Line{strings.ReplaceAll(n, "_", " "), card.Different})
		}
	}
	return out
}
