package check_test

import (
	"fmt"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"tidykiln/core/check"
	"tidykiln/core/craft"
	"tidykiln/core/shape"
)

// productOf is a product as the library proposes it, with all that can be said of it said.
func wholeProduct(t *testing.T, m craft.Method, blank craft.Blank, look craft.Look) check.Product {
	picture := craft.Picture{Kind: m.Prints[0].Kind, Carrier: m.Prints[0].Carrier, Width: 60, Height: 50, Ppi: 300, Rights: craft.RightsOwn, Mirrored: new(m.MustMirror(false))}
	if picture.Carrier == craft.Paper {
		picture.Gsm = 80
	}
	r, err := m.Propose(craft.Ask{Blank: blank, Picture: picture, Look: look, Material: "blank"})
	require.NoError(t, err)
	require.NoError(t, r.ForBench(blank).Validate())
	return check.Product{Family: m.Key, Blank: blank, Picture: picture, Recipe: r}
}

func blankOf(s craft.Surface, sides int) craft.Blank {
	b := craft.Blank{Surface: s, Tone: craft.Light, Sides: sides, Shape: shape.Shape{Kind: shape.Rectangle, Width: 95, Height: 95, Thickness: 10}}
	if s.Clear() || s == craft.MugCoated || s == craft.CandleWax || s == craft.GlassPainted {
		b.Shape = shape.Shape{Kind: shape.Cylinder, Diameter: 75, Height: 110, Thickness: 3}
	}
	return b
}

func TestEveryProposalOnEverySurfaceStandsWithoutAStop(t *testing.T) {
	pairs := 0
	for _, m := range craft.Methods() {
		for _, s := range m.Surfaces {
			pairs++
			for _, sides := range []int{1, 2} {
				for _, look := range []craft.Look{craft.Crisp, craft.Weathered} {
					p := wholeProduct(t, m, blankOf(s, sides), look)
					for _, f := range check.Find(p.Problem(check.Room{})) {
						assert.NotEqual(t, check.Stop, f.Level, "%s on %s, %d sides, %s: %s", m.Key, s, sides, look, f.Why)
					}
					assert.Empty(t, check.Unsaid(p), "%s on %s", m.Key, s)
				}
			}
		}
	}
	assert.Equal(t, 70, pairs, "sixty-three, and seven on painted stone")
}

func TestASecondSideTakesItsOwnLayRestMediumPrintAndRemoval(t *testing.T) {
	for _, m := range craft.Methods() {
		for _, apart := range []bool{false, true} {
			one, two := blankOf(m.Surfaces[0], 1), blankOf(m.Surfaces[0], 2)
			two.SidesApart = apart
			a, b := wholeProduct(t, m, one, craft.Crisp), wholeProduct(t, m, two, craft.Crisp)
			minutes := func(p check.Product, dos ...craft.Do) (sum float64) {
				for _, s := range p.Recipe.Steps {
					for _, d := range dos {
						if s.Do == d {
							sum += s.MinutesPerPiece
						}
					}
				}
				return sum
			}
			for _, do := range []craft.Do{craft.PrintOut, craft.Lay, craft.RemovePaper, craft.ApplyDecal, craft.ApplyTape, craft.Melt, craft.Press} {
				assert.InDelta(t, 2*minutes(a, do), minutes(b, do), 0.11*float64(len(b.Recipe.Steps)), "%s: %s", m.Key, do)
			}
			taken := func(p check.Product) map[string]float64 {
				all := map[string]float64{}
				extent := craft.ExtentOf(p.Blank, p.Picture)
				for _, s := range p.Recipe.Steps {
					for _, u := range s.Uses {
						all[u.Material] += u.Amount(s, extent, craft.Supply{}).For(12, false)
					}
				}
				return all
			}
			before, after := taken(a), taken(b)
			assert.Equal(t, before["blank"], after["blank"], "%s: one blank", m.Key)
			for _, material := range []string{"gel-medium", "photo-medium", "transfer-cream", "toner-print", "sublimation-print", "clear-tape", "tissue", "white-ink"} {
				assert.InDelta(t, 2*before[material], after[material], 1e-6, "%s: %s", m.Key, material)
			}
			if m.Floor != nil && !apart {
				rests := 0
				for _, s := range b.Recipe.Steps {
					if s.Do == craft.Lay && s.Rest != nil {
						rests++
					}
				}
				sittings := 2
				if two.Shape.Kind == shape.Cylinder {
					sittings = 1 // it stands, and no side touches anything
				}
				assert.Equal(t, sittings, rests, "%s: one side after the other where they touch what they lie on", m.Key)
			}
		}
	}
}

func TestTheBaseCoatsToneIsUnderThePicture(t *testing.T) {
	gel, _ := craft.MethodByKey("gel-lift")
	dark := blankOf(craft.WoodBare, 1)
	dark.Tone = craft.Dark
	p := wholeProduct(t, gel, dark, craft.Crisp)
	assert.NotContains(t, names(check.Find(p.Problem(check.Room{}))), "dark-base", "the recipe brings a light base")
	bare, err := gel.Propose(craft.Ask{Blank: dark, Look: craft.Crisp, Material: "blank", Choices: map[string]string{"base": "bare"}})
	require.NoError(t, err)
	p.Recipe = bare
	assert.Contains(t, names(check.Find(p.Problem(check.Room{}))), "dark-base", "choosing bare asks again")
	slate := blankOf(craft.Stone, 1)
	slate.Tone = craft.Dark
	assert.NotContains(t, names(check.Find(wholeProduct(t, gel, slate, craft.Crisp).Problem(check.Room{}))), "dark-base")

	compute := func(steps string) []string {
		a := answer(t, `{"format":"tidykiln/check-problem@1","method":"gel-lift","blank":{"surface":"wood-bare","tone":"dark"},"steps":[`+steps+`]}`)
		return names(a.Findings)
	}
	assert.Contains(t, compute(`{"do":"paint-base"},{"do":"lay","with":"gel","restMinutes":600}`), "dark-base")
	assert.NotContains(t, compute(`{"do":"paint-base","tone":"light"},{"do":"lay","with":"gel","restMinutes":600}`), "dark-base")
	assert.Contains(t, compute(`{"do":"paint-base","tone":"light"},{"do":"paint-base","tone":"dark"},{"do":"lay","with":"gel","restMinutes":600}`), "dark-base")
	assert.Contains(t, compute(`{"do":"lay","with":"gel","restMinutes":600},{"do":"paint-base","tone":"light"}`), "dark-base", "after the lay it is not under the picture")
}

func TestASquareDoesNotLieOnADiscOfItsOwnWidth(t *testing.T) {
	fires := func(outline string, w, h float64) bool {
		a := answer(t, fmt.Sprintf(`{"format":"tidykiln/check-problem@1","method":"gel-lift","blank":{"widthMm":90,"heightMm":90%s},"artwork":{"widthMm":%g,"heightMm":%g}}`, outline, w, h))
		return assert.ObjectsAreEqual(true, contains(names(a.Findings), "picture-too-big"))
	}
	assert.True(t, fires(`,"outline":"disc"`, 85, 85))
	assert.False(t, fires(`,"outline":"disc"`, 63, 63))
	assert.False(t, fires(`,"outline":"rect"`, 85, 85))
	assert.False(t, fires(``, 85, 85))
	assert.True(t, fires(``, 95, 85))
	gel, _ := craft.MethodByKey("gel-lift")
	p := wholeProduct(t, gel, craft.Blank{Surface: craft.WoodBare, Shape: shape.Shape{Kind: shape.Disc, Diameter: 90, Thickness: 10}}, craft.Crisp)
	p.Picture.Width, p.Picture.Height = 85, 85
	assert.Contains(t, names(check.Find(p.Problem(check.Room{}))), "picture-too-big")
	p.Picture.Round = true
	assert.NotContains(t, names(check.Find(p.Problem(check.Room{}))), "picture-too-big", "cut round it lies on it")
}

func TestWhatNobodyHasSaidIsSaid(t *testing.T) {
	gel, _ := craft.MethodByKey("gel-lift")
	p := wholeProduct(t, gel, blankOf(craft.WoodBare, 1), craft.Crisp)
	assert.Empty(t, check.Unsaid(p))
	p.Picture = craft.Picture{}
	assert.Equal(t, []string{"mirror-unsaid", "paper-unsaid", "sharpness-unsaid", "rights-unsaid"}, names(check.Unsaid(p)))
	assert.Equal(t, check.Tip, check.Unsaid(p)[0].Level)
	p.Picture.Slogan = true
	assert.Equal(t, check.Caution, check.Unsaid(p)[0].Level, "a slogan that reads backwards is lost")
	kit := p
	kit.Recipe.Steps = []craft.Step{{ID: "pack", Do: craft.Pack}}
	assert.Contains(t, names(check.Unsaid(kit)), "nothing-laid")
}

func TestAnOfferFitsTheMethodAndMakesNothingWorse(t *testing.T) {
	faint, _ := craft.TroubleByKey("faint")
	offered := func(method string, s craft.Surface) bool {
		m, _ := craft.MethodByKey(method)
		p := wholeProduct(t, m, blankOf(s, 1), craft.Crisp)
		_, words := check.Offer(faint, p, craft.Ask{Blank: p.Blank, Picture: p.Picture, Material: "blank"})
		return words != ""
	}
	for method, s := range map[string]craft.Surface{"tissue-melt": craft.CandleWax, "sublimation": craft.FabricPolyester, "decal-sprayed-ground": craft.MetalCoated, "photo-medium": craft.FabricCotton} {
		assert.False(t, offered(method, s), "no base paint on %s", s)
	}
	assert.True(t, offered("gel-lift", craft.Stone))

	for _, m := range craft.Methods() {
		for _, s := range m.Surfaces {
			p := wholeProduct(t, m, blankOf(s, 1), craft.Crisp)
			before := len(check.Find(p.Problem(check.Room{})))
			for _, trouble := range craft.Troubles() {
				changed, _ := check.Offer(trouble, p, craft.Ask{Blank: p.Blank, Picture: p.Picture, Material: "blank"})
				after := p
				after.Recipe = changed
				assert.LessOrEqual(t, len(check.Find(after.Problem(check.Room{}))), before, "%s on %s: %s", m.Key, s, trouble.Key)
			}
		}
	}
}

func names(found []check.Finding) (list []string) {
	for _, f := range found {
		list = append(list, f.Rule)
	}
	return list
}

func contains(list []string, name string) bool {
	for _, n := range list {
		if n == name {
			return true
		}
	}
	return false
}

func answer(t *testing.T, problem string) check.Answer {
	a, err := check.Compute(read(t, problem))
	require.NoError(t, err)
	return a
}
