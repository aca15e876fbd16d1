package craft_test

import (
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"tidykiln/core/craft"
	"tidykiln/core/shape"
)

// randomRecipe strings building blocks together as an owner might: in any
// order, with rests of any sense, some steps inside a rest.
func randomRecipe(t *rapid.T) craft.Recipe {
	r := craft.Recipe{Look: craft.Crisp}
	for range rapid.IntRange(1, 14).Draw(t, "steps") {
		block := rapid.SampledFrom(craft.Blocks()).Draw(t, "block")
		step := block.For(craft.Ask{Blank: slice, Material: "x"})
		step.ID = r.FreeID(step.ID)
		if step.Rest != nil && rapid.Bool().Draw(t, "other rest") {
			rest := *step.Rest
			rest.Floor = rapid.IntRange(0, 600).Draw(t, "floor")
			rest.Usual = rest.Floor + rapid.IntRange(0, 600).Draw(t, "more")
			rest.Ceiling = nil
			if rapid.Bool().Draw(t, "closes") {
				rest.Ceiling = new(rest.Usual + rapid.IntRange(0, 60).Draw(t, "slack"))
			}
			step.Rest = &rest
		}
		if n := len(r.Steps); n > 0 && rapid.IntRange(0, 3).Draw(t, "inside") == 0 {
			step.Inside, step.Rest = r.Steps[n-1].ID, nil
			if r.Steps[n-1].Inside != "" {
				step.Inside = r.Steps[n-1].Inside
			}
		}
		r.Steps = append(r.Steps, step)
	}
	end, _ := craft.BlockByKey("pack")
	last := end.For(craft.Ask{Blank: slice, Material: "x"})
	last.ID = r.FreeID("end")
	r.Steps = append(r.Steps, last)
	return r
}

func TestAnyRecipeThatIsValidIsWorkableAtTheBench(t *testing.T) {
	workable := 0
	rapid.Check(t, func(t *rapid.T) {
		r := randomRecipe(t)
		if r.Validate() != nil {
			return
		}
		workable++
		bench := r.ForBench(slice)
		require.NoError(t, bench.Validate())
		assert.InDelta(t, r.SurvivalFrom(0), bench.SurvivalFrom(0), 1e-9, "no piece is lost by joining steps")
		perPiece := func(r craft.Recipe) (minutes float64) {
			for _, s := range r.Steps {
				minutes += s.MinutesPerPiece
			}
			return minutes
		}
		assert.InDelta(t, perPiece(r), perPiece(bench), 1e-9, "nor a minute of hands")
		for i, s := range bench.Steps {
			assert.False(t, s.Rest != nil && s.Rest.Ceiling != nil && *s.Rest.Ceiling <= craft.HandInHandCeiling && i+1 < len(bench.Steps) && bench.Steps[i+1].Inside == "", "nothing that closes within minutes is left to the plan")
			next := bench.Following(i)
			assert.True(t, next == len(bench.Steps) || bench.Steps[next].Inside == "")
			again, rework := bench.AgainFrom(i), bench.ReworkFrom(i)
			assert.True(t, again >= 0 && again <= i)
			assert.Less(t, rework, i)
			assert.Equal(t, rework >= 0 && slices.Contains(s.OutcomeChoices(), craft.Rework), slices.Contains(bench.OutcomesAt(i), craft.Rework))
		}
	})
	assert.Positive(t, workable)
}

func TestAnyMethodFitsAnyPictureAndBlankOfItsSurfaces(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		m := rapid.SampledFrom(craft.Methods()).Draw(t, "method")
		blank := craft.Blank{Surface: rapid.SampledFrom(m.Surfaces).Draw(t, "surface"), Sides: rapid.IntRange(0, 6).Draw(t, "sides"),
			Shape: shape.Shape{Kind: shape.Cylinder, Diameter: 80, Height: 160}, Hangs: rapid.Bool().Draw(t, "hangs"), Drinkware: rapid.Bool().Draw(t, "cup")}
		ask := craft.Ask{Blank: blank, Picture: craft.Picture{Width: 40, Height: 50}, Look: craft.Weathered, Material: "x", Choices: map[string]string{}}
		for _, s := range craft.SchoolsOf(m) {
			c := rapid.SampledFrom(s.Choices).Draw(t, s.Key)
			if c.Method == "" || c.Method == m.Key {
				ask.Choices[s.Key] = c.Key
			}
		}
		minutes := func(name string, least int) *int { return new(rapid.IntRange(least, 86400).Draw(t, name)) }
		from := minutes("recoat from", 0)
		label := craft.Label{Floor: minutes("floor", 0), RecoatFrom: from, RecoatTo: minutes("recoat to", *from), Cure: minutes("cure", 0), Film: 0.3}
		ask.Labels = craft.Labels{rapid.SampledFrom([]string{"gel-medium", "varnish", "base-paint", "spray-acrylic", "photo-medium"}).Draw(t, "labelled"): label}
		r, err := m.Propose(ask)
		require.NoError(t, err)
		require.NoError(t, r.ForBench(blank).Validate())
		assert.Equal(t, r, r.AsLabelled(ask.Labels), "done twice it changes nothing")
		ask.Picture = craft.Picture{}
		whole, err := m.Propose(ask)
		require.NoError(t, err)
		for i := range r.Steps {
			assert.LessOrEqual(t, r.Steps[i].MinutesPerPiece, whole.Steps[i].MinutesPerPiece, "a smaller picture takes no longer")
		}
	})
}
