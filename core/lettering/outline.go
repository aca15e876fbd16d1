package lettering

import (
	"fmt"
	"math"
	"strings"
)

// Op is what a segment of an outline does.
type Op byte

const (
	Move  Op = 'M'
	Line  Op = 'L'
	Quad  Op = 'Q'
	Cubic Op = 'C'
)

// Segment is a piece of an outline: its control points, if it has any, and its end.
type Segment struct {
	Op     Op
	Points [3][2]float64
}

// count is how many points the segment has.
func (s Segment) count() int {
	switch s.Op {
	case Quad:
		return 2
	case Cubic:
		return 3
	}
	return 1
}

// End is where the segment ends.
func (s Segment) End() [2]float64 { return s.Points[s.count()-1] }

// Outline is words as closed outlines, to be filled by the non-zero rule.
type Outline []Segment

// Path writes it as the path data of an SVG, to a thousandth of a mm.
func (o Outline) Path() string {
	var b strings.Builder
	for i, s := range o {
		if s.Op == Move && i > 0 {
			b.WriteByte('Z')
		}
		b.WriteByte(byte(s.Op))
		for k := range s.count() {
			if k > 0 {
				b.WriteByte(' ')
			}
			fmt.Fprintf(&b, "%g %g", math.Round(s.Points[k][0]*1000)/1000, math.Round(s.Points[k][1]*1000)/1000)
		}
	}
	if len(o) > 0 {
		b.WriteByte('Z')
	}
	return b.String()
}

// Box is the least and the most that its points reach.
func (o Outline) Box() (least, most [2]float64) {
	least, most = [2]float64{math.Inf(1), math.Inf(1)}, [2]float64{math.Inf(-1), math.Inf(-1)}
	for _, s := range o {
		for _, p := range s.Points[:s.count()] {
			for i := range p {
				least[i], most[i] = min(least[i], p[i]), max(most[i], p[i])
			}
		}
	}
	return least, most
}

// Moved is the outline so far to the right and down.
func (o Outline) Moved(dx, dy float64) Outline {
	return o.to(func(x, y float64) (float64, float64) { return x + dx, y + dy })
}

// to is the outline with each point where f puts it.
func (o Outline) to(f func(x, y float64) (float64, float64)) Outline {
	moved := make(Outline, len(o))
	for i, s := range o {
		moved[i].Op = s.Op
		for k := range s.count() {
			moved[i].Points[k][0], moved[i].Points[k][1] = f(s.Points[k][0], s.Points[k][1])
		}
	}
	return moved
}
