package wrap

import (
	"fmt"
	"math"
	"strings"
)

// SVG draws the template of a wall at true size, in mm: its outline to cut along, the
// seam's fold dashed. A wall that is wider at the bottom stands the other way up, so that
// the picture's top is the template's. The error names the measure at fault.
func SVG(w Wall) (string, error) {
	if err := w.validate(); err != nil {
		return "", err
	}
	b := w.box()
	wide, tall := b.right-b.left, b.bottom-b.top
	// Half a line's width is kept free on every side.
	const line = 0.3
	var s strings.Builder
	fmt.Fprintf(&s, `<svg xmlns="http://www.w3.org/2000/svg" width="%.2fmm" height="%.2fmm" viewBox="%.2f %.2f %.2f %.2f">`+"\n", wide+line, tall+line, -line/2, -line/2, wide+line, tall+line)
	fmt.Fprintf(&s, `<g fill="none" stroke="#000" stroke-width="%.1f"%s>`+"\n", line, w.turned(tall))
	fmt.Fprintf(&s, `<path d="%s"/>`+"\n", w.outline(b))
	if w.Seam > 0 {
		c := w.corners()
		fmt.Fprintf(&s, `<path d="M%sL%s" stroke-dasharray="3 2"/>`+"\n", at(b, c[1]), at(b, c[2]))
	}
	s.WriteString("</g>\n</svg>\n")
	return s.String(), nil
}

func (w Wall) turned(tall float64) string {
	if w.Bottom <= w.Top {
		return ""
	}
	return fmt.Sprintf(` transform="matrix(1 0 0 -1 0 %.2f)"`, tall)
}

// outline goes along the wide edge, round the seam, and back along the narrow one.
func (w Wall) outline(b box) string {
	c, o := w.corners(), w.overlap()
	edge := func(radius float64, sweep int, to point) string {
		if w.straight() {
			return "L" + at(b, to)
		}
		large := 0
		if w.half() > math.Pi/2 {
			large = 1
		}
		return fmt.Sprintf("A%.3f %.3f 0 %d %d %s", radius, radius, large, sweep, at(b, to))
	}
	var outer, inner float64
	if !w.straight() {
		outer, inner = w.outer(), w.inner()
	}
	path := "M" + at(b, c[0]) + edge(outer, 1, c[1])
	if w.Seam > 0 {
		path += "L" + at(b, o[0]) + "L" + at(b, o[1])
	}
	return path + "L" + at(b, c[2]) + edge(inner, 0, c[3]) + "Z"
}

// at writes a place as it stands in the box.
func at(b box, p point) string { return fmt.Sprintf("%.3f %.3f", p.x-b.left, p.y-b.top) }
