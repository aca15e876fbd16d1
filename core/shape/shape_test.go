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

func TestAreasFollowTheOutline(t *testing.T) {
	for name, c := range map[string]struct {
		s         shape.Shape
		face, rim float64
	}{
		// By the textbook: π·w·h/4; a rectangle and half a disc; a rectangle less the corners' rests.
		"oval":              {shape.Shape{Kind: shape.Oval, Width: 120, Height: 80, Thickness: 1}, 7539.822, 317.309},
		"arch":              {shape.Shape{Kind: shape.Arch, Width: 100, Height: 150, Thickness: 1}, 13926.991, 457.080},
		"half round":        {shape.Shape{Kind: shape.Arch, Width: 100, Height: 50, Thickness: 1}, 3926.991, 257.080},
		"round corners":     {shape.Shape{Kind: shape.Rectangle, Width: 100, Height: 60, Corner: 10, Thickness: 1}, 5914.159, 302.832},
		"a pill":            {shape.Shape{Kind: shape.Rectangle, Width: 100, Height: 60, Corner: 30, Thickness: 1}, 5227.433, 268.496},
		"a tumbler":         {shape.Shape{Kind: shape.Tapered, Diameter: 88, Foot: 64, Height: 170, Thickness: 2}, 40690.6, 954.984},
		"tapered by naught": {shape.Shape{Kind: shape.Tapered, Diameter: 80, Foot: 80, Height: 100, Thickness: 1}, 25132.741, 502.655},
	} {
		assert.NoError(t, c.s.Validate(), name)
		assert.InDelta(t, c.face, float64(c.s.Area(shape.Front)), c.face*1e-5, name)
		assert.InDelta(t, c.rim, float64(c.s.Area(shape.Edge)), c.rim*1e-4, name)
	}
}

func TestATumblerLaidFlatIsItsTemplate(t *testing.T) {
	w, h := shape.Shape{Kind: shape.Tapered, Diameter: 88, Foot: 64, Height: 170}.Box()
	assert.InDelta(t, 274.21, float64(w), 1e-9)
	assert.InDelta(t, 181.50, float64(h), 1e-9)
	w, h = shape.Shape{Kind: shape.Tapered, Diameter: 88}.Box()
	assert.Zero(t, w+h, "what cannot be laid flat has no box")
}

func TestWhatNoOutlineHas(t *testing.T) {
	for at, s := range map[string]shape.Shape{
		"heightMm":   {Kind: shape.Arch, Width: 100, Height: 49},
		"cornerMm":   {Kind: shape.Rectangle, Width: 100, Height: 60, Corner: 31},
		"footMm":     {Kind: shape.Tapered, Diameter: 80, Height: 100},
		"widthMm":    {Kind: shape.Heart, Height: 60},
		"diameterMm": {Kind: shape.Tapered, Foot: 80, Height: 100},
	} {
		assert.Equal(t, at, fault.Of(s.Validate()).Path)
	}
	assert.Equal(t, "cornerMm", fault.Of(shape.Shape{Kind: shape.Oval, Width: 90, Height: 60, Corner: 3}.Validate()).Path)
	assert.Equal(t, "footMm", fault.Of(shape.Shape{Kind: shape.Disc, Diameter: 90, Foot: 60}.Validate()).Path)
}

func TestWhatLiesOnAFace(t *testing.T) {
	for name, c := range map[string]struct {
		s     shape.Shape
		w, h  measure.Length
		round bool
		holds bool
	}{
		"a square on its disc":           {shape.Shape{Kind: shape.Disc, Diameter: 90}, 63.6, 63.6, false, true},
		"85 mm square on a 90 mm disc":   {shape.Shape{Kind: shape.Disc, Diameter: 90}, 85, 85, false, false},
		"cut round it is held":           {shape.Shape{Kind: shape.Disc, Diameter: 90}, 90, 90, true, true},
		"an oval in an oval":             {shape.Shape{Kind: shape.Oval, Width: 120, Height: 80}, 120, 80, true, true},
		"corners over an oval":           {shape.Shape{Kind: shape.Oval, Width: 120, Height: 80}, 90, 60, false, false},
		"corners in an oval":             {shape.Shape{Kind: shape.Oval, Width: 120, Height: 80}, 84, 56, false, true},
		"corners over the arch's crown":  {shape.Shape{Kind: shape.Arch, Width: 100, Height: 150}, 90, 140, false, false},
		"under the arch's crown":         {shape.Shape{Kind: shape.Arch, Width: 100, Height: 150}, 60, 100, false, true},
		"over the heart's notch":         {shape.Shape{Kind: shape.Heart, Width: 100, Height: 100}, 20, 90, false, false},
		"in the heart":                   {shape.Shape{Kind: shape.Heart, Width: 100, Height: 100}, 40, 40, false, true},
		"to the edge of a board":         {shape.Shape{Kind: shape.Rectangle, Width: 100, Height: 60}, 100, 60, false, true},
		"over the edge of a board":       {shape.Shape{Kind: shape.Rectangle, Width: 100, Height: 60}, 100.1, 60, false, false},
		"into round corners":             {shape.Shape{Kind: shape.Rectangle, Width: 100, Height: 60, Corner: 10}, 100, 60, false, false},
		"round a cylinder, edge to edge": {shape.Shape{Kind: shape.Cylinder, Diameter: 80, Height: 100}, 251, 100, false, true},
		"further than round a cylinder":  {shape.Shape{Kind: shape.Cylinder, Diameter: 80, Height: 100}, 252, 100, false, false},
	} {
		assert.Equal(t, c.holds, c.s.Holds(c.w, c.h, c.round), name)
	}
}

// Whatever the outline: it fills its box from edge to edge, its polygon encloses the
// area that is reckoned with, and what has no area is always held.
func TestOutlinesAreAsTheirFormulasSay(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		s := shape.Shape{Kind: rapid.SampledFrom([]shape.Kind{shape.Rectangle, shape.Disc, shape.Oval, shape.Arch, shape.Heart}).Draw(t, "kind")}
		w := measure.Length(rapid.Float64Range(5, 1000).Draw(t, "w"))
		h := w * measure.Length(rapid.Float64Range(0.5, 3).Draw(t, "ratio"))
		if s.Kind == shape.Disc {
			s.Diameter = w
		} else {
			s.Width, s.Height = w, max(h, 5)
		}
		if s.Kind == shape.Rectangle {
			s.Corner = min(s.Width, s.Height) / 2 * measure.Length(rapid.Float64Range(0, 1).Draw(t, "corner"))
		}
		assert.NoError(t, s.Validate())
		boxW, boxH := s.Box()
		var least, most shape.Point
		least = shape.Point{X: math.Inf(1), Y: math.Inf(1)}
		sum := 0.0
		o := s.Outline()
		for i, p := range o {
			q := o[(i+1)%len(o)]
			sum += p.X*q.Y - q.X*p.Y
			least = shape.Point{X: min(least.X, p.X), Y: min(least.Y, p.Y)}
			most = shape.Point{X: max(most.X, p.X), Y: max(most.Y, p.Y)}
		}
		off := float64(boxW+boxH) * 1e-4
		assert.InDelta(t, 0, least.X, off)
		assert.InDelta(t, 0, least.Y, off)
		assert.InDelta(t, float64(boxW), most.X, off)
		assert.InDelta(t, float64(boxH), most.Y, off)
		assert.Positive(t, sum, "clockwise")
		assert.InEpsilon(t, float64(s.Area(shape.Front)), sum/2, 1e-3)
		assert.True(t, s.Holds(0.1, 0.1, false))
		assert.False(t, s.Holds(boxW+1, boxH, true))
	})
}
