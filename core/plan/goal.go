package plan

import "cmp"

// finish chooses the end: by the rests first, then early with few set-ups.
func (g *passage) finish() {
	k := len(g.j.links) - 1
	c := g.j.links[k]
	if g.j.first > k {
		return
	}
	for i := range g.stages[k] {
		p := &g.stages[k][i]
		for at := p.from; at <= min(p.to, g.limit-c.min); {
			full, because := g.b.trial.noRoom(c, span{at, at + c.min})
			if because != nil {
				if full.end >= never {
					break
				}
				at = full.end
				continue
			}
			last := min(p.to, g.limit-c.min)
			if full, because := g.b.trial.noRoom(c, span{at, last + c.min}); because != nil && c.min > 0 {
				last = full.start - c.min
			}
			if _, ok := g.b.trial.placeInside(c, at, at+c.min); !ok {
				next := g.b.nextChange(at)
				if next >= never {
					break
				}
				at = next
				continue
			}
			end := at
			if len(c.inside) == 0 {
				end = min(max(at, p.from+p.falls), last)
			}
			g.choose(i, p, end)
			at = last + 1
		}
	}
}

func (g *passage) choose(index int, p *piece, end moment) {
	c := g.j.links[len(g.j.links)-1]
	found := goal{index, end, p.shortAt(end), end + c.min + setupWeight*p.setup, true}
	if !g.best.found || cmp.Or(cmp.Compare(found.short, g.best.short), cmp.Compare(found.cost, g.best.cost)) < 0 {
		g.best = found
	}
}

// back follows the best way from its end to its beginning.
func (g *passage) back() []place {
	t := &g.b.trial
	end, index := g.best.end, g.best.piece
	for k := len(g.j.links) - 1; k >= 0; k-- {
		c := g.j.links[k]
		if k < g.j.first {
			t.at[c.no-t.first()] = *c.pin
			g.b.placeWithin(c, c.pin.end)
			continue
		}
		p := &g.stages[k][index]
		t.at[c.no-t.first()] = place{span: span{end - p.length, end}, way: p.way, joined: p.joined, tie: p.tie}
		g.b.placeWithin(c, end)
		if k == g.j.first {
			continue
		}
		start := end - p.length
		low, high := p.ends.start, min(p.ends.end, start-p.rest)
		if p.mostRested < never {
			low = max(low, start-p.mostRested)
		}
		before := &g.stages[k-1][p.before]
		// As early as the least shortfall allows.
		end = min(max(low, min(before.from+before.falls, start-g.ideal(g.j.links[k-1]))), high)
		index = p.before
	}
	return t.at
}

// placeWithin puts the work inside the rest after a step where it lay when the way was looked for.
func (b *board) placeWithin(c *step, end moment) {
	if len(c.inside) > 0 {
		b.trial.placeInside(c, end, never)
	}
}
