package yield_test

import (
	"encoding/json"
	"math"
	"testing"

	"tidykiln/core/fault"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"tidykiln/core/yield"
)

func TestWorkedExamplesToTheLastDigit(t *testing.T) {
	for want, p := range map[string]yield.Problem{
		`{"start":28,"chance":0.9573}`: {Good: 24, Confidence: 0.95, Yield: new(0.93)},
		`{"start":29,"chance":0.9793}`: {Good: 24, Confidence: 0.95, Made: new(140), Spoiled: new(9)},
		`{"start":24,"spareBlanks":4,"chance":0.9573,"expectedRemakes":1.8065,"secondRunChance":0.8248}`: {Good: 24, Confidence: 0.95, Yield: new(0.93), Distinct: true},
	} {
		answer, err := yield.Compute(p)
		require.NoError(t, err)
		got, err := json.Marshal(answer)
		require.NoError(t, err)
		assert.Equal(t, want, string(got))
	}
}

func TestBadProblemsNameTheField(t *testing.T) {
	sound := yield.Problem{Good: 24, Confidence: 0.95, Yield: new(0.93)}
	logbook := func(made, spoiled *int) func(*yield.Problem) {
		return func(p *yield.Problem) { p.Yield, p.Made, p.Spoiled = nil, made, spoiled }
	}
	for _, c := range []struct {
		spoil func(*yield.Problem)
		at    string
	}{
		{func(p *yield.Problem) { p.Good = 0 }, "good"},
		{func(p *yield.Problem) { p.Confidence = 1 }, "confidence"},
		{func(p *yield.Problem) { p.Yield = new(0.0) }, "yield"},
		{func(p *yield.Problem) { p.Made, p.Spoiled = new(3), new(1) }, "yield"},
		{logbook(nil, new(1)), "yield"},
		{logbook(new(3), nil), "spoiled"},
		{logbook(new(-1), new(0)), "made"},
		{logbook(new(3), new(4)), "spoiled"},
		{func(p *yield.Problem) { p.Yield = new(1e-9) }, "confidence"},
		{func(p *yield.Problem) { logbook(new(0), new(0))(p); p.Distinct, p.Confidence = true, 0.5 }, "spoiled"},
	} {
		p := sound
		c.spoil(&p)
		_, err := yield.Compute(p)
		assert.Equal(t, c.at, fault.Of(err).Path)
	}
	for _, nan := range []func(*yield.Problem){func(p *yield.Problem) { p.Confidence = math.NaN() }, func(p *yield.Problem) { p.Yield = new(math.NaN()) }} {
		p := sound
		nan(&p)
		_, err := yield.Compute(p)
		assert.Error(t, err)
	}
}

// choose is n over k as it is learnt at school.
func choose(n, k int) float64 {
	c := 1.0
	for i := range k {
		c = c * float64(n-i) / float64(i+1)
	}
	return c
}

// survive is the chance of at least good of n, summed term by term.
func survive(n, good int, y float64) float64 {
	sum := 0.0
	for k := good; k <= n; k++ {
		sum += choose(n, k) * math.Pow(y, float64(k)) * math.Pow(1-y, float64(n-k))
	}
	return sum
}

func TestTheFewestThatAreEnough(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		good, y, confidence := rapid.IntRange(1, 40).Draw(t, "good"), rapid.Float64Range(0.3, 1).Draw(t, "yield"), rapid.Float64Range(0.01, 0.99).Draw(t, "confidence")
		a, err := yield.Compute(yield.Problem{Good: good, Confidence: confidence, Yield: &y})
		require.NoError(t, err)
		assert.InDelta(t, survive(a.Start, good, y), a.Chance, 6e-5)
		assert.GreaterOrEqual(t, survive(a.Start, good, y), confidence-1e-9)
		assert.Less(t, survive(a.Start-1, good, y), confidence+1e-9)
	})
}

// The belief integrated in small steps over every possible yield.
func TestTheLogbookIsTheYieldsMixedByBelief(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		// at least half survive, so that the numbers started stay small enough to sum term by term
		made := rapid.IntRange(2, 60).Draw(t, "made")
		spoiled := rapid.IntRange(0, made/2).Draw(t, "spoiled")
		good := rapid.IntRange(1, 12).Draw(t, "good")
		answer, err := yield.Compute(yield.Problem{Good: good, Confidence: 0.6, Made: &made, Spoiled: &spoiled, Distinct: rapid.Bool().Draw(t, "distinct")})
		require.NoError(t, err)
		n := good + max(0, answer.Start-good)
		if answer.SpareBlanks != nil {
			n += *answer.SpareBlanks
		}
		require.Less(t, n, 200)
		mixed, weight, none := 0.0, 0.0, 0.0
		const steps = 4000
		for i := range steps {
			// y = sin² spreads the ends, where the prior has its weight; dy = 2·sin·cos.
			x := (float64(i) + 0.5) / steps * math.Pi / 2
			y := math.Sin(x) * math.Sin(x)
			w := math.Pow(y, float64(made-spoiled)) * math.Pow(1-y, float64(spoiled))
			mixed, weight, none = mixed+w*survive(n, good, y), weight+w, none+w*math.Pow(y, float64(good))
		}
		assert.InDelta(t, mixed/weight, answer.Chance, 1e-3)
		if answer.SecondRunChance != nil {
			assert.InDelta(t, 1-none/weight, *answer.SecondRunChance, 1e-3)
		}
	})
}
