package plan

import (
	"fmt"
	"slices"
)

// holdPins fixes what has been started. What ended is done; what is open goes
// on now, on one hand one after the other.
func (p *planner) holdPins() {
	type open struct {
		job  *jobState
		step int
	}
	var opens []open
	for _, j := range p.jobs {
		for i, step := range j.Steps {
			if step.StartedAt == nil || step.putDown() {
				continue
			}
			start := floorSeconds(step.StartedAt.Sub(p.problem.From))
			if step.EndedAt == nil {
				// Who does it is settled once everything that ended is held.
				opens = append(opens, open{job: j, step: i})
				continue
			}
			at := placed{span: span{start, ceilSeconds(step.EndedAt.Sub(p.problem.From))}, because: isDone, until: never}
			p.pin(j, i, at)
		}
	}
	slices.SortStableFunc(opens, func(a, b open) int { return a.job.Steps[a.step].StartedAt.Compare(*b.job.Steps[b.step].StartedAt) })
	free := map[string]moment{}
	for _, o := range opens {
		step := o.job.Steps[o.step]
		start := floorSeconds(step.StartedAt.Sub(p.problem.From))
		at := placed{span: span{start, max(start+seconds(step.Minutes), 0)}, because: underWay, until: never}
		at.by = p.whoDoes(step, at.span)
		hand := p.hand(step, at.by)
		if before, busy := free[hand]; busy && hand != "" && before > start {
			at.end = max(before+seconds(step.Minutes), 0)
			at.worked = max(start, before)
		}
		free[hand] = at.end
		p.pin(o.job, o.step, at)
	}
	for _, j := range p.jobs {
		p.holdRests(j)
	}
}

// hand is the one who does a step that is done by who: by, or else the one
// resource among its uses that has hours and capacity 1; empty when there is
// none, or are several.
func (p *planner) hand(step Step, by string) string {
	if by != "" {
		return by
	}
	hand := ""
	for id, n := range step.Uses {
		if t := p.timelines[id]; n > 0 && t.open != nil && t.capacity == 1 {
			if hand != "" {
				return ""
			}
			hand = id
		}
	}
	return hand
}

// pin keeps a started step where it is and holds what it uses. An open step
// that waited for its hand holds it only from then on.
func (p *planner) pin(j *jobState, i int, at placed) {
	step := j.Steps[i]
	if at.by == "" {
		at.by = p.whoDoes(step, at.span)
	}
	j.pins[i] = at
	s := at.span
	if at.worked > s.start {
		s.start = at.worked
	}
	for id, n := range step.Uses {
		p.timelines[id].hold(s, n)
	}
	if at.by != "" {
		p.timelines[at.by].hold(s, 1)
	}
}

// whoDoes is who does or did a pinned step: as told, or else the likeliest of
// those who can: the first who was free and at work, or else free, or else the first.
func (p *planner) whoDoes(step Step, s span) string {
	if step.By != "" {
		return step.By
	}
	best, bestRank := "", -1
	for _, by := range step.OneOf {
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

// holdRests holds what the rests after a job's pinned steps use. A rest whose
// next step has not begun is held without end until that step is placed.
func (p *planner) holdRests(j *jobState) {
	links := j.links()
	for k, l := range links {
		if j.Steps[l.step].StartedAt != nil {
			j.holds = j.Steps[l.step].Rest.uses()
		}
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
		if k == len(links)-1 {
			j.pinsEnd = over.end
		}
		if ends || rest == nil || rest.Max == nil {
			continue
		}
		j.ceiling = at.end + seconds(*rest.Max)
		if p.ceilingLost(j, j.Steps[links[k+1].step], at.end+seconds(rest.Min), j.ceiling) {
			j.ceiling = never
			j.dropped[l.step] = true
			p.warnings = append(p.warnings, lostInWords(j.ID, j.Steps[l.step].ID, *rest.Max, at.end+seconds(*rest.Max) < 0))
		}
	}
}

// ceilingLost tells whether a step can no longer begin by its ceiling: that is
// past, or no hours are open for it until then.
func (p *planner) ceilingLost(j *jobState, next Step, floor, ceiling moment) bool {
	if ceiling < 0 {
		return true
	}
	low := max(floor, j.release)
	hands := next.OneOf
	if len(hands) == 0 {
		hands = []string{""}
	}
	return !slices.ContainsFunc(hands, func(by string) bool { return p.opens(next, by, low) <= ceiling })
}

func lostInWords(job, step string, ceiling int, past bool) string {
	if past {
		return fmt.Sprintf("%s: the rest after step %s has passed its ceiling of %d min", job, step, ceiling)
	}
	return fmt.Sprintf("%s: no hours are open before the rest after step %s reaches its ceiling of %d min", job, step, ceiling)
}

// opens is the first moment not before low at which all that a step uses is open for its length.
func (p *planner) opens(step Step, by string, low moment) moment {
	for {
		at := low
		for _, id := range p.resourcesOf(step, by) {
			if step.Uses[id] > 0 || id == by {
				at = max(at, p.timelines[id].nextOpen(at, seconds(step.Minutes)))
			}
		}
		if at == low || at >= never {
			return at
		}
		low = at
	}
}

// restOfPin is the rest after pinned link k, and whether its end is known.
func (j *jobState) restOfPin(links []link, k int) (over span, ends bool) {
	at := j.pins[links[k].step]
	if k == len(links)-1 {
		return span{at.end, at.end + seconds(j.Steps[links[k].step].Rest.min())}, true
	}
	next := links[k+1].step
	if begun, pinned := j.pins[next]; pinned {
		return span{at.end, begun.start}, true
	}
	if started := j.Steps[next].StartedAt; started != nil {
		return span{at.end, j.putDownAt[next]}, true
	}
	return span{at.end, never}, false
}
