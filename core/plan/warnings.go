package plan

import "fmt"

// warnAboutPins lists what pinned steps break; they stay where they are all the same.
func (p *planner) warnAboutPins() {
	for _, j := range p.jobs {
		links := j.links()
		for k, l := range links {
			at, pinned := j.pins[l.step]
			if !pinned {
				continue
			}
			if k > 0 {
				p.warnAboutRest(j, links[k-1].step, l.step)
			}
			p.warnAboutUse(j, l.step, at)
			over, _ := j.restOfPin(links, k)
			for _, id := range sortedIDs(j.Steps[l.step].Rest.uses()) {
				if p.overfull[id] == nil && p.timelines[id].overfull(over) {
					p.warn("%s: the rest after step %s runs while %s is overfull", j.ID, j.Steps[l.step].ID, id)
				}
			}
			for _, i := range l.inside {
				if at, pinned := j.pins[i]; pinned {
					p.warnAboutUse(j, i, at)
				}
			}
		}
	}
}

func (p *planner) warnAboutRest(j *jobState, before, after int) {
	earlier, pinned := j.pins[before]
	rest := j.Steps[before].Rest
	if !pinned || rest == nil {
		return
	}
	rested := (j.pins[after].start - earlier.end) / 60
	switch {
	case rested < moment(rest.Min):
		p.warn("%s: step %s started %d min after step %s ended; the floor is %d min", j.ID, j.Steps[after].ID, rested, j.Steps[before].ID, rest.Min)
	case rest.Max != nil && rested > moment(*rest.Max):
		p.warn("%s: step %s started %d min after step %s ended; the ceiling is %d min", j.ID, j.Steps[after].ID, rested, j.Steps[before].ID, *rest.Max)
	}
}

func (p *planner) warnAboutUse(j *jobState, i int, at placed) {
	step := j.Steps[i]
	if j.Release != nil && step.StartedAt.Before(*j.Release) {
		p.warn("%s: step %s started before the release", j.ID, step.ID)
	}
	for _, id := range p.resourcesOf(step, at.by) {
		t := p.timelines[id]
		if t.nextOpen(at.start, at.end-at.start) != at.start {
			p.warn("%s: step %s runs outside the open hours of %s", j.ID, step.ID, id)
		}
		// The pin itself is already held, so nothing more needs to fit.
		if t.overfull(at.span) {
			p.warn("%s: step %s runs while %s is overfull", j.ID, step.ID, id)
		}
	}
}

func (t *timeline) overfull(s span) bool {
	for i, at := range t.at {
		ends := never
		if i+1 < len(t.at) {
			ends = t.at[i+1]
		}
		if at < s.end && ends > s.start && t.used[i] > t.capacity {
			return true
		}
	}
	return false
}

func (p *planner) warn(format string, args ...any) {
	p.warnings = append(p.warnings, fmt.Sprintf(format, args...))
}
