package stock

import (
	"cmp"
	"slices"
	"time"

	"github.com/shopspring/decimal"
)

// precision is the number of decimals that divisions keep.
const precision = 40

// Held is what is left of a purchase.
type Held struct {
	ID uint64
	// Quantity was bought for Cost, shipping and duty included; Left of it is still there.
	Quantity, Cost, Left decimal.Decimal
	ReceivedAt           time.Time
	// OpenedAt is nil while it is unopened.
	OpenedAt *time.Time
}

// UnitCost is the weighted average of what is left: Σ left · cost ÷ quantity
// over Σ left; zero when nothing is left.
func UnitCost(held []Held) decimal.Decimal {
	left, worth := decimal.Zero, decimal.Zero
	for _, h := range held {
		if h.Left.IsPositive() {
			left = left.Add(h.Left)
			worth = worth.Add(h.Worth())
		}
	}
	if left.IsZero() {
		return decimal.Zero
	}
	return worth.DivRound(left, precision)
}

// Worth is what was paid for what is left.
func (h Held) Worth() decimal.Decimal { return h.Cost.Mul(h.Left).DivRound(h.Quantity, precision) }

// Taken is a quantity that is taken from a purchase.
type Taken struct {
	ID       uint64
	Quantity decimal.Decimal
}

// Take takes a quantity from what is held: the oldest opened first, then the
// oldest unopened. short is what was not there.
func Take(held []Held, quantity decimal.Decimal) (taken []Taken, short decimal.Decimal) {
	short = quantity
	for _, h := range inOrderOfUse(held) {
		if !short.IsPositive() {
			break
		}
		if take := decimal.Min(short, h.Left); take.IsPositive() {
			taken = append(taken, Taken{h.ID, take})
			short = short.Sub(take)
		}
	}
	return taken, decimal.Max(short, decimal.Zero)
}

func inOrderOfUse(held []Held) []Held {
	ordered := slices.Clone(held)
	slices.SortStableFunc(ordered, func(a, b Held) int {
		switch {
		case (a.OpenedAt == nil) != (b.OpenedAt == nil):
			if a.OpenedAt != nil {
				return -1
			}
			return 1
		case a.OpenedAt != nil && !a.OpenedAt.Equal(*b.OpenedAt):
			return a.OpenedAt.Compare(*b.OpenedAt)
		}
		return cmp.Or(a.ReceivedAt.Compare(b.ReceivedAt), cmp.Compare(a.ID, b.ID))
	})
	return ordered
}

// Share splits an amount over lines by their value, to four decimals, so that
// the parts add up to it exactly; lines without value share it evenly.
func Share(amount decimal.Decimal, values []decimal.Decimal) []decimal.Decimal {
	sum := decimal.Sum(decimal.Zero, values...)
	shares := make([]decimal.Decimal, len(values))
	given, passed := decimal.Zero, decimal.Zero
	for i, v := range values {
		if sum.IsZero() {
			v = decimal.NewFromInt(1)
		}
		passed = passed.Add(v)
		whole := sum
		if sum.IsZero() {
			whole = decimal.NewFromInt(int64(len(values)))
		}
		upTo := amount.Mul(passed).DivRound(whole, 4)
		shares[i] = upTo.Sub(given)
		given = upTo
	}
	return shares
}

// Draw is a quantity that will be taken at a time, and for what.
type Draw struct {
	At       time.Time
	Quantity decimal.Decimal
	For      string
}

// Level is what is left from a moment on; below zero it is missing.
type Level struct {
	At   time.Time
	Left decimal.Decimal
}

// Outlook is how a material falls as it is drawn on.
type Outlook struct {
	Levels []Level
	// RunsOut is the draw that there is no longer enough for; nil when there is enough for all.
	RunsOut *Draw
	// Missing is what has to be bought for all of the draws.
	Missing decimal.Decimal
}

// Look draws on what is on hand, in order of time.
func Look(onHand decimal.Decimal, draws []Draw) Outlook {
	ordered := slices.Clone(draws)
	slices.SortStableFunc(ordered, func(a, b Draw) int { return a.At.Compare(b.At) })
	var o Outlook
	left := onHand
	for i, d := range ordered {
		left = left.Sub(d.Quantity)
		if n := len(o.Levels); n > 0 && o.Levels[n-1].At.Equal(d.At) {
			o.Levels[n-1].Left = left
		} else {
			o.Levels = append(o.Levels, Level{d.At, left})
		}
		if left.IsNegative() && o.RunsOut == nil {
			o.RunsOut = &ordered[i]
		}
	}
	o.Missing = decimal.Max(left.Neg(), decimal.Zero)
	return o
}
