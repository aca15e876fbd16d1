package check_test

import (
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"

	"tidykiln/core/check"
	"tidykiln/core/craft"
	"tidykiln/core/shape"
)

var flat = shape.Shape{Kind: shape.Rectangle, Width: 100, Height: 80, Thickness: 4}

func keys(choices []check.Choice, fits bool) (list []string) {
	for _, c := range choices {
		if c.Fits == fits {
			list = append(list, c.Method.Key)
		}
	}
	return list
}

func choose(w check.Wish) []check.Choice {
	w.Blank.Shape, w.Material = flat, "blank"
	return check.Choose(w, craft.Methods())
}

func TestOnlyMethodsForTheSurfaceFit(t *testing.T) {
	choices := choose(check.Wish{Blank: craft.Blank{Surface: craft.FabricCotton, Tone: craft.Dark}, Look: craft.Crisp, Photo: true, Printers: []craft.PrintKind{craft.Toner}})
	assert.Len(t, choices, 15)
	assert.Equal(t, []string{"photo-medium"}, keys(choices, true))
	assert.Contains(t, choices[0].For, "Photos keep their tones.")
}

func TestADarkTumblerWantsWhiteFilmOrAGround(t *testing.T) {
	choices := choose(check.Wish{Blank: craft.Blank{Surface: craft.MetalCoated, Tone: craft.Dark}, Look: craft.Crisp, White: true, Printers: []craft.PrintKind{craft.Inkjet}})
	fits := keys(choices, true)
	assert.ElementsMatch(t, []string{"decal-face-up", "decal-ink-backed", "decal-sprayed-ground", "decoupage"}, fits)
	first := choices[slices.IndexFunc(choices, func(c check.Choice) bool { return c.Method.Key == "decal-face-up" })]
	assert.Equal(t, craft.Print{Kind: craft.Inkjet, Carrier: craft.DecalWhite}, first.Print)
	assert.Contains(t, first.For, "White in the picture stays white.")
	assert.NotEqual(t, "decoupage", fits[0], "inkjet under glue is a caution, and toner has to be fetched")
}

func TestLetteringOnWoodRanksTheVarnishLiftOverGlue(t *testing.T) {
	fits := keys(choose(check.Wish{Blank: craft.Blank{Surface: craft.WoodPainted, Tone: craft.Light}, Look: craft.Crisp, Lettered: true, Printers: []craft.PrintKind{craft.Toner}}), true)
	assert.Less(t, slices.Index(fits, "varnish-lift"), slices.Index(fits, "glue-lift"))
	assert.NotContains(t, fits, "tape-lift")
}

func TestWhenNoneFitsItSaysWhatToDoInstead(t *testing.T) {
	dark := choose(check.Wish{Blank: craft.Blank{Surface: craft.CandleWax, Tone: craft.Dark}, Look: craft.Crisp, Printers: []craft.PrintKind{craft.Toner}})
	assert.Empty(t, keys(dark, true))
	assert.Equal(t, []string{"Use a white or ivory candle."}, check.Instead(dark, craft.CandleWax))
	light := choose(check.Wish{Blank: craft.Blank{Surface: craft.CandleWax, Tone: craft.Light}, Look: craft.Crisp})
	assert.Empty(t, check.Instead(light, craft.CandleWax), "something fits")
	press := choose(check.Wish{Blank: craft.Blank{Surface: craft.CoatedBoard, Tone: craft.Light}, Look: craft.Crisp, Printers: []craft.PrintKind{craft.Toner}})
	assert.Contains(t, check.Instead(press, craft.CoatedBoard)[0], "sublimation ink")
}
