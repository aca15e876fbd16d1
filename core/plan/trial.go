package plan

import "slices"

// trial is the placing of one job, all others being where they are: as early as
// can be, every rest lasting at least what is asked for.
//
// Where nothing is joined this finds the earliest end there is. Floors, ceilings,
// hours and room are such that of two ways through, taking the earlier start of
// each step is a way through as well, so that there is one which is earliest in
// everything; starting from the earliest of each step and moving on only what
// must leads to it (Dechter, Meiri and Pearl 1991, on simple temporal problems).
type trial struct {
	b   *board
	j   *job
	at  []place // by the job's steps
	cut []moment
	// why the job finds no place, and whether that is for want of what something
	// without a place holds.
	failure *Reason
	stuck   bool
}

// retry is the earliest start of the step before that might do better.
type retry struct {
	at      moment
	because *Reason
}

var noRetry = retry{at: never}

// earliest looks for the earliest way through with the given rests, by link. The
// places stay those of the trial until the next.
func (b *board) earliest(j *job, rests []moment) (places []place, ok bool) {
	t := &b.trial
	t.b, t.j, t.failure, t.stuck = b, j, nil, false
	t.at = slices.Grow(t.at[:0], len(j.steps))[:len(j.steps)]
	t.cut = rests
	again, ok := t.place(0, j.release+b.later)
	if !ok && t.failure == nil {
		t.failure = again.because
	}
	return t.at, ok
}

// place puts link k and all after it as early as possible, not before low.
func (t *trial) place(k int, low moment) (again retry, ok bool) {
	c := t.j.links[k]
	if c.pin != nil {
		return t.placePinned(k, low)
	}
	low = max(low, c.notBefore)
	for low < never {
		at, ok := t.start(c, low, nil)
		if !ok {
			return noRetry, false
		}
		if again, ok := t.reachable(k, at.start); !ok {
			return again, false
		}
		t.at[c.no-t.first()] = at
		again, ok := t.placeAfter(k, at.span)
		if ok {
			return retry{}, true
		}
		if again.at >= never {
			return again, false
		}
		low = max(again.at, at.start+minute)
	}
	return noRetry, false
}

func (t *trial) first() int { return t.j.steps[0].no }

func (t *trial) end(c *step) moment { return t.at[c.no-t.first()].end }

// placePinned leaves a pinned link where it is and goes on from it.
func (t *trial) placePinned(k int, low moment) (retry, bool) {
	c := t.j.links[k]
	if k > 0 {
		if before := t.j.links[k-1]; before.pin == nil {
			if c.pin.start < t.end(before)+before.min {
				return t.fail(false, &Reason{Kind: PinnedTooSoon, Step: c.ID, After: before.ID})
			}
			if again, ok := t.reachable(k, c.pin.start); !ok {
				return again, false
			}
		}
	}
	t.at[c.no-t.first()] = *c.pin
	again, ok := t.placeAfter(k, c.pin.span)
	if !ok && again.at < never {
		// A pinned step cannot move to let the next one start in time.
		return t.fail(false, again.because)
	}
	return again, ok
}

// fail notes why the job finds no place.
func (t *trial) fail(stuck bool, why *Reason) (retry, bool) {
	t.stuck, t.failure = stuck, why
	return retry{at: never, because: why}, false
}

// start finds the earliest start of a step not before low, in whichever way it
// ends first; beside counts as held too while it runs.
func (t *trial) start(c *step, low moment, beside []need) (best place, found bool) {
	for i := range c.ways {
		w := &c.ways[i]
		if at, ok := t.startBy(c, w, low, beside); ok && (!found || at.end < best.end) {
			best, found = at, true
		}
	}
	return best, found
}

func (t *trial) startBy(c *step, w *way, at moment, beside []need) (place, bool) {
	for {
		from := at
		for i := range w.needs {
			n := &w.needs[i]
			fits, held := t.b.fit(n, at, w.paid, free(n, beside), never)
			if fits >= never {
				t.fail(held, t.whyNot(c, w, n, held, beside))
				return place{}, false
			}
			at = fits
		}
		if at == from {
			return place{span: span{at, at + w.paid}, way: w}, true
		}
	}
}

// free is how much of what a step needs may be held by others.
func free(n *need, beside []need) int {
	free := n.of.capacity - n.n
	for i := range beside {
		if beside[i].of == n.of && !n.apart {
			free -= beside[i].n
		}
	}
	return free
}

func (t *trial) whyNot(c *step, w *way, n *need, held bool, beside []need) *Reason {
	switch {
	case free(n, nil) < 0:
		return &Reason{Kind: TooMany, Step: c.ID, Resource: n.of.id, Units: n.n, Most: n.of.capacity}
	case held || free(n, beside) < 0:
		return &Reason{Kind: HeldForever, Step: c.ID, Resource: n.of.id}
	case n.of.open.longest() < w.paid:
		return &Reason{Kind: TooLong, Step: c.ID, Resource: n.of.id, Minutes: int(w.paid / 60), Most: int(n.of.open.longest() / 60)}
	}
	return &Reason{Kind: NoHoursLeft, Step: c.ID, Resource: n.of.id}
}

// reachable tells whether link k may start at start: within the ceiling of the
// rest before it, and with that rest's room free until then.
func (t *trial) reachable(k int, start moment) (retry, bool) {
	c := t.j.links[k]
	if k == 0 || c.putDown() {
		return retry{}, true
	}
	before := t.j.links[k-1]
	at := t.at[before.no-t.first()]
	end, length := at.end, at.end-at.start
	if !before.dropped && start-end > before.max {
		return retry{start - before.max - length, &before.after.ceiling}, false
	}
	full, because := t.noRoom(before, span{end, start})
	if because == nil {
		return retry{}, true
	}
	if before.pin != nil || full.end >= never {
		return t.fail(full.end >= never, &Reason{Kind: NoRoomToRest, After: before.ID, Resource: because.Resource})
	}
	clear := full.end
	if before.min == 0 && t.cut[k-1] == 0 {
		clear = min(clear, start)
	}
	return retry{clear - length, because}, false
}

// noRoom finds a stretch within s in which the rest after a step finds no room,
// and says for want of what. What a job under way holds already, it may hold.
func (t *trial) noRoom(c *step, s span) (full span, because *Reason) {
	for i := range c.room {
		n := &c.room[i]
		from := s
		if over := t.b.shop.overfull[n.of.no]; over != nil {
			switch until := t.b.until(over, t.j); {
			case n.n <= t.j.holds[n.of.id]:
				from.start = max(from.start, until)
			case s.start < until && s.end > s.start:
				if until >= never {
					t.fail(true, &Reason{Kind: RestOverfull, After: c.ID, Resource: n.of.id})
				}
				return span{s.start, until}, &over.reason
			}
		}
		if c.pin != nil {
			from.start = max(from.start, c.grace[i])
		}
		if from.end <= from.start {
			continue
		}
		stretch, found := t.b.profiles[n.of.no].over(from, n.of.capacity-n.n)
		if !found {
			continue
		}
		if stretch.end >= never {
			t.fail(n.n <= n.of.capacity, &Reason{Kind: NoRoomToRest, After: c.ID, Resource: n.of.id})
		}
		return stretch, &n.of.busy
	}
	return span{}, nil
}

// placeAfter places what follows link k, which now lies at s.
func (t *trial) placeAfter(k int, s span) (retry, bool) {
	c := t.j.links[k]
	if k == len(t.j.links)-1 {
		return t.placeLastRest(c, s)
	}
	next := t.j.links[k+1]
	insideEnd, ok := t.placeInside(c, s.end, never)
	if !ok {
		return noRetry, false
	}
	if next.putDown() {
		// The rest was over when it was begun.
		return t.place(k+1, t.j.release)
	}
	low := s.end + t.cut[k]
	if c.pin != nil {
		if c.dropped {
			low = s.end + c.min
		}
		low = max(low, t.j.release)
	}
	return t.place(k+1, max(low, insideEnd))
}

// placeLastRest holds the last rest, which lasts exactly its floor.
func (t *trial) placeLastRest(c *step, s span) (retry, bool) {
	over := span{s.end, s.end + c.min}
	if c.pin == nil {
		if full, because := t.noRoom(c, over); because != nil {
			if full.end >= never {
				return noRetry, false
			}
			return retry{full.end - (s.end - s.start), because}, false
		}
	}
	for _, in := range c.inside {
		if in.pin == nil && in.length > c.min {
			return t.fail(false, &Reason{Kind: LongerThanRest, Step: in.ID, After: c.ID})
		}
	}
	if _, ok := t.placeInside(c, s.end, over.end); !ok {
		if c.pin != nil {
			return noRetry, false
		}
		// Some later start may leave room for the inside steps: try from the next change on.
		return retry{t.b.nextChange(s.start), &c.after.work}, false
	}
	return retry{}, true
}

// placeInside puts the steps inside the rest after a link, each as early as it
// can, and returns when the last of them ends. They must end by until.
func (t *trial) placeInside(c *step, from, until moment) (end moment, ok bool) {
	end = from
	for i, in := range c.inside {
		if in.pin != nil {
			t.at[in.no-t.first()] = *in.pin
			end = max(end, in.pin.end)
			continue
		}
		low := max(from, t.j.release)
		for {
			at, found := t.start(in, low, c.room)
			if !found || at.end > until {
				t.fail(t.stuck && !found, &Reason{Kind: NoTimeInside, Step: in.ID, After: c.ID})
				return 0, false
			}
			low = t.clearOfOthers(c.inside[:i], at)
			if low <= at.start {
				t.at[in.no-t.first()] = at
				end = max(end, at.end)
				break
			}
		}
	}
	return end, true
}

// clearOfOthers is the end of a step, among those already inside a rest, that
// lies at the same time and takes something of the same.
func (t *trial) clearOfOthers(others []*step, at place) moment {
	clear := at.start
	for _, o := range others {
		p := t.at[o.no-t.first()]
		if o.pin != nil || p.start >= at.end || p.end <= at.start {
			continue
		}
		for _, n := range p.way.needs {
			if slices.ContainsFunc(at.way.needs, func(m need) bool { return m.of == n.of }) {
				clear = max(clear, p.end)
			}
		}
	}
	return clear
}

// nextChange returns the first moment after m at which any resource opens or is freed.
func (b *board) nextChange(m moment) moment {
	next := never
	for i := range b.profiles {
		if k := b.profiles[i].after(m); k < len(b.profiles[i].marks) {
			next = min(next, b.profiles[i].marks[k].at)
		}
		open := b.shop.resources[i].open
		if open == nil {
			continue
		}
		for _, o := range open.spans[open.of(m):] {
			if o.start > m {
				next = min(next, o.start)
				break
			}
		}
	}
	return next
}
