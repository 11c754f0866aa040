package main

import (
	"fmt"
	"math/rand/v2"
	"os"
	"os/exec"
	"path/filepath"
	"regexp"
	"runtime"
	"slices"
	"strings"
	"time"

	"brightchalk/internal/core/lexicon"
	"brightchalk/internal/core/phoneme"
	"brightchalk/internal/core/spelling"
	"brightchalk/internal/core/texts"
	"brightchalk/internal/core/words"
)

const order = "s,a,t,i,p,n,m,d,g,o,c,k,ck,e,u,r,h,b,f,ff,l,ll,ss,j,v,w,x,y,z,qu,sh,ch,th,ng,ai,ee,igh,oa,oo," +
	"ar,or,ur,ow=aʊ,oi,ear,air,er"

var south = words.Options{Accent: phoneme.SouthernBritish}

// language measures the language core against its aims, and the finder against grep over the same words.
func language() error {
	var before, after runtime.MemStats
	runtime.ReadMemStats(&before)
	begin := time.Now()
	pool := lexicon.For(south.Accent, south.Units)
	took := time.Since(begin)
	runtime.ReadMemStats(&after)
	fmt.Printf(
		"lexicon read and aligned in %.0f ms (aim 150), %.0f MB from the system (aim 60)\n",
		ms(took),
		float64(after.Sys-before.Sys)/1e6,
	)
	set, err := spelling.ParsePairs(south.Accent, order)
	if err != nil {
		return err
	}
	begin = time.Now()
	n := 0
	for time.Since(begin) < 2*time.Second {
		for _, e := range lexicon.Words()[:5000] {
			if _, err := south.Segment(e.Word); err != nil {
				return err
			}
			n++
		}
	}
	rate := float64(n) / time.Since(begin).Seconds()
	fmt.Printf("segment: %.0f words/s (aim 200,000), ratio %.2f\n", rate, rate/200_000)

	text := strings.Repeat("The cat sat on a mat in the rain and had a big red hat. ", 20_000)
	begin = time.Now()
	texts.Check(text, set, nil, south)
	rate = float64(len(text)) / 1e6 / time.Since(begin).Seconds()
	fmt.Printf("text check: %.1f MB/s (aim 5), ratio %.2f\n", rate, rate/5)

	for _, state := range []string{"first call", "later"} {
		begin = time.Now()
		made, err := words.MakeUp(
			words.MadeUpQuery{Taught: set, Frame: "CCVC", Count: 1000},
			south,
			rand.New(rand.NewPCG(1, 1)),
		)
		if err != nil {
			return err
		}
		fmt.Printf("%d made-up words in %.0f ms, %s (aim 1,000 in 100)\n", len(made), ms(time.Since(begin)), state)
	}
	if err := finder(pool, set); err != nil {
		return err
	}
	return starting()
}

func finder(pool *lexicon.Pool, set spelling.Set) error {
	rng := rand.New(rand.NewPCG(2, 2))
	all := strings.Split(order, ",")
	var times []time.Duration
	for range 400 {
		some, err := spelling.ParsePairs(south.Accent, strings.Join(all[:6+rng.IntN(len(all)-6)], ","))
		if err != nil {
			return err
		}
		begin := time.Now()
		words.Find(words.Query{Taught: some, Frame: []string{"", "CVC", "CCVC"}[rng.IntN(3)], Limit: 60}, south)
		times = append(times, time.Since(begin))
	}
	slices.Sort(times)
	p99 := times[len(times)*99/100]
	fmt.Printf(
		"finder over the whole lexicon: median %.2f ms, 99th percentile %.2f ms (aim 5), ratio %.2f\n",
		ms(times[len(times)/2]),
		ms(p99),
		ms(p99)/5,
	)

	// The same question to grep: words of taught pairs only, with sh at the start, from a file of pairs.
	dir, err := os.MkdirTemp("", "bench")
	if err != nil {
		return err
	}
	defer func() { _ = os.RemoveAll(dir) }()
	var lines strings.Builder
	for _, item := range pool.Items {
		lines.WriteString(item.Word)
		for _, p := range item.Pairs {
			lines.WriteString(" " + p.String())
		}
		lines.WriteByte('\n')
	}
	file := filepath.Join(dir, "words.txt")
	if err := os.WriteFile(file, []byte(lines.String()), 0o600); err != nil {
		return err
	}
	var alternatives []string
	for p := range set {
		alternatives = append(alternatives, regexp.QuoteMeta(p.String()))
	}
	slices.Sort(alternatives)
	for _, target := range []*spelling.Pair{nil, {Grapheme: "sh", Sound: "ʃ"}} {
		expression, name := `^\w+(?: (?:`+strings.Join(alternatives, "|")+`))+$`, "all readable words"
		q := words.Query{Taught: set, Limit: 60}
		if target != nil {
			expression, name = `^\w+ `+target.String()+`(?: (?:`+strings.Join(
				alternatives,
				"|",
			)+`))*$`, "readable words that start with sh"
			q.Target, q.Position = target, words.Initial
		}
		grep := median(9, func() error {
			cmd := exec.Command("grep", "-P", expression, file)
			cmd.Env = append(os.Environ(), "LC_ALL=C.UTF-8")
			_, err := cmd.Output()
			return err
		})
		ours := median(101, func() error { words.Find(q, south); return nil })
		fmt.Printf(
			"%s: finder %.2f ms, grep -P %.1f ms, ratio %.0f (aim 20)\n",
			name,
			ms(ours),
			ms(grep),
			float64(grep)/float64(ours),
		)
	}
	return nil
}

func median(times int, f func() error) time.Duration {
	var all []time.Duration
	for range times {
		begin := time.Now()
		if err := f(); err != nil {
			fmt.Println("bench:", err)
		}
		all = append(all, time.Since(begin))
	}
	slices.Sort(all)
	return all[times/2]
}

// starting measures what the lexicon adds to a start of the program.
func starting() error {
	run := func(args ...string) time.Duration {
		return median(15, func() error { return exec.Command("bin/brightchalk", args...).Run() })
	}
	plain, one, whole := run(
		"sounds",
		"--json",
	), run(
		"segment",
		"cat",
	), run(
		"words",
		"--taught",
		"s,a,t,i,p,n",
		"--limit",
		"10",
	)
	fmt.Printf(
		"start: %.0f ms without the lexicon; reading it adds %.0f ms, aligning all of it too %.0f ms (aim 150)\n",
		ms(plain),
		ms(one-plain),
		ms(whole-plain),
	)
	return nil
}
