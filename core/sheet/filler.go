package sheet

import (
	"context"
	"math"
)

// filler fills one sheet by putting prints, kind after kind, where they touch two
// things that are there already: edges of the sheet or other prints. Its memory is
// used again from sheet to sheet.
type filler struct {
	t     *table
	spots []spot
	free  float64
	// open are the places where the forms in hand can go.
	open [2][]place
	near []int
}

// place is a place where a form can go: the corner of its box.
type place struct{ x, y float64 }

// rule says which of the places is taken.
type rule int

const (
	byRows rule = iota
	byColumns
	fromCorner
	rules
)

// stage is one step of a filling: a kind and how many of it at the most.
type stage struct {
	kind, most int
}

// recipe is how a sheet is filled: the stages one after the other, and where.
type recipe struct {
	stages []stage
	rule   rule
	// begin is put down before the first stage.
	begin []spot
}

func (t *table) newFiller() *filler { return &filler{t: t} }

// fill follows a recipe with no more of each kind than left says, and counts what it
// used. It ends early with the context, with one print at least. The spots returned
// are the filler's own until the next filling.
func (f *filler) fill(ctx context.Context, r recipe, left []int, used []int) []spot {
	f.spots = append(f.spots[:0], r.begin...)
	clear(used)
	f.free = f.t.width * f.t.height
	for _, s := range r.begin {
		k := f.t.forms[s.form].kind
		used[k]++
		f.free -= f.t.kinds[k].area
	}
	for _, s := range r.stages {
		if len(f.spots) > 0 && ctx.Err() != nil {
			break
		}
		f.stage(ctx, s, min(s.most, left[s.kind]-used[s.kind]), r.rule, used)
	}
	return f.spots
}

func (f *filler) stage(ctx context.Context, s stage, most int, by rule, used []int) {
	k := &f.t.kinds[s.kind]
	if most <= 0 || k.area > f.free {
		return
	}
	for i, form := range k.forms {
		f.open[i] = f.open[i][:0]
		f.beginPlaces(i, form)
	}
	for placed := 0; placed < most && k.area <= f.free+slack; placed++ {
		best, at := math.Inf(1), spot{form: -1}
		for i, form := range k.forms {
			for _, p := range f.open[i] {
				if v := f.t.worth(by, form, p); v < best {
					best, at = v, spot{form, p.x, p.y}
				}
			}
		}
		if at.form < 0 {
			return
		}
		f.spots = append(f.spots, at)
		used[s.kind]++
		f.free -= k.area
		if placed+1 == most || placed%16 == 15 && ctx.Err() != nil {
			return
		}
		for i, form := range k.forms {
			f.closePlaces(i, form, at)
			f.addPlaces(i, form, len(f.spots)-1)
		}
	}
}

// worth is the order in which places are taken: the least first.
func (t *table) worth(by rule, form int, p place) float64 {
	switch by {
	case byRows:
		return p.y*1e5 + p.x
	case byColumns:
		return p.x*1e5 + p.y
	}
	f := &t.forms[form]
	return math.Hypot(p.x+f.w/2, p.y+f.h/2)
}

// closePlaces drops the places that a new print takes away.
func (f *filler) closePlaces(i, form int, by spot) {
	kept := f.open[i][:0]
	for _, p := range f.open[i] {
		if !f.t.clash(spot{form, p.x, p.y}, by) {
			kept = append(kept, p)
		}
	}
	f.open[i] = kept
}

// beginPlaces finds all places of a form on the sheet as it stands.
func (f *filler) beginPlaces(i, form int) {
	g := &f.t.forms[form]
	for _, x := range [2]float64{0, f.t.width - g.w} {
		for _, y := range [2]float64{0, f.t.height - g.h} {
			f.offer(i, form, x, y, -1)
		}
	}
	for n := range f.spots {
		f.addPlaces(i, form, n)
	}
}

// offer takes up a place if nothing is in its way: of what is near the print n, or,
// away from it, of all prints.
func (f *filler) offer(i, form int, x, y float64, n int) {
	t, g := f.t, &f.t.forms[form]
	if x < -slack || y < -slack || x+g.w > t.width+slack || y+g.h > t.height+slack {
		return
	}
	s := spot{form, max(x, 0), max(y, 0)}
	if n >= 0 && f.touches(s, n) {
		for _, m := range f.near {
			if t.clash(s, f.spots[m]) {
				return
			}
		}
	} else {
		for _, o := range f.spots {
			if t.clash(s, o) {
				return
			}
		}
	}
	f.open[i] = append(f.open[i], place{s.x, s.y})
}

// touches tells whether the box at a place is no further than the gap from the box of
// the print n, so that whatever could be in its way is near that print.
func (f *filler) touches(s spot, n int) bool {
	a := f.spots[n]
	g, p := &f.t.forms[s.form], &f.t.forms[a.form]
	far := f.t.gap + slack
	return s.x-a.x-p.w <= far && a.x-s.x-g.w <= far && s.y-a.y-p.h <= far && a.y-s.y-g.h <= far
}

// addPlaces finds the places at which a form touches the print n and something that
// was there before it.
func (f *filler) addPlaces(i, form, n int) {
	t, g := f.t, &f.t.forms[form]
	a := f.spots[n]
	p := &t.forms[a.form]
	reachX, reachY := g.w+2*t.gap+slack, g.h+2*t.gap+slack
	f.near = f.near[:0]
	for m, o := range f.spots {
		q := &t.forms[o.form]
		if m != n && o.x-a.x-p.w < reachX && a.x-o.x-q.w < reachX && o.y-a.y-p.h < reachY && a.y-o.y-q.h < reachY {
			f.near = append(f.near, m)
		}
	}
	f.near = append(f.near, n)
	if g.circle {
		f.circlePlaces(i, form, n)
		return
	}
	f.rectPlaces(i, form, n)
}
