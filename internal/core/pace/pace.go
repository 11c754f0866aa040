// Package pace learns from lessons that were held how long steps really take: for a class and a kind of step, by how
// much longer or shorter than usual.
//
// What one lesson tells is the logarithm of seconds taken over seconds that are usual. The median of the newest of a
// class is robust against a lesson with a fire alarm in it (Tukey 1977, "Exploratory data analysis"); it is drawn
// towards that of the team, and that of the team towards the usual, the more the fewer lessons there are (Efron and
// Morris 1977, "Stein's paradox in statistics"; how strongly is ours).
package pace

import (
	"cmp"
	"math"
	"slices"

	"brightchalk/internal/core/lesson"
)

// Time is how long a step of a lesson was held; UsualSeconds is what it would take of a class like any other.
type Time struct {
	ClassID      string
	LessonID     string
	Kind         lesson.Kind
	UsualSeconds int
	TookSeconds  int
}

// Bounds and strengths.
const (
	newest     = 12  // lessons of a class that count
	teamNewest = 60  // lessons of the team that count
	classPrior = 3.0 // as many lessons of a class weigh as much as the team
	teamPrior  = 4.0 // as many lessons of the team weigh as much as the usual
	maxRatio   = 2.0
	minRatio   = 0.5
	minHeld    = 0.2 // a step of which less of the usual time was held was passed over
	minTook    = 5   // seconds
)

// Source is where an estimate mostly comes from.
type Source string

// Sources.
const (
	Usual Source = "usual"
	Team  Source = "team"
	Class Source = "class"
)

// Estimate is by what the usual seconds of a kind are multiplied for a class.
type Estimate struct {
	Kind    lesson.Kind `json:"kind"`
	Ratio   float64     `json:"ratio" doc:"of the usual time, 0.5 to 2"`
	Lessons int         `json:"lessons" doc:"of this class that it rests on"`
	Team    int         `json:"team" doc:"lessons of the whole team that it rests on"`
	From    Source      `json:"from" enum:"usual,team,class" doc:"where it mostly comes from"`
}

// held tells whether a step was held, rather than passed over.
func held(t Time) bool {
	return t.UsualSeconds > 0 && t.TookSeconds >= minTook &&
		float64(t.TookSeconds) >= minHeld*float64(t.UsualSeconds)
}

// Learn estimates each kind of step that the team ever held, for a class; times are the newest first. The kinds come in
// the order of their names.
func Learn(times []Time, classID string) []Estimate {
	own, all := map[lesson.Kind][]float64{}, map[lesson.Kind][]float64{}
	for _, t := range times {
		if !held(t) {
			continue
		}
		x := math.Log(float64(t.TookSeconds) / float64(t.UsualSeconds))
		if len(all[t.Kind]) < teamNewest {
			all[t.Kind] = append(all[t.Kind], x)
		}
		if t.ClassID == classID && len(own[t.Kind]) < newest {
			own[t.Kind] = append(own[t.Kind], x)
		}
	}
	out := []Estimate{}
	for kind, list := range all {
		n, k := float64(len(list)), float64(len(own[kind]))
		team := median(list) * n / (n + teamPrior)
		x := (median(own[kind])*k + team*classPrior) / (k + classPrior)
		e := Estimate{
			Kind: kind, Ratio: math.Min(maxRatio, math.Max(minRatio, math.Exp(x))), Lessons: len(own[kind]),
			Team: len(list), From: Usual,
		}
		if n >= teamPrior {
			e.From = Team
		}
		if k >= classPrior {
			e.From = Class
		}
		out = append(out, e)
	}
	slices.SortFunc(out, func(a, b Estimate) int { return cmp.Compare(a.Kind, b.Kind) })
	return out
}

// median of a list; 0 of none.
func median(list []float64) float64 {
	if len(list) == 0 {
		return 0
	}
	list = slices.Sorted(slices.Values(list))
	mid := len(list) / 2
	if len(list)%2 == 1 {
		return list[mid]
	}
	return (list[mid-1] + list[mid]) / 2
}

// Ratios are the estimates by kind.
func Ratios(list []Estimate) map[lesson.Kind]float64 {
	out := map[lesson.Kind]float64{}
	for _, e := range list {
		out[e.Kind] = e.Ratio
	}
	return out
}
