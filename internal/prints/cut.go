package prints

import (
	"context"
	"fmt"
	"math"
	"strings"

	"tidykiln/core/design"
	"tidykiln/core/shape"
	"tidykiln/internal/problem"
)

// markLength is how long marks are, in mm, and markGap how far from the print.
const (
	markLength = 2.5
	markGap    = 0.6
	// handleApart is how far the two marks of a handle are apart.
	handleApart = 1.2
)

// cutLines are what is drawn on an item to cut along, and to lay it on its blank by.
func cutLines(k laidKind) (outlines [][]shape.Point, marks [][2]shape.Point) {
	marks = k.handles()
	switch k.cut {
	case CutPrint:
		outlines = [][]shape.Point{k.inItem(k.print.Outline)}
	case CutBlank:
		outlines, marks = [][]shape.Point{k.inItem(k.blankOutline())}, append(marks, k.corners()...)
	case CutMarks:
		marks = append(marks, k.corners()...)
	}
	return outlines, marks
}

// markRoom is what marks need round a print beyond the gap, so that none lies on another.
func (k laidKind) markRoom(gap float64) float64 {
	if k.cut != CutMarks && k.cut != CutBlank && k.design.Handle == nil {
		return 0
	}
	return max(0, markGap+markLength+markGap-gap)
}

// handles are marks beyond the rims of a print that goes round: two where the handle is,
// one at the place opposite.
func (k laidKind) handles() (marks [][2]shape.Point) {
	for i, line := range k.design.Handles(k.blank) {
		ends := k.inItem([]shape.Point{{X: line[0].X - k.print.X, Y: line[0].Y - k.print.Y}, {X: line[1].X - k.print.X, Y: line[1].Y - k.print.Y}})
		for e, at := range ends {
			from := ends[1-e]
			long := math.Hypot(at.X-from.X, at.Y-from.Y)
			dx, dy := (at.X-from.X)/long, (at.Y-from.Y)/long
			for _, aside := range [2][]float64{{-handleApart / 2, handleApart / 2}, {0}}[i] {
				x, y := at.X-dy*aside, at.Y+dx*aside
				marks = append(marks, [2]shape.Point{{X: x + dx*markGap, Y: y + dy*markGap}, {X: x + dx*(markGap+markLength), Y: y + dy*(markGap+markLength)}})
			}
		}
	}
	return marks
}

// blankOutline is the blank's outline, from the corner of the print's box.
func (k laidKind) blankOutline() []shape.Point {
	o := design.BlankOutline(k.blank)
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
