package server_test

import (
	"fmt"
	"io"
	"net/http"
	"strings"
	"testing"
	"testing/iotest"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// A table comes over the wire and goes back, whatever stands in it.
func TestTablesAreTakenInAndOutOverTheWire(t *testing.T) {
	t.Parallel()
	w := newWitness(t)
	out := w.asks("GET", "/api/exports/materials", "")
	require.Equal(t, http.StatusOK, out.Code)
	assert.Equal(t, `attachment; filename="materials.csv"`, out.Header().Get("Content-Disposition"))
	before := w.revision()
	seen := w.asks("POST", "/api/imports/materials", out.Body.String())
	assert.Equal(t, "application/x-ndjson", seen.Header().Get("Content-Type"))
	assert.Contains(t, lastLine(seen), `"added":0,"changed":0`)
	assert.Equal(t, before, w.revision(), "looking through saves nothing")

	for _, odd := range append(oddBodies, "\ufeff", "name\n\"", "name;name\n", "name\n"+tooLong+"\n", "key,name\n,\x00\n", strings.Repeat(",", 100_000), strings.Repeat("name\n", 50_000)) {
		for _, what := range []string{"materials", "purchases"} {
			answer := w.asks("POST", "/api/imports/"+what+"?save=true", odd)
			assert.Equal(t, http.StatusOK, answer.Code)
			assert.Contains(t, lastLine(answer), `"saved":false`, "%.40q", odd)
			assert.NotRegexp(t, leaks, lastLine(answer), "%.40q", odd)
		}
	}
	w.pagesStand("files that are no tables")
}

func TestAFileOfAMillionRowsIsRefusedInTheMiddle(t *testing.T) {
	t.Parallel()
	w := newWitness(t)
	var text strings.Builder
	text.WriteString("supplier,received_on,material,pack,price\n")
	for i := range 1_000_000 {
		fmt.Fprintf(&text, "Reed & Rush,2027-05-03,gel-medium,473 ml,%d\n", i)
	}
	before := w.revision()
	answer := w.asks("POST", "/api/imports/purchases?save=true", text.String(), keyed("a-million-rows"))
	assert.Contains(t, lastLine(answer), "a file may have 10000 rows, and this one has more; split it")
	assert.Contains(t, lastLine(answer), `"rows":10000`)
	assert.LessOrEqual(t, w.revision(), before+1, "only the key was kept")
}

func TestAFileThatEndsInTheMiddleIsRefusedAndNothingIsSaved(t *testing.T) {
	t.Parallel()
	w := newWitness(t)
	half := func(r *http.Request) {
		r.Body = io.NopCloser(io.MultiReader(strings.NewReader("name,kind,unit,unit_cost\nReed wax,finish,g,0.1\nRush"), iotest.ErrReader(io.ErrUnexpectedEOF)))
	}
	answer := w.asks("POST", "/api/imports/materials?save=true", "", half)
	assert.Equal(t, http.StatusBadRequest, answer.Code)
	assert.Contains(t, answer.Body.String(), "The file ended before it was whole")
	assert.Equal(t, http.StatusBadRequest, w.asks("POST", "/api/imports/materials?save=true", "", half, keyed("half-a-file")).Code)
}
