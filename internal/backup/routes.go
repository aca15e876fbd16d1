package backup

import (
	"context"
	"io"
	"net/http"
	"strconv"

	"github.com/danielgtaylor/huma/v2"

	"tidykiln/internal/database"
	"tidykiln/internal/wire"
)

// named is a request about one backup.
type named struct {
	Name string `path:"name" maxLength:"60"`
}

// Mount adds the area's routes.
func (a *Area) Mount(api huma.API) {
	wire.Get(api, "list-backups", "/api/backups", "The backups that are kept, and whether they hold", wire.Owner, database.Workshop, wire.Whole(a.List))
	wire.Post(api, "make-backup", "/api/backups", "Make a backup now", wire.Owner, func(ctx context.Context, _ *struct{}) (wire.Nothing, error) { return wire.Nothing{}, a.Ask(ctx) })
	op := huma.Operation{OperationID: "get-backup-file", Method: http.MethodGet, Path: "/api/backups/{name}/file", Summary: "Take a backup away", Extensions: map[string]any{"x-may": wire.Owner},
		Responses: map[string]*huma.Response{"200": {Description: "OK", Content: map[string]*huma.MediaType{"application/octet-stream": {}}}}}
	huma.Register(api, op, func(_ context.Context, in *named) (*huma.StreamResponse, error) {
		f, size, err := a.OpenFile(in.Name)
		if err != nil {
			return nil, err
		}
		return &huma.StreamResponse{Body: func(ctx huma.Context) {
			defer f.Close()
			ctx.SetHeader("Content-Type", "application/octet-stream")
			ctx.SetHeader("Content-Disposition", `attachment; filename="`+in.Name+`"`)
			ctx.SetHeader("Content-Length", strconv.FormatInt(size, 10))
			_, _ = io.Copy(ctx.BodyWriter(), f) // whoever asked may have gone
		}}, nil
	})
}
