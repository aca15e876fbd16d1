package sheet

import (
	"context"
	"slices"
)

// cover chooses of the sheets without a rest those that go together and use the most
// prints: always next the print that is in the fewest of them (Knuth, "Dancing
// links", 2000), with a bound on how long it goes on.
func (m *matcher) cover(ctx context.Context) []*block {
	c := coverer{ctx: ctx, in: make([][]int, len(m.leaves)), tries: 20000}
	for _, s := range m.sheets {
		n := 0
		s.leaves.each(func(leaf int) { c.in[leaf] = append(c.in[leaf], len(c.sheets)); n++ })
		c.sheets = append(c.sheets, s)
		c.sizes = append(c.sizes, n)
	}
	c.goOn(leafSet{}, leafSet{}, 0)
	chosen := make([]*block, 0, len(c.best))
	for _, i := range c.best {
		chosen = append(chosen, c.sheets[i])
	}
	return chosen
}

type coverer struct {
	ctx    context.Context
	sheets []*block
	sizes  []int
	// in lists the sheets that each print is in.
	in           [][]int
	chosen, best []int
	most, tries  int
}

// goOn extends what is chosen: taken are the prints used, without those given up.
func (c *coverer) goOn(taken, without leafSet, used int) {
	if used > c.most {
		c.most, c.best = used, slices.Clone(c.chosen)
	}
	open, still := c.rarest(&taken, &without)
	if open < 0 || used+still <= c.most {
		return
	}
	if c.tries--; c.tries < 0 || c.ctx.Err() != nil {
		return
	}
	for _, i := range c.in[open] {
		if c.tries < 0 {
			return
		}
		s := c.sheets[i]
		if s.leaves.meets(&taken) || s.leaves.meets(&without) {
			continue
		}
		c.chosen = append(c.chosen, i)
		c.goOn(taken.with(&s.leaves), without, used+c.sizes[i])
		c.chosen = c.chosen[:len(c.chosen)-1]
	}
	without[open/64] |= 1 << (open % 64)
	c.goOn(taken, without, used)
}

// rarest is the print that can still go on the fewest sheets, -1 for none, and how
// many prints still can.
func (c *coverer) rarest(taken, without *leafSet) (rarest, still int) {
	rarest, least := -1, 0
	for leaf, in := range c.in {
		if bit := uint64(1) << (leaf % 64); (taken[leaf/64]|without[leaf/64])&bit != 0 {
			continue
		}
		n := 0
		for _, i := range in {
			if s := c.sheets[i]; !s.leaves.meets(taken) && !s.leaves.meets(without) {
				n++
			}
		}
		if n == 0 {
			continue
		}
		still++
		if rarest < 0 || n < least {
			rarest, least = leaf, n
		}
	}
	return rarest, still
}
