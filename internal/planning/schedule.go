package planning

import (
	"cmp"
	"context"
	"fmt"
	"slices"
	"strconv"
	"strings"
	"time"

	"tidykiln/core/craft"
	"tidykiln/core/plan"
	"tidykiln/internal/batches"
)

// Schedule is a snapshot with its plan.
type Schedule struct {
	Snapshot
	Jobs []Job
	// PlannedAt is when the plan was begun to be made; Making tells that it is
	// of an older state, and a newer one is on its way.
	PlannedAt time.Time
	Making    bool
	// Overfull is what the work under way fills beyond what there is.
	Overfull []plan.Overfull
	// answer is the plan itself, and unplanned why jobs have no place, by their ID.
	answer    plan.Answer
	unplanned map[string]plan.Reason
	// rounds bounds the search; nil: mostRounds.
	rounds *int
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
	// KeepsRests tells that no rest is cut under its usual length.
	KeepsRests bool
	// Held says that its lay waits for the pilot piece of its batch.
	Held bool
	// HoldBroken says that a step of it is held where it cannot be.
	HoldBroken bool
	// AnyTime says that the times preferred for its work are not kept.
	AnyTime bool
	// ProductID, Blank and Picture are what it makes.
	ProductID uint64
	Blank     craft.Blank
	Picture   craft.Picture
	steps     []plan.Step
	held      *held
	// hurry is by when it is wanted, and weight how much, where it goes first.
	hurry  *time.Time
	weight *float64
	// pilotJob is the job of the pilot piece of a batch that is not made up yet.
	pilotJob string
}

// horizon is how far ahead hours are known to the plan.
const horizon = 120 * 24 * time.Hour

// makeSchedule plans everything in the snapshot; standing is the plan that
// stands, nil when there is none.
func makeSchedule(ctx context.Context, s Snapshot, standing *Schedule) (*Schedule, error) {
	return makeScheduleWith(ctx, s, standing, func(*Schedule) {})
}

// makeScheduleWith plans the snapshot with its jobs adjusted.
func makeScheduleWith(ctx context.Context, s Snapshot, standing *Schedule, adjust func(*Schedule)) (*Schedule, error) {
	schedule := &Schedule{Snapshot: s, PlannedAt: s.Now}
	schedule.Jobs = slices.Concat(lotJobs(s), demandJobs(s), goalJobs(s))
	adjust(schedule)
	answer, err := schedule.settle(ctx, standing.planned())
	if err != nil {
		return nil, err
	}
	if answer, err = schedule.hurry(ctx, answer, standing.planned()); err != nil {
		return nil, err
	}
	schedule.take(answer)
	return schedule, nil
}

// settle plans until nothing has to be freed any more. Each round frees
// something for good, so that they come to an end.
func (s *Schedule) settle(ctx context.Context, stood *plan.Answer) (plan.Answer, error) {
	answer, err := s.solve(ctx, stood)
	if err != nil {
		return answer, err
	}
	for changed := s.holdForPilots(answer); changed || s.letGo(answer) || s.liftCeilings(answer); changed = false {
		if answer, err = s.solve(ctx, stood); err != nil {
			return answer, err
		}
	}
	return answer, nil
}

// hurry lets lots that are late be worked outside the times preferred for that,
// where fewer are late for it.
func (s *Schedule) hurry(ctx context.Context, kept plan.Answer, stood *plan.Answer) (plan.Answer, error) {
	jobs, freed := slices.Clone(s.Jobs), false
	for _, done := range kept.Jobs {
		if i := slices.IndexFunc(jobs, func(j Job) bool { return j.ID == done.Job }); done.LateMinutes > 0 && i >= 0 {
			freed = jobs[i].anyTime() || freed
		}
	}
	if !freed {
		return kept, nil
	}
	hurried := *s
	hurried.Jobs = jobs
	answer, err := hurried.settle(ctx, stood)
	if err != nil {
		return kept, err
	}
	if answer.Objective.WeightedLateMinutes < kept.Objective.WeightedLateMinutes && len(answer.Unplanned) <= len(kept.Unplanned) {
		s.Jobs = jobs
		return answer, nil
	}
	return kept, nil
}

// planned is the plan of a schedule; nil where there is none.
func (s *Schedule) planned() *plan.Answer {
	if s == nil {
		return nil
	}
	return &s.answer
}

// mostRounds bounds the search by count, so that the same studio has the same
// plan, and a promise the one that taking the order comes to.
const mostRounds = 8

func (s *Schedule) solve(ctx context.Context, standing *plan.Answer) (plan.Answer, error) {
	problem := plan.Problem{Format: plan.ProblemFormat, From: s.from(), Iterations: cmp.Or(s.rounds, new(mostRounds)), Resources: resources(s.Basis.Workshop, s.from())}
	problem.Resources = append(problem.Resources, s.heldPlaces()...)
	for _, j := range s.Jobs {
		problem.Jobs = append(problem.Jobs, plan.Job{ID: j.ID, Due: cmp.Or(j.hurry, j.Due), Weight: j.weight, Steps: j.steps})
	}
	return plan.Solve(ctx, problem, standing)
}

// from is the first whole minute not yet past.
func (s Snapshot) from() time.Time { return s.Now.Truncate(time.Minute).Add(time.Minute) }

// planSteps translates a recipe's steps from first on, for a number of pieces of
// a blank. Steps inside the rest of one that is done lie inside what is rested.
func (s Snapshot) planSteps(r craft.Recipe, first, pieces int, blank craft.Blank) []plan.Step {
	var steps []plan.Step
	ids := map[string]string{}
	for i, one := range r.Steps {
		if i < first {
			ids[one.ID] = restedID
			continue
		}
		ids[one.ID] = stepID(i)
		setup := one.WholeSetup(pieces)
		step := plan.Step{ID: stepID(i), Minutes: one.Minutes(pieces) - setup, Setup: &plan.Setup{Kin: r.Kin(i), Minutes: setup}, Rest: s.planRest(one, pieces, blank), Inside: ids[one.Inside]}
		step.OneOf, step.MinutesBy = whoCan(s.Basis.Workshop, one, step.Minutes)
		step.Uses, step.Apart = places(s.Basis.Workshop, one)
		steps = append(steps, step)
	}
	return steps
}

func stepID(i int) string { return fmt.Sprintf("s%d", i) }

// StepIndex is the index of a placed step in its recipe.
func StepIndex(p plan.PlannedStep) int {
	i, known := stepIndexOf(p.Step)
	if !known {
		panic("the plan answers with another id than it was given: " + p.Step)
	}
	return i
}

// stepIndexOf is the index of a step in its recipe by the plan's id; not known
// for what is none, such as the step that is done already.
func stepIndexOf(id string) (i int, known bool) {
	i, err := strconv.Atoi(strings.TrimPrefix(id, "s"))
	return i, err == nil
}

// At is where a step of the recipe lies; nil when it found no place.
func (j Job) At(step int) *plan.PlannedStep {
	for i := range j.Placed {
		if StepIndex(j.Placed[i]) == step {
			return &j.Placed[i]
		}
	}
	return nil
}

// restEnds is when the rest after a step is over by the plan: when the next
// step begins that is not done inside it.
func (j Job) restEnds(step int) *time.Time {
	if next := j.At(j.Recipe.Following(step)); next != nil {
		return &next.Start
	}
	return nil
}

// keepRests makes the usual rests the shortest that the plan may take.
func keepRests(steps []plan.Step) {
	for i := range steps {
		if r := steps[i].Rest; r != nil {
			r.Min = *r.Ideal
		}
	}
}

func (s Snapshot) planRest(step craft.Step, pieces int, blank craft.Blank) *plan.Rest {
	if step.Rest == nil {
		return nil
	}
	r := s.slowed(step).Rest
	usual, ceiling := r.Usual, step.CeilingAfter(pieces)
	if ceiling != nil {
		usual = min(usual, *ceiling)
	}
	uses := onRacks(s.Basis.Workshop, blank.Shape.Longest(), r.Places(pieces))
	uses[string(craft.Turner)] = r.Spindles(pieces)
	return &plan.Rest{Min: min(r.Floor, usual), Ideal: &usual, Max: ceiling, Uses: uses}
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
			j.steps = slices.Clone(j.steps)
			rest := *j.steps[0].Rest
			rest.Max = nil
			j.steps[0].Rest, j.Pressed, lifted = &rest, true, true
		}
	}
	return lifted
}

// holdForPilots lets the lay of lots wait for the pilot piece of their batch to
// be through removal; what comes before it goes on meanwhile.
func (s *Schedule) holdForPilots(a plan.Answer) bool {
	held := false
	for i := range s.Jobs {
		j := &s.Jobs[i]
		pilot, proof := s.pilotOf(*j)
		lay := j.layStep()
		if pilot == nil || lay < 0 {
			continue
		}
		if through := pilot.throughIn(a, proof); through != nil && through.After(s.Now) {
			j.steps = slices.Clone(j.steps)
			j.steps[lay].NotBefore, j.Held, held = through, true, true
		}
	}
	return held
}

// pilotOf is the job of the pilot piece that a job waits for, and the step it
// must be through; nil when it waits for none.
func (s *Schedule) pilotOf(j Job) (pilot *Job, proof int) {
	if j.Lot != nil && (j.Batch.PilotLot == nil || j.Lot.Number == *j.Batch.PilotLot) || j.Lot == nil && j.pilotJob == "" {
		return nil, 0
	}
	i := slices.IndexFunc(s.Jobs, func(o Job) bool {
		if j.Lot == nil {
			return o.ID == j.pilotJob
		}
		return o.Lot != nil && o.Batch.ID == j.Batch.ID && o.Lot.Number == *j.Batch.PilotLot
	})
	switch {
	case i < 0:
		return nil, 0
	case j.Lot == nil:
		return &s.Jobs[i], max(0, j.Recipe.LastRemoval())
	}
	return &s.Jobs[i], j.Batch.ProofStep
}

// layStep is the place, in what is planned, of the step that puts the picture
// on; -1 when that is done, or in hand.
func (j Job) layStep() int {
	lay := j.Lay()
	return slices.IndexFunc(j.steps, func(s plan.Step) bool { return s.ID == stepID(lay) && s.StartedAt == nil })
}

// Lay is the index of the recipe's step that puts the picture on; -1 without one.
func (j Job) Lay() int {
	return slices.IndexFunc(j.Recipe.Steps, func(s craft.Step) bool { return slices.ContainsFunc(s.Kinds(), craft.Do.Carries) })
}

// throughIn is when a plan has the job through a step; nil when it is already, or is not planned.
func (j Job) throughIn(a plan.Answer, step int) *time.Time {
	if step < j.First {
		return nil
	}
	for _, p := range a.Steps {
		if p.Job == j.ID && p.Step == stepID(step) {
			return &p.End
		}
	}
	return nil
}

func (s *Schedule) take(a plan.Answer) {
	s.answer, s.unplanned, s.doneAt, s.Overfull = a, map[string]plan.Reason{}, map[uint64]*time.Time{}, a.Overfull
	for _, u := range a.Unplanned {
		s.unplanned[u.Job] = u.Reason
	}
	done := map[string]time.Time{}
	for _, d := range a.Jobs {
		done[d.Job] = d.Done
	}
	placed := map[string][]plan.PlannedStep{}
	for _, p := range a.Steps {
		if p.Step != restedID {
			placed[p.Job] = append(placed[p.Job], p)
		}
	}
	for i := range s.Jobs {
		j := &s.Jobs[i]
		j.Placed = placed[j.ID]
		j.Pressed = j.Pressed || slices.Contains(a.Dropped, j.ID)
		if at, ok := done[j.ID]; ok {
			j.Done = &at
		}
		for _, want := range j.Wants {
			s.doneAt[want] = j.Done
		}
	}
}
