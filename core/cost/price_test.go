package cost_test

import (
	"testing"

	"tidykiln/core/fault"

	"github.com/shopspring/decimal"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"tidykiln/core/cost"
)

var d = decimal.RequireFromString

// piece costs 6.00, of which 4.00 are for 15 min of labour.
var piece = cost.Piece{Total: d("6.00"), Labour: d("4.00"), HandsMinutes: d("15")}

func percent(v float64) cost.Quantity { return cost.QuantityOf(v) }

// The worked example of a cost problem, priced as a way of selling.
func TestAWayPricesAsTheWorkedExampleDoes(t *testing.T) {
	r, err := cost.Reckon(read(t, example))
	require.NoError(t, err)
	w := cost.Way{FeePercent: percent(6.5), FeeFixed: money("0.30")}
	tag, err := w.TagForMargin(r.Piece(), d("35"))
	require.NoError(t, err)
	assert.Equal(t, "10.65", tag.StringFixed(2))
	assert.Equal(t, "32.18", w.Sell(r.Piece(), tag).EarnedPerHour.StringFixed(2))
}

func TestTagsWorkedByHand(t *testing.T) {
	stall := cost.Way{CardPercent: percent(2), CardFixed: money("0.10")}
	taxed := cost.Way{TaxPercent: percent(20), TaxInPrice: true}
	for name, c := range map[string]struct {
		way                 cost.Way
		margin, wage, floor string
	}{
		// margin 25 %: 6 ÷ 0.75; wage 20.00: 2 + 5; floor: 2
		"nothing taken off": {cost.Way{}, "8.00", "7.00", "2.00"},
		// (6 + 0.10) ÷ 0.73 = 8.356; 7.10 ÷ 0.98 = 7.245; 2.10 ÷ 0.98 = 2.143
		"a card": {stall, "8.36", "7.25", "2.15"},
		// the tag holds a fifth on top: 8 × 1.2, 7 × 1.2, 2 × 1.2
		"tax in the price": {taxed, "9.60", "8.40", "2.40"},
		// the next tags that end so; the floor knows no ending
		"ending on 90": {cost.Way{Ending: new(90)}, "8.90", "7.90", "2.00"},
		"ending on 00": {cost.Way{Ending: new(0)}, "8.00", "7.00", "2.00"},
		// the card takes its 2 % of the tax too: 6.10 ÷ (1 − 0.024 − 0.25) = 8.402, 7.10 ÷ 0.976 = 7.275, 2.10 ÷ 0.976 = 2.152
		"tax on top": {cost.Way{CardPercent: percent(2), CardFixed: money("0.10"), TaxPercent: percent(20)}, "8.41", "7.28", "2.16"},
	} {
		require.NoError(t, c.way.Validate(), name)
		margin, err := c.way.TagForMargin(piece, d("25"))
		require.NoError(t, err, name)
		assert.Equal(t, c.margin, margin.StringFixed(2), name)
		assert.Equal(t, c.wage, c.way.TagForWage(piece, d("20")).StringFixed(2), name)
		assert.Equal(t, c.floor, c.way.Floor(piece).StringFixed(2), name)
	}
}

func TestASaleShowsTaxApart(t *testing.T) {
	w := cost.Way{FeePercent: percent(10), TaxPercent: percent(20), TaxInPrice: true}
	s := w.Sell(piece, d("12.00"))
	for want, got := range map[string]decimal.Decimal{"10.00": s.Net, "2.00": s.Tax, "1.00": s.Fees, "9.00": s.Kept, "3.00": s.Left, "30.00": s.MarginPercent, "28.00": *s.EarnedPerHour} {
		assert.Equal(t, want, got.StringFixed(2))
	}
	assert.Equal(t, "7.00", s.Contribution(piece).StringFixed(2))
}

func TestATagIsTheLowestThatDoes(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		cents := func(name string, high int) decimal.Decimal {
			return decimal.New(int64(rapid.IntRange(0, high).Draw(t, name)), -2)
		}
		w := cost.Way{FeePercent: cost.Quantity{Decimal: cents("fee", 2000)}, FeeFixed: cost.MoneyOf(cents("fixed", 100)), CardPercent: cost.Quantity{Decimal: cents("card", 500)},
			TaxPercent: cost.Quantity{Decimal: cents("tax", 2500)}, TaxInPrice: rapid.Bool().Draw(t, "in price")}
		step := "0.01"
		if rapid.Bool().Draw(t, "ends") {
			w.Ending, step = new(rapid.IntRange(0, 99).Draw(t, "ending")), "1.00"
		}
		p := cost.Piece{Total: cents("total", 9000).Add(d("0.01")), HandsMinutes: d("10")}
		p.Labour = p.Total.Div(d("2"))
		margin, wage := cents("margin", 4000), cents("wage", 9000)
		tag, err := w.TagForMargin(p, margin)
		require.NoError(t, err)
		hair := d("0.0000000001")
		assert.True(t, w.Sell(p, tag).MarginPercent.Add(hair).GreaterThanOrEqual(margin))
		if lower := tag.Sub(d(step)); lower.IsPositive() {
			assert.True(t, w.Sell(p, lower).MarginPercent.LessThan(margin))
		}
		tag = w.TagForWage(p, wage)
		assert.True(t, w.Sell(p, tag).EarnedPerHour.Add(hair).GreaterThanOrEqual(wage))
		if lower := tag.Sub(d(step)); lower.IsPositive() {
			assert.True(t, w.Sell(p, lower).EarnedPerHour.LessThan(wage))
		}
	})
}

func TestWaysThatLeaveNothingAreRefused(t *testing.T) {
	for _, c := range []struct {
		way cost.Way
		at  string
	}{
		{cost.Way{FeePercent: percent(60), CardPercent: percent(40)}, "feePercent"},
		{cost.Way{FeePercent: percent(-1)}, "feePercent"},
		{cost.Way{TaxPercent: percent(100)}, "taxPercent"},
		{cost.Way{Ending: new(100)}, "ending"},
		{cost.Way{CardFixed: money("-0.01")}, "cardFixed"},
	} {
		assert.Equal(t, c.at, fault.Of(c.way.Validate()).Path)
	}
	_, err := cost.Way{FeePercent: percent(50)}.TagForMargin(piece, d("50"))
	assert.ErrorIs(t, err, cost.ErrNothingKept)
	assert.Nil(t, cost.Way{}.Sell(cost.Piece{}, d("3")).EarnedPerHour, "no hands, no hour")
}

func TestAFairPaysWhenEnoughIsSold(t *testing.T) {
	// 10 at 4.00 and 5 at 2.00 are 50.00; a stall of 30.00 is paid by 30 ÷ 50 of 15 pieces
	f, err := cost.BreakEven(d("30"), d("5"), []cost.Offer{{10, d("4")}, {5, d("2")}})
	require.NoError(t, err)
	assert.Equal(t, 9, f.BreakEven)
	assert.Equal(t, "20", f.Brings.String())
	assert.Equal(t, "4", f.PerHour.String())
	f, err = cost.BreakEven(d("60"), d("0"), []cost.Offer{{10, d("4")}, {5, d("2")}})
	require.NoError(t, err)
	assert.Zero(t, f.BreakEven, "all of them do not pay for it")
	assert.Nil(t, f.PerHour)
	_, err = cost.BreakEven(d("-1"), d("0"), nil)
	assert.Error(t, err)
	_, err = cost.BreakEven(d("1"), d("0"), []cost.Offer{{-1, d("4")}})
	assert.Equal(t, "offers[0].pieces", fault.Of(err).Path)
}
