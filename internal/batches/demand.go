package batches

import (
	"context"
	"fmt"

	"gorm.io/gorm"

	"tidykiln/core/calendar"
	"tidykiln/core/craft"
	"tidykiln/internal/products"
	"tidykiln/internal/workshop"
)

// OpenWant is a wanted piece for which nothing is being made.
type OpenWant struct {
	WantID      uint64        `json:"wantId"`
	OrderID     uint64        `json:"orderId"`
	OrderNumber int           `json:"orderNumber"`
	Customer    string        `json:"customer"`
	DueOn       calendar.Date `json:"dueOn" format:"date"`
	Lettering   string        `json:"lettering"`
	ProductID   uint64        `json:"-"`
}

// Demand is what is wanted of a product and not yet made, with a proposal for a batch.
type Demand struct {
	ProductID   uint64     `json:"productId"`
	ProductName string     `json:"productName"`
	Lettered    bool       `json:"lettered"`
	Wants       []OpenWant `json:"wants" nullable:"false"`
	// Extras are plain pieces to start beyond the wants, against expected spoils.
	Extras int `json:"extras"`
	// LotSize is the most pieces that fit a sitting and the rack.
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
func (a *Area) Demand(ctx context.Context) (demand []Demand, err error) {
	err = a.db.Read(ctx, func(tx *gorm.DB) error {
		basis, err := products.LoadBasis(tx, a.now())
		if err != nil {
			return err
		}
		wants, err := OpenWants(tx)
		if err != nil {
			return err
		}
		made, err := products.LoadAll(tx)
		if err != nil {
			return err
		}
		shelf, err := shelfCounts(tx)
		if err != nil {
			return err
		}
		proven, err := provenSignatures(tx)
		if err != nil {
			return err
		}
		overrides, err := products.AllOverridesInForce(tx)
		if err != nil {
			return err
		}
		log, err := LoadLogbook(tx)
		if err != nil {
			return err
		}
		demand = Proposals(basis.Workshop, log, made, wants)
		for i := range demand {
			d := &demand[i]
			d.OnShelf = shelf[d.ProductID]
			d.OnSheet = onSheet(basis, made[i])
			if stop := basis.Stopped(made[i], overrides[d.ProductID]); stop != nil {
				d.Stopped = stop.Why
			}
			if !proven[proof{d.ProductID, basis.Signature(made[i])}] {
				d.proposePilot()
			}
		}
		return nil
	})
	return demand, err
}

// onSheet is how many pieces' prints the first sheets of a recipe hold.
func onSheet(b products.Basis, p products.Product) float64 {
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

// proof is what has been through removal for a product.
type proof struct {
	ProductID uint64
	Signature string
}

func provenSignatures(tx *gorm.DB) (map[proof]bool, error) {
	var rows []proof
	err := tx.Table("batches").Distinct("batches.product_id, batches.signature").
		Joins("JOIN lots ON lots.batch_id = batches.id").
		Joins("JOIN runs ON runs.lot_id = lots.id AND runs.ended_at IS NOT NULL AND runs.step >= batches.proof_step").
		Scan(&rows).Error
	if err != nil {
		return nil, fmt.Errorf("reading what has been through removal: %w", err)
	}
	proven := map[proof]bool{}
	for _, r := range rows {
		proven[r] = true
	}
	return proven, nil
}

// Proposals groups open wants by product and proposes what to start.
func Proposals(w workshop.Workshop, log Logbook, made []products.Product, wants []OpenWant) []Demand {
	demand := make([]Demand, 0, len(made))
	for _, p := range made {
		d := Demand{ProductID: p.ID, ProductName: p.Name, Lettered: p.Lettered, Wants: []OpenWant{}, Lots: []int{}}
		for _, want := range wants {
			if want.ProductID == p.ID {
				d.Wants = append(d.Wants, want)
			}
		}
		recipe := p.Bench()
		d.Extras = log.Start(p, len(d.Wants), w.Confidence) - len(d.Wants)
		d.LotSize = recipe.LotSize(w.Sitting(), w.RackPlaces)
		d.Lots = append(d.Lots, craft.Lots(len(d.Wants)+d.Extras, d.LotSize)...)
		demand = append(demand, d)
	}
	return demand
}

// OpenWants reads the wants of open orders for which there is no piece, soonest due first.
func OpenWants(tx *gorm.DB) (wants []OpenWant, err error) {
	err = tx.Table("wants").
		Select("wants.id AS want_id, orders.id AS order_id, orders.number AS order_number, customers.name AS customer, orders.due_on, wants.lettering, order_lines.product_id").
		Joins("JOIN order_lines ON order_lines.id = wants.order_line_id").
		Joins("JOIN orders ON orders.id = order_lines.order_id").
		Joins("JOIN customers ON customers.id = orders.customer_id").
		Joins("LEFT JOIN pieces ON pieces.want_id = wants.id").
		Where("orders.state = 'open' AND pieces.id IS NULL").
		Order("orders.due_on, orders.number, order_lines.position, wants.position").
		Scan(&wants).Error
	if err != nil {
		return nil, fmt.Errorf("reading the open demand: %w", err)
	}
	return wants, nil
}
