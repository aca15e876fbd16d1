package server

import (
	"context"
	"crypto/rand"
	"encoding/hex"
	"errors"
	"fmt"
	"log/slog"
	"net"
	"net/http"
	"net/netip"
	"net/url"
	"runtime/debug"
	"slices"
	"strconv"
	"strings"
	"time"

	"github.com/danielgtaylor/huma/v2"
	"github.com/gin-gonic/gin"

	"tidykiln/internal/problem"
)

const requestIDKey = "requestID"

// requestID names each request, in the log and in the answer.
func requestID(c *gin.Context) {
	id := make([]byte, 8)
	_, _ = rand.Read(id) // never fails, by its contract
	c.Set(requestIDKey, hex.EncodeToString(id))
	c.Header("X-Request-Id", c.GetString(requestIDKey))
	c.Next()
}

// logged writes a line a request, without query or body: those may name people.
func logged(c *gin.Context) {
	start := time.Now()
	c.Next()
	level := slog.LevelDebug
	gone := errors.Is(c.Request.Context().Err(), context.Canceled) // whoever asked has turned the page
	if c.Writer.Status() >= http.StatusInternalServerError && !gone {
		level = slog.LevelError
	}
	slog.Log(c.Request.Context(), level, "request", "id", c.GetString(requestIDKey), "method", c.Request.Method, "route", c.FullPath(),
		"status", c.Writer.Status(), "ms", time.Since(start).Milliseconds())
}

func recovered(c *gin.Context) {
	defer func() {
		if r := recover(); r != nil {
			slog.Error("panic", "id", c.GetString(requestIDKey), "what", fmt.Sprint(r), "stack", string(debug.Stack()))
			refuse(c, http.StatusInternalServerError, unexpected)
		}
	}()
	c.Next()
}

// dated tells in each answer what time it was here when it was asked for: the
// pages count rests by it, since a phone's own clock may be wrong.
func dated(now func() time.Time) gin.HandlerFunc {
	return func(c *gin.Context) {
		c.Header("Date", now().UTC().Format(http.TimeFormat))
		c.Next()
	}
}

// headers keep the pages from loading or being loaded by anything else. That a browser
// never comes without TLS again is asked for with a certificate of the owner's only: one
// made here is lost with the studio's folder, and would lock its phones out.
func (o Options) headers(c *gin.Context) {
	if c.Request.TLS != nil && o.Certificate != nil && !o.Certificate.Own() {
		c.Header("Strict-Transport-Security", "max-age=31536000")
	}
	c.Header("Content-Security-Policy", "default-src 'none'; script-src 'self'; style-src 'self'; font-src 'self'; img-src 'self' data:; connect-src 'self'; manifest-src 'self'; base-uri 'none'; form-action 'self'; frame-ancestors 'none'")
	c.Header("X-Content-Type-Options", "nosniff")
	c.Header("Referrer-Policy", "no-referrer")
	c.Header("Cross-Origin-Opener-Policy", "same-origin")
	c.Header("Cross-Origin-Resource-Policy", "same-origin")
	c.Next()
}

// guarded refuses requests that name another host, as a page of a rebound name
// would, and writes that come from another page's origin.
func (o Options) guarded(c *gin.Context) {
	if !o.answersTo(c.Request) {
		refuse(c, http.StatusMisdirectedRequest, "This server answers only under its own address.")
		return
	}
	if changes := c.Request.Method != http.MethodGet && c.Request.Method != http.MethodHead; changes && !fromOurPage(c.Request) {
		refuse(c, http.StatusForbidden, "Changes are taken only from Tidy Kiln's own pages.")
		return
	}
	c.Next()
}

// answersTo tells whether the host that a request names is this studio: on the machine
// itself its loopback names, beyond it the names that the certificate is for.
func (o Options) answersTo(r *http.Request) bool {
	host := strings.ToLower(r.Host)
	if r.TLS != nil && o.Address.Port() == 443 {
		host += ":443"
	}
	name, port, err := net.SplitHostPort(host)
	if err != nil || port != strconv.Itoa(int(o.Address.Port())) {
		return false
	}
	ip, noIP := netip.ParseAddr(name)
	if r.TLS == nil {
		return name == "localhost" || noIP == nil && ip.IsLoopback()
	}
	if o.Certificate == nil {
		return false
	}
	names := o.Certificate.Names()
	return slices.Contains(names.Hosts, name) || noIP == nil && slices.Contains(names.Addresses, ip.Unmap())
}

// fromOurPage tells whether a change comes from a page of this address: what
// the browser says of its site holds whatever else is said, there is at most
// one origin, and its scheme counts as well as its host. Programs say neither.
func fromOurPage(r *http.Request) bool {
	if slices.Contains(r.Header.Values("Sec-Fetch-Site"), "cross-site") {
		return false
	}
	origins := r.Header.Values("Origin")
	if len(origins) == 0 {
		return true
	}
	u, err := url.Parse(origins[0])
	return len(origins) == 1 && err == nil && u.Scheme == scheme(r) && u.Host == r.Host
}

// refuse ends a request outside the typed routes with a problem.
func refuse(c *gin.Context, status int, detail string) {
	answer(c, &problem.Problem{Title: http.StatusText(status), Status: status, Detail: detail})
}

// fail ends a request outside the typed routes with what went wrong.
func fail(c *gin.Context, err error) {
	answer(c, failure(nil, http.StatusInternalServerError, unexpected, err))
}

func answer(c *gin.Context, p huma.StatusError) {
	c.Header("Content-Type", "application/problem+json")
	c.AbortWithStatusJSON(p.GetStatus(), p)
}
