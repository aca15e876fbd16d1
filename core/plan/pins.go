package plan

import (
	"fmt"
	"slices"
)

// holdPins fixes what has been started. What ended is done; what is open goes
// on now, on one hand one after the other.
func (s *shop) holdPins() {
	var opens []*step
	for _, c := range s.steps {
		switch {
		case c.StartedAt == nil || c.putDown():
		case c.EndedAt == nil:
			// Who does it is settled once everything that ended is held.
			opens = append(opens, c)
		default:
			s.pin(c, place{span: span{c.startedAt(s), ceilSeconds(c.EndedAt.Sub(s.problem.From))}})
		}
	}
	slices.SortStableFunc(opens, func(a, b *step) int { return a.StartedAt.Compare(*b.StartedAt) })
	free := map[*resource]moment{}
	for _, c := range opens {
		start := c.startedAt(s)
		at := place{span: span{start, max(start+c.length, 0)}}
		at.way = s.whoDoes(c, at.span)
		at.end = max(start+at.way.length, 0)
		if hand := at.way.hand; hand != nil {
			if before, busy := free[hand]; busy && before > start {
				at.end, at.worked = max(before+at.way.length, 0), max(start, before)
			}
			free[hand] = at.end
		}
		s.pin(c, at)
	}
	for _, j := range s.jobs {
		for j.first < len(j.links) && j.links[j.first].pin != nil {
			j.first++
		}
		s.holdRests(j)
	}
}

func (c *step) startedAt(s *shop) moment { return floorSeconds(c.StartedAt.Sub(s.problem.From)) }

// pin keeps a started step where it is and holds what it uses. An open step
// that waited for its hand holds it only from then on.
func (s *shop) pin(c *step, at place) {
	if at.way == nil {
		at.way = s.whoDoes(c, at.span)
	}
	c.pin = &at
	over := at.span
	if at.worked > over.start {
		over.start = at.worked
	}
	for _, n := range at.way.needs {
		if !n.apart {
			s.fixed[n.of.no].hold(over, n.n)
		}
	}
}

// whoDoes is who does or did a pinned step: as told, or else the likeliest of
// those who can: the first who was free and at work, or else free, or else the first.
func (s *shop) whoDoes(c *step, over span) *way {
	if c.By != "" {
		for i := range c.ways {
			if by := c.ways[i].by; by != nil && by.id == c.By {
				return &c.ways[i]
			}
		}
		// By tells it of a step that anyone might do, too.
		return new(s.wayOf(c.Step, c.By))
	}
	best, bestRank := &c.ways[0], -1
	for i := range c.ways {
		by := c.ways[i].by
		if by == nil {
			break
		}
		rank := 0
		if _, busy := s.fixed[by.no].over(over, by.capacity-1); !busy {
			rank = 1
			if by.nextOpen(over.start, over.end-over.start) == over.start {
				rank = 2
			}
		}
		if rank > bestRank {
			best, bestRank = &c.ways[i], rank
		}
	}
	return best
}

// nextOpen is the first moment not before m at which it stays open for so long; never without one.
func (r *resource) nextOpen(m, length moment) moment {
	if r.open == nil {
		return m
	}
	for _, o := range r.open.spans[r.open.of(m):] {
		if start := max(m, o.start); start+length <= o.end {
			return start
		}
	}
	return never
}

// holdRests holds what the rests after a job's pinned steps use. A rest whose
// next step has not begun is held without end until that step is placed.
func (s *shop) holdRests(j *job) {
	for k, c := range j.links {
		if c.StartedAt != nil {
			j.holds = c.Rest.uses()
		}
		if c.pin == nil {
			continue
		}
		over, ends := j.restOfPin(k)
		for _, n := range c.room {
			if ends {
				s.fixed[n.of.no].hold(over, n.n)
			} else {
				j.openEnded = append(j.openEnded, held{n.of, over, n.n})
			}
		}
		if k == len(j.links)-1 {
			j.pinsEnd = over.end
		}
		if ends || c.max >= never {
			continue
		}
		j.ceiling = c.pin.end + c.max
		if s.ceilingLost(j, j.links[k+1], c.pin.end+c.min, j.ceiling) {
			j.ceiling, c.dropped = never, true
			s.warnings = append(s.warnings, lostInWords(j.ID, c.ID, *c.Rest.Max, c.pin.end+c.max < 0))
		}
	}
}

// ceilingLost tells whether a step can no longer begin by its ceiling: that is
// past, or no hours are open for it until then.
func (s *shop) ceilingLost(j *job, next *step, floor, ceiling moment) bool {
	if ceiling < 0 {
		return true
	}
	low := max(floor, j.release)
	return !slices.ContainsFunc(next.ways, func(w way) bool { return w.opens(w.length, low) <= ceiling })
}

// opens is the first moment not before low at which all that a step uses is open for its length.
func (w *way) opens(length, low moment) moment {
	for {
		at := low
		for _, n := range w.needs {
			if !n.apart {
				at = max(at, n.of.nextOpen(at, length))
			}
		}
		if at == low || at >= never {
			return at
		}
		low = at
	}
}

func lostInWords(job, step string, ceiling int, past bool) string {
	if past {
		return fmt.Sprintf("%s: the rest after step %s has passed its ceiling of %d min", job, step, ceiling)
	}
	return fmt.Sprintf("%s: no hours are open before the rest after step %s reaches its ceiling of %d min", job, step, ceiling)
}

// restOfPin is the rest after pinned link k, and whether its end is known.
func (j *job) restOfPin(k int) (over span, ends bool) {
	c := j.links[k]
	if k == len(j.links)-1 {
		return span{c.pin.end, c.pin.end + c.min}, true
	}
	next := j.links[k+1]
	switch {
	case next.pin != nil:
		return span{c.pin.end, next.pin.start}, true
	case next.StartedAt != nil:
		return span{c.pin.end, next.putDownAt}, true
	}
	return span{c.pin.end, never}, false
}

// graceUntil is until when the rest after a pinned step may overfill a resource:
// nothing stands still for what pins alone fill too much.
func (s *shop) graceUntil(n need) moment {
	until := moment(0)
	for until < never {
		stretch, found := s.fixed[n.of.no].over(span{until, until + 1}, n.of.capacity-n.n)
		if !found {
			break
		}
		until = stretch.end
	}
	return until
}
