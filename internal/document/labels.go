package document

import (
	"bytes"
	"fmt"
	"image/png"
	"io"
	"strings"

	"github.com/boombuler/barcode"
	"github.com/boombuler/barcode/code128"
	"github.com/go-pdf/fpdf"

	"tidykiln/core/label"
)

// Label is what stands on a label.
type Label struct {
	// Lines are written as large as they fit; Price, where it has one, larger than they.
	Lines []string
	Price string
	// Code is drawn in bars for a hand scanner, and written under them; empty for none.
	Code string
}

// labelPadding is what stays free around what stands on a label, in mm.
const labelPadding = 2.5

// WriteLabels writes labels onto sheets of them, after those that are gone of the first.
func WriteLabels(w io.Writer, s label.Sheet, gone int, labels []Label) error {
	pdf := fpdf.NewCustom(&fpdf.InitType{UnitStr: "mm", Size: fpdf.SizeType{Wd: s.PageWidth, Ht: s.PageHeight}})
	addFonts(pdf)
	pdf.SetTitle("Labels", true)
	pdf.SetMargins(0, 0, 0)
	pdf.SetCellMargin(0)
	pdf.SetAutoPageBreak(false, 0)
	pages := 0
	for i, l := range labels {
		at := s.At(i, gone)
		if at.Page >= pages {
			pdf.AddPage()
			pages++
		}
		if err := drawLabel(pdf, s, at, l); err != nil {
			return err
		}
	}
	if err := pdf.Output(w); err != nil {
		return fmt.Errorf("writing labels: %w", err)
	}
	return nil
}

func drawLabel(pdf *fpdf.Fpdf, s label.Sheet, at label.Place, l Label) error {
	x, y := at.X+labelPadding, at.Y+labelPadding
	width, height := s.LabelWidth-2*labelPadding, s.LabelHeight-2*labelPadding
	pdf.SetTextColor(42, 39, 35)
	if l.Code != "" {
		high := min(height/3, 9)
		if err := drawCode(pdf, l.Code, x, y+height-high, min(width, 45), high); err != nil {
			return err
		}
		height -= high + 1
	}
	if l.Price != "" {
		size := fitting(pdf, "B", []string{l.Price}, width, height/2.4, 20)
		pdf.SetXY(x, y+height-size*0.42)
		pdf.CellFormat(width, size*0.42, printable(l.Price), "", 0, "L", false, 0, "")
		height -= size*0.42 + 0.5
	}
	size := fitting(pdf, "", l.Lines, width, height, 12)
	for i, line := range l.Lines {
		pdf.SetXY(x, y+float64(i)*size*0.42)
		pdf.CellFormat(width, size*0.42, printable(within(pdf, line, width)), "", 0, "L", false, 0, "")
	}
	return nil
}

// smallestPrint is the smallest size that labels are set in, in points.
const smallestPrint = 5.0

// fitting is the largest size, in points, in which lines fit; the font is set in it.
func fitting(pdf *fpdf.Fpdf, style string, lines []string, width, height, largest float64) float64 {
	size := largest
	for ; size > smallestPrint; size -= 0.5 {
		pdf.SetFont("text", style, size)
		fits := float64(len(lines))*size*0.42 <= height
		for _, l := range lines {
			fits = fits && pdf.GetStringWidth(printable(l)) <= width
		}
		if fits {
			return size
		}
	}
	pdf.SetFont("text", style, size)
	return size
}

// within cuts a line that is too long even in the smallest print.
func within(pdf *fpdf.Fpdf, line string, width float64) string {
	letters := []rune(strings.TrimSpace(line))
	if pdf.GetStringWidth(printable(string(letters))) <= width {
		return string(letters)
	}
	for len(letters) > 1 && pdf.GetStringWidth(printable(string(letters)+"…")) > width {
		letters = letters[:len(letters)-1]
	}
	return string(letters) + "…"
}

// drawCode draws a code in bars (Code 128), and writes it beside them.
func drawCode(pdf *fpdf.Fpdf, code string, x, y, width, height float64) error {
	bars, err := code128.Encode(code)
	if err != nil {
		return fmt.Errorf("drawing the code %q: %w", code, err)
	}
	const wide, high = 4, 40
	scaled, err := barcode.Scale(bars, bars.Bounds().Dx()*wide, high)
	if err != nil {
		return fmt.Errorf("drawing the code %q: %w", code, err)
	}
	var picture bytes.Buffer
	if err := png.Encode(&picture, scaled); err != nil {
		return fmt.Errorf("drawing the code %q: %w", code, err)
	}
	options := fpdf.ImageOptions{ImageType: "PNG"}
	pdf.RegisterImageOptionsReader("code "+code, options, &picture)
	pdf.ImageOptions("code "+code, x, y, width*0.72, height, false, options, 0, "")
	size := fitting(pdf, "", []string{code}, width*0.25, height, 8)
	pdf.SetXY(x+width*0.75, y+height-size*0.42)
	pdf.CellFormat(width*0.25, size*0.42, printable(code), "", 0, "L", false, 0, "")
	return nil
}
