package stores

import (
	"context"
	"net/http"

	"github.com/danielgtaylor/huma/v2"

	"tidykiln/internal/wire"
)

// Mount adds the area's routes.
func (a *Area) Mount(api huma.API) {
	huma.Register(api, huma.Operation{OperationID: "list-materials", Method: http.MethodGet, Path: "/api/materials", Summary: "The materials, by kind and name"},
		func(ctx context.Context, _ *struct{}) (*wire.Body[[]Material], error) {
			list, err := a.List(ctx)
			return &wire.Body[[]Material]{Body: list}, err
		})
}
