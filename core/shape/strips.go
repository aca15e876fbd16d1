package shape

import "math"

// strips are the sides of a polygon by the level strips of its box that they reach into,
// so that not every side has to be looked at for a point.
type strips struct {
	of          []Point
	top, height float64
	sides       [][]int
}

// sidesAStrip is about how many sides a strip has on each flank.
const sidesAStrip = 4

func stripsOf(of []Point) strips {
	least, most := BoxOf(of)
	n := len(of)/(2*sidesAStrip) + 1
	s := strips{of: of, top: least.Y, height: (most.Y - least.Y) / float64(n), sides: make([][]int, n)}
	for i, a := range of {
		b := of[(i+1)%len(of)]
		for at := s.at(min(a.Y, b.Y)); at <= s.at(max(a.Y, b.Y)); at++ {
			s.sides[at] = append(s.sides[at], i)
		}
	}
	return s
}

// at is the strip of a height; what lies beyond the polygon is in the first or the last.
func (s strips) at(y float64) int {
	if s.height <= 0 {
		return 0
	}
	return max(0, min(len(s.sides)-1, int((y-s.top)/s.height)))
}

func (s strips) side(i int) (a, b Point) { return s.of[i], s.of[(i+1)%len(s.of)] }

// inside tells whether a point lies in the polygon.
func (s strips) inside(p Point) (in bool) {
	for _, i := range s.sides[s.at(p.Y)] {
		if a, b := s.side(i); crosses(a, b, p) {
			in = !in
		}
	}
	return in
}

// comesWithin tells whether a side comes nearer to a point than so much.
func (s strips) comesWithin(p Point, reach float64) bool {
	for at := s.at(p.Y - reach); at <= s.at(p.Y+reach); at++ {
		for _, i := range s.sides[at] {
			if a, b := s.side(i); nearer(a, b, p, reach) {
				return true
			}
		}
	}
	return false
}

// nearer tells whether a side comes nearer to a point than so much. Most are too far
// away for their nearest point to matter.
func nearer(a, b, p Point, reach float64) bool {
	if min(a.X, b.X) >= p.X+reach || max(a.X, b.X) <= p.X-reach || min(a.Y, b.Y) >= p.Y+reach || max(a.Y, b.Y) <= p.Y-reach {
		return false
	}
	dx, dy := b.X-a.X, b.Y-a.Y
	along := 0.0
	if length := dx*dx + dy*dy; length > 0 {
		along = min(1, max(0, ((p.X-a.X)*dx+(p.Y-a.Y)*dy)/length))
	}
	return math.Hypot(a.X+along*dx-p.X, a.Y+along*dy-p.Y) < reach
}
