// Command lexicon builds the embedded word list from open data (docs/data-and-licences.md): American
// pronunciations turned into lexical sets by rule and by reviewed overrides, familiarity from word lists for
// young readers, and pictures from an open icon set. Run tools/lexicon/build.sh.
package main

import (
	"bufio"
	"fmt"
	"log"
	"os"
	"path/filepath"
	"slices"
	"strconv"
	"strings"

	"brightchalk/internal/core/spelling"
)

type sources struct {
	cmu                        map[string][]string
	cuss, subtlex              map[string]int
	dale, spache               map[string]bool
	pos                        map[string]string
	scowl                      map[string]int
	bath, british, unfit, okay map[string]bool
	overrides, american        map[string][]string
}

func main() {
	log.SetFlags(0)
	here := os.Args[1]
	src := read(here)
	var rows []string
	aligner := &spelling.Aligner{}
	done := map[string]string{} // codes of the words before in the alphabet, so of the stems too
	for _, w := range slices.Sorted(mapKeys(src.candidates())) {
		codes := src.overrides[w]
		if len(codes) == 0 {
			for _, p := range src.cmu[w] {
				if c := best(aligner, w, strings.Fields(p), src.bath[w]); c != "" {
					codes = append(codes, c)
					break // second pronunciations are only taken from the overrides
				}
			}
		}
		if len(codes) == 0 {
			continue
		}
		if stem := src.stem(w); done[stem] != "" && len(codes) == 1 {
			codes[0] = likeStem(codes[0], done[stem])
		}
		done[w] = codes[0]
		all := strings.Join(codes, ",")
		if other := src.american[w]; other != nil {
			all += "|" + strings.Join(other, ",")
		}
		rows = append(rows, fmt.Sprintf("%s\t%s\t%d\t%d\t%s", w, all, src.band(w), src.rank(w), src.flags(w)))
	}
	fmt.Println("# word, codes (after a | the American ones where they differ), familiarity 0 (rare) to 5, count in film subtitles in thousands (coarse), flags: n v a r parts of speech, x not for children")
	fmt.Println("# Made by tools/lexicon; do not edit. Sources and licences: docs/data-and-licences.md")
	fmt.Println(strings.Join(rows, "\n"))
}

func mapKeys(m map[string]bool) func(func(string) bool) {
	return func(yield func(string) bool) {
		for k := range m {
			if !yield(k) {
				return
			}
		}
	}
}

func read(here string) *sources {
	s := &sources{cmu: map[string][]string{}, cuss: map[string]int{}, subtlex: map[string]int{}, dale: map[string]bool{}, spache: map[string]bool{},
		pos: map[string]string{}, scowl: map[string]int{}, overrides: map[string][]string{}, american: map[string][]string{}}
	input := bufio.NewScanner(os.Stdin)
	input.Buffer(nil, 1<<20)
	for input.Scan() {
		f := strings.SplitN(input.Text(), "\t", 3)
		n, _ := strconv.Atoi(f[2])
		switch f[0] {
		case "cmu":
			word, _, _ := strings.Cut(f[1], "(")
			pron, _, _ := strings.Cut(f[2], " #")
			s.cmu[word] = append(s.cmu[word], pron)
		case "cuss":
			s.cuss[f[1]] = n
		case "dale":
			s.dale[f[1]] = true
		case "spache":
			s.spache[f[1]] = true
		case "subtlex":
			s.subtlex[f[1]] = max(n, s.subtlex[f[1]])
		default:
			s.pos[f[1]] += map[string]string{"noun": "n", "verb": "v", "adj": "a", "adv": "r"}[f[0]]
		}
	}
	for _, size := range []int{10, 20, 35} {
		for _, part := range []string{"english", "british", "american"} {
			for _, w := range fields(filepath.Join("/usr/share/dict/scowl", fmt.Sprintf("%s-words.%d", part, size))) {
				if s.scowl[w] == 0 {
					s.scowl[w] = size
				}
			}
		}
	}
	s.bath = set(fields(filepath.Join(here, "bath.txt")))
	s.unfit = set(fields(filepath.Join(here, "unfit.txt")))
	s.okay = set(fields(filepath.Join(here, "adult-list-allow.txt")))
	s.british = map[string]bool{}
	for _, w := range fields(filepath.Join(here, "british.txt")) {
		word, codes, given := strings.Cut(w, "=")
		s.british[word] = true
		if given {
			s.overrides[word] = []string{codes}
		}
	}
	for name, into := range map[string]map[string][]string{"overrides.txt": s.overrides, "american.txt": s.american} {
		for line := range strings.Lines(readFile(filepath.Join(here, name))) {
			if f := strings.Fields(line); len(f) == 2 && f[0] != "#" {
				into[f[0]] = strings.Split(f[1], ",")
			}
		}
	}
	return s
}

func readFile(path string) string {
	data, err := os.ReadFile(path)
	if err != nil {
		log.Fatal(err)
	}
	return string(data)
}

func fields(path string) []string {
	var out []string
	for line := range strings.Lines(readFile(path)) {
		if !strings.HasPrefix(line, "#") {
			out = append(out, strings.Fields(line)...)
		}
	}
	return out
}

func set(words []string) map[string]bool {
	m := map[string]bool{}
	for _, w := range words {
		m[w] = true
	}
	return m
}

func (s *sources) candidates() map[string]bool {
	out := map[string]bool{}
	add := func(w string) {
		for i := range len(w) {
			if w[i] < 'a' || w[i] > 'z' {
				return
			}
		}
		if len(w) > 0 && len(w) <= 14 && (len(w) > 1 || w == "a" || w == "i") {
			out[w] = true
		}
	}
	for w := range s.dale {
		add(w)
	}
	for w := range s.spache {
		add(w)
	}
	for w := range s.british {
		add(w)
	}
	for w := range s.overrides {
		add(w)
	}
	for w, size := range s.scowl {
		if size <= 20 || s.subtlex[w] >= 20 {
			add(w)
		}
	}
	return out
}

// band rates how well young children know a word, 5 best. The lists are American and dated, so the
// supplement of British everyday words counts as fully known.
func (s *sources) band(w string) int {
	n := s.subtlex[w]
	switch {
	case s.british[w], s.spache[w] && n >= 400:
		return 5
	case s.spache[w], s.dale[w] && n >= 400:
		return 4
	case s.dale[w]:
		return 3
	case s.inflected(w):
		return 3
	case n >= 1500 && s.scowl[w] > 0:
		return 2
	case n >= 200:
		return 1
	}
	return 0
}

func (s *sources) inflected(w string) bool {
	for _, suffix := range []string{"s", "es", "ed", "ing", "er", "est", "y"} {
		stem, ok := strings.CutSuffix(w, suffix)
		if ok && len(stem) > 2 && (s.spache[stem] || s.dale[stem] || s.british[stem] || s.spache[stem+"e"] || len(stem) > 3 && stem[len(stem)-1] == stem[len(stem)-2] && s.spache[stem[:len(stem)-1]]) {
			return true
		}
	}
	return false
}

// stem is the word of the list that w is a plural or a past form of, or empty.
func (s *sources) stem(w string) string {
	for _, suffix := range []string{"s", "es", "ed", "ing"} {
		if stem, ok := strings.CutSuffix(w, suffix); ok && (s.dale[stem] || s.spache[stem] || s.scowl[stem] > 0) {
			return stem
		}
	}
	return ""
}

// likeStem settles LOT and CLOTH, which the dictionary gives now so, now so: dogs is said like dog.
func likeStem(codes, stem string) string {
	same := strings.NewReplacer("x", "o")
	if strings.HasPrefix(same.Replace(codes), same.Replace(stem)) {
		return stem + codes[len(stem):]
	}
	return codes
}

func (s *sources) rank(w string) int { return s.subtlex[w] / 100 }

func (s *sources) flags(w string) string {
	pos := s.pos[w]
	if pos == "" {
		for _, suffix := range []string{"s", "es", "ed", "ing"} {
			if stem, ok := strings.CutSuffix(w, suffix); ok && s.pos[stem] != "" {
				pos = map[bool]string{true: "N", false: "V"}[suffix == "s" && strings.Contains(s.pos[stem], "n")]
				break
			}
		}
	}
	unfit := s.unfit[w] || s.cuss[w] >= 1 && !s.okay[w] && !s.british[w]
	for _, suffix := range []string{"s", "es", "ed", "ing", "er", "y"} {
		if stem, ok := strings.CutSuffix(w, suffix); ok && len(stem) > 2 && !s.okay[w] && !s.british[w] && (s.unfit[stem] && len(stem) > 3 || s.cuss[stem] == 2) {
			unfit = true
		}
	}
	if unfit {
		pos += "x"
	}
	if pos == "" {
		return "-"
	}
	return pos
}
