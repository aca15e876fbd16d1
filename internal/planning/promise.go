package planning

import (
	"context"
	"fmt"
	"math"
	"slices"
	"strings"
	"time"

	"github.com/shopspring/decimal"
	"gorm.io/gorm"

	"tidykiln/core/calendar"
	"tidykiln/core/craft"
	"tidykiln/core/plan"
	"tidykiln/internal/batches"
	"tidykiln/internal/orders"
	"tidykiln/internal/problem"
	"tidykiln/internal/products"
	"tidykiln/internal/selling"
)

// Ask is an order being thought about.
type Ask struct {
	OutletID uint64        `json:"outletId,omitempty" doc:"the way of selling; the main one when left out"`
	DueOn    calendar.Date `json:"dueOn,omitempty" format:"date"`
	// KeepRests asks for the usual rests even where that makes it late.
	KeepRests bool      `json:"keepRests,omitempty"`
	Lines     []AskLine `json:"lines" minItems:"1" maxItems:"20" nullable:"false"`
}

// AskLine is a number of one product.
type AskLine struct {
	ProductID uint64 `json:"productId"`
	Quantity  int    `json:"quantity" minimum:"1" maximum:"500"`
	// Lettering holds the names known so far: what lies ready under one of them is given to the order.
	Lettering []string `json:"lettering,omitempty" maxItems:"500" nullable:"false"`
}

// Promise says what an order would cost, when it would be ready were it taken
// now, and which promises that would move. Taking it comes to the same.
type Promise struct {
	Now time.Time `json:"now"`
	// ReadyAt is at usual rests, ReadyAtFloor when every rest is the shortest safe one.
	ReadyAt      *time.Time `json:"readyAt,omitempty"`
	ReadyAtFloor *time.Time `json:"readyAtFloor,omitempty"`
	Due          *time.Time `json:"due,omitempty"`
	State        ReadyState `json:"state" enum:"ready,spare,tight,late,unplanned,planning,closed"`
	SpareMinutes int        `json:"spareMinutes"`
	// HoldUp is what makes it wait longest beside its own rests, until HoldUpUntil; empty when nothing much does.
	HoldUp      string     `json:"holdUp"`
	HoldUpUntil *time.Time `json:"holdUpUntil,omitempty"`
	// ShortRests are the rests that are cut under their usual length to be in time, or less late.
	ShortRests []ShortRest `json:"shortRests" nullable:"false"`
	// Moves are the orders that taking it would move.
	Moves     []PromiseMove   `json:"moves" nullable:"false"`
	FromShelf int             `json:"fromShelf"`
	Lines     []PromiseLine   `json:"lines" nullable:"false"`
	Total     decimal.Decimal `json:"total"`
	TotalCost decimal.Decimal `json:"totalCost"`
	// EarnedPerHour is empty when no hands-on time is spent.
	EarnedPerHour string `json:"earnedPerHour"`
	// Odds say how sure that is; nil where it is ready now or finds no place.
	Odds *Odds `json:"odds,omitempty"`
	// KeepsAll is when it would be ready were no promise broken for it; set where one is.
	KeepsAll *time.Time `json:"keepsAll,omitempty"`
	// Sooner is how much sooner it could be ready were others moved that still
	// hold their promise: one alone where that does, and all that it takes.
	Sooner []Sooner `json:"sooner" nullable:"false"`
	// Better is what would go better than what is asked for.
	Better []Better `json:"better" nullable:"false"`
	// RemakeChance is the chance, from 0 to 1, that some name must be made twice.
	RemakeChance float64 `json:"remakeChance"`
}

// PromiseLine is the cost and the recipe of a line.
type PromiseLine struct {
	ProductID uint64          `json:"productId"`
	Product   string          `json:"product"`
	Quantity  int             `json:"quantity"`
	UnitPrice decimal.Decimal `json:"unitPrice"`
	UnitCost  string          `json:"unitCost"`
	Bars      []RecipeBar     `json:"bars" nullable:"false"`
}

// RecipeBar is a step and the rest after it, for drawing to scale.
type RecipeBar struct {
	Name    string         `json:"name"`
	Minutes int            `json:"minutes"`
	Rest    int            `json:"rest" doc:"usual minutes"`
	Kind    craft.RestKind `json:"kind,omitempty"`
}

// Promise works out an order without taking it.
func (a *Area) Promise(ctx context.Context, ask Ask) (p Promise, err error) {
	release, err := a.question(ctx)
	if err != nil {
		return p, err
	}
	defer release()
	s, err := a.fresh(ctx)
	if err != nil {
		return p, err
	}
	return a.promise(ctx, s, ask)
}

// question waits for its turn among those who ask what would be; the rest of
// the studio goes on meanwhile.
func (a *Area) question(ctx context.Context) (release func(), err error) {
	select {
	case a.questions <- struct{}{}:
		return func() { <-a.questions }, nil
	case <-ctx.Done():
		return nil, given(ctx)
	}
}

// wouldBe plans the studio as it would be had the order been taken; the schedule
// is nil where the shelf has all of it.
func (a *Area) wouldBe(ctx context.Context, s *Schedule, ask Ask) (found asked, then *Schedule, o orders.Order, err error) {
	if ask.DueOn != "" {
		if err := orders.CheckDue("dueOn", ask.DueOn, s.Basis.Workshop, s.Now); err != nil {
			return found, nil, o, err
		}
	}
	if found, err = a.lookUp(ctx, ask, s.Basis); err != nil || found.fromShelf() == ask.pieces() {
		return found, nil, o, err
	}
	snapshot, o := s.Snapshot.with(ask, found)
	if then, err = makeSchedule(ctx, snapshot, s); err != nil {
		return found, nil, o, planned(ctx, err)
	}
	return found, then, o, nil
}

// promise says what taking the order would come to, and what else could be promised.
func (a *Area) promise(ctx context.Context, s *Schedule, ask Ask) (p Promise, err error) {
	asked, then, order, err := a.wouldBe(ctx, s, ask)
	if err != nil {
		return p, err
	}
	p = Promise{Now: s.Now, State: ReadyNow, Lines: []PromiseLine{}, Moves: []PromiseMove{}, ShortRests: []ShortRest{}, Sooner: []Sooner{}, FromShelf: asked.fromShelf()}
	if err := p.price(asked.counter, ask, asked.products); err != nil {
		return p, err
	}
	if p.Better, err = asked.better(s, ask); err != nil {
		return p, err
	}
	p.RemakeChance = asked.remakeChance(ask)
	if then == nil {
		p.ReadyAt, p.ReadyAtFloor = &s.Now, &s.Now
		p.compare(s, ask)
		return p, nil
	}
	p.place(then, order)
	p.compare(s, ask)
	p.Moves = s.moves(then)
	if err := a.more(ctx, &p, s, then, then.Snapshot, order); err != nil {
		return p, planned(ctx, err)
	}
	if p.ReadyAtFloor = p.ReadyAt; p.State != ReadyLate && p.ReadyAt != nil && !ask.KeepRests {
		quick, err := makeScheduleAtFloors(ctx, then.Snapshot, s, order)
		if err != nil {
			return p, planned(ctx, err)
		}
		p.ReadyAtFloor = quick.Readiness(order).At
	}
	return p, nil
}

// planned tells a plan that was not made in time from one that failed.
func planned(ctx context.Context, err error) error {
	if ctx.Err() != nil {
		return given(ctx)
	}
	return fmt.Errorf("planning: %w", err)
}

// asked is what is known of the lines of an ask: the products, and how many
// pieces the shelf gives to each.
type asked struct {
	products []products.Product
	shelf    []int
	counter  selling.Counter
}

func (a asked) fromShelf() (n int) {
	for _, k := range a.shelf {
		n += k
	}
	return n
}

// remakeChance is the chance that some name must be made twice.
func (a asked) remakeChance(ask Ask) float64 {
	kept := 1.0
	for i, l := range ask.Lines {
		if a.products[i].Lettered {
			kept *= math.Pow(a.products[i].Bench().SurvivalFrom(0), float64(l.Quantity-a.shelf[i]))
		}
	}
	return math.Round((1-kept)*10000) / 10000
}

func (ask Ask) pieces() (n int) {
	for _, l := range ask.Lines {
		n += l.Quantity
	}
	return n
}

// lookUp reads the products asked for, what the shelf holds of each, and the prices that are set.
func (a *Area) lookUp(ctx context.Context, ask Ask, basis products.Basis) (found asked, err error) {
	err = a.db.Read(ctx, func(tx *gorm.DB) error {
		taken := map[string]int{}
		for i, l := range ask.Lines {
			product, err := products.Load(tx, l.ProductID)
			if err != nil {
				return problem.OrInvalid(err, fmt.Sprintf("lines[%d].productId", i), "this product is not made here")
			}
			if len(l.Lettering) > l.Quantity {
				return problem.Invalid(fmt.Sprintf("lines[%d].lettering", i), "%d pieces, but %d lines of lettering", l.Quantity, len(l.Lettering))
			}
			from := 0
			for name, wanted := range l.names(product.Lettered) {
				spare, err := batches.SpareLike(tx, l.ProductID, name)
				if err != nil {
					return err
				}
				key := fmt.Sprintf("%d/%s", l.ProductID, name)
				n := min(wanted, len(spare)-taken[key])
				taken[key] += n
				from += n
			}
			found.products, found.shelf = append(found.products, product), append(found.shelf, from)
		}
		found.counter, err = a.selling.Counter(tx, basis)
		return err
	})
	return found, err
}

// names counts the pieces by their lettering, as far as that is known; plain ones have none.
func (l AskLine) names(lettered bool) map[string]int {
	names := map[string]int{}
	if !lettered {
		names[""] = l.Quantity
	}
	for _, name := range l.Lettering {
		if name = strings.TrimSpace(name); lettered && name != "" {
			names[name]++
		}
	}
	return names
}

func (p *Promise) price(counter selling.Counter, ask Ask, made []products.Product) error {
	outlet, err := counter.Outlet(ask.OutletID)
	if err != nil {
		return err
	}
	var earned, minutes decimal.Decimal
	for i, l := range ask.Lines {
		c, err := counter.Cost(made[i], l.Quantity)
		if err != nil {
			return err
		}
		n := decimal.NewFromInt(int64(l.Quantity))
		asked, err := counter.Asked(made[i], outlet)
		if err != nil {
			return err
		}
		total, sold := c.Total(), outlet.Terms().Sell(c.Piece(), asked)
		p.Total = p.Total.Add(asked.Mul(n))
		p.TotalCost = p.TotalCost.Add(total.Mul(n))
		earned = earned.Add(sold.Contribution(c.Piece()).Mul(n))
		minutes = minutes.Add(c.Piece().HandsMinutes.Mul(n))
		line := PromiseLine{ProductID: made[i].ID, Product: made[i].Name, Quantity: l.Quantity, UnitPrice: asked, UnitCost: total.StringFixed(2), Bars: RecipeBars(made[i].Bench(), l.Quantity)}
		p.Lines = append(p.Lines, line)
	}
	p.TotalCost = p.TotalCost.Round(2)
	if minutes.IsPositive() {
		p.EarnedPerHour = earned.Mul(decimal.NewFromInt(60)).Div(minutes).StringFixed(2)
	}
	return nil
}

// place says when the order is ready, what holds it up, and which of its rests are cut short.
func (p *Promise) place(s *Schedule, order orders.Order) {
	r := s.Readiness(order)
	if p.ReadyAt = r.At; r.State == ReadyNot {
		p.ReadyAt, p.State = nil, ReadyNot
	}
	last := s.lastJobFor(order)
	if last == nil {
		if r.State == ReadyNot {
			p.HoldUp = noLotFits
		}
		return
	}
	if last.Done == nil {
		p.HoldUp = s.NoPlace(*last)
	} else {
		p.HoldUp, p.HoldUpUntil = s.holdUp(*last)
	}
	p.ShortRests = s.ShortRestsOf(order)
}

// lastJobFor is the job, of those that an order waits for, that is done last;
// one without a place is later than any.
func (s *Schedule) lastJobFor(o orders.Order) (last *Job) {
	for i := range s.Jobs {
		j := &s.Jobs[i]
		if !s.serve(*j, o) {
			continue
		}
		if last == nil || last.Done != nil && (j.Done == nil || j.Done.After(*last.Done)) {
			last = j
		}
	}
	return last
}

// serve tells whether a job makes pieces for an order.
func (s *Schedule) serve(j Job, o orders.Order) bool {
	return slices.ContainsFunc(j.Wants, func(id uint64) bool { return s.orderOf[id] != nil && s.orderOf[id].ID == o.ID })
}

// worthSaying is the shortest wait beside a job's own rests that is told.
const worthSaying = 2 * time.Hour

// holdUp finds the longest wait of a job for anything but its own rests.
func (s *Schedule) holdUp(j Job) (because string, until *time.Time) {
	longest := worthSaying
	free := s.from()
	for i, at := range j.Placed {
		step := j.Recipe.Steps[StepIndex(at)]
		if step.Inside != "" {
			continue
		}
		if wait := at.Start.Sub(free); wait > longest {
			longest, because, until = wait, s.heldUpBy(j, at), &j.Placed[i].Start
		}
		free = at.End
		if step.Rest != nil {
			free = free.Add(time.Duration(step.Rest.Usual) * time.Minute)
		}
	}
	return because, until
}

// heldUpBy is what a step waits for; where that is hours, it is their coming round again.
func (s *Schedule) heldUpBy(j Job, at plan.PlannedStep) string {
	if at.Because.Kind == plan.Hours || at.Because.Kind == plan.OpeningHours {
		return "working hours come round again " + s.momentInWords(at.Start)
	}
	return s.Because(j, at)
}

func (p *Promise) compare(s *Schedule, ask Ask) {
	if ask.DueOn == "" {
		return
	}
	due := s.Basis.Workshop.DueAt(ask.DueOn)
	p.Due = &due
	if p.ReadyAt != nil {
		spare := due.Sub(*p.ReadyAt)
		p.SpareMinutes = int(spare / time.Minute)
		p.State = stateOf(spare)
	}
}
