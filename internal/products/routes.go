package products

import (
	"context"
	"net/http"

	"github.com/danielgtaylor/huma/v2"

	"tidykiln/internal/wire"
)

// Mount adds the area's routes.
func (a *Area) Mount(api huma.API) {
	huma.Register(api, huma.Operation{OperationID: "list-products", Method: http.MethodGet, Path: "/api/products", Summary: "What is made, with what each costs and earns"},
		func(ctx context.Context, _ *struct{}) (*wire.Body[[]Card], error) {
			cards, err := a.Gallery(ctx)
			return &wire.Body[[]Card]{Body: cards}, err
		})
	huma.Register(api, huma.Operation{OperationID: "get-product", Method: http.MethodGet, Path: "/api/products/{id}", Summary: "A product with its recipe and costing"},
		func(ctx context.Context, in *wire.ByID) (*wire.Body[Detail], error) {
			d, err := a.Get(ctx, in.ID)
			return &wire.Body[Detail]{Body: d}, err
		})
	huma.Register(api, huma.Operation{OperationID: "make-product", Method: http.MethodPost, Path: "/api/products", Summary: "Add a product with the recipe its method proposes", DefaultStatus: http.StatusCreated},
		func(ctx context.Context, in *wire.Body[NewProduct]) (*wire.Body[Detail], error) {
			d, err := a.Make(ctx, in.Body)
			return &wire.Body[Detail]{Body: d}, err
		})
	huma.Register(api, huma.Operation{OperationID: "change-product", Method: http.MethodPut, Path: "/api/products/{id}", Summary: "Rename a product or set its price"},
		func(ctx context.Context, in *wire.Edit[ProductChange]) (*wire.Body[Detail], error) {
			d, err := a.Change(ctx, in.ID, in.Body)
			return &wire.Body[Detail]{Body: d}, err
		})
}
