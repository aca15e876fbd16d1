// Package wrap lays the wall of a straight or tapered round piece flat: the
// template that a picture round a tumbler is cut to. A tapered wall is a part of
// a cone's, which unrolls to a ring's sector (docs/calculations.md §8). Lengths are in
// millimetres, angles in degrees.
package wrap

import (
	"math"

	"tidykiln/core/fault"
)

// Largest is the most that a diameter, a height or a seam may measure, in mm.
const Largest = 3000

// Wall is the wall of a round piece: its diameters at the top and at the bottom
// and its upright height (over 0, at most Largest), and the overlap at one edge
// of its template (from 0, less than the wall is round). All in mm.
type Wall struct {
	Top    float64
	Bottom float64
	Height float64
	Seam   float64
}

// Template is a wall laid flat, in mm and degrees, rounded half up to two
// decimals. The box is what the template fits in with its axis upright, the seam
// included. A straight wall is a rectangle and has no radii.
type Template struct {
	SlantMm       float64  `json:"slantMm"`
	OuterRadiusMm *float64 `json:"outerRadiusMm"`
	InnerRadiusMm *float64 `json:"innerRadiusMm"`
	AngleDeg      float64  `json:"angleDeg"`
	BoxWidthMm    float64  `json:"boxWidthMm"`
	BoxHeightMm   float64  `json:"boxHeightMm"`
}

// Compute lays a wall flat, or returns an error that names the measure at fault.
func Compute(w Wall) (Template, error) {
	if err := w.validate(); err != nil {
		return Template{}, err
	}
	box := w.box()
	t := Template{SlantMm: rounded(w.slant()), BoxWidthMm: rounded(box.right - box.left), BoxHeightMm: rounded(box.bottom - box.top)}
	if !w.straight() {
		outer, inner := rounded(w.outer()), rounded(w.inner())
		t.OuterRadiusMm, t.InnerRadiusMm = &outer, &inner
		t.AngleDeg = rounded(2 * w.half() * 180 / math.Pi)
	}
	return t, nil
}

func (w Wall) validate() error {
	for _, m := range []struct {
		name  string
		value float64
	}{{"top", w.Top}, {"bottom", w.Bottom}, {"height", w.Height}} {
		if !(m.value > 0 && m.value <= Largest) {
			return fault.At(m.name, "must be over 0 and at most %d mm", Largest)
		}
	}
	if !(w.Seam >= 0 && w.Seam < math.Pi*min(w.Top, w.Bottom)) {
		return fault.At("seam", "must be from 0 to less than the wall is round")
	}
	return nil
}

func (w Wall) straight() bool { return w.Top == w.Bottom }

// slant is the height along the wall.
func (w Wall) slant() float64 { return math.Hypot(w.Height, (w.Top-w.Bottom)/2) }

// outer and inner are the radii of the ring, from the point that the cone would end in.
func (w Wall) outer() float64 {
	return w.slant() * max(w.Top, w.Bottom) / math.Abs(w.Top-w.Bottom)
}
func (w Wall) inner() float64 { return w.outer() - w.slant() }

// half is half the sector's angle, in radians.
func (w Wall) half() float64 { return math.Pi * math.Abs(w.Top-w.Bottom) / (2 * w.slant()) }

// point is a place on the template: x to the right, y down, in mm; of a tapered wall from
// the ring's middle, with the wide edge up.
type point struct{ x, y float64 }

// onRing is the place at a radius and an angle, in radians to the right of the axis.
func onRing(radius, angle float64) point {
	return point{radius * math.Sin(angle), -radius * math.Cos(angle)}
}

// corners are the template's: wide left, wide right, narrow right, narrow left.
func (w Wall) corners() [4]point {
	if w.straight() {
		wide := math.Pi * w.Top
		return [4]point{{0, 0}, {wide, 0}, {wide, w.Height}, {0, w.Height}}
	}
	return [4]point{onRing(w.outer(), -w.half()), onRing(w.outer(), w.half()), onRing(w.inner(), w.half()), onRing(w.inner(), -w.half())}
}

// overlap are the seam's corners beyond the right edge: wide, then narrow.
func (w Wall) overlap() [2]point {
	c := w.corners()
	along := point{1, 0}
	if !w.straight() {
		along = point{math.Cos(w.half()), math.Sin(w.half())}
	}
	beyond := func(p point) point { return point{p.x + w.Seam*along.x, p.y + w.Seam*along.y} }
	return [2]point{beyond(c[1]), beyond(c[2])}
}

type box struct{ left, top, right, bottom float64 }

func (w Wall) box() box {
	c, o := w.corners(), w.overlap()
	b := box{left: math.Inf(1), top: math.Inf(1), right: math.Inf(-1), bottom: math.Inf(-1)}
	take := func(p point) {
		b = box{min(b.left, p.x), min(b.top, p.y), max(b.right, p.x), max(b.bottom, p.y)}
	}
	for _, p := range append(c[:], o[:]...) {
		take(p)
	}
	if w.straight() {
		return b
	}
	// The arc reaches beyond its corners: up always, to the sides past a half circle.
	take(onRing(w.outer(), 0))
	if w.half() > math.Pi/2 {
		take(onRing(w.outer(), math.Pi/2))
		take(onRing(w.outer(), -math.Pi/2))
	}
	return b
}

func rounded(v float64) float64 { return math.Floor(v*100+0.5) / 100 }
