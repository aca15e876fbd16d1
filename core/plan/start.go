package plan

import (
	"fmt"
	"maps"
	"slices"
)

// verdict says whether a start was found and, if not, why; held when what is
// missing is held by something that has no place yet.
type verdict struct {
	ok     bool
	held   bool
	reason string
}

// nextStart finds the earliest start not before low at which everything the
// step uses is open and free; beside counts as held too while it runs. The
// bound it returns lies at that start.
func (p *planner) nextStart(step Step, low bound, beside map[string]int) (placed, bound, verdict) {
	if len(step.OneOf) == 0 {
		return p.nextStartBy(step, "", low, beside)
	}
	best, bestBound, bestVerdict := p.nextStartBy(step, step.OneOf[0], low, beside)
	for _, by := range step.OneOf[1:] {
		at, b, v := p.nextStartBy(step, by, low, beside)
		if v.ok && (!bestVerdict.ok || at.start < best.start) {
			best, bestBound, bestVerdict = at, b, v
		}
	}
	return best, bestBound, bestVerdict
}

func (p *planner) nextStartBy(step Step, by string, at bound, beside map[string]int) (placed, bound, verdict) {
	length := seconds(step.Minutes)
	ids := p.resourcesOf(step, by)
	for {
		moved := false
		for _, id := range ids {
			t := p.timelines[id]
			need := step.Uses[id]
			if id == by {
				need++
			}
			if need == 0 {
				continue
			}
			if need > t.capacity {
				return placed{}, at, verdict{reason: fmt.Sprintf("step %s needs %d of %s, which has %d", step.ID, need, id, t.capacity)}
			}
			if open := t.nextOpen(at.at, length); open >= never {
				return placed{}, at, verdict{reason: closedReason(step, t)}
			} else if open > at.at {
				at.waited.closed(hoursReason(id, by), at.at, open)
				at.at, moved = open, true
			}
			stretch, found := t.blocked(span{at.at, at.at + length}, need+beside[id])
			if !found {
				continue
			}
			if stretch.end >= never {
				return placed{}, at, verdict{reason: fmt.Sprintf("step %s waits for %s, which is held with no end known", step.ID, id), held: true}
			}
			at.moveTo(stretch.end, t.busy(), stretch.end)
			moved = true
		}
		if clear, because := p.clearOf(step, at.at, length); because != "" {
			if clear >= never {
				return placed{}, at, verdict{reason: fmt.Sprintf("step %s waits for %s, which is held with no end known", step.ID, because), held: true}
			}
			at.moveTo(clear, "kept apart from "+because, clear)
			moved = true
		}
		if !moved {
			found := placed{span: span{at.at, at.at + length}, by: by}
			found.because, found.until = at.reason()
			return found, at, verdict{ok: true}
		}
	}
}

// clearOf finds the first moment at which something that the step must keep
// apart from is out of its way, and names it; empty when nothing is in its way.
func (p *planner) clearOf(step Step, start, length moment) (clear moment, of string) {
	for _, id := range sortedIDs(step.Apart) {
		t, gap := p.timelines[id], seconds(step.Apart[id])
		if stretch, busy := t.blocked(span{start - gap, start + length + gap}, t.capacity); busy {
			if stretch.end >= never {
				return never, id
			}
			return stretch.end + gap, id
		}
	}
	return 0, ""
}

func closedReason(step Step, t *timeline) string {
	longest := t.longestOpen()
	if longest < seconds(step.Minutes) {
		return fmt.Sprintf("step %s needs %d min of %s in one go; the longest open interval is %d min", step.ID, step.Minutes, t.id, longest/60)
	}
	return fmt.Sprintf("step %s finds no open time of %s left", step.ID, t.id)
}

func hoursReason(id, by string) string {
	if id == by {
		return id + "'s hours"
	}
	return "opening hours"
}

// sortedIDs gives map keys an order that does not change from run to run.
func sortedIDs(uses map[string]int) []string {
	return slices.Sorted(maps.Keys(uses))
}

// resourcesOf lists what a step uses when done by one resource.
func (p *planner) resourcesOf(step Step, by string) []string {
	ids := sortedIDs(step.Uses)
	if by != "" && !slices.Contains(ids, by) {
		ids = append(ids, by)
	}
	return ids
}

// nextChange returns the first moment after m at which any resource opens or is freed.
func (p *planner) nextChange(m moment) moment {
	next := never
	for _, t := range p.timelines {
		for _, at := range t.at {
			if at > m {
				next = min(next, at)
				break
			}
		}
		for _, s := range t.open {
			if s.start > m {
				next = min(next, s.start)
				break
			}
		}
	}
	return next
}
