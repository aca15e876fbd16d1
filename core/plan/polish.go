package plan

import (
	"cmp"
	"slices"
)

// polish places every job anew, all others being where they are, as long as that
// betters anything: rests are as long as usual where that costs nothing, and
// everything begins as early as it can.
func (w *worker) polish() {
	b := w.b
	b.brief = false
	queue := slices.Clone(w.shop.jobs)
	passes := mostPolished
	if w.standing != nil {
		passes = polishedStanding
	}
	if w.bounded() {
		passes = min(passes, manyPlacings/max(1, len(queue)))
	}
	// tried is how often anything was bettered when a job was last placed anew: until it is
	// bettered again, that comes to the same.
	tried, bettered := make([]int, len(b.on)), 1
	for range passes {
		slices.SortFunc(queue, func(x, y *job) int {
			return cmp.Or(cmp.Compare(b.scores[x.no].done, b.scores[y.no].done), cmp.Compare(x.no, y.no))
		})
		was := bettered
		for _, j := range queue {
			if tried[j.no] == bettered || !w.mayPolish(j) {
				continue
			}
			before := b.total
			if serves, sooner := w.anew(j, false); !serves && sooner && b.stood != nil {
				w.anew(j, true)
			}
			if b.total.compare(before) != 0 {
				bettered++
			}
			tried[j.no] = bettered
		}
		if bettered == was {
			break
		}
	}
	b.settle()
	b.noting = false
}

// mayPolish tells that a job has something to be placed anew, and that there is time for it.
func (w *worker) mayPolish(j *job) bool {
	return w.b.on[j.no] && j.first < len(j.links) && !w.shop.standsOver(j) && w.spent() <= latestPolish && w.ctx.Err() == nil
}

// anew places a job anew, the others being where they are, and tells whether that
// serves as well, and else whether the job alone were done sooner: then it is those
// whose sittings it leads that stand against it. Together, they are placed anew
// after it, so that a sitting moves as one.
func (w *worker) anew(j *job, together bool) (serves, sooner bool) {
	b := w.b
	was, done := b.total, b.scores[j.no].done
	b.settle()
	b.pull(j)
	for i := 0; together && i < len(b.changed); i++ {
		if led := b.changed[i].job; b.on[led.no] {
			b.pull(led)
		}
	}
	frozen, lost := false, false
	for i := 0; i < len(b.changed) && !frozen && !lost; i++ {
		c := b.changed[i].job
		frozen = w.shop.standsOver(c)
		if !b.on[c.no] {
			b.insertAsItStands(c)
			lost = b.atLeast(b.changed[i+1:]).compare(was) > 0
		}
	}
	if !frozen && !lost && b.total.compare(was) <= 0 {
		return true, false
	}
	sooner = len(b.changed) > 1 && b.on[j.no] && b.scores[j.no].done < done
	b.undo()
	return false, sooner
}

const (
	// mostPolished is how often all jobs are placed anew in the end.
	mostPolished = 4
	// polishedStanding is that of a plan that stands: it is made anew soon.
	polishedStanding = 2
	// latestPolish is by what part of the budget that may be over it.
	latestPolish = 1.06
)

// atLeast is what the plan comes to at least once those of the jobs that are off have a place.
func (b *board) atLeast(left []change) score {
	t := b.total
	for _, c := range left {
		if !b.on[c.job.no] {
			t.unplanned--
		}
	}
	return t
}
