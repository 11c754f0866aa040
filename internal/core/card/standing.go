package card

// Standing is how a thing that comes from elsewhere stands to a library.
type Standing string

// Standings.
const (
	New       Standing = "new"
	Same      Standing = "same"
	Different Standing = "different"
	Unfit     Standing = "unfit" // it has no place in the library
)

// FieldLine is a field that differs, as people write it.
type FieldLine struct {
	Field  string `json:"field"`
	Mine   string `json:"mine"`
	Theirs string `json:"theirs"`
}

// Differences are the fields in which two contents differ.
func Differences(mine, theirs Content) []FieldLine {
	out := []FieldLine{}
	for _, f := range Changed(mine, theirs) {
		x, _ := mine.Wording(f)
		y, _ := theirs.Wording(f)
		out = append(out, FieldLine{f, x, y})
	}
	return out
}
