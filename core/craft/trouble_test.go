package craft_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"tidykiln/core/craft"
)

func offered(t *testing.T, key string, r craft.Recipe) (craft.Recipe, string) {
	trouble, ok := craft.TroubleByKey(key)
	require.True(t, ok, key)
	return trouble.Offer(r, craft.Ask{Blank: slice, Material: "x"})
}

func TestEveryTroubleChangesSomethingSomewhere(t *testing.T) {
	require.Len(t, craft.Troubles(), 17)
	var recipes []craft.Recipe
	for _, m := range craft.Methods() {
		r, err := m.Propose(craft.Ask{Blank: craft.Blank{Surface: m.Surfaces[0], Shape: slice.Shape}, Look: craft.Crisp, Material: "x"})
		require.NoError(t, err)
		recipes = append(recipes, r)
	}
	stained := proposed(t)
	stained.Steps = append([]craft.Step{block(t, "stain"), block(t, "wipe-stain")}, stained.Steps...)
	glued := proposed(t)
	for i := range glued.Steps {
		if glued.Steps[i].Do == craft.Seal {
			glued.Steps[i].With = craft.Glue
		}
	}
	recipes = append(recipes, stained, glued)
	for _, trouble := range craft.Troubles() {
		said := 0
		for _, r := range recipes {
			changed, words := trouble.Offer(r, craft.Ask{Blank: slice, Material: "x"})
			if words == "" {
				assert.Equal(t, r, changed, trouble.Key)
				continue
			}
			said++
			assert.NoError(t, changed.Validate(), trouble.Key)
			assert.NotEqual(t, r, changed, trouble.Key)
		}
		assert.Positive(t, said, trouble.Key)
	}
}

func TestALiftLengthensTheRestAfterTheLay(t *testing.T) {
	r, words := offered(t, "lifted", proposed(t))
	assert.Equal(t, "the usual rest after “Lay” goes from 18 h to 27 h", words)
	assert.Equal(t, 1620, step(t, r, "lay").Rest.Usual)
	assert.Equal(t, 480, step(t, r, "lay").Rest.Floor, "the floor is the label's")
}

func TestStepsAreAddedOnceAndWhereTheyBelong(t *testing.T) {
	r, words := offered(t, "rough", proposed(t))
	assert.Equal(t, "a step “Sand between coats” comes after “Seal, first coat”", words)
	_, again := offered(t, "rough", r)
	assert.Empty(t, again)
	_, words = offered(t, "faint", proposed(t))
	assert.Empty(t, words, "it has a base coat")
	inked, err := method(t, "decal-ink-backed").Propose(craft.Ask{Blank: craft.Blank{Surface: craft.Glass, Shape: slice.Shape}, Look: craft.Crisp, Material: "x"})
	require.NoError(t, err)
	r, words = offered(t, "milky", inked)
	assert.Equal(t, "a step “White ink behind the print” comes after “White ink, second coat”", words)
	assert.Equal(t, "ink-back", step(t, r, "ink-back").ID)
}

func TestACheckIsAddedOnce(t *testing.T) {
	r, words := offered(t, "globs", proposed(t))
	assert.Contains(t, words, "“Lay” gets a point")
	_, again := offered(t, "globs", r)
	assert.Empty(t, again)
}
