package cost

import "github.com/shopspring/decimal"

// Target is what prices are set for.
type Target string

const (
	ForMargin Target = "margin" // per cent of the price
	ForWage   Target = "wage"   // money per hands-on hour
	ForShare  Target = "share"  // per cent of the main price
)

// Terms are a way of selling and what its prices are set for.
type Terms struct {
	Way
	Target Target
	Value  decimal.Decimal
}

// Proposal is the tag that the target comes to for a piece; mainPrice is what
// is asked for it at the main way of selling. It fails where fees and margin
// leave nothing.
func (t Terms) Proposal(p Piece, mainPrice decimal.Decimal) (decimal.Decimal, error) {
	switch t.Target {
	case ForWage:
		return t.TagForWage(p, t.Value), nil
	case ForShare:
		return t.Ended(mainPrice.Mul(t.Value).Shift(-2).RoundCeil(2)), nil
	}
	return t.TagForMargin(p, t.Value)
}
