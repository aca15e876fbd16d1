package plan

import "slices"

// why is what makes a step start no sooner, everything else being where it is,
// and when that is over; never where it is nothing that ends.
func (b *board) why(c *step) (Reason, moment) {
	switch {
	case c.pin != nil && c.EndedAt != nil:
		return Reason{Kind: Done}, never
	case c.pin != nil:
		return Reason{Kind: UnderWay}, never
	}
	at := b.at[c.no]
	low := b.lowest(c)
	if at.joined {
		before := b.turnBefore(c, at.way.hand)
		return Reason{Kind: Together, Job: before.job.ID, Step: c.Setup.Kin}, never
	}
	b.holdRestBefore(c, -1)
	defer b.holdRestBefore(c, 1)
	for {
		b.holdStep(c, -1)
		found := b.soonestFrom(&at, &low)
		b.holdStep(c, 1)
		if found >= at.start {
			because, until := low.reason()
			return *because, until
		}
		because, until := b.holdsBack(c, found, &at)
		switch {
		case because == nil:
			if because, until := low.reason(); until < never && until >= at.start-60 {
				return *because, until
			}
			return Reason{Kind: Better}, never
		case until >= never:
			return *because, until
		}
		// So late that its rest begins when there is room.
		low.moveTo(max(until-(at.end-at.start), found+minute), because, until)
	}
}

// holdRestBefore holds, or gives back, what the rest before a step takes: were it
// begun sooner, that would be over.
func (b *board) holdRestBefore(c *step, sign int) {
	if c.Inside != "" || c.link == 0 {
		return
	}
	over, held := b.restOf(c.job, c.link-1)
	b.holdRoom(c.job.links[c.link-1], over, held, sign)
}

// lowest is the earliest that a step's own job lets it start, and why. A rest
// that was cut short in the plan counts at its floor.
func (b *board) lowest(c *step) bound {
	j := c.job
	low := bound{at: j.release, because: atRelease}
	at := b.at[c.no].start
	switch {
	case c.Inside != "":
		outer := j.links[c.link]
		low = bound{at: max(b.at[outer.no].end, j.release), because: &outer.after.inside}
	case c.putDown():
		low.because = putDown
	case c.link > 0:
		low = b.afterRest(j.links[c.link-1], at)
	}
	if c.notBefore > low.at {
		low.moveTo(c.notBefore, heldBack, c.notBefore)
	}
	return low
}

func (b *board) afterRest(before *step, start moment) bound {
	end := b.at[before.no].end
	low := bound{at: end + before.min, because: &before.after.floor}
	switch {
	case before.dropped:
		low.because = &before.after.missed
	case start >= end+before.ideal && before.ideal > before.min:
		low = bound{at: end + before.ideal, because: &before.after.usual}
	case before.min == 0:
		low.because = &before.after.end
	}
	if before.pin != nil && before.job.release > low.at {
		low = bound{at: before.job.release, because: atRelease}
	}
	for _, in := range before.inside {
		if over := b.at[in.no].end; over > low.at {
			low = bound{at: over, because: &before.after.work}
		}
	}
	return low
}

// soonestFrom is the first moment from a bound on at which all that a step takes
// is open and free for as long as it lasts; the bound notes what it waited for.
func (b *board) soonestFrom(at *place, low *bound) moment {
	length, begun := at.end-at.start, low.at
	for low.at < at.start {
		from := low.at
		for i := range at.way.needs {
			n := &at.way.needs[i]
			b.waitFor(n, at.way, length, begun, low)
			if low.at >= never {
				return never
			}
		}
		if low.at == from {
			break
		}
	}
	return low.at
}

// waitFor moves a bound, which began to wait at a moment, on to where a resource
// is open and has room.
func (b *board) waitFor(n *need, w *way, length, begun moment, low *bound) {
	t, p := n.of, &b.profiles[n.of.no]
	for {
		if !n.apart {
			if open := t.nextOpen(low.at, length); open > low.at {
				if t.nextOpen(begun, length) == open {
					// It was closed until then from the beginning, whatever else was in the way.
					low.waited.n = 0
				}
				low.waited.closed(t.closedTo(w.by), low.at, open)
				low.at = open
				if open >= never {
					return
				}
			}
		}
		full, found := p.over(span{low.at - n.gap, low.at + length + n.gap}, t.capacity-n.n)
		if !found {
			return
		}
		because := &t.busy
		if n.apart {
			because = &t.apart
		}
		if full.end >= never {
			low.at = never
			return
		}
		low.moveTo(full.end+n.gap, because, full.end+n.gap)
	}
}

// closedTo is why a step done by one resource waits for this one to open.
func (r *resource) closedTo(by *resource) *Reason {
	if r == by {
		return &r.hours
	}
	return &r.opening
}

// holdsBack is why a step does not start at a moment at which it could: a
// ceiling after it, no room to rest until the next, or like work it is done with.
func (b *board) holdsBack(c *step, from moment, at *place) (*Reason, moment) {
	j := c.job
	end := from + at.end - at.start
	if c.Inside == "" && c.link+1 < len(j.links) {
		next := j.links[c.link+1]
		if c.max < never && b.at[next.no].start-end > c.max {
			return &c.after.ceiling, never
		}
	}
	if c.Inside == "" {
		own, held := b.restOf(j, c.link)
		rest := span{end, own.end}
		// What follows as soon as the rest allows would move along.
		if length := own.end - own.start; length == c.min || length == c.ideal {
			rest.end = end + length
		}
		b.holdRoom(c, own, held, -1)
		b.trial.b, b.trial.j = b, j
		full, because := b.trial.noRoom(c, rest)
		b.holdRoom(c, own, held, 1)
		if because != nil {
			return because, full.end
		}
	}
	if f := b.joinedTo(c); f != nil {
		return &Reason{Kind: Together, Job: f.job.ID, Step: c.Setup.Kin}, never
	}
	return nil, never
}

// joinedTo is the step that is joined to one; nil when none is.
func (b *board) joinedTo(c *step) *step {
	hand := b.at[c.no].way.hand
	if hand == nil || !hand.hand {
		return nil
	}
	turns := b.turns[hand.no]
	i := slices.Index(turns, c)
	if i < 0 || i+1 == len(turns) || turns[i+1].pin != nil || !b.at[turns[i+1].no].joined {
		return nil
	}
	return turns[i+1]
}
