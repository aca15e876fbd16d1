// Package server puts the areas behind HTTP: middleware, errors, health,
// static files.
package server

import (
	"cmp"
	"context"
	"io/fs"
	"net/http"
	"time"

	"github.com/danielgtaylor/huma/v2"
	"github.com/danielgtaylor/huma/v2/adapters/humagin"
	"github.com/gin-contrib/gzip"
	"github.com/gin-gonic/gin"

	"tidykiln/internal/artwork"
	"tidykiln/internal/certificate"
	"tidykiln/internal/database"
	"tidykiln/internal/demo"
	"tidykiln/internal/house"
	"tidykiln/internal/problem"
	"tidykiln/internal/stores"
)

// Options are what a server is made of.
type Options struct {
	DB  *database.DB
	Now func() time.Time
	// House is the rooms of the application, on the same database and clock.
	House *house.House
	// Time is the time that the rooms go by.
	Time *demo.Time
	// Pages are the built pages.
	Pages fs.FS
	// Address is the one it listens on, which requests must name as their host.
	Address Address
	// Certificate is what it shows beyond the machine itself; nil where it is not reached from there.
	Certificate *certificate.Keeper
	// Metrics count what it does; nil for nothing counted.
	Metrics *Metrics
	// Stopping is closed when the server begins to stop, which ends the streams.
	Stopping <-chan struct{}
	// Patience is how long a request may wait for the database; zero is the usual.
	Patience time.Duration
}

// Handler answers every request.
func Handler(o Options) http.Handler {
	engine := newEngine()
	engine.HandleMethodNotAllowed = true
	admission := newAdmission(o.House.Access)
	if o.Metrics != nil {
		engine.Use(o.Metrics.measured)
	}
	engine.Use(requestID, logged, recovered, o.guarded, dated(o.Now), o.headers, squeezed, bounded(cmp.Or(o.Patience, patience)), admission.admit, sized, admission.once)
	engine.NoRoute(pages(o.Pages))
	engine.NoMethod(func(c *gin.Context) { refuse(c, http.StatusMethodNotAllowed, "This address does not do that.") })
	engine.GET("/healthz", func(c *gin.Context) { c.JSON(http.StatusOK, gin.H{"status": "ok"}) })
	engine.GET("/readyz", ready(o.DB))
	engine.GET(changesPath, changes(o.DB, o.Stopping, admission.stillMayListen))
	api := API(engine)
	mount(api, o.DB, o.House, cmp.Or(o.Time, demo.NewTime(o.DB, nil, o.House)))
	admission.learn(api)
	return engine
}

// squeezed answers compressed to whoever takes it so; the stream must not wait to be worth it.
var squeezed = gzip.Gzip(gzip.DefaultCompression, gzip.WithExcludedPaths([]string{changesPath, stores.ImportsPath, artwork.FilesPath}), gzip.WithExcludedExtensions([]string{".woff2", ".png", ".pdf"}))

func newEngine() *gin.Engine {
	gin.SetMode(gin.ReleaseMode)
	return gin.New()
}

// API is the typed part of the routes, on an engine.
func API(engine *gin.Engine) huma.API {
	huma.NewErrorWithContext = failure
	huma.NewError = func(status int, message string, errs ...error) huma.StatusError {
		return failure(nil, status, message, errs...)
	}
	config := huma.DefaultConfig("Tidy Kiln", "1")
	config.DocsPath, config.SchemasPath = "", ""
	config.OpenAPIPath = "/api/openapi"
	config.CreateHooks = nil
	asJSON := huma.Format{Marshal: huma.DefaultJSONFormat.Marshal, Unmarshal: problem.ReadJSON}
	config.Transformers = append(config.Transformers, withheld)
	config.Formats = map[string]huma.Format{"application/json": asJSON, "json": asJSON}
	return humagin.New(engine, config)
}

func mount(api huma.API, db *database.DB, rooms *house.House, time *demo.Time) {
	mountRevision(api, db)
	rooms.Mount(api)
	time.Mount(api)
}

// OpenAPI is the document of all typed routes.
func OpenAPI() ([]byte, error) {
	api := API(newEngine())
	rooms := house.New(nil, time.Now, nil, nil)
	mount(api, nil, rooms, demo.NewTime(nil, nil, rooms))
	return api.OpenAPI().MarshalJSON()
}

func ready(db *database.DB) gin.HandlerFunc {
	return func(c *gin.Context) {
		ctx, cancel := context.WithTimeout(c.Request.Context(), 3*time.Second)
		defer cancel()
		if err := db.Ready(ctx); err != nil {
			refuse(c, http.StatusServiceUnavailable, err.Error())
			return
		}
		c.JSON(http.StatusOK, gin.H{"status": "ready"})
	}
}
