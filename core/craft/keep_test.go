package craft_test

import (
	"fmt"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"tidykiln/core/craft"
	"tidykiln/core/shape"
)

func TestAMethodKeptFromARecipeProposesThatRecipeAgain(t *testing.T) {
	for _, m := range craft.Methods() {
		for _, surface := range m.Surfaces {
			for _, sides := range []int{1, 2, 3} {
				for _, apart := range []bool{false, true} {
					blank := craft.Blank{Surface: surface, Shape: shape.Shape{Kind: shape.Rectangle, Width: 120, Height: 90, Thickness: 12}, Tone: craft.Dark,
						Sides: sides, SidesApart: apart, Hangs: true, Drinkware: true}
					ask := craft.Ask{Blank: blank, Picture: craft.Picture{Width: 80, Height: 60, Kind: craft.Inkjet}, Look: craft.Weathered, Material: "box"}
					r, err := m.Propose(ask)
					require.NoError(t, err)
					kept := m
					kept.Key = "ours"
					kept.Steps = r.MethodSteps(m, blank, func(key string) bool { return key == "box" })
					require.NoError(t, kept.Validate())
					again, err := kept.Propose(ask)
					require.NoError(t, err)
					again.Method = m.Key
					assert.Equal(t, whole(r), whole(again), fmt.Sprintf("%s on %s, %d sides, apart %v", m.Key, surface, sides, apart))
				}
			}
		}
	}
}

// whole is the recipe with its minutes to the tenth, as they are proposed.
func whole(r craft.Recipe) []string {
	var steps []string
	for _, s := range r.Steps {
		rest := ""
		if s.Rest != nil {
			rest = fmt.Sprint(s.Rest.Floor, s.Rest.Usual, s.Rest.Ceiling != nil)
		}
		steps = append(steps, fmt.Sprintf("%s %s %s set-up %.4g, a piece %.1f, rest %s, inside %s, %.4v, %q", s.ID, s.Do, s.Name, s.SetupMinutes, s.MinutesPerPiece, rest, s.Inside, s.Uses, s.Checklist))
	}
	return steps
}
