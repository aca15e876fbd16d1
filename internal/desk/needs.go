package desk

import (
	"cmp"
	"context"
	"fmt"
	"maps"
	"slices"
	"time"

	"github.com/shopspring/decimal"
	"gorm.io/gorm"

	"tidykiln/core/calendar"
	"tidykiln/core/craft"
	"tidykiln/core/stock"
	"tidykiln/internal/batches"
	"tidykiln/internal/database"
	"tidykiln/internal/planning"
	"tidykiln/internal/stores"
)

// Needs is what the planned work takes from the stores.
type Needs struct {
	Materials []Need `json:"materials" nullable:"false" doc:"the soonest to order first"`
	// Shopping is what has to be bought for it, by supplier; last what has never been bought.
	Shopping []ShoppingList `json:"shopping" nullable:"false"`
	// NotCounted are materials that the planned work needs and of which nobody has said how much there is.
	NotCounted []NotCounted `json:"notCounted" nullable:"false"`
	Riders     []Rider      `json:"riders" nullable:"false" doc:"prints that would ride free on a part-filled sheet"`
}

// Need is what the planned work takes of one material.
type Need struct {
	MaterialID uint64          `json:"materialId"`
	Name       string          `json:"name"`
	Kind       stores.Kind     `json:"kind"`
	Unit       stock.Unit      `json:"unit"`
	Counted    bool            `json:"counted"`
	OnHand     decimal.Decimal `json:"onHand"`
	Needed     decimal.Decimal `json:"needed" doc:"by all the planned work"`
	Missing    decimal.Decimal `json:"missing"`
	LeadDays   int             `json:"leadDays"`
	// Levels are how much is left from each moment on; below zero it is missing.
	Levels []StockLevel `json:"levels" nullable:"false"`
	// RunsOutAt is when there is no longer enough; nil when there is, or when its stock is not kept count of.
	RunsOutAt  *time.Time `json:"runsOutAt,omitempty"`
	RunsOutFor string     `json:"runsOutFor" doc:"the work that it is then missing for"`
	// OrderBy is the day to order it, given how long it takes to come; empty when nothing is missing.
	OrderBy calendar.Date `json:"orderBy"`
	hazard  string
}

// NotCounted is a material that is needed and whose stock is not known: look.
type NotCounted struct {
	MaterialID uint64          `json:"materialId"`
	Name       string          `json:"name"`
	Unit       stock.Unit      `json:"unit"`
	Needed     decimal.Decimal `json:"needed"`
	Hazard     string          `json:"hazard" doc:"what its label warns of; empty when nothing"`
}

// StockLevel is what is left from a moment on.
type StockLevel struct {
	At   time.Time       `json:"at"`
	Left decimal.Decimal `json:"left"`
}

// ShoppingList is what to buy of one supplier.
type ShoppingList struct {
	Supplier string          `json:"supplier" doc:"empty for what has never been bought"`
	Lines    []ShoppingLine  `json:"lines" nullable:"false"`
	Total    decimal.Decimal `json:"total"`
}

// ShoppingLine is packs of one material to buy.
type ShoppingLine struct {
	MaterialID uint64          `json:"materialId"`
	Name       string          `json:"name"`
	Unit       stock.Unit      `json:"unit"`
	Missing    decimal.Decimal `json:"missing"`
	Packs      int             `json:"packs"`
	Pack       string          `json:"pack" doc:"empty when no pack is known"`
	Quantity   decimal.Decimal `json:"quantity" doc:"in all the packs"`
	Price      decimal.Decimal `json:"price" doc:"of all the packs, as they were last bought"`
	OrderBy    calendar.Date   `json:"orderBy"`
	Hazard     string          `json:"hazard" doc:"what its label warns of; empty when nothing"`
}

// Rider is a number of prints that cost no further sheet.
type Rider struct {
	Product string `json:"product"`
	Sheet   string `json:"sheet"`
	Pieces  int    `json:"pieces" doc:"that the batch is printed for"`
	Free    int    `json:"free" doc:"prints more that its last sheet has room for"`
}

// Needs draws the planned work on the stores.
func (a *Area) Needs(ctx context.Context) (n Needs, err error) {
	s, err := a.current(ctx)
	if err != nil {
		return n, err
	}
	draws := s.draws()
	n = Needs{Materials: []Need{}, Shopping: []ShoppingList{}, NotCounted: []NotCounted{}, Riders: s.riders()}
	for _, key := range slices.Sorted(maps.Keys(draws)) {
		n.Materials = append(n.Materials, s.need(s.Basis.Materials[key], draws[key]))
	}
	for _, m := range n.Materials {
		// Power is metered and never lies on a shelf.
		if !m.Counted && m.Kind != stores.Energy && m.Needed.IsPositive() {
			n.NotCounted = append(n.NotCounted, NotCounted{m.MaterialID, m.Name, m.Unit, m.Needed, m.hazard})
		}
	}
	slices.SortStableFunc(n.Materials, func(a, b Need) int {
		return cmp.Or(cmp.Compare(planning.OrLast(a.OrderBy), planning.OrLast(b.OrderBy)), cmp.Compare(a.Name, b.Name))
	})
	var missing []uint64
	for _, m := range n.Materials {
		if m.Missing.IsPositive() {
			missing = append(missing, m.MaterialID)
		}
	}
	packs, err := database.Look(ctx, a.db, func(tx *gorm.DB) (map[uint64][]stores.MaterialPack, error) { return stores.PacksOf(tx, missing) })
	n.Shopping = shoppingLists(n.Materials, packs)
	return n, err
}

// draws maps materials to what the planned steps take of them, at the moment each step begins.
func (s view) draws() map[string][]stock.Draw {
	draws := map[string][]stock.Draw{}
	begun := map[string]bool{}
	for _, j := range s.Jobs {
		extent := extentOf(j)
		for _, placed := range j.Placed {
			i := planning.StepIndex(placed)
			if i < j.First || placed.End.Before(s.Now) {
				continue
			}
			step := j.Recipe.Steps[i]
			first := s.firstFor(j, i, begun)
			for _, u := range step.Uses {
				m := s.Basis.Materials[u.Material]
				quantity := decimal.NewFromFloat(u.Amount(step, extent, m.Supply()).For(j.Pieces, first)).Round(stock.Places)
				if quantity.IsPositive() {
					draws[u.Material] = append(draws[u.Material], stock.Draw{At: placed.Start, Quantity: quantity, For: fmt.Sprintf("%s, %s", j.Name, step.Name)})
				}
			}
		}
	}
	return draws
}

// firstFor tells whether the lot is the first of its batch at a step, and so
// takes what is taken once a batch.
func (s view) firstFor(j planning.Job, step int, begun map[string]bool) bool {
	key := fmt.Sprintf("%s/%d", batchOf(j), step)
	if begun[key] {
		return false
	}
	begun[key] = true
	if j.Lot == nil {
		return true
	}
	return !slices.ContainsFunc(s.Bench.Lots, func(l batches.Lot) bool {
		return l.BatchID == j.Batch.ID && slices.ContainsFunc(s.EndedRuns(l.ID), func(r *batches.Run) bool { return r.Step == step })
	})
}

// batchOf names the batch that a job is a lot of, made up or not.
func batchOf(j planning.Job) string {
	if j.Lot != nil {
		return fmt.Sprintf("batch %d", j.Batch.ID)
	}
	return fmt.Sprintf("open %d", j.ProductID)
}

// extentOf is what the job's coats and prints are reckoned by.
func extentOf(j planning.Job) craft.Extent { return craft.ExtentOf(j.Blank, j.Picture) }

func (s view) need(m stores.Material, draws []stock.Draw) Need {
	n := Need{MaterialID: m.ID, Name: m.Name, Kind: m.Kind, Unit: m.Unit, Counted: m.Counted, OnHand: m.OnHand, LeadDays: m.LeadDays, Levels: []StockLevel{}, hazard: m.Hazard}
	for _, d := range draws {
		n.Needed = n.Needed.Add(d.Quantity)
	}
	if !m.Counted {
		return n
	}
	look := stock.Look(m.OnHand, draws)
	for _, l := range look.Levels {
		n.Levels = append(n.Levels, StockLevel{l.At, l.Left})
	}
	n.Missing = look.Missing
	if look.RunsOut != nil {
		n.RunsOutAt, n.RunsOutFor = &look.RunsOut.At, look.RunsOut.For
		n.OrderBy = calendar.DateOf(look.RunsOut.At, s.Location()).Add(-m.LeadDays)
		if today := calendar.DateOf(s.Now, s.Location()); n.OrderBy < today {
			n.OrderBy = today
		}
	}
	return n
}

// shoppingLists are the cheapest packs for what is missing, by supplier.
func shoppingLists(needs []Need, packs map[uint64][]stores.MaterialPack) []ShoppingList {
	lines := map[string][]ShoppingLine{}
	for _, n := range needs {
		if !n.Missing.IsPositive() {
			continue
		}
		line := ShoppingLine{MaterialID: n.MaterialID, Name: n.Name, Unit: n.Unit, Missing: n.Missing, OrderBy: n.OrderBy, Hazard: n.hazard}
		known := packs[n.MaterialID]
		offers := make([]stock.Offer, len(known))
		for i, p := range known {
			offers[i] = stock.Offer{ID: uint64(i), Quantity: p.Quantity, Price: p.Price}
		}
		mix, _ := stock.CheapestMix(n.Missing, offers)
		for _, b := range mix {
			p := known[b.ID]
			many := decimal.NewFromInt(int64(b.Packs))
			line.Packs, line.Pack, line.Quantity, line.Price = b.Packs, p.Pack, p.Quantity.Mul(many), p.Price.Mul(many)
			lines[p.Supplier] = append(lines[p.Supplier], line)
		}
		if len(mix) == 0 {
			lines[""] = append(lines[""], line)
		}
	}
	lists := []ShoppingList{}
	suppliers := slices.Sorted(maps.Keys(lines))
	if len(suppliers) > 0 && suppliers[0] == "" {
		suppliers = append(suppliers[1:], "")
	}
	for _, supplier := range suppliers {
		list := ShoppingList{Supplier: supplier, Lines: lines[supplier]}
		for _, l := range list.Lines {
			list.Total = list.Total.Add(l.Price)
		}
		lists = append(lists, list)
	}
	return lists
}

// riders are the prints that open demand's last sheets have room for.
func (s view) riders() []Rider {
	riders := []Rider{}
	for _, j := range s.Jobs {
		if j.Lot != nil && j.Lot.NextStep > 0 {
			continue
		}
		for _, step := range j.Recipe.Steps {
			for _, u := range step.Uses {
				m := s.Basis.Materials[u.Material]
				if free := u.Amount(step, extentOf(j), m.Supply()).Free(j.Pieces); u.Per == craft.PerSheet && free > 0 {
					riders = append(riders, Rider{Product: j.Name, Sheet: m.Name, Pieces: j.Pieces, Free: free})
				}
			}
		}
	}
	return riders
}
