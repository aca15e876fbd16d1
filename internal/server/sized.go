package server

import (
	"bytes"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"net/http"
	"os"
	"strings"
	"time"

	"github.com/gin-gonic/gin"

	"tidykiln/internal/artwork"
	"tidykiln/internal/problem"
	"tidykiln/internal/stores"
)

// Bounds of a body that anybody would send: the most in one list or object,
// and in all. They are over what any route takes, so that what is within them
// is told by the route's own words.
const (
	mostInOne = 1000
	mostInAll = 50_000
)

// longestImport is how long the taking in of a table may be told of.
const longestImport = 10 * time.Minute

// longestUpload is how long a picture's file may take to come.
const longestUpload = 10 * time.Minute

// sized reads a body once, and refuses one that is too slow, or that holds so
// much that telling its faults would take more than it is worth.
func sized(c *gin.Context) {
	if c.Request.Method == http.MethodGet || c.Request.Method == http.MethodHead {
		c.Next()
		return
	}
	if strings.HasPrefix(c.Request.URL.Path, stores.ImportsPath) {
		// A table is read as it comes, and told of line by line.
		_ = http.NewResponseController(c.Writer).SetWriteDeadline(time.Now().Add(longestImport)) // a test's recorder has none
		c.Next()
		return
	}
	if c.Request.URL.Path == artwork.FilesPath {
		_ = http.NewResponseController(c.Writer).SetReadDeadline(time.Now().Add(longestUpload))
		_ = http.NewResponseController(c.Writer).SetWriteDeadline(time.Now().Add(longestUpload + time.Minute))
		c.Next()
		return
	}
	// What is over the bound is left to the route to refuse.
	body, err := io.ReadAll(io.LimitReader(c.Request.Body, mostBody+1))
	switch {
	case errors.Is(err, os.ErrDeadlineExceeded):
		refuse(c, http.StatusRequestTimeout, "The upload took too long and was ended: the line is slow. Nothing was saved; try again.")
		return
	case err != nil:
		refuse(c, http.StatusBadRequest, "The request ended before it was whole. Send it again.")
		return
	}
	if p := overfull(body); p != nil {
		answer(c, p)
		return
	}
	c.Request.Body = io.NopCloser(io.MultiReader(bytes.NewReader(body), c.Request.Body))
	c.Next()
}

// overfull names the first list or object of a JSON body that holds too much;
// nil when none does. What is no JSON is left to the route to refuse.
func overfull(body []byte) *problem.Problem {
	type level struct {
		name string
		n    int
		list bool
		key  bool // the next token of an object is a key
	}
	var levels []level
	total := 0
	at := func() string {
		names := []string{}
		for _, l := range levels {
			if l.name != "" {
				names = append(names, l.name)
			}
		}
		return strings.Join(names, ".")
	}
	key := ""
	tokens := json.NewDecoder(bytes.NewReader(body))
	for {
		token, err := tokens.Token()
		if err != nil {
			return nil
		}
		delim, isDelim := token.(json.Delim)
		if isDelim && (delim == ']' || delim == '}') {
			levels = levels[:len(levels)-1]
			continue
		}
		if len(levels) > 0 {
			top := &levels[len(levels)-1]
			if top.key = !top.list && !top.key; top.key {
				key, _ = token.(string)
			} else {
				top.n++
				total++
			}
			if top.n > mostInOne || total > mostInAll {
				return problem.Invalid(at(), "there are more than %d here, which nobody can have meant", min(top.n-1, mostInOne))
			}
		}
		if isDelim {
			name := key
			if len(levels) > 0 && levels[len(levels)-1].list {
				name = fmt.Sprint(levels[len(levels)-1].n - 1)
			}
			levels, key = append(levels, level{name: name, list: delim == '['}), ""
		}
	}
}
