package stores

import (
	"context"
	"net/http"

	"github.com/danielgtaylor/huma/v2"

	"tidykiln/internal/wire"
)

// Entered is the receipt that was entered.
type Entered struct {
	ReceiptID uint64 `json:"receiptId"`
}

// Mount adds the area's routes.
func (a *Area) Mount(api huma.API) {
	huma.Register(api, huma.Operation{OperationID: "list-materials", Method: http.MethodGet, Path: "/api/materials", Summary: "A page of the materials, by kind and name, with what is left"},
		func(ctx context.Context, in *struct {
			Text string `query:"text" maxLength:"120"`
			Kind Kind   `query:"kind" enum:"blank,medium,paint,sealer,paper,film,toner,ink,consumable,finish,packing,energy"`
			Page int    `query:"page" minimum:"0" maximum:"10000"`
		}) (*wire.Body[Shelves], error) {
			list, err := a.List(ctx, Search{in.Text, in.Kind, in.Page})
			return &wire.Body[Shelves]{Body: list}, err
		})
	huma.Register(api, huma.Operation{OperationID: "list-material-names", Method: http.MethodGet, Path: "/api/material-names", Summary: "All materials by name, for choosing one"},
		func(ctx context.Context, _ *struct{}) (*wire.Body[[]MaterialName], error) {
			names, err := a.Names(ctx)
			return &wire.Body[[]MaterialName]{Body: names}, err
		})
	huma.Register(api, huma.Operation{OperationID: "get-material", Method: http.MethodGet, Path: "/api/materials/{id}", Summary: "A material, what is left of it, and where it went"},
		func(ctx context.Context, in *wire.ByID) (*wire.Body[MaterialCard], error) {
			c, err := a.Card(ctx, in.ID)
			return &wire.Body[MaterialCard]{Body: c}, err
		})
	huma.Register(api, huma.Operation{OperationID: "add-material", Method: http.MethodPost, Path: "/api/materials", Summary: "Add a material", DefaultStatus: http.StatusCreated},
		func(ctx context.Context, in *wire.Body[NewMaterial]) (*wire.Body[Material], error) {
			m, err := a.Add(ctx, in.Body)
			return &wire.Body[Material]{Body: m}, err
		})
	huma.Register(api, huma.Operation{OperationID: "change-material", Method: http.MethodPut, Path: "/api/materials/{id}", Summary: "Change what is said of a material"},
		edit(a.Change))
	huma.Register(api, huma.Operation{OperationID: "read-label", Method: http.MethodPut, Path: "/api/materials/{id}/label", Summary: "Keep what a material's label says of its rests"},
		edit(a.ReadLabel))
	huma.Register(api, huma.Operation{OperationID: "archive-material", Method: http.MethodPost, Path: "/api/materials/{id}/archive", Summary: "Take a material out of the stores", DefaultStatus: http.StatusNoContent},
		func(ctx context.Context, in *wire.Edit[wire.Versioned]) (*struct{}, error) {
			return nil, a.Archive(ctx, in.ID, in.Body.Version)
		})
	huma.Register(api, huma.Operation{OperationID: "count-material", Method: http.MethodPost, Path: "/api/materials/{id}/count", Summary: "Correct a stock to what was counted"}, edit(a.Count))
	huma.Register(api, huma.Operation{OperationID: "take-out", Method: http.MethodPost, Path: "/api/materials/{id}/take-out", Summary: "Note stock that went bad or was lost"}, edit(a.TakeOut))
	a.mountReceipts(api)
	a.mountFiles(api)
}

func (a *Area) mountReceipts(api huma.API) {
	huma.Register(api, huma.Operation{OperationID: "list-receipts", Method: http.MethodGet, Path: "/api/receipts", Summary: "What was bought, the latest first"},
		func(ctx context.Context, in *struct {
			Page int `query:"page" minimum:"0" maximum:"10000"`
		}) (*wire.Body[[]Bought], error) {
			list, err := a.Receipts(ctx, in.Page)
			return &wire.Body[[]Bought]{Body: list}, err
		})
	huma.Register(api, huma.Operation{OperationID: "list-suppliers", Method: http.MethodGet, Path: "/api/suppliers", Summary: "Whom materials are bought from, and how they have done"},
		func(ctx context.Context, _ *struct{}) (*wire.Body[[]SupplierRecord], error) {
			list, err := a.Suppliers(ctx)
			return &wire.Body[[]SupplierRecord]{Body: list}, err
		})
	huma.Register(api, huma.Operation{OperationID: "enter-receipt", Method: http.MethodPost, Path: "/api/receipts", Summary: "Enter what was bought", DefaultStatus: http.StatusCreated},
		func(ctx context.Context, in *wire.Body[NewReceipt]) (*wire.Body[Entered], error) {
			id, err := a.Buy(ctx, in.Body)
			return &wire.Body[Entered]{Body: Entered{id}}, err
		})
	huma.Register(api, huma.Operation{OperationID: "take-back-receipt", Method: http.MethodPost, Path: "/api/receipts/{id}/take-back", Summary: "Take a receipt back", DefaultStatus: http.StatusNoContent},
		func(ctx context.Context, in *wire.ByID) (*struct{}, error) { return nil, a.TakeBack(ctx, in.ID) })
	huma.Register(api, huma.Operation{OperationID: "inspect-purchase", Method: http.MethodPost, Path: "/api/purchases/{id}/inspect", Summary: "Count blanks that turned out no good against their supplier"}, edit(a.Inspect))
}

// edit is a route's answer to a change of one material.
func edit[T any](do func(context.Context, uint64, T) (Material, error)) func(context.Context, *wire.Edit[T]) (*wire.Body[Material], error) {
	return func(ctx context.Context, in *wire.Edit[T]) (*wire.Body[Material], error) {
		m, err := do(ctx, in.ID, in.Body)
		return &wire.Body[Material]{Body: m}, err
	}
}
