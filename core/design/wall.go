package design

import (
	"image"
	"image/color"
	"math"

	"golang.org/x/image/draw"

	"tidykiln/core/measure"
	"tidykiln/core/picture"
	"tidykiln/core/shape"
	"tidykiln/core/wrap"
)

// bend is how a picture lies on a wall: flat, it is Width × Height mm, once round at the
// wide edge and as high as the wall between its free rims.
type bend struct {
	sector        wrap.Sector
	top, foot     float64
	width, height float64
}

func (d Design) bend(w wrap.Wall) *bend {
	s := w.Sector()
	rim := float64(d.Border) / s.Slant
	return &bend{sector: s, top: rim, foot: 1 - rim, width: s.Width, height: s.Slant - 2*float64(d.Border)}
}

// band is the outline of a print that goes round a wall: free rims above and below, and
// the seam beyond a full turn. Empty where the rims leave nothing.
func (d Design) band(w wrap.Wall) []shape.Point {
	if !(w.Top > 0 && w.Bottom > 0 && w.Height > 0) {
		return nil
	}
	b := d.bend(w)
	if b.height <= 0 {
		return nil
	}
	var outline []shape.Point
	for _, p := range b.sector.Band(b.top, b.foot, 1+float64(d.Seam)/b.sector.Width) {
		outline = append(outline, shape.Point{X: p[0], Y: p[1]})
	}
	return outline
}

// BlankOutline is the outline of a blank as it is laid flat: of a wall its template.
func BlankOutline(s shape.Shape) []shape.Point {
	if w, stands := s.Wall(); stands {
		return Design{}.band(w)
	}
	return s.Outline()
}

// RimGap is how far below the upper rim of a wall the print begins, along the slant;
// less than nothing where it bleeds over. Of what does not stand it is not known.
func (d Design) RimGap(s shape.Shape) (gap measure.Length, stands bool) {
	w, stands := s.Wall()
	switch {
	case !stands:
		return 0, false
	case d.sized():
		return (measure.Length(w.Sector().Slant) - d.Height) / 2, true
	}
	return d.Border, true
}

// Below is the outline of a blank from so far below its upper rim; nil of what does not
// stand, or is no higher.
func Below(s shape.Shape, gap measure.Length) []shape.Point {
	w, stands := s.Wall()
	if !stands || float64(gap) >= w.Sector().Slant {
		return nil
	}
	var outline []shape.Point
	sector := w.Sector()
	for _, p := range sector.Band(float64(gap)/sector.Slant, 1, 1) {
		outline = append(outline, shape.Point{X: p[0], Y: p[1]})
	}
	return outline
}

// Handles are where a handle is and the place opposite on a wall laid flat, each a line
// from the upper rim of the print to the lower; nil where nobody has said.
func (d Design) Handles(s shape.Shape) (lines [][2]shape.Point) {
	w, stands := s.Wall()
	if !stands || d.Handle == nil || len(d.band(w)) == 0 {
		return nil
	}
	b := d.bend(w)
	for _, half := range [2]float64{0, 0.5} {
		round := math.Mod(float64(*d.Handle)/b.sector.Width+half, 1)
		var line [2]shape.Point
		line[0].X, line[0].Y = b.sector.Place(round, b.top)
		line[1].X, line[1].Y = b.sector.Place(round, b.foot)
		lines = append(lines, line)
	}
	return lines
}

// Flat is how large the picture of a print is before it is bent round a wall, in mm: the
// print's own box where it is not.
func (p Print) Flat() (width, height float64) {
	if p.bend != nil {
		return p.bend.width, p.bend.height
	}
	return p.Width, p.Height
}

// Bent tells whether the print goes round a wall that is not straight, or over its seam:
// its picture is not simply laid in its box.
func (p Print) Bent() bool {
	return p.bend != nil && (!p.bend.sector.Straight || p.Width > p.bend.width+0.01)
}

// Ppi is how many of a picture's pixels lie on an inch of the print, where it is widest.
func (d Design) Ppi(p Print, px picture.Pixels) float64 {
	w, h := p.Flat()
	return d.Placing.Ppi(px, w, h)
}

// Covers tells whether no paper shows in the print.
func (d Design) Covers(p Print, px picture.Pixels) bool {
	w, h := p.Flat()
	return d.Placing.Covers(px, w, h)
}

// Draw draws the box of a print from a picture at so many pixels an inch.
func (d Design) Draw(p Print, src image.Image, ppi float64) *image.RGBA {
	w, h := p.Flat()
	flat := d.Placing.Print(src, d.CleanUp, w, h, ppi)
	if !p.Bent() {
		return flat
	}
	return p.round(flat, ppi)
}

// round bends a flat picture round the wall, each place of the template taking the
// colour of its place on the wall.
func (p Print) round(flat *image.RGBA, ppi float64) *image.RGBA {
	perMm := ppi / 25.4
	out := image.NewRGBA(image.Rect(0, 0, max(1, int(math.Round(p.Width*perMm))), max(1, int(math.Round(p.Height*perMm)))))
	draw.Draw(out, out.Rect, image.NewUniform(color.White), image.Point{}, draw.Src)
	fw, fh := float64(flat.Rect.Dx()), float64(flat.Rect.Dy())
	for y := range out.Rect.Dy() {
		for x := range out.Rect.Dx() {
			round, down := p.bend.sector.At((float64(x)+0.5)/perMm+p.X, (float64(y)+0.5)/perMm+p.Y)
			down = (down - p.bend.top) / (p.bend.foot - p.bend.top)
			if down < 0 || down > 1 || round < -0.001 {
				continue
			}
			out.SetRGBA(x, y, between(flat, math.Mod(max(0, round), 1)*fw-0.5, down*fh-0.5))
		}
	}
	return out
}

// between is the colour at a place among four pixels; at the edges the last one goes on,
// round the wall the first comes after the last.
func between(img *image.RGBA, x, y float64) color.RGBA {
	w, h := img.Rect.Dx(), img.Rect.Dy()
	x0, y0 := math.Floor(x), math.Floor(y)
	fx, fy := x-x0, y-y0
	at := func(dx, dy int) [3]float64 {
		c := img.RGBAAt((int(x0)+dx+w)%w, min(h-1, max(0, int(y0)+dy)))
		return [3]float64{float64(c.R), float64(c.G), float64(c.B)}
	}
	a, b, c, d := at(0, 0), at(1, 0), at(0, 1), at(1, 1)
	var v [3]uint8
	for i := range v {
		v[i] = uint8(math.Round((a[i]*(1-fx)+b[i]*fx)*(1-fy) + (c[i]*(1-fx)+d[i]*fx)*fy))
	}
	return color.RGBA{v[0], v[1], v[2], 255}
}
