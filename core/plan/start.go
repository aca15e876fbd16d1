package plan

import (
	"maps"
	"slices"
)

// verdict says whether a start was found and, if not, why; held when what is
// missing is held by something that has no place yet.
type verdict struct {
	ok     bool
	held   bool
	reason *Reason
}

// nextStart finds the earliest start not before low at which everything the
// step uses is open and free; beside counts as held too while it runs. The
// bound it returns lies at that start.
func (p *planner) nextStart(step *needs, low bound, beside map[string]int) (placed, bound, verdict) {
	best, bestBound, bestVerdict := p.nextStartBy(step, 0, low, beside, never)
	for i := range step.ways[1:] {
		before := never
		if bestVerdict.ok {
			before = best.start
		}
		at, b, v := p.nextStartBy(step, i+1, low, beside, before)
		if v.ok {
			best, bestBound, bestVerdict = at, b, v
		}
	}
	return best, bestBound, bestVerdict
}

// nextStartBy is nextStart for one of the ways in which the step can be done;
// a start that is not before a moment is of no use.
func (p *planner) nextStartBy(step *needs, way int, at bound, beside map[string]int, before moment) (placed, bound, verdict) {
	length := seconds(step.Minutes)
	for {
		from := at.at
		for _, n := range step.ways[way].of {
			if n.amount > n.t.capacity {
				return placed{}, at, verdict{reason: &Reason{Kind: TooMany, Step: step.ID, Resource: n.t.id, Units: n.amount, Most: n.t.capacity}}
			}
			if v := n.t.fit(step, &at, length, n.amount+beside[n.t.id], n.hours); !v.ok {
				return placed{}, at, v
			}
		}
		if clear, of := p.clearOf(step.Apart, at.at, length); of != nil {
			if clear >= never {
				return placed{}, at, verdict{reason: &Reason{Kind: HeldForever, Step: step.ID, Resource: of.id}, held: true}
			}
			at.moveTo(clear, &of.apart, clear)
		}
		if at.at >= before {
			return placed{}, at, verdict{}
		}
		if at.at == from {
			found := placed{span: span{at.at, at.at + length}, by: step.ways[way].by}
			found.because, found.until = at.reason()
			return found, at, verdict{ok: true}
		}
	}
}

// fit moves a bound on to where the resource is open and has room for a step.
func (t *timeline) fit(step *needs, at *bound, length moment, amount int, hours *Reason) verdict {
	known, remembered := t.fits[length]
	remember := t.capacity == 1 && amount == 1 && (at.at <= known.from || !remembered && at.at <= 0)
	if remember && remembered && at.at < known.from {
		if known.busy {
			at.moveTo(known.from, &t.busy, known.from)
		} else {
			at.waited.closed(hours, at.at, known.from)
			at.at = known.from
		}
	}
	for {
		open := t.nextOpen(at.at, length)
		if open >= never {
			return verdict{reason: closedReason(step.Step, t)}
		}
		if open > at.at {
			at.waited.closed(hours, at.at, open)
			at.at = open
		}
		stretch, found := t.blocked(span{at.at, at.at + length}, amount)
		if !found {
			break
		}
		if stretch.end >= never {
			return verdict{reason: &Reason{Kind: HeldForever, Step: step.ID, Resource: t.id}, held: true}
		}
		at.moveTo(stretch.end, &t.busy, stretch.end)
		known.busy = true
	}
	if remember {
		t.fits[length] = firstFit{at.at, known.busy}
	}
	return verdict{ok: true}
}

// clearOf finds the first moment at which something that the step must keep
// apart from is out of its way, and that; nil when nothing is in its way.
func (p *planner) clearOf(apart map[string]int, start, length moment) (clear moment, of *timeline) {
	if len(apart) == 0 {
		return 0, nil
	}
	for _, id := range sortedIDs(apart) {
		t, gap := p.timelines[id], seconds(apart[id])
		if stretch, busy := t.blocked(span{start - gap, start + length + gap}, t.capacity); busy {
			if stretch.end >= never {
				return never, t
			}
			return stretch.end + gap, t
		}
	}
	return 0, nil
}

func closedReason(step Step, t *timeline) *Reason {
	longest := t.longestOpen()
	if longest < seconds(step.Minutes) {
		return &Reason{Kind: TooLong, Step: step.ID, Resource: t.id, Minutes: step.Minutes, Most: int(longest / 60)}
	}
	return &Reason{Kind: NoHoursLeft, Step: step.ID, Resource: t.id}
}

// closedTo is why a step done by one resource waits for this one to open.
func (t *timeline) closedTo(by string) *Reason {
	if t.id == by {
		return &t.hours
	}
	return &t.opening
}

// needs is a step with what it takes, in each of the ways in which it can be
// done: by one of several, or without a choice.
type needs struct {
	Step
	ways []way
	// notBefore holds it back; always when nothing does.
	notBefore moment
}

type way struct {
	by string
	of []need
}

type need struct {
	t      *timeline
	amount int
	hours  *Reason
}

// needsOf looks up what a step takes.
func (p *planner) needsOf(step Step) needs {
	n := needs{Step: step, notBefore: always}
	if step.NotBefore != nil {
		n.notBefore = p.moment(*step.NotBefore)
	}
	hands := step.OneOf
	if len(hands) == 0 {
		hands = []string{""}
	}
	for _, by := range hands {
		w := way{by: by}
		for _, id := range p.resourcesOf(step, by) {
			amount := step.Uses[id]
			if id == by {
				amount++
			}
			if amount > 0 {
				w.of = append(w.of, need{p.timelines[id], amount, p.timelines[id].closedTo(by)})
			}
		}
		n.ways = append(n.ways, w)
	}
	return n
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
