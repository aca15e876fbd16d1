package craft

import "slices"

// caution goes with kinds of work, or with what the piece is for; so does a word of care.
type caution struct {
	Text string `json:"text"`
	// Does and Withs are the kinds of work it goes with; both empty means any.
	Does  []Do   `json:"does,omitempty"`
	Withs []With `json:"withs,omitempty"`
	// Surfaces and the others narrow it to some pieces.
	Surfaces    []Surface `json:"surfaces,omitempty"`
	Hangs       bool      `json:"hangs,omitempty"`
	HoldsFlame  bool      `json:"holdsFlame,omitempty"`
	Drinkware   bool      `json:"drinkware,omitempty"`
	FoodContact bool      `json:"foodContact,omitempty"`
	ForChildren bool      `json:"forChildren,omitempty"`
}

// LabelsFirst is said with every caution.
const LabelsFirst = "Follow the label and the safety data sheet. Local codes and licensed practice come first."

func (c caution) fits(s Step, b Blank) bool {
	switch {
	case len(c.Does) > 0 && !slices.Contains(c.Does, s.Do):
		return false
	case len(c.Withs) > 0 && !slices.Contains(c.Withs, s.With):
		return false
	case len(c.Surfaces) > 0 && !slices.Contains(c.Surfaces, b.Surface):
		return false
	}
	return (!c.Hangs || b.Hangs) && (!c.HoldsFlame || b.HoldsFlame) && (!c.Drinkware || b.Drinkware) && (!c.FoodContact || b.FoodContact) && (!c.ForChildren || b.ForChildren)
}

// CautionsFor are those that go with a step on a blank. They cannot be edited away.
func CautionsFor(s Step, b Blank) []string {
	texts := []string{}
	for _, c := range library.cautions {
		if c.fits(s, b) && !slices.Contains(s.Cautions, c.Text) {
			texts = append(texts, c.Text)
		}
	}
	return texts
}
