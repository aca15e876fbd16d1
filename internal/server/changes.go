package server

import (
	"cmp"
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"net"
	"net/http"
	"strconv"
	"time"

	"github.com/danielgtaylor/huma/v2"
	"github.com/gin-gonic/gin"

	"tidykiln/internal/database"
	"tidykiln/internal/wire"
)

// changesPath is the stream by which pages learn that something was written.
const changesPath = "/api/changes"

// listen is how long the stream waits before it looks for what other
// processes have written; a look is one row.
const listen = time.Second

// beat is how long the stream stays silent at most, so that both ends notice a dead line.
const beat = 10 * time.Second

// listens is how long a page may take to read what it is told.
const listens = 20 * time.Second

// Revision is where the studio stands: the number moves on with every write,
// and Touched are the topics that were written since the one that was asked from.
type Revision struct {
	Revision uint64   `json:"revision"`
	Touched  []string `json:"touched" nullable:"false" doc:"of orders, batches, stores, products, workshop, room and promises"`
}

func since(seen uint64, at database.Standing) Revision {
	return Revision{at.Number, at.Since(seen).Names()}
}

// sinceAsk is a request for what was written since a revision.
type sinceAsk struct {
	Since uint64 `query:"since" doc:"the revision that was seen last; all topics when left out"`
}

// mountRevision adds the answer that pages ask for again and again where the stream fails.
func mountRevision(api huma.API, db *database.DB) {
	wire.Get(api, "get-revision", "/api/revision", "A number that moves on with every change, and what was changed", wire.AtTheBench, database.Everything,
		func(ctx context.Context, in *sinceAsk) (Revision, error) {
			at, err := db.Stands(ctx)
			return since(in.Since, at), err
		})
}

// changes streams the revision and what was touched, as it is and then whenever it moves on. A page
// that was cut off says which it saw last, as Last-Event-ID or since, and is
// told at once when it has missed something.
// It ends when whoever listens may not any more.
func changes(db *database.DB, stopping <-chan struct{}, still func(context.Context) bool) gin.HandlerFunc {
	open := newAtMost[string](mostStreams, mostConnections)
	return func(c *gin.Context) {
		leave, may := open.enter(deviceOf(c.Request))
		if !may {
			refuse(c, http.StatusTooManyRequests, "So many windows are open on this device that this one is told of changes more slowly. Close some.")
			return
		}
		defer leave()
		seen, err := strconv.ParseUint(cmp.Or(c.GetHeader("Last-Event-ID"), c.Query("since"), "0"), 10, 64)
		if err != nil {
			refuse(c, http.StatusUnprocessableEntity, "since must be a revision, a whole number")
			return
		}
		changed := db.Changed()
		at, err := db.Stands(c.Request.Context())
		if err != nil {
			fail(c, err)
			return
		}
		c.Header("Content-Type", "text/event-stream")
		c.Header("Cache-Control", "no-store")
		c.Header("X-Accel-Buffering", "no")
		s := &stream{c, db, seen, still}
		if s.tell(at, true) {
			s.follow(changed, stopping)
		}
	}
}

// deviceOf tells devices apart: by their session, or by where they come from.
func deviceOf(r *http.Request) string {
	if who := wire.Acts(r.Context()); who.SessionID > 0 {
		return fmt.Sprint("session ", who.SessionID)
	}
	host, _, err := net.SplitHostPort(r.RemoteAddr)
	if err != nil {
		return r.RemoteAddr
	}
	return host
}

// stream is one page that listens.
type stream struct {
	*gin.Context
	db   *database.DB
	seen uint64
	// still tells whether whoever listens may.
	still func(context.Context) bool
}

// follow tells of changes until the page goes, the server stops or the
// database is away; a page that is cut off asks again.
func (s *stream) follow(changed, stopping <-chan struct{}) {
	look, alive := time.NewTicker(listen), time.NewTicker(beat)
	defer look.Stop()
	defer alive.Stop()
	for {
		silent := false
		select {
		case <-s.Request.Context().Done():
			return
		case <-stopping:
			return
		case <-changed:
		case <-look.C:
		case <-alive.C:
			silent = true
		}
		changed = s.db.Changed()
		ctx, cancel := context.WithTimeout(s.Request.Context(), patience)
		at, err := s.db.Stands(ctx)
		ended := err != nil || at.Since(s.seen)&database.Access != 0 && !s.still(ctx)
		cancel()
		if ended || !s.tell(at, silent) {
			return
		}
	}
}

// tell sends the revision when the page has not seen it, or a beat when it
// should hear something anyway; it reports whether the page still listens.
func (s *stream) tell(at database.Standing, anyway bool) bool {
	text := ""
	switch {
	case at.Number != s.seen:
		told, err := json.Marshal(since(s.seen, at))
		if err != nil {
			return false
		}
		text = fmt.Sprintf("id: %d\nevent: changed\ndata: %s\n\n", at.Number, told)
	case anyway:
		text = "event: beat\ndata:\n\n"
	default:
		return true
	}
	s.seen = at.Number
	if err := http.NewResponseController(s.Writer).SetWriteDeadline(time.Now().Add(listens)); err != nil && !errors.Is(err, http.ErrNotSupported) {
		return false
	}
	_, err := s.Writer.WriteString(text)
	s.Writer.Flush()
	return err == nil
}
