package plan

import (
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
	// pins are the pinned steps by index, but for what was put down, whose
	// beginning is in putDownAt; dropped marks those after which the ceiling
	// cannot be met any more.
	pins      map[int]placed
	putDownAt map[int]moment
	dropped   map[int]bool
	// openEnded is what the rest after the last pinned step holds until the
	// next step is placed.
	openEnded []held
	// holds is what the rest after the last step that was begun uses.
	holds map[string]int
	// ceiling is that of the rest it is in; never when there is none.
	ceiling moment
	// left is the least time it still takes: hands and floors.
	left moment
	// pinsEnd is when a job whose steps are all pinned is done; never for others.
	pinsEnd moment
	// needs are the steps with what they take, after what is said of the rests after them.
	needs []needs
	after []afterStep
	// kind tells jobs apart that ask for other things: equal kinds go the same way.
	kind int
}

func (p *planner) moment(t time.Time) moment { return ceilSeconds(t.Sub(p.problem.From)) }

func (p *planner) newJob(index int, j Job) *jobState {
	s := &jobState{Job: j, index: index, kind: p.kinds[index], due: never, weight: 1, ceiling: never, pinsEnd: never,
		pins: map[int]placed{}, putDownAt: map[int]moment{}, dropped: map[int]bool{}}
	if j.Release != nil {
		s.release = max(0, p.moment(*j.Release))
	}
	if j.Due != nil {
		s.due = floorSeconds(j.Due.Sub(p.problem.From))
	}
	if j.Weight != nil {
		s.weight = *j.Weight
	}
	s.Steps = slices.Clone(j.Steps)
	for i, step := range j.Steps {
		if step.putDown() {
			s.putDownAt[i] = floorSeconds(step.StartedAt.Sub(p.problem.From))
			s.Steps[i].Minutes = *step.MinutesLeft
		}
		if step.Inside == "" && (step.StartedAt == nil || step.putDown()) {
			s.left += seconds(s.Steps[i].Minutes + step.Rest.min())
		}
	}
	for _, step := range s.Steps {
		s.needs, s.after = append(s.needs, p.needsOf(step)), append(s.after, reasonsAfter(step.ID))
	}
	links := s.links()
	for k := 1; k < len(links); k++ {
		before := s.Steps[links[k-1].step]
		if before.Rest != nil && before.Rest.Max != nil {
			s.after[links[k-1].step].ceiling = Reason{Kind: Ceiling, Step: s.Steps[links[k].step].ID, After: before.ID, Minutes: *before.Rest.Max}
		}
	}
	return s
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
