package desk

import (
	"cmp"
	"slices"
	"time"

	"tidykiln/core/craft"
	"tidykiln/internal/batches"
	"tidykiln/internal/planning"
)

// InHand is what a person has taken up, of one lot or of several in one
// sitting; its timer runs or it was put down.
type InHand struct {
	// SittingID is set where it was taken up as a sitting of several lots.
	SittingID     *uint64     `json:"sittingId,omitempty"`
	StepName      string      `json:"stepName"`
	Minutes       int         `json:"minutes" doc:"hands-on, for all pieces, the set-up paid once"`
	Pieces        int         `json:"pieces"`
	PersonID      uint64      `json:"personId"`
	Person        string      `json:"person"`
	StartedAt     time.Time   `json:"startedAt"`
	RunningSince  *time.Time  `json:"runningSince,omitempty"`
	WorkedSeconds int         `json:"workedSeconds"`
	Checklist     []string    `json:"checklist" nullable:"false"`
	Ticked        []int       `json:"ticked" nullable:"false"`
	Cautions      []string    `json:"cautions" nullable:"false"`
	Lots          []LotInHand `json:"lots" minItems:"1" nullable:"false"`
}

// LotInHand is a lot whose step is in hand.
type LotInHand struct {
	LotFacts
	RunID       uint64 `json:"runId"`
	RiskMinutes *int   `json:"riskMinutes,omitempty"`
	step        craft.Step
}

// ReadySitting is like work that waits for hands, and can be done in one sitting.
type ReadySitting struct {
	StepName string     `json:"stepName"`
	Lots     []ReadyLot `json:"lots" minItems:"1" nullable:"false" doc:"the most urgent first"`
}

// inHand is what people have in hand, what was begun first leading.
func (s view) inHand() []InHand {
	all, at := []InHand{}, map[uint64]int{}
	for _, j := range s.Jobs {
		if j.Lot == nil {
			continue
		}
		open := s.Bench.OpenRun(j.Lot.ID)
		if open == nil {
			continue
		}
		i, known := len(all), false
		if open.SittingID != nil {
			i, known = at[*open.SittingID]
			if !known {
				i = len(all)
				at[*open.SittingID] = i
			}
		}
		if !known {
			all = append(all, InHand{SittingID: open.SittingID, PersonID: open.PersonID, Person: s.Names[open.PersonID], StartedAt: open.StartedAt, RunningSince: open.RunningSince})
		}
		all[i].Lots = append(all[i].Lots, LotInHand{LotFacts: s.facts(j), RunID: open.ID, RiskMinutes: open.RiskMinutes, step: j.Recipe.Steps[open.Step]})
		all[i].WorkedSeconds += open.WorkedSeconds
	}
	for i := range all {
		// As they were taken up, which the one checklist goes by.
		slices.SortFunc(all[i].Lots, func(a, b LotInHand) int { return cmp.Compare(a.RunID, b.RunID) })
		s.describe(&all[i])
	}
	slices.SortStableFunc(all, func(a, b InHand) int { return a.StartedAt.Compare(b.StartedAt) })
	return all
}

// describe says of work in hand what its lots have in common: name, minutes,
// one checklist and the cautions of all.
func (s view) describe(h *InHand) {
	n := len(h.Lots)
	names, pieces, lists, steps := make([]string, n), make([]int, n), make([][]string, n), make([]craft.Step, n)
	h.Cautions = []string{}
	for i, lot := range h.Lots {
		names[i], pieces[i], lists[i], steps[i] = lot.StepName, len(lot.Pieces), lot.step.Checklist, lot.step
		h.Pieces += pieces[i]
		for _, c := range s.cautions(lot.step) {
			if !slices.Contains(h.Cautions, c) {
				h.Cautions = append(h.Cautions, c)
			}
		}
	}
	h.StepName = commonName(names, steps)
	h.Minutes = craft.MinutesTogether(steps, pieces)
	h.Checklist = batches.Checklist(lists)
	h.Ticked = s.tickedOf(*h)
}

// tickedOf are the points of the one checklist that are done for every lot that has them.
func (s view) tickedOf(h InHand) []int {
	done := []int{}
	for k, point := range h.Checklist {
		all := true
		for _, lot := range h.Lots {
			at := slices.Index(lot.step.Checklist, point)
			all = all && (at < 0 || slices.Contains(s.Bench.OpenRun(lot.LotID).Ticked, at))
		}
		if all {
			done = append(done, k)
		}
	}
	return done
}

// commonName is what steps done together are called: by their name where they
// have one, else by the kind of work.
func commonName(names []string, steps []craft.Step) string {
	for _, n := range names {
		if n != names[0] {
			return planning.WorkOf(steps[0])
		}
	}
	return names[0]
}

// together groups ready lots whose steps are of one kin, the most urgent first.
// What is laid only once a pilot piece is through stays by itself.
func (s view) together(ready []ReadyLot, handsLeft int) []ReadySitting {
	groups := [][]ReadyLot{}
	at := map[string]int{}
	for _, r := range ready {
		i, known := at[r.kin]
		if !known || r.WaitsForPilot {
			i = len(groups)
			groups = append(groups, nil)
		}
		if !r.WaitsForPilot {
			at[r.kin] = i
		}
		groups[i] = append(groups[i], r)
	}
	sittings := make([]ReadySitting, len(groups))
	for i, lots := range groups {
		sittings[i] = s.sittingOf(lots, handsLeft)
	}
	return sittings
}

// sittingOf is a sitting of like lots. Those join that are best done now, as
// long as all of them fit what is left of the day's hands, the most urgent first.
func (s view) sittingOf(lots []ReadyLot, handsLeft int) ReadySitting {
	names, steps := make([]string, len(lots)), make([]craft.Step, len(lots))
	var joined []craft.Step
	var pieces []int
	for i := range lots {
		r := &lots[i]
		names[i], steps[i] = r.StepName, r.step
		with, of := append(joined, r.step), append(pieces, len(r.Pieces))
		best := r.BestFrom == nil || r.PlannedAt != nil && r.PlannedAt.Before(*r.BestFrom)
		if len(joined) == 0 || best && craft.MinutesTogether(with, of) <= handsLeft {
			r.Joins, joined, pieces = true, with, of
		}
	}
	return ReadySitting{StepName: commonName(names, steps), Lots: lots}
}
