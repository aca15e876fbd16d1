package workshop

import (
	"github.com/danielgtaylor/huma/v2"

	"tidykiln/internal/database"
	"tidykiln/internal/wire"
)

// Mount adds the area's routes.
func (a *Area) Mount(api huma.API) {
	wire.Get(api, "get-workshop", "/api/workshop", "The workshop, its people and hours", wire.AtTheBench, database.Workshop, wire.Whole(a.Get))
	wire.Put(api, "save-workshop", "/api/workshop", "Replace the workshop as a whole", wire.Owner, wire.With(a.Save))
	wire.Get(api, "get-room", "/api/room", "The room's air now and over the last day", wire.AtTheBench, database.Room, wire.Whole(a.Room))
	wire.Put(api, "change-room", "/api/room", "Switch the simulated sensor, and its rainy spell", wire.Makers, wire.With(a.ChangeRoom))
}
