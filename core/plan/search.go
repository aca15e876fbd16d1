package plan

import (
	"context"
	"sync"
	"time"
)

// search is the trying of one plan after the other, by two workers side by side.
type search struct {
	ctx    context.Context
	shop   *shop
	begun  time.Time
	budget time.Duration // 0 where rounds bound the search
	rounds int
	// standing is the plan that stands; nil when there is none.
	standing *Answer
	// least is what no plan can beat.
	least score
	best  candidate
}

// candidate is a plan with the line of jobs that it was made in.
type candidate struct {
	places [][]place
	score  score
	line   []*job
}

// usualBudgetMs bounds the search of a problem that says nothing of it.
const usualBudgetMs = 1000

func newSearch(ctx context.Context, shop *shop, standing *Answer) *search {
	s := &search{ctx: ctx, shop: shop, standing: standing, begun: time.Now()}
	if shop.problem.Iterations != nil {
		s.rounds = *shop.problem.Iterations
		return s
	}
	budget := usualBudgetMs
	if shop.problem.BudgetMs != nil {
		budget = *shop.problem.BudgetMs
	}
	s.budget = time.Duration(budget) * time.Millisecond
	return s
}

// run makes a plan by each plain rule, betters the best for the rest of the
// budget, and lets everything lie as early as it can in the end.
func (s *search) run() (b *board, failed []*Reason, err error) {
	b = newBoard(s.shop)
	if err := s.begin(b); err != nil {
		return nil, nil, err
	}
	s.least = s.shop.least()
	if err := s.improve(b); err != nil {
		return nil, nil, err
	}
	b.restore(s.best.places)
	w := &worker{search: s, b: b}
	w.polish()
	if s.shop.anyOverfull() {
		b.verify()
	}
	failed, err = s.lastChance(b)
	return b, failed, err
}

// begin makes the plan that the search begins with: the one that stands with
// what is new put in, or the best by the plain rules.
func (s *search) begin(b *board) error {
	if s.standing != nil {
		b.stand(s.standing)
		b.keepAsItLies()
		line := leastToSpare(s.shop)
		if err := newConstruction(s.ctx, b).place(line); err != nil {
			return err
		}
		if s.shop.anyOverfull() {
			b.verify()
		}
		s.best = candidate{b.snapshot(), b.total, line}
		return nil
	}
	rules := s.shop.rules()
	if s.bounded() {
		rules = rules[:max(1, min(len(rules), s.rounds+1, manyPlacings/max(1, len(s.shop.jobs))))]
	}
	for i, o := range rules {
		if i > 0 && s.spent() >= 1 {
			break
		}
		if err := s.construct(b, o); err != nil {
			return err
		}
	}
	return nil
}

// lastChance tries once more to place what has no place, and says why it has none.
func (s *search) lastChance(b *board) ([]*Reason, error) {
	c := newConstruction(s.ctx, b)
	return c.failed, c.place(s.shop.jobs)
}

// manyPlacings bounds, where rounds do and time does not, how often jobs are
// placed beside the rounds: huge studios are planned by fewer rules.
const manyPlacings = 3000

// bounded tells that rounds bound the search, not time.
func (s *search) bounded() bool { return s.budget == 0 && s.shop.problem.Iterations != nil }

// spent is how much of the time is over; 0 where rounds bound the search.
func (s *search) spent() float64 {
	switch {
	case s.bounded():
		return 0
	case s.budget == 0:
		return 2
	}
	return float64(time.Since(s.begun)) / float64(s.budget)
}

func (s *search) construct(b *board, o order) error {
	b.clear()
	c := newConstruction(s.ctx, b)
	line := o(s.shop)
	if err := c.place(line); err != nil {
		return err
	}
	if s.best.places == nil || b.total.compare(s.best.score) < 0 {
		s.best = candidate{b.snapshot(), b.total, line}
	}
	return nil
}

// legs are up to which part of the search workers go on each by itself, before
// all go on from what is best.
var legs = []float64{0.4, 0.7, 1}

// workers is how many search side by side: always so many, so that the answer
// does not hang on the machine.
const workers = 2

func (s *search) improve(b *board) error {
	if s.rounds == 0 && s.bounded() || s.spent() >= 1 || s.enough() {
		return nil
	}
	all := make([]*worker, workers)
	for i := range all {
		if all[i] = newWorker(s, b, i); len(all[i].open) == 0 {
			return nil
		}
	}
	from := 0.0
	for leg, until := range legs {
		if s.enough() {
			return nil
		}
		sideBySide(all, func(w *worker) { w.leg(leg, from, until) })
		if err := s.ctx.Err(); err != nil {
			return err
		}
		for _, w := range all {
			if w.best.score.compare(s.best.score) < 0 {
				s.best = w.best
			}
		}
		from = until
	}
	return nil
}

// sideBySide lets workers work at the same time. What one of them panics with
// is panicked with here, where the caller can recover.
func sideBySide(all []*worker, work func(w *worker)) {
	var wait sync.WaitGroup
	panicked := make([]any, len(all))
	for i, w := range all {
		wait.Go(func() {
			defer func() { panicked[i] = recover() }()
			work(w)
		})
	}
	wait.Wait()
	for _, p := range panicked {
		if p != nil {
			panic(p)
		}
	}
}

// enough tells that the search need not go on: nothing can be better, or a plan
// stands and serves as it is.
func (s *search) enough() bool {
	at := s.best.score.level(s.least)
	return at == noLevel || s.standing != nil && at > lateness
}
