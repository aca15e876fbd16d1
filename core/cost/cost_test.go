package cost_test

import (
	"encoding/json"
	"strings"
	"testing"

	"tidykiln/core/fault"

	"github.com/shopspring/decimal"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"tidykiln/core/cost"
)

const example = `{"format":"tidykiln/cost-problem@1","currency":"EUR","goodPieces":24,
 "labourPerHour":"16.00","overheadPerHour":"2.40",
 "materials":[
  {"id":"medium","unit":"ml","purchases":[{"quantity":480,"price":"18.90","extra":"2.10"},{"quantity":240,"price":"10.80"}]},
  {"id":"blank","unit":"piece","purchases":[{"quantity":50,"price":"41.50","extra":"4.50"}]},
  {"id":"brush","unit":"piece","purchases":[{"quantity":10,"price":"6.00"}]}],
 "stages":[
  {"id":"lay","yield":0.96,"setupMinutes":15,"minutesPerPiece":4,
   "perPiece":[{"material":"blank","quantity":1},{"material":"medium","quantity":7.2}],
   "perBatch":[{"material":"brush","quantity":2}],"outside":{"perBatch":"3.60"}},
  {"id":"remove","yield":0.9,"minutesPerPiece":6},
  {"id":"seal","yield":1,"setupMinutes":10,"minutesPerPiece":1.5,"perPiece":[{"material":"medium","quantity":1.1}]}],
 "selling":{"feePercent":6.5,"feeFixed":"0.30","marginPercent":35}}`

func read(t require.TestingT, text string) cost.Problem {
	var p cost.Problem
	require.NoError(t, json.Unmarshal([]byte(text), &p))
	return p
}

func TestWorkedExampleToTheLastDigit(t *testing.T) {
	answer, err := cost.Compute(read(t, example))
	require.NoError(t, err)
	got, err := json.Marshal(answer)
	require.NoError(t, err)
	assert.JSONEq(t, `{"format":"tidykiln/cost@1","started":[{"stage":"lay","pieces":27.7778},{"stage":"remove","pieces":26.6667},{"stage":"seal","pieces":24}],
 "perPiece":{"materials":"1.5315","labour":"3.6901","overhead":"0.5535","outside":"0.1500","total":"5.9251"},
 "spoilShare":"0.5924","batchTotal":"142.20","price":"10.65","earnedPerHour":"32.18"}`, string(got))
}

func TestBadProblemsNameTheField(t *testing.T) {
	for name, c := range map[string]struct{ from, to, at string }{
		"format":            {`cost-problem@1`, `cost-problem@2`, "format"},
		"no pieces":         {`"goodPieces":24`, `"goodPieces":0`, "goodPieces"},
		"a billion pieces":  {`"goodPieces":24`, `"goodPieces":1000000000`, "goodPieces"},
		"yield over 1":      {`"yield":0.9,`, `"yield":1.1,`, "stages[1].yield"},
		"yield 0":           {`"yield":0.96`, `"yield":0`, "stages[0].yield"},
		"negative minutes":  {`"minutesPerPiece":6`, `"minutesPerPiece":-6`, "stages[1].minutesPerPiece"},
		"empty purchase":    {`"quantity":50`, `"quantity":0`, "materials[1].purchases[0].quantity"},
		"negative price":    {`"price":"6.00"`, `"price":"-6.00"`, "materials[2].purchases[0].price"},
		"unknown material":  {`[{"material":"blank"`, `[{"material":"blanc"`, "stages[0].perPiece[0].material"},
		"same id":           {`"id":"remove"`, `"id":"lay"`, "stages[1].id"},
		"fee and margin":    {`"marginPercent":35`, `"marginPercent":93.5`, "selling.marginPercent"},
		"negative labour":   {`"labourPerHour":"16.00"`, `"labourPerHour":"-1"`, "labourPerHour"},
		"unnamed stage":     {`"id":"seal"`, `"id":""`, "stages[2].id"},
		"negative outside":  {`"perBatch":"3.60"`, `"perBatch":"-3.60"`, "stages[0].outside.perBatch"},
		"negative fixed":    {`"feeFixed":"0.30"`, `"feeFixed":"-0.30"`, "selling.feeFixed"},
		"unnamed material":  {`{"id":"brush"`, `{"id":""`, "materials[2].id"},
		"same material":     {`{"id":"brush"`, `{"id":"blank"`, "materials[2].id"},
		"nothing purchased": {`[{"quantity":10,"price":"6.00"}]`, `[]`, "materials[2].purchases"},
	} {
		require.Contains(t, example, c.from, name)
		_, err := cost.Compute(read(t, strings.Replace(example, c.from, c.to, 1)))
		assert.Equal(t, c.at, fault.Of(err).Path, name)
	}
}

func TestMoneyIsADecimalString(t *testing.T) {
	for _, bad := range []string{`16.0`, `""`, `"x"`, `"1e9"`, `"` + strings.Repeat("9", 50) + `"`} {
		_, err := cost.Compute(read(t, strings.Replace(example, `"16.00"`, bad, 1)))
		assert.Equal(t, "labourPerHour", fault.Of(err).Path, bad)
	}
	for _, bad := range []string{`"1"`, `1e999999999`, `1e-999999999`, `true`} {
		_, err := cost.Compute(read(t, strings.Replace(example, `"minutesPerPiece":6`, `"minutesPerPiece":`+bad, 1)))
		assert.Equal(t, "stages[1].minutesPerPiece", fault.Of(err).Path, bad)
		_, err = cost.Compute(read(t, strings.Replace(example, `"quantity":50`, `"quantity":`+bad, 1)))
		assert.Equal(t, "materials[1].purchases[0].quantity", fault.Of(err).Path, bad)
	}
	var q cost.Quantity
	require.NoError(t, q.UnmarshalJSON([]byte(`1e3`)))
	assert.True(t, q.Equal(decimal.NewFromInt(1000)))
}

func TestWithoutSellingThereIsNoPrice(t *testing.T) {
	p := read(t, example)
	p.Selling = nil
	answer, err := cost.Compute(p)
	require.NoError(t, err)
	assert.Nil(t, answer.Price)
	assert.Nil(t, answer.EarnedPerHour)
}

func TestWithoutHandsNothingIsEarnedPerHour(t *testing.T) {
	p := read(t, example)
	for i := range p.Stages {
		p.Stages[i].SetupMinutes, p.Stages[i].MinutesPerPiece = cost.Quantity{}, cost.Quantity{}
	}
	answer, err := cost.Compute(p)
	require.NoError(t, err)
	assert.NotNil(t, answer.Price)
	assert.Nil(t, answer.EarnedPerHour)
}

func TestMoreSpoilsNeverMakeAPieceCheaper(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		p := read(t, example)
		yield := rapid.Float64Range(0.3, 0.98).Draw(t, "yield")
		worse, better := cost.QuantityOf(yield), cost.QuantityOf(yield+0.02)
		p.Stages[1].Yield = &worse
		a, err := cost.Compute(p)
		require.NoError(t, err)
		p.Stages[1].Yield = &better
		b, err := cost.Compute(p)
		require.NoError(t, err)
		assert.True(t, decimal.RequireFromString(a.PerPiece.Total).GreaterThanOrEqual(decimal.RequireFromString(b.PerPiece.Total)))
	})
}

func TestThePriceKeepsItsMarginAndACentLessDoesNot(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		p := read(t, example)
		p.GoodPieces = rapid.IntRange(1, 200).Draw(t, "pieces")
		p.Selling.FeePercent = cost.QuantityOf(float64(rapid.IntRange(0, 30).Draw(t, "fee")))
		p.Selling.MarginPercent = cost.QuantityOf(float64(rapid.IntRange(0, 60).Draw(t, "margin")))
		a, err := cost.Compute(p)
		require.NoError(t, err)
		price := decimal.RequireFromString(*a.Price)
		left := func(price decimal.Decimal) decimal.Decimal {
			kept := decimal.NewFromInt(100).Sub(p.Selling.FeePercent.Decimal).Sub(p.Selling.MarginPercent.Decimal).Shift(-2)
			return price.Mul(kept).Sub(p.Selling.FeeFixed.Decimal).Sub(decimal.RequireFromString(a.PerPiece.Total))
		}
		hair := decimal.RequireFromString("0.0001")
		assert.True(t, left(price).GreaterThanOrEqual(hair.Neg()), "margin kept at %s", price)
		assert.True(t, left(price.Sub(decimal.RequireFromString("0.01"))).LessThan(hair), "a cent less would not do at %s", price)
	})
}
