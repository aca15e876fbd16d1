package plan

// tighten moves the steps of a job that is placed, from the last but one to the
// first, as late as the one after it allows without a rest falling shorter: what
// rests no longer than it needs leaves room and hands to others.
func (b *board) tighten(j *job, places []place) {
	first := j.steps[0].no
	for k := len(j.links) - 2; k >= j.first; k-- {
		c, next := j.links[k], j.links[k+1]
		at := &places[c.no-first]
		if c.pin != nil || next.pin != nil || len(c.inside) > 0 || at.joined || next.putDown() || c.putDown() {
			continue
		}
		rest := places[next.no-first].start - at.end
		least := min(rest, c.ideal)
		latest := places[next.no-first].start - least - (at.end - at.start)
		if k > 0 {
			before := j.links[k-1]
			if len(before.inside) > 0 && before.pin != nil {
				continue
			}
			if before.max < never && !before.dropped {
				latest = min(latest, places[before.no-first].end+before.max)
			}
		}
		if latest <= at.start {
			continue
		}
		if b.random != nil && b.random.IntN(b.straying) == 0 {
			latest = at.start + moment(b.random.Int64N((latest-at.start)/minute+1))*minute
		}
		start := b.latest(at.way, at.start, latest, at.end-at.start)
		if start <= at.start {
			continue
		}
		if k > 0 {
			before := j.links[k-1]
			if _, because := b.trial.noRoom(before, span{at.start, start}); because != nil {
				continue
			}
		}
		at.start, at.end = start, start+at.end-at.start
	}
}

// latest is the latest start, from one that is free up to another, at which all
// that a way needs is open and free.
func (b *board) latest(w *way, from, to, length moment) moment {
	for at := to; at > from; {
		was := at
		for i := range w.needs {
			n := &w.needs[i]
			if at = b.fitBack(n, at, length); at <= from {
				return from
			}
		}
		if at == was {
			return at
		}
	}
	return from
}

// fitBack finds the last moment not after at, at which a resource is open and free for a length.
func (b *board) fitBack(n *need, at, length moment) moment {
	free := n.of.capacity - n.n
	at, length = at-n.gap, length+2*n.gap
	p := &b.profiles[n.of.no]
	for {
		if open := n.of.open; open != nil && !n.apart {
			i := open.of(at)
			if i == len(open.spans) || open.spans[i].start > at {
				i--
			}
			for i >= 0 && open.spans[i].end-open.spans[i].start < length {
				i--
			}
			if i < 0 {
				return always
			}
			at = min(at, open.spans[i].end-length)
			if at < open.spans[i].start {
				at = open.spans[i].start - 1
				continue
			}
		}
		i := p.after(at+length-1) - 1
		for i >= 0 && p.marks[i].used <= free && p.marks[i].at > at {
			i--
		}
		if p.marks[i].used <= free {
			return at + n.gap
		}
		for i > 0 && p.marks[i].used > free {
			at = p.marks[i].at - length
			i--
		}
		if at == always-length {
			return always
		}
	}
}
