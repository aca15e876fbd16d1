package planning

import (
	"context"
	"fmt"
	"maps"
	"slices"

	"gorm.io/gorm"

	"tidykiln/core/calendar"
	"tidykiln/core/craft"
	"tidykiln/internal/batches"
	"tidykiln/internal/database"
	"tidykiln/internal/orders"
	"tidykiln/internal/problem"
	"tidykiln/internal/workshop"
)

// Suppositions are what is thought about: how the studio would be.
type Suppositions struct {
	Away  []AwayOn  `json:"away,omitempty" maxItems:"20" nullable:"false"`
	Comes []ComesIn `json:"comes,omitempty" maxItems:"20" nullable:"false"`
	// Places are those of a rack more.
	Places int `json:"places,omitempty" minimum:"0" maximum:"1000"`
	// AnyTime are stages of the work that would be done at any time, whenever they are liked.
	AnyTime []craft.Stage `json:"anyTime,omitempty" maxItems:"7" nullable:"false" enum:"prepare,print,lay,remove,seal,finish,spray"`
	Holds   []HoldLot     `json:"holds,omitempty" maxItems:"50" nullable:"false"`
	// First are lots that would go before everything else, at their shortest safe rests.
	First []uint64 `json:"first,omitempty" maxItems:"20" nullable:"false"`
	// Order is one that would be taken, Without those that would not be made.
	Order   *Ask     `json:"order,omitempty"`
	Without []uint64 `json:"without,omitempty" maxItems:"50" nullable:"false"`
}

// AwayOn is somebody who does not work for some days.
type AwayOn struct {
	PersonID uint64 `json:"personId"`
	calendar.DaysOff
}

// ComesIn is somebody who works some hours more on a day.
type ComesIn struct {
	PersonID uint64 `json:"personId" doc:"0 for a helper"`
	calendar.ExtraHours
}

// HoldLot holds a step of a lot in its place.
type HoldLot struct {
	LotID uint64 `json:"lotId"`
	batches.Hold
}

// Supposition asks for a stretch of the plan as it would be.
type Supposition struct {
	Suppositions
	From calendar.Date `json:"from,omitempty" format:"date"`
	Days int           `json:"days,omitempty" minimum:"1" maximum:"42"`
}

// Supposed is the studio as it would be, beside how it is.
type Supposed struct {
	Moves []PromiseMove `json:"moves" nullable:"false" doc:"those whose promise it breaks first: these customers are to be called"`
	// LateNow and LateThen count the orders that miss their day.
	LateNow  int `json:"lateNow"`
	LateThen int `json:"lateThen"`
	// Order is how the order that would be taken stands; nil without one.
	Order *Readiness `json:"order,omitempty"`
	// Broken are the lots that cannot be held where they were to be.
	Broken []uint64 `json:"broken" nullable:"false"`
	Plan   Plan     `json:"plan"`
}

// Suppose plans the studio as it would be. Nothing is changed.
func (a *Area) Suppose(ctx context.Context, in Supposition) (answer Supposed, err error) {
	release, err := a.question(ctx)
	if err != nil {
		return answer, err
	}
	defer release()
	s, err := a.fresh(ctx)
	if err != nil {
		return answer, err
	}
	rows, err := s.rows(in.From, max(1, in.Days))
	if err != nil {
		return answer, err
	}
	then, order, err := a.supposed(ctx, s, in.Suppositions)
	if err != nil {
		return answer, err
	}
	answer = Supposed{Moves: s.moves(then), LateNow: s.late(), LateThen: then.late(), Broken: []uint64{}}
	for _, j := range then.Jobs {
		if j.HoldBroken {
			answer.Broken = append(answer.Broken, j.Lot.ID)
		}
	}
	if order != nil {
		r := then.Readiness(*order)
		answer.Order = &r
	}
	for i := range rows {
		rows[i] = then.day(rows[i].Date)
	}
	answer.Plan = then.show(rows)
	return answer, nil
}

// late counts the open orders that miss their day by the plan.
func (s *Schedule) late() (n int) {
	for _, o := range s.Orders {
		if r := s.Readiness(o); r.State == ReadyLate || r.State == ReadyNot {
			n++
		}
	}
	return n
}

// supposed is the schedule of the studio as it would be, and the order that would be taken.
func (a *Area) supposed(ctx context.Context, s *Schedule, in Suppositions) (*Schedule, *orders.Order, error) {
	then := s.Snapshot
	w, err := in.workshop(s.Snapshot)
	if err != nil {
		return nil, nil, err
	}
	then.Basis.Workshop = w
	then.Names = maps.Clone(s.Names)
	for _, p := range w.People {
		then.Names[p.ID] = p.Name
	}
	if err := in.holdLots(&then); err != nil {
		return nil, nil, err
	}
	if err := in.leaveOut(&then); err != nil {
		return nil, nil, err
	}
	var order *orders.Order
	if in.Order != nil {
		if order, err = a.alsoTaken(ctx, &then, *in.Order); err != nil {
			return nil, nil, err
		}
	}
	for i, id := range in.First {
		if l := then.Bench.Lot(id); l == nil || l.ClosedAt != nil {
			return nil, nil, problem.Invalid(fmt.Sprintf("first[%d]", i), "this lot is not at the bench")
		}
	}
	schedule, err := makeScheduleWith(ctx, then, s, in.putFirst)
	if err != nil {
		return nil, nil, planned(ctx, err)
	}
	return schedule, order, nil
}

// helperID is the first of the people who are supposed to help, one below the
// other: more than there ever are, and a number that every page can hold.
const helperID = uint64(1) << 52

// workshop is the studio with the hours, the rack and the liked times that are supposed.
func (in Suppositions) workshop(s Snapshot) (workshop.Workshop, error) {
	w := s.Basis.Workshop
	w.People = slices.Clone(w.People)
	if in.Places > 0 {
		w.Racks = append(slices.Clone(w.Racks), workshop.Rack{Name: "Another rack", Places: in.Places})
	}
	w.Preferences = slices.DeleteFunc(slices.Clone(w.Preferences), func(p workshop.Preference) bool { return slices.Contains(in.AnyTime, p.Stage) })
	find := func(at string, id uint64) (*workshop.Person, error) {
		if i := slices.IndexFunc(w.People, func(p workshop.Person) bool { return p.ID == id }); i >= 0 {
			return &w.People[i], nil
		}
		return nil, problem.Invalid(at+".personId", "nobody of that number works here")
	}
	for i, c := range in.Comes {
		at := fmt.Sprintf("comes[%d]", i)
		if err := checkDay(at+".day", c.Day, s); err != nil {
			return w, err
		}
		if c.FromMinute >= c.ToMinute {
			return w, problem.Invalid(at+".toMinute", "hours must end after they begin")
		}
		if c.PersonID == 0 {
			w.People = append(w.People, workshop.Person{ID: helperID - uint64(i), Name: "Helper", ExtraHours: []calendar.ExtraHours{c.ExtraHours}})
			continue
		}
		p, err := find(at, c.PersonID)
		if err != nil {
			return w, err
		}
		p.ExtraHours = append(slices.Clone(p.ExtraHours), c.ExtraHours)
	}
	for i, off := range in.Away {
		at := fmt.Sprintf("away[%d]", i)
		if err := checkDay(at+".lastDay", off.LastDay, s); err != nil {
			return w, err
		}
		if off.FirstDay > off.LastDay {
			return w, problem.Invalid(at+".lastDay", "days off must end on or after the day they begin")
		}
		p, err := find(at, off.PersonID)
		if err != nil {
			return w, err
		}
		p.DaysOff = append(slices.Clone(p.DaysOff), off.DaysOff)
		p.ExtraHours = slices.DeleteFunc(slices.Clone(p.ExtraHours), func(e calendar.ExtraHours) bool { return off.FirstDay <= e.Day && e.Day <= off.LastDay })
	}
	return w, nil
}

// checkDay refuses days that the plan does not reach.
func checkDay(field string, day calendar.Date, s Snapshot) error {
	today := calendar.DateOf(s.Now, s.Location())
	if day < today || day > today.Add(int(horizon.Hours())/24) {
		return problem.Invalid(field, "say a day from today on, within the next four months")
	}
	return nil
}

// holdLots holds what is supposed to be held.
func (in Suppositions) holdLots(then *Snapshot) error {
	then.Bench.Lots = slices.Clone(then.Bench.Lots)
	for i, h := range in.Holds {
		lot := then.Bench.Lot(h.LotID)
		if lot == nil {
			return problem.Invalid(fmt.Sprintf("holds[%d].lotId", i), "this lot is not at the bench")
		}
		if err := h.Check(*lot, then.Bench.Batches[lot.BatchID], then.Basis.Workshop, then.Now); err != nil {
			return problem.Beneath(fmt.Sprintf("holds[%d]", i), err)
		}
		at := h.At.UTC()
		lot.HeldStep, lot.HeldAt, lot.HeldBy = &h.Step, &at, h.PersonID
	}
	return nil
}

// leaveOut takes orders out; pieces in work for them go on for the shelf.
func (in Suppositions) leaveOut(then *Snapshot) error {
	for i, id := range in.Without {
		if !slices.ContainsFunc(then.Orders, func(o orders.Order) bool { return o.ID == id && o.State == orders.Open }) {
			return problem.Invalid(fmt.Sprintf("without[%d]", i), "there is no such order open")
		}
	}
	then.Orders = slices.DeleteFunc(slices.Clone(then.Orders), func(o orders.Order) bool { return slices.Contains(in.Without, o.ID) })
	then.Wants = slices.DeleteFunc(slices.Clone(then.Wants), func(w orders.OpenWant) bool { return slices.Contains(in.Without, w.OrderID) })
	then.settle()
	return nil
}

// alsoTaken is an order that would be taken too.
func (a *Area) alsoTaken(ctx context.Context, then *Snapshot, ask Ask) (*orders.Order, error) {
	if ask.DueOn != "" {
		if err := orders.CheckDue("order.dueOn", ask.DueOn, then.Basis.Workshop, then.Now); err != nil {
			return nil, err
		}
	}
	found, err := a.lookUp(ctx, ask, then.Basis)
	if err != nil {
		return nil, problem.Beneath("order", err)
	}
	with, order := then.with(ask, found)
	*then = with
	return &order, nil
}

// urgent is how much heavier the lateness of what goes first weighs.
const urgent = 50

// putFirst lets lots go before everything else.
func (in Suppositions) putFirst(made *Schedule) {
	for i := range made.Jobs {
		if j := &made.Jobs[i]; j.Lot != nil && slices.Contains(in.First, j.Lot.ID) {
			at := made.from()
			j.hurry, j.weight = &at, new(float64(urgent))
		}
	}
}

// Accept makes of the studio what was supposed: hours, days off, the rack, and
// what is held. Orders are taken and cancelled where they stand.
func (a *Area) Accept(ctx context.Context, in Suppositions) error {
	if in.Order != nil || len(in.Without) > 0 {
		return problem.Invalid("order", "orders are taken and cancelled by themselves")
	}
	s, err := a.fresh(ctx)
	if err != nil {
		return err
	}
	then, _, err := a.supposed(ctx, s, in)
	if err != nil {
		return err
	}
	holds := append(slices.Clone(in.Holds), then.holdsOf(in.First)...)
	return a.db.Write(ctx, database.Workshop|database.Batches, func(tx *gorm.DB) error {
		if len(in.Away)+len(in.Comes)+len(in.AnyTime)+in.Places > 0 {
			if err := workshop.Adjust(tx, a.now(), func(w *workshop.Workshop) error { return in.apply(w, s.Snapshot) }); err != nil {
				return err
			}
		}
		for i, h := range holds {
			if err := batches.HoldIn(tx, a.now(), h.LotID, h.Hold); err != nil {
				return problem.Beneath(fmt.Sprintf("holds[%d]", i), err)
			}
		}
		return nil
	})
}

// apply changes the workshop to what is supposed of it. A helper is somebody new.
func (in Suppositions) apply(w *workshop.Workshop, s Snapshot) error {
	s.Basis.Workshop = *w
	then, err := in.workshop(s)
	if err != nil {
		return err
	}
	named := slices.Clone(w.People)
	for i := range then.People {
		if p := &then.People[i]; p.ID > helperID-uint64(len(in.Comes)) {
			p.ID, p.Name = 0, freeName(p.Name, named)
			named = append(named, *p)
		}
	}
	*w = then
	return nil
}

// freeName is a name that nobody has: the name itself, or with a number.
func freeName(name string, people []workshop.Person) string {
	free := name
	for n := 2; slices.ContainsFunc(people, func(p workshop.Person) bool { return p.Name == free }); n++ {
		free = fmt.Sprintf("%s %d", name, n)
	}
	return free
}

// holdsOf hold the next steps of lots where a schedule has them.
func (s *Schedule) holdsOf(lots []uint64) (holds []HoldLot) {
	for _, j := range s.Jobs {
		if j.Lot == nil || !slices.Contains(lots, j.Lot.ID) {
			continue
		}
		for _, p := range j.Placed {
			i := StepIndex(p)
			if p.Start.Before(s.from()) || j.Recipe.Steps[i].Inside != "" {
				continue
			}
			by, _ := s.personOf(p.By)
			holds = append(holds, HoldLot{j.Lot.ID, batches.Hold{Step: i, At: p.Start, PersonID: &by}})
			break
		}
	}
	return holds
}
