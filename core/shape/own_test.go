package shape_test

import (
	"math"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"tidykiln/core/measure"
	"tidykiln/core/shape"
)

func TestAnOutlineOfOnesOwn(t *testing.T) {
	boat := shape.Shape{Kind: shape.Own, Width: 120, Height: 60, Thickness: 3, Path: "M0 0 L100 0 L80 50 L20 50 Z"}
	require.NoError(t, boat.Validate())
	assert.InDelta(t, 120*60*0.8, float64(boat.Area(shape.Front)), 0.01)
	w, h := boat.Box()
	assert.Equal(t, []measure.Length{120, 60}, []measure.Length{w, h})
	assert.InDelta(t, (120+72+2*math.Hypot(24, 60))*3, float64(boat.Area(shape.Edge)), 0.01)
	assert.True(t, boat.Holds(60, 50, false))
	assert.False(t, boat.Holds(110, 55, false))

	curved := shape.Shape{Kind: shape.Own, Width: 80, Height: 80, Path: "M10 50a40 40 0 1 0 80 0a40 40 0 1 0 -80 0z"}
	require.NoError(t, curved.Validate())
	assert.InDelta(t, math.Pi*1600, float64(curved.Area(shape.Front)), 1)
}

func TestAPathIsFittedToItsBox(t *testing.T) {
	p, err := shape.Path("M10 50a40 40 0 1 0 80 0a40 40 0 1 0 -80 0z").Fitted(60, 30)
	require.NoError(t, err)
	s := shape.Shape{Kind: shape.Own, Width: 60, Height: 30, Path: p}
	require.NoError(t, s.Validate())
	assert.InEpsilon(t, math.Pi*30*15, float64(s.Area(shape.Front)), 0.003)
	again, err := p.Fitted(60, 30)
	require.NoError(t, err)
	assert.Equal(t, p, again)
	_, err = shape.Path("M0 0").Fitted(60, 30)
	assert.ErrorContains(t, err, "path")
}

func TestPathsThatAreNoOutline(t *testing.T) {
	for name, path := range map[string]shape.Path{
		"nothing": "", "words": "a boat", "a line": "M0 0 L10 10", "crossed": "M0 0 L10 10 L10 0 L0 10 Z", "two": "M0 0H10V10H0Z M20 0H30V10H20Z",
		"a hole": "M0 0H30V30H0Z M10 10V20H20V10Z", "open": "M0 0 L10 0 L10 10 L0 10", "endless": shape.Path("M0 0" + strings.Repeat("L1 1", 6000)),
		"not a number": "M0 0 L NaN 10 L10 10Z", "huge": "M0 0 L1e400 0 L0 1e400Z",
	} {
		t.Run(name, func(t *testing.T) {
			assert.ErrorContains(t, shape.Shape{Kind: shape.Own, Width: 80, Height: 80, Path: path}.Validate(), "path")
		})
	}
	assert.ErrorContains(t, shape.Shape{Kind: shape.Disc, Diameter: 80, Path: "M0 0H1V1Z"}.Validate(), "path")
}

func TestAnInsetIsAsFarInsideEverywhere(t *testing.T) {
	for name, s := range map[string]shape.Shape{
		"disc": {Kind: shape.Disc, Diameter: 90}, "oval": {Kind: shape.Oval, Width: 90, Height: 60}, "arch": {Kind: shape.Arch, Width: 80, Height: 120},
		"heart": {Kind: shape.Heart, Width: 90, Height: 80}, "rounded": {Kind: shape.Rectangle, Width: 90, Height: 60, Corner: 8}, "plain": {Kind: shape.Rectangle, Width: 90, Height: 60},
		"own": {Kind: shape.Own, Width: 120, Height: 60, Path: "M0 0 L100 0 L80 50 L20 50 Z"},
	} {
		t.Run(name, func(t *testing.T) {
			for _, by := range []measure.Length{-5, 2, 6} {
				nearest := math.Inf(1)
				inset := s.Inset(by)
				require.NotEmpty(t, inset)
				for _, p := range inset {
					d := distance(s.Outline(), p)
					assert.GreaterOrEqual(t, d, math.Abs(float64(by))-0.05)
					nearest = min(nearest, d)
				}
				assert.InDelta(t, math.Abs(float64(by)), nearest, 0.05)
				assert.Equal(t, by > 0, shape.AreaOf(inset) < s.Area(shape.Front))
			}
			assert.Nil(t, s.Inset(100))
		})
	}
	assert.InDelta(t, math.Pi*42*42, float64(shape.AreaOf(shape.Shape{Kind: shape.Disc, Diameter: 90}.Inset(3))), 2)
}

// distance is how far a point is from a polygon's sides.
func distance(o []shape.Point, p shape.Point) float64 {
	least := math.Inf(1)
	for i, a := range o {
		b := o[(i+1)%len(o)]
		length := math.Hypot(b.X-a.X, b.Y-a.Y)
		t := 0.0
		if length > 0 {
			t = min(1, max(0, ((p.X-a.X)*(b.X-a.X)+(p.Y-a.Y)*(b.Y-a.Y))/length/length))
		}
		least = min(least, math.Hypot(a.X+t*(b.X-a.X)-p.X, a.Y+t*(b.Y-a.Y)-p.Y))
	}
	return least
}

func TestAnyPathIsReadOrRefused(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		path := rapid.StringMatching(`M[0-9 ]{1,6}([LHVCSQTAZmlhvcsqtaz][0-9 .,eE-]{0,20}){0,12}`).Draw(t, "path")
		s := shape.Shape{Kind: shape.Own, Width: 80, Height: 50, Path: shape.Path(path)}
		if s.Validate() == nil {
			least, most := shape.BoxOf(s.Outline())
			assert.InDelta(t, 0, least.X, 0.01)
			assert.InDelta(t, 80, most.X, 0.01)
			assert.InDelta(t, 50, most.Y-least.Y, 0.01)
			assert.Positive(t, float64(s.Area(shape.Front)))
		}
	})
}

func TestAPolygonIsWrittenAsAPath(t *testing.T) {
	assert.Equal(t, "M0 0L10 0L10 5.13Z", shape.PathOf([]shape.Point{{X: 0, Y: 0}, {X: 10, Y: 0}, {X: 10, Y: 5.1299}}))
}

func TestAnInsetIsTheCallersOwn(t *testing.T) {
	s := shape.Shape{Kind: shape.Disc, Diameter: 90}
	first := s.Inset(2)
	want := slices.Clone(first)
	first[0] = shape.Point{X: -1, Y: -1}
	assert.Equal(t, want, s.Inset(2), "asked again after somebody changed theirs")
	assert.NotEqual(t, want, s.Inset(3), "another border")
	s.Diameter = 91
	assert.NotEqual(t, want, s.Inset(2), "another blank")
}
