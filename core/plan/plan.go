package plan

import (
	"cmp"
	"fmt"
	"math"
	"slices"
	"time"
)

// jobState is a job with its times in seconds after From.
type jobState struct {
	Job
	index   int
	release moment
	due     moment // never when there is none
	weight  float64
	// pins are the pinned steps by index; missed marks those after which the
	// ceiling has passed before From.
	pins   map[int]placed
	missed map[int]bool
	// openEnded is what the rest after the last pinned step holds until the
	// next step is placed.
	openEnded []held
}

type planner struct {
	problem   Problem
	timelines map[string]*timeline
	jobs      []*jobState
	done      map[int]map[int]placed
	unplanned map[int]string
	warnings  []string
}

// Make answers the problem, or returns an error that names the field at fault.
// Jobs are placed one after the other: those under way first, then by due
// date; each takes its usual rests unless that would make it late or later.
func Make(problem Problem) (Answer, error) {
	if err := problem.validate(); err != nil {
		return Answer{}, err
	}
	best := attempt(problem, nil)
	first := map[int]bool{}
	for range mostAttempts {
		if len(best.unplanned) == 0 {
			break
		}
		// What found no room is given first choice in another attempt.
		for index := range best.unplanned {
			first[index] = true
		}
		if again := attempt(problem, first); len(again.unplanned) < len(best.unplanned) {
			best = again
		}
	}
	return best.answer(), nil
}

// mostAttempts bounds how often planning starts over to place more jobs.
const mostAttempts = 3

func attempt(problem Problem, first map[int]bool) *planner {
	p := &planner{problem: problem, timelines: map[string]*timeline{}, done: map[int]map[int]placed{}, unplanned: map[int]string{}}
	for _, r := range problem.Resources {
		p.timelines[r.ID] = newTimeline(r, problem.From)
	}
	for i, j := range problem.Jobs {
		p.jobs = append(p.jobs, p.newJob(i, j))
	}
	p.placeAll(first)
	p.warnAboutPins()
	return p
}

func (p *planner) moment(t time.Time) moment { return ceilSeconds(t.Sub(p.problem.From)) }

func (p *planner) newJob(index int, j Job) *jobState {
	s := &jobState{Job: j, index: index, due: never, weight: 1, pins: map[int]placed{}, missed: map[int]bool{}}
	if j.Release != nil {
		s.release = max(0, p.moment(*j.Release))
	}
	if j.Due != nil {
		s.due = floorSeconds(j.Due.Sub(p.problem.From))
	}
	if j.Weight != nil {
		s.weight = *j.Weight
	}
	for i, step := range j.Steps {
		if step.StartedAt != nil {
			s.pins[i] = p.pin(step)
		}
	}
	p.holdPins(s)
	return s
}

// pin fixes a started step; without an end it runs its minutes, or until From if that is later.
func (p *planner) pin(step Step) placed {
	start := floorSeconds(step.StartedAt.Sub(p.problem.From))
	end := max(start+seconds(step.Minutes), 0)
	because := "under way"
	if step.EndedAt != nil {
		end, because = ceilSeconds(step.EndedAt.Sub(p.problem.From)), "done"
	}
	at := placed{span: span{start, end}, because: because}
	at.by = p.likeliest(step.OneOf, at.span)
	return at
}

// likeliest guesses who did a pinned step: the first who was free and at work,
// or else free, or else the first.
func (p *planner) likeliest(oneOf []string, s span) string {
	best, bestRank := "", -1
	for _, by := range oneOf {
		t, rank := p.timelines[by], 0
		if _, busy := t.blocked(s, 1); !busy {
			rank = 1
			if t.nextOpen(s.start, s.end-s.start) == s.start {
				rank = 2
			}
		}
		if rank > bestRank {
			best, bestRank = by, rank
		}
	}
	return best
}

// holdPins holds what pinned steps and the rests after them use. A rest whose
// next step is not pinned is held without end until that step is placed.
func (p *planner) holdPins(j *jobState) {
	for i, at := range j.pins {
		step := j.Steps[i]
		for id, n := range step.Uses {
			p.timelines[id].hold(at.span, n)
		}
		if at.by != "" {
			p.timelines[at.by].hold(at.span, 1)
		}
	}
	links := j.links()
	for k, l := range links {
		at, pinned := j.pins[l.step]
		if !pinned {
			continue
		}
		rest := j.Steps[l.step].Rest
		over, ends := j.restOfPin(links, k)
		for id, n := range rest.uses() {
			p.timelines[id].hold(over, n)
			if !ends {
				j.openEnded = append(j.openEnded, held{p.timelines[id], over, n})
			}
		}
		if !ends && rest != nil && rest.Max != nil && at.end+seconds(*rest.Max) < 0 {
			j.missed[l.step] = true
			p.warnings = append(p.warnings, fmt.Sprintf("%s: the rest after step %s has passed its ceiling of %d min", j.ID, j.Steps[l.step].ID, *rest.Max))
		}
	}
}

// restOfPin is the rest after pinned link k, and whether its end is known.
func (j *jobState) restOfPin(links []link, k int) (over span, ends bool) {
	at := j.pins[links[k].step]
	if k == len(links)-1 {
		return span{at.end, at.end + seconds(j.Steps[links[k].step].Rest.min())}, true
	}
	if next, pinned := j.pins[links[k+1].step]; pinned {
		return span{at.end, next.start}, true
	}
	return span{at.end, never}, false
}

func (j *jobState) links() []link {
	var links []link
	at := map[string]int{}
	for i, s := range j.Steps {
		if s.Inside == "" {
			at[s.ID] = len(links)
			links = append(links, link{step: i})
			continue
		}
		k := at[s.Inside]
		links[k].inside = append(links[k].inside, i)
	}
	return links
}

// placeAll places jobs under way first: what they hold is given back only
// once their next step has its place, so a job that finds no room is tried
// again as long as another one has made some.
func (p *planner) placeAll(first map[int]bool) {
	rank := func(j *jobState) int {
		if first[j.index] {
			return 0
		}
		return 1
	}
	queue := slices.Clone(p.jobs)
	slices.SortStableFunc(queue, func(a, b *jobState) int {
		return cmp.Or(
			cmp.Compare(rank(a), rank(b)),
			-cmp.Compare(min(len(a.pins), 1), min(len(b.pins), 1)),
			cmp.Compare(a.due, b.due),
			-cmp.Compare(a.weight, b.weight),
			cmp.Compare(a.index, b.index),
		)
	})
	for len(queue) > 0 {
		var left []*jobState
		for _, j := range queue {
			if reason, ok := p.placeJob(j); !ok {
				p.unplanned[j.index] = reason
				left = append(left, j)
				continue
			}
			delete(p.unplanned, j.index)
		}
		if len(left) == len(queue) {
			return
		}
		queue = left
	}
}

// placeJob tries the usual rests first. If they make the job late or do not
// fit, it takes the floors and lengthens what costs the due date nothing.
func (p *planner) placeJob(j *jobState) (reason string, ok bool) {
	links := j.links()
	usual, floor := make([]int, len(links)), make([]int, len(links))
	for k, l := range links {
		usual[k], floor[k] = j.Steps[l.step].Rest.ideal(), j.Steps[l.step].Rest.min()
	}
	best := p.try(j, links, usual)
	if best.placed != nil && best.late == 0 {
		p.keep(j, best)
		return "", true
	}
	short := p.try(j, links, floor)
	if short.placed == nil && best.placed == nil {
		return short.failure, false
	}
	if short.placed != nil && (best.placed == nil || short.late < best.late) {
		best = p.lengthen(j, links, floor, usual, short)
	}
	p.keep(j, best)
	return "", true
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
	late    moment
	holds   []held
	failure string
}

func (p *planner) try(j *jobState, links []link, wait []int) outcome {
	for _, h := range j.openEnded {
		h.on.hold(h.s, -h.amount)
	}
	r := &run{p: p, job: j, links: links, wait: wait, placed: map[int]placed{}}
	retry, ok := r.place(0, bound{j.release, "release"})
	out := outcome{failure: r.failure}
	if ok {
		out = outcome{placed: r.placed, late: max(0, r.doneAt()-j.due), holds: slices.Clone(r.undo)}
	} else if out.failure == "" {
		out.failure = retry.because
	}
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

func (p *planner) keep(j *jobState, o outcome) {
	for _, h := range j.openEnded {
		h.on.hold(h.s, -h.amount)
	}
	for _, h := range o.holds {
		h.on.hold(h.s, h.amount)
	}
	p.done[j.index] = o.placed
}

func (p *planner) answer() Answer {
	a := Answer{Format: AnswerFormat, Steps: []PlannedStep{}, Jobs: []PlannedJob{}, Unplanned: []Unplanned{}, Warnings: p.warnings}
	for _, j := range p.jobs {
		at, ok := p.done[j.index]
		if !ok {
			a.Unplanned = append(a.Unplanned, Unplanned{j.ID, p.unplanned[j.index]})
			continue
		}
		for i, s := range j.Steps {
			step := PlannedStep{j.ID, s.ID, p.time(at[i].start), p.time(at[i].end), at[i].by, at[i].because}
			if s.StartedAt != nil {
				step.Start = s.StartedAt.In(p.problem.From.Location())
			}
			if s.EndedAt != nil {
				step.End = s.EndedAt.In(p.problem.From.Location())
			}
			a.Steps = append(a.Steps, step)
		}
		p.sumUp(&a, j, at)
	}
	slices.SortStableFunc(a.Steps, func(x, y PlannedStep) int { return x.Start.Compare(y.Start) })
	return a
}

func (p *planner) sumUp(a *Answer, j *jobState, at map[int]placed) {
	links := j.links()
	last := links[len(links)-1].step
	done := at[last].end + seconds(j.Steps[last].Rest.min())
	late := 0
	if done > j.due {
		late = int(math.Ceil(float64(done-j.due) / 60))
	}
	a.Jobs = append(a.Jobs, PlannedJob{j.ID, p.time(done), late})
	a.Objective.WeightedLateMinutes += j.weight * float64(late)
	a.Objective.CompletionMinutes += int(done / 60)
	for k := range links[:len(links)-1] {
		rested := at[links[k+1].step].start - at[links[k].step].end
		short := seconds(j.Steps[links[k].step].Rest.ideal()) - rested
		a.Objective.RestShortfallMinutes += int(max(0, short) / 60)
	}
}

func (p *planner) time(m moment) time.Time {
	return p.problem.From.Add(time.Duration(m) * time.Second)
}
