package plan

import (
	"math"
	"slices"
	"sort"
	"time"
)

// moment is a time in seconds after the problem's From.
type moment = int64

const (
	always moment = math.MinInt64 / 4
	never  moment = math.MaxInt64 / 4
)

type span struct{ start, end moment }

// timeline is one resource: when it is open, and how much of it is held when.
type timeline struct {
	id       string
	capacity int
	// open is sorted and disjoint; nil means always open.
	open []span
	// used[i] is held from at[i] up to at[i+1]; at[0] is always.
	at   []moment
	used []int
	// fits are, by length, where the search for one unit from the beginning
	// first succeeded: what is held only grows, so it need not look there again.
	fits map[moment]firstFit
	// The reasons that speak of it: nothing more fits, it is closed to who does a
	// step or to what uses it, and what keeps apart from it waits.
	busy, hours, opening, apart Reason
}

// firstFit is where there is room, and whether something was in the way before.
type firstFit struct {
	from moment
	busy bool
}

func newTimeline(r Resource, from time.Time) *timeline {
	t := &timeline{id: r.ID, capacity: r.Capacity, at: []moment{always}, used: []int{0}, fits: map[moment]firstFit{},
		busy: Reason{Kind: Full, Resource: r.ID}, hours: Reason{Kind: Hours, Resource: r.ID}, opening: Reason{Kind: OpeningHours, Resource: r.ID}, apart: Reason{Kind: KeptApart, Resource: r.ID}}
	if r.Capacity == 1 {
		t.busy.Kind = Busy
	}
	if r.Open == nil {
		return t
	}
	t.open = []span{}
	for _, open := range r.Open {
		s := span{ceilSeconds(open[0].Sub(from)), floorSeconds(open[1].Sub(from))}
		if s.end > s.start {
			t.open = append(t.open, s)
		}
	}
	slices.SortFunc(t.open, func(a, b span) int { return int(a.start - b.start) })
	merged := t.open[:0]
	for _, s := range t.open {
		if n := len(merged); n > 0 && s.start <= merged[n-1].end {
			merged[n-1].end = max(merged[n-1].end, s.end)
			continue
		}
		merged = append(merged, s)
	}
	t.open = merged
	return t
}

func floorSeconds(d time.Duration) moment { return moment(math.Floor(d.Seconds())) }
func ceilSeconds(d time.Duration) moment  { return moment(math.Ceil(d.Seconds())) }

// hold adds amount (which may be negative, to give back) over [s.start, s.end).
func (t *timeline) hold(s span, amount int) {
	if amount == 0 || s.end <= s.start {
		return
	}
	first, last := t.split(s.start), t.split(s.end)
	for i := first; i < last; i++ {
		t.used[i] += amount
	}
	t.join(last)
	t.join(first)
}

// join drops the boundary at i when nothing changes there, so that a busy
// stretch is one however many steps it is made of.
func (t *timeline) join(i int) {
	if i > 0 && i < len(t.at) && t.used[i] == t.used[i-1] {
		t.at = slices.Delete(t.at, i, i+1)
		t.used = slices.Delete(t.used, i, i+1)
	}
}

// split makes m a boundary and returns its index.
func (t *timeline) split(m moment) int {
	i := sort.Search(len(t.at), func(i int) bool { return t.at[i] >= m })
	if i < len(t.at) && t.at[i] == m {
		return i
	}
	t.at = slices.Insert(t.at, i, m)
	t.used = slices.Insert(t.used, i, t.used[i-1])
	return i
}

// blocked returns the first stretch within s in which amount more does not fit.
func (t *timeline) blocked(s span, amount int) (stretch span, found bool) {
	if amount == 0 || s.end <= s.start {
		return span{}, false
	}
	i := sort.Search(len(t.at), func(i int) bool { return t.at[i] > s.start }) - 1
	for ; i < len(t.at) && t.at[i] < s.end; i++ {
		if t.used[i]+amount <= t.capacity {
			continue
		}
		stretch.start = max(t.at[i], s.start)
		for i < len(t.at) && t.used[i]+amount > t.capacity {
			i++
		}
		stretch.end = never
		if i < len(t.at) {
			stretch.end = t.at[i]
		}
		return stretch, true
	}
	return span{}, false
}

// nextOpen returns the first moment not before m at which the resource stays
// open for length seconds, or never.
func (t *timeline) nextOpen(m, length moment) moment {
	if t.open == nil {
		return m
	}
	i := sort.Search(len(t.open), func(i int) bool { return t.open[i].end > m })
	for ; i < len(t.open); i++ {
		start := max(m, t.open[i].start)
		if start+length <= t.open[i].end {
			return start
		}
	}
	return never
}

func (t *timeline) longestOpen() moment {
	longest := moment(0)
	for _, s := range t.open {
		longest = max(longest, s.end-s.start)
	}
	return longest
}
