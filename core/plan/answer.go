package plan

import (
	"slices"
	"time"
)

func (p *planner) answer() Answer {
	a := Answer{Format: AnswerFormat, Steps: []PlannedStep{}, Jobs: []PlannedJob{}, Unplanned: []Unplanned{}, Warnings: p.warnings}
	given := p.freed()
	for _, j := range p.jobs {
		if len(j.dropped) > 0 {
			a.Dropped = append(a.Dropped, j.ID)
		}
		at, ok := p.done[j.index]
		if !ok {
			a.Unplanned = append(a.Unplanned, Unplanned{j.ID, *p.unplanned[j.index]})
			continue
		}
		for i, s := range j.Steps {
			step := PlannedStep{Job: j.ID, Step: s.ID, Start: p.time(at[i].start), End: p.time(at[i].end), By: at[i].by, Because: p.because(at[i], seconds(s.Apart[at[i].because.Resource]), given)}
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

// because is why a placed step starts no sooner. Where one other job had the
// resource until then, it is named.
func (p *planner) because(at placed, gap moment, freed freed) Reason {
	r := *at.because
	if at.until < never && (r.Kind == Busy || r.Kind == Full || r.Kind == KeptApart) {
		r.Job = freed[freeing{r.Resource, at.until - gap}]
	}
	return r
}

// freeing is a moment at which a resource is given back; freed maps it to the
// job that does so, and to nothing where several do.
type freeing struct {
	resource string
	at       moment
}

type freed map[freeing]string

func (f freed) note(uses map[string]int, by string, at moment, job string) {
	for id, n := range uses {
		if n > 0 {
			f.one(freeing{id, at}, job)
		}
	}
	if by != "" {
		f.one(freeing{by, at}, job)
	}
}

func (f freed) one(when freeing, job string) {
	if before, known := f[when]; known && before != job {
		job = ""
	}
	f[when] = job
}

// freed notes which job gives what back when.
func (p *planner) freed() freed {
	all := freed{}
	for _, j := range p.jobs {
		at, placed := p.done[j.index]
		if !placed {
			continue
		}
		for i, s := range j.Steps {
			all.note(s.Uses, at[i].by, at[i].end, j.ID)
		}
		links := j.links()
		for k, l := range links {
			rest := j.Steps[l.step].Rest
			if k+1 < len(links) {
				all.note(rest.uses(), "", at[links[k+1].step].start, j.ID)
			} else {
				all.note(rest.uses(), "", at[l.step].end+seconds(rest.min()), j.ID)
			}
		}
	}
	return all
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
