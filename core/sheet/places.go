package sheet

import "math"

// line is where the corner of a form's box may lie while the form touches a print
// or an edge of the sheet: upright (x = at), level (y = at), or, for circles, round
// a point. from and to bound a straight one.
type line struct {
	is       byte
	at       float64
	from, to float64
	cx, cy   float64
	r        float64
}

const (
	upright = byte(iota)
	level
	round
)

// circlePlaces finds where a circle touches the print n and an edge of the sheet or
// another print: where the lines meet on which its middle may lie.
func (f *filler) circlePlaces(i, form, n int) {
	t, g := f.t, &f.t.forms[form]
	var own, others [8]line
	mine := own[:t.around(f.spots[n], g.r, own[:])]
	walls := [4]line{
		{is: upright, at: g.r, to: t.height}, {is: upright, at: t.width - g.r, to: t.height},
		{is: level, at: g.r, to: t.width}, {is: level, at: t.height - g.r, to: t.width},
	}
	for k := range mine {
		for w := range walls {
			f.meet(i, form, n, &mine[k], &walls[w])
		}
	}
	for _, m := range f.near {
		if m >= n {
			continue
		}
		theirs := others[:t.around(f.spots[m], g.r, others[:])]
		for k := range mine {
			for o := range theirs {
				f.meet(i, form, n, &mine[k], &theirs[o])
			}
		}
	}
}

// around lists the lines round a print on which the middle of a circle of radius r
// lies when it touches the print with the gap between.
func (t *table) around(s spot, r float64, into []line) int {
	f := &t.forms[s.form]
	if f.circle {
		into[0] = line{is: round, cx: s.x + f.r, cy: s.y + f.r, r: f.r + r + t.gap}
		return 1
	}
	d := r + t.gap
	into[0] = line{is: upright, at: s.x - d, from: s.y, to: s.y + f.h}
	into[1] = line{is: upright, at: s.x + f.w + d, from: s.y, to: s.y + f.h}
	into[2] = line{is: level, at: s.y - d, from: s.x, to: s.x + f.w}
	into[3] = line{is: level, at: s.y + f.h + d, from: s.x, to: s.x + f.w}
	into[4] = line{is: round, cx: s.x, cy: s.y, r: d}
	into[5] = line{is: round, cx: s.x + f.w, cy: s.y, r: d}
	into[6] = line{is: round, cx: s.x, cy: s.y + f.h, r: d}
	into[7] = line{is: round, cx: s.x + f.w, cy: s.y + f.h, r: d}
	return 8
}

// meet offers the places where two lines cross.
func (f *filler) meet(i, form, n int, a, b *line) {
	if a.is == round && b.is == round {
		f.meetRound(i, form, n, a, b)
		return
	}
	if a.is == round {
		a, b = b, a
	}
	if b.is != round {
		if a.is == b.is {
			return
		}
		if a.is == level {
			a, b = b, a
		}
		f.middle(i, form, n, a.at, b.at)
		return
	}
	along, across := b.cx, b.cy
	if a.is == level {
		along, across = across, along
	}
	d := a.at - along
	square := b.r*b.r - d*d
	if square < 0 {
		return
	}
	root := math.Sqrt(square)
	for _, v := range [2]float64{across - root, across + root} {
		if v < a.from-slack || v > a.to+slack {
			continue
		}
		if a.is == upright {
			f.middle(i, form, n, a.at, v)
		} else {
			f.middle(i, form, n, v, a.at)
		}
	}
}

func (f *filler) meetRound(i, form, n int, a, b *line) {
	dx, dy := b.cx-a.cx, b.cy-a.cy
	d2 := dx*dx + dy*dy
	if sum := a.r + b.r; d2 > sum*sum || d2 < slack {
		return
	}
	d := math.Sqrt(d2)
	along := (d2 + a.r*a.r - b.r*b.r) / (2 * d)
	square := a.r*a.r - along*along
	if square < 0 {
		return
	}
	across := math.Sqrt(square)
	ux, uy := dx/d, dy/d
	f.middle(i, form, n, a.cx+along*ux-across*uy, a.cy+along*uy+across*ux)
	f.middle(i, form, n, a.cx+along*ux+across*uy, a.cy+along*uy-across*ux)
}

// middle offers the place of a circle by its middle.
func (f *filler) middle(i, form, n int, cx, cy float64) {
	r := f.t.forms[form].r
	f.offer(i, form, cx-r, cy-r, n)
}

// rectPlaces finds where a rectangle touches the print n and an edge of the sheet or
// another print, from the right or from below.
func (f *filler) rectPlaces(i, form, n int) {
	t, g := f.t, &f.t.forms[form]
	a := f.spots[n]
	right, below := t.rightOf(a), t.belowOf(a)
	f.offer(i, form, right, 0, n)
	f.offer(i, form, 0, below, n)
	f.offer(i, form, right, t.height-g.h, n)
	f.offer(i, form, t.width-g.w, below, n)
	if t.forms[a.form].circle {
		f.offer(i, form, 0, t.under(a, 0, g.w), n)
		f.offer(i, form, t.beside(a, 0, g.h), 0, n)
	}
	for _, m := range f.near {
		if m >= n {
			continue
		}
		b := f.spots[m]
		rightB, belowB := t.rightOf(b), t.belowOf(b)
		f.offer(i, form, right, t.under(b, right, g.w), n)
		f.offer(i, form, rightB, t.under(a, rightB, g.w), n)
		if t.forms[a.form].circle || t.forms[b.form].circle {
			f.offer(i, form, t.beside(b, below, g.h), below, n)
			f.offer(i, form, t.beside(a, belowB, g.h), belowB, n)
		}
	}
}

// rightOf and belowOf are where a rectangle begins that touches a print flat.
func (t *table) rightOf(s spot) float64 { return s.x + t.forms[s.form].w + t.gap }
func (t *table) belowOf(s spot) float64 { return s.y + t.forms[s.form].h + t.gap }

// under is the y at which a rectangle of width w at x touches a print from below;
// beside the x at which one of height h at y touches it from the right.
func (t *table) under(s spot, x, w float64) float64 {
	f := &t.forms[s.form]
	if !f.circle {
		return s.y + f.h + t.gap
	}
	return s.y + f.r + t.reach(f.r, beyond(s.x+f.r, x, x+w))
}

func (t *table) beside(s spot, y, h float64) float64 {
	f := &t.forms[s.form]
	if !f.circle {
		return s.x + f.w + t.gap
	}
	return s.x + f.r + t.reach(f.r, beyond(s.y+f.r, y, y+h))
}

// reach is how far from a circle's middle something has to stay in one direction
// that is off by so much in the other.
func (t *table) reach(r, off float64) float64 {
	r += t.gap
	if off >= r {
		return -r
	}
	return math.Sqrt(r*r - off*off)
}
