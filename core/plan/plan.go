package plan

import (
	"context"
)

// Solve answers the problem, or returns an error that names the field at fault,
// or that of ctx when it is done before the plan is.
func Solve(ctx context.Context, problem Problem, standing *Answer) (Answer, error) {
	if err := problem.validate(); err != nil {
		return Answer{}, err
	}
	s := newSearch(ctx, newShop(problem, standing != nil), standing)
	b, failed, err := s.run()
	if err != nil {
		return Answer{}, err
	}
	return b.answer(failed), nil
}
