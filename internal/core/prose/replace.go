package prose

import (
	"regexp"
	"strings"
	"unicode"
	"unicode/utf8"
)

// Wording is a word or a phrase that is looked for in texts, wherever it stands whole: in big or small letters, also
// before the 's of an owner.
type Wording struct {
	re *regexp.Regexp // nil for no wording
}

// Whole makes a text ready to be looked for.
func Whole(what string) Wording {
	parts := strings.Fields(strings.ToValidUTF8(what, "�")) // a pattern is of text only
	if len(parts) == 0 {
		return Wording{}
	}
	for i, p := range parts {
		parts[i] = strings.ReplaceAll(regexp.QuoteMeta(p), "'", "['’]")
	}
	return Wording{regexp.MustCompile(
		`(?i)(^|[^\pL\pN'’-]|(?:^|[^\pL\pN])['’])(` + strings.Join(parts, `\s+`) + `)`,
	)}
}

// Uses tells how often it stands in a text.
func (w Wording) Uses(text string) int {
	n := 0
	w.each(text, func(string) string { n++; return "" })
	return n
}

// Replace puts another wording wherever it stands in a text. That begins with a capital where the former one did.
func (w Wording) Replace(text, with string) string {
	return w.each(text, func(found string) string {
		first, _ := utf8.DecodeRuneInString(found)
		if !unicode.IsUpper(first) || with == "" {
			return with
		}
		if allUpper(found) && utf8.RuneCountInString(found) > 1 {
			return strings.ToUpper(with)
		}
		w, n := utf8.DecodeRuneInString(with)
		return string(unicode.ToUpper(w)) + with[n:]
	})
}

func allUpper(text string) bool { return strings.ToUpper(text) == text }

func (w Wording) each(text string, f func(found string) string) string {
	if w.re == nil {
		return text
	}
	var out strings.Builder
	for {
		at := w.re.FindStringSubmatchIndex(text)
		if at == nil {
			break
		}
		start, end := at[4], at[5]
		if !ends(text[end:]) {
			out.WriteString(text[:end])
			text = text[end:]
			continue
		}
		out.WriteString(text[:start])
		out.WriteString(f(text[start:end]))
		text = text[end:]
	}
	out.WriteString(text)
	return out.String()
}

// ends tells whether a word ends before a text: at a sign, or at the 's of an owner.
func ends(rest string) bool {
	r, _ := utf8.DecodeRuneInString(rest)
	if rest == "" || !unicode.IsLetter(r) && !unicode.IsNumber(r) && r != '-' && r != '\'' && r != '’' {
		return true
	}
	for _, owner := range []string{"'s", "’s"} {
		if after, ok := strings.CutPrefix(rest, owner); ok {
			next, _ := utf8.DecodeRuneInString(after)
			return after == "" || !unicode.IsLetter(next)
		}
	}
	// A closing quote.
	if r == '\'' || r == '’' {
		next, _ := utf8.DecodeRuneInString(rest[utf8.RuneLen(r):])
		return len(rest) == utf8.RuneLen(r) || !unicode.IsLetter(next)
	}
	return false
}
