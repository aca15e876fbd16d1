package plan

// bound is the earliest a step may start, and what makes it so.
type bound struct {
	at      moment
	because *Reason
	waited  tally
}

// tally adds up, by cause, what a step waited for beyond its own job's rests.
// Causes past mostCauses are not told apart from the last.
type tally struct {
	causes [mostCauses]cause
	n      int
	latest int
	// hours is the cause among opening hours that was met first.
	hours *Reason
}

const mostCauses = 6

type cause struct {
	because *Reason
	total   moment
	// until is when the cause was last in the way.
	until moment
}

// add notes that a step could not start from one moment to another. Closed
// hours after another cause lengthen the wait that cause brought.
func (t *tally) add(because *Reason, from, to, until moment) {
	if to <= from {
		return
	}
	for i := range t.causes[:t.n] {
		if t.causes[i].because == because {
			t.causes[i].total += to - from
			t.causes[i].until, t.latest = until, i
			return
		}
	}
	if t.n == mostCauses {
		t.n--
	}
	t.causes[t.n], t.latest = cause{because, to - from, until}, t.n
	t.n++
}

// closed notes that a step waited for opening hours.
func (t *tally) closed(hours *Reason, from, to moment) {
	if t.n > 0 {
		t.causes[t.latest].total += to - from
		return
	}
	t.hours = hours
}

// binding is what a step waited for longest: of equal waits the later one;
// opening hours only where nothing else was in the way.
func (t *tally) binding() (because *Reason, until moment) {
	longest := moment(-1)
	for _, c := range t.causes[:t.n] {
		if c.total >= longest {
			because, until, longest = c.because, c.until, c.total
		}
	}
	if because == nil {
		return t.hours, never
	}
	return because, until
}

// moveTo lets the bound wait for a cause, which is over at until.
func (b *bound) moveTo(at moment, because *Reason, until moment) {
	b.waited.add(because, b.at, at, until)
	b.at = at
}

// reason is what binds: the wait in the way, or what the bound began with.
func (b *bound) reason() (because *Reason, until moment) {
	if because, until = b.waited.binding(); because != nil {
		return because, until
	}
	return b.because, never
}
