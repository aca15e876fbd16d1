package server

import (
	"database/sql/driver"
	"errors"
	"log/slog"
	"net"
	"net/http"
	"strings"

	"github.com/danielgtaylor/huma/v2"
	"github.com/danielgtaylor/huma/v2/adapters/humagin"
	"github.com/go-sql-driver/mysql"

	"tidykiln/internal/problem"
)

const (
	unexpected  = "Something went wrong here. It has been noted, and nothing was saved by halves."
	unreachable = "The database is not reached just now. Nothing was saved; try again in a moment."
)

// failure turns whatever went wrong into a problem: what the router refuses
// with its fields named, and what was not expected logged and not told.
func failure(ctx huma.Context, status int, message string, errs ...error) huma.StatusError {
	p := &problem.Problem{Title: http.StatusText(status), Status: status, Detail: message}
	if status < http.StatusInternalServerError {
		for _, err := range errs {
			p.Errors = append(p.Errors, field(err))
		}
		if len(p.Errors) > 0 {
			p.Title, p.Detail = "Please check what was entered", p.Errors[0].Message
		}
		return p
	}
	p.Detail = unexpected
	for _, err := range errs {
		if databaseGone(err) {
			p.Status, p.Title, p.Detail = http.StatusServiceUnavailable, http.StatusText(http.StatusServiceUnavailable), unreachable
		}
		slog.Error("failed", "id", idOf(ctx), "what", err)
	}
	return p
}

func idOf(ctx huma.Context) string {
	if ctx == nil {
		return ""
	}
	return humagin.Unwrap(ctx).GetString(requestIDKey)
}

func databaseGone(err error) bool {
	var unreached *net.OpError
	return errors.Is(err, driver.ErrBadConn) || errors.Is(err, mysql.ErrInvalidConn) || errors.As(err, &unreached)
}

func field(err error) problem.Field {
	var detail *huma.ErrorDetail
	if !errors.As(err, &detail) {
		return problem.Field{Location: "body", Message: err.Error()}
	}
	if name, missing := strings.CutPrefix(detail.Message, "expected required property "); missing {
		return problem.Field{Location: detail.Location + "." + strings.TrimSuffix(name, " to be present"), Message: "this is missing"}
	}
	return problem.Field{Location: detail.Location, Message: plain(detail.Message)}
}

// plain puts the validator's messages into the words of the pages.
func plain(message string) string {
	for _, said := range [][2]string{
		{"expected length >= 1", "this cannot be empty"},
		{"expected array length >= 1", "at least one is needed"},
		{"expected string to be RFC 3339 date", "this is not a date"},
		{"expected string to be be ", "this must be "},
		{"expected string to match pattern", "this must be of the form"},
		{"expected number >= ", "at least "},
		{"expected number <= ", "at most "},
		{"expected length <= ", "at most this many characters: "},
		{"expected ", "this must be "},
	} {
		if rest, ok := strings.CutPrefix(message, said[0]); ok {
			return said[1] + rest
		}
	}
	return message
}
