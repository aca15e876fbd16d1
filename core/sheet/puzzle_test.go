package sheet_test

import (
	"context"
	"fmt"
	"math"
	"math/rand/v2"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"tidykiln/core/sheet"
)

// puzzle cuts full sheets by random cuts from edge to edge into 8 to 16 rectangles
// each, with sides in steps of so many mm (0: any length), and shuffles them.
func puzzle(chance *rand.Rand, sheets int, step float64, turn bool) sheet.Problem {
	p := sheet.Problem{Format: sheet.ProblemFormat, Sheet: sheet.Sheet{WidthMm: 210, HeightMm: 297}, Rounds: new(0)}
	stepped := func(v float64) float64 {
		if step == 0 {
			return v
		}
		return math.Round(v/step) * step
	}
	for range sheets {
		for _, q := range cut(chance, p.Sheet.WidthMm, p.Sheet.HeightMm, stepped) {
			if turn && chance.IntN(2) == 0 {
				q[0], q[1] = q[1], q[0]
			}
			p.Items = append(p.Items, sheet.Item{ID: fmt.Sprint("r", len(p.Items)), Shape: sheet.Rect, WidthMm: q[0], HeightMm: q[1], Count: 1, MayTurn: turn})
		}
	}
	chance.Shuffle(len(p.Items), func(i, j int) { p.Items[i], p.Items[j] = p.Items[j], p.Items[i] })
	return p
}

func cut(chance *rand.Rand, w, h float64, stepped func(float64) float64) [][2]float64 {
	pieces := [][2]float64{{w, h}}
	for many := 8 + chance.IntN(9); len(pieces) < many; {
		i := chance.IntN(len(pieces))
		q := pieces[i]
		side := chance.IntN(2)
		if q[side]*1.8 < q[1-side] {
			side = 1 - side
		}
		at := stepped(q[side] * (0.25 + 0.5*chance.Float64()))
		one, other := q, q
		one[side], other[side] = stepped(at), stepped(q[side]-at)
		pieces[i] = one
		pieces = append(pieces, other)
	}
	return pieces
}

func TestSheetsCutApartAreFoundAgain(t *testing.T) {
	for _, step := range []float64{0, 0.1} {
		for _, turn := range []bool{true, false} {
			chance := rand.New(rand.NewPCG(5, 15))
			for _, sheets := range []int{1, 10, 15, 20} {
				p := puzzle(chance, sheets, step, turn)
				a := solved(t, p)
				assert.Equal(t, sheets, a.SheetCount, "step %g, turning %v", step, turn)
				if sheets > 1 {
					assert.InDelta(t, 1, a.Fill, 1e-4)
				}
			}
		}
	}
}

func TestAPuzzleWithMarginsAndGapsIsOneToo(t *testing.T) {
	p := puzzle(rand.New(rand.NewPCG(8, 1)), 5, 0.1, true)
	p.Sheet = sheet.Sheet{WidthMm: 210 - 3 + 2*6, HeightMm: 297 - 3 + 2*6, MarginMm: 6, GapMm: 3}
	for i := range p.Items {
		p.Items[i].WidthMm -= 3
		p.Items[i].HeightMm -= 3
	}
	assert.Equal(t, 5, solved(t, p).SheetCount)
}

// Where edges match by chance everywhere, it ends all the same, and without a fault.
func TestAPuzzleOfWholeMillimetresEnds(t *testing.T) {
	p := puzzle(rand.New(rand.NewPCG(3, 3)), 12, 5, true)
	p.Rounds, p.BudgetMs = nil, new(300)
	a, err := sheet.Solve(context.Background(), p)
	require.NoError(t, err)
	assert.Empty(t, faultsOf(p, a))
	assert.GreaterOrEqual(t, a.SheetCount, 12)
}
