package desk

import (
	"context"
	"fmt"

	"github.com/danielgtaylor/huma/v2"

	"tidykiln/internal/database"
	"tidykiln/internal/wire"
)

// searching is a request for what a text is found in.
type searching struct {
	Text string `query:"text" maxLength:"120"`
}

// Mount adds the area's routes.
func (a *Area) Mount(api huma.API) {
	wire.Get(api, "get-today", "/api/today", "The bench as it is now", wire.AtTheBench, database.PlanInputs|database.Room, wire.Whole(a.Today))
	wire.Get(api, "list-orders", "/api/orders", "Open orders, and those closed lately", wire.Makers, database.PlanInputs, wire.Whole(a.Ledger))
	wire.Get(api, "get-order", "/api/orders/{id}", "An order, its pieces and what happened when", wire.Makers, database.PlanInputs|database.Promises|database.Artwork, wire.Of(a.Order))
	wire.Get(api, "get-lot", "/api/lots/{id}", "A lot, its steps done and to come", wire.AtTheBench, database.PlanInputs, wire.Of(a.Lot))
	wire.Get(api, "get-batch", "/api/batches/{id}", "A batch, its lots and what happened to it", wire.AtTheBench, database.PlanInputs, wire.Of(a.Batch))
	wire.GetFile(api, "get-batch-card", "/api/batches/{id}/card.pdf", "A batch on paper, for the bench", wire.AtTheBench,
		func(ctx context.Context, in *wire.ID) (*wire.File, error) {
			pdf, err := a.Card(ctx, in.ID)
			return wire.NewFile("application/pdf", fmt.Sprintf("batch-%d.pdf", in.ID), pdf), err
		})
	wire.Get(api, "list-needs", "/api/needs", "What the planned work takes from the stores, and what to buy for it", wire.Makers, database.PlanInputs, wire.Whole(a.Needs))
	wire.Ask(api, "choose-method", "/api/choose-method", "The methods ranked for what somebody wants to make", wire.Makers, database.Products|database.Stores|database.Workshop, wire.With(a.Choose))
	wire.Get(api, "find", "/api/find", "Find orders, lots and products by a text", wire.Makers, database.Orders|database.Batches|database.Products,
		func(ctx context.Context, in *searching) ([]wire.Found, error) { return a.Find(ctx, in.Text) })
	wire.Get(api, "first-steps", "/api/first-steps", "How far a new owner has come", wire.AtTheBench, database.PlanInputs, wire.Whole(a.FirstSteps))
}
