package strokes

// What children often do with a letter (common practice, no published source).
var slips = map[string]string{
	"a": "the stick first; it begins with the round",
	"b": "turned round it is a d; the stick comes first, from the top",
	"c": "begun at the bottom, or too closed",
	"d": "turned round it is a b; the round comes first",
	"e": "begun at the end of the tail; the bar comes first",
	"f": "the bend turned the wrong way",
	"g": "begun with the tail; the round comes first",
	"h": "the pen lifted before the arch; it goes back up the stick",
	"i": "the dot before the stick, or a ring for a dot",
	"j": "the hook turned the wrong way",
	"k": "the arms too far from the stick",
	"l": "begun at the bottom",
	"m": "three arches instead of two",
	"n": "the pen lifted before the arch; it goes back up the stick",
	"o": "round like a clock; it goes back over the top",
	"p": "all of it above the line; the stick goes under",
	"q": "turned round it is a p; the round comes first",
	"r": "the arch drawn all the way down, so that it reads n",
	"s": "turned round; the first bend is a c",
	"t": "as tall as an l, or the bar first",
	"u": "the last stick left out",
	"v": "round at the bottom, so that it reads u",
	"w": "round at the bottom, or one point too many",
	"x": "the lines crossed at their ends instead of the middle",
	"y": "all of it above the line; the tail goes under",
	"z": "turned round; the first line goes to the right",
}

// Slip is what often goes wrong in writing a small letter; empty for all else.
func Slip(letter string) string { return slips[letter] }
