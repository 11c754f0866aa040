package kinds

import (
	"fmt"
	"slices"
	"strings"

	"brightchalk/internal/core/card"
	"brightchalk/internal/core/convention"
	"brightchalk/internal/core/fault"
	"brightchalk/internal/core/lesson"
	"brightchalk/internal/core/phoneme"
	"brightchalk/internal/core/prose"
	"brightchalk/internal/core/script"
	"brightchalk/internal/core/step"
)

const openers = 4 // words that hold the sound, said before it

// Listen is the step: the agreed take, the adult, then the class in the team's voices.
var Listen = step.Record{
	Kind: lesson.Listen, Name: "Listen", Family: lesson.EarFamily, MinSeconds: 25, UsualSeconds: 55, MaxSeconds: 110,
	Needs: []step.Need{step.NeedTarget}, Shows: step.ShowSound, Rank: 90,
	Ways:  step.Ways("take", "the agreed take first", "words", "four words that hold it first"),
	About: "The agreed take, the adult, then the class in the team's voices.",
	Material: func(b *step.FillInput, s lesson.RoutineStep) (step.Material, *fault.Fault) {
		m, f := step.AnyTarget(b, s)
		if f == nil && s.Options.Way == "words" {
			m.Take = func(int) step.FillResult {
				var out step.FillResult
				for _, w := range b.Heard(b.Targets[0].Pair, openers) {
					out.Items = append(out.Items, step.NewItem(lesson.WordItem, w.Option()))
				}
				return out
			}
		}
		return m, f
	},
	Tell: func(t *step.Narration, s *lesson.Step) {
		if s.Way == "words" && len(s.Items) > 0 {
			step.Adult(s, "“What do you hear in all of them?” "+strings.Join(step.Values(s.Items), ", ")+".")
		}
		for i, f := range t.Lesson.Faces() {
			open := "“Ears ready. Here is our new sound.” "
			switch {
			case !t.Fresh():
				open = "“Ears ready. You know this sound.” "
			case i > 0:
				open = "“And here is another.” "
			}
			play := "Say "
			if f.HasTake {
				play = "Play the take of "
			}
			step.Adult(s, open+play+f.Said+" three times. "+script.Hold(t.Conventions, f.Pair))
			step.Adult(s, "“Now you: "+strings.Join(script.Voices(t.Conventions, f.Pair), " … ")+".”")
			if slip := script.Slip(f.Pair, f.Slip); slip != "" {
				step.Adult(s, slipped(t.Conventions.Character(convention.Slips), slip))
			}
		}
		step.Class(s, "Echoes "+t.Sound()+" in each voice.")
		step.Care(s, "Voices stay friendly to ears: an indoor shout is enough.")
	},
}

// slipped is the line for the usual slip: a character that the team has for it says it wrong, where the card says how
// it sounds, and the class helps.
func slipped(who, slip string) string {
	said, advice, ok := strings.Cut(strings.TrimPrefix(slip, "“"), "”")
	if who == "" || !ok || !strings.HasPrefix(slip, "“") {
		return "Listen for the slip: " + slip
	}
	line := fmt.Sprintf("%s says “%s”. “Is that our sound? Show %s how.”", who, said, who)
	if advice = strings.TrimSpace(strings.TrimLeft(advice, ":,. ")); advice != "" {
		line += " " + prose.Capital(advice)
	}
	return line
}

// Mouth is the step: the cue, the voice on or off, to and fro with a second sound.
var Mouth = step.Record{
	Kind: lesson.Mouth, Name: "Mouth", Family: lesson.MouthFamily, MinSeconds: 25, UsualSeconds: 55, MaxSeconds: 120,
	Needs: []step.Need{step.NeedTarget}, Shows: step.ShowMouth, Rank: 45, Material: step.AnyTarget,
	About: "The cue, the voice on or off, to and fro with a second sound.",
	Tell: func(t *step.Narration, s *lesson.Step) {
		faces := t.Lesson.Faces()
		var same []string
		for _, f := range faces {
			cue, _ := card.SuggestCue(t.Conventions.Accent, f.Pair)
			cue = step.First(f.MouthCue, cue)
			if slices.Contains(same, f.Pair.Sound) {
				continue
			}
			same = append(same, f.Pair.Sound)
			name := ""
			if len(faces) > 1 {
				name = f.Said + ": "
			}
			step.Adult(s, name+cue, script.Throat(t.Conventions.Accent, f.Pair))
		}
		switch {
		case len(same) > 1:
			step.Adult(s, "To and fro: "+strings.Join(sounded(same), ", ")+". “What changes, what stays?”")
		case len(faces) > 0 && faces[0].Contrast != "":
			step.Adult(s, "To and fro with "+script.SoundAs(t.Conventions.Accent, phoneme.Phoneme(faces[0].Contrast))+
				". “What changes, what stays?”")
		}
		step.Class(s, "Watches, copies, feels the throat with a hand.")
		step.Care(s, card.TherapyCaution)
	},
}

func sounded(sounds []string) []string {
	out := make([]string, len(sounds))
	for i, p := range sounds {
		out[i] = "/" + p + "/"
	}
	return out
}

// Close is the step: once more, and what goes home.
var Close = step.Record{
	Kind: lesson.ClosePart, Name: "Close", Family: lesson.MouthFamily, MinSeconds: 15, UsualSeconds: 35, MaxSeconds: 75,
	Shows: step.ShowCard, Rank: 85, Sheet: "home",
	About:    "Once more, and what goes home.",
	Material: func(*step.FillInput, lesson.RoutineStep) (step.Material, *fault.Fault) { return step.Material{}, nil },
	Tell: func(t *step.Narration, s *lesson.Step) {
		faces := t.Lesson.Faces()
		if len(faces) == 0 {
			step.Adult(s, "“Which was easy today? Which do we want to see again?”")
			step.Class(s, "Names one of each.")
			return
		}
		action := ""
		if slices.ContainsFunc(faces, func(f lesson.CardFace) bool { return f.Action != "" }) {
			action = "the action, "
		}
		step.Adult(s, "“One last time: the sound, "+action+"the letters in the air.”")
		if t.Fresh() {
			step.Adult(s, "What goes home: the sheet for "+t.Lesson.Title()+".")
			for _, f := range faces {
				if f.Workbook != "" {
					step.Adult(s, "For later, in the workbook: "+f.Workbook+".")
				}
			}
		}
		step.Class(s, "Says "+t.Sound()+" once more.")
	},
}

// Picture is the step: the mnemonic picture, its rhyme, the action.
var Picture = step.Record{
	Kind: lesson.Picture, Name: "Picture", Family: lesson.EyeFamily, MinSeconds: 30, UsualSeconds: 60, MaxSeconds: 120,
	Needs: []step.Need{step.NeedTarget, step.NeedCardFace}, Shows: step.ShowCard, Rank: 55,
	About: "The mnemonic picture, its rhyme, the action.",
	Material: func(b *step.FillInput, _ lesson.RoutineStep) (step.Material, *fault.Fault) {
		some := slices.ContainsFunc(
			b.Targets,
			func(c card.Card) bool { return c.Picture != "" || c.Rhyme+c.RhymeShort != "" },
		)
		if !some {
			return step.Refuse(step.LacksFace, "the card has no picture and no rhyme yet")
		}
		return step.Material{}, nil
	},
	Tell: func(t *step.Narration, s *lesson.Step) {
		for _, f := range t.Lesson.Faces() {
			if f.Picture != "" {
				named := ""
				if f.Keyword != "" {
					named = prose.Capital(f.Keyword) + ". "
				}
				step.Adult(s, fmt.Sprintf("Show the picture side. “What is in the picture?” … “%sWhere do you hear %s?”",
					named, script.Sound(f.Pair)))
			}
			if short := step.First(f.RhymeShort, f.Rhyme); short != "" {
				long := step.First(f.Rhyme, f.RhymeShort)
				step.Adult(s, "Say the rhyme: “"+long+"” Then together, three times: “"+short+"”")
				step.Class(s, "Says the rhyme together.")
			}
			if f.Action != "" {
				step.Adult(s, "With the action: "+f.Action)
				step.Class(s, "Does the action with the sound.")
				step.Care(s, "Arms need room: a step apart before the action.")
			}
			if len(f.Objects) > 0 {
				step.Adult(
					s,
					"From the tray, one after the other: "+strings.Join(f.Objects, ", ")+". “What is it? Where do you hear "+
						script.Sound(f.Pair)+"?”",
				)
				step.Class(s, "Names each thing and says the sound.")
				step.Table(s, "The tray: "+strings.Join(f.Objects, ", "))
				step.Care(s, card.ObjectCautions(f.Objects)...)
			}
		}
		step.Table(s, "The sound card")
		s.Cautions = slices.Compact(s.Cautions)
		s.Class = slices.Compact(s.Class)
	},
}
