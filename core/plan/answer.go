package plan

import (
	"slices"
	"time"
)

// answer is the plan on the board, with the reasons why; failed says why jobs
// have no place.
func (b *board) answer(failed []*Reason) Answer {
	a := Answer{Format: AnswerFormat, Steps: []PlannedStep{}, Jobs: []PlannedJob{}, Unplanned: []Unplanned{}, Warnings: slices.Clone(b.shop.warnings)}
	given := b.freed()
	for _, j := range b.shop.jobs {
		if slices.ContainsFunc(j.links, func(c *step) bool { return c.dropped }) {
			a.Dropped = append(a.Dropped, j.ID)
		}
		if !b.on[j.no] {
			a.Unplanned = append(a.Unplanned, Unplanned{j.ID, *failed[j.no]})
			continue
		}
		for _, c := range j.steps {
			a.Steps = append(a.Steps, b.planned(c, given))
		}
		done := b.doneAt(j)
		a.Jobs = append(a.Jobs, PlannedJob{j.ID, b.time(done), lateMinutes(done, j.due)})
	}
	a.Objective = b.objective()
	a.Warnings = append(a.Warnings, b.warnAboutPins()...)
	b.warnAboutOverfull(&a)
	slices.SortStableFunc(a.Steps, func(x, y PlannedStep) int { return x.Start.Compare(y.Start) })
	return a
}

func (b *board) planned(c *step, given freed) PlannedStep {
	at := &b.at[c.no]
	p := PlannedStep{Job: c.job.ID, Step: c.ID, Start: b.time(at.start), End: b.time(at.end), Joined: at.joined}
	if by := at.by(); by != nil {
		p.By = by.id
	}
	why, until := b.why(c)
	if until < never {
		p.Until = b.time(until)
		if why.Kind == Busy || why.Kind == Full || why.Kind == KeptApart {
			why.Job = given[freeing{why.Resource, until - seconds(c.Apart[why.Resource])*keptApart(why)}]
		}
	}
	if why.Kind == KeptApart {
		why.Minutes = c.Apart[why.Resource]
	}
	p.Because = why
	from := b.shop.problem.From.Location()
	if c.pin != nil {
		p.Start = c.StartedAt.In(from)
		if c.EndedAt != nil {
			p.End = c.EndedAt.In(from)
		}
	}
	return p
}

// keptApart is 1 for what waits for a while after a resource is given back, else 0.
func keptApart(r Reason) moment {
	if r.Kind == KeptApart {
		return 1
	}
	return 0
}

func (b *board) objective() (o Objective) {
	setup := moment(0)
	for _, j := range b.shop.jobs {
		if !b.on[j.no] {
			continue
		}
		s := b.scores[j.no]
		o.WeightedLateMinutes += s.late
		o.RestShortfallMinutes += int(s.short / 60)
		o.CompletionMinutes += int(s.done / 60)
		setup += s.setup
	}
	if b.shop.sittings {
		o.SetupMinutes = new(int(setup / 60))
	}
	return o
}

// freeing is a moment at which a resource is given back; freed maps it to the
// job that does so, and to nothing where several do.
type freeing struct {
	resource string
	at       moment
}

type freed map[freeing]string

func (f freed) note(needs []need, at moment, job string) {
	for _, n := range needs {
		if n.apart {
			continue
		}
		when := freeing{n.of.id, at}
		if before, known := f[when]; known && before != job {
			job = ""
		}
		f[when] = job
	}
}

// freed notes which job gives what back when.
func (b *board) freed() freed {
	all := freed{}
	for _, j := range b.shop.jobs {
		if !b.on[j.no] {
			continue
		}
		for _, c := range j.steps {
			all.note(b.at[c.no].way.needs, b.at[c.no].end, j.ID)
		}
		for k, c := range j.links {
			over, _ := b.restOf(j, k)
			all.note(c.room, over.end, j.ID)
		}
	}
	return all
}

func (b *board) time(m moment) time.Time {
	return b.shop.problem.From.Add(time.Duration(m) * time.Second)
}
