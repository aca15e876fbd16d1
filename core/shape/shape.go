// Package shape gives the areas of a blank's faces, from which coats and
// prints are reckoned. Lengths are in millimetres.
package shape

import (
	"math"

	"tidykiln/core/fault"
	"tidykiln/core/measure"
	"tidykiln/core/wrap"
)

// Kind names an outline.
type Kind string

const (
	Rectangle Kind = "rectangle"
	Disc      Kind = "disc"
	Oval      Kind = "oval"
	Arch      Kind = "arch"
	Heart     Kind = "heart"
	Cylinder  Kind = "cylinder"
	Tapered   Kind = "tapered"
	// Own is a flat blank with an outline of its own.
	Own Kind = "own"
)

// Kinds lists the outlines.
func Kinds() []Kind { return []Kind{Rectangle, Disc, Oval, Arch, Heart, Cylinder, Tapered, Own} }

// Limits of a blank that can be worked by hand at a bench.
const (
	Smallest measure.Length = 5
	Largest  measure.Length = 3000
)

// Shape is the solid of a blank: an outline with a thickness, or something round that
// stands, whose face is its wall laid flat and whose edges are its two rings of
// Thickness. Width and Height belong to a Rectangle (with Corner the radius of its
// corners), an Oval, an Arch (a half circle on upright sides), a Heart and, with its
// Path, to an outline of one's Own; Diameter to
// a Disc; Diameter and Height to a Cylinder; and to a Tapered wall its Diameter at the
// top, its Foot, the diameter at the bottom, and its upright Height.
type Shape struct {
	Kind      Kind           `json:"kind" enum:"rectangle,disc,oval,arch,heart,cylinder,tapered,own"`
	Width     measure.Length `json:"widthMm,omitempty"`
	Height    measure.Length `json:"heightMm,omitempty"`
	Diameter  measure.Length `json:"diameterMm,omitempty"`
	Corner    measure.Length `json:"cornerMm,omitempty"`
	Foot      measure.Length `json:"footMm,omitempty"`
	Thickness measure.Length `json:"thicknessMm"`
	Path      Path           `json:"path,omitempty"`
}

// Face is a part of the blank's surface that a coat can go on.
type Face string

const (
	Front Face = "face"
	Back  Face = "back"
	Edge  Face = "edge"
	// Picture is the part of the front that the picture covers: all of it for a
	// bare shape.
	Picture Face = "picture"
)

// Validate reports the first measurement that no blank can have, by its name.
func (s Shape) Validate() error {
	type side struct {
		name  string
		value measure.Length
	}
	var sides []side
	switch s.Kind {
	case Rectangle, Oval, Arch, Heart, Own:
		sides = []side{{"widthMm", s.Width}, {"heightMm", s.Height}}
	case Disc:
		sides = []side{{"diameterMm", s.Diameter}}
	case Cylinder:
		sides = []side{{"diameterMm", s.Diameter}, {"heightMm", s.Height}}
	case Tapered:
		sides = []side{{"diameterMm", s.Diameter}, {"footMm", s.Foot}, {"heightMm", s.Height}}
	default:
		return fault.At("kind", "%q is not an outline known here", s.Kind)
	}
	for _, side := range sides {
		if !(side.value >= Smallest && side.value <= Largest) {
			return fault.At(side.name, "must be from %s to %s", Smallest.Format(measure.Metric), Largest.Format(measure.Metric))
		}
	}
	if s.Kind == Arch && s.Height < s.Width/2 {
		return fault.At("heightMm", "an arch is at least half as high as it is wide")
	}
	if s.Kind != Rectangle && s.Corner != 0 || !(s.Corner >= 0 && s.Corner <= min(s.Width, s.Height)/2) && s.Kind == Rectangle {
		return fault.At("cornerMm", "must be from 0 to half of the shorter side of something with corners")
	}
	if s.Kind != Tapered && s.Foot != 0 {
		return fault.At("footMm", "belongs to something tapered")
	}
	if s.Kind != Own && s.Path != "" {
		return fault.At("path", "belongs to an outline of one's own")
	}
	if s.Kind == Own {
		if _, err := s.Path.polygon(s.Width, s.Height); err != nil {
			return err
		}
	}
	if !(s.Thickness >= 0 && s.Thickness <= 500) {
		return fault.At("thicknessMm", "must be from 0 to 500 mm")
	}
	return nil
}

// Upright tells that it is round and stands, so that its face is a wall.
func (s Shape) Upright() bool { return s.Kind == Cylinder || s.Kind == Tapered }

// wall is a tapered wall to lay flat.
func (s Shape) wall() wrap.Wall {
	return wrap.Wall{Top: float64(s.Diameter), Bottom: float64(s.Foot), Height: float64(s.Height)}
}

// Wall is the wall of something that stands.
func (s Shape) Wall() (w wrap.Wall, stands bool) {
	w = s.wall()
	if s.Kind == Cylinder {
		w.Bottom = w.Top
	}
	return w, s.Upright()
}

// Area returns the area of one face; an unknown face has none.
func (s Shape) Area(f Face) measure.Area {
	switch f {
	case Front, Back, Picture:
		return s.face()
	case Edge:
		return measure.Area(s.rim() * float64(s.Thickness))
	}
	return 0
}

func (s Shape) face() measure.Area {
	w, h := float64(s.Width), float64(s.Height)
	switch s.Kind {
	case Disc:
		return measure.Area(math.Pi * float64(s.Diameter) * float64(s.Diameter) / 4)
	case Oval:
		return measure.Area(math.Pi * w * h / 4)
	case Arch:
		return measure.Area(w*(h-w/2) + math.Pi*w*w/8)
	case Heart, Own:
		return measure.Area(areaOf(s.Outline()))
	case Rectangle:
		return measure.Area(w*h - (4-math.Pi)*float64(s.Corner)*float64(s.Corner))
	case Tapered:
		slant := math.Hypot(h, float64(s.Diameter-s.Foot)/2)
		return measure.Area(math.Pi * float64(s.Diameter+s.Foot) / 2 * slant)
	}
	return measure.Area(math.Pi * float64(s.Diameter) * h)
}

// rim is how long the edges are: of something that stands, both its rings.
func (s Shape) rim() float64 {
	switch s.Kind {
	case Disc:
		return math.Pi * float64(s.Diameter)
	case Cylinder:
		return 2 * math.Pi * float64(s.Diameter)
	case Tapered:
		return math.Pi * float64(s.Diameter+s.Foot)
	case Rectangle:
		return 2*float64(s.Width+s.Height) - (8-2*math.Pi)*float64(s.Corner)
	}
	return lengthOf(s.Outline())
}

// Box returns the width and height of the outline's bounding box; that of something
// that stands is its wall laid flat.
func (s Shape) Box() (width, height measure.Length) {
	switch s.Kind {
	case Disc:
		return s.Diameter, s.Diameter
	case Cylinder:
		return measure.Length(math.Pi * float64(s.Diameter)), s.Height
	case Tapered:
		// A wall that cannot be laid flat has no box; Validate says what is wrong with it.
		t, err := wrap.Compute(s.wall())
		if err != nil {
			return 0, 0
		}
		return measure.Length(t.BoxWidthMm), measure.Length(t.BoxHeightMm)
	}
	return s.Width, s.Height
}

// Longest is the longest side of the thing itself, as it lies or stands on a shelf.
func (s Shape) Longest() measure.Length {
	if s.Upright() {
		return max(s.Diameter, s.Foot, s.Height)
	}
	return max(s.Box())
}

// Describe writes the size as people say it: "90 mm across", "300 × 140 mm".
func (s Shape) Describe(sys measure.System) string {
	switch s.Kind {
	case Disc:
		return s.Diameter.Format(sys) + " across"
	case Cylinder:
		return s.Diameter.Format(sys) + " across, " + s.Height.Format(sys) + " high"
	case Tapered:
		return s.Diameter.Format(sys) + " to " + s.Foot.Format(sys) + " across, " + s.Height.Format(sys) + " high"
	case Own:
		return "outline of its own, " + s.Width.Format(sys) + " × " + s.Height.Format(sys)
	case Oval, Arch, Heart:
		return string(s.Kind) + " of " + s.Width.Format(sys) + " × " + s.Height.Format(sys)
	}
	return s.Width.Format(sys) + " × " + s.Height.Format(sys)
}
