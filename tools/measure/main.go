// Command measure prints the figures of the language core that are judged by eye or counted over everything: what is
// offered first at each step of three orders, three hundred made sentences, ear games for every sound.
//
//	go run ./tools/measure [-sheets FOLDER]
//
// With -sheets it writes top10.txt and sentences.txt to be judged; words and sentences marked with a leading "-" in the
// committed sheets are the refused ones, and are counted.
package main

import (
	"bytes"
	"cmp"
	"encoding/csv"
	"flag"
	"fmt"
	"log"
	"math/rand/v2"
	"os"
	"path/filepath"
	"slices"
	"strings"

	"brightchalk/internal/core/lexicon"
	"brightchalk/internal/core/phoneme"
	"brightchalk/internal/core/spelling"
	"brightchalk/internal/core/texts"
	"brightchalk/internal/core/words"
)

// orders that are measured: the demo's, one computed without a fixed beginning, one for General American, and the
// demo's pairs in an order of chance, which was added after the lists of words had been made.
var orders = []struct {
	file   string
	accent phoneme.Accent
}{{"demo.csv", phoneme.SouthernBritish}, {"free.csv", phoneme.NorthernEnglish}, {
	"american.csv",
	phoneme.GeneralAmerican,
}, {"shuffled.csv", phoneme.SouthernBritish}}

const here = "tools/measure"

func main() {
	log.SetFlags(0)
	sheets := flag.String("sheets", "", "folder to write fresh sheets to")
	flag.Parse()
	top := map[string]int{}
	for _, o := range orders {
		for w, n := range topTen(o.file, o.accent) {
			top[w] += n
		}
	}
	sentences := made()
	if *sheets != "" {
		write(filepath.Join(*sheets, "top10.txt"), words10(top))
		write(filepath.Join(*sheets, "sentences.txt"), sentences)
	}
	judge(sentences)
	everyday()
	ear()
}

func write(path string, lines []string) {
	if err := os.WriteFile(path, []byte(strings.Join(lines, "\n")+"\n"), 0o600); err != nil {
		log.Fatal(err)
	}
}

// steps reads an order as the growing sets of what has been taught.
func steps(file string, a phoneme.Accent) (pairs []spelling.Pair) {
	data, err := os.ReadFile(filepath.Join(here, file))
	if err != nil {
		log.Fatal(err)
	}
	rows, err := csv.NewReader(bytes.NewReader(data)).ReadAll()
	if err != nil {
		log.Fatal(err)
	}
	for _, r := range rows[1:] {
		p, err := spelling.ParsePair(a, r[1]+"="+r[2])
		if err != nil {
			log.Fatal(err)
		}
		pairs = append(pairs, p)
	}
	return pairs
}

// topTen counts how often each word is among the ten first offered with the pair of a step.
func topTen(order string, a phoneme.Accent) map[string]int {
	count, taught := map[string]int{}, spelling.Set{}
	for _, p := range steps(order, a) {
		taught[p] = true
		for _, c := range words.Find(words.Query{Taught: taught.WithDoubles(a), Target: &p, Limit: 10},
			words.Options{Accent: a}) {
			count[c.Word]++
		}
	}
	return count
}

func words10(count map[string]int) []string {
	var out []string
	for w := range count {
		out = append(out, w)
	}
	slices.Sort(out)
	return out
}

const sentencesAsked = 300

func made() []string {
	o := words.Options{Accent: phoneme.SouthernBritish}
	known := map[string]bool{}
	for w := range strings.FieldsSeq("is his has the to i we my was he she you said do are her they put come no what") {
		known[w] = true
	}
	pairs := steps("demo.csv", o.Accent)
	taught := spelling.Set{}
	var out []string
	for i, p := range pairs {
		taught[p] = true
		if i < 8 {
			continue
		}
		for _, s := range texts.Suggest(texts.SuggestQuery{
			Taught: taught.WithDoubles(o.Accent), Exceptions: known,
			Targets: []spelling.Pair{p}, Count: 5,
		}, o, rand.New(rand.NewPCG(uint64(i), 7))) {
			if !slices.Contains(out, s.Text) {
				out = append(out, s.Text)
			}
		}
	}
	rand.New(rand.NewPCG(1, 2)).Shuffle(len(out), func(i, j int) { out[i], out[j] = out[j], out[i] })
	return out[:min(len(out), sentencesAsked)]
}

// judged reads a committed sheet: what stands there, with its mark: "-" bad, "?" odd, none good.
func judged(name string) map[string]string {
	data, err := os.ReadFile(filepath.Join(here, name))
	if err != nil {
		return nil
	}
	out := map[string]string{}
	for line := range strings.Lines(string(data)) {
		line = strings.TrimSpace(line)
		if line == "" || strings.HasPrefix(line, "#") {
			continue
		}
		mark := ""
		if strings.HasPrefix(line, "-") || strings.HasPrefix(line, "?") {
			mark, line = line[:1], line[1:]
		}
		out[line] = mark
	}
	return out
}

func judge(sentences []string) {
	marks := judged("top10.txt")
	for _, o := range orders {
		total, bad, unread := 0, 0, 0
		for w, n := range topTen(o.file, o.accent) {
			mark, read := marks[w]
			total += n
			switch {
			case !read:
				unread += n
			case mark != "":
				bad += n
			}
		}
		fmt.Printf(
			"%s, first ten at every step: %d offers; precision %.1f %% (aim 98), %d not judged\n",
			o.file,
			total,
			100*float64(total-bad-unread)/float64(total),
			unread,
		)
	}
	tally, nouns := map[string]int{}, map[string]int{}
	marks = judged("sentences.txt")
	for _, s := range sentences {
		mark, read := marks[s]
		if !read {
			mark = "not judged"
		}
		tally[mark]++
		for w := range strings.FieldsSeq(strings.ToLower(strings.Trim(s, ".!?"))) {
			nouns[w]++
		}
	}
	fmt.Printf(
		"sentences: %d; good %d, odd %d, bad %d, not judged %d (aim: good 85 %%, bad under 1 %%)\n",
		len(sentences),
		tally[""],
		tally["?"],
		tally["-"],
		tally["not judged"],
	)
	type often struct {
		word string
		n    int
	}
	var list []often
	for w, n := range nouns {
		if e, ok := lexicon.Find(w); ok && strings.Contains(e.Kinds, "T") {
			list = append(list, often{w, n})
		}
	}
	slices.SortFunc(list, func(a, b often) int { return cmp.Or(cmp.Compare(b.n, a.n), cmp.Compare(a.word, b.word)) })
	fmt.Print("most frequent things in them:")
	for _, l := range list[:min(6, len(list))] {
		fmt.Printf(" %s %.1f %%", l.word, 100*float64(l.n)/float64(len(sentences)))
	}
	fmt.Println()
}

// ear counts the sounds that have a sorting game of four pictures somewhere.
// everyday counts the words of a child's day that the lexicon has and offers unasked.
func everyday() {
	asked, found, missing := 0, 0, []string{}
	for line := range judged("everyday.txt") {
		for w := range strings.FieldsSeq(line) {
			asked++
			if e, ok := lexicon.Find(w); ok && e.Familiarity >= offered {
				found++
			} else {
				missing = append(missing, w)
			}
		}
	}
	fmt.Printf(
		"everyday words: %d of %d found (%.1f %%, aim 99); not: %s\n",
		found,
		asked,
		100*float64(found)/float64(asked),
		strings.Join(missing, " "),
	)
}

// offered is the familiarity from which a word is offered unasked.
const offered = 2

func ear() {
	for _, a := range phoneme.Accents {
		o := words.Options{Accent: a}
		var without []string
		all := phoneme.Inventory(a)
		for _, s := range all {
			best := 0
			for _, at := range []words.Position{words.Initial, words.Final, words.Medial, words.Any} {
				best = max(best, len(words.EarPictures(s.Phoneme, at, "", nil, o)))
			}
			if best < 4 {
				without = append(without, fmt.Sprintf("%s (%d)", s.Phoneme, best))
			}
		}
		fmt.Printf(
			"ear games, %s: %d of %d sounds have four pictures or more; fewer: %s\n",
			a,
			len(all)-len(without),
			len(all),
			strings.Join(without, ", "),
		)
	}
	fmt.Printf("pictures with names: %d\n", len(lexicon.For(phoneme.SouthernBritish, spelling.Units{}).Pictures))
}
