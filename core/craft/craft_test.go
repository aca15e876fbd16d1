package craft_test

import (
	"slices"
	"testing"

	"tidykiln/core/fault"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"tidykiln/core/craft"
	"tidykiln/core/shape"
)

var slice = craft.Blank{Surface: craft.WoodBare, Shape: shape.Shape{Kind: shape.Disc, Diameter: 90, Thickness: 10}, Hangs: true}

func method(t require.TestingT, key string) craft.Method {
	m, ok := craft.MethodByKey(key)
	require.True(t, ok, key)
	return m
}

func proposed(t require.TestingT) craft.Recipe {
	r, err := method(t, "gel-lift").Propose(craft.Ask{Blank: slice, Look: craft.Crisp, Material: "slice-90"})
	require.NoError(t, err)
	return r
}

func step(t require.TestingT, r craft.Recipe, id string) craft.Step {
	i := slices.IndexFunc(r.Steps, func(s craft.Step) bool { return s.ID == id })
	require.GreaterOrEqual(t, i, 0, id)
	return r.Steps[i]
}

func dos(r craft.Recipe) (list []craft.Do) {
	for _, s := range r.Steps {
		list = append(list, s.Do)
	}
	return list
}

func TestProposeRefusesWhatDoesNotFit(t *testing.T) {
	m := method(t, "gel-lift")
	_, err := m.Propose(craft.Ask{Blank: craft.Blank{Surface: craft.Glass, Shape: slice.Shape}, Look: craft.Crisp, Material: "x"})
	assert.Equal(t, "surface", fault.Of(err).Path)
	_, err = m.Propose(craft.Ask{Blank: craft.Blank{Surface: craft.WoodBare}, Look: craft.Crisp, Material: "x"})
	assert.Equal(t, "shape.kind", fault.Of(err).Path)
	_, err = m.Propose(craft.Ask{Blank: slice, Material: "x"})
	assert.Equal(t, "look", fault.Of(err).Path)
}

func TestProposeLeavesTheLibraryAsItWas(t *testing.T) {
	before := method(t, "gel-lift")
	r := proposed(t)
	for i := range r.Steps {
		for k := range r.Steps[i].Uses {
			r.Steps[i].Uses[k].Material = "spoilt"
		}
	}
	_, err := before.Propose(craft.Ask{Blank: slice, Look: craft.Crisp, Material: "x", Choices: map[string]string{"seal": "spray", "rest": "label", "base": "bare"}})
	require.NoError(t, err)
	assert.Equal(t, "slice-90", step(t, proposed(t), "sand").Uses[0].Material, "taken where it enters the work")
	assert.Equal(t, "gel-medium", step(t, proposed(t), "lay").Uses[0].Material)
	assert.Equal(t, craft.VarnishWater, step(t, proposed(t), "seal-1").With)
	assert.Equal(t, 1080, step(t, proposed(t), "lay").Rest.Usual)
}

func TestABiggerFaceTakesMoreHandsAndMedium(t *testing.T) {
	sign := craft.Blank{Surface: craft.WoodBare, Shape: shape.Shape{Kind: shape.Rectangle, Width: 300, Height: 140, Thickness: 18}}
	big, err := method(t, "gel-lift").Propose(craft.Ask{Blank: sign, Look: craft.Crisp, Material: "board"})
	require.NoError(t, err)
	lay := step(t, proposed(t), "lay")
	assert.Greater(t, step(t, big, "lay").MinutesPerPiece, lay.MinutesPerPiece)
	gel := lay.Uses[0]
	assert.InDelta(t, 4.587, gel.Amount(craft.Step{}, craft.Extent{Shape: slice.Shape}, craft.Supply{}).PerPiece, 0.001, "63.6 cm² × 0.7 mm × 1.03")
	assert.Greater(t, gel.Amount(craft.Step{}, craft.Extent{Shape: sign.Shape}, craft.Supply{}).PerPiece, gel.Amount(craft.Step{}, craft.Extent{Shape: slice.Shape}, craft.Supply{}).PerPiece)
	assert.Equal(t, 1.0, step(t, proposed(t), "sand").Uses[0].Amount(craft.Step{}, craft.Extent{Shape: slice.Shape}, craft.Supply{}).PerPiece)
	assert.Zero(t, lay.Uses[1].Amount(craft.Step{}, craft.Extent{Shape: slice.Shape}, craft.Supply{}).PerPiece)
	assert.NotContains(t, dos(big), craft.Drill, "a sign that does not hang is not drilled")
	assert.Contains(t, dos(proposed(t)), craft.Drill)
}

func TestAPictureSmallerThanItsFaceTakesLessMediumAndTime(t *testing.T) {
	tote := craft.Blank{Surface: craft.FabricCotton, Shape: shape.Shape{Kind: shape.Rectangle, Width: 380, Height: 420}}
	ask := craft.Ask{Blank: tote, Picture: craft.Picture{Width: 200, Height: 180}, Look: craft.Crisp, Material: "tote"}
	small, err := method(t, "photo-medium").Propose(ask)
	require.NoError(t, err)
	ask.Picture = craft.Picture{}
	whole, err := method(t, "photo-medium").Propose(ask)
	require.NoError(t, err)
	assert.Less(t, step(t, small, "lay").MinutesPerPiece, step(t, whole, "lay").MinutesPerPiece)
	medium := step(t, small, "lay").Uses[0]
	assert.InDelta(t, 37.08, medium.Amount(craft.Step{}, craft.ExtentOf(tote, craft.Picture{Width: 200, Height: 180}), craft.Supply{}).PerPiece, 1e-9, "360 cm² × 1 mm × 1.03")
	assert.InDelta(t, 164.388, medium.Amount(craft.Step{}, craft.ExtentOf(tote, craft.Picture{Width: 900, Height: 900}), craft.Supply{}).PerPiece, 1e-9, "never more than the face")
	tile := craft.Blank{Shape: shape.Shape{Kind: shape.Rectangle, Width: 101.6, Height: 101.6}}
	gel := step(t, proposed(t), "lay").Uses[0]
	assert.InDelta(t, 7.2, gel.Amount(craft.Step{}, craft.ExtentOf(tile, craft.Picture{}), craft.Supply{}).PerPiece/1.03, 0.03, "half a US fluid ounce does two")
}

func TestMinutesAreWholeAndAtLeastOne(t *testing.T) {
	assert.Equal(t, 63, craft.Step{SetupMinutes: 15, MinutesPerPiece: 4}.Minutes(12))
	assert.Equal(t, 17, craft.Step{SetupMinutes: 15, MinutesPerPiece: 0.25}.Minutes(5))
	assert.Equal(t, 1, craft.Step{MinutesPerPiece: 0.1}.Minutes(1))
}

func TestSurvivalAndLayToHandOver(t *testing.T) {
	r := craft.Recipe{Steps: []craft.Step{
		{ID: "base", MinutesPerPiece: 5, Yield: 0.5, Rest: &craft.Rest{Usual: 60}},
		{ID: "lay", Do: craft.Lay, MinutesPerPiece: 10, Yield: 0.9, Rest: &craft.Rest{Usual: 600}},
		{ID: "sides", Inside: "lay", MinutesPerPiece: 7, Yield: 1},
		{ID: "pack", MinutesPerPiece: 1, Yield: 0.8},
	}}
	assert.InDelta(t, 0.72, r.SurvivalFrom(1), 1e-12)
	assert.Equal(t, 20+600+2, r.LayToHandOver(2), "what is done inside the rest takes no time of its own")
}

func TestLotSizeFitsSittingRackAndCeiling(t *testing.T) {
	r := craft.Recipe{Steps: []craft.Step{{SetupMinutes: 20, MinutesPerPiece: 5, Rest: &craft.Rest{Rack: 2}}}}
	assert.Equal(t, 20, r.LotSize(120, 100, 0))
	assert.Equal(t, 12, r.LotSize(120, 24, 0))
	assert.Equal(t, 0, r.LotSize(24, 24, 0))
	tenths := craft.Recipe{Steps: []craft.Step{{MinutesPerPiece: 1.1}}}
	assert.Equal(t, 30, tenths.LotSize(33, 100, 0), "30 × 1.1 is 33, whatever binary fractions make of it")
	ceiling := 60
	r.Steps[0].Rest = &craft.Rest{Floor: 40, Usual: 40, Ceiling: &ceiling}
	assert.Equal(t, 5, r.LotSize(120, 100, 0), "the first piece's hour must outlast the fifth's forty minutes")
}

func TestACeilingRunsFromTheFirstPieceOfALot(t *testing.T) {
	ceiling := 120
	s := craft.Step{MinutesPerPiece: 10, Rest: &craft.Rest{Floor: 30, Usual: 30, Ceiling: &ceiling}}
	assert.Equal(t, 120, *s.CeilingAfter(1))
	assert.Equal(t, 80, *s.CeilingAfter(5))
	assert.Equal(t, 30, *s.CeilingAfter(50), "not under the floor of the last")
	assert.Nil(t, craft.Step{Rest: &craft.Rest{}}.CeilingAfter(5))
}

func TestValidateNamesTheField(t *testing.T) {
	ten := 10
	for name, c := range map[string]struct {
		spoil func(*craft.Recipe)
		at    string
	}{
		"no steps":           {func(r *craft.Recipe) { r.Steps = nil }, "steps"},
		"200 steps":          {func(r *craft.Recipe) { r.Steps = slices.Repeat(r.Steps, 20)[:200] }, "steps"},
		"two of an id":       {func(r *craft.Recipe) { r.Steps[1].ID = "sand" }, "steps[1].id"},
		"unknown work":       {func(r *craft.Recipe) { r.Steps[0].Do = "juggle" }, "steps[0].do"},
		"unknown medium":     {func(r *craft.Recipe) { r.Steps[4].With = "honey" }, "steps[4].with"},
		"no name":            {func(r *craft.Recipe) { r.Steps[0].Name = "" }, "steps[0].name"},
		"zero minutes":       {func(r *craft.Recipe) { r.Steps[0].SetupMinutes, r.Steps[0].MinutesPerPiece = 0, 0 }, "steps[0].minutesPerPiece"},
		"negative set-up":    {func(r *craft.Recipe) { r.Steps[0].SetupMinutes = -1 }, "steps[0].setupMinutes"},
		"yield over one":     {func(r *craft.Recipe) { r.Steps[0].Yield = 1.2 }, "steps[0].yield"},
		"odd outcome":        {func(r *craft.Recipe) { r.Steps[0].Outcomes = []craft.Outcome{"gold"} }, "steps[0].outcomes[0]"},
		"odd place":          {func(r *craft.Recipe) { r.Steps[0].Holds = []craft.Holding{"moon"} }, "steps[0].holds[0]"},
		"nameless use":       {func(r *craft.Recipe) { r.Steps[0].Uses[0].Material = "" }, "steps[0].uses[0].material"},
		"negative use":       {func(r *craft.Recipe) { r.Steps[0].Uses[0].Quantity = -1 }, "steps[0].uses[0].quantity"},
		"odd use":            {func(r *craft.Recipe) { r.Steps[0].Uses[0].Per = "moon" }, "steps[0].uses[0].per"},
		"coat of nothing":    {func(r *craft.Recipe) { r.Steps[1].Uses[0].Film = 0 }, "steps[1].uses[0].filmMm"},
		"coat on nothing":    {func(r *craft.Recipe) { r.Steps[1].Uses[0].Faces = nil }, "steps[1].uses[0].faces"},
		"odd face":           {func(r *craft.Recipe) { r.Steps[1].Uses[0].Faces = []shape.Face{"nose"} }, "steps[1].uses[0].faces[0]"},
		"empty point":        {func(r *craft.Recipe) { r.Steps[1].Checklist = []string{""} }, "steps[1].checklist[0]"},
		"odd rest":           {func(r *craft.Recipe) { r.Steps[1].Rest = &craft.Rest{Kind: "sleep"} }, "steps[1].rest.kind"},
		"floor":              {func(r *craft.Recipe) { r.Steps[1].Rest = &craft.Rest{Kind: "dry", Floor: -1} }, "steps[1].rest.floor"},
		"usual":              {func(r *craft.Recipe) { r.Steps[1].Rest = &craft.Rest{Kind: "dry", Floor: 9, Usual: 8} }, "steps[1].rest.usual"},
		"ceiling":            {func(r *craft.Recipe) { r.Steps[1].Rest = &craft.Rest{Kind: "dry", Floor: 9, Usual: 11, Ceiling: &ten} }, "steps[1].rest.ceiling"},
		"rack":               {func(r *craft.Recipe) { r.Steps[1].Rest = &craft.Rest{Kind: "dry", Rack: -1} }, "steps[1].rest.rack"},
		"rest at the end":    {func(r *craft.Recipe) { r.Steps[len(r.Steps)-1].Rest = &craft.Rest{Kind: "dry"} }, "steps[14].rest"},
		"inside nothing":     {func(r *craft.Recipe) { r.Steps[5].Inside = "moon" }, "steps[5].inside"},
		"inside itself":      {func(r *craft.Recipe) { r.Steps[5].Inside, r.Steps[5].Rest = r.Steps[5].ID, nil }, "steps[5].inside"},
		"inside a later one": {func(r *craft.Recipe) { r.Steps[4].Inside, r.Steps[4].Rest = "clear-1", nil }, "steps[4].inside"},
		"inside no rest":     {func(r *craft.Recipe) { r.Steps[1].Inside, r.Steps[1].Rest = "sand", nil }, "steps[1].inside"},
		"inside and resting": {func(r *craft.Recipe) { r.Steps[5].Inside = "lay" }, "steps[5].rest"},
		"inside from afar":   {func(r *craft.Recipe) { r.Steps[6].Inside, r.Steps[6].Rest = "lay", nil }, "steps[6].inside"},
		"inside an inside": {func(r *craft.Recipe) {
			r.Steps[5].Inside, r.Steps[5].Rest = "lay", nil
			r.Steps[6].Inside, r.Steps[6].Rest = "clear-1", nil
		}, "steps[6].inside"},
	} {
		r := proposed(t)
		c.spoil(&r)
		assert.Equal(t, c.at, fault.Of(r.Validate()).Path, name)
	}
}
