package desk

import (
	"cmp"
	"context"
	"fmt"
	"slices"
	"time"

	"tidykiln/core/calendar"
	"tidykiln/core/check"
	"tidykiln/core/craft"
	"tidykiln/internal/fulfilment"
	"tidykiln/internal/orders"
	"tidykiln/internal/planning"
	"tidykiln/internal/products"
)

// Today is what the bench page shows.
type Today struct {
	Now      time.Time      `json:"now"`
	InHand   []InHand       `json:"inHand" nullable:"false"`
	Ready    []ReadySitting `json:"ready" nullable:"false" doc:"like work together, the most urgent first"`
	Resting  []RestLot      `json:"resting" nullable:"false" doc:"soonest ready first"`
	HandOver []planning.Due `json:"handOver" nullable:"false" doc:"orders whose pieces are all finished"`
	// HandsLeft is the open minutes left today, of whoever works longest.
	HandsLeft int        `json:"handsLeft"`
	Closes    *time.Time `json:"closes,omitempty"`
	// Opens is when hands begin again where they are over for today, and First what is done first then.
	Opens  *time.Time `json:"opens,omitempty"`
	First  *FirstWork `json:"first,omitempty"`
	Wanted []Wanted   `json:"wanted" nullable:"false" doc:"open demand not made up into batches"`
	// Pictures are those that customers still have to send.
	Pictures []MissingPictures `json:"pictures" nullable:"false"`
}

// MissingPictures is an order whose customer has to be asked for pictures.
type MissingPictures struct {
	OrderID  uint64        `json:"orderId"`
	Number   int           `json:"number"`
	Customer string        `json:"customer" seen:"makers" required:"false"`
	Product  string        `json:"product"`
	Pieces   int           `json:"pieces"`
	DueOn    calendar.Date `json:"dueOn" format:"date"`
}

// FirstWork is the step that the plan begins the next working day with.
type FirstWork struct {
	At       time.Time `json:"at"`
	LotID    uint64    `json:"lotId"`
	StepName string    `json:"stepName"`
	Product  string    `json:"product"`
	Pieces   int       `json:"pieces"`
	Person   string    `json:"person"`
}

// Wanted is open demand of one product.
type Wanted struct {
	ProductID uint64        `json:"productId"`
	Product   string        `json:"product"`
	Pieces    int           `json:"pieces"`
	DueOn     calendar.Date `json:"dueOn" format:"date"`
}

// LotFacts are what every card says of a lot.
type LotFacts struct {
	LotID     uint64       `json:"lotId"`
	BatchID   uint64       `json:"batchId"`
	Batch     int          `json:"batch"`
	Lot       int          `json:"lot"`
	Product   string       `json:"product"`
	ProductID uint64       `json:"productId"`
	Step      int          `json:"step"`
	StepName  string       `json:"stepName"`
	Minutes   int          `json:"minutes" doc:"hands-on, for all pieces"`
	Pieces    []PieceFacts `json:"pieces" nullable:"false"`
	For       []string     `json:"for" nullable:"false" seen:"makers" required:"false" doc:"customers, soonest due first"`
	Due       *time.Time   `json:"due,omitempty"`
	Late      bool         `json:"late"`
	// Outcomes, Rest and Kinds are the step's.
	Outcomes []craft.Outcome `json:"outcomes" nullable:"false" doc:"what can become of a piece beside good: again, rework, spoiled"`
	Rest     *craft.Rest     `json:"rest,omitempty"`
	Kinds    []craft.Do      `json:"kinds" nullable:"false"`
	// Pilot marks the lot that goes through removal before the others of its batch.
	Pilot bool `json:"pilot"`
}

// PieceFacts name a piece.
type PieceFacts struct {
	ID        uint64 `json:"id"`
	Number    int    `json:"number"`
	Lettering string `json:"lettering"`
}

// ReadyLot waits for hands.
type ReadyLot struct {
	LotFacts
	Since time.Time `json:"since"`
	// BestFrom is set while the usual rest is not yet over.
	BestFrom    *time.Time `json:"bestFrom,omitempty"`
	MustStartBy *time.Time `json:"mustStartBy,omitempty"`
	// Missed is what to do when the window has closed; nil while it is open.
	Missed    *MissedWindow `json:"missed,omitempty"`
	PlannedAt *time.Time    `json:"plannedAt,omitempty"`
	LastRunID *uint64       `json:"lastRunId,omitempty" doc:"the run that can be undone"`
	// WaitsForPilot says that it is to be laid now, and the plan holds it until its batch's pilot piece is through removal.
	WaitsForPilot bool `json:"waitsForPilot"`
	// WhileResting is when the rest is over within which this step is done.
	WhileResting *time.Time `json:"whileResting,omitempty"`
	// Joins says that it is taken up with the sitting unless it is left out.
	Joins bool `json:"joins"`
	Setup int  `json:"setup" doc:"the part of its minutes that a sitting pays once"`
	step  craft.Step
	kin   string
}

// MissedWindow is what went wrong with a rest that outlasted its ceiling, and what to do.
type MissedWindow struct {
	Why string `json:"why"`
	Fix string `json:"fix"`
}

// RestLot rests.
type RestLot struct {
	LotFacts
	After     string         `json:"after" doc:"the step it rests from"`
	Kind      craft.RestKind `json:"kind" enum:"dry,cure,soak,cool"`
	Start     time.Time      `json:"start"`
	Ready     time.Time      `json:"ready"`
	Best      time.Time      `json:"best"`
	Until     *time.Time     `json:"until,omitempty"`
	LastRunID uint64         `json:"lastRunId"`
	// SlowReady is when the floor is over as the room's air would have it; nil when that is no later.
	SlowReady *time.Time `json:"slowReady,omitempty"`
}

// Today shows the bench as it is now.
func (a *Area) Today(ctx context.Context) (t Today, err error) {
	s, err := a.current(ctx)
	if err != nil {
		return t, err
	}
	t = Today{Now: s.Now, InHand: s.inHand(), Ready: []ReadySitting{}, Resting: []RestLot{}, HandOver: []planning.Due{}, Wanted: []Wanted{}, Pictures: s.missingPictures()}
	var ready []ReadyLot
	for _, j := range s.Jobs {
		if j.Lot != nil && s.Bench.OpenRun(j.Lot.ID) == nil {
			s.sort(&t, &ready, j)
		}
	}
	for _, o := range s.Orders {
		if r := s.Readiness(o); o.State == orders.Open && r.State == planning.ReadyNow {
			t.HandOver = append(t.HandOver, planning.Due{OrderID: o.ID, Number: o.Number, Customer: o.Customer.Name, Pieces: o.Pieces(), Readiness: r})
		}
	}
	for _, d := range fulfilment.Proposals(s.Basis.Workshop, s.Logbook, s.Products, s.Wants) {
		if len(d.Wants) > 0 {
			t.Wanted = append(t.Wanted, Wanted{d.ProductID, d.ProductName, len(d.Wants), d.Wants[0].DueOn})
		}
	}
	slices.SortStableFunc(ready, func(a, b ReadyLot) int {
		return cmp.Or(compareTimes(a.MustStartBy, b.MustStartBy), compareTimes(a.PlannedAt, b.PlannedAt), a.Since.Compare(b.Since))
	})
	slices.SortStableFunc(t.Resting, func(a, b RestLot) int { return a.Ready.Compare(b.Ready) })
	t.HandsLeft, t.Closes = s.HandsLeft()
	t.Ready = s.together(ready, t.HandsLeft)
	if t.Opens = s.Opens(); t.Opens != nil {
		t.First = s.firstAfter(*t.Opens)
	}
	return t, nil
}

// missingPictures are the open orders that wait for pictures, soonest due first.
func (s view) missingPictures() []MissingPictures {
	missing := []MissingPictures{}
	for _, o := range s.Orders {
		if o.State != orders.Open {
			continue
		}
		for _, l := range o.Lines {
			if n := s.withoutPicture(l); n > 0 {
				missing = append(missing, MissingPictures{o.ID, o.Number, o.Customer.Name, l.ProductName, n, o.DueOn})
			}
		}
	}
	return missing
}

// withoutPicture counts the pieces of a line whose customer's picture has not come.
func (s view) withoutPicture(l orders.Line) (n int) {
	if !s.ownPictures(l.ProductID) {
		return 0
	}
	for _, w := range l.Wants {
		if w.ArtworkID == nil {
			n++
		}
	}
	return n
}

// ownPictures tells whether each piece of a product has its customer's picture.
func (s view) ownPictures(productID uint64) bool {
	return slices.ContainsFunc(s.Products, func(p products.Product) bool { return p.ID == productID && p.OwnPictures })
}

// firstAfter is what the plan begins with when hands begin again; nil when
// nothing is planned within that day.
func (s view) firstAfter(opens time.Time) (first *FirstWork) {
	for _, j := range s.Jobs {
		for _, p := range j.Placed {
			if j.Lot == nil || p.Start.Before(opens) || p.Start.Sub(opens) > 24*time.Hour || first != nil && !p.Start.Before(first.At) {
				continue
			}
			first = &FirstWork{At: p.Start, LotID: j.Lot.ID, StepName: j.Recipe.Steps[planning.StepIndex(p)].Name, Product: j.Name, Pieces: j.Pieces, Person: s.Who(p.By)}
		}
	}
	return first
}

// compareTimes puts what has no time last.
func compareTimes(a, b *time.Time) int {
	switch {
	case a == nil && b == nil:
		return 0
	case a == nil:
		return 1
	case b == nil:
		return -1
	}
	return a.Compare(*b)
}

// sort puts a lot that nobody has in hand where it belongs: among those that rest, or those ready.
func (s view) sort(t *Today, all *[]ReadyLot, j planning.Job) {
	facts := s.facts(j)
	last := s.Bench.LastRun(*j.Lot)
	ready := ReadyLot{LotFacts: facts, Since: j.Batch.CreatedAt, WaitsForPilot: j.Held && j.Lot.NextStep == j.Lay(),
		Setup: j.Recipe.Steps[j.Lot.NextStep].WholeSetup(j.Pieces), step: j.Recipe.Steps[j.Lot.NextStep], kin: j.Recipe.Kin(j.Lot.NextStep)}
	if len(j.Placed) > 0 {
		ready.PlannedAt = &j.Placed[0].Start
	}
	if last != nil {
		ready.LastRunID, ready.Since = &last.ID, *last.EndedAt
		step := j.Recipe.Steps[last.Step]
		if step.Rest != nil {
			bar := planning.RestBar(j.Lot.ID, last.Step, j.Name, j.Pieces, step, *last.EndedAt, s.Now, planning.BarInHand)
			inside := j.Recipe.Steps[j.Lot.NextStep].Inside != ""
			if inside {
				ready.WhileResting = &bar.Best
				*all = append(*all, ready)
				return
			}
			if bar.Ready.After(s.Now) {
				t.Resting = append(t.Resting, RestLot{LotFacts: facts, After: step.Name, Kind: step.Rest.Kind, Start: bar.Start, Ready: bar.Ready, Best: bar.Best, Until: bar.Until,
					LastRunID: last.ID, SlowReady: s.slowReady(bar, step)})
				return
			}
			ready.Since, ready.MustStartBy, ready.Missed = bar.Ready, bar.Until, missed(bar, step, s.Now)
			if bar.Best.After(s.Now) {
				ready.BestFrom = &bar.Best
			}
		}
	}
	*all = append(*all, ready)
}

// cautions are a step's own, and what the labels of its materials warn of.
func (s view) cautions(step craft.Step) []string {
	all := slices.Clone(step.Cautions)
	for _, u := range step.Uses {
		m := s.Basis.Materials[u.Material]
		if said := fmt.Sprintf("%s: %s", m.Name, m.Hazard); m.Hazard != "" && !slices.Contains(all, said) {
			all = append(all, said)
		}
	}
	return all
}

// missed is the finding of a rest that has outlasted its ceiling by now.
func missed(bar planning.Resting, step craft.Step, now time.Time) *MissedWindow {
	if bar.Until == nil || !now.After(*bar.Until) {
		return nil
	}
	ceiling := bar.Until.Sub(bar.Start).Minutes()
	asWorked := []check.Step{{Do: step.Do, With: step.With, RestMinutes: now.Sub(bar.Start).Minutes(), CeilingMinutes: &ceiling}}
	for _, f := range check.Find(check.Problem{Steps: &asWorked}) {
		if f.Rule == check.RestOverCeiling {
			return &MissedWindow{f.Why, f.Fix}
		}
	}
	return nil
}

// slowReady is when a rest's floor is over in this room's air, when that is later.
func (s view) slowReady(bar planning.Resting, step craft.Step) *time.Time {
	air, known := s.Basis.Room.Air()
	if !known {
		return nil
	}
	slow := bar.Start.Add(time.Duration(air.Stretch(step).Floor) * time.Minute).Truncate(time.Minute)
	if !slow.After(bar.Ready.Add(worthWaiting)) {
		return nil
	}
	return &slow
}

// worthWaiting is the shortest difference that the room's air is told for.
const worthWaiting = 10 * time.Minute

func (s view) facts(j planning.Job) LotFacts {
	step := j.Recipe.Steps[j.Lot.NextStep]
	f := LotFacts{LotID: j.Lot.ID, BatchID: j.Batch.ID, Batch: j.Batch.Number, Lot: j.Lot.Number, Product: j.Name, ProductID: j.Batch.ProductID, Step: j.Lot.NextStep, StepName: step.Name,
		Minutes: step.Minutes(j.Pieces), Pieces: []PieceFacts{}, For: []string{}, Due: j.Due, Outcomes: j.Recipe.OutcomesAt(j.Lot.NextStep), Rest: step.Rest, Kinds: step.Kinds()}
	f.Pilot = j.Batch.PilotLot != nil && *j.Batch.PilotLot == j.Lot.Number
	f.Late = j.Done != nil && j.Due != nil && j.Done.After(*j.Due)
	for _, p := range s.Bench.PiecesOf(j.Lot.ID) {
		f.Pieces = append(f.Pieces, PieceFacts{p.ID, p.Number, p.Lettering})
	}
	for _, served := range s.Serves(j.Wants) {
		f.For = append(f.For, served.Customer)
	}
	return f
}
