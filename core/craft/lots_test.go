package craft_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"tidykiln/core/craft"
	"tidykiln/core/measure"
	"tidykiln/core/shape"
)

// fits tells whether a lot of a size can be worked: each step in one sitting, each rest on the rack.
func fits(r craft.Recipe, pieces, sitting, places int) bool {
	for _, s := range r.Steps {
		if s.Minutes(pieces) > sitting {
			return false
		}
		if s.Rest != nil && s.Rest.Rack*pieces > places {
			return false
		}
	}
	return true
}

func TestALotIsAsBigAsItCanBeAndNoBigger(t *testing.T) {
	method := method(t, "gel-lift")
	rapid.Check(t, func(t *rapid.T) {
		blank := craft.Blank{Surface: craft.WoodBare, Shape: shape.Shape{Kind: shape.Rectangle, Thickness: 10,
			Width:  measure.Length(rapid.IntRange(20, 600).Draw(t, "width")),
			Height: measure.Length(rapid.IntRange(20, 600).Draw(t, "height"))}}
		r, err := method.Propose(craft.Ask{Blank: blank, Look: craft.Crisp, Material: "board"})
		require.NoError(t, err)
		sitting, places := rapid.IntRange(15, 720).Draw(t, "sitting"), rapid.IntRange(1, 400).Draw(t, "places")
		size := r.LotSize(sitting, places, 0)
		if size > 0 {
			assert.True(t, fits(r, size, sitting, places), "%d fit", size)
		}
		if size < craft.MostPieces {
			assert.False(t, fits(r, size+1, sitting, places), "%d would fit too", size+1)
		}
	})
}

func TestMorePiecesTakeLongerAndSurviveNoBetterThanEachStepAllows(t *testing.T) {
	r := proposed(t)
	rapid.Check(t, func(t *rapid.T) {
		n := rapid.IntRange(1, 300).Draw(t, "pieces")
		assert.Less(t, r.LayToHandOver(n), r.LayToHandOver(n+10))
		i := rapid.IntRange(0, len(r.Steps)-1).Draw(t, "step")
		assert.LessOrEqual(t, r.SurvivalFrom(i), r.Steps[i].Yield)
		assert.Positive(t, r.SurvivalFrom(i))
	})
}
