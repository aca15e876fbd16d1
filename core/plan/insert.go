package plan

import "slices"

// insert puts a job where it is best, all others being where they are. It tells
// why where there is no place.
func (b *board) insert(j *job) (failed *trial) {
	b.holdOpen(j, -1)
	ok := b.find(j)
	b.holdOpen(j, 1)
	if !ok {
		return &b.trial
	}
	b.put(j, b.found)
	b.mendJoins(j)
	if !b.on[j.no] {
		return &b.trial
	}
	return nil
}

// unknown is the score of a way through that is still to be found.
var unknown = score{short: never / 4, done: never / 4}

// find looks for the best place of a job: by its lateness, then by its rests,
// then early with few set-ups.
func (b *board) find(j *job) (ok bool) {
	if b.brief && j.plain || j.odd || j.first == len(j.links) {
		return b.findBriefly(j)
	}
	usual, ok := b.earliest(j, j.usual)
	known := unknown
	if ok {
		b.found = append(b.found[:0], usual...)
		known = b.scoreIn(j, b.found)
		if known.done <= j.due {
			if !j.plain {
				b.findBetter(j, min(j.due, known.cost()), known)
			}
			return true
		}
	}
	floors, found := b.earliest(j, j.floors)
	if !found {
		return ok
	}
	soonest := j.doneIn(floors)
	if !ok {
		b.found = append(b.found[:0], floors...)
	}
	if !j.plain {
		if bare, ok := b.through(j, soonest, true, unknown); ok {
			soonest = j.doneIn(bare)
		}
	}
	limit := max(j.due, soonest)
	if known.done > limit {
		known = unknown
		if ok && j.plain {
			floors, _ = b.earliest(j, j.floors)
			b.found = append(b.found[:0], floors...)
		}
	}
	if known.done > limit || !j.plain {
		b.findBetter(j, limit, known)
	}
	return true
}

// findBetter takes the best way through that ends by limit and beats what is known.
func (b *board) findBetter(j *job, limit moment, known score) {
	if better, ok := b.through(j, limit, false, known); ok {
		b.found = append(b.found[:0], better...)
	}
}

// findBriefly looks for the place at which a job is done soonest, resting as
// usual where it is not late all the same.
func (b *board) findBriefly(j *job) (ok bool) {
	floors, ok := b.earliest(j, j.floors)
	if !ok {
		return false
	}
	strays := b.random != nil && !j.odd && j.first < len(j.links) && b.random.IntN(b.straying) == 0
	if strays {
		floors = b.stray(j, floors)
	}
	b.found = append(b.found[:0], floors...)
	if !strays && j.doneIn(b.found) <= j.due {
		if usual, ok := b.earliest(j, j.usual); ok && j.doneIn(usual) <= j.due {
			b.found = append(b.found[:0], usual...)
		}
	}
	if b.brief && (b.random == nil || b.random.IntN(b.straying) > 0) {
		b.tighten(j, b.found)
	}
	return true
}

const (
	// One in so many placings strays from what is best for the job alone, which
	// may be better for all: more often where there are few jobs.
	straying, strayingOfFew, few = 6, 2, 12
	// furthestStrayed is by how much a rest is then longer at most.
	furthestStrayed = 8 * hour
)

// stray places a job, whose earliest places are known, with some step of it
// later: by what another step takes, which may then go before it, or by chance.
func (b *board) stray(j *job, earliest []place) []place {
	r, first := b.random, j.steps[0].no
	c := j.links[j.first+r.IntN(len(j.links)-j.first)]
	by := b.shop.steps[r.IntN(len(b.shop.steps))].paid()
	if r.IntN(2) == 0 {
		by = moment(r.IntN(furthestStrayed/minute)) * minute
	}
	target := earliest[c.no-first].start + by
	b.rests = append(b.rests[:0], j.floors...)
	later := moment(0)
	if c.link == 0 || c.putDown() {
		later = target - j.release
	} else {
		b.rests[c.link-1] = target - earliest[j.links[c.link-1].no-first].end
	}
	b.later = later
	places, ok := b.earliest(j, b.rests)
	b.later = 0
	if !ok {
		places, _ = b.earliest(j, j.floors)
	}
	return places
}

func (j *job) doneIn(places []place) moment {
	last := j.links[len(j.links)-1]
	return places[last.no-j.steps[0].no].end + last.min
}

// scoreIn is what a job costs as it is placed.
func (b *board) scoreIn(j *job, places []place) (s score) {
	first := j.steps[0].no
	for k, c := range j.links[:len(j.links)-1] {
		if next := j.links[k+1]; !next.putDown() {
			s.short += max(0, c.ideal-(places[next.no-first].start-places[c.no-first].end))
		}
	}
	for i, c := range j.steps {
		if c.pin == nil && !places[i].joined {
			s.setup += c.setup
		}
		if c.pin == nil {
			s.starts += places[i].start
		}
	}
	s.done = j.doneIn(places)
	s.late = j.weight * float64(lateMinutes(s.done, j.due))
	return s
}

// mendJoins sees to it that what is joined still follows like work, now that a
// job lies on the board: where two of its own steps came between, the job pays
// its set-ups.
func (b *board) mendJoins(j *job) {
	if !b.shop.sittings {
		return
	}
	for _, c := range j.steps {
		if c.pin == nil && b.at[c.no].joined && !b.follows(c) {
			b.payAll(j)
			break
		}
	}
	for _, f := range b.followersOf(j) {
		if b.on[f.job.no] && b.at[f.no].joined && !b.follows(f) {
			b.rejoin(f)
		}
	}
}

// follows tells whether what a step is joined to is right before it.
func (b *board) follows(c *step) bool {
	at := &b.at[c.no]
	before := b.turnBefore(c, at.way.hand)
	return before != nil && before.kin == c.kin && b.at[before.no].end == at.tie
}

func (b *board) turnBefore(c *step, hand *resource) *step {
	turns := b.turns[hand.no]
	if i, found := slices.BinarySearchFunc(turns, c, b.before); found && i > 0 {
		return turns[i-1]
	}
	return nil
}

// followersOf are the steps of other jobs that come right after one of a job's
// on a hand, and are joined to what is before them.
func (b *board) followersOf(j *job) (followers []*step) {
	for _, c := range j.steps {
		if c.pin != nil {
			continue
		}
		for _, n := range b.at[c.no].way.needs {
			if !n.of.hand || n.apart {
				continue
			}
			turns := b.turns[n.of.no]
			i, found := slices.BinarySearchFunc(turns, c, b.before)
			if !found || i+1 == len(turns) {
				continue
			}
			f := turns[i+1]
			if at := &b.at[f.no]; f.pin == nil && at.joined && at.way.hand == n.of && f.job != j {
				followers = append(followers, f)
			}
		}
	}
	return followers
}

// payAll places a job anew with all its set-ups paid.
func (b *board) payAll(j *job) {
	b.take(j)
	places, ok := b.earliest(j, j.usual)
	if !ok || j.doneIn(places) > j.due {
		places, ok = b.earliest(j, j.floors)
	}
	if ok {
		b.put(j, places)
	}
}

// pull takes a job off the board and mends what was joined to it.
func (b *board) pull(j *job) {
	var followers []*step
	if b.shop.sittings {
		followers = b.followersOf(j)
	}
	b.take(j)
	for _, f := range followers {
		if b.on[f.job.no] && b.at[f.no].joined && !b.follows(f) {
			b.rejoin(f)
		}
	}
}

// rejoin lets a step whose like work is gone join what is now before it, or pay
// its set-up; where neither goes its job is taken off as well.
func (b *board) rejoin(f *step) {
	j := f.job
	was := b.places(j)
	places := slices.Clone(was)
	before := b.turnBefore(f, b.at[f.no].way.hand)
	b.take(j)
	at := &places[f.no-j.steps[0].no]
	if before != nil && before.kin == f.kin && before.job != j && b.at[before.no].end <= at.start {
		if s, ok := b.after(&b.at[before.no], at.way, at.start, at.start); ok {
			at.tie = s.tie
			b.put(j, places)
			return
		}
	}
	at.joined, at.tie, at.start = false, 0, at.start-f.setup
	if f.Inside == "" && at.start >= soonest(f, places, j.steps[0].no) && b.isFree(at) {
		b.put(j, places)
		return
	}
	b.put(j, was)
	b.pull(j)
}

// soonest is the earliest that the rests and the work before a step let it
// begin, its job being placed as places say, which begin with step first.
func soonest(c *step, places []place, first int) moment {
	j := c.job
	low := max(c.notBefore, j.release)
	if c.Inside != "" {
		return max(low, places[j.links[c.link].no-first].end)
	}
	if c.link == 0 || c.putDown() {
		return low
	}
	before := j.links[c.link-1]
	low = max(low, places[before.no-first].end+before.min)
	for _, in := range before.inside {
		low = max(low, places[in.no-first].end)
	}
	return low
}

// isFree tells whether all that a step takes is open and free where it lies.
func (b *board) isFree(at *place) bool {
	for i := range at.way.needs {
		n := &at.way.needs[i]
		if fits, _ := b.fit(n, at.start, at.end-at.start, n.of.capacity-n.n, at.start); fits != at.start {
			return false
		}
	}
	return true
}
