package wire

import "slices"

// Role is what a member or a device may do in the studio.
type Role string

const (
	// RoleOwner may everything.
	RoleOwner Role = "owner"
	// RoleMaker runs the studio day by day.
	RoleMaker Role = "maker"
	// RoleHelper works at the bench, and is shown neither prices nor customers' data.
	RoleHelper Role = "helper"
	// RoleViewer looks at what makers see, and changes nothing.
	RoleViewer Role = "viewer"
	// Nobody is whoever has not signed in.
	Nobody Role = ""
)

// Roles are those that a member can have.
var Roles = []Role{RoleOwner, RoleMaker, RoleHelper, RoleViewer}

// May says who may call a route: it stands beside each route and in the API's
// document (x-may), and the server lets nobody else through.
type May string

const (
	// Anyone may whoever reaches the studio: to sign in, and what has a secret address of its own.
	Anyone May = "anyone"
	// SignedIn may whoever has signed in, about themselves.
	SignedIn May = "signed-in"
	// AtTheBench may whoever works here: what is to be done, without prices and customers' data.
	AtTheBench May = "bench"
	// Makers may whoever runs the studio day by day.
	Makers May = "makers"
	// Owner may whoever owns it: people, rates, the library, who may come in.
	Owner May = "owner"
)

// may is the one table of who may what: who may call the routes that read, and who those that change.
var may = map[May]struct{ read, change []Role }{
	Anyone:     {[]Role{Nobody, RoleOwner, RoleMaker, RoleHelper, RoleViewer}, []Role{Nobody, RoleOwner, RoleMaker, RoleHelper, RoleViewer}},
	SignedIn:   {Roles, Roles},
	AtTheBench: {Roles, []Role{RoleOwner, RoleMaker, RoleHelper}},
	Makers:     {[]Role{RoleOwner, RoleMaker, RoleViewer}, []Role{RoleOwner, RoleMaker}},
	Owner:      {[]Role{RoleOwner}, []Role{RoleOwner}},
}

// Allows tells whether a role may call a route that reads, or one that changes something.
func (m May) Allows(r Role, changes bool) bool {
	if changes {
		return slices.Contains(may[m].change, r)
	}
	return slices.Contains(may[m].read, r)
}

// SeesBusiness tells whether a role is shown prices and customers' data.
func (r Role) SeesBusiness() bool { return Makers.Allows(r, false) }
