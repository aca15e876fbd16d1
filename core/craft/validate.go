package craft

import (
	"fmt"
	"regexp"
	"slices"

	"github.com/shopspring/decimal"

	"tidykiln/core/shape"
)

// Bounds of a recipe that a person could work through.
const (
	mostSteps     = 60
	mostUses      = 30
	mostPoints    = 30
	longestText   = 400
	longestRest   = 60 * 24 * 60
	mostMinutes   = 480
	thickestFilm  = 10
	thinnestFilm  = 0.001
	mostRack      = 100
	mostOfAnyUnit = 1e6
	mostOnSheet   = 1000
)

// Validate reports the first field that no recipe can have, by its path.
func (r Recipe) Validate() error {
	if !slices.Contains([]Look{Crisp, Weathered}, r.Look) {
		return fmt.Errorf("look: must be crisp or weathered")
	}
	if err := validSteps(r.Steps); err != nil {
		return err
	}
	last := len(r.Steps) - 1
	if r.Steps[last].Rest != nil {
		return fmt.Errorf("steps[%d].rest: the last step has no rest; end with a step such as packing", last)
	}
	return nil
}

func validSteps(steps []Step) error {
	if len(steps) == 0 || len(steps) > mostSteps {
		return fmt.Errorf("steps: must hold from 1 to %d steps, not %d", mostSteps, len(steps))
	}
	seen := map[string]bool{}
	for i, s := range steps {
		at := fmt.Sprintf("steps[%d]", i)
		if s.ID == "" || len(s.ID) > 60 || seen[s.ID] {
			return fmt.Errorf("%s.id: must be there, not longer than 60 and not twice", at)
		}
		seen[s.ID] = true
		if err := s.validate(at); err != nil {
			return err
		}
		if err := validInside(steps, i, at); err != nil {
			return err
		}
	}
	return nil
}

// validInside checks a step that is done within another's rest: it follows the
// step whose rest it is, or others inside the same rest.
func validInside(steps []Step, i int, at string) error {
	s := steps[i]
	if s.Inside == "" {
		return nil
	}
	host := slices.IndexFunc(steps, func(h Step) bool { return h.ID == s.Inside })
	switch {
	case host < 0:
		return fmt.Errorf("%s.inside: there is no step %q", at, s.Inside)
	case host >= i:
		return fmt.Errorf("%s.inside: %q does not come before this step, so its rest cannot hold it", at, s.Inside)
	case steps[host].Inside != "":
		return fmt.Errorf("%s.inside: %q is itself inside a rest", at, s.Inside)
	case steps[host].Rest == nil:
		return fmt.Errorf("%s.inside: %q has no rest", at, s.Inside)
	case s.Rest != nil:
		return fmt.Errorf("%s.rest: a step inside a rest has none of its own", at)
	case steps[host].handInHand():
		return fmt.Errorf("%s.inside: the rest after %q is over in minutes", at, s.Inside)
	}
	for _, between := range steps[host+1 : i] {
		if between.Inside != s.Inside {
			return fmt.Errorf("%s.inside: must follow %q directly, or others inside the same rest", at, s.Inside)
		}
	}
	return nil
}

func (s Step) validate(at string) error {
	switch {
	case !knownDo(s.Do):
		return fmt.Errorf("%s.do: %q is not a kind of work known here", at, s.Do)
	case s.With != "" && !slices.Contains(Withs(s.Do), s.With):
		return fmt.Errorf("%s.with: %q is not something to %s with", at, s.With, s.Do)
	case s.Name == "" || len(s.Name) > 120:
		return fmt.Errorf("%s.name: must not be empty or longer than 120", at)
	case !within(s.SetupMinutes, 0, mostMinutes):
		return fmt.Errorf("%s.setupMinutes: must be from 0 to %d", at, mostMinutes)
	case !within(s.MinutesPerPiece, 0, mostMinutes):
		return fmt.Errorf("%s.minutesPerPiece: must be from 0 to %d", at, mostMinutes)
	case s.SetupMinutes+s.MinutesPerPiece == 0:
		return fmt.Errorf("%s.minutesPerPiece: with the set-up it must be over 0", at)
	case !(s.Yield > 0 && s.Yield <= 1):
		return fmt.Errorf("%s.yield: must be over 0 and at most 1", at)
	case s.Tone != "" && (s.Do != PaintBase || !slices.Contains(Tones(), s.Tone)):
		return fmt.Errorf("%s.tone: a base coat leaves it light, medium or dark; other steps leave it as it is", at)
	case !slices.Contains([]Sheen{"", Matt, Satin, Gloss}, s.Sheen):
		return fmt.Errorf("%s.sheen: %q is not a sheen known here", at, s.Sheen)
	}
	for j, o := range s.Outcomes {
		if !slices.Contains([]Outcome{Again, Rework, Spoiled}, o) || slices.Contains(s.Outcomes[:j], o) {
			return fmt.Errorf("%s.outcomes[%d]: must be again, rework or spoiled, each once", at, j)
		}
	}
	for j, h := range s.Holds {
		if !slices.Contains(Holdings(), h) || slices.Contains(s.Holds[:j], h) {
			return fmt.Errorf("%s.holds[%d]: %q is not a place or machine known here, or is named twice", at, j, h)
		}
	}
	if err := s.validUses(at); err != nil {
		return err
	}
	if o := s.Outside; o != nil {
		for name, amount := range map[string]decimal.Decimal{"perPiece": o.PerPiece, "perBatch": o.PerBatch} {
			if amount.IsNegative() || amount.GreaterThan(decimal.NewFromInt(mostOfAnyUnit)) {
				return fmt.Errorf("%s.outside.%s: must be from 0 to %d", at, name, int(mostOfAnyUnit))
			}
		}
	}
	if err := validTexts(at+".checklist", s.Checklist); err != nil {
		return err
	}
	if err := validTexts(at+".cautions", s.Cautions); err != nil {
		return err
	}
	return s.Rest.validate(at + ".rest")
}

func (s Step) validUses(at string) error {
	if len(s.Uses) > mostUses {
		return fmt.Errorf("%s.uses: at most %d materials", at, mostUses)
	}
	for j, u := range s.Uses {
		at := fmt.Sprintf("%s.uses[%d]", at, j)
		switch {
		case u.Material == "":
			return fmt.Errorf("%s.material: must be named", at)
		case !within(u.Quantity, 0, mostOfAnyUnit):
			return fmt.Errorf("%s.quantity: must be from 0 to %d", at, int(mostOfAnyUnit))
		case !slices.Contains(UsePers(), u.Per):
			return fmt.Errorf("%s.per: %q is not known here", at, u.Per)
		case !within(float64(u.Margin), 0, 200):
			return fmt.Errorf("%s.marginMm: must be from 0 to 200 mm", at)
		case !within(u.PowerMinutes, 0, mostMinutes):
			return fmt.Errorf("%s.powerMinutes: must be from 0 to %d", at, mostMinutes)
		case u.OnSheet < 0 || u.OnSheet > mostOnSheet:
			return fmt.Errorf("%s.onSheet: must be from 0 to %d; 0 is worked out from the picture", at, mostOnSheet)
		case u.Per != PerCoat:
			continue
		case len(u.Faces) == 0:
			return fmt.Errorf("%s.faces: a coat goes on at least one face", at)
		case !within(float64(u.Film), thinnestFilm, thickestFilm):
			return fmt.Errorf("%s.filmMm: a coat needs a film from %g to %d mm", at, thinnestFilm, thickestFilm)
		}
		for k, f := range u.Faces {
			if !slices.Contains([]shape.Face{shape.Front, shape.Back, shape.Edge, shape.Picture}, f) {
				return fmt.Errorf("%s.faces[%d]: %q is not a face known here", at, k, f)
			}
		}
	}
	return nil
}

func validTexts(at string, texts []string) error {
	if len(texts) > mostPoints {
		return fmt.Errorf("%s: at most %d", at, mostPoints)
	}
	for j, text := range texts {
		if text == "" || len(text) > longestText {
			return fmt.Errorf("%s[%d]: must not be empty or longer than %d", at, j, longestText)
		}
	}
	return nil
}

func (r *Rest) validate(at string) error {
	switch {
	case r == nil:
		return nil
	case !slices.Contains([]RestKind{Dry, Cure, Soak, Cool}, r.Kind):
		return fmt.Errorf("%s.kind: must be dry, cure, soak or cool", at)
	case r.Floor < 0 || r.Floor > longestRest:
		return fmt.Errorf("%s.floor: must be from 0 to %s", at, InHours(longestRest))
	case r.Usual < r.Floor || r.Usual > longestRest:
		return fmt.Errorf("%s.usual: must not be under the floor of %s, nor over %s", at, InHours(r.Floor), InHours(longestRest))
	case r.Ceiling != nil && (*r.Ceiling < r.Usual || *r.Ceiling > longestRest):
		return fmt.Errorf("%s.ceiling: must not be under the usual rest of %s, nor over %s", at, InHours(r.Usual), InHours(longestRest))
	case r.Rack < 0 || r.Rack > mostRack:
		return fmt.Errorf("%s.rack: must be from 0 to %d places a piece", at, mostRack)
	}
	return nil
}

func within(v, low, high float64) bool { return v >= low && v <= high }

var methodKey = regexp.MustCompile(`^[a-z][a-z0-9-]{1,39}$`)

// Validate reports the first field that no method can have, by its path.
func (m Method) Validate() error {
	switch {
	case m.Format != MethodFormat:
		return fmt.Errorf("format: must be %q", MethodFormat)
	case !methodKey.MatchString(m.Key):
		return fmt.Errorf("key: must be from 2 to 40 small letters, digits and hyphens, a letter first")
	case m.Name == "" || len(m.Name) > 120:
		return fmt.Errorf("name: must not be empty or longer than 120")
	case len(m.About) > longestText:
		return fmt.Errorf("about: must not be longer than %d", longestText)
	case len(m.Removal) > longestText:
		return fmt.Errorf("removal: must not be longer than %d", longestText)
	case !slices.Contains([]ViewSide{PaperSide, PrintedFace}, m.ViewSide):
		return fmt.Errorf("viewSide: must be paper or printed-face")
	case m.Floor != nil && (*m.Floor < 0 || *m.Floor > longestRest):
		return fmt.Errorf("floorMinutes: must be from 0 to %d", longestRest)
	case len(m.Surfaces) == 0:
		return fmt.Errorf("surfaces: must name at least one")
	}
	if family, known := MethodByKey(m.Family); !known {
		return fmt.Errorf("family: %q is not a built-in method", m.Family)
	} else if family.ViewSide != m.ViewSide {
		return fmt.Errorf("viewSide: must be that of its family, %s", family.ViewSide)
	}
	for i, s := range m.Surfaces {
		if !slices.Contains(Surfaces(), s) {
			return fmt.Errorf("surfaces[%d]: %q is not a surface known here", i, s)
		}
	}
	if err := m.validPrints(); err != nil {
		return err
	}
	steps := make([]Step, len(m.Steps))
	for i, s := range m.Steps {
		if !within(s.MinutesPer100cm2, 0, mostMinutes) {
			return fmt.Errorf("steps[%d].minutesPer100cm2: must be from 0 to %d", i, mostMinutes)
		}
		if err := s.When.validate(fmt.Sprintf("steps[%d].when", i)); err != nil {
			return err
		}
		steps[i] = s.Step
		steps[i].SetupMinutes += s.MinutesPer100cm2 // either keeps the step from taking no time
	}
	return validSteps(steps)
}

func (m Method) validPrints() error {
	if len(m.Prints) == 0 {
		return fmt.Errorf("prints: must name at least one")
	}
	for i, p := range m.Prints {
		if !slices.Contains(PrintKinds(), p.Kind) {
			return fmt.Errorf("prints[%d].kind: %q is not known here", i, p.Kind)
		}
		if !slices.Contains(Carriers(), p.Carrier) {
			return fmt.Errorf("prints[%d].carrier: %q is not known here", i, p.Carrier)
		}
	}
	for i, on := range m.MediumOn {
		if !slices.Contains([]MediumOn{OnSurface, OnPrint, OnBoth}, on) {
			return fmt.Errorf("mediumOn[%d]: must be surface, print or both", i)
		}
	}
	return nil
}

func (w *When) validate(at string) error {
	if w == nil {
		return nil
	}
	for i, s := range w.Surfaces {
		if !slices.Contains(Surfaces(), s) {
			return fmt.Errorf("%s.surfaces[%d]: %q is not a surface known here", at, i, s)
		}
	}
	for i, t := range w.Tones {
		if !slices.Contains(Tones(), t) {
			return fmt.Errorf("%s.tones[%d]: must be light, medium or dark", at, i)
		}
	}
	for i, k := range w.Shapes {
		if !slices.Contains([]shape.Kind{shape.Rectangle, shape.Disc, shape.Cylinder}, k) {
			return fmt.Errorf("%s.shapes[%d]: %q is not an outline known here", at, i, k)
		}
	}
	if !slices.Contains([]Carrier{"", DecalClear, DecalWhite}, w.Film) {
		return fmt.Errorf("%s.film: must be decal-clear or decal-white", at)
	}
	if !slices.Contains([]Look{"", Crisp, Weathered}, w.Look) {
		return fmt.Errorf("%s.look: must be crisp or weathered", at)
	}
	return nil
}
