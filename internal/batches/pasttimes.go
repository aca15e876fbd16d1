package batches

import (
	"context"
	"time"

	"gorm.io/gorm"

	"tidykiln/core/craft"
	"tidykiln/internal/problem"
)

// PastTimes asks when the steps of a batch begun at a moment would have been done.
type PastTimes struct {
	ProductID uint64    `json:"productId"`
	Pieces    int       `json:"pieces" minimum:"1" maximum:"500"`
	BegunAt   time.Time `json:"begunAt"`
}

// PastProposal is how a batch begun then would have gone, by the recipe.
type PastProposal struct {
	Steps []ProposedStep `json:"steps" nullable:"false" doc:"all of the recipe, those still to come too"`
}

// ProposedStep is a step at its proposed time.
type ProposedStep struct {
	Name      string    `json:"name"`
	StartedAt time.Time `json:"startedAt"`
	Minutes   int       `json:"minutes"`
	// Past says that it would be done by now.
	Past bool `json:"past"`
}

// ProposePast lays the steps one after the other with their usual rests, within
// the hours in which anybody works.
func (a *Area) ProposePast(ctx context.Context, in PastTimes) (p PastProposal, err error) {
	err = a.db.Read(ctx, func(tx *gorm.DB) error {
		product, basis, err := a.productOf(tx, in.ProductID)
		if err != nil {
			return err
		}
		now := a.now()
		if in.BegunAt.After(now) || in.BegunAt.Before(now.Add(-longestAgo)) {
			return problem.Invalid("begunAt", "a moment of the last three years")
		}
		p.Steps = proposeSteps(product.Bench(), in, now, basis.Workshop.FirstOpening)
		return nil
	})
	return p, err
}

// longestMinutes is the most of a PastStep.
const longestMinutes = 2160

func proposeSteps(r craft.Recipe, in PastTimes, now time.Time, open func(at time.Time, minutes int) time.Time) []ProposedStep {
	steps := make([]ProposedStep, len(r.Steps))
	free, ready, host := in.BegunAt, in.BegunAt, in.BegunAt
	for i, s := range r.Steps {
		minutes := s.Minutes(in.Pieces)
		at := ready
		if s.Inside != "" {
			at = host
		}
		if at.Before(free) {
			at = free
		}
		if i > 0 {
			at = open(at, minutes)
		}
		end := at.Add(time.Duration(minutes) * time.Minute)
		free = end
		if s.Inside == "" {
			host, ready = end, end
			if s.Rest != nil {
				ready = end.Add(time.Duration(s.Rest.Usual) * time.Minute)
			}
		}
		steps[i] = ProposedStep{Name: s.Name, StartedAt: at, Minutes: min(minutes, longestMinutes), Past: !end.After(now)}
	}
	return steps
}
