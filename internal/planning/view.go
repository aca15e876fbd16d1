package planning

import (
	"cmp"
	"slices"
	"time"

	"tidykiln/core/craft"
	"tidykiln/internal/batches"
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
	LotID     uint64 `json:"lotId" doc:"0 for open demand"`
	Step      int    `json:"step"`
	Name      string `json:"name"`
	Work      string `json:"work" doc:"what people call the kind of work; steps of the same are done in one go"`
	Product   string `json:"product"`
	ProductID uint64 `json:"productId"`
	// Orders are those that its pieces are for.
	Orders   []uint64 `json:"orders" nullable:"false"`
	BatchID  uint64   `json:"batchId" doc:"0 for open demand"`
	Batch    int      `json:"batch" doc:"number; 0 for open demand"`
	Lot      int      `json:"lot"`
	Pieces   int      `json:"pieces"`
	Person   string   `json:"person"`
	PersonID uint64   `json:"personId"`
	// Sitting is the one in which it is or was done with others; 0 alone, and while it is planned.
	Sitting uint64    `json:"sitting"`
	Start   time.Time `json:"start"`
	End     time.Time `json:"end"`
	State   BarState  `json:"state" enum:"done,inHand,planned,tentative"`
	Because string    `json:"because"`
	Late    bool      `json:"late" doc:"the lot will miss a promise"`
	Held    bool      `json:"held" doc:"somebody holds it there"`
}

// Resting is a rest in its place.
type Resting struct {
	LotID   uint64         `json:"lotId"`
	Step    int            `json:"step" doc:"the step it follows"`
	Name    string         `json:"name" doc:"of the step it follows"`
	Product string         `json:"product"`
	Pieces  int            `json:"pieces"`
	Places  int            `json:"places" doc:"of the rack, that it takes"`
	Kind    craft.RestKind `json:"kind" enum:"dry,cure,soak,cool"`
	Start   time.Time      `json:"start"`
	// End is when the next step begins, by the plan or in fact.
	End   time.Time  `json:"end"`
	Ready time.Time  `json:"ready" doc:"when the floor is over"`
	Best  time.Time  `json:"best" doc:"when the usual rest is over"`
	Until *time.Time `json:"until,omitempty" doc:"by when the next step must have begun"`
	State BarState   `json:"state" enum:"done,inHand,planned,tentative"`
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
	served := s.ordersOf(wantsOf(s.Bench.PiecesOf(l.ID)))
	for i, r := range ended {
		step := batch.Recipe.Steps[r.Step]
		next := slices.IndexFunc(ended[i+1:], func(after *batches.Run) bool { return batch.Recipe.Steps[after.Step].Inside == "" })
		hands = append(hands, Hands{LotID: l.ID, Step: r.Step, Name: step.Name, Work: WorkOf(step), Product: batch.ProductName, ProductID: batch.ProductID, Orders: served, BatchID: batch.ID, Batch: batch.Number, Lot: l.Number,
			Pieces: r.Pieces, Person: s.Names[r.PersonID], PersonID: r.PersonID, Sitting: r.Sitting(), Start: r.StartedAt, End: *r.EndedAt, State: BarDone})
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
	state, lotID, batchID, batchNumber, lotNumber := BarTentative, uint64(0), uint64(0), 0, 0
	if j.Lot != nil {
		state, lotID, batchID, batchNumber, lotNumber = BarPlanned, j.Lot.ID, j.Batch.ID, j.Batch.Number, j.Lot.Number
		if last := s.Bench.LastRun(*j.Lot); last != nil && j.Recipe.Steps[last.Step].Rest != nil {
			step := j.Recipe.Steps[last.Step]
			end := last.EndedAt.Add(time.Duration(step.Rest.Usual) * time.Minute)
			if over := j.restEnds(j.First - 1); over != nil {
				end = *over
			}
			if end.After(*last.EndedAt) {
				rests = append(rests, RestBar(lotID, last.Step, j.Name, j.Pieces, s.slowed(step), *last.EndedAt, end, BarInHand))
			}
		}
	}
	served := s.ordersOf(j.Wants)
	late := j.Done != nil && j.Due != nil && j.Done.After(*j.Due)
	for _, p := range j.Placed {
		index := StepIndex(p)
		step := j.Recipe.Steps[index]
		by, person := s.personOf(p.By)
		h := Hands{LotID: lotID, Step: index, Name: step.Name, Work: WorkOf(step), Product: j.Name, ProductID: j.ProductID, Orders: served, BatchID: batchID, Batch: batchNumber, Lot: lotNumber, Pieces: j.Pieces,
			Person: person, PersonID: by, Start: p.Start, End: p.End, State: state, Because: s.Because(j, p), Late: late, Held: j.held != nil && j.held.step == p.Step}
		if index == j.First && j.Lot != nil {
			if open := s.Bench.OpenRun(j.Lot.ID); open != nil {
				h.State, h.Person, h.PersonID, h.Sitting = BarInHand, s.Names[open.PersonID], open.PersonID, open.Sitting()
			}
		}
		hands = append(hands, h)
		if over := j.restEnds(index); step.Rest != nil && over != nil {
			rests = append(rests, RestBar(lotID, index, j.Name, j.Pieces, s.slowed(step), p.End, *over, state))
		}
	}
	return hands, rests
}

// RestBar is the rest after a step in its place.
func RestBar(lotID uint64, index int, product string, pieces int, step craft.Step, start, end time.Time, state BarState) Resting {
	r := Resting{LotID: lotID, Step: index, Name: step.Name, Product: product, Pieces: pieces, Places: step.Rest.Places(pieces), Kind: step.Rest.Kind, Start: start, End: end, State: state}
	r.Ready = start.Add(time.Duration(step.Rest.Floor) * time.Minute)
	r.Best = start.Add(time.Duration(step.Rest.Usual) * time.Minute)
	if ceiling := step.CeilingAfter(pieces); ceiling != nil {
		until := start.Add(time.Duration(*ceiling) * time.Minute)
		r.Until = &until
	}
	return r
}

// WorkOf is what people call the kind of work of a step; their own goes by its name.
func WorkOf(step craft.Step) string { return cmp.Or(step.Do.Name(), step.Name) }

// ordersOf are the orders that wants belong to.
func (s *Schedule) ordersOf(wants []uint64) []uint64 {
	ids := []uint64{}
	for _, w := range wants {
		if o := s.orderOf[w]; o != nil && !slices.Contains(ids, o.ID) {
			ids = append(ids, o.ID)
		}
	}
	return ids
}
