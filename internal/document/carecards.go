package document

import (
	"fmt"
	"io"

	"github.com/go-pdf/fpdf"
)

// CareCard says how a piece is looked after; it goes into the parcel with it.
type CareCard struct {
	Name  string
	Words []string
	// From is whose work it is.
	From string
}

// A card is a quarter of an A4 page, in mm.
const (
	careWidth, careHeight = 105.0, 148.5
	careMargin            = 9.0
)

// WriteCareCards writes cards, four on an A4 page, with lines to cut along.
func WriteCareCards(w io.Writer, title string, cards []CareCard) error {
	pdf := newPages(title, "")
	pdf.SetAutoPageBreak(false, 0)
	pdf.SetFooterFunc(func() {})
	for i, c := range cards {
		if i%4 == 0 {
			pdf.AddPage()
			pdf.SetDrawColor(200, 192, 178)
			pdf.SetDashPattern([]float64{1, 2}, 0)
			pdf.Line(careWidth, 0, careWidth, 297)
			pdf.Line(0, careHeight, 210, careHeight)
			pdf.SetDashPattern(nil, 0)
		}
		careCard(pdf, c, float64(i%2)*careWidth, float64(i%4/2)*careHeight)
	}
	if err := pdf.Output(w); err != nil {
		return fmt.Errorf("writing care cards: %w", err)
	}
	return nil
}

// careCard writes one; where there is much to say, it is said smaller.
func careCard(pdf *fpdf.Fpdf, c CareCard, x, y float64) {
	width := careWidth - 2*careMargin
	pdf.SetTextColor(42, 39, 35)
	pdf.SetXY(x+careMargin, y+careMargin)
	pdf.SetLeftMargin(x + careMargin)
	write(pdf, "B", 13, width, 6, c.Name)
	pdf.SetTextColor(95, 87, 77)
	write(pdf, "", 9, width, 5, "How to look after it")
	pdf.Ln(2.5)
	pdf.SetTextColor(42, 39, 35)
	size := 9.5
	for ; size > 6 && careLines(pdf, c.Words, size, width) > careHeight-2*careMargin-34; size -= 0.5 {
	}
	for _, words := range c.Words {
		write(pdf, "", size, width, size*0.48, words)
		pdf.Ln(size * 0.2)
	}
	pdf.SetXY(x+careMargin, y+careHeight-careMargin-4)
	pdf.SetTextColor(95, 87, 77)
	pdf.SetFont("text", "", 8)
	pdf.CellFormat(width, 4, printable(c.From), "", 0, "L", false, 0, "")
	pdf.SetLeftMargin(pageMargin)
}

// careLines is how high words stand in a size, in mm.
func careLines(pdf *fpdf.Fpdf, words []string, size, width float64) (high float64) {
	pdf.SetFont("text", "", size)
	for _, text := range words {
		high += float64(len(pdf.SplitText(printable(text), width)))*size*0.48 + size*0.2
	}
	return high
}
