package picture

import (
	"image"
	"image/color"
	"math"
	"testing"

	"github.com/stretchr/testify/assert"
	"pgregory.net/rapid"
)

// quarters is a picture with a colour in each quarter.
func quarters(w, h int) *image.RGBA {
	img := image.NewRGBA(image.Rect(0, 0, w, h))
	for y := range h {
		for x := range w {
			c := color.RGBA{200, 0, 0, 255}
			switch {
			case x >= w/2 && y < h/2:
				c = color.RGBA{0, 200, 0, 255}
			case x < w/2 && y >= h/2:
				c = color.RGBA{0, 0, 200, 255}
			case x >= w/2:
				c = color.RGBA{0, 0, 0, 255}
			}
			img.SetRGBA(x, y, c)
		}
	}
	return img
}

func TestAPictureLiesWhereItIsPlaced(t *testing.T) {
	src := quarters(600, 400)
	red, green, blue, black, paper := color.RGBA{200, 0, 0, 255}, color.RGBA{0, 200, 0, 255}, color.RGBA{0, 0, 200, 255}, color.RGBA{0, 0, 0, 255}, color.RGBA{255, 255, 255, 255}
	for name, c := range map[string]struct {
		placing Placing
		// corners are the colours seen 4 mm from each corner, clockwise from top left.
		corners [4]color.RGBA
	}{
		"filling":         {Placing{}, [4]color.RGBA{red, green, black, blue}},
		"a quarter turn":  {Placing{Turn: 90}, [4]color.RGBA{blue, red, green, black}},
		"and back":        {Placing{Turn: -90}, [4]color.RGBA{green, black, blue, red}},
		"upside down":     {Placing{Turn: 180}, [4]color.RGBA{black, blue, red, green}},
		"straightened":    {Placing{Turn: 5}, [4]color.RGBA{red, green, black, blue}},
		"moved right":     {Placing{X: 40}, [4]color.RGBA{paper, red, blue, paper}},
		"moved far down":  {Placing{Y: 90}, [4]color.RGBA{paper, paper, paper, paper}},
		"all of it in":    {Placing{Fit: Whole}, [4]color.RGBA{paper, paper, paper, paper}},
		"zoomed to black": {Placing{Zoom: 3, X: -60, Y: -60}, [4]color.RGBA{black, black, black, black}},
	} {
		t.Run(name, func(t *testing.T) {
			out := c.placing.Print(src, CleanUp{}, 60, 60, 100)
			assert.Equal(t, 236, out.Rect.Dx())
			n := out.Rect.Dx()
			d := 16
			for i, at := range []image.Point{{d, d}, {n - d, d}, {n - d, n - d}, {d, n - d}} {
				assert.Equal(t, c.corners[i], out.RGBAAt(at.X, at.Y), "corner %d", i)
			}
		})
	}
}

func TestSharpnessIsThatOfThePlacedPicture(t *testing.T) {
	px := Pixels{WidthPx: 1200, HeightPx: 900}
	assert.InDelta(t, 900/(90/25.4), Placing{}.Ppi(px, 90, 90), 1e-9)
	assert.InDelta(t, 450/(90/25.4), Placing{Zoom: 2}.Ppi(px, 90, 90), 1e-9)
	assert.InDelta(t, 1200/(90/25.4), Placing{Fit: Whole}.Ppi(px, 90, 90), 1e-9)
	assert.Zero(t, Placing{}.Ppi(px, 0, 90))
	assert.Zero(t, Placing{}.Ppi(Pixels{}, 90, 90))
}

func TestAFillingPictureLeavesNoPaper(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		px := Pixels{WidthPx: rapid.IntRange(1, 5000).Draw(t, "w"), HeightPx: rapid.IntRange(1, 5000).Draw(t, "h")}
		w, h := rapid.Float64Range(5, 400).Draw(t, "width"), rapid.Float64Range(5, 400).Draw(t, "height")
		turn := rapid.Float64Range(-180, 180).Draw(t, "turn")
		p := Placing{Turn: turn}
		assert.True(t, p.Covers(px, w, h))
		assert.True(t, Placing{Turn: turn, Zoom: 1.5}.Covers(px, w, h))
		assert.False(t, Placing{Turn: turn, Zoom: 0.9}.Covers(px, w, h))
		scale := p.MmPerPx(px, w, h)
		assert.False(t, Placing{Turn: turn, X: float64(px.WidthPx)*scale + float64(px.HeightPx)*scale + w + h}.Covers(px, w, h))
		whole := Placing{Fit: Whole, Turn: turn}.MmPerPx(px, w, h)
		assert.LessOrEqual(t, whole, scale*(1+1e-9))
	})
}

func TestPrintsOfAnySizeAndPlaceAreDrawn(t *testing.T) {
	src := quarters(37, 23)
	rapid.Check(t, func(t *rapid.T) {
		p := Placing{Zoom: rapid.Float64Range(0.05, 20).Draw(t, "zoom"), Turn: rapid.Float64Range(-180, 180).Draw(t, "turn"),
			X: rapid.Float64Range(-300, 300).Draw(t, "x"), Y: rapid.Float64Range(-300, 300).Draw(t, "y")}
		assert.NoError(t, p.Validate())
		out := p.Print(src, CleanUp{}, rapid.Float64Range(5, 60).Draw(t, "w"), rapid.Float64Range(5, 60).Draw(t, "h"), 60)
		for i := 3; i < len(out.Pix); i += 4 {
			if out.Pix[i] != 255 {
				t.Fatal("a print is paper or ink everywhere")
			}
		}
	})
}

func TestPlacingsThatCannotBe(t *testing.T) {
	for field, p := range map[string]Placing{
		"fit": {Fit: "stretch"}, "zoom": {Zoom: math.NaN()}, "turn": {Turn: 181}, "xMm": {X: math.Inf(1)}, "yMm": {Y: -7000},
	} {
		assert.ErrorContains(t, p.Validate(), field)
	}
	assert.ErrorContains(t, Placing{Zoom: 0.01}.Validate(), "zoom")
	assert.NoError(t, Placing{}.Validate())
}

func TestCleaningUp(t *testing.T) {
	shade := func(v ...uint8) *image.RGBA {
		img := image.NewRGBA(image.Rect(0, 0, len(v), 1))
		for i, x := range v {
			img.SetRGBA(i, 0, color.RGBA{x, x, x, 255})
		}
		return img
	}
	of := func(c CleanUp, img *image.RGBA) (v []int) {
		c.Apply(img)
		for i := 0; i < len(img.Pix); i += 4 {
			v = append(v, int(img.Pix[i]))
		}
		return v
	}
	assert.Equal(t, []int{0, 100, 255}, of(CleanUp{}, shade(0, 100, 255)), "nothing asked, nothing done")
	assert.Equal(t, []int{64, 191, 255}, of(CleanUp{Light: 50}, shade(0, 127, 255)))
	contrast := of(CleanUp{Contrast: 40}, shade(20, 100, 155, 235))
	assert.Less(t, contrast[1], 100)
	assert.Greater(t, contrast[2], 155)
	assert.Equal(t, []int{0, 255}, []int{contrast[0], contrast[3]})
	assert.Equal(t, []int{229, 255, 255}, of(CleanUp{NearlyWhite: 25}, shade(229, 230, 255)))
	assert.Equal(t, []int{0, 0, 255, 255}, of(CleanUp{Colours: BlackOnly}, shade(10, 110, 141, 250)))
	assert.Equal(t, []int{0, 255, 255, 255}, of(CleanUp{Colours: BlackOnly, Threshold: 60}, shade(10, 110, 141, 250)))

	red := image.NewRGBA(image.Rect(0, 0, 1, 1))
	red.SetRGBA(0, 0, color.RGBA{255, 0, 0, 255})
	CleanUp{Colours: Greys}.Apply(red)
	assert.Equal(t, color.RGBA{76, 76, 76, 255}, red.RGBAAt(0, 0))
	assert.True(t, Measure(red).Grey)
}

func TestALineDrawingComesOutOfAShadowedScan(t *testing.T) {
	// Paper from a bright edge to a dark one, with pencil lines that are lighter at the
	// bright edge than the paper at the dark one.
	scan := image.NewRGBA(image.Rect(0, 0, 400, 200))
	for y := range 200 {
		for x := range 400 {
			v := 240 - float64(x)*0.4
			if x%40 < 3 {
				v *= 0.55
			}
			scan.SetRGBA(x, y, color.RGBA{uint8(v), uint8(v), uint8(v), 255})
		}
	}
	CleanUp{Colours: Lines}.Apply(scan)
	for x := 40; x < 400; x += 40 {
		assert.EqualValues(t, 0, scan.RGBAAt(x+1, 100).R, "the line at %d", x)
		assert.EqualValues(t, 255, scan.RGBAAt(x+20, 100).R, "the paper at %d", x+20)
	}
}

func TestCleanUpsThatCannotBe(t *testing.T) {
	for field, c := range map[string]CleanUp{
		"colours": {Colours: "sepia"}, "threshold": {Threshold: 255}, "light": {Light: 101}, "contrast": {Contrast: -101}, "nearlyWhite": {NearlyWhite: 81},
	} {
		assert.ErrorContains(t, c.Validate(), field)
	}
}
