// Package shape gives the areas of a blank's faces, from which coats and
// prints are reckoned. Lengths are in millimetres.
package shape

import (
	"math"

	"tidykiln/core/fault"
	"tidykiln/core/measure"
)

// Kind names an outline.
type Kind string

const (
	Rectangle Kind = "rectangle"
	Disc      Kind = "disc"
	Cylinder  Kind = "cylinder"
)

// Limits of a blank that can be worked by hand at a bench.
const (
	Smallest measure.Length = 5
	Largest  measure.Length = 3000
)

// Shape is the solid of a blank: an outline with a thickness, or a cylinder
// whose face is its wall laid flat and whose edges are its two rings of
// Thickness. Width and Height belong to a Rectangle, Diameter to a Disc,
// Diameter and Height to a Cylinder.
type Shape struct {
	Kind      Kind           `json:"kind" enum:"rectangle,disc,cylinder"`
	Width     measure.Length `json:"widthMm,omitempty"`
	Height    measure.Length `json:"heightMm,omitempty"`
	Diameter  measure.Length `json:"diameterMm,omitempty"`
	Thickness measure.Length `json:"thicknessMm"`
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
	case Rectangle:
		sides = []side{{"widthMm", s.Width}, {"heightMm", s.Height}}
	case Disc:
		sides = []side{{"diameterMm", s.Diameter}}
	case Cylinder:
		sides = []side{{"diameterMm", s.Diameter}, {"heightMm", s.Height}}
	default:
		return fault.At("kind", "%q is not an outline known here", s.Kind)
	}
	for _, side := range sides {
		if !(side.value >= Smallest && side.value <= Largest) {
			return fault.At(side.name, "must be from %s to %s", Smallest.Format(measure.Metric), Largest.Format(measure.Metric))
		}
	}
	if !(s.Thickness >= 0 && s.Thickness <= 500) {
		return fault.At("thicknessMm", "must be from 0 to 500 mm")
	}
	return nil
}

// Area returns the area of one face; an unknown face has none.
func (s Shape) Area(f Face) measure.Area {
	switch f {
	case Front, Back, Picture:
		return s.outline()
	case Edge:
		if s.Kind == Cylinder {
			return measure.Area(2 * math.Pi * float64(s.Diameter) * float64(s.Thickness))
		}
		return measure.Area(s.perimeter() * float64(s.Thickness))
	}
	return 0
}

func (s Shape) outline() measure.Area {
	if s.Kind == Disc {
		return measure.Area(math.Pi * float64(s.Diameter) * float64(s.Diameter) / 4)
	}
	width, height := s.Box()
	return measure.Area(float64(width) * float64(height))
}

func (s Shape) perimeter() float64 {
	if s.Kind == Disc {
		return math.Pi * float64(s.Diameter)
	}
	return 2 * (float64(s.Width) + float64(s.Height))
}

// Box returns the width and height of the outline's bounding box; a
// cylinder's is its wall laid flat.
func (s Shape) Box() (width, height measure.Length) {
	switch s.Kind {
	case Disc:
		return s.Diameter, s.Diameter
	case Cylinder:
		return measure.Length(math.Pi * float64(s.Diameter)), s.Height
	}
	return s.Width, s.Height
}

// Describe writes the size as people say it: "90 mm across", "300 × 140 mm".
func (s Shape) Describe(sys measure.System) string {
	switch s.Kind {
	case Disc:
		return s.Diameter.Format(sys) + " across"
	case Cylinder:
		return s.Diameter.Format(sys) + " across, " + s.Height.Format(sys) + " high"
	}
	return s.Width.Format(sys) + " × " + s.Height.Format(sys)
}
