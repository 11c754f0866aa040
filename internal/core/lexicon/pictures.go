package lexicon

import (
	_ "embed"
	"slices"
	"strings"
	"sync"
)

// PictureCredit names whose the embedded pictures are; their licences ask for it where they are shown.
const PictureCredit = "Pictures: Fluent emoji by Microsoft (MIT), game-icons.net (CC BY 3.0), and our own."

// Icons of the Fluent emoji set (MIT), of game-icons.net (CC BY 3.0) and our own, chosen and labelled by hand in
// tools/lexicon/pictures.txt, each looked at.
//
//go:embed data/pictures.tsv.gz
var picturesData []byte

//go:embed data/second-names.txt
var secondText string

var pictures = sync.OnceValue(func() map[string]string {
	out := map[string]string{}
	for line := range strings.Lines(unzip(picturesData)) {
		word, body, _ := strings.Cut(strings.TrimSuffix(line, "\n"), "\t")
		out[word] = body
	}
	return out
})

var secondNames = sync.OnceValue(func() map[string][]string {
	out := map[string][]string{}
	for line := range strings.Lines(secondText) {
		if word, names, ok := strings.Cut(strings.TrimSpace(line), " "); ok && word != "#" {
			out[word] = strings.Split(names, ",")
		}
	}
	return out
})

// Picture returns the SVG that shows a word, or false.
func Picture(word string) (svg string, ok bool) {
	body, ok := pictures()[word]
	if !ok {
		return "", false
	}
	return `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 32 32">` + body + `</svg>`, true
}

// SecondNames are other names that children commonly give to the picture of a word: bunny for rabbit.
func SecondNames(word string) []string { return secondNames()[word] }

// Pictured tells whether a picture of the team's or an embedded one shows the word.
func (s Speech) Pictured(word string) bool {
	return slices.ContainsFunc(s.Pictures, func(p OwnPicture) bool { return p.Name == word }) || Pictured(word)
}

// Pictured tells whether an embedded picture shows the word.
func Pictured(word string) bool {
	_, ok := pictures()[word]
	return ok
}
