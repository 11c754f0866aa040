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

	"brightchalk/internal/core/accord"
	"brightchalk/internal/core/document"
	"brightchalk/internal/core/lexicon"
	"brightchalk/internal/core/phoneme"
	"brightchalk/internal/core/spelling"
	"brightchalk/internal/core/strokes"
)

// State of a card.
type State string

const (
	Draft    State = "draft"
	InReview State = "in review"
	Agreed   State = "agreed"
)

// Conventions are what a team decides once.
type Conventions struct {
	Accent       phoneme.Accent `json:"accent" enum:"southern-british,northern-english,northern-english-strut,general-american"`
	Units        spelling.Units `json:"units"`
	LetterNames  bool           `json:"letter_names"`   // said beside the sound from day one
	Capitals     bool           `json:"capitals"`       // shown with the small letter
	GroupsFirst  bool           `json:"groups_first"`   // look for letter groups before sounding out
	WholeByHeart bool           `json:"whole_by_sight"` // exception words as wholes; otherwise the odd part is marked
	Paper        string         `json:"paper" enum:"A4,Letter"`
	Departures   []Departure    `json:"departures,omitempty" maxItems:"200"`
	DoublesApart bool           `json:"doubles_apart,omitempty"` // a doubled letter is known by its own card only
	// single words of refused themes that the team allows
	Allowed []string `json:"allowed,omitempty" maxItems:"100"`
	// words and names of its own, with how they are said
	Words []OwnWord     `json:"words,omitempty" required:"false" maxItems:"400"`
	Lines strokes.Lines `json:"lines,omitzero" required:"false"`
	// words on the board in the team's own strokes, not in the font
	WrittenWords bool `json:"written_words,omitempty" required:"false"`
	// for the Hand step; empty: all of step.Materials
	Materials []string `json:"materials,omitempty" maxItems:"20"`
	// the first of them every day; else another each day
	OneMaterial bool `json:"one_material,omitempty"`
	Says        Says `json:"says,omitzero" required:"false"`
	// w and y are said short; else stretched, as their phonetics allow
	GlidesShort bool `json:"glides_short,omitempty" required:"false"`
	// spellings of which all sounds are taught and answered at once, in the order of their steps
	Together    []string `json:"together,omitempty" maxItems:"40" required:"false"`
	GlideReason string   `json:"glide_reason,omitempty" maxLength:"200" required:"false"`
	// who agrees a card; empty: a lead
	Agreeing accord.Rule `json:"agreeing,omitempty" enum:",lead,two" required:"false"`
}

// Says is what the team says and does in its own way; what is empty is as we say it.
type Says struct {
	Answer       Answer     `json:"answer,omitempty" required:"false" enum:",sound,keyword,name,action" doc:"to a card"`
	Writing      Writing    `json:"writing,omitempty" required:"false" enum:",strokes,sound,both" doc:"while writing"`
	Voices       []string   `json:"voices,omitempty" required:"false" maxItems:"8" doc:"in which the class echoes a sound"`
	Mistake      string     `json:"mistake,omitempty" required:"false" maxLength:"200" doc:"when a word is written wrong"`
	Checks       string     `json:"checks,omitempty" required:"false" maxLength:"200" doc:"of a written sentence"`
	Posture      string     `json:"posture,omitempty" required:"false" maxLength:"200" doc:"before writing"`
	Gesture      string     `json:"gesture,omitempty" required:"false" maxLength:"200" doc:"for the sounds of a word"`
	Signs        Signs      `json:"signs,omitzero" required:"false" doc:"for who speaks"`
	OneSideFirst bool       `json:"one_side_first,omitempty" required:"false" doc:"in the pack"`
	PickAnswers  bool       `json:"pick_answers,omitempty" required:"false" doc:"questions with three answers to pick from"`
	GuessTitle   bool       `json:"guess_title,omitempty" required:"false" doc:"of a page, before it is read"`
	Materials    []Material `json:"materials,omitempty" required:"false" maxItems:"12" doc:"the team's own"`
}

// Signs are what the adult does to show who speaks; what is empty is as we do it.
type Signs struct {
	Adult    string `json:"adult,omitempty" required:"false" maxLength:"100"`
	Both     string `json:"both,omitempty" required:"false" maxLength:"100"`
	Class    string `json:"class,omitempty" required:"false" maxLength:"100"`
	Silently string `json:"silently,omitempty" required:"false" maxLength:"100"`
}

// Answer is what a class says when it sees the letter side of a card.
type Answer string

// Answers to a card.
const (
	AnswerSound   Answer = "sound"
	AnswerKeyword Answer = "keyword" // keyword and sound
	AnswerName    Answer = "name"    // letter name, keyword, sound
	AnswerAction  Answer = "action"  // the sound with the action
)

// Writing is what is said while a letter is written.
type Writing string

// What is said while writing.
const (
	SayStrokes Writing = "strokes"
	SaySound   Writing = "sound"
	SayBoth    Writing = "both"
)

// Material is something to write with or in, with what to watch for.
type Material struct {
	Name    string `json:"name" maxLength:"60"`
	Caution string `json:"caution" maxLength:"200"`
}

// Departure is a word that the team says in another accent than its own, with the reason.
type Departure struct {
	Word   string         `json:"word" maxLength:"24"`
	Accent phoneme.Accent `json:"accent" enum:"southern-british,northern-english,northern-english-strut,general-american"`
	Note   string         `json:"note" maxLength:"200"`
}

// Speech is how the team speaks and cuts words.
func (c Conventions) Speech() lexicon.Speech {
	s := lexicon.Speech{Accent: c.Accent, Units: c.Units}
	for _, d := range c.Departures {
		if s.Depart == nil {
			s.Depart = map[string]phoneme.Accent{}
		}
		s.Depart[d.Word] = d.Accent
	}
	for _, w := range c.Allowed {
		if s.Allow == nil {
			s.Allow = map[string]bool{}
		}
		s.Allow[w] = true
	}
	for _, w := range c.Words {
		if s.Words == nil {
			s.Words = map[string]lexicon.OwnWord{}
		}
		if spoken, err := w.Spoken(c.Accent); err == nil { // of another accent, if the team has changed its own
			s.Words[strings.ToLower(w.Word)] = spoken
		}
	}
	return s
}

// Known is what a class can read that has been taught the pairs: with the doubled letters of single ones, unless the
// team teaches those apart.
func (c Conventions) Known(taught spelling.Set) spelling.Set {
	if c.DoublesApart {
		return taught
	}
	return taught.WithDoubles(c.Accent)
}

// Along are the cards that are taught with one, itself among them: those of its spelling where the team teaches all the
// sounds of it at once, in the order of their steps; otherwise itself alone.
func (c Conventions) Along(all []Card, one Card) []Card {
	if !slices.Contains(c.Together, one.Pair.Grapheme) {
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

// For returns the conventions for one card: a card may depart from the team's accent.
func (c Conventions) For(content Content) Conventions {
	if content.Accent != "" {
		c.Accent = phoneme.Accent(content.Accent)
	}
	return c
}

// Content is what people write on a card. Every field is one that two people may edit apart from each other.
type Content struct {
	Keyword      string   `json:"keyword" maxLength:"40"`
	Picture      string   `json:"picture" maxLength:"64"` // SHA-256 of the picture in hex
	PictureAlt   string   `json:"picture_alt" maxLength:"300"`
	Rhyme        string   `json:"rhyme" maxLength:"400"`
	RhymeShort   string   `json:"rhyme_short" maxLength:"120"`
	Action       string   `json:"action" maxLength:"300"`
	Verse        string   `json:"verse" required:"false" maxLength:"600"` // said or sung by the class
	Story        string   `json:"story" required:"false" maxLength:"600"` // two lines rich in the sound, read by the adult
	MouthCue     string   `json:"mouth_cue" maxLength:"400"`
	Slip         string   `json:"slip" maxLength:"300"` // the usual slip and what to say
	Contrast     string   `json:"contrast" maxLength:"8"`
	StrokeWords  string   `json:"stroke_words" maxLength:"400"`
	CapitalWords string   `json:"capital_words" maxLength:"400"`
	Materials    string   `json:"materials" maxLength:"200"`
	Workbook     string   `json:"workbook" required:"false" maxLength:"120"` // the pages of the school's workbook
	Objects      []string `json:"objects" required:"false" maxItems:"12"`    // things with the sound, in its tray
	Words        []string `json:"words" maxItems:"80"`                       // accepted for reading and spelling
	Rejected     []string `json:"rejected" maxItems:"400"`                   // stay rejected
	Sentences    []string `json:"sentences" maxItems:"40"`
	Exceptions   []string `json:"exceptions" maxItems:"20"` // exception words taught with this card
	Notes        string   `json:"notes" maxLength:"4000"`
	// empty: the team's
	Accent     string `json:"accent" required:"false" enum:",southern-british,northern-english,northern-english-strut,general-american"`
	AccentNote string `json:"accent_note" required:"false" maxLength:"200"`
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

// hangOnKeyword are the fields that tell of the keyword.
var hangOnKeyword = map[string]bool{
	"picture": true, "picture_alt": true, "place": true, "rhyme": true, "rhyme_short": true, "action": true,
	"verse": true, "story": true,
}

// Filled is a content with what another says where it says nothing itself. What tells of another keyword is left out,
// and a picture comes with its description and the place of the letter on it.
func Filled(mine, theirs Content) Content {
	out, m, t := reflect.ValueOf(&mine).Elem(), reflect.ValueOf(mine), reflect.ValueOf(theirs)
	foreign := mine.Keyword != "" && mine.Keyword != theirs.Keyword
	pictured := mine.Picture != "" && mine.Picture != theirs.Picture
	for i := range m.NumField() {
		name := fieldName(m.Type().Field(i))
		if foreign && hangOnKeyword[name] || pictured && (name == "picture_alt" || name == "place") {
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

// Contents and ConventionDocuments read and write what is stored.
var (
	Contents            = document.Kind[Content]{Name: "card"}
	ConventionDocuments = document.Kind[Conventions]{Name: "conventions"}
)
