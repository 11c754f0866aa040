package main

import (
	"bufio"
	"encoding/json"
	"fmt"
	"log"
	"os"
	"path/filepath"
	"strconv"
	"strings"

	"brightchalk/internal/core/wordform"
)

type early struct {
	kind string // T thing, D doing, L like, O other
	side string // g British, u American
	band int    // 5, or 4 if known at six or seven, or 2 if few of five know it
}

type sources struct {
	cmu                                  map[string][]string
	subtlex, met                         map[string]int
	dale, spache                         map[string]bool
	pos                                  map[string]string
	scowl                                map[string]int
	sides                                map[string]string // g, u: spellings of one side of the ocean
	britishOf                            map[string]string // British spelling to American
	bath, cloth, everyday, older, seldom map[string]bool
	alone, pictures, isWord, isVerb      map[string]bool
	irregular                            map[string]string // past form to verb
	overrides, american                  map[string][]string
	early                                map[string]early
	themes                               map[string][]string
	parts                                map[string][2]string // egg+cup: a word that sounds as its two parts do
}

func read(here string) *sources {
	s := &sources{
		cmu:       map[string][]string{},
		subtlex:   map[string]int{},
		met:       map[string]int{},
		dale:      map[string]bool{},
		spache:    map[string]bool{},
		pos:       map[string]string{},
		overrides: map[string][]string{},
		american:  map[string][]string{},
		britishOf: map[string]string{},
		sides:     map[string]string{},
		early:     map[string]early{},
		themes:    map[string][]string{},
		parts:     map[string][2]string{},
	}
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
		case "dale":
			s.dale[f[1]] = true
		case "spache":
			s.spache[f[1]] = true
		case "subtlex":
			s.subtlex[f[1]] = max(n, s.subtlex[f[1]])
			s.met[strings.ToLower(f[1])] += n
		default:
			s.pos[f[1]] += map[string]string{"noun": "n", "verb": "v", "adj": "a", "adv": "r"}[f[0]]
		}
	}
	s.readSCOWL()
	in := func(name string) string { return filepath.Join(here, name) }
	s.bath, s.cloth = set(fields(in("bath.txt"))), set(fields(in("cloth.txt")))
	s.older, s.seldom, s.alone = set(fields(in("older.txt"))), set(fields(in("seldom.txt"))), set(fields(in("alone.txt")))
	s.everyday = map[string]bool{}
	for _, w := range fields(in("british.txt")) {
		word, codes, given := strings.Cut(w, "=")
		s.everyday[word] = true
		if given {
			s.overrides[word] = []string{codes}
		}
	}
	s.readEarly(in("early.txt"))
	for name, into := range map[string]map[string][]string{"overrides.txt": s.overrides, "american.txt": s.american} {
		for line := range strings.Lines(readFile(in(name))) {
			if f := strings.Fields(line); len(f) == 2 && f[0] != "#" {
				into[f[0]] = strings.Split(f[1], ",")
			}
		}
	}
	s.irregular, s.isVerb = map[string]string{}, map[string]bool{}
	for line := range strings.Lines(readFile(in("irregular.txt"))) {
		if f := strings.Fields(line); len(f) == 2 && f[0] != "#" {
			s.irregular[f[0]] = f[1]
			s.isVerb[f[1]] = true
		}
	}
	s.pictures = map[string]bool{}
	for line := range strings.Lines(readFile(in("pictures.txt"))) {
		if f := strings.Fields(line); len(f) > 1 && f[0] != "#" {
			s.pictures[f[0]] = true
		}
	}
	s.readOceans(here)
	return s
}

// readSCOWL takes the common words, and those that only one side of the ocean spells so.
func (s *sources) readSCOWL() {
	s.scowl, s.isWord = map[string]int{}, map[string]bool{}
	in := map[string]map[string]bool{"english": {}, "british": {}, "american": {}}
	for _, size := range []int{10, 20, 35, 40, 50, 60} {
		for part, words := range in {
			path := filepath.Join("/usr/share/dict/scowl", fmt.Sprintf("%s-words.%d", part, size))
			if _, err := os.Stat(path); err != nil {
				continue
			}
			for _, w := range fields(path) {
				words[w] = true
				s.isWord[w] = true
				if s.scowl[w] == 0 && size <= 35 {
					s.scowl[w] = size
				}
			}
		}
	}
	for w := range in["american"] {
		if !in["english"][w] && !in["british"][w] {
			s.sides[w] = "u"
		}
	}
	for w := range in["british"] {
		if !in["english"][w] && !in["american"][w] {
			s.sides[w] = "g"
		}
	}
}

var levels = map[string]int{"later": 4, "seldom": 2}

var kinds = map[string]string{"thing": "T", "things": "T", "doing": "D", "like": "L", "other": "O"}

func (s *sources) readEarly(path string) {
	kind, theme, band := "", "", 5
	for line := range strings.Lines(readFile(path)) {
		f := strings.Fields(line)
		if len(f) == 0 || f[0] == "#" {
			continue
		}
		if f[0] == "theme" {
			kind, theme, band = kinds[f[2]], "", 5
			if f[2] == "thing" {
				theme = f[1]
			}
			continue
		}
		if level := levels[f[0]]; level > 0 {
			band, f = level, f[1:]
		}
		for _, w := range f {
			w, side, _ := strings.Cut(w, "/")
			w, codes, given := strings.Cut(w, "=")
			if side == "x" || strings.ToLower(w) != w { // read and put aside, or a name
				continue
			}
			if front, back, joined := strings.Cut(w, "+"); joined {
				w = front + back
				s.parts[w] = [2]string{front, back}
			}
			if given {
				s.overrides[w] = []string{codes}
			}
			if theme != "" && band > 2 {
				s.themes[theme] = append(s.themes[theme], w)
			}
			e := s.early[w]
			if e.kind == "" {
				e = early{kind, map[string]string{"gb": "g", "us": "u"}[side], band}
			} else if !strings.Contains(e.kind, kind) {
				e.kind += kind
			}
			s.early[w] = e
		}
	}
}

// readOceans takes American words and the British spellings of American ones.
func (s *sources) readOceans(here string) {
	for line := range strings.Lines(readFile(filepath.Join(here, "oceans.txt"))) {
		if f := strings.Fields(line); len(f) == 2 && f[0] != "#" {
			s.sides[f[0]] = "u"
		}
	}
	var spellings map[string]string
	if err := json.Unmarshal(
		[]byte(readFile(filepath.Join(here, "node_modules/american-british-english-translator/data/british_spellings.json"))),
		&spellings,
	); err != nil {
		log.Fatal(err)
	}
	for british, american := range spellings {
		s.britishOf[british] = american
	}
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

func mapKeys[V any](m map[string]V) func(func(string) bool) {
	return func(yield func(string) bool) {
		for k := range m {
			if !yield(k) {
				return
			}
		}
	}
}

func mapValues[V any](m map[string]V) func(func(V) bool) {
	return func(yield func(V) bool) {
		for _, v := range m {
			if !yield(v) {
				return
			}
		}
	}
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
	for _, list := range []map[string]bool{s.dale, s.spache, s.everyday, s.pictures} {
		for w := range list {
			add(w)
		}
	}
	for w := range s.overrides {
		add(w)
	}
	for w, e := range s.early {
		add(w)
		for _, form := range s.forms(w, e.kind) { // the forms that children meet, where they are words
			add(form)
		}
	}
	for w, size := range s.scowl {
		if size <= 20 || s.subtlex[w] >= 20 || s.sides[w] == "g" && s.subtlex[s.britishOf[w]] >= 20 {
			add(w)
		}
	}
	for w, use := range s.lemmas() {
		if use >= leastUse && len(s.cmu[w]) > 0 {
			add(w)
		}
	}
	return out
}

// leastUse is how often, in the films' count, a word and its forms must be met together; its forms are then read from
// it.
const leastUse = 16

// lemmas counts the use of the words of SCOWL's usual sizes that are no form of another, with that of their regular
// forms.
func (s *sources) lemmas() map[string]int {
	use := map[string]int{}
	for w := range s.scowl {
		of := w
		for _, stem := range wordform.Stems(w) {
			if _, ok := s.scowl[stem.Word]; ok && stem.Ending.Inflects {
				of = stem.Word
				break
			}
		}
		use[of] += s.subtlex[w]
	}
	return use
}

// forms lists the plurals and verb forms of a word that SCOWL or the dictionary holds.
func (s *sources) forms(w, kind string) []string {
	var out []string
	add := func(f string) {
		if s.isWord[f] {
			out = append(out, f)
		}
	}
	doubled := w + w[len(w)-1:]
	short := strings.TrimSuffix(w, "e")
	soft := strings.TrimSuffix(w, "y") + "i"
	for _, f := range []string{w + "s", w + "es", soft + "es"} {
		add(f)
	}
	if strings.Contains(kind, "D") {
		for _, f := range []string{
			w + "ed", short + "ed", doubled + "ed", soft + "ed", w + "ing", short + "ing",
			doubled + "ing",
		} {
			add(f)
		}
	}
	if strings.Contains(kind, "L") {
		for _, f := range []string{
			w + "er", short + "er", doubled + "er", soft + "er", w + "est", short + "est",
			doubled + "est", soft + "est",
		} {
			add(f)
		}
	}
	return out
}
