package check_test

import (
	"fmt"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"tidykiln/core/check"
)

// none is the step of a finding that belongs to no single one.
const none = -1

// cases fire each rule, or show that it stays silent. facts are the fields of a
// problem beside its format; level is empty where the rule must be silent.
var cases = []struct {
	rule  string
	level check.Level
	step  int
	facts string
}{
	{"mirror-missing", check.Stop, none, `"method":"gel-lift","print":{"mirrored":false},"artwork":{"lettering":true}`},
	{"mirror-missing", check.Tip, none, `"method":"gel-lift","print":{"mirrored":false}`},
	{"mirror-missing", "", 0, `"method":"gel-lift","print":{"mirrored":true},"artwork":{"lettering":true}`},
	{"mirror-missing", "", 0, `"method":"gel-lift","view":{"throughBlank":true},"print":{"mirrored":false},"artwork":{"lettering":true}`},
	{"mirror-unwanted", check.Stop, none, `"method":"decal-face-up","print":{"mirrored":true},"artwork":{"lettering":true}`},
	{"mirror-unwanted", check.Tip, none, `"method":"gel-lift","view":{"throughBlank":true},"print":{"mirrored":true},"artwork":{"lettering":false}`},
	{"mirror-unwanted", "", 0, `"method":"decal-face-up","print":{"mirrored":false},"artwork":{"lettering":true}`},
	{"inkjet-bleeds", check.Stop, none, `"method":"varnish-lift","print":{"kind":"inkjet"}`},
	{"inkjet-bleeds", check.Stop, none, `"method":"tape-lift","print":{"kind":"inkjet"}`},
	{"inkjet-bleeds", check.Caution, none, `"method":"glue-lift","print":{"kind":"inkjet"}`},
	{"inkjet-bleeds", check.Caution, none, `"method":"decoupage","print":{"kind":"inkjet"}`},
	{"inkjet-bleeds", "", 0, `"method":"tissue-melt","print":{"kind":"inkjet"}`},
	{"inkjet-bleeds", "", 0, `"method":"gel-lift","print":{"kind":"toner"}`},
	{"decal-unsealed", check.Stop, 1, `"method":"decal-face-up","print":{"kind":"inkjet","carrier":"decal-white"},"steps":[{"do":"print"},{"do":"soak"},{"do":"apply-decal"},{"do":"spray-seal-print"}]`},
	{"decal-unsealed", check.Stop, 0, `"method":"decal-face-up","print":{"kind":"inkjet","carrier":"decal-clear"},"steps":[{"do":"apply-decal"}]`},
	{"decal-unsealed", check.Stop, none, `"method":"decal-face-up","print":{"kind":"inkjet","carrier":"decal-clear"},"steps":[]`},
	{"decal-unsealed", "", 0, `"method":"decal-face-up","print":{"kind":"inkjet","carrier":"decal-clear"},"steps":[{"do":"spray-seal-print"},{"do":"soak"}]`},
	{"decal-unsealed", "", 0, `"method":"decal-face-up","print":{"kind":"toner","carrier":"decal-clear"},"steps":[{"do":"soak"}]`},
	{"decal-unsealed", "", 0, `"method":"decal-face-up","print":{"kind":"inkjet","carrier":"decal-clear"}`},
	{"wrong-ink", check.Stop, none, `"method":"sublimation","print":{"kind":"toner"}`},
	{"wrong-ink", check.Stop, none, `"method":"gel-lift","print":{"kind":"sublimation"}`},
	{"wrong-ink", "", 0, `"method":"sublimation","print":{"kind":"sublimation"}`},
	{"wrong-ink", "", 0, `"method":"sublimation"`},
	{"not-for-surface", check.Stop, none, `"method":"gel-lift","blank":{"surface":"fabric-cotton"}`},
	{"not-for-surface", check.Stop, none, `"method":"photo-medium","blank":{"surface":"glass"}`},
	{"not-for-surface", "", 0, `"method":"photo-medium","blank":{"surface":"fabric-cotton"}`},
	{"oil-based-medium", check.Stop, 0, `"method":"varnish-lift","steps":[{"do":"lay","with":"varnish-oil"}]`},
	{"oil-based-medium", "", 0, `"method":"varnish-lift","steps":[{"do":"lay","with":"varnish-water"},{"do":"seal","with":"varnish-oil"}]`},
	{"base-not-cured", check.Stop, 2, `"method":"transfer-cream","steps":[{"do":"paint-base","restMinutes":4320},{"do":"paint-base","restMinutes":4319},{"do":"lay","with":"cream"}]`},
	{"base-not-cured", "", 0, `"method":"transfer-cream","steps":[{"do":"paint-base","restMinutes":4000},{"do":"print","restMinutes":320},{"do":"lay","with":"cream"}]`},
	{"base-not-cured", "", 0, `"method":"gel-lift","steps":[{"do":"paint-base","restMinutes":20},{"do":"lay","with":"gel","restMinutes":480}]`},
	{"paper-heavy", check.Caution, none, `"method":"gel-lift","print":{"carrier":"paper","gsm":120}`},
	{"paper-heavy", "", 0, `"method":"gel-lift","print":{"carrier":"paper","gsm":100}`},
	{"paper-heavy", "", 0, `"method":"decoupage","print":{"carrier":"paper","gsm":120}`},
	{"dark-base", check.Stop, none, `"method":"gel-lift","blank":{"tone":"dark"}`},
	{"dark-base", check.Tip, none, `"method":"sublimation","blank":{"tone":"medium"}`},
	{"dark-base", check.Stop, none, `"method":"decal-face-up","blank":{"tone":"dark"},"print":{"carrier":"decal-clear"}`},
	{"dark-base", check.Stop, none, `"method":"tape-lift","blank":{"tone":"dark"}`},
	{"dark-base", "", 0, `"method":"photo-medium","blank":{"tone":"dark"}`},
	{"dark-base", "", 0, `"method":"decal-face-up","blank":{"tone":"dark"},"print":{"carrier":"decal-white"}`},
	{"dark-base", "", 0, `"method":"decal-ink-backed","blank":{"tone":"dark"},"print":{"carrier":"decal-clear"}`},
	{"dark-base", "", 0, `"method":"gel-lift","blank":{"tone":"light"}`},
	{"white-film-feathered", check.Stop, none, `"method":"decal-ink-backed","print":{"carrier":"decal-white"}`},
	{"white-film-feathered", "", 0, `"method":"decal-ink-backed","print":{"carrier":"decal-clear"}`},
	{"candle-dark", check.Stop, none, `"method":"tissue-melt","blank":{"tone":"dark"}`},
	{"candle-dark", check.Caution, none, `"method":"tissue-melt","blank":{"tone":"medium"}`},
	{"candle-dark", "", 0, `"method":"tissue-melt","blank":{"tone":"light"}`},
	{"rest-under-floor", check.Stop, 1, `"method":"gel-lift","steps":[{"do":"lay","with":"gel","restMinutes":479},{"do":"remove-paper"}]`},
	{"rest-under-floor", check.Stop, 1, `"method":"decoupage","steps":[{"do":"lay","with":"glue","restMinutes":60},{"do":"seal","with":"varnish-water","restMinutes":600}]`},
	{"rest-under-floor", check.Stop, 0, `"method":"decoupage","steps":[{"do":"lay","with":"glue","restMinutes":60},{"do":"pack"}]`},
	{"rest-under-floor", "", 0, `"method":"gel-lift","steps":[{"do":"lay","with":"gel","restMinutes":400},{"do":"touch-up","restMinutes":80},{"do":"remove-paper"}]`},
	{"rest-under-floor", "", 0, `"method":"decal-face-up","steps":[{"do":"apply-decal"},{"do":"pack"}]`},
	{"forced-heat", check.Caution, 1, `"method":"gel-lift","steps":[{"do":"lay","with":"gel","restMinutes":480},{"do":"heat-dry"},{"do":"remove-paper"},{"do":"heat-dry"}]`},
	{"forced-heat", "", 0, `"method":"gel-lift","steps":[{"do":"heat-dry"},{"do":"lay","with":"gel","restMinutes":480},{"do":"remove-paper"},{"do":"heat-dry"}]`},
	{"wax-under-varnish", check.Stop, 1, `"method":"gel-lift","steps":[{"do":"wax-light"},{"do":"seal","with":"varnish-water"}]`},
	{"wax-under-varnish", "", 0, `"method":"gel-lift","steps":[{"do":"seal","with":"varnish-water"},{"do":"wax-light"}]`},
	{"dark-wax-alone", check.Caution, 0, `"method":"gel-lift","steps":[{"do":"wax-dark"},{"do":"wax-light"}]`},
	{"dark-wax-alone", "", 0, `"method":"gel-lift","steps":[{"do":"wax-light"},{"do":"wax-dark"}]`},
	{"powder-without-wax", check.Caution, 0, `"method":"gel-lift","steps":[{"do":"dust-powder"}]`},
	{"powder-without-wax", "", 0, `"method":"gel-lift","steps":[{"do":"wax-dark"},{"do":"dust-powder"}]`},
	{"stain-left", check.Stop, 0, `"method":"gel-lift","steps":[{"do":"stain"},{"do":"sand"},{"do":"wipe-stain"}]`},
	{"stain-left", check.Stop, 1, `"method":"gel-lift","steps":[{"do":"stain","restMinutes":11},{"do":"wipe-stain"}]`},
	{"stain-left", "", 0, `"method":"gel-lift","steps":[{"do":"stain","restMinutes":10},{"do":"wipe-stain"}]`},
	{"drill-before-seal", check.Tip, 0, `"method":"gel-lift","steps":[{"do":"drill"},{"do":"seal","with":"varnish-water"}]`},
	{"drill-before-seal", "", 0, `"method":"gel-lift","steps":[{"do":"seal","with":"varnish-water"},{"do":"drill"}]`},
	{"topcoat-clouds", check.Caution, 1, `"method":"glue-lift","look":"crisp","steps":[{"do":"lay","with":"glue","restMinutes":720},{"do":"seal","with":"same"}]`},
	{"topcoat-clouds", check.Caution, 0, `"method":"glue-lift","look":"crisp","steps":[{"do":"seal","with":"glue"}]`},
	{"topcoat-clouds", "", 0, `"method":"glue-lift","look":"weathered","steps":[{"do":"seal","with":"glue"}]`},
	{"topcoat-clouds", "", 0, `"method":"gel-lift","look":"crisp","steps":[{"do":"lay","with":"gel","restMinutes":720},{"do":"seal","with":"glue"},{"do":"seal","with":"same"}]`},
	{"edge-unsealed", check.Caution, none, `"method":"gel-lift","steps":[]`},
	{"edge-unsealed", check.Caution, 1, `"method":"decoupage","steps":[{"do":"seal","with":"gel","coversEdges":true},{"do":"seal","with":"gel","coversEdges":false}]`},
	{"edge-unsealed", "", 0, `"method":"gel-lift","steps":[{"do":"wax-light"}]`},
	{"edge-unsealed", "", 0, `"method":"photo-medium","steps":[]`},
	{"edge-unsealed", "", 0, `"method":"gel-lift"`},
	{"no-final-cure", check.Caution, 1, `"method":"gel-lift","steps":[{"do":"final-cure","restMinutes":719},{"do":"pack"}]`},
	{"no-final-cure", "", 0, `"method":"gel-lift","steps":[{"do":"final-cure","restMinutes":720},{"do":"pack"}]`},
	{"no-final-cure", "", 0, `"method":"sublimation","steps":[{"do":"pack"}]`},
	{"solvent-near-heat", check.Stop, 2, `"method":"tissue-melt","steps":[{"do":"spray-ground","restMinutes":30},{"do":"clean","restMinutes":29},{"do":"melt"}]`},
	{"solvent-near-heat", check.Stop, 1, `"method":"sublimation","steps":[{"do":"seal","with":"spray-acrylic"},{"do":"press"}]`},
	{"solvent-near-heat", "", 0, `"method":"tissue-melt","steps":[{"do":"ink-back","restMinutes":60},{"do":"melt"},{"do":"seal","with":"spray-acrylic"}]`},
	{"solvent-near-heat", "", 0, `"method":"tissue-melt","steps":[{"do":"seal","with":"varnish-water"},{"do":"heat-dry"}]`},
	{"lip-zone", check.Stop, none, `"method":"decal-face-up","blank":{"drinkware":true,"rimGapMm":14.9}`},
	{"lip-zone", "", 0, `"method":"decal-face-up","blank":{"drinkware":true,"rimGapMm":15}`},
	{"lip-zone", "", 0, `"method":"decal-face-up","blank":{"rimGapMm":3}`},
	{"food-contact", check.Stop, none, `"method":"gel-lift","blank":{"foodContact":true},"steps":[{"do":"seal","with":"varnish-water"}]`},
	{"food-contact", "", 0, `"method":"gel-lift","blank":{"foodContact":true},"steps":[{"do":"seal","with":"varnish-water","foodSafe":true}]`},
	{"candle-no-label", check.Stop, 0, `"method":"tissue-melt","blank":{"surface":"candle"},"steps":[{"do":"pack"},{"do":"label-caution"}]`},
	{"candle-no-label", check.Stop, none, `"method":"tape-lift","blank":{"holdsFlame":true},"steps":[]`},
	{"candle-no-label", "", 0, `"method":"tape-lift","blank":{"holdsFlame":true},"steps":[{"do":"label-caution"},{"do":"pack"}]`},
	{"candle-no-label", "", 0, `"method":"tape-lift","blank":{"surface":"glass"},"steps":[{"do":"pack"}]`},
	{"bow-unweighted", check.Caution, 2, `"method":"sublimation","blank":{"surface":"coated-board"},"steps":[{"do":"press"},{"do":"weigh-flat"},{"do":"press"}]`},
	{"bow-unweighted", "", 0, `"method":"sublimation","blank":{"surface":"coated-board"},"steps":[{"do":"press"},{"do":"press"},{"do":"weigh-flat"}]`},
	{"bow-unweighted", "", 0, `"method":"sublimation","blank":{"surface":"mug-coated"},"steps":[{"do":"press"}]`},
	{"side-unpressed", check.Stop, none, `"method":"sublimation","blank":{"printedSides":2},"steps":[{"do":"press"}]`},
	{"side-unpressed", "", 0, `"method":"sublimation","blank":{"printedSides":2},"steps":[{"do":"press"},{"do":"press"}]`},
	{"side-unpressed", "", 0, `"method":"gel-lift","blank":{"printedSides":2},"steps":[]`},
	{"wash-before-cure", check.Stop, 2, `"method":"photo-medium","steps":[{"do":"lay","with":"photo","restMinutes":4319},{"do":"remove-paper"},{"do":"wash"}]`},
	{"wash-before-cure", check.Stop, 2, `"method":"sublimation","steps":[{"do":"final-cure"},{"do":"press"},{"do":"wash"}]`},
	{"wash-before-cure", "", 0, `"method":"photo-medium","steps":[{"do":"wash"},{"do":"lay","with":"photo","restMinutes":4320},{"do":"wash"}]`},
	{"wash-before-cure", "", 0, `"method":"decal-face-up","steps":[{"do":"apply-decal"},{"do":"final-cure"},{"do":"wash"}]`},
	{"picture-too-big", check.Stop, none, `"method":"gel-lift","blank":{"widthMm":100,"heightMm":100},"artwork":{"widthMm":90,"heightMm":101}`},
	{"picture-too-big", "", 0, `"method":"gel-lift","blank":{"widthMm":100,"heightMm":100},"artwork":{"widthMm":100,"heightMm":100}`},
	{"border-thin", check.Caution, none, `"method":"gel-lift","blank":{"widthMm":100,"heightMm":100},"artwork":{"widthMm":96.2,"heightMm":50}`},
	{"border-thin", "", 0, `"method":"gel-lift","blank":{"widthMm":101.6,"heightMm":100},"artwork":{"widthMm":97.6,"heightMm":100}`},
	{"white-shows", check.Tip, none, `"method":"gel-lift","blank":{"tone":"light"},"artwork":{"whiteShare":0.15}`},
	{"white-shows", "", 0, `"method":"gel-lift","blank":{"tone":"light"},"artwork":{"whiteShare":0.14}`},
	{"white-shows", "", 0, `"method":"gel-lift","artwork":{"whiteShare":0.5}`},
	{"white-shows", "", 0, `"method":"photo-medium","blank":{"tone":"light"},"artwork":{"whiteShare":0.5}`},
	{"white-shows", "", 0, `"method":"gel-lift","blank":{"tone":"dark"},"artwork":{"whiteShare":0.5}`},
	{"picture-coarse", check.Stop, none, `"method":"gel-lift","artwork":{"ppi":149}`},
	{"picture-coarse", check.Caution, none, `"method":"gel-lift","artwork":{"ppi":150}`},
	{"picture-coarse", check.Tip, none, `"method":"gel-lift","look":"crisp","artwork":{"ppi":200}`},
	{"picture-coarse", "", 0, `"method":"gel-lift","look":"weathered","artwork":{"ppi":200}`},
	{"picture-coarse", "", 0, `"method":"gel-lift","look":"crisp","artwork":{"ppi":300}`},
	{"rights-unknown", check.Caution, none, `"method":"gel-lift","artwork":{"rights":"unknown"}`},
	{"rights-unknown", "", 0, `"method":"gel-lift","artwork":{"rights":"permission"}`},
	{"room-cold", check.Stop, none, `"method":"gel-lift","room":{"celsius":9.9},"steps":[{"do":"paint-base"}]`},
	{"room-cold", "", 0, `"method":"gel-lift","room":{"celsius":10},"steps":[{"do":"paint-base"}]`},
	{"room-cold", "", 0, `"method":"sublimation","room":{"celsius":5},"steps":[{"do":"press"}]`},
	{"room-damp", check.Caution, none, `"method":"gel-lift","room":{"humidity":0.86},"steps":[{"do":"seal","with":"gel"}]`},
	{"room-damp", "", 0, `"method":"gel-lift","room":{"humidity":0.85},"steps":[{"do":"seal","with":"gel"}]`},
	{"rest-over-ceiling", check.Stop, 0, `"method":"gel-lift","steps":[{"do":"seal","with":"gel","restMinutes":2881,"ceilingMinutes":2880}]`},
	{"rest-over-ceiling", "", 0, `"method":"gel-lift","steps":[{"do":"seal","with":"gel","restMinutes":2880,"ceilingMinutes":2880}]`},
	{"oil-under-water", check.Stop, 1, `"method":"gel-lift","steps":[{"do":"oil-haze","restMinutes":719},{"do":"seal","with":"varnish-water"}]`},
	{"oil-under-water", "", 0, `"method":"gel-lift","steps":[{"do":"oil-haze","restMinutes":720},{"do":"seal","with":"varnish-water"}]`},
	{"oil-under-water", "", 0, `"method":"gel-lift","steps":[{"do":"oil-haze"},{"do":"seal","with":"varnish-oil"}]`},
	{"gloss-under-matt", check.Caution, 0, `"method":"gel-lift","sheen":"matt","steps":[{"do":"seal","with":"gel","sheen":"gloss"}]`},
	{"gloss-under-matt", "", 0, `"method":"gel-lift","sheen":"matt","steps":[{"do":"seal","with":"gel","sheen":"gloss"},{"do":"seal","with":"gel","sheen":"matt"}]`},
	{"gloss-under-matt", "", 0, `"method":"gel-lift","sheen":"matt","steps":[]`},
	{"resin-uncautioned", check.Stop, 0, `"method":"gel-lift","steps":[{"do":"seal","with":"resin","cautioned":false}]`},
	{"resin-uncautioned", "", 0, `"method":"gel-lift","steps":[{"do":"seal","with":"resin","cautioned":true}]`},
}

func TestEveryRuleFiresAndStaysSilent(t *testing.T) {
	fired, silent := map[string]bool{}, map[string]bool{}
	for _, c := range cases {
		a, err := check.Compute(read(t, fmt.Sprintf(`{"format":"tidykiln/check-problem@1",%s}`, c.facts)))
		require.NoError(t, err, c.facts)
		var of []check.Finding
		for _, f := range a.Findings {
			if f.Rule == c.rule {
				of = append(of, f)
			}
		}
		if c.level == "" {
			silent[c.rule] = true
			assert.Empty(t, of, "%s must be silent: %s", c.rule, c.facts)
			continue
		}
		fired[c.rule] = true
		if !assert.Len(t, of, 1, "%s must fire once: %s", c.rule, c.facts) {
			continue
		}
		assert.Equal(t, c.level, of[0].Level, c.facts)
		if c.step == none {
			assert.Nil(t, of[0].Step, c.facts)
		} else if assert.NotNil(t, of[0].Step, c.facts) {
			assert.Equal(t, c.step, *of[0].Step, c.facts)
		}
		assert.NotContains(t, of[0].Why, "%!", "every place in the reason is filled")
		assert.NotEmpty(t, of[0].Fix)
	}
	for _, name := range check.RuleNames() {
		assert.True(t, fired[name], "%s is fired by no case", name)
		assert.True(t, silent[name], "%s is kept silent by no case", name)
	}
}
