package server_test

import (
	"cmp"
	"fmt"
	"net/http"
	"net/http/httptest"
	"os"
	"regexp"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"gorm.io/gorm"

	"tidykiln/internal/database"
	"tidykiln/internal/wire"
)

// peopled is a demo studio with an owner, and a browser for each role that is signed in; for nobody it is not.
func peopled(t *testing.T) (as map[wire.Role]http.Handler, db *database.DB) {
	owner, db := demoHandler(t)
	require.Equal(t, http.StatusOK, ask(owner, "POST", "/api/owner", `{"name":"Maren","password":"reeds by the slow water"}`).Code)
	as = map[wire.Role]http.Handler{wire.RoleOwner: owner}
	fresh := func() http.Handler {
		return &browser{Handler: owner.(*browser).Handler, kept: map[string]*http.Cookie{}}
	}
	as[wire.Nobody] = fresh()
	for _, role := range wire.Roles[1:] {
		made := ask(owner, "POST", "/api/members", fmt.Sprintf(`{"name":"the %[1]s","role":"%[1]s","password":"reeds by the slow water"}`, role))
		require.Equal(t, http.StatusOK, made.Code, made.Body)
		as[role] = fresh()
		require.Equal(t, http.StatusOK, ask(as[role], "POST", "/api/sign-in", fmt.Sprintf(`{"name":"the %s","password":"reeds by the slow water"}`, role)).Code)
	}
	return as, db
}

// askers are everybody who can ask, the owner last.
var askers = []wire.Role{wire.Nobody, wire.RoleViewer, wire.RoleHelper, wire.RoleMaker, wire.RoleOwner}

func called(r wire.Role) string {
	if r == wire.Nobody {
		return "nobody"
	}
	return string(r)
}

// Every route is called as nobody and as every role. testdata/roles.txt is the list of
// who may what, held to by hand: a route that opens to somebody else changes a line of it.
// TIDYKILN_WRITE=1 writes it anew.
func TestEveryRouteLetsInWhomItNamesAndNobodyElse(t *testing.T) {
	t.Parallel()
	as, _ := peopled(t)
	var list strings.Builder
	for _, op := range leavingLast(readDocument(t)) {
		var may []string
		for _, role := range askers {
			answer := callFor(as[role], op)
			switch answer.Code {
			case http.StatusUnauthorized:
				assert.Equal(t, wire.Nobody, role, "%s as %s", op.ID, called(role))
				assert.Equal(t, "/problems/sign-in", typeOf(t, answer), op.ID)
			case http.StatusForbidden:
				assert.Equal(t, "/problems/not-yours", typeOf(t, answer), "%s as %s", op.ID, called(role))
			default:
				assert.Less(t, answer.Code, 500, "%s as %s: %s", op.ID, called(role), answer.Body)
				may = append(may, called(role))
			}
		}
		fmt.Fprintf(&list, "%s %s: %s\n", op.method, op.path, strings.Join(may, ", "))
	}
	const file = "testdata/roles.txt"
	if os.Getenv("TIDYKILN_WRITE") != "" {
		require.NoError(t, os.WriteFile(file, []byte(list.String()), 0o600))
	}
	written, err := os.ReadFile(file)
	require.NoError(t, err)
	assert.Equal(t, string(written), list.String())
}

// callFor calls an operation about nothing that is there, with a body that is not even JSON.
func callFor(h http.Handler, op operation) *httptest.ResponseRecorder {
	body := ""
	if op.method != http.MethodGet {
		body = "{"
	}
	return ask(h, op.method, pathParameter.ReplaceAllString(op.path, "999999"), body)
}

// leavingLast are all operations; those after which one is out come at the end.
func leavingLast(d document) []operation {
	all := d.everything()
	slices.SortStableFunc(all, func(a, b operation) int {
		return cmp.Compare(slices.Index(leaving, a.ID), slices.Index(leaving, b.ID))
	})
	return all
}

var leaving = []string{"end-other-sessions", "sign-out"}

// business are the names of fields that hold prices or customers' data.
var business = regexp.MustCompile(`(?i)"[a-z]*(customer|price|cost|perhour|worth|earn|margin[a-z]*percent|fee[a-z]*|profit)[a-z]*":`)

// Whoever is at the bench only is told no price and no customer, in no answer of any route they may call.
func TestAHelperSeesNoPriceAndNoCustomer(t *testing.T) {
	t.Parallel()
	as, db := peopled(t)
	require.NoError(t, db.Write(t.Context(), database.Everything, func(tx *gorm.DB) error {
		return tx.Exec("UPDATE customers SET name = CONCAT('Quoll ', id)").Error
	}))
	s := studio{readDocument(t), t, as[wire.RoleOwner]}
	read, withheld := 0, 0
	for _, op := range s.operations() {
		if op.May != string(wire.AtTheBench) || op.method != http.MethodGet && op.Reads == nil {
			continue
		}
		address, body := s.request(op)
		answer := ask(as[wire.RoleHelper], op.method, address, body)
		if answer.Code >= 300 {
			continue // nothing of the kind is there; the owner does not get it either
		}
		read++
		said := answer.Body.String()
		assert.NotContains(t, said, "Quoll", op.ID)
		for _, named := range business.FindAllString(said, -1) {
			assert.Contains(t, blameless, named, "%s tells a helper", op.ID)
		}
		if whole := ask(s.h, op.method, address, body).Body.String(); strings.Contains(whole, "Quoll") || slices.ContainsFunc(business.FindAllString(whole, -1), func(n string) bool { return !slices.Contains(blameless, n) }) {
			withheld++
		}
	}
	assert.Greater(t, read, 25)
	assert.GreaterOrEqual(t, withheld, 6, "what is withheld is there for those who may see it")
}

// blameless are fields that are named alike and hold neither.
var blameless = []string{`"taxIsCost":`}

// The bench's own doings answer no more than its pages.
func TestWhatAHelperDoesTellsNoPriceAndNoCustomer(t *testing.T) {
	t.Parallel()
	as, db := peopled(t)
	require.NoError(t, db.Write(t.Context(), database.Everything, func(tx *gorm.DB) error {
		return tx.Exec("UPDATE customers SET name = CONCAT('Quoll ', id)").Error
	}))
	s := studio{readDocument(t), t, as[wire.RoleOwner]}
	done := 0
	for _, op := range s.operations() {
		if op.May != string(wire.AtTheBench) || op.method == http.MethodGet || op.Reads != nil {
			continue
		}
		address, body := s.request(op)
		answer := ask(as[wire.RoleHelper], op.method, address, body)
		if answer.Code < 300 {
			done++
		}
		said := answer.Body.String()
		assert.NotContains(t, said, "Quoll", "%s: %s", op.ID, said)
		assert.NotRegexp(t, business, said, op.ID)
	}
	assert.Greater(t, done, 12)
}

func TestTheStreamOfChangesEndsWithItsSession(t *testing.T) {
	t.Parallel()
	as, _ := peopled(t)
	assert.Equal(t, http.StatusUnauthorized, ask(as[wire.Nobody], "GET", "/api/changes", "").Code)
	phone := httptest.NewServer(as[wire.RoleViewer])
	t.Cleanup(phone.Close)
	told := listenTo(t, phone.URL, func(r *http.Request) { r.Host = "127.0.0.1:8420" })
	<-told
	require.Equal(t, http.StatusNoContent, ask(as[wire.RoleOwner], "POST", "/api/sessions/end-others", "").Code)
	for range told { // it is told nothing of what comes after, and ends
		t.Error("whoever may not listen any more is told of a change")
	}
	assert.Equal(t, http.StatusUnauthorized, ask(as[wire.RoleViewer], "GET", "/api/today", "").Code)
}

func TestCookiesAreTheBrowsersOwn(t *testing.T) {
	as, _ := peopled(t)
	sign := func(change ...func(*http.Request)) []*http.Cookie {
		answer := ask(as[wire.Nobody].(*browser).Handler, "POST", "/api/sign-in", `{"name":"Maren","password":"reeds by the slow water"}`, change...)
		require.Equal(t, http.StatusOK, answer.Code, answer.Body)
		return answer.Result().Cookies()
	}
	for _, c := range sign() {
		assert.True(t, c.HttpOnly && c.SameSite == http.SameSiteStrictMode && c.Path == "/" && c.Domain == "", c)
		assert.False(t, c.Secure, "on the machine itself there is no TLS")
		assert.True(t, strings.HasSuffix(c.Name, "-8420"), "a studio on another port has its own")
	}
	assert.Len(t, sign(), 2)
	answer := ask(as[wire.RoleMaker], "POST", "/api/sign-out", "")
	require.Len(t, answer.Result().Cookies(), 1)
	assert.Negative(t, answer.Result().Cookies()[0].MaxAge)
}

// A request sent again under its key is answered as before, but not where that would
// keep a password, a code or what they stand for.
func TestSecretsAreNotKeptToBeAnsweredAgain(t *testing.T) {
	as, db := peopled(t)
	s := studio{readDocument(t), t, as[wire.RoleOwner]}
	secret := 0
	for i, op := range s.operations() {
		if !op.Secret {
			continue
		}
		secret++
		address, body := s.request(op)
		ask(s.h, op.method, address, body, keyed(fmt.Sprintf("secret-%04d", i)))
	}
	assert.Greater(t, secret, 12)
	var kept int64
	require.NoError(t, db.Read(t.Context(), func(tx *gorm.DB) error {
		return tx.Table("requests").Where("request_key LIKE 'secret-%'").Count(&kept).Error
	}))
	assert.Zero(t, kept)
}

func TestOneDeviceDoesNotListenWithoutBound(t *testing.T) {
	t.Parallel()
	as, _ := peopled(t)
	phone := httptest.NewServer(as[wire.RoleHelper])
	t.Cleanup(phone.Close)
	ours := func(r *http.Request) { r.Host = "127.0.0.1:8420" }
	for range 24 {
		<-listenTo(t, phone.URL, ours)
	}
	assert.Equal(t, http.StatusTooManyRequests, ask(as[wire.RoleHelper], "GET", "/api/changes", "").Code)
	other := httptest.NewServer(as[wire.RoleMaker])
	t.Cleanup(other.Close)
	<-listenTo(t, other.URL, ours) // another device is not held back
}
