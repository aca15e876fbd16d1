package planning

import (
	"context"
	"fmt"
	"slices"

	"tidykiln/internal/batches"
	"tidykiln/internal/problem"
	"tidykiln/internal/products"
)

// BatchAnswer says which promises making up a batch would move. Making it up
// comes to the same.
type BatchAnswer struct {
	Moves []PromiseMove `json:"moves" nullable:"false"`
	// WithoutPilot are the moves were no pilot piece sent ahead; empty when none is.
	WithoutPilot []PromiseMove `json:"withoutPilot" nullable:"false"`
}

// AskBatch works out a batch without making it up.
func (a *Area) AskBatch(ctx context.Context, in batches.NewBatch) (answer BatchAnswer, err error) {
	answer.WithoutPilot = []PromiseMove{}
	release, err := a.question(ctx)
	if err != nil {
		return answer, err
	}
	defer release()
	s, err := a.fresh(ctx)
	if err != nil {
		return answer, err
	}
	i := slices.IndexFunc(s.Products, func(p products.Product) bool { return p.ID == in.ProductID })
	if i < 0 {
		return answer, problem.Invalid("productId", "this product is not made here")
	}
	if err := in.Check(s.Products[i], s.Basis.Workshop); err != nil {
		return answer, err
	}
	if answer.Moves, err = s.movedBy(ctx, in, s.Products[i]); err != nil || !in.Pilot || len(in.Lots) == 1 {
		return answer, err
	}
	in.Pilot = false
	answer.WithoutPilot, err = s.movedBy(ctx, in, s.Products[i])
	return answer, err
}

// movedBy are the promises that stand otherwise were a batch made up.
func (s *Schedule) movedBy(ctx context.Context, in batches.NewBatch, p products.Product) ([]PromiseMove, error) {
	then := s.Snapshot
	var wants []uint64
	then.Wants = nil
	for _, want := range s.Wants {
		if want.ProductID == p.ID && slices.Contains(in.WantIDs, want.WantID) {
			wants = append(wants, want.WantID)
			continue
		}
		then.Wants = append(then.Wants, want)
	}
	schedule, err := makeScheduleWith(ctx, then, s, func(made *Schedule) {
		jobs := newJobs(then, "asked", p, in.Lots, wants)
		for k := 1; k < len(jobs) && in.Pilot; k++ {
			jobs[k].pilotJob = jobs[0].ID
		}
		made.Jobs = append(made.Jobs, jobs...)
	})
	if err != nil {
		return nil, planned(ctx, fmt.Errorf("a batch that is asked about: %w", err))
	}
	return s.moves(schedule), nil
}
