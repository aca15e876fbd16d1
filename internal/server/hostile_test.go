package server_test

import (
	"encoding/json"
	"fmt"
	"maps"
	"net/http"
	"net/http/httptest"
	"regexp"
	"slices"
	"strings"
	"sync/atomic"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"tidykiln/internal/database"
)

// missing stands for a field that is left out.
type missing struct{}

var (
	tooLong   = strings.Repeat("é", 10_000)
	combining = "Z" + strings.Repeat("\u0337\u0321\u0322", 60)
	family    = strings.Repeat("👩‍👩‍👧‍👦", 20)
)

// hostile are values that a field of each kind may meet; most are wrong, some
// only unusual.
var hostile = map[string][]any{
	"number": {missing{}, nil, -1, 0, 1_000_000_000, json.Number("1e400"), json.Number("9223372036854775808"), 0.5, -0.0001, "x", "", true, []any{}, map[string]any{}},
	"string": {missing{}, nil, "", "   ", tooLong, family, "\u202eevil\u2066", combining, "a\x00b", "\ufffd", "9999-12-31", "1900-01-01", "2027-02-30", "-0", "<b>'; DROP TABLE people; --", 12, true, []any{}, map[string]any{}},
	"bool":   {missing{}, nil, "true", 1, []any{}},
	"array":  {missing{}, nil, []any{}, []any{nil}, []any{map[string]any{}}, []any{"x"}, map[string]any{}, "x", 3},
	"object": {missing{}, nil, map[string]any{}, []any{}, "x", map[string]any{"unknown": 1}},
}

func kindOf(v any) string {
	switch v.(type) {
	case nil:
		return "string"
	case bool:
		return "bool"
	case string:
		return "string"
	case []any:
		return "array"
	case map[string]any:
		return "object"
	}
	return "number"
}

// spoilt is a body with one value set to a hostile one, at a path in the words
// of the server's answers.
type spoilt struct {
	at   string
	body any
}

// spoil gives the body with each of its values in turn set to each hostile one.
func spoil(body any) (all []spoilt) {
	walk(body, "body", func(at string, v any, put func(any) any) {
		for _, h := range hostile[kindOf(v)] {
			all = append(all, spoilt{at, put(h)})
		}
	})
	return all
}

// walk visits every value below v; put gives the whole with another value there.
func walk(v any, at string, visit func(at string, v any, put func(any) any)) {
	whole(v, at, func(x any) any { return x }, visit)
}

func whole(v any, at string, put func(any) any, visit func(string, any, func(any) any)) {
	switch v := v.(type) {
	case map[string]any:
		for _, key := range slices.Sorted(maps.Keys(v)) {
			into := func(x any) any {
				changed := maps.Clone(v)
				changed[key] = x
				if _, gone := x.(missing); gone {
					delete(changed, key)
				}
				return put(changed)
			}
			visit(at+"."+key, v[key], into)
			whole(v[key], at+"."+key, into, visit)
		}
	case []any:
		seen := map[string]bool{}
		for i, one := range v {
			// One of several of the same form is enough.
			form := formOf(one)
			if seen[form] {
				continue
			}
			seen[form] = true
			into := func(x any) any {
				if _, gone := x.(missing); gone {
					return put(slices.Delete(slices.Clone(v), i, i+1))
				}
				changed := slices.Clone(v)
				changed[i] = x
				return put(changed)
			}
			here := fmt.Sprintf("%s[%d]", at, i)
			visit(here, one, into)
			whole(one, here, into, visit)
		}
	}
}

// formOf names which fields a value has.
func formOf(v any) string {
	if object, is := v.(map[string]any); is {
		return fmt.Sprint(slices.Sorted(maps.Keys(object)))
	}
	return kindOf(v)
}

// leaks are words of the machinery, which tell a person nothing.
var leaks = regexp.MustCompile(`(?i)\bsql|gorm|goroutine|strconv|reflect|mysql|panic|unmarshal|invalid character|json: cannot|unexpected end|0x[0-9a-f]{6}|\.go:`)

// witness asks things of one studio and watches what every answer must be.
type witness struct {
	T *testing.T
	studio
	db    *database.DB
	asked int
	// stood is the revision at which the pages were read last.
	stood uint64
}

func newWitness(t *testing.T) *witness {
	h, db := demoHandler(t)
	return &witness{T: t, studio: studio{readDocument(t), t, h}, db: db}
}

// asks asks, and checks that the answer is no failure, that a refusal says what
// to mend, and that nothing of a refused request was kept.
func (w *witness) asks(method, path, body string, change ...func(*http.Request)) *httptest.ResponseRecorder {
	w.asked++
	before := w.revision()
	answer := ask(w.h, method, path, body, change...)
	what := fmt.Sprintf("%s %s %s", method, path, body[:min(len(body), 300)])
	assert.Less(w.T, answer.Code, 500, "%s: %s", what, answer.Body)
	if answer.Code < 400 {
		return answer
	}
	assert.Empty(w.T, w.savedSince(before).Names(), "%s was refused and yet something was saved", what)
	if strings.HasPrefix(path, "/api/moved-promises") {
		assert.Equal(w.T, before, w.revision(), "%s was refused and yet something was told", what)
	}
	assert.Contains(w.T, answer.Header().Get("Content-Type"), "application/problem+json", what)
	said := answer.Body.String()
	assert.NotRegexp(w.T, leaks, said, what)
	var p refusal
	if assert.NoError(w.T, json.Unmarshal(answer.Body.Bytes(), &p), what) {
		assert.NotEmpty(w.T, p.Detail, what)
		assert.True(w.T, answer.Code != http.StatusUnprocessableEntity || len(p.Errors) > 0, "%s names no field: %s", what, said)
	}
	return answer
}

// refusal is a problem as it comes over the wire.
type refusal struct {
	Type, Detail string
	Errors       []struct{ Location, Message string }
}

func (w *witness) revision() uint64 {
	at, err := w.db.Stands(w.T.Context())
	require.NoError(w.T, err)
	return at.Number
}

// savedSince are the topics that were saved since a revision. What a plan that was
// still to be made notes of promises is saved by itself, and no doing of whatever was asked.
func (w *witness) savedSince(before uint64) database.Topics {
	at, err := w.db.Stands(w.T.Context())
	require.NoError(w.T, err)
	return at.Since(before) &^ database.Promises
}

// besides tells that one of the faults stands at the field or at one above or below it.
func (p refusal) besides(at string) bool {
	for _, e := range p.Errors {
		if strings.HasPrefix(at, e.Location) || strings.HasPrefix(e.Location, at) {
			return true
		}
	}
	return false
}

func inJSON(v any) string {
	text, err := json.Marshal(v)
	if err != nil {
		panic(err) // the values of these tests can be written
	}
	return string(text)
}

// together are fields that are judged together, so that the fault may stand beside another of them.
var together = regexp.MustCompile(`\.(quantity|paper|trimMm|cut|batchIds|pieceIds|borderMm|widthMm|heightMm|hole|heightMm|leastMm|lettering|lots|extras|wantIds|shape|width|height|corner|foot|surface|firstDay|lastDay|fromMinute|toMinute|feePercent|cardPercent|taxPercent|target|targetValue|kind|unit|filmMm|sheetWidthMm|sheetHeightMm|sort|smallestMm|packs|pack|rejects|sorted|floor|usual|ceiling|rest|inside|do|with|steps|uses|outcomes|parts|choices|text|planned|used)\b`)

// Every field of every operation, new ones included, meets hostile values: an
// answer or a refusal beside the field, never a failure, and no page breaks on
// what was accepted.
func TestHostileValuesAreRefusedBesideTheirField(t *testing.T) {
	t.Parallel()
	const shares, looks = 4, 3 // to look at the pages takes as long as to spoil an operation
	var asked atomic.Int64
	t.Cleanup(func() { assert.Greater(t, asked.Load(), int64(3000)) })
	for share := range shares {
		t.Run(fmt.Sprint(share+1), func(t *testing.T) {
			t.Parallel()
			w := newWitness(t)
			for i, op := range takingBodies(w.document) {
				if i%shares == share {
					w.spoilEach(op)
					address, body := w.request(op)
					answer := w.asks(op.method, address, body)
					assert.NotContains(t, []int{400, 422}, answer.Code, "%s: a sound body is refused: %s", op.ID, answer.Body)
					if i/shares%looks == 0 {
						w.pagesStand(op.ID)
					}
				}
			}
			w.pagesStand("all of it")
			asked.Add(int64(w.asked))
		})
	}
}

func takingBodies(d document) []operation {
	return slices.DeleteFunc(d.operations(), func(op operation) bool { _, takes := op.body(d); return !takes })
}

// spoilEach sends the operation's body with each value spoilt; after one that
// was taken it begins again from what is true then.
func (w *witness) spoilEach(op operation) {
	address, bodies := w.address(op), spoil(w.sound(op))
	for i := 0; i < len(bodies); i++ {
		answer := w.asks(op.method, address, inJSON(bodies[i].body))
		var p refusal
		if answer.Code == http.StatusUnprocessableEntity && !together.MatchString(bodies[i].at) && json.Unmarshal(answer.Body.Bytes(), &p) == nil {
			assert.True(w.T, p.besides(bodies[i].at), "%s: the fault at %s is said elsewhere: %s", op.ID, bodies[i].at, answer.Body)
		}
		if answer.Code < 300 && op.method != http.MethodGet {
			address, bodies = w.address(op), spoil(w.sound(op))
		}
	}
}

// slow are answers that are worked out for long, and made from what other pages show too.
var slow = []string{"get-batch-card", "get-week-on-paper", "get-earlier", "export-trail", "take-everything-out"}

// pagesStand reads the pages that are made from anything written since it read them last;
// that no other one changes is a test of its own.
func (w *witness) pagesStand(after string) {
	at, err := w.db.Stands(w.T.Context())
	require.NoError(w.T, err)
	written := at.Since(w.stood).Names()
	w.stood = at.Number
	for _, op := range w.operations() {
		if op.method == http.MethodGet && !slices.Contains(slow, op.ID) && op.madeFromAny(written) {
			assert.Less(w.T, ask(w.h, op.method, w.address(op), "").Code, 500, "%s after %s", op.path, after)
		}
	}
}

var (
	odd       = []string{"0", "-1", "999999", "18446744073709551615", "99999999999999999999", "1e9", "x", "%00", "%F0%9F%94%A5", "%2e%2e", strings.Repeat("9", 300)}
	oddAsked  = []string{"", "-1", "0", "x", "99999999999999999999", "%00", "9999-12-31", "1900-01-01", "0001-01-01", strings.Repeat("a", 10_000), "%F0%9F%94%A5", "%25_%27"}
	oddBodies = []string{"", "null", "[]", `"x"`, "3", "{", `{"a":`, "1e999", `{"unknown":1}`, "{}{}", "\xff\xfe", `{"a":"\ud800"}`, strings.Repeat("[", 20_000)}
)

// Every operation meets what no page sends: other forms, other sizes, things that are not there.
func TestRequestsOutOfFormAreRefused(t *testing.T) {
	t.Parallel()
	w := newWitness(t)
	for _, op := range w.operations() {
		_, sound := w.request(op)
		for _, id := range odd {
			if path := pathParameter.ReplaceAllString(op.path, id); path != op.path {
				assert.GreaterOrEqual(t, w.asks(op.method, path, sound).Code, 400, "%s %s", op.method, path)
			}
		}
		for _, p := range op.Parameters {
			for _, v := range oddAsked {
				if p.In == "query" {
					w.asks(op.method, w.address(op)+"?"+p.Name+"="+v, "")
				}
			}
		}
		if _, takes := op.body(w.document); takes {
			w.outOfForm(op, sound)
		}
	}
	w.pagesStand("all of it")
}

func (w *witness) outOfForm(op operation, sound string) {
	as := func(name, value string) func(*http.Request) {
		return func(r *http.Request) { r.Header.Set(name, value) }
	}
	address := w.address(op)
	for _, body := range oddBodies {
		assert.GreaterOrEqual(w.T, w.asks(op.method, address, body).Code, 400, "%s %s", op.ID, body[:min(20, len(body))])
	}
	assert.Equal(w.T, http.StatusUnsupportedMediaType, w.asks(op.method, address, "x=1", as("Content-Type", "application/x-www-form-urlencoded")).Code, op.ID)
	assert.Equal(w.T, http.StatusUnsupportedMediaType, w.asks(op.method, address, sound, as("Content-Type", "text/plain")).Code, op.ID)
	assert.Equal(w.T, http.StatusRequestEntityTooLarge, w.asks(op.method, address, sound+strings.Repeat(" ", 2<<20)).Code, op.ID)
	assert.Equal(w.T, http.StatusBadRequest, w.asks(op.method, address, sound, as("Idempotency-Key", "x y")).Code, op.ID)
}

// What was changed since it was read is not written over.
func TestAStaleVersionIsRefused(t *testing.T) {
	w := newWitness(t)
	versioned := 0
	for _, op := range w.operations() {
		s, takes := op.body(w.document)
		if _, has := s.Properties["version"]; !takes || !has {
			continue
		}
		versioned++
		body := w.sound(op).(map[string]any)
		body["version"] = 77
		assert.Equal(t, http.StatusConflict, w.asks(op.method, w.address(op), inJSON(body)).Code, op.ID)
	}
	assert.Greater(t, versioned, 8)
}
