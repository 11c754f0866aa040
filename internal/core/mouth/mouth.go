// Package mouth draws how a mouth makes a sound, from the features of the sound alone: a view from the side and one
// from the front, still by still, and how it moves from one to the next. Lengths are widths of a mouth at rest. It is
// for teaching, not for therapy.
//
// Places, manners, voicing and lips are from memory of standard textbooks and the chart of the International Phonetic
// Association (revised to 2020). The decimals, the milliseconds and the geometry are ours, without a published source.
package mouth

import (
	_ "embed"
	"fmt"
	"slices"
	"strconv"
	"strings"

	"brightchalk/internal/core/fault"
	"brightchalk/internal/core/phoneme"
)

// Row is one still of a sound in some accents: a line of the table.
type Row struct {
	Sound       phoneme.Phoneme `json:"sound"`
	Phase       string          `json:"phase" enum:"rest,closure,release,friction,hold,start,end"`
	MS          int             `json:"ms" doc:"how long it lasts, in milliseconds"`
	Lips        string          `json:"lips"`
	LipOpening  float64         `json:"lip_opening" doc:"0 to 1, as wide as a mouth goes"`
	LipRounding float64         `json:"lip_rounding" doc:"0 drawn wide, 0.2 at rest, 1 fully in"`
	Jaw         float64         `json:"jaw" doc:"how far the teeth are parted"`
	Teeth       string          `json:"teeth"`
	Tip         string          `json:"tip"`
	TipContact  string          `json:"tip_contact"`
	BodyX       float64         `json:"body_x" doc:"highest point of the tongue, front to back"`
	BodyY       float64         `json:"body_y" doc:"highest point of the tongue, low to the palate"`
	BodyContact string          `json:"body_contact"`
	Sides       string          `json:"sides"`
	Velum       string          `json:"velum" enum:"up,down"`
	Voice       bool            `json:"voice"`
	Air         string          `json:"air" enum:"stopped,burst,friction,free,nose,sides,none"`
	AirAt       string          `json:"air_at"`
	Seen        string          `json:"seen" doc:"from the front, in a teacher's words"`
	Felt        string          `json:"felt"`
	Slip        string          `json:"slip"`
	Contrast    string          `json:"contrast"`
	accents     []string
}

//go:embed mouth.tsv
var table string

var rows = func() []Row {
	found, err := read(table)
	if err != nil {
		panic(err) // the table is part of the program; its test reads it
	}
	return found
}()

const columns = 23

func read(text string) ([]Row, error) {
	var out []Row
	for i, line := range strings.Split(strings.TrimSpace(text), "\n") {
		f := strings.Split(line, "\t")
		if i == 0 {
			continue
		}
		if len(f) != columns {
			return nil, fmt.Errorf("mouth, line %d: %d columns, want %d", i+1, len(f), columns)
		}
		var bad error
		number := func(k int) float64 {
			v, err := strconv.ParseFloat(f[k], 64)
			if err != nil {
				bad = fmt.Errorf("mouth, line %d, column %d: %w", i+1, k+1, err)
			}
			return v
		}
		r := Row{
			Sound: phoneme.Phoneme(f[0]), accents: strings.Split(f[1], ","), Phase: f[2], MS: int(number(3)), Lips: f[4],
			LipOpening: number(5), LipRounding: number(6), Jaw: number(7), Teeth: f[8], Tip: f[9], TipContact: f[10],
			BodyX: number(11), BodyY: number(12), BodyContact: f[13], Sides: f[14], Velum: f[15], Voice: f[16] == "on",
			Air: f[17], AirAt: f[18], Seen: f[19], Felt: f[20], Slip: f[21], Contrast: f[22],
		}
		if bad != nil {
			return nil, bad
		}
		out = append(out, r)
	}
	return out, nil
}

// ErrNoMouth says that a sound has no drawing in an accent.
const ErrNoMouth fault.Code = "no-mouth"

// Rows are the stills of a sound in an accent, in the order of its phases; a sound of several is those of each.
func Rows(accent phoneme.Accent, sound string) ([]Row, error) {
	if own := of(accent, phoneme.Phoneme(sound)); len(own) > 0 { // kw and ks have rows of their own
		return own, nil
	}
	parts, err := phoneme.Parse(accent, sound)
	if err != nil {
		return nil, err
	}
	var out []Row
	for _, p := range parts {
		own := of(accent, p)
		if len(own) == 0 {
			return nil, fault.New(ErrNoMouth, "there is no drawing of /%s/ in this accent", p)
		}
		out = append(out, own...)
	}
	return out, nil
}

func of(accent phoneme.Accent, sound phoneme.Phoneme) []Row {
	name := string(accent)
	if accent == phoneme.NorthernStrut { // as northern, with a vowel of its own in cup
		name = string(phoneme.NorthernEnglish)
	}
	var out []Row
	for _, r := range rows {
		if r.Sound == sound && (r.accents[0] == "all" || slices.Contains(r.accents, name)) {
			out = append(out, r)
		}
	}
	return out
}

// rest is the mouth before and after a sound.
var rest = Row{
	Phase: "rest", MS: 150, Lips: "neutral", LipOpening: 0.1, LipRounding: 0.2, Jaw: 0.1, Teeth: "nearly-shut", Tip: "low",
	TipContact: "none", BodyX: 0.57, BodyY: 0.45, BodyContact: "none", Sides: "down", Velum: "down", Air: "none",
	AirAt: "none",
}

// Still is one still with both of its views.
type Still struct {
	Row
	Side       []Shape `json:"side"`
	Front      []Shape `json:"front"`
	SideMarks  []Line  `json:"side_marks" doc:"air and voice, which switch at the border of phases"`
	FrontMarks []Line  `json:"front_marks"`
}

// Key is a moment of the movement: at it the still is reached, having moved towards it for so long.
type Key struct {
	At    int  `json:"at" doc:"milliseconds from the start"`
	Still int  `json:"still" doc:"index; the first and the last are the mouth at rest"`
	Move  int  `json:"move" doc:"milliseconds that the movement to it takes, before at"`
	Sound bool `json:"sound" doc:"its air and its voice show from here on"`
}

// Drawing is a sound drawn: its stills with rest before and after, and its course in time.
type Drawing struct {
	Sound   string              `json:"sound"`
	Accent  phoneme.Accent      `json:"accent"`
	Stills  []Still             `json:"stills"`
	Keys    []Key               `json:"keys"`
	MS      int                 `json:"ms" doc:"from rest to rest"`
	Windows map[View][4]float64 `json:"windows" doc:"what each view shows: left, top, width, height"`
	Caution string              `json:"caution"`
}

// Caution stands beside every drawing.
const Caution = "For teaching, not for therapy. A child who cannot make a sound after teaching goes the school’s " +
	"usual way: hearing check, speech and language therapist."

// Milliseconds: towards the first still, of a change in a two-part vowel's share, of a release, back to rest.
const (
	approach = 180
	opens    = 30
	backToIt = 150
)

// Draw draws a sound in an accent.
func Draw(accent phoneme.Accent, sound string) (Drawing, error) {
	list, err := Rows(accent, sound)
	if err != nil {
		return Drawing{}, err
	}
	d := Drawing{Sound: sound, Accent: accent, Caution: Caution, Windows: windows, Keys: []Key{{}}}
	d.Stills = append(d.Stills, still(rest))
	at := 0
	for i, r := range list {
		var before *Row
		if i > 0 && list[i-1].Sound == r.Sound {
			before = &list[i-1]
		}
		d.Stills = append(d.Stills, still(r))
		move := approach
		switch {
		case before == nil && i > 0:
			move = 120
		case r.Phase == "release" || before != nil && before.Phase == "closure":
			move = opens
		case r.Phase == "end": // the middle three fifths of both phases
			move = (before.MS + r.MS) * 3 / 5
			at -= before.MS * 3 / 10
		case before != nil:
			move = 60
		}
		at += move
		d.Keys = append(d.Keys, Key{At: at, Still: i + 1, Move: move, Sound: true})
		hold := r.MS
		if r.Phase == "end" {
			hold = r.MS * 7 / 10
		}
		at += hold
	}
	d.Stills = append(d.Stills, still(rest))
	d.Keys = append(d.Keys, Key{At: at + backToIt, Still: len(d.Stills) - 1, Move: backToIt})
	d.MS = at + backToIt
	return d, nil
}

func still(r Row) Still {
	side, front := []Line{}, []Line{}
	for _, m := range marks(r) {
		side = append(side, m.lines()...)
		front = append(front, m.inFront()...)
	}
	return Still{Row: r, Side: sideView(r), Front: frontView(r), SideMarks: side, FrontMarks: front}
}
