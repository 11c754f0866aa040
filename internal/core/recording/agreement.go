package recording

import "math"

// Agreement is how far two listeners agree on the same takes, beyond what chance would give.
type Agreement struct {
	Takes int     `json:"takes" doc:"that both have judged"`
	Agree float64 `json:"agree" doc:"share of takes on which both say the same, 0 to 1"`
	// Kappa lies between -1 and 1, where Known says that it could be counted.
	Kappa float64 `json:"kappa"`
	Low   float64 `json:"low" doc:"of the range that holds it with 95 % confidence"`
	High  float64 `json:"high"`
	Known bool    `json:"known" doc:"false where both always say one and the same, or too little was judged"`
	Word  string  `json:"word"`
}

// widest is the range of a kappa that still means something.
const widest = 1.0

// Kappa is Cohen's kappa of two listeners who say of each take whether it is pure (J. Cohen, A coefficient of agreement
// for nominal scales, 1960), with its range by the large-sample standard error given there. a and b are of one length.
func Kappa(a, b []bool) Agreement {
	out := Agreement{Takes: len(a), Word: "too little to tell"}
	if len(a) == 0 {
		return out
	}
	n := float64(len(a))
	same, yesA, yesB := 0.0, 0.0, 0.0
	for i := range a {
		if a[i] == b[i] {
			same++
		}
		if a[i] {
			yesA++
		}
		if b[i] {
			yesB++
		}
	}
	out.Agree = same / n
	chance := (yesA*yesB + (n-yesA)*(n-yesB)) / (n * n)
	if chance >= 1-1e-12 {
		return out
	}
	out.Kappa = (out.Agree - chance) / (1 - chance)
	half := 1.96 * math.Sqrt(out.Agree*(1-out.Agree)/n) / (1 - chance)
	out.Low, out.High, out.Known = max(-1, out.Kappa-half), min(1, out.Kappa+half), true
	if out.High-out.Low <= widest {
		out.Word = kappaWord(out.Kappa)
	}
	return out
}

// kappaWord is the name of a strength of agreement (J. R. Landis and G. G. Koch, The measurement of observer agreement
// for categorical data, 1977; the words from memory).
func kappaWord(kappa float64) string {
	for _, step := range []struct {
		most float64
		word string
	}{{0, "poor"}, {0.20, "slight"}, {0.40, "fair"}, {0.60, "moderate"}, {0.80, "substantial"}} {
		if kappa <= step.most {
			return step.word
		}
	}
	return "almost perfect"
}

// Faults are what a listener may say is wrong with a take.
var Faults = []Fault{
	{"added-vowel", "a vowel follows"},
	{"voicing", "voice on or off, wrongly"},
	{"not-this-sound", "another sound"},
	{"length", "too short, too long, cut off"},
	{"noise", "noise, crackle, too soft"},
	{"several", "said more than once"},
}

// Fault is a reason for saying that a take is not pure.
type Fault struct {
	Code string `json:"code"`
	Text string `json:"text"`
}
