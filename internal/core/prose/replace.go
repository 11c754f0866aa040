package prose

import (
	"regexp"
	"strings"
	"unicode"
	"unicode/utf8"
)

// whole finds a word or a phrase where it stands whole, in whatever letters it is written.
func whole(what string) *regexp.Regexp {
	parts := strings.Fields(what)
	for i, p := range parts {
		parts[i] = strings.ReplaceAll(regexp.QuoteMeta(p), "'", "['’]")
	}
	return regexp.MustCompile(`(?i)(^|[^\pL\pN'’-]|(?:^|[^\pL\pN])['’])(` + strings.Join(parts, `\s+`) + `)`)
}

// Uses tells how often a word or a phrase stands whole in a text: in big or small letters, also before the 's of an
// owner.
func Uses(text, what string) int {
	n := 0
	each(text, what, func(string) string { n++; return "" })
	return n
}

// Replace puts another wording wherever one stands whole in a text. It begins with a capital where the former one did.
func Replace(text, what, with string) string {
	return each(text, what, func(found string) string {
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

func each(text, what string, f func(found string) string) string {
	if strings.TrimSpace(what) == "" {
		return text
	}
	re := whole(what)
	var out strings.Builder
	for {
		at := re.FindStringSubmatchIndex(text)
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
