package fulfilment

import (
	"context"

	"gorm.io/gorm"

	"tidykiln/core/craft"
	"tidykiln/internal/batches"
	"tidykiln/internal/database"
	"tidykiln/internal/orders"
	"tidykiln/internal/products"
	"tidykiln/internal/workshop"
)

// Demand is what is wanted of a product and not yet made, with a proposal for a batch.
type Demand struct {
	ProductID   uint64            `json:"productId"`
	ProductName string            `json:"productName"`
	Lettered    bool              `json:"lettered"`
	OwnPictures bool              `json:"ownPictures"`
	Wants       []orders.OpenWant `json:"wants" nullable:"false"`
	// Extras are plain pieces to start beyond the wants, against expected spoils.
	Extras int `json:"extras"`
	// LotSize is the most pieces that fit a sitting and the racks.
	LotSize int   `json:"lotSize"`
	Lots    []int `json:"lots" nullable:"false"`
	// Pilot says why a pilot piece is proposed; empty when what is used has been through removal before.
	Pilot string `json:"pilot"`
	// Stopped is why no batch can be made up: a check that nobody has overruled; empty when none.
	Stopped string `json:"stopped"`
	// OnSheet is how many pieces' prints a sheet holds, under one where a print takes several; 0 without sheets.
	OnSheet float64 `json:"onSheet"`
	// OnShelf counts finished plain pieces that no order has.
	OnShelf int `json:"onShelf"`
}

// Demand lists open demand by product, most urgent first within each.
func (a *Area) Demand(ctx context.Context) ([]Demand, error) {
	return database.Look(ctx, a.db, func(tx *gorm.DB) (demand []Demand, err error) {
		basis, err := a.products.Basis(tx, a.now())
		if err != nil {
			return nil, err
		}
		wants, err := batches.Unserved(tx)
		if err != nil {
			return nil, err
		}
		made, err := products.LoadAll(tx)
		if err != nil {
			return nil, err
		}
		log, err := batches.LoadLogbook(tx)
		if err != nil {
			return nil, err
		}
		return Demanded(tx, basis, log, made, wants)
	})
}

// Demanded proposes batches for open wants, and says what speaks for and against each.
func Demanded(tx *gorm.DB, basis products.Basis, log batches.Logbook, made []products.Product, wants []orders.OpenWant) ([]Demand, error) {
	shelf, err := shelfCounts(tx)
	if err != nil {
		return nil, err
	}
	proven, err := batches.Proven(tx)
	if err != nil {
		return nil, err
	}
	overrides, err := products.AllOverridesInForce(tx)
	if err != nil {
		return nil, err
	}
	demand := Proposals(basis.Workshop, log, made, wants)
	for i := range demand {
		d := &demand[i]
		d.OnShelf = shelf[d.ProductID]
		d.OnSheet = OnSheet(basis, made[i])
		if stop := basis.Stopped(made[i], overrides[d.ProductID]); stop != nil {
			d.Stopped = stop.Why
		}
		if !proven[batches.Proof{ProductID: d.ProductID, Signature: basis.Signature(made[i])}] {
			d.proposePilot()
		}
	}
	return demand, nil
}

// OnSheet is how many pieces' prints the first sheets of a recipe hold.
func OnSheet(b products.Basis, p products.Product) float64 {
	extent := craft.ExtentOf(p.Blank, p.Picture)
	for _, s := range p.Recipe.Document.Steps {
		for _, u := range s.Uses {
			if a := u.Amount(s, extent, b.Materials[u.Material].Supply()); a.Every > 0 {
				return a.Every
			}
		}
	}
	return 0
}

// proposePilot puts one piece ahead of the others.
func (d *Demand) proposePilot() {
	d.Pilot = "This method, medium, paper and blank have not been through removal together yet: one piece first shows whether they get on."
	if pieces := len(d.Wants) + d.Extras; pieces > 1 && d.LotSize > 0 {
		d.Lots = append([]int{1}, craft.Lots(pieces-1, d.LotSize)...)
	}
}

// Proposals groups open wants by product and proposes what to start.
func Proposals(w workshop.Workshop, log batches.Logbook, made []products.Product, wants []orders.OpenWant) []Demand {
	demand := make([]Demand, 0, len(made))
	for _, p := range made {
		d := Demand{ProductID: p.ID, ProductName: p.Name, Lettered: p.Lettered, OwnPictures: p.OwnPictures, Wants: []orders.OpenWant{}, Lots: []int{}}
		for _, want := range wants {
			if want.ProductID == p.ID {
				d.Wants = append(d.Wants, want)
			}
		}
		recipe := p.Bench()
		d.Extras = log.Start(p, len(d.Wants), w.Confidence) - len(d.Wants)
		d.LotSize = w.LotSize(recipe, p.Blank)
		d.Lots = append(d.Lots, craft.Lots(len(d.Wants)+d.Extras, d.LotSize)...)
		demand = append(demand, d)
	}
	return demand
}
