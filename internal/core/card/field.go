package card

import (
	"reflect"
	"regexp"
	"strconv"
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

// HasField tells whether something on a card has the name.
func HasField(name string) bool {
	return name == WholeCard || name == TakeField || name == LetterPart || fieldIndex(name) >= 0
}

func fieldIndex(name string) int {
	t := reflect.TypeFor[Content]()
	for i := range t.NumField() {
		if fieldName(t.Field(i)) == name {
			return i
		}
	}
	return -1
}

// MostItems is how many items a list of a content may hold, 0 for what is no list.
func MostItems(field string) int {
	i := fieldIndex(field)
	if i < 0 {
		return 0
	}
	most, _ := strconv.Atoi(reflect.TypeFor[Content]().Field(i).Tag.Get("maxItems"))
	return most
}

// notWorded are texts that nobody words: they name something else.
var notWorded = map[string]bool{"picture": true, "accent": true, "contrast": true}

// Wording is a field of a content as people write it: a list has a line for each item. It is false for what is not
// written, as a picture.
func (c Content) Wording(field string) (string, bool) {
	i := fieldIndex(field)
	if i < 0 || notWorded[field] {
		return "", false
	}
	switch f := reflect.ValueOf(c).Field(i); f.Kind() {
	case reflect.String:
		return f.String(), true
	case reflect.Slice:
		list, _ := f.Interface().([]string)
		return strings.Join(list, "\n"), true
	default:
		return "", false
	}
}

// Worded is the content with a field as it was written, tidied. It refuses what is longer than the field takes.
func (c Content) Worded(field, text string) (Content, error) {
	if _, ok := c.Wording(field); !ok {
		return c, fault.In("field", "nobody words the part %q of a card", field)
	}
	i := fieldIndex(field)
	f := reflect.TypeFor[Content]().Field(i)
	if f.Type.Kind() == reflect.String {
		if most, _ := strconv.Atoi(f.Tag.Get("maxLength")); utf8.RuneCountInString(strings.TrimSpace(text)) > most {
			return c, fault.In("wording", "the field takes up to %d signs", most)
		}
		reflect.ValueOf(&c).Elem().Field(i).SetString(text)
		return c.Tidy(), nil
	}
	reflect.ValueOf(&c).Elem().Field(i).Set(reflect.ValueOf(strings.Split(text, "\n")))
	c = c.Tidy()
	if most, _ := strconv.Atoi(f.Tag.Get("maxItems")); reflect.ValueOf(c).Field(i).Len() > most {
		return c, fault.In("wording", "the field takes up to %d lines", most)
	}
	if err := c.CheckExceptions(); field == "exceptions" && err != nil {
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
