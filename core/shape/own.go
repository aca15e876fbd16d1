package shape

import (
	"fmt"
	"math"
	"slices"
	"strings"

	lru "github.com/hashicorp/golang-lru/v2"
	"github.com/tdewolff/canvas"

	"tidykiln/core/fault"
	"tidykiln/core/measure"
)

// longestPath is how long the path of an outline may be, in bytes.
const longestPath = 20000

// flat is how far a curve drawn in straight pieces may be from itself, in mm.
const flat = 0.005

// Path is the outline of a blank of one's own, as the path data of an SVG: one closed
// outline that does not cross itself. Its units do not matter, since it is stretched
// to the blank's width and height.
type Path string

// polygon is the path in straight pieces, stretched to a box of width × height mm.
func (p Path) polygon(width, height measure.Length) ([]Point, error) {
	text := strings.TrimSpace(string(p))
	if text == "" {
		return nil, fault.At("path", "give the outline's path")
	}
	if len(text) > longestPath {
		return nil, fault.At("path", "the path is longer than %d letters: simplify the outline", longestPath)
	}
	path, err := parsePath(text)
	if err != nil {
		return nil, fault.At("path", "this is no SVG path that can be read: %s", err)
	}
	rough := path.FastBounds()
	if size := max(rough.W(), rough.H()); !(size > 0) || math.IsInf(size, 0) {
		return nil, fault.At("path", "the outline encloses nothing")
	}
	// In straight pieces first: the box of a curve is not found exactly.
	path = path.Flatten(flat * max(rough.W(), rough.H()) / max(float64(width), float64(height)))
	box := path.Bounds()
	if !(box.W() > 0 && box.H() > 0) {
		return nil, fault.At("path", "the outline encloses nothing")
	}
	path = path.Transform(canvas.Identity.Scale(float64(width)/box.W(), float64(height)/box.H()).Translate(-box.X0, -box.Y0))
	parts := path.Settle(canvas.NonZero).Split()
	if len(parts) != 1 || !parts[0].Closed() || len(path.Split()) != 1 {
		return nil, fault.At("path", "give one closed outline that does not cross itself")
	}
	return clockwise(pointsOf(parts[0])), nil
}

// Fitted is the path as it lies in a box of width × height mm, its curves kept.
func (p Path) Fitted(width, height measure.Length) (Path, error) {
	if _, err := p.polygon(width, height); err != nil {
		return "", err
	}
	path, err := parsePath(strings.TrimSpace(string(p)))
	if err != nil {
		return "", err
	}
	box := path.Bounds()
	return Path(path.Transform(canvas.Identity.Scale(float64(width)/box.W(), float64(height)/box.H()).Translate(-box.X0, -box.Y0)).ToSVG()), nil
}

// parsePath reads path data; what its reader chokes on is an error too.
func parsePath(text string) (path *canvas.Path, err error) {
	defer func() {
		if r := recover(); r != nil { // the reader is not ours, and the text is anybody's
			err = fault.At("path", "it is damaged")
		}
	}()
	return canvas.ParseSVGPath(text)
}

func pointsOf(p *canvas.Path) []Point {
	coords := p.Coords()
	points := make([]Point, 0, len(coords))
	for i, c := range coords {
		if i > 0 && i == len(coords)-1 && c == coords[0] {
			break
		}
		points = append(points, Point{c.X, c.Y})
	}
	return points
}

// clockwise turns a polygon round where it runs the other way as it is seen, with y down.
func clockwise(o []Point) []Point {
	sum := 0.0
	for i, p := range o {
		q := o[(i+1)%len(o)]
		sum += p.X*q.Y - q.X*p.Y
	}
	if sum < 0 {
		for i, j := 0, len(o)-1; i < j; i, j = i+1, j-1 {
			o[i], o[j] = o[j], o[i]
		}
	}
	return o
}

// Inset is the outline everywhere by so many mm inside its own, or, where that is
// negative, outside it. Where it falls apart it is the largest part; nil where nothing
// is left.
func (s Shape) Inset(by measure.Length) []Point {
	key := inset{s, by}
	o, known := insets.Get(key)
	if !known {
		o = InsetOf(s.Outline(), float64(by))
		insets.Add(key, o)
	}
	return slices.Clone(o)
}

// inset is what an inset depends on.
type inset struct {
	of Shape
	by measure.Length
}

// insets are those last worked out: a round one takes about 10 ms, a list of products
// asks for one of each, and a studio has few different blanks.
var insets = func() *lru.Cache[inset, []Point] {
	c, err := lru.New[inset, []Point](500)
	if err != nil {
		panic(err) // only a size below one is refused
	}
	return c
}()

// InsetOf is Inset of any closed polygon.
func InsetOf(of []Point, by float64) []Point {
	if by == 0 || len(of) == 0 {
		return of
	}
	path := &canvas.Path{}
	for i, p := range of {
		if i == 0 {
			path.MoveTo(p.X, p.Y)
		} else {
			path.LineTo(p.X, p.Y)
		}
	}
	path.Close()
	if !path.CCW() { // what is outside lies by the direction
		path = path.Reverse()
	}
	var largest []Point
	for _, part := range path.Offset(-by, flat).Settle(canvas.NonZero).Split() {
		o := pointsOf(part)
		if len(o) > 2 && (largest == nil || areaOf(o) > areaOf(largest)) && (by < 0 || keepsClear(o, of, by)) {
			largest = o
		}
	}
	return clockwise(largest)
}

// keepsClear tells whether a polygon really is inside another by so much: one that is shrunk
// to nothing comes out of the computation inside out.
func keepsClear(in, of []Point, by float64) bool {
	sides := stripsOf(of)
	for _, p := range in {
		if !sides.inside(p) || sides.comesWithin(p, by-10*flat) {
			return false
		}
	}
	return true
}

// BoxOf is the box of a polygon: its least and its most.
func BoxOf(o []Point) (least, most Point) {
	if len(o) == 0 {
		return least, most
	}
	least, most = o[0], o[0]
	for _, p := range o {
		least = Point{min(least.X, p.X), min(least.Y, p.Y)}
		most = Point{max(most.X, p.X), max(most.Y, p.Y)}
	}
	return least, most
}

// AreaOf is what a closed polygon encloses, in mm².
func AreaOf(o []Point) measure.Area { return measure.Area(areaOf(o)) }

// PathOf writes a closed polygon as the path data of an SVG, to a hundredth of a mm.
func PathOf(o []Point) string {
	var b strings.Builder
	to := "M"
	for _, p := range o {
		fmt.Fprintf(&b, "%s%g %g", to, math.Round(p.X*100)/100, math.Round(p.Y*100)/100)
		to = "L"
	}
	b.WriteByte('Z')
	return b.String()
}
