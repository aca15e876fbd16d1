package craft_test

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"tidykiln/core/craft"
)

func TestLikeWorkIsOfOneKin(t *testing.T) {
	kin := func(steps ...craft.Step) string { return craft.Recipe{Steps: steps}.Kin(len(steps) - 1) }
	lay := func(with craft.With) craft.Step { return craft.Step{Do: "lay", With: with} }
	assert.Equal(t, kin(craft.Step{Do: "seal", With: craft.Glue}), kin(lay(craft.Glue), craft.Step{Do: "seal", With: craft.Same}), "the medium itself is the medium it was laid in")
	assert.NotEqual(t, kin(craft.Step{Do: "seal", With: craft.Glue}), kin(lay(craft.Gel), craft.Step{Do: "seal", With: craft.Same}))
	assert.NotEqual(t, kin(craft.Step{Do: "paint-base", Tone: craft.Light}), kin(craft.Step{Do: "paint-base", Tone: craft.Dark}), "another pot of paint")
	assert.Equal(t, kin(craft.Step{Do: "remove-paper", Name: "Clear the paper"}), kin(lay(craft.Gel), craft.Step{Do: "remove-paper", Name: "Second round"}), "whatever it is called, and whatever came before")
	handInHand := craft.Step{Do: "stain", Parts: []craft.Part{{Do: "stain"}, {Do: "wipe-stain"}}}
	assert.NotEqual(t, kin(craft.Step{Do: "stain"}), kin(handInHand))
	laidInParts := craft.Step{Do: "ink-back", Parts: []craft.Part{{Do: "ink-back"}, {Do: "lay", With: craft.Glue}}}
	assert.Equal(t, "seal glue", kin(laidInParts, craft.Step{Do: "seal", With: craft.Same}))
	assert.Equal(t, "seal", kin(craft.Step{Do: "seal", With: craft.Same}), "laid in nothing known")
}

func TestASittingPaysOneSetup(t *testing.T) {
	short, long := craft.Step{SetupMinutes: 5, MinutesPerPiece: 2}, craft.Step{SetupMinutes: 12, MinutesPerPiece: 1.25}
	assert.Equal(t, 12+8+13, craft.MinutesTogether([]craft.Step{short, long}, []int{4, 10}), "the longer set-up, and each lot's own minutes")
	assert.Equal(t, long.Minutes(10), craft.MinutesTogether([]craft.Step{long}, []int{10}), "alone it is what it is")
	assert.Equal(t, 9, craft.Step{SetupMinutes: 10, MinutesPerPiece: 0}.WholeSetup(3), "a step lasts a minute beside its set-up")
	assert.InDelta(t, 6+12.5, long.NeedTogether(10, 2), 1e-9)
	assert.Positive(t, craft.Step{}.NeedTogether(1, 3), "what needs nothing by the recipe still has a share")
}
