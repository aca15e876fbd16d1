package plan

import (
	"cmp"
	"math"
	"slices"
)

// score holds what plans are compared by, most important first.
type score struct {
	unplanned int
	late      float64 // minutes by weight
	moved     int     // steps of the coming day that lie elsewhere than they stood
	short     moment
	done      moment
	setup     moment
	starts    moment
}

// latePlus is the lateness, with what is moved of the plan that stands as so
// many minutes more: a day is not turned over for a minute.
func (s score) latePlus() float64 { return s.late + movedWeight*float64(s.moved) }

// movedWeight is how many minutes late, of a job of weight 1, a step is worth
// that stays where it was.
const movedWeight = 15

// cost is what comes after the rests: jobs done early, and set-ups spared.
func (s score) cost() moment { return s.done + setupWeight*s.setup }

// setupWeight is by how much a minute of set-up outweighs one of a job's end.
const setupWeight = 60

func (s score) plus(t score, sign int) score {
	n := moment(sign)
	return score{s.unplanned + sign*t.unplanned, s.late + float64(sign)*t.late, s.moved + sign*t.moved, s.short + n*t.short, s.done + n*t.done, s.setup + n*t.setup, s.starts + n*t.starts}
}

// sameLate is how near two sums of lateness are that differ by rounding alone.
const sameLate = 1e-6

func (s score) compare(t score) int {
	if n := cmp.Compare(s.unplanned, t.unplanned); n != 0 {
		return n
	}
	if p, q := s.latePlus(), t.latePlus(); math.Abs(p-q) > sameLate*(1+math.Abs(p)) {
		return cmp.Compare(p, q)
	}
	return cmp.Or(cmp.Compare(s.short, t.short), cmp.Compare(s.cost(), t.cost()), cmp.Compare(s.starts, t.starts))
}

func (b *board) rescore(j *job) {
	b.total = b.total.plus(b.scores[j.no], -1)
	b.scores[j.no] = b.scoreOf(j)
	b.total = b.total.plus(b.scores[j.no], 1)
}

func (b *board) scoreOf(j *job) (s score) {
	if !b.on[j.no] {
		return score{unplanned: 1}
	}
	s.done = b.doneAt(j)
	s.late = j.weight * float64(lateMinutes(s.done, j.due))
	for _, c := range j.steps {
		if at := &b.at[c.no]; c.pin == nil {
			s.starts += at.start
			s.moved += b.movedBy(c, at)
			if !at.joined {
				s.setup += c.setup
			}
		}
	}
	for k, c := range j.links[:len(j.links)-1] {
		if next := j.links[k+1]; !next.putDown() {
			s.short += max(0, c.ideal-(b.at[next.no].start-b.at[c.no].end))
		}
	}
	return s
}

// keepAsItLies takes where the jobs lie for where they stand.
func (b *board) keepAsItLies() {
	b.stood = slices.Clone(b.at)
	b.stands = slices.Clone(b.on)
}

// movedBy weighs that a step of the coming day lies elsewhere than it stood: the
// more when it was to begin within the hour. What slid, and is not found where it
// was left anyhow, may slide on.
func (b *board) movedBy(c *step, at *place) int {
	if b.stood == nil || !b.stands[c.job.no] {
		return 0
	}
	was := &b.stood[c.no]
	switch {
	case was.start == at.start && was.by() == at.by() || was.start >= day && at.start >= day:
		return 0
	case b.slid[c.no] && was.by() == at.by() && at.start > was.start:
		return 0
	case was.start < hour:
		return 10
	}
	return 1
}

func lateMinutes(done, due moment) int {
	if done <= due {
		return 0
	}
	return int((done - due + 59) / 60)
}
