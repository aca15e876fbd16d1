// Package yield says how many pieces to start so that enough of them come out
// good, from a known yield or from what the logbook has seen. The formulas are
// those of docs/calculations.md §7.
package yield

import (
	"math"

	"tidykiln/core/fault"

	"gonum.org/v1/gonum/mathext"
)

// Bounds of what is asked: the most good pieces, and the most that are started for them.
const (
	MostGood    = 100_000
	mostStarted = 1_000_000
)

// Problem asks how many pieces to start for Good good ones (1 to MostGood), so
// that they come out with a chance of at least Confidence (over 0, under 1).
// Either Yield is known (over 0, at most 1), or the logbook's Made and Spoiled
// pieces tell it (spoiled from 0 to made).
type Problem struct {
	Good       int
	Confidence float64
	Yield      *float64
	Made       *int
	Spoiled    *int
	// Distinct says that every piece is different, such as names: a spare copy
	// of one does not replace another.
	Distinct bool
}

// Answer is what to start. For distinct pieces Start is the good ones wanted,
// and spoils are made again from spare blanks. Chances lie from 0 to 1.
// Everything is rounded half up to four decimals.
type Answer struct {
	Start           int      `json:"start"`
	SpareBlanks     *int     `json:"spareBlanks,omitempty"`
	Chance          float64  `json:"chance"`
	ExpectedRemakes *float64 `json:"expectedRemakes,omitempty"`
	SecondRunChance *float64 `json:"secondRunChance,omitempty"`
}

// model is what is believed of the share of pieces that survive.
type model interface {
	// chance is that at least good of n pieces survive.
	chance(n, good int) float64
	// meanInverse is the expectation of one over the yield.
	meanInverse() (float64, error)
	// all is the chance that n pieces survive without a spoil.
	all(n int) float64
}

// Compute answers the problem, or returns an error that names the field at fault.
func Compute(p Problem) (Answer, error) {
	m, err := p.model()
	if err != nil {
		return Answer{}, err
	}
	n, err := fewest(m, p.Good, p.Confidence)
	if err != nil {
		return Answer{}, err
	}
	a := Answer{Start: n, Chance: rounded(m.chance(n, p.Good))}
	if !p.Distinct {
		return a, nil
	}
	inverse, err := m.meanInverse()
	if err != nil {
		return Answer{}, err
	}
	spare, remakes, second := n-p.Good, rounded(float64(p.Good)*(inverse-1)), rounded(1-m.all(p.Good))
	return Answer{Start: p.Good, SpareBlanks: &spare, Chance: a.Chance, ExpectedRemakes: &remakes, SecondRunChance: &second}, nil
}

func (p Problem) model() (model, error) {
	switch {
	case p.Good < 1 || p.Good > MostGood:
		return nil, fault.At("good", "must be from 1 to %d", MostGood)
	case !(p.Confidence > 0 && p.Confidence < 1):
		return nil, fault.At("confidence", "must be over 0 and under 1")
	case p.Yield != nil && (p.Made != nil || p.Spoiled != nil):
		return nil, fault.At("yield", "give either the yield, or made and spoiled")
	case p.Yield != nil:
		if !(*p.Yield > 0 && *p.Yield <= 1) {
			return nil, fault.At("yield", "must be over 0 and at most 1")
		}
		return known(*p.Yield), nil
	case p.Made == nil:
		return nil, fault.At("yield", "give the yield, or made and spoiled")
	case p.Spoiled == nil:
		return nil, fault.At("spoiled", "must be given with made")
	case *p.Made < 0 || *p.Made > mostStarted:
		return nil, fault.At("made", "must be from 0 to %d", mostStarted)
	case *p.Spoiled < 0 || *p.Spoiled > *p.Made:
		return nil, fault.At("spoiled", "must be from 0 to made")
	}
	return learnt{0.5 + float64(*p.Made-*p.Spoiled), 0.5 + float64(*p.Spoiled)}, nil
}

// fewest is the least n for which the chance reaches the confidence; the
// chance never falls as n grows.
func fewest(m model, good int, confidence float64) (int, error) {
	enough := func(n int) bool { return m.chance(n, good) >= confidence }
	low, high := good-1, good
	for !enough(high) {
		if high >= mostStarted {
			return 0, fault.At("confidence", "cannot be reached by starting %d pieces", mostStarted)
		}
		low, high = high, min(2*high, mostStarted)
	}
	for high-low > 1 {
		if middle := low + (high-low)/2; enough(middle) {
			high = middle
		} else {
			low = middle
		}
	}
	return high, nil
}

// known is a yield that is certain: survivors are binomial.
type known float64

func (y known) chance(n, good int) float64 {
	switch {
	case good > n:
		return 0
	case y == 1:
		return 1
	}
	// P(X ≥ k) of a binomial is the regularised incomplete beta function I_y(k, n−k+1).
	return mathext.RegIncBeta(float64(good), float64(n-good+1), float64(y))
}

func (y known) meanInverse() (float64, error) { return 1 / float64(y), nil }
func (y known) all(n int) float64             { return math.Pow(float64(y), float64(n)) }

// learnt is a yield with a beta belief of shape a (survivors) and b (spoils),
// the logbook on top of Jeffreys' prior: survivors are beta-binomial.
type learnt struct{ a, b float64 }

func (l learnt) chance(n, good int) float64 {
	// Summed over the spoils k, from none up: P(k)/P(k−1) = (n−k+1)/k · (b+k−1)/(a+n−k).
	logP := logGamma(l.a+float64(n)) + logGamma(l.a+l.b) - logGamma(l.a) - logGamma(l.a+l.b+float64(n))
	sum := math.Exp(logP)
	for k := 1; k <= n-good; k++ {
		logP += math.Log(float64(n-k+1) / float64(k) * (l.b + float64(k-1)) / (l.a + float64(n-k)))
		sum += math.Exp(logP)
	}
	return min(1, sum)
}

func (l learnt) meanInverse() (float64, error) {
	if l.a <= 1 {
		return 0, fault.At("spoiled", "so few survived that no number of remakes can be expected; give the yield")
	}
	return (l.a + l.b - 1) / (l.a - 1), nil
}

func (l learnt) all(n int) float64 {
	return math.Exp(logGamma(l.a+float64(n)) + logGamma(l.a+l.b) - logGamma(l.a) - logGamma(l.a+l.b+float64(n)))
}

func logGamma(x float64) float64 {
	v, _ := math.Lgamma(x)
	return v
}

// rounded is half up to four decimals.
func rounded(v float64) float64 { return math.Floor(v*1e4+0.5) / 1e4 }
