package check_test

import (
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"tidykiln/core/check"
	"tidykiln/core/craft"
	"tidykiln/core/measure"
	"tidykiln/core/shape"
)

func productOf(t require.TestingT, m craft.Method, b craft.Blank) check.Product {
	r, err := m.Propose(craft.Ask{Blank: b, Look: craft.Crisp, Material: "x"})
	require.NoError(t, err)
	mirrored := m.MustMirror(b.ThroughBlank)
	p := check.Product{Family: m.Key, Blank: b, Lettered: true, Recipe: r,
		Picture: craft.Picture{Kind: m.Prints[0].Kind, Carrier: m.Prints[0].Carrier, Gsm: 80, Mirrored: &mirrored, Ppi: 300, Rights: craft.RightsOwn}}
	return p
}

func TestWhatTheLibraryProposesHasNothingToStop(t *testing.T) {
	room := check.Room{}
	for _, m := range craft.Methods() {
		for _, s := range m.Surfaces {
			b := craft.Blank{Surface: s, Tone: craft.Light, Sides: 2, HoldsFlame: s == craft.Glass, Shape: shape.Shape{Kind: shape.Rectangle, Width: 100, Height: 80, Thickness: 4}}
			found := check.Find(productOf(t, m, b).Problem(room))
			assert.Empty(t, found, "%s on %s", m.Key, s)
		}
	}
}

func TestTheFloorOfARestIsWhatCounts(t *testing.T) {
	m, _ := craft.MethodByKey("gel-lift")
	p := productOf(t, m, craft.Blank{Surface: craft.WoodBare, Tone: craft.Light, Shape: shape.Shape{Kind: shape.Disc, Diameter: 90}})
	for i, s := range p.Recipe.Steps {
		if s.Do == craft.Lay {
			rest := *s.Rest
			rest.Floor = 240
			p.Recipe.Steps[i].Rest = &rest
		}
	}
	found := check.Find(p.Problem(check.Room{}))
	require.Len(t, found, 1)
	assert.Equal(t, "rest-under-floor", found[0].Rule)
	assert.Equal(t, "The rest after the lay may be as short as 4 h; Gel-medium lift needs at least 8 h. Not waiting is the commonest way to lose pieces.", found[0].Why)
	assert.Equal(t, check.Stop, check.Worst(found))
	assert.Empty(t, check.Worst(nil))
}

func TestFactsOfAProductReachTheRules(t *testing.T) {
	m, _ := craft.MethodByKey("decal-face-up")
	b := craft.Blank{Surface: craft.MetalCoated, Tone: craft.Dark, Drinkware: true, FoodContact: true, Shape: shape.Shape{Kind: shape.Cylinder, Diameter: 80, Height: 170}}
	p := productOf(t, m, b)
	rim := p.Blank.Shape.Height - 165
	p.Blank.RimGap = &rim
	wrong := true
	p.Picture = craft.Picture{Kind: craft.Toner, Carrier: craft.DecalClear, Mirrored: &wrong, Width: 260, Height: 100, Ppi: 120, Rights: craft.RightsUnknown}
	cold, damp := 8.0, 0.9
	var rules []string
	for _, f := range check.Find(p.Problem(check.Room{Celsius: &cold, Humidity: &damp})) {
		rules = append(rules, f.Rule)
	}
	assert.Equal(t, []string{"mirror-unwanted", "dark-base", "lip-zone", "food-contact", "picture-too-big", "picture-coarse", "room-cold", "rights-unknown", "room-damp"}, rules)
}

func TestAPictureLiesWithinTheOutlineOfItsBlank(t *testing.T) {
	m, _ := craft.MethodByKey("gel-lift")
	fires := func(s shape.Shape, width, height measure.Length, round bool) bool {
		blank := craft.Blank{Surface: craft.WoodBare, Tone: craft.Light, Shape: s}
		picture := craft.Picture{Kind: craft.Toner, Carrier: craft.Paper, Gsm: 80, Width: width, Height: height, Round: round, Ppi: 300, Rights: craft.RightsOwn}
		recipe, err := m.Propose(craft.Ask{Blank: blank, Picture: picture, Look: craft.Crisp, Material: "plain-blank"})
		require.NoError(t, err)
		a, err := check.Compute(check.Product{Family: m.Key, Blank: blank, Picture: picture, Recipe: recipe}.Problem(check.Room{}))
		require.NoError(t, err)
		return slices.ContainsFunc(a.Findings, func(f check.Finding) bool { return f.Rule == "picture-too-big" && f.Level == check.Stop })
	}
	disc, oval := shape.Shape{Kind: shape.Disc, Diameter: 90, Thickness: 10}, shape.Shape{Kind: shape.Oval, Width: 120, Height: 80, Thickness: 5}
	assert.True(t, fires(disc, 85, 85, false))
	assert.False(t, fires(disc, 85, 85, true))
	assert.True(t, fires(oval, 110, 70, false))
	assert.False(t, fires(oval, 110, 70, true))
	assert.False(t, fires(oval, 80, 50, false))
}
