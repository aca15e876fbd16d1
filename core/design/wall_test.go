package design_test

import (
	"image"
	"image/color"
	"math"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"tidykiln/core/design"
	"tidykiln/core/measure"
	"tidykiln/core/picture"
	"tidykiln/core/shape"
)

// stripes is a picture whose colour says how far right and how far down a place is.
func stripes(w, h int) *image.RGBA {
	img := image.NewRGBA(image.Rect(0, 0, w, h))
	for y := range h {
		for x := range w {
			img.SetRGBA(x, y, color.RGBA{uint8(x * 255 / w), uint8(y * 255 / h), 0, 255})
		}
	}
	return img
}

func TestAPictureGoesRoundATaperedWall(t *testing.T) {
	tumbler := shape.Shape{Kind: shape.Tapered, Diameter: 88, Foot: 60, Height: 150}
	d := design.Design{Border: 10, Seam: 6}
	require.NoError(t, d.Validate(tumbler))
	p := d.Print(tumbler)
	assert.True(t, p.Bent())
	w, h := p.Flat()
	assert.InDelta(t, math.Pi*88, w, 0.01)
	assert.InDelta(t, math.Hypot(150, 14)-20, h, 0.01)
	drawn := d.Draw(p, stripes(1400, int(math.Round(1400*h/w))), 100)
	assert.InDelta(t, p.Width/25.4*100, drawn.Rect.Dx(), 1)
	wall, _ := tumbler.Wall()
	sector := wall.Sector()
	for _, at := range [][2]float64{{0.1, 0.2}, {0.5, 0.5}, {0.9, 0.8}, {0.3, 0.9}} {
		x, y := sector.Place(at[0], at[1])
		c := drawn.RGBAAt(int((x-p.X)/25.4*100), int((y-p.Y)/25.4*100))
		down := (at[1] - 10/sector.Slant) / (1 - 20/sector.Slant)
		assert.InDelta(t, at[0]*255, float64(c.R), 6, "%v", at)
		assert.InDelta(t, down*255, float64(c.G), 6, "%v", at)
	}
	// What lies beyond a full turn is the beginning again.
	x, y := sector.Place(1.01, 0.5)
	assert.Less(t, drawn.RGBAAt(int((x-p.X)/25.4*100), int((y-p.Y)/25.4*100)).R, uint8(20))
	// The wall's own area, its rims and its seam reckoned with.
	assert.InEpsilon(t, math.Pi*(88+60)/2*h*(1+6/(math.Pi*88)), float64(p.Area()), 0.01)
}

func TestAStraightWallIsARectangle(t *testing.T) {
	candle := shape.Shape{Kind: shape.Cylinder, Diameter: 70, Height: 100}
	p := design.Design{Border: 5}.Print(candle)
	assert.False(t, p.Bent())
	assert.InDelta(t, math.Pi*70, p.Width, 0.01)
	assert.InDelta(t, 90, p.Height, 0.01)
	seamed := design.Design{Seam: 8}.Print(candle)
	assert.True(t, seamed.Bent())
	assert.InDelta(t, math.Pi*70+8, seamed.Width, 0.01)
	assert.InDelta(t, 300/(100/25.4)*1, design.Design{}.Ppi(design.Design{}.Print(candle), picture.Pixels{WidthPx: 3000, HeightPx: 300}), 1)
}

func TestSeamsThatCannotBe(t *testing.T) {
	assert.ErrorContains(t, design.Design{Seam: 5}.Validate(slice), "seamMm")
	assert.ErrorContains(t, design.Design{Seam: 500}.Validate(shape.Shape{Kind: shape.Cylinder, Diameter: 70, Height: 100}), "seamMm")
	assert.ErrorContains(t, design.Design{Border: 60}.Validate(shape.Shape{Kind: shape.Cylinder, Diameter: 70, Height: 100}), "borderMm")
}

func TestTheHandleAndThePlaceOppositeAreOnTheWall(t *testing.T) {
	handle := measure.Length(40)
	d := design.Design{Border: 10, Handle: &handle}
	straight := shape.Shape{Kind: shape.Cylinder, Diameter: 80, Height: 100}
	lines := d.Handles(straight)
	require.Len(t, lines, 2)
	assert.InDelta(t, 40, lines[0][0].X, 1e-9)
	assert.InDelta(t, 10, lines[0][0].Y, 1e-9)
	assert.InDelta(t, 90, lines[0][1].Y, 1e-9)
	assert.InDelta(t, 40+math.Pi*40, lines[1][0].X, 1e-9)

	tapered := shape.Shape{Kind: shape.Tapered, Diameter: 85, Foot: 68, Height: 120}
	for _, line := range d.Handles(tapered) {
		assert.InDelta(t, 120.3-20, math.Hypot(line[1].X-line[0].X, line[1].Y-line[0].Y), 0.1, "along the slant, between the rims")
	}
	assert.Greater(t, len(design.BlankOutline(tapered)), 4, "a band of a ring")
	assert.Len(t, d.Handles(slice), 0)
}

func TestHowFarBelowTheRimAPrintBegins(t *testing.T) {
	tumbler := shape.Shape{Kind: shape.Cylinder, Diameter: 80, Height: 170}
	for _, c := range []struct {
		design design.Design
		want   measure.Length
	}{
		{design.Design{Border: 12}, 12},
		{design.Design{Border: -2}, -2},
		{design.Design{Follows: design.Rectangle, Width: 110, Height: 110}, 30},
	} {
		gap, stands := c.design.RimGap(tumbler)
		assert.True(t, stands)
		assert.InDelta(t, float64(c.want), float64(gap), 1e-9)
	}
	_, stands := design.Design{Border: 3}.RimGap(slice)
	assert.False(t, stands)
	least, most := shape.BoxOf(design.Below(tumbler, 15))
	assert.InDelta(t, 15, least.Y, 1e-9)
	assert.InDelta(t, 170, most.Y, 1e-9)
	assert.Empty(t, design.Below(tumbler, 170))
	assert.Empty(t, design.Below(slice, 15))
}
