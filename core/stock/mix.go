package stock

import (
	"slices"

	"github.com/shopspring/decimal"
)

// Offer is a pack that can be bought.
type Offer struct {
	ID       uint64
	Quantity decimal.Decimal
	Price    decimal.Decimal
}

// Buy is how many of an offer to buy.
type Buy struct {
	ID    uint64
	Packs int
}

// mostTries bounds the search for a mix.
const mostTries = 5_000

// CheapestMix is the packs that together hold at least need and cost least; of
// mixes that cost the same, the one that leaves least over. It is nil when
// there is no offer or nothing is needed. exact is false when there were so
// many mixes that the search ended before the last, and the best so far is given.
func CheapestMix(need decimal.Decimal, offers []Offer) (mix []Buy, exact bool) {
	s := mixing{offers: slices.DeleteFunc(slices.Clone(offers), func(o Offer) bool { return !o.Quantity.IsPositive() }), tries: mostTries}
	if !need.IsPositive() || len(s.offers) == 0 {
		return nil, true
	}
	// Cheapest by quantity first: what is left over then costs at least so much.
	slices.SortStableFunc(s.offers, func(a, b Offer) int {
		return a.Price.Mul(b.Quantity).Cmp(b.Price.Mul(a.Quantity))
	})
	s.counts = make([]int, len(s.offers))
	s.search(0, need, decimal.Zero)
	for i, n := range s.best {
		if n > 0 {
			mix = append(mix, Buy{s.offers[i].ID, n})
		}
	}
	return mix, s.tries > 0
}

type mixing struct {
	offers     []Offer
	counts     []int
	best       []int
	cost, over decimal.Decimal
	tries      int
}

// search tries the counts of the offers from i on for what is still missing.
func (s *mixing) search(i int, missing, spent decimal.Decimal) {
	if !missing.IsPositive() {
		s.keep(missing.Neg(), spent)
		return
	}
	if i == len(s.offers) || s.tries <= 0 {
		return
	}
	s.tries--
	o := s.offers[i]
	if s.best != nil && s.least(i, missing, spent).GreaterThan(s.cost) {
		return
	}
	for n := int(missing.DivRound(o.Quantity, precision).Round(20).Ceil().IntPart()); n >= 0; n-- {
		s.counts[i] = n
		many := decimal.NewFromInt(int64(n))
		left, cost := missing.Sub(o.Quantity.Mul(many)), spent.Add(o.Price.Mul(many))
		s.search(i+1, left, cost)
		// Fewer of these leave more to the others, which cost more by quantity:
		// once that cannot be cheaper, no smaller number can; and after the last
		// offer nothing is left to fill up with.
		if s.tries <= 0 || i+1 == len(s.offers) || left.IsPositive() && s.best != nil && s.least(i+1, left, cost).GreaterThan(s.cost) {
			break
		}
	}
	s.counts[i] = 0
}

// least is what all comes to at the least when the offers from i on fill up what is missing.
func (s *mixing) least(i int, missing, spent decimal.Decimal) decimal.Decimal {
	if !missing.IsPositive() {
		return spent
	}
	return spent.Add(s.offers[i].Price.Mul(missing).DivRound(s.offers[i].Quantity, precision))
}

func (s *mixing) keep(over, spent decimal.Decimal) {
	dearer := s.best != nil && (spent.GreaterThan(s.cost) || spent.Equal(s.cost) && over.GreaterThanOrEqual(s.over))
	if !dearer {
		s.best, s.cost, s.over = slices.Clone(s.counts), spent, over
	}
}
