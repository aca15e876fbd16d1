package prints

import (
	"context"
	"fmt"
	"math"
	"time"

	"gorm.io/gorm"

	"tidykiln/core/craft"
	"tidykiln/core/design"
	"tidykiln/core/lettering"
	"tidykiln/core/picture"
	"tidykiln/core/shape"
	"tidykiln/internal/artwork"
	"tidykiln/internal/database"
	"tidykiln/internal/orders"
	"tidykiln/internal/problem"
	"tidykiln/internal/products"
)

// DesignAsk is a design that is thought about.
type DesignAsk struct {
	Design design.Design `json:"design"`
	// ArtworkID shows another picture than the product's, such as a customer's.
	ArtworkID *uint64 `json:"artworkId,omitempty" minimum:"1"`
}

// DesignPage is how a product's print will look. Paths are of SVGs, in mm from the top
// left corner of the box of the blank's outline.
type DesignPage struct {
	ProductID   uint64           `json:"productId"`
	Product     string           `json:"product"`
	Describe    string           `json:"describe"`
	Version     int              `json:"version"`
	Design      design.Design    `json:"design"`
	Saved       bool             `json:"saved" doc:"somebody has said how it lies"`
	OwnPictures bool             `json:"ownPictures"`
	Lettered    bool             `json:"lettered"`
	Artwork     *artwork.Artwork `json:"artwork,omitempty"`

	Width     float64 `json:"widthMm"`
	Height    float64 `json:"heightMm"`
	BlankPath string  `json:"blankPath"`
	Stands    bool    `json:"stands" doc:"a wall laid flat"`
	Print     InBlank `json:"print"`
	// Covers is the area of the print, Face that of the blank's face, in cm².
	Covers float64 `json:"coversCm2"`
	Face   float64 `json:"faceCm2"`

	Mirrored bool   `json:"mirrored"`
	Why      string `json:"why"`
	// Seen says what becomes of the picture's white.
	Seen        string     `json:"seen"`
	Opaque      bool       `json:"opaque"`
	Through     bool       `json:"through" doc:"people look through the blank"`
	Clear       bool       `json:"clear" doc:"the blank can be looked through"`
	Surface     string     `json:"surface"`
	Tone        craft.Tone `json:"tone,omitempty" enum:"light,medium,dark"`
	SurfaceName string     `json:"surfaceName"`

	// Ppi is 0 without a picture. GoodTo is how large the print may become, in mm
	// across, and still be sharp.
	Ppi       float64           `json:"ppi"`
	Sharpness picture.Sharpness `json:"sharpness,omitempty" enum:"good,acceptable,coarse,refused"`
	GoodTo    float64           `json:"goodToMm"`
	Covered   bool              `json:"covered" doc:"no paper shows beside the picture"`
	Printed   *products.Printed `json:"printed,omitempty"`
	Words     []Words           `json:"words" nullable:"false"`
	Faces     []lettering.Face  `json:"faces" nullable:"false"`
}

// InBlank is the box of a print and its outline.
type InBlank struct {
	X      float64 `json:"xMm"`
	Y      float64 `json:"yMm"`
	Width  float64 `json:"widthMm"`
	Height float64 `json:"heightMm"`
	Path   string  `json:"path" doc:"from the corner of its own box"`
}

// Words are what is lettered on a piece that is wanted.
type Words struct {
	WantID      uint64   `json:"wantId" doc:"0 for words that only show how it looks"`
	OrderNumber int      `json:"orderNumber"`
	Text        string   `json:"text"`
	Path        string   `json:"path" doc:"from the corner of the print's box"`
	Height      float64  `json:"heightMm"`
	Shrunk      bool     `json:"shrunk"`
	Fits        bool     `json:"fits"`
	Missing     []string `json:"missing" nullable:"false" doc:"letters that no typeface here has"`
}

// sampleName shows how lettering looks while no name is wanted.
const sampleName = "Marit"

// mostWords bounds the names that are set for a page.
const mostWords = 200

// designed is a product with what its page is made from.
type designed struct {
	product products.Product
	basis   products.Basis
	wants   []orders.OpenWant
}

// Design shows how a product's print looks as it stands.
func (a *Area) Design(ctx context.Context, id uint64) (DesignPage, error) {
	d, err := a.designed(ctx, id)
	if err != nil {
		return DesignPage{}, err
	}
	return a.page(ctx, d, d.product.Laid())
}

// AskDesign shows how a product's print would look.
func (a *Area) AskDesign(ctx context.Context, id uint64, in DesignAsk) (DesignPage, error) {
	d, err := a.designed(ctx, id)
	if err != nil {
		return DesignPage{}, err
	}
	if err := in.Design.Validate(d.product.Blank.Shape); err != nil {
		return DesignPage{}, problem.Faulty("design", err)
	}
	if in.ArtworkID != nil {
		pic, err := a.artworks.Get(ctx, *in.ArtworkID)
		if err != nil {
			return DesignPage{}, problem.OrInvalid(err, "artworkId", "there is no such picture")
		}
		d.product.Artwork = &pic
	}
	return a.page(ctx, d, in.Design)
}

func (a *Area) designed(ctx context.Context, id uint64) (designed, error) {
	return database.Look(ctx, a.db, func(tx *gorm.DB) (d designed, err error) {
		if d.product, err = products.Load(tx, id); err != nil {
			return d, err
		}
		if d.basis, err = a.products.Basis(tx, a.now()); err != nil {
			return d, err
		}
		all, err := orders.Wanted(tx)
		for _, w := range all {
			if w.ProductID == id && len(d.wants) < mostWords {
				d.wants = append(d.wants, w)
			}
		}
		return d, err
	})
}

func (a *Area) page(ctx context.Context, in designed, d design.Design) (page DesignPage, err error) {
	p, method := in.product, in.basis.Methods[in.product.Method]
	s := p.Blank.Shape
	w, h := s.Box()
	print := d.Print(s)
	opaque := method.Facts != nil && !method.Facts.LosesWhite(p.Picture.Carrier)
	page = DesignPage{ProductID: p.ID, Product: p.Name, Describe: in.basis.Describe(p), Version: p.Version, Design: d, Saved: p.Design != nil, OwnPictures: p.OwnPictures, Lettered: p.Lettered, Artwork: p.Artwork,
		Width: float64(w), Height: float64(h), BlankPath: shape.PathOf(s.Outline()), Stands: s.Upright(),
		Print:  InBlank{print.X, print.Y, print.Width, print.Height, shape.PathOf(print.Outline)},
		Covers: tenth(print.Area().CM2()), Face: tenth(s.Area(shape.Front).CM2()),
		Mirrored: method.MustMirror(p.Blank.ThroughBlank), Why: WhyMirrored(method, p.Blank), Seen: seen(p, opaque), Opaque: opaque,
		Through: p.Blank.ThroughBlank, Clear: p.Blank.Surface.Clear(), Surface: string(p.Blank.Surface), Tone: p.Blank.Tone, SurfaceName: p.Blank.Surface.Words(),
		Words: []Words{}, Faces: lettering.Faces()}
	if p.Artwork != nil && p.Artwork.State == artwork.Ready {
		pixels := p.Artwork.Pixels
		page.Ppi = math.Floor(d.Placing.Ppi(pixels, print.Width, print.Height))
		page.Sharpness = picture.SharpnessAt(page.Ppi)
		page.GoodTo = math.Floor(print.Width * d.Placing.Ppi(pixels, print.Width, print.Height) / sharpest)
		page.Covered = d.Placing.Covers(pixels, print.Width, print.Height)
		if page.Printed, err = products.MeasurePrint(ctx, a.artworks, s, d, *p.Artwork); err != nil {
			return page, err
		}
	}
	if d.Lettering != nil {
		page.Words = words(in, d, print, a.now())
	}
	return page, nil
}

func tenth(v float64) float64 { return math.Round(v*10) / 10 }

// seen says what people see of the picture's white.
func seen(p products.Product, opaque bool) string {
	if opaque {
		return "white stays white: what is under it does not show"
	}
	return fmt.Sprintf("clear film on %s: white will look like %s", p.Blank.Surface.Words(), underneath(p.Blank))
}

func underneath(b craft.Blank) string {
	if b.Tone == "" {
		return "what is under it"
	}
	return fmt.Sprintf("the %s ground under it", b.Tone)
}

// words sets what stands on each wanted piece; a sample where nothing is wanted.
func words(in designed, d design.Design, print design.Print, now time.Time) (all []Words) {
	date := in.basis.Workshop.Habit.DateAndYear(now.In(in.basis.Workshop.Location()))
	put := func(w orders.OpenWant, f lettering.Fields) {
		set := d.Set(print, f)
		all = append(all, Words{WantID: w.WantID, OrderNumber: w.OrderNumber, Text: d.Lettering.For(f), Path: set.Outline.Path(), Height: set.Height, Shrunk: set.Shrunk, Fits: set.Fits, Missing: set.Missing})
	}
	for i, w := range in.wants {
		put(w, lettering.Fields{Name: w.Lettering, Date: date, Number: fmt.Sprint(i + 1)})
	}
	if len(all) == 0 {
		put(orders.OpenWant{}, lettering.Fields{Name: sampleName, Date: date, Number: "1"})
	}
	return all
}
