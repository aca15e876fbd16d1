package document

import (
	"bytes"
	"fmt"
	"image"
	_ "image/jpeg" // what pictures of lines are
	_ "image/png"
	"io"
	"net/http"

	"github.com/go-pdf/fpdf"
)

// Paper is what goes to a customer: lines with their prices, what they come to, and what
// is said under them.
type Paper struct {
	Title string
	// From is the studio, To whom it is for; each line by line.
	From, To string
	About    string
	Lines    []PaperLine
	Sums     []PaperSum
	Words    []string
	// Foot stands at the foot of every page.
	Foot string
}

// PaperLine is a line with its picture (JPEG or PNG; none where empty).
type PaperLine struct {
	Name, About            string
	Quantity, Each, Amount string
	Picture                []byte `json:"-"`
}

// PaperSum is a line under the lines; the main one is what is to be paid.
type PaperSum struct {
	Name, Amount string
	Main         bool
}

// How a paper is laid out, in mm.
const (
	paperPicture = 16.0
	paperNumbers = 28.0
	paperCount   = 16.0
)

// paperColumns are how wide the columns of a paper's lines are: those that no line has
// are left out.
type paperColumns struct{ picture, names, count, numbers float64 }

func columnsOf(lines []PaperLine) (c paperColumns) {
	for _, l := range lines {
		if len(l.Picture) > 0 {
			c.picture = paperPicture + 4
		}
		if l.Quantity != "" {
			c.count = paperCount
		}
		if l.Amount != "" {
			c.numbers = paperNumbers
		}
	}
	c.names = textWidth - c.picture - c.count - 2*c.numbers
	return c
}

// WritePaper writes a paper as a PDF of A4 pages.
func WritePaper(w io.Writer, p Paper) error {
	pdf := newPages(p.Title, p.Foot)
	pdf.AddPage()
	pdf.SetTextColor(95, 87, 77)
	write(pdf, "", 10.5, textWidth, 5, p.From)
	pdf.Ln(6)
	pdf.SetTextColor(42, 39, 35)
	write(pdf, "", 11, textWidth, 5.5, p.To)
	pdf.Ln(8)
	write(pdf, "B", 20, textWidth, 9, p.Title)
	pdf.SetTextColor(95, 87, 77)
	write(pdf, "", 10.5, textWidth, 5, p.About)
	pdf.Ln(5)
	columns := columnsOf(p.Lines)
	for i, l := range p.Lines {
		if err := paperLine(pdf, l, columns, fmt.Sprint("line ", i)); err != nil {
			return err
		}
	}
	paperRule(pdf)
	paperSums(pdf, p.Sums)
	pdf.Ln(5)
	for _, words := range p.Words {
		write(pdf, "", 10.5, textWidth, 5.5, words)
		pdf.Ln(2)
	}
	if err := pdf.Output(w); err != nil {
		return fmt.Errorf("writing a paper: %w", err)
	}
	return nil
}

// paperSums writes what it comes to, all of it on one page.
func paperSums(pdf *fpdf.Fpdf, sums []PaperSum) {
	const height = 6.5
	if pdf.GetY()+height*float64(len(sums)) > 297-pageMargin-4 {
		pdf.AddPage()
	}
	pdf.SetTextColor(42, 39, 35)
	for _, s := range sums {
		pdf.SetFont("text", map[bool]string{true: "B", false: ""}[s.Main], 11)
		pdf.CellFormat(textWidth-paperNumbers-10, height, printable(s.Name), "", 0, "R", false, 0, "")
		pdf.CellFormat(paperNumbers+10, height, printable(s.Amount), "", 1, "R", false, 0, "")
	}
}

func paperRule(pdf *fpdf.Fpdf) {
	pdf.SetDrawColor(221, 213, 198)
	pdf.Line(pageMargin, pdf.GetY(), 210-pageMargin, pdf.GetY())
	pdf.Ln(2)
}

func paperLine(pdf *fpdf.Fpdf, l PaperLine, c paperColumns, key string) error {
	if pdf.GetY() > 297-pageMargin-paperPicture-12 {
		pdf.AddPage()
	}
	paperRule(pdf)
	top := pdf.GetY()
	if err := paperThumb(pdf, l.Picture, key, top); err != nil {
		return err
	}
	pdf.SetTextColor(42, 39, 35)
	pdf.SetXY(pageMargin+c.picture+c.names, top)
	pdf.SetFont("text", "", 11)
	if c.count > 0 {
		pdf.CellFormat(c.count, 5.5, printable(l.Quantity)+" ×", "", 0, "R", false, 0, "")
	}
	if c.numbers > 0 {
		pdf.CellFormat(c.numbers, 5.5, printable(l.Each), "", 0, "R", false, 0, "")
		pdf.CellFormat(c.numbers, 5.5, printable(l.Amount), "", 0, "R", false, 0, "")
	}
	// What is said of a line can go on over the page: it keeps to its column there.
	pdf.SetLeftMargin(pageMargin + c.picture)
	pdf.SetXY(pageMargin+c.picture, top)
	write(pdf, "B", 11, c.names, 5.5, l.Name)
	if l.About != "" {
		pdf.SetTextColor(95, 87, 77)
		write(pdf, "", 9.5, c.names, 4.5, l.About)
	}
	pdf.SetLeftMargin(pageMargin)
	if y := pdf.GetY(); y < top { // it did
		pdf.SetY(y + 2)
	} else if c.picture > 0 {
		pdf.SetY(max(y, top+paperPicture) + 2)
	} else {
		pdf.SetY(y + 3)
	}
	return nil
}

// paperThumb draws a picture into its square, whole. What is no picture, or one whose
// file was damaged, is left out: the paper is right without it.
func paperThumb(pdf *fpdf.Fpdf, picture []byte, key string, top float64) error {
	if _, _, err := image.Decode(bytes.NewReader(picture)); err != nil {
		return nil
	}
	kind := map[string]string{"image/jpeg": "JPEG", "image/png": "PNG"}[http.DetectContentType(picture)]
	if kind == "" {
		return nil
	}
	info := pdf.RegisterImageOptionsReader(key, fpdf.ImageOptions{ImageType: kind}, bytes.NewReader(picture))
	if err := pdf.Error(); err != nil {
		return fmt.Errorf("drawing the picture of a line: %w", err)
	}
	scale := paperPicture / max(info.Width(), info.Height())
	w, h := info.Width()*scale, info.Height()*scale
	pdf.ImageOptions(key, pageMargin+(paperPicture-w)/2, top+(paperPicture-h)/2, w, h, false, fpdf.ImageOptions{ImageType: kind}, 0, "")
	return nil
}
