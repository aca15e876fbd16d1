package main

import (
	"bytes"
	"os"
	"os/exec"
	"path/filepath"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

var binary string

func TestMain(m *testing.M) {
	os.Exit(runWithBinary(m))
}

func runWithBinary(m *testing.M) int {
	folder, err := os.MkdirTemp("", "tidykiln-cmd-")
	if err != nil {
		panic(err)
	}
	defer os.RemoveAll(folder)
	binary = filepath.Join(folder, "tidykiln")
	if out, err := exec.Command("go", "build", "-o", binary, ".").CombinedOutput(); err != nil {
		panic(string(out))
	}
	return m.Run()
}

func ask(t *testing.T, input string, args ...string) (stdout, stderr string, code int) {
	t.Helper()
	cmd := exec.Command(binary, args...)
	cmd.Stdin = strings.NewReader(input)
	var out, errs bytes.Buffer
	cmd.Stdout, cmd.Stderr = &out, &errs
	if err := cmd.Run(); err != nil {
		var exit *exec.ExitError
		require.ErrorAs(t, err, &exit)
		code = exit.ExitCode()
	}
	return out.String(), errs.String(), code
}

const costProblem = `{"format":"tidykiln/cost-problem@1","goodPieces":2,"labourPerHour":"12.00","overheadPerHour":"0",
 "materials":[{"id":"blank","purchases":[{"quantity":10,"price":"5.00"}]}],
 "stages":[{"id":"lay","yield":0.8,"minutesPerPiece":4,"perPiece":[{"material":"blank","quantity":1}]}]}`

func TestCostAnswersFromAFileAndFromStandardInput(t *testing.T) {
	out, errs, code := ask(t, costProblem, "cost", "-")
	require.Zero(t, code, errs)
	// 2.5 started at 0.50 and 4 min of 12.00 an hour each: (1.25 + 2.00) ÷ 2.
	assert.Contains(t, out, `"total": "1.6250"`)
	file := filepath.Join(t.TempDir(), "problem.json")
	require.NoError(t, os.WriteFile(file, []byte(costProblem), 0o600))
	again, _, code := ask(t, "", "cost", file)
	assert.Zero(t, code)
	assert.Equal(t, out, again)
}

func TestPlanAnswers(t *testing.T) {
	out, errs, code := ask(t, `{"format":"tidykiln/plan-problem@1","from":"2027-03-01T08:00:00+02:00","resources":[{"id":"hands","capacity":1}],"jobs":[{"id":"A","steps":[{"id":"lay","minutes":30,"uses":{"hands":1}}]}]}`, "plan", "-")
	require.Zero(t, code, errs)
	assert.Contains(t, out, `"end": "2027-03-01T08:30:00+02:00"`)
}

func TestCheckAnswers(t *testing.T) {
	out, errs, code := ask(t, `{"format":"tidykiln/check-problem@1","method":"gel-lift","view":{"throughBlank":false},"print":{"mirrored":false},"artwork":{"lettering":true}}`, "check", "-")
	require.Zero(t, code, errs)
	assert.Contains(t, out, `"mirror": "mirrored"`)
	assert.Contains(t, out, `"rule": "mirror-missing"`)
	assert.Contains(t, out, `"step": null`)
}

func TestBadInputIsOneLineThatNamesTheField(t *testing.T) {
	for says, c := range map[string]struct {
		command, input string
	}{
		"stages[0].yield: must be over 0 and at most 1": {"cost", strings.Replace(costProblem, "0.8", "1.8", 1)},
		"goodPices: is not a field known here":          {"cost", strings.Replace(costProblem, "goodPieces", "goodPices", 1)},
		"goodPieces: must be a whole number":            {"cost", strings.Replace(costProblem, `"goodPieces":2`, `"goodPieces":"two"`, 1)},
		"labourPerHour: money must be a decimal string": {"cost", strings.Replace(costProblem, `"12.00"`, `12.00`, 1)},
		"not readable as JSON":                          {"cost", `{"format"`},
		"something after its end":                       {"cost", costProblem + "{}"},
		"format: must be":                               {"plan", `{}`},
		"colour: is not a field":                        {"check", `{"format":"tidykiln/check-problem@1","method":"gel-lift","blank":{"colour":"red"}}`},
		"method: \"knit\" is not":                       {"check", `{"format":"tidykiln/check-problem@1","method":"knit"}`},
	} {
		out, errs, code := ask(t, c.input, c.command, "-")
		assert.Equal(t, 2, code, says)
		assert.Empty(t, out, says)
		assert.Contains(t, errs, says)
		assert.Equal(t, 1, strings.Count(errs, "\n"), says)
	}
	for _, args := range [][]string{{}, {"bake"}, {"cost"}, {"cost", "a", "b"}, {"plan", "/no/such/file"}, {"serve", "x"}, {"demo", "--soft"}, {"openapi", "x"}} {
		out, errs, code := ask(t, "", args...)
		assert.Equal(t, 2, code, args)
		assert.Empty(t, out, args)
		assert.NotEmpty(t, errs, args)
	}
}

func TestAnAddressThatOthersReachIsRefusedWithoutAnOwner(t *testing.T) {
	cmd := exec.Command(binary, "serve")
	cmd.Env = append(os.Environ(), "TIDYKILN_ADDRESS=127.0.0.2:0", "TIDYKILN_TRUST_ADDRESS=127.0.0.2:0", "TIDYKILN_VAR="+t.TempDir())
	out, err := cmd.CombinedOutput()
	require.Error(t, err)
	assert.Contains(t, string(out), "has no owner who signs in yet")
}

func TestOpenAPIIsPrinted(t *testing.T) {
	out, _, code := ask(t, "", "openapi")
	assert.Zero(t, code)
	assert.Contains(t, out, `"operationId":"take-order"`)
}

func TestWrapAnswersFromFlagsAndDraws(t *testing.T) {
	for args, want := range map[string]string{
		"--top 88 --bottom 64 --height 170":          `{"slantMm":170.42,"outerRadiusMm":624.88,"innerRadiusMm":454.46,"angleDeg":25.35,"boxWidthMm":274.21,"boxHeightMm":181.50}`,
		"--top 80 --bottom 80 --height 120":          `{"slantMm":120,"outerRadiusMm":null,"innerRadiusMm":null,"angleDeg":0,"boxWidthMm":251.33,"boxHeightMm":120}`,
		"--top 80 --bottom=80 --height 120 --seam 6": `{"slantMm":120,"outerRadiusMm":null,"innerRadiusMm":null,"angleDeg":0,"boxWidthMm":257.33,"boxHeightMm":120}`,
	} {
		out, errs, code := ask(t, "", append([]string{"wrap"}, strings.Fields(args)...)...)
		require.Zero(t, code, errs)
		assert.JSONEq(t, want, out, args)
	}
	file := filepath.Join(t.TempDir(), "wall.svg")
	_, errs, code := ask(t, "", "wrap", "--top", "88", "--bottom", "64", "--height", "170", "--svg", file)
	require.Zero(t, code, errs)
	drawn, err := os.ReadFile(file)
	require.NoError(t, err)
	assert.Contains(t, string(drawn), `width="274.51mm"`)
	for args, says := range map[string]string{
		"--bottom 64 --height 170":                               "top: give it in mm\n",
		"--top 88 --bottom 64 --height tall":                     "height: \"tall\" is not a number\n",
		"--top 88 --bottom 0 --height 170":                       "bottom: must be over 0 and at most 3000 mm\n",
		"--top 88 --bottom 64 --height 170 --seam 900":           "seam: must be from 0 to less than the wall is round\n",
		"--top 88 --bottom 64 --height 170 12":                   "12: give --top, --bottom and --height in mm, and --seam and --svg if wanted\n",
		"--top 88 --bottom 64 --height 170 --svg /nowhere/a.svg": "open /nowhere/a.svg: no such file or directory\n",
	} {
		out, errs, code := ask(t, "", append([]string{"wrap"}, strings.Fields(args)...)...)
		assert.Equal(t, 2, code, args)
		assert.Empty(t, out, args)
		assert.Equal(t, says, errs, args)
	}
}

func TestOverageAnswersFromFlags(t *testing.T) {
	for args, want := range map[string]string{
		"--good 24 --confidence 0.95 --yield 0.93":            `{"start":28,"chance":0.9573}`,
		"--good 24 --confidence 0.95 --made 140 --spoiled 9":  `{"start":29,"chance":0.9793}`,
		"--good 24 --confidence 0,95 --yield 0,93":            `{"start":28,"chance":0.9573}`,
		"--good 24 --confidence 0.95 --yield 0.93 --distinct": `{"start":24,"spareBlanks":4,"chance":0.9573,"expectedRemakes":1.8065,"secondRunChance":0.8248}`,
	} {
		out, errs, code := ask(t, "", append([]string{"overage"}, strings.Fields(args)...)...)
		require.Zero(t, code, errs)
		assert.JSONEq(t, want, out, args)
	}
	for args, says := range map[string]string{
		"--confidence 0.95 --yield 0.93":           "good: give the number of good pieces wanted\n",
		"--good 24 --yield 0.93":                   "confidence: give the chance wanted, over 0 and under 1\n",
		"--good many --confidence 0.95":            "good: \"many\" is not a whole number\n",
		"--good 24 --confidence 0.95 --yield 0":    "yield: must be over 0 and at most 1\n",
		"--good 24 --confidence 0.95 --yield NaN":  "yield: \"NaN\" is not a number\n",
		"--good 24 --confidence 0.95 --made 3":     "spoiled: must be given with made\n",
		"--good 24 --confidence high --yield 0.93": "confidence: \"high\" is not a number\n",
		"--good 24 --confidence 0.95 0.93":         "0.93: give --good, --confidence, and --yield or --made and --spoiled\n",
		"--good 24 --certainty 0.95":               "flag provided but not defined: -certainty\n",
	} {
		out, errs, code := ask(t, "", append([]string{"overage"}, strings.Fields(args)...)...)
		assert.Equal(t, 2, code, args)
		assert.Empty(t, out, args)
		assert.Equal(t, says, errs, args)
	}
}

func TestSheetsAnswersAndNamesWhatIsWrong(t *testing.T) {
	const items = `"items":[{"id":"crest","shape":"rect","widthMm":95,"heightMm":60,"count":14,"mayTurn":true},{"id":"round","shape":"circle","diameterMm":76,"count":9}]`
	out, errs, code := ask(t, `{"format":"tidykiln/sheet-problem@1","sheet":{"widthMm":215.9,"heightMm":279.4,"marginMm":6,"gapMm":3},`+items+`}`, "sheets", "-")
	require.Zero(t, code, errs)
	assert.Contains(t, out, `"sheetCount": 3`)
	assert.Equal(t, 9, strings.Count(out, `"id": "round"`))
	out, errs, code = ask(t, `{"format":"tidykiln/sheet-problem@1","sheet":{"widthMm":80,"heightMm":279.4,"marginMm":6},`+items+`}`, "sheets", "-")
	assert.Equal(t, 2, code)
	assert.Empty(t, out)
	assert.Equal(t, 1, strings.Count(errs, "\n"))
	assert.Contains(t, errs, `items[1]: "round" fits no sheet`)
	_, errs, code = ask(t, `{"format":"tidykiln/sheet-problem@1","sheet":{"widthMm":80,"heightMm":80,"bleed":3},"items":[]}`, "sheets", "-")
	assert.Equal(t, 2, code)
	assert.Contains(t, errs, "bleed")
}
