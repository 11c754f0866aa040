// Package card holds what a team agrees for one grapheme and its sound, what is still missing on it, and
// what on it contradicts the sound.
package card

import (
	"cmp"
	"encoding/json"
	"fmt"
	"reflect"
	"slices"
	"strings"

	"brightchalk/internal/core/convention"
	"brightchalk/internal/core/document"
	"brightchalk/internal/core/lexicon"
	"brightchalk/internal/core/phoneme"
	"brightchalk/internal/core/spelling"
)

// State of a card.
type State string

const (
	Draft    State = "draft"
	InReview State = "in review"
	Agreed   State = "agreed"
)

// Content is what people write on a card. Every field is one that two people may edit apart from each other.
type Content struct {
	Keyword      string   `json:"keyword"`
	Picture      string   `json:"picture"` // SHA-256 of the picture in hex
	PictureAlt   string   `json:"picture_alt"`
	Rhyme        string   `json:"rhyme"`
	RhymeShort   string   `json:"rhyme_short"`
	Action       string   `json:"action"`
	Verse        string   `json:"verse" required:"false"` // said or sung by the class
	Story        string   `json:"story" required:"false"` // two lines rich in the sound, read by the adult
	MouthCue     string   `json:"mouth_cue"`
	Slip         string   `json:"slip"` // the usual slip and what to say
	Contrast     string   `json:"contrast"`
	StrokeWords  string   `json:"stroke_words"`
	CapitalWords string   `json:"capital_words"`
	Materials    string   `json:"materials"`
	Workbook     string   `json:"workbook" required:"false"` // the pages of the school's workbook
	Objects      []string `json:"objects" required:"false"`  // things with the sound, in its tray
	Words        []string `json:"words"`                     // accepted for reading and spelling
	Rejected     []string `json:"rejected"`                  // stay rejected
	Sentences    []string `json:"sentences"`
	Exceptions   []string `json:"exceptions"` // exception words taught with this card
	Notes        string   `json:"notes"`
	// empty: the team's
	Accent     string `json:"accent" required:"false" enum:",southern-british,northern-english,northern-english-strut,general-american"`
	AccentNote string `json:"accent_note" required:"false"`
	Place      *Place `json:"place,omitempty" required:"false"` // of the letter over the picture
}

// Place lays the letter over the picture so that both agree: the left end of the base line as shares of the
// picture's side from its upper left corner, and the x-height as a share of it.
type Place struct {
	X    float64 `json:"x" minimum:"-0.5" maximum:"1.5"`
	Y    float64 `json:"y" minimum:"-0.5" maximum:"1.5"`
	Size float64 `json:"size" minimum:"0.05" maximum:"1"`
}

// Card is one card as it stands in a version.
type Card struct {
	ID      string        `json:"id"`
	Step    int           `json:"step"`
	Pair    spelling.Pair `json:"pair"`
	Version int           `json:"version"`
	State   State         `json:"state"`
	HasTake bool          `json:"has_take"`
	Content
}

// Conventions returns the team's conventions in the accent of the card, which may depart from the team's.
func (c Content) Conventions(team convention.Conventions) convention.Conventions {
	if c.Accent != "" {
		team.Accent = phoneme.Accent(c.Accent)
	}
	return team
}

// TaughtWith returns the cards that are taught with one, itself among them: those of its spelling if the team teaches
// all sounds of that spelling at once, in the order of their steps; otherwise itself alone.
func TaughtWith(conv convention.Conventions, all []Card, one Card) []Card {
	if !slices.Contains(conv.Together, one.Pair.Grapheme) {
		return []Card{one}
	}
	var out []Card
	for _, k := range all {
		if k.Pair.Grapheme == one.Pair.Grapheme {
			out = append(out, k)
		}
	}
	slices.SortStableFunc(out, func(a, b Card) int { return cmp.Compare(a.Step, b.Step) })
	if !slices.ContainsFunc(out, func(k Card) bool { return k.ID == one.ID }) {
		return []Card{one}
	}
	return out
}

// Gap is something that a card still needs.
type Gap struct {
	Part string `json:"part"` // picture, rhyme, action, cue, take, strokes, words, sentence
	Text string `json:"text"`
}

const firstSteps = 4

// Gaps lists what the card lacks, in the order in which teams make it. Words that are flagged do not count.
func (c Card) Gaps(o lexicon.Speech) []Gap {
	out := []Gap{}
	need := func(missing bool, part, text string) {
		if missing {
			out = append(out, Gap{part, text})
		}
	}
	need(!c.HasTake, "take", "needs a recorded sound")
	need(c.MouthCue == "", "cue", "needs a mouth cue")
	need(c.Picture == "", "picture", "needs a picture")
	need(c.Rhyme == "", "rhyme", "needs a rhyme")
	need(c.Action == "", "action", "needs an action")
	need(c.StrokeWords == "" && c.Pair.Letters() == 1, "strokes", "needs the team’s words for the strokes")
	// With the first few pairs of an order hardly a word can be read: nothing is asked for there.
	need(len(c.Words)-len(c.FlaggedWords(o)) < 4 && c.Step > firstSteps, "words", "needs four or more words")
	need(len(c.Sentences) == 0 && c.Step > firstSteps, "sentence", "needs a sentence")
	return out
}

// Finding is a contradiction on a card. Field names the part of Content that it stands beside.
type Finding struct {
	Field string `json:"field"`
	Text  string `json:"text"`
}

// RhymeLimit is how many words children say at once (common practice, no published source).
const RhymeLimit = 10

var letterNameSounds = map[string]string{
	"b": "biː",
	"d": "diː",
	"p": "piː",
	"t": "tiː",
	"v": "viː",
	"c": "siː",
	"z": "zed",
	"j": "dʒeɪ",
	"k": "keɪ",
	"q": "kjuː",
	"f": "ef",
	"l": "el",
	"m": "em",
	"n": "en",
	"s": "es",
	"x": "eks",
}

// Check looks for what contradicts the sound of the card. keywordSounds are the sounds of the keyword, nil
// where it is not a known word; of a vowel inside a word the keyword only has to hold the sound.
func (c Card) Check(a phoneme.Accent, keywordSounds []phoneme.Phoneme) []Finding {
	out := []Finding{}
	say := func(field, format string, args ...any) {
		out = append(out, Finding{field, fmt.Sprintf(format, args...)})
	}
	sounds, err := phoneme.Parse(a, c.Pair.Sound)
	if err != nil {
		say("keyword", "The sound %s is not one of this accent.", c.Pair.Sound)
		return out
	}
	if n := len(strings.Fields(c.Rhyme)); n > RhymeLimit && c.RhymeShort == "" {
		say("rhyme", "%d words are too many for children to say at once. Add a short form of up to %d.", n, RhymeLimit)
	}
	if n := len(strings.Fields(c.RhymeShort)); n > RhymeLimit {
		say("rhyme_short", "The short form has %d words; up to %d can be said at once.", n, RhymeLimit)
	}
	first, _ := phoneme.Lookup(a, sounds[0])
	if k := keywordSounds; c.Keyword != "" && len(k) > len(sounds) {
		joined := phoneme.Join(k)
		switch {
		case !strings.Contains(joined, c.Pair.Sound):
			say("keyword", "“%s” does not hold the sound of this card.", c.Keyword)
		case first.Initial && !strings.HasPrefix(joined, c.Pair.Sound) && !strings.HasSuffix(joined, c.Pair.Sound) &&
			first.Manner != phoneme.Vowel:
			say("keyword", "“%s” has the sound inside; children hear it best at the start.", c.Keyword)
		case strings.HasPrefix(joined, c.Pair.Sound) && first.Manner != phoneme.Vowel && len(sounds) == 1 &&
			!phoneme.IsVowel(k[1]) && k[1] != "j":
			say("keyword", "“%s” starts with two consonants; children may take the cluster for the sound.", c.Keyword)
		case letterNameSounds[c.Pair.Grapheme] != "" && strings.HasPrefix(joined, letterNameSounds[c.Pair.Grapheme]):
			say("keyword", "“%s” starts with the name of the letter; children may mix up name and sound.", c.Keyword)
		}
	}
	cue := strings.ToLower(c.MouthCue + " " + c.Action + " " + c.Slip)
	if len(sounds) == 1 && !first.Stretchable && first.VowelKind == phoneme.NoVowel && strings.Contains(cue, "stretch") &&
		!strings.Contains(cue, "not stretch") &&
		!strings.Contains(cue, "never stretch") {
		say("mouth_cue", "This sound cannot be stretched: it is over at once. Say “short”, not “stretch”.")
	}
	voiceOn := strings.Contains(cue, "voice on") || strings.Contains(cue, "buzz in the throat")
	voiceOff := strings.Contains(cue, "voice off") || strings.Contains(cue, "no voice")
	if first.Voiced && voiceOff && !voiceOn {
		say("mouth_cue", "The cue says voice off, but the voice is on for this sound.")
	}
	if !first.Voiced && voiceOn && !voiceOff {
		say("mouth_cue", "The cue says voice on, but the voice is off for this sound.")
	}
	all := strings.ToLower(strings.Join([]string{c.Rhyme, c.StrokeWords, c.Notes, c.MouthCue}, " "))
	if (strings.Contains(all, "two letters") && c.Pair.Letters() != 2) ||
		(strings.Contains(all, "three letters") && c.Pair.Letters() != 3) {
		say("notes", "The text counts the letters wrongly: %s has %d.", c.Pair.Grapheme, c.Pair.Letters())
	}
	return out
}

// Merge joins two edits of one base, field by field. Where both changed a field to different values, mine
// stands in the result and the field is named in conflicts.
func Merge(base, mine, theirs Content) (merged Content, conflicts []string) {
	merged = mine
	mb, mm, mt := reflect.ValueOf(base), reflect.ValueOf(mine), reflect.ValueOf(theirs)
	out := reflect.ValueOf(&merged).Elem()
	for i := range mb.NumField() {
		b, m, t := plain(mb.Field(i)), plain(mm.Field(i)), plain(mt.Field(i))
		switch {
		case m == t, t == b:
		case m == b:
			out.Field(i).Set(mt.Field(i))
		default:
			conflicts = append(conflicts, fieldName(mb.Type().Field(i)))
		}
	}
	return merged, conflicts
}

// Filled is a content with what another says where it says nothing itself. What tells of another keyword is left out,
// and a picture comes with its description and the place of the letter on it.
func Filled(mine, theirs Content) Content {
	out, m, t := reflect.ValueOf(&mine).Elem(), reflect.ValueOf(mine), reflect.ValueOf(theirs)
	foreign := mine.Keyword != "" && mine.Keyword != theirs.Keyword
	pictured := mine.Picture != "" && mine.Picture != theirs.Picture
	for i := range m.NumField() {
		name := fieldName(m.Type().Field(i))
		field, _ := FieldOf(name)
		if foreign && field.FollowsKeyword || pictured && (name == "picture_alt" || name == "place") {
			continue
		}
		if m.Field(i).IsZero() || m.Field(i).Kind() == reflect.Slice && m.Field(i).Len() == 0 {
			out.Field(i).Set(t.Field(i))
		}
	}
	return mine
}

// Changed names the fields that differ.
func Changed(before, after Content) []string {
	var out []string
	b, a := reflect.ValueOf(before), reflect.ValueOf(after)
	for i := range b.NumField() {
		if plain(b.Field(i)) != plain(a.Field(i)) {
			out = append(out, fieldName(b.Type().Field(i)))
		}
	}
	return out
}

func fieldName(f reflect.StructField) string {
	name, _, _ := strings.Cut(f.Tag.Get("json"), ",")
	return name
}

func plain(v reflect.Value) string {
	if v.Kind() == reflect.Slice && v.Len() == 0 {
		return "[]"
	}
	text, _ := json.Marshal(v.Interface())
	return string(text)
}

// Tidy trims the texts, drops empty and repeated list items, and makes empty lists of missing ones.
func (c Content) Tidy() Content {
	v := reflect.ValueOf(&c).Elem()
	for i := range v.NumField() {
		switch f := v.Field(i); f.Kind() {
		case reflect.String:
			f.SetString(strings.TrimSpace(f.String()))
		case reflect.Slice:
			kept := []string{}
			for _, s := range f.Interface().([]string) {
				if s = strings.TrimSpace(s); s != "" && !slices.Contains(kept, s) {
					kept = append(kept, s)
				}
			}
			f.Set(reflect.ValueOf(kept))
		}
	}
	return c
}

// Contents reads and writes the stored contents of cards.
var Contents = document.Kind[Content]{Name: "card"}
