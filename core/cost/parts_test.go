package cost_test

import (
	"fmt"
	"strings"
	"testing"

	"github.com/shopspring/decimal"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"tidykiln/core/cost"
)

// ask is a problem with one material at 0.50 and the given stages.
func ask(good int, rates, stages, selling string) string {
	if selling != "" {
		selling = `,"selling":` + selling
	}
	return fmt.Sprintf(`{"format":"tidykiln/cost-problem@1","goodPieces":%d,%s,
	 "materials":[{"id":"m","purchases":[{"quantity":10,"price":"5.00"}]}],"stages":[%s]%s}`, good, rates, stages, selling)
}

const (
	noRates  = `"labourPerHour":"0","overheadPerHour":"0"`
	hourly   = `"labourPerHour":"12.00","overheadPerHour":"3.00"`
	oneStage = `{"id":"a","perPiece":[{"material":"m","quantity":3}]}`
)

// Each case is worked by hand in its comment.
func TestPartsWorkedByHand(t *testing.T) {
	for name, c := range map[string]struct {
		problem string
		want    cost.PerPiece
		total   string
	}{
		// 3 × 0.50
		"a material for each piece": {ask(4, noRates, oneStage, ""), cost.PerPiece{Materials: "1.5000", Labour: "0.0000", Overhead: "0.0000", Outside: "0.0000", Total: "1.5000"}, "6.00"},
		// 6 × 0.50 shared by 4
		"a material for the batch": {ask(4, noRates, `{"id":"a","perBatch":[{"material":"m","quantity":6}]}`, ""), cost.PerPiece{Materials: "0.7500", Labour: "0.0000", Overhead: "0.0000", Outside: "0.0000", Total: "0.7500"}, "3.00"},
		// (20 + 4 × 10) min = 1 h, 12.00 and 3.00, shared by 4
		"hands": {ask(4, hourly, `{"id":"a","setupMinutes":20,"minutesPerPiece":10}`, ""), cost.PerPiece{Materials: "0.0000", Labour: "3.0000", Overhead: "0.7500", Outside: "0.0000", Total: "3.7500"}, "15.00"},
		// half survive: 8 started, 8 × 1.50 ÷ 4
		"half of them spoiled": {ask(4, noRates, `{"id":"a","yield":0.5,"perPiece":[{"material":"m","quantity":3}]}`, ""), cost.PerPiece{Materials: "3.0000", Labour: "0.0000", Overhead: "0.0000", Outside: "0.0000", Total: "3.0000"}, "12.00"},
		// spoils after the stage are paid for there, spoils before it are not: 4 ÷ 0.5 = 8 started at a, 4 at b
		"spoils are paid for where they were": {ask(4, noRates, `{"id":"a","yield":0.5,"perPiece":[{"material":"m","quantity":1}]},{"id":"b","perPiece":[{"material":"m","quantity":1}]}`, ""), cost.PerPiece{Materials: "1.5000", Labour: "0.0000", Overhead: "0.0000", Outside: "0.0000", Total: "1.5000"}, "6.00"},
		// 0.30 for each of 8 started and 2.00 for the batch, shared by 4
		"work bought in": {ask(4, noRates, `{"id":"a","yield":0.5,"outside":{"perPiece":"0.30","perBatch":"2.00"}}`, ""), cost.PerPiece{Materials: "0.0000", Labour: "0.0000", Overhead: "0.0000", Outside: "1.1000", Total: "1.1000"}, "4.40"},
		// a third of a cent is rounded half up, at the end: 1.00 ÷ 3
		"rounding comes last": {ask(3, noRates, `{"id":"a","perBatch":[{"material":"m","quantity":2}]}`, ""), cost.PerPiece{Materials: "0.3333", Labour: "0.0000", Overhead: "0.0000", Outside: "0.0000", Total: "0.3333"}, "1.00"},
	} {
		a, err := cost.Compute(read(t, c.problem))
		require.NoError(t, err, name)
		assert.Equal(t, c.want, a.PerPiece, name)
		assert.Equal(t, c.total, a.BatchTotal, name)
	}
}

func TestPricesWorkedByHand(t *testing.T) {
	for selling, want := range map[string]string{
		`{}`:                                   "1.50", // the cost itself
		`{"marginPercent":50}`:                 "3.00", // 1.50 ÷ 0.5
		`{"feePercent":25,"marginPercent":25}`: "3.00", // the same kept
		`{"feeFixed":"0.30"}`:                  "1.80",
		`{"feePercent":10}`:                    "1.67", // 1.666… goes up to the whole cent
		`{"feeFixed":"0.0001"}`:                "1.51", // a hundredth of a cent over goes up
	} {
		a, err := cost.Compute(read(t, ask(4, noRates, oneStage, selling)))
		require.NoError(t, err, selling)
		require.NotNil(t, a.Price, selling)
		assert.Equal(t, want, *a.Price, selling)
	}
}

func TestAnHourEarnsItsWageAtCostAndLessBelow(t *testing.T) {
	// 10 min at 12.00 an hour is 2.00, overhead 0.50; at a price of 2.50 an hour earns the wage.
	a, err := cost.Compute(read(t, ask(1, hourly, `{"id":"a","minutesPerPiece":10}`, `{}`)))
	require.NoError(t, err)
	assert.Equal(t, "2.50", *a.Price)
	assert.Equal(t, "12.00", *a.EarnedPerHour)
	s := cost.Selling{}
	d := decimal.RequireFromString
	earned, ok := s.EarnedPerHour(d("2.00"), d("2.50"), d("2.00"), d("10"))
	require.True(t, ok)
	assert.Equal(t, "9.00", earned.StringFixed(2), "0.50 lost in ten minutes is 3.00 an hour")
}

func TestTheUnitCostIsTheAverageOfWhatWasBoughtWhateverTheOrder(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		var purchases []string
		paid, quantity := decimal.Zero, decimal.Zero
		for range rapid.IntRange(1, 6).Draw(t, "purchases") {
			q, cents := rapid.IntRange(1, 500).Draw(t, "quantity"), rapid.IntRange(0, 9000).Draw(t, "cents")
			price := decimal.New(int64(cents), -2)
			purchases = append(purchases, fmt.Sprintf(`{"quantity":%d,"price":"%s"}`, q, price.StringFixed(2)))
			paid, quantity = paid.Add(price), quantity.Add(decimal.NewFromInt(int64(q)))
		}
		unit := func(purchases []string) string {
			text := strings.Replace(ask(1, noRates, `{"id":"a","perPiece":[{"material":"m","quantity":1}]}`, ""), `{"quantity":10,"price":"5.00"}`, strings.Join(purchases, ","), 1)
			a, err := cost.Compute(read(t, text))
			require.NoError(t, err)
			return a.PerPiece.Materials
		}
		assert.Equal(t, paid.DivRound(quantity, 30).StringFixed(4), unit(purchases))
		shuffled := rapid.Permutation(purchases).Draw(t, "order")
		assert.Equal(t, unit(purchases), unit(shuffled))
	})
}

func TestBiggerBatchesAreNeverDearer(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		stages := fmt.Sprintf(`{"id":"a","yield":0.9,"setupMinutes":%d,"minutesPerPiece":%d,"perBatch":[{"material":"m","quantity":%d}]}`,
			rapid.IntRange(0, 60).Draw(t, "set-up"), rapid.IntRange(0, 20).Draw(t, "each"), rapid.IntRange(0, 9).Draw(t, "shared"))
		n := rapid.IntRange(1, 400).Draw(t, "pieces")
		cheaper := func(n int) decimal.Decimal {
			a, err := cost.Compute(read(t, ask(n, hourly, stages, "")))
			require.NoError(t, err)
			return decimal.RequireFromString(a.PerPiece.Total)
		}
		assert.True(t, cheaper(n+1).LessThanOrEqual(cheaper(n)))
	})
}
