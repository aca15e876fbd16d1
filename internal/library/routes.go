package library

import (
	"context"

	"github.com/danielgtaylor/huma/v2"

	"tidykiln/core/craft"
	"tidykiln/internal/database"
	"tidykiln/internal/wire"
)

// naming is a request for a copy of a method under a name.
type naming struct {
	wire.Key
	Body MethodName
}

// Mount adds the area's routes.
func (a *Area) Mount(api huma.API) {
	wire.Get(api, "list-methods", "/api/methods", "The library: built-in methods and the owner's own", wire.AtTheBench, database.Products, wire.Whole(a.Entries))
	wire.Create(api, "import-method", "/api/methods", "Bring a method file in", wire.Owner, wire.With(a.Import))
	wire.Create(api, "copy-method", "/api/methods/{key}/copy", "Make a method of one's own from another", wire.Owner,
		func(ctx context.Context, in *naming) (MethodEntry, error) { return a.Copy(ctx, in.Key.Key, in.Body) })
	wire.Post(api, "archive-method", "/api/methods/{key}/archive", "Take a method of one's own out of the library", wire.Owner,
		func(ctx context.Context, in *wire.Key) (wire.Nothing, error) {
			return wire.Nothing{}, a.Archive(ctx, in.Key)
		})
	wire.GetFile(api, "method-schema", "/api/method-schema", "The JSON Schema of a method file", wire.AtTheBench,
		func(context.Context, *struct{}) (*wire.File, error) {
			return wire.NewFile("application/schema+json", "method.schema.json", craft.MethodSchema()), nil
		})
	wire.GetFile(api, "export-method", "/api/methods/{key}/file", "A method as a file", wire.Makers,
		func(ctx context.Context, in *wire.Key) (*wire.File, error) {
			text, err := a.Export(ctx, in.Key)
			return wire.NewFile("application/json", in.Key+".method.json", text), err
		})
}
