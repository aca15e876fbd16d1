package craft_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"tidykiln/core/craft"
	"tidykiln/core/shape"
)

var slice = craft.Blank{Surface: craft.WoodBare, Shape: shape.Shape{Kind: shape.Disc, Diameter: 90, Thickness: 10}}

func proposed(t require.TestingT) craft.Recipe {
	m, ok := craft.MethodByKey("gel-lift")
	require.True(t, ok)
	r, err := m.Propose(slice, craft.Crisp, "slice-90")
	require.NoError(t, err)
	return r
}

func TestTheGelLiftKeepsItsKnownRests(t *testing.T) {
	rests := map[string][2]int{}
	for _, s := range proposed(t).Steps {
		if s.Rest != nil {
			rests[s.ID] = [2]int{s.Rest.Floor, s.Rest.Usual}
		}
	}
	assert.Equal(t, 8*60, rests["lay"][0], "eight hours is the floor of a gel lift")
	assert.GreaterOrEqual(t, rests["lay"][1], 12*60)
	assert.LessOrEqual(t, rests["lay"][1], 24*60)
	assert.GreaterOrEqual(t, rests["finish"][0], 12*60, "final cure before packing")
}

func TestEveryMethodProposesAValidRecipeForItsSurfaces(t *testing.T) {
	for _, m := range craft.Methods() {
		for _, s := range m.Surfaces {
			r, err := m.Propose(craft.Blank{Surface: s, Shape: slice.Shape}, craft.Weathered, "any")
			require.NoError(t, err, m.Key)
			assert.Equal(t, m.Key, r.Method)
		}
	}
	_, ok := craft.MethodByKey("no such method")
	assert.False(t, ok)
}

func TestProposeRefusesWhatDoesNotFit(t *testing.T) {
	m, _ := craft.MethodByKey("gel-lift")
	_, err := m.Propose(craft.Blank{Surface: "jelly", Shape: slice.Shape}, craft.Crisp, "x")
	assert.ErrorContains(t, err, "surface:")
	_, err = m.Propose(craft.Blank{Surface: craft.WoodBare}, craft.Crisp, "x")
	assert.ErrorContains(t, err, "shape.kind:")
}

func TestProposeLeavesTheLibraryAsItWas(t *testing.T) {
	proposed(t)
	m, _ := craft.MethodByKey("gel-lift")
	assert.Equal(t, "blank", m.Steps[3].Uses[0].Material)
}

func TestABiggerFaceTakesMoreHandsAndMedium(t *testing.T) {
	m, _ := craft.MethodByKey("gel-lift")
	sign := craft.Blank{Surface: craft.WoodBare, Shape: shape.Shape{Kind: shape.Rectangle, Width: 300, Height: 140, Thickness: 18}}
	big, err := m.Propose(sign, craft.Crisp, "board")
	require.NoError(t, err)
	small := proposed(t)
	assert.Greater(t, big.Steps[3].MinutesPerPiece, small.Steps[3].MinutesPerPiece)
	gel := small.Steps[3].Uses[1]
	assert.InDelta(t, 4.587, gel.PerPieceQuantity(slice.Shape), 0.001, "63.6 cm² × 0.7 mm × 1.03")
	assert.Greater(t, gel.PerPieceQuantity(sign.Shape), gel.PerPieceQuantity(slice.Shape))
	assert.Equal(t, 1.0, small.Steps[3].Uses[0].PerPieceQuantity(slice.Shape))
	assert.Zero(t, small.Steps[3].Uses[2].PerPieceQuantity(slice.Shape))
}

func TestMinutesAreWholeAndAtLeastOne(t *testing.T) {
	assert.Equal(t, 63, craft.Step{SetupMinutes: 15, MinutesPerPiece: 4}.Minutes(12))
	assert.Equal(t, 17, craft.Step{SetupMinutes: 15, MinutesPerPiece: 0.25}.Minutes(5))
	assert.Equal(t, 1, craft.Step{MinutesPerPiece: 0.1}.Minutes(1))
}

func TestSurvivalAndLayToHandOver(t *testing.T) {
	r := craft.Recipe{Steps: []craft.Step{
		{ID: "base", MinutesPerPiece: 5, Yield: 0.5, Rest: &craft.Rest{Usual: 60}},
		{ID: "lay", Do: "lay", MinutesPerPiece: 10, Yield: 0.9, Rest: &craft.Rest{Usual: 600}},
		{ID: "pack", MinutesPerPiece: 1, Yield: 0.8},
	}}
	assert.InDelta(t, 0.72, r.SurvivalFrom(1), 1e-12)
	assert.Equal(t, 20+600+2, r.LayToHandOver(2))
}

func TestLotSizeFitsSittingAndRack(t *testing.T) {
	r := craft.Recipe{Steps: []craft.Step{{SetupMinutes: 20, MinutesPerPiece: 5, Rest: &craft.Rest{Rack: 2}}}}
	assert.Equal(t, 20, r.LotSize(120, 100))
	assert.Equal(t, 12, r.LotSize(120, 24))
	assert.Equal(t, 0, r.LotSize(24, 24))
}

func TestLotsAreFewEvenAndWhole(t *testing.T) {
	assert.Equal(t, []int{15, 15, 15, 15}, craft.Lots(60, 16))
	assert.Nil(t, craft.Lots(3, 0))
	rapid.Check(t, func(t *rapid.T) {
		pieces, size := rapid.IntRange(1, 500).Draw(t, "pieces"), rapid.IntRange(1, 80).Draw(t, "size")
		lots := craft.Lots(pieces, size)
		sum, least, most := 0, pieces, 0
		for _, n := range lots {
			sum, least, most = sum+n, min(least, n), max(most, n)
		}
		assert.Equal(t, pieces, sum)
		assert.LessOrEqual(t, most, size)
		assert.LessOrEqual(t, most-least, 1)
		assert.Less(t, (len(lots)-1)*size, pieces, "no fewer lots would do")
	})
}

func TestValidateNamesTheField(t *testing.T) {
	ten := 10
	for name, c := range map[string]struct {
		spoil func(*craft.Recipe)
		says  string
	}{
		"no steps":        {func(r *craft.Recipe) { r.Steps = nil }, "steps:"},
		"two of an id":    {func(r *craft.Recipe) { r.Steps[1].ID = "sand" }, "steps[1].id:"},
		"no name":         {func(r *craft.Recipe) { r.Steps[0].Name = "" }, "steps[0].name:"},
		"zero minutes":    {func(r *craft.Recipe) { r.Steps[0].SetupMinutes, r.Steps[0].MinutesPerPiece = 0, 0 }, "steps[0].minutesPerPiece:"},
		"yield over one":  {func(r *craft.Recipe) { r.Steps[0].Yield = 1.2 }, "steps[0].yield:"},
		"nameless use":    {func(r *craft.Recipe) { r.Steps[0].Uses[0].Material = "" }, "steps[0].uses[0].quantity:"},
		"odd use":         {func(r *craft.Recipe) { r.Steps[0].Uses[0].Per = "moon" }, "steps[0].uses[0].per:"},
		"coat of nothing": {func(r *craft.Recipe) { r.Steps[1].Uses[0].Film = 0 }, "steps[1].uses[0].filmMm:"},
		"floor":           {func(r *craft.Recipe) { r.Steps[1].Rest = &craft.Rest{Floor: -1} }, "steps[1].rest.floor:"},
		"usual":           {func(r *craft.Recipe) { r.Steps[1].Rest = &craft.Rest{Floor: 9, Usual: 8} }, "steps[1].rest.usual:"},
		"ceiling":         {func(r *craft.Recipe) { r.Steps[1].Rest = &craft.Rest{Floor: 9, Usual: 11, Ceiling: &ten} }, "steps[1].rest.ceiling:"},
		"rest at the end": {func(r *craft.Recipe) { r.Steps[9].Rest = &craft.Rest{} }, "steps[9].rest:"},
		"rack":            {func(r *craft.Recipe) { r.Steps[1].Rest = &craft.Rest{Rack: -1} }, "steps[1].rest.rack:"},
	} {
		r := proposed(t)
		c.spoil(&r)
		assert.ErrorContains(t, r.Validate(), c.says, name)
	}
}
