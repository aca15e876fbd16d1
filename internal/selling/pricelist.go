package selling

import (
	"bytes"
	"context"
	"fmt"

	"gorm.io/gorm"

	"tidykiln/core/habit"
	"tidykiln/internal/database"
	"tidykiln/internal/document"
	"tidykiln/internal/problem"
	"tidykiln/internal/products"
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
func (a *Area) PriceList(ctx context.Context) (PriceList, error) {
	return database.Look(ctx, a.db, func(tx *gorm.DB) (PriceList, error) {
		l, _, err := a.priceList(tx)
		return l, err
	})
}

func (a *Area) priceList(tx *gorm.DB) (l PriceList, b Counter, err error) {
	if b, err = a.counter(tx); err != nil {
		return l, b, err
	}
	made, err := products.LoadAll(tx)
	if err != nil {
		return l, b, err
	}
	l = PriceList{Outlets: b.outlets, Rows: []PricedItem{}}
	for _, p := range made {
		costing, err := b.Usual(p)
		if err != nil {
			return l, b, err
		}
		piece := costing.Piece()
		item := PricedItem{ProductID: p.ID, Name: p.Name, Describe: b.Describe(p), Version: p.Version, Cost: piece.Total.StringFixed(2), HandsMinutes: piece.HandsMinutes.StringFixed(1)}
		for _, o := range b.outlets {
			sale, err := b.sale(p, o, piece)
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
		list := document.PriceList{Title: b.Workshop.Name, Subtitle: o.Name, Foot: "Prices in " + b.Workshop.Currency + o.taxInWords(b.Workshop.Habit)}
		for _, r := range l.Rows {
			list.Rows = append(list.Rows, document.PriceRow{Name: r.Name, About: r.Describe, Price: b.Workshop.Habit.Written(r.Sales[at].Tag)})
		}
		var out bytes.Buffer
		err = document.WritePriceList(&out, list)
		pdf = out.Bytes()
		return err
	})
	return pdf, err
}

func (o Outlet) taxInWords(h habit.Habit) string {
	switch {
	case o.TaxPercent.IsZero():
		return ""
	case o.TaxInPrice:
		return fmt.Sprintf(", %s %% sales tax included", h.Written(o.TaxPercent.String()))
	}
	return fmt.Sprintf(", %s %% sales tax on top", h.Written(o.TaxPercent.String()))
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
