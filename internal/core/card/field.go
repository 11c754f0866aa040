package card

import (
	"reflect"
	"regexp"
	"slices"
	"strings"
	"unicode/utf8"

	"brightchalk/internal/core/fault"
)

// Fields that stand beside the content of a card and are agreed with it.
const (
	WholeCard  = ""
	TakeField  = "take"
	LetterPart = "letter"
)

// Field describes one field of a card's content. Fields is the only list of them: limits, imports, exports, search and
// replace, the audit, merging and the screens follow from it.
type Field struct {
	Name           string `json:"name"`            // in JSON
	Label          string `json:"label"`           // as people call it, in small letters
	MaxLength      int    `json:"max_length"`      // characters of a text; 0 for what is no text
	MaxItems       int    `json:"max_items"`       // items of a list; 0 for what is no list
	Code           bool   `json:"code"`            // a text that names something else, such as a picture's hash
	Written        bool   `json:"written"`         // people write it for lessons: it is searched, replaced and reworded
	Prose          bool   `json:"prose"`           // whole sentences for people, which the audit reads for slips
	FollowsKeyword bool   `json:"follows_keyword"` // tells of the keyword, so it cannot be taken over with another one
	// Imported and exported with tables; the first name is that of our own files.
	ColumnNames []string `json:"-"`
	Separators  string   `json:"-"` // characters that part a list in a cell of a table
}

// Fields lists the fields in the order of a card's page.
var Fields = []Field{
	{
		Name: "mouth_cue", Label: "mouth cue", MaxLength: 400, Written: true, Prose: true,
		ColumnNames: []string{"mouth_cue", "mouth cue", "cue", "mouth"},
	},
	{
		Name: "slip", Label: "usual slip", MaxLength: 300, Written: true, Prose: true,
		ColumnNames: []string{"slip", "usual slip", "mistake"},
	},
	{Name: "contrast", Label: "contrast sound", MaxLength: 8, Code: true},
	{
		Name: "keyword", Label: "keyword", MaxLength: 40, Written: true,
		ColumnNames: []string{"keyword", "key word", "picture word", "mnemonic"},
	},
	{Name: "picture", Label: "picture", MaxLength: 64, Code: true, FollowsKeyword: true},
	{Name: "place", Label: "letter over the picture", FollowsKeyword: true},
	{
		Name: "picture_alt", Label: "words for the picture", MaxLength: 300, Written: true, Prose: true,
		FollowsKeyword: true,
	},
	{
		Name: "rhyme", Label: "rhyme", MaxLength: 400, Written: true, Prose: true, FollowsKeyword: true,
		ColumnNames: []string{"rhyme", "phrase", "jingle"},
	},
	{
		Name: "rhyme_short", Label: "short rhyme", MaxLength: 120, Written: true, Prose: true, FollowsKeyword: true,
		ColumnNames: []string{"rhyme_short", "short rhyme"},
	},
	{
		Name: "action", Label: "action", MaxLength: 300, Written: true, Prose: true, FollowsKeyword: true,
		ColumnNames: []string{"action", "actions", "movement", "gesture"},
	},
	{
		Name: "verse", Label: "verse", MaxLength: 600, Written: true, Prose: true, FollowsKeyword: true,
		ColumnNames: []string{"verse", "song"},
	},
	{
		Name: "story", Label: "story", MaxLength: 600, Written: true, Prose: true, FollowsKeyword: true,
		ColumnNames: []string{"story"},
	},
	{
		Name: "stroke_words", Label: "words for the strokes", MaxLength: 400, Written: true, Prose: true,
		ColumnNames: []string{"stroke_words", "strokes", "formation", "words for the strokes"},
	},
	{
		Name: "capital_words", Label: "words for the capital", MaxLength: 400, Written: true, Prose: true,
		ColumnNames: []string{"capital_words", "capital", "words for the capital"},
	},
	{
		Name: "materials", Label: "materials", MaxLength: 200, Written: true,
		ColumnNames: []string{"materials", "resources"},
	},
	{
		Name: "workbook", Label: "workbook pages", MaxLength: 120, Written: true,
		ColumnNames: []string{"workbook", "workbook pages"},
	},
	{
		Name: "objects", Label: "things in the tray", MaxItems: 12, Written: true,
		ColumnNames: []string{"objects", "things", "tray", "things in the tray"}, Separators: ",;\n",
	},
	{
		Name: "words", Label: "words", MaxItems: 80, Written: true,
		ColumnNames: []string{"words", "examples", "word list"}, Separators: ",;\n",
	},
	{Name: "rejected", Label: "rejected words", MaxItems: 400},
	{
		Name: "sentences", Label: "sentences", MaxItems: 40, Written: true, Prose: true,
		ColumnNames: []string{"sentences", "sentence"}, Separators: "\n|",
	},
	{
		Name: "exceptions", Label: "exception words", MaxItems: 20, Written: true,
		ColumnNames: []string{"exceptions", "exception words", "exception_words", "odd words"}, Separators: ",;\n",
	},
	{
		Name: "notes", Label: "notes", MaxLength: 4000, Written: true,
		ColumnNames: []string{"notes", "note", "comment", "comments"},
	},
	{Name: "accent", Label: "accent", MaxLength: 40, Code: true},
	{Name: "accent_note", Label: "why this accent", MaxLength: 200},
}

// hasWording reports whether the field can be read and written as text.
func (f Field) hasWording() bool { return f.MaxItems > 0 || f.MaxLength > 0 && !f.Code }

// FieldOf returns the description of a field; false if there is no such field.
func FieldOf(name string) (Field, bool) {
	i := slices.IndexFunc(Fields, func(f Field) bool { return f.Name == name })
	if i < 0 {
		return Field{}, false
	}
	return Fields[i], true
}

// HasField reports whether a part of a card has the name: a field, the whole card, its recording or its letter.
func HasField(name string) bool {
	_, ok := FieldOf(name)
	return ok || name == WholeCard || name == TakeField || name == LetterPart
}

// value is the field of a content with a name, by its JSON name.
func (c *Content) value(name string) reflect.Value {
	v := reflect.ValueOf(c).Elem()
	for i := range v.NumField() {
		if fieldName(v.Type().Field(i)) == name {
			return v.Field(i)
		}
	}
	panic("card: Content has no field " + name)
}

// Clone returns a copy that shares no list with c.
func (c Content) Clone() Content {
	for _, f := range Fields {
		if f.MaxItems > 0 {
			v := (&c).value(f.Name)
			v.Set(reflect.ValueOf(slices.Clone(v.Interface().([]string))))
		}
	}
	if c.Place != nil {
		place := *c.Place
		c.Place = &place
	}
	return c
}

// Wording returns a field as people write it, a list with a line for each item; false for what is not written, such as
// a picture.
func (c Content) Wording(name string) (string, bool) {
	f, ok := FieldOf(name)
	if !ok || !f.hasWording() {
		return "", false
	}
	if f.MaxItems > 0 {
		return strings.Join((&c).value(name).Interface().([]string), "\n"), true
	}
	return (&c).value(name).String(), true
}

// Worded returns the content with a field as it was written, tidied. The error names the field "wording" if the text is
// longer than the field takes.
func (c Content) Worded(name, text string) (Content, error) {
	f, ok := FieldOf(name)
	if !ok || !f.hasWording() {
		return c, fault.In("field", "nobody words the part %q of a card", name)
	}
	if f.MaxItems == 0 {
		if utf8.RuneCountInString(strings.TrimSpace(text)) > f.MaxLength {
			return c, fault.In("wording", "the field takes up to %d signs", f.MaxLength)
		}
		(&c).value(name).SetString(text)
		return c.Tidy(), nil
	}
	(&c).value(name).Set(reflect.ValueOf(strings.Split(text, "\n")))
	c = c.Tidy()
	if (&c).value(name).Len() > f.MaxItems {
		return c, fault.In("wording", "the field takes up to %d lines", f.MaxItems)
	}
	if err := c.CheckExceptions(); name == "exceptions" && err != nil {
		return c, fault.In("wording", "%v", err)
	}
	return c, nil
}

// exceptionWord is a word of letters, with an apostrophe or a hyphen inside: don't, to-day.
var exceptionWord = regexp.MustCompile(`^\p{L}\p{M}*(['’-]?\p{L}\p{M}*)*$`)

// CheckExceptions refuses exception words that are no words: they are printed on cards and read out.
func (c Content) CheckExceptions() error {
	for _, w := range c.Exceptions {
		if !exceptionWord.MatchString(w) {
			f := fault.New(
				fault.Invalid,
				"“%s” is no exception word: write one word to a line, with letters, an apostrophe or a "+
					"hyphen",
				w,
			)
			f.Field = "exceptions"
			return f
		}
	}
	return nil
}
