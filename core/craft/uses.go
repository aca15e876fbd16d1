package craft

import (
	"math"

	"tidykiln/core/measure"
	"tidykiln/core/picture"
	"tidykiln/core/shape"
	"tidykiln/core/sheet"
)

// Use is what a step takes of a material: a quantity for each piece or batch,
// a coat on faces of the blank, prints on sheets, the toner of prints, or power.
type Use struct {
	// Material is the material's key.
	Material string `json:"material"`
	// Quantity is in the material's unit; for a coat it is the number of coats,
	// for sheets and toner the prints of a piece, for power the watts.
	Quantity float64 `json:"quantity"`
	Per      UsePer  `json:"per" enum:"piece,batch,coat,sheet,print,page,tape,power"`
	// Faces are coated with Film under a coat.
	Faces []shape.Face   `json:"faces,omitempty"`
	Film  measure.Length `json:"filmMm,omitempty"`
	// Ink is the one that a print takes of it; empty is all inks together.
	Ink Ink `json:"ink,omitempty" enum:"black,cyan,magenta,yellow"`
	// OnSheet is how many prints a sheet holds; 0 is worked out from the picture.
	OnSheet int `json:"onSheet,omitempty"`
	// Margin is left round the picture when it is trimmed, and takes its coat too.
	Margin measure.Length `json:"marginMm,omitempty"`
	// PowerMinutes is how long the power runs for a piece; 0 is as long as hands are on it.
	PowerMinutes float64 `json:"powerMinutes,omitempty"`
}

// UsePer says what a Use is counted by.
type UsePer string

const (
	PerPiece UsePer = "piece"
	PerBatch UsePer = "batch"
	PerCoat  UsePer = "coat"
	// PerSheet takes whole sheets, as many as the prints of a lot fill.
	PerSheet UsePer = "sheet"
	// PerPrint takes rated pages of toner or ink, by what the picture covers.
	PerPrint UsePer = "print"
	// PerPage takes the share of an A4 page that the print covers.
	PerPage UsePer = "page"
	// PerTape takes as many metres of tape as strips that overlap need.
	PerTape UsePer = "tape"
	// PerPower takes kilowatt-hours, for as long as hands are on the step.
	PerPower UsePer = "power"
)

// UsePers lists what a use can be counted by.
func UsePers() []UsePer {
	return []UsePer{PerPiece, PerBatch, PerCoat, PerSheet, PerPrint, PerPage, PerTape, PerPower}
}

// CoatWaste is the share of a medium that stays in cup and brush.
const CoatWaste = 0.03

// What a rated page is: an A4 page of which a twentieth is covered.
const (
	ratedPage     measure.Area = 210 * 297
	ratedCoverage              = 0.05
	// UsualInkShare is the share of a picture that is covered when nobody has measured it.
	UsualInkShare = 0.4
)

// Ink is one of a printer's four, each from a cartridge of its own.
type Ink string

const (
	Black   Ink = "black"
	Cyan    Ink = "cyan"
	Magenta Ink = "magenta"
	Yellow  Ink = "yellow"
)

// Inks lists all there are.
func Inks() []Ink { return []Ink{Black, Cyan, Magenta, Yellow} }

// Extent is what coats and prints are reckoned by: a blank, and the picture on it.
type Extent struct {
	Shape shape.Shape
	// Picture is the area of the picture; zero when not known, and then it is the face.
	Picture measure.Area
	// Width and Height are the print's; zero when not known, and then the face's box.
	Width, Height measure.Length
	// Round says that the picture is an ellipse in that box.
	Round bool
	// InkShare is the share of the print that is covered, from 0 to 1 for each ink.
	InkShare float64
	// Inks are the shares of each; nil where nobody has measured them.
	Inks *picture.Ink
	// Printed is the area that ink lies on; zero when not known, and then all of its box.
	Printed measure.Area
}

// ExtentOf is the extent of a blank with its picture. A picture never counts
// for more than the face it is on.
func ExtentOf(b Blank, p Picture) Extent {
	area := p.Area()
	e := Extent{Shape: b.Shape, Picture: min(area, b.Shape.Area(shape.Front)), Width: p.Width, Height: p.Height, Round: p.Round, InkShare: p.InkShare, Printed: p.Covers}
	if area == 0 {
		e.Width, e.Height = b.Shape.Box()
	}
	switch {
	case p.Inks != nil:
		e.Inks, e.InkShare = p.Inks, p.Inks.Together()
	case p.InkShare == 0:
		e.InkShare = UsualInkShare
	}
	return e
}

// Inked is the share of the print that an ink covers; a quarter of what all cover where
// nobody has measured them.
func (e Extent) Inked(i Ink) float64 {
	switch {
	case i == "":
		return e.InkShare
	case e.Inks == nil:
		return e.InkShare / 4
	case i == Black:
		return e.Inks.Black
	case i == Cyan:
		return e.Inks.Cyan
	case i == Magenta:
		return e.Inks.Magenta
	}
	return e.Inks.Yellow
}

// printed is the area that ink lies on, in mm².
func (e Extent) printed() float64 {
	if e.Printed > 0 {
		return float64(e.Printed)
	}
	return float64(e.Width * e.Height)
}

// Area is that of some faces together.
func (e Extent) Area(faces ...shape.Face) measure.Area {
	var area measure.Area
	for _, f := range faces {
		if f == shape.Picture && e.Picture > 0 {
			area += e.Picture
			continue
		}
		area += e.Shape.Area(f)
	}
	return area
}

// grown is the extent with a margin round the picture, as far as the face reaches.
func (e Extent) grown(margin measure.Length) Extent {
	if margin <= 0 || e.Picture <= 0 {
		return e
	}
	before := Picture{Width: e.Width, Height: e.Height, Round: e.Round}
	p := Picture{Width: e.Width + 2*margin, Height: e.Height + 2*margin, Round: e.Round}
	e.Picture = min(e.Picture+p.Area()-before.Area(), e.Shape.Area(shape.Front))
	return e
}

// How tape lies over a picture wider than itself, in mm.
const (
	usualTape   = 48
	tapeOverlap = 2
	tapeSpare   = 10
)

// tape is the metres that strips of a width take to cover the picture.
func (e Extent) tape(width measure.Length) float64 {
	strips, each, _ := TapeOver(e.Width, e.Height, width)
	return float64(strips) * float64(each) / 1000
}

// TapeOver is how many strips of tape cover a picture of width × height mm, how long each
// is, and how wide: that of the tape, or the usual one where it is not known.
func TapeOver(width, height, tape measure.Length) (strips int, each, wide measure.Length) {
	if tape <= tapeOverlap {
		tape = usualTape
	}
	n := math.Max(1, math.Ceil(float64(width-tapeOverlap)/float64(tape-tapeOverlap)-1e-9))
	return int(n), height + tapeSpare, tape
}

// Supply is what has to be known of a material to reckon how much is taken.
type Supply struct {
	// SheetWidth and SheetHeight are of a sheet of it; zero is A4. SheetWidth is also the width of a tape.
	SheetWidth, SheetHeight measure.Length
	// Lasts is how many pieces, or uses, a unit lasts; zero is one.
	Lasts float64
}

// Amount is what a use takes of a material, in its unit: for each piece, once a
// batch, and Whole for every Every pieces begun (Every zero: nothing whole).
type Amount struct{ PerPiece, PerBatch, Whole, Every float64 }

// For is the amount for a number of pieces; first says that what is taken once
// a batch is taken now.
func (a Amount) For(pieces int, first bool) float64 {
	total := a.PerPiece * float64(pieces)
	if first {
		total += a.PerBatch
	}
	if a.Every > 0 {
		total += a.Whole * math.Ceil(float64(pieces)/a.Every-1e-9)
	}
	return total
}

// Free is how many pieces more the last whole one has room for.
func (a Amount) Free(pieces int) int {
	if a.Every <= 0 || pieces < 1 {
		return 0
	}
	return int(a.Every*math.Ceil(float64(pieces)/a.Every-1e-9)+1e-9) - pieces
}

// OfPrint tells whether it is of the print itself: its sheets, its toner or ink.
func (u Use) OfPrint() bool { return u.Per == PerSheet || u.Per == PerPrint || u.Per == PerPage }

// Amount is what the use takes in a step, on an extent, of a supply.
func (u Use) Amount(s Step, e Extent, m Supply) Amount {
	lasts := m.Lasts
	if lasts <= 0 {
		lasts = 1
	}
	switch u.Per {
	case PerPiece:
		return Amount{PerPiece: u.Quantity / lasts}
	case PerBatch:
		return Amount{PerBatch: u.Quantity / lasts}
	case PerCoat:
		return Amount{PerPiece: u.Quantity * float64(measure.CoatVolume(e.grown(u.Margin).Area(u.Faces...), u.Film, CoatWaste))}
	case PerSheet:
		if u.Quantity == 0 {
			return Amount{}
		}
		return Amount{Whole: 1, Every: u.printsOn(e, m) / u.Quantity}
	case PerPrint:
		return Amount{PerPiece: u.Quantity * e.Inked(u.Ink) * e.printed() / float64(ratedPage) / ratedCoverage}
	case PerPage:
		return Amount{PerPiece: u.Quantity * float64(e.Width*e.Height) / float64(ratedPage) / lasts}
	case PerTape:
		return Amount{PerPiece: u.Quantity * e.tape(m.SheetWidth) / lasts}
	case PerPower:
		perMinute := u.Quantity / 1000 / 60
		if u.PowerMinutes > 0 {
			return Amount{PerPiece: perMinute * u.PowerMinutes}
		}
		return Amount{PerPiece: perMinute * s.MinutesPerPiece, PerBatch: perMinute * s.SetupMinutes}
	}
	return Amount{}
}

// PrintMargin is how much paper the recipe leaves round each print.
func (r Recipe) PrintMargin() (margin measure.Length) {
	for _, s := range r.Steps {
		for _, u := range s.Uses {
			if u.Per == PerSheet {
				margin = max(margin, u.Margin)
			}
		}
	}
	return margin
}

// printsOn is how many prints a sheet holds; a print larger than a sheet takes
// several, and holds a share of one.
func (u Use) printsOn(e Extent, m Supply) float64 {
	if u.OnSheet > 0 {
		return float64(u.OnSheet)
	}
	width, height := float64(m.SheetWidth), float64(m.SheetHeight)
	if width <= 0 || height <= 0 {
		width, height = 210, 297
	}
	w, h := float64(e.Width+2*u.Margin), float64(e.Height+2*u.Margin)
	if fit := sheet.OnOne(sheet.Named(w, h, e.Round), sheet.Usual(width, height)); fit > 0 {
		return float64(fit)
	}
	width, height = width-2*sheet.UsualMargin, height-2*sheet.UsualMargin
	tiles := func(w, h float64) float64 { return math.Ceil(w/width) * math.Ceil(h/height) }
	return 1 / min(tiles(w, h), tiles(h, w))
}
