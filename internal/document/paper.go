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
}

// PaperLine is a line with its picture (JPEG or PNG; none where empty).
type PaperLine struct {
	Name, About            string
	Quantity, Each, Amount string
	Picture                []byte
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

// WritePaper writes a paper as a PDF of A4 pages.
func WritePaper(w io.Writer, p Paper) error {
	pdf := newPages(p.Title, p.From)
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
	for i, l := range p.Lines {
		if err := paperLine(pdf, l, fmt.Sprint("line ", i)); err != nil {
			return err
		}
	}
	paperRule(pdf)
	for _, s := range p.Sums {
		style := map[bool]string{true: "B", false: ""}[s.Main]
		pdf.SetFont("text", style, 11)
		pdf.SetTextColor(42, 39, 35)
		pdf.CellFormat(textWidth-paperNumbers, 6.5, printable(s.Name), "", 0, "R", false, 0, "")
		pdf.CellFormat(paperNumbers, 6.5, printable(s.Amount), "", 1, "R", false, 0, "")
	}
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

func paperRule(pdf *fpdf.Fpdf) {
	pdf.SetDrawColor(221, 213, 198)
	pdf.Line(pageMargin, pdf.GetY(), 210-pageMargin, pdf.GetY())
	pdf.Ln(2)
}

func paperLine(pdf *fpdf.Fpdf, l PaperLine, key string) error {
	if pdf.GetY() > 297-pageMargin-paperPicture-12 {
		pdf.AddPage()
	}
	paperRule(pdf)
	top := pdf.GetY()
	if err := paperThumb(pdf, l.Picture, key, top); err != nil {
		return err
	}
	left, names := pageMargin+paperPicture+4, textWidth-paperPicture-4-paperCount-2*paperNumbers
	pdf.SetTextColor(42, 39, 35)
	pdf.SetXY(left+names, top)
	pdf.SetFont("text", "", 11)
	pdf.CellFormat(paperCount, 5.5, printable(l.Quantity)+" ×", "", 0, "R", false, 0, "")
	pdf.CellFormat(paperNumbers, 5.5, printable(l.Each), "", 0, "R", false, 0, "")
	pdf.CellFormat(paperNumbers, 5.5, printable(l.Amount), "", 0, "R", false, 0, "")
	pdf.SetXY(left, top)
	write(pdf, "B", 11, names, 5.5, l.Name)
	if l.About != "" {
		pdf.SetX(left)
		pdf.SetTextColor(95, 87, 77)
		write(pdf, "", 9.5, names, 4.5, l.About)
	}
	pdf.SetY(max(pdf.GetY(), top+paperPicture) + 2)
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
