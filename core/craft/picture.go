package craft

import (
	"math"
	"slices"

	"tidykiln/core/fault"
	"tidykiln/core/measure"
	"tidykiln/core/picture"
)

// Picture is what goes on a blank, and the print of it. What is zero, empty or
// nil is not known.
type Picture struct {
	Kind    PrintKind `json:"kind,omitempty" enum:"toner,inkjet,sublimation"`
	Carrier Carrier   `json:"carrier,omitempty" enum:"paper,tissue,decal-clear,decal-white,transfer-paper"`
	// Gsm is the weight of the paper in g/m².
	Gsm      float64        `json:"gsm,omitempty"`
	Mirrored *bool          `json:"mirrored,omitempty" doc:"whether the print file is mirrored"`
	Width    measure.Length `json:"widthMm,omitempty"`
	Height   measure.Length `json:"heightMm,omitempty"`
	Ppi      float64        `json:"ppi,omitempty"`
	// InkShare is the share of the print that toner or ink covers, from 0 to 1.
	InkShare float64 `json:"inkShare,omitempty"`
	// Inks are the shares that each ink of a printer covers, from 0 to 1; nil where nobody
	// has measured them.
	Inks *picture.Ink `json:"fourInks,omitempty"`
	// WhiteShare is the share of the picture that is white or nearly, from 0 to 1.
	WhiteShare float64 `json:"whiteShare,omitempty"`
	Rights     Rights  `json:"rights,omitempty" enum:"own,permission,out-of-copyright,customer,unknown"`
	// Round says that it is cut to an ellipse rather than a rectangle.
	Round bool `json:"round,omitempty"`
	// FollowsBlank says that it is cut to the blank's own outline, within it or bleeding
	// over it, and Covers what it covers of the paper then, in mm²; 0 is by its box.
	FollowsBlank bool         `json:"followsBlank,omitempty"`
	Covers       measure.Area `json:"coversMm2,omitempty"`
	// Slogan says that all pieces carry the same words in their picture.
	Slogan bool `json:"slogan,omitempty"`
}

// Area is what the picture covers; zero when its size is not known.
func (p Picture) Area() measure.Area {
	if p.Covers > 0 {
		return p.Covers
	}
	area := measure.Area(float64(p.Width) * float64(p.Height))
	if p.Round {
		return area * math.Pi / 4
	}
	return area
}

// Validate reports the first field that no picture can have, by its name.
func (p Picture) Validate() error {
	switch {
	case p.Kind != "" && !slices.Contains(PrintKinds(), p.Kind):
		return fault.At("kind", "%q is not known here", p.Kind)
	case p.Carrier != "" && !slices.Contains(Carriers(), p.Carrier):
		return fault.At("carrier", "%q is not known here", p.Carrier)
	case p.Rights != "" && !slices.Contains(AllRights(), p.Rights):
		return fault.At("rights", "%q is not known here", p.Rights)
	case !within(p.Gsm, 0, 1000):
		return fault.At("gsm", "must be from 0 to 1000 g/m²; 0 when not known")
	case !within(p.InkShare, 0, 1):
		return fault.At("inkShare", "must be from 0 to 1; 0 when not known")
	case p.Inks != nil && !(within(p.Inks.Cyan, 0, 1) && within(p.Inks.Magenta, 0, 1) && within(p.Inks.Yellow, 0, 1) && within(p.Inks.Black, 0, 1)):
		return fault.At("fourInks", "must be from 0 to 1 each")
	case !within(p.WhiteShare, 0, 1):
		return fault.At("whiteShare", "must be from 0 to 1; 0 when not known")
	case !within(p.Ppi, 0, 10000):
		return fault.At("ppi", "must be from 0 to 10000; 0 when not known")
	case !within(float64(p.Width), 0, 3000):
		return fault.At("widthMm", "must be from 0 to 3000 mm; 0 when not known")
	case !within(float64(p.Covers), 0, 3000*3000*4):
		return fault.At("coversMm2", "must be the area of a picture; 0 when not known")
	case !within(float64(p.Height), 0, 3000):
		return fault.At("heightMm", "must be from 0 to 3000 mm; 0 when not known")
	}
	return nil
}

// Validate reports the first field that no blank can have, by its path.
func (b Blank) Validate() error {
	switch {
	case !slices.Contains(Surfaces(), b.Surface):
		return fault.At("surface", "%q is not a surface known here", b.Surface)
	case b.Tone != "" && !slices.Contains(Tones(), b.Tone):
		return fault.At("tone", "must be light, medium or dark")
	case b.Sides < 0 || b.Sides > 6:
		return fault.At("sides", "must be from 1 to 6")
	case b.RimGap != nil && !within(float64(*b.RimGap), 0, 3000):
		return fault.At("rimGapMm", "must be from 0 to 3000 mm")
	}
	if err := b.Shape.Validate(); err != nil {
		return fault.Under("shape", err)
	}
	return nil
}
