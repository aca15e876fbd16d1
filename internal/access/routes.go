package access

import (
	"context"
	"net/http"
	"strings"
	"time"

	"github.com/danielgtaylor/huma/v2"

	"tidykiln/internal/database"
	"tidykiln/internal/wire"
)

// SetUpAnswer is what the first owner is told once.
type SetUpAnswer struct {
	Me            Me       `json:"me"`
	RecoveryCodes []string `json:"recoveryCodes" nullable:"false"`
}

// RecoveryCodes are codes that work once each.
type RecoveryCodes struct {
	Codes []string `json:"codes" nullable:"false"`
}

// Mount adds the routes.
func (a *Area) Mount(api huma.API) {
	wire.Get(api, "get-me", "/api/me", "Who asks, and what they may", wire.Anyone, database.Access|database.Workshop, wire.Whole(a.Me))
	wire.Secret(api, "set-up-owner", "/api/owner", "Make the first owner of the studio", wire.Anyone, letIn(a.SetUp, func(in Arrived) SetUpAnswer {
		return SetUpAnswer{in.Me, in.RecoveryCodes}
	}))
	whoCame := func(in Arrived) Me { return in.Me }
	wire.Secret(api, "sign-in", "/api/sign-in", "Come in by name and password", wire.Anyone, letIn(a.SignIn, whoCame))
	wire.Secret(api, "recover", "/api/sign-in/recover", "Come in by a recovery code, with a new password", wire.Anyone, letIn(a.Recover, whoCame))
	wire.Secret(api, "begin-passkey-sign-in", "/api/sign-in/passkey/begin", "What a passkey is asked, to come in", wire.Anyone, wire.Unkept(wire.Whole(a.BeginPasskeySignIn)))
	wire.Secret(api, "passkey-sign-in", "/api/sign-in/passkey", "Come in by a passkey", wire.Anyone, letIn(a.PasskeySignIn, whoCame))
	wire.Secret(api, "redeem-pairing", "/api/sign-in/pairing", "Come in by a pairing code", wire.Anyone, letIn(a.Redeem, whoCame))
	wire.Secret(api, "sign-out", "/api/sign-out", "Leave", wire.Anyone, a.signOut)

	wire.Secret(api, "change-password", "/api/password", "Set one's own password", wire.SignedIn, wire.Unkept(wire.Send(a.ChangePassword)))
	wire.Secret(api, "set-pin", "/api/pin", "Set one's own PIN for shared devices", wire.SignedIn, wire.Unkept(wire.Send(a.SetPIN)))
	wire.Secret(api, "renew-recovery-codes", "/api/recovery-codes", "New recovery codes in place of the old", wire.SignedIn, wire.Unkept(wire.With(func(ctx context.Context, in Confirmation) (RecoveryCodes, error) {
		codes, err := a.RenewRecoveryCodes(ctx, in)
		return RecoveryCodes{codes}, err
	})))
	wire.Get(api, "list-passkeys", "/api/passkeys", "One's own passkeys", wire.SignedIn, database.Access, wire.Whole(a.Passkeys))
	wire.Secret(api, "begin-passkey", "/api/passkeys/begin", "What a new passkey is asked", wire.SignedIn, wire.Unkept(wire.Whole(a.BeginPasskey)))
	wire.Secret(api, "add-passkey", "/api/passkeys", "Keep a new passkey", wire.SignedIn, wire.Unkept(wire.With(a.AddPasskey)))
	wire.Post(api, "remove-passkey", "/api/passkeys/{id}/remove", "Forget a passkey", wire.SignedIn, wire.Act(a.RemovePasskey))
	wire.Get(api, "list-sessions", "/api/sessions", "The devices that are in", wire.SignedIn, database.Access|database.Workshop, wire.Whole(a.Sessions))
	wire.Post(api, "end-session", "/api/sessions/{id}/end", "End a session", wire.SignedIn, wire.Act(a.End))
	wire.Post(api, "end-other-sessions", "/api/sessions/end-others", "End every session but this one", wire.SignedIn, func(ctx context.Context, _ *struct{}) (wire.Nothing, error) {
		return wire.Nothing{}, a.EndOthers(ctx)
	})
	wire.Get(api, "list-holders", "/api/holders", "Who may hold a shared device", wire.AtTheBench, database.Access, wire.Whole(a.Holders))
	wire.Secret(api, "hold-device", "/api/holder", "Say who holds this shared device", wire.AtTheBench, wire.Unkept(wire.With(a.Hold)))

	wire.Get(api, "get-house", "/api/house", "How the studio is reached by other devices", wire.SignedIn, database.Access, wire.Whole(a.House))
	wire.Get(api, "list-members", "/api/members", "Who may come in", wire.Owner, database.Access, wire.Whole(a.Members))
	wire.Secret(api, "add-member", "/api/members", "Let somebody in", wire.Owner, wire.Unkept(wire.With(a.Add)))
	wire.Secret(api, "change-member", "/api/members/{id}", "Set what a member is", wire.Owner, wire.Unkept(wire.Edit(a.Change)))
	wire.Post(api, "close-member", "/api/members/{id}/close", "End a member and everything that came in by it", wire.Owner, wire.Act(a.Close))
	wire.Secret(api, "add-pairing", "/api/pairings", "A code by which one device comes in", wire.Owner, wire.Unkept(wire.With(a.Pair)))
	wire.Get(api, "get-pairing", "/api/pairings/{id}", "Whether a device has come in by a code", wire.Owner, database.Access, wire.Of(a.Paired))
}

// came is an answer that leaves what shows who somebody is with their browser.
type came[O any] struct {
	Cookies []http.Cookie `header:"Set-Cookie"`
	Body    O
}

// letIn answers somebody who has come in.
func letIn[B, O any](do func(context.Context, B) (Arrived, error), tell func(Arrived) O) func(context.Context, *wire.Sent[B]) (*came[O], error) {
	return func(ctx context.Context, in *wire.Sent[B]) (*came[O], error) {
		arrived, err := do(ctx, in.Body)
		if err != nil {
			return nil, err
		}
		from := arrival(ctx)
		return &came[O]{[]http.Cookie{from.cookie(sessionCookie, arrived.token, idlePaired), from.cookie(knownCookie, arrived.known, 10*idlePaired)}, tell(arrived)}, nil
	}
}

func (a *Area) signOut(ctx context.Context, _ *struct{}) (*came[Me], error) {
	there, err := a.Owned(ctx)
	if err != nil {
		return nil, err
	}
	err = a.SignOut(ctx)
	return &came[Me]{[]http.Cookie{arrival(ctx).cookie(sessionCookie, "", -time.Second)}, Me{Owned: there}}, err
}

// The names of the cookies, before what tells studios on one machine apart.
const (
	sessionCookie = "tidykiln-session-"
	knownCookie   = "tidykiln-known-"
)

// secure tells that a request came where nobody listens in.
func (from Arrival) secure() bool { return strings.HasPrefix(from.Origin, "https:") }

// cookieName is the name of a cookie: that of a browser's own for secure lines, where no
// other page of the host can set it, and with the port, since browsers do not tell those apart.
func (from Arrival) cookieName(name string) string {
	name += from.Origin[strings.LastIndexByte(from.Origin, ':')+1:]
	if from.secure() {
		return "__Host-" + name
	}
	return name
}

func (from Arrival) cookie(name, value string, lasts time.Duration) http.Cookie {
	return http.Cookie{Name: from.cookieName(name), Value: value, Path: "/", MaxAge: int(lasts.Seconds()), HttpOnly: true, Secure: from.secure(), SameSite: http.SameSiteStrictMode}
}

// Shown reads what a request shows by its cookies.
func (from Arrival) Shown(r *http.Request) Arrival {
	for name, into := range map[string]*string{sessionCookie: &from.Token, knownCookie: &from.Known} {
		if c, err := r.Cookie(from.cookieName(name)); err == nil {
			*into = c.Value
		}
	}
	return from
}
