package fulfilment

import (
	"github.com/danielgtaylor/huma/v2"

	"tidykiln/internal/database"
	"tidykiln/internal/wire"
)

// Mount adds the area's routes.
func (a *Area) Mount(api huma.API) {
	wire.Post(api, "hand-over", "/api/orders/{id}/hand-over", "Hand an order over", wire.Makers, wire.AtVersion(a.HandOver))
	wire.Post(api, "take-back", "/api/orders/{id}/take-back", "Undo a hand-over", wire.Makers, wire.AtVersion(a.TakeBack))
	wire.Put(api, "set-pictures", "/api/orders/{id}/pictures", "Give wanted pieces their customer's pictures", wire.Makers, wire.Change(a.SetPictures))
	wire.Get(api, "list-demand", "/api/demand", "Open demand by product, with proposals for batches", wire.Makers,
		database.Orders|database.Batches|database.Stores|database.Products|database.Workshop, wire.Whole(a.Demand))
	wire.Get(api, "list-shelf", "/api/shelf", "What lies finished of every product", wire.Makers, database.Orders|database.Batches|database.Products, wire.Whole(a.Shelf))
	wire.Get(api, "get-shelf", "/api/products/{id}/shelf", "What lies finished of a product, where it came from, what was found and what is gone", wire.Makers,
		database.Orders|database.Batches|database.Products, wire.Of(a.ShelfOf))
	wire.Post(api, "count-shelf", "/api/products/{id}/shelf/count", "Correct the shelf to what was counted", wire.AtTheBench, wire.Edit(a.CountShelf))
	wire.Post(api, "take-off-shelf", "/api/products/{id}/shelf/take-off", "Note spare pieces that broke or were lost", wire.AtTheBench, wire.Edit(a.TakeOffShelf))
	wire.Post(api, "reverse-shelf", "/api/shelf-movements/{id}/reverse", "Take a movement of the shelf back", wire.Makers, wire.Of(a.ReverseShelf))
}
