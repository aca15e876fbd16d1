package prints

import (
	"bytes"
	"context"
	"encoding/json"
	"fmt"
	"image/png"
	"math"

	"gorm.io/gorm"

	"tidykiln/core/calendar"
	"tidykiln/core/check"
	"tidykiln/core/craft"
	"tidykiln/core/design"
	"tidykiln/core/lettering"
	"tidykiln/core/measure"
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

// Rim is how far below the rim of drinkware a print begins, and must, in mm; Usable is
// the outline of the face that it may cover.
type Rim struct {
	Gap    float64 `json:"gapMm"`
	Least  float64 `json:"leastMm"`
	Usable string  `json:"usable"`
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
	// Rim is of drinkware; left out of anything else.
	Rim *Rim `json:"rim,omitempty"`
	// Handle are the lines where a handle is, and opposite; empty without one.
	Handle []string `json:"handle" nullable:"false"`
	Stands bool     `json:"stands" doc:"a wall laid flat"`
	// Bent tells that the picture is not simply laid in the print's box: it is drawn by
	// the server.
	Bent  bool    `json:"bent"`
	Print InBlank `json:"print"`
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
	// Round is how long the way round a wall is at its widest, in mm; 0 of what lies flat.
	Round float64 `json:"roundMm"`
	// Tape is laid over the print; left out where the recipe has none.
	Tape  *Tape            `json:"tape,omitempty"`
	Words []Words          `json:"words" nullable:"false"`
	Faces []lettering.Face `json:"faces" nullable:"false"`
	shape shape.Shape
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

// round is how long the way round something that stands is, in mm; 0 of what lies flat.
func round(s shape.Shape) float64 {
	w, stands := s.Wall()
	if !stands {
		return 0
	}
	return math.Pi * max(w.Top, w.Bottom)
}

// Tape is how a print is covered with strips of tape.
type Tape struct {
	Strips int     `json:"strips"`
	Each   float64 `json:"eachMm"`
	Wide   float64 `json:"wideMm"`
}

// tapeOf is the tape that a product's recipe lays over its print; nil where it lays none.
func (in designed) tapeOf(print design.Print) *Tape {
	for _, step := range in.product.Recipe.Document.Steps {
		for _, u := range step.Uses {
			if u.Per == craft.PerTape {
				strips, each, wide := craft.TapeOver(measure.Length(print.Width), measure.Length(print.Height), in.basis.Materials[u.Material].Supply().SheetWidth)
				return &Tape{strips, float64(each), float64(wide)}
			}
		}
	}
	return nil
}

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
	return a.pageWithWords(ctx, d, d.product.Laid())
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
	return a.pageWithWords(ctx, d, in.Design)
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

func (a *Area) pageWithWords(ctx context.Context, in designed, d design.Design) (DesignPage, error) {
	page, err := a.page(ctx, in, d)
	if err == nil && d.Lettering != nil {
		page.Words = a.wordsOn(in, d)
	}
	return page, err
}

// page is how a design looks, without the words that are wanted on it.
func (a *Area) page(ctx context.Context, in designed, d design.Design) (page DesignPage, err error) {
	p, method := in.product, in.basis.Methods[in.product.Method]
	s := p.Blank.Shape
	w, h := s.Box()
	print := d.Print(s)
	opaque := method.Facts != nil && !method.Facts.LosesWhite(p.Picture.Carrier)
	page = DesignPage{ProductID: p.ID, Product: p.Name, Describe: in.basis.Describe(p), Version: p.Version, Design: d, Saved: p.Design != nil, OwnPictures: p.OwnPictures, Lettered: p.Lettered, Artwork: p.Artwork,
		Width: float64(w), Height: float64(h), BlankPath: shape.PathOf(design.BlankOutline(s)), Handle: handlePaths(d, s), Stands: s.Upright(), Bent: print.Bent(), Round: tenth(round(s)), Tape: in.tapeOf(print),
		Print:  InBlank{print.X, print.Y, print.Width, print.Height, shape.PathOf(print.Outline)},
		Covers: tenth(print.Area().CM2()), Face: tenth(s.Area(shape.Front).CM2()),
		Mirrored: method.MustMirror(p.Blank.ThroughBlank), Why: WhyMirrored(method, p.Blank), Seen: seen(p, opaque), Opaque: opaque,
		Through: p.Blank.ThroughBlank, Clear: p.Blank.Surface.Clear(), Surface: string(p.Blank.Surface), Tone: p.Blank.Tone, SurfaceName: p.Blank.Surface.Words(),
		Words: []Words{}, Faces: lettering.Faces(), shape: s}
	if p.Artwork != nil && p.Artwork.State == artwork.Ready {
		pixels := p.Artwork.Pixels
		page.Ppi = math.Floor(d.Ppi(print, pixels))
		page.Sharpness = picture.SharpnessAt(page.Ppi)
		page.GoodTo = math.Floor(print.Width * d.Ppi(print, pixels) / sharpest)
		page.Covered = d.Covers(print, pixels)
		if page.Printed, err = a.products.MeasurePrint(ctx, s, d, *p.Artwork); err != nil {
			return page, err
		}
	}
	if gap, stands := d.RimGap(s); stands && p.Blank.Drinkware {
		page.Rim = &Rim{tenth(float64(gap)), check.LeastRimGap, shape.PathOf(design.Below(s, check.LeastRimGap))}
	}
	return page, nil
}

func handlePaths(d design.Design, s shape.Shape) []string {
	paths := []string{}
	for _, line := range d.Handles(s) {
		paths = append(paths, fmt.Sprintf("M%.2f %.2fL%.2f %.2f", line[0].X, line[0].Y, line[1].X, line[1].Y))
	}
	return paths
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

// wordsOn sets what stands on each wanted piece; a sample where nothing is wanted.
func (a *Area) wordsOn(in designed, d design.Design) (all []Words) {
	wants := in.wants
	if len(wants) == 0 {
		wants = []orders.OpenWant{{Lettering: sampleName, DueOn: calendar.DateOf(a.now(), in.basis.Workshop.Location()), Number: 1}}
	}
	for _, w := range wants {
		text := textOf(d, fieldsOf(in.basis.Workshop, w.Lettering, w.DueOn, w.Number))
		set := a.lettered(in.product.Blank.Shape, d, text)
		all = append(all, Words{WantID: w.WantID, OrderNumber: w.OrderNumber, Text: text, Path: set.Outline.Path(), Height: set.Height, Shrunk: set.Shrunk, Fits: set.Fits, Missing: set.Missing})
	}
	return all
}

// DrawDesign draws the print of a product's design without its words, as people see it.
func (a *Area) DrawDesign(ctx context.Context, id uint64, text string) ([]byte, error) {
	var d design.Design
	if err := json.Unmarshal([]byte(text), &d); err != nil {
		return nil, problem.Invalid("design", "this is no design")
	}
	in, err := a.designed(ctx, id)
	if err != nil {
		return nil, err
	}
	if err := d.Validate(in.product.Blank.Shape); err != nil {
		return nil, problem.Faulty("design", err)
	}
	if in.product.Artwork == nil || in.product.Artwork.View == nil {
		return nil, problem.NotFound("picture")
	}
	src, err := a.artworks.Pixels(ctx, *in.product.Artwork.View)
	if err != nil {
		return nil, err
	}
	if src == nil {
		return nil, problem.NotFound("picture")
	}
	p := d.Print(in.product.Blank.Shape)
	var out bytes.Buffer
	if err := png.Encode(&out, d.Draw(p, src, min(drawnAt, drawnSide/max(p.Width, p.Height)*25.4))); err != nil {
		return nil, fmt.Errorf("drawing a print: %w", err)
	}
	return out.Bytes(), nil
}

// A print is drawn for pages at so many pixels an inch, and no longer than so many pixels.
const (
	drawnAt   = 72.0
	drawnSide = 1200.0
)
