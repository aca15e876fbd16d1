// Package sheet lays prints out on sheets of paper or film: fewest sheets first,
// then the emptiest last sheet. Question and answer are the documented formats
// tidykiln/sheet-problem@1 and tidykiln/sheets@1 (docs/calculations.md §10).
// Lengths are in millimetres, x to the right and y down.
package sheet

import (
	"context"
	"math"
	"slices"
	"time"
)

// Formats of the question and of the answer.
const (
	ProblemFormat = "tidykiln/sheet-problem@1"
	AnswerFormat  = "tidykiln/sheets@1"
)

// Limits of what is laid out in one go.
const (
	// Largest is the longest that a sheet or a print may be, in mm.
	Largest = 10000
	// MostPrints is how many prints one problem may have.
	MostPrints = 20000
	// MostItems is how many items one problem may list.
	MostItems = 5000
	// DefaultBudgetMs bounds the search where the problem says nothing.
	DefaultBudgetMs = 1000
	// MostBudgetMs is the longest that a search may be asked to take.
	MostBudgetMs = 600000
)

// Problem is what is to be laid out, and on what.
type Problem struct {
	Format string `json:"format"`
	Sheet  Sheet  `json:"sheet"`
	Items  []Item `json:"items"`
	// BudgetMs bounds the search by time; nil means DefaultBudgetMs.
	BudgetMs *int `json:"budgetMs,omitempty"`
	// Rounds bounds the search by count instead, so that the same problem always
	// has the same answer; nil leaves it to the time. It is not part of the file format.
	Rounds *int `json:"-"`
}

// Sheet is a sheet of paper or film: its size, the margin on all four sides that
// stays free, and the least distance between the outlines of two prints.
type Sheet struct {
	WidthMm  float64 `json:"widthMm"`
	HeightMm float64 `json:"heightMm"`
	MarginMm float64 `json:"marginMm,omitempty"`
	GapMm    float64 `json:"gapMm,omitempty"`
}

// Shape names the outline of a print.
type Shape string

const (
	Rect   Shape = "rect"
	Circle Shape = "circle"
)

// Item is a print and how often it is wanted. Width and height belong to a Rect,
// which may be turned by 90° where MayTurn says so; the diameter to a Circle.
type Item struct {
	ID         string  `json:"id"`
	Shape      Shape   `json:"shape"`
	WidthMm    float64 `json:"widthMm,omitempty"`
	HeightMm   float64 `json:"heightMm,omitempty"`
	DiameterMm float64 `json:"diameterMm,omitempty"`
	Count      int     `json:"count"`
	MayTurn    bool    `json:"mayTurn,omitempty"`
}

// Answer is a layout. LowerBound is a proven least number of sheets; Fill the
// outlines' area over the printable area of all sheets but the last, 0 where there
// is only one.
type Answer struct {
	Format     string  `json:"format"`
	SheetCount int     `json:"sheetCount"`
	LowerBound int     `json:"lowerBound"`
	Fill       float64 `json:"fill"`
	Sheets     []Laid  `json:"sheets"`
}

// Laid is one sheet with its prints.
type Laid struct {
	Items []Placed `json:"items"`
}

// Placed is a print on a sheet: the top left corner of its box from the sheet's
// top left corner, Turned by 90°.
type Placed struct {
	ID     string  `json:"id"`
	XMm    float64 `json:"xMm"`
	YMm    float64 `json:"yMm"`
	Turned bool    `json:"turned"`
}

// searchShare is how much of the budget is searched in; the rest is for what comes
// before and after.
const searchShare = 0.94

// Solve lays a problem out, or returns an error that names the field at fault. It
// answers with the best layout found when the budget is used up, the context ends,
// or nothing better is possible.
func Solve(ctx context.Context, p Problem) (Answer, error) {
	if err := p.validate(); err != nil {
		return Answer{}, err
	}
	if p.Rounds == nil {
		budget := DefaultBudgetMs
		if p.BudgetMs != nil {
			budget = *p.BudgetMs
		}
		var stop context.CancelFunc
		ctx, stop = context.WithTimeout(ctx, time.Duration(float64(budget)*searchShare*float64(time.Millisecond)))
		defer stop()
	}
	t := newTable(p)
	bound := t.lowerBound()
	best := t.search(ctx, bound, p.Rounds)
	return t.answer(best, bound), nil
}

// answer turns a layout of kinds into one of the problem's items: of a kind, items
// are handed out in the problem's order.
func (t *table) answer(l layout, bound int) Answer {
	l = slices.Clone(l)
	slices.SortStableFunc(l, func(a, b *pattern) int { return compareFloats(b.area, a.area) })
	a := Answer{Format: AnswerFormat, SheetCount: len(l), LowerBound: bound, Sheets: make([]Laid, 0, len(l))}
	next := t.handout()
	covered := 0.0
	for i, p := range l {
		laid := Laid{Items: make([]Placed, 0, len(p.spots))}
		for _, s := range p.spots {
			f := t.forms[s.form]
			laid.Items = append(laid.Items, Placed{next(f.kind), tidy(s.x + t.margin), tidy(s.y + t.margin), f.turned})
		}
		a.Sheets = append(a.Sheets, laid)
		if i < len(l)-1 {
			covered += p.area
		}
	}
	if len(l) > 1 {
		a.Fill = math.Round(covered/(t.width*t.height*float64(len(l)-1))*10000) / 10000
	}
	return a
}

// handout gives the items of each kind one by one, in the problem's order.
func (t *table) handout() func(kind int) string {
	type place struct{ item, taken int }
	at := make([]place, len(t.kinds))
	return func(kind int) string {
		items, p := t.kinds[kind].items, &at[kind]
		for p.taken == items[p.item].Count {
			*p = place{item: p.item + 1}
		}
		p.taken++
		return items[p.item].ID
	}
}

// tidy frees a length of the noise of binary sums.
func tidy(v float64) float64 { return math.Round(v*1e9) / 1e9 }

func compareFloats(a, b float64) int {
	switch {
	case a < b:
		return -1
	case a > b:
		return 1
	}
	return 0
}
