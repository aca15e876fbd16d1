package planning

import (
	"context"
	"fmt"
	"math"
	"time"

	"github.com/shopspring/decimal"
	"gorm.io/gorm"

	"tidykiln/core/craft"
	"tidykiln/internal/batches"
	"tidykiln/internal/problem"
	"tidykiln/internal/products"
	"tidykiln/internal/workshop"
)

// Ask is an order being thought about.
type Ask struct {
	OutletID uint64        `json:"outletId,omitempty" doc:"the way of selling; the main one when left out"`
	DueOn    workshop.Date `json:"dueOn,omitempty" format:"date"`
	Lines    []AskLine     `json:"lines" minItems:"1" maxItems:"20" nullable:"false"`
}

// AskLine is a number of one product.
type AskLine struct {
	ProductID uint64 `json:"productId"`
	Quantity  int    `json:"quantity" minimum:"1" maximum:"500"`
}

// Promise says what an order would cost and when it could be ready, behind
// everything already promised.
type Promise struct {
	Now time.Time `json:"now"`
	// ReadyAt is at usual rests, ReadyAtFloor when every rest is the shortest safe one.
	ReadyAt      *time.Time `json:"readyAt,omitempty"`
	ReadyAtFloor *time.Time `json:"readyAtFloor,omitempty"`
	Due          *time.Time `json:"due,omitempty"`
	State        ReadyState `json:"state" enum:"ready,spare,tight,late,unplanned,closed"`
	SpareMinutes int        `json:"spareMinutes"`
	// HoldUp is what makes it wait longest beside its own rests, until HoldUpUntil; empty when nothing much does.
	HoldUp      string          `json:"holdUp"`
	HoldUpUntil *time.Time      `json:"holdUpUntil,omitempty"`
	FromShelf   int             `json:"fromShelf"`
	Lines       []PromiseLine   `json:"lines" nullable:"false"`
	Total       decimal.Decimal `json:"total"`
	TotalCost   decimal.Decimal `json:"totalCost"`
	// EarnedPerHour is empty when no hands-on time is spent.
	EarnedPerHour string `json:"earnedPerHour"`
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
	s, err := a.Current(ctx)
	if err != nil {
		return p, err
	}
	made, shelf, prices, err := a.lookUp(ctx, ask)
	if err != nil {
		return p, err
	}
	p = Promise{Now: s.Now, State: ReadyNow, Lines: []PromiseLine{}}
	usual, err := a.askJobs(s, ask, made, shelf, &p)
	if err != nil {
		return p, err
	}
	if err := p.price(s.Basis, ask, made, prices); err != nil {
		return p, err
	}
	if err := p.place(s.Snapshot, usual); err != nil {
		return p, err
	}
	p.compare(s, ask)
	return p, nil
}

// lookUp reads the products asked for, what the shelf holds of each, and the prices that are set.
func (a *Area) lookUp(ctx context.Context, ask Ask) (made []products.Product, shelf []int, prices products.Prices, err error) {
	err = a.db.Read(ctx, func(tx *gorm.DB) error {
		taken := map[uint64]int{}
		for i, l := range ask.Lines {
			product, err := products.Load(tx, l.ProductID)
			if err != nil {
				return problem.OrInvalid(err, fmt.Sprintf("lines[%d].productId", i), "this product is not made here")
			}
			spare, err := batches.SpareLike(tx, l.ProductID, "")
			if err != nil {
				return err
			}
			from := 0
			if !product.Lettered {
				from = min(l.Quantity, len(spare)-taken[l.ProductID])
				taken[l.ProductID] += from
			}
			made, shelf = append(made, product), append(shelf, from)
		}
		prices, err = products.LoadPrices(tx)
		return err
	})
	return made, shelf, prices, err
}

// askJobs are the lots the order would need beyond the shelf.
func (a *Area) askJobs(s *Schedule, ask Ask, made []products.Product, shelf []int, p *Promise) (jobs []Job, err error) {
	kept := 1.0
	for i, l := range ask.Lines {
		recipe := made[i].Bench()
		p.FromShelf += shelf[i]
		make := l.Quantity - shelf[i]
		if make == 0 {
			continue
		}
		size := recipe.LotSize(s.Basis.Workshop.Sitting(), s.Basis.Workshop.RackPlaces)
		if made[i].Lettered {
			kept *= math.Pow(recipe.SurvivalFrom(0), float64(make))
		} else {
			make = s.Logbook.Start(made[i], make, s.Basis.Workshop.Confidence)
		}
		lots := craft.Lots(make, size)
		if lots == nil {
			p.State = ReadyNot
			p.HoldUp = "not even one piece fits a sitting and the rack; look at the hours and the rack in Workshop"
		}
		jobs = append(jobs, newJobs(s.Snapshot, fmt.Sprintf("ask-%d", i), made[i], lots, nil)...)
	}
	p.RemakeChance = math.Round((1-kept)*10000) / 10000
	return jobs, nil
}

func (p *Promise) price(basis products.Basis, ask Ask, made []products.Product, prices products.Prices) error {
	outlet, found := basis.Outlet(ask.OutletID)
	if !found {
		return problem.Invalid("outletId", "this way of selling is not there")
	}
	way := outlet.Way()
	var earned, minutes decimal.Decimal
	for i, l := range ask.Lines {
		c, err := basis.Cost(made[i], l.Quantity)
		if err != nil {
			return err
		}
		n := decimal.NewFromInt(int64(l.Quantity))
		asked, err := basis.Asked(made[i], outlet, prices)
		if err != nil {
			return err
		}
		total, sold := c.Total(), way.Sell(c.Piece(), asked)
		p.Total = p.Total.Add(asked.Mul(n))
		p.TotalCost = p.TotalCost.Add(total.Mul(n))
		earned = earned.Add(sold.Contribution(c.Piece()).Mul(n))
		minutes = minutes.Add(c.Piece().HandsMinutes.Mul(n))
		line := PromiseLine{ProductID: made[i].ID, Product: made[i].Name, Quantity: l.Quantity, UnitPrice: asked, UnitCost: total.StringFixed(2), Bars: barsOf(made[i].Bench(), l.Quantity)}
		p.Lines = append(p.Lines, line)
	}
	p.TotalCost = p.TotalCost.Round(2)
	if minutes.IsPositive() {
		p.EarnedPerHour = earned.Mul(decimal.NewFromInt(60)).Div(minutes).StringFixed(2)
	}
	return nil
}

// place plans the lots behind everything else, at usual rests and at floors.
func (p *Promise) place(s Snapshot, jobs []Job) error {
	if len(jobs) == 0 {
		if p.State != ReadyNot {
			p.ReadyAt, p.ReadyAtFloor = &s.Now, &s.Now
		}
		return nil
	}
	usual, err := makeSchedule(s, jobs)
	if err != nil {
		return err
	}
	for i := range jobs {
		for k, step := range jobs[i].steps {
			if step.Rest != nil {
				floor := *step.Rest
				floor.Ideal = nil
				jobs[i].steps[k].Rest = &floor
			}
		}
	}
	quick, err := makeSchedule(s, jobs)
	if err != nil {
		return err
	}
	last := usual.lastOf(len(jobs))
	p.ReadyAtFloor = quick.lastOf(len(jobs)).Done
	if last.Done == nil {
		p.State, p.HoldUp = ReadyNot, usual.stepsByName(last, usual.unplanned[last.ID])
		return nil
	}
	p.ReadyAt = last.Done
	p.HoldUp, p.HoldUpUntil = usual.holdUp(last)
	return nil
}

// lastOf is the job among the last n that is done last; one without a place is later than any.
func (s *Schedule) lastOf(n int) Job {
	last := s.Jobs[len(s.Jobs)-n]
	for _, j := range s.Jobs[len(s.Jobs)-n:] {
		if last.Done != nil && (j.Done == nil || j.Done.After(*last.Done)) {
			last = j
		}
	}
	return last
}

// worthSaying is the shortest wait beside a job's own rests that is told.
const worthSaying = 2 * time.Hour

// holdUp finds the longest wait of a job for anything but its own rests.
func (s *Schedule) holdUp(j Job) (because string, until *time.Time) {
	longest := worthSaying
	free := s.from()
	for i, at := range j.Placed {
		step := j.Recipe.Steps[stepIndex(at)]
		if step.Inside != "" {
			continue
		}
		if wait := at.Start.Sub(free); wait > longest {
			longest, because, until = wait, s.stepsByName(j, at.Because), &j.Placed[i].Start
		}
		free = at.End
		if step.Rest != nil {
			free = free.Add(time.Duration(step.Rest.Usual) * time.Minute)
		}
	}
	return because, until
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
