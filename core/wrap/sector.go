package wrap

import "math"

// Sector is a wall laid flat as a band of a ring, in mm and radians: from Inner to Outer
// and Half to both sides of its upright axis, whose ring's middle lies at X and Y of the
// template's box. A straight wall has no ring: Straight, and Width by Slant.
type Sector struct {
	Straight bool
	Width    float64
	Slant    float64
	Inner    float64
	Outer    float64
	Half     float64
	X, Y     float64
	// Up tells that the top of the wall is the wide edge, which lies above.
	Up bool
}

// Sector lays the wall flat, its seam left out.
func (w Wall) Sector() Sector {
	if w.straight() {
		return Sector{Straight: true, Width: math.Pi * w.Top, Slant: w.Height, Up: true}
	}
	bare := w
	bare.Seam = 0
	box := bare.box()
	return Sector{Width: math.Pi * max(w.Top, w.Bottom), Slant: w.slant(), Inner: w.inner(), Outer: w.outer(), Half: w.half(), X: -box.left, Y: -box.top, Up: w.Top > w.Bottom}
}

// At is where a place of the template's box lies on the wall: how far round, from 0 at
// its left end to 1 at its right, and how far down, from 0 at the top to 1 at the foot.
// Beyond the ends it goes on.
func (s Sector) At(x, y float64) (round, down float64) {
	if s.Straight {
		return x / s.Width, y / s.Slant
	}
	dx, dy := x-s.X, s.Y-y
	round = (math.Atan2(dx, dy)/s.Half + 1) / 2
	down = (s.Outer - math.Hypot(dx, dy)) / s.Slant
	if !s.Up {
		return 1 - round, 1 - down
	}
	return round, down
}

// Place is the reverse of At.
func (s Sector) Place(round, down float64) (x, y float64) {
	if s.Straight {
		return round * s.Width, down * s.Slant
	}
	if !s.Up {
		round, down = 1-round, 1-down
	}
	angle, radius := (2*round-1)*s.Half, s.Outer-down*s.Slant
	return s.X + radius*math.Sin(angle), s.Y - radius*math.Cos(angle)
}

// Band is the outline of the part of a wall between two heights, from its left end to so
// far round, clockwise: its arcs in short straight pieces.
func (s Sector) Band(top, foot, until float64) (outline [][2]float64) {
	const pieces = 180
	for i := range pieces + 1 {
		x, y := s.Place(until*float64(i)/pieces, top)
		outline = append(outline, [2]float64{x, y})
	}
	for i := range pieces + 1 {
		x, y := s.Place(until*float64(pieces-i)/pieces, foot)
		outline = append(outline, [2]float64{x, y})
	}
	return outline
}
