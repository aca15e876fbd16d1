package plan

import (
	"context"
	"time"
)

// search is the trying of one plan after the other.
type search struct {
	ctx     context.Context
	problem Problem
	kinds   []int
	// within is ctx while there is budget left; left is how many more plans may
	// be tried, where that is what bounds the search.
	within context.Context
	left   *int
	// standing is when jobs are done by the plan that stands.
	standing map[string]time.Time
	best     *planner
	bestBy   order
}

// usualBudgetMs bounds the search of a problem that says nothing of it.
const usualBudgetMs = 1000

// newSearch begins a search; end must be called when it is over.
func newSearch(ctx context.Context, problem Problem, standing *Answer) (s *search, end func()) {
	s = &search{ctx: ctx, problem: problem, kinds: kindsOf(problem.Jobs), within: ctx, standing: map[string]time.Time{}}
	if standing != nil {
		for _, j := range standing.Jobs {
			s.standing[j.Job] = j.Done
		}
	}
	if problem.Iterations != nil {
		s.left = new(*problem.Iterations)
		return s, func() {}
	}
	budget := usualBudgetMs
	if problem.BudgetMs != nil {
		budget = *problem.BudgetMs
	}
	s.within, end = context.WithTimeout(ctx, time.Duration(budget)*time.Millisecond)
	return s, end
}

// run makes a plan by each order of jobs, until one is perfect or the budget is
// spent, and then tries to find room for what has no place.
func (s *search) run() error {
	for _, by := range orders {
		if s.best != nil && (s.best.perfect() || by.onlyOverfull && len(s.best.overfull) == 0) {
			break
		}
		p, err := s.attempt(by.order, nil)
		if err != nil {
			return err
		}
		if p == nil {
			return nil
		}
		if s.best == nil || s.better(p) {
			s.best, s.bestBy = p, by.order
		}
	}
	return s.rescue()
}

// rescue gives what found no room first choice in further attempts.
func (s *search) rescue() error {
	first := map[int]bool{}
	for range mostAttempts {
		if n := len(s.best.unplanned); n == 0 || n > mostRescued {
			break
		}
		for index := range s.best.unplanned {
			first[index] = true
		}
		again, err := s.attempt(s.bestBy, first)
		if err != nil {
			return err
		}
		if again == nil || len(again.unplanned) >= len(s.best.unplanned) {
			break
		}
		s.best = again
	}
	return nil
}

// mostRescued is how many jobs without a place are given another try: where
// more have none, there are not hours enough, whoever goes first.
const mostRescued = 20

// mostAttempts bounds how often planning starts over to place more jobs.
const mostAttempts = 3

// attempt makes one plan; nil when the budget is spent before it is made. The
// first is made whatever the budget.
func (s *search) attempt(by order, first map[int]bool) (*planner, error) {
	if s.best == nil {
		return attempt(s.ctx, s.problem, s.kinds, by, first)
	}
	if s.left != nil {
		if *s.left == 0 {
			return nil, nil
		}
		*s.left--
	}
	p, err := attempt(s.within, s.problem, s.kinds, by, first)
	if err != nil && s.ctx.Err() == nil {
		return nil, nil
	}
	return p, err
}

// better tells whether a plan beats the best so far.
func (s *search) better(p *planner) bool {
	if better := p.compare(s.best); better != 0 {
		return better < 0
	}
	return s.moved(p) < s.moved(s.best)
}

// moved counts the jobs that are done at another minute than by the plan that stands.
func (s *search) moved(p *planner) (n int) {
	for _, j := range p.jobs {
		stood, known := s.standing[j.ID]
		if end, planned := p.finished[j.index]; known && (!planned || !p.time(end).Equal(stood)) {
			n++
		}
	}
	return n
}
