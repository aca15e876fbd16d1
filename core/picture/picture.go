// Package picture measures pictures from their pixels: how much ink a print of one
// takes, how much of it is white, and how sharp it is at a size (docs/calculations.md §11).
package picture

import (
	"fmt"
	"image"
	"image/color"
	"math"
)

// Pixels are what a picture's pixels say. Shares are from 0 to 1, rounded to four
// decimals.
type Pixels struct {
	WidthPx  int `json:"widthPx"`
	HeightPx int `json:"heightPx"`
	Ink      Ink `json:"ink"`
	// White is the share of the area on which next to no ink lies: through a clear
	// film it shows what is under it.
	White float64 `json:"white"`
	// Tones are the shares of the area from dark to light, in sixteen steps.
	Tones [16]float64 `json:"tones" nullable:"false"`
	// Grey tells that there is no colour anywhere.
	Grey bool `json:"grey"`
}

// Ink is the share of the area that each ink covers: of the four that print
// colours, grey being left to black, and of black where it prints alone.
type Ink struct {
	Cyan    float64 `json:"cyan"`
	Magenta float64 `json:"magenta"`
	Yellow  float64 `json:"yellow"`
	Black   float64 `json:"black"`
	Alone   float64 `json:"alone"`
}

// Printed is what each ink of a printer covers: black alone where there is no colour.
func (i Ink) Printed(grey bool) Ink {
	if grey {
		return Ink{Black: i.Alone, Alone: i.Alone}
	}
	return i
}

// Together is what the four inks cover together.
func (i Ink) Together() float64 { return i.Cyan + i.Magenta + i.Yellow + i.Black }

const (
	// nearlyWhite is the least that all three of a white pixel's channels are.
	nearlyWhite = 245
	// nearlyGrey is how far the channels of a grey pixel may be apart.
	nearlyGrey = 6
)

// Measure measures an upright picture in sRGB; transparent parts count as white paper.
func Measure(img *image.RGBA) Pixels { return MeasureWithin(img, nil) }

// MeasureWithin measures the part of a picture that lies within a mask of its size, by
// half a pixel; all of it where there is none.
func MeasureWithin(img *image.RGBA, mask *image.Alpha) Pixels {
	b := img.Bounds()
	f := Pixels{WidthPx: b.Dx(), HeightPx: b.Dy(), Grey: true}
	var inks [5]uint64
	var tones [16]uint64
	var white, within uint64
	for y := b.Min.Y; y < b.Max.Y; y++ {
		row := img.Pix[img.PixOffset(b.Min.X, y):img.PixOffset(b.Max.X, y)]
		for i := 0; i+3 < len(row); i += 4 {
			if mask != nil && mask.Pix[(y-b.Min.Y)*mask.Stride+i/4] < 128 {
				continue
			}
			within++
			paper := 255 - row[i+3]
			r, g, bl := row[i]+paper, row[i+1]+paper, row[i+2]+paper
			c, m, ye, k := color.RGBToCMYK(r, g, bl)
			light := luma(r, g, bl)
			inks[0] += uint64(c)
			inks[1] += uint64(m)
			inks[2] += uint64(ye)
			inks[3] += uint64(k)
			inks[4] += uint64(255 - light)
			tones[light/16]++
			least, most := min(r, g, bl), max(r, g, bl)
			if least >= nearlyWhite {
				white++
			}
			if most-least > nearlyGrey {
				f.Grey = false
			}
		}
	}
	pixels := float64(within)
	if pixels == 0 {
		return f
	}
	share := func(n uint64, of float64) float64 { return math.Round(float64(n)/of*10000) / 10000 }
	f.Ink = Ink{share(inks[0], pixels*255), share(inks[1], pixels*255), share(inks[2], pixels*255), share(inks[3], pixels*255), share(inks[4], pixels*255)}
	f.White = share(white, pixels)
	for i, n := range tones {
		f.Tones[i] = share(n, pixels)
	}
	return f
}

// Grey is a picture without colour as one in greys; nil where there is colour.
func Grey(img *image.RGBA) *image.Gray {
	grey := image.NewGray(img.Rect)
	for y := range img.Rect.Dy() {
		for x := range img.Rect.Dx() {
			p := img.Pix[y*img.Stride+4*x:]
			if p[0] != p[1] || p[1] != p[2] {
				return nil
			}
			grey.Pix[y*grey.Stride+x] = p[0]
		}
	}
	return grey
}

// Flat tells whether a picture is drawn in areas of one colour, as by hand, and not
// shaded like a photo: most of its pixels are like their neighbours.
func Flat(img *image.RGBA) bool {
	same, pairs := 0, 0
	for y := range img.Rect.Dy() {
		row := img.Pix[y*img.Stride : y*img.Stride+4*img.Rect.Dx()]
		for i := 4; i+3 < len(row); i += 4 {
			pairs++
			if row[i] == row[i-4] && row[i+1] == row[i-3] && row[i+2] == row[i-2] {
				same++
			}
		}
	}
	return pairs > 0 && same*10 >= pairs*8
}

// luma is how light a colour looks, from 0 to 255 (Rec. 601).
func luma(r, g, b uint8) uint8 {
	return uint8((299*uint32(r) + 587*uint32(g) + 114*uint32(b) + 500) / 1000)
}

const mmPerInch = 25.4

// Ppi is how many pixels an inch a picture has when it covers width × height mm
// and what stands over is cut off; 0 where a size is not known.
func (f Pixels) Ppi(width, height float64) float64 {
	if !(width > 0 && height > 0) {
		return 0
	}
	return min(float64(f.WidthPx)/width, float64(f.HeightPx)/height) * mmPerInch
}

// Widest is how wide a picture may be printed whole, in mm, at so many pixels an inch.
func (f Pixels) Widest(ppi float64) float64 { return float64(f.WidthPx) / ppi * mmPerInch }

// Sharpness is how sharp a print looks at a size.
type Sharpness string

// The bands, by pixels an inch: Good from 300, Acceptable for a weathered look from
// 200, Coarse from 150; under that a print is refused unless somebody overrules it.
const (
	Good       Sharpness = "good"
	Acceptable Sharpness = "acceptable"
	Coarse     Sharpness = "coarse"
	Refused    Sharpness = "refused"
)

// SharpnessAt is the band of so many pixels an inch.
func SharpnessAt(ppi float64) Sharpness {
	switch {
	case ppi >= 300:
		return Good
	case ppi >= 200:
		return Acceptable
	case ppi >= 150:
		return Coarse
	}
	return Refused
}

// Bound is an error where a picture of so many pixels is more than is taken in.
func Bound(width, height int) error {
	if width < 1 || height < 1 {
		return fmt.Errorf("it has no pixels")
	}
	if width > MostSide || height > MostSide || width*height > MostPixels {
		return fmt.Errorf("it is said to be %d × %d pixels; at most %d million, and %d on a side, can be worked with", width, height, MostPixels/1_000_000, MostSide)
	}
	return nil
}

// Limits of a picture that is taken in.
const (
	MostPixels = 80_000_000
	MostSide   = 20_000
)
