package planning

import (
	"context"
	"slices"
	"time"

	"tidykiln/core/calendar"
	"tidykiln/core/craft"
	"tidykiln/internal/batches"
	"tidykiln/internal/orders"
	"tidykiln/internal/problem"
)

// BarState says how far a step or rest is.
type BarState string

const (
	BarDone      BarState = "done"
	BarInHand    BarState = "inHand"
	BarPlanned   BarState = "planned"
	BarTentative BarState = "tentative" // open demand: not made up into a batch
)

// Hands is a step in its place.
type Hands struct {
	LotID   uint64    `json:"lotId" doc:"0 for open demand"`
	Step    int       `json:"step"`
	Name    string    `json:"name"`
	Product string    `json:"product"`
	Batch   int       `json:"batch" doc:"number; 0 for open demand"`
	Lot     int       `json:"lot"`
	Pieces  int       `json:"pieces"`
	Person  string    `json:"person"`
	Start   time.Time `json:"start"`
	End     time.Time `json:"end"`
	State   BarState  `json:"state" enum:"done,inHand,planned,tentative"`
	Because string    `json:"because"`
	Late    bool      `json:"late" doc:"the lot will miss a promise"`
}

// Resting is a rest in its place.
type Resting struct {
	LotID   uint64         `json:"lotId"`
	Step    int            `json:"step" doc:"the step it follows"`
	Name    string         `json:"name" doc:"of the step it follows"`
	Product string         `json:"product"`
	Pieces  int            `json:"pieces"`
	Kind    craft.RestKind `json:"kind" enum:"dry,cure,soak,cool"`
	Start   time.Time      `json:"start"`
	// End is when the next step begins, by the plan or in fact.
	End   time.Time  `json:"end"`
	Ready time.Time  `json:"ready" doc:"when the floor is over"`
	Best  time.Time  `json:"best" doc:"when the usual rest is over"`
	Until *time.Time `json:"until,omitempty" doc:"by when the next step must have begun"`
	State BarState   `json:"state" enum:"done,inHand,planned,tentative"`
}

// Day is one row of the plan, from 05:00 to 05:00.
type Day struct {
	Date  calendar.Date `json:"date" format:"date"`
	Start time.Time     `json:"start"`
	End   time.Time     `json:"end"`
	Open  []Stretch     `json:"open" nullable:"false" doc:"when anyone works"`
	Dues  []Due         `json:"dues" nullable:"false"`
}

// Stretch is a stretch of time.
type Stretch struct {
	Start time.Time `json:"start"`
	End   time.Time `json:"end"`
}

// Due is an order in the margin of the day it is due.
type Due struct {
	OrderID   uint64    `json:"orderId"`
	Number    int       `json:"number"`
	Customer  string    `json:"customer"`
	Pieces    int       `json:"pieces"`
	Readiness Readiness `json:"readiness"`
}

// Plan is a number of days with what happens in them.
type Plan struct {
	Now       time.Time   `json:"now"`
	TimeZone  string      `json:"timeZone"`
	Days      []Day       `json:"days" nullable:"false"`
	Hands     []Hands     `json:"hands" nullable:"false"`
	Rests     []Resting   `json:"rests" nullable:"false"`
	Unplanned []Unplanned `json:"unplanned" nullable:"false"`
	// Warnings say what the work under way fills beyond what there is, and until when.
	Warnings []string `json:"warnings" nullable:"false"`
	PlanState
}

// PlanState says from when the plan is that an answer is given by.
type PlanState struct {
	PlannedAt time.Time `json:"plannedAt"`
	Making    bool      `json:"making" doc:"it is of before the last change, and a newer one is being made"`
}

// Unplanned is a lot, or demand, that found no place.
type Unplanned struct {
	Product string `json:"product"`
	Batch   int    `json:"batch"`
	Lot     int    `json:"lot"`
	Pieces  int    `json:"pieces"`
	Reason  string `json:"reason"`
}

// DayBegins is the minute of the day at which a row of the plan begins.
const DayBegins = 5 * 60

// mostDays is the longest plan that is shown at once.
const mostDays = 42

// Days shows the plan from a day on; without one from today, which before 05:00 is still yesterday.
func (a *Area) Days(ctx context.Context, from calendar.Date, days int) (p Plan, err error) {
	s, err := a.Current(ctx)
	if err != nil {
		return p, err
	}
	today := calendar.DateOf(s.Now.Add(-DayBegins*time.Minute), s.Location())
	if from == "" {
		from = today
	}
	if from < today.Add(-mostDays) || from > today.Add(366) {
		return p, problem.Invalid("from", "the plan reaches from six weeks back to a year ahead")
	}
	p = Plan{Now: s.Now, TimeZone: s.Basis.Workshop.TimeZone, Days: []Day{}, Hands: []Hands{}, Rests: []Resting{}, Unplanned: []Unplanned{}, Warnings: s.warnings(), PlanState: PlanState{s.PlannedAt, s.Making}}
	for i := range days {
		p.Days = append(p.Days, s.day(from.Add(i)))
	}
	start, end := p.Days[0].Start, p.Days[days-1].End
	hands, rests := s.bars()
	for _, h := range hands {
		if h.Start.Before(end) && h.End.After(start) {
			p.Hands = append(p.Hands, h)
		}
	}
	for _, r := range rests {
		if r.Start.Before(end) && r.End.After(start) {
			p.Rests = append(p.Rests, r)
		}
	}
	for _, j := range s.Jobs {
		if reason := s.NoPlace(j); reason != "" {
			u := Unplanned{Product: j.Name, Pieces: j.Pieces, Reason: reason}
			if j.Lot != nil {
				u.Batch, u.Lot = j.Batch.Number, j.Lot.Number
			}
			p.Unplanned = append(p.Unplanned, u)
		}
	}
	p.Unplanned = append(p.Unplanned, s.misfits()...)
	return p, nil
}

// noLotFits is why demand is in no lot at all.
const noLotFits = "not even one piece fits a sitting and the rack; look at the hours and the rack in Workshop"

// misfits are the products wanted of which no lot can be made up.
func (s *Schedule) misfits() (list []Unplanned) {
	inLots := map[uint64]bool{}
	for _, j := range s.Jobs {
		for _, want := range j.Wants {
			inLots[want] = true
		}
	}
	left := map[uint64]int{}
	for _, want := range s.Wants {
		if !inLots[want.WantID] {
			left[want.ProductID]++
		}
	}
	for _, p := range s.Products {
		if pieces := left[p.ID]; pieces > 0 {
			list = append(list, Unplanned{Product: p.Name, Pieces: pieces, Reason: noLotFits})
		}
	}
	return list
}

func (s *Schedule) day(date calendar.Date) Day {
	in := s.Location()
	d := Day{Date: date, Start: date.At(DayBegins, in), End: date.Add(1).At(DayBegins, in), Open: []Stretch{}, Dues: []Due{}}
	var open [][2]time.Time
	for _, p := range s.Basis.Workshop.People {
		open = append(open, p.Times().Open(d.Start, d.End, in)...)
	}
	slices.SortFunc(open, func(a, b [2]time.Time) int { return a[0].Compare(b[0]) })
	for _, o := range open {
		if n := len(d.Open); n > 0 && !o[0].After(d.Open[n-1].End) {
			if o[1].After(d.Open[n-1].End) {
				d.Open[n-1].End = o[1]
			}
			continue
		}
		d.Open = append(d.Open, Stretch{o[0], o[1]})
	}
	for _, o := range s.Orders {
		if o.DueOn == date && o.State == orders.Open {
			d.Dues = append(d.Dues, Due{o.ID, o.Number, o.Customer.Name, o.Pieces(), s.Readiness(o)})
		}
	}
	return d
}

// bars lists every step and rest: what was done, what is in hand, what is planned.
func (s *Schedule) bars() (hands []Hands, rests []Resting) {
	for _, l := range s.Bench.Lots {
		h, r := s.doneBars(l)
		hands, rests = append(hands, h...), append(rests, r...)
	}
	for _, j := range s.Jobs {
		h, r := s.plannedBars(j)
		hands, rests = append(hands, h...), append(rests, r...)
	}
	slices.SortStableFunc(hands, func(a, b Hands) int { return a.Start.Compare(b.Start) })
	slices.SortStableFunc(rests, func(a, b Resting) int { return a.Start.Compare(b.Start) })
	return hands, rests
}

// doneBars are the ended runs of a lot, with the rests between them. The rest
// after the last of a lot that goes on belongs to its plan.
func (s *Schedule) doneBars(l batches.Lot) (hands []Hands, rests []Resting) {
	batch := s.Bench.Batches[l.BatchID]
	ended := s.EndedRuns(l.ID)
	for i, r := range ended {
		step := batch.Recipe.Steps[r.Step]
		next := slices.IndexFunc(ended[i+1:], func(after *batches.Run) bool { return batch.Recipe.Steps[after.Step].Inside == "" })
		hands = append(hands, Hands{LotID: l.ID, Step: r.Step, Name: step.Name, Product: batch.ProductName, Batch: batch.Number, Lot: l.Number,
			Pieces: r.Pieces, Person: s.Names[r.PersonID], Start: r.StartedAt, End: *r.EndedAt, State: BarDone})
		if next >= 0 && step.Rest != nil {
			rests = append(rests, RestBar(l.ID, r.Step, batch.ProductName, r.Pieces, step, *r.EndedAt, ended[i+1+next].StartedAt, BarDone))
		}
	}
	return hands, rests
}

// EndedRuns are the runs of a lot that are done, in the order they began.
func (s Snapshot) EndedRuns(lotID uint64) []*batches.Run {
	return slices.DeleteFunc(s.Bench.RunsOf(lotID), func(r *batches.Run) bool { return r.EndedAt == nil })
}

func (s *Schedule) plannedBars(j Job) (hands []Hands, rests []Resting) {
	state, lotID, batchNumber, lotNumber := BarTentative, uint64(0), 0, 0
	if j.Lot != nil {
		state, lotID, batchNumber, lotNumber = BarPlanned, j.Lot.ID, j.Batch.Number, j.Lot.Number
		if last := s.Bench.LastRun(*j.Lot); last != nil && j.Recipe.Steps[last.Step].Rest != nil {
			step := j.Recipe.Steps[last.Step]
			end := last.EndedAt.Add(time.Duration(step.Rest.Usual) * time.Minute)
			if over := j.restEnds(j.First - 1); over != nil {
				end = *over
			}
			if end.After(*last.EndedAt) {
				rests = append(rests, RestBar(lotID, last.Step, j.Name, j.Pieces, step, *last.EndedAt, end, BarInHand))
			}
		}
	}
	late := j.Done != nil && j.Due != nil && j.Done.After(*j.Due)
	for _, p := range j.Placed {
		index := StepIndex(p)
		step := j.Recipe.Steps[index]
		h := Hands{LotID: lotID, Step: index, Name: step.Name, Product: j.Name, Batch: batchNumber, Lot: lotNumber, Pieces: j.Pieces,
			Person: s.Who(p.By), Start: p.Start, End: p.End, State: state, Because: s.Because(j, p), Late: late}
		if index == j.First && j.Lot != nil {
			if open := s.Bench.OpenRun(j.Lot.ID); open != nil {
				h.State, h.Person = BarInHand, s.Names[open.PersonID]
			}
		}
		hands = append(hands, h)
		if over := j.restEnds(index); step.Rest != nil && over != nil {
			rests = append(rests, RestBar(lotID, index, j.Name, j.Pieces, step, p.End, *over, state))
		}
	}
	return hands, rests
}

// RestBar is the rest after a step in its place.
func RestBar(lotID uint64, index int, product string, pieces int, step craft.Step, start, end time.Time, state BarState) Resting {
	r := Resting{LotID: lotID, Step: index, Name: step.Name, Product: product, Pieces: pieces, Kind: step.Rest.Kind, Start: start, End: end, State: state}
	r.Ready = start.Add(time.Duration(step.Rest.Floor) * time.Minute)
	r.Best = start.Add(time.Duration(step.Rest.Usual) * time.Minute)
	if ceiling := step.CeilingAfter(pieces); ceiling != nil {
		until := start.Add(time.Duration(*ceiling) * time.Minute)
		r.Until = &until
	}
	return r
}
