package orders

import (
	"context"

	"github.com/danielgtaylor/huma/v2"

	"tidykiln/internal/database"
	"tidykiln/internal/wire"
)

// named is a request for customers whose names contain a text.
type named struct {
	Text string `query:"text" maxLength:"120"`
}

// Mount adds the area's routes.
func (a *Area) Mount(api huma.API) {
	wire.Get(api, "list-customers", "/api/customers", "Names of customers that contain a text", wire.Makers, database.Orders,
		func(ctx context.Context, in *named) ([]string, error) { return a.Customers(ctx, in.Text) })
}
