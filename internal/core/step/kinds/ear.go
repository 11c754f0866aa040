package kinds

import (
	"fmt"
	"math/rand/v2"
	"slices"

	"brightchalk/internal/core/fault"
	"brightchalk/internal/core/lesson"
	"brightchalk/internal/core/lexicon"
	"brightchalk/internal/core/phoneme"
	"brightchalk/internal/core/prose"
	"brightchalk/internal/core/script"
	"brightchalk/internal/core/spelling"
	"brightchalk/internal/core/step"
	"brightchalk/internal/core/words"
)

// A sorting game has 3 to 5 pictures to a sound (common practice, no published source).
const (
	minPictures = 3
	maxPictures = 5
	quarters    = 4
	spare       = 4 // pictures beyond those needed, from which chance chooses
)

// Ear is the step: pictures and objects, sorted against other sounds; first or last where there is time.
var Ear = step.Record{
	Kind:         lesson.Ear,
	Name:         "Ear",
	Family:       lesson.EarFamily,
	MinSeconds:   90,
	UsualSeconds: 120,
	MaxSeconds:   210,
	ItemSeconds:  15,
	Needs:        []step.Need{step.NeedTarget},
	Takes:        []lesson.ItemKind{lesson.PictureItem, lesson.WordItem},
	Shows:        step.ShowSort,
	Sheet:        "sorting",
	Rank:         70,
	Ways: step.Ways(
		"sort",
		"sort left and right",
		"ask",
		"ask yes or no",
		"name",
		"name the sound that is heard",
	),
	About:    "Pictures and objects, sorted against other sounds; first or last where there is time.",
	Material: earMaterial,
	Tell:     tellEar,
}

func earMaterial(b *step.FillInput, _ lesson.RoutineStep) (step.Material, *fault.Fault) {
	if len(b.Targets) == 0 {
		return step.Refuse(step.LacksTarget, "the lesson has no sound of its own")
	}
	sounds := b.Sounds()
	if len(b.Targets) > 1 && len(sounds) == len(b.Targets) {
		if m, ok := between(b, sounds); ok {
			return m, nil
		}
	}
	p := b.Targets[0].Pair
	if len(sounds) == 0 {
		return byEar(b, p, "a unit of two sounds is heard in whole words")
	}
	at, own := earPlace(b, sounds[0], p)
	if len(own) < minPictures {
		few := "no picture has"
		if len(own) > 0 {
			few = fmt.Sprintf("only %d %s", len(own), prose.Plural(len(own), "picture has", "pictures have"))
		}
		return byEar(b, p, few+" this sound "+placeName(at))
	}
	foils := foils(b, sounds[0], at)
	rng := b.Chance("ear")
	own = mixHead(own, min(len(own), maxPictures+spare), rng)
	k := min(maxPictures, len(own), len(foils))
	if k < minPictures {
		return byEar(b, p, "no other sound has pictures enough to sort against")
	}
	four := firstOrLast(b, sounds[0], own[:k], foils[:k])
	return step.Material{Least: 2 * minPictures, Most: 2*k + len(four), By: 2, Take: func(n int) step.FillResult {
		each, last := n/2, []lesson.Option(nil)
		if each > k {
			last = four
			each = (n - len(four)) / 2
		}
		return earFilling(own, foils, each, last, hasReason(p, at))
	}}, nil
}

func hasReason(p spelling.Pair, at words.Position) lesson.Option {
	return lesson.Option{
		Basket: lesson.Has, Role: lesson.TargetRole, Position: string(at), Origin: lesson.FromPicture,
		Because: step.Why("has", "has %s %s", script.Sound(p), placeName(at)),
	}
}

func earFilling(
	own []string,
	foils []lesson.Option,
	each int,
	last []lesson.Option,
	has lesson.Option,
) step.FillResult {
	var f step.FillResult
	for i, w := range own {
		o := has
		o.Value = w
		if i < each {
			f.Items = append(f.Items, step.NewItem(lesson.PictureItem, o))
		} else {
			f.Rest = append(f.Rest, o)
		}
	}
	for i, o := range foils {
		if i < each {
			f.Items = append(f.Items, step.NewItem(lesson.PictureItem, o))
		} else {
			f.Rest = append(f.Rest, o)
		}
	}
	for _, o := range last {
		f.Items = append(f.Items, step.NewItem(lesson.PictureItem, o))
	}
	return f
}

func mixHead(list []string, n int, rng *rand.Rand) []string {
	out := slices.Clone(list)
	rng.Shuffle(n, func(i, j int) { out[i], out[j] = out[j], out[i] })
	return out
}

// earPlace is the first place that the pair takes in words and that has pictures enough, the start before the end
// before the middle, or else the place that has most.
func earPlace(b *step.FillInput, p phoneme.Phoneme, pair spelling.Pair) (words.Position, []string) {
	best, list := words.Initial, []string(nil)
	for _, at := range []words.Position{words.Initial, words.Final, words.Medial} {
		if words.CheckPosition(b.Conventions.Accent, p, at) != nil || !stands(b, pair, at) {
			continue
		}
		found := withoutRefused(b, words.EarPictures(p, at, pair.Grapheme, nil, b.Speech))
		if len(found) > minPictures {
			return at, found
		}
		if len(found) > len(list) {
			best, list = at, found
		}
	}
	return best, list
}

// stands tells whether known words have the pair at the place: ck stands at no start.
func stands(b *step.FillInput, p spelling.Pair, at words.Position) bool {
	for _, it := range lexicon.For(b.Conventions.Accent, b.Conventions.Units).With(p) {
		last := len(it.Pairs) - 1
		if it.Familiarity < lexicon.BestKnown-2 {
			continue
		}
		for i, k := range it.Pairs {
			if k == p && (at == words.Initial && i == 0 || at == words.Final && i == last ||
				at == words.Medial && i > 0 && i < last) {
				return true
			}
		}
	}
	return false
}

// withoutRefused leaves out what the team refused.
func withoutRefused(b *step.FillInput, list []string) []string {
	return slices.DeleteFunc(list, func(w string) bool { return b.Class.Refused[w] })
}

// foils are pictures of sounds that the class knows, one of each in turn, none of a sound that is mixed up with the
// target by ear; where it knows too few, of others. The card's own contrast sound comes first.
func foils(b *step.FillInput, target phoneme.Phoneme, at words.Position) []lesson.Option {
	accent := b.Conventions.Accent
	rng := b.Chance("foils")
	lists := [][]lesson.Option{}
	met := map[phoneme.Phoneme]bool{target: true}
	add := func(p phoneme.Phoneme, grapheme, known string) {
		if met[p] || words.CheckPosition(accent, p, at) != nil {
			return
		}
		met[p] = true
		var list []lesson.Option
		found := withoutRefused(b, words.EarPictures(p, at, grapheme, []phoneme.Phoneme{target}, b.Speech))
		for _, w := range mixHead(found, min(len(found), spare), rng) {
			list = append(list, lesson.Option{
				Value: w, Basket: lesson.HasNot, Role: lesson.FoilRole, Position: string(at), Origin: lesson.FromPicture,
				Because: step.Why("has-not", "has another sound%s, /%s/, %s", known, p, placeName(at)),
			})
		}
		if len(list) > 0 {
			lists = append(lists, list)
		}
	}
	wanted := phoneme.Phoneme(b.Targets[0].Contrast)
	if s, ok := phoneme.Lookup(accent, wanted); ok && b.Targets[0].Contrast != "" &&
		!tooNear(accent, target, s.Phoneme) {
		add(wanted, "", ", the card's contrast")
	}
	known := slices.Clone(b.Class.Met)
	rng.Shuffle(len(known), func(i, j int) { known[i], known[j] = known[j], known[i] })
	for _, k := range known {
		s, err := phoneme.Parse(accent, k.Card.Pair.Sound)
		if err == nil && len(s) == 1 && !tooNear(accent, target, s[0]) && len(lists) < maxPictures+1 {
			add(s[0], k.Card.Pair.Grapheme, " that the class knows")
		}
	}
	if len(lists) < minPictures {
		for _, s := range phoneme.Inventory(accent) {
			if len(lists) < maxPictures && !tooNear(accent, target, s.Phoneme) {
				add(s.Phoneme, "", "")
			}
		}
	}
	return inTurn(lists)
}

// tooNear tells whether two sounds are mixed up by ear: same place, or same manner of consonants that hum or hiss; or
// both vowels of the same kind with a like place.
func tooNear(a phoneme.Accent, p, q phoneme.Phoneme) bool {
	x, ok := phoneme.Lookup(a, p)
	y, ok2 := phoneme.Lookup(a, q)
	if !ok || !ok2 || p == q {
		return true
	}
	if (x.Manner == phoneme.Vowel) != (y.Manner == phoneme.Vowel) {
		return true // a vowel is not sorted against a consonant
	}
	if x.Manner == phoneme.Vowel {
		return isNear[[2]phoneme.Phoneme{p, q}] || isNear[[2]phoneme.Phoneme{q, p}]
	}
	return x.Place == y.Place ||
		x.Manner == y.Manner && (x.Manner == phoneme.Nasal || x.Manner == phoneme.Fricative) ||
		x.Contrast == q
}

// Vowels that children mix up by ear (common practice, no published source).
var isNear = map[[2]phoneme.Phoneme]bool{
	{"ɪ", "e"}: true, {"æ", "ʌ"}: true, {"æ", "e"}: true, {"ɒ", "ʌ"}: true, {"ɪ", "iː"}: true, {"ʊ", "uː"}: true,
	{"ʊ", "ʌ"}: true, {"ɒ", "ɔː"}: true, {"ɔː", "ɑː"}: true, {"ɜː", "ə"}: true, {"eə", "ɪə"}: true, {"əʊ", "aʊ"}: true,
	{"oʊ", "aʊ"}: true, {"eɪ", "e"}: true, {"æ", "ɑː"}: true,
}

func inTurn(lists [][]lesson.Option) []lesson.Option {
	var out []lesson.Option
	for i := 0; ; i++ {
		added := false
		for _, l := range lists {
			if i < len(l) && !slices.ContainsFunc(out, func(o lesson.Option) bool { return o.Value == l[i].Value }) {
				out, added = append(out, l[i]), true
			}
		}
		if !added {
			return out
		}
	}
}

// firstOrLast are the four pictures of first or last; none where English has no words for it, or too few pictures.
func firstOrLast(b *step.FillInput, p phoneme.Phoneme, own []string, foils []lesson.Option) []lesson.Option {
	shown := map[string]bool{}
	for _, w := range own {
		shown[w] = true
	}
	for _, o := range foils {
		shown[o.Value] = true
	}
	for w := range b.Class.Refused {
		shown[w] = true
	}
	found, err := words.FirstOrLast(p, shown, b.Speech, b.Chance("quarters"))
	if err != nil || len(found) != quarters {
		return nil
	}
	var out []lesson.Option
	for _, q := range found {
		basket := map[words.Position]lesson.Basket{words.Initial: lesson.First, words.Final: lesson.Last}[q.Answer]
		out = append(out, lesson.Option{
			Value: q.Picture, Basket: basket, Role: lesson.TargetRole, Position: string(q.Answer), Origin: lesson.FromPicture,
			Because: step.Why("first-or-last", "/%s/ comes %s in it", p, basket),
		})
	}
	return out
}

// between sorts the sounds of several targets against one another.
func between(b *step.FillInput, sounds []phoneme.Phoneme) (step.Material, bool) {
	if len(slices.Compact(slices.Sorted(slices.Values(sounds)))) < len(sounds) {
		return step.Material{}, false
	}
	per := map[int]int{2: 5, 3: 3, 4: 3}[len(sounds)]
	baskets, err := words.Sort(sounds, per, words.Any, b.Speech, b.Chance("between"))
	if err != nil || len(baskets[0].Pictures) < minPictures {
		return step.Material{}, false
	}
	var lists [][]lesson.Option
	for _, k := range baskets {
		var l []lesson.Option
		for _, w := range k.Pictures {
			l = append(l, lesson.Option{
				Value: w, Detail: "/" + string(k.Sound) + "/", Role: lesson.TargetRole, Position: string(k.Position),
				Origin: lesson.FromPicture, Because: step.Why("has", "has /%s/ %s", k.Sound, placeName(k.Position)),
			})
		}
		lists = append(lists, l)
	}
	all := inTurn(lists)
	m := step.OfTexts(lesson.PictureItem, all, len(sounds)*minPictures)
	m.By = len(sounds)
	return m, true
}

// byEar works without pictures: words are said, and sorted by what is heard.
func byEar(b *step.FillInput, p spelling.Pair, because string) (step.Material, *fault.Fault) {
	own := b.Heard(p, maxPictures)
	var names []string
	for _, k := range lexicon.For(b.Conventions.Accent, b.Conventions.Units).Pictures {
		r := k.Readings[0]
		if k.Familiarity == lexicon.BestKnown && len(k.Readings) == 1 && r.Sounds <= 4 && !b.Class.Refused[k.Word] &&
			!holdsAny(r.Phonemes, b, p) {
			names = append(names, k.Word)
		}
	}
	var foils []lesson.Option
	for _, w := range mixHead(names, len(names), b.Chance("by ear"))[:min(maxPictures, len(names))] {
		foils = append(foils, lesson.Option{
			Value: w, Basket: lesson.HasNot, Role: lesson.FoilRole, Origin: lesson.FromPicture,
			Because: step.Why("has-not", "has no %s", script.Sound(p)),
		})
	}
	each := min(len(own), len(foils))
	if each < 2 {
		return step.Refuse(step.LacksPictures, "%s, and too few words that children know hold it", because)
	}
	return step.Material{Least: 2 * min(each, minPictures), Most: 2 * each, By: 2, Take: func(n int) step.FillResult {
		var f step.FillResult
		for _, w := range own[:n/2] {
			o := w.Option()
			o.Basket, o.Because = lesson.Has, step.Why(
				"by-ear",
				"%s is heard in it; %s, so the word is said",
				script.Sound(p),
				because,
			)
			f.Items = append(f.Items, step.NewItem(lesson.WordItem, o))
		}
		for _, o := range foils[:n/2] {
			f.Items = append(f.Items, step.NewItem(lesson.WordItem, o))
		}
		return f
	}}, nil
}

func holdsAny(sounds []phoneme.Phoneme, b *step.FillInput, p spelling.Pair) bool {
	parts, _ := phoneme.Parse(b.Conventions.Accent, p.Sound)
	return slices.ContainsFunc(sounds, func(s phoneme.Phoneme) bool { return slices.Contains(parts, s) })
}

func placeName(at words.Position) string {
	return map[words.Position]string{
		words.Initial: "at the start", words.Final: "at the end", words.Medial: "in the middle", words.Any: "in it",
	}[at]
}

func tellEar(t *step.Narration, s *lesson.Step) {
	spoken := !slices.ContainsFunc(s.Items, func(it lesson.Item) bool { return it.Kind == lesson.PictureItem })
	at, several := "in it", false
	if i := slices.IndexFunc(s.Items, func(it lesson.Item) bool { return it.Basket != lesson.HasNot }); i >= 0 {
		several = s.Items[i].Basket == ""
		if p := s.Items[i].Position; p != "" {
			at = placeName(words.Position(p))
		}
	}
	name := "Name each picture, leaning on the sound. "
	if spoken {
		name = "Say each word in a short phrase, then alone; few pictures have this sound, so it goes by ear. "
	}
	switch {
	case several:
		step.Adult(
			s,
			name+"“Which of our sounds do you hear "+at+": "+script.Either(
				t.Sounds(),
			)+"?” Children lay it in its row.",
		)
	case s.Way == "ask":
		step.Adult(s, name+"“Do you hear "+t.Said()+" "+at+"?” Thumbs up for yes, flat hand for no.")
	case s.Way == "name":
		step.Adult(s, name+"“Which sound do you hear "+at+"?” Those with "+t.Sound()+" go to our card.")
	default:
		step.Adult(s, name+"“Do you hear "+t.Said()+" "+at+"?” Yes goes left, no goes right.")
	}
	if slices.ContainsFunc(s.Items, func(it lesson.Item) bool { return it.Basket.Quarter() }) {
		step.Adult(
			s,
			"Then first or last, with four more: touch head where the sound comes first, feet where it comes last.",
		)
	}
	step.Class(s, "Says the name, sorts it, says the sound.")
	if !spoken {
		step.Table(s, fmt.Sprintf("%d %s", len(s.Items), prose.Plural(len(s.Items), "picture card", "picture cards")))
		step.Care(s, "With real objects: nothing small enough to swallow; nothing goes in ears, noses or mouths.")
	}
}
