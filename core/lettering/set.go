package lettering

import (
	"math"
	"sort"

	"tidykiln/core/shape"
)

// Set is words set on a print.
type Set struct {
	Outline Outline
	// Height is that of the capitals as they came out, Shrunk that it is less than asked for.
	Height float64
	Shrunk bool
	// Fits is false where they stand over even at the least height.
	Fits bool
	// Missing are the letters that no face has.
	Missing []string
}

// shrinkBy is by how much letters are made smaller at a time, in mm.
const shrinkBy = 0.05

// Setter sets words in a style on prints of one outline. What it finds out about the
// outline it keeps; it is not to be used by two at once.
type Setter struct {
	style Style
	faces chain
	line  line
}

// On is what sets words on a print with an outline.
func (s Style) On(print []shape.Point) *Setter {
	t := &Setter{style: s, faces: s.Face.chain()}
	if len(print) > 0 {
		t.line = s.line(print)
	}
	return t
}

// Set sets words on one print with an outline.
func (s Style) Set(text string, print []shape.Point) Set { return s.On(print).Set(text) }

// Set sets words as large as asked for where that fits, and down to the least height
// where it does not.
func (t *Setter) Set(text string) Set {
	s, line := t.style, t.line
	words := t.faces.lines(text)
	out := Set{Height: s.Height, Fits: true, Missing: t.faces.missing(text)}
	if len(words) == 0 || line == nil {
		return out
	}
	steps := int(math.Ceil((s.Height-s.Least)/shrinkBy - 1e-9))
	height := func(i int) float64 { return max(s.Least, s.Height-float64(i)*shrinkBy) }
	i := sort.Search(steps+1, func(i int) bool { return line.fits(words, height(i)) })
	out.Fits, i = i <= steps, min(i, steps)
	out.Height, out.Shrunk = math.Round(height(i)*100)/100, i > 0
	out.Outline = line.put(words, height(i))
	return out
}

// line is where words stand, in one line or several.
type line interface {
	// fits tells whether lines of words have room at a height.
	fits(words []set, height float64) bool
	// put puts lines of words of a height in the middle of it.
	put(words []set, height float64) Outline
}

// Letters reach so far over and under their line, in heights of their capitals: marks
// over capitals, and tails. From a line to the next it is so far.
const (
	over    = 1.2
	under   = 0.28
	leading = 1.6
)

func (s Style) line(print []shape.Point) line {
	if s.Lies == Along {
		return &along{print: print, edge: s.Edge, above: s.Where == Above, runs: map[float64]run{}}
	}
	return straight{shape.InsetOf(print, s.Edge), s.Where == Above}
}

// straight is a level line as near to an end of the print as words have room.
type straight struct {
	// within is where letters may be.
	within []shape.Point
	above  bool
}

// stepUp is in what steps a line is looked for, in mm.
const stepUp = 0.2

func (l straight) fits(words []set, height float64) bool {
	_, fits := l.baseline(words, height)
	return fits
}

// baseline is where the first line stands, with all as near to the end as they have
// room; the middle of the print where they have none.
func (l straight) baseline(words []set, height float64) (y float64, fits bool) {
	least, most := shape.BoxOf(l.within)
	rest := float64(len(words)-1) * leading * height
	for d := 0.0; d <= (most.Y-least.Y)/2; d += stepUp {
		y = most.Y - d - under*height - rest
		if l.above {
			y = least.Y + d + over*height
		}
		if l.haveRoom(words, y, height) {
			return y, true
		}
	}
	return (least.Y+most.Y)/2 + (height-rest)/2, false
}

func (l straight) haveRoom(words []set, y, height float64) bool {
	least, most := shape.BoxOf(l.within)
	cx := (least.X + most.X) / 2
	for i, w := range words {
		at := y + float64(i)*leading*height
		room := min(halfWidth(l.within, cx, at-over*height), halfWidth(l.within, cx, at+under*height), halfWidth(l.within, cx, at))
		if 2*room < w.width*height {
			return false
		}
	}
	return true
}

// halfWidth is how far a polygon reaches to the nearer side of a point in it.
func halfWidth(o []shape.Point, x, y float64) float64 {
	left, right := 0.0, 0.0
	for i, a := range o {
		b := o[(i+1)%len(o)]
		// The ends of a polygon count as in it.
		if (a.Y > y+1e-9) == (b.Y > y+1e-9) && (a.Y < y-1e-9) == (b.Y < y-1e-9) || a.Y == b.Y {
			continue
		}
		at := a.X + (b.X-a.X)*(y-a.Y)/(b.Y-a.Y)
		if d := x - at; d > 0 && (left == 0 || d < left) {
			left = d
		}
		if d := at - x; d > 0 && (right == 0 || d < right) {
			right = d
		}
	}
	return min(left, right)
}

func (l straight) put(words []set, height float64) Outline {
	least, most := shape.BoxOf(l.within)
	y, _ := l.baseline(words, height)
	var o Outline
	for i, w := range words {
		x, y := (least.X+most.X)/2-w.width*height/2, y+float64(i)*leading*height
		for _, g := range w.glyphs {
			o = append(o, g.outline.to(func(gx, gy float64) (float64, float64) { return x + (g.at+gx)*height, y + gy*height })...)
		}
	}
	return o
}

// along is a line that follows the edge of the print at one of its ends.
type along struct {
	print []shape.Point
	edge  float64
	above bool
	// runs are those that were found, by how far from the edge they are.
	runs map[float64]run
}

// run is a line at a height of letters: its points from left to right, how far along
// it each is, and the middle, with how far letters may go to both sides of it.
type run struct {
	points       []shape.Point
	at           []float64
	middle, room float64
}

// steepest is how far from level a letter may stand, as the cosine of the angle.
const steepest = 0.17

// run is the line that the i-th of so many lines of letters stands on.
func (l *along) run(i, lines int, height float64) run {
	by := l.edge + (under+float64(lines-1-i)*leading)*height
	if l.above {
		by = l.edge + (over+float64(i)*leading)*height
	}
	r, known := l.runs[by]
	if !known {
		r = l.found(by)
		l.runs[by] = r
	}
	return r
}

func (l *along) found(by float64) (r run) {
	o := shape.InsetOf(l.print, by)
	if len(o) == 0 {
		return r
	}
	points := l.end(o)
	at := make([]float64, len(points))
	for i := 1; i < len(points); i++ {
		at[i] = at[i-1] + math.Hypot(points[i].X-points[i-1].X, points[i].Y-points[i-1].Y)
	}
	least, most := shape.BoxOf(o)
	cx := (least.X + most.X) / 2
	for i := 1; i < len(points); i++ {
		if points[i-1].X <= cx && points[i].X >= cx {
			share := 0.0
			if dx := points[i].X - points[i-1].X; dx > 0 {
				share = (cx - points[i-1].X) / dx
			}
			r.middle = at[i-1] + share*(at[i]-at[i-1])
		}
	}
	r.points, r.at, r.room = points, at, 2*min(r.middle, at[len(at)-1]-r.middle)
	return r
}

// end is the part of a polygon, which runs clockwise, that lies level enough for
// letters at the end where they stand, from left to right.
func (l *along) end(o []shape.Point) (points []shape.Point) {
	n := len(o)
	least, most := shape.BoxOf(o)
	cx := (least.X + most.X) / 2
	step, start, best := 1, 0, math.Inf(1)
	if !l.above {
		step = n - 1 // against the clock
	}
	for i, p := range o {
		q := o[(i+step)%n]
		if far := most.Y - p.Y; p.X <= cx && q.X >= cx && q.X > p.X {
			if l.above {
				far = p.Y - least.Y
			}
			if far < best {
				start, best = i, far
			}
		}
	}
	level := func(a, b shape.Point) bool {
		d := math.Hypot(b.X-a.X, b.Y-a.Y)
		return d < 1e-9 || (b.X-a.X)/d > steepest
	}
	points = []shape.Point{o[start]}
	for k := range n - 1 {
		a, b := o[(start+k*step)%n], o[(start+(k+1)*step)%n]
		if !level(a, b) {
			break
		}
		points = append(points, b)
	}
	for k := range n - 1 {
		b, a := o[(start+(n-step)*k)%n], o[(start+(n-step)*(k+1))%n]
		if !level(a, b) {
			break
		}
		points = append([]shape.Point{a}, points...)
	}
	return points
}

func (l *along) fits(words []set, height float64) bool {
	for i, w := range words {
		if w.width*height > l.run(i, len(words), height).room {
			return false
		}
	}
	return true
}

func (l *along) put(words []set, height float64) (o Outline) {
	for i, w := range words {
		o = append(o, l.run(i, len(words), height).put(w, height)...)
	}
	return o
}

func (r run) put(words set, height float64) Outline {
	points, at, middle := r.points, r.at, r.middle
	if len(points) < 2 {
		return nil
	}
	var o Outline
	begin := middle - words.width*height/2
	for _, g := range words.glyphs {
		from, to := begin+g.at*height, begin+(g.at+g.advance)*height
		a, b := pointAt(points, at, from), pointAt(points, at, max(to, from+0.05))
		d := math.Hypot(b.X-a.X, b.Y-a.Y)
		if d == 0 {
			continue
		}
		cos, sin := (b.X-a.X)/d, (b.Y-a.Y)/d
		o = append(o, g.outline.to(func(gx, gy float64) (float64, float64) {
			return a.X + (gx*cos-gy*sin)*height, a.Y + (gx*sin+gy*cos)*height
		})...)
	}
	return o
}

// pointAt is the point so far along a line; beyond its ends it goes straight on.
func pointAt(points []shape.Point, at []float64, s float64) shape.Point {
	i := min(max(sort.SearchFloat64s(at, s), 1), len(points)-1)
	a, b := points[i-1], points[i]
	d := at[i] - at[i-1]
	if d == 0 {
		return a
	}
	t := (s - at[i-1]) / d
	return shape.Point{X: a.X + (b.X-a.X)*t, Y: a.Y + (b.Y-a.Y)*t}
}
