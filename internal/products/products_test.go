package products_test

import (
	"context"
	"testing"

	"github.com/shopspring/decimal"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"tidykiln/internal/house/housetest"
	"tidykiln/internal/problem"
	"tidykiln/internal/products"
)

func area(t *testing.T) *products.Area { return housetest.New(t).Products }

var swan = products.NewProduct{Name: "Swan ornament", Method: "gel-lift", Look: "crisp", Lettered: true,
	Blank: products.BlankForm{Surface: "wood-bare", Tone: "light", Shape: "disc", Width: "3 1/2 in", Thickness: "10", Hangs: true}}

func TestAProductBeginsWithAWholeRecipeAndAPriceThatKeepsTheMargin(t *testing.T) {
	a, ctx := area(t), context.Background()
	d, err := a.Make(ctx, swan)
	require.NoError(t, err)
	assert.InDelta(t, 88.9, float64(d.Blank.Shape.Diameter), 1e-9)
	assert.Equal(t, 1, d.RecipeNumber)
	assert.NotEmpty(t, d.Draft.Steps)
	assert.Equal(t, d.Draft.TargetPrice, d.Price.StringFixed(2))
	assert.Contains(t, d.Describe, "88.9 mm across")

	gallery, err := a.Gallery(ctx)
	require.NoError(t, err)
	require.Len(t, gallery, 1)
	assert.Equal(t, d.Card, gallery[0])
}

func TestTheLinesAddUpToTheCostAndTheCurveFalls(t *testing.T) {
	d, err := area(t).Make(context.Background(), swan)
	require.NoError(t, err)
	sum := decimal.Zero
	for _, l := range d.Draft.Lines {
		sum = sum.Add(decimal.RequireFromString(l.Amount))
	}
	cost := decimal.RequireFromString(d.Cost)
	assert.True(t, sum.Sub(cost).Abs().LessThan(decimal.RequireFromString("0.0080")), "lines %s, cost %s: only the rounding of each line may part them", sum, cost)
	points := d.Draft.Curve.Points
	require.Len(t, points, 48)
	for i := 1; i < len(points); i++ {
		before, after := decimal.RequireFromString(points[i-1].Cost), decimal.RequireFromString(points[i].Cost)
		assert.True(t, after.LessThanOrEqual(before) || len(points[i].Begins) > 0, "%d pieces cost more, and nothing is begun", points[i].Pieces)
	}
	// 89 mm prints lie six to a sheet, and 5 good pieces are begun as fewer than six, 6 as more
	assert.Equal(t, []string{"sheet 2 of Copy paper, 80 g"}, points[5].Begins)
	assert.Equal(t, d.Cost, points[11].Cost)
	assert.Greater(t, d.Draft.Curve.Enough, 12)
}

func TestABadProductNamesTheField(t *testing.T) {
	a, ctx := area(t), context.Background()
	for field, spoil := range map[string]func(*products.NewProduct){
		"body.name":            func(p *products.NewProduct) { p.Name = "   " },
		"body.blank.width":     func(p *products.NewProduct) { p.Blank.Width = "-3 cm" },
		"body.blank.height":    func(p *products.NewProduct) { p.Blank.Shape, p.Blank.Height = "rectangle", "4 km" },
		"body.blank.thickness": func(p *products.NewProduct) { p.Blank.Thickness = "900 mm" },
		"body.blank.rimGap":    func(p *products.NewProduct) { p.Blank.RimGap = "near" },
		"body.blank.sides":     func(p *products.NewProduct) { p.Blank.Sides = 9 },
		"body.picture.width":   func(p *products.NewProduct) { p.Picture.Width = "wide" },
		"body.method":          func(p *products.NewProduct) { p.Method = "knitting" },
		"body.surface":         func(p *products.NewProduct) { p.Method = "tape-lift" },
		"body.choices.seal":    func(p *products.NewProduct) { p.Choices = map[string]string{"seal": "mud"} },
		"body.material":        func(p *products.NewProduct) { p.Material = "gel-medium" },
	} {
		in := swan
		spoil(&in)
		_, err := a.Make(ctx, in)
		var p *problem.Problem
		require.ErrorAs(t, err, &p, field)
		require.Len(t, p.Errors, 1, field)
		assert.Equal(t, field, p.Errors[0].Location)
	}
	gallery, err := a.Gallery(ctx)
	require.NoError(t, err)
	assert.Empty(t, gallery)
}

func TestAChangeIsKeptOnceAndRefusedWhenStale(t *testing.T) {
	a, ctx := area(t), context.Background()
	d, err := a.Make(ctx, swan)
	require.NoError(t, err)
	changed, err := a.Change(ctx, d.ID, products.ProductChange{Name: "Cob ornament", Price: decimal.RequireFromString("14.50"), Version: 1})
	require.NoError(t, err)
	assert.Equal(t, "Cob ornament", changed.Name)
	assert.NotEqual(t, d.EarnedPerHour, changed.EarnedPerHour)
	_, err = a.Change(ctx, d.ID, products.ProductChange{Name: "Pen ornament", Price: decimal.RequireFromString("9"), Version: 1})
	housetest.RefusedAs(t, err, problem.Stale)
	assert.ErrorContains(t, err, "Cob ornament", "the refusal says what is there now")
	_, err = a.Change(ctx, 999, products.ProductChange{Name: "X", Version: 1})
	housetest.Missing(t, err)
	_, err = a.Change(ctx, d.ID, products.ProductChange{Name: " ", Version: 2})
	assert.Error(t, err)
}
