package workshop

import (
	"context"
	"net/http"

	"github.com/danielgtaylor/huma/v2"

	"tidykiln/internal/wire"
)

// Mount adds the area's routes.
func (a *Area) Mount(api huma.API) {
	huma.Register(api, huma.Operation{OperationID: "get-workshop", Method: http.MethodGet, Path: "/api/workshop", Summary: "The workshop, its people and hours"},
		func(ctx context.Context, _ *struct{}) (*wire.Body[Workshop], error) {
			w, err := a.Get(ctx)
			return &wire.Body[Workshop]{Body: w}, err
		})
	huma.Register(api, huma.Operation{OperationID: "save-workshop", Method: http.MethodPut, Path: "/api/workshop", Summary: "Replace the workshop as a whole"},
		func(ctx context.Context, in *wire.Body[Workshop]) (*wire.Body[Workshop], error) {
			w, err := a.Save(ctx, in.Body)
			return &wire.Body[Workshop]{Body: w}, err
		})
	huma.Register(api, huma.Operation{OperationID: "get-room", Method: http.MethodGet, Path: "/api/room", Summary: "The room's air now and over the last day"},
		func(ctx context.Context, _ *struct{}) (*wire.Body[Room], error) {
			r, err := a.Room(ctx)
			return &wire.Body[Room]{Body: r}, err
		})
	huma.Register(api, huma.Operation{OperationID: "change-room", Method: http.MethodPut, Path: "/api/room", Summary: "Switch the simulated sensor, and its rainy spell"},
		func(ctx context.Context, in *wire.Body[RoomChange]) (*wire.Body[Room], error) {
			r, err := a.ChangeRoom(ctx, in.Body)
			return &wire.Body[Room]{Body: r}, err
		})
}
