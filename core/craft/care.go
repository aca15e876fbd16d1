package craft

import "slices"

// CareFor is what whoever has a piece is told of its care: by what it is of and for, and by
// how it was finished. Where a label in the parcel says otherwise, the label holds.
func CareFor(r Recipe, b Blank) []string {
	texts := []string{}
	for _, c := range library.care {
		if len(c.Does) == 0 && c.fits(Step{}, b) || slices.ContainsFunc(r.Steps, func(s Step) bool { return c.fits(s, b) }) {
			texts = append(texts, c.Text)
		}
	}
	return texts
}
