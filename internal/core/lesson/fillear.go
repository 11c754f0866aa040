package lesson

import (
	"fmt"
	"slices"

	"brightchalk/internal/core/phoneme"
	"brightchalk/internal/core/prose"
	"brightchalk/internal/core/words"
)

func (a *assembler) ear(s *Step) string {
	target := a.sounds[0]
	if len(a.sounds) > 1 {
		return "the unit " + a.Target.Pair.Grapheme + " is more than one sound; sort it by letters instead"
	}
	at, own := a.earPlace(target)
	other, others := a.contrast(target, at)
	n := min(a.items(s, 6, 10)/2, len(own), 5)
	if other != "" {
		own = slices.DeleteFunc(own, func(w string) bool { return a.heard(w, other) })
		n = min(n, len(own), len(others))
	}
	if n < 2 {
		return fmt.Sprintf(
			"only %d open %s this sound %s",
			len(own),
			prose.Plural(len(own), "picture has", "pictures have"),
			placeName(at),
		)
	}
	mine := fmt.Sprintf("has %s %s", a.say(), placeName(at))
	s.Choices = a.choose("ear-yes", "picture", n, pictureOptions(own, mine, Has))
	s.Adult = append(
		s.Adult,
		fmt.Sprintf(
			"Name each picture, leaning on the sound. “Is %s %s?” Children put it left or right.",
			a.say(),
			placeName(at),
		),
	)
	s.Class = append(s.Class, "Says the name, sorts the picture, says the sound.")
	if other != "" {
		s.Choices = append(
			s.Choices,
			a.choose(
				"ear-no",
				"picture",
				n,
				pictureOptions(
					others,
					fmt.Sprintf("has another sound the class knows, /%s/, %s and no %s", other, placeName(at), a.say()),
					HasNot,
				),
			)...)
	}
	a.firstOrLast(s, target)
	s.Table = append(s.Table, fmt.Sprintf("%d picture cards", len(s.Choices)))
	s.Cautions = append(
		s.Cautions,
		"With real objects: nothing small enough to swallow; nothing goes in ears, noses or mouths.",
	)
	return ""
}

// earPlace is the first place of the sound that has pictures enough, the start before the end before the middle, or
// else the place that has most.
func (a *assembler) earPlace(target phoneme.Phoneme) (words.Position, []string) {
	best, list := words.Initial, []string(nil)
	for _, at := range []words.Position{words.Initial, words.Final, words.Medial} {
		if words.CheckPosition(a.Conventions.Accent, target, at) != nil {
			continue
		}
		found := words.EarPictures(target, at, a.Target.Pair.Grapheme, nil, a.options)
		if len(found) >= enoughPictures {
			return at, found
		}
		if len(found) > len(list) {
			best, list = at, found
		}
	}
	return best, list
}

func placeName(at words.Position) string {
	return map[words.Position]string{
		words.Initial: "at the start", words.Final: "at the end",
		words.Medial: "in the middle",
	}[at]
}

// firstOrLast adds the game of four quarters, or the reason why English has no words for it.
func (a *assembler) firstOrLast(s *Step, target phoneme.Phoneme) {
	if err := words.CheckPosition(a.Conventions.Accent, target, words.Initial); err != nil {
		s.Adult = append(s.Adult, "No first-or-last game: English does not start words with this sound.")
		return
	}
	if err := words.CheckPosition(a.Conventions.Accent, target, words.Final); err != nil {
		s.Adult = append(s.Adult, "No first-or-last game: English does not end words with this sound.")
		return
	}
	shown := map[string]bool{}
	for _, c := range s.Choices {
		shown[c.Value] = true
	}
	quarters, err := words.FirstOrLast(target, shown, a.options, a.rng)
	if err != nil {
		s.Adult = append(
			s.Adult,
			"Then first or last: say three of the names again; children touch head for first, feet for last.",
		)
		return
	}
	for i, q := range quarters {
		where := map[words.Position]Basket{words.Initial: First, words.Final: Last}[q.Answer]
		s.Choices = append(
			s.Choices,
			Choice{
				Slot:    fmt.Sprintf("ear-quarter.%d", i+1),
				Kind:    "picture",
				Value:   q.Picture,
				Basket:  where,
				Origin:  FromPicture,
				Because: a.say() + " comes " + string(where) + " in it",
				Next:    []Option{},
			},
		)
	}
	s.Adult = append(
		s.Adult,
		"Then first or last, in four quarters: name each picture; children touch head where the sound comes first, "+
			"feet where it comes last.",
	)
}

func pictureOptions(list []string, because string, basket Basket) []Option {
	var out []Option
	for _, w := range list {
		out = append(out, Option{Value: w, Basket: basket, Origin: FromPicture, Because: because})
	}
	return out
}

func (a *assembler) heard(word string, p phoneme.Phoneme) bool {
	return slices.Contains(a.options.Sounds(word), p)
}

// contrast picks a taught sound that is far from the target in place or manner, by chance among those with pictures
// for a full game, or else the one with most. The best of its pictures come in an order of chance, so that the same
// four are not in every lesson.
func (a *assembler) contrast(target phoneme.Phoneme, at words.Position) (phoneme.Phoneme, []string) {
	if c, ok := a.far[at]; ok {
		return c.sound, c.pictures
	}
	accent := a.Conventions.Accent
	t, _ := phoneme.Lookup(accent, target)
	var full []contrast
	var most contrast
	for _, c := range a.Taught {
		sounds, err := phoneme.Parse(accent, c.Pair.Sound)
		if err != nil || len(sounds) != 1 || sounds[0] == target {
			continue
		}
		s, _ := phoneme.Lookup(accent, sounds[0])
		if s.Place == t.Place || (s.Manner == phoneme.Vowel) != (t.Manner == phoneme.Vowel) ||
			words.CheckPosition(accent, sounds[0], at) != nil {
			continue
		}
		found := contrast{sounds[0], words.EarPictures(sounds[0], at, c.Pair.Grapheme, []phoneme.Phoneme{target}, a.options)}
		if len(found.pictures) >= fullGame {
			full = append(full, found)
		}
		if len(found.pictures) > len(most.pictures) {
			most = found
		}
	}
	if len(full) > 0 {
		most = full[a.rng.IntN(len(full))]
	}
	most.pictures = slices.Clone(most.pictures)
	a.rng.Shuffle(
		min(len(most.pictures), 2*fullGame),
		func(i, j int) { most.pictures[i], most.pictures[j] = most.pictures[j], most.pictures[i] },
	)
	a.far[at] = most
	return most.sound, most.pictures
}
