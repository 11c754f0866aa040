package lexicon_test

import (
	"fmt"
	"strings"
	"testing"

	"github.com/sebdah/goldie/v2"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"brightchalk/internal/core/lexicon"
	"brightchalk/internal/core/phoneme"
	"brightchalk/internal/core/spelling"
)

// Words that no list has, made of those of the list by a stride that meets each familiarity: with endings, as
// compounds, with a beginning, with another first letter. What each is read like is read by an adult at each change of
// the rules (-update renews the file).
func TestMadeWordsToBeRead(t *testing.T) {
	var b strings.Builder
	line := func(word string) {
		s, err := lexicon.Segment(word, phoneme.SouthernBritish, spelling.Units{})
		require.NoError(t, err, word)
		var bits []string
		for _, g := range s.Segments {
			bits = append(bits, g.Grapheme)
		}
		sound := phoneme.Join(s.Phonemes)
		us, err := lexicon.Segment(word, phoneme.GeneralAmerican, spelling.Units{})
		require.NoError(t, err, word)
		fmt.Fprintf(&b, "%-16s %-8s %-18s %s", word, s.Source, sound, strings.Join(bits, "."))
		if other := phoneme.Join(us.Phonemes); other != sound {
			fmt.Fprint(&b, " | ", other)
		}
		b.WriteString("\n")
	}
	byFamiliarity := map[int][]*lexicon.Entry{}
	for _, e := range lexicon.Words() {
		if !e.Unfit && len(e.Word) >= 3 && len(e.Word) <= 8 && !e.Inflected() {
			byFamiliarity[e.Familiarity] = append(byFamiliarity[e.Familiarity], e)
		}
	}
	known := func(word string) bool { _, ok := lexicon.Find(word); return ok }
	// of takes so many words of a familiarity, one every so often, from which make makes one that no list has.
	of := func(familiarity, many, from int, make func(*lexicon.Entry) string) (out []string) {
		all := byFamiliarity[familiarity]
		for k := from; k < len(all) && len(out) < many; k += 1 + len(all)/(many*3) {
			if w := make(all[k]); w != "" && !known(w) {
				out = append(out, w)
			}
		}
		return out
	}
	lines := func(words []string) {
		for _, w := range words {
			line(w)
		}
	}
	for familiarity := range lexicon.BestKnown + 1 {
		fmt.Fprintln(&b, "== of words of familiarity", familiarity)
		for k, ending := range strings.Fields("y ful less ness like ly er est ed ing s es ward ship able ish ingly") {
			lines(of(familiarity, 3, k, func(e *lexicon.Entry) string {
				if short := k % 3; len(e.Word) == 3+short || len(e.Word) == 4+short {
					return e.Word + ending
				}
				return ""
			}))
		}
		for k, beginning := range strings.Fields("un dis mis re non sub pre out up under over super anti inter") {
			lines(of(familiarity, 1, k*7, func(e *lexicon.Entry) string { return beginning + e.Word }))
		}
		lines(of(familiarity, 4, 2, func(e *lexicon.Entry) string {
			if len(e.Word) < 4 || len(e.Word) > 5 {
				return ""
			}
			return e.Word + "y"
		}))
		for other := range lexicon.BestKnown + 1 {
			second := byFamiliarity[other]
			at := familiarity
			lines(of(familiarity, 4, other*5, func(e *lexicon.Entry) string {
				at += 1 + len(second)/9
				return e.Word + second[at%len(second)].Word
			}))
		}
		lines(of(familiarity, 20, 3, func(e *lexicon.Entry) string {
			rest := strings.TrimLeft(e.Word, "bcdfghjklmnpqrstvwxyz")
			if len(rest) < 3 || rest == e.Word || strings.HasPrefix(e.Word, "qu") {
				return ""
			}
			return []string{"v", "gr", "z", "spl"}[len(e.Word)%4] + rest
		}))
	}
	goldie.New(t, goldie.WithNameSuffix(".txt")).Assert(t, "made", []byte(b.String()))
}

// A team's own words laid along their letters, invented and said as a local would: read by an adult.
func TestOwnWordsToBeRead(t *testing.T) {
	var b strings.Builder
	for _, w := range strings.Fields(`Lockhouse=lɒkhaʊs Wharfside=wɔːfsaɪd Quay=kiː Marl=mɑːl Leam=lem Ning=nɪŋ
		Worrow=wɒrəʊ
		Thrapp=θræp Knell=nel Wreyburn=reɪbɜːn Oughly=əʊliː Oughley=ʌfliː Boughten=baʊtən Sedge=sedʒ Tuddle=tʌdəl Ouze=uːz
		Chalkey=tʃɔːkiː Gnarl=nɑːl Phopps=fɒps Cheynet=tʃeɪnət Beaulow=bjuːləʊ Alne=ɔːn Wye=waɪ Exe=eks Isin=aɪsɪn Osk=ɒsk
		Hythe=haɪð Rhyd=rɪd Cwm=kuːm Eaves=iːvz Moorings=mʊərɪŋz towlight=təʊlaɪt Wanwick=wɒnɪk Bucester=bʊstə Tyle=taɪl
		Leamow=leɪməʊ Juist=juːɪst Ewe=juː Yeowell=jəʊwəl Laughern=lɑːn xylo=zaɪləʊ Aaa=ɑː`) {
		word, sounds, _ := strings.Cut(w, "=")
		for _, u := range []spelling.Units{{}, {DoublesTwo: true, NkOne: true}} {
			r, err := own(t, word, sounds, phoneme.SouthernBritish).Cut(phoneme.SouthernBritish, u)
			if err != nil {
				fmt.Fprintf(&b, "%-10s %s: %v\n", word, sounds, err)
				continue
			}
			fmt.Fprintf(&b, "%-10s %d", word, r.Sounds)
			for _, s := range r.Segments {
				odd := map[bool]string{true: "!"}[s.Odd] + map[bool]string{true: "?"}[s.Rare]
				fmt.Fprintf(&b, " %s=%s%s", s.Grapheme, phoneme.Join(s.Phonemes), odd)
			}
			b.WriteString("\n")
		}
	}
	goldie.New(t, goldie.WithNameSuffix(".txt")).Assert(t, "own", []byte(b.String()))
}

// Own words keep their letters where they stand in a text with other signs, and both accents keep their own cut.
func TestOwnWordsWithOtherSigns(t *testing.T) {
	s := lexicon.Speech{Accent: phoneme.SouthernBritish, Words: map[string]lexicon.OwnWord{
		"tow-light": own(t, "tow-light", "təʊlaɪt", phoneme.SouthernBritish),
	}}
	for range 2 { // the second time from what was kept
		seg, err := s.Segment("Tow-light")
		require.NoError(t, err)
		require.NotEmpty(t, seg.Segments)
		last := seg.Segments[len(seg.Segments)-1]
		assert.Equal(t, []int{8}, last.Letters, "t is the ninth sign of tow-light")
		assert.Equal(t, []int{0}, seg.Segments[0].Letters)
	}
}

// Other names that children give to a picture go with the word.
func TestSecondNamesOfPictures(t *testing.T) {
	assert.Contains(t, lexicon.SecondNames("rabbit"), "bunny")
	assert.Empty(t, lexicon.SecondNames("#"), "a line of comment names nothing")
	rabbit, ok := lexicon.For(phoneme.SouthernBritish, spelling.Units{}).Find("rabbit")
	require.True(t, ok)
	require.Len(t, rabbit.Second, len(lexicon.SecondNames("rabbit")))
	assert.Equal(t, "bʌniː", phoneme.Join(rabbit.Second[0]))
}
