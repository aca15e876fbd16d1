package document

import (
	"context"
	"fmt"
	"io"

	"github.com/go-pdf/fpdf"

	"tidykiln/core/lettering"
	"tidykiln/core/shape"
)

// Proof is pieces as they will look, for a customer to look at.
type Proof struct {
	Title    string
	Subtitle string
	Pieces   []ProofPiece
	// Image reads the picture of a print by its key; each is asked for once.
	Image func(ctx context.Context, key string) (PrintImage, error)
}

// ProofPiece is one piece: a blank of Width × Height mm in its colour with its print.
type ProofPiece struct {
	Number        int
	Name          string
	Product       string
	Width, Height float64
	Blank         []shape.Point
	Ground        [3]int
	// Opaque tells that the print's white stays white.
	Opaque bool
	Print  PrintBox
}

// How pieces stand on a page of a proof, in mm.
const (
	proofColumns = 3
	proofRows    = 4
	proofTop     = 34.0
	proofCell    = textWidth / proofColumns
	proofHeight  = 60.0
	proofDrawn   = 44.0
)

// WriteProof writes a proof as a PDF of A4 pages.
func WriteProof(ctx context.Context, w io.Writer, p Proof) error {
	pdf := newPages(p.Title, p.Title+". Colours on a screen or on paper are near to what they will be, not the same.")
	pdf.SetAutoPageBreak(false, 0)
	d := sheetDrawer{pdf: pdf, height: 297, known: map[string]bool{}, read: p.Image}
	for i, piece := range p.Pieces {
		if err := ctx.Err(); err != nil {
			return err
		}
		at := i % (proofColumns * proofRows)
		if at == 0 {
			pdf.AddPage()
			pdf.SetTextColor(42, 39, 35)
			write(pdf, "B", 18, textWidth, 8, p.Title)
			write(pdf, "", 10.5, textWidth, 5, p.Subtitle+". Please look at every piece, and read every name letter by letter.")
		}
		x, y := pageMargin+float64(at%proofColumns)*proofCell, proofTop+float64(at/proofColumns)*proofHeight
		if err := d.proofPiece(ctx, piece, x, y); err != nil {
			return err
		}
	}
	if len(p.Pieces) == 0 {
		pdf.AddPage()
	}
	if err := pdf.Output(w); err != nil {
		return fmt.Errorf("writing the proof: %w", err)
	}
	return nil
}

func (d *sheetDrawer) proofPiece(ctx context.Context, p ProofPiece, x, y float64) error {
	scale := proofDrawn / max(p.Width, p.Height)
	left := x + (proofCell-4-p.Width*scale)/2
	d.plane(scale, 0, 0, scale, left, y+(proofDrawn-p.Height*scale)/2)
	d.pdf.SetFillColor(p.Ground[0], p.Ground[1], p.Ground[2])
	d.pdf.SetDrawColor(133, 124, 108)
	d.pdf.SetLineWidth(0.3 / scale)
	blank := make([]fpdf.PointType, len(p.Blank))
	for i, o := range p.Blank {
		blank[i] = fpdf.PointType{X: o.X, Y: o.Y}
	}
	d.pdf.Polygon(blank, "FD")
	d.pdf.ClipPolygon(blank, false)
	if !p.Opaque {
		d.pdf.SetAlpha(1, "Multiply")
	}
	err := d.print(ctx, p.Print)
	d.pdf.SetAlpha(1, "Normal")
	d.pdf.ClipEnd()
	d.pdf.TransformEnd()
	if err != nil {
		return err
	}
	name := p.Name
	if name == "" {
		name = p.Product
	}
	words := lettering.Style{Face: lettering.SansBold, Height: 2.6, Least: 1.4}.Set(fmt.Sprintf("%d  %s", p.Number, name), rectangle(proofCell-6, 5))
	d.pdf.SetFillColor(42, 39, 35)
	d.fill(words.Outline.Moved(x, y+proofDrawn+3), "F")
	small := lettering.Style{Face: lettering.Sans, Height: 1.9, Least: 1.2}.Set(p.Product+":  right  ☐   change  ☐", rectangle(proofCell-6, 4))
	d.fill(small.Outline.Moved(x, y+proofDrawn+8.5), "F")
	return nil
}

func rectangle(w, h float64) []shape.Point {
	return []shape.Point{{}, {X: w}, {X: w, Y: h}, {Y: h}}
}
