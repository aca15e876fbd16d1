package planning

import (
	"context"
	"fmt"
	"regexp"
	"slices"
	"strconv"
	"strings"
	"time"

	"tidykiln/core/calendar"
	"tidykiln/core/craft"
	"tidykiln/core/plan"
	"tidykiln/internal/batches"
	"tidykiln/internal/workshop"
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
	// KeepsRests tells that no rest is cut under its usual length.
	KeepsRests bool
	// held says that its lay waits for the pilot piece of its batch.
	held  bool
	steps []plan.Step
	// pilotJob is the job of the pilot piece of a batch that is not made up yet.
	pilotJob string
	// productID, blank and picture are those of a lot that is not made up yet.
	productID uint64
	blank     craft.Blank
	picture   craft.Picture
}

// horizon is how far ahead hours are known to the plan.
const horizon = 120 * 24 * time.Hour

const rackID = "rack"

func personID(id uint64) string { return fmt.Sprintf("p%d", id) }

// makeSchedule plans everything in the snapshot.
func makeSchedule(ctx context.Context, s Snapshot) (*Schedule, error) {
	return makeScheduleWith(ctx, s, func(*Schedule) {})
}

// makeScheduleWith plans the snapshot with its jobs adjusted.
func makeScheduleWith(ctx context.Context, s Snapshot, adjust func(*Schedule)) (*Schedule, error) {
	schedule := &Schedule{Snapshot: s, PlannedAt: s.Now}
	schedule.Jobs = append(lotJobs(s), demandJobs(s)...)
	adjust(schedule)
	answer, err := schedule.solve(ctx)
	if err != nil {
		return nil, err
	}
	held := schedule.holdForPilots(answer)
	if lifted := schedule.liftCeilings(answer); held || lifted {
		if answer, err = schedule.solve(ctx); err != nil {
			return nil, err
		}
	}
	schedule.take(answer)
	return schedule, nil
}

func (s *Schedule) solve(ctx context.Context) (plan.Answer, error) {
	problem := plan.Problem{Format: plan.ProblemFormat, From: s.from(), Resources: resources(s.Basis.Workshop, s.from())}
	for _, j := range s.Jobs {
		problem.Jobs = append(problem.Jobs, plan.Job{ID: j.ID, Due: j.Due, Steps: j.steps})
	}
	return plan.Make(ctx, problem)
}

// from is the first whole minute not yet past.
func (s Snapshot) from() time.Time { return s.Now.Truncate(time.Minute).Add(time.Minute) }

func resources(w workshop.Workshop, from time.Time) []plan.Resource {
	list := []plan.Resource{{ID: rackID, Capacity: w.RackPlaces}}
	for _, place := range craft.Holdings() {
		list = append(list, plan.Resource{ID: string(place), Capacity: 1})
	}
	for _, p := range w.People {
		list = append(list, plan.Resource{ID: personID(p.ID), Capacity: 1, Open: p.Times().Open(from, from.Add(horizon), w.Location())})
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
// Steps inside the rest of one that is done lie inside what is rested.
func planSteps(r craft.Recipe, first, pieces int, w workshop.Workshop) []plan.Step {
	var steps []plan.Step
	ids := map[string]string{}
	for i, s := range r.Steps {
		if i < first {
			ids[s.ID] = restedID
			continue
		}
		ids[s.ID] = stepID(i)
		step := plan.Step{ID: stepID(i), Minutes: s.Minutes(pieces), OneOf: anyone(w), Rest: planRest(s, pieces), Inside: ids[s.Inside]}
		step.Uses, step.Apart = places(s)
		steps = append(steps, step)
	}
	return steps
}

// places are what a step has to itself, and what it keeps an hour apart from.
func places(s craft.Step) (uses, apart map[string]int) {
	uses, apart = map[string]int{}, map[string]int{}
	for _, place := range s.Places() {
		uses[string(place)] = 1
	}
	if s.Flammable() {
		apart[string(craft.HotAir)], apart[string(craft.HeatPress)] = craft.ApartMinutes, craft.ApartMinutes
	}
	if s.Hot() {
		apart[string(craft.SprayPlace)] = craft.ApartMinutes
	}
	return uses, apart
}

func stepID(i int) string { return fmt.Sprintf("s%d", i) }

// stepIndex is the index of a placed step in its recipe.
func stepIndex(p plan.PlannedStep) int {
	i, err := strconv.Atoi(strings.TrimPrefix(p.Step, "s"))
	if err != nil {
		panic(err) // the plan answers with the ids it was given
	}
	return i
}

// placed is where a step of the recipe lies; nil when it found no place.
func (j Job) placed(step int) *plan.PlannedStep {
	for i := range j.Placed {
		if stepIndex(j.Placed[i]) == step {
			return &j.Placed[i]
		}
	}
	return nil
}

// restEnds is when the rest after a step is over by the plan: when the next
// step begins that is not done inside it.
func (j Job) restEnds(step int) *time.Time {
	if next := j.placed(j.Recipe.Following(step)); next != nil {
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

func planRest(s craft.Step, pieces int) *plan.Rest {
	r := s.Rest
	if r == nil {
		return nil
	}
	usual, ceiling := r.Usual, s.CeilingAfter(pieces)
	if ceiling != nil {
		usual = min(usual, *ceiling)
	}
	return &plan.Rest{Min: r.Floor, Ideal: &usual, Max: ceiling, Uses: map[string]int{rackID: r.Rack * pieces}}
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
			j.steps[lay].NotBefore, j.held, held = through, true, true
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
	lay := j.lay()
	return slices.IndexFunc(j.steps, func(s plan.Step) bool { return s.ID == stepID(lay) && s.StartedAt == nil })
}

// lay is the index of the recipe's step that puts the picture on; -1 without one.
func (j Job) lay() int {
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
	s.unplanned, s.doneAt, s.Overfull = map[string]string{}, map[uint64]*time.Time{}, a.Overfull
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
			p.Because = s.inWords(p.Because) + s.untilInWords(p)
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

// ceilingMinutes is how the plan speaks of a ceiling.
var ceilingMinutes = regexp.MustCompile(`must start within (\d+) min of`)

// inWords puts names in place of the plan's ids.
func (s *Schedule) inWords(text string) string {
	for id, name := range s.Names {
		text = strings.ReplaceAll(text, personID(id)+"'s hours", name+"’s hours")
		text = strings.ReplaceAll(text, personID(id)+" busy", name+" is busy")
		text = strings.ReplaceAll(text, "of "+personID(id)+" ", "of "+name+"’s time ")
	}
	text = ceilingMinutes.ReplaceAllStringFunc(text, func(m string) string {
		minutes, _ := strconv.Atoi(ceilingMinutes.FindStringSubmatch(m)[1]) // digits, by the pattern
		return "must start within " + craft.InHours(minutes) + " of"
	})
	if apart, found := strings.CutPrefix(text, "kept apart from "); found {
		return "an hour and fresh air between spray and heat (" + strings.ReplaceAll(apart, "-", " ") + ")"
	}
	for _, fixed := range [][2]string{{"rack full", "the rack is full"}, {"rack overfull", "the rack is overfull"}, {"put down", "it was put down and waits for hands"}, {"opening hours", "working hours begin"}, {"release", "nothing holds it up"}, {plan.HeldBack, "the pilot piece of its batch goes first"}} {
		if text == fixed[0] {
			return fixed[1]
		}
	}
	return text
}

// untilInWords says until when the reason held, as people say it; nothing
// where the start itself says so.
func (s *Schedule) untilInWords(p plan.PlannedStep) string {
	if p.Until.IsZero() || strings.Contains(p.Because, "must start within") {
		return ""
	}
	return " until " + s.momentInWords(p.Until)
}

// momentInWords is a moment as people say it at this one: the clock alone
// today, the weekday within a week, else the date.
func (s Snapshot) momentInWords(t time.Time) string {
	t, now := t.In(s.location()), s.Now.In(s.location())
	switch days := calendar.DateOf(t, s.location()); {
	case days == calendar.DateOf(now, s.location()):
		return t.Format("15:04")
	case days < calendar.DateOf(now, s.location()).Add(7):
		return t.Format("Monday 15:04")
	}
	return t.Format("2 January")
}
