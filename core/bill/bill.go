// Package bill adds up what is asked for: lines, tax included or on top, what was paid,
// and what is kept of a deposit. Amounts are decimals in the studio's currency, rounded
// half away from zero to cents, as docs/calculations.md §13 says.
package bill

import (
	"fmt"

	"github.com/shopspring/decimal"

	"tidykiln/core/fault"
)

// Bounds of what is added up.
const (
	MostLines    = 200
	MostQuantity = 100_000
)

// MostEach is the most that one may cost, and the most that is taken off.
var MostEach = decimal.New(10_000_000, 0)

var hundred = decimal.New(100, 0)

// Tax is what a way of selling adds: none at 0 per cent.
type Tax struct {
	// Percent is 0 to 100.
	Percent decimal.Decimal
	// InPrice says that prices hold the tax already; otherwise it comes on top.
	InPrice bool
}

// Line is a number of the same (1 to MostQuantity) at what each costs (0 to MostEach, at most four decimals).
type Line struct {
	Quantity int
	Each     decimal.Decimal
}

// Sum is what lines come to.
type Sum struct {
	// Lines are the amounts of the lines, Less what is taken off.
	Lines []decimal.Decimal
	Less  decimal.Decimal
	// Gross is Net and Tax together: what is to be paid.
	Net, Tax, Gross decimal.Decimal
}

// Add adds lines up; less (0 to their sum) is taken off before tax.
func Add(lines []Line, less decimal.Decimal, tax Tax) (s Sum, err error) {
	if err := validate(lines, less, tax); err != nil {
		return s, err
	}
	asked := decimal.Zero
	for _, l := range lines {
		amount := cents(l.Each.Mul(decimal.NewFromInt(int64(l.Quantity))))
		s.Lines = append(s.Lines, amount)
		asked = asked.Add(amount)
	}
	s.Less = cents(less)
	if s.Less.GreaterThan(asked) {
		return s, fault.At("less", "no more can be taken off than is asked")
	}
	asked = asked.Sub(s.Less)
	if tax.InPrice {
		s.Gross = asked
		s.Net = cents(asked.Mul(hundred).DivRound(hundred.Add(tax.Percent), 8))
		s.Tax = s.Gross.Sub(s.Net)
		return s, nil
	}
	s.Net = asked
	s.Tax = cents(asked.Mul(tax.Percent).Div(hundred))
	s.Gross = s.Net.Add(s.Tax)
	return s, nil
}

func cents(d decimal.Decimal) decimal.Decimal { return d.Round(2) }

func validate(lines []Line, less decimal.Decimal, tax Tax) error {
	switch {
	case tax.Percent.IsNegative() || tax.Percent.GreaterThan(hundred):
		return fault.At("taxPercent", "a tax is 0 to 100 %%")
	case less.IsNegative() || less.GreaterThan(MostEach):
		return fault.At("less", "what is taken off is 0 to %s", MostEach)
	case !less.Equal(cents(less)):
		return fault.At("less", "whole cents are taken off")
	case len(lines) > MostLines:
		return fault.At("lines", "at most %d", MostLines)
	}
	for i, l := range lines {
		at := fmt.Sprintf("lines[%d]", i)
		if l.Quantity < 1 || l.Quantity > MostQuantity {
			return fault.At(at+".quantity", "must be 1 to %d", MostQuantity)
		}
		if l.Each.IsNegative() || l.Each.GreaterThan(MostEach) || !l.Each.Equal(l.Each.Round(4)) {
			return fault.At(at+".each", "must be 0 to %s, with at most four decimals", MostEach)
		}
	}
	return nil
}

// Rule is what a studio keeps of what was paid when an order is cancelled or comes back.
type Rule string

const (
	// KeepNothing gives everything back, KeepAll nothing.
	KeepNothing Rule = "nothing"
	KeepAll     Rule = "all"
	// KeepSpent keeps what was spent on it, KeepShare a share of what was paid.
	KeepSpent Rule = "spent"
	KeepShare Rule = "share"
)

// Keeping is a rule with its share in per cent (0 to 100), for KeepShare.
type Keeping struct {
	Rule    Rule
	Percent decimal.Decimal
}

// Keep says what is kept of what was paid (0 or more) where so much was spent (0 or
// more): never more than was paid.
func (k Keeping) Keep(paid, spent decimal.Decimal) (decimal.Decimal, error) {
	if k.Percent.IsNegative() || k.Percent.GreaterThan(hundred) {
		return decimal.Zero, fault.At("percent", "a share is 0 to 100 %%")
	}
	switch k.Rule {
	case KeepNothing:
		return decimal.Zero, nil
	case KeepAll:
		return paid, nil
	case KeepSpent:
		return decimal.Min(paid, cents(spent)), nil
	case KeepShare:
		return cents(paid.Mul(k.Percent).Div(hundred)), nil
	default:
		return decimal.Zero, fault.At("rule", "must be nothing, all, spent or share")
	}
}

// Deposit is so many per cent (0 to 100) of what is to be paid, in whole cents.
func Deposit(gross, percent decimal.Decimal) (decimal.Decimal, error) {
	if percent.IsNegative() || percent.GreaterThan(hundred) {
		return decimal.Zero, fault.At("depositPercent", "a deposit is 0 to 100 %%")
	}
	return cents(gross.Mul(percent).Div(hundred)), nil
}
