package plan

import (
	"cmp"
	"slices"
)

// allows tells whether a job that is off the board may lie as it is placed.
func (b *board) allows(j *job, places []place) bool {
	b.holdOpen(j, -1)
	defer b.holdOpen(j, 1)
	b.trial.b, b.trial.j = b, j
	first := j.steps[0].no
	for k := j.first; k < len(j.links); k++ {
		c := j.links[k]
		at := &places[c.no-first]
		if at.start < soonest(c, places, first) || !b.mayLie(c, at) {
			return false
		}
		if k > 0 && !c.putDown() {
			before := j.links[k-1]
			end := places[before.no-first].end
			if !before.dropped && at.start-end > before.max {
				return false
			}
			if _, because := b.trial.noRoom(before, span{end, at.start}); because != nil {
				return false
			}
		}
	}
	last := j.links[len(j.links)-1]
	end := places[last.no-first].end
	if _, because := b.trial.noRoom(last, span{end, end + last.min}); because != nil && last.pin == nil {
		return false
	}
	return b.allowsInside(j, places)
}

func (b *board) allowsInside(j *job, places []place) bool {
	first := j.steps[0].no
	for k, c := range j.links {
		from := places[c.no-first].end
		until := from + c.min
		if k+1 < len(j.links) {
			until = places[j.links[k+1].no-first].start
		}
		for i, in := range c.inside {
			if in.pin != nil {
				continue
			}
			at := &places[in.no-first]
			if at.start < max(from, j.release) || at.end > until || !b.mayLie(in, at) {
				return false
			}
			for _, other := range c.inside[:i] {
				if o := &places[other.no-first]; o.start < at.end && at.start < o.end {
					return false
				}
			}
		}
	}
	return true
}

// mayLie tells whether what a step takes is open and free where it lies, and
// whether what it is joined to is there.
func (b *board) mayLie(c *step, at *place) bool {
	if !at.joined {
		return at.end-at.start == at.way.paid && b.isFree(at)
	}
	like := b.lastBefore(at.way.hand, at.start)
	if like == nil || like.kin != c.kin || b.at[like.no].end != at.tie {
		return false
	}
	_, ok := b.after(&b.at[like.no], at.way, at.start, at.start)
	return ok
}

// lastBefore is the last step on a hand that has ended by a moment.
func (b *board) lastBefore(hand *resource, m moment) *step {
	turns := b.turns[hand.no]
	i, _ := slices.BinarySearchFunc(turns, m+1, func(c *step, m moment) int { return cmp.Compare(b.at[c.no].end, m) })
	if i == 0 {
		return nil
	}
	return turns[i-1]
}

// mostVerified is how often a plan is gone through for what no longer goes.
const mostVerified = 3

// verify takes off the board, and places anew, what may no longer lie as it does
// because something under way on an overfull resource is done later than it was.
// What then only lies where another waits for it in turn finds no place.
func (b *board) verify() {
	for round := 0; ; round++ {
		ok := true
		for _, j := range b.shop.jobs {
			if b.mayStay(j) {
				continue
			}
			b.pull(j)
			if round < mostVerified {
				b.insert(j)
			}
			ok = false
		}
		if ok {
			return
		}
	}
}

// mayStay tells whether a job may lie as it does.
func (b *board) mayStay(j *job) bool {
	if !b.on[j.no] || j.first == len(j.links) || j.odd {
		return true
	}
	places := b.places(j)
	b.take(j)
	fine := b.allows(j, places)
	b.put(j, places)
	return fine
}
