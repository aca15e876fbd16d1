package planning

import (
	"fmt"
	"slices"
	"strings"
	"time"

	"tidykiln/core/craft"
	"tidykiln/core/plan"
	"tidykiln/internal/batches"
	"tidykiln/internal/products"
	"tidykiln/internal/workshop"
)

// Schedule is a snapshot with its plan.
type Schedule struct {
	Snapshot
	Jobs []Job
	// unplanned maps jobs by ID to the reason they found no place.
	unplanned map[string]string
	// doneAt maps wants to when the job they belong to is done.
	doneAt map[uint64]*time.Time
}

// Job is a lot on its way, or one that open demand would make.
type Job struct {
	ID     string
	Lot    *batches.Lot // nil for open demand
	Batch  *batches.Batch
	Name   string // of the product
	Recipe craft.Recipe
	Pieces int
	Wants  []uint64
	Due    *time.Time
	// First is the index of the recipe's step that Placed begins with.
	First  int
	Placed []plan.PlannedStep
	Done   *time.Time
	// Pressed marks a rest whose ceiling cannot be kept.
	Pressed bool
	steps   []plan.Step
}

// horizon is how far ahead hours are known to the plan.
const horizon = 120 * 24 * time.Hour

const rackID = "rack"

func personID(id uint64) string { return fmt.Sprintf("p%d", id) }

// makeSchedule plans everything in the snapshot, and after it the extra jobs.
func makeSchedule(s Snapshot, extra []Job) (*Schedule, error) {
	schedule := &Schedule{Snapshot: s}
	schedule.Jobs = append(append(lotJobs(s), demandJobs(s)...), extra...)
	answer, err := schedule.solve()
	if err != nil {
		return nil, err
	}
	if schedule.liftCeilings(answer) {
		if answer, err = schedule.solve(); err != nil {
			return nil, err
		}
	}
	schedule.take(answer)
	return schedule, nil
}

func (s *Schedule) solve() (plan.Answer, error) {
	problem := plan.Problem{Format: plan.ProblemFormat, From: s.from(), Resources: resources(s.Basis.Workshop, s.from())}
	for _, j := range s.Jobs {
		problem.Jobs = append(problem.Jobs, plan.Job{ID: j.ID, Due: j.Due, Steps: j.steps})
	}
	return plan.Make(problem)
}

// from is the first whole minute not yet past.
func (s Snapshot) from() time.Time { return s.Now.Truncate(time.Minute).Add(time.Minute) }

func resources(w workshop.Workshop, from time.Time) []plan.Resource {
	list := []plan.Resource{{ID: rackID, Capacity: w.RackPlaces}}
	for _, p := range w.People {
		list = append(list, plan.Resource{ID: personID(p.ID), Capacity: 1, Open: p.Open(from, from.Add(horizon), w.Location())})
	}
	if len(w.People) == 0 {
		list = append(list, plan.Resource{ID: "nobody", Capacity: 1, Open: [][2]time.Time{}})
	}
	return list
}

func anyone(w workshop.Workshop) []string {
	var ids []string
	for _, p := range w.People {
		ids = append(ids, personID(p.ID))
	}
	if len(ids) == 0 {
		return []string{"nobody"}
	}
	return ids
}

// planSteps translates a recipe's steps from first on, for a number of pieces.
func planSteps(r craft.Recipe, first, pieces int, w workshop.Workshop) []plan.Step {
	var steps []plan.Step
	for i, s := range r.Steps[first:] {
		steps = append(steps, plan.Step{ID: stepID(first + i), Minutes: s.Minutes(pieces), OneOf: anyone(w), Rest: planRest(s.Rest, pieces)})
	}
	return steps
}

func stepID(i int) string { return fmt.Sprintf("s%d", i) }

func planRest(r *craft.Rest, pieces int) *plan.Rest {
	if r == nil {
		return nil
	}
	usual := r.Usual
	return &plan.Rest{Min: r.Floor, Ideal: &usual, Max: r.Ceiling, Uses: map[string]int{rackID: r.Rack * pieces}}
}

// lotJobs are the lots under way, each from its last ended step on.
func lotJobs(s Snapshot) []Job {
	var jobs []Job
	for i := range s.Bench.Lots {
		lot := &s.Bench.Lots[i]
		pieces := s.Bench.PiecesOf(lot.ID)
		if lot.ClosedAt != nil || len(pieces) == 0 {
			continue
		}
		batch := s.Bench.Batches[lot.BatchID]
		j := Job{ID: fmt.Sprintf("lot-%d", lot.ID), Lot: lot, Batch: &batch, Name: batch.ProductName, Recipe: batch.Recipe, Pieces: len(pieces), First: lot.NextStep}
		for _, p := range pieces {
			if p.WantID != nil {
				j.Wants = append(j.Wants, *p.WantID)
			}
		}
		j.Due = s.dueOf(j.Wants)
		j.steps = planSteps(batch.Recipe, lot.NextStep, len(pieces), s.Basis.Workshop)
		if open := s.openRun(lot.ID); open != nil {
			pinOpenRun(&j.steps[0], *open, s)
		}
		if last := s.Bench.LastRun(*lot); last != nil {
			j.steps = slices.Insert(j.steps, 0, endedStep(*last, batch.Recipe, len(pieces)))
		}
		jobs = append(jobs, j)
	}
	return jobs
}

func (s Snapshot) openRun(lotID uint64) *batches.Run {
	for i, r := range s.Bench.Runs {
		if r.LotID == lotID && r.EndedAt == nil {
			return &s.Bench.Runs[i]
		}
	}
	return nil
}

const restedID = "rested"

func endedStep(r batches.Run, recipe craft.Recipe, pieces int) plan.Step {
	return plan.Step{ID: restedID, Minutes: 1, StartedAt: &r.StartedAt, EndedAt: r.EndedAt, Rest: planRest(recipe.Steps[r.Step].Rest, pieces)}
}

// pinOpenRun keeps a step in hand where it is, ending when what is left of its minutes is worked.
func pinOpenRun(step *plan.Step, r batches.Run, s Snapshot) {
	worked := time.Duration(r.WorkedSeconds) * time.Second
	if r.RunningSince != nil {
		worked += max(0, s.Now.Sub(*r.RunningSince))
	}
	left := max(0, time.Duration(step.Minutes)*time.Minute-worked)
	end := s.from().Add(left.Truncate(time.Minute))
	step.StartedAt, step.EndedAt = &r.StartedAt, &end
	step.OneOf = nil
	if slices.ContainsFunc(s.Basis.Workshop.People, func(p workshop.Person) bool { return p.ID == r.PersonID }) {
		step.Uses = map[string]int{personID(r.PersonID): 1}
	}
}

// demandJobs are the lots that open demand would make if it were started now.
func demandJobs(s Snapshot) []Job {
	var jobs []Job
	for i, d := range batches.Proposals(s.Basis.Workshop, s.Products, s.Wants) {
		if len(d.Wants) == 0 {
			continue
		}
		var wants []uint64
		for _, w := range d.Wants {
			wants = append(wants, w.WantID)
		}
		jobs = append(jobs, newJobs(s, fmt.Sprintf("demand-%d", d.ProductID), s.Products[i], d.Lots, wants)...)
	}
	return jobs
}

// newJobs are the lots of a batch not yet made up.
func newJobs(s Snapshot, id string, p products.Product, lots []int, wants []uint64) []Job {
	var jobs []Job
	for k, pieces := range lots {
		j := Job{ID: fmt.Sprintf("%s-%d", id, k), Name: p.Name, Recipe: p.Recipe.Document, Pieces: pieces}
		mine := min(pieces, len(wants))
		j.Wants, wants = wants[:mine], wants[mine:]
		j.Due = s.dueOf(j.Wants)
		j.steps = planSteps(p.Recipe.Document, 0, pieces, s.Basis.Workshop)
		jobs = append(jobs, j)
	}
	return jobs
}

// dueOf is the soonest due among the open orders that want any of the wants.
func (s Snapshot) dueOf(wants []uint64) *time.Time {
	var soonest *time.Time
	for _, id := range wants {
		if due, open := s.dues[id]; open && (soonest == nil || due.Before(*soonest)) {
			soonest = &due
		}
	}
	return soonest
}

// liftCeilings takes the ceiling off rests under way that no opening hours can
// keep, so that the lot is planned all the same, and says so.
func (s *Schedule) liftCeilings(a plan.Answer) bool {
	lifted := false
	for _, u := range a.Unplanned {
		for i := range s.Jobs {
			j := &s.Jobs[i]
			if j.ID != u.Job || j.steps[0].ID != restedID || j.steps[0].Rest == nil || j.steps[0].Rest.Max == nil {
				continue
			}
			j.steps[0].Rest.Max = nil
			j.Pressed, lifted = true, true
		}
	}
	return lifted
}

func (s *Schedule) take(a plan.Answer) {
	s.unplanned, s.doneAt = map[string]string{}, map[uint64]*time.Time{}
	for _, u := range a.Unplanned {
		s.unplanned[u.Job] = s.inWords(u.Reason)
	}
	done := map[string]time.Time{}
	for _, d := range a.Jobs {
		done[d.Job] = d.Done
	}
	placed := map[string][]plan.PlannedStep{}
	for _, p := range a.Steps {
		if p.Step != restedID {
			p.Because = s.inWords(p.Because)
			placed[p.Job] = append(placed[p.Job], p)
		}
	}
	for i := range s.Jobs {
		j := &s.Jobs[i]
		j.Placed = placed[j.ID]
		if at, ok := done[j.ID]; ok {
			j.Done = &at
		}
		for _, want := range j.Wants {
			s.doneAt[want] = j.Done
		}
	}
}

// inWords puts names in place of the plan's ids.
func (s *Schedule) inWords(text string) string {
	for id, name := range s.Names {
		text = strings.ReplaceAll(text, personID(id)+"'s hours", name+"’s hours")
		text = strings.ReplaceAll(text, personID(id)+" busy", name+" is busy")
		text = strings.ReplaceAll(text, "of "+personID(id)+" ", "of "+name+"’s time ")
	}
	for _, fixed := range [][2]string{{"rack full", "the rack is full"}, {"opening hours", "working hours begin"}, {"release", "nothing holds it up"}} {
		if text == fixed[0] {
			return fixed[1]
		}
	}
	return text
}
