package design_test

import (
	"image"
	"image/color"
	"math"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"tidykiln/core/design"
	"tidykiln/core/lettering"
	"tidykiln/core/measure"
	"tidykiln/core/picture"
	"tidykiln/core/shape"
)

var slice = shape.Shape{Kind: shape.Disc, Diameter: 90, Thickness: 6}

func TestThePrintFollowsItsBlank(t *testing.T) {
	p := design.Design{Border: 3}.Print(slice)
	assert.InDelta(t, 84, p.Width, 0.02)
	assert.InDelta(t, 3, p.X, 0.01)
	assert.InDelta(t, math.Pi*42*42, float64(p.Area()), 2)
	d, round := p.Circle()
	assert.True(t, round)
	assert.InDelta(t, 84, d, 0.02)

	bleed := design.Design{Border: -2}.Print(slice)
	assert.InDelta(t, 94, bleed.Width, 0.02)
	assert.InDelta(t, -2, bleed.X, 0.01)
}

func TestAPrintOfASizeOfItsOwnLiesInTheMiddle(t *testing.T) {
	p := design.Design{Follows: design.Rectangle, Width: 60, Height: 40}.Print(slice)
	assert.Equal(t, []float64{15, 25, 60, 40}, []float64{p.X, p.Y, p.Width, p.Height})
	_, round := p.Circle()
	assert.False(t, round)
	oval := design.Design{Follows: design.Ellipse, Width: 70, Height: 70}.Print(slice)
	assert.InDelta(t, 3848, float64(oval.Area()), 3, "a disc of 70 mm is 38.5 cm², not 49")
}

func TestAnOvalPrintIsNoCircle(t *testing.T) {
	_, round := design.Design{}.Print(shape.Shape{Kind: shape.Heart, Width: 80, Height: 80}).Circle()
	assert.False(t, round)
	_, round = design.Design{}.Print(shape.Shape{Kind: shape.Oval, Width: 80, Height: 60}).Circle()
	assert.False(t, round)
}

func TestDesignsThatCannotBe(t *testing.T) {
	handle := measure.Length(20)
	style := lettering.Usual()
	style.Least = 90
	for field, d := range map[string]design.Design{
		"follows": {Follows: "stars"}, "borderMm": {Border: 46}, "widthMm": {Follows: design.Ellipse, Height: 40}, "heightMm": {Follows: design.Rectangle, Width: 40},
		"placing.turn": {Placing: picture.Placing{Turn: 200}}, "cleanUp.light": {CleanUp: picture.CleanUp{Light: 200}}, "lettering.leastMm": {Lettering: &style},
		"hole.xMm": {Hole: &design.Hole{X: 1, Y: 45, Diameter: 4}}, "hole.yMm": {Hole: &design.Hole{X: 45, Y: 200, Diameter: 4}}, "hole.diameterMm": {Hole: &design.Hole{X: 45, Y: 45}},
		"handleMm": {Handle: &handle},
	} {
		assert.ErrorContains(t, d.Validate(slice), field)
	}
	assert.ErrorContains(t, design.Design{Border: measure.Length(math.NaN())}.Validate(slice), "borderMm")
	require.NoError(t, design.Design{Border: 3, Hole: &design.Hole{X: 45, Y: 6, Diameter: 4}}.Validate(slice))
	require.NoError(t, design.Design{Handle: &handle}.Validate(shape.Shape{Kind: shape.Cylinder, Diameter: 80, Height: 90}))
}

func TestAPrintIsMeasuredWithinItsOutline(t *testing.T) {
	// Black in a middle circle, white in the corners: the corners are not printed.
	src := image.NewRGBA(image.Rect(0, 0, 300, 300))
	for y := range 300 {
		for x := range 300 {
			c := color.RGBA{255, 255, 255, 255}
			if math.Hypot(float64(x)-149.5, float64(y)-149.5) < 150 {
				c = color.RGBA{0, 0, 0, 255}
			}
			src.SetRGBA(x, y, c)
		}
	}
	d := design.Design{}
	m := d.Measure(d.Print(slice), src)
	assert.InDelta(t, 1, m.Ink.Alone, 0.01)
	assert.Less(t, m.White, 0.01)
	square := design.Design{Follows: design.Rectangle, Width: 80, Height: 80}
	assert.InDelta(t, math.Pi/4, square.Measure(square.Print(slice), src).Ink.Alone, 0.01)
	d.CleanUp.Light = 100
	assert.InDelta(t, 0.5, d.Measure(d.Print(slice), src).Ink.Alone, 0.01)
}

func TestLetteringIsSetForAPiece(t *testing.T) {
	style := lettering.Usual()
	d := design.Design{Border: 3, Lettering: &style}
	set := d.Setter(d.Print(slice)).Set(style.For(lettering.Fields{Name: "Marit"}))
	assert.True(t, set.Fits)
	assert.NotEmpty(t, set.Outline)
	assert.Nil(t, design.Design{}.Setter(d.Print(slice)))
}
