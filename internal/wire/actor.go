package wire

import "context"

// Actor is who presses: what they may, the person that holds the device, and the
// device. Who did a piece of work is a field of that work, and may be somebody else.
type Actor struct {
	Role Role
	// MemberID is 0 for a shared device, and where nobody owns the studio yet.
	MemberID uint64
	// SessionID is 0 where nobody signed in.
	SessionID uint64
	// PersonID is 0 where the device has not said who holds it.
	PersonID uint64
	// Device is the name that a device keeps for itself; empty for programs.
	Device string
}

type actorKey struct{}

// Acting marks a context with who presses.
func Acting(ctx context.Context, a Actor) context.Context {
	return context.WithValue(ctx, actorKey{}, a)
}

// SeesBusiness tells whether whoever asks is shown prices and customers' data.
func SeesBusiness(ctx context.Context) bool { return Acts(ctx).Role.SeesBusiness() }

// Acts is who presses; nobody known where nothing was said.
func Acts(ctx context.Context) Actor {
	a, _ := ctx.Value(actorKey{}).(Actor)
	return a
}
