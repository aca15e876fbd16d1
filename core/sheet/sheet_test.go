package sheet_test

import (
	"context"
	"math"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"tidykiln/core/fault"
	"tidykiln/core/sheet"
)

func rect(id string, w, h float64, count int) sheet.Item {
	return sheet.Item{ID: id, Shape: sheet.Rect, WidthMm: w, HeightMm: h, Count: count}
}

func turning(id string, w, h float64, count int) sheet.Item {
	it := rect(id, w, h, count)
	it.MayTurn = true
	return it
}

func circle(id string, d float64, count int) sheet.Item {
	return sheet.Item{ID: id, Shape: sheet.Circle, DiameterMm: d, Count: count}
}

var (
	a4     = sheet.Sheet{WidthMm: 210, HeightMm: 297, MarginMm: 5, GapMm: 2}
	letter = sheet.Sheet{WidthMm: 215.9, HeightMm: 279.4, MarginMm: 6, GapMm: 3}
)

func problem(s sheet.Sheet, items ...sheet.Item) sheet.Problem {
	return sheet.Problem{Format: sheet.ProblemFormat, Sheet: s, Items: items, Rounds: new(4)}
}

func solved(t require.TestingT, p sheet.Problem) sheet.Answer {
	a, err := sheet.Solve(context.Background(), p)
	require.NoError(t, err)
	require.Empty(t, faultsOf(p, a))
	return a
}

func TestSheetsOfEverydayWork(t *testing.T) {
	for name, c := range map[string]struct {
		p             sheet.Problem
		sheets, bound int
	}{
		"nothing":                        {problem(a4), 0, 0},
		"nothing of something":           {problem(a4, rect("a", 50, 50, 0)), 0, 0},
		"one":                            {problem(a4, rect("a", 200, 287, 1)), 1, 1},
		"a grid of three by five":        {problem(a4, rect("a", 65, 55, 15)), 1, 1},
		"one more than the grid":         {problem(a4, rect("a", 65, 55, 16)), 2, 2},
		"turned where it may be":         {problem(a4, turning("a", 280, 90, 2)), 1, 1},
		"not turned where it may not be": {problem(sheet.Sheet{WidthMm: 100, HeightMm: 60}, rect("a", 60, 50, 2)), 2, 2},
		// In a grid it is four rows of three; rows that stand between each other are five.
		"circles between circles":       {problem(sheet.Sheet{WidthMm: 210, HeightMm: 318}, circle("c", 70, 13)), 1, 1},
		"a small circle among four":     {problem(sheet.Sheet{WidthMm: 101, HeightMm: 101}, circle("big", 50, 4), circle("small", 20, 1)), 1, 1},
		"a circle in a corner's curve":  {problem(sheet.Sheet{WidthMm: 100, HeightMm: 100}, circle("big", 100, 1), rect("edge", 14, 14, 4)), 1, 1},
		"the example":                   {problem(letter, turning("crest", 95, 60, 14), circle("round", 76, 9)), 3, 3},
		"no two of them beside another": {problem(a4, rect("a", 120, 160, 5)), 5, 5},
	} {
		t.Run(name, func(t *testing.T) {
			a := solved(t, c.p)
			assert.Equal(t, c.sheets, a.SheetCount)
			assert.Equal(t, c.bound, a.LowerBound)
		})
	}
}

func TestTheLastSheetIsTheEmptiest(t *testing.T) {
	a := solved(t, problem(sheet.Sheet{WidthMm: 100, HeightMm: 100}, rect("a", 100, 40, 5), rect("b", 100, 20, 3)))
	require.Equal(t, 3, a.SheetCount)
	assert.Len(t, a.Sheets[2].Items, 2, "60 mm of 260 are left for the last: 40 and 20, or three of 20")
	assert.InDelta(t, 1, a.Fill, 1e-9)
}

func TestPicturesOfOneSizeAreAllThere(t *testing.T) {
	p := problem(a4, rect("boat", 90, 90, 3), rect("heron", 90, 90, 4), turning("lantern", 90, 90, 2))
	a := solved(t, p)
	assert.Equal(t, 2, a.SheetCount)
	assert.False(t, a.Sheets[0].Items[0].Turned, "a square is never turned")
}

func TestTheSameProblemHasTheSameAnswer(t *testing.T) {
	p := problem(a4, turning("a", 95, 60, 9), circle("c", 70, 14), rect("b", 45, 120, 7), circle("d", 30, 11))
	assert.Equal(t, solved(t, p), solved(t, p))
	p.Rounds = nil
	small := problem(a4, turning("a", 95, 60, 9))
	small.Rounds = nil
	assert.Equal(t, solved(t, small), solved(t, small), "where the search ends by itself")
}

func TestWithoutTimeThereIsAnAnswer(t *testing.T) {
	p := problem(a4, turning("a", 95, 60, 90), circle("c", 7, 5000), rect("b", 45, 120, 70))
	p.Rounds, p.BudgetMs = nil, new(0)
	solved(t, p)
	ended, end := context.WithCancel(context.Background())
	end()
	p.Rounds = new(4)
	a, err := sheet.Solve(ended, p)
	require.NoError(t, err)
	assert.Empty(t, faultsOf(p, a))
}

func TestWhatIsWrongIsNamed(t *testing.T) {
	good := func() sheet.Problem { return problem(a4, turning("a", 95, 60, 2), circle("c", 70, 2)) }
	for path, spoil := range map[string]func(p *sheet.Problem){
		"format":              func(p *sheet.Problem) { p.Format = "tidykiln/sheets@1" },
		"sheet.widthMm":       func(p *sheet.Problem) { p.Sheet.WidthMm = 0 },
		"sheet.heightMm":      func(p *sheet.Problem) { p.Sheet.HeightMm = math.Inf(1) },
		"sheet.marginMm":      func(p *sheet.Problem) { p.Sheet.MarginMm = 105 },
		"sheet.gapMm":         func(p *sheet.Problem) { p.Sheet.GapMm = math.NaN() },
		"budgetMs":            func(p *sheet.Problem) { p.BudgetMs = new(-1) },
		"items":               func(p *sheet.Problem) { p.Items = make([]sheet.Item, sheet.MostItems+1) },
		"items[0].id":         func(p *sheet.Problem) { p.Items[0].ID = "" },
		"items[1].id":         func(p *sheet.Problem) { p.Items[1].ID = "a" },
		"items[1].shape":      func(p *sheet.Problem) { p.Items[1].Shape = "disc" },
		"items[0].widthMm":    func(p *sheet.Problem) { p.Items[0].WidthMm = -5 },
		"items[0].heightMm":   func(p *sheet.Problem) { p.Items[0].HeightMm = 0 },
		"items[0].diameterMm": func(p *sheet.Problem) { p.Items[0].DiameterMm = 5 },
		"items[1].widthMm":    func(p *sheet.Problem) { p.Items[1].WidthMm = 5 },
		"items[1].heightMm":   func(p *sheet.Problem) { p.Items[1].HeightMm = 5 },
		"items[1].diameterMm": func(p *sheet.Problem) { p.Items[1].DiameterMm = math.NaN() },
		"items[0].count":      func(p *sheet.Problem) { p.Items[0].Count = -1 },
		"items[1].count":      func(p *sheet.Problem) { p.Items[0].Count, p.Items[1].Count = sheet.MostPrints, 1 },
		"items[1]":            func(p *sheet.Problem) { p.Items[1].DiameterMm = 200.1 },
	} {
		p := good()
		spoil(&p)
		_, err := sheet.Solve(context.Background(), p)
		require.Error(t, err, path)
		assert.Equal(t, path, fault.Of(err).Path)
	}
	p := problem(a4, rect("banner", 250, 60, 1))
	_, err := sheet.Solve(context.Background(), p)
	assert.ErrorContains(t, err, `"banner" fits no sheet`)
	p.Items[0].MayTurn = true
	solved(t, p)
}

// plainly is how many sheets it takes by hand: each kind by itself in a grid or, for
// circles, in rows that stand between those before, and all of them on shelves.
func plainly(p sheet.Problem) int {
	w, h, g := p.Sheet.WidthMm-2*p.Sheet.MarginMm, p.Sheet.HeightMm-2*p.Sheet.MarginMm, p.Sheet.GapMm
	along := func(side, d float64) int { return int((side + g + 1e-9) / (d + g)) }
	alone := 0
	for _, it := range p.Items {
		if it.Count == 0 {
			continue
		}
		best := along(w, it.WidthMm) * along(h, it.HeightMm)
		if it.MayTurn {
			best = max(best, along(w, it.HeightMm)*along(h, it.WidthMm))
		}
		if it.Shape == sheet.Circle {
			d := it.DiameterMm
			rows := func(w, h float64) int {
				count := 0
				for i, y := 0, 0.0; y+d <= h; i, y = i+1, y+(d+g)*math.Sqrt(3)/2 {
					count += along(w-float64(i%2)*(d+g)/2, d)
				}
				return count
			}
			best = max(along(w, d)*along(h, d), rows(w, h), rows(h, w))
		}
		alone += (it.Count + best - 1) / best
	}
	return alone
}

func TestNoRuleIsBrokenAndNothingIsWorseThanByHand(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		s := sheet.Sheet{WidthMm: rapid.Float64Range(80, 400).Draw(t, "width"), HeightMm: rapid.Float64Range(80, 400).Draw(t, "height"),
			MarginMm: rapid.SampledFrom([]float64{0, 3, 6.35}).Draw(t, "margin"), GapMm: rapid.SampledFrom([]float64{0, 0.5, 3}).Draw(t, "gap")}
		most := min(s.WidthMm, s.HeightMm) - 2*s.MarginMm
		p := sheet.Problem{Format: sheet.ProblemFormat, Sheet: s, Rounds: new(2)}
		for i := range rapid.IntRange(1, 6).Draw(t, "kinds") {
			it := sheet.Item{ID: string(rune('a' + i)), Shape: sheet.Circle, Count: rapid.IntRange(0, 20).Draw(t, "count")}
			size := func(name string) float64 {
				v := rapid.Float64Range(8, most).Draw(t, name)
				if rapid.Bool().Draw(t, "whole") {
					v = math.Floor(v)
				}
				return v
			}
			if rapid.Bool().Draw(t, "rect") {
				it.Shape, it.WidthMm, it.HeightMm, it.MayTurn = sheet.Rect, size("w"), size("h"), rapid.Bool().Draw(t, "turn")
			} else {
				it.DiameterMm = size("d")
			}
			p.Items = append(p.Items, it)
		}
		a := solved(t, p)
		require.LessOrEqual(t, a.SheetCount, plainly(p))
		for _, s := range a.Sheets {
			require.NotEmpty(t, s.Items)
		}
	})
}
