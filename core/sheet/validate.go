package sheet

import (
	"fmt"

	"tidykiln/core/fault"
)

// validate names the first field that no problem can have. A print that fits no
// sheet is named by its id.
func (p Problem) validate() error {
	if p.Format != ProblemFormat {
		return fault.At("format", "must be %s", ProblemFormat)
	}
	if err := p.Sheet.validate(); err != nil {
		return fault.Under("sheet", err)
	}
	if p.BudgetMs != nil && (*p.BudgetMs < 0 || *p.BudgetMs > MostBudgetMs) {
		return fault.At("budgetMs", "must be from 0 to %d", MostBudgetMs)
	}
	if len(p.Items) > MostItems {
		return fault.At("items", "must be at most %d", MostItems)
	}
	seen := make(map[string]bool, len(p.Items))
	prints := 0
	for i, it := range p.Items {
		path := fmt.Sprintf("items[%d]", i)
		if err := it.validate(); err != nil {
			return fault.Under(path, err)
		}
		if seen[it.ID] {
			return fault.At(path+".id", "%q is there twice", it.ID)
		}
		seen[it.ID] = true
		if it.Count > 0 && !p.Sheet.holds(it) {
			return fault.At(path, "%q fits no sheet: inside the margins it is %g × %g mm", it.ID, tidy(p.Sheet.inner(p.Sheet.WidthMm)), tidy(p.Sheet.inner(p.Sheet.HeightMm)))
		}
		if prints += it.Count; prints > MostPrints {
			return fault.At(path+".count", "makes more than %d prints in all", MostPrints)
		}
	}
	return nil
}

func (s Sheet) validate() error {
	for _, m := range []struct {
		name  string
		value float64
	}{{"widthMm", s.WidthMm}, {"heightMm", s.HeightMm}} {
		if !(m.value > 0 && m.value <= Largest) {
			return fault.At(m.name, "must be over 0 and at most %d", Largest)
		}
	}
	if !(s.MarginMm >= 0 && 2*s.MarginMm < min(s.WidthMm, s.HeightMm)) {
		return fault.At("marginMm", "must be 0 or more and leave something of the sheet")
	}
	if !(s.GapMm >= 0 && s.GapMm <= Largest) {
		return fault.At("gapMm", "must be from 0 to %d", Largest)
	}
	return nil
}

func (it Item) validate() error {
	if it.ID == "" {
		return fault.At("id", "must not be empty")
	}
	if it.Count < 0 || it.Count > MostPrints {
		return fault.At("count", "must be from 0 to %d", MostPrints)
	}
	switch it.Shape {
	case Rect:
		if err := it.side("widthMm", it.WidthMm); err != nil {
			return err
		}
		if err := it.side("heightMm", it.HeightMm); err != nil {
			return err
		}
		if it.DiameterMm != 0 {
			return fault.At("diameterMm", "belongs to a circle")
		}
		return nil
	case Circle:
		if it.WidthMm != 0 {
			return fault.At("widthMm", "belongs to a rect; a circle has diameterMm")
		}
		if it.HeightMm != 0 {
			return fault.At("heightMm", "belongs to a rect; a circle has diameterMm")
		}
		return it.side("diameterMm", it.DiameterMm)
	}
	return fault.At("shape", "must be rect or circle")
}

func (it Item) side(name string, value float64) error {
	if !(value > 0 && value <= Largest) {
		return fault.At(name, "must be over 0 and at most %d", Largest)
	}
	return nil
}

// inner is what the margins leave of a side.
func (s Sheet) inner(side float64) float64 { return side - 2*s.MarginMm }

func (s Sheet) holds(it Item) bool {
	fits := func(w, h float64) bool {
		return w <= s.inner(s.WidthMm)+slack && h <= s.inner(s.HeightMm)+slack
	}
	if it.Shape == Circle {
		return fits(it.DiameterMm, it.DiameterMm)
	}
	return fits(it.WidthMm, it.HeightMm) || it.MayTurn && fits(it.HeightMm, it.WidthMm)
}
