package cost

import (
	"errors"
	"fmt"

	"tidykiln/core/fault"

	"github.com/shopspring/decimal"
)

// Way is a way of selling: what is taken off a sale, and how its prices end.
// Percentages are from 0 to under 100.
type Way struct {
	// FeePercent of the price before tax, and FeeFixed, go to whoever keeps the stall or the shop.
	FeePercent Quantity
	FeeFixed   Money
	// CardPercent of all that the customer pays, tax included, and CardFixed go to the card's company.
	CardPercent Quantity
	CardFixed   Money
	// TaxPercent is the sales tax on the price; with TaxInPrice the tag holds it already.
	TaxPercent Quantity
	TaxInPrice bool
	// Ending is the cents that a tag ends on, such as 50 or 90; nil leaves them as they come.
	Ending *int
}

// Sale is one piece sold at a tag.
type Sale struct {
	// Tag is the price as it stands on the piece, Net without sales tax, Tax the
	// tax on it, Fees what is taken off, Kept what is left of Net.
	Tag, Net, Tax, Fees, Kept decimal.Decimal
	// Left is Kept less the cost of the piece, your time included.
	Left decimal.Decimal
	// MarginPercent is Left as a share of Net.
	MarginPercent decimal.Decimal
	// EarnedPerHour is nil when no hands-on time is spent.
	EarnedPerHour *decimal.Decimal
}

// ErrNothingKept says that the fees leave nothing of a price to keep.
var ErrNothingKept = errors.New("fees and margin together reach the whole price")

// Validate reports the first field that no way of selling can have.
func (w Way) Validate() error {
	if err := firstError(
		checkQuantity("feePercent", w.FeePercent), checkMoney("feeFixed", w.FeeFixed),
		checkQuantity("cardPercent", w.CardPercent), checkMoney("cardFixed", w.CardFixed),
		checkQuantity("taxPercent", w.TaxPercent),
	); err != nil {
		return err
	}
	switch {
	case w.TaxPercent.GreaterThanOrEqual(hundred):
		return fault.At("taxPercent", "must be under 100")
	case w.Ending != nil && (*w.Ending < 0 || *w.Ending > 99):
		return fault.At("ending", "must be from 00 to 99")
	case !w.keptShare().IsPositive():
		return fault.At("feePercent", "fees together must stay under 100")
	}
	return nil
}

// keptShare is what is kept of a price before tax, fixed fees aside.
func (w Way) keptShare() decimal.Decimal {
	return one.Sub(share(w.FeePercent)).Sub(share(w.CardPercent).Mul(w.withTax()))
}

func (w Way) withTax() decimal.Decimal { return one.Add(share(w.TaxPercent)) }

func (w Way) fixed() decimal.Decimal { return w.FeeFixed.Add(w.CardFixed.Decimal) }

// Selling is the way as a cost problem has it, for a margin in per cent: all that
// is taken off the price before tax, in one. Its price is the one before tax.
func (w Way) Selling(margin decimal.Decimal) *Selling {
	taken := one.Sub(w.keptShare()).Mul(hundred)
	return &Selling{FeePercent: Quantity{Decimal: taken}, FeeFixed: MoneyOf(w.fixed()), MarginPercent: Quantity{Decimal: margin}}
}

// Sell is a piece sold at a tag.
func (w Way) Sell(p Piece, tag decimal.Decimal) Sale {
	s := Sale{Tag: tag, Net: tag}
	if w.TaxInPrice {
		s.Net = tag.DivRound(w.withTax(), precision)
	}
	s.Tax = s.Net.Mul(share(w.TaxPercent))
	s.Kept = s.Net.Mul(w.keptShare()).Sub(w.fixed())
	s.Fees = s.Net.Sub(s.Kept)
	s.Left = s.Kept.Sub(p.Total)
	if s.Net.IsPositive() {
		s.MarginPercent = s.Left.Mul(hundred).DivRound(s.Net, precision)
	}
	if earned, ok := p.EarnedPerHour(s.Kept); ok {
		s.EarnedPerHour = &earned
	}
	return s
}

// TagForMargin is the lowest tag that leaves a share of the price, in per cent,
// over the cost of a piece.
func (w Way) TagForMargin(p Piece, percent decimal.Decimal) (decimal.Decimal, error) {
	kept := w.keptShare().Sub(percent.Shift(-2))
	if percent.IsNegative() || !kept.IsPositive() {
		return decimal.Zero, ErrNothingKept
	}
	return w.tagFor(p.Total, kept), nil
}

// TagForWage is the lowest tag at which a hands-on hour earns a wage.
func (w Way) TagForWage(p Piece, wage decimal.Decimal) decimal.Decimal {
	hours := p.HandsMinutes.DivRound(sixty, precision)
	return w.tagFor(p.Total.Sub(p.Labour).Add(wage.Mul(hours)), w.keptShare())
}

// Floor is the tag below which each piece sold loses money, though your time is
// counted as free. It knows no ending.
func (w Way) Floor(p Piece) decimal.Decimal {
	w.Ending = nil
	return w.TagForWage(p, decimal.Zero)
}

// tagFor is the lowest tag of which, after what is kept off it, an amount is left.
func (w Way) tagFor(amount, kept decimal.Decimal) decimal.Decimal {
	net := amount.Add(w.fixed()).DivRound(kept, precision)
	if w.TaxInPrice {
		net = net.Mul(w.withTax())
	}
	return w.Ended(wholeCentsUp(net))
}

// Ended is the lowest price with the way's ending that is not under a price in whole cents.
func (w Way) Ended(price decimal.Decimal) decimal.Decimal {
	if w.Ending == nil {
		return price
	}
	ending := decimal.New(int64(*w.Ending), -2)
	if at := price.Floor().Add(ending); at.GreaterThanOrEqual(price) {
		return at
	}
	return price.Floor().Add(one).Add(ending)
}

// Contribution is what a sale leaves towards a stall's cost and your time: what
// is kept, less what a piece costs without labour.
func (s Sale) Contribution(p Piece) decimal.Decimal { return s.Kept.Sub(p.Total.Sub(p.Labour)) }

// Offer is a number of one piece taken to a fair, with what each contributes.
type Offer struct {
	Pieces       int
	Contribution decimal.Decimal
}

// Fair is what a fair comes to.
type Fair struct {
	// Brings is what is left when everything is sold, after the stall's cost.
	Brings decimal.Decimal
	// BreakEven is how many pieces pay for the stall when they sell in the
	// proportion they were taken; 0 when all of them do not.
	BreakEven int
	// PerHour is what an hour at the stall then earns; nil without hours.
	PerHour *decimal.Decimal
}

// BreakEven sets a stall's cost, and the hours spent there, against what is taken to it.
func BreakEven(stall, hours decimal.Decimal, offers []Offer) (f Fair, err error) {
	if stall.IsNegative() || hours.IsNegative() {
		return f, fault.At("stall", "neither its cost nor its hours can be negative")
	}
	pieces, all := 0, decimal.Zero
	for i, o := range offers {
		if o.Pieces < 0 {
			return f, fault.At(fmt.Sprintf("offers[%d].pieces", i), "must not be negative")
		}
		pieces += o.Pieces
		all = all.Add(o.Contribution.Mul(decimal.NewFromInt(int64(o.Pieces))))
	}
	f.Brings = all.Sub(stall)
	if all.IsPositive() && !f.Brings.IsNegative() {
		f.BreakEven = int(stall.Mul(decimal.NewFromInt(int64(pieces))).DivRound(all, precision).Round(9).Ceil().IntPart())
	}
	if hours.IsPositive() {
		perHour := f.Brings.DivRound(hours, precision)
		f.PerHour = &perHour
	}
	return f, nil
}
