package shape_test

import (
	"math"
	"testing"

	"tidykiln/core/fault"

	"github.com/stretchr/testify/assert"
	"pgregory.net/rapid"

	"tidykiln/core/measure"
	"tidykiln/core/shape"
)

func TestAreas(t *testing.T) {
	disc := shape.Shape{Kind: shape.Disc, Diameter: 90, Thickness: 10}
	assert.InDelta(t, 6361.7251, float64(disc.Area(shape.Front)), 1e-3)
	assert.InDelta(t, 6361.7251, float64(disc.Area(shape.Back)), 1e-3)
	assert.InDelta(t, 2827.4334, float64(disc.Area(shape.Edge)), 1e-3)
	board := shape.Shape{Kind: shape.Rectangle, Width: 300, Height: 140, Thickness: 18}
	assert.InDelta(t, 42000, float64(board.Area(shape.Front)), 1e-9)
	assert.InDelta(t, 15840, float64(board.Area(shape.Edge)), 1e-9)
	assert.Zero(t, board.Area("lid"))
}

func TestDescribeAndBox(t *testing.T) {
	disc := shape.Shape{Kind: shape.Disc, Diameter: 90}
	assert.Equal(t, "90 mm across", disc.Describe(measure.Metric))
	board := shape.Shape{Kind: shape.Rectangle, Width: 304.8, Height: 139.7}
	assert.Equal(t, "12 in × 5 1/2 in", board.Describe(measure.US))
	w, h := disc.Box()
	assert.Equal(t, []measure.Length{90, 90}, []measure.Length{w, h})
	w, h = board.Box()
	assert.Equal(t, []measure.Length{304.8, 139.7}, []measure.Length{w, h})
}

func TestValidate(t *testing.T) {
	good := shape.Shape{Kind: shape.Rectangle, Width: 300, Height: 140, Thickness: 18}
	assert.NoError(t, good.Validate())
	for name, c := range map[string]struct {
		shape shape.Shape
		at    string
	}{
		"no outline":  {shape.Shape{}, "kind"},
		"no width":    {shape.Shape{Kind: shape.Rectangle, Height: 140}, "widthMm"},
		"huge height": {shape.Shape{Kind: shape.Rectangle, Width: 140, Height: 4000}, "heightMm"},
		"not a size":  {shape.Shape{Kind: shape.Disc, Diameter: measure.Length(math.NaN())}, "diameterMm"},
		"negative":    {shape.Shape{Kind: shape.Disc, Diameter: 90, Thickness: -1}, "thicknessMm"},
	} {
		assert.Equal(t, c.at, fault.Of(c.shape.Validate()).Path, name)
	}
}

func TestADiscNeverOutgrowsItsBox(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		d := measure.Length(rapid.Float64Range(5, 3000).Draw(t, "d"))
		disc := shape.Shape{Kind: shape.Disc, Diameter: d}
		w, h := disc.Box()
		assert.Less(t, float64(disc.Area(shape.Front)), float64(w)*float64(h))
	})
}
