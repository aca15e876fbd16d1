package picture

import (
	"image"
	"image/color"
	"math"

	"golang.org/x/image/draw"
	"golang.org/x/image/math/f64"

	"tidykiln/core/fault"
)

// Fit is how large a picture is before it is zoomed.
type Fit string

const (
	// Fill: the print is covered whole, and what stands over is cut off.
	Fill Fit = "fill"
	// Whole: all of the picture is in the print, and paper may show beside it.
	Whole Fit = "whole"
)

// Placing says how a picture lies in the box of its print. The zero value fills the
// box with the picture's middle in its middle.
type Placing struct {
	Fit Fit `json:"fit,omitempty" enum:"fill,whole"`
	// Zoom enlarges from what Fit comes to; 0 is 1.
	Zoom float64 `json:"zoom,omitempty" minimum:"0" maximum:"20"`
	// Turn is in degrees, clockwise.
	Turn float64 `json:"turn,omitempty" minimum:"-180" maximum:"180"`
	// X and Y move the picture's middle right and down from the box's, in mm.
	X float64 `json:"xMm,omitempty" minimum:"-6000" maximum:"6000"`
	Y float64 `json:"yMm,omitempty" minimum:"-6000" maximum:"6000"`
}

// Limits of a placing.
const (
	LeastZoom    = 0.05
	MostZoom     = 20
	furthestMove = 6000
)

// Validate reports the first field that no placing can have, by its name.
func (p Placing) Validate() error {
	switch {
	case p.Fit != "" && p.Fit != Fill && p.Fit != Whole:
		return fault.At("fit", "%q is not known here", p.Fit)
	case p.Zoom != 0 && !(p.Zoom >= LeastZoom && p.Zoom <= MostZoom):
		return fault.At("zoom", "must be from %g to %d", LeastZoom, MostZoom)
	case !(math.Abs(p.Turn) <= 180):
		return fault.At("turn", "must be from -180 to 180 degrees")
	case !(math.Abs(p.X) <= furthestMove):
		return fault.At("xMm", "must be from -%d to %[1]d mm", furthestMove)
	case !(math.Abs(p.Y) <= furthestMove):
		return fault.At("yMm", "must be from -%d to %[1]d mm", furthestMove)
	}
	return nil
}

// MmPerPx is how wide one of the picture's pixels is in a print of width × height mm.
// A turned picture is larger where it fills and smaller where all of it is in.
func (p Placing) MmPerPx(px Pixels, width, height float64) float64 {
	if px.WidthPx == 0 || px.HeightPx == 0 {
		return 0
	}
	pw, ph := float64(px.WidthPx), float64(px.HeightPx)
	sin, cos := turned(p.Turn)
	sin, cos = math.Abs(sin), math.Abs(cos)
	scale := max((width*cos+height*sin)/pw, (width*sin+height*cos)/ph)
	if p.Fit == Whole {
		scale = min(width/(pw*cos+ph*sin), height/(pw*sin+ph*cos))
	}
	if p.Zoom > 0 {
		scale *= p.Zoom
	}
	return scale
}

// turned is the sine and cosine of degrees; those of right angles are exact.
func turned(degrees float64) (sin, cos float64) {
	switch degrees {
	case 0:
		return 0, 1
	case 90:
		return 1, 0
	case -90:
		return -1, 0
	case 180, -180:
		return 0, -1
	}
	return math.Sincos(degrees * math.Pi / 180)
}

// Ppi is how many of the picture's pixels lie on an inch of the print; 0 where a size
// is not known.
func (p Placing) Ppi(px Pixels, width, height float64) float64 {
	if !(width > 0 && height > 0) || px.WidthPx == 0 {
		return 0
	}
	return mmPerInch / p.MmPerPx(px, width, height)
}

// Covers tells whether no paper shows in a print of width × height mm.
func (p Placing) Covers(px Pixels, width, height float64) bool {
	scale := p.MmPerPx(px, width, height)
	sin, cos := turned(p.Turn)
	halfW, halfH := float64(px.WidthPx)*scale/2+hair, float64(px.HeightPx)*scale/2+hair
	for _, c := range [4][2]float64{{-1, -1}, {1, -1}, {1, 1}, {-1, 1}} {
		x, y := c[0]*width/2-p.X, c[1]*height/2-p.Y
		if math.Abs(x*cos+y*sin) > halfW || math.Abs(y*cos-x*sin) > halfH {
			return false
		}
	}
	return true
}

// hair is what paper may show without anybody seeing it, in mm.
const hair = 0.02

// Print draws the box of a print, of width × height mm, from an upright picture, at so
// many pixels an inch. It is scaled once; paper shows white.
func (p Placing) Print(src image.Image, clean CleanUp, width, height, ppi float64) *image.RGBA {
	out := image.NewRGBA(image.Rect(0, 0, pixelsOf(width, ppi), pixelsOf(height, ppi)))
	draw.Draw(out, out.Bounds(), image.NewUniform(color.White), image.Point{}, draw.Src)
	b := src.Bounds()
	scale := p.MmPerPx(Pixels{WidthPx: b.Dx(), HeightPx: b.Dy()}, width, height) * ppi / mmPerInch
	if scale == 0 {
		return out
	}
	cx, cy := float64(out.Rect.Dx())/2+p.X*ppi/mmPerInch, float64(out.Rect.Dy())/2+p.Y*ppi/mmPerInch
	sin, cos := turned(p.Turn)
	part := shownPart(b, out.Rect, scale, cx, cy, sin, cos)
	if part.Empty() {
		return out
	}
	scaled := image.NewRGBA(image.Rect(0, 0, max(1, round(float64(part.Dx())*scale)), max(1, round(float64(part.Dy())*scale))))
	kernel(scale).Scale(scaled, scaled.Rect, src, part, draw.Src, nil)
	clean.apply(scaled, scale*float64(max(b.Dx(), b.Dy())))
	// From the scaled part to the print: its own middle, seen from the picture's.
	mx := (float64(part.Min.X+part.Max.X)/2 - float64(b.Min.X+b.Max.X)/2) * scale
	my := (float64(part.Min.Y+part.Max.Y)/2 - float64(b.Min.Y+b.Max.Y)/2) * scale
	x, y := cx+mx*cos-my*sin, cy+mx*sin+my*cos
	if sin == 0 && cos == 1 {
		at := image.Pt(round(x-float64(scaled.Rect.Dx())/2), round(y-float64(scaled.Rect.Dy())/2))
		draw.Draw(out, scaled.Rect.Add(at), scaled, image.Point{}, draw.Over)
		return out
	}
	hw, hh := float64(scaled.Rect.Dx())/2, float64(scaled.Rect.Dy())/2
	draw.CatmullRom.Transform(out, f64.Aff3{cos, -sin, x - hw*cos + hh*sin, sin, cos, y - hw*sin - hh*cos}, scaled, scaled.Rect, draw.Over, nil)
	return out
}

// kernel is what a picture is scaled by: far down, where many pixels come into one, a
// triangle is as good as a cubic and takes half the time.
func kernel(scale float64) *draw.Kernel {
	if scale < 0.5 {
		return draw.BiLinear
	}
	return draw.CatmullRom
}

// shownPart is the part of a picture that can be seen in a print, a little over.
func shownPart(b, out image.Rectangle, scale, cx, cy, sin, cos float64) image.Rectangle {
	least, most := [2]float64{math.Inf(1), math.Inf(1)}, [2]float64{math.Inf(-1), math.Inf(-1)}
	for _, c := range [4][2]float64{{0, 0}, {1, 0}, {1, 1}, {0, 1}} {
		x, y := c[0]*float64(out.Dx())-cx, c[1]*float64(out.Dy())-cy
		at := [2]float64{(x*cos+y*sin)/scale + float64(b.Min.X+b.Max.X)/2, (y*cos-x*sin)/scale + float64(b.Min.Y+b.Max.Y)/2}
		for i := range at {
			least[i], most[i] = min(least[i], at[i]), max(most[i], at[i])
		}
	}
	over := 3 + 3/scale // what the filter reads beside
	return image.Rect(
		int(max(float64(b.Min.X), math.Floor(least[0]-over))), int(max(float64(b.Min.Y), math.Floor(least[1]-over))),
		int(min(float64(b.Max.X), math.Ceil(most[0]+over))), int(min(float64(b.Max.Y), math.Ceil(most[1]+over))))
}

func pixelsOf(mm, ppi float64) int { return max(1, round(mm/mmPerInch*ppi)) }

func round(v float64) int { return int(math.Round(v)) }
