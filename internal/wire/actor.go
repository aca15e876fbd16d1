package wire

import "context"

// Actor is who presses: the person that holds the device, and the device. Who
// did a piece of work is a field of that work, and may be somebody else.
type Actor struct {
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

// Acts is who presses; nobody known where nothing was said.
func Acts(ctx context.Context) Actor {
	a, _ := ctx.Value(actorKey{}).(Actor)
	return a
}
