package texts_test

import (
	"fmt"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"brightchalk/internal/core/phoneme"
	"brightchalk/internal/core/spelling"
	"brightchalk/internal/core/texts"
)

var south = texts.Options{Accent: phoneme.SouthernBritish}

func check(t testing.TB, text, pairs string, exceptions ...string) texts.Report {
	t.Helper()
	set, err := spelling.ParsePairs(phoneme.SouthernBritish, pairs)
	require.NoError(t, err)
	known := map[string]bool{}
	for _, e := range exceptions {
		known[e] = true
	}
	return texts.Check(text, set, known, south)
}

func statuses(r texts.Report) string {
	var out []string
	for _, t := range r.Tokens {
		out = append(out, t.Text+":"+string(t.Status))
	}
	return strings.Join(out, " ")
}

func TestStatuses(t *testing.T) {
	r := check(t, "The cat sat at night with Zobb.", "c,a,t,s", "the")
	assert.Equal(
		t,
		"The:exception cat:decodable sat:decodable at:decodable night:untaught with:untaught Zobb:name",
		statuses(r),
	)
	assert.Equal(t, []string{"n=n", "igh=aɪ"}, r.Tokens[4].Untaught)
	assert.InDelta(t, 4.0/7, r.Decodable, 1e-9)
	assert.False(t, r.Fits())
	r = check(t, "I read it.", "i=ɪ,r,ea=iː,d,t,i=aɪ")
	assert.Contains(t, statuses(r), "read:ambiguous")
}

func TestRemarks(t *testing.T) {
	for text, says := range map[string]string{
		"the cat.": "capital", "The cat": "full stop", "": "no text",
		"A cat sat on a mat and a rat sat on a hat and ran.": "15 words",
	} {
		assert.Contains(t, strings.Join(check(t, text, "a").Remarks, " "), says, "%q", text)
	}
	assert.True(t, check(t, "A tan cat sat.", "c,a,t,s,n").Fits())
}

func TestOddInput(t *testing.T) {
	for _, text := range []string{"123 456", "🙂🙂", "Привет мир.", "don't - won’t", "ALL CAPS " +
		"HERE", strings.Repeat("x", 5000), "\x00\xff"} {
		r := check(t, text, "a")
		assert.GreaterOrEqual(t, r.Decodable, 0.0)
		for _, tok := range r.Tokens {
			assert.NotEmpty(t, tok.Status)
		}
	}
}

func ExampleCheck() {
	set, _ := spelling.ParsePairs(phoneme.SouthernBritish, "s,a,t,p,i,n")
	r := texts.Check(
		"A pin is in a tin.",
		set,
		map[string]bool{"is": true},
		texts.Options{Accent: phoneme.SouthernBritish},
	)
	fmt.Println(r.Decodable, r.Fits())
	// Output: 1 true
}

func BenchmarkCheck(b *testing.B) {
	text := strings.Repeat("The cat sat on a mat in the rain and had a big red hat. ", 200)
	set, _ := spelling.ParsePairs(phoneme.SouthernBritish, "s,a,t,p,i,n,c,o,m,d,h,b,g,r,e,ai")
	b.SetBytes(int64(len(text)))
	for b.Loop() {
		texts.Check(text, set, nil, south)
	}
}

// Sentences of real pages: titles, quotations that go on, names, ordinals, hyphens, short forms. Written for this test.
func TestRealText(t *testing.T) {
	starts := func(text string) []string {
		var out []string
		r := texts.Check(text, nil, nil, south)
		for _, s := range r.Sentences {
			for _, tok := range r.Tokens {
				if tok.Start == s.Start {
					out = append(out, tok.Text)
				}
			}
		}
		return out
	}
	for _, row := range []struct {
		name, text string
		want       []string
	}{
		{"a title has no stop of its own", "Mr. Lock fed the hens. Dr. Weir sat.", []string{"Mr", "Dr"}},
		{"a quotation goes on", "“Stop!” said Ben. “Is it hot?” asked Mum.", []string{"Stop", "Is"}},
		{"a half of the day", "At 9 a.m. we ran. It was hot.", []string{"At", "It"}},
		{"a heading without a stop", "The Red Barge\nIt was hot. Mum sat.", []string{"The", "It", "Mum"}},
		{"a line that goes on", "The barge went on\nand on.", []string{"The"}},
	} {
		assert.Equal(t, row.want, starts(row.text), row.name)
	}
	status := func(text, word string) texts.Token {
		for _, tok := range texts.Check(text, pairs(t, later), map[string]bool{"the": true}, south).Tokens {
			if tok.Text == word {
				return tok
			}
		}
		t.Fatalf("%s is no token of %s", word, text)
		return texts.Token{}
	}
	assert.Equal(t, texts.Name, status("It was Zibb. Zibb sat.", "Zibb").Status)
	r := texts.Check("Zibb sat. It was Zibb’s hat.", pairs(t, later), nil, south)
	assert.Equal(t, texts.Name, r.Tokens[0].Status, "a name inside one sentence is a name at the start of another")
	assert.Equal(t, texts.Name, r.Tokens[4].Status)
	assert.True(t, r.Tokens[0].Guessed, "a name that is read by rule is a guess")
	assert.Equal(t, texts.Decodable, status("It is a well-lit hut.", "well-lit").Status)
	hyphen := status("It is a well-known hut.", "well-known")
	assert.Equal(t, texts.Untaught, hyphen.Status)
	for _, p := range hyphen.Untaught {
		assert.NotContains(t, []string{"w=w", "e=e", "ll=l"}, p, "the part that can be read is not held against it")
	}
	for _, text := range []string{"The 2nd hen.", "It is 10m up."} {
		for _, tok := range texts.Check(text, pairs(t, later), nil, south).Tokens {
			assert.NotContains(t, []string{"nd", "m"}, tok.Text)
		}
	}
	for word, sounds := range map[string]string{
		"who'd": "huːd", "could've": "kʊdv", "dog's": "dɒɡz",
		"cat’s": "kæts", "fox's": "fɒksɪz", "it'll": "ɪtəl",
	} {
		assert.Equal(t, sounds, phoneme.Join(south.Sounds(word)), word)
	}
}

// Every word of a report stands in the text where the report says, and a share is a share.
func FuzzCheck(f *testing.F) {
	f.Add("Tim sat. “Is it a tin?” said Sam’s mum — at 7!")
	f.Add("the\u00a0cat\x00 naïve co-op don't THE")
	taught, err := spelling.ParsePairs(phoneme.SouthernBritish, "s,a,t,i,p,n,m,d,h,e")
	if err != nil {
		f.Fatal(err)
	}
	f.Fuzz(func(t *testing.T, text string) {
		r := texts.Check(text, taught, map[string]bool{"the": true}, texts.Options{Accent: phoneme.SouthernBritish})
		signs := []rune(text)
		for _, k := range r.Tokens {
			word := []rune(k.Text)
			if k.Start < 0 || k.Start+len(word) > len(signs) || string(signs[k.Start:k.Start+len(word)]) != k.Text {
				t.Fatalf("%q is not at %d of %q", k.Text, k.Start, text)
			}
		}
		if r.Decodable < 0 || r.Decodable > 1 {
			t.Fatal(r.Decodable)
		}
	})
}
