package planning

import (
	"context"

	"github.com/danielgtaylor/huma/v2"

	"tidykiln/core/calendar"
	"tidykiln/internal/database"
	"tidykiln/internal/wire"
)

// Told names moves that customers know of.
type Told struct {
	IDs []uint64 `json:"ids" maxItems:"500" nullable:"false"`
}

// stretch is a request for a number of days of the plan.
type stretch struct {
	From calendar.Date `query:"from" format:"date"`
	Days int           `query:"days" minimum:"1" maximum:"42" default:"7"`
}

// fromDay is a request for the days from one on.
type fromDay struct {
	From calendar.Date `query:"from" format:"date"`
}

// Mount adds the area's routes.
func (a *Area) Mount(api huma.API) {
	wire.Get(api, "get-plan", "/api/plan", "Days from 05:00 to 05:00 with their steps, rests and dues", wire.AtTheBench, database.PlanInputs,
		func(ctx context.Context, in *stretch) (Plan, error) { return a.Days(ctx, in.From, in.Days) })
	wire.Ask(api, "suppose", "/api/plan/suppose", "The plan and the promises as they would be were something otherwise", wire.Makers, database.PlanInputs, wire.With(a.Suppose))
	wire.Post(api, "accept-supposed", "/api/plan/accept", "Make of the studio what was supposed", wire.Makers, wire.Send(a.Accept))
	wire.Get(api, "get-earlier", "/api/lots/{id}/earlier", "What would make a lot ready earlier", wire.Makers, database.PlanInputs, wire.Of(a.Earlier))
	wire.Get(api, "list-step-moves", "/api/plan/moves", "Steps of the coming day that new plans have put elsewhere since somebody looked", wire.AtTheBench, database.PlanInputs|database.Promises, wire.Whole(a.StepMoves))
	wire.Post(api, "seen-step-moves", "/api/plan/moves/seen", "Note that somebody has looked at what was moved", wire.AtTheBench, wire.Whole(a.SeenMoves))
	wire.Get(api, "list-suggestions", "/api/suggestions", "Batches suggested from open demand, the most urgent first", wire.Makers, database.PlanInputs, wire.Whole(a.Suggestions))
	wire.Create(api, "accept-suggestion", "/api/suggestions/accept", "Make up all batches of a suggestion, or none", wire.Makers, wire.With(a.AcceptSuggestion))
	wire.Post(api, "dismiss-suggestion", "/api/suggestions/dismiss", "Leave a suggestion out until other pieces are wanted", wire.Makers, wire.Send(a.Dismiss))
	wire.Post(api, "recall-suggestion", "/api/suggestions/recall", "Bring a dismissed suggestion back", wire.Makers, wire.Send(a.Recall))
	wire.Get(api, "get-before-stop", "/api/before-stop", "What to do before hands are over, so that the night does the resting", wire.AtTheBench, database.PlanInputs, wire.Whole(a.BeforeStop))
	wire.GetFile(api, "get-week-on-paper", "/api/plan/week.pdf", "A week of the plan on paper, a line a sitting", wire.AtTheBench,
		func(ctx context.Context, in *fromDay) (*wire.File, error) { return a.WeekOnPaper(ctx, in.From) })
	wire.GetFile(api, "get-plan-calendar", "/api/plan/calendar.ics", "What is planned, for a calendar program", wire.AtTheBench,
		func(ctx context.Context, _ *struct{}) (*wire.File, error) { return a.InCalendar(ctx) })
	wire.Get(api, "get-calendar-address", "/api/plan/calendar-address", "Where calendar programs find the plan", wire.Makers, database.Access, wire.Whole(a.FeedAddress))
	wire.Secret(api, "renew-calendar-address", "/api/plan/calendar-address", "Give the plan's feed another address", wire.Makers, wire.Unkept(wire.Whole(a.RenewFeed)))
	wire.Post(api, "close-calendar-address", "/api/plan/calendar-address/close", "Take the plan's feed away", wire.Makers, func(ctx context.Context, _ *struct{}) (wire.Nothing, error) {
		return wire.Nothing{}, a.CloseFeed(ctx)
	})
	wire.GetFile(api, "feed-calendar", "/api/calendars/{token}", "The plan, for a calendar program that knows its address", wire.Anyone, a.Feed)
	wire.Get(api, "get-ribbon", "/api/ribbon", "The day as it is; once hands are over, the night and the next working day", wire.AtTheBench, database.PlanInputs, wire.Whole(a.Ribbon))
	wire.Ask(api, "ask-promise", "/api/promise", "What an order would cost and when it could be ready", wire.Makers, database.PlanInputs, wire.With(a.Promise))
	wire.Create(api, "take-order", "/api/orders", "Take an order; what the shelf holds is given to it", wire.Makers, wire.With(a.TakeOrder))
	wire.Put(api, "change-order", "/api/orders/{id}", "Change an order that is open: its customer, day, note, prices, names and pieces", wire.Makers, wire.Change(a.ChangeOrder))
	wire.Ask(api, "ask-batch", "/api/batches/ask", "Which promises making up a batch would move", wire.Makers, database.PlanInputs, wire.With(a.AskBatch))
	wire.Get(api, "list-moved-promises", "/api/moved-promises", "Promises that have moved and of which nobody was told yet", wire.Makers, database.Orders|database.Promises, wire.Whole(a.MovedPromises))
	wire.Post(api, "told-moved-promises", "/api/moved-promises/told", "Note that customers know of moves", wire.Makers, wire.Send(a.Told))
}
