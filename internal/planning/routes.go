package planning

import (
	"context"
	"fmt"
	"net/http"

	"github.com/danielgtaylor/huma/v2"

	"tidykiln/core/calendar"
	"tidykiln/internal/batches"
	"tidykiln/internal/wire"
)

// Told names moves that customers know of.
type Told struct {
	IDs []uint64 `json:"ids" maxItems:"500" nullable:"false"`
}

// Mount adds the area's routes.
func (a *Area) Mount(api huma.API) {
	huma.Register(api, huma.Operation{OperationID: "list-needs", Method: http.MethodGet, Path: "/api/needs", Summary: "What the planned work takes from the stores, and what to buy for it"},
		func(ctx context.Context, _ *struct{}) (*wire.Body[Needs], error) {
			n, err := a.Needs(ctx)
			return &wire.Body[Needs]{Body: n}, err
		})
	huma.Register(api, huma.Operation{OperationID: "get-today", Method: http.MethodGet, Path: "/api/today", Summary: "The bench as it is now"},
		func(ctx context.Context, _ *struct{}) (*wire.Body[Today], error) {
			t, err := a.Today(ctx)
			return &wire.Body[Today]{Body: t}, err
		})
	huma.Register(api, huma.Operation{OperationID: "get-plan", Method: http.MethodGet, Path: "/api/plan", Summary: "Days from 05:00 to 05:00 with their steps, rests and dues"},
		func(ctx context.Context, in *struct {
			From calendar.Date `query:"from" format:"date"`
			Days int           `query:"days" minimum:"1" maximum:"42" default:"7"`
		}) (*wire.Body[Plan], error) {
			p, err := a.Days(ctx, in.From, in.Days)
			return &wire.Body[Plan]{Body: p}, err
		})
	huma.Register(api, huma.Operation{OperationID: "list-orders", Method: http.MethodGet, Path: "/api/orders", Summary: "Open orders, and those closed lately"},
		func(ctx context.Context, _ *struct{}) (*wire.Body[[]LedgerRow], error) {
			rows, err := a.Ledger(ctx)
			return &wire.Body[[]LedgerRow]{Body: rows}, err
		})
	huma.Register(api, huma.Operation{OperationID: "get-order", Method: http.MethodGet, Path: "/api/orders/{id}", Summary: "An order, its pieces and what happened when"},
		func(ctx context.Context, in *wire.ByID) (*wire.Body[OrderPage], error) {
			page, err := a.Order(ctx, in.ID)
			return &wire.Body[OrderPage]{Body: page}, err
		})
	huma.Register(api, huma.Operation{OperationID: "get-lot", Method: http.MethodGet, Path: "/api/lots/{id}", Summary: "A lot, its steps done and to come"},
		func(ctx context.Context, in *wire.ByID) (*wire.Body[LotPage], error) {
			page, err := a.Lot(ctx, in.ID)
			return &wire.Body[LotPage]{Body: page}, err
		})
	huma.Register(api, huma.Operation{OperationID: "ask-promise", Method: http.MethodPost, Path: "/api/promise", Summary: "What an order would cost and when it could be ready"},
		func(ctx context.Context, in *wire.Body[Ask]) (*wire.Body[Promise], error) {
			p, err := a.Promise(ctx, in.Body)
			return &wire.Body[Promise]{Body: p}, err
		})
	huma.Register(api, huma.Operation{OperationID: "take-order", Method: http.MethodPost, Path: "/api/orders", Summary: "Take an order; what the shelf holds is given to it", DefaultStatus: http.StatusCreated},
		func(ctx context.Context, in *wire.Body[NewOrder]) (*wire.Body[batches.Made], error) {
			o, err := a.TakeOrder(ctx, in.Body)
			return &wire.Body[batches.Made]{Body: batches.Made{ID: o.ID, Number: o.Number}}, err
		})
	huma.Register(api, huma.Operation{OperationID: "change-order", Method: http.MethodPut, Path: "/api/orders/{id}", Summary: "Change an order that is open: its customer, day, note, prices, names and pieces", DefaultStatus: http.StatusNoContent},
		func(ctx context.Context, in *wire.Edit[OrderChange]) (*struct{}, error) {
			return nil, a.ChangeOrder(ctx, in.ID, in.Body)
		})
	huma.Register(api, huma.Operation{OperationID: "list-moved-promises", Method: http.MethodGet, Path: "/api/moved-promises", Summary: "Promises that have moved and of which nobody was told yet"},
		func(ctx context.Context, _ *struct{}) (*wire.Body[[]MovedPromise], error) {
			moves, err := a.MovedPromises(ctx)
			return &wire.Body[[]MovedPromise]{Body: moves}, err
		})
	huma.Register(api, huma.Operation{OperationID: "told-moved-promises", Method: http.MethodPost, Path: "/api/moved-promises/told", Summary: "Note that customers know of moves", DefaultStatus: http.StatusNoContent},
		func(ctx context.Context, in *wire.Body[Told]) (*struct{}, error) {
			return nil, a.Told(ctx, in.Body.IDs)
		})
	huma.Register(api, huma.Operation{OperationID: "first-steps", Method: http.MethodGet, Path: "/api/first-steps", Summary: "How far a new owner has come"},
		func(ctx context.Context, _ *struct{}) (*wire.Body[FirstSteps], error) {
			s, err := a.FirstSteps(ctx)
			return &wire.Body[FirstSteps]{Body: s}, err
		})
	huma.Register(api, huma.Operation{OperationID: "find", Method: http.MethodGet, Path: "/api/find", Summary: "Find orders, lots and products by a text"},
		func(ctx context.Context, in *struct {
			Text string `query:"text" maxLength:"120"`
		}) (*wire.Body[[]Found], error) {
			found, err := a.Find(ctx, in.Text)
			return &wire.Body[[]Found]{Body: found}, err
		})
	huma.Register(api, huma.Operation{OperationID: "choose-method", Method: http.MethodPost, Path: "/api/choose-method", Summary: "The methods ranked for what somebody wants to make"},
		func(ctx context.Context, in *wire.Body[Wish]) (*wire.Body[Chosen], error) {
			c, err := a.Choose(ctx, in.Body)
			return &wire.Body[Chosen]{Body: c}, err
		})
	huma.Register(api, huma.Operation{OperationID: "ask-batch", Method: http.MethodPost, Path: "/api/batches/ask", Summary: "Which promises making up a batch would move"},
		func(ctx context.Context, in *wire.Body[batches.NewBatch]) (*wire.Body[BatchAnswer], error) {
			answer, err := a.AskBatch(ctx, in.Body)
			return &wire.Body[BatchAnswer]{Body: answer}, err
		})
	huma.Register(api, huma.Operation{OperationID: "get-batch", Method: http.MethodGet, Path: "/api/batches/{id}", Summary: "A batch, its lots and what happened to it"},
		func(ctx context.Context, in *wire.ByID) (*wire.Body[BatchPage], error) {
			page, err := a.Batch(ctx, in.ID)
			return &wire.Body[BatchPage]{Body: page}, err
		})
	huma.Register(api, huma.Operation{OperationID: "get-batch-card", Method: http.MethodGet, Path: "/api/batches/{id}/card.pdf", Summary: "A batch on paper, for the bench"},
		func(ctx context.Context, in *cardAsk) (*wire.File, error) {
			pdf, err := a.Card(ctx, in.ID, in.host)
			return wire.NewFile("application/pdf", fmt.Sprintf("batch-%d.pdf", in.ID), pdf), err
		})
}
