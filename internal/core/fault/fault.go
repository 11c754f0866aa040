// Package fault is the one kind of error that a person can mend: it says what is wrong with what was given, in a
// field, with a code for programs and a sentence for people. Every other error is the program's own affair and is
// never shown.
package fault

import (
	"errors"
	"fmt"
	"strings"
	"unicode"
	"unicode/utf8"
)

// Code names what is wrong, for programs. It is an error itself, so that errors.Is(err, words.ErrTooFew) asks for it.
type Code string

// Error returns the code.
func (c Code) Error() string { return string(c) }

// Invalid is the code of what has none of its own: a value that the field does not take.
const Invalid Code = "invalid"

// Fault is what a person can mend.
type Fault struct {
	Code  Code
	Field string // of the input, by its name in JSON; empty where the caller knows it better
	Args  []any  // what the sentence names, in its order
	text  string
}

// New makes a fault. The text is a sentence, or one without its capital and its stop, as it stands after "chalk: ".
func New(code Code, format string, args ...any) *Fault {
	return &Fault{Code: code, Args: args, text: fmt.Sprintf(format, args...)}
}

// In makes a fault of one field.
func In(field, format string, args ...any) *Fault {
	f := New(Invalid, format, args...)
	f.Field = field
	return f
}

// Error returns the text as it was written.
func (f *Fault) Error() string { return f.text }

// Is tells whether the fault has the code.
func (f *Fault) Is(target error) bool {
	code, ok := target.(Code)
	return ok && f.Code == code
}

// Sentence returns the text with a capital and a stop.
func (f *Fault) Sentence() string {
	text := f.text
	if first, size := utf8.DecodeRuneInString(text); unicode.IsLower(first) {
		text = string(unicode.ToUpper(first)) + text[size:]
	}
	if text != "" && !strings.ContainsAny(text[len(text)-1:], ".!?") {
		text += "."
	}
	return text
}

// At gives the fault in err the field where it has none yet; any other error comes back as it is.
func At(field string, err error) error {
	var f *Fault
	if !errors.As(err, &f) || f.Field != "" {
		return err
	}
	named := *f
	named.Field = field
	return &named
}
