package server

import (
	"context"
	"net/http"
	"net/netip"
	"regexp"
	"strconv"
	"strings"

	"github.com/danielgtaylor/huma/v2"
	"github.com/gin-gonic/gin"

	"tidykiln/internal/access"
	"tidykiln/internal/database"
	"tidykiln/internal/problem"
	"tidykiln/internal/wire"
)

// Headers by which a device says who holds it, and which it is. They are believed where
// nobody signs in: a session knows whose it is.
const (
	PersonHeader = "Tidykiln-Person"
	DeviceHeader = "Tidykiln-Device"
)

// longestDevice bounds the name that a device has for itself.
const longestDevice = 60

// admission lets requests through by who asks and what their route says of that.
type admission struct {
	access *access.Area
	routes map[string]admitted
}

// admitted is what a route says of who may call it.
type admitted struct {
	may     wire.May
	changes bool
	// secret says that its request or its answer is not to be kept.
	secret bool
	// doing says in words what it does.
	doing string
}

// newAdmission knows the routes that are not in the API's document; learn adds those that are.
func newAdmission(rooms *access.Area) *admission {
	return &admission{rooms, map[string]admitted{
		"GET " + changesPath: {may: wire.AtTheBench},
		// the document of the routes themselves
		"GET /api/openapi.json": {may: wire.SignedIn},
		"GET /api/openapi.yaml": {may: wire.SignedIn},

		"GET /api/openapi-3.0.json": {may: wire.SignedIn},
		"GET /api/openapi-3.0.yaml": {may: wire.SignedIn},
	}}
}

var inBraces = regexp.MustCompile(`\{([^}]+)\}`)

// learn takes from each route of the API who may call it.
func (a *admission) learn(api huma.API) {
	for path, item := range api.OpenAPI().Paths {
		for method, op := range map[string]*huma.Operation{http.MethodGet: item.Get, http.MethodPost: item.Post, http.MethodPut: item.Put} {
			if op == nil {
				continue
			}
			may, _ := op.Extensions["x-may"].(wire.May)
			secret, _ := op.Extensions["x-secret"].(bool)
			_, reads := op.Extensions["x-reads"]
			doing, _, _ := strings.Cut(op.Summary, ":")
			a.routes[method+" "+inBraces.ReplaceAllString(path, ":$1")] = admitted{may, method != http.MethodGet && !reads, secret, doing}
		}
	}
}

func route(c *gin.Context) string { return c.Request.Method + " " + c.FullPath() }

// admit notes who asks, and refuses what is not theirs to do. A route that says nothing
// of who may call it is nobody's. The pages themselves, and whether the server is well,
// are for all.
func (a *admission) admit(c *gin.Context) {
	if !strings.HasPrefix(c.FullPath(), "/api/") {
		c.Next()
		return
	}
	from := arrivalOf(c.Request)
	ctx := access.Arriving(c.Request.Context(), from)
	who, err := a.access.Who(ctx)
	if err != nil {
		fail(c, err)
		return
	}
	is := a.routes[route(c)]
	if !is.may.Allows(who.Role, is.changes) {
		turnAway(c, who)
		return
	}
	if who, err = a.says(who, c.Request); err != nil {
		fail(c, err)
		return
	}
	author := database.Author{PersonID: who.PersonID, MemberID: who.MemberID, Device: who.Device, Doing: is.doing, Request: c.GetString(requestIDKey)}
	c.Request = c.Request.WithContext(database.By(wire.Acting(ctx, who), author))
	c.Next()
}

// stillMayListen tells whether whoever began to listen to what changes may go on.
func (a *admission) stillMayListen(ctx context.Context) bool {
	who, err := a.access.Who(ctx)
	return err == nil && wire.AtTheBench.Allows(who.Role, false)
}

func turnAway(c *gin.Context, who wire.Actor) {
	if who.Role == wire.Nobody {
		answer(c, problem.Unknown(problem.SignIn, "Sign in first."))
		return
	}
	answer(c, &problem.Problem{Type: problem.NotYours, Title: http.StatusText(http.StatusForbidden), Status: http.StatusForbidden,
		Detail: "This is not for a " + string(who.Role) + ". Ask the owner of the studio."})
}

// says is who asks, with what the request says of who holds the device. What cannot be read says nothing.
func (a *admission) says(who wire.Actor, r *http.Request) (wire.Actor, error) {
	said, _ := strconv.ParseUint(r.Header.Get(PersonHeader), 10, 64)
	if who.Role != wire.Nobody && who.MemberID == 0 && who.PersonID == 0 && said != 0 {
		believed, err := a.access.Believes(r.Context(), said)
		if err != nil {
			return who, err
		}
		if believed {
			who.PersonID = said
		}
	}
	if who.Device == "" {
		device := r.Header.Get(DeviceHeader)
		who.Device = device[:min(len(device), longestDevice)]
	}
	return who, nil
}

// arrivalOf tells how a request has come.
func arrivalOf(r *http.Request) access.Arrival {
	from := access.Arrival{Origin: scheme(r) + "://" + strings.ToLower(r.Host)}
	if address, err := netip.ParseAddrPort(r.RemoteAddr); err == nil {
		from.From = address.Addr().Unmap()
	}
	from.Here = r.TLS == nil && from.From.IsLoopback()
	return from.Shown(r)
}

func scheme(r *http.Request) string {
	if r.TLS != nil {
		return "https"
	}
	return "http"
}
