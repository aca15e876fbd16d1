package document

import (
	"fmt"
	"io"

	"github.com/go-pdf/fpdf"
)

// PriceList is what is sold at one place, on paper for whoever buys.
type PriceList struct {
	Title    string
	Subtitle string
	Rows     []PriceRow
	// Foot is said under the prices: the currency, the tax.
	Foot string
}

// PriceRow is a product with its price.
type PriceRow struct{ Name, About, Price string }

// WritePriceList writes the list as a PDF of A4 pages.
func WritePriceList(w io.Writer, l PriceList) error {
	pdf := newPages(l.Title, l.Foot)
	pdf.AddPage()
	pdf.SetTextColor(42, 39, 35)
	write(pdf, "B", 20, textWidth, 9, l.Title)
	pdf.SetTextColor(95, 87, 77)
	write(pdf, "", 10.5, textWidth, 5, l.Subtitle)
	pdf.Ln(4)
	for _, r := range l.Rows {
		priceRow(pdf, r)
	}
	if err := pdf.Output(w); err != nil {
		return fmt.Errorf("writing the price list: %w", err)
	}
	return nil
}

const priceWidth = 30.0

func priceRow(pdf *fpdf.Fpdf, r PriceRow) {
	if pdf.GetY() > 297-pageMargin-22 {
		pdf.AddPage()
	}
	top := pdf.GetY()
	pdf.SetDrawColor(221, 213, 198)
	pdf.Line(pageMargin, top, 210-pageMargin, top)
	pdf.SetXY(210-pageMargin-priceWidth, top+2)
	pdf.SetTextColor(169, 72, 43)
	pdf.SetFont("text", "B", 13)
	pdf.CellFormat(priceWidth, 6, printable(r.Price), "", 0, "R", false, 0, "")
	pdf.SetXY(pageMargin, top+2)
	pdf.SetTextColor(42, 39, 35)
	write(pdf, "B", 12, textWidth-priceWidth-4, 6, r.Name)
	pdf.SetTextColor(95, 87, 77)
	write(pdf, "", 9.5, textWidth-priceWidth-4, 4.6, r.About)
	pdf.SetY(pdf.GetY() + 2.5)
}
