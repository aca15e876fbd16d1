package stores

import (
	"context"

	"github.com/danielgtaylor/huma/v2"

	"tidykiln/internal/database"
	"tidykiln/internal/wire"
)

// Entered is the receipt that was entered.
type Entered struct {
	ReceiptID uint64 `json:"receiptId"`
}

// paging is a request for a page of what was bought.
type paging struct {
	Page int `query:"page" minimum:"0" maximum:"10000"`
}

// Mount adds the area's routes.
func (a *Area) Mount(api huma.API) {
	wire.Get(api, "list-materials", "/api/materials", "A page of the materials, by kind and name, with what is left", wire.Makers, database.Stores,
		func(ctx context.Context, in *Search) (Shelves, error) { return a.List(ctx, *in) })
	wire.Get(api, "list-material-names", "/api/material-names", "All materials by name, for choosing one", wire.AtTheBench, database.Stores, wire.Whole(a.Names))
	wire.Get(api, "get-material", "/api/materials/{id}", "A material, what is left of it, and where it went", wire.Makers, database.Stores, wire.Of(a.Card))
	wire.Create(api, "add-material", "/api/materials", "Add a material", wire.Makers, wire.With(a.Add))
	wire.Put(api, "change-material", "/api/materials/{id}", "Change what is said of a material", wire.Makers, wire.Edit(a.Change))
	wire.Put(api, "read-label", "/api/materials/{id}/label", "Keep what a material's label says of its rests", wire.Makers, wire.Edit(a.ReadLabel))
	wire.Post(api, "archive-material", "/api/materials/{id}/archive", "Take a material out of the stores", wire.Makers, wire.AtVersion(a.Archive))
	wire.Post(api, "count-material", "/api/materials/{id}/count", "Correct a stock to what was counted", wire.AtTheBench, wire.Edit(a.Count))
	wire.Post(api, "take-out", "/api/materials/{id}/take-out", "Note stock that went bad or was lost", wire.AtTheBench, wire.Edit(a.TakeOut))
	a.mountReceipts(api)
	a.mountFiles(api)
}

func (a *Area) mountReceipts(api huma.API) {
	wire.Get(api, "list-receipts", "/api/receipts", "What was bought, the latest first", wire.Makers, database.Stores,
		func(ctx context.Context, in *paging) ([]Bought, error) { return a.Receipts(ctx, in.Page) })
	wire.Get(api, "list-suppliers", "/api/suppliers", "Whom materials are bought from, and how they have done", wire.Makers, database.Stores, wire.Whole(a.Suppliers))
	wire.Create(api, "enter-receipt", "/api/receipts", "Enter what was bought", wire.Makers,
		func(ctx context.Context, in *wire.Sent[NewReceipt]) (Entered, error) {
			id, err := a.Buy(ctx, in.Body)
			return Entered{id}, err
		})
	wire.Post(api, "take-back-receipt", "/api/receipts/{id}/take-back", "Take a receipt back", wire.Makers, wire.Act(a.TakeBack))
	wire.Post(api, "inspect-purchase", "/api/purchases/{id}/inspect", "Count blanks that turned out no good against their supplier", wire.AtTheBench, wire.Edit(a.Inspect))
}
