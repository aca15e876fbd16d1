package craft_test

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"

	"tidykiln/core/craft"
)

func TestCareGoesByWhatThePieceIs(t *testing.T) {
	waxed := craft.Recipe{Steps: []craft.Step{{Do: craft.WaxLight}}}
	for name, c := range map[string]struct {
		recipe craft.Recipe
		blank  craft.Blank
		says   []string
		silent []string
	}{
		"tumbler":  {blank: craft.Blank{Surface: craft.MetalCoated, Drinkware: true}, says: []string{"by hand", "rim", "damp cloth"}, silent: []string{"flame", "Iron"}},
		"tray":     {blank: craft.Blank{Surface: craft.WoodPainted, FoodContact: true}, says: []string{"Serve on paper", "dishwasher"}, silent: []string{"rim"}},
		"candle":   {blank: craft.Blank{Surface: craft.CandleWax}, says: []string{"alight alone", "test-burn"}, silent: []string{"dishwasher"}},
		"glass":    {blank: craft.Blank{Surface: craft.Glass, HoldsFlame: true}, says: []string{"below the picture", "glass cleaner"}, silent: []string{"test-burn"}},
		"shirt":    {blank: craft.Blank{Surface: craft.FabricCotton}, says: []string{"three days", "inside out", "Iron it from the inside"}, silent: []string{"damp cloth"}},
		"ornament": {blank: craft.Blank{Surface: craft.WoodBare, Hangs: true}, says: []string{"soft dry cloth", "string"}, silent: []string{"wax", "children"}},
		"waxed":    {recipe: waxed, blank: craft.Blank{Surface: craft.WoodBare, ForChildren: true}, says: []string{"clear wax", "under three"}, silent: []string{"string now and then"}},
	} {
		text := strings.Join(craft.CareFor(c.recipe, c.blank), "\n")
		for _, words := range c.says {
			assert.Contains(t, text, words, name)
		}
		for _, words := range c.silent {
			assert.NotContains(t, text, words, name)
		}
	}
	for _, s := range craft.Surfaces() {
		assert.NotEmpty(t, craft.CareFor(craft.Recipe{}, craft.Blank{Surface: s}), s)
	}
}
