package sheet

import (
	"context"
	"math"
	"sync"
)

// How prints usually lie on a sheet, in mm: the margin that printers do not reach, the
// gap to cut in, room for a small name beside each print and for the line at the foot
// that shows whether the size was kept.
const (
	UsualMargin = 6.0
	UsualGap    = 2.0
	LabelRoom   = 2.4
	FootRoom    = 9.0
)

// Usual is a sheet of paper as prints usually lie on it.
func Usual(width, height float64) Sheet { return Of(width, height, UsualMargin, UsualGap) }

// Of is a sheet of paper with the foot left free.
func Of(width, height, margin, gap float64) Sheet {
	return Sheet{WidthMm: width, HeightMm: height - max(0, FootRoom-margin), MarginMm: margin, GapMm: gap}
}

// Named is what a print takes on a sheet with its name beside it.
func Named(width, height float64, round bool) Item {
	if round && math.Abs(width-height) < 0.02 {
		return Item{Shape: Circle, DiameterMm: roundUp(width + 2*LabelRoom)}
	}
	return Item{Shape: Rect, WidthMm: roundUp(width), HeightMm: roundUp(height + LabelRoom), MayTurn: true}
}

// roundUp rounds a length up to a hundredth of a mm.
func roundUp(v float64) float64 { return math.Ceil(v*100-1e-6) / 100 }

// onOneRounds bounds the search for the fullest sheet of one kind of print.
const onOneRounds = 20

type kindOnSheet struct {
	item  Item
	sheet Sheet
}

// known keeps what was found: the same few prints are asked about again and again.
var known sync.Map

// OnOne is how many prints like one there are on the fullest sheet of them; 0 where
// none fits.
func OnOne(item Item, s Sheet) int {
	key := kindOnSheet{item, s}
	if n, is := known.Load(key); is {
		return n.(int)
	}
	n := onOne(item, s)
	known.Store(key, n)
	return n
}

func onOne(item Item, s Sheet) int {
	area := item.WidthMm * item.HeightMm
	if item.Shape == Circle {
		area = math.Pi / 4 * item.DiameterMm * item.DiameterMm
	}
	if !(area > 0) {
		return 0
	}
	rounds := onOneRounds
	item.ID, item.Count = "print", min(MostPrints, int(s.WidthMm*s.HeightMm/area)+1)
	a, err := Solve(context.Background(), Problem{Format: ProblemFormat, Sheet: s, Items: []Item{item}, Rounds: &rounds})
	if err != nil {
		return 0 // it is larger than the sheet
	}
	most := 0
	for _, laid := range a.Sheets {
		most = max(most, len(laid.Items))
	}
	return most
}
