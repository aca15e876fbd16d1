package plan

// fit finds the first moment not before at, at which a resource is open for a
// length and no more than free of it is held; never when there is none, held
// when that is because of what holds it with no end known. It looks no further
// than latest, and answers with something after it.
func (b *board) fit(n *need, at, length moment, free int, latest moment) (start moment, held bool) {
	if free < 0 {
		return never, false
	}
	if b.growing && n.of.capacity == 1 && !n.apart {
		return b.fitKnown(n, at, length, free, latest)
	}
	return b.fitFrom(n, at, length, free, latest)
}

// firstFit is where a search from a moment first found room.
type firstFit struct{ from, to moment }

// fitKnown is fit where what is held only grows: what was looked through before
// need not be looked through again.
func (b *board) fitKnown(n *need, at, length moment, free int, latest moment) (moment, bool) {
	known := b.fits[n.of.no]
	if known == nil {
		known = map[moment]firstFit{}
		b.fits[n.of.no] = known
	}
	f, looked := known[length]
	within := looked && f.from <= at && at <= f.to
	if within {
		at = f.to
	}
	to, held := b.fitFrom(n, at, length, free, latest)
	switch {
	case to > latest:
	case within:
		known[length] = firstFit{f.from, to}
	case !looked || at <= f.from:
		known[length] = firstFit{at, to}
	}
	return to, held
}

func (b *board) fitFrom(n *need, at, length moment, free int, latest moment) (start moment, held bool) {
	at, length, latest = at-n.gap, length+2*n.gap, latest-n.gap
	p := &b.profiles[n.of.no]
	i, open, o := p.after(at)-1, n.of.open, 0
	if n.apart {
		open = nil
	}
	if open != nil {
		o = open.of(at)
	}
	for at <= latest {
		if open != nil {
			for o < len(open.spans) && max(at, open.spans[o].start)+length > open.spans[o].end {
				o++
			}
			if o == len(open.spans) {
				return never, false
			}
			at = max(at, open.spans[o].start)
		}
		for i+1 < len(p.marks) && p.marks[i+1].at <= at {
			i++
		}
		k := i
		for k < len(p.marks) && (k == i || p.marks[k].at < at+length) && p.marks[k].used <= free {
			k++
		}
		if k == len(p.marks) || k > i && p.marks[k].at >= at+length {
			return at + n.gap, false
		}
		for k < len(p.marks) && p.marks[k].used > free {
			k++
		}
		if k == len(p.marks) || p.marks[k].at >= never {
			return never, true
		}
		at, i = p.marks[k].at, k
	}
	return at + n.gap, false
}
