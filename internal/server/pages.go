package server

import (
	"io/fs"
	"net/http"
	"path"
	"strings"

	"github.com/gin-gonic/gin"
)

// pages serves the built files. Names under assets/ change with their content
// and are kept for a year; every other path is a page, answered by index.html.
func pages(files fs.FS) gin.HandlerFunc {
	return func(c *gin.Context) {
		if c.Request.Method != http.MethodGet && c.Request.Method != http.MethodHead {
			refuse(c, http.StatusNotFound, "There is nothing at this address.")
			return
		}
		name := strings.TrimPrefix(path.Clean(c.Request.URL.Path), "/")
		if strings.HasPrefix(name, "api/") || name == "api" {
			refuse(c, http.StatusNotFound, "There is nothing at this address.")
			return
		}
		if info, err := fs.Stat(files, name); err == nil && !info.IsDir() {
			if strings.HasPrefix(name, "assets/") {
				c.Header("Cache-Control", "public, max-age=31536000, immutable")
			}
			c.FileFromFS(name, http.FS(files))
			return
		}
		if path.Ext(name) != "" {
			refuse(c, http.StatusNotFound, "There is nothing at this address.")
			return
		}
		index, err := fs.ReadFile(files, "index.html")
		if err != nil {
			refuse(c, http.StatusNotFound, "The pages are not built; run make build.")
			return
		}
		c.Header("Cache-Control", "no-cache")
		c.Data(http.StatusOK, "text/html; charset=utf-8", index)
	}
}
