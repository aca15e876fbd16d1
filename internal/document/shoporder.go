package document

import (
	"fmt"
	"io"
)

// ShopOrder is the page that goes to a copy shop with sheets to be printed.
type ShopOrder struct {
	Title string
	// Lines are what is asked for, Cautions what must not be done.
	Lines    []string
	Cautions []string
}

// WriteShopOrder writes it as a PDF of one A4 page.
func WriteShopOrder(w io.Writer, o ShopOrder) error {
	pdf := newPages(o.Title, o.Title)
	pdf.AddPage()
	pdf.SetTextColor(42, 39, 35)
	write(pdf, "B", 20, textWidth, 9, o.Title)
	pdf.Ln(4)
	for _, line := range o.Lines {
		write(pdf, "", 13, textWidth, 7.5, "·  "+line)
	}
	pdf.Ln(4)
	pdf.SetTextColor(142, 35, 35)
	for _, caution := range o.Cautions {
		write(pdf, "B", 13, textWidth, 7.5, "!  "+caution)
	}
	if err := pdf.Output(w); err != nil {
		return fmt.Errorf("writing the page for the shop: %w", err)
	}
	return nil
}
