package selling

import (
	"context"
	"fmt"

	"gorm.io/gorm"

	"tidykiln/core/cost"
	"tidykiln/core/craft"
	"tidykiln/internal/database"
	"tidykiln/internal/problem"
	"tidykiln/internal/products"
	"tidykiln/internal/workshop"
)

// Costs is what a piece of a product costs and earns, made in batches of a size.
type Costs struct {
	ProductID uint64              `json:"productId"`
	Name      string              `json:"name"`
	Version   int                 `json:"version"`
	Pieces    int                 `json:"pieces" doc:"good ones in the batch"`
	PerPiece  cost.PerPiece       `json:"perPiece"`
	Lines     []products.CostLine `json:"lines" nullable:"false" doc:"they add up to the total"`
	Started   []StartedPieces     `json:"started" nullable:"false"`
	// HandsMinutes are of one good piece, spoils included.
	HandsMinutes string         `json:"handsMinutes"`
	SpoilShare   string         `json:"spoilShare"`
	BatchTotal   string         `json:"batchTotal"`
	LotSize      int            `json:"lotSize" doc:"the most pieces worked together; 0 when nobody works here yet"`
	Curve        products.Curve `json:"curve"`
	Sales        []OutletSale   `json:"sales" nullable:"false" doc:"one at each way of selling, the main one first"`
}

// StartedPieces is how many are expected to be started at a step.
type StartedPieces struct {
	StepID string `json:"stepId"`
	Step   string `json:"step"`
	Pieces string `json:"pieces"`
}

// OutletSale is a piece sold at an outlet.
type OutletSale struct {
	OutletID uint64 `json:"outletId"`
	Name     string `json:"name"`
	Main     bool   `json:"main"`
	// Tag is what is asked; Set says that it was set, and is not the proposal.
	Tag           string `json:"tag"`
	Set           bool   `json:"set"`
	Proposal      string `json:"proposal" doc:"the tag that the outlet's target comes to"`
	Target        string `json:"target" doc:"in words"`
	Net           string `json:"net" doc:"without sales tax"`
	Tax           string `json:"tax"`
	Fees          string `json:"fees"`
	Kept          string `json:"kept"`
	Left          string `json:"left" doc:"after the cost of the piece, your time included"`
	MarginPercent string `json:"marginPercent"`
	EarnedPerHour string `json:"earnedPerHour" doc:"empty without hands-on time"`
	// Floor is the tag below which each piece loses money though your time were free.
	Floor string `json:"floor"`
	// ForYourRate is the tag at which an hour earns what your hour is said to cost.
	ForYourRate string `json:"forYourRate"`
}

// Costs works out what a piece costs and earns in batches of a number of good pieces.
func (a *Area) Costs(ctx context.Context, id uint64, pieces int) (Costs, error) {
	return database.Look(ctx, a.db, func(tx *gorm.DB) (c Costs, err error) {
		p, err := products.Load(tx, id)
		if err != nil {
			return c, err
		}
		b, err := a.counter(tx)
		if err != nil {
			return c, err
		}
		return b.costs(p, pieces)
	})
}

func (b Counter) costs(p products.Product, pieces int) (c Costs, err error) {
	if pieces < 1 || pieces > craft.MostPieces {
		return c, problem.Invalid("pieces", "from 1 to %d pieces", craft.MostPieces)
	}
	costing, err := b.Cost(p, pieces)
	if err != nil {
		return c, err
	}
	answer, err := cost.Compute(costing.Work.Problem(pieces))
	if err != nil {
		return c, fmt.Errorf("costing %s: %w", p.Name, err)
	}
	c = Costs{ProductID: p.ID, Name: p.Name, Version: p.Version, Pieces: pieces, PerPiece: answer.PerPiece, Lines: b.Lines(p, costing), Started: []StartedPieces{},
		HandsMinutes: costing.Piece().HandsMinutes.StringFixed(2), SpoilShare: answer.SpoilShare, BatchTotal: answer.BatchTotal, LotSize: costing.Work.LotSize, Sales: []OutletSale{}}
	for i, s := range p.Recipe.Document.Steps {
		c.Started = append(c.Started, StartedPieces{s.ID, s.Name, costing.Started[i].StringFixed(4)})
	}
	if c.Curve, err = b.Curve(costing.Work, max(products.LongestCurve, pieces)); err != nil {
		return c, err
	}
	for _, o := range b.outlets {
		sale, err := b.sale(p, o, costing.Piece())
		if err != nil {
			return c, err
		}
		c.Sales = append(c.Sales, sale)
	}
	return c, nil
}

// sale is a piece sold at an outlet, at what is asked there.
func (b Counter) sale(p products.Product, o Outlet, piece cost.Piece) (s OutletSale, err error) {
	proposal, err := o.Terms().Proposal(piece, p.Price)
	if err != nil {
		return s, fmt.Errorf("pricing %s at %s: %w", p.Name, o.Name, err)
	}
	tag, set := b.prices[at{p.ID, o.ID}]
	switch {
	case o.Main:
		tag, set = p.Price, true
	case !set:
		tag = proposal
	}
	w := o.Terms()
	sold := w.Sell(piece, tag)
	s = OutletSale{OutletID: o.ID, Name: o.Name, Main: o.Main, Tag: tag.StringFixed(2), Set: set, Proposal: proposal.StringFixed(2), Target: o.inWords(b.Workshop),
		Net: sold.Net.StringFixed(2), Tax: sold.Tax.StringFixed(2), Fees: sold.Fees.StringFixed(2), Kept: sold.Kept.StringFixed(2), Left: sold.Left.StringFixed(2),
		MarginPercent: sold.MarginPercent.StringFixed(1), Floor: w.Floor(piece).StringFixed(2), ForYourRate: w.TagForWage(piece, b.Workshop.LabourPerHour).StringFixed(2)}
	if sold.EarnedPerHour != nil {
		s.EarnedPerHour = sold.EarnedPerHour.StringFixed(2)
	}
	return s, nil
}

func (o Outlet) inWords(w workshop.Workshop) string {
	switch o.Target {
	case cost.ForWage:
		return "an hour earns " + w.Money(o.TargetValue)
	case cost.ForShare:
		return w.Habit.Written(o.TargetValue.String()) + " % of the main price"
	}
	return w.Habit.Written(o.TargetValue.String()) + " % of the price is left"
}
