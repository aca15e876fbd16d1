package bill_test

import (
	"fmt"
	"testing"

	"github.com/shopspring/decimal"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"tidykiln/core/bill"
	"tidykiln/core/fault"
)

var money = decimal.RequireFromString

func TestSumsWorkedByHand(t *testing.T) {
	lines := []bill.Line{{Quantity: 4, Each: money("12.50")}, {Quantity: 1, Each: money("9.99")}, {Quantity: 3, Each: money("0.3333")}}
	for _, c := range []struct {
		percent string
		inPrice bool
		less    string
		net     string
		tax     string
		gross   string
	}{
		{"0", true, "0", "60.99", "0", "60.99"},
		{"19", true, "0", "51.25", "9.74", "60.99"},   // 60.99 / 1.19 = 51.2521
		{"19", false, "0", "60.99", "11.59", "72.58"}, // 11.5881
		{"7.5", false, "0.99", "60.00", "4.50", "64.50"},
		{"20", true, "0.99", "50.00", "10.00", "60.00"},
		{"100", true, "0.99", "30.00", "30.00", "60.00"},
		{"19", true, "60.99", "0", "0", "0"},
	} {
		s, err := bill.Add(lines, money(c.less), bill.Tax{Percent: money(c.percent), InPrice: c.inPrice})
		require.NoError(t, err)
		got := fmt.Sprint(s.Net.StringFixed(2), " ", s.Tax.StringFixed(2), " ", s.Gross.StringFixed(2))
		assert.Equal(t, fmt.Sprint(money(c.net).StringFixed(2), " ", money(c.tax).StringFixed(2), " ", money(c.gross).StringFixed(2)), got, "%+v", c)
		assert.Equal(t, []string{"50", "9.99", "1"}, []string{s.Lines[0].String(), s.Lines[1].String(), s.Lines[2].String()})
	}
}

func TestWhatIsNoBillIsNamed(t *testing.T) {
	one := []bill.Line{{Quantity: 1, Each: money("5")}}
	for at, ask := range map[string]func() error{
		"taxPercent": func() error { _, err := bill.Add(one, decimal.Zero, bill.Tax{Percent: money("100.1")}); return err },
		"less":       func() error { _, err := bill.Add(one, money("5.01"), bill.Tax{}); return err },
		"lines[0].quantity": func() error {
			_, err := bill.Add([]bill.Line{{Quantity: 0, Each: money("5")}}, decimal.Zero, bill.Tax{})
			return err
		},
		"lines[0].each": func() error {
			_, err := bill.Add([]bill.Line{{Quantity: 1, Each: money("-0.01")}}, decimal.Zero, bill.Tax{})
			return err
		},
		"lines": func() error { _, err := bill.Add(make([]bill.Line, 201), decimal.Zero, bill.Tax{}); return err },
		"rule":  func() error { _, err := bill.Keeping{}.Keep(money("1"), money("1")); return err },
		"percent": func() error {
			_, err := bill.Keeping{Rule: bill.KeepShare, Percent: money("101")}.Keep(money("1"), money("1"))
			return err
		},
		"depositPercent": func() error { _, err := bill.Deposit(money("1"), money("-1")); return err },
	} {
		err := ask()
		require.Error(t, err, at)
		assert.Equal(t, at, fault.Of(err).Path)
	}
	for _, less := range []string{"-1", "0.001", "10000001"} {
		_, err := bill.Add(one, money(less), bill.Tax{})
		assert.Equal(t, "less", fault.Of(err).Path, less)
	}
	_, err := bill.Add([]bill.Line{{Quantity: 1, Each: money("0.00001")}}, decimal.Zero, bill.Tax{})
	assert.Equal(t, "lines[0].each", fault.Of(err).Path)
}

func TestWhatIsKeptOfADeposit(t *testing.T) {
	for _, c := range []struct {
		rule              bill.Rule
		percent           string
		paid, spent, kept string
	}{
		{bill.KeepNothing, "0", "30", "12", "0"},
		{bill.KeepAll, "0", "30", "12", "30"},
		{bill.KeepSpent, "0", "30", "12.345", "12.35"},
		{bill.KeepSpent, "0", "10", "12", "10"},
		{bill.KeepShare, "33.3", "10", "0", "3.33"},
	} {
		kept, err := bill.Keeping{Rule: c.rule, Percent: money(c.percent)}.Keep(money(c.paid), money(c.spent))
		require.NoError(t, err)
		assert.Equal(t, c.kept, kept.String(), "%+v", c)
	}
	half, err := bill.Deposit(money("45.55"), money("50"))
	require.NoError(t, err)
	assert.Equal(t, "22.78", half.String())
}

// Whatever is asked, the parts are the whole to the cent, and tax is what its rate says to within a cent.
func TestThePartsAreTheWhole(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		var lines []bill.Line
		sum := decimal.Zero
		for range rapid.IntRange(0, 8).Draw(t, "lines") {
			l := bill.Line{Quantity: rapid.IntRange(1, 500).Draw(t, "quantity"), Each: decimal.New(rapid.Int64Range(0, 9_000_000).Draw(t, "each"), -4)}
			lines = append(lines, l)
			sum = sum.Add(l.Each.Mul(decimal.NewFromInt(int64(l.Quantity))).Round(2))
		}
		less := decimal.New(rapid.Int64Range(0, sum.Shift(2).IntPart()).Draw(t, "less"), -2)
		tax := bill.Tax{Percent: decimal.New(rapid.Int64Range(0, 100_000).Draw(t, "percent"), -3), InPrice: rapid.Bool().Draw(t, "in")}
		s, err := bill.Add(lines, less, tax)
		require.NoError(t, err)
		assert.True(t, s.Gross.Equal(s.Net.Add(s.Tax)))
		asked := s.Net
		if tax.InPrice {
			asked = s.Gross
		}
		assert.True(t, asked.Equal(sum.Sub(less)), "%s of %s", asked, sum)
		for _, part := range []decimal.Decimal{s.Net, s.Tax, s.Gross} {
			assert.True(t, part.Equal(part.Round(2)) && !part.IsNegative())
		}
		off := s.Net.Mul(tax.Percent).Shift(-2).Sub(s.Tax).Abs()
		assert.True(t, off.LessThanOrEqual(money("0.0101")), "%s off", off)
	})
}
