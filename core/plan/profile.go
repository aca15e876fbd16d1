package plan

import (
	"math"
	"slices"
	"time"
)

// moment is a time in seconds after the problem's From.
type moment = int64

const (
	always moment = math.MinInt64 / 4
	never  moment = math.MaxInt64 / 4
)

type span struct{ start, end moment }

func seconds(minutes int) moment { return moment(minutes) * moment(time.Minute/time.Second) }

func floorSeconds(d time.Duration) moment { return moment(math.Floor(d.Seconds())) }
func ceilSeconds(d time.Duration) moment  { return moment(math.Ceil(d.Seconds())) }

// profile is how much of a resource is held when: marks in the order of time,
// each with what is held from it up to the next. The first is always.
type profile struct {
	marks []mark
	// hint is where the last look was: the next is mostly near.
	hint int
}

type mark struct {
	at   moment
	used int
}

func newProfile() profile { return profile{marks: []mark{{at: always}}, hint: 1} }

func (p *profile) copyTo(q *profile) { q.marks, q.hint = append(q.marks[:0], p.marks...), p.hint }

// hold adds amount (which may be negative, to give back) over [s.start, s.end).
func (p *profile) hold(s span, amount int) {
	if amount == 0 || s.end <= s.start {
		return
	}
	first := p.after(s.start-1) - 1
	if next := first + 1; next == len(p.marks) || p.marks[next].at != s.start {
		p.marks = slices.Insert(p.marks, next, mark{s.start, p.marks[first].used})
	}
	first++
	last := first
	for ; last < len(p.marks) && p.marks[last].at < s.end; last++ {
		p.marks[last].used += amount
	}
	if last == len(p.marks) || p.marks[last].at != s.end {
		p.marks = slices.Insert(p.marks, last, mark{s.end, p.marks[last-1].used - amount})
	}
	p.join(last)
	p.join(first)
}

// join drops a mark at which nothing changes, so that a busy stretch is one
// however many steps it is made of.
func (p *profile) join(i int) {
	if i < len(p.marks) && p.marks[i].used == p.marks[i-1].used {
		p.marks = slices.Delete(p.marks, i, i+1)
	}
}

// nearby is how far from the last look the next is looked for mark by mark.
const nearby = 6

// after is the index of the first mark after m, which is not before always.
func (p *profile) after(m moment) int {
	i := min(p.hint, len(p.marks))
	low, high := 1, len(p.marks)
	if p.marks[i-1].at <= m {
		for end := min(i+nearby, len(p.marks)); i < end; i++ {
			if p.marks[i].at > m {
				p.hint = i
				return i
			}
		}
		low = i
	} else {
		for end := max(i-nearby, 1); i > end; {
			if i--; p.marks[i-1].at <= m {
				p.hint = i
				return i
			}
		}
		high = i
	}
	for low < high {
		if middle := int(uint(low+high) >> 1); p.marks[middle].at > m {
			high = middle
		} else {
			low = middle + 1
		}
	}
	p.hint = low
	return low
}

// over returns the first stretch from s.start on, beginning before s.end, in
// which more than free is held.
func (p *profile) over(s span, free int) (stretch span, found bool) {
	for i := p.after(s.start) - 1; i < len(p.marks) && p.marks[i].at < s.end; i++ {
		if p.marks[i].used <= free {
			continue
		}
		stretch.start = max(p.marks[i].at, s.start)
		for i < len(p.marks) && p.marks[i].used > free {
			i++
		}
		stretch.end = never
		if i < len(p.marks) {
			stretch.end = p.marks[i].at
		}
		return stretch, true
	}
	return span{}, false
}

// most is how much is held at once within s.
func (p *profile) most(s span) (most int) {
	for i := p.after(s.start) - 1; i < len(p.marks) && p.marks[i].at < s.end; i++ {
		most = max(most, p.marks[i].used)
	}
	return most
}

// opening are the hours of a resource: sorted, disjoint, never touching.
type opening struct {
	spans []span
	// days are, by day after the problem's From, the first of them that ends after it began.
	days []int
}

const (
	minute = 60
	hour   = 60 * minute
	day    = 24 * hour
)

func newOpening(open [][2]time.Time, from time.Time) *opening {
	var spans []span
	for _, o := range open {
		if s := (span{ceilSeconds(o[0].Sub(from)), floorSeconds(o[1].Sub(from))}); s.end > s.start {
			spans = append(spans, s)
		}
	}
	slices.SortFunc(spans, func(a, b span) int { return int(a.start - b.start) })
	merged := spans[:0]
	for _, s := range spans {
		if n := len(merged); n > 0 && s.start <= merged[n-1].end {
			merged[n-1].end = max(merged[n-1].end, s.end)
			continue
		}
		merged = append(merged, s)
	}
	return indexed(merged)
}

func indexed(spans []span) *opening {
	o := &opening{spans: spans}
	for i, s := range spans {
		for moment(len(o.days))*day < s.end {
			o.days = append(o.days, i)
		}
	}
	return o
}

// of is the index of the first interval that ends after m.
func (o *opening) of(m moment) int {
	i := 0
	if m >= 0 {
		d := int(m / day)
		if d >= len(o.days) {
			return len(o.spans)
		}
		i = o.days[d]
	}
	for i < len(o.spans) && o.spans[i].end <= m {
		i++
	}
	return i
}

func (o *opening) longest() (longest moment) {
	for _, s := range o.spans {
		longest = max(longest, s.end-s.start)
	}
	return longest
}
