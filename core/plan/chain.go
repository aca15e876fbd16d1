package plan

import "time"

// placed is a step in its place, in seconds after From.
type placed struct {
	span
	by      string
	because *Reason
	until   moment
	// worked is when a pinned step that waited for its hand really went on.
	worked moment
}

// link is a step of a job that counts for the list order, with the steps that
// lie inside the rest after it. step and inside index the job's steps.
type link struct {
	step   int
	inside []int
}

// run is the placing of one job. wait holds, per link, the minutes the rest
// after it is to last at least: its floor or its usual length.
type run struct {
	p       *planner
	job     *jobState
	links   []link
	wait    []int
	placed  map[int]placed
	failure *Reason
	// stuck tells that the failure is for want of what something without a place holds.
	stuck bool
	undo  []held
	// began is the bound at which the first link found its place.
	began bound
}

type held struct {
	on     *timeline
	s      span
	amount int
}

func (r *run) hold(uses map[string]int, by string, s span) {
	for id, n := range uses {
		r.holdOne(r.p.timelines[id], n, s)
	}
	if by != "" {
		r.holdOne(r.p.timelines[by], 1, s)
	}
}

func (r *run) holdOne(t *timeline, n int, s span) {
	t.hold(s, n)
	r.undo = append(r.undo, held{t, s, n})
}

func (r *run) rollBack(to int) {
	for i := len(r.undo) - 1; i >= to; i-- {
		h := r.undo[i]
		h.on.hold(h.s, -h.amount)
	}
	r.undo = r.undo[:to]
}

// place puts link i and all after it as early as possible, not before low.
// When that fails it returns the earliest start of link i-1 that might do
// better (never: none would).
func (r *run) place(i int, low bound) (retry bound, ok bool) {
	if pin, pinned := r.job.pins[r.links[i].step]; pinned {
		return r.placePinned(i, pin, low)
	}
	step := &r.job.needs[r.links[i].step]
	if step.notBefore > low.at {
		low.moveTo(step.notBefore, heldBack, step.notBefore)
	}
	for {
		at, reached, found := r.p.nextStart(step, low, nil)
		if !found.ok {
			return r.fail(found.held, found.reason)
		}
		if retry, ok := r.reachable(i, at.start); !ok {
			return retry, false
		}
		mark := len(r.undo)
		r.holdBefore(i, at.start)
		r.hold(step.Uses, at.by, at.span)
		r.placed[r.links[i].step] = at
		next, ok := r.placeAfter(i, at.span)
		if ok {
			if i == 0 {
				r.began = reached
			}
			return bound{}, true
		}
		r.rollBack(mark)
		if next.at >= never {
			return bound{at: never}, false
		}
		low = reached
		low.moveTo(max(next.at, at.start+1), next.because, max(next.at, next.until))
	}
}

// fail notes why the job finds no place.
func (r *run) fail(stuck bool, why *Reason) (bound, bool) {
	r.stuck, r.failure = stuck, why
	return bound{at: never}, false
}

// placePinned leaves a pinned link where it is and goes on from it.
func (r *run) placePinned(i int, pin placed, low bound) (retry bound, ok bool) {
	if i > 0 && !r.pinned(i-1) {
		floor := r.end(i-1) + seconds(r.rest(i-1).min())
		if pin.start < floor {
			return r.fail(false, &Reason{Kind: PinnedTooSoon, Step: r.id(i), After: r.id(i - 1)})
		}
		if retry, ok := r.reachable(i, pin.start); !ok {
			return retry, false
		}
		r.holdBefore(i, pin.start)
	}
	r.placed[r.links[i].step] = pin
	next, ok := r.placeAfter(i, pin.span)
	if !ok && next.at < never {
		// A pinned step cannot move to let the next one start in time.
		return r.fail(false, next.because)
	}
	return next, ok
}

// reachable tells whether link i may start at start: within the ceiling of
// the rest before it, and with that rest's room free until then.
func (r *run) reachable(i int, start moment) (retry bound, ok bool) {
	if i == 0 || r.putDown(i) {
		return bound{}, true
	}
	end, length := r.end(i-1), r.placed[r.links[i-1].step].end-r.placed[r.links[i-1].step].start
	rest := r.rest(i - 1)
	if rest != nil && rest.Max != nil && !r.job.dropped[r.links[i-1].step] && start > end+seconds(*rest.Max) {
		return bound{at: start - seconds(*rest.Max) - length, because: &r.after(i - 1).ceiling}, false
	}
	if r.pinned(i - 1) {
		return bound{}, true
	}
	full, because := r.noRoom(i-1, span{end, start})
	if because == nil {
		return bound{}, true
	}
	if full.end >= never {
		return bound{at: never}, false
	}
	clear := full.end
	if rest.min() == 0 && r.wait[i-1] == 0 {
		clear = min(clear, start)
	}
	return bound{at: clear - length, because: because, until: clear}, false
}

// noRoom finds a stretch within s in which the rest after link i finds no
// room, and says for want of what.
func (r *run) noRoom(i int, s span) (full span, because *Reason) {
	rest := r.rest(i)
	for _, id := range sortedIDs(rest.uses()) {
		t, need := r.p.timelines[id], rest.Uses[id]
		if over := r.p.overfull[id]; over != nil {
			if need <= r.job.holds[id] {
				continue
			}
			if until := r.p.until(over, r.job.index); need > 0 && s.start < until && s.end > s.start {
				if until >= never {
					r.fail(true, &Reason{Kind: RestOverfull, After: r.id(i), Resource: id})
				}
				return span{s.start, until}, &over.reason
			}
		}
		stretch, found := t.blocked(s, need)
		if !found {
			continue
		}
		if stretch.end >= never {
			r.fail(need <= t.capacity, &Reason{Kind: NoRoomToRest, After: r.id(i), Resource: id})
		}
		return stretch, &t.busy
	}
	return span{}, nil
}

// holdBefore holds what the rest before link i needs until start.
func (r *run) holdBefore(i int, start moment) {
	if i > 0 && !r.putDown(i) {
		r.hold(r.rest(i-1).uses(), "", span{r.end(i - 1), start})
	}
}

// placeAfter places what follows link i, which now lies at s.
func (r *run) placeAfter(i int, s span) (retry bound, ok bool) {
	if i == len(r.links)-1 {
		return r.placeLastRest(i, s)
	}
	if r.putDown(i + 1) {
		// The rest was over when it was begun.
		if _, ok := r.placeInside(i, s.end, never); !ok {
			return bound{at: never}, false
		}
		return r.place(i+1, bound{at: max(0, r.job.release), because: putDown})
	}
	rest := r.rest(i)
	low := bound{at: s.end + seconds(r.wait[i]), because: r.restReason(i)}
	if r.pinned(i) {
		low.at = max(low.at, r.job.release)
		if r.job.dropped[r.links[i].step] {
			low = bound{at: max(s.end+seconds(rest.min()), r.job.release), because: &r.after(i).missed}
		}
	}
	insideEnd, ok := r.placeInside(i, s.end, never)
	if !ok {
		return bound{at: never}, false
	}
	if insideEnd > low.at {
		low = bound{at: insideEnd, because: &r.after(i).work}
	}
	return r.place(i+1, low)
}

func (r *run) restReason(i int) *Reason {
	switch after, wait := r.after(i), r.wait[i]; {
	case wait == 0:
		return &after.end
	case wait > r.rest(i).min():
		return &after.usual
	default:
		return &after.floor
	}
}

// placeLastRest holds the last rest, which lasts exactly its floor.
func (r *run) placeLastRest(i int, s span) (retry bound, ok bool) {
	over := span{s.end, s.end + seconds(r.rest(i).min())}
	if !r.pinned(i) {
		if full, because := r.noRoom(i, over); because != nil {
			if full.end >= never {
				return bound{at: never}, false
			}
			return bound{at: full.end - (s.end - s.start), because: because, until: full.end}, false
		}
		r.hold(r.rest(i).uses(), "", over)
	}
	for _, index := range r.links[i].inside {
		if step := r.job.Steps[index]; seconds(step.Minutes) > over.end-over.start && step.StartedAt == nil {
			return r.fail(false, &Reason{Kind: LongerThanRest, Step: step.ID, After: r.id(i)})
		}
	}
	if _, ok := r.placeInside(i, s.end, over.end); !ok {
		// Some later start may leave room for the inside steps: try from the next change on.
		if r.pinned(i) || len(r.links[i].inside) == 0 {
			return bound{at: never}, false
		}
		return bound{at: r.p.nextChange(s.start), because: &r.after(i).work}, false
	}
	return bound{}, true
}

// placeInside puts the steps inside the rest after link i, each as early as it
// can, and returns when the last of them ends. They must end by until.
func (r *run) placeInside(i int, from, until moment) (end moment, ok bool) {
	end = from
	for _, index := range r.links[i].inside {
		at, pinned := r.job.pins[index]
		step := r.job.Steps[index]
		if !pinned {
			var found verdict
			low := bound{at: max(from, r.job.release), because: &r.after(i).inside}
			at, _, found = r.p.nextStart(&r.job.needs[index], low, r.ownRest(i, until))
			if !found.ok || at.end > until {
				r.fail(found.held, &Reason{Kind: NoTimeInside, Step: step.ID, After: r.id(i)})
				return 0, false
			}
			r.hold(step.Uses, at.by, at.span)
		}
		r.placed[index] = at
		end = max(end, at.end)
	}
	return end, true
}

// ownRest is what the rest itself still holds beside an inside step: nothing
// more once it is held up to a known end.
func (r *run) ownRest(i int, until moment) map[string]int {
	if until < never || r.pinned(i) && r.pinned(i+1) {
		return nil
	}
	return r.rest(i).uses()
}

func (r *run) rest(i int) *Rest       { return r.job.Steps[r.links[i].step].Rest }
func (r *run) id(i int) string        { return r.job.Steps[r.links[i].step].ID }
func (r *run) after(i int) *afterStep { return &r.job.after[r.links[i].step] }
func (r *run) end(i int) moment       { return r.placed[r.links[i].step].end }
func (r *run) pinned(i int) bool      { _, ok := r.job.pins[r.links[i].step]; return ok }

// putDown tells that link i was begun and is to be gone on with.
func (r *run) putDown(i int) bool { return r.job.Steps[r.links[i].step].putDown() }

func seconds(minutes int) moment { return moment(minutes) * moment(time.Minute/time.Second) }
