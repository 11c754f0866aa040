package review

import (
	"math"
	"slices"
	"time"

	"github.com/open-spaced-repetition/go-fsrs/v3"
	"gonum.org/v1/gonum/optimize"

	"brightchalk/internal/core/document"
	"brightchalk/internal/core/fault"
)

// Meeting is one line of a log: how sure a class was of a card.
type Meeting struct {
	At   time.Time
	Sure Sureness
}

// Fit are weights that were fitted to logs, with how well the usual and the fitted ones foretold meetings that took no
// part in the fitting.
type Fit struct {
	Weights  []float64 `json:"weights" doc:"of FSRS 5, 19 numbers"`
	Meetings int       `json:"meetings" doc:"that were fitted to"`
	Held     int       `json:"held" doc:"meetings that were held out, the latest"`
	Lapses   int       `json:"lapses" doc:"meetings at which a card was not yet known again"`
	Before   float64   `json:"before" doc:"mean log-likelihood of a meeting held out, by the usual weights; nearer to 0 is better"`
	After    float64   `json:"after" doc:"the same by the fitted weights"`
	Better   bool      `json:"better" doc:"the fitted weights foretell better, and are used"`
}

// FitDocuments are stored fits.
var FitDocuments = document.Kind[Fit]{Name: "fitted memory"}

// ErrFew says that there are not enough meetings to fit to.
const ErrFew fault.Code = "few-meetings"

// What a fit needs (a few hundred; ours), and how it is bound.
const (
	MinMeetings = 300
	MinLapses   = 20
	heldShare   = 0.25
	pull        = 4.0 // towards the usual weights: as a prior with a deviation of 1/2 on the logarithm
	maxSteps    = 400
	surest      = 1e-3 // no meeting is foretold more surely
	minBetter   = 1e-4
)

// fitted are the weights that are fitted: how long a first meeting lasts at each sureness, and by how much each further
// one lengthens it. The others need more logs than a school has.
var fitted = []int{0, 1, 2, 3, 8}

// FitTo fits the memory to histories, each the meetings of a class with a card in their order. The latest quarter of
// all meetings is held out. It fails with ErrFew.
func FitTo(histories [][]Meeting) (Fit, error) {
	var all []time.Time
	out := Fit{}
	for _, h := range histories {
		for i, m := range h {
			if i > 0 {
				all = append(all, m.At)
				if m.Sure == NotYet {
					out.Lapses++
				}
			}
		}
	}
	if len(all) < MinMeetings || out.Lapses < MinLapses {
		return out, fault.New(
			ErrFew,
			"There are %d meetings after the first, %d of them forgotten. From %d and %d on the memory can be fitted; "+
				"until then the usual one is used.",
			len(all),
			out.Lapses,
			MinMeetings,
			MinLapses,
		)
	}
	slices.SortFunc(all, time.Time.Compare)
	until := all[int(float64(len(all))*(1-heldShare))]
	loss := func(x []float64) float64 {
		sum, n := foretold(histories, fitWeights(x), func(at time.Time) bool { return at.Before(until) })
		prior := 0.0
		for _, v := range x {
			prior += pull * v * v / 2
		}
		return (prior - sum) / float64(max(1, n))
	}
	settings := &optimize.Settings{MajorIterations: maxSteps, FuncEvaluations: maxSteps}
	found, err := optimize.Minimize(
		optimize.Problem{Func: loss}, make([]float64, len(fitted)), settings, &optimize.NelderMead{},
	)
	if found == nil {
		return out, err
	}
	w := fitWeights(found.X)
	held := func(at time.Time) bool { return !at.Before(until) }
	before, n := foretold(histories, fsrs.DefaultWeights(), held)
	after, _ := foretold(histories, w, held)
	out.Weights, out.Held, out.Meetings = w[:], n, len(all)-n
	out.Before, out.After = before/float64(max(1, n)), after/float64(max(1, n))
	out.Better = out.After > out.Before+minBetter
	return out, nil
}

// fitWeights are the usual weights, those that are fitted multiplied by e to x; the first four rise.
func fitWeights(x []float64) fsrs.Weights {
	w := fsrs.DefaultWeights()
	for k, i := range fitted {
		if i == 8 {
			w[i] += x[k] // it is an exponent
		} else {
			w[i] *= math.Exp(x[k])
		}
	}
	for i := 1; i < 4; i++ {
		w[i] = math.Max(w[i], w[i-1])
	}
	return w
}

// foretold is the sum of the log-likelihoods of the meetings that count, and their number. A first meeting foretells
// nothing.
func foretold(histories [][]Meeting, w fsrs.Weights, counts func(time.Time) bool) (sum float64, n int) {
	m := Memory{remembering(w)}
	for _, h := range histories {
		t := Trace{}
		for i, k := range h {
			if i > 0 && counts(k.At) {
				r := m.fsrs().GetRetrievability(t.card, k.At)
				r = math.Min(1-surest, math.Max(surest, r))
				if k.Sure == NotYet {
					r = 1 - r
				}
				sum += math.Log(r)
				n++
			}
			t = t.after(m, k.At, k.Sure)
		}
	}
	return sum, n
}

// Memory is how classes forget by the fit: the usual way where the fitted weights are not better.
func (f Fit) Memory() Memory {
	if !f.Better || len(f.Weights) != len(fsrs.Weights{}) {
		return Memory{}
	}
	return Memory{remembering(fsrs.Weights(f.Weights))}
}
