package craft

import (
	"fmt"
	"slices"
)

// Bounds of a recipe that a person could work through.
const (
	mostSteps   = 60
	longestRest = 60 * 24 * 60
)

// Validate reports the first field that no recipe can have, by its path.
func (r Recipe) Validate() error {
	if len(r.Steps) == 0 || len(r.Steps) > mostSteps {
		return fmt.Errorf("steps: must hold from 1 to %d steps", mostSteps)
	}
	seen := map[string]bool{}
	for i, s := range r.Steps {
		at := fmt.Sprintf("steps[%d]", i)
		if s.ID == "" || seen[s.ID] {
			return fmt.Errorf("%s.id: must be there and not twice", at)
		}
		seen[s.ID] = true
		if err := s.validate(at); err != nil {
			return err
		}
	}
	if r.Steps[len(r.Steps)-1].Rest != nil {
		return fmt.Errorf("steps[%d].rest: the last step has no rest; end with a step such as packing", len(r.Steps)-1)
	}
	return nil
}

func (s Step) validate(at string) error {
	if s.Name == "" {
		return fmt.Errorf("%s.name: must not be empty", at)
	}
	if !within(s.SetupMinutes, 0, 480) || !within(s.MinutesPerPiece, 0, 480) || s.SetupMinutes+s.MinutesPerPiece == 0 {
		return fmt.Errorf("%s.minutesPerPiece: with the set-up it must be over 0 and at most 480 min", at)
	}
	if !(s.Yield > 0 && s.Yield <= 1) {
		return fmt.Errorf("%s.yield: must be over 0 and at most 1", at)
	}
	for j, u := range s.Uses {
		if u.Material == "" || !within(u.Quantity, 0, 1e6) {
			return fmt.Errorf("%s.uses[%d].quantity: must be from 0 to 1000000 of a named material", at, j)
		}
		if !slices.Contains([]UsePer{PerPiece, PerBatch, PerCoat}, u.Per) {
			return fmt.Errorf("%s.uses[%d].per: %q is not known here", at, j, u.Per)
		}
		if u.Per == PerCoat && (len(u.Faces) == 0 || !within(float64(u.Film), 0.001, 10)) {
			return fmt.Errorf("%s.uses[%d].filmMm: a coat needs its faces and a film from 0.001 to 10 mm", at, j)
		}
	}
	return s.Rest.validate(at + ".rest")
}

func (r *Rest) validate(at string) error {
	switch {
	case r == nil:
		return nil
	case r.Floor < 0 || r.Floor > longestRest:
		return fmt.Errorf("%s.floor: must be from 0 to %d min", at, longestRest)
	case r.Usual < r.Floor || r.Usual > longestRest:
		return fmt.Errorf("%s.usual: must not be under the floor", at)
	case r.Ceiling != nil && (*r.Ceiling < r.Usual || *r.Ceiling > longestRest):
		return fmt.Errorf("%s.ceiling: must not be under the usual rest", at)
	case r.Rack < 0 || r.Rack > 100:
		return fmt.Errorf("%s.rack: must be from 0 to 100 places a piece", at)
	}
	return nil
}

func within(v, low, high float64) bool { return v >= low && v <= high }
