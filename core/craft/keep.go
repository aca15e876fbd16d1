package craft

import (
	"fmt"
	"regexp"
	"slices"
	"strings"

	"tidykiln/core/shape"
)

// sided is the name of a step that one of several printed sides has to itself.
var sided = regexp.MustCompile(`^(.+), side (\d+)$`)

// MethodSteps are the steps of a recipe as those of a method: proposed again for
// the same blank and picture they are the recipe's. Minutes and materials of
// work on the print are for one printed side, the blank is whichever is made.
// isBlank tells the keys of blanks; like is the method the recipe grew from.
func (r Recipe) MethodSteps(like Method, b Blank, isBlank func(material string) bool) (steps []MethodStep) {
	out := 0.0 // set-up that is out already, which a step was not charged for again
	for _, s := range r.Steps {
		own := s
		if own.SetupMinutes > 0 && own.Inside == "" {
			own.SetupMinutes += out
		}
		if s.Inside == "" {
			out = max(out, own.SetupMinutes)
			if s.Rest != nil && !s.handInHand() {
				out = 0
			}
		}
		m := MethodStep{Step: own}
		if name := sided.FindStringSubmatch(s.Name); name != nil && r.onManySides(s, name[1]) {
			if name[2] != "1" {
				continue
			}
			m.Name, m.EachSide = name[1], true
		} else {
			m.EachSide = slices.ContainsFunc(like.Steps, func(l MethodStep) bool { return l.ID == s.ID && l.EachSide })
		}
		m.Uses = slices.Clone(s.Uses)
		m.forOneSide(b, isBlank)
		if m.Do == PrintOut {
			m.Checklist = slices.DeleteFunc(slices.Clone(s.Checklist), func(c string) bool {
				return c == like.mirrorCheck(true) || c == like.mirrorCheck(false)
			})
		}
		steps = append(steps, m)
	}
	return steps
}

// onManySides tells whether the step is one of several, each for one side.
func (r Recipe) onManySides(s Step, name string) bool {
	if first := fmt.Sprintf("%s, side 1", name); s.Name != first {
		return slices.ContainsFunc(r.Steps, func(o Step) bool { return o.Name == first && strings.HasPrefix(s.ID, o.ID+"-") })
	}
	return slices.ContainsFunc(r.Steps, func(o Step) bool { return o.ID == s.ID+"-2" && o.Name == name+", side 2" })
}

// forOneSide takes out of a step what it has because of the blank it is made for.
func (m *MethodStep) forOneSide(b Blank, isBlank func(string) bool) {
	sides := float64(b.PrintedSides())
	onPrint := m.Do.facts().OnPicture
	if !onPrint || m.eachSideAlone(b) {
		sides = 1
	}
	m.MinutesPerPiece /= sides
	for i, u := range m.Uses {
		use := &m.Uses[i]
		if use.PowerMinutes /= sides; !isBlank(u.Material) && u.Per != PerBatch && u.Per != PerPower {
			use.Quantity /= sides
		}
		if u.Per == PerCoat && !onPrint {
			use.Faces = onceFront(u.Faces)
		}
		switch {
		case isBlank(u.Material):
			use.Material = "blank"
		case u.Material == inkKey:
			use.Material = tonerKey
		}
	}
}

// onceFront are the faces with the printed one in them once.
func onceFront(faces []shape.Face) (once []shape.Face) {
	for _, f := range faces {
		if f != shape.Front || !slices.Contains(once, f) {
			once = append(once, f)
		}
	}
	return once
}
