package spelling

import "slices"

// confusable are graphemes that children mix up by eye or ear (common practice, no published source).
var confusable = [][2]string{
	{"b", "d"},
	{"p", "q"},
	{"b", "p"},
	{"m", "n"},
	{"n", "u"},
	{"i", "e"},
	{"a", "u"},
	{"f", "th"},
	{"v", "th"},
	{"f", "v"},
	{"s", "z"},
	{"t", "d"},
	{"k", "g"},
	{"c", "g"},
	{"sh", "ch"},
	{"ai", "oi"},
	{"ar", "or"},
	{"ur", "er"},
	{"i", "j"},
	{"w", "v"},
	{"h", "n"},
	{"ng", "nk"},
}

// MixedUp tells whether children mix up two graphemes, by eye or by ear.
func MixedUp(a, b string) bool {
	return slices.ContainsFunc(confusable, func(c [2]string) bool { return c == [2]string{a, b} || c == [2]string{b, a} })
}
