package plan

import (
	"cmp"
	"context"
	"math"
	"slices"
)

// order is a way to line jobs up for placing, first come first served.
type order func(s *shop) []*job

func sorted(s *shop, compare func(a, b *job) int) []*job {
	queue := slices.Clone(s.jobs)
	slices.SortStableFunc(queue, func(a, b *job) int { return cmp.Or(compare(a, b), cmp.Compare(a.no, b.no)) })
	return queue
}

func leastToSpare(s *shop) []*job { return sorted(s, bySpare) }

func bySpare(a, b *job) int {
	return cmp.Or(cmp.Compare(a.latestStart(), b.latestStart()), cmp.Compare(a.due, b.due), -cmp.Compare(a.weight, b.weight))
}

func soonestDue(s *shop) []*job { return sorted(s, byDue) }

func byDue(a, b *job) int {
	return cmp.Or(cmp.Compare(min(a.due, a.ceiling), min(b.due, b.ceiling)), -cmp.Compare(a.weight, b.weight))
}

// heaviest lets go first what counts most for the hands it takes.
func heaviest(s *shop) []*job {
	return sorted(s, func(a, b *job) int { return cmp.Compare(b.weight/float64(b.hands), a.weight/float64(a.hands)) })
}

// clearing lets go on first what stands on an overfull resource, so that
// whatever else needs it waits less; of that, what will rest on more of it than now comes last.
func clearing(s *shop) []*job {
	rank := func(j *job) int {
		switch {
		case !s.standsOver(j):
			return 2
		case s.outgrows(j):
			return 1
		}
		return 0
	}
	return sorted(s, func(a, b *job) int { return cmp.Or(cmp.Compare(rank(a), rank(b)), bySpare(a, b)) })
}

// apparentTardiness lines jobs up by their apparent tardiness cost (Vepsalainen
// and Morton 1987): weight by hands, discounted by what a job has to spare at
// the moment its turn comes, measured in so many mean jobs.
func apparentTardiness(horizons float64) order {
	return func(s *shop) []*job {
		left := slices.Clone(s.jobs)
		mean, pace := 0.0, s.pace()
		for _, j := range left {
			mean += float64(j.hands) * pace / float64(len(left))
		}
		queue, now := make([]*job, 0, len(left)), 0.0
		for len(left) > 0 {
			best, most := 0, -1.0
			for i, j := range left {
				spare := math.Max(0, float64(j.latestStart())-now)
				cost := j.weight / float64(j.hands) * math.Exp(-spare/(horizons*mean))
				if cost > most {
					best, most = i, cost
				}
			}
			queue = append(queue, left[best])
			now += float64(left[best].hands) * pace
			left = slices.Delete(left, best, best+1)
		}
		return queue
	}
}

// pace is how much time passes for each second of hands, where all have their
// hours full: by the hours, from beginning to end, of what takes them.
func (s *shop) pace() float64 {
	hours, horizon := 0.0, 0.0
	for _, r := range s.resources {
		if !s.hasHours(r) {
			continue
		}
		for _, o := range r.open.spans {
			hours += float64(o.end-o.start) * float64(r.capacity)
			horizon = math.Max(horizon, float64(o.end))
		}
	}
	if hours == 0 {
		return 1
	}
	return horizon / hours
}

// hasHours tells whether some step works by the hours of a resource.
func (s *shop) hasHours(r *resource) bool {
	return r.open != nil && len(r.open.spans) > 0 && slices.ContainsFunc(s.steps, func(c *step) bool { return c.takes(r) })
}

// latestStart is when a job must go on at the latest, were it alone: for its
// due, and for the ceiling of the rest it is in.
func (j *job) latestStart() moment {
	if j.due >= never {
		return j.ceiling
	}
	return min(j.ceiling, j.due-j.left)
}

// rules are the plain rules of which the search begins with the best.
func (s *shop) rules() []order {
	rules := []order{leastToSpare, soonestDue, heaviest}
	for _, horizons := range []float64{0.5, 1, 2, 4, 8} {
		rules = append(rules, apparentTardiness(horizons))
	}
	if s.anyOverfull() {
		rules = slices.Insert(rules, 1, order(clearing))
	}
	return rules
}

// least is what no plan can be better than: every job as well off as if it were alone.
func (s *shop) least() (least score) {
	b := newBoard(s)
	for _, j := range s.jobs {
		if len(j.openEnded) == 0 || !s.standsOver(j) {
			b.insert(j)
		}
		least = least.plus(b.scores[j.no], 1)
		if b.on[j.no] {
			b.take(j)
		}
	}
	return least
}

// construction is the placing of jobs one after the other.
type construction struct {
	ctx    context.Context
	b      *board
	failed []*Reason // by job
	stuck  []bool
}

func newConstruction(ctx context.Context, b *board) *construction {
	return &construction{ctx, b, make([]*Reason, len(b.shop.jobs)), make([]bool, len(b.shop.jobs))}
}

// place places jobs in turn. What a job under way holds is given back only once
// its next step has its place, and what is overfull only once enough of the jobs
// on it have theirs: where that keeps another from its place, the first of those
// in the way is placed before it.
func (c *construction) place(queue []*job) error {
	c.b.growing = true
	defer func() { c.b.forget(); c.b.growing = false }()
	for progress := true; progress; {
		before := c.b.total.unplanned
		for i := range queue {
			if err := c.placeInTurn(queue[i:]); err != nil {
				return err
			}
		}
		// What was stuck may find room by now.
		progress = false
		for _, j := range queue {
			if c.stuck[j.no] && c.b.total.unplanned < before {
				c.failed[j.no], c.stuck[j.no], progress = nil, false, true
			}
		}
	}
	return nil
}

func (c *construction) tried(j *job) bool { return c.b.on[j.no] || c.failed[j.no] != nil }

// placeInTurn places the first of a queue, after those later in it that stand in its way.
func (c *construction) placeInTurn(queue []*job) error {
	j := queue[0]
	if c.tried(j) {
		return nil
	}
	if err := c.ctx.Err(); err != nil {
		return err
	}
	for {
		failed := c.b.insert(j)
		if failed == nil {
			return nil
		}
		why, stuck := failed.failure, failed.stuck
		if stuck && c.placeOneInTheWay(j, queue[1:]) {
			continue
		}
		c.failed[j.no], c.stuck[j.no] = why, stuck
		return nil
	}
}

// placeOneInTheWay places the next job in the queue that holds, with no end
// known, something that j needs.
func (c *construction) placeOneInTheWay(j *job, queue []*job) bool {
	for _, other := range queue {
		if c.tried(other) || !slices.ContainsFunc(other.openEnded, func(h held) bool {
			return slices.ContainsFunc(j.steps, func(s *step) bool { return s.takes(h.of) })
		}) {
			continue
		}
		if c.b.insert(other) == nil {
			return true
		}
	}
	return false
}
