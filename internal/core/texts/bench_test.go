package texts_test

import (
	"math/rand/v2"
	"testing"

	"brightchalk/internal/core/spelling"
	"brightchalk/internal/core/texts"
)

func BenchmarkSuggest(b *testing.B) {
	set, _ := spelling.ParsePairs(south.Accent, "s,a,t,p,i,n,c,o,m,d,h,b,g,r,e,ai,k,ck,u,f,l,ll,ss,sh,ch,ee")
	target := spelling.Pair{Grapheme: "ee", Sound: "iː"}
	for b.Loop() {
		texts.Suggest(texts.SuggestQuery{Taught: set, Exceptions: map[string]bool{"the": true}, Target: &target, Count: 4}, south, rand.New(rand.NewPCG(1, 2)))
	}
}
