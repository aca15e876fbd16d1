package selling

import (
	"context"
	"fmt"

	"github.com/shopspring/decimal"
	"gorm.io/gorm"

	"tidykiln/core/cost"
	"tidykiln/core/craft"
	"tidykiln/internal/database"
	"tidykiln/internal/problem"
	"tidykiln/internal/products"
)

// FairPlan is what is taken to a fair, and what the stall there costs.
type FairPlan struct {
	OutletID uint64     `json:"outletId"`
	Stall    string     `json:"stall" pattern:"^\\d{1,6}(\\.\\d{1,2})?$" patternDescription:"an amount such as 60.00" doc:"rent, travel and all that is paid whatever is sold"`
	Hours    float64    `json:"hours" minimum:"0" maximum:"240" doc:"spent there"`
	Taken    []FairItem `json:"taken" minItems:"1" maxItems:"200" nullable:"false"`
}

// FairItem is a number of one product taken to a fair.
type FairItem struct {
	ProductID uint64 `json:"productId"`
	Pieces    int    `json:"pieces" minimum:"1" maximum:"500"`
}

// FairAnswer is what a fair comes to.
type FairAnswer struct {
	Pieces int `json:"pieces"`
	// BreakEven is how many pieces pay for the stall, sold in the proportion they were taken; 0 when all do not.
	BreakEven int `json:"breakEven"`
	// Brings is what is left if all is sold, after the stall, for the hours at the bench and there.
	Brings      string         `json:"brings"`
	PerHour     string         `json:"perHour" doc:"of all hours, at the bench and there; empty without hours"`
	HandsHours  string         `json:"handsHours" doc:"at the bench for what is taken"`
	Contributes []Contribution `json:"contributes" nullable:"false"`
}

// Contribution is what each piece of a product leaves towards the stall and your time.
type Contribution struct {
	ProductID uint64 `json:"productId"`
	Name      string `json:"name"`
	Tag       string `json:"tag"`
	Each      string `json:"each"`
	// Alone is how many of this product alone would pay for the stall; 0 when none would.
	Alone int `json:"alone"`
}

// Fair works out when a stall pays.
func (a *Area) Fair(ctx context.Context, in FairPlan) (FairAnswer, error) {
	return database.Look(ctx, a.db, func(tx *gorm.DB) (f FairAnswer, err error) {
		b, err := a.counter(tx)
		if err != nil {
			return f, err
		}
		return b.fair(tx, in)
	})
}

func (b Counter) fair(tx *gorm.DB, in FairPlan) (f FairAnswer, err error) {
	outlet, err := b.Outlet(in.OutletID)
	if err != nil {
		return f, err
	}
	stall, err := decimal.NewFromString(in.Stall)
	if err != nil {
		return f, problem.Invalid("stall", "an amount such as 60.00")
	}
	var offers []cost.Offer
	minutes := decimal.Zero
	for i, item := range in.Taken {
		p, err := products.Load(tx, item.ProductID)
		if err != nil {
			return f, problem.OrInvalid(err, fmt.Sprintf("taken[%d].productId", i), "this product is not made here")
		}
		if item.Pieces < 1 || item.Pieces > craft.MostPieces {
			return f, problem.Invalid(fmt.Sprintf("taken[%d].pieces", i), "from 1 to %d pieces", craft.MostPieces)
		}
		costing, err := b.Cost(p, item.Pieces)
		if err != nil {
			return f, err
		}
		sale, err := b.sale(p, outlet, costing.Piece())
		if err != nil {
			return f, err
		}
		each := outlet.Terms().Sell(costing.Piece(), decimal.RequireFromString(sale.Tag)).Contribution(costing.Piece())
		alone, err := cost.BreakEven(stall, decimal.Zero, []cost.Offer{{Pieces: craft.MostPieces, Contribution: each}})
		if err != nil {
			return f, err
		}
		f.Pieces += item.Pieces
		f.Contributes = append(f.Contributes, Contribution{p.ID, p.Name, sale.Tag, each.StringFixed(2), alone.BreakEven})
		offers = append(offers, cost.Offer{Pieces: item.Pieces, Contribution: each})
		minutes = minutes.Add(costing.HandsMinutes)
	}
	hours := minutes.DivRound(decimal.NewFromInt(60), 4)
	fair, err := cost.BreakEven(stall, hours.Add(decimal.NewFromFloat(in.Hours)), offers)
	if err != nil {
		return f, problem.Invalid("stall", "%s", err.Error())
	}
	f.BreakEven, f.Brings, f.HandsHours = fair.BreakEven, fair.Brings.StringFixed(2), hours.StringFixed(1)
	if fair.PerHour != nil {
		f.PerHour = fair.PerHour.StringFixed(2)
	}
	return f, nil
}
