package planning

import (
	"fmt"
	"slices"
	"time"

	"tidykiln/core/calendar"
	"tidykiln/core/craft"
	"tidykiln/core/plan"
	"tidykiln/internal/batches"
	"tidykiln/internal/fulfilment"
	"tidykiln/internal/products"
	"tidykiln/internal/workshop"
)

// wantsOf are the wants that pieces are made for.
func wantsOf(pieces []batches.Piece) (wants []uint64) {
	for _, p := range pieces {
		if p.WantID != nil {
			wants = append(wants, *p.WantID)
		}
	}
	return wants
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
		j := Job{ID: fmt.Sprintf("lot-%d", lot.ID), Lot: lot, Batch: &batch, Name: batch.ProductName, ProductID: batch.ProductID, Blank: batch.Blank, Picture: batch.Picture, Recipe: batch.Recipe, Pieces: len(pieces), First: lot.NextStep}
		j.Wants = wantsOf(pieces)
		if j.Due = s.DueOf(j.Wants); j.Due == nil {
			j.hurry, j.weight = s.goalOf(batch.ProductID)
		}
		j.steps = s.planSteps(batch.Recipe, lot.NextStep, len(pieces), batch.Blank)
		if open := s.Bench.OpenRun(lot.ID); open != nil {
			pinOpenRun(&j.steps[0], *open, s)
		}
		j.hold(lot.Held(), s)
		if last := s.Bench.LastRun(*lot); last != nil {
			j.steps = slices.Insert(j.steps, 0, s.endedStep(*last, batch, len(pieces)))
		}
		if j.KeepsRests = lot.KeepRests || s.keepsRests(j.Wants); j.KeepsRests {
			keepRests(j.steps)
		}
		jobs = append(jobs, j)
	}
	return jobs
}

const restedID = "rested"

func (s Snapshot) endedStep(r batches.Run, batch batches.Batch, pieces int) plan.Step {
	of := batch.Recipe.Steps[r.Step]
	step := plan.Step{ID: restedID, Minutes: 1, StartedAt: &r.StartedAt, EndedAt: r.EndedAt, Rest: s.planRest(of, pieces, batch.Blank), By: s.planPerson(r)}
	step.Setup = &plan.Setup{Kin: batch.Recipe.Kin(r.Step)}
	step.Uses, _ = places(s.Basis.Workshop, of)
	return step
}

// planPerson is who did or does a run, in the plan; empty when they are not there any more.
func (s Snapshot) planPerson(r batches.Run) string {
	if slices.ContainsFunc(s.Basis.Workshop.People, func(p workshop.Person) bool { return p.ID == r.PersonID }) {
		return personID(r.PersonID)
	}
	return ""
}

// pinOpenRun keeps a running step where it is, in the hands of whoever has it,
// until what is left of its minutes is worked; lots of one sitting are done
// together, and one of them has the hands. What was put down waits for
// anybody's hands with what is left of it.
func pinOpenRun(step *plan.Step, r batches.Run, s Snapshot) {
	step.StartedAt, step.Setup = &r.StartedAt, &plan.Setup{Kin: step.Setup.Kin}
	if r.RunningSince == nil {
		left := max(1, int(s.leftOf(r, 1)/time.Minute))
		step.MinutesLeft = &left
		for id, minutes := range step.MinutesBy {
			step.MinutesBy[id] = max(1, left*minutes/step.Minutes)
		}
		return
	}
	left, leads, pace := time.Duration(0), true, s.paceOf(r.PersonID)
	for _, with := range s.Bench.InHandWith(r) {
		left += s.leftOf(*with, pace)
		leads = leads && r.ID <= with.ID
	}
	end := s.from().Add(left.Truncate(time.Minute))
	step.EndedAt, step.OneOf = &end, nil
	if leads {
		step.By = s.planPerson(r)
	}
}

// paceOf is how long work takes somebody, of what a recipe gives.
func (s Snapshot) paceOf(personID uint64) float64 {
	for _, p := range s.Basis.Workshop.People {
		if p.ID == personID && p.PacePercent > 0 {
			return float64(p.PacePercent) / 100
		}
	}
	return 1
}

// leftOf is what is left of a step in hand by its recipe, at a pace.
func (s Snapshot) leftOf(r batches.Run, pace float64) time.Duration {
	step := s.Bench.Batches[s.Bench.Lot(r.LotID).BatchID].Recipe.Steps[r.Step]
	need := step.NeedTogether(len(s.Bench.PiecesOf(r.LotID)), len(s.Bench.InHandWith(r)))
	return max(0, time.Duration(need*pace*float64(time.Minute))-time.Duration(r.Worked(s.Now))*time.Second)
}

// demandJobs are the lots that open demand would make if it were started now.
func demandJobs(s Snapshot) []Job {
	var jobs []Job
	for i, d := range fulfilment.Proposals(s.Basis.Workshop, s.Logbook, s.Products, s.Wants) {
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

// inTheGaps is how much less the day of a goal for the shelf weighs than that of an order.
const inTheGaps = 0.1

// goalJobs are the lots that would fill the shelf to its goals; orders go first.
func goalJobs(s Snapshot) []Job {
	var jobs []Job
	for _, p := range s.Products {
		short := s.shortOfGoal(p)
		if short == 0 {
			continue
		}
		size := s.Basis.Workshop.LotSize(p.Bench(), p.Blank)
		made := newJobs(s, fmt.Sprintf("goal-%d", p.ID), p, craft.Lots(s.Logbook.Start(p, short, s.Basis.Workshop.Confidence), size), nil)
		for i := range made {
			made[i].hurry, made[i].weight = s.goalOf(p.ID)
		}
		jobs = append(jobs, made...)
	}
	return jobs
}

// goalOf is by when pieces of a product that nobody ordered are to lie ready, and
// how little that weighs; nil without a goal.
func (s Snapshot) goalOf(productID uint64) (by *time.Time, weight *float64) {
	for _, p := range s.Products {
		if p.ID == productID && s.aimsAt(p) {
			return new(s.Basis.Workshop.DueAt(*p.GoalOn)), new(float64(inTheGaps))
		}
	}
	return nil, nil
}

// aimsAt tells that a product has a goal whose day is not past.
func (s Snapshot) aimsAt(p products.Product) bool {
	return p.GoalOn != nil && *p.GoalOn >= calendar.DateOf(s.Now, s.Location())
}

// shortOfGoal is how many pieces of a product are neither on the shelf nor
// spare in work, of those that are to lie ready.
func (s Snapshot) shortOfGoal(p products.Product) int {
	if !s.aimsAt(p) {
		return 0
	}
	short := p.GoalPieces - s.Spare[p.ID]
	for _, piece := range s.Bench.Pieces {
		if piece.ProductID == p.ID && piece.State == batches.PieceWorking && piece.WantID == nil {
			short--
		}
	}
	return max(0, short)
}

// newJobs are the lots of a batch not yet made up.
func newJobs(s Snapshot, id string, p products.Product, lots []int, wants []uint64) []Job {
	var jobs []Job
	for k, pieces := range lots {
		j := Job{ID: fmt.Sprintf("%s-%d", id, k), Name: p.Name, Recipe: p.Bench(), Pieces: pieces, ProductID: p.ID, Blank: p.Blank, Picture: p.Picture}
		mine := min(pieces, len(wants))
		j.Wants, wants = wants[:mine], wants[mine:]
		j.Due = s.DueOf(j.Wants)
		j.steps = s.planSteps(j.Recipe, 0, pieces, p.Blank)
		if j.KeepsRests = s.keepsRests(j.Wants); j.KeepsRests {
			keepRests(j.steps)
		}
		jobs = append(jobs, j)
	}
	return jobs
}

// DueOf is the soonest due among the open orders that want any of the wants.
func (s Snapshot) DueOf(wants []uint64) *time.Time {
	var soonest *time.Time
	for _, id := range wants {
		if due, open := s.dueOfWant(id); open && (soonest == nil || due.Before(*soonest)) {
			soonest = &due
		}
	}
	return soonest
}
