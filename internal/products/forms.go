package products

import (
	"strings"

	"tidykiln/core/craft"
	"tidykiln/core/fault"
	"tidykiln/core/measure"
	"tidykiln/core/shape"
	"tidykiln/internal/problem"
)

// BlankForm is a blank as people describe it; lengths are as they type them.
type BlankForm struct {
	Surface      craft.Surface `json:"surface" enum:"wood-bare,wood-painted,board-painted,canvas,stone,ceramic-unglazed,ceramic-glazed,glass,glass-painted,metal,metal-coated,plastic,fabric-cotton,fabric-polyester,candle,coated-board,mug-coated,stone-painted"`
	Tone         craft.Tone    `json:"tone,omitempty" enum:"light,medium,dark"`
	Shape        shape.Kind    `json:"shape" enum:"rectangle,disc,oval,arch,heart,cylinder,tapered,own"`
	Width        string        `json:"width,omitempty" maxLength:"40" doc:"as people type it, such as 9.5 cm or 3 3/4 in; across for what is round, at the top where it is tapered"`
	Height       string        `json:"height,omitempty" maxLength:"40"`
	Corner       string        `json:"corner,omitempty" maxLength:"40" doc:"radius of a rectangle's corners"`
	Foot         string        `json:"foot,omitempty" maxLength:"40" doc:"across at the bottom, where it is tapered"`
	Thickness    string        `json:"thickness,omitempty" maxLength:"40"`
	Path         shape.Path    `json:"path,omitempty" maxLength:"20000" doc:"an outline of its own, as the path data of an SVG"`
	Sides        int           `json:"sides,omitempty" minimum:"0" maximum:"6" doc:"printed sides; 0 is one"`
	Hangs        bool          `json:"hangs,omitempty"`
	ThroughBlank bool          `json:"throughBlank,omitempty"`
	Drinkware    bool          `json:"drinkware,omitempty"`
	RimGap       string        `json:"rimGap,omitempty" maxLength:"40"`
	FoodContact  bool          `json:"foodContact,omitempty"`
	HoldsFlame   bool          `json:"holdsFlame,omitempty"`
	Holed        bool          `json:"holed,omitempty" doc:"bought with its hanging hole"`
	PaintCured   bool          `json:"paintCured,omitempty" doc:"its paint had its last coat over three days ago"`
	SidesApart   bool          `json:"sidesApart,omitempty" doc:"the printed sides do not touch what they lie on: all are laid in one sitting"`
	Bound        bool          `json:"bound,omitempty" doc:"a cover, punched and bound"`
	ForChildren  bool          `json:"forChildren,omitempty"`
}

// PictureForm is a picture and its print as people describe them; what is left out is not known.
type PictureForm struct {
	// ArtworkID is the picture itself; its sharpness, ink, rights and lettering go before the fields'.
	ArtworkID *uint64         `json:"artworkId,omitempty" minimum:"1"`
	Kind      craft.PrintKind `json:"kind,omitempty" enum:"toner,inkjet,sublimation"`
	Carrier   craft.Carrier   `json:"carrier,omitempty" enum:"paper,tissue,decal-clear,decal-white,transfer-paper"`
	Gsm       float64         `json:"gsm,omitempty" minimum:"0" maximum:"1000"`
	Mirrored  *bool           `json:"mirrored,omitempty"`
	Width     string          `json:"width,omitempty" maxLength:"40"`
	Height    string          `json:"height,omitempty" maxLength:"40"`
	Ppi       float64         `json:"ppi,omitempty" minimum:"0" maximum:"10000"`
	InkShare  float64         `json:"inkShare,omitempty" minimum:"0" maximum:"1" doc:"share of the print that is covered; 0 when not known"`
	Rights    craft.Rights    `json:"rights,omitempty" enum:"own,permission,out-of-copyright,customer,unknown"`
	Round     bool            `json:"round,omitempty" doc:"cut round rather than square"`
	Slogan    bool            `json:"slogan,omitempty" doc:"all pieces carry the same words in their picture"`
}

// The forms ask for some fields of a blank and of a picture under names of their own.
var (
	blankFields = map[string]string{"shape.kind": "shape", "shape.widthMm": "width", "shape.diameterMm": "width", "shape.heightMm": "height",
		"shape.cornerMm": "corner", "shape.footMm": "foot", "shape.thicknessMm": "thickness", "shape.path": "path", "rimGapMm": "rimGap"}
	pictureFields = map[string]string{"widthMm": "width", "heightMm": "height"}
)

// Blank reads the form. Errors name its fields under at.
func (f BlankForm) Blank(at string, units measure.System) (b craft.Blank, err error) {
	b = craft.Blank{Surface: f.Surface, Tone: f.Tone, Sides: f.Sides, Hangs: f.Hangs, ThroughBlank: f.ThroughBlank, Drinkware: f.Drinkware,
		FoodContact: f.FoodContact, HoldsFlame: f.HoldsFlame, Holed: f.Holed, PaintCured: f.PaintCured, SidesApart: f.SidesApart, Bound: f.Bound, ForChildren: f.ForChildren}
	if f.ThroughBlank && !f.Surface.Clear() {
		return b, problem.Invalid(at+".throughBlank", "nobody can look through %s", f.Surface.Words())
	}
	if b.Shape, err = f.shape(at, units); err != nil {
		return b, err
	}
	if strings.TrimSpace(f.RimGap) != "" {
		gap, err := readLength(at+".rimGap", f.RimGap, units)
		if err != nil {
			return b, err
		}
		b.RimGap = &gap
	}
	if err := b.Validate(); err != nil {
		return b, problem.Faulty(at, fault.Renamed(err, blankFields))
	}
	return b, nil
}

// shape reads what the form says of its outline; what does not belong to it is left alone.
func (f BlankForm) shape(at string, units measure.System) (s shape.Shape, err error) {
	s.Kind = f.Shape
	round := s.Kind == shape.Disc || s.Upright()
	for _, m := range []struct {
		asked bool
		read  func(field, text string, units measure.System) (measure.Length, error)
		name  string
		text  string
		into  *measure.Length
	}{
		{!round, readLength, "width", f.Width, &s.Width},
		{round, readLength, "width", f.Width, &s.Diameter},
		{s.Kind == shape.Tapered, readLength, "foot", f.Foot, &s.Foot},
		{s.Kind != shape.Disc, readLength, "height", f.Height, &s.Height},
		{s.Kind == shape.Rectangle, readOptional, "corner", f.Corner, &s.Corner},
		{true, readOptional, "thickness", f.Thickness, &s.Thickness},
	} {
		if !m.asked {
			continue
		}
		if *m.into, err = m.read(at+"."+m.name, m.text, units); err != nil {
			return s, err
		}
	}
	if s.Kind == shape.Own {
		if s.Path, err = f.Path.Fitted(s.Width, s.Height); err != nil {
			return s, problem.Faulty(at, err)
		}
	}
	return s, nil
}

// Picture reads the form. Errors name its fields under at.
func (f PictureForm) Picture(at string, units measure.System) (p craft.Picture, err error) {
	p = craft.Picture{Kind: f.Kind, Carrier: f.Carrier, Gsm: f.Gsm, Mirrored: f.Mirrored, Ppi: f.Ppi, InkShare: f.InkShare, Rights: f.Rights, Round: f.Round, Slogan: f.Slogan}
	if p.Width, err = readOptional(at+".width", f.Width, units); err != nil {
		return p, err
	}
	if p.Height, err = readOptional(at+".height", f.Height, units); err != nil {
		return p, err
	}
	if err := p.Validate(); err != nil {
		return p, problem.Faulty(at, fault.Renamed(err, pictureFields))
	}
	return p, nil
}

func readLength(field, text string, units measure.System) (measure.Length, error) {
	l, err := measure.ParseLength(text, units)
	if err != nil {
		return 0, problem.Invalid(field, "%s", err.Error())
	}
	return l, nil
}

func readOptional(field, text string, units measure.System) (measure.Length, error) {
	if strings.TrimSpace(text) == "" {
		return 0, nil
	}
	return readLength(field, text, units)
}
