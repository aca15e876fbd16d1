package craft_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"tidykiln/core/craft"
	"tidykiln/core/measure"
	"tidykiln/core/shape"
)

var labels = craft.Labels{
	"gel-medium": {Floor: new(720), Film: 0.35, Medium: true},
	"varnish":    {Floor: new(90), RecoatFrom: new(240), RecoatTo: new(1440), Cure: new(10080)},
	"base-paint": {RecoatFrom: new(30), RecoatTo: new(45)},
}

func propose(t *testing.T, key string, surface craft.Surface, with craft.Labels, choices map[string]string) craft.Recipe {
	t.Helper()
	blank := craft.Blank{Surface: surface, Shape: shape.Shape{Kind: shape.Rectangle, Width: 200, Height: 150}, Tone: craft.Light}
	r, err := method(t, key).Propose(craft.Ask{Blank: blank, Look: craft.Crisp, Material: "x", Choices: choices, Labels: with})
	require.NoError(t, err)
	return r
}

func stepOf(t *testing.T, r craft.Recipe, id string) craft.Step {
	t.Helper()
	for _, s := range r.Steps {
		if s.ID == id {
			return s
		}
	}
	require.Fail(t, "no step "+id)
	return craft.Step{}
}

func TestTheLabelsOwnFiguresHoldWhereverTheMaterialIsUsed(t *testing.T) {
	r := propose(t, "gel-lift", craft.WoodPainted, labels, nil)
	lay := stepOf(t, r, "lay").Rest
	assert.Equal(t, []int{720, 1080}, []int{lay.Floor, lay.Usual}, "the usual rest stays")

	between := stepOf(t, r, "seal-1").Rest
	assert.Equal(t, []int{240, 240, 1440}, []int{between.Floor, between.Usual, *between.Ceiling}, "recoated from four hours on, within a day")
	after := stepOf(t, r, "seal-2").Rest
	assert.Equal(t, []int{90, 180}, []int{after.Floor, after.Usual}, "no coat follows the last")
	assert.Nil(t, after.Ceiling)

	base := stepOf(t, r, "base").Rest
	assert.Equal(t, []int{30, 45, 45}, []int{base.Floor, base.Usual, *base.Ceiling}, "the window bounds the usual rest")
	second := stepOf(t, r, "base-2").Rest
	assert.Equal(t, []int{60, 120}, []int{second.Floor, second.Usual}, "of what a label does not say, the library's figure stays")

	cure := stepOf(t, r, "final-cure").Rest
	assert.Equal(t, 10080-90, cure.Floor, "the rest after the last coat is part of its cure")
	assert.Equal(t, cure.Floor, cure.Usual)

	assert.Equal(t, r, r.AsLabelled(labels), "done twice it changes nothing")
}

func TestAFinalCureIsNotCutShortByTheLabelOfAnEarlierCoat(t *testing.T) {
	plain := stepOf(t, propose(t, "gel-lift", craft.WoodPainted, nil, nil), "final-cure").Rest
	short := propose(t, "gel-lift", craft.WoodPainted, craft.Labels{"gel-medium": {Cure: new(600)}}, nil)
	assert.Equal(t, plain, stepOf(t, short, "final-cure").Rest, "the varnish has not said")
	long := propose(t, "gel-lift", craft.WoodPainted, craft.Labels{"gel-medium": {Cure: new(20000)}}, nil)
	assert.Greater(t, stepOf(t, long, "final-cure").Rest.Floor, 15000)

	cloth := propose(t, "photo-medium", craft.FabricCotton, craft.Labels{"photo-medium": {Cure: new(2880)}}, nil)
	rested := 480 + 30 + 60 + 60
	assert.Equal(t, 2880-rested, stepOf(t, cloth, "final-cure").Rest.Floor, "its own label is shorter than the usual three days")
}

func TestRestingAsLongAsTheLabelSaysIsTheLabelsFloor(t *testing.T) {
	r := propose(t, "gel-lift", craft.WoodPainted, labels, map[string]string{"rest": "label"})
	lay := stepOf(t, r, "lay").Rest
	assert.Equal(t, []int{720, 720}, []int{lay.Floor, lay.Usual})
}

func TestABaseCuresForTheCreamsSakeWhateverThePaintsLabelSays(t *testing.T) {
	r := propose(t, "transfer-cream", craft.WoodPainted, craft.Labels{"base-paint": {Floor: new(20), Cure: new(40000)}}, nil)
	assert.Equal(t, 4320, stepOf(t, r, "base-cured").Rest.Floor)
	assert.Equal(t, 20, stepOf(t, r, "base").Rest.Floor)
}

func TestTheOwnersFilmIsLaidInEverythingByAsMuch(t *testing.T) {
	film := func(r craft.Recipe, id, material string) measure.Length {
		for _, u := range stepOf(t, r, id).Uses {
			if u.Material == material {
				return u.Film
			}
		}
		return 0
	}
	r := propose(t, "gel-lift", craft.WoodPainted, labels, nil)
	assert.EqualValues(t, 0.35, film(r, "lay", "gel-medium"))

	glue := craft.Labels{"craft-glue": {Film: 0.35, Medium: true}}
	assert.EqualValues(t, 0.35, film(propose(t, "glue-lift", craft.WoodPainted, glue, nil), "lay", "craft-glue"))
	assert.EqualValues(t, 0.075, film(propose(t, "decoupage", craft.WoodPainted, glue, nil), "lay", "craft-glue"), "half as thick, as everywhere")

	varnish := craft.Labels{"varnish": {Film: 0.12}}
	assert.EqualValues(t, 0.12, film(propose(t, "gel-lift", craft.WoodPainted, varnish, nil), "seal-1", "varnish"))
}

func TestABlockHasTheRestOfItsMaterialsLabel(t *testing.T) {
	block, _ := craft.BlockByKey("seal-2")
	s := block.For(craft.Ask{Blank: slice, Material: "x", Labels: labels})
	assert.Equal(t, 90, s.Rest.Floor)
	assert.Equal(t, []string{"base-paint", "gel-medium", "varnish"}, propose(t, "gel-lift", craft.WoodPainted, nil, nil).Coats())
}
