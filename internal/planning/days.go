package planning

import (
	"context"
	"slices"
	"time"

	"tidykiln/core/calendar"
	"tidykiln/internal/orders"
	"tidykiln/internal/problem"
)

// Day is one row of the plan, from 05:00 to 05:00.
type Day struct {
	Date   calendar.Date `json:"date" format:"date"`
	Start  time.Time     `json:"start"`
	End    time.Time     `json:"end"`
	Open   []Stretch     `json:"open" nullable:"false" doc:"when anyone works"`
	People []Working     `json:"people" nullable:"false" doc:"everyone who works here"`
	Dues   []Due         `json:"dues" nullable:"false"`
}

// Working is when one person works on a day.
type Working struct {
	PersonID uint64    `json:"personId"`
	Name     string    `json:"name"`
	Open     []Stretch `json:"open" nullable:"false"`
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
	Customer  string    `json:"customer" seen:"makers" required:"false"`
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
	// RackPlaces is how much can rest at once.
	RackPlaces int `json:"rackPlaces"`
	// Opens is when hands begin again where they are over for today.
	Opens *time.Time `json:"opens,omitempty"`
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
	rows, err := s.rows(from, days)
	if err != nil {
		return p, err
	}
	return s.show(rows), nil
}

// rows are days from one on, from today where none is said.
func (s *Schedule) rows(from calendar.Date, days int) (rows []Day, err error) {
	today := s.today()
	if from == "" {
		from = today
	}
	if from < today.Add(-mostDays) || from > today.Add(366) {
		return nil, problem.Invalid("from", "the plan reaches from six weeks back to a year ahead")
	}
	for i := range days {
		rows = append(rows, s.day(from.Add(i)))
	}
	return rows, nil
}

// Ribbon is the day as it is; once hands are over for today, the night and the
// next day on which anyone works.
func (a *Area) Ribbon(ctx context.Context) (p Plan, err error) {
	s, err := a.Current(ctx)
	if err != nil {
		return p, err
	}
	day := s.day(s.today())
	opens := s.Opens()
	if opens == nil {
		return s.show([]Day{day}), nil
	}
	next := s.day(s.rowOf(*opens))
	if n := len(day.Open); n > 0 {
		next.Start = day.Open[n-1].End
	} else {
		next.Start = day.Start
	}
	p = s.show([]Day{next})
	p.Opens = opens
	return p, nil
}

// farthest is how far ahead somebody's next hours are looked for.
const farthest = 60

// Opens is when hands begin again; nil while they are not over for today, and
// where nobody works for two months.
func (s Snapshot) Opens() *time.Time {
	opens := s.opensOn(s.today())
	if opens == nil || s.rowOf(*opens) == s.today() {
		return nil
	}
	return opens
}

// opensOn is the first moment at which there are hands on a day or after; nil
// where nobody works for two months.
func (s Snapshot) opensOn(day calendar.Date) (opens *time.Time) {
	from := day.At(DayBegins, s.Location())
	if from.Before(s.Now) {
		from = s.Now
	}
	for _, p := range s.Basis.Workshop.People {
		for _, o := range p.Times().Open(from, from.AddDate(0, 0, farthest), s.Location()) {
			if opens == nil || o[0].Before(*opens) {
				opens = &o[0]
			}
		}
	}
	return opens
}

// today is the row that now belongs to, and rowOf that of a moment: before 05:00 it is still yesterday.
func (s Snapshot) today() calendar.Date { return s.rowOf(s.Now) }

func (s Snapshot) rowOf(t time.Time) calendar.Date {
	return calendar.DateOf(t.Add(-DayBegins*time.Minute), s.Location())
}

// show is a plan of some days, with what reaches into them.
func (s *Schedule) show(days []Day) Plan {
	p := Plan{Now: s.Now, TimeZone: s.Basis.Workshop.TimeZone, Days: days, Hands: []Hands{}, Rests: []Resting{}, Unplanned: []Unplanned{},
		RackPlaces: s.Basis.Workshop.RackPlaces(), Warnings: s.warnings(), PlanState: PlanState{s.PlannedAt, s.Making}}
	start, end := days[0].Start, days[len(days)-1].End
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
	return p
}

// noLotFits is why demand is in no lot at all.
const noLotFits = "not even one piece fits a sitting and its racks; look at the hours, the racks and the turner in Workshop"

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
	d := Day{Date: date, Start: date.At(DayBegins, in), End: date.Add(1).At(DayBegins, in), Open: []Stretch{}, People: []Working{}, Dues: []Due{}}
	var open [][2]time.Time
	for _, p := range s.Basis.Workshop.People {
		own := p.Times().Open(d.Start, d.End, in)
		open = append(open, own...)
		works := Working{PersonID: p.ID, Name: p.Name, Open: []Stretch{}}
		for _, o := range own {
			works.Open = append(works.Open, Stretch{o[0], o[1]})
		}
		d.People = append(d.People, works)
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
