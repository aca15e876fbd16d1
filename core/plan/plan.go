package plan

import (
	"cmp"
	"context"
	"math"
	"slices"
	"time"
)

type planner struct {
	ctx       context.Context
	problem   Problem
	kinds     []int
	timelines map[string]*timeline
	jobs      []*jobState
	done      map[int]map[int]placed
	finished  map[int]moment
	unplanned map[int]string
	// stuck are those of them that wait for something held with no end known.
	stuck    map[int]bool
	overfull map[string]*overfull
	warnings []string
	seen     sightings
}

// Make answers the problem, or returns an error that names the field at fault,
// or that of ctx when it is done before the plan is. Jobs are placed one after
// the other, the most urgent first; each takes its usual rests unless that
// would make it late or later. Of several such plans the best is kept.
func Make(ctx context.Context, problem Problem) (Answer, error) {
	if err := problem.validate(); err != nil {
		return Answer{}, err
	}
	kinds := kindsOf(problem.Jobs)
	best, bestOrder, err := (*planner)(nil), order(nil), error(nil)
	for _, by := range orders {
		if best != nil && (best.perfect() || by.onlyOverfull && len(best.overfull) == 0) {
			break
		}
		p, err := attempt(ctx, problem, kinds, by.order, nil)
		if err != nil {
			return Answer{}, err
		}
		if best == nil || p.betterThan(best) {
			best, bestOrder = p, by.order
		}
	}
	if best, err = rescue(ctx, best, bestOrder); err != nil {
		return Answer{}, err
	}
	return best.answer(), nil
}

// rescue gives what found no room first choice in further attempts.
func rescue(ctx context.Context, best *planner, by order) (*planner, error) {
	first := map[int]bool{}
	for range mostAttempts {
		if n := len(best.unplanned); n == 0 || n > mostRescued {
			break
		}
		for index := range best.unplanned {
			first[index] = true
		}
		again, err := attempt(ctx, best.problem, best.kinds, by, first)
		if err != nil {
			return nil, err
		}
		if len(again.unplanned) >= len(best.unplanned) {
			break
		}
		best = again
	}
	return best, nil
}

// mostRescued is how many jobs without a place are given another try: where
// more have none, there are not hours enough, whoever goes first.
const mostRescued = 20

// mostAttempts bounds how often planning starts over to place more jobs.
const mostAttempts = 3

func attempt(ctx context.Context, problem Problem, kinds []int, by order, first map[int]bool) (*planner, error) {
	p := &planner{ctx: ctx, problem: problem, kinds: kinds, timelines: map[string]*timeline{}, done: map[int]map[int]placed{}, finished: map[int]moment{}, unplanned: map[int]string{}, stuck: map[int]bool{}, seen: sightings{}}
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

// betterThan compares what matters most: jobs without a place, then lateness.
func (p *planner) betterThan(q *planner) bool {
	return cmp.Or(cmp.Compare(len(p.unplanned), len(q.unplanned)), cmp.Compare(p.lateness(), q.lateness())) < 0
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
	failure string
	stuck   bool
}

func (p *planner) try(j *jobState, links []link, wait []int) outcome {
	for _, h := range j.openEnded {
		h.on.hold(h.s, -h.amount)
	}
	r := &run{p: p, job: j, links: links, wait: wait, placed: map[int]placed{}}
	low := bound{at: j.release, because: "release"}
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

func (p *planner) answer() Answer {
	a := Answer{Format: AnswerFormat, Steps: []PlannedStep{}, Jobs: []PlannedJob{}, Unplanned: []Unplanned{}, Warnings: p.warnings}
	for _, j := range p.jobs {
		if len(j.dropped) > 0 {
			a.Dropped = append(a.Dropped, j.ID)
		}
		at, ok := p.done[j.index]
		if !ok {
			a.Unplanned = append(a.Unplanned, Unplanned{j.ID, p.unplanned[j.index]})
			continue
		}
		for i, s := range j.Steps {
			step := PlannedStep{Job: j.ID, Step: s.ID, Start: p.time(at[i].start), End: p.time(at[i].end), By: at[i].by, Because: at[i].because}
			if at[i].until < never {
				step.Until = p.time(at[i].until)
			}
			if s.StartedAt != nil && !s.putDown() {
				step.Start = s.StartedAt.In(p.problem.From.Location())
			}
			if s.EndedAt != nil {
				step.End = s.EndedAt.In(p.problem.From.Location())
			}
			a.Steps = append(a.Steps, step)
		}
		p.sumUp(&a, j, at)
	}
	p.warnAboutOverfull(&a)
	slices.SortStableFunc(a.Steps, func(x, y PlannedStep) int { return x.Start.Compare(y.Start) })
	return a
}

func (p *planner) sumUp(a *Answer, j *jobState, at map[int]placed) {
	links := j.links()
	done := p.finished[j.index]
	late := lateMinutes(done, j.due)
	a.Jobs = append(a.Jobs, PlannedJob{j.ID, p.time(done), late})
	a.Objective.WeightedLateMinutes += j.weight * float64(late)
	a.Objective.CompletionMinutes += int(done / 60)
	for k := range links[:len(links)-1] {
		if j.Steps[links[k+1].step].putDown() {
			continue
		}
		rested := at[links[k+1].step].start - at[links[k].step].end
		short := seconds(j.Steps[links[k].step].Rest.ideal()) - rested
		a.Objective.RestShortfallMinutes += int(max(0, short) / 60)
	}
}

func (p *planner) time(m moment) time.Time {
	return p.problem.From.Add(time.Duration(m) * time.Second)
}
