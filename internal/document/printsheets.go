package document

import (
	"bytes"
	"context"
	"fmt"
	"io"
	"strconv"

	"github.com/go-pdf/fpdf"
	"golang.org/x/image/font/gofont/goregular"

	"tidykiln/core/lettering"
	"tidykiln/core/shape"
)

// PrintSheets are prints on sheets at true size. Lengths are in mm, y down.
type PrintSheets struct {
	Title         string
	Width, Height float64
	Pages         []PrintPage
	// Rule is how long the line is that shows whether the printer kept the size.
	Rule float64
	// Image reads the picture of a print by its key; each is asked for once.
	Image func(ctx context.Context, key string) (PrintImage, error)
}

// PrintPage is one sheet.
type PrintPage struct {
	Prints []PrintAt
	// Foot is said beside the line at the foot.
	Foot string
	// Carrier tells that this is a sheet that carries tissue: where it is taped is marked.
	Carrier bool
	// Apart are lines to cut the sheet apart at, from the top to the bottom.
	Apart []float64
}

// PrintImage is a picture in a PDF: a JPEG or a PNG, in greys where it has no colour.
type PrintImage struct {
	Content []byte
	JPEG    bool
}

// PrintAt is a print in its place on a page: an item of Width × Height mm at X and Y,
// Turned by 90° clockwise, with the print's own box in it.
type PrintAt struct {
	X, Y, Width, Height float64
	Turned              bool
	Print               PrintBox
	// Label is small words beside the print, as outlines of the item.
	Label lettering.Outline
	// Cut are outlines of the item to cut along, and Marks short lines.
	Cut   [][]shape.Point
	Marks [][2]shape.Point
}

// PrintBox is a print's box in its item: at X and Y, Mirrored or as people see it.
type PrintBox struct {
	X, Y, Width, Height float64
	Mirrored            bool
	Outline             []shape.Point
	// Picture is the key of its picture; empty without one.
	Picture string
	Words   []PrintWords
}

// PrintWords is lettering in a print's box.
type PrintWords struct {
	Outline lettering.Outline
	Colour  string
	// Halo is how wide a white rim round them is.
	Halo float64
}

const (
	// hairline is how wide lines to cut along are, in mm.
	hairline = 0.1
	// footHeight is what the line at the foot of a sheet and its words take.
	footHeight = 8.5
)

// WritePrintSheets writes the sheets as a PDF. told is called after every page.
func WritePrintSheets(ctx context.Context, w io.Writer, s PrintSheets, told func(page int)) error {
	orientation := "P"
	if s.Width > s.Height {
		orientation = "L"
	}
	pdf := fpdf.NewCustom(&fpdf.InitType{OrientationStr: orientation, UnitStr: "mm", Size: fpdf.SizeType{Wd: min(s.Width, s.Height), Ht: max(s.Width, s.Height)}})
	pdf.AddUTF8FontFromBytes("text", "", goregular.TTF)
	pdf.SetMargins(0, 0, 0)
	pdf.SetAutoPageBreak(false, 0)
	pdf.SetTitle(s.Title, true)
	d := sheetDrawer{pdf: pdf, height: s.Height, known: map[string]bool{}, read: s.Image}
	for i, p := range s.Pages {
		if err := ctx.Err(); err != nil {
			return err
		}
		pdf.AddPage()
		for _, at := range p.Prints {
			if err := d.item(ctx, at); err != nil {
				return err
			}
		}
		if p.Carrier {
			d.carrier(s)
		}
		d.foot(s, p, i)
		told(i + 1)
	}
	if err := pdf.Output(w); err != nil {
		return fmt.Errorf("writing the sheets: %w", err)
	}
	return nil
}

type sheetDrawer struct {
	pdf    *fpdf.Fpdf
	height float64
	known  map[string]bool
	read   func(ctx context.Context, key string) (PrintImage, error)
}

// plane puts what is drawn next where x' = a·x + b·y + x0 and y' = c·x + d·y + y0, in mm
// with y down. The file counts in points with y up.
func (d *sheetDrawer) plane(a, b, c, e, x0, y0 float64) {
	k, h := 72/25.4, d.height
	d.pdf.TransformBegin()
	d.pdf.Transform(fpdf.TransformMatrix{A: a, B: -c, C: -b, D: e, E: (b*h + x0) * k, F: (h - e*h - y0) * k})
}

func (d *sheetDrawer) item(ctx context.Context, at PrintAt) error {
	if at.Turned {
		d.plane(0, -1, 1, 0, at.X+at.Height, at.Y)
	} else {
		d.plane(1, 0, 0, 1, at.X, at.Y)
	}
	defer d.pdf.TransformEnd()
	if err := d.print(ctx, at.Print); err != nil {
		return err
	}
	d.pdf.SetFillColor(60, 60, 60)
	d.fill(at.Label, "F")
	d.pdf.SetDrawColor(120, 120, 120)
	d.pdf.SetLineWidth(hairline)
	for _, o := range at.Cut {
		d.polygon(o)
	}
	for _, m := range at.Marks {
		d.pdf.Line(m[0].X, m[0].Y, m[1].X, m[1].Y)
	}
	return nil
}

func (d *sheetDrawer) print(ctx context.Context, b PrintBox) error {
	if b.Mirrored {
		d.plane(-1, 0, 0, 1, b.X+b.Width, b.Y)
	} else {
		d.plane(1, 0, 0, 1, b.X, b.Y)
	}
	defer d.pdf.TransformEnd()
	outline := make([]fpdf.PointType, len(b.Outline))
	for i, p := range b.Outline {
		outline[i] = fpdf.PointType{X: p.X, Y: p.Y}
	}
	d.pdf.ClipPolygon(outline, false)
	defer d.pdf.ClipEnd()
	if b.Picture != "" {
		if err := d.image(ctx, b); err != nil {
			return err
		}
	}
	for _, w := range b.Words {
		r, g, bl := rgb(w.Colour)
		if w.Halo > 0 {
			d.pdf.SetDrawColor(255, 255, 255)
			d.pdf.SetLineWidth(2 * w.Halo)
			d.pdf.SetLineJoinStyle("round")
			d.fill(w.Outline, "D")
		}
		d.pdf.SetFillColor(r, g, bl)
		d.fill(w.Outline, "F")
	}
	return nil
}

func (d *sheetDrawer) image(ctx context.Context, b PrintBox) error {
	options := fpdf.ImageOptions{ImageType: "PNG"}
	if !d.known[b.Picture] {
		img, err := d.read(ctx, b.Picture)
		if err != nil {
			return err
		}
		if img.JPEG {
			options.ImageType = "JPG"
		}
		d.pdf.RegisterImageOptionsReader(b.Picture, options, bytes.NewReader(img.Content))
		if err := d.pdf.Error(); err != nil {
			return fmt.Errorf("putting a picture on a sheet: %w", err)
		}
		d.known[b.Picture] = true
	}
	d.pdf.ImageOptions(b.Picture, 0, 0, b.Width, b.Height, false, options, 0, "")
	return nil
}

// fill draws outlines by the non-zero rule.
func (d *sheetDrawer) fill(o lettering.Outline, how string) {
	if len(o) == 0 {
		return
	}
	for i, s := range o {
		p := s.Points
		switch s.Op {
		case lettering.Move:
			if i > 0 {
				d.pdf.ClosePath()
			}
			d.pdf.MoveTo(p[0][0], p[0][1])
		case lettering.Line:
			d.pdf.LineTo(p[0][0], p[0][1])
		case lettering.Quad:
			d.pdf.CurveTo(p[0][0], p[0][1], p[1][0], p[1][1])
		case lettering.Cubic:
			d.pdf.CurveBezierCubicTo(p[0][0], p[0][1], p[1][0], p[1][1], p[2][0], p[2][1])
		}
	}
	d.pdf.ClosePath()
	d.pdf.DrawPath(how)
}

func (d *sheetDrawer) polygon(o []shape.Point) {
	if len(o) == 0 {
		return
	}
	for i, p := range o {
		if i == 0 {
			d.pdf.MoveTo(p.X, p.Y)
		} else {
			d.pdf.LineTo(p.X, p.Y)
		}
	}
	d.pdf.ClosePath()
	d.pdf.DrawPath("D")
}

// tapedAt is how far from the edges of its carrier tissue ends, and is taped.
const tapedAt = 4.0

// carrier marks where tissue lies on the sheet that carries it through the printer.
func (d *sheetDrawer) carrier(s PrintSheets) {
	d.pdf.SetDrawColor(150, 150, 150)
	d.pdf.SetLineWidth(hairline)
	d.pdf.SetDashPattern([]float64{2, 1.5}, 0)
	d.pdf.Rect(tapedAt, tapedAt, s.Width-2*tapedAt, s.Height-tapedAt-footHeight, "D")
	d.pdf.SetDashPattern([]float64{}, 0)
	d.pdf.SetFont("text", "", 5)
	d.pdf.SetTextColor(120, 120, 120)
	d.pdf.Text(tapedAt+1, tapedAt-0.8, "Tissue ends here: tape all four edges flush, so that nothing catches.")
}

// footMargin is how far the line at the foot stays from the sheet's edge, where
// printers do not reach.
const footMargin = 6.0

// foot draws the line that shows whether the size was kept, in tens of mm, and says so.
func (d *sheetDrawer) foot(s PrintSheets, p PrintPage, i int) {
	y := s.Height - footMargin
	x := footMargin
	d.pdf.SetDrawColor(0, 0, 0)
	d.pdf.SetLineWidth(0.2)
	d.pdf.Line(x, y, x+s.Rule, y)
	for mm := 0.0; mm <= s.Rule; mm += 10 {
		d.pdf.Line(x+mm, y, x+mm, y-1.2)
	}
	d.pdf.Line(x, y, x, y-2.4)
	d.pdf.Line(x+s.Rule, y, x+s.Rule, y-2.4)
	d.pdf.SetFont("text", "", 6)
	d.pdf.SetTextColor(60, 60, 60)
	d.pdf.Text(x, y+3, printable(fmt.Sprintf("This line is %g mm long: measure it. Print at 100 %%, not fitted to the page.   %s   Sheet %d of %d", s.Rule, p.Foot, i+1, len(s.Pages))))
	d.pdf.SetLineWidth(hairline)
	d.pdf.SetDrawColor(120, 120, 120)
	for _, at := range p.Apart {
		d.pdf.Line(at, 0, at, s.Height)
	}
}

// rgb reads a colour such as #1a2b3c; anything else is black.
func rgb(colour string) (r, g, b int) {
	if len(colour) != 7 {
		return 0, 0, 0
	}
	v, err := strconv.ParseUint(colour[1:], 16, 32)
	if err != nil {
		return 0, 0, 0
	}
	return int(v >> 16), int(v >> 8 & 255), int(v & 255)
}
