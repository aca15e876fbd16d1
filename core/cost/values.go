package cost

import (
	"errors"
	"strings"

	"github.com/shopspring/decimal"
)

// longest is the most characters a number may have; it keeps hostile input
// such as 1e999999999 from being worked out.
const longest = 40

// Money is an amount of money. In JSON it is a decimal string, never a number.
type Money struct {
	decimal.Decimal
	// unread marks what could not be read, so that Compute can name its field.
	unread bool
}

// MoneyOf returns an amount.
func MoneyOf(d decimal.Decimal) Money { return Money{Decimal: d} }

// UnmarshalJSON reads a decimal string such as "18.90". What is none is
// refused by Compute, which knows where it stands.
func (m *Money) UnmarshalJSON(b []byte) error {
	s := string(b)
	*m = Money{unread: true}
	if len(s) < 3 || s[0] != '"' || s[len(s)-1] != '"' {
		return nil
	}
	if d, err := plainDecimal(s[1 : len(s)-1]); err == nil {
		*m = Money{Decimal: d}
	}
	return nil
}

// MarshalJSON writes the amount as a decimal string.
func (m Money) MarshalJSON() ([]byte, error) { return []byte(`"` + m.String() + `"`), nil }

// Quantity is an exact number of units, minutes, pieces or per cent. In JSON it is a number.
type Quantity struct {
	decimal.Decimal
	unread bool
}

// QuantityOf returns the quantity of a float, as it is written in decimals.
func QuantityOf(v float64) Quantity { return Quantity{Decimal: decimal.NewFromFloat(v)} }

// UnmarshalJSON reads a JSON number exactly. What is none is refused by
// Compute, which knows where it stands.
func (q *Quantity) UnmarshalJSON(b []byte) error {
	s := string(b)
	*q = Quantity{unread: true}
	if s == "" || s[0] == '"' || len(s) > longest {
		return nil
	}
	if d, err := decimal.NewFromString(s); err == nil && d.Exponent() <= 15 && d.Exponent() >= -longest {
		*q = Quantity{Decimal: d}
	}
	return nil
}

// MarshalJSON writes the quantity as a JSON number.
func (q Quantity) MarshalJSON() ([]byte, error) { return []byte(q.String()), nil }

func plainDecimal(s string) (decimal.Decimal, error) {
	if len(s) > longest || strings.ContainsAny(s, "eE") {
		return decimal.Decimal{}, errors.New("not a plain decimal")
	}
	return decimal.NewFromString(s)
}
