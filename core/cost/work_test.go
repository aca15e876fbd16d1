package cost_test

import (
	"fmt"
	"testing"

	"tidykiln/core/fault"

	"github.com/shopspring/decimal"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"tidykiln/core/cost"
)

func money(text string) cost.Money { return cost.MoneyOf(decimal.RequireFromString(text)) }

func bought(id, quantity, price string) cost.Material {
	q := cost.Quantity{Decimal: decimal.RequireFromString(quantity)}
	return cost.Material{ID: id, Purchases: []cost.Purchase{{Quantity: q, Price: money(price)}}}
}

func use(material string, quantity float64) cost.Use {
	return cost.Use{Material: material, Quantity: cost.QuantityOf(quantity)}
}

// prints is a recipe whose prints lie four to a sheet of 1.00, worked in lots of ten
// that are set up for in 6 min at 10.00 an hour.
func prints() cost.Work {
	return cost.Work{LabourPerHour: money("10"), OverheadPerHour: money("0"), LotSize: 10,
		Materials: []cost.Material{bought("blank", "10", "20"), bought("sheet", "1", "1")},
		Stages: []cost.WorkStage{{Stage: cost.Stage{ID: "print", SetupMinutes: cost.QuantityOf(6), PerPiece: []cost.Use{use("blank", 1)}},
			PerWhole: []cost.WholeUse{{Use: use("sheet", 1), Every: cost.QuantityOf(4)}}}}}
}

func TestTheCurveStepsWhereAnotherSheetOrLotBegins(t *testing.T) {
	points, err := prints().Curve(12)
	require.NoError(t, err)
	// a blank 2.00, a sheet 1.00, the set-up 1.00
	for n, want := range map[int]string{1: "4.0000", 4: "2.5000", 5: "2.6000", 8: "2.3750", 10: "2.4000", 11: "2.4545", 12: "2.4167"} {
		assert.Equal(t, want, points[n-1].Cost.StringFixed(4), n)
	}
	assert.Empty(t, points[0].Begins)
	assert.Empty(t, points[3].Begins)
	assert.Equal(t, []cost.Begin{{Material: "sheet", Count: 2}}, points[4].Begins)
	assert.Equal(t, []cost.Begin{{Material: "", Count: 2}}, points[10].Begins)
	assert.Equal(t, 8, cost.Enough(points, 0.02), "at 7 a piece costs 2.4286, 2.3 % more than the 2.375 at 8, the cheapest")
	assert.Equal(t, 4, cost.Enough(points, 0.06))
	assert.Zero(t, cost.Enough(nil, 0.03))
}

func TestSpoiltPiecesTakeSheetsToo(t *testing.T) {
	w := prints()
	w.Stages[0].Yield = new(cost.QuantityOf(0.8))
	// 4 good of 5 started take two sheets; 8 of 10 three, in one lot; 9 of 11.25 two lots
	p := w.Problem(4)
	assert.Equal(t, "2", p.Stages[0].PerBatch[0].Quantity.String())
	assert.Equal(t, "6", w.Problem(8).Stages[0].SetupMinutes.String())
	assert.Equal(t, "12", w.Problem(9).Stages[0].SetupMinutes.String())
}

// The curve is worked out by terms, the answer line by line.
func TestTheCurveAgreesWithTheAnswerAtEverySize(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		w := randomWork(t, rapid.IntRange(1, 6).Draw(t, "stages"), 4)
		points, err := w.Curve(40)
		require.NoError(t, err)
		for _, n := range []int{1, 7, 24, 40} {
			r, err := cost.Reckon(w.Problem(n))
			require.NoError(t, err)
			apart := r.Piece().Total.Sub(points[n-1].Cost).Abs()
			assert.True(t, apart.LessThan(decimal.New(1, -20)), "%d pieces: %s apart", n, apart)
		}
	})
}

func randomWork(t *rapid.T, stages, materials int) cost.Work {
	number := func(name string, low, high int) cost.Quantity {
		return cost.QuantityOf(float64(rapid.IntRange(low, high).Draw(t, name)) / 10)
	}
	w := cost.Work{LabourPerHour: money("16"), OverheadPerHour: money("2.4"), LotSize: rapid.IntRange(0, 12).Draw(t, "lot")}
	for i := range materials {
		w.Materials = append(w.Materials, bought(fmt.Sprint(i), number("quantity", 1, 900).String(), number("price", 1, 900).String()))
	}
	material := func() string { return fmt.Sprint(rapid.IntRange(0, materials-1).Draw(t, "material")) }
	for i := range stages {
		y := cost.QuantityOf(float64(rapid.IntRange(50, 100).Draw(t, "yield")) / 100)
		s := cost.WorkStage{Stage: cost.Stage{ID: fmt.Sprint("s", i), Yield: &y, SetupMinutes: number("setup", 0, 200), MinutesPerPiece: number("minutes", 0, 80),
			PerPiece: []cost.Use{{Material: material(), Quantity: number("each", 0, 90)}}, PerBatch: []cost.Use{{Material: material(), Quantity: number("batch", 0, 90)}},
			Outside: &cost.Outside{PerPiece: money(number("out", 0, 30).String())}}}
		s.PerWhole = []cost.WholeUse{{Use: cost.Use{Material: material(), Quantity: number("whole", 0, 20)}, Every: number("every", 10, 90)}}
		w.Stages = append(w.Stages, s)
	}
	return w
}

func TestCurvesAreBounded(t *testing.T) {
	for _, n := range []int{0, -1, 5001} {
		_, err := prints().Curve(n)
		assert.Equal(t, "pieces", fault.Of(err).Path)
	}
	broken := prints()
	broken.LabourPerHour = money("-1")
	_, err := broken.Curve(3)
	assert.Equal(t, "labourPerHour", fault.Of(err).Path)
}

func bigWork() cost.Work {
	w := cost.Work{LabourPerHour: money("16"), OverheadPerHour: money("2.40"), LotSize: 24}
	for i := range 60 {
		w.Materials = append(w.Materials, bought(fmt.Sprint(i), fmt.Sprint(7+i), "18.90"))
	}
	for i := range 40 {
		y := cost.QuantityOf(0.97)
		s := cost.WorkStage{Stage: cost.Stage{ID: fmt.Sprint("s", i), Yield: &y, SetupMinutes: cost.QuantityOf(8), MinutesPerPiece: cost.QuantityOf(2.5), PerPiece: []cost.Use{use(fmt.Sprint(i), 1.25)}}}
		if i < 20 {
			s.PerBatch = []cost.Use{use(fmt.Sprint(40+i), 1)}
		}
		if i < 6 {
			s.PerWhole = []cost.WholeUse{{Use: use(fmt.Sprint(i), 1), Every: cost.QuantityOf(4)}}
		}
		w.Stages = append(w.Stages, s)
	}
	return w
}

// A recipe of 40 stages and 60 materials.
func BenchmarkCostingARecipe(b *testing.B) {
	p := bigWork().Problem(24)
	for b.Loop() {
		if _, err := cost.Compute(p); err != nil {
			b.Fatal(err)
		}
	}
}

// 500 points of the same recipe's curve.
func BenchmarkTheCurve(b *testing.B) {
	w := bigWork()
	for i := range 10 {
		w.Packs = append(w.Packs, cost.Pack{Material: fmt.Sprint(i), Quantity: cost.QuantityOf(50)})
	}
	for b.Loop() {
		if _, err := w.Curve(500); err != nil {
			b.Fatal(err)
		}
	}
}

// Where another pack begins is worked out by terms; here it is counted from the
// lines of the batches of both sizes.
func TestAPackBeginsWhereTheBatchTakesMoreThanThePacksBefore(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		w := randomWork(t, rapid.IntRange(1, 6).Draw(t, "stages"), 3)
		for _, material := range []string{"0", "2"} {
			w.Packs = append(w.Packs, cost.Pack{Material: material, Quantity: cost.QuantityOf(float64(rapid.IntRange(5, 2000).Draw(t, "pack")) / 10)})
		}
		points, err := w.Curve(30)
		require.NoError(t, err)
		packs := func(n int, p cost.Pack) int {
			r, err := cost.Reckon(w.Problem(n))
			require.NoError(t, err)
			taken := decimal.Zero
			for _, l := range r.Lines {
				if l.Material == p.Material {
					taken = taken.Add(l.Quantity)
				}
			}
			return int(taken.DivRound(p.Quantity.Decimal, 20).Round(9).Ceil().IntPart())
		}
		for n := 2; n <= 30; n++ {
			var want []cost.Begin
			for _, p := range w.Packs {
				if now := packs(n, p); now > packs(n-1, p) {
					want = append(want, cost.Begin{Material: p.Material, Pack: true, Count: now})
				}
			}
			var got []cost.Begin
			for _, b := range points[n-1].Begins {
				if b.Pack {
					got = append(got, b)
				}
			}
			assert.Equal(t, want, got, "%d pieces", n)
		}
	})
}
