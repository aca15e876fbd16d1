package prints

import (
	"context"
	"fmt"
	"strings"

	"tidykiln/core/shape"
	"tidykiln/internal/problem"
)

// markLength is how long marks to cut at are, and markGap how far from the corner.
const (
	markLength = 2.5
	markGap    = 0.6
)

// cutLines are what is drawn on an item to cut along, and to lay it on its blank by.
func cutLines(k laidKind) (outlines [][]shape.Point, marks [][2]shape.Point) {
	switch k.cut {
	case CutPrint:
		return [][]shape.Point{k.inItem(k.print.Outline)}, nil
	case CutBlank:
		return [][]shape.Point{k.inItem(k.blankOutline())}, k.corners()
	case CutMarks:
		return nil, k.corners()
	}
	return nil, nil
}

// blankOutline is the blank's outline, from the corner of the print's box.
func (k laidKind) blankOutline() []shape.Point {
	o := k.blank.Outline()
	moved := make([]shape.Point, len(o))
	for i, p := range o {
		moved[i] = shape.Point{X: p.X - k.print.X, Y: p.Y - k.print.Y}
	}
	return moved
}

// inItem is an outline of the print as it lies in its item.
func (k laidKind) inItem(o []shape.Point) []shape.Point {
	laid := make([]shape.Point, len(o))
	for i, p := range o {
		if k.Mirrored {
			p.X = k.print.Width - p.X
		}
		laid[i] = shape.Point{X: p.X + k.X, Y: p.Y + k.Y}
	}
	return laid
}

// corners are two short marks at each corner of the print's box.
func (k laidKind) corners() (marks [][2]shape.Point) {
	for _, c := range [4][2]float64{{0, 0}, {1, 0}, {1, 1}, {0, 1}} {
		x, y := k.X+c[0]*k.print.Width, k.Y+c[1]*k.print.Height
		out := func(v float64) float64 { return 2*v - 1 } // away from the print
		marks = append(marks,
			[2]shape.Point{{X: x + out(c[0])*markGap, Y: y}, {X: x + out(c[0])*(markGap+markLength), Y: y}},
			[2]shape.Point{{X: x, Y: y + out(c[1])*markGap}, {X: x, Y: y + out(c[1])*(markGap+markLength)}})
	}
	return marks
}

// Outlines are the cut outlines of one sheet of a job as an SVG at true size.
func (a *Area) Outlines(ctx context.Context, id uint64, number int) (string, error) {
	j, err := a.Get(ctx, id)
	if err != nil {
		return "", err
	}
	if number < 1 || number > len(j.Layout.Sheets) {
		return "", problem.NotFound("sheet")
	}
	d, err := a.drafting(ctx, j)
	if err != nil {
		return "", err
	}
	p := j.Paper.lying()
	width := p.Width / float64(p.up())
	var b strings.Builder
	fmt.Fprintf(&b, `<svg xmlns="http://www.w3.org/2000/svg" width="%gmm" height="%gmm" viewBox="0 0 %g %g">`+"\n", width, p.Height, width, p.Height)
	for _, it := range j.Layout.Sheets[number-1].Items {
		k := d.kinds[it.Kind]
		o := k.inItem(k.print.Outline)
		for i, at := range o {
			if it.Turned {
				at = shape.Point{X: k.Height - at.Y, Y: at.X}
			}
			o[i] = shape.Point{X: at.X + it.X, Y: at.Y + it.Y}
		}
		fmt.Fprintf(&b, `<path fill="none" stroke="#000" stroke-width="0.1" d="%s"/>`+"\n", shape.PathOf(o))
	}
	b.WriteString("</svg>\n")
	return b.String(), nil
}
