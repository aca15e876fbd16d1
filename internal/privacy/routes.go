package privacy

import (
	"context"

	"github.com/danielgtaylor/huma/v2"

	"tidykiln/internal/wire"
)

// Mount adds the area's routes.
func (a *Area) Mount(api huma.API) {
	wire.GetFile(api, "give-out-customer", "/api/customers/{id}/data", "All that is known of a customer, as tables in a ZIP file", wire.Owner,
		func(ctx context.Context, in *wire.ID) (*wire.File, error) {
			content, err := a.GiveOut(ctx, in.ID)
			return wire.NewFile("application/zip", "customer.zip", content), err
		})
	wire.Post(api, "erase-customer", "/api/customers/{id}/erase", "Erase all that tells of a customer; their orders stay under a number", wire.Owner, wire.AtVersion(a.Erase))
}
