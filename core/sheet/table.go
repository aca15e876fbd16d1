package sheet

import "math"

// slack is how much binary sums of the lengths of a sheet may be off, in mm.
const slack = 1e-9

// kind is what is laid out alike: all items of one size and shape.
type kind struct {
	circle bool
	// w and h are the box, r a circle's radius; area is the outline's.
	w, h, r, area float64
	turns         bool
	count         int
	items         []Item
	// forms are the indices of the ways it can lie.
	forms []int
}

// form is a way that a kind lies on a sheet.
type form struct {
	kind    int
	circle  bool
	w, h, r float64
	turned  bool
}

// table is a problem as the search sees it: what is inside the margins, and kinds
// instead of items.
type table struct {
	width, height, gap, margin float64
	kinds                      []kind
	forms                      []form
}

func newTable(p Problem) *table {
	t := &table{width: p.Sheet.inner(p.Sheet.WidthMm), height: p.Sheet.inner(p.Sheet.HeightMm), gap: p.Sheet.GapMm, margin: p.Sheet.MarginMm}
	at := map[[4]float64]int{}
	for _, it := range p.Items {
		if it.Count == 0 {
			continue
		}
		k := kindOf(it)
		key := k.key()
		i, known := at[key]
		if !known {
			i = len(t.kinds)
			at[key] = i
			t.kinds = append(t.kinds, k)
		}
		t.kinds[i].count += it.Count
		t.kinds[i].items = append(t.kinds[i].items, it)
	}
	for i := range t.kinds {
		t.addForms(i)
	}
	return t
}

func kindOf(it Item) kind {
	if it.Shape == Circle {
		d := it.DiameterMm
		return kind{circle: true, w: d, h: d, r: d / 2, area: math.Pi * d * d / 4}
	}
	return kind{w: it.WidthMm, h: it.HeightMm, area: it.WidthMm * it.HeightMm, turns: it.MayTurn && it.WidthMm != it.HeightMm}
}

func (k kind) key() [4]float64 {
	flags := 0.0
	if k.circle {
		flags = 1
	} else if k.turns {
		flags = 2
	}
	return [4]float64{k.w, k.h, flags, 0}
}

// addForms lists the ways in which a kind fits the sheet.
func (t *table) addForms(i int) {
	k := &t.kinds[i]
	add := func(f form) {
		if f.w <= t.width+slack && f.h <= t.height+slack {
			k.forms = append(k.forms, len(t.forms))
			t.forms = append(t.forms, f)
		}
	}
	add(form{kind: i, circle: k.circle, w: k.w, h: k.h, r: k.r})
	if k.turns {
		add(form{kind: i, w: k.h, h: k.w, turned: true})
	}
}

// spot is a print on a sheet: the top left corner of its box inside the margins.
type spot struct {
	form int
	x, y float64
}

// pattern is a filled sheet.
type pattern struct {
	spots  []spot
	counts []int
	area   float64
}

// layout is a whole answer: a pattern a sheet.
type layout []*pattern

func (t *table) newPattern(spots []spot) *pattern {
	p := &pattern{spots: spots, counts: make([]int, len(t.kinds))}
	for _, s := range spots {
		k := t.forms[s.form].kind
		p.counts[k]++
		p.area += t.kinds[k].area
	}
	return p
}

// last is the area of the emptiest sheet.
func (l layout) last() float64 {
	least := math.Inf(1)
	for _, p := range l {
		least = min(least, p.area)
	}
	return least
}

// betterThan tells whether a layout needs fewer sheets, or as many with an emptier
// last one.
func (l layout) betterThan(o layout) bool {
	if l == nil || o == nil || len(l) != len(o) {
		return l != nil && (o == nil || len(l) < len(o))
	}
	return l.last() < o.last()-1e-6
}

// clash tells whether two prints come nearer to each other than the gap allows.
func (t *table) clash(a, b spot) bool {
	f, g := &t.forms[a.form], &t.forms[b.form]
	switch {
	case f.circle && g.circle:
		dx, dy, least := a.x+f.r-b.x-g.r, a.y+f.r-b.y-g.r, f.r+g.r+t.gap-slack
		return dx*dx+dy*dy < least*least
	case f.circle:
		return t.circleClash(a, f, b, g)
	case g.circle:
		return t.circleClash(b, g, a, f)
	}
	gap := t.gap - slack
	return a.x < b.x+g.w+gap && b.x < a.x+f.w+gap && a.y < b.y+g.h+gap && b.y < a.y+f.h+gap
}

// circleClash tells whether a circle comes too near a rectangle.
func (t *table) circleClash(c spot, f *form, b spot, g *form) bool {
	cx, cy, least := c.x+f.r, c.y+f.r, f.r+t.gap-slack
	dx, dy := beyond(cx, b.x, b.x+g.w), beyond(cy, b.y, b.y+g.h)
	return dx*dx+dy*dy < least*least
}

// beyond is how far a value lies outside an interval.
func beyond(v, from, to float64) float64 { return max(from-v, v-to, 0) }
