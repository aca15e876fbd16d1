// Package cost works out what a piece costs, what it must sell for and what an
// hour then earns. The formulas are those of docs/calculations.md §1; money is
// exact throughout and rounded half up only in the answer.
package cost

import (
	"github.com/shopspring/decimal"
)

// Formats of the question and of the answer.
const (
	ProblemFormat = "tidykiln/cost-problem@1"
	AnswerFormat  = "tidykiln/cost@1"
)

// precision is the number of decimals that divisions keep until the answer is rounded.
const precision = 40

// Problem asks for the cost of GoodPieces good pieces made in one batch.
type Problem struct {
	Format     string `json:"format"`
	Currency   string `json:"currency,omitempty"`
	GoodPieces int    `json:"goodPieces"`
	// LabourPerHour and OverheadPerHour are money per hands-on hour.
	LabourPerHour   Money      `json:"labourPerHour"`
	OverheadPerHour Money      `json:"overheadPerHour"`
	Materials       []Material `json:"materials"`
	Stages          []Stage    `json:"stages"`
	Selling         *Selling   `json:"selling,omitempty"`
}

// Material is something bought, with the purchases its unit cost is averaged over.
type Material struct {
	ID        string     `json:"id"`
	Unit      string     `json:"unit,omitempty"`
	Purchases []Purchase `json:"purchases"`
}

// Purchase is a quantity of a material in its own unit, what it cost, and the
// shipping and duty paid on top.
type Purchase struct {
	Quantity Quantity `json:"quantity"`
	Price    Money    `json:"price"`
	Extra    Money    `json:"extra"`
}

// Stage is one step of the work. Yield is the share of pieces that survive it,
// over 0 and at most 1; nil means 1. Minutes are hands-on.
type Stage struct {
	ID              string    `json:"id"`
	Yield           *Quantity `json:"yield,omitempty"`
	SetupMinutes    Quantity  `json:"setupMinutes"`
	MinutesPerPiece Quantity  `json:"minutesPerPiece"`
	PerPiece        []Use     `json:"perPiece,omitempty"`
	PerBatch        []Use     `json:"perBatch,omitempty"`
	Outside         *Outside  `json:"outside,omitempty"`
}

// Use is a quantity of a material, in the material's unit.
type Use struct {
	Material string   `json:"material"`
	Quantity Quantity `json:"quantity"`
}

// Outside is work bought in, such as a copy shop's sheets.
type Outside struct {
	PerPiece Money `json:"perPiece"`
	PerBatch Money `json:"perBatch"`
}

// Selling holds what is taken off a sale. Percentages are of the price.
type Selling struct {
	FeePercent    Quantity `json:"feePercent"`
	FeeFixed      Money    `json:"feeFixed"`
	MarginPercent Quantity `json:"marginPercent"`
}

// Answer is what a good piece costs and earns.
type Answer struct {
	Format     string         `json:"format"`
	Started    []StartedStage `json:"started"`
	PerPiece   PerPiece       `json:"perPiece"`
	SpoilShare string         `json:"spoilShare"`
	BatchTotal string         `json:"batchTotal"`
	// Price is nil when the problem says nothing of selling.
	Price *string `json:"price,omitempty"`
	// EarnedPerHour is nil without a price, or when no hands-on time is spent.
	EarnedPerHour *string `json:"earnedPerHour,omitempty"`
}

// StartedStage is the expected number of pieces started at a stage.
type StartedStage struct {
	Stage  string   `json:"stage"`
	Pieces Quantity `json:"pieces"`
}

// PerPiece is the cost of one good piece by kind, with four decimals.
type PerPiece struct {
	Materials string `json:"materials"`
	Labour    string `json:"labour"`
	Overhead  string `json:"overhead"`
	Outside   string `json:"outside"`
	Total     string `json:"total"`
}

// Sums are the exact costs of a batch before they are shared over its pieces.
type Sums struct {
	Started                              []decimal.Decimal
	Materials, Labour, Overhead, Outside decimal.Decimal
	HandsMinutes                         decimal.Decimal
}

func (s Sums) total() decimal.Decimal {
	return decimal.Sum(s.Materials, s.Labour, s.Overhead, s.Outside)
}

// Compute answers the problem, or returns an error that names the field at fault.
func Compute(p Problem) (Answer, error) {
	if err := p.validate(); err != nil {
		return Answer{}, err
	}
	unitCosts := unitCosts(p.Materials)
	sums := sumStages(p, unitCosts, true)
	flawless := sumStages(p, unitCosts, false)
	good := decimal.NewFromInt(int64(p.GoodPieces))
	each := func(d decimal.Decimal) decimal.Decimal { return d.DivRound(good, precision) }

	total := each(sums.total())
	a := Answer{
		Format: AnswerFormat,
		PerPiece: PerPiece{
			Materials: each(sums.Materials).StringFixed(4),
			Labour:    each(sums.Labour).StringFixed(4),
			Overhead:  each(sums.Overhead).StringFixed(4),
			Outside:   each(sums.Outside).StringFixed(4),
			Total:     total.StringFixed(4),
		},
		SpoilShare: total.Sub(each(flawless.total())).StringFixed(4),
		BatchTotal: sums.total().StringFixed(2),
	}
	for i, stage := range p.Stages {
		a.Started = append(a.Started, StartedStage{stage.ID, Quantity{Decimal: sums.Started[i].Round(4)}})
	}
	if p.Selling == nil {
		return a, nil
	}
	price := p.Selling.price(total)
	text := price.StringFixed(2)
	a.Price = &text
	if earned, ok := p.Selling.EarnedPerHour(price, total, each(sums.Labour), each(sums.HandsMinutes)); ok {
		text := earned.StringFixed(2)
		a.EarnedPerHour = &text
	}
	return a, nil
}

func unitCosts(materials []Material) map[string]decimal.Decimal {
	costs := make(map[string]decimal.Decimal, len(materials))
	for _, m := range materials {
		var paid, quantity decimal.Decimal
		for _, p := range m.Purchases {
			paid = paid.Add(p.Price.Decimal).Add(p.Extra.Decimal)
			quantity = quantity.Add(p.Quantity.Decimal)
		}
		costs[m.ID] = paid.DivRound(quantity, precision)
	}
	return costs
}

func sumStages(p Problem, unitCosts map[string]decimal.Decimal, withSpoils bool) Sums {
	started := startedPieces(p, withSpoils)
	sums := Sums{Started: started}
	for i, stage := range p.Stages {
		for _, use := range stage.PerPiece {
			sums.Materials = sums.Materials.Add(unitCosts[use.Material].Mul(use.Quantity.Decimal).Mul(started[i]))
		}
		for _, use := range stage.PerBatch {
			sums.Materials = sums.Materials.Add(unitCosts[use.Material].Mul(use.Quantity.Decimal))
		}
		minutes := stage.SetupMinutes.Add(stage.MinutesPerPiece.Mul(started[i]))
		sums.HandsMinutes = sums.HandsMinutes.Add(minutes)
		if stage.Outside != nil {
			sums.Outside = sums.Outside.Add(stage.Outside.PerBatch.Decimal).Add(stage.Outside.PerPiece.Mul(started[i]))
		}
	}
	hours := sums.HandsMinutes.DivRound(decimal.NewFromInt(60), precision)
	sums.Labour = hours.Mul(p.LabourPerHour.Decimal)
	sums.Overhead = hours.Mul(p.OverheadPerHour.Decimal)
	return sums
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
	kept := decimal.NewFromInt(1).Sub(share(s.FeePercent)).Sub(share(s.MarginPercent))
	return total.Add(s.FeeFixed.Decimal).DivRound(kept, precision).Round(precision - 10).RoundCeil(2)
}

// EarnedPerHour returns what a hands-on hour earns at a price, from the total
// cost, the labour in it and the hands-on minutes of one good piece. It is not
// ok when no hands-on time is spent.
func (s Selling) EarnedPerHour(price, total, labour, handsMinutes decimal.Decimal) (earned decimal.Decimal, ok bool) {
	if !handsMinutes.IsPositive() {
		return decimal.Decimal{}, false
	}
	kept := price.Mul(decimal.NewFromInt(1).Sub(share(s.FeePercent))).Sub(s.FeeFixed.Decimal)
	sixty := decimal.NewFromInt(60)
	return kept.Sub(total.Sub(labour)).Mul(sixty).DivRound(handsMinutes, precision), true
}

func share(percent Quantity) decimal.Decimal { return percent.Shift(-2) }
