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
	of     *resource
	reason Reason
	held   int
	jobs   []*job
}

// findOverfull looks at what rests after the last pinned steps hold.
func (s *shop) findOverfull() {
	s.overfull = make([]*overfull, len(s.resources))
	for _, r := range s.resources {
		over := &overfull{of: r, reason: Reason{Kind: Overfilled, Resource: r.id}}
		for _, j := range s.jobs {
			if n := j.holds[r.id]; n > 0 && j.pinsEnd > 0 {
				over.jobs = append(over.jobs, j)
				over.held += n
			}
		}
		if over.held > r.capacity {
			s.overfull[r.no] = over
		}
	}
}

func (s *shop) anyOverfull() bool {
	return slices.ContainsFunc(s.overfull, func(o *overfull) bool { return o != nil })
}

// until is when so many of the jobs under way are done that the others hold no
// more than there is; never while too many of them have no place. The job that
// asks counts as not done.
func (b *board) until(o *overfull, asking *job) moment {
	type end struct {
		at moment
		n  int
	}
	var ends []end
	for _, j := range o.jobs {
		if b.on[j.no] && j != asking {
			ends = append(ends, end{b.doneAt(j), j.holds[o.of.id]})
		}
	}
	slices.SortFunc(ends, func(a, b end) int { return cmp.Compare(a.at, b.at) })
	held := o.held
	for _, e := range ends {
		if held -= e.n; held <= o.of.capacity {
			return e.at
		}
	}
	return never
}

// standsOver tells whether a job stands on an overfull resource.
func (s *shop) standsOver(j *job) bool {
	return slices.ContainsFunc(s.overfull, func(o *overfull) bool { return o != nil && j.holds[o.of.id] > 0 })
}

// outgrows tells whether a job will rest on more of an overfull resource than it holds now.
func (s *shop) outgrows(j *job) bool {
	return slices.ContainsFunc(s.overfull, func(o *overfull) bool {
		return o != nil && slices.ContainsFunc(j.steps, func(c *step) bool {
			return c.pin == nil && c.Rest.uses()[o.of.id] > j.holds[o.of.id]
		})
	})
}

func (b *board) warnAboutOverfull(a *Answer) {
	for _, o := range b.shop.overfull {
		if o == nil {
			continue
		}
		over := Overfull{Resource: o.of.id, By: o.held - o.of.capacity}
		until := "with no end planned"
		if at := b.until(o, nil); at < never {
			over.Until = new(b.time(at))
			until = "until " + over.Until.Format(time.RFC3339)
		}
		a.Overfull = append(a.Overfull, over)
		a.Warnings = append(a.Warnings, fmt.Sprintf("%s is overfull by %d (%d where %d fit) %s", o.of.id, over.By, o.held, o.of.capacity, until))
	}
}
