package server

import (
	"bytes"
	"context"
	"crypto/sha256"
	"io"
	"net/http"
	"regexp"
	"strings"
	"time"

	"github.com/gin-gonic/gin"

	"tidykiln/internal/artwork"
	"tidykiln/internal/database"
)

// KeyHeader carries the key under which a change is carried out once only,
// however often it is sent.
const KeyHeader = "Idempotency-Key"

var keyForm = regexp.MustCompile(`^[A-Za-z0-9-]{8,100}$`)

// mostBody bounds the body of a request, in bytes.
const mostBody = 1 << 20

// once lets a change that carries a key be carried out once only. What holds a
// secret is not remembered for it.
func (a *admission) once(c *gin.Context) {
	key := c.GetHeader(KeyHeader)
	if key == "" || c.Request.Method == http.MethodGet || c.Request.Method == http.MethodHead {
		c.Next()
		return
	}
	if !keyForm.MatchString(key) {
		refuse(c, http.StatusBadRequest, KeyHeader+" must be 8 to 100 letters, digits and hyphens.")
		return
	}
	if a.routes[route(c)].secret {
		c.Next()
		return
	}
	body, err := io.ReadAll(io.LimitReader(c.Request.Body, mostBody+1))
	if err != nil {
		refuse(c, http.StatusBadRequest, "The request ended before it was whole. Send it again.")
		return
	}
	content := sha256.Sum256(append([]byte(c.Request.Method+" "+c.Request.URL.RequestURI()+"\n"), body...))
	c.Request.Body = io.NopCloser(io.MultiReader(bytes.NewReader(body), c.Request.Body))
	c.Request = c.Request.WithContext(database.Once(c.Request.Context(), key, content))
	c.Next()
}

// patience is how long a request may wait for the database.
const patience = 15 * time.Second

// bounded ends what a request asks of the database after its patience. A picture's
// file may take longer to come; what is done with it then has a bound of its own.
func bounded(patience time.Duration) gin.HandlerFunc {
	return func(c *gin.Context) {
		if strings.HasPrefix(c.Request.URL.Path, "/api/") && c.Request.URL.Path != changesPath && c.Request.URL.Path != artwork.FilesPath {
			ctx, cancel := context.WithTimeout(c.Request.Context(), patience)
			defer cancel()
			c.Request = c.Request.WithContext(ctx)
		}
		c.Next()
	}
}
