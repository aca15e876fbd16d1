package planning

import (
	"context"
	"fmt"
	"slices"
	"time"

	"tidykiln/core/craft"
	"tidykiln/core/plan"
	"tidykiln/internal/products"
	"tidykiln/internal/workshop"
)

// Alone is when lots of one recipe would be laid first and ready last, begun now
// in a studio that makes nothing else; ReadyAt is nil when they find no place.
type Alone struct {
	LaidAt, ReadyAt *time.Time
}

// PlanAlone places lots of one recipe on a blank in the studio's hours.
func PlanAlone(ctx context.Context, w workshop.Workshop, now time.Time, recipe craft.Recipe, blank craft.Blank, lots []int) (alone Alone, err error) {
	s := Snapshot{Now: now, Basis: products.Basis{Workshop: w}}
	question := plan.Problem{Format: plan.ProblemFormat, From: s.from(), Iterations: new(mostRounds), Resources: resources(w, s.from())}
	for i, pieces := range lots {
		question.Jobs = append(question.Jobs, plan.Job{ID: fmt.Sprintf("lot-%d", i), Steps: s.planSteps(recipe, 0, pieces, blank)})
	}
	answer, err := plan.Solve(ctx, question, nil)
	if err != nil || len(answer.Unplanned) > 0 {
		return alone, err
	}
	for _, p := range answer.Steps {
		if step := recipe.Steps[StepIndex(p)]; slices.ContainsFunc(step.Kinds(), craft.Do.Carries) && (alone.LaidAt == nil || p.Start.Before(*alone.LaidAt)) {
			alone.LaidAt = &p.Start
		}
	}
	for _, j := range answer.Jobs {
		if alone.ReadyAt == nil || j.Done.After(*alone.ReadyAt) {
			alone.ReadyAt = &j.Done
		}
	}
	return alone, nil
}

// RecipeBars are a recipe's steps and rests for a number of pieces, for drawing to scale.
func RecipeBars(r craft.Recipe, pieces int) []RecipeBar {
	bars := []RecipeBar{}
	for _, step := range r.Steps {
		bar := RecipeBar{Name: step.Name, Minutes: step.Minutes(pieces)}
		if step.Rest != nil {
			bar.Rest, bar.Kind = step.Rest.Usual, step.Rest.Kind
		}
		bars = append(bars, bar)
	}
	return bars
}
