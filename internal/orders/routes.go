package orders

import (
	"context"
	"net/http"

	"github.com/danielgtaylor/huma/v2"

	"tidykiln/internal/wire"
)

// Mount adds the area's routes.
func (a *Area) Mount(api huma.API) {
	huma.Register(api, huma.Operation{OperationID: "list-customers", Method: http.MethodGet, Path: "/api/customers", Summary: "Names of customers that contain a text"},
		func(ctx context.Context, in *struct {
			Text string `query:"text" maxLength:"120"`
		}) (*wire.Body[[]string], error) {
			names, err := a.Customers(ctx, in.Text)
			return &wire.Body[[]string]{Body: names}, err
		})
}
