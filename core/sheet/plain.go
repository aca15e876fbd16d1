package sheet

import (
	"math"
	"slices"
)

// shelves lays the prints out in rows as high as their highest print, highest
// first, each on the first sheet with room and in the form given: the plain way by hand,
// and an answer at once however many prints there are. Circles count as their boxes.
func (t *table) shelves(form func(kind int) int) layout {
	type row struct{ y, h, x float64 }
	type page struct {
		rows  []row
		spots []spot
		y     float64
	}
	order := make([]int, len(t.kinds))
	lying := make([]int, len(t.kinds))
	for k := range t.kinds {
		order[k] = k
		lying[k] = form(k)
	}
	slices.SortStableFunc(order, func(a, b int) int {
		return compareFloats(t.forms[lying[b]].h, t.forms[lying[a]].h)
	})
	var pages []*page
	// Of one kind the next never fits before the last did.
	for _, k := range order {
		f, first := lying[k], 0
		g := &t.forms[f]
		for range t.kinds[k].count {
			put := false
			for ; first < len(pages) && !put; first++ {
				p := pages[first]
				for i := range p.rows {
					if r := &p.rows[i]; g.h <= r.h+slack && r.x+g.w <= t.width+slack {
						p.spots = append(p.spots, spot{f, r.x, r.y})
						r.x += g.w + t.gap
						put = true
						break
					}
				}
				if !put && p.y+g.h <= t.height+slack {
					p.rows = append(p.rows, row{p.y, g.h, g.w + t.gap})
					p.spots = append(p.spots, spot{f, 0, p.y})
					p.y += g.h + t.gap
					put = true
				}
				if put {
					break
				}
			}
			if !put {
				pages = append(pages, &page{rows: []row{{0, g.h, g.w + t.gap}}, spots: []spot{{f, 0, 0}}, y: g.h + t.gap})
				first = len(pages) - 1
			}
		}
	}
	l := make(layout, len(pages))
	for i, p := range pages {
		l[i] = t.newPattern(p.spots)
	}
	return l
}

// lowest and highest are the forms in which a kind lies lowest and stands highest.
func (t *table) lowest(kind int) int  { return slices.MinFunc(t.kinds[kind].forms, t.byHeight) }
func (t *table) highest(kind int) int { return slices.MaxFunc(t.kinds[kind].forms, t.byHeight) }

func (t *table) byHeight(a, b int) int { return compareFloats(t.forms[a].h, t.forms[b].h) }

// beds are the regular ways of covering a sheet with one kind, as far as there are
// prints of it, in the order of their rows: a grid, and for circles rows that stand between those before, as tight as they
// go and spread over the width.
func (t *table) beds(kind int) [][]spot {
	var all [][]spot
	for _, f := range t.kinds[kind].forms {
		all = append(all, t.grid(f))
	}
	if !t.kinds[kind].circle {
		return all
	}
	f := t.kinds[kind].forms[0]
	d := t.kinds[kind].w
	for _, upright := range [2]bool{false, true} {
		w, h := t.width, t.height
		if upright {
			w, h = h, w
		}
		n := math.Floor((w + t.gap + slack) / (d + t.gap))
		pitches := []float64{d + t.gap}
		if n > 1 {
			pitches = append(pitches, (w-d)/(n-1))
		}
		if p := (w - d) / (n - 0.5); p >= d+t.gap {
			pitches = append(pitches, p)
		}
		for _, p := range pitches {
			if rows := t.staggered(f, w, h, d, p, upright); rows != nil {
				all = append(all, rows)
			}
		}
	}
	return all
}

func (t *table) grid(form int) (spots []spot) {
	f := &t.forms[form]
	most := t.kinds[f.kind].count
	for y := 0.0; y+f.h <= t.height+slack && len(spots) < most; y += f.h + t.gap {
		for x := 0.0; x+f.w <= t.width+slack && len(spots) < most; x += f.w + t.gap {
			spots = append(spots, spot{form, x, y})
		}
	}
	return spots
}

// staggered are rows of circles at a pitch, every other one moved by half of it; nil
// where the rows would come too near to those before the last.
func (t *table) staggered(form int, w, h, d, pitch float64, upright bool) (spots []spot) {
	least := d + t.gap
	if pitch/2 >= least {
		return nil
	}
	rise := math.Sqrt(least*least - pitch*pitch/4)
	if 2*rise < least-slack {
		return nil
	}
	most := t.kinds[t.forms[form].kind].count
	for i, y := 0, 0.0; y+d <= h+slack && len(spots) < most; i, y = i+1, y+rise {
		for x := float64(i%2) * pitch / 2; x+d <= w+slack && len(spots) < most; x += pitch {
			if upright {
				spots = append(spots, spot{form, y, x})
			} else {
				spots = append(spots, spot{form, x, y})
			}
		}
	}
	return spots
}
