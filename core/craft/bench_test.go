package craft_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"tidykiln/core/craft"
)

func block(t require.TestingT, key string) craft.Step {
	b, ok := craft.BlockByKey(key)
	require.True(t, ok, key)
	return b.For(craft.Ask{Blank: slice, Material: "x"})
}

func TestStepsWithCeilingsOfMinutesGoHandInHand(t *testing.T) {
	r := craft.Recipe{Look: craft.Crisp, Steps: []craft.Step{block(t, "stain"), block(t, "wipe-stain"), block(t, "wax-light"), block(t, "wax-dark"), block(t, "buff"), block(t, "pack")}}
	bench := r.ForBench(slice)
	require.Len(t, bench.Steps, 4)
	stain := bench.Steps[0]
	assert.Equal(t, "Gel stain, then wipe the stain back", stain.Name)
	assert.True(t, stain.Does(craft.Stain) && stain.Does(craft.WipeStain))
	assert.Equal(t, r.Steps[0].SetupMinutes+1, stain.SetupMinutes, "the wait of a minute is waited once")
	assert.InDelta(t, r.Steps[0].MinutesPerPiece+r.Steps[1].MinutesPerPiece, stain.MinutesPerPiece, 1e-9)
	assert.Equal(t, r.Steps[1].Rest, stain.Rest)
	assert.Len(t, stain.Uses, 2)
	assert.Contains(t, stain.Cautions, craft.CautionsFor(r.Steps[0], slice)[0])
	assert.Equal(t, "Clear wax, then dark wax as an accent", bench.Steps[1].Name)
	assert.Equal(t, "buff", bench.Steps[2].ID)
	assert.Empty(t, r.Steps[0].Parts, "the recipe itself stays as it was")
}

func TestAStepInsideARestFollowsItsHostIntoAJoinedStep(t *testing.T) {
	r := craft.Recipe{Look: craft.Crisp, Steps: []craft.Step{block(t, "stain"), block(t, "wipe-stain"), block(t, "feet"), block(t, "pack")}}
	r.Steps[2].Inside = "wipe-stain"
	require.NoError(t, r.Validate())
	bench := r.ForBench(slice)
	require.NoError(t, bench.Validate())
	assert.Equal(t, bench.Steps[0].ID, bench.Steps[1].Inside)
}

func TestWhereReworkAndAgainTakeUpTheWork(t *testing.T) {
	r := proposed(t)
	at := func(id string) int {
		for i, s := range r.Steps {
			if s.ID == id {
				return i
			}
		}
		return -1
	}
	assert.Equal(t, at("clear-1"), r.AgainFrom(at("clear-1")))
	assert.Equal(t, at("clear-2"), r.AgainFrom(at("inspect")), "from a look back to the last round")
	assert.Equal(t, at("sand"), r.ReworkFrom(at("inspect")))
	assert.Equal(t, -1, r.ReworkFrom(0))
	assert.Equal(t, at("clear-2"), r.LastRemoval())
	melt, err := method(t, "tissue-melt").Propose(craft.Ask{Blank: craft.Blank{Surface: craft.CandleWax, Shape: slice.Shape}, Look: craft.Crisp, Material: "x"})
	require.NoError(t, err)
	assert.Equal(t, craft.Melt, melt.Steps[melt.LastRemoval()].Do)
}

func TestOutcomesAreThoseThatMakeSense(t *testing.T) {
	assert.Equal(t, []craft.Outcome{craft.Again, craft.Rework, craft.Spoiled}, craft.Step{Do: craft.Inspect}.OutcomeChoices())
	assert.Equal(t, []craft.Outcome{craft.Spoiled}, craft.Step{Do: craft.Pack}.OutcomeChoices())
	assert.Equal(t, []craft.Outcome{craft.Again, craft.Spoiled}, craft.Step{Do: craft.Seal}.OutcomeChoices())
	assert.Equal(t, []craft.Outcome{craft.Spoiled}, craft.Step{Do: craft.Seal, Inside: "lay"}.OutcomeChoices())
	assert.Equal(t, []craft.Outcome{craft.Rework}, craft.Step{Do: craft.Pack, Outcomes: []craft.Outcome{craft.Rework}}.OutcomeChoices())
}
