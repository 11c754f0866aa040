package words

import (
	"sync"

	"brightchalk/internal/core/lexicon"
	"brightchalk/internal/core/phoneme"
)

// named is a picture with what its name and its second names sound like.
type named struct {
	word        string
	familiarity int
	reading     lexicon.Reading
	second      [][]phoneme.Phoneme
	own         bool // the team's
}

// ownGain is how much a picture of the team's own may be awkward and still come first.
const ownGain = 8

// plainPictures keeps the list of an accent and units without pictures or departures of a team.
var plainPictures sync.Map

// namedPictures lists the pictures: the team's own, then the embedded ones whose names the team has not taken. Callers
// only read it.
func namedPictures(o Options) []named {
	if len(o.Pictures) > 0 || len(o.Depart) > 0 {
		return listPictures(o)
	}
	pool := lexicon.For(o.Accent, o.Units)
	if list, ok := plainPictures.Load(pool); ok {
		return list.([]named)
	}
	list := listPictures(o)
	plainPictures.Store(pool, list)
	return list
}

func listPictures(o Options) []named {
	var out []named
	own := map[string]bool{}
	for _, p := range o.Pictures {
		n := named{word: p.Name, familiarity: lexicon.BestKnown, own: true}
		seg, err := o.Segment(p.Name)
		if err != nil || len(seg.Segments) == 0 {
			continue
		}
		n.reading = seg.Reading
		for _, other := range p.Others {
			if seg, err := o.Segment(other); err == nil {
				n.second = append(n.second, seg.Phonemes)
			}
		}
		own[p.Name] = true
		out = append(out, n)
	}
	for _, item := range lexicon.For(o.Accent, o.Units).Pictures {
		if own[item.Word] || len(item.Readings) > 1 || lexicon.Pictured(item.Stem) { // cherries beside cherry
			continue
		}
		n := named{word: item.Word, familiarity: item.Familiarity, reading: item.Readings[0], second: item.Second}
		if _, departs := o.Depart[item.Word]; departs {
			if seg, err := o.Segment(item.Word); err == nil {
				n.reading = seg.Reading
			}
		}
		out = append(out, n)
	}
	return out
}
