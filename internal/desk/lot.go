package desk

import (
	"context"
	"slices"
	"time"

	"tidykiln/core/craft"
	"tidykiln/internal/batches"
	"tidykiln/internal/planning"
	"tidykiln/internal/problem"
)

// LotPage is a lot as the tray shows it.
type LotPage struct {
	LotFacts
	BatchVersion int               `json:"batchVersion"`
	Serves       []planning.Served `json:"serves" nullable:"false"`
	Spare        int               `json:"spare" doc:"pieces that serve no order"`
	Steps        []LotStep         `json:"steps" nullable:"false"`
	ReadyAt      *time.Time        `json:"readyAt,omitempty"`
	Unplanned    string            `json:"unplanned" doc:"why it found no place; empty when it did"`
	Pressed      bool              `json:"pressed" doc:"a ceiling that no working hours can keep"`
	Open         bool              `json:"open"`
	// ShortRests are the rests that the plan cuts under their usual length.
	ShortRests []planning.ShortRest `json:"shortRests" nullable:"false"`
	// Hold is where a step of it is held in the plan; HoldBroken says that it cannot be there.
	Hold       *batches.Hold `json:"hold,omitempty"`
	HoldBroken bool          `json:"holdBroken"`
	KeepRests  bool          `json:"keepRests" doc:"the lot keeps its usual rests, whatever its orders say"`
}

// LotStep is a step of a lot's recipe, done or to come.
type LotStep struct {
	Index   int               `json:"index"`
	Name    string            `json:"name"`
	State   planning.BarState `json:"state" enum:"done,inHand,planned,tentative"`
	Start   *time.Time        `json:"start,omitempty"`
	End     *time.Time        `json:"end,omitempty"`
	Person  string            `json:"person"`
	Because string            `json:"because"`
	Rest    *craft.Rest       `json:"rest,omitempty"`
	Inside  bool              `json:"inside" doc:"it is done while an earlier step rests"`
	RunID   *uint64           `json:"runId,omitempty"`
	CanUndo bool              `json:"canUndo"`
}

// Lot shows one lot.
func (a *Area) Lot(ctx context.Context, id uint64) (page LotPage, err error) {
	s, err := a.current(ctx)
	if err != nil {
		return page, err
	}
	at := s.Bench.Lot(id)
	if at == nil {
		return page, problem.NotFound("lot at the bench")
	}
	lot := *at
	batch := s.Bench.Batches[lot.BatchID]
	job := planning.Job{Lot: &lot, Batch: &batch, Name: batch.ProductName, Recipe: batch.Recipe, First: len(batch.Recipe.Steps)}
	if k := slices.IndexFunc(s.Jobs, func(j planning.Job) bool { return j.Lot != nil && j.Lot.ID == id }); k >= 0 {
		job = s.Jobs[k]
		page.LotFacts = s.facts(job)
		page.Open = true
	} else {
		page.LotFacts = LotFacts{LotID: lot.ID, BatchID: batch.ID, Batch: batch.Number, Lot: lot.Number, Product: batch.ProductName, ProductID: batch.ProductID, Step: lot.NextStep, Pieces: []PieceFacts{}, For: []string{}, Outcomes: []craft.Outcome{}, Kinds: []craft.Do{}}
	}
	page.BatchVersion = batch.Version
	page.Serves = s.Serves(job.Wants)
	page.Spare = job.Pieces - len(job.Wants)
	page.ReadyAt, page.Pressed = job.Done, job.Pressed
	page.Unplanned = s.NoPlace(job)
	page.ShortRests, page.KeepRests = s.CutShort(job), lot.KeepRests
	page.Hold, page.HoldBroken = lot.Held(), job.HoldBroken
	page.Steps = s.lotSteps(lot, job)
	return page, nil
}

func (s view) lotSteps(lot batches.Lot, j planning.Job) []LotStep {
	steps := []LotStep{}
	ended := s.EndedRuns(lot.ID)
	open := s.Bench.OpenRun(lot.ID)
	for i, r := range ended {
		step := j.Recipe.Steps[r.Step]
		steps = append(steps, LotStep{Index: r.Step, Name: step.Name, State: planning.BarDone, Start: &r.StartedAt, End: r.EndedAt, Person: s.Names[r.PersonID],
			Rest: step.Rest, Inside: step.Inside != "", RunID: &ended[i].ID, CanUndo: i == len(ended)-1 && open == nil})
	}
	for i := range j.Recipe.Steps[j.First:] {
		step := j.Recipe.Steps[j.First+i]
		next := LotStep{Index: j.First + i, Name: step.Name, State: planning.BarPlanned, Rest: step.Rest, Inside: step.Inside != ""}
		if at := j.At(j.First + i); at != nil {
			next.Start, next.End, next.Person, next.Because = &at.Start, &at.End, s.Who(at.By), s.Because(j, *at)
		}
		if i == 0 && open != nil {
			next.State, next.Person, next.RunID = planning.BarInHand, s.Names[open.PersonID], &open.ID
		}
		steps = append(steps, next)
	}
	return steps
}
