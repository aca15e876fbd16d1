package craft

import (
	"fmt"
	"regexp"
	"slices"

	"github.com/shopspring/decimal"

	"tidykiln/core/fault"
	"tidykiln/core/measure"
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
		return fault.At("look", "must be crisp or weathered")
	}
	if err := validSteps(r.Steps); err != nil {
		return err
	}
	last := len(r.Steps) - 1
	if r.Steps[last].Rest != nil {
		return fault.At(fmt.Sprintf("steps[%d].rest", last), "the last step has no rest; end with a step such as packing")
	}
	return nil
}

func validSteps(steps []Step) error {
	if len(steps) == 0 || len(steps) > mostSteps {
		return fault.At("steps", "must hold from 1 to %d steps, not %d", mostSteps, len(steps))
	}
	seen := map[string]bool{}
	for i, s := range steps {
		at := fmt.Sprintf("steps[%d]", i)
		if s.ID == "" || len(s.ID) > 60 || seen[s.ID] {
			return fault.At(at+".id", "must be there, not longer than 60 and not twice")
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
		return fault.At(at+".inside", "there is no step %q", s.Inside)
	case host >= i:
		return fault.At(at+".inside", "%q does not come before this step, so its rest cannot hold it", s.Inside)
	case steps[host].Inside != "":
		return fault.At(at+".inside", "%q is itself inside a rest", s.Inside)
	case steps[host].Rest == nil:
		return fault.At(at+".inside", "%q has no rest", s.Inside)
	case s.Rest != nil:
		return fault.At(at+".rest", "a step inside a rest has none of its own")
	case steps[host].handInHand():
		return fault.At(at+".inside", "the rest after %q is over in minutes", s.Inside)
	}
	for _, between := range steps[host+1 : i] {
		if between.Inside != s.Inside {
			return fault.At(at+".inside", "must follow %q directly, or others inside the same rest", s.Inside)
		}
	}
	return nil
}

func (s Step) validate(at string) error {
	switch {
	case !knownDo(s.Do):
		return fault.At(at+".do", "%q is not a kind of work known here", s.Do)
	case s.With != "" && !slices.Contains(Withs(s.Do), s.With):
		return fault.At(at+".with", "%q is not something to %s with", s.With, s.Do)
	case s.Name == "" || len(s.Name) > 120:
		return fault.At(at+".name", "must not be empty or longer than 120")
	case !within(s.SetupMinutes, 0, mostMinutes):
		return fault.At(at+".setupMinutes", "must be from 0 to %d", mostMinutes)
	case !within(s.MinutesPerPiece, 0, mostMinutes):
		return fault.At(at+".minutesPerPiece", "must be from 0 to %d", mostMinutes)
	case s.SetupMinutes+s.MinutesPerPiece == 0:
		return fault.At(at+".minutesPerPiece", "with the set-up it must be over 0")
	case !(s.Yield > 0 && s.Yield <= 1):
		return fault.At(at+".yield", "must be over 0 and at most 1")
	case s.Tone != "" && (s.Do != PaintBase || !slices.Contains(Tones(), s.Tone)):
		return fault.At(at+".tone", "a base coat leaves it light, medium or dark; other steps leave it as it is")
	case !slices.Contains([]Sheen{"", Matt, Satin, Gloss}, s.Sheen):
		return fault.At(at+".sheen", "%q is not a sheen known here", s.Sheen)
	}
	for j, o := range s.Outcomes {
		if !slices.Contains([]Outcome{Again, Rework, Spoiled}, o) || slices.Contains(s.Outcomes[:j], o) {
			return fault.At(fmt.Sprintf("%s.outcomes[%d]", at, j), "must be again, rework or spoiled, each once")
		}
	}
	for j, h := range s.Holds {
		if !slices.Contains(Holdings(), h) || slices.Contains(s.Holds[:j], h) {
			return fault.At(fmt.Sprintf("%s.holds[%d]", at, j), "%q is not a place or machine known here, or is named twice", h)
		}
	}
	if err := s.validUses(at); err != nil {
		return err
	}
	if o := s.Outside; o != nil {
		for name, amount := range map[string]decimal.Decimal{"perPiece": o.PerPiece, "perBatch": o.PerBatch} {
			if amount.IsNegative() || amount.GreaterThan(decimal.NewFromInt(mostOfAnyUnit)) {
				return fault.At(fmt.Sprintf("%s.outside.%s", at, name), "must be from 0 to %d", int(mostOfAnyUnit))
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
		return fault.At(at+".uses", "at most %d materials", mostUses)
	}
	for j, u := range s.Uses {
		at := fmt.Sprintf("%s.uses[%d]", at, j)
		switch {
		case u.Material == "":
			return fault.At(at+".material", "must be named")
		case !within(u.Quantity, 0, mostOfAnyUnit):
			return fault.At(at+".quantity", "must be from 0 to %d", int(mostOfAnyUnit))
		case !slices.Contains(UsePers(), u.Per):
			return fault.At(at+".per", "%q is not known here", u.Per)
		case !within(float64(u.Margin), 0, 200):
			return fault.At(at+".marginMm", "must be from 0 to 200 mm")
		case !within(u.PowerMinutes, 0, mostMinutes):
			return fault.At(at+".powerMinutes", "must be from 0 to %d", mostMinutes)
		case u.Ink != "" && (u.Per != PerPrint || !slices.Contains(Inks(), u.Ink)):
			return fault.At(at+".ink", "must be black, cyan, magenta or yellow, of prints by what they cover")
		case u.OnSheet < 0 || u.OnSheet > mostOnSheet:
			return fault.At(at+".onSheet", "must be from 0 to %d; 0 is worked out from the picture", mostOnSheet)
		case u.Per != PerCoat:
			continue
		case len(u.Faces) == 0:
			return fault.At(at+".faces", "a coat goes on at least one face")
		case !within(float64(u.Film), thinnestFilm, thickestFilm):
			return fault.At(at+".filmMm", "a coat needs a film from %g to %d mm", thinnestFilm, thickestFilm)
		}
		for k, f := range u.Faces {
			if !slices.Contains([]shape.Face{shape.Front, shape.Back, shape.Edge, shape.Picture}, f) {
				return fault.At(fmt.Sprintf("%s.faces[%d]", at, k), "%q is not a face known here", f)
			}
		}
	}
	return nil
}

func validTexts(at string, texts []string) error {
	if len(texts) > mostPoints {
		return fault.At(at, "at most %d", mostPoints)
	}
	for j, text := range texts {
		if text == "" || len(text) > longestText {
			return fault.At(fmt.Sprintf("%s[%d]", at, j), "must not be empty or longer than %d", longestText)
		}
	}
	return nil
}

func (r *Rest) validate(at string) error {
	switch {
	case r == nil:
		return nil
	case !slices.Contains([]RestKind{Dry, Cure, Soak, Cool}, r.Kind):
		return fault.At(at+".kind", "must be dry, cure, soak or cool")
	case r.Floor < 0 || r.Floor > longestRest:
		return fault.At(at+".floor", "must be from 0 to %s", measure.Duration(longestRest))
	case r.Usual < r.Floor || r.Usual > longestRest:
		return fault.At(at+".usual", "must not be under the floor of %s, nor over %s", measure.Duration(r.Floor), measure.Duration(longestRest))
	case r.Ceiling != nil && (*r.Ceiling < r.Usual || *r.Ceiling > longestRest):
		return fault.At(at+".ceiling", "must not be under the usual rest of %s, nor over %s", measure.Duration(r.Usual), measure.Duration(longestRest))
	case r.Rack < 0 || r.Rack > mostRack:
		return fault.At(at+".rack", "must be from 0 to %d places a piece", mostRack)
	}
	return nil
}

func within(v, low, high float64) bool { return v >= low && v <= high }

var methodKey = regexp.MustCompile(`^[a-z][a-z0-9-]{1,39}$`)

// Validate reports the first field that no method can have, by its path.
func (m Method) Validate() error {
	switch {
	case m.Format != MethodFormat:
		return fault.At("format", "must be %q", MethodFormat)
	case !methodKey.MatchString(m.Key):
		return fault.At("key", "must be from 2 to 40 small letters, digits and hyphens, a letter first")
	case m.Name == "" || len(m.Name) > 120:
		return fault.At("name", "must not be empty or longer than 120")
	case len(m.About) > longestText:
		return fault.At("about", "must not be longer than %d", longestText)
	case len(m.Removal) > longestText:
		return fault.At("removal", "must not be longer than %d", longestText)
	case !slices.Contains([]ViewSide{PaperSide, PrintedFace}, m.ViewSide):
		return fault.At("viewSide", "must be paper or printed-face")
	case m.Floor != nil && (*m.Floor < 0 || *m.Floor > longestRest):
		return fault.At("floorMinutes", "must be from 0 to %d", longestRest)
	case len(m.Surfaces) == 0:
		return fault.At("surfaces", "must name at least one")
	}
	switch family, known := MethodByKey(m.Family); {
	case !known:
		return fault.At("family", "%q is not a built-in method", m.Family)
	case family.ViewSide != m.ViewSide:
		return fault.At("viewSide", "must be that of its family, %s", family.ViewSide)
	case m.Facts != nil && *m.Facts != *family.Facts:
		return fault.At("facts", "those of its family hold, %s; leave them out", family.Key)
	}
	for i, s := range m.Surfaces {
		if !slices.Contains(Surfaces(), s) {
			return fault.At(fmt.Sprintf("surfaces[%d]", i), "%q is not a surface known here", s)
		}
	}
	if err := m.validPrints(); err != nil {
		return err
	}
	steps := make([]Step, len(m.Steps))
	for i, s := range m.Steps {
		if !within(s.MinutesPer100cm2, 0, mostMinutes) {
			return fault.At(fmt.Sprintf("steps[%d].minutesPer100cm2", i), "must be from 0 to %d", mostMinutes)
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
		return fault.At("prints", "must name at least one")
	}
	for i, p := range m.Prints {
		if !slices.Contains(PrintKinds(), p.Kind) {
			return fault.At(fmt.Sprintf("prints[%d].kind", i), "%q is not known here", p.Kind)
		}
		if !slices.Contains(Carriers(), p.Carrier) {
			return fault.At(fmt.Sprintf("prints[%d].carrier", i), "%q is not known here", p.Carrier)
		}
	}
	for i, on := range m.MediumOn {
		if !slices.Contains([]MediumOn{OnSurface, OnPrint, OnBoth}, on) {
			return fault.At(fmt.Sprintf("mediumOn[%d]", i), "must be surface, print or both")
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
			return fault.At(fmt.Sprintf("%s.surfaces[%d]", at, i), "%q is not a surface known here", s)
		}
	}
	for i, t := range w.Tones {
		if !slices.Contains(Tones(), t) {
			return fault.At(fmt.Sprintf("%s.tones[%d]", at, i), "must be light, medium or dark")
		}
	}
	for i, k := range w.Shapes {
		if !slices.Contains(shape.Kinds(), k) {
			return fault.At(fmt.Sprintf("%s.shapes[%d]", at, i), "%q is not an outline known here", k)
		}
	}
	if !slices.Contains([]Carrier{"", DecalClear, DecalWhite}, w.Film) {
		return fault.At(at+".film", "must be decal-clear or decal-white")
	}
	if !slices.Contains([]Look{"", Crisp, Weathered}, w.Look) {
		return fault.At(at+".look", "must be crisp or weathered")
	}
	return nil
}
