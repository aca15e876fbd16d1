package craft_test

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"tidykiln/core/craft"
)

func TestWhatDiffersBetweenTwoRecipes(t *testing.T) {
	ceiling := 2880
	before := craft.Recipe{Look: craft.Crisp, Steps: []craft.Step{
		{ID: "sand", Name: "Sand", SetupMinutes: 5, MinutesPerPiece: 1, Yield: 1},
		{ID: "lay", Name: "Lay", SetupMinutes: 12, MinutesPerPiece: 3.1, Yield: 0.96, Rest: &craft.Rest{Kind: craft.Cure, Floor: 480, Usual: 1080, Rack: 1}},
		{ID: "seal", Name: "Seal", Yield: 1, Rest: &craft.Rest{Kind: craft.Dry, Floor: 120, Usual: 180}},
		{ID: "pack", Name: "Pack", Yield: 1},
	}}
	assert.Empty(t, before.DiffersFrom(before))
	after := craft.Recipe{Look: craft.Weathered, Steps: []craft.Step{
		{ID: "lay", Name: "Lay it", SetupMinutes: 10, MinutesPerPiece: 2.55, Yield: 0.985, Rest: &craft.Rest{Kind: craft.Cure, Floor: 600, Usual: 1440, Rack: 1}},
		{ID: "stain", Name: "Stain"},
		{ID: "pack", Name: "Pack", Yield: 1, Rest: &craft.Rest{Kind: craft.Dry, Floor: 30, Usual: 60}, Checklist: []string{"Card in"}},
		{ID: "seal", Name: "Seal", Yield: 1, Rest: &craft.Rest{Kind: craft.Dry, Floor: 120, Usual: 180, Ceiling: &ceiling}, Uses: []craft.Use{{Material: "varnish"}}},
	}}
	assert.Equal(t, []string{
		"Lay it: was called Lay", "Lay it: set-up 10 min, was 12", "Lay it: a piece 2.55 min, was 3.1", "Lay it: come through 98.5 %, was 96",
		"Lay it: rests 24 h, was 18 h", "Lay it: at least 10 h, was 8 h",
		"Stain added",
		"Pack: a rest after it, usually 1 h", "Pack: checklist",
		"Seal: its ceiling", "Seal: what it uses",
		"Sand left out", "the order of the steps", "look weathered, was crisp",
	}, after.DiffersFrom(before))
	assert.Contains(t, before.DiffersFrom(after), "Pack: no rest after it")
}
