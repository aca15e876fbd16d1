package products

import (
	"context"
	"math"

	"gorm.io/gorm"

	"tidykiln/core/craft"
	"tidykiln/core/design"
	"tidykiln/core/fault"
	"tidykiln/core/measure"
	"tidykiln/core/picture"
	"tidykiln/core/shape"
	"tidykiln/internal/artwork"
	"tidykiln/internal/database"
	"tidykiln/internal/problem"
)

// Printed is what the pixels of a product's print say, and of which picture.
type Printed struct {
	ArtworkID uint64      `json:"artworkId"`
	Ink       picture.Ink `json:"ink"`
	White     float64     `json:"white"`
	Grey      bool        `json:"grey"`
}

// DesignChange is how the picture is to lie.
type DesignChange struct {
	Design design.Design `json:"design"`
	// OwnPictures: each piece has a picture of its customer's, laid the same way.
	OwnPictures bool `json:"ownPictures,omitempty"`
	Version     int  `json:"version" minimum:"1"`
}

// Laid is how the picture lies: as was said, or, before anybody did, as its typed size
// comes to.
func (p Product) Laid() design.Design { return LaidAs(p.Design, p.Picture) }

// LaidAs is a design, or the one that a picture's size comes to where there is none.
func LaidAs(d *design.Design, pic craft.Picture) design.Design {
	switch {
	case d != nil:
		return *d
	case !(pic.Width > 0 && pic.Height > 0):
		return design.Design{}
	case pic.Round:
		return design.Design{Follows: design.Ellipse, Width: pic.Width, Height: pic.Height}
	}
	return design.Design{Follows: design.Rectangle, Width: pic.Width, Height: pic.Height}
}

// LaidOut is a picture with the size and the area that its design gives it on a blank.
func LaidOut(pic craft.Picture, d design.Design, s shape.Shape) craft.Picture {
	print := d.Print(s)
	pic.Width, pic.Height = measure.Length(math.Round(print.Width*100)/100), measure.Length(math.Round(print.Height*100)/100)
	_, circle := print.Circle()
	pic.Round = circle || d.Follows == design.Ellipse
	pic.FollowsBlank = d.Follows == "" || d.Follows == design.Blank
	pic.Covers = print.Area()
	return pic
}

// ChangeDesign says how the picture lies. The print is measured as it will be.
func (a *Area) ChangeDesign(ctx context.Context, id uint64, c DesignChange) (d Detail, err error) {
	printed, err := a.printed(ctx, id, c.Design)
	if err != nil {
		return d, err
	}
	return a.change(ctx, id, c.Version, func(_ *gorm.DB, p Product, _ Basis) (map[string]any, error) {
		if err := c.Design.Validate(p.Blank.Shape); err != nil {
			return nil, problem.Faulty("design", err)
		}
		columns := map[string]any{"design": database.JSON(c.Design), "own_pictures": c.OwnPictures, "printed": nil,
			"picture": database.JSON(LaidOut(p.Picture, c.Design, p.Blank.Shape))}
		if printed != nil && p.ArtworkID != nil && *p.ArtworkID == printed.ArtworkID {
			columns["printed"] = database.JSON(*printed)
		}
		return columns, nil
	})
}

// printed measures a print of a product, as a design has it; nil where there is no
// picture to measure.
func (a *Area) printed(ctx context.Context, id uint64, d design.Design) (*Printed, error) {
	p, err := database.Look(ctx, a.db, func(tx *gorm.DB) (Product, error) { return Load(tx, id) })
	if err != nil || p.Artwork == nil || d.Validate(p.Blank.Shape) != nil {
		return nil, err
	}
	return a.MeasurePrint(ctx, p.Blank.Shape, d, *p.Artwork)
}

// mostMeasured bounds how many prints are remembered as they were measured: pages ask for
// the same few over and over, and each is drawn to be measured.
const mostMeasured = 256

// MeasurePrint measures a picture's print, as a design has it on a blank; nil where its
// file cannot be had.
func (a *Area) MeasurePrint(ctx context.Context, s shape.Shape, d design.Design, pic artwork.Artwork) (*Printed, error) {
	if pic.View == nil {
		return nil, nil
	}
	key := *pic.View + database.JSON(s) + database.JSON(d)
	m, known := a.measured.Get(key)
	if !known {
		src, err := a.artworks.Pixels(ctx, *pic.View)
		if err != nil || src == nil {
			return nil, err
		}
		m = d.Measure(d.Print(s), src)
		a.measured.Add(key, m)
	}
	return &Printed{ArtworkID: pic.ID, Ink: m.Ink, White: m.White, Grey: m.Grey || d.CleanUp.Colours != "" && d.CleanUp.Colours != picture.AsTheyAre}, nil
}

// fitsBlank refuses a blank on which the product's design has no room.
func fitsBlank(p Product, b craft.Blank) error {
	if p.Design == nil {
		return nil
	}
	if err := p.Design.Validate(b.Shape); err != nil {
		return problem.Invalid("blank.width", "the picture as it is laid out has no room on it: %s", fault.Of(err).Message)
	}
	return nil
}
