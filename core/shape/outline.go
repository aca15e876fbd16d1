package shape

import (
	"math"

	"tidykiln/core/measure"
)

// Point is a place on a face, in mm from the top left corner of the outline's box.
type Point struct{ X, Y float64 }

// chords is how many straight pieces a curve is drawn in: a circle of 300 mm is off by
// less than 0.01 mm.
const chords = 360

// Outline is the outline of the printed face as a closed polygon, in mm, clockwise as
// it is seen: curves in pieces so short that no print shows them. A wall laid flat is
// the rectangle of its box.
func (s Shape) Outline() []Point {
	width, height := s.Box()
	w, h := float64(width), float64(height)
	switch s.Kind {
	case Disc, Oval:
		return arc(nil, w/2, h/2, w/2, h/2, 0, 2*math.Pi, chords)
	case Arch:
		// A half circle as wide as the arch, on upright sides.
		return append(arc(nil, w/2, w/2, w/2, w/2, math.Pi, 2*math.Pi, chords/2), Point{w, h}, Point{0, h})
	case Heart:
		return heart(w, h)
	case Own:
		// A path that cannot be read outlines nothing; Validate says what is wrong with it.
		o, _ := s.Path.polygon(s.Width, s.Height)
		return o
	case Rectangle:
		if s.Corner > 0 {
			return rounded(w, h, float64(s.Corner))
		}
	}
	return []Point{{0, 0}, {w, 0}, {w, h}, {0, h}}
}

// arc adds the points of an arc of an ellipse round (cx, cy), angles clockwise from
// the right; its end is left to what follows.
func arc(to []Point, cx, cy, rx, ry, from, until float64, pieces int) []Point {
	for i := range pieces {
		a := from + (until-from)*float64(i)/float64(pieces)
		to = append(to, Point{cx + rx*math.Cos(a), cy + ry*math.Sin(a)})
	}
	return to
}

func rounded(w, h, r float64) (o []Point) {
	o = arc(o, w-r, r, r, r, -math.Pi/2, 0, chords/4)
	o = arc(o, w-r, h-r, r, r, 0, math.Pi/2, chords/4)
	o = arc(o, r, h-r, r, r, math.Pi/2, math.Pi, chords/4)
	return arc(o, r, r, r, r, math.Pi, 3*math.Pi/2, chords/4)
}

// heart is two lobes over a point, in Bézier curves, stretched to its box.
func heart(w, h float64) (o []Point) {
	// From the notch over the right lobe to the point below, and back on the left.
	right := [2][4]Point{
		{{0.5, 0.2}, {0.62, -0.0667}, {1, -0.0667}, {1, 0.3}},
		{{1, 0.3}, {1, 0.62}, {0.66, 0.8}, {0.5, 1}},
	}
	for _, c := range right {
		o = append(o, bezier(c, chords/4)...)
	}
	for i := len(right) - 1; i >= 0; i-- {
		c := right[i]
		o = append(o, bezier([4]Point{mirrored(c[3]), mirrored(c[2]), mirrored(c[1]), mirrored(c[0])}, chords/4)...)
	}
	highest := 1.0
	for _, p := range o {
		highest = min(highest, p.Y)
	}
	for i := range o {
		o[i] = Point{o[i].X * w, (o[i].Y - highest) / (1 - highest) * h}
	}
	return o
}

func mirrored(p Point) Point { return Point{1 - p.X, p.Y} }

func bezier(c [4]Point, pieces int) (o []Point) {
	for i := range pieces {
		t := float64(i) / float64(pieces)
		u := 1 - t
		a, b, d, e := u*u*u, 3*u*u*t, 3*u*t*t, t*t*t
		o = append(o, Point{a*c[0].X + b*c[1].X + d*c[2].X + e*c[3].X, a*c[0].Y + b*c[1].Y + d*c[2].Y + e*c[3].Y})
	}
	return o
}

// areaOf is what a closed polygon encloses, by the shoelace formula.
func areaOf(o []Point) float64 {
	sum := 0.0
	for i, p := range o {
		q := o[(i+1)%len(o)]
		sum += p.X*q.Y - q.X*p.Y
	}
	return math.Abs(sum) / 2
}

func lengthOf(o []Point) (sum float64) {
	for i, p := range o {
		q := o[(i+1)%len(o)]
		sum += math.Hypot(q.X-p.X, q.Y-p.Y)
	}
	return sum
}

// hair is what a measurement may be over without anybody seeing it, in mm.
const hair = 0.01

// Holds tells whether a picture of width × height mm, round or with corners, lies on
// the face whole when it is put in the middle of the outline's box.
func (s Shape) Holds(width, height measure.Length, round bool) bool {
	boxW, boxH := s.Box()
	w, h := float64(width), float64(height)
	if w > float64(boxW)+hair || h > float64(boxH)+hair {
		return false
	}
	if s.Kind == Rectangle && s.Corner == 0 || s.Upright() {
		return true
	}
	cx, cy := float64(boxW)/2, float64(boxH)/2
	picture := []Point{{cx - w/2, cy - h/2}, {cx + w/2, cy - h/2}, {cx + w/2, cy + h/2}, {cx - w/2, cy + h/2}}
	if round {
		picture = arc(nil, cx, cy, w/2, h/2, 0, 2*math.Pi, chords)
	} else {
		picture = between(picture, chords/4)
	}
	face := s.Outline()
	for _, p := range picture {
		// A hair nearer to the middle, so that what just touches is held.
		if !inside(face, Point{p.X + (cx-p.X)*hair/max(w, h), p.Y + (cy-p.Y)*hair/max(w, h)}) {
			return false
		}
	}
	return true
}

// between adds points along the sides of a polygon.
func between(o []Point, pieces int) (dense []Point) {
	for i, p := range o {
		q := o[(i+1)%len(o)]
		for k := range pieces {
			t := float64(k) / float64(pieces)
			dense = append(dense, Point{p.X + (q.X-p.X)*t, p.Y + (q.Y-p.Y)*t})
		}
	}
	return dense
}

// inside tells whether a point lies in a closed polygon, by how often a ray crosses it.
func inside(o []Point, p Point) (in bool) {
	for i, a := range o {
		if crosses(a, o[(i+1)%len(o)], p) {
			in = !in
		}
	}
	return in
}

// crosses tells whether the ray from a point to the right goes through a side.
func crosses(a, b, p Point) bool {
	return (a.Y > p.Y) != (b.Y > p.Y) && p.X < a.X+(b.X-a.X)*(p.Y-a.Y)/(b.Y-a.Y)
}
