package products

import (
	"bytes"
	"context"
	"fmt"

	"github.com/shopspring/decimal"
	"gorm.io/gorm"

	"tidykiln/core/cost"
	"tidykiln/core/craft"
	"tidykiln/internal/document"
	"tidykiln/internal/problem"
)

// PriceList is every product at every way of selling.
type PriceList struct {
	Outlets []Outlet     `json:"outlets" nullable:"false" doc:"the main one first"`
	Rows    []PricedItem `json:"rows" nullable:"false"`
}

// PricedItem is a product with what it costs in twelves and brings at each way of selling.
type PricedItem struct {
	ProductID    uint64       `json:"productId"`
	Name         string       `json:"name"`
	Describe     string       `json:"describe"`
	Version      int          `json:"version"`
	Cost         string       `json:"cost"`
	HandsMinutes string       `json:"handsMinutes"`
	Sales        []OutletSale `json:"sales" nullable:"false" doc:"in the order of the outlets"`
}

// PriceList works out every price.
func (a *Area) PriceList(ctx context.Context) (l PriceList, err error) {
	err = a.db.Read(ctx, func(tx *gorm.DB) error {
		l, _, err = a.priceList(tx)
		return err
	})
	return l, err
}

func (a *Area) priceList(tx *gorm.DB) (l PriceList, b Basis, err error) {
	if b, err = LoadBasis(tx, a.now()); err != nil {
		return l, b, err
	}
	products, err := LoadAll(tx)
	if err != nil {
		return l, b, err
	}
	prices, err := LoadPrices(tx)
	if err != nil {
		return l, b, err
	}
	l = PriceList{Outlets: b.Outlets, Rows: []PricedItem{}}
	for _, p := range products {
		costing, err := b.Usual(p)
		if err != nil {
			return l, b, err
		}
		piece := costing.Piece()
		item := PricedItem{ProductID: p.ID, Name: p.Name, Describe: b.describe(p), Version: p.Version, Cost: piece.Total.StringFixed(2), HandsMinutes: piece.HandsMinutes.StringFixed(1)}
		for _, o := range b.Outlets {
			sale, err := b.sale(p, o, piece, prices)
			if err != nil {
				return l, b, err
			}
			item.Sales = append(item.Sales, sale)
		}
		l.Rows = append(l.Rows, item)
	}
	return l, b, nil
}

// PriceListPDF writes what is asked at one outlet, for whoever buys there; 0 is the main one.
func (a *Area) PriceListPDF(ctx context.Context, outletID uint64) (pdf []byte, err error) {
	err = a.db.Read(ctx, func(tx *gorm.DB) error {
		l, b, err := a.priceList(tx)
		if err != nil {
			return err
		}
		at := -1
		for i, o := range l.Outlets {
			if o.ID == outletID || outletID == 0 && o.Main {
				at = i
			}
		}
		if at < 0 {
			return problem.NotFound("way of selling")
		}
		o := l.Outlets[at]
		list := document.PriceList{Title: b.Workshop.Name, Subtitle: o.Name, Foot: "Prices in " + b.Workshop.Currency + o.taxInWords()}
		for _, r := range l.Rows {
			list.Rows = append(list.Rows, document.PriceRow{Name: r.Name, About: r.Describe, Price: r.Sales[at].Tag})
		}
		var out bytes.Buffer
		err = document.WritePriceList(&out, list)
		pdf = out.Bytes()
		return err
	})
	return pdf, err
}

func (o Outlet) taxInWords() string {
	switch {
	case o.TaxPercent.IsZero():
		return ""
	case o.TaxInPrice:
		return fmt.Sprintf(", %s %% sales tax included", o.TaxPercent)
	}
	return fmt.Sprintf(", %s %% sales tax on top", o.TaxPercent)
}

// priceColumns are the header of the price list as a table (docs/formats.md).
var priceColumns = []string{"product", "outlet", "currency", "asks", "set", "net", "tax", "fees", "kept", "cost", "left", "margin_percent", "hands_minutes", "earned_per_hour", "floor"}

// PriceListCSV writes every product at every way of selling as a table.
func (a *Area) PriceListCSV(ctx context.Context) (table []byte, err error) {
	err = a.db.Read(ctx, func(tx *gorm.DB) error {
		l, b, err := a.priceList(tx)
		if err != nil {
			return err
		}
		var rows [][]string
		for _, r := range l.Rows {
			for _, s := range r.Sales {
				set := "no"
				if s.Set {
					set = "yes"
				}
				rows = append(rows, []string{r.Name, s.Name, b.Workshop.Currency, s.Tag, set, s.Net, s.Tax, s.Fees, s.Kept, r.Cost, s.Left, s.MarginPercent, r.HandsMinutes, s.EarnedPerHour, s.Floor})
			}
		}
		var out bytes.Buffer
		err = document.WriteCSV(&out, priceColumns, rows)
		table = out.Bytes()
		return err
	})
	return table, err
}

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
func (a *Area) Fair(ctx context.Context, in FairPlan) (f FairAnswer, err error) {
	err = a.db.Read(ctx, func(tx *gorm.DB) error {
		b, err := LoadBasis(tx, a.now())
		if err != nil {
			return err
		}
		prices, err := LoadPrices(tx)
		if err != nil {
			return err
		}
		f, err = b.fair(tx, in, prices)
		return err
	})
	return f, err
}

func (b Basis) fair(tx *gorm.DB, in FairPlan, prices Prices) (f FairAnswer, err error) {
	outlet, found := b.Outlet(in.OutletID)
	if !found {
		return f, problem.Invalid("outletId", "this way of selling is not there")
	}
	stall, err := decimal.NewFromString(in.Stall)
	if err != nil {
		return f, problem.Invalid("stall", "an amount such as 60.00")
	}
	var offers []cost.Offer
	minutes := decimal.Zero
	for i, item := range in.Taken {
		p, err := Load(tx, item.ProductID)
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
		sale, err := b.sale(p, outlet, costing.Piece(), prices)
		if err != nil {
			return f, err
		}
		each := outlet.Way().Sell(costing.Piece(), decimal.RequireFromString(sale.Tag)).Contribution(costing.Piece())
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
