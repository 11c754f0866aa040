package step

import (
	"fmt"
	"slices"
	"strings"

	"brightchalk/internal/core/card"
	"brightchalk/internal/core/fault"
	"brightchalk/internal/core/lesson"
	"brightchalk/internal/core/lexicon"
	"brightchalk/internal/core/phoneme"
	"brightchalk/internal/core/prose"
	"brightchalk/internal/core/script"
	"brightchalk/internal/core/spelling"
)

// anyTarget is material of a step that needs a target and shows nothing by number.
func anyTarget(b *Brief, _ lesson.RoutineStep) (Material, *fault.Fault) {
	if len(b.Targets) == 0 {
		return refuse(lacksTarget, "the lesson has no sound of its own")
	}
	return Material{}, nil
}

const openers = 4 // words that hold the sound, said before it

var listenStep = Record{
	Kind: lesson.Listen, Name: "Listen", Family: lesson.EarFamily, LeastSeconds: 25, UsualSeconds: 55, MostSeconds: 90,
	Needs: []Need{NeedTarget}, Shows: ShowSound, rank: 90,
	Ways:  []Way{{"take", "the agreed take first"}, {"words", "four words that hold it first"}},
	About: "The agreed take, the adult, then the class in the team's voices.",
	material: func(b *Brief, s lesson.RoutineStep) (Material, *fault.Fault) {
		m, f := anyTarget(b, s)
		if f == nil && s.Options.Way == "words" {
			m.Take = func(int) Filling {
				var out Filling
				for _, w := range b.heard(b.Targets[0].Pair, openers) {
					out.Items = append(out.Items, item(lesson.WordItem, w.option()))
				}
				return out
			}
		}
		return m, f
	},
	tell: func(t *Telling, s *lesson.Step) {
		if s.Way == "words" && len(s.Items) > 0 {
			adult(s, "“What do you hear in all of them?” "+strings.Join(values(s.Items), ", ")+".")
		}
		for i, f := range t.Lesson.Faces() {
			open := "“Ears ready. Here is our new sound.” "
			switch {
			case !t.fresh():
				open = "“Ears ready. You know this sound.” "
			case i > 0:
				open = "“And here is another.” "
			}
			play := "Say "
			if f.HasTake {
				play = "Play the take of "
			}
			adult(s, open+play+f.Said+" three times. "+script.Hold(t.Conventions, f.Pair))
			adult(s, "“Now you: "+strings.Join(script.Voices(t.Conventions, f.Pair), " … ")+".”")
			if slip := script.Slip(f.Pair, f.Slip); slip != "" {
				adult(s, "Listen for the slip: "+slip)
			}
		}
		class(s, "Echoes "+t.sound()+" in each voice.")
		care(s, "Voices stay friendly to ears: an indoor shout is enough.")
	},
}

var mouthStep = Record{
	Kind: lesson.Mouth, Name: "Mouth", Family: lesson.MouthFamily, LeastSeconds: 25, UsualSeconds: 55, MostSeconds: 100,
	Needs: []Need{NeedTarget}, Shows: ShowMouth, rank: 45, material: anyTarget,
	About: "The cue, the voice on or off, to and fro with a second sound.",
	tell: func(t *Telling, s *lesson.Step) {
		faces := t.Lesson.Faces()
		var same []string
		for _, f := range faces {
			cue, _ := card.SuggestCue(t.Conventions.Accent, f.Pair)
			cue = first(f.MouthCue, cue)
			if slices.Contains(same, f.Pair.Sound) {
				continue
			}
			same = append(same, f.Pair.Sound)
			name := ""
			if len(faces) > 1 {
				name = f.Said + ": "
			}
			adult(s, name+cue, script.Throat(t.Conventions.Accent, f.Pair))
		}
		switch {
		case len(same) > 1:
			adult(s, "To and fro: "+strings.Join(sounded(same), ", ")+". “What changes, what stays?”")
		case len(faces) > 0 && faces[0].Contrast != "":
			adult(s, "To and fro with "+script.SoundAs(t.Conventions.Accent, phoneme.Phoneme(faces[0].Contrast))+
				". “What changes, what stays?”")
		}
		class(s, "Watches, copies, feels the throat with a hand.")
		care(s, card.TherapyCaution)
	},
}

func sounded(sounds []string) []string {
	out := make([]string, len(sounds))
	for i, p := range sounds {
		out[i] = "/" + p + "/"
	}
	return out
}

var closeStep = Record{
	Kind: lesson.ClosePart, Name: "Close", Family: lesson.MouthFamily, LeastSeconds: 15, UsualSeconds: 35, MostSeconds: 60,
	Shows: ShowCard, rank: 85, Sheet: "home",
	About:    "Once more, and what goes home.",
	material: func(*Brief, lesson.RoutineStep) (Material, *fault.Fault) { return Material{}, nil },
	tell: func(t *Telling, s *lesson.Step) {
		faces := t.Lesson.Faces()
		if len(faces) == 0 {
			adult(s, "“Which was easy today? Which do we want to see again?”")
			class(s, "Names one of each.")
			return
		}
		action := ""
		if slices.ContainsFunc(faces, func(f lesson.CardFace) bool { return f.Action != "" }) {
			action = "the action, "
		}
		adult(s, "“One last time: the sound, "+action+"the letters in the air.”")
		if t.fresh() {
			adult(s, "What goes home: the sheet for "+t.Lesson.Title()+".")
		}
		class(s, "Says "+t.sound()+" once more.")
	},
}

// heard are words for the ear that hold a pair; the class need not be able to read them.
func (b *Brief) heard(p spelling.Pair, n int) []Word {
	var out []Word
	stems := map[string]bool{}
	for _, it := range lexicon.For(b.Conventions.Accent, b.Conventions.Units).With(p) {
		if len(out) == n {
			break
		}
		if it.Unfit || it.Doubt != lexicon.NoDoubt || len(it.Readings) > 1 || it.Familiarity < lexicon.BestKnown-1 ||
			it.Readings[0].Sounds > 5 || b.Class.Refused[it.Word] || stems[first(it.Stem, it.Word)] {
			continue
		}
		stems[first(it.Stem, it.Word)] = true
		out = append(out, Word{
			Value: it.Word, Sounds: it.Readings[0].Sounds, Segments: it.Readings[0].Segments, Role: lesson.TargetRole,
			Origin: lesson.FromFinder, Because: why("heard", "%s is heard in it", script.Sound(p)),
		})
	}
	return out
}

// pictureMaterial: mnemonic, rhyme, action.
var pictureStep = Record{
	Kind: lesson.Picture, Name: "Picture", Family: lesson.EyeFamily, LeastSeconds: 30, UsualSeconds: 60, MostSeconds: 120,
	Needs: []Need{NeedTarget, NeedCardFace}, Shows: ShowCard, rank: 55,
	About: "The mnemonic picture, its rhyme, the action.",
	material: func(b *Brief, _ lesson.RoutineStep) (Material, *fault.Fault) {
		some := slices.ContainsFunc(
			b.Targets,
			func(c card.Card) bool { return c.Picture != "" || c.Rhyme+c.RhymeShort != "" },
		)
		if !some {
			return refuse(lacksFace, "the card has no picture and no rhyme yet")
		}
		return Material{}, nil
	},
	tell: func(t *Telling, s *lesson.Step) {
		for _, f := range t.Lesson.Faces() {
			if f.Picture != "" {
				adult(s, fmt.Sprintf("Show the picture side. “What is in the picture?” … “%s. Where do you hear %s?”",
					prose.Capital(f.Keyword), script.Sound(f.Pair)))
			}
			if short := first(f.RhymeShort, f.Rhyme); short != "" {
				long := first(f.Rhyme, f.RhymeShort)
				adult(s, "Say the rhyme: “"+long+"” Then together, three times: “"+short+"”")
				class(s, "Says the rhyme together.")
			}
			if f.Action != "" {
				adult(s, "With the action: "+f.Action)
				class(s, "Does the action with the sound.")
				care(s, "Arms need room: a step apart before the action.")
			}
		}
		table(s, "The sound card")
		s.Cautions = slices.Compact(s.Cautions)
		s.Class = slices.Compact(s.Class)
	},
}
