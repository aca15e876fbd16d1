package sheet_test

import (
	"context"
	"encoding/json"
	"fmt"
	"math/rand/v2"
	"os"
	"path/filepath"
	"testing"

	"tidykiln/core/sheet"
)

func everyday(b testing.TB) (problems []sheet.Problem) {
	files, err := filepath.Glob("testdata/sheets-everyday-*.json")
	if err != nil || len(files) == 0 {
		b.Fatal("no cases", err)
	}
	for _, f := range files {
		text, err := os.ReadFile(f)
		if err != nil {
			b.Fatal(err)
		}
		var p sheet.Problem
		if err := json.Unmarshal(text, &p); err != nil {
			b.Fatal(err)
		}
		problems = append(problems, p)
	}
	return problems
}

// solveAll reports the sheets and the proven bound over all problems, a run each.
func solveAll(b *testing.B, problems []sheet.Problem) {
	for b.Loop() {
		sheets, bound := 0, 0
		for _, p := range problems {
			a, err := sheet.Solve(context.Background(), p)
			if err != nil {
				b.Fatal(err)
			}
			if f := faultsOf(p, a); f != nil {
				b.Fatal(f)
			}
			sheets += a.SheetCount
			bound += a.LowerBound
		}
		b.ReportMetric(float64(sheets), "sheets")
		b.ReportMetric(float64(bound), "bound")
	}
}

// BenchmarkEverydaySheets: the summed count is what to look at.
func BenchmarkEverydaySheets(b *testing.B) {
	for _, ms := range []int{100, 300, 1000} {
		b.Run(fmt.Sprintf("%dms", ms), func(b *testing.B) {
			problems := everyday(b)
			for i := range problems {
				problems[i].BudgetMs = new(ms)
			}
			solveAll(b, problems)
		})
	}
}

// BenchmarkPuzzles: perfect sheets cut apart, by the step of their sides.
func BenchmarkPuzzles(b *testing.B) {
	for _, step := range []float64{0, 0.1, 0.5, 1} {
		for _, turn := range []bool{true, false} {
			b.Run(fmt.Sprintf("step=%g/turn=%v", step, turn), func(b *testing.B) {
				chance := rand.New(rand.NewPCG(1, 2))
				var problems []sheet.Problem
				for range 10 {
					p := puzzle(chance, 10+chance.IntN(11), step, turn)
					p.Rounds = nil
					problems = append(problems, p)
				}
				solveAll(b, problems)
			})
		}
	}
}

// BenchmarkThreeHundredMixed: 300 prints of 40 sizes, rectangles and circles.
func BenchmarkThreeHundredMixed(b *testing.B) {
	chance := rand.New(rand.NewPCG(3, 4))
	p := sheet.Problem{Format: sheet.ProblemFormat, Sheet: a4}
	for i := range 40 {
		it := sheet.Item{ID: fmt.Sprint(i), Shape: sheet.Circle, DiameterMm: 25 + 70*chance.Float64(), Count: 7 + i%2}
		if i%2 == 0 {
			it = sheet.Item{ID: it.ID, Shape: sheet.Rect, WidthMm: 20 + 90*chance.Float64(), HeightMm: 20 + 90*chance.Float64(), Count: it.Count, MayTurn: i%3 > 0}
		}
		p.Items = append(p.Items, it)
	}
	for _, ms := range []int{100, 1000} {
		b.Run(fmt.Sprintf("%dms", ms), func(b *testing.B) {
			p.BudgetMs = new(ms)
			solveAll(b, []sheet.Problem{p})
		})
	}
}
