package orders

import (
	"github.com/danielgtaylor/huma/v2"

	"tidykiln/internal/database"
	"tidykiln/internal/wire"
)

// Mount adds the area's routes.
func (a *Area) Mount(api huma.API) {
	wire.Get(api, "list-had", "/api/customers/{id}/orders", "What a customer had, the newest first", wire.Makers, database.Orders, wire.Of(a.Had))
}
