package sheet_test

import (
	"fmt"
	"math"

	"tidykiln/core/sheet"
)

// faultsOf holds an answer against the problem, from the rules of the format alone.
func faultsOf(p sheet.Problem, a sheet.Answer) (faults []string) {
	say := func(format string, args ...any) { faults = append(faults, fmt.Sprintf(format, args...)) }
	const off = 1e-6
	items := map[string]sheet.Item{}
	left := map[string]int{}
	for _, it := range p.Items {
		items[it.ID] = it
		left[it.ID] = it.Count
	}
	if a.Format != "tidykiln/sheets@1" || a.SheetCount != len(a.Sheets) {
		say("format %q, %d sheets said to be %d", a.Format, len(a.Sheets), a.SheetCount)
	}
	if a.LowerBound > a.SheetCount {
		say("%d sheets under the bound of %d", a.SheetCount, a.LowerBound)
	}
	type box struct {
		it         sheet.Item
		x, y, w, h float64
	}
	apart := func(a, b box) float64 {
		dx, dy := max(a.x-b.x-b.w, b.x-a.x-a.w, 0), max(a.y-b.y-b.h, b.y-a.y-a.h, 0)
		switch {
		case a.it.Shape == sheet.Circle && b.it.Shape == sheet.Circle:
			return math.Hypot(a.x+a.w/2-b.x-b.w/2, a.y+a.h/2-b.y-b.h/2) - a.w/2 - b.w/2
		case b.it.Shape == sheet.Circle:
			a, b = b, a
			fallthrough
		case a.it.Shape == sheet.Circle:
			cx, cy := a.x+a.w/2, a.y+a.h/2
			nx, ny := math.Max(b.x, math.Min(cx, b.x+b.w)), math.Max(b.y, math.Min(cy, b.y+b.h))
			return math.Hypot(cx-nx, cy-ny) - a.w/2
		}
		if dx == 0 && dy == 0 {
			// How deep they lie in each other, as a distance under none.
			return -min(a.x+a.w-b.x, b.x+b.w-a.x, a.y+a.h-b.y, b.y+b.h-a.y)
		}
		return math.Hypot(dx, dy)
	}
	inside, covered := 0.0, 0.0
	for n, s := range a.Sheets {
		var boxes []box
		area := 0.0
		for _, placed := range s.Items {
			it := items[placed.ID]
			left[placed.ID]--
			b := box{it: it, x: placed.XMm, y: placed.YMm, w: it.WidthMm, h: it.HeightMm}
			if it.Shape == sheet.Circle {
				b.w, b.h = it.DiameterMm, it.DiameterMm
				area += math.Pi * b.w * b.w / 4
			} else {
				area += b.w * b.h
			}
			if placed.Turned {
				b.w, b.h = b.h, b.w
				if it.Shape == sheet.Circle || !it.MayTurn {
					say("%s was turned", placed.ID)
				}
			}
			m := p.Sheet.MarginMm - off
			if b.x < m || b.y < m || b.x+b.w > p.Sheet.WidthMm-m || b.y+b.h > p.Sheet.HeightMm-m {
				say("sheet %d: %s lies in the margin", n, placed.ID)
			}
			for _, o := range boxes {
				if d := apart(b, o); d < p.Sheet.GapMm-off {
					say("sheet %d: %s and %s are %g apart", n, placed.ID, o.it.ID, d)
				}
			}
			boxes = append(boxes, b)
		}
		inside += (p.Sheet.WidthMm - 2*p.Sheet.MarginMm) * (p.Sheet.HeightMm - 2*p.Sheet.MarginMm)
		covered += area
		if n == len(a.Sheets)-1 && n > 0 {
			whole := inside * float64(n) / float64(n+1)
			if math.Abs(a.Fill-(covered-area)/whole) > 1e-4 {
				say("fill %g is %g", a.Fill, (covered-area)/whole)
			}
		}
	}
	for id, n := range left {
		if n != 0 {
			say("%s: %d too few or too many", id, n)
		}
	}
	return faults
}
