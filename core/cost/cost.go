// Package cost works out what a piece costs, what it must sell for and what an
// hour then earns. The formulas are those of docs/calculations.md §1; money is
// exact throughout and rounded half up only in the answer.
package cost

import (
	"github.com/shopspring/decimal"
)

// precision is the number of decimals that divisions keep until the answer is rounded.
const precision = 40

var sixty = decimal.NewFromInt(60)

// Reckoning is a problem worked out, exact and not yet rounded.
type Reckoning struct {
	// Good is the number of good pieces that the batch is to yield.
	Good int
	// Started are the pieces expected to be started at each stage.
	Started []decimal.Decimal
	// Lines are what the batch is expected to spend, stage by stage, spoils included.
	Lines []Line
	// FlawlessLines are the same if nothing were spoiled.
	FlawlessLines []Line
	// HandsMinutes are the batch's hands-on minutes.
	HandsMinutes decimal.Decimal
	spent        map[Kind]decimal.Decimal
}

// Kind says what a line is spent on.
type Kind string

const (
	Materials Kind = "materials"
	Labour    Kind = "labour"
	Overhead  Kind = "overhead"
	Bought    Kind = "outside"
)

// Line is one thing that a stage of the batch spends: Quantity units at Rate
// each. The units are the material's, or hands-on hours, or none for work bought in.
type Line struct {
	// Stage is the index of the stage.
	Stage    int
	Kind     Kind
	Material string
	Quantity decimal.Decimal
	Rate     decimal.Decimal
	Amount   decimal.Decimal
}

// Reckon works a problem out, or returns an error that names the field at fault.
func Reckon(p Problem) (r Reckoning, err error) {
	if err := p.validate(); err != nil {
		return r, err
	}
	costs := unitCosts(p.Materials)
	r = Reckoning{Good: p.GoodPieces, Started: startedPieces(p, true)}
	r.Lines, r.HandsMinutes = linesOf(p, costs, r.Started)
	r.FlawlessLines, _ = linesOf(p, costs, startedPieces(p, false))
	r.spent = map[Kind]decimal.Decimal{}
	for _, l := range r.Lines {
		r.spent[l.Kind] = r.spent[l.Kind].Add(l.Amount)
	}
	return r, nil
}

// Compute answers the problem, or returns an error that names the field at fault.
func Compute(p Problem) (Answer, error) {
	r, err := Reckon(p)
	if err != nil {
		return Answer{}, err
	}
	each := func(kinds ...Kind) string { return r.Each(r.Sum(kinds...)).StringFixed(4) }
	a := Answer{
		Format:     AnswerFormat,
		PerPiece:   PerPiece{Materials: each(Materials), Labour: each(Labour), Overhead: each(Overhead), Outside: each(Bought), Total: each()},
		SpoilShare: r.SpoilShare().StringFixed(4),
		BatchTotal: r.Sum().StringFixed(2),
	}
	for i, stage := range p.Stages {
		a.Started = append(a.Started, StartedStage{stage.ID, Quantity{Decimal: r.Started[i].Round(4)}})
	}
	if p.Selling == nil {
		return a, nil
	}
	piece := r.Piece()
	price := p.Selling.price(piece.Total)
	text := price.StringFixed(2)
	a.Price = &text
	if earned, ok := p.Selling.EarnedPerHour(price, piece.Total, piece.Labour, piece.HandsMinutes); ok {
		text := earned.StringFixed(2)
		a.EarnedPerHour = &text
	}
	return a, nil
}

// Sum is what the batch spends on some kinds of thing, or on all when none is named.
func (r Reckoning) Sum(kinds ...Kind) decimal.Decimal {
	if len(kinds) == 0 {
		kinds = []Kind{Materials, Labour, Overhead, Bought}
	}
	sum := decimal.Zero
	for _, k := range kinds {
		sum = sum.Add(r.spent[k])
	}
	return sum
}

// Each is a batch's amount shared over its good pieces.
func (r Reckoning) Each(amount decimal.Decimal) decimal.Decimal {
	return amount.DivRound(decimal.NewFromInt(int64(r.Good)), precision)
}

// SpoilShare is what a good piece costs more than if nothing were spoiled.
func (r Reckoning) SpoilShare() decimal.Decimal {
	flawless := decimal.Zero
	for _, l := range r.FlawlessLines {
		flawless = flawless.Add(l.Amount)
	}
	return r.Each(r.Sum()).Sub(r.Each(flawless))
}

// Piece is one good piece of the batch.
func (r Reckoning) Piece() Piece {
	return Piece{Total: r.Each(r.Sum()), Labour: r.Each(r.Sum(Labour)), HandsMinutes: r.Each(r.HandsMinutes)}
}

// Piece is what one good piece costs, the labour in it, and its hands-on minutes.
type Piece struct{ Total, Labour, HandsMinutes decimal.Decimal }

// UnitCost is the weighted average over purchases: Σ(price + extra) ÷ Σ quantity,
// zero when nothing was purchased.
func UnitCost(purchases []Purchase) decimal.Decimal {
	var paid, quantity decimal.Decimal
	for _, p := range purchases {
		paid = paid.Add(p.Price.Decimal).Add(p.Extra.Decimal)
		quantity = quantity.Add(p.Quantity.Decimal)
	}
	if quantity.IsZero() {
		return decimal.Zero
	}
	return paid.DivRound(quantity, precision)
}

func unitCosts(materials []Material) map[string]decimal.Decimal {
	costs := make(map[string]decimal.Decimal, len(materials))
	for _, m := range materials {
		costs[m.ID] = UnitCost(m.Purchases)
	}
	return costs
}

// linesOf lists what a batch spends when pieces are started as given, and its hands-on minutes.
func linesOf(p Problem, costs map[string]decimal.Decimal, started []decimal.Decimal) (lines []Line, handsMinutes decimal.Decimal) {
	add := func(stage int, k Kind, material string, quantity, rate, amount decimal.Decimal) {
		if !amount.IsZero() || !quantity.IsZero() {
			lines = append(lines, Line{stage, k, material, quantity, rate, amount})
		}
	}
	for i, stage := range p.Stages {
		for _, use := range stage.PerPiece {
			quantity, rate := use.Quantity.Mul(started[i]), costs[use.Material]
			add(i, Materials, use.Material, quantity, rate, quantity.Mul(rate))
		}
		for _, use := range stage.PerBatch {
			rate := costs[use.Material]
			add(i, Materials, use.Material, use.Quantity.Decimal, rate, use.Quantity.Mul(rate))
		}
		minutes := stage.SetupMinutes.Add(stage.MinutesPerPiece.Mul(started[i]))
		handsMinutes = handsMinutes.Add(minutes)
		hours := minutes.DivRound(sixty, precision)
		add(i, Labour, "", hours, p.LabourPerHour.Decimal, hours.Mul(p.LabourPerHour.Decimal))
		add(i, Overhead, "", hours, p.OverheadPerHour.Decimal, hours.Mul(p.OverheadPerHour.Decimal))
		if o := stage.Outside; o != nil {
			add(i, Bought, "", decimal.Zero, decimal.Zero, o.PerBatch.Add(o.PerPiece.Mul(started[i])))
		}
	}
	return lines, handsMinutes
}

// startedPieces returns, per stage, good ÷ the product of its own and all later
// yields: an expectation, not rounded.
func startedPieces(p Problem, withSpoils bool) []decimal.Decimal {
	started := make([]decimal.Decimal, len(p.Stages))
	pieces := decimal.NewFromInt(int64(p.GoodPieces))
	for i := len(p.Stages) - 1; i >= 0; i-- {
		if yield := p.Stages[i].Yield; withSpoils && yield != nil {
			pieces = pieces.DivRound(yield.Decimal, precision)
		}
		started[i] = pieces
	}
	return started
}

// price returns the smallest whole cent that leaves the margin after fees.
func (s Selling) price(total decimal.Decimal) decimal.Decimal {
	kept := one.Sub(share(s.FeePercent)).Sub(share(s.MarginPercent))
	return wholeCentsUp(total.Add(s.FeeFixed.Decimal).DivRound(kept, precision))
}

// wholeCentsUp is the smallest whole cent that is not less, the last digits of
// a division aside.
func wholeCentsUp(d decimal.Decimal) decimal.Decimal { return d.Round(precision - 10).RoundCeil(2) }

// EarnedPerHour returns what a hands-on hour earns at a price, from the total
// cost, the labour in it and the hands-on minutes of one good piece. It is not
// ok when no hands-on time is spent.
func (s Selling) EarnedPerHour(price, total, labour, handsMinutes decimal.Decimal) (earned decimal.Decimal, ok bool) {
	kept := price.Mul(one.Sub(share(s.FeePercent))).Sub(s.FeeFixed.Decimal)
	return Piece{total, labour, handsMinutes}.EarnedPerHour(kept)
}

// EarnedPerHour is what a hands-on hour earns when kept is left of the price
// after fees. It is not ok when no hands-on time is spent.
func (p Piece) EarnedPerHour(kept decimal.Decimal) (earned decimal.Decimal, ok bool) {
	if !p.HandsMinutes.IsPositive() {
		return decimal.Decimal{}, false
	}
	return kept.Sub(p.Total.Sub(p.Labour)).Mul(sixty).DivRound(p.HandsMinutes, precision), true
}

func share(percent Quantity) decimal.Decimal { return percent.Shift(-2) }
