package selling

import (
	"context"

	"github.com/danielgtaylor/huma/v2"

	"tidykiln/internal/database"
	"tidykiln/internal/products"
	"tidykiln/internal/wire"
)

// priced are what prices are made from.
const priced = database.Products | database.Stores | database.Workshop

// listAt is a request for the price list of one way of selling.
type listAt struct {
	OutletID uint64 `query:"outletId" doc:"the main one when left out"`
}

// Mount adds the area's routes.
func (a *Area) Mount(api huma.API) {
	wire.Get(api, "get-costs", "/api/products/{id}/costs", "What a piece costs and earns, made in batches of a size", wire.Makers, priced,
		func(ctx context.Context, in *products.BatchOf) (Costs, error) { return a.Costs(ctx, in.ID, in.Good()) })
	wire.Put(api, "set-price", "/api/products/{id}/price", "Set what is asked for a product at a way of selling", wire.Makers, wire.Edit(a.SetPrice))
	wire.Get(api, "list-outlets", "/api/outlets", "The ways of selling, the main one first", wire.Makers, database.Products, wire.Whole(a.Outlets))
	wire.Create(api, "add-outlet", "/api/outlets", "Add a way of selling", wire.Makers, wire.With(a.AddOutlet))
	wire.Put(api, "change-outlet", "/api/outlets/{id}", "Change a way of selling", wire.Makers, wire.Edit(a.ChangeOutlet))
	wire.Post(api, "archive-outlet", "/api/outlets/{id}/archive", "End a way of selling", wire.Makers, wire.AtVersion(a.ArchiveOutlet))
	wire.Get(api, "list-prices", "/api/prices", "Every product at every way of selling", wire.Makers, priced, wire.Whole(a.PriceList))
	wire.GetFile(api, "export-prices", "/api/prices/table", "The whole price list as a table (CSV)", wire.Makers,
		func(ctx context.Context, _ *struct{}) (*wire.File, error) {
			table, err := a.PriceListCSV(ctx)
			return wire.NewFile("text/csv; charset=utf-8", "prices.csv", table), err
		})
	wire.GetFile(api, "print-prices", "/api/prices/list", "What is asked at one way of selling, on paper (PDF)", wire.Makers,
		func(ctx context.Context, in *listAt) (*wire.File, error) {
			pdf, err := a.PriceListPDF(ctx, in.OutletID)
			return wire.NewFile("application/pdf", "price-list.pdf", pdf), err
		})
	wire.Ask(api, "work-out-fair", "/api/fair", "When a stall at a fair pays", wire.Makers, priced, wire.With(a.Fair))
}
