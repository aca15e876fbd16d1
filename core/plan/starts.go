package plan

import (
	"cmp"
	"slices"
)

// findStarts lists when a step may start, from low to latest, in every way.
func (g *passage) findStarts(c *step, low, latest moment) {
	g.starts = g.starts[:0]
	for i := range c.ways {
		w := &c.ways[i]
		latest := latest - (w.length - c.length)
		for at := low; at <= latest; {
			first, last, ok := g.b.stretch(w, at, w.paid, latest)
			if !ok || first > latest {
				break
			}
			g.starts = append(g.starts, starts{from: first, to: last, length: w.paid, way: w})
			at = last + 1
		}
		if w.hand != nil && c.kin != noKin {
			g.findJoined(c, w, low, latest)
		}
	}
	slices.SortFunc(g.starts, func(x, y starts) int { return cmp.Compare(x.from, y.from) })
	g.lastAt = g.lastAt[:0]
	for range g.starts {
		g.lastAt = append(g.lastAt, -1)
	}
}

// findJoined lists when a step may start right after like work.
func (g *passage) findJoined(c *step, w *way, low, latest moment) {
	turns := g.b.turns[w.hand.no]
	i, _ := slices.BinarySearchFunc(turns, low-g.b.shop.within, func(x *step, m moment) int { return cmp.Compare(g.b.at[x.no].end, m) })
	for ; i < len(turns); i++ {
		like := turns[i]
		at := &g.b.at[like.no]
		if at.end > latest {
			return
		}
		if like.kin != c.kin || i+1 < len(turns) && g.b.at[turns[i+1].no].start < max(low, at.end)+w.length {
			continue
		}
		if s, ok := g.b.after(at, w, max(low, at.end), latest); ok {
			g.starts = append(g.starts, s)
		}
	}
}

// after is when a step may start right after like work, from low to latest.
func (b *board) after(like *place, w *way, low, latest moment) (s starts, ok bool) {
	latest = min(latest, like.end+b.shop.within)
	if open := w.hand.open; open != nil {
		i := open.of(like.start)
		if i == len(open.spans) || like.start < open.spans[i].start || like.end > open.spans[i].end {
			return starts{}, false
		}
		latest = min(latest, open.spans[i].end-w.length)
	}
	first, last, ok := b.stretch(w, low, w.length, latest)
	if !ok || first > latest {
		return starts{}, false
	}
	// The hand does nothing between the two.
	if _, busy := b.profiles[w.hand.no].over(span{like.end, first}, w.hand.capacity-1); busy {
		return starts{}, false
	}
	return starts{from: first, to: last, length: w.length, way: w, joined: true, tie: like.end}, true
}

// stretch is the first stretch of starts from at on, up to latest, at which all
// that a way needs is open and free.
func (b *board) stretch(w *way, at, length, latest moment) (first, last moment, ok bool) {
	for {
		from := at
		for i := range w.needs {
			n := &w.needs[i]
			if at, _ = b.fit(n, at, length, n.of.capacity-n.n, latest); at > latest {
				return 0, 0, false
			}
		}
		if at == from {
			break
		}
	}
	last = latest
	for i := range w.needs {
		n := &w.needs[i]
		last = min(last, b.freeUntil(n, at, last+length+n.gap)-length-n.gap)
	}
	return at, max(at, last), true
}

// freeUntil is until when a resource that has room at a moment stays open and
// free, or limit when that is sooner.
func (b *board) freeUntil(n *need, at, limit moment) moment {
	if n.of.open != nil && !n.apart {
		if i := n.of.open.of(at); i < len(n.of.open.spans) {
			limit = min(limit, n.of.open.spans[i].end)
		}
	}
	if full, found := b.profiles[n.of.no].over(span{at, limit}, n.of.capacity-n.n); found {
		return full.start
	}
	return limit
}
