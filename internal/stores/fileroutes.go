package stores

import (
	"context"
	"encoding/json"
	"errors"
	"io"
	"net/http"
	"reflect"

	"github.com/danielgtaylor/huma/v2"

	"tidykiln/internal/problem"
	"tidykiln/internal/wire"
)

// ImportsPath begins the addresses that take files in, whose answers come line by line.
const ImportsPath = "/api/imports/"

// ImportLine is a line of the answer while a file is taken in: how far it has
// come, or, on the last line, what came of it or what went wrong.
type ImportLine struct {
	Progress *Progress        `json:"progress,omitempty"`
	Import   *Import          `json:"import,omitempty"`
	Problem  *problem.Problem `json:"problem,omitempty"`
}

func (a *Area) mountFiles(api huma.API) {
	a.mountImport(api, "materials", "Take a table of materials in", a.ImportMaterials)
	a.mountImport(api, "purchases", "Take a table of purchases in", a.ImportPurchases)
	export(api, "materials", "The materials as a table", a.ExportMaterials)
	export(api, "purchases", "What was bought as a table", a.ExportPurchases)
}

func export(api huma.API, what, summary string, write func(context.Context) ([]byte, error)) {
	wire.GetFile(api, "export-"+what, "/api/exports/"+what, summary, wire.Makers, func(ctx context.Context, _ *struct{}) (*wire.File, error) {
		table, err := write(ctx)
		return wire.NewFile("text/csv; charset=utf-8", what+".csv", table), err
	})
}

type importer func(context.Context, io.Reader, Importing) (Import, error)

func (a *Area) mountImport(api huma.API, what, summary string, take importer) {
	line := api.OpenAPI().Components.Schemas.Schema(reflect.TypeFor[ImportLine](), true, "ImportLine")
	op := huma.Operation{OperationID: "import-" + what, Method: http.MethodPost, Path: ImportsPath + what, Summary: summary, Extensions: map[string]any{"x-may": wire.Makers},
		Description: "The answer is JSON line by line: how far it has come, and last what came of it.",
		RequestBody: &huma.RequestBody{Content: map[string]*huma.MediaType{"text/csv": {Schema: &huma.Schema{Type: huma.TypeString}}}},
		Responses:   map[string]*huma.Response{"200": {Description: "OK", Content: map[string]*huma.MediaType{"application/x-ndjson": {Schema: line}}}}}
	huma.Register(api, op, func(_ context.Context, in *struct {
		Save bool `query:"save" doc:"save it if nothing is wrong; else it is only looked through"`
	}) (*huma.StreamResponse, error) {
		return &huma.StreamResponse{Body: func(ctx huma.Context) { answerImport(api, ctx, in.Save, take) }}, nil
	})
}

// answerImport takes the file in the body in and answers line by line.
func answerImport(api huma.API, ctx huma.Context, save bool, take importer) {
	begun := false
	tell := func(l ImportLine) error {
		if !begun {
			begun = true
			ctx.SetHeader("Content-Type", "application/x-ndjson")
			ctx.SetStatus(http.StatusOK)
		}
		out := ctx.BodyWriter()
		if err := json.NewEncoder(out).Encode(l); err != nil {
			return err
		}
		if f, can := out.(http.Flusher); can {
			f.Flush()
		}
		return nil
	}
	// Whoever asked may have gone; then there is nobody to tell.
	imp, err := take(ctx.Context(), ctx.BodyReader(), Importing{Save: save, Tell: func(p Progress) { _ = tell(ImportLine{Progress: &p}) }})
	var refused *problem.Problem
	switch {
	case err == nil:
		_ = tell(ImportLine{Import: &imp})
	case errors.As(err, &refused): // before anything was told
		_ = huma.WriteErr(api, ctx, refused.Status, refused.Detail)
	case begun:
		errors.As(huma.NewErrorWithContext(ctx, http.StatusInternalServerError, err.Error(), err), &refused)
		_ = tell(ImportLine{Problem: refused})
	default:
		_ = huma.WriteErr(api, ctx, http.StatusInternalServerError, err.Error(), err)
	}
}
