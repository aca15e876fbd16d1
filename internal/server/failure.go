package server

import (
	"context"
	"errors"
	"fmt"
	"log/slog"
	"net/http"
	"syscall"

	"github.com/danielgtaylor/huma/v2"
	"github.com/danielgtaylor/huma/v2/adapters/humagin"

	"tidykiln/internal/database"
	"tidykiln/internal/planning"
	"tidykiln/internal/problem"
)

// known are causes of failure that are told in words of their own.
var known = []struct {
	is     func(error) bool
	status int
	kind   string
	detail string
}{
	{database.Gone, http.StatusServiceUnavailable, problem.Away, "The database is not reached just now. Nothing was saved by halves; try again in a moment."},
	{database.Slow, http.StatusServiceUnavailable, problem.Slow, "The database takes too long to answer: its disk may be busy. Try again in a moment; the same change is never saved twice."},
	{database.Full, http.StatusInsufficientStorage, problem.Full, "The disk that holds the database is full, so nothing was saved. Make room on it and try again."},
	{func(err error) bool { return errors.Is(err, syscall.ENOSPC) }, http.StatusInsufficientStorage, problem.Full, "The disk that holds the pictures is full, so nothing was saved. Make room on it and try again."},
	{func(err error) bool { return errors.Is(err, context.Canceled) }, http.StatusServiceUnavailable, problem.Away, "The request was given up before it was answered."},
	{func(err error) bool { return errors.Is(err, planning.ErrSlow) }, http.StatusServiceUnavailable, problem.Planning, "The plan takes longer than usual to make, with so much work in it. Nothing is wrong with what you entered; try again in a moment."},
	{func(err error) bool { return errors.Is(err, database.ErrKeyReused) }, http.StatusConflict, problem.Done, "This was saved the first time you sent it, before what you changed since. Look at what is there before you send it again."},
}

// mostFaults is how many faults of one request are told.
const mostFaults = 50

const unexpected = "Something went wrong here. It has been noted, and nothing was saved by halves."

// failure turns whatever went wrong into a problem: what the router refuses
// with its fields named, and what was not expected logged and not told.
func failure(ctx huma.Context, status int, message string, errs ...error) huma.StatusError {
	p := &problem.Problem{Title: http.StatusText(status), Status: status, Detail: message}
	if status < http.StatusInternalServerError {
		for _, err := range errs[:min(len(errs), mostFaults)] {
			p.Errors = append(p.Errors, problem.FieldOf(err))
		}
		if len(p.Errors) > 0 {
			p.Title, p.Detail = "Please check what was entered", p.Errors[0].Message
		}
		if more := len(errs) - mostFaults; more > 0 {
			p.Detail = fmt.Sprintf("%s, and %d more faults like it", p.Detail, more+mostFaults-1)
		}
		return p
	}
	p.Detail = unexpected
	if ended := endOf(ctx); ended != nil {
		errs = append(errs, ended)
	}
	for _, err := range errs {
		for _, k := range known {
			if k.is(err) {
				p.Type, p.Status, p.Title, p.Detail = k.kind, k.status, http.StatusText(k.status), k.detail
			}
		}
		if !errors.Is(err, context.Canceled) && !errors.Is(endOf(ctx), context.Canceled) {
			slog.Error("failed", "id", idOf(ctx), "what", err)
		}
	}
	return p
}

// endOf says how a request ended before its time, if it did: whoever asked has
// gone, or its patience was over. What failed then failed for that.
func endOf(ctx huma.Context) error {
	if ctx == nil {
		return nil
	}
	return ctx.Context().Err()
}

func idOf(ctx huma.Context) string {
	if ctx == nil {
		return ""
	}
	return humagin.Unwrap(ctx).GetString(requestIDKey)
}
