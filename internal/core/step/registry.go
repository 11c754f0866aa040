package step

import "brightchalk/internal/core/lesson"

var registry []Record

var byKind = map[lesson.Kind]Record{}

// The records are gathered at start: filling a step looks its kind up again.
func init() {
	registry = []Record{
		warmUpStep, packStep, listenStep, earStep, mouthStep, pictureStep, letterStep, capitalsStep, handStep, turnoverStep,
		mixInStep, hearFindStep, quickWriteStep, contrastStep, storyStep, songStep, lookStep, blendStep, readStep, olderStep,
		meaningStep, letterHuntStep, spellStep, exceptionsStep, madeUpStep, wordPlayStep, sentenceStep, pageStep,
		challengeStep, freeStep, closeStep,
	}
	for i := range registry {
		r := &registry[i]
		if r.Offers = []string{}; len(r.Ways) > 0 {
			r.Offers = append(r.Offers, "way")
		}
		if r.older {
			r.Offers = append(r.Offers, "older")
		}
		if r.times {
			r.Offers = append(r.Offers, "times")
		}
		if r.words {
			r.Offers = append(r.Offers, "words")
		}
		if r.Needs == nil {
			r.Needs = []Need{}
		}
		if r.Takes == nil {
			r.Takes = []lesson.ItemKind{}
		}
		if r.Ways == nil {
			r.Ways = []Way{}
		}
		byKind[r.Kind] = *r
	}
}
