package plan

import (
	"fmt"
	"time"
)

// placed is a step in its place, in seconds after From.
type placed struct {
	span
	by      string
	because string
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
	failure string
	undo    []held
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

// bound is the earliest a step may start, and what makes it so.
type bound struct {
	at      moment
	because string
}

// place puts link i and all after it as early as possible, not before low.
// When that fails it returns the earliest start of link i-1 that might do
// better (never: none would).
func (r *run) place(i int, low bound) (retry bound, ok bool) {
	if pin, pinned := r.job.pins[r.links[i].step]; pinned {
		return r.placePinned(i, pin, low)
	}
	step := r.job.Steps[r.links[i].step]
	for {
		at, found := r.p.nextStart(step, low, nil)
		if !found.ok {
			r.failure = found.reason
			return bound{at: never}, false
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
			return bound{}, true
		}
		r.rollBack(mark)
		if next.at >= never {
			return bound{at: never}, false
		}
		low = bound{max(next.at, at.start+1), next.because}
	}
}

// placePinned leaves a pinned link where it is and goes on from it.
func (r *run) placePinned(i int, pin placed, low bound) (retry bound, ok bool) {
	if i > 0 && !r.pinned(i-1) {
		floor := r.end(i-1) + seconds(r.rest(i-1).min())
		if pin.start < floor {
			r.failure = fmt.Sprintf("step %s is pinned before the rest after step %s is over", r.id(i), r.id(i-1))
			return bound{at: never}, false
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
		r.failure = next.because
		return bound{at: never}, false
	}
	return next, ok
}

// reachable tells whether link i may start at start: within the ceiling of
// the rest before it, and with that rest's room free until then.
func (r *run) reachable(i int, start moment) (retry bound, ok bool) {
	if i == 0 {
		return bound{}, true
	}
	end, length := r.end(i-1), r.placed[r.links[i-1].step].end-r.placed[r.links[i-1].step].start
	rest := r.rest(i - 1)
	if rest != nil && rest.Max != nil && !r.job.missed[r.links[i-1].step] && start > end+seconds(*rest.Max) {
		return bound{start - seconds(*rest.Max) - length,
			fmt.Sprintf("step %s must start within %d min of the end of step %s", r.id(i), *rest.Max, r.id(i-1))}, false
	}
	if r.pinned(i - 1) {
		return bound{}, true
	}
	for _, id := range sortedIDs(rest.uses()) {
		stretch, found := r.p.timelines[id].blocked(span{end, start}, rest.Uses[id])
		if !found {
			continue
		}
		if stretch.end >= never {
			r.failure = fmt.Sprintf("the rest after step %s finds no room on %s", r.id(i-1), id)
			return bound{at: never}, false
		}
		clear := stretch.end
		if rest.min() == 0 && r.wait[i-1] == 0 {
			clear = min(clear, start)
		}
		return bound{clear - length, r.p.timelines[id].busy()}, false
	}
	return bound{}, true
}

// holdBefore holds what the rest before link i needs until start.
func (r *run) holdBefore(i int, start moment) {
	if i > 0 {
		r.hold(r.rest(i-1).uses(), "", span{r.end(i - 1), start})
	}
}

// placeAfter places what follows link i, which now lies at s.
func (r *run) placeAfter(i int, s span) (retry bound, ok bool) {
	if i == len(r.links)-1 {
		return r.placeLastRest(i, s)
	}
	rest := r.rest(i)
	low := bound{s.end + seconds(r.wait[i]), restReason(rest, r.wait[i], r.id(i))}
	if r.pinned(i) {
		low.at = max(low.at, r.job.release)
		if r.job.missed[r.links[i].step] {
			low = bound{max(s.end+seconds(rest.min()), r.job.release), "missed ceiling after " + r.id(i)}
		}
	}
	insideEnd, ok := r.placeInside(i, s.end, never)
	if !ok {
		return bound{at: never}, false
	}
	if insideEnd > low.at {
		low = bound{insideEnd, "steps inside the rest after " + r.id(i)}
	}
	return r.place(i+1, low)
}

func restReason(rest *Rest, wait int, id string) string {
	switch {
	case wait == 0:
		return "end of " + id
	case wait > rest.min():
		return "ideal rest after " + id
	}
	return "rest after " + id
}

// placeLastRest holds the last rest, which lasts exactly its floor.
func (r *run) placeLastRest(i int, s span) (retry bound, ok bool) {
	over := span{s.end, s.end + seconds(r.rest(i).min())}
	if !r.pinned(i) {
		for _, id := range sortedIDs(r.rest(i).uses()) {
			stretch, found := r.p.timelines[id].blocked(over, r.rest(i).Uses[id])
			if !found {
				continue
			}
			if stretch.end >= never {
				r.failure = fmt.Sprintf("the rest after step %s finds no room on %s", r.id(i), id)
				return bound{at: never}, false
			}
			return bound{stretch.end - (s.end - s.start), r.p.timelines[id].busy()}, false
		}
		r.hold(r.rest(i).uses(), "", over)
	}
	for _, index := range r.links[i].inside {
		if step := r.job.Steps[index]; seconds(step.Minutes) > over.end-over.start && step.StartedAt == nil {
			r.failure = fmt.Sprintf("step %s takes longer than the last rest, after step %s", step.ID, r.id(i))
			return bound{at: never}, false
		}
	}
	if _, ok := r.placeInside(i, s.end, over.end); !ok {
		// Some later start may leave room for the inside steps: try from the next change on.
		if r.pinned(i) || len(r.links[i].inside) == 0 {
			return bound{at: never}, false
		}
		return bound{r.p.nextChange(s.start), "steps inside the rest after " + r.id(i)}, false
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
			low := bound{max(from, r.job.release), "inside the rest after " + r.id(i)}
			at, found = r.p.nextStart(step, low, r.ownRest(i, until))
			if !found.ok || at.end > until {
				r.failure = fmt.Sprintf("step %s finds no time inside the rest after step %s", step.ID, r.id(i))
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

func (r *run) rest(i int) *Rest  { return r.job.Steps[r.links[i].step].Rest }
func (r *run) id(i int) string   { return r.job.Steps[r.links[i].step].ID }
func (r *run) end(i int) moment  { return r.placed[r.links[i].step].end }
func (r *run) pinned(i int) bool { _, ok := r.job.pins[r.links[i].step]; return ok }

func seconds(minutes int) moment { return moment(minutes) * moment(time.Minute/time.Second) }
