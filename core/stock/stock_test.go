package stock_test

import (
	"testing"
	"time"

	"github.com/shopspring/decimal"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"tidykiln/core/measure"
	"tidykiln/core/stock"
)

var d = decimal.RequireFromString

func TestPacksAsPeopleWriteThem(t *testing.T) {
	heavy := new(1.25)
	for _, c := range []struct {
		unit    stock.Unit
		density *float64
		text    string
		want    string
	}{
		{stock.Millilitre, nil, "2 × 473 ml", "946"},
		{stock.Millilitre, nil, "2x473ml", "946"},
		{stock.Millilitre, nil, "16 fl oz", "473.176473"},
		{stock.Millilitre, nil, "½ fl oz", "14.786765"},
		{stock.Millilitre, nil, "1,5 l", "1500"},
		{stock.Millilitre, nil, "480", "480"},
		{stock.Millilitre, nil, "3 * jar of 0.25 l", "750"},
		{stock.Millilitre, heavy, "1 kg", "800"},
		{stock.Gram, nil, "1 lb", "453.59237"},
		{stock.Gram, heavy, "200 ml", "250"},
		{stock.Metre, nil, "Roll of 20 m", "20"},
		{stock.Metre, nil, "50 yd", ""},
		{stock.Metre, nil, "6 x 66 m", "396"},
		{stock.Metre, nil, "10 ft", "3.048"},
		{stock.Sheet, nil, "A4 ream", "500"},
		{stock.Sheet, nil, "5 × A4 ream", "2500"},
		{stock.Sheet, nil, "2 reams", "1000"},
		{stock.Sheet, nil, "25 sheets", "25"},
		{stock.Sheet, nil, "20 A4 sheets", "20"},
		{stock.Piece, nil, "box of 12", "12"},
		{stock.Piece, nil, "50", "50"},
		{stock.Piece, nil, "4 dozen", "48"},
		{stock.Piece, nil, "50 pairs", "100"},
		{stock.Piece, nil, "dozen", "12"},
		{stock.Page, nil, "cartridge of 2300 pages", "2300"},
		{stock.Page, nil, "2,300 pages", "2300"},
		{stock.Page, nil, "2.300 pages", "2300"},
		{stock.Sheet, nil, "1,250", "1250"},
		{stock.Millilitre, nil, "8 fl. oz", "236.588237"},
		{stock.Millilitre, nil, "0 1/2 l", "500"},
		{stock.Metre, nil, "1 1/4 in", "0.03175"},
		{stock.Millilitre, nil, "1 1/2", "1.5"},
		{stock.KilowattHour, nil, "1 kWh", "1"},
		// what is none
		{stock.Millilitre, nil, "", ""},
		{stock.Millilitre, nil, "0 ml", ""},
		{stock.Millilitre, nil, "-5 ml", ""},
		{stock.Millilitre, nil, "1e9", ""},
		{stock.Millilitre, nil, "0 × 5 ml", ""},
		{stock.Millilitre, nil, "99999 × 99999 ml", ""},
		{stock.Millilitre, nil, "0.0000001 ml", ""},
		{stock.Piece, nil, "20 ml", ""},
		{stock.Piece, nil, "a few", ""},
		{stock.Sheet, nil, "A4", ""},
	} {
		got, err := stock.Material{Unit: c.unit, Density: c.density}.ReadPack(c.text)
		if c.want == "" {
			assert.Error(t, err, "%q of %s", c.text, c.unit)
			continue
		}
		require.NoError(t, err, "%q of %s", c.text, c.unit)
		assert.Equal(t, c.want, got.String(), "%q of %s", c.text, c.unit)
	}
	for _, text := range []string{"2,300 ml", "2,300", "2 × 1,250 g"} {
		_, err := stock.Material{Unit: stock.Millilitre, Density: heavy}.ReadPack(text)
		var asked *measure.Ambiguous
		assert.ErrorAs(t, err, &asked, "%s could be two", text)
	}
	_, err := stock.Material{Unit: stock.Millilitre}.ReadPack("500 g")
	assert.ErrorIs(t, err, stock.ErrNeedsDensity)
	_, err = stock.Material{Unit: stock.Gram}.ReadPack("500 ml")
	assert.ErrorIs(t, err, stock.ErrNeedsDensity)
}

var monday = time.Date(2027, 3, 1, 9, 0, 0, 0, time.UTC)

func held() []stock.Held {
	opened := monday.AddDate(0, 0, 2)
	return []stock.Held{
		{ID: 1, Quantity: d("480"), Cost: d("21"), Left: d("480"), ReceivedAt: monday},
		{ID: 2, Quantity: d("240"), Cost: d("10.80"), Left: d("60"), ReceivedAt: monday.AddDate(0, 0, 1), OpenedAt: &opened},
		{ID: 3, Quantity: d("100"), Cost: d("9"), Left: d("0"), ReceivedAt: monday},
	}
}

func TestAUnitCostsTheAverageOfWhatIsLeft(t *testing.T) {
	// 480 at 0.04375 and 60 at 0.045: 23.70 ÷ 540
	assert.Equal(t, "0.043888889", stock.UnitCost(held()).Round(9).String())
	assert.True(t, stock.UnitCost(nil).IsZero())
	assert.Equal(t, "2.7", held()[1].Worth().Round(9).String())
}

func TestTheOldestOpenedIsUsedFirst(t *testing.T) {
	taken, short := stock.Take(held(), d("100"))
	assert.Equal(t, []stock.Taken{{ID: 2, Quantity: d("60")}, {ID: 1, Quantity: d("40")}}, taken)
	assert.True(t, short.IsZero())
	taken, short = stock.Take(held(), d("600"))
	assert.Len(t, taken, 2)
	assert.Equal(t, "60", short.String())
}

func TestSharesAddUpToWhatWasPaid(t *testing.T) {
	// 4.50 of shipping over goods of 40.00 and 60.00
	shares := stock.Share(d("4.50"), []decimal.Decimal{d("40.00"), d("60.00")})
	assert.Equal(t, []string{"1.8", "2.7"}, []string{shares[0].String(), shares[1].String()})
	rapid.Check(t, func(t *rapid.T) {
		var values []decimal.Decimal
		for range rapid.IntRange(1, 9).Draw(t, "lines") {
			values = append(values, decimal.New(int64(rapid.IntRange(0, 9999).Draw(t, "cents")), -2))
		}
		amount := decimal.New(int64(rapid.IntRange(0, 99999).Draw(t, "amount")), -2)
		shares := stock.Share(amount, values)
		assert.True(t, decimal.Sum(decimal.Zero, shares...).Equal(amount))
		for _, s := range shares {
			assert.False(t, s.IsNegative())
		}
	})
}

func TestWhenAMaterialRunsOut(t *testing.T) {
	draw := func(days int, quantity, why string) stock.Draw {
		return stock.Draw{At: monday.AddDate(0, 0, days), Quantity: d(quantity), For: why}
	}
	o := stock.Look(d("100"), []stock.Draw{draw(3, "60", "late"), draw(1, "30", "soon"), draw(1, "20", "as soon"), draw(9, "5", "last")})
	require.NotNil(t, o.RunsOut)
	assert.Equal(t, "late", o.RunsOut.For)
	assert.Equal(t, "15", o.Missing.String())
	require.Len(t, o.Levels, 3)
	assert.Equal(t, []string{"50", "-10", "-15"}, []string{o.Levels[0].Left.String(), o.Levels[1].Left.String(), o.Levels[2].Left.String()})
	enough := stock.Look(d("115"), []stock.Draw{draw(3, "60", ""), draw(1, "55", "")})
	assert.Nil(t, enough.RunsOut)
	assert.True(t, enough.Missing.IsZero())
}

func TestTheCheapestPacks(t *testing.T) {
	jars := []stock.Offer{{1, d("240"), d("10.80")}, {2, d("480"), d("18.90")}, {3, d("1000"), d("36")}}
	for need, want := range map[string][]stock.Buy{
		"200":  {{1, 1}},
		"300":  {{2, 1}},
		"700":  {{1, 1}, {2, 1}}, // 29.70, and the big one 36.00
		"900":  {{3, 1}},         // 36.00, and two middling ones 37.80
		"1200": {{1, 1}, {3, 1}}, // 46.80, two of the middling and a small one 48.60
		"0":    nil,
	} {
		mix, exact := stock.CheapestMix(d(need), jars)
		assert.True(t, exact)
		assert.ElementsMatch(t, want, mix, need)
	}
	mix, exact := stock.CheapestMix(d("5"), nil)
	assert.Nil(t, mix)
	assert.True(t, exact)
	_, exact = stock.CheapestMix(d("10000000"), []stock.Offer{{1, d("0.000001"), d("1")}, {2, d("0.0000013"), d("1.29")}})
	assert.True(t, exact, "what cannot be cheaper is not tried")
	mix, exact = stock.CheapestMix(d("1000000.005"), []stock.Offer{{1, d("7.01"), d("7.01")}, {2, d("7.03"), d("7.03")}, {3, d("7.07"), d("7.07")}, {4, d("7.09"), d("7.09")}})
	assert.NotEmpty(t, mix, "the best so far")
	assert.False(t, exact)
}

// Every mix of up to a dozen packs each, tried one by one.
func TestNoMixIsCheaper(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		var offers []stock.Offer
		for i := range rapid.IntRange(1, 3).Draw(t, "offers") {
			offers = append(offers, stock.Offer{ID: uint64(i), Quantity: decimal.NewFromInt(int64(rapid.IntRange(3, 20).Draw(t, "quantity"))), Price: decimal.New(int64(rapid.IntRange(1, 900).Draw(t, "cents")), -2)})
		}
		need := decimal.NewFromInt(int64(rapid.IntRange(1, 36).Draw(t, "need")))
		mix, exact := stock.CheapestMix(need, offers)
		require.True(t, exact)
		cost, holds := decimal.Zero, decimal.Zero
		for _, b := range mix {
			n := decimal.NewFromInt(int64(b.Packs))
			cost, holds = cost.Add(offers[b.ID].Price.Mul(n)), holds.Add(offers[b.ID].Quantity.Mul(n))
		}
		require.True(t, holds.GreaterThanOrEqual(need))
		var try func(i int, spent, got decimal.Decimal)
		try = func(i int, spent, got decimal.Decimal) {
			if i == len(offers) {
				if got.GreaterThanOrEqual(need) {
					require.False(t, spent.LessThan(cost), "%s does, at %s", got, spent)
				}
				return
			}
			for n := range 13 {
				many := decimal.NewFromInt(int64(n))
				try(i+1, spent.Add(offers[i].Price.Mul(many)), got.Add(offers[i].Quantity.Mul(many)))
			}
		}
		try(0, decimal.Zero, decimal.Zero)
	})
}

func TestTheCheapestMixOfTinyPacksIsFoundWithoutTryingThemAll(t *testing.T) {
	offer := func(id uint64, quantity, price string) stock.Offer {
		return stock.Offer{ID: id, Quantity: decimal.RequireFromString(quantity), Price: decimal.RequireFromString(price)}
	}
	mix, exact := stock.CheapestMix(decimal.NewFromInt(100_000), []stock.Offer{offer(1, "0.1", "0.02"), offer(2, "0.13", "0.03"), offer(3, "0.7", "0.2")})
	assert.True(t, exact)
	assert.Equal(t, []stock.Buy{{ID: 1, Packs: 1_000_000}}, mix)
	mix, _ = stock.CheapestMix(decimal.RequireFromString("100000.05"), []stock.Offer{offer(1, "0.1", "0.02"), offer(2, "0.07", "0.015")})
	assert.NotEmpty(t, mix)
}
