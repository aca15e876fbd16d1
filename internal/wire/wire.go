// Package wire holds the shapes that routes of every area read and answer.
package wire

// Body wraps what a route reads or answers.
type Body[T any] struct{ Body T }

// ByID is a request for one thing.
type ByID struct {
	ID uint64 `path:"id"`
}

// Edit is a request to change one thing.
type Edit[T any] struct {
	ID   uint64 `path:"id"`
	Body T
}
