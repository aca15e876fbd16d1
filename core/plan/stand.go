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
	laid, left := b.layInOrder(standing)
	for _, j := range laid {
		b.put(j, b.lies(j))
	}
	for _, r := range b.shop.resources {
		b.makeRoom(r, laid)
	}
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
	b.slid = make([]bool, len(b.at))
	late := make([]bool, len(b.on))
	for _, s := range left {
		late[s.job.no] = late[s.job.no] || b.at[s.no].start-b.shop.moment(s.was.Start) >= slidBy
		b.slid[s.no] = late[s.job.no]
	}
	return laid
}

// slidBy is how much later a step stands that people do not find as they left it,
// nor what comes after it.
const slidBy = 15 * 60

// makeRoom takes off the board what is too much on a resource: of what rests
// there at a moment, what began to last.
func (b *board) makeRoom(r *resource, laid []*job) {
	if b.shop.overfull[r.no] != nil {
		return
	}
	for from := moment(0); from < never; {
		full, found := b.profiles[r.no].over(span{from, never}, r.capacity)
		if !found {
			return
		}
		j := b.lastToRest(r, full.start, laid)
		if j == nil {
			from = full.end // it is pins that fill it
			continue
		}
		b.pull(j)
	}
}

// lastToRest is the job whose rest on a resource began last, of those there at a moment.
func (b *board) lastToRest(r *resource, at moment, laid []*job) (last *job) {
	began := always
	for _, j := range laid {
		if !b.on[j.no] {
			continue
		}
		for k, c := range j.links {
			over, held := b.restOf(j, k)
			if held && over.start <= at && over.end > at && over.start > began && slices.ContainsFunc(c.room, func(n need) bool { return n.of == r }) {
				last, began = j, over.start
			}
		}
	}
	return last
}

// standingStep is a step with where it stood.
type standingStep struct {
	*step
	was PlannedStep
}

// layInOrder finds a place for each step of the jobs that stood whole, one after
// the other, by what their hands are free for alone, and tells where all of them stood.
func (b *board) layInOrder(standing *Answer) (laid []*job, steps []standingStep) {
	was := map[string]map[string]PlannedStep{}
	for _, s := range standing.Steps {
		if was[s.Job] == nil {
			was[s.Job] = map[string]PlannedStep{}
		}
		was[s.Job][s.Step] = s
	}
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
	l := layer{b: b, stood: map[int]PlannedStep{}, rests: map[*job]span{}, lost: map[*job]bool{}}
	for _, s := range steps {
		l.stood[s.no] = s.was
	}
	for _, j := range laid {
		l.b.holdOpen(j, -1)
		if j.first > 0 && !j.links[j.first].putDown() {
			before := j.links[j.first-1]
			l.rest(before, span{before.pin.end, max(before.pin.end+before.min, b.shop.moment(l.stood[j.links[j.first].no].Start))})
		}
	}
	for _, s := range steps {
		if !l.lost[s.job] {
			l.lay(s)
		}
	}
	for _, c := range l.done {
		b.holdStep(c, -1)
		b.leaveTurns(c)
	}
	for _, j := range laid {
		l.restOver(j)
		l.b.holdOpen(j, 1)
	}
	for _, h := range l.lasting {
		b.profiles[h.of.no].hold(h.s, -h.amount)
	}
	return slices.DeleteFunc(laid, func(j *job) bool { return l.lost[j] }), steps
}

// layer lays steps one after the other. The rest that a job is in holds its room
// until about when it will be over; what has been rested, until it was.
type layer struct {
	b       *board
	stood   map[int]PlannedStep // by step
	rests   map[*job]span
	lasting []held
	lost    map[*job]bool
	done    []*step
}

// lay finds a place for a step: on the hand that did it, not before it did.
func (l *layer) lay(s standingStep) {
	b, c := l.b, s.step
	low := max(soonest(c, b.at, 0), b.shop.moment(s.was.Start))
	for {
		at, ok := l.whereStood(s, low)
		if !ok {
			l.lost[c.job] = true
			return
		}
		b.at[c.no] = at
		if c.Inside != "" {
			break
		}
		over := l.restAfter(c)
		l.restOver(c.job)
		b.trial.b, b.trial.j = b, c.job
		full, because := b.trial.noRoom(c, over)
		if because == nil || full.end >= never || full.end-(at.end-at.start) <= at.start {
			if c.link > 0 && !c.putDown() {
				before := c.job.links[c.link-1]
				l.last(before, span{b.at[before.no].end, at.start})
			}
			l.rest(c, over)
			break
		}
		low = full.end - (at.end - at.start)
	}
	b.holdStep(c, 1)
	b.takeTurns(c)
	l.done = append(l.done, c)
}

// restAfter is about how long the rest after a step will be: as long as it was.
func (l *layer) restAfter(c *step) span {
	end := l.b.at[c.no].end
	if c.link == len(c.job.links)-1 {
		return span{end, end + c.min}
	}
	next := l.stood[c.job.links[c.link+1].no]
	return span{end, end + max(c.min, ceilSeconds(next.Start.Sub(l.stood[c.no].End)))}
}

// rest holds room for the rest a job is in.
func (l *layer) rest(c *step, over span) {
	l.rests[c.job] = over
	l.b.holdRoom(c, over, true, 1)
}

// restOver gives that room back.
func (l *layer) restOver(j *job) {
	over, known := l.rests[j]
	if !known {
		return
	}
	delete(l.rests, j)
	for _, c := range j.links {
		if l.b.at[c.no].end == over.start {
			l.b.holdRoom(c, over, true, -1)
			return
		}
	}
}

// last holds the room of a rest that is over.
func (l *layer) last(c *step, over span) {
	for _, n := range c.room {
		l.b.profiles[n.of.no].hold(over, n.n)
		l.lasting = append(l.lasting, held{n.of, over, n.n})
	}
}

// whereStood is where a step lies now, not before low.
func (l *layer) whereStood(s standingStep, low moment) (place, bool) {
	b, c := l.b, s.step
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
				if found, ok := b.after(at, w, max(low, at.end), never/2); ok {
					return place{span: span{found.from, found.from + w.length}, way: w, joined: true, tie: at.end}, true
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

// insertAsItStands is insert, with the steps of the coming day no sooner than
// they stand and on the same hands: what comes after them is placed anew, after
// that day, and they stay.
func (b *board) insertAsItStands(j *job) {
	if b.stood == nil || !b.stands[j.no] {
		b.insert(j)
		return
	}
	type bounds struct {
		notBefore moment
		ways      []way
	}
	was := make([]bounds, len(j.steps))
	for i, c := range j.steps {
		was[i] = bounds{c.notBefore, c.ways}
		stood := &b.stood[c.no]
		if c.pin != nil {
			continue
		}
		c.notBefore = max(c.notBefore, min(day, stood.start))
		if stood.start >= day {
			continue
		}
		if k := slices.IndexFunc(c.ways, func(w way) bool { return w.by == stood.by() }); k >= 0 {
			c.ways = c.ways[k : k+1]
		}
	}
	b.insert(j)
	for i, c := range j.steps {
		c.notBefore, c.ways = was[i].notBefore, was[i].ways
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
