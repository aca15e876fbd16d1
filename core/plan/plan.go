package plan

import (
	"cmp"
	"context"
	"math"
	"slices"
)

type planner struct {
	ctx       context.Context
	problem   Problem
	kinds     []int
	timelines map[string]*timeline
	jobs      []*jobState
	done      map[int]map[int]placed
	finished  map[int]moment
	unplanned map[int]*Reason
	// stuck are those of them that wait for something held with no end known.
	stuck    map[int]bool
	overfull map[string]*overfull
	warnings []string
	seen     sightings
}

// Solve answers the problem, or returns an error that names the field at fault,
// or that of ctx when it is done before the plan is. Jobs are placed one after
// the other, the most urgent first; each takes its usual rests unless that
// would make it late or later. Of several such plans the best is kept, and of
// equal ones that which moves less of the plan that stands (nil: none does).
//
// After the first, further plans are tried for the problem's budgetMs, or, if
// it says iterations, so many of them; then the same question has the same answer.
func Solve(ctx context.Context, problem Problem, standing *Answer) (Answer, error) {
	if err := problem.validate(); err != nil {
		return Answer{}, err
	}
	s, end := newSearch(ctx, problem, standing)
	defer end()
	if err := s.run(); err != nil {
		return Answer{}, err
	}
	return s.best.answer(), nil
}

func attempt(ctx context.Context, problem Problem, kinds []int, by order, first map[int]bool) (*planner, error) {
	p := &planner{ctx: ctx, problem: problem, kinds: kinds, timelines: map[string]*timeline{}, done: map[int]map[int]placed{}, finished: map[int]moment{}, unplanned: map[int]*Reason{}, stuck: map[int]bool{}, seen: sightings{}}
	for _, r := range problem.Resources {
		p.timelines[r.ID] = newTimeline(r, problem.From)
	}
	for i, j := range problem.Jobs {
		p.jobs = append(p.jobs, p.newJob(i, j))
	}
	p.holdPins()
	p.findOverfull()
	if err := p.placeAll(by, first); err != nil {
		return nil, err
	}
	p.warnAboutPins()
	return p, nil
}

// perfect tells that every job is planned and none is late.
func (p *planner) perfect() bool {
	return len(p.unplanned) == 0 && p.lateness() == 0
}

// compare weighs what matters most: jobs without a place, then lateness; under
// 0 the plan is the better one.
func (p *planner) compare(q *planner) int {
	return cmp.Or(cmp.Compare(len(p.unplanned), len(q.unplanned)), cmp.Compare(p.lateness(), q.lateness()))
}

// lateness adds up the minutes late by weight.
func (p *planner) lateness() (sum float64) {
	for _, j := range p.jobs {
		if end, planned := p.finished[j.index]; planned {
			sum += j.weight * float64(lateMinutes(end, j.due))
		}
	}
	return sum
}

func lateMinutes(done, due moment) int {
	if done <= due {
		return 0
	}
	return int(math.Ceil(float64(done-due) / 60))
}

// placeAll places jobs by their order. What a job under way holds is given back
// only once its next step has its place, and what is overfull only once enough
// of the jobs on it have theirs: where that keeps another from its place, the
// most urgent of those in the way is placed before it.
func (p *planner) placeAll(by order, first map[int]bool) error {
	rank := func(j *jobState) int {
		if first[j.index] {
			return 0
		}
		return 1
	}
	queue := slices.Clone(p.jobs)
	slices.SortStableFunc(queue, func(a, b *jobState) int {
		return cmp.Or(cmp.Compare(rank(a), rank(b)), by(p, a, b), cmp.Compare(a.index, b.index))
	})
	for progress := true; progress; {
		planned := len(p.finished)
		for i := range queue {
			if err := p.placeInTurn(queue[i:]); err != nil {
				return err
			}
		}
		// What was stuck may find room by now.
		if progress = len(p.finished) > planned && len(p.stuck) > 0; progress {
			for index := range p.stuck {
				delete(p.unplanned, index)
			}
			clear(p.stuck)
		}
	}
	return nil
}

// placeInTurn places the first of a queue, after those later in it that stand in its way.
func (p *planner) placeInTurn(queue []*jobState) error {
	j := queue[0]
	if p.tried(j) {
		return nil
	}
	if err := p.ctx.Err(); err != nil {
		return err
	}
	for {
		failed := p.placeJob(j)
		if failed == nil {
			return nil
		}
		if failed.stuck && p.placeOneInTheWay(j, queue[1:]) {
			continue
		}
		p.unplanned[j.index] = failed.failure
		if failed.stuck {
			p.stuck[j.index] = true
		}
		return nil
	}
}

func (p *planner) tried(j *jobState) bool {
	_, placed := p.finished[j.index]
	_, failed := p.unplanned[j.index]
	return placed || failed
}

// placeOneInTheWay places the next job in the queue that holds, with no end
// known, something that j needs.
func (p *planner) placeOneInTheWay(j *jobState, queue []*jobState) bool {
	for _, other := range queue {
		if p.tried(other) || !slices.ContainsFunc(other.openEnded, func(h held) bool { return j.asksFor(h.on.id) }) {
			continue
		}
		if p.placeJob(other) == nil {
			return true
		}
	}
	return false
}

func (j *jobState) asksFor(id string) bool {
	return slices.ContainsFunc(j.Steps, func(s Step) bool {
		return s.Uses[id] > 0 || s.Rest.uses()[id] > 0 || slices.Contains(s.OneOf, id)
	})
}

// placeJob tries the usual rests first. If they make the job late or do not
// fit, it takes the floors and lengthens what costs the due date nothing.
func (p *planner) placeJob(j *jobState) (failed *outcome) {
	links := j.links()
	usual, floor := make([]int, len(links)), make([]int, len(links))
	for k, l := range links {
		usual[k], floor[k] = j.Steps[l.step].Rest.ideal(), j.Steps[l.step].Rest.min()
	}
	best := p.try(j, links, usual)
	if best.placed != nil && best.late == 0 || slices.Equal(usual, floor) {
		return p.keep(j, best)
	}
	short := p.try(j, links, floor)
	if short.placed == nil && best.placed == nil {
		return &short
	}
	if short.placed != nil && (best.placed == nil || short.late < best.late) {
		best = p.lengthen(j, links, floor, usual, short)
	}
	return p.keep(j, best)
}

// lengthen gives back, one rest after the other, the usual length where the job gets no later by it.
func (p *planner) lengthen(j *jobState, links []link, floor, usual []int, best outcome) outcome {
	wait := slices.Clone(floor)
	for k := range links {
		if usual[k] == wait[k] {
			continue
		}
		wait[k] = usual[k]
		if longer := p.try(j, links, wait); longer.placed != nil && longer.late <= best.late {
			best = longer
			continue
		}
		wait[k] = floor[k]
	}
	return best
}

// outcome is a trial placing of one job; placed is nil when it failed.
type outcome struct {
	placed  map[int]placed
	done    moment
	late    moment
	holds   []held
	failure *Reason
	stuck   bool
}

func (p *planner) try(j *jobState, links []link, wait []int) outcome {
	for _, h := range j.openEnded {
		h.on.hold(h.s, -h.amount)
	}
	r := &run{p: p, job: j, links: links, wait: wait, placed: map[int]placed{}}
	low := bound{at: j.release, because: atRelease}
	before, known := p.seen.of(j, wait)
	if known {
		low = before
	}
	retry, ok := bound{}, false
	if low.at < never {
		retry, ok = r.place(0, low)
	}
	out := outcome{failure: cmp.Or(r.failure, retry.because, low.because), stuck: r.stuck}
	if ok {
		done := r.doneAt()
		out = outcome{placed: r.placed, done: done, late: max(0, done-j.due), holds: slices.Clone(r.undo)}
	}
	p.seen.note(j, wait, r, out)
	r.rollBack(0)
	for _, h := range j.openEnded {
		h.on.hold(h.s, h.amount)
	}
	return out
}

func (r *run) doneAt() moment {
	last := len(r.links) - 1
	return r.end(last) + seconds(r.rest(last).min())
}

// keep gives the job its place for good; a failed outcome is handed back.
func (p *planner) keep(j *jobState, o outcome) (failed *outcome) {
	if o.placed == nil {
		return &o
	}
	for _, h := range j.openEnded {
		h.on.hold(h.s, -h.amount)
		clear(h.on.fits)
		p.seen.forget()
	}
	for _, h := range o.holds {
		h.on.hold(h.s, h.amount)
	}
	p.done[j.index], p.finished[j.index] = o.placed, o.done
	return nil
}
