package unfit_test

import (
	"fmt"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"brightchalk/internal/core/lexicon"
	"brightchalk/internal/core/phoneme"
	"brightchalk/internal/core/unfit"
)

// Forms that a child may meet in a word list and that no list of lemmas holds. Written from memory.
func TestAFamilyIsRefusedAsAWhole(t *testing.T) {
	for theme, words := range map[unfit.Theme][]string{
		"rude":   {"bums", "farting", "crappy", "Bitchy", "arse-holes", "bullshit", "poo's"},
		"sexual": {"rapist", "raped", "prostitutes", "sexier", "nudist", "boobs", "condoms"},
		"insult": {"stupidest", "idiotic", "slavery", "gypsies", "fattest", "lunatics", "ugliness"},
		"violence": {
			"killing", "murderers", "gunfire", "shotguns", "bombers", "stabbed", "swordfish",
			"tortured", "penknives", "terrorists",
		},
		"drugs":             {"drugged", "addictive", "smugglers", "cannabis"},
		"drink-and-tobacco": {"brewery", "boozy", "whiskies", "cigarettes", "drunkenness", "pubs"},
		"crime":             {"thieves", "burglary", "stealing", "imprisoned-prisoner", "hijackers-gangster"},
		"death-and-illness": {"deadly", "graveyard", "cancerous", "funerals", "skulls", "sickly", "deathbed"},
		"gambling":          {"gamblers", "casinos", "lotteries"},
		"oath-and-dread":    {"devilish", "damned", "vampires", "hellish", "nightmares", "satanic"},
		"grown-up":          {"divorced", "fascists", "mortgages"},
	} {
		for _, w := range words {
			_, ok := unfit.Of(w) // a word may stand in two themes: only that it is refused counts
			assert.True(t, ok, "%s: %s passes", theme, w)
		}
	}
}

// What only looks like a refused word. Each of these was refused by a rule before it was read by hand.
func TestPlainWordsPass(t *testing.T) {
	for _, w := range []string{
		"grape", "scrape", "canal", "hello", "shell", "classes", "assist", "butter",
		"button", "therapist", "cockpit", "peacock", "analyse", "saturday", "spice", "hurricane", "password",
		"firefighter", "antelope", "christmas", "studying", "beehives", "weed", "scared", "ambulance", "gravy",
		"better", "teddy", "skirt", "night", "duck", "ship", "sheet", "count", "funny", "pin", "six",
	} {
		theme, refused := unfit.Of(w)
		assert.False(t, refused, "%s is refused as %s", w, theme)
	}
}

func TestOneSoundAway(t *testing.T) {
	south := phoneme.SouthernBritish
	codes := func(c string) []phoneme.Phoneme { return phoneme.Realise(south, c, 0) }
	for _, near := range []string{"fuk", "fuC", "fut", "uk", "fluk", "fukt", "Sip", "Sit", "kunt", "kund"} {
		assert.True(t, unfit.SoundsLike(codes(near), south), near)
	}
	for _, far := range []string{"frGb", "vEn", "zagz", "mLv", "plAmp"} {
		assert.False(t, unfit.SoundsLike(codes(far), south), far)
	}
	north := phoneme.Realise(phoneme.NorthernEnglish, "fUk", 0)
	assert.True(t, unfit.SoundsLike(north, phoneme.NorthernEnglish), "cup and put have one vowel there")
	assert.True(t, unfit.LooksLike("cunk"))
	assert.False(t, unfit.LooksLike("vung"))
}

// The whole lexicon: nothing that is offered in any accent is refused by family or theme, and what is refused is not
// offered.
func TestNoRefusedWordIsOffered(t *testing.T) {
	for _, e := range lexicon.Words() {
		_, refused := unfit.Of(e.Word)
		require.Equal(t, refused, e.Unfit, "%s: the list was built with other themes; run tools/lexicon/build.sh", e.Word)
	}
	for _, a := range phoneme.Accents {
		for _, item := range lexicon.For(a, lexicon.Speech{}.Units).Items {
			theme, refused := unfit.Of(item.Word)
			require.False(t, refused, "%s is offered in %s: %s", item.Word, a, theme)
			for _, other := range lexicon.SecondNames(item.Word) {
				theme, refused := unfit.Of(other)
				require.False(t, refused, "%s, second name of %s: %s", other, item.Word, theme)
			}
		}
	}
}

func ExampleOf() {
	theme, refused := unfit.Of("pistols")
	fmt.Println(theme, refused)
	// Output: violence true
}

// A hyphen or a space does not hide a short word that is refused by itself only.
func TestPartsAreAskedOneByOne(t *testing.T) {
	for _, word := range []string{"gin-fizz", "tom gin", "gin sling", "Gin!", "g.i.n"} {
		_, refused := unfit.Of(word)
		assert.True(t, refused, word)
	}
	_, refused := unfit.Of("begin")
	assert.False(t, refused, "the letters alone say nothing")
	_, refused = unfit.Of("well-fed")
	assert.False(t, refused)
}
