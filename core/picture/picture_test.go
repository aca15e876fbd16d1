package picture_test

import (
	"image"
	"image/color"
	"image/draw"
	"testing"

	"github.com/stretchr/testify/assert"
	"pgregory.net/rapid"

	"tidykiln/core/picture"
)

// painted is a picture of so many columns of each colour, ten rows high.
func painted(columns int, colours ...color.Color) *image.RGBA {
	img := image.NewRGBA(image.Rect(0, 0, columns*len(colours), 10))
	for i, c := range colours {
		draw.Draw(img, image.Rect(i*columns, 0, (i+1)*columns, 10), image.NewUniform(c), image.Point{}, draw.Src)
	}
	return img
}

func TestInkIsMeasuredFromThePixels(t *testing.T) {
	white, black := color.White, color.Black
	for name, c := range map[string]struct {
		img   *image.RGBA
		ink   picture.Ink
		white float64
		grey  bool
	}{
		"white paper":        {painted(4, white), picture.Ink{}, 1, true},
		"all black":          {painted(4, black), picture.Ink{Black: 1, Alone: 1}, 0, true},
		"a quarter black":    {painted(2, black, white, white, white), picture.Ink{Black: 0.25, Alone: 0.25}, 0.75, true},
		"half red":           {painted(5, color.RGBA{255, 0, 0, 255}, white), picture.Ink{Magenta: 0.5, Yellow: 0.5, Alone: 0.351}, 0.5, false},
		"a quarter cyan":     {painted(5, color.RGBA{0, 255, 255, 255}, white, white, white), picture.Ink{Cyan: 0.25, Alone: 0.0745}, 0.75, false},
		"middle grey":        {painted(5, color.Gray{128}), picture.Ink{Black: 0.498, Alone: 0.498}, 0, true},
		"transparent":        {painted(5, color.Transparent), picture.Ink{}, 1, true},
		"black half through": {painted(5, color.NRGBA{0, 0, 0, 128}), picture.Ink{Black: 0.502, Alone: 0.502}, 0, true},
		"an old paper":       {painted(5, color.RGBA{240, 238, 236, 255}), picture.Ink{Magenta: 0.0078, Yellow: 0.0157, Black: 0.0588, Alone: 0.0667}, 0, true},
	} {
		t.Run(name, func(t *testing.T) {
			f := picture.Measure(c.img)
			assert.Equal(t, c.ink, f.Ink)
			assert.Equal(t, c.white, f.White)
			assert.Equal(t, c.grey, f.Grey)
		})
	}
}

func TestTonesGoFromDarkToLight(t *testing.T) {
	f := picture.Measure(painted(2, color.Black, color.Gray{100}, color.White, color.White))
	assert.Equal(t, 0.25, f.Tones[0])
	assert.Equal(t, 0.25, f.Tones[100/16])
	assert.Equal(t, 0.5, f.Tones[15])
	assert.Equal(t, picture.Pixels{Grey: true}, picture.Measure(image.NewRGBA(image.Rect(0, 0, 0, 0))))
}

// Whatever the pixels, a part of a picture counts by its share of the whole.
func TestThePartsMakeTheWhole(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		img := image.NewRGBA(image.Rect(3, 5, 3+2*rapid.IntRange(1, 9).Draw(t, "half"), 5+rapid.IntRange(1, 9).Draw(t, "height")))
		for i := range img.Pix {
			img.Pix[i] = rapid.Byte().Draw(t, "value")
			if i%4 == 3 {
				img.Pix[i] = 255
			}
		}
		b := img.Bounds()
		middle := (b.Min.X + b.Max.X) / 2
		part := func(from, to int) picture.Pixels {
			return picture.Measure(img.SubImage(image.Rect(from, b.Min.Y, to, b.Max.Y)).(*image.RGBA))
		}
		whole, left, right := picture.Measure(img), part(b.Min.X, middle), part(middle, b.Max.X)
		assert.InDelta(t, (left.Ink.Cyan+right.Ink.Cyan)/2, whole.Ink.Cyan, 1e-4)
		assert.InDelta(t, (left.Ink.Alone+right.Ink.Alone)/2, whole.Ink.Alone, 1e-4)
		assert.InDelta(t, (left.White+right.White)/2, whole.White, 1e-4)
		sum := 0.0
		for _, tone := range whole.Tones {
			sum += tone
		}
		assert.InDelta(t, 1, sum, 1e-3)
	})
}

func TestSharpnessAtASize(t *testing.T) {
	f := picture.Pixels{WidthPx: 1200, HeightPx: 1000}
	assert.InDelta(t, 254, f.Ppi(100, 100), 1e-9, "the height is what there is less of")
	assert.InDelta(t, 304.8, f.Ppi(100, 80), 1e-9)
	assert.Zero(t, f.Ppi(0, 80))
	assert.InDelta(t, 101.6, f.Widest(300), 1e-9)
	for ppi, band := range map[float64]picture.Sharpness{300: picture.Good, 299.9: picture.Acceptable, 200: picture.Acceptable, 199: picture.Coarse, 150: picture.Coarse, 149: picture.Refused, 0: picture.Refused} {
		assert.Equal(t, band, picture.SharpnessAt(ppi), "%g", ppi)
	}
}

func TestNoPictureIsTooLargeUnsaid(t *testing.T) {
	assert.NoError(t, picture.Bound(9000, 6000))
	assert.ErrorContains(t, picture.Bound(100_000, 100_000), "100000 × 100000")
	assert.Error(t, picture.Bound(20_001, 1))
	assert.Error(t, picture.Bound(0, 5))
	assert.Error(t, picture.Bound(10_000, 8_001))
}
