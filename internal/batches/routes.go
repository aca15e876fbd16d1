package batches

import (
	"context"
	"net/http"

	"github.com/danielgtaylor/huma/v2"

	"tidykiln/internal/products"
	"tidykiln/internal/stores"
	"tidykiln/internal/wire"
)

// Ticked lists the points of a checklist that are done, by index.
type Ticked struct {
	Ticked []int `json:"ticked" maxItems:"100" nullable:"false"`
}

// Made names what a request has made.
type Made struct {
	ID     uint64 `json:"id"`
	Number int    `json:"number,omitempty"`
}

// Mount adds the area's routes.
func (a *Area) Mount(api huma.API) {
	change(api, "hand-over", "/api/orders/{id}/hand-over", "Hand an order over", func(ctx context.Context, id uint64, in wire.Versioned) error { return a.HandOver(ctx, id, in.Version) })
	change(api, "take-back", "/api/orders/{id}/take-back", "Undo a hand-over", func(ctx context.Context, id uint64, in wire.Versioned) error { return a.TakeBack(ctx, id, in.Version) })
	change(api, "cancel-order", "/api/orders/{id}/cancel", "Cancel an order", func(ctx context.Context, id uint64, in wire.Versioned) error {
		return a.CancelOrder(ctx, id, in.Version)
	})

	huma.Register(api, huma.Operation{OperationID: "list-demand", Method: http.MethodGet, Path: "/api/demand", Summary: "Open demand by product, with proposals for batches"},
		func(ctx context.Context, _ *struct{}) (*wire.Body[[]Demand], error) {
			d, err := a.Demand(ctx)
			return &wire.Body[[]Demand]{Body: d}, err
		})
	huma.Register(api, huma.Operation{OperationID: "get-overage", Method: http.MethodGet, Path: "/api/products/{id}/overage", Summary: "How many pieces to start for the good ones wanted"},
		func(ctx context.Context, in *struct {
			ID         uint64  `path:"id"`
			Good       int     `query:"good" minimum:"0" maximum:"499" doc:"twelve when left out"`
			Confidence float64 `query:"confidence" minimum:"0" maximum:"0.999" doc:"the workshop's own when left out"`
		}) (*wire.Body[Overage], error) {
			good := in.Good
			if good == 0 {
				good = 12
			}
			o, err := a.Overage(ctx, in.ID, good, in.Confidence)
			return &wire.Body[Overage]{Body: o}, err
		})
	huma.Register(api, huma.Operation{OperationID: "make-batch", Method: http.MethodPost, Path: "/api/batches", Summary: "Make up a batch", DefaultStatus: http.StatusCreated},
		func(ctx context.Context, in *wire.Body[NewBatch]) (*wire.Body[Made], error) {
			b, err := a.Make(ctx, in.Body)
			return &wire.Body[Made]{Body: Made{b.ID, b.Number}}, err
		})
	huma.Register(api, huma.Operation{OperationID: "list-past-batches", Method: http.MethodGet, Path: "/api/batches", Summary: "Batches that are finished or abandoned, the latest first"},
		func(ctx context.Context, in *struct {
			Page int `query:"page" minimum:"1" maximum:"100000" default:"1"`
		}) (*wire.Body[PastPage], error) {
			p, err := a.Past(ctx, in.Page)
			return &wire.Body[PastPage]{Body: p}, err
		})
	huma.Register(api, huma.Operation{OperationID: "propose-past", Method: http.MethodPost, Path: "/api/past-batches/times", Summary: "When the steps of a batch begun at a moment would have been done"},
		func(ctx context.Context, in *wire.Body[PastTimes]) (*wire.Body[PastProposal], error) {
			p, err := a.ProposePast(ctx, in.Body)
			return &wire.Body[PastProposal]{Body: p}, err
		})
	huma.Register(api, huma.Operation{OperationID: "enter-past", Method: http.MethodPost, Path: "/api/past-batches", Summary: "Enter a batch that was made, or begun, before", DefaultStatus: http.StatusCreated},
		func(ctx context.Context, in *wire.Body[PastBatch]) (*wire.Body[Made], error) {
			b, err := a.EnterPast(ctx, in.Body)
			return &wire.Body[Made]{Body: Made{ID: b.ID, Number: b.Number}}, err
		})
	huma.Register(api, huma.Operation{OperationID: "get-account", Method: http.MethodGet, Path: "/api/batches/{id}/account", Summary: "A batch as it was planned and as it really went"},
		func(ctx context.Context, in *wire.ByID) (*wire.Body[Account], error) {
			acc, err := a.Account(ctx, in.ID)
			return &wire.Body[Account]{Body: acc}, err
		})
	huma.Register(api, huma.Operation{OperationID: "get-learnt", Method: http.MethodGet, Path: "/api/products/{id}/learnt", Summary: "What the last batches of a product really took, beside its recipe"},
		func(ctx context.Context, in *wire.ByID) (*wire.Body[Learnt], error) {
			l, err := a.Learnt(ctx, in.ID)
			return &wire.Body[Learnt]{Body: l}, err
		})
	huma.Register(api, huma.Operation{OperationID: "reverse-movement", Method: http.MethodPost, Path: "/api/movements/{id}/reverse", Summary: "Take a movement of stock back"},
		func(ctx context.Context, in *wire.ByID) (*wire.Body[stores.Material], error) {
			m, err := a.ReverseMovement(ctx, in.ID)
			return &wire.Body[stores.Material]{Body: m}, err
		})
	huma.Register(api, huma.Operation{OperationID: "recalibrate", Method: http.MethodPost, Path: "/api/batches/{id}/films", Summary: "Lay a material in the product's recipe as thick as this batch really did"},
		func(ctx context.Context, in *wire.Edit[Recalibration]) (*wire.Body[products.Detail], error) {
			d, err := a.Recalibrate(ctx, in.ID, in.Body)
			return &wire.Body[products.Detail]{Body: d}, err
		})
	huma.Register(api, huma.Operation{OperationID: "say-used", Method: http.MethodPost, Path: "/api/batches/{id}/used", Summary: "Say what a batch really used of a material"},
		func(ctx context.Context, in *wire.Edit[ReallyUsed]) (*wire.Body[Account], error) {
			acc, err := a.SayUsed(ctx, in.ID, in.Body)
			return &wire.Body[Account]{Body: acc}, err
		})
	change(api, "abandon-batch", "/api/batches/{id}/abandon", "Abandon a batch", func(ctx context.Context, id uint64, in wire.Versioned) error { return a.Abandon(ctx, id, in.Version) })
	a.mountRuns(api)
	a.mountShelf(api)
}

func (a *Area) mountShelf(api huma.API) {
	huma.Register(api, huma.Operation{OperationID: "list-shelf", Method: http.MethodGet, Path: "/api/shelf", Summary: "What lies finished of every product"},
		func(ctx context.Context, _ *struct{}) (*wire.Body[[]ShelfRow], error) {
			rows, err := a.Shelf(ctx)
			return &wire.Body[[]ShelfRow]{Body: rows}, err
		})
	byID := func(id, method, path, summary string, do func(context.Context, uint64) (ShelfCard, error)) {
		huma.Register(api, huma.Operation{OperationID: id, Method: method, Path: path, Summary: summary},
			func(ctx context.Context, in *wire.ByID) (*wire.Body[ShelfCard], error) {
				c, err := do(ctx, in.ID)
				return &wire.Body[ShelfCard]{Body: c}, err
			})
	}
	byID("get-shelf", http.MethodGet, "/api/products/{id}/shelf", "What lies finished of a product, where it came from, what was found and what is gone", a.ShelfOf)
	byID("reverse-shelf", http.MethodPost, "/api/shelf-movements/{id}/reverse", "Take a movement of the shelf back", a.ReverseShelf)
	huma.Register(api, huma.Operation{OperationID: "count-shelf", Method: http.MethodPost, Path: "/api/products/{id}/shelf/count", Summary: "Correct the shelf to what was counted"}, shelve(a.CountShelf))
	huma.Register(api, huma.Operation{OperationID: "take-off-shelf", Method: http.MethodPost, Path: "/api/products/{id}/shelf/take-off", Summary: "Note spare pieces that broke or were lost"}, shelve(a.TakeOffShelf))
}

// shelve is a route's answer to a change of one product's shelf.
func shelve[T any](do func(context.Context, uint64, T) (ShelfCard, error)) func(context.Context, *wire.Edit[T]) (*wire.Body[ShelfCard], error) {
	return func(ctx context.Context, in *wire.Edit[T]) (*wire.Body[ShelfCard], error) {
		c, err := do(ctx, in.ID, in.Body)
		return &wire.Body[ShelfCard]{Body: c}, err
	}
}

func (a *Area) mountRuns(api huma.API) {
	huma.Register(api, huma.Operation{OperationID: "take-up", Method: http.MethodPost, Path: "/api/lots/{id}/runs", Summary: "Take up the next step of a lot", DefaultStatus: http.StatusCreated},
		func(ctx context.Context, in *wire.Edit[TakeUp]) (*wire.Body[Made], error) {
			r, err := a.TakeUp(ctx, in.ID, in.Body)
			return &wire.Body[Made]{Body: Made{ID: r.ID}}, err
		})
	change(api, "keep-rests", "/api/lots/{id}/keep-rests", "Keep a lot's usual rests, or let the plan cut them when it is late", a.KeepRests)
	change(api, "log-step", "/api/lots/{id}/log", "Enter a step after it was done", a.Log)
	change(api, "done", "/api/runs/{id}/done", "Mark a step done", a.Finish)
	change(api, "done-before", "/api/runs/{id}/done-before", "Mark a step done that was taken up after it had been done", a.FinishBefore)
	change(api, "tick", "/api/runs/{id}/ticked", "Keep which points of the checklist are done", func(ctx context.Context, id uint64, in Ticked) error { return a.Tick(ctx, id, in.Ticked) })
	act(api, "put-down", "/api/runs/{id}/put-down", "Stop the timer", a.PutDown)
	act(api, "resume", "/api/runs/{id}/resume", "Start the timer again", a.Resume)
	act(api, "give-back", "/api/runs/{id}/give-back", "Take back the taking-up", a.GiveBack)
	act(api, "undo-done", "/api/runs/{id}/undo", "Take back that a step was done", a.Undo)
}

// change adds a route that does something to one thing and answers nothing.
func change[T any](api huma.API, id, path, summary string, do func(context.Context, uint64, T) error) {
	huma.Register(api, huma.Operation{OperationID: id, Method: http.MethodPost, Path: path, Summary: summary, DefaultStatus: http.StatusNoContent},
		func(ctx context.Context, in *wire.Edit[T]) (*struct{}, error) { return nil, do(ctx, in.ID, in.Body) })
}

// act is change for requests without a body.
func act(api huma.API, id, path, summary string, do func(context.Context, uint64) error) {
	huma.Register(api, huma.Operation{OperationID: id, Method: http.MethodPost, Path: path, Summary: summary, DefaultStatus: http.StatusNoContent},
		func(ctx context.Context, in *wire.ByID) (*struct{}, error) { return nil, do(ctx, in.ID) })
}
