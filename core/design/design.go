// Package design says how a picture and its lettering lie on a blank: the outline of the
// print, and what is in it. Lengths are in millimetres, from the top left corner of the
// box of the blank's outline, x to the right and y down, as people see the blank.
package design

import (
	"image"
	"math"

	"golang.org/x/image/vector"

	"tidykiln/core/fault"
	"tidykiln/core/lettering"
	"tidykiln/core/measure"
	"tidykiln/core/picture"
	"tidykiln/core/shape"
)

// Follows is what the outline of a print follows.
type Follows string

const (
	// Blank is the outline of the blank, Border inside it.
	Blank Follows = "blank"
	// Rectangle and Ellipse have a size of their own, in the middle of the blank.
	Rectangle Follows = "rectangle"
	Ellipse   Follows = "ellipse"
)

// Design is how a product's picture lies on its blank.
type Design struct {
	Follows Follows `json:"follows,omitempty" enum:"blank,rectangle,ellipse"`
	// Border is what stays free inside the blank's outline; less than nothing is a bleed
	// over it, to be cut or sanded back.
	Border measure.Length `json:"borderMm,omitempty" minimum:"-20" maximum:"200"`
	// Width and Height are of a Rectangle or an Ellipse.
	Width  measure.Length `json:"widthMm,omitempty" minimum:"0" maximum:"3000"`
	Height measure.Length `json:"heightMm,omitempty" minimum:"0" maximum:"3000"`
	// Seam is how far the print of a wall goes on over its own beginning.
	Seam measure.Length `json:"seamMm,omitempty" minimum:"0" maximum:"100"`
	// Placing says how the picture lies in the print.
	Placing picture.Placing `json:"placing"`
	CleanUp picture.CleanUp `json:"cleanUp"`
	// Lettering is nil where none is printed.
	Lettering *lettering.Style `json:"lettering,omitempty"`
	// Hole is where the blank is drilled; nil without one.
	Hole *Hole `json:"hole,omitempty"`
	// Handle is how far along a wall, from the left end of its print, the handle is; nil
	// where nobody has said.
	Handle *measure.Length `json:"handleMm,omitempty"`
}

// Hole is a hole in a blank.
type Hole struct {
	X        float64 `json:"xMm" minimum:"0" maximum:"3000"`
	Y        float64 `json:"yMm" minimum:"0" maximum:"3000"`
	Diameter float64 `json:"diameterMm" minimum:"0.5" maximum:"100"`
}

// Limits of the free rim, in mm.
const (
	mostBleed  = 20
	mostBorder = 200
	mostSeam   = 100
)

// Validate reports the first field that no design of a blank can have, by its path.
func (d Design) Validate(s shape.Shape) error {
	switch {
	case d.Follows != "" && d.Follows != Blank && d.Follows != Rectangle && d.Follows != Ellipse:
		return fault.At("follows", "%q is not known here", d.Follows)
	case !(d.Border >= -mostBleed && d.Border <= mostBorder):
		return fault.At("borderMm", "must be from a bleed of %d mm to a border of %d mm", mostBleed, mostBorder)
	case !(d.Seam >= 0 && d.Seam <= mostSeam) || d.Seam > 0 && (!s.Upright() || d.sized()):
		return fault.At("seamMm", "must be from 0 to %d mm, on a print that goes round", mostSeam)
	case d.sized() && !(d.Width >= shape.Smallest && d.Width <= shape.Largest):
		return fault.At("widthMm", "must be from %s to %s", shape.Smallest.Format(measure.Metric), shape.Largest.Format(measure.Metric))
	case d.sized() && !(d.Height >= shape.Smallest && d.Height <= shape.Largest):
		return fault.At("heightMm", "must be from %s to %s", shape.Smallest.Format(measure.Metric), shape.Largest.Format(measure.Metric))
	}
	if err := d.Placing.Validate(); err != nil {
		return fault.Under("placing", err)
	}
	if err := d.CleanUp.Validate(); err != nil {
		return fault.Under("cleanUp", err)
	}
	if d.Lettering != nil {
		if err := d.Lettering.Validate(); err != nil {
			return fault.Under("lettering", err)
		}
	}
	if len(d.Outline(s)) == 0 {
		return fault.At("borderMm", "nothing of the blank is left inside so wide a border")
	}
	return d.validateMarks(s)
}

func (d Design) validateMarks(s shape.Shape) error {
	w, h := s.Box()
	if d.Hole != nil {
		r := d.Hole.Diameter / 2
		if !(r > 0 && r <= 50) {
			return fault.At("hole.diameterMm", "must be from 0.5 to 100 mm")
		}
		if !(d.Hole.X-r >= 0 && d.Hole.X+r <= float64(w)) {
			return fault.At("hole.xMm", "the hole is not on the blank")
		}
		if !(d.Hole.Y-r >= 0 && d.Hole.Y+r <= float64(h)) {
			return fault.At("hole.yMm", "the hole is not on the blank")
		}
	}
	if d.Handle != nil && (!s.Upright() || !(*d.Handle >= 0 && *d.Handle <= w)) {
		return fault.At("handleMm", "must be along the wall of something that stands")
	}
	return nil
}

// sized tells that the print has a size of its own.
func (d Design) sized() bool { return d.Follows == Rectangle || d.Follows == Ellipse }

// Outline is the outline of the print on its blank, clockwise as people see it; empty
// where the border leaves nothing.
func (d Design) Outline(s shape.Shape) []shape.Point {
	if w, stands := s.Wall(); stands && !d.sized() {
		return d.band(w)
	}
	if !d.sized() {
		return s.Inset(d.Border)
	}
	w, h := s.Box()
	own := shape.Shape{Kind: shape.Rectangle, Width: d.Width, Height: d.Height}
	if d.Follows == Ellipse {
		own.Kind = shape.Oval
	}
	outline := own.Outline()
	for i := range outline {
		outline[i].X += float64(w-d.Width) / 2
		outline[i].Y += float64(h-d.Height) / 2
	}
	return outline
}

// Print is a print cut out of its blank's plane: its outline from the corner of its own
// box of Width × Height mm, which lies at X and Y of the blank's.
type Print struct {
	Outline       []shape.Point
	X, Y          float64
	Width, Height float64
	// bend is set where the print goes round a wall.
	bend *bend
}

// Print is the print of a design.
func (d Design) Print(s shape.Shape) Print {
	outline := d.Outline(s)
	least, most := shape.BoxOf(outline)
	p := Print{X: least.X, Y: least.Y, Width: most.X - least.X, Height: most.Y - least.Y, Outline: make([]shape.Point, len(outline))}
	for i, o := range outline {
		p.Outline[i] = shape.Point{X: o.X - least.X, Y: o.Y - least.Y}
	}
	if w, stands := s.Wall(); stands && !d.sized() {
		p.bend = d.bend(w)
	}
	return p
}

// Circle tells whether the print is a circle, and how wide.
func (p Print) Circle() (diameter float64, is bool) {
	if math.Abs(p.Width-p.Height) > 0.02 || len(p.Outline) < 16 {
		return 0, false
	}
	d := (p.Width + p.Height) / 2
	for _, o := range p.Outline {
		if math.Abs(math.Hypot(o.X-p.Width/2, o.Y-p.Height/2)-d/2) > 0.05 {
			return 0, false
		}
	}
	return d, true
}

// Area is what the print covers.
func (p Print) Area() measure.Area { return shape.AreaOf(p.Outline) }

// Setter sets the print's lettering, from the corner of its box; nil without any.
func (d Design) Setter(p Print) *lettering.Setter {
	if d.Lettering == nil {
		return nil
	}
	return d.Lettering.On(p.Outline)
}

// measuredAt is at how many pixels an inch a print is drawn to be measured.
const measuredAt = 75

// Measure is what the pixels of a print say, its picture placed, cleaned up and cut to
// its outline; the size in pixels is not that of a print on paper.
func (d Design) Measure(p Print, src image.Image) picture.Pixels {
	drawn := d.Draw(p, src, measuredAt)
	mask := image.NewAlpha(drawn.Rect)
	r := vector.NewRasterizer(drawn.Rect.Dx(), drawn.Rect.Dy())
	sx, sy := float64(drawn.Rect.Dx())/p.Width, float64(drawn.Rect.Dy())/p.Height
	for i, o := range p.Outline {
		x, y := float32(o.X*sx), float32(o.Y*sy)
		if i == 0 {
			r.MoveTo(x, y)
		} else {
			r.LineTo(x, y)
		}
	}
	r.ClosePath()
	r.Draw(mask, mask.Rect, image.Opaque, image.Point{})
	return picture.MeasureWithin(drawn, mask)
}
