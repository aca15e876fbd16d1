package document

import (
	"bytes"
	"fmt"
	"io"
	"strconv"
	"strings"

	"tidykiln/core/lettering"

	"github.com/go-pdf/fpdf"
	"github.com/skip2/go-qrcode"
	"golang.org/x/image/font/gofont/gobold"
	"golang.org/x/image/font/gofont/goregular"
	"golang.org/x/image/font/sfnt"
)

// BatchCard is a batch on paper: what is made for whom, step by step.
type BatchCard struct {
	Title    string
	Subtitle string
	// Facts are lines beside the title: pieces, dues, whom it serves.
	Facts []string
	// Address is what the code on the card opens.
	Address string
	Steps   []CardStep
	// Names are the letterings, in the order of the pieces.
	Names []string
	// Foot is said under everything.
	Foot string
}

// CardStep is a step of the card.
type CardStep struct {
	Name      string
	Hands     string
	Rest      string
	Inside    bool
	Checklist []string
	Cautions  []string
}

const (
	pageMargin = 14.0 // mm
	codeSide   = 28.0
	textWidth  = 210 - 2*pageMargin
)

// cardFont is the font that text is set in, to tell which letters it has.
var cardFont = mustParseFont(goregular.TTF)

func mustParseFont(data []byte) *sfnt.Font {
	f, err := sfnt.Parse(data)
	if err != nil {
		panic(err) // the font is part of the program
	}
	return f
}

// printable puts a box for letters that the font does not have; lines end where they did.
func printable(text string) string {
	var buffer sfnt.Buffer
	return strings.Map(func(r rune) rune {
		switch {
		case r == '\n':
			return r
		case r > 0xFFFF:
			return '□'
		}
		if glyph, err := cardFont.GlyphIndex(&buffer, r); err != nil || glyph == 0 {
			return '□'
		}
		return r
	}, text)
}

// addFonts puts the fonts in, which the file then holds.
func addFonts(pdf *fpdf.Fpdf) {
	pdf.AddUTF8FontFromBytes("text", "", goregular.TTF)
	pdf.AddUTF8FontFromBytes("text", "B", gobold.TTF)
}

// newPages begins a document of A4 pages with a line and the page's number at the foot of each.
func newPages(title, foot string) *fpdf.Fpdf {
	pdf := fpdf.New("P", "mm", "A4", "")
	addFonts(pdf)
	pdf.SetMargins(pageMargin, pageMargin, pageMargin)
	pdf.SetAutoPageBreak(true, pageMargin+4)
	pdf.SetTitle(title, true)
	pdf.SetFooterFunc(func() {
		pdf.SetY(-pageMargin)
		pdf.SetFont("text", "", 8)
		pdf.SetTextColor(95, 87, 77)
		pdf.CellFormat(textWidth-20, 4, printable(foot), "", 0, "L", false, 0, "")
		pdf.CellFormat(20, 4, fmt.Sprintf("page %d", pdf.PageNo()), "", 0, "R", false, 0, "")
	})
	return pdf
}

// WriteBatchCard writes the card as a PDF of A4 pages.
func WriteBatchCard(w io.Writer, c BatchCard) error {
	pdf := newPages(c.Title, c.Title)
	pdf.AddPage()
	if err := cardHead(pdf, c); err != nil {
		return err
	}
	for _, s := range c.Steps {
		cardStep(pdf, s)
	}
	cardEnd(pdf, c)
	if err := pdf.Output(w); err != nil {
		return fmt.Errorf("writing the batch card: %w", err)
	}
	return nil
}

func cardHead(pdf *fpdf.Fpdf, c BatchCard) error {
	code, err := qrcode.Encode(c.Address, qrcode.Medium, 256)
	if err != nil {
		return fmt.Errorf("drawing the code: %w", err)
	}
	pdf.RegisterImageOptionsReader("code", fpdf.ImageOptions{ImageType: "PNG"}, bytes.NewReader(code))
	pdf.ImageOptions("code", 210-pageMargin-codeSide, pageMargin-2, codeSide, codeSide, false, fpdf.ImageOptions{ImageType: "PNG"}, 0, "")
	pdf.SetTextColor(42, 39, 35)
	write(pdf, "B", 18, textWidth-codeSide-4, 8, c.Title)
	write(pdf, "", 10.5, textWidth-codeSide-4, 5, c.Subtitle)
	for _, fact := range c.Facts {
		write(pdf, "", 10.5, textWidth-codeSide-4, 5, fact)
	}
	pdf.SetY(max(pdf.GetY(), pageMargin+codeSide) + 2)
	return nil
}

func write(pdf *fpdf.Fpdf, style string, size, width, height float64, text string) {
	pdf.SetFont("text", style, size)
	pdf.MultiCell(width, height, printable(text), "", "L", false)
}

// cardStep draws one step: hands as a bar, the rest hatched beneath, then what to do and mind.
func cardStep(pdf *fpdf.Fpdf, s CardStep) {
	indent := 0.0
	if s.Inside {
		indent = 8
	}
	if pdf.GetY() > 297-pageMargin-30 {
		pdf.AddPage()
	}
	pdf.SetDrawColor(221, 213, 198)
	pdf.Line(pageMargin+indent, pdf.GetY()+1, 210-pageMargin, pdf.GetY()+1)
	pdf.SetY(pdf.GetY() + 2.5)
	pdf.SetX(pageMargin + indent)
	pdf.SetFillColor(169, 72, 43)
	pdf.Rect(pageMargin+indent, pdf.GetY()+0.6, 3.4, 3.8, "F")
	pdf.SetX(pageMargin + indent + 6)
	pdf.SetTextColor(42, 39, 35)
	write(pdf, "B", 11, textWidth-indent-6, 5, s.Name+"  ·  "+s.Hands)
	if s.Rest != "" {
		y := pdf.GetY() + 1.2
		pdf.SetDrawColor(59, 74, 102)
		for x := 0.0; x < 3.4; x += 1.1 {
			pdf.Line(pageMargin+indent+x, y+2.4, pageMargin+indent+x+1.1, y)
		}
		pdf.SetX(pageMargin + indent + 6)
		pdf.SetTextColor(59, 74, 102)
		write(pdf, "", 9.5, textWidth-indent-6, 4.6, s.Rest)
	}
	pdf.SetTextColor(42, 39, 35)
	pdf.SetDrawColor(133, 124, 108)
	for _, point := range s.Checklist {
		pdf.Rect(pageMargin+indent+6, pdf.GetY()+1, 2.8, 2.8, "D")
		pdf.SetX(pageMargin + indent + 11)
		write(pdf, "", 9.5, textWidth-indent-11, 4.6, point)
	}
	pdf.SetTextColor(111, 71, 12)
	for _, caution := range s.Cautions {
		pdf.SetX(pageMargin + indent + 6)
		write(pdf, "", 9, textWidth-indent-6, 4.4, "! "+caution)
	}
	pdf.SetTextColor(42, 39, 35)
}

// cardNames are drawn as they are on the prints, in any script.
func cardNames(pdf *fpdf.Fpdf, names []string) {
	const height, numbers = 5.0, 8.0
	setter := lettering.Style{Face: lettering.Sans, Height: 2.5, Least: 1}.On(rectangle(textWidth-numbers, height))
	d := sheetDrawer{pdf: pdf, height: 297}
	for i, name := range names {
		if pdf.GetY() > 297-pageMargin-10 {
			pdf.AddPage()
		}
		y := pdf.GetY()
		write(pdf, "", 10, numbers, 4.8, strconv.Itoa(i+1))
		if set := setter.Set(name); len(set.Outline) > 0 {
			least, _ := set.Outline.Box()
			d.pdf.SetFillColor(42, 39, 35)
			d.fill(set.Outline.Moved(pageMargin+numbers-least[0], y), "F")
		}
		pdf.SetY(y + height)
	}
}

func cardEnd(pdf *fpdf.Fpdf, c BatchCard) {
	pdf.SetY(pdf.GetY() + 3)
	if len(c.Names) > 0 {
		write(pdf, "B", 10.5, textWidth, 5, "Lettering")
		cardNames(pdf, c.Names)
	}
	write(pdf, "", 9, textWidth, 4.4, c.Foot)
}
