package check_test

import (
	"encoding/json"
	"testing"

	"tidykiln/core/fault"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"tidykiln/core/check"
)

// example is the problem of docs/formats.md.
const example = `{"format":"tidykiln/check-problem@1","method":"gel-lift","look":"crisp",
 "blank":{"surface":"wood-bare","tone":"light","widthMm":101.6,"heightMm":101.6,"printedSides":1,"drinkware":false,"rimGapMm":null,"foodContact":false,"holdsFlame":false},
 "view":{"throughBlank":false},
 "print":{"kind":"toner","carrier":"paper","gsm":80,"mirrored":true},
 "artwork":{"lettering":true,"widthMm":95,"heightMm":95,"ppi":300,"rights":"own"},
 "room":{"celsius":20,"humidity":0.5},
 "steps":[{"do":"sand"},{"do":"lay","with":"gel","restMinutes":1200},{"do":"remove-paper","restMinutes":120},
          {"do":"seal","with":"varnish-water","coversEdges":false,"restMinutes":240},{"do":"final-cure","restMinutes":1440},{"do":"pack"}]}`

func read(t require.TestingT, text string) check.Problem {
	var p check.Problem
	require.NoError(t, json.Unmarshal([]byte(text), &p))
	return p
}

func TestTheWorkedExample(t *testing.T) {
	a, err := check.Compute(read(t, example))
	require.NoError(t, err)
	assert.Equal(t, "mirrored", a.Mirror)
	require.Len(t, a.Findings, 1)
	assert.Equal(t, "edge-unsealed", a.Findings[0].Rule)
	assert.Equal(t, check.Caution, a.Findings[0].Level)
	assert.Equal(t, 3, *a.Findings[0].Step)
	text, err := json.Marshal(a)
	require.NoError(t, err)
	assert.Contains(t, string(text), `{"format":"tidykiln/check@1","mirror":"mirrored","findings":[{"rule":"edge-unsealed","level":"caution","step":3,"why":"`)
}

func TestMethodAloneIsEnough(t *testing.T) {
	a, err := check.Compute(read(t, `{"format":"tidykiln/check-problem@1","method":"tape-lift"}`))
	require.NoError(t, err)
	assert.Equal(t, "as-is", a.Mirror)
	assert.NotNil(t, a.Findings)
	assert.Empty(t, a.Findings, "what is not known switches rules off")
}

func TestLookingThroughTheBlankSwapsTheMirror(t *testing.T) {
	a, err := check.Compute(read(t, `{"format":"tidykiln/check-problem@1","method":"tape-lift","view":{"throughBlank":true},"print":{"mirrored":false},"artwork":{"lettering":true}}`))
	require.NoError(t, err)
	assert.Equal(t, "mirrored", a.Mirror)
	require.Len(t, a.Findings, 1)
	assert.Equal(t, "mirror-missing", a.Findings[0].Rule)
}

func TestStopsComeFirstThenCautionsThenTipsInTableOrder(t *testing.T) {
	a, err := check.Compute(read(t, `{"format":"tidykiln/check-problem@1","method":"gel-lift","look":"crisp","blank":{"tone":"dark","widthMm":90},
	 "print":{"kind":"inkjet","gsm":120,"mirrored":false},"artwork":{"widthMm":88,"ppi":250,"rights":"unknown"},"steps":[{"do":"seal","with":"varnish-water"},{"do":"pack"}]}`))
	require.NoError(t, err)
	var rules []string
	for _, f := range a.Findings {
		rules = append(rules, string(f.Level)+" "+f.Rule)
	}
	assert.Equal(t, []string{"stop inkjet-bleeds", "stop dark-base", "caution paper-heavy", "caution no-final-cure", "caution border-thin", "caution rights-unknown", "tip mirror-missing", "tip picture-coarse"}, rules)
}

func TestWhatCannotBeIsRefusedByField(t *testing.T) {
	for at, text := range map[string]string{
		"format":                  `{"format":"x","method":"gel-lift"}`,
		"method":                  `{"format":"tidykiln/check-problem@1","method":"knitting"}`,
		"look":                    `{"format":"tidykiln/check-problem@1","method":"gel-lift","look":"shiny"}`,
		"sheen":                   `{"format":"tidykiln/check-problem@1","method":"gel-lift","sheen":"wet"}`,
		"blank.surface":           `{"format":"tidykiln/check-problem@1","method":"gel-lift","blank":{"surface":"jelly"}}`,
		"blank.tone":              `{"format":"tidykiln/check-problem@1","method":"gel-lift","blank":{"tone":"pink"}}`,
		"blank.widthMm":           `{"format":"tidykiln/check-problem@1","method":"gel-lift","blank":{"widthMm":0}}`,
		"blank.heightMm":          `{"format":"tidykiln/check-problem@1","method":"gel-lift","blank":{"heightMm":-1}}`,
		"blank.printedSides":      `{"format":"tidykiln/check-problem@1","method":"gel-lift","blank":{"printedSides":0}}`,
		"blank.rimGapMm":          `{"format":"tidykiln/check-problem@1","method":"gel-lift","blank":{"rimGapMm":-3}}`,
		"print.kind":              `{"format":"tidykiln/check-problem@1","method":"gel-lift","print":{"kind":"potato"}}`,
		"print.carrier":           `{"format":"tidykiln/check-problem@1","method":"gel-lift","print":{"carrier":"bark"}}`,
		"print.gsm":               `{"format":"tidykiln/check-problem@1","method":"gel-lift","print":{"gsm":0}}`,
		"artwork.widthMm":         `{"format":"tidykiln/check-problem@1","method":"gel-lift","artwork":{"widthMm":0}}`,
		"artwork.heightMm":        `{"format":"tidykiln/check-problem@1","method":"gel-lift","artwork":{"heightMm":-2}}`,
		"artwork.ppi":             `{"format":"tidykiln/check-problem@1","method":"gel-lift","artwork":{"ppi":0}}`,
		"artwork.rights":          `{"format":"tidykiln/check-problem@1","method":"gel-lift","artwork":{"rights":"finders"}}`,
		"room.celsius":            `{"format":"tidykiln/check-problem@1","method":"gel-lift","room":{"celsius":-300}}`,
		"room.humidity":           `{"format":"tidykiln/check-problem@1","method":"gel-lift","room":{"humidity":55}}`,
		"steps[1].do":             `{"format":"tidykiln/check-problem@1","method":"gel-lift","steps":[{"do":"sand"},{"do":"juggle"}]}`,
		"steps[0].with":           `{"format":"tidykiln/check-problem@1","method":"gel-lift","steps":[{"do":"lay","with":"same"}]}`,
		"steps[0].restMinutes":    `{"format":"tidykiln/check-problem@1","method":"gel-lift","steps":[{"do":"lay","restMinutes":-1}]}`,
		"steps[0].sheen":          `{"format":"tidykiln/check-problem@1","method":"gel-lift","steps":[{"do":"seal","sheen":"wet"}]}`,
		"steps[0].ceilingMinutes": `{"format":"tidykiln/check-problem@1","method":"gel-lift","steps":[{"do":"lay","ceilingMinutes":-1}]}`,
	} {
		_, err := check.Compute(read(t, text))
		assert.Equal(t, at, fault.Of(err).Path)
	}
}
