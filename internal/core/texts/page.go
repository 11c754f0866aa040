package texts

import (
	"cmp"
	"math/rand/v2"
	"slices"
	"strings"

	"brightchalk/internal/core/prose"
)

// Page is a short text about one subject, with three questions for the adult to ask: one whose answer is found in it,
// one that has to be thought out, one about what comes next.
type Page struct {
	Title     string   `json:"title"`
	Body      string   `json:"body"` // a sentence a line
	Holds     []string `json:"holds"`
	Questions []string `json:"questions"`
}

// A page has 3 to 5 sentences, and at least so many words with the target (common practice, no published source).
const (
	minSentences = 3
	goodLength   = 4
	maxSentences = 5
	MinHeld      = 3 // different ones
	subjects     = 5
	maxSubjects  = 14
	pageDrafts   = 40
	pageRounds   = 4
)

// Page composes a short page about one subject. It is false where too little can be read for one with three words that
// hold the target.
func (k *Maker) Page(rng *rand.Rand) (Page, bool) {
	m := k.m
	m.rng, m.fit = rng, map[string]bool{}
	var best []draft
	var about noun
	for i, n := range m.candidates() {
		if i >= subjects && best != nil && (len(m.Targets) == 0 || m.distinct(best) >= MinHeld) {
			break // good enough; more are only tried where the first give none
		}
		m.subject = &n
		lines := m.lines()
		if len(lines) >= minSentences && (best == nil || m.worth(lines) > m.worth(best)) {
			best, about = lines, n
		}
	}
	if best == nil || len(m.Targets) > 0 && m.distinct(best) < MinHeld {
		return Page{}, false
	}
	return m.page(about, best), true
}

// candidates are whom a page may be about: those with the target first, then others by chance.
func (m *maker) candidates() []noun {
	var out []noun
	for _, n := range m.words.nouns {
		if (n.class == animal || n.class == person) && n.one != "" && !n.has("mine") && !n.has("kinship") {
			out = append(out, n)
		}
	}
	m.rng.Shuffle(len(out), func(i, j int) { out[i], out[j] = out[j], out[i] })
	slices.SortStableFunc(out, func(a, b noun) int { return cmp.Compare(rank(m.holds[b.one]), rank(m.holds[a.one])) })
	return out[:min(len(out), maxSubjects)]
}

func rank(b bool) int {
	if b {
		return 1
	}
	return 0
}

// named is the subject as the first sentence says it.
func (m *maker) named(n noun) (string, []string) {
	if n.bare {
		return n.one, []string{strings.ToLower(n.one)}
	}
	for _, d := range []string{"the", "a"} {
		if d = article(d, n.one); m.can(d) {
			return d + " " + n.one, []string{n.one}
		}
	}
	return n.one, nil
}

// lines are sentences about the subject, those that hold most first, no verb and no place twice. They are told all of
// now or all of then; more drafts are made where too few of one kind hold the target, and only after that it changes.
func (m *maker) lines() []draft {
	seen := map[string]bool{}
	var drafts, best []draft
	for range pageRounds {
		drafts = append(drafts, m.drafts(seen)...)
		slices.SortStableFunc(drafts, func(a, b draft) int { return cmp.Compare(m.score(b), m.score(a)) })
		best = m.chosen(drafts, func(draft) bool { return true })
		for _, past := range []bool{true, false} {
			one := m.chosen(drafts, func(d draft) bool { return d.past == past })
			enough := len(one) >= minSentences && (len(m.Targets) == 0 || m.distinct(one) >= min(MinHeld, m.distinct(best)))
			if enough && (mixed(best) || m.worth(one) > m.worth(best)) {
				best = one
			}
		}
		if !mixed(best) && len(best) >= goodLength {
			break
		}
	}
	return best
}

// drafts are new sentences about the subject, by turns of then and of now.
func (m *maker) drafts(seen map[string]bool) []draft {
	makers := []func(*maker) (string, []string){(*maker).does, (*maker).goes, (*maker).takes, (*maker).takes}
	who, _ := m.named(*m.subject)
	var out []draft
	for i := range pageDrafts {
		m.tense = []describe{then, now}[i/len(makers)%2]
		text, content := makers[i%len(makers)](m)
		if text == "" || seen[text] || len(strings.Fields(text)) > maxWords || repeats(content) {
			continue
		}
		seen[text] = true
		out = append(out, draft{text: text, who: prose.Capital(who), content: content, past: m.past})
	}
	return out
}

// describe is the time in which a page is told, where the verb has it.
type describe int

const (
	either describe = iota
	then
	now
)

// mixed tells whether a text changes between now and then.
func mixed(lines []draft) bool {
	return slices.ContainsFunc(lines, func(d draft) bool { return d.past != lines[0].past })
}

// chosen are those of the drafts that fit, the best first, no verb and no place twice.
func (m *maker) chosen(drafts []draft, fits func(draft) bool) []draft {
	used := map[string]bool{}
	var out []draft
	for _, d := range drafts {
		if !fits(d) {
			continue
		}
		own := d.content
		if len(own) > 0 {
			own = own[1:] // the subject itself comes again
		}
		if len(out) == maxSentences || slices.ContainsFunc(own, func(w string) bool { return used[w] }) {
			continue
		}
		for _, w := range own {
			used[w] = true
		}
		if m.fits(d.text) {
			out = append(out, d)
		}
	}
	return out
}

// fits tells whether all of a text can be read; it is asked more than once for the same text.
func (m *maker) fits(text string) bool {
	ok, asked := m.fit[text]
	if !asked {
		ok = Check(text, m.Taught, m.Exceptions, m.o).Fits()
		m.fit[text] = ok
	}
	return ok
}

// tokens counts the words with the target.
func (m *maker) tokens(lines []draft) int {
	n := 0
	for _, d := range lines {
		n += len(m.held(d.text))
	}
	return n
}

func (m *maker) worth(lines []draft) int {
	held := m.distinct(lines)
	whole := 6 * rank(!mixed(lines) && (len(m.Targets) == 0 || held >= MinHeld))
	return 3*held + m.tokens(lines) + len(lines) + whole
}

// distinct counts the different words with the target.
func (m *maker) distinct(lines []draft) int {
	held := map[string]bool{}
	for _, d := range lines {
		for _, w := range m.held(d.text) {
			held[w] = true
		}
	}
	return len(held)
}

// page puts the lines together. Every second one says it, he or she, where that can be read and enough words with the
// target stay.
func (m *maker) page(n noun, lines []draft) Page {
	pronoun := map[string]string{"his": "he", "her": "she"}[n.pronoun()]
	if n.class == animal {
		pronoun = "it"
	}
	out := Page{Title: prose.Capital(strings.TrimPrefix(lines[0].who, "A ")), Holds: []string{}}
	var texts []string
	for i, d := range lines {
		text := d.text
		left := m.tokens(lines)
		if m.holds[n.one] {
			left -= len(lines) / 2
		}
		if rest, ok := strings.CutPrefix(
			text,
			d.who,
		); ok && i%2 == 1 && pronoun != "" && m.can(pronoun) &&
			left >= MinHeld {
			text = prose.Capital(pronoun) + rest
		}
		texts = append(texts, text)
		for _, w := range m.held(text) {
			if !slices.Contains(out.Holds, w) {
				out.Holds = append(out.Holds, w)
			}
		}
	}
	out.Body = strings.Join(texts, "\n")
	who := "Who"
	if n.class == animal {
		who = "Which animal"
	}
	about := n.one
	if !n.bare {
		about = "the " + n.one
	}
	second := lines[len(lines)-1]
	out.Questions = []string{
		who + strings.TrimSuffix(strings.TrimPrefix(lines[0].text, lines[0].who), ".") + "? Show it in the text.",
		WhyAsk(second.text, n.bare),
		"What could " + about + " do next?",
	}
	return out
}

// WhyAsk asks why something in a text is so. name says that its first word keeps its capital.
func WhyAsk(sentence string, name bool) string {
	text := strings.TrimRight(sentence, ".!")
	first, _, _ := strings.Cut(text, " ")
	if !name && first != "I" {
		text = strings.ToLower(text[:1]) + text[1:]
	}
	return "Why do you think " + text + "?"
}
