package spelling

// Mixing is by what two graphemes are mixed up.
type Mixing string

// Ways to mix up.
const (
	NotMixed Mixing = ""
	ByEye    Mixing = "eye"
	ByEar    Mixing = "ear"
	ByBoth   Mixing = "eye and ear"
)

// confusable are graphemes that children mix up by eye or ear (common practice, no published source).
var confusable = map[[2]string]Mixing{
	{"b", "d"}:   ByEye,
	{"p", "q"}:   ByEye,
	{"b", "p"}:   ByBoth,
	{"m", "n"}:   ByBoth,
	{"n", "u"}:   ByEye,
	{"i", "e"}:   ByEar,
	{"a", "u"}:   ByBoth,
	{"f", "th"}:  ByEar,
	{"v", "th"}:  ByEar,
	{"f", "v"}:   ByEar,
	{"s", "z"}:   ByEar,
	{"t", "d"}:   ByEar,
	{"k", "g"}:   ByEar,
	{"c", "g"}:   ByBoth,
	{"sh", "ch"}: ByBoth,
	{"ai", "oi"}: ByBoth,
	{"ar", "or"}: ByBoth,
	{"ur", "er"}: ByBoth,
	{"i", "j"}:   ByEye,
	{"w", "v"}:   ByBoth,
	{"h", "n"}:   ByEye,
	{"ng", "nk"}: ByBoth,
}

// MixedUpBy tells by what children mix up two graphemes.
func MixedUpBy(a, b string) Mixing {
	if by, there := confusable[[2]string{a, b}]; there {
		return by
	}
	return confusable[[2]string{b, a}]
}

// MixedUp tells whether children mix up two graphemes, by eye or by ear.
func MixedUp(a, b string) bool { return MixedUpBy(a, b) != NotMixed }
