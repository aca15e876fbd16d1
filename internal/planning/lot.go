package planning

import (
	"context"
	"slices"
	"time"

	"tidykiln/core/craft"
	"tidykiln/internal/batches"
	"tidykiln/internal/problem"
)

// LotPage is a lot as the tray shows it.
type LotPage struct {
	LotFacts
	BatchVersion int        `json:"batchVersion"`
	Serves       []Served   `json:"serves" nullable:"false"`
	Spare        int        `json:"spare" doc:"pieces that serve no order"`
	Steps        []LotStep  `json:"steps" nullable:"false"`
	ReadyAt      *time.Time `json:"readyAt,omitempty"`
	Unplanned    string     `json:"unplanned" doc:"why it found no place; empty when it did"`
	Pressed      bool       `json:"pressed" doc:"a ceiling that no working hours can keep"`
	Open         bool       `json:"open"`
	// ShortRests are the rests that the plan cuts under their usual length.
	ShortRests []ShortRest `json:"shortRests" nullable:"false"`
	KeepRests  bool        `json:"keepRests" doc:"the lot keeps its usual rests, whatever its orders say"`
}

// LotStep is a step of a lot's recipe, done or to come.
type LotStep struct {
	Index   int         `json:"index"`
	Name    string      `json:"name"`
	State   BarState    `json:"state" enum:"done,inHand,planned,tentative"`
	Start   *time.Time  `json:"start,omitempty"`
	End     *time.Time  `json:"end,omitempty"`
	Person  string      `json:"person"`
	Because string      `json:"because"`
	Rest    *craft.Rest `json:"rest,omitempty"`
	RunID   *uint64     `json:"runId,omitempty"`
	CanUndo bool        `json:"canUndo"`
}

// Lot shows one lot.
func (a *Area) Lot(ctx context.Context, id uint64) (page LotPage, err error) {
	s, err := a.Current(ctx)
	if err != nil {
		return page, err
	}
	at := s.Bench.Lot(id)
	if at == nil {
		return page, problem.NotFound("lot at the bench")
	}
	lot := *at
	batch := s.Bench.Batches[lot.BatchID]
	job := Job{Lot: &lot, Batch: &batch, Name: batch.ProductName, Recipe: batch.Recipe, First: len(batch.Recipe.Steps)}
	if k := slices.IndexFunc(s.Jobs, func(j Job) bool { return j.Lot != nil && j.Lot.ID == id }); k >= 0 {
		job = s.Jobs[k]
		page.LotFacts = s.facts(job)
		page.Open = true
	} else {
		page.LotFacts = LotFacts{LotID: lot.ID, BatchID: batch.ID, Batch: batch.Number, Lot: lot.Number, Product: batch.ProductName, ProductID: batch.ProductID, Step: lot.NextStep, Pieces: []PieceFacts{}, For: []string{}, Outcomes: []craft.Outcome{}, Kinds: []craft.Do{}}
	}
	page.BatchVersion = batch.Version
	page.Serves = s.serves(job.Wants)
	page.Spare = job.Pieces - len(job.Wants)
	page.ReadyAt, page.Pressed = job.Done, job.Pressed
	page.Unplanned = s.stepsByName(job, s.unplanned[job.ID])
	page.ShortRests, page.KeepRests = s.cutShort(job), lot.KeepRests
	page.Steps = s.lotSteps(lot, job)
	return page, nil
}

func (s *Schedule) lotSteps(lot batches.Lot, j Job) []LotStep {
	steps := []LotStep{}
	ended := s.endedRuns(lot.ID)
	open := s.Bench.OpenRun(lot.ID)
	for i, r := range ended {
		step := j.Recipe.Steps[r.Step]
		steps = append(steps, LotStep{Index: r.Step, Name: step.Name, State: BarDone, Start: &r.StartedAt, End: r.EndedAt, Person: s.Names[r.PersonID],
			Rest: step.Rest, RunID: &ended[i].ID, CanUndo: i == len(ended)-1 && open == nil})
	}
	for i := range j.Recipe.Steps[j.First:] {
		step := j.Recipe.Steps[j.First+i]
		next := LotStep{Index: j.First + i, Name: step.Name, State: BarPlanned, Rest: step.Rest}
		if at := j.placed(j.First + i); at != nil {
			next.Start, next.End, next.Person, next.Because = &at.Start, &at.End, s.who(at.By), s.stepsByName(j, at.Because)
		}
		if i == 0 && open != nil {
			next.State, next.Person, next.RunID = BarInHand, s.Names[open.PersonID], &open.ID
		}
		steps = append(steps, next)
	}
	return steps
}
