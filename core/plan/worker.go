package plan

import (
	"cmp"
	"math"
	"math/rand/v2"
	"slices"
)

// worker betters a plan on a board of its own: first by moving jobs in the line
// in which they are placed, then by taking some off the board and placing them
// anew (ruin and recreate, Schrimpf et al. 2000, with the acceptance of
// simulated annealing).
type worker struct {
	*search
	number  int
	b       *board
	random  *rand.Rand
	open    []*job // those that can be moved
	best    candidate
	line    []*job
	out     []*job
	spans   []nearness
	orderBy []float64 // by job
	heat    float64
}

func newWorker(s *search, b *board, number int) *worker {
	w := &worker{search: s, number: number, b: newBoard(s.shop), random: rand.New(rand.NewPCG(uint64(number), 2)), orderBy: make([]float64, len(s.shop.jobs))}
	for _, j := range s.shop.jobs {
		if j.first < len(j.links) && !s.shop.standsOver(j) {
			w.open = append(w.open, j)
		}
	}
	w.b.stood, w.b.stands, w.b.slid, w.b.random = b.stood, b.stands, b.slid, w.random
	w.b.straying, w.heat = straying, rebuildHeat
	if len(w.open) <= few {
		w.b.straying, w.heat = strayingOfFew, rebuildHeatOfFew
	}
	return w
}

// leg is one stretch of the search, over its share of the budget.
func (w *worker) leg(leg int, from, until float64) {
	w.best = w.search.best
	w.b.noting = false
	w.b.restore(w.best.places)
	rounds := int(until*float64(w.rounds)) - int(from*float64(w.rounds))
	over := func(round int) (float64, bool) {
		if w.bounded() {
			return from + (until-from)*float64(round)/float64(max(1, rounds)), round >= rounds
		}
		spent := w.spent()
		return spent, spent >= until
	}
	if leg == 0 && w.number == 0 && w.standing == nil && w.best.score.level(w.least) == lateness {
		w.reorder(over)
		return
	}
	w.rebuild(over)
}

// level is what of a score can still be bettered.
type level int

const (
	noLevel level = iota
	places
	lateness
	shortfall
	expense
)

// level is the first level at which a score is over the least there can be.
func (s score) level(least score) level {
	switch {
	case s.unplanned > least.unplanned:
		return places
	case s.latePlus() > least.late+sameLate*(1+least.late):
		return lateness
	case s.short > least.short:
		return shortfall
	case s.cost() > least.cost():
		return expense
	}
	return noLevel
}

// threshold is the worst score that is still accepted after one: at the level
// that can be bettered a little worse, the less the further the search is.
func (w *worker) threshold(is score, first, last, p float64) score {
	worse := -first * math.Pow(last, p) * math.Log(1-w.random.Float64())
	switch is.level(w.least) {
	case places:
		is.late = math.MaxFloat64 / 4
	case lateness:
		is.late += worse * is.latePlus()
		is.short, is.done, is.starts = never/4, never/4, 0
	case shortfall:
		is.short += moment(worse * float64(is.short))
		is.done, is.starts = never/4, 0
	case expense:
		is.done += moment(worse * float64(is.cost()-w.least.cost()))
		is.starts = never / 4
	}
	return is
}

// weighRests tells the board whether rests and set-ups are to be weighed, which
// they need not be while something else can be bettered.
func (w *worker) weighRests(is score) {
	w.b.brief = is.level(w.least) <= lateness
}

// take keeps the board's plan as the best so far, and tells whether it is.
func (w *worker) take() bool {
	if w.b.total.compare(w.best.score) >= 0 {
		return false
	}
	w.best.places, w.best.score = w.b.snapshot(), w.b.total
	return true
}

// patience is for how many rounds without a better plan the search goes on.
func (w *worker) patience(at level) int {
	switch at {
	case noLevel:
		return -1
	case places, lateness:
		return 100000 + 1000*len(w.open)
	}
	return 500 + 100*len(w.open)
}

const (
	// How much worse a plan may be, by part of its lateness, in the beginning and
	// by what that shrinks until the end; found by trial on overloaded studios.
	reorderHeat, reorderCooling = 0.0005, 0.003
	rebuildHeat, rebuildCooling = 0.001, 0.01
	// Few jobs need to be shaken more.
	rebuildHeatOfFew = 0.1
	// furthest a job is moved in the line.
	furthest = 40
)

// reorder moves one or two jobs in the line and places anew all that come after.
func (w *worker) reorder(over func(round int) (float64, bool)) {
	b := w.b
	line := slices.Clone(w.best.line)
	b.clear()
	for _, j := range line {
		b.insert(j)
	}
	is := b.total
	w.weighRests(is)
	for round := 0; ; round++ {
		p, done := over(round)
		if done || w.ctx.Err() != nil {
			break
		}
		b.settle()
		first := w.moveInLine(line)
		most := w.threshold(is, reorderHeat, reorderCooling, p)
		if w.placeAnew(w.line[first:], most) {
			is = b.total
			line = append(line[:0], w.line...)
			w.take()
			continue
		}
		b.undo()
	}
	b.settle()
	b.noting = false
}

// moveInLine copies a line with one or two jobs moved, and tells from where on it differs.
func (w *worker) moveInLine(line []*job) (first int) {
	w.line = append(w.line[:0], line...)
	first = len(line)
	for range 1 + w.random.IntN(2) {
		i := w.random.IntN(len(line))
		to := max(0, min(len(line)-1, i+w.random.IntN(2*furthest+1)-furthest))
		j := w.line[i]
		w.line = slices.Insert(slices.Delete(w.line, i, i+1), to, j)
		first = min(first, i, to)
	}
	return first
}

// placeAnew takes jobs off the board and places them in turn; it gives up, and
// says false, once the plan is worse than it may be.
func (w *worker) placeAnew(jobs []*job, most score) bool {
	b := w.b
	for _, j := range jobs {
		if b.on[j.no] {
			b.pull(j)
		}
	}
	for _, j := range jobs {
		if !b.on[j.no] {
			b.insert(j)
		}
		if most := most.latePlus(); b.total.latePlus() > most+sameLate*(1+most) {
			return false
		}
	}
	return b.total.compare(most) <= 0
}

// rebuild takes a few jobs off the board and places them anew.
func (w *worker) rebuild(over func(round int) (float64, bool)) {
	b := w.b
	is := b.total
	w.weighRests(is)
	bettered := 0
	for round := 0; ; round++ {
		p, done := over(round)
		if done || w.ctx.Err() != nil || round-bettered > w.patience(is.level(w.least)) {
			break
		}
		b.settle()
		w.ruin()
		w.lineUp()
		if w.placeAnew(w.out, w.threshold(is, w.heat, rebuildCooling, p)) {
			is = b.total
			w.weighRests(is)
			if w.take() {
				bettered = round
			}
			continue
		}
		b.undo()
	}
	b.settle()
	b.noting = false
}

// mostRuined is how many jobs are taken off the board at once.
const mostRuined = 10

// ruin takes some jobs off the board: mostly those with work about the same time.
func (w *worker) ruin() {
	r := w.random
	n := 2 + r.IntN(min(mostRuined-1, max(1, len(w.open)-1)))
	w.out = w.out[:0]
	if r.IntN(10) == 0 {
		for range n {
			w.out = append(w.out, w.open[r.IntN(len(w.open))])
		}
	} else {
		w.near(w.seed(), n)
	}
	for _, j := range w.out {
		if w.b.on[j.no] {
			w.b.pull(j)
		}
	}
	w.out = w.out[:0]
	for _, j := range w.open {
		if !w.b.on[j.no] {
			w.out = append(w.out, j)
		}
	}
}

// seed is a job about which others are taken off: rather one that costs something.
func (w *worker) seed() *job {
	j := w.open[w.random.IntN(len(w.open))]
	for range 3 {
		if s := &w.b.scores[j.no]; s.late > 0 || s.unplanned > 0 || w.best.score.late == 0 && (s.short > 0 || s.setup > 0) {
			break
		}
		j = w.open[w.random.IntN(len(w.open))]
	}
	return j
}

type nearness struct {
	job *job
	gap moment
}

// near lists the jobs with work nearest in time to some step of one.
func (w *worker) near(seed *job, n int) {
	w.out = append(w.out, seed)
	if !w.b.on[seed.no] {
		return
	}
	at := w.b.at[seed.steps[w.random.IntN(len(seed.steps))].no].start
	w.spans = w.spans[:0]
	for _, j := range w.open {
		if !w.b.on[j.no] || j == seed {
			continue
		}
		least := never
		for _, c := range j.steps {
			if c.pin == nil {
				gap := w.b.at[c.no].start - at
				least = min(least, max(gap, -gap))
			}
		}
		w.spans = append(w.spans, nearness{j, least})
	}
	slices.SortFunc(w.spans, func(a, b nearness) int { return cmp.Or(cmp.Compare(a.gap, b.gap), cmp.Compare(a.job.no, b.job.no)) })
	for _, s := range w.spans[:min(n-1, len(w.spans))] {
		w.out = append(w.out, s.job)
	}
}

// lineUp puts what is off the board in the order in which it is placed anew.
func (w *worker) lineUp() {
	r := w.random
	rule := r.IntN(5)
	for _, j := range w.out {
		noise := 0.8 + 0.4*r.Float64()
		by := &w.orderBy[j.no]
		switch rule {
		case 0:
			*by = r.Float64()
		case 1:
			*by = float64(j.due) + day*r.Float64()
		case 2:
			*by = -j.weight / float64(j.hands) * noise
		case 3:
			*by = float64(j.latestStart()) + day*r.Float64()
		case 4:
			*by = -float64(j.hands) * noise
		}
	}
	slices.SortFunc(w.out, func(a, b *job) int {
		return cmp.Or(cmp.Compare(w.orderBy[a.no], w.orderBy[b.no]), cmp.Compare(a.no, b.no))
	})
}
