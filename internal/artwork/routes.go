package artwork

import (
	"context"
	"errors"
	"io"
	"net/http"
	"os"
	"strings"

	"github.com/danielgtaylor/huma/v2"

	"tidykiln/core/picture"
	"tidykiln/internal/database"
	"tidykiln/internal/problem"
	"tidykiln/internal/wire"
)

// FilesPath is where pictures' files are sent to and come from.
const FilesPath = "/api/artwork-files"

// Mount adds the area's routes.
func (a *Area) Mount(api huma.API) {
	wire.Get(api, "list-artworks", "/api/artworks", "The pictures, the newest first", wire.AtTheBench, database.Artwork, wire.Whole(a.List))
	wire.Get(api, "get-artwork", "/api/artworks/{id}", "One picture", wire.AtTheBench, database.Artwork, wire.Of(a.Get))
	wire.Put(api, "change-artwork", "/api/artworks/{id}", "Say what a picture is and who may use it", wire.Makers, wire.Change(a.Change))
	wire.Post(api, "archive-artwork", "/api/artworks/{id}/archive", "Put a picture away that nothing uses", wire.Makers, wire.Act(a.Archive))
	wire.Post(api, "restore-artwork", "/api/artworks/{id}/restore", "Take a picture out again that was put away", wire.Makers, wire.Act(a.Restore))
	a.mountFiles(api)
	a.mountCleaned(api)
}

// sent is a picture's file in the body, with the name it had.
type sent struct {
	Name    string `query:"name" maxLength:"1000" doc:"the file's name"`
	content []byte
}

// Resolve reads the body, as the bytes they are.
func (s *sent) Resolve(ctx huma.Context) []error {
	content, err := io.ReadAll(io.LimitReader(ctx.BodyReader(), MostBytes+1))
	switch {
	case errors.Is(err, os.ErrDeadlineExceeded):
		return []error{&problem.Problem{Title: "Too slow", Status: http.StatusRequestTimeout, Detail: "The upload took too long and was ended. Nothing was kept; try again."}}
	case err != nil:
		return []error{&problem.Problem{Title: "Cut off", Status: http.StatusBadRequest, Detail: "The upload ended before it was whole. Send it again."}}
	case len(content) > MostBytes:
		return []error{&problem.Problem{Title: "Too large", Status: http.StatusRequestEntityTooLarge, Detail: "The file has more than 60 MB. Save it smaller, as JPEG, and put that in."}}
	}
	s.content = content
	return nil
}

func (a *Area) mountFiles(api huma.API) {
	take := huma.Operation{OperationID: "take-artwork", Method: http.MethodPost, Path: FilesPath, Summary: "Take a picture's file in", DefaultStatus: http.StatusCreated,
		Extensions:  map[string]any{"x-may": wire.Makers},
		RequestBody: &huma.RequestBody{Content: map[string]*huma.MediaType{"application/octet-stream": {Schema: &huma.Schema{Type: huma.TypeString, Format: "binary"}}}}}
	huma.Register(api, take, func(ctx context.Context, in *sent) (*wire.Sent[Taken], error) {
		t, err := a.Take(ctx, in.Name, in.content)
		return &wire.Sent[Taken]{Body: t}, err
	})
	show := huma.Operation{OperationID: "show-artwork", Method: http.MethodGet, Path: FilesPath + "/{hash}", Summary: "A picture's file", Extensions: map[string]any{"x-may": wire.AtTheBench}}
	huma.Register(api, show, func(ctx context.Context, in *struct {
		Hash string `path:"hash" maxLength:"64"`
	}) (*shown, error) {
		content, mediaType, err := a.FileOf(ctx, in.Hash)
		if err != nil {
			return nil, err
		}
		if content == nil || !strings.HasPrefix(mediaType, "image/") {
			return nil, problem.NotFound("picture")
		}
		return &shown{Type: mediaType, Cache: "private, max-age=31536000, immutable", Body: content}, nil
	})
}

// cleanedOf is a request for a picture cleaned up, in the size that pages show.
type cleanedOf struct {
	wire.ID
	Colours     picture.Colours `query:"colours" enum:"colour,greys,black,lines" default:"colour"`
	Threshold   int             `query:"threshold" minimum:"0" maximum:"254"`
	Light       int             `query:"light" minimum:"-100" maximum:"100"`
	Contrast    int             `query:"contrast" minimum:"-100" maximum:"100"`
	NearlyWhite int             `query:"nearlyWhite" minimum:"0" maximum:"80"`
}

func (a *Area) mountCleaned(api huma.API) {
	clean := huma.Operation{OperationID: "clean-artwork", Method: http.MethodGet, Path: "/api/artworks/{id}/cleaned", Summary: "A picture as a clean-up leaves it", Extensions: map[string]any{"x-may": wire.AtTheBench}}
	huma.Register(api, clean, func(ctx context.Context, in *cleanedOf) (*shown, error) {
		content, err := a.Cleaned(ctx, in.ID.ID, picture.CleanUp{Colours: in.Colours, Threshold: in.Threshold, Light: in.Light, Contrast: in.Contrast, NearlyWhite: in.NearlyWhite})
		return &shown{Type: http.DetectContentType(content), Cache: "private, max-age=3600", Body: content}, err
	})
}

// shown is a file whose name changes with what is in it, so that it may be kept.
type shown struct {
	Type  string `header:"Content-Type"`
	Cache string `header:"Cache-Control"`
	Body  []byte
}
