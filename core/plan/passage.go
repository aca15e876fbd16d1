package plan

import (
	"cmp"
	"slices"
)

// passage is the best way through for one job, all others being where they are:
// by a dynamic programme over its steps. Where each step may end, and at what
// cost, is kept as pieces: stretches of time over which the minutes that rests
// fell short so far begin at a value, go down by one each minute for a while,
// and stay. A rest turns a piece into one of the same form, as the sum of two
// convex functions is; hours, ceilings and room only cut it (the forward
// recursion of Baptiste and Sadykov for one machine, with time windows).
type passage struct {
	b     *board
	j     *job
	limit moment // by which the job must be done
	// sooner is when the earliest way through begins with all set-ups paid.
	sooner moment
	bare   bool  // only the end counts: rests are not weighed
	known  score // a way through that must be beaten; never where there is none
	// remaining is, by link, the least time from its end to that of the job.
	remaining []moment
	stages    [][]piece
	// order and sorted are where a stage is put in order.
	order  []int
	sorted []piece
	// waiting are ends after which the job may wait as long as it likes.
	waiting []*piece
	starts  []starts
	// lastAt is, by start, the piece kept last; -1 where there is none.
	lastAt []int
	best   goal
}

// piece is a stretch of ends of a step that cost the same way to reach.
type piece struct {
	from, to moment // the ends
	short    moment // at from
	falls    moment // for so long, by a second each
	setup    moment // paid so far
	starts
	// How it came from the piece before: over which of its ends, and how much
	// later at least, or not before when.
	before     int
	ends       span
	rest       moment
	notBefore  moment
	mostRested moment
}

// starts are moments at which a step may start in one way.
type starts struct {
	from, to moment
	length   moment
	way      *way
	joined   bool
	tie      moment
}

// goal is where the best way through ends.
type goal struct {
	piece int
	end   moment
	short moment
	cost  moment
	found bool
}

// longestSooner is how much sooner than with all set-ups paid a way through may begin.
const longestSooner = 3 * day

// mostPieces bounds a stage; past it the way found need not be the best.
const mostPieces = 5000

// through finds the best way through that ends by limit and beats what is
// known. The places stay those of the passage until the next.
func (b *board) through(j *job, limit moment, bare bool, known score) (places []place, ok bool) {
	g := &b.passage
	g.b, g.j, g.limit, g.bare, g.known, g.best = b, j, limit, bare, known, goal{}
	g.sooner = b.found[j.links[j.first].no-j.steps[0].no].start
	b.trial.b, b.trial.j = b, j
	b.trial.at = slices.Grow(b.trial.at[:0], len(j.steps))[:len(j.steps)]
	g.prepare()
	for k := j.first; k < len(j.links); k++ {
		if !g.stage(k) {
			return nil, false
		}
	}
	g.finish()
	if !g.best.found {
		return nil, false
	}
	return g.back(), true
}

func (g *passage) prepare() {
	n := len(g.j.links)
	g.remaining = slices.Grow(g.remaining[:0], n)[:n]
	left := moment(0)
	for k := n - 1; k >= 0; k-- {
		left += g.j.links[k].min
		g.remaining[k] = left
		left += g.j.links[k].length
	}
	for len(g.stages) < n {
		g.stages = append(g.stages, nil)
	}
}

// ideal is the rest after a step that costs nothing.
func (g *passage) ideal(c *step) moment {
	if g.bare {
		return c.min
	}
	return c.ideal
}

// stage finds the ends of link k, from those of the one before.
func (g *passage) stage(k int) bool {
	c := g.j.links[k]
	g.stages[k] = g.stages[k][:0]
	latest := g.limit - g.remaining[k] - c.length
	if k == g.j.first {
		g.first(k, latest)
		return len(g.stages[k]) > 0
	}
	before := g.stages[k-1]
	earliest := never
	for i := range before {
		earliest = min(earliest, before[i].from)
	}
	g.findStarts(c, max(earliest+g.j.links[k-1].min, c.notBefore), latest)
	g.waiting = g.waiting[:0]
	for i := range before {
		if p := &before[i]; !g.outwaited(p) {
			g.onward(k, i, p, latest)
		}
	}
	g.inOrder(k)
	return len(g.stages[k]) > 0
}

// inOrder sorts the ends of a link by when they begin. Pieces are large, so that
// their places are sorted, and each is moved once; those that begin together now
// stand side by side, and what is covered goes.
func (g *passage) inOrder(k int) {
	stage := g.stages[k]
	if slices.IsSortedFunc(stage, func(x, y piece) int { return cmp.Compare(x.from, y.from) }) {
		return
	}
	g.order = g.order[:0]
	for i := range stage {
		g.order = append(g.order, i)
	}
	slices.SortFunc(g.order, func(x, y int) int {
		return cmp.Or(cmp.Compare(stage[x].from, stage[y].from), cmp.Compare(x, y))
	})
	g.sorted = g.sorted[:0]
	for _, from := range g.order {
		if p := &stage[from]; !covered(g.sorted, p) {
			g.sorted = append(g.sorted, *p)
		}
	}
	g.stages[k], g.sorted = g.sorted, stage
}

// outwaited tells that an earlier end, after which the job may wait as long as it
// likes, leads wherever this one does for no more.
func (g *passage) outwaited(p *piece) bool {
	return slices.ContainsFunc(g.waiting, func(w *piece) bool {
		return w.from+w.falls <= p.from && w.short-w.falls <= p.short-p.falls && w.setup <= p.setup
	})
}

// first begins with what is done, if anything is.
func (g *passage) first(k int, latest moment) {
	c := g.j.links[k]
	low := max(g.j.release, c.notBefore)
	if k == 0 || c.putDown() {
		// Joined it is shorter, and may find room sooner than it did paid.
		g.findStarts(c, max(low, g.sooner-longestSooner), latest)
		for i := range g.starts {
			s := &g.starts[i]
			g.add(k, i, piece{from: s.from + s.length, to: s.to + s.length, starts: *s, before: -1})
		}
		g.inOrder(k)
		return
	}
	done := g.j.links[k-1]
	end := done.pin.end
	g.findStarts(c, max(low, end+done.min), latest)
	source := piece{from: end, to: end, before: -1}
	g.onward(k, -1, &source, latest)
	g.inOrder(k)
}

// onward follows a piece of the link before through its rest to link k.
func (g *passage) onward(k, index int, p *piece, latest moment) {
	c := g.j.links[k-1]
	if c.min == 0 && len(c.room) > 0 && len(c.inside) == 0 {
		g.emit(k, index, p, p.span(), 0, always, 0, latest)
	}
	for at := p.from; at <= p.to; {
		full, because := g.b.trial.noRoom(c, span{at, max(latest, at)})
		if because == nil {
			if at == p.from && c.max >= never && len(c.inside) == 0 {
				g.waiting = append(g.waiting, p)
			}
			g.insides(k, index, p, span{at, p.to}, never, latest)
			return
		}
		if full.start > at {
			g.insides(k, index, p, span{at, min(p.to, full.start)}, full.start, latest)
		}
		if full.end >= never || c.pin != nil {
			return
		}
		at = full.end
	}
}

func (p *piece) span() span { return span{p.from, p.to} }

// mostInsides bounds over how many stretches the work inside a rest is followed.
const mostInsides = 40

// insides parts the ends of a step by where the work inside its rest then lies.
func (g *passage) insides(k, index int, p *piece, ends span, roomUntil, latest moment) {
	c := g.j.links[k-1]
	latest = min(latest, roomUntil)
	most := c.max
	if c.dropped {
		most = never
	}
	if len(c.inside) == 0 {
		g.emit(k, index, p, ends, c.min, always, most, latest)
		return
	}
	for range mostInsides {
		over, ok := g.b.trial.placeInside(c, ends.start, never)
		if !ok {
			return
		}
		begins, work := over, moment(0)
		for _, in := range c.inside {
			at := g.b.trial.at[in.no-g.b.trial.first()]
			begins, work = min(begins, at.start), work+at.end-at.start
		}
		same, rest, notBefore := min(ends.end, max(begins, ends.start)), c.min, over
		if over == ends.start+work {
			// All of it follows at once, and goes along as far as there is room.
			if slack := g.slack(c); slack > 0 {
				same, rest, notBefore = min(ends.end, ends.start+slack), max(c.min, work), always
			}
		}
		g.emit(k, index, p, span{ends.start, same}, rest, notBefore, most, latest)
		if ends.start = same + minute; ends.start > ends.end {
			return
		}
	}
}

// slack is how much later all work inside a rest could lie.
func (g *passage) slack(c *step) moment {
	slack := never
	for _, in := range c.inside {
		at := &g.b.trial.at[in.no-g.b.trial.first()]
		if in.pin != nil || at.way == nil {
			return 0
		}
		for i := range at.way.needs {
			n := &at.way.needs[i]
			slack = min(slack, g.b.freeUntil(n, at.start, never/2)-n.gap-at.end)
		}
	}
	return slack
}

// emit adds the ends of link k that follow from ends of the link before: its
// rest lasts from rest to most, and link k starts not before a moment.
func (g *passage) emit(k, index int, p *piece, ends span, rest, notBefore, most, latest moment) {
	c := g.j.links[k-1]
	skipped := min(ends.start-p.from, p.falls)
	beyond := max(0, g.ideal(c)-rest)
	short, falls := p.short-skipped+beyond, min(p.falls-skipped, ends.end-ends.start)+beyond
	if rest > most {
		return
	}
	low, high := ends.start+rest, latest
	if most < never {
		high = min(high, ends.end+most)
	}
	for i := range g.starts {
		s := &g.starts[i]
		from, to := max(low, notBefore, s.from, g.releaseAfter(c)), min(high, s.to)
		if s.from > high {
			return
		}
		if from > to {
			continue
		}
		gone := min(from-low, falls)
		next := piece{from: from + s.length, to: to + s.length, short: short - gone, falls: falls - gone, setup: p.setup, starts: *s,
			before: index, ends: ends, rest: rest, notBefore: notBefore, mostRested: most}
		g.add(k, i, next)
	}
}

// releaseAfter holds back what follows a step that was done before the job's release.
func (g *passage) releaseAfter(c *step) moment {
	if c.pin != nil {
		return g.j.release
	}
	return always
}

// add keeps a piece, by one of the starts, unless another is as good wherever it reaches, or it cannot
// beat what is known.
func (g *passage) add(k, start int, p piece) {
	if !p.joined && !g.bare {
		p.setup += g.j.links[k].setup
	}
	p.falls = min(p.falls, p.to-p.from)
	least := p.short - p.falls
	if least > g.known.short || least == g.known.short && p.from+p.falls+g.remaining[k]+setupWeight*p.setup >= g.known.cost() {
		return
	}
	stage := g.stages[k]
	if len(stage) >= mostPieces {
		return
	}
	if last := g.lastAt[start]; last >= 0 && stage[last].covers(&p) || covered(stage, &p) {
		return
	}
	g.lastAt[start] = len(stage)
	g.stages[k] = append(stage, p)
}

// mostCompared is with how many of the pieces found last one is compared.
const mostCompared = 12

// covered tells that one of the pieces found last is as good as another wherever that reaches.
func covered(by []piece, p *piece) bool {
	for i := len(by) - 1; i >= max(0, len(by)-mostCompared); i-- {
		if by[i].covers(p) {
			return true
		}
	}
	return false
}

// covers tells that whatever follows from a piece follows from this one for no more.
func (p *piece) covers(q *piece) bool {
	if p.from > q.from || p.to < q.to || p.setup > q.setup {
		return false
	}
	return p.shortAt(q.from+q.falls) <= q.short-q.falls && p.shortAt(q.from) <= q.short
}

func (p *piece) shortAt(end moment) moment { return p.short - min(p.falls, end-p.from) }
