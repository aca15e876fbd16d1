package plan

import (
	"cmp"
	"math/rand/v2"
	"slices"
)

// board is a plan while it is made: which jobs lie on it, where, and what that
// holds. Jobs are put on and taken off whole.
type board struct {
	shop     *shop
	profiles []profile
	// turns are, for hands whose sittings count, the steps on them, one after the other.
	turns  [][]*step
	at     []place // by step
	on     []bool  // by job
	scores []score // by job
	total  score
	// changed are the jobs moved since the last settled state, as they lay then.
	// the boards that undo goes back to: profiles and turns whole, jobs as they lay.
	settled struct {
		profiles []profile
		turns    [][]*step
		total    score
	}
	// stood is where steps stood, and stands the jobs of which that is known. Those
	// that slid stand much later than they did before.
	stood   []place
	stands  []bool
	slid    []bool
	changed []change
	touched []bool
	noting  bool
	trial   trial
	passage passage
	found   []place
	// growing tells that jobs are only put on the board, so that fits, by resource
	// and length, hold: where there is no room yet there is none later.
	growing bool
	fits    []map[moment]firstFit
	// brief tells insert not to weigh rests, and random lets it stray.
	brief  bool
	random *rand.Rand
	// straying is in how many placings it strays once.
	straying int
	rests    []moment
	later    moment // by how much it then begins later
}

type change struct {
	job    *job
	was    bool // on the board
	places []place
	score  score
}

func newBoard(s *shop) *board {
	b := &board{shop: s, turns: make([][]*step, len(s.resources)), at: make([]place, len(s.steps)), on: make([]bool, len(s.jobs)), scores: make([]score, len(s.jobs)), touched: make([]bool, len(s.jobs)), fits: make([]map[moment]firstFit, len(s.resources))}
	b.profiles = make([]profile, len(s.fixed))
	for i := range s.fixed {
		s.fixed[i].copyTo(&b.profiles[i])
	}
	b.settled.profiles, b.settled.turns = make([]profile, len(s.resources)), make([][]*step, len(s.resources))
	for _, c := range s.steps {
		if c.pin != nil {
			b.at[c.no] = *c.pin
			b.takeTurns(c)
		}
	}
	for _, j := range s.jobs {
		b.holdOpen(j, 1)
		b.scores[j.no] = score{unplanned: 1}
		b.total.unplanned++
	}
	return b
}

// holdOpen holds, or gives back, what a job under way holds with no end known.
func (b *board) holdOpen(j *job, sign int) {
	if len(j.openEnded) > 0 {
		b.forget()
	}
	for _, h := range j.openEnded {
		b.profiles[h.of.no].hold(h.s, sign*h.amount)
	}
}

// doneAt is when a job on the board is done: when its last rest is over.
func (b *board) doneAt(j *job) moment {
	last := j.links[len(j.links)-1]
	return b.at[last.no].end + last.min
}

// holdJob holds, or gives back, all that a job takes beyond what is pinned.
func (b *board) holdJob(j *job, sign int) {
	for k, c := range j.links {
		b.holdStep(c, sign)
		for _, in := range c.inside {
			b.holdStep(in, sign)
		}
		over, held := b.restOf(j, k)
		b.holdRoom(c, over, held, sign)
	}
}

// holdRoom holds, or gives back, what the rest after a step takes, if it is not
// held by pins.
func (b *board) holdRoom(c *step, over span, held bool, sign int) {
	if held {
		for _, n := range c.room {
			b.profiles[n.of.no].hold(over, sign*n.n)
		}
	}
}

// restOf is the rest after link k; held tells that it is not fixed by pins.
func (b *board) restOf(j *job, k int) (over span, held bool) {
	c := j.links[k]
	end := b.at[c.no].end
	if k == len(j.links)-1 {
		return span{end, end + c.min}, c.pin == nil
	}
	next := j.links[k+1]
	return span{end, b.at[next.no].start}, !next.putDown() && (c.pin == nil || next.pin == nil)
}

func (b *board) holdStep(c *step, sign int) {
	if c.pin != nil {
		return
	}
	at := &b.at[c.no]
	for _, n := range at.way.needs {
		if n.apart {
			continue
		}
		over := at.span
		if at.joined && n.of == at.way.hand {
			over.start = at.tie
		}
		b.profiles[n.of.no].hold(over, sign*n.n)
	}
}

// put lays a job on the board as it is placed, whatever is in the way.
func (b *board) put(j *job, places []place) {
	b.note(j)
	for i, c := range j.steps {
		if c.pin == nil {
			b.at[c.no] = places[i]
			b.takeTurns(c)
		}
	}
	b.holdOpen(j, -1)
	b.holdJob(j, 1)
	b.on[j.no] = true
	b.rescore(j)
}

// take takes a job off the board, whatever was joined to it.
func (b *board) take(j *job) {
	b.forget()
	b.note(j)
	b.holdJob(j, -1)
	b.holdOpen(j, 1)
	for _, c := range j.steps {
		if c.pin == nil {
			b.leaveTurns(c)
		}
	}
	b.on[j.no] = false
	b.rescore(j)
}

// forget drops what is known of where there is no room.
func (b *board) forget() {
	if b.growing {
		clear(b.fits)
	}
}

// clear takes all jobs off the board.
func (b *board) clear() {
	for _, j := range b.shop.jobs {
		if b.on[j.no] {
			b.take(j)
		}
	}
}

// places are where a job's steps lie.
func (b *board) places(j *job) []place {
	if !b.on[j.no] {
		return nil
	}
	return b.lies(j)
}

// lies copies where the steps of a job were put last.
func (b *board) lies(j *job) []place {
	first := j.steps[0].no
	return slices.Clone(b.at[first : first+len(j.steps)])
}

// note remembers how a job lay, so that it can be put back.
func (b *board) note(j *job) {
	if b.noting && !b.touched[j.no] {
		b.touched[j.no] = true
		first := j.steps[0].no
		n := len(b.changed)
		if n < cap(b.changed) {
			b.changed = b.changed[:n+1]
		} else {
			b.changed = append(b.changed, change{})
		}
		c := &b.changed[n]
		c.job, c.was, c.score = j, b.on[j.no], b.scores[j.no]
		c.places = append(c.places[:0], b.at[first:first+len(j.steps)]...)
	}
}

// settle takes the board as it is for the state that undo goes back to.
func (b *board) settle() {
	for _, c := range b.changed {
		b.touched[c.job.no] = false
	}
	b.changed, b.noting = b.changed[:0], true
	for i := range b.profiles {
		b.profiles[i].copyTo(&b.settled.profiles[i])
		b.settled.turns[i] = append(b.settled.turns[i][:0], b.turns[i]...)
	}
	b.settled.total = b.total
}

// undo puts everything back as it was when the board was settled.
func (b *board) undo() {
	for i := range b.profiles {
		b.settled.profiles[i].copyTo(&b.profiles[i])
		b.turns[i] = append(b.turns[i][:0], b.settled.turns[i]...)
	}
	for _, c := range b.changed {
		j := c.job
		b.touched[j.no] = false
		if b.on[j.no] = c.was; c.was {
			copy(b.at[j.steps[0].no:], c.places)
		}
		b.scores[j.no] = c.score
	}
	b.changed, b.total = b.changed[:0], b.settled.total
}

// snapshot is where all jobs lie.
func (b *board) snapshot() [][]place {
	all := make([][]place, len(b.shop.jobs))
	for i, j := range b.shop.jobs {
		all[i] = b.places(j)
	}
	return all
}

// restore lays the jobs as they lay in a snapshot.
func (b *board) restore(all [][]place) {
	for i, j := range b.shop.jobs {
		if b.on[j.no] && !samePlaces(j, b.at, all[i]) {
			b.take(j)
		}
	}
	for i, j := range b.shop.jobs {
		if !b.on[j.no] && all[i] != nil {
			b.put(j, all[i])
		}
	}
}

func samePlaces(j *job, at []place, places []place) bool {
	if places == nil {
		return false
	}
	for i, c := range j.steps {
		if at[c.no] != places[i] {
			return false
		}
	}
	return true
}

// before orders steps on a hand: by end, then start, then as in the problem.
func (b *board) before(x, y *step) int {
	p, q := &b.at[x.no], &b.at[y.no]
	return cmp.Or(cmp.Compare(p.end, q.end), cmp.Compare(p.start, q.start), cmp.Compare(x.no, y.no))
}

func (b *board) takeTurns(c *step) {
	for _, n := range b.at[c.no].way.needs {
		if n.of.hand && !n.apart {
			turns := b.turns[n.of.no]
			i, _ := slices.BinarySearchFunc(turns, c, b.before)
			b.turns[n.of.no] = slices.Insert(turns, i, c)
		}
	}
}

func (b *board) leaveTurns(c *step) {
	for _, n := range b.at[c.no].way.needs {
		if n.of.hand && !n.apart {
			turns := b.turns[n.of.no]
			if i, found := slices.BinarySearchFunc(turns, c, b.before); found {
				b.turns[n.of.no] = slices.Delete(turns, i, i+1)
			}
		}
	}
}
