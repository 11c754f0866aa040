package lesson

import (
	"fmt"
	"slices"
	"strings"

	"brightchalk/internal/core/card"
	"brightchalk/internal/core/phoneme"
	"brightchalk/internal/core/prose"
	"brightchalk/internal/core/review"
)

// fill writes a step's script and choices. A reason comes back where the step cannot be held.
func (a *assembler) fill(s *Step) string {
	switch s.Kind {
	case WarmUp:
		return a.warmUp(s)
	case Listen:
		a.listen(s)
	case Mouth:
		a.mouth(s)
	case Ear:
		return a.ear(s)
	case Picture:
		return a.picture(s)
	case Letter:
		a.letter(s)
	case Turnover:
		return a.turnover(s)
	case Hand:
		a.hand(s)
	case MixIn:
		return a.mixIn(s)
	case Blend:
		return a.blend(s)
	case Read:
		return a.read(s)
	case Spell:
		return a.spell(s)
	case Sentence:
		return a.sentence(s)
	case Page:
		return a.page(s)
	case ClosePart:
		a.close(s)
	}
	return ""
}

// say writes the sound for a teacher: the grapheme between strokes, with the keyword where there is one.
func (a *assembler) say() string { return "/" + a.Target.Pair.Grapheme + "/" }

func (a *assembler) items(s *Step, least, most int) int {
	return max(least, min(most, s.Seconds/paces[s.Kind].ItemSeconds))
}

func (a *assembler) cards(picks []review.Pick) (cards []card.Card, options []Option) {
	for _, p := range picks {
		for _, c := range a.Taught {
			if c.ID == p.CardID {
				cards = append(cards, c)
				options = append(options, Option{Value: c.ID, Detail: c.Pair.Grapheme, Origin: FromLog, Because: p.Because})
			}
		}
	}
	return cards, options
}

func (a *assembler) warmUp(s *Step) string {
	n := a.items(s, 4, 20)
	picks, resting := review.Choose(a.Log, n+6, a.Now, a.rng)
	_, options := a.cards(picks)
	if len(options) == 0 {
		return "no card has been taught to this class"
	}
	s.Choices = a.choose("warm-up", "card", n, options)
	for _, c := range s.Choices {
		a.faceOf(c.Value)
		s.Deck = append(s.Deck, Show{c.Value, "letter"})
	}
	for _, o := range s.Choices[0].Next {
		a.faceOf(o.Value)
	}
	s.Adult = append(
		s.Adult,
		fmt.Sprintf("Show %d cards, letter side, at a quick pace. Say nothing; wait for the class.", len(s.Choices)),
	)
	if resting > 0 {
		s.Adult = append(
			s.Adult,
			fmt.Sprintf("%d secure %s out of the pack.", resting, prose.Plural(resting, "card stays", "cards stay")),
		)
	}
	s.Class = append(s.Class, "Says the sound of each card.")
	s.Table = append(s.Table, "Sound cards of the warm-up")
	return ""
}

func (a *assembler) faceOf(id string) {
	for _, c := range a.Taught {
		if c.ID == id {
			a.face(c)
		}
	}
}

func (a *assembler) hold() string {
	if card.HoldOf(a.Conventions.Accent, a.Target.Pair) == card.Stretch {
		return "Stretch it, then stop cleanly."
	}
	return "Say it short. Stop at once; nothing comes after it."
}

func (a *assembler) listen(s *Step) {
	s.Adult = append(s.Adult, "“Ears ready. Here is our new sound.” Play or say "+a.say()+" three times. "+a.hold())
	s.Adult = append(s.Adult, "“Now you: quietly … in a big voice … slowly, like a boat.”")
	s.Class = append(s.Class, "Echoes "+a.say()+" in each voice.")
	if a.Target.Slip != "" {
		s.Adult = append(s.Adult, "Listen for the slip: "+a.Target.Slip)
	}
	s.Cautions = append(s.Cautions, "Big voices stay friendly to ears: an indoor shout is enough.")
}

func (a *assembler) mouth(s *Step) {
	cue, _ := card.SuggestCue(a.Conventions.Accent, a.Target.Pair)
	if a.Target.MouthCue != "" {
		cue = a.Target.MouthCue
	}
	s.Adult = append(s.Adult, cue)
	if card.Voiced(a.Conventions.Accent, a.Target.Pair) {
		s.Adult = append(s.Adult, "“Hand on your throat. Does it hum? Yes: the voice is on.”")
	} else {
		s.Adult = append(s.Adult, "“Hand on your throat. Does it hum? No: the voice is off, only breath.”")
	}
	s.Class = append(s.Class, "Watches, copies, feels the throat with a hand.")
	if p := phoneme.Phoneme(a.Target.Contrast); p != "" {
		if k, ok := phoneme.Lookup(a.Conventions.Accent, p); ok {
			s.Adult = append(
				s.Adult,
				fmt.Sprintf(
					"Switch to and fro with the sound at the %s of “%s”: what changes?",
					map[bool]string{true: "start", false: "end"}[k.Initial],
					k.KeyWord,
				),
			)
		}
	}
	s.Cautions = append(s.Cautions, card.TherapyCaution)
}

// enoughPictures is from how many pictures a place of the sound is good for a sorting game.
const enoughPictures = 4

// fullGame is the number of pictures from which a contrasting sound gives a choice beyond the five that are shown.
const fullGame = 8

func (a *assembler) picture(s *Step) string {
	t := a.Target
	if t.Picture == "" && t.Rhyme == "" && t.RhymeShort == "" {
		return "the card has no picture and no rhyme yet"
	}
	if t.Picture != "" {
		s.Adult = append(
			s.Adult,
			"Show the picture side. “What is in the picture?” … “"+sentence(t.Keyword)+" Where do you hear "+a.say()+"?”",
		)
	}
	if short := first(t.RhymeShort, t.Rhyme); short != "" {
		s.Adult = append(s.Adult, "Say the rhyme: “"+first(t.Rhyme, t.RhymeShort)+"” Then together, three times: “"+short+"”")
		s.Class = append(s.Class, "Says the rhyme together.")
	}
	if t.Action != "" {
		s.Adult = append(s.Adult, "With the action: "+t.Action)
		s.Class = append(s.Class, "Does the action with the sound.")
		s.Cautions = append(s.Cautions, "Arms need room: a step apart before the action.")
	}
	s.Table = append(s.Table, "The new sound card")
	return ""
}

func first(texts ...string) string {
	for _, t := range texts {
		if t != "" {
			return t
		}
	}
	return ""
}

func sentence(word string) string {
	if word == "" {
		return ""
	}
	return prose.Capital(word) + "."
}

func (a *assembler) letter(s *Step) {
	g := a.Target.Pair.Grapheme
	s.Adult = append(
		s.Adult,
		"Turn the card. “This is how we write it.” Trace "+strings.ReplaceAll(g, "-", " … ")+" with a finger.",
	)
	count := map[int]string{2: "Two letters", 3: "Three letters", 4: "Four letters"}
	switch kind := a.Target.Pair.Kind(); {
	case kind == "split digraph":
		s.Adult = append(
			s.Adult,
			fmt.Sprintf("“Two letters, one sound: %s and e work together across the letter between them.”", g[:1]),
		)
	case kind != "letter" && len(a.sounds) == 1:
		s.Adult = append(
			s.Adult,
			fmt.Sprintf("“%s, one sound: %s.” Run a finger under the whole group.", count[a.Target.Pair.Letters()], a.say()),
		)
	case len(a.sounds) > 1:
		s.Adult = append(
			s.Adult,
			fmt.Sprintf(
				"“%s, two sounds close together: %s.”",
				map[bool]string{true: "One letter", false: count[a.Target.Pair.Letters()]}[kind == "letter"],
				a.say(),
			),
		)
	}
	if a.Conventions.LetterNames && len(g) == 1 {
		s.Adult = append(s.Adult, fmt.Sprintf("“Its name is %s. Its sound is %s.”", strings.ToUpper(g), a.say()))
	} else {
		s.Adult = append(s.Adult, "Say the sound only; letter names come later in this team.")
	}
	if a.Conventions.Capitals && len(g) == 1 {
		s.Adult = append(
			s.Adult,
			fmt.Sprintf("Show the capital %s beside it: same sound, twice the height.", strings.ToUpper(g)),
		)
	}
	s.Class = append(s.Class, "Says "+a.say()+" and traces in the air.")
}

// Deck is a fair order of the two sides of one card: an even number of shows, both sides equally often,
// never more than three of one side in a row. intN draws a number from 0 to n-1.
func Deck(shows int, intN func(n int) int) []string {
	sides := [2]string{"letter", "picture"}
	left := [2]int{(shows + 1) / 2, (shows + 1) / 2}
	var out []string
	last, run := -1, 0
	for left[0]+left[1] > 0 {
		side := 0
		if intN(left[0]+left[1]) >= left[0] {
			side = 1
		}
		fits := func(side int) bool {
			if left[side] == 0 {
				return false
			}
			r := 1
			if side == last {
				r = run + 1
			}
			same, other := left[side]-1, left[1-side]
			return r <= 3 && same <= 3-r+3*other && other <= 3*(same+1)
		}
		if !fits(side) {
			side = 1 - side
		}
		if side == last {
			run++
		} else {
			last, run = side, 1
		}
		left[side]--
		out = append(out, sides[side])
	}
	return out
}

func (a *assembler) turnover(s *Step) string {
	t := a.Target
	if t.Picture == "" {
		return "the card has no picture side yet"
	}
	for _, side := range Deck(a.items(s, 8, 24), a.rng.IntN) {
		s.Deck = append(s.Deck, Show{t.ID, side})
	}
	s.Adult = append(
		s.Adult,
		fmt.Sprintf(
			"Turn the card %d times in the order shown. Picture side: the rhyme. Letter side: the sound.",
			len(s.Deck),
		),
	)
	s.Class = append(s.Class, "Picture: “"+first(t.RhymeShort, t.Rhyme, t.Keyword)+"” Letter: "+a.say()+".")
	s.Table = append(s.Table, "The new sound card")
	return ""
}

func (a *assembler) mixIn(s *Step) string {
	n := a.items(s, 8, 24)/2 - 1
	picks, _ := review.Choose(a.Log, 60, a.Now, a.rng)
	cards, _ := a.cards(picks)
	cards = slices.DeleteFunc(cards, func(c card.Card) bool { return c.Picture == "" })
	if len(cards) < 2 || a.Target.Picture == "" {
		return "fewer than two taught cards have a picture side"
	}
	cards = cards[:min(n, len(cards), 7)]
	for _, c := range cards {
		a.face(c)
	}
	cards = append(cards, a.Target)
	for _, side := range []string{"picture", "letter"} {
		a.rng.Shuffle(len(cards), func(i, j int) { cards[i], cards[j] = cards[j], cards[i] })
		if cards[0].ID == a.Target.ID { // hidden, so not on top
			cards[0], cards[1] = cards[1], cards[0]
		}
		for _, c := range cards {
			s.Deck = append(s.Deck, Show{c.ID, side})
		}
	}
	s.Adult = append(
		s.Adult,
		fmt.Sprintf("The new card is hidden among %d others. First all picture sides, then all letter sides.", len(cards)-1),
	)
	s.Class = append(s.Class, "Picture side: the rhyme. Letter side: the sound. A finger up for the new one.")
	s.Table = append(s.Table, "The mixed pack")
	return ""
}
