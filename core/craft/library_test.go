package craft_test

import (
	"bytes"
	"cmp"
	"encoding/json"
	"io/fs"
	"os"
	"path/filepath"
	"regexp"
	"slices"
	"strings"
	"testing"

	"tidykiln/core/fault"

	"github.com/santhosh-tekuri/jsonschema/v6"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"tidykiln/core/craft"
	"tidykiln/core/shape"
)

// facts are what the craft says of each method.
var facts = []struct {
	key      string
	mirrored bool
	// floor and usual are of the rest after the picture is on, in minutes.
	floor, usualLow, usualHigh int
	rounds                     int
	surface                    craft.Surface
}{
	{"gel-lift", true, 480, 720, 1440, 2, craft.WoodBare},
	{"glue-lift", true, 720, 1440, 1440, 2, craft.WoodPainted},
	{"varnish-lift", true, 120, 180, 240, 2, craft.WoodBare},
	{"clearcoat-lift", true, 1440, 4320, 10080, 3, craft.WoodBare},
	{"quick-gel", true, 10, 15, 15, 2, craft.GlassPainted},
	{"transfer-cream", true, 45, 60, 60, 2, craft.Stone},
	{"transfer-lotion", true, 120, 720, 1440, 2, craft.WoodPainted},
	{"photo-medium", true, 480, 720, 1440, 3, craft.FabricCotton},
	{"tape-lift", false, 0, 0, 0, 1, craft.Glass},
	{"decal-face-up", false, 240, 240, 720, 0, craft.MetalCoated},
	{"decal-ink-backed", true, 240, 240, 720, 0, craft.MetalCoated},
	{"decal-sprayed-ground", false, 240, 240, 720, 0, craft.MetalCoated},
	{"tissue-melt", false, 10, 10, 60, 0, craft.CandleWax},
	{"sublimation", true, 15, 15, 30, 0, craft.CoatedBoard},
	{"decoupage", false, 480, 480, 720, 0, craft.WoodPainted},
}

func TestTheLibraryHoldsTheFifteenMethodsWithTheirFacts(t *testing.T) {
	require.Len(t, craft.Methods(), len(facts))
	for i, f := range facts {
		m := craft.Methods()[i]
		assert.Equal(t, f.key, m.Key)
		assert.Equal(t, f.mirrored, m.MustMirror(false), f.key)
		assert.Equal(t, !f.mirrored, m.MustMirror(true), "%s: looking through the blank swaps it", f.key)
		r, err := m.Propose(craft.Ask{Blank: craft.Blank{Surface: f.surface, Shape: slice.Shape}, Look: craft.Crisp, Material: "x"})
		require.NoError(t, err, f.key)
		rounds := 0
		for _, s := range r.Steps {
			if s.Do == craft.RemovePaper {
				rounds++
			}
		}
		assert.Equal(t, f.rounds, rounds, f.key)
		assert.Equal(t, rounds > 0, m.Removal != "", f.key)
		if f.floor == 0 {
			continue
		}
		on := r.Steps[slices.IndexFunc(r.Steps, func(s craft.Step) bool { return s.Do.Carries() })]
		if on.Do == craft.Press {
			on = step(t, r, "weigh-flat")
		}
		assert.Equal(t, f.floor, on.Rest.Floor, f.key)
		assert.GreaterOrEqual(t, on.Rest.Usual, f.usualLow, f.key)
		assert.LessOrEqual(t, on.Rest.Usual, f.usualHigh, f.key)
	}
}

func TestEveryMethodProposesAWholeRecipeForEachOfItsSurfaces(t *testing.T) {
	for _, m := range craft.Methods() {
		for _, s := range m.Surfaces {
			for _, hangs := range []bool{false, true} {
				blank := craft.Blank{Surface: s, Shape: slice.Shape, Hangs: hangs, HoldsFlame: hangs, Drinkware: hangs, Tone: craft.Light}
				r, err := m.Propose(craft.Ask{Blank: blank, Look: craft.Weathered, Material: "any"})
				require.NoError(t, err, "%s on %s", m.Key, s)
				assert.Equal(t, m.Key, r.Method)
				assert.Contains(t, dos(r), craft.PrintOut, m.Key)
				assert.Equal(t, craft.Pack, r.Steps[len(r.Steps)-1].Do, m.Key)
				uses := 0
				for _, s := range r.Steps {
					for _, u := range s.Uses {
						if u.Material == "any" {
							uses++
						}
					}
				}
				assert.Equal(t, 1, uses, "%s on %s takes one blank a piece", m.Key, s)
				require.NoError(t, r.ForBench(blank).Validate(), "%s on %s", m.Key, s)
			}
		}
	}
	_, ok := craft.MethodByKey("no such method")
	assert.False(t, ok)
}

func compiled(t *testing.T, text []byte) *jsonschema.Schema {
	document, err := jsonschema.UnmarshalJSON(bytes.NewReader(text))
	require.NoError(t, err)
	compiler := jsonschema.NewCompiler()
	require.NoError(t, compiler.AddResource("schema.json", document))
	schema, err := compiler.Compile("schema.json")
	require.NoError(t, err)
	return schema
}

func TestTheFactsOfTheWorkKeepTheirSchema(t *testing.T) {
	schema := compiled(t, craft.WorkSchema())
	value, err := jsonschema.UnmarshalJSON(bytes.NewReader(craft.WorkFacts()))
	require.NoError(t, err)
	require.NoError(t, schema.Validate(value))
	value, err = jsonschema.UnmarshalJSON(strings.NewReader(strings.Replace(string(craft.WorkFacts()), `"hot"`, `"warm"`, 1)))
	require.NoError(t, err)
	assert.Error(t, schema.Validate(value))
	assert.Equal(t, []craft.Do{craft.Clean, craft.Pack}, []craft.Do{craft.Dos()[0], craft.Dos()[len(craft.Dos())-1]}, "in the order of the work")
	for _, s := range []craft.Step{{Do: craft.Seal, With: craft.SprayAcrylic}, {Do: craft.WipeSolvent}, {Do: craft.Degrease}} {
		assert.True(t, s.Flammable(), s.Do)
	}
	assert.False(t, craft.Degrease.Sprays(""), "what is wiped off is gone from the piece before it is pressed")
}

// What is true of a method stands in the library's files, and nowhere is it
// asked for by its name; words.go is the vocabulary, in which media and inks bear some of the same words.
func TestNoCodeNamesAMethod(t *testing.T) {
	quoted := regexp.MustCompile(`"(` + strings.Join(keys(craft.Methods()), "|") + `)"`)
	read := 0
	for _, root := range []string{"..", "../../internal", "../../cmd"} {
		require.NoError(t, filepath.WalkDir(root, func(path string, d fs.DirEntry, err error) error {
			if err != nil || d.IsDir() || !strings.HasSuffix(path, ".go") || strings.HasSuffix(path, "_test.go") || strings.HasSuffix(path, "words.go") || strings.Contains(path, "/demo/") || strings.Contains(path, "test/") {
				return err
			}
			read++
			text, err := os.ReadFile(path)
			assert.Empty(t, quoted.FindString(string(text)), path)
			return err
		}))
	}
	assert.Greater(t, read, 150)
}

func keys(methods []craft.Method) (all []string) {
	for _, m := range methods {
		all = append(all, m.Key)
	}
	return all
}

func TestBuiltInMethodsKeepTheSchemaAndTheirOwnRules(t *testing.T) {
	schema := compiled(t, craft.MethodSchema())
	for _, m := range craft.Methods() {
		require.NoError(t, m.Validate(), m.Key)
		text, err := json.Marshal(m)
		require.NoError(t, err)
		value, err := jsonschema.UnmarshalJSON(bytes.NewReader(text))
		require.NoError(t, err)
		assert.NoError(t, schema.Validate(value), m.Key)
		spoilt := strings.Replace(string(text), `"viewSide"`, `"viewsSide"`, 1)
		value, err = jsonschema.UnmarshalJSON(strings.NewReader(spoilt))
		require.NoError(t, err)
		assert.Error(t, schema.Validate(value), "the schema refuses unknown fields")
	}
}

func TestAMethodThatCannotBeNamesItsField(t *testing.T) {
	for name, c := range map[string]struct {
		spoil func(*craft.Method)
		at    string
	}{
		"format":    {func(m *craft.Method) { m.Format = "x" }, "format"},
		"key":       {func(m *craft.Method) { m.Key = "Upper Case" }, "key"},
		"name":      {func(m *craft.Method) { m.Name = "" }, "name"},
		"family":    {func(m *craft.Method) { m.Family = "knitting" }, "family"},
		"view side": {func(m *craft.Method) { m.ViewSide = craft.PrintedFace }, "viewSide"},
		"odd view":  {func(m *craft.Method) { m.ViewSide = "moon" }, "viewSide"},
		"surfaces":  {func(m *craft.Method) { m.Surfaces = nil }, "surfaces"},
		"surface":   {func(m *craft.Method) { m.Surfaces = []craft.Surface{"jelly"} }, "surfaces[0]"},
		"prints":    {func(m *craft.Method) { m.Prints = nil }, "prints"},
		"kind":      {func(m *craft.Method) { m.Prints = []craft.Print{{Kind: "wax", Carrier: craft.Paper}} }, "prints[0].kind"},
		"carrier":   {func(m *craft.Method) { m.Prints = []craft.Print{{Kind: craft.Toner, Carrier: "wax"}} }, "prints[0].carrier"},
		"medium on": {func(m *craft.Method) { m.MediumOn = []craft.MediumOn{"moon"} }, "mediumOn[0]"},
		"per area":  {func(m *craft.Method) { m.Steps[0].MinutesPer100cm2 = -1 }, "steps[0].minutesPer100cm2"},
		"when":      {func(m *craft.Method) { m.Steps[0].When = &craft.When{Tones: []craft.Tone{"pink"}} }, "steps[0].when.tones[0]"},
		"step":      {func(m *craft.Method) { m.Steps[0].Yield = 2 }, "steps[0].yield"},
	} {
		m := method(t, "gel-lift")
		m.Steps = slices.Clone(m.Steps)
		c.spoil(&m)
		assert.Equal(t, c.at, fault.Of(m.Validate()).Path, name)
	}
}

func TestEachPrintedSideIsPressedAlone(t *testing.T) {
	blank := craft.Blank{Surface: craft.CoatedBoard, Shape: shape.Shape{Kind: shape.Rectangle, Width: 150, Height: 210, Thickness: 2}, Sides: 2}
	r, err := method(t, "sublimation").Propose(craft.Ask{Blank: blank, Look: craft.Crisp, Material: "cover"})
	require.NoError(t, err)
	assert.Equal(t, "Press, side 2", step(t, r, "press-2").Name)
	assert.Equal(t, []craft.Do{craft.Press, craft.Press, craft.WeighFlat}, dos(r)[2:5])
}

func TestFilmFollowsTheTone(t *testing.T) {
	for tone, id := range map[craft.Tone]string{"": "print-decal-clear", craft.Light: "print-decal-clear", craft.Dark: "print-decal-white"} {
		r, err := method(t, "decal-face-up").Propose(craft.Ask{Blank: craft.Blank{Surface: craft.Glass, Shape: slice.Shape, Tone: tone}, Look: craft.Crisp, Material: "x"})
		require.NoError(t, err)
		step(t, r, id)
	}
}

func TestThePrintSaysWhetherItIsMirrored(t *testing.T) {
	assert.Contains(t, step(t, proposed(t), "print").Checklist[0], "Mirrored:")
	inside := slice
	inside.ThroughBlank = true
	r, err := method(t, "gel-lift").Propose(craft.Ask{Blank: inside, Look: craft.Crisp, Material: "x"})
	require.NoError(t, err)
	assert.Contains(t, step(t, r, "print").Checklist[0], "Not mirrored:")
}

func TestTheMarginIsLeftOnTheSheetAndCoated(t *testing.T) {
	r, err := method(t, "gel-lift").Propose(craft.Ask{Blank: slice, Look: craft.Crisp, Material: "x", Choices: map[string]string{"trim": "margin"}})
	require.NoError(t, err)
	assert.EqualValues(t, 10, r.PrintMargin())
	coat := slices.IndexFunc(step(t, r, "lay").Uses, func(u craft.Use) bool { return u.Per == craft.PerCoat })
	assert.EqualValues(t, 10, step(t, r, "lay").Uses[coat].Margin)
	close, err := method(t, "gel-lift").Propose(craft.Ask{Blank: slice, Look: craft.Crisp, Material: "x", Choices: map[string]string{"trim": "close"}})
	require.NoError(t, err)
	assert.Zero(t, close.PrintMargin())
}

func TestEveryAnswerOfEverySchoolMakesAWholeRecipe(t *testing.T) {
	for _, m := range craft.Methods() {
		surface := m.Surfaces[0]
		plain, err := m.Propose(craft.Ask{Blank: craft.Blank{Surface: surface, Shape: slice.Shape}, Look: craft.Crisp, Material: "x"})
		require.NoError(t, err)
		for _, s := range craft.SchoolsOf(m) {
			require.GreaterOrEqual(t, len(s.Choices), 2, s.Key)
			for _, c := range s.Choices {
				assert.NotEmpty(t, c.Trades, "%s: %s", s.Key, c.Key)
				r, err := m.Propose(craft.Ask{Blank: craft.Blank{Surface: surface, Shape: slice.Shape}, Look: craft.Crisp, Material: "x", Choices: map[string]string{s.Key: c.Key}})
				if c.Method != "" && c.Method != m.Key {
					assert.Equal(t, "choices."+s.Key, fault.Of(err).Path)
					continue
				}
				require.NoError(t, err, "%s: %s", s.Key, c.Key)
				assert.Equal(t, c.Key, r.Choices[s.Key])
				changes := slices.ContainsFunc(c.Edits, func(e craft.Edit) bool {
					return slices.Contains(dos(plain), cmp.Or(e.Do, e.Between)) && e.With != craft.VarnishWater && e.UsualMinutes == 0
				})
				if changes {
					assert.NotEqual(t, plain.Steps, r.Steps, "%s on %s: %s changes the recipe", s.Key, m.Key, c.Key)
				}
			}
		}
	}
	_, err := method(t, "gel-lift").Propose(craft.Ask{Blank: slice, Look: craft.Crisp, Material: "x", Choices: map[string]string{"seal": "mud"}})
	assert.Equal(t, "choices.seal", fault.Of(err).Path)
	_, err = method(t, "tissue-melt").Propose(craft.Ask{Blank: craft.Blank{Surface: craft.CandleWax, Shape: slice.Shape}, Look: craft.Crisp, Material: "x", Choices: map[string]string{"seal": "wax"}})
	assert.Equal(t, "choices.seal", fault.Of(err).Path, "it does not raise this question")
}

func TestChoicesDoWhatTheySay(t *testing.T) {
	choose := func(school, choice string) craft.Recipe {
		r, err := method(t, "glue-lift").Propose(craft.Ask{Blank: craft.Blank{Surface: craft.WoodPainted, Shape: slice.Shape}, Look: craft.Crisp, Material: "x", Choices: map[string]string{school: choice}})
		require.NoError(t, err)
		return r
	}
	assert.Equal(t, 720, step(t, choose("rest", "label"), "lay").Rest.Usual)
	assert.NotContains(t, dos(choose("base", "bare")), craft.PaintBase)
	same := step(t, choose("seal", "same"), "seal-1")
	assert.Equal(t, craft.Same, same.With)
	assert.Equal(t, "craft-glue", same.Uses[0].Material)
	spray := step(t, choose("seal", "spray"), "seal-1")
	assert.Equal(t, []craft.Holding{craft.SprayPlace}, spray.Holds)
	assert.Equal(t, "spray-acrylic", spray.Uses[0].Material)
	waxed := dos(choose("seal", "wax"))
	assert.NotContains(t, waxed, craft.Seal)
	assert.Equal(t, slices.Index(waxed, craft.WaxLight)+1, slices.Index(waxed, craft.Buff))
}

func TestBlocksCoverTheWholeWork(t *testing.T) {
	have := map[craft.Do]bool{}
	for _, b := range craft.Blocks() {
		have[b.Do] = true
		require.NoError(t, craft.Recipe{Look: craft.Crisp, Steps: []craft.Step{b.For(craft.Ask{Blank: slice, Material: "x"}), {ID: "end", Do: craft.Pack, Name: "End", SetupMinutes: 1, Yield: 1}}}.Validate(), b.ID)
	}
	for _, d := range craft.Dos() {
		assert.True(t, have[d], "no building block for %s", d)
	}
}

func TestCautionsGoWithTheWork(t *testing.T) {
	joined := func(s craft.Step, b craft.Blank) string { return strings.Join(craft.CautionsFor(s, b), " ") }
	cup := craft.Blank{Surface: craft.MetalCoated, Drinkware: true}
	for _, c := range []struct {
		step  craft.Step
		blank craft.Blank
		says  string
	}{
		{craft.Step{Do: craft.SpraySealPrint}, cup, "respirator"},
		{craft.Step{Do: craft.WipeSolvent}, cup, "lidded metal tin"},
		{craft.Step{Do: craft.Melt}, craft.Blank{Surface: craft.CandleWax}, "near a flame"},
		{craft.Step{Do: craft.Melt}, craft.Blank{Surface: craft.CandleWax}, "Hot air burns"},
		{craft.Step{Do: craft.Press}, cup, "fumes"},
		{craft.Step{Do: craft.Sand}, slice, "lead"},
		{craft.Step{Do: craft.Drill}, slice, "Eye protection"},
		{craft.Step{Do: craft.Trim}, slice, "away from the hand"},
		{craft.Step{Do: craft.String}, craft.Blank{Surface: craft.WoodBare, ForChildren: true}, "children"},
		{craft.Step{Do: craft.ApplyDecal}, cup, "rim"},
		{craft.Step{Do: craft.Seal, With: craft.VarnishWater}, craft.Blank{FoodContact: true}, "food-safe"},
		{craft.Step{Do: craft.Seal, With: craft.Resin}, slice, "mixing ratio"},
		{craft.Step{Do: craft.ApplyDecal}, craft.Blank{Surface: craft.Glass, HoldsFlame: true}, "below the flame line"},
		{craft.Step{Do: craft.PrintOut}, slice, "permission"},
		{craft.Step{Do: craft.Degrease}, craft.Blank{Surface: craft.Plastic}, "hidden spot"},
	} {
		assert.Contains(t, joined(c.step, c.blank), c.says, c.step.Do)
	}
	assert.NotContains(t, joined(craft.Step{Do: craft.Pack}, craft.Blank{Surface: craft.Glass}), "flame")
	assert.Empty(t, craft.CautionsFor(craft.Step{Do: craft.Buff}, slice))
}

func TestPrintingIsDoneInARestWhereThereIsOneBeforeThePictureGoesOn(t *testing.T) {
	bottle := craft.Blank{Surface: craft.Glass, Shape: shape.Shape{Kind: shape.Cylinder, Diameter: 75, Height: 200}}
	for key, host := range map[string]string{"tape-lift": "delabel", "decal-face-up": "delabel", "decal-ink-backed": "delabel", "decal-sprayed-ground": "wipe-solvent"} {
		r, err := method(t, key).Propose(craft.Ask{Blank: bottle, Look: craft.Crisp, Material: "x"})
		require.NoError(t, err)
		i := slices.IndexFunc(r.Steps, func(s craft.Step) bool { return s.Do == craft.PrintOut })
		assert.Equal(t, host, r.Steps[i].Inside, key)
	}
	r, err := method(t, "tape-lift").Propose(craft.Ask{Blank: craft.Blank{Surface: craft.CeramicGlazed, Shape: slice.Shape}, Look: craft.Crisp, Material: "x"})
	require.NoError(t, err)
	assert.Empty(t, r.Steps[0].Inside, "no label to soak off, no rest to print in")
}

func TestDarkPorousBlanksTakeTwoCoatsOfBaseAndPaintedOnesWeather(t *testing.T) {
	count := func(key string, b craft.Blank, look craft.Look, do craft.Do) (n int) {
		b.Shape = slice.Shape
		r, err := method(t, key).Propose(craft.Ask{Blank: b, Look: look, Material: "x"})
		require.NoError(t, err)
		for _, s := range r.Steps {
			if s.Do == do {
				n++
			}
		}
		return n
	}
	for _, surface := range []craft.Surface{craft.Stone, craft.Canvas, craft.CeramicUnglazed} {
		assert.Equal(t, 2, count("gel-lift", craft.Blank{Surface: surface, Tone: craft.Dark}, craft.Crisp, craft.PaintBase), surface)
		assert.Zero(t, count("gel-lift", craft.Blank{Surface: surface, Tone: craft.Light}, craft.Crisp, craft.PaintBase), surface)
	}
	for _, key := range []string{"gel-lift", "varnish-lift", "quick-gel", "transfer-cream", "transfer-lotion", "photo-medium"} {
		assert.Equal(t, 1, count(key, craft.Blank{Surface: craft.StonePainted}, craft.Weathered, craft.SandEdges), key)
		assert.Equal(t, 1, count(key, craft.Blank{Surface: craft.WoodPainted}, craft.Weathered, craft.SandEdges), key)
		assert.Zero(t, count(key, craft.Blank{Surface: craft.WoodPainted}, craft.Crisp, craft.SandEdges), key)
	}
}

func TestDecalsGoOnOneSideAfterTheOtherUnlessTheBlankStands(t *testing.T) {
	lays := func(b craft.Blank) (n int) {
		r, err := method(t, "decal-face-up").Propose(craft.Ask{Blank: b, Look: craft.Crisp, Material: "x"})
		require.NoError(t, err)
		for _, s := range r.Steps {
			if s.Do == craft.ApplyDecal {
				n++
			}
		}
		return n
	}
	assert.Equal(t, 2, lays(craft.Blank{Surface: craft.CeramicGlazed, Shape: slice.Shape, Sides: 2}), "it lies on the fresh one")
	assert.Equal(t, 1, lays(craft.Blank{Surface: craft.MetalCoated, Shape: shape.Shape{Kind: shape.Cylinder, Diameter: 80, Height: 160}, Sides: 2}))
}
