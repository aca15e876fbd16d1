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
type Money struct{ decimal.Decimal }

// UnmarshalJSON reads a decimal string such as "18.90".
func (m *Money) UnmarshalJSON(b []byte) error {
	s := string(b)
	if len(s) < 3 || s[0] != '"' || s[len(s)-1] != '"' {
		return errors.New(`money must be a decimal string such as "18.90"`)
	}
	d, err := plainDecimal(s[1 : len(s)-1])
	if err != nil {
		return errors.New(`money must be a decimal string such as "18.90"`)
	}
	m.Decimal = d
	return nil
}

// MarshalJSON writes the amount as a decimal string.
func (m Money) MarshalJSON() ([]byte, error) { return []byte(`"` + m.String() + `"`), nil }

// Quantity is an exact number of units, minutes, pieces or per cent. In JSON it is a number.
type Quantity struct{ decimal.Decimal }

// QuantityOf returns the quantity of a float, as it is written in decimals.
func QuantityOf(v float64) Quantity { return Quantity{decimal.NewFromFloat(v)} }

// UnmarshalJSON reads a JSON number exactly.
func (q *Quantity) UnmarshalJSON(b []byte) error {
	s := string(b)
	if s == "" || s[0] == '"' || len(s) > longest {
		return errors.New("must be a number of ordinary length")
	}
	d, err := decimal.NewFromString(s)
	if err != nil || d.Exponent() > 15 || d.Exponent() < -longest {
		return errors.New("must be a number of ordinary size")
	}
	q.Decimal = d
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
