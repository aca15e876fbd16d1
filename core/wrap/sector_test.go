package wrap_test

import (
	"math"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"tidykiln/core/wrap"
)

func TestAPlaceOnTheWallIsFoundOnItsTemplate(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		w := wrap.Wall{Top: rapid.Float64Range(20, 200).Draw(t, "top"), Bottom: rapid.Float64Range(20, 200).Draw(t, "bottom"), Height: rapid.Float64Range(80, 300).Draw(t, "height")}
		template, err := wrap.Compute(w)
		require.NoError(t, err)
		s := w.Sector()
		round, down := rapid.Float64Range(0, 1).Draw(t, "round"), rapid.Float64Range(0, 1).Draw(t, "down")
		x, y := s.Place(round, down)
		backRound, backDown := s.At(x, y)
		assert.InDelta(t, round, backRound, 1e-6)
		assert.InDelta(t, down, backDown, 1e-6)
		assert.True(t, x >= -0.01 && x <= template.BoxWidthMm+0.01 && y >= -0.01 && y <= template.BoxHeightMm+0.01, "%g %g is in the box", x, y)
		// A full turn at a height is as long as the wall is round there.
		length, px, py := 0.0, 0.0, 0.0
		for i := range 2001 {
			x, y := s.Place(float64(i)/2000, down)
			if i > 0 {
				length += math.Hypot(x-px, y-py)
			}
			px, py = x, y
		}
		assert.InEpsilon(t, math.Pi*(w.Top+(w.Bottom-w.Top)*down), length, 1e-4)
	})
}

func TestTheTopOfAWallThatWidensDownwardsLiesBelow(t *testing.T) {
	s := wrap.Wall{Top: 60, Bottom: 90, Height: 100}.Sector()
	_, top := s.Place(0.5, 0)
	_, foot := s.Place(0.5, 1)
	assert.Greater(t, top, foot, "the template is turned half round, not mirrored")
	left, _ := s.Place(0.2, 0.5)
	right, _ := s.Place(0.8, 0.5)
	assert.Greater(t, left, right)
}

func TestABandGoesRoundAndBack(t *testing.T) {
	band := wrap.Wall{Top: 80, Bottom: 80, Height: 100}.Sector().Band(0.1, 0.9, 1.05)
	area := 0.0
	for i, p := range band {
		q := band[(i+1)%len(band)]
		area += (p[0]*q[1] - q[0]*p[1]) / 2
	}
	assert.InEpsilon(t, math.Pi*80*1.05*80, area, 1e-6, "clockwise with y down")
}
