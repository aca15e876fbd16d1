package trade

import (
	"github.com/danielgtaylor/huma/v2"

	"tidykiln/internal/database"
	"tidykiln/internal/wire"
)

// Mount adds the area's routes.
func (a *Area) Mount(api huma.API) {
	wire.Get(api, "get-terms", "/api/terms", "What is asked ahead, and what is kept of it", wire.Makers, database.Orders, wire.Whole(a.Terms))
	wire.Put(api, "change-terms", "/api/terms", "Change what is asked ahead, and what is kept of it", wire.Owner, wire.Send(a.ChangeTerms))
	wire.Get(api, "get-order-money", "/api/orders/{id}/money", "What an order asks and what came of it", wire.Makers, database.Orders|database.Batches, wire.Of(a.Money))
	wire.Create(api, "note-payment", "/api/orders/{id}/payments", "Note money that came for an order, or went back", wire.Makers, wire.Edit(a.Note))
	wire.Post(api, "take-back-payment", "/api/payments/{id}/take-back", "Strike a payment out that was noted by mistake", wire.Makers, wire.Of(a.TakeBack))
	wire.Post(api, "cancel-order", "/api/orders/{id}/cancel", "Cancel an order", wire.Makers, wire.AtVersion(a.Cancel))
	wire.Get(api, "list-owed", "/api/owed", "What is to come and to go back, the longest owed first", wire.Makers, database.Orders, wire.Whole(a.Owed))
}
