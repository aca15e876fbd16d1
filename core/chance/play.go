package chance

import (
	"context"
	"math"
	"math/rand/v2"
	"slices"
	"sync"
)

// Never is when a job is done that finds no hours.
const Never = math.MaxInt32

// players is how many play side by side; the runs are the same however many do.
const players = 2

// Play plays the studio so many times and gives, for each group of jobs, when
// the last of them is done in each run, the earliest first. The same seed gives
// the same runs. It ends early with ctx.
func Play(ctx context.Context, s Studio, groups [][]int, runs int, seed uint64) ([][]int, error) {
	done := make([][]int, len(groups))
	for g := range done {
		done[g] = make([]int, runs)
	}
	var all sync.WaitGroup
	for first := range players {
		all.Go(func() {
			p := newPlay(s, groups)
			for run := first; run < runs && ctx.Err() == nil; run += players {
				p.play(rand.New(rand.NewPCG(seed, uint64(run))))
				for g, jobs := range groups {
					for _, j := range jobs {
						done[g][run] = max(done[g][run], p.done[j])
					}
				}
			}
		})
	}
	all.Wait()
	if ctx.Err() != nil {
		return nil, ctx.Err()
	}
	for _, d := range done {
		slices.Sort(d)
	}
	return done, nil
}

// Chance is the share of runs, in order, that are done by a moment.
func Chance(done []int, by int) float64 {
	if len(done) == 0 {
		return 1
	}
	n, _ := slices.BinarySearch(done, by+1)
	return float64(n) / float64(len(done))
}

// By is the moment by which a share of the runs, in order, is done.
func By(done []int, share float64) int {
	if len(done) == 0 {
		return 0
	}
	return done[min(len(done)-1, int(math.Ceil(share*float64(len(done))))-1)]
}

// play is one playing of the studio, used again for the next.
type play struct {
	studio Studio
	lots   []lot
	// ready are the keys of lots that can be taken up, by when the plan has them;
	// waiting those that will be, by when they are, negative: the soonest last.
	ready, waiting []int
	// watched tells which jobs are asked about, and left how many of their lots are not over.
	watched []bool
	left    int
	hands   []hand
	done    []int
	// free is how much of each place is; less than nothing where it is overfull.
	free   []int
	ending []ended
	random *rand.Rand
}

// lot is a job, or pieces of it made again, on its way.
type lot struct {
	job    int
	steps  []Step
	next   int
	pieces int
	// minutes are those planned for the next step, once that can be taken up.
	minutes float64
	// need is how many must come out good; what is missing is made again.
	need  int
	ready int
	// restEnds is when the rest is over within which steps are done.
	restEnds int
	// held is what it has of places, so many times.
	held   []Use
	times  int
	remade int
}

type hand struct {
	at      int // free from
	stretch int
	// ill tells, once it is drawn, whether they do not come on a day.
	drawn, ill bool
	day        int
}

// ended is a step that was begun and ends.
type ended struct {
	at  int
	lot int
}

func newPlay(s Studio, groups [][]int) *play {
	p := &play{studio: s, hands: make([]hand, len(s.Hands)), done: make([]int, len(s.Jobs)), free: make([]int, len(s.Places)), watched: make([]bool, len(s.Jobs))}
	for _, g := range groups {
		for _, j := range g {
			p.watched[j] = true
		}
	}
	return p
}

func (p *play) play(random *rand.Rand) {
	p.random, p.left, p.lots = random, 0, p.lots[:0]
	p.ready, p.waiting = p.ready[:0], p.waiting[:0]
	clear(p.hands)
	clear(p.done)
	for i, place := range p.studio.Places {
		p.free[i] = place.Capacity
	}
	for i, j := range p.studio.Jobs {
		p.watch(i)
		p.lots = append(p.lots, lot{job: i, steps: j.Steps, pieces: j.Pieces, need: j.Need, ready: j.Rested})
		p.hold(&p.lots[i], j.Held, 1)
		if len(j.Steps) == 0 {
			p.over(i, j.Rested)
			continue
		}
		p.lots[i].ready = max(j.Rested, j.Steps[0].NotBefore)
		p.wait(i)
	}
	p.ending = p.ending[:0]
	// When all that is asked about is done, the rest need not be played.
	for p.left > 0 && p.step() {
	}
	p.settle(Never)
	for i := range p.lots {
		if p.lots[i].next < len(p.lots[i].steps) {
			p.done[p.lots[i].job] = Never
		}
	}
}

// step lets the hand that is free first take up what comes first in the plan of
// what is ready; false when nothing is left that anybody has hours for.
func (p *play) step() bool {
	for {
		h := p.freeFirst()
		if h < 0 {
			return false
		}
		at := p.hands[h].at
		p.settle(at)
		open := p.studio.Hands[h].Open[p.hands[h].stretch]
		k, soonest := p.choose(h, at)
		if k >= 0 {
			p.take(h, k, at)
			return true
		}
		if soonest >= open.To {
			p.hands[h].stretch++
			p.hands[h].at = 0
			if soonest == Never {
				return len(p.ending)+len(p.ready)+len(p.waiting) > 0
			}
			continue
		}
		p.hands[h].at = max(soonest, at+1)
	}
}

// freeFirst is the hand that is free and at work first; -1 when nobody has hours left.
func (p *play) freeFirst() int {
	first := -1
	for i := range p.hands {
		if p.comeIn(i) && (first < 0 || p.hands[i].at < p.hands[first].at) {
			first = i
		}
	}
	return first
}

// comeIn moves a hand on to its next open moment; false when it has none.
func (p *play) comeIn(i int) bool {
	h := &p.hands[i]
	open := p.studio.Hands[i].Open
	for ; h.stretch < len(open); h.stretch++ {
		if h.at >= open[h.stretch].To || p.isIll(i, open[h.stretch].Day) {
			continue
		}
		h.at = max(h.at, open[h.stretch].From)
		return true
	}
	return false
}

// isIll tells whether somebody does not come on a day; drawn once for each.
func (p *play) isIll(hand, day int) bool {
	if p.studio.Ill <= 0 {
		return false
	}
	h := &p.hands[hand]
	if !h.drawn || h.day != day {
		h.drawn, h.day, h.ill = true, day, p.random.Float64() < p.studio.Ill
	}
	return h.ill
}

// take lets a hand do the next step of what stands at a place among what is ready.
func (p *play) take(h, k, at int) {
	i := lotOf(p.ready[k])
	p.ready = slices.Delete(p.ready, k, k+1)
	l := &p.lots[i]
	s := &l.steps[l.next]
	length := p.studio.Hands[h].takes(l.minutes) * math.Exp(s.Pace.Mean+s.Pace.Sd*p.random.NormFloat64())
	end := at + max(1, int(length+0.5))
	p.hands[h].at = end
	if !s.Inside {
		p.hold(l, s.Keeps, l.pieces) // the rest before it is over
	}
	p.use(s.Uses, 1)
	p.ending = append(p.ending, ended{end, i})
}

// settle ends the steps that are over by a moment.
func (p *play) settle(at int) {
	for k := 0; k < len(p.ending); {
		if p.ending[k].at > at {
			k++
			continue
		}
		e := p.ending[k]
		p.ending = append(p.ending[:k], p.ending[k+1:]...)
		p.end(e)
	}
}

// end sends a lot on after a step: what was lost is made again, what needs
// another round has one, and then it rests.
func (p *play) end(e ended) {
	l := &p.lots[e.lot]
	s := &l.steps[l.next]
	p.use(s.Uses, -1)
	if s.Yield > 0 && s.Yield < 1 {
		p.lose(e.lot, p.lost(l.pieces, s.Yield), e.at)
		l = &p.lots[e.lot]
	}
	if l.pieces == 0 {
		l.next = len(l.steps)
		p.over(e.lot, e.at)
		return
	}
	if s.Again > 0 && p.random.Float64() < s.Again {
		l.next = max(0, l.next-s.Back)
		l.restEnds = e.at + s.Rest
		l.ready = max(l.restEnds, l.steps[l.next].NotBefore)
		p.wait(e.lot)
		return
	}
	l.next++
	if s.Inside {
		l.restEnds = max(l.restEnds, e.at)
	} else {
		l.restEnds = e.at + s.Rest
	}
	l.ready = l.restEnds
	if l.next == len(l.steps) {
		p.over(e.lot, l.restEnds)
		return
	}
	if l.steps[l.next].Inside {
		l.ready = e.at
	}
	l.ready = max(l.ready, l.steps[l.next].NotBefore)
	p.wait(e.lot)
}

// over ends a lot: its places are free, and its job is done when all of it is.
func (p *play) over(i, at int) {
	l := &p.lots[i]
	p.hold(l, nil, 0)
	if p.watched[l.job] {
		p.left--
	}
	p.done[l.job] = max(p.done[l.job], at)
}

// lost is how many of some pieces do not survive.
func (p *play) lost(pieces int, yield float64) (n int) {
	for range pieces {
		if p.random.Float64() >= yield {
			n++
		}
	}
	return n
}

// lose takes pieces out of a lot, and begins again those that are missing then.
func (p *play) lose(i, n, at int) {
	l := &p.lots[i]
	if n == 0 {
		return
	}
	l.pieces -= n
	missing := l.need - l.pieces
	remake := p.studio.Jobs[l.job].Remake
	if missing <= 0 {
		return
	}
	l.need = l.pieces
	if len(remake) == 0 || l.remade == mostRemade {
		return
	}
	p.lots = append(p.lots, lot{job: l.job, steps: remake, pieces: missing, need: missing, ready: at, remade: l.remade + 1})
	p.wait(len(p.lots) - 1)
	p.watch(l.job)
}

// watch counts a lot that is asked about.
func (p *play) watch(job int) {
	if p.watched[job] {
		p.left++
	}
}
