package plan

import (
	"cmp"
	"fmt"
	"slices"
	"time"
)

// overfull is a resource of which the jobs under way hold more than there is.
// While that lasts, each of them may hold what it holds now and no other rest
// may hold any; steps get no such grace.
type overfull struct {
	id       string
	reason   Reason
	capacity int
	held     int
	jobs     []*jobState
}

// findOverfull looks at what rests after the last pinned steps hold.
func (p *planner) findOverfull() {
	p.overfull = map[string]*overfull{}
	for id, t := range p.timelines {
		over := &overfull{id: id, reason: Reason{Kind: Overfilled, Resource: id}, capacity: t.capacity}
		for _, j := range p.jobs {
			if n := j.holds[id]; n > 0 && j.pinsEnd > 0 {
				over.jobs = append(over.jobs, j)
				over.held += n
			}
		}
		if over.held > t.capacity {
			p.overfull[id] = over
		}
	}
}

// until is when so many of the jobs under way are done that the others hold no
// more than there is; never while too many of them have no place. The job with
// index asking counts as not done.
func (p *planner) until(o *overfull, asking int) moment {
	type end struct {
		at moment
		n  int
	}
	var ends []end
	for _, j := range o.jobs {
		at, placed := p.finished[j.index]
		if placed && j.index != asking {
			ends = append(ends, end{at, j.holds[o.id]})
		}
	}
	slices.SortFunc(ends, func(a, b end) int { return cmp.Compare(a.at, b.at) })
	held := o.held
	for _, e := range ends {
		if held -= e.n; held <= o.capacity {
			return e.at
		}
	}
	return never
}

// standsOver tells whether a job stands on an overfull resource.
func (p *planner) standsOver(j *jobState) bool {
	for id := range p.overfull {
		if j.holds[id] > 0 {
			return true
		}
	}
	return false
}

// outgrows tells whether a job will rest on more of an overfull resource than it holds now.
func (p *planner) outgrows(j *jobState) bool {
	for id := range p.overfull {
		for i, s := range j.Steps {
			if _, pinned := j.pins[i]; !pinned && s.Rest.uses()[id] > j.holds[id] {
				return true
			}
		}
	}
	return false
}

// nobody is the index of no job.
const nobody = -1

func (p *planner) warnAboutOverfull(a *Answer) {
	for _, r := range p.problem.Resources {
		o := p.overfull[r.ID]
		if o == nil {
			continue
		}
		over := Overfull{Resource: o.id, By: o.held - o.capacity}
		until := "with no end planned"
		if at := p.until(o, nobody); at < never {
			over.Until = new(p.time(at))
			until = "until " + over.Until.Format(time.RFC3339)
		}
		a.Overfull = append(a.Overfull, over)
		a.Warnings = append(a.Warnings, fmt.Sprintf("%s is overfull by %d (%d where %d fit) %s", o.id, over.By, o.held, o.capacity, until))
	}
}
