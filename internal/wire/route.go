package wire

import (
	"context"
	"net/http"

	"github.com/danielgtaylor/huma/v2"

	"tidykiln/internal/database"
)

// Get adds a route that reads. Reads are the topics whose change makes its
// answer another one (x-reads): pages read it again when one of them is written.
func Get[I, O any](api huma.API, id, path, summary string, may May, reads database.Topics, do func(context.Context, *I) (O, error)) {
	op := operation(http.MethodGet, id, path, summary, may)
	op.Extensions["x-reads"] = reads.Names()
	answer(api, op, do)
}

// Ask adds a route that works something out and changes nothing, from what is
// sent and from what is there; Reads are as for Get.
func Ask[I, O any](api huma.API, id, path, summary string, may May, reads database.Topics, do func(context.Context, *I) (O, error)) {
	op := operation(http.MethodPost, id, path, summary, may)
	op.Extensions["x-reads"] = reads.Names()
	answer(api, op, do)
}

// GetFile is Get for a file.
func GetFile[I any](api huma.API, id, path, summary string, may May, do func(context.Context, *I) (*File, error)) {
	huma.Register(api, operation(http.MethodGet, id, path, summary, may), do)
}

// Create adds a route that makes something.
func Create[I, O any](api huma.API, id, path, summary string, may May, do func(context.Context, *I) (O, error)) {
	op := operation(http.MethodPost, id, path, summary, may)
	op.DefaultStatus = http.StatusCreated
	answer(api, op, do)
}

// Post adds a route that does something.
func Post[I, O any](api huma.API, id, path, summary string, may May, do func(context.Context, *I) (O, error)) {
	answer(api, operation(http.MethodPost, id, path, summary, may), do)
}

// Put adds a route that sets something.
func Put[I, O any](api huma.API, id, path, summary string, may May, do func(context.Context, *I) (O, error)) {
	answer(api, operation(http.MethodPut, id, path, summary, may), do)
}

// Secret adds a route that brings or answers what nobody is to keep, such as a
// password: neither it nor its answer is remembered to be repeated (x-secret).
func Secret[I, O any](api huma.API, id, path, summary string, may May, do func(context.Context, *I) (*O, error)) {
	op := operation(http.MethodPost, id, path, summary, may)
	op.Extensions["x-secret"] = true
	huma.Register(api, op, do)
}

// Unkept is the answer of a secret route that is a body and nothing else.
func Unkept[I, O any](do func(context.Context, *I) (O, error)) func(context.Context, *I) (*Sent[O], error) {
	return func(ctx context.Context, in *I) (*Sent[O], error) {
		o, err := do(ctx, in)
		return &Sent[O]{o}, err
	}
}

func operation(method, id, path, summary string, may May) huma.Operation {
	return huma.Operation{OperationID: id, Method: method, Path: path, Summary: summary, Extensions: map[string]any{"x-may": may}}
}

// Nothing is the answer of a route that only does something.
type Nothing struct{}

// answer registers a route whose answer is what do returns.
func answer[I, O any](api huma.API, op huma.Operation, do func(context.Context, *I) (O, error)) {
	if _, nothing := any(*new(O)).(Nothing); nothing {
		op.DefaultStatus = http.StatusNoContent
		huma.Register(api, op, func(ctx context.Context, in *I) (*struct{}, error) {
			_, err := do(ctx, in)
			return nil, err
		})
		return
	}
	huma.Register(api, op, func(ctx context.Context, in *I) (*Sent[O], error) {
		o, err := do(ctx, in)
		return &Sent[O]{o}, err
	})
}

// The shapes of requests: what a use case takes, and so what its route reads.

// Whole is a request for everything there is of a kind.
func Whole[O any](do func(context.Context) (O, error)) func(context.Context, *struct{}) (O, error) {
	return func(ctx context.Context, _ *struct{}) (O, error) { return do(ctx) }
}

// Of is a request about one thing.
func Of[O any](do func(context.Context, uint64) (O, error)) func(context.Context, *ID) (O, error) {
	return func(ctx context.Context, in *ID) (O, error) { return do(ctx, in.ID) }
}

// With is a request that brings something.
func With[B, O any](do func(context.Context, B) (O, error)) func(context.Context, *Sent[B]) (O, error) {
	return func(ctx context.Context, in *Sent[B]) (O, error) { return do(ctx, in.Body) }
}

// Edit is a request that brings something for one thing.
func Edit[B, O any](do func(context.Context, uint64, B) (O, error)) func(context.Context, *SentTo[B]) (O, error) {
	return func(ctx context.Context, in *SentTo[B]) (O, error) { return do(ctx, in.ID, in.Body) }
}

// Act is Of for a use case without an answer.
func Act(do func(context.Context, uint64) error) func(context.Context, *ID) (Nothing, error) {
	return func(ctx context.Context, in *ID) (Nothing, error) { return Nothing{}, do(ctx, in.ID) }
}

// Send is With for a use case without an answer.
func Send[B any](do func(context.Context, B) error) func(context.Context, *Sent[B]) (Nothing, error) {
	return func(ctx context.Context, in *Sent[B]) (Nothing, error) { return Nothing{}, do(ctx, in.Body) }
}

// Change is Edit for a use case without an answer.
func Change[B any](do func(context.Context, uint64, B) error) func(context.Context, *SentTo[B]) (Nothing, error) {
	return func(ctx context.Context, in *SentTo[B]) (Nothing, error) { return Nothing{}, do(ctx, in.ID, in.Body) }
}

// AtVersion is Change for a use case that takes only the version a thing was read at.
func AtVersion(do func(context.Context, uint64, int) error) func(context.Context, *SentTo[Versioned]) (Nothing, error) {
	return Change(func(ctx context.Context, id uint64, in Versioned) error { return do(ctx, id, in.Version) })
}
