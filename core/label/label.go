// Package label lays labels out on the sheets they are bought on (docs/calculations.md §14).
package label

import (
	"tidykiln/core/fault"
)

// Sheet is a sheet of equal labels; lengths in mm.
type Sheet struct {
	PageWidth, PageHeight   float64
	Columns, Rows           int
	LabelWidth, LabelHeight float64
	MarginLeft, MarginTop   float64
	// GapX and GapY are between two labels.
	GapX, GapY float64
}

// What a sheet can be, in mm.
const (
	smallestLabel = 8.0
	largestPage   = 500.0
	mostAcross    = 20
	mostDown      = 50
	// slack is how far the figures on a packet may be rounded.
	slack = 0.5
)

// Validate names what no sheet can be: labels that are too small to be written on, or do not
// all lie on the page.
func (s Sheet) Validate() error {
	within := func(path string, value, low, high float64) error {
		if value >= low && value <= high { // NaN is not
			return nil
		}
		return fault.At(path, "must be from %g to %g mm", low, high)
	}
	for _, err := range []error{
		within("pageWidth", s.PageWidth, 2*smallestLabel, largestPage), within("pageHeight", s.PageHeight, 2*smallestLabel, largestPage),
		within("labelWidth", s.LabelWidth, smallestLabel, largestPage), within("labelHeight", s.LabelHeight, smallestLabel, largestPage),
		within("marginLeft", s.MarginLeft, 0, largestPage), within("marginTop", s.MarginTop, 0, largestPage),
		within("gapX", s.GapX, 0, largestPage), within("gapY", s.GapY, 0, largestPage),
	} {
		if err != nil {
			return err
		}
	}
	switch {
	case s.Columns < 1 || s.Columns > mostAcross:
		return fault.At("columns", "must be from 1 to %d", mostAcross)
	case s.Rows < 1 || s.Rows > mostDown:
		return fault.At("rows", "must be from 1 to %d", mostDown)
	case s.MarginLeft+span(s.Columns, s.LabelWidth, s.GapX) > s.PageWidth+slack:
		return fault.At("columns", "%d labels side by side do not fit across the page", s.Columns)
	case s.MarginTop+span(s.Rows, s.LabelHeight, s.GapY) > s.PageHeight+slack:
		return fault.At("rows", "%d rows of labels do not fit down the page", s.Rows)
	}
	return nil
}

func span(n int, each, gap float64) float64 { return float64(n)*each + float64(n-1)*gap }

// PerPage is how many labels a sheet has.
func (s Sheet) PerPage() int { return s.Columns * s.Rows }

// Place is where a label lies: its page, from 0, and its upper left corner in mm.
type Place struct {
	Page int
	X, Y float64
}

// At is the place of the i-th label, from 0, row by row, where so many of the first sheet
// are gone already.
func (s Sheet) At(i, gone int) Place {
	i += gone
	on := i % s.PerPage()
	column, row := on%s.Columns, on/s.Columns
	return Place{Page: i / s.PerPage(), X: s.MarginLeft + float64(column)*(s.LabelWidth+s.GapX), Y: s.MarginTop + float64(row)*(s.LabelHeight+s.GapY)}
}
