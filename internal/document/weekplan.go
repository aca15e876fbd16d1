package document

import (
	"fmt"
	"io"

	"github.com/go-pdf/fpdf"
)

// WeekPlan is some days of the plan on paper, a line a sitting.
type WeekPlan struct {
	Title string
	Foot  string
	Days  []PlanDay
}

// PlanDay is one day; Said is what is to know of it as a whole.
type PlanDay struct {
	Name, Said string
	Lines      []PlanLine
}

// PlanLine is one sitting: when, who, what, and of which lots.
type PlanLine struct{ When, Who, Work, Lots string }

// WriteWeekPlan writes the days as a PDF of A4 pages.
func WriteWeekPlan(w io.Writer, p WeekPlan) error {
	pdf := newPages(p.Title, p.Foot)
	pdf.AddPage()
	pdf.SetTextColor(42, 39, 35)
	write(pdf, "B", 18, textWidth, 8, p.Title)
	for _, d := range p.Days {
		planDay(pdf, d)
	}
	if err := pdf.Output(w); err != nil {
		return fmt.Errorf("writing the week: %w", err)
	}
	return nil
}

// The columns of a line: when, who, what, a box to tick at its end.
const (
	whenWidth = 27.0
	whoWidth  = 24.0
	workWidth = 40.0
	boxSide   = 4.0
	lineHigh  = 4.8
)

func planDay(pdf *fpdf.Fpdf, d PlanDay) {
	if pdf.GetY() > 297-pageMargin-24 {
		pdf.AddPage()
	}
	pdf.Ln(4)
	pdf.SetTextColor(42, 39, 35)
	pdf.SetFont("text", "B", 12.5)
	pdf.CellFormat(whenWidth+whoWidth, 6, printable(d.Name), "", 0, "L", false, 0, "")
	pdf.SetTextColor(95, 87, 77)
	pdf.SetFont("text", "", 9.5)
	pdf.CellFormat(0, 6, printable(d.Said), "", 1, "L", false, 0, "")
	for _, l := range d.Lines {
		planLine(pdf, l)
	}
}

func planLine(pdf *fpdf.Fpdf, l PlanLine) {
	lotsWidth := textWidth - whenWidth - whoWidth - workWidth - boxSide - 4
	pdf.SetFont("text", "", 9.5)
	rows := len(pdf.SplitText(printable(l.Lots), lotsWidth))
	pdf.SetFont("text", "B", 9.5)
	rows = max(rows, len(pdf.SplitText(printable(l.Work), workWidth)), len(pdf.SplitText(printable(l.Who), whoWidth)))
	high := float64(max(1, rows))*lineHigh + 2
	if pdf.GetY()+high > 297-pageMargin-6 {
		pdf.AddPage()
	}
	top := pdf.GetY()
	pdf.SetDrawColor(221, 213, 198)
	pdf.Line(pageMargin, top, 210-pageMargin, top)
	cell := func(x, width float64, style, text string) {
		pdf.SetXY(x, top+1)
		pdf.SetTextColor(42, 39, 35)
		pdf.SetFont("text", style, 9.5)
		pdf.MultiCell(width, lineHigh, printable(text), "", "L", false)
	}
	x := pageMargin
	cell(x, whenWidth, "B", l.When)
	cell(x+whenWidth, whoWidth, "", l.Who)
	cell(x+whenWidth+whoWidth, workWidth, "B", l.Work)
	cell(x+whenWidth+whoWidth+workWidth, lotsWidth, "", l.Lots)
	pdf.SetDrawColor(120, 112, 100)
	pdf.Rect(210-pageMargin-boxSide, top+1.2, boxSide, boxSide, "D")
	pdf.SetXY(pageMargin, top+high)
}
