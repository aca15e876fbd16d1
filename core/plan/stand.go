package plan

import (
	"cmp"
	"slices"
)

// stand lays the plan that stands on the board: every step on the same hand and
// in the same order as before, at the same time where that still goes, and else
// as soon after as it does. It tells which jobs it knew; those that no longer
// fit are left off the board.
func (b *board) stand(standing *Answer) (known []*job) {
	laid := b.layInOrder(standing)
	for _, j := range laid {
		b.put(j, b.lies(j))
	}
	// What can wait makes room first.
	slices.SortStableFunc(laid, func(x, y *job) int { return cmp.Compare(y.latestStart(), x.latestStart()) })
	for _, j := range laid {
		if !b.on[j.no] {
			continue
		}
		places := b.places(j)
		b.take(j)
		ok := b.allows(j, places)
		b.put(j, places)
		if !ok {
			b.pull(j)
		}
	}
	b.slideBack()
	return laid
}

// standingStep is a step with where it stood.
type standingStep struct {
	*step
	was PlannedStep
}

// layInOrder finds a place for each step of the jobs that stood whole, one after
// the other, by what their hands are free for alone.
func (b *board) layInOrder(standing *Answer) (laid []*job) {
	was := map[string]map[string]PlannedStep{}
	for _, s := range standing.Steps {
		if was[s.Job] == nil {
			was[s.Job] = map[string]PlannedStep{}
		}
		was[s.Job][s.Step] = s
	}
	var steps []standingStep
	for _, j := range b.shop.jobs {
		if j.first == len(j.links) || j.odd {
			continue
		}
		of := len(steps)
		for _, c := range j.steps {
			if c.pin != nil {
				continue
			}
			stood, known := was[j.ID][c.ID]
			if !known {
				steps = steps[:of]
				break
			}
			steps = append(steps, standingStep{c, stood})
		}
		if len(steps) > of {
			laid = append(laid, j)
		}
	}
	slices.SortStableFunc(steps, func(x, y standingStep) int {
		return cmp.Or(x.was.Start.Compare(y.was.Start), x.was.End.Compare(y.was.End), cmp.Compare(x.no, y.no))
	})
	lost := map[*job]bool{}
	var done []*step
	for _, s := range steps {
		if lost[s.job] {
			continue
		}
		at, ok := b.whereStood(s)
		if !ok {
			lost[s.job] = true
			continue
		}
		b.at[s.no] = at
		b.holdStep(s.step, 1)
		b.takeTurns(s.step)
		done = append(done, s.step)
	}
	for _, c := range done {
		b.holdStep(c, -1)
		b.leaveTurns(c)
	}
	return slices.DeleteFunc(laid, func(j *job) bool { return lost[j] })
}

// whereStood is where a step lies now: on the hand that did it, not before it did.
func (b *board) whereStood(s standingStep) (place, bool) {
	c := s.step
	low := max(soonest(c, b.at, 0), b.shop.moment(s.was.Start))
	b.trial.b, b.trial.j = b, c.job
	w := c.wayBy(s.was.By)
	if w == nil {
		return b.trial.start(c, low, nil)
	}
	if s.was.Joined && w.hand != nil {
		if turns := b.turns[w.hand.no]; len(turns) > 0 {
			like := turns[len(turns)-1]
			at := &b.at[like.no]
			if like.kin == c.kin {
				if found, ok := b.after(at, c, w, max(low, at.end), never/2); ok {
					return place{span: span{found.from, found.from + c.length}, way: w, joined: true, tie: at.end}, true
				}
			}
		}
	}
	return b.trial.startBy(c, w, low, nil)
}

// wayBy is the way in which somebody does a step; nil when they do not.
func (c *step) wayBy(id string) *way {
	for i := range c.ways {
		if by := c.ways[i].by; by == nil && id == "" || by != nil && by.id == id {
			return &c.ways[i]
		}
	}
	return nil
}

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
		return at.end-at.start == c.paid() && b.isFree(at)
	}
	like := b.lastBefore(at.way.hand, at.start)
	if like == nil || like.kin != c.kin || b.at[like.no].end != at.tie {
		return false
	}
	_, ok := b.after(&b.at[like.no], c, at.way, at.start, at.start)
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
func (b *board) verify() {
	for range mostVerified {
		ok := true
		for _, j := range b.shop.jobs {
			if !b.on[j.no] || j.first == len(j.links) || b.shop.standsOver(j) {
				continue
			}
			places := b.places(j)
			b.take(j)
			fine := j.odd || b.allows(j, places)
			b.put(j, places)
			if !fine {
				b.pull(j)
				b.insert(j)
				ok = false
			}
		}
		if ok {
			return
		}
	}
}

// slideBack lets steps begin as early as they can without passing others on
// their hands: what was put off for something that is gone comes back.
func (b *board) slideBack() {
	var steps []*step
	for _, j := range b.shop.jobs {
		if !b.on[j.no] {
			continue
		}
		for _, c := range j.links {
			if c.pin == nil && !b.at[c.no].joined && len(c.inside) == 0 && b.joinedTo(c) == nil {
				steps = append(steps, c)
			}
		}
	}
	slices.SortFunc(steps, func(x, y *step) int {
		return cmp.Or(cmp.Compare(b.at[x.no].start, b.at[y.no].start), cmp.Compare(x.no, y.no))
	})
	for _, c := range steps {
		b.slide(c)
	}
}

func (b *board) slide(c *step) {
	j := c.job
	places := b.places(j)
	first := j.steps[0].no
	at := &places[c.no-first]
	low := soonest(c, places, first)
	if c.link > 0 && !c.putDown() {
		before := j.links[c.link-1]
		low = max(low, b.at[before.no].end+min(before.ideal, at.start-b.at[before.no].end))
	}
	for _, n := range at.way.needs {
		if n.of.hand && !n.apart {
			if before := b.turnBefore(c, n.of); before != nil {
				low = max(low, b.at[before.no].end)
			}
		}
	}
	if low >= at.start {
		return
	}
	b.take(j)
	b.trial.b, b.trial.j = b, j
	if sooner, ok := b.trial.startBy(c, at.way, low, nil); ok && sooner.start < at.start {
		was := *at
		*at = sooner
		if !b.allows(j, places) {
			*at = was
		}
	}
	b.put(j, places)
}
