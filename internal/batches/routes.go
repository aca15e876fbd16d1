package batches

import (
	"cmp"
	"context"

	"github.com/danielgtaylor/huma/v2"

	"tidykiln/internal/database"
	"tidykiln/internal/wire"
)

// Ticked lists the points of a checklist that are done, by index.
type Ticked struct {
	Ticked []int `json:"ticked" maxItems:"100" nullable:"false"`
}

// startFor is a request for how many pieces to start.
type startFor struct {
	ID         uint64  `path:"id"`
	Good       int     `query:"good" minimum:"0" maximum:"499" doc:"twelve when left out"`
	Confidence float64 `query:"confidence" minimum:"0" maximum:"0.999" doc:"the workshop's own when left out"`
}

// usualGood is how many good pieces are wanted where nobody says.
const usualGood = 12

// paging is a request for a page of past batches.
type paging struct {
	Page int `query:"page" minimum:"1" maximum:"100000" default:"1"`
}

// accounted are what a batch's account is made from.
const accounted = database.Batches | database.Stores | database.Products | database.Workshop

// Mount adds the area's routes.
func (a *Area) Mount(api huma.API) {
	wire.Get(api, "get-overage", "/api/products/{id}/overage", "How many pieces to start for the good ones wanted", wire.Makers, accounted,
		func(ctx context.Context, in *startFor) (Overage, error) {
			return a.Overage(ctx, in.ID, cmp.Or(in.Good, usualGood), in.Confidence)
		})
	wire.Create(api, "make-batch", "/api/batches", "Make up a batch", wire.Makers, wire.With(a.makeUp))
	wire.Get(api, "list-past-batches", "/api/batches", "Batches that are finished or abandoned, the latest first", wire.AtTheBench, database.Batches,
		func(ctx context.Context, in *paging) (PastPage, error) { return a.Past(ctx, in.Page) })
	wire.Ask(api, "propose-past", "/api/past-batches/times", "When the steps of a batch begun at a moment would have been done", wire.Makers, database.Products|database.Workshop, wire.With(a.ProposePast))
	wire.Create(api, "enter-past", "/api/past-batches", "Enter a batch that was made, or begun, before", wire.Makers, wire.With(a.enterPast))
	wire.Get(api, "get-account", "/api/batches/{id}/account", "A batch as it was planned and as it really went", wire.Makers, accounted, wire.Of(a.Account))
	wire.Get(api, "get-learnt", "/api/products/{id}/learnt", "What the last batches of a product really took, beside its recipe", wire.Makers, accounted, wire.Of(a.Learnt))
	wire.Post(api, "reverse-movement", "/api/movements/{id}/reverse", "Take a movement of stock back", wire.Makers, wire.Of(a.ReverseMovement))
	wire.Post(api, "recalibrate", "/api/batches/{id}/films", "Lay a material in the product's recipe as thick as this batch really did", wire.Makers, wire.Edit(a.Recalibrate))
	wire.Post(api, "say-used", "/api/batches/{id}/used", "Say what a batch really used of a material", wire.AtTheBench, wire.Edit(a.SayUsed))
	wire.Post(api, "abandon-batch", "/api/batches/{id}/abandon", "Abandon a batch", wire.Makers, wire.AtVersion(a.Abandon))
	a.mountRuns(api)
	a.mountSittings(api)
}

func (a *Area) mountRuns(api huma.API) {
	wire.Create(api, "take-up", "/api/lots/{id}/runs", "Take up the next step of a lot", wire.AtTheBench, wire.Edit(a.takeUpNext))
	wire.Post(api, "keep-rests", "/api/lots/{id}/keep-rests", "Keep a lot's usual rests, or let the plan cut them when it is late", wire.Makers, wire.Change(a.KeepRests))
	wire.Post(api, "hold-lot", "/api/lots/{id}/hold", "Hold a step of a lot in its place in the plan", wire.Makers, wire.Change(a.Hold))
	wire.Post(api, "let-go-lot", "/api/lots/{id}/let-go", "Let the plan place a lot as it sees fit", wire.Makers, wire.Act(a.LetGo))
	wire.Post(api, "log-step", "/api/lots/{id}/log", "Enter a step after it was done", wire.AtTheBench, wire.Change(a.Log))
	wire.Post(api, "done", "/api/runs/{id}/done", "Mark a step done", wire.AtTheBench, wire.Change(a.Finish))
	wire.Post(api, "done-before", "/api/runs/{id}/done-before", "Mark a step done that was taken up after it had been done", wire.AtTheBench, wire.Change(a.FinishBefore))
	wire.Post(api, "tick", "/api/runs/{id}/ticked", "Keep which points of the checklist are done", wire.AtTheBench, wire.Change(a.Tick))
	wire.Post(api, "put-down", "/api/runs/{id}/put-down", "Stop the timer", wire.AtTheBench, wire.Act(a.PutDown))
	wire.Post(api, "resume", "/api/runs/{id}/resume", "Start the timer again", wire.AtTheBench, wire.Act(a.Resume))
	wire.Post(api, "give-back", "/api/runs/{id}/give-back", "Take back the taking-up", wire.AtTheBench, wire.Act(a.GiveBack))
	wire.Post(api, "undo-done", "/api/runs/{id}/undo", "Take back that a step was done", wire.AtTheBench, wire.Act(a.Undo))
}

func (a *Area) mountSittings(api huma.API) {
	wire.Create(api, "take-up-together", "/api/sittings", "Take up the next steps of several lots in one sitting", wire.AtTheBench, wire.With(a.takeUpNextTogether))
	wire.Post(api, "done-together", "/api/sittings/{id}/done", "Mark the lots of a sitting done", wire.AtTheBench, wire.Change(a.FinishTogether))
	wire.Post(api, "tick-together", "/api/sittings/{id}/ticked", "Keep which points of a sitting's checklist are done", wire.AtTheBench, wire.Change(a.TickTogether))
	wire.Post(api, "put-down-together", "/api/sittings/{id}/put-down", "Stop the timer of a sitting", wire.AtTheBench, wire.Act(a.PutDownTogether))
	wire.Post(api, "resume-together", "/api/sittings/{id}/resume", "Start the timer of a sitting again", wire.AtTheBench, wire.Act(a.ResumeTogether))
	wire.Post(api, "give-back-together", "/api/sittings/{id}/give-back", "Take back the taking-up of a sitting", wire.AtTheBench, wire.Act(a.GiveBackTogether))
	wire.Post(api, "undo-done-together", "/api/sittings/{id}/undo", "Take back that the lots of a sitting were done", wire.AtTheBench, wire.Act(a.UndoTogether))
}

// The answers of what is made name it, and nothing more.

func (a *Area) makeUp(ctx context.Context, in NewBatch) (wire.Made, error) {
	b, err := a.Make(ctx, in)
	return wire.Made{ID: b.ID, Number: b.Number}, err
}

func (a *Area) enterPast(ctx context.Context, in PastBatch) (wire.Made, error) {
	b, err := a.EnterPast(ctx, in)
	return wire.Made{ID: b.ID, Number: b.Number}, err
}

func (a *Area) takeUpNext(ctx context.Context, lotID uint64, in TakeUp) (wire.Made, error) {
	r, err := a.TakeUp(ctx, lotID, in)
	return wire.Made{ID: r.ID}, err
}

func (a *Area) takeUpNextTogether(ctx context.Context, in Together) (wire.Made, error) {
	s, err := a.TakeUpTogether(ctx, in)
	return wire.Made{ID: s.ID}, err
}
