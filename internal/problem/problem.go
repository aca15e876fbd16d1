// Package problem holds the refusals that use cases answer with, in the form
// of RFC 9457: a sentence to act on, and the field it belongs to.
package problem

import (
	"errors"
	"fmt"
	"net/http"
	"slices"
	"strings"

	"tidykiln/core/fault"

	"gorm.io/gorm"
)

// Types of problems that a page treats in a way of its own.
const (
	// Stale: somebody else has changed the thing since it was read.
	Stale = "/problems/stale"
	// UnderFloor: a rest is not over; it can be cut short at accepted risk.
	UnderFloor = "/problems/rest-under-floor"
	// Short: the stores hold too little; it can be put right by a count on the way.
	Short = "/problems/short"
	// Risk: something speaks against beginning now; it can be done at accepted risk.
	Risk = "/problems/risk"
	// BreaksPromises: it would move what is promised to others; it can be done once that is agreed to.
	BreaksPromises = "/problems/breaks-promises"
	// Long: a step would have lasted for days; it can be entered all the same once that is confirmed.
	Long = "/problems/long-step"
	// Stopped: a check stops the product, and nobody has overruled it.
	Stopped = "/problems/stopped"
	// NotPrintable: something is not in order with what is to be printed.
	NotPrintable = "/problems/not-printable"
	// NoPicture: pieces have no picture yet.
	NoPicture = "/problems/no-picture"
	// Moved: the thing is no longer in the state the request speaks of.
	Moved = "/problems/moved-on"
	// Closed: the order or the batch is closed, and nothing about it changes any more.
	Closed = "/problems/closed"
	// Unfinished: what is to be handed over is not all finished.
	Unfinished = "/problems/unfinished"
	// InHand: somebody has it in hand.
	InHand = "/problems/in-hand"
	// StepDone: the step in hand is done already.
	StepDone = "/problems/step-done"
	// TakenBack: it has been taken back already, or there is nothing to take back.
	TakenBack = "/problems/taken-back"
	// Elsewhere: it is taken back with what brought it, or after what stands on it.
	Elsewhere = "/problems/taken-back-elsewhere"
	// Used: some of what it brought has gone on since.
	Used = "/problems/used-since"
	// InUse: something still holds to it, so it stays.
	InUse = "/problems/in-use"
	// BuiltIn: it comes with the studio and stays.
	BuiltIn = "/problems/built-in"
	// Uncounted: the stock of this material is not kept count of.
	Uncounted = "/problems/not-counted"
	// Unfit: this is not for a thing of that kind or in that state.
	Unfit = "/problems/not-for-this"
	// SignIn: whoever asks has not said who they are, or their session has ended.
	SignIn = "/problems/sign-in"
	// NotYours: the role of whoever asks does not cover it.
	NotYours = "/problems/not-yours"
	// Wrong: what should show who somebody is does not.
	Wrong = "/problems/wrong"
	// Locked: too many wrong tries; it opens again by itself.
	Locked = "/problems/locked"
	// Away, Slow and Full: the database is not reached, takes too long, or has no room.
	Away = "/problems/database-away"
	Slow = "/problems/database-slow"
	Full = "/problems/disk-full"
	// Planning: the plan takes too long to make.
	Planning = "/problems/planning-slow"
	// Done: a request with this key was carried out, with other content.
	Done = "/problems/already-done"
)

// Problem is a refusal. It is written as application/problem+json.
type Problem struct {
	Type   string  `json:"type,omitempty"`
	Title  string  `json:"title"`
	Status int     `json:"status"`
	Detail string  `json:"detail"`
	Errors []Field `json:"errors,omitempty"`
}

// Field names what is wrong with one field of the body, by its path.
type Field struct {
	Location string `json:"location"`
	Message  string `json:"message"`
	// Value is what to send back where the refusal can be agreed to; nil elsewhere.
	Value any `json:"value,omitempty"`
}

func (p *Problem) Error() string { return p.Detail }

// GetStatus makes the router answer with the problem's own status.
func (p *Problem) GetStatus() int { return p.Status }

// ContentType is that of RFC 9457.
func (p *Problem) ContentType(string) string { return "application/problem+json" }

// Invalid says what is wrong with one field of the body.
func Invalid(field, format string, args ...any) *Problem {
	message := fmt.Sprintf(format, args...)
	return &Problem{Title: "Please check what was entered", Status: http.StatusUnprocessableEntity, Detail: message,
		Errors: []Field{{Location: fault.Join("body", field), Message: message}}}
}

// Faulty is the fault of a structure that stands at a path of the body.
func Faulty(path string, err error) *Problem {
	f := fault.Of(fault.Under(path, err))
	return Invalid(f.Path, "%s", f.Message)
}

// Beneath puts the fields that a refusal names beneath one of the body's; other
// errors it leaves alone.
func Beneath(field string, err error) error {
	var p *Problem
	if !errors.As(err, &p) || len(p.Errors) == 0 {
		return err
	}
	under := *p
	under.Errors = slices.Clone(p.Errors)
	for i := range under.Errors {
		under.Errors[i].Location = fault.Join(fault.Join("body", field), strings.TrimPrefix(strings.TrimPrefix(under.Errors[i].Location, "body"), "."))
	}
	return &under
}

// NotFound says that there is no such thing.
func NotFound(what string) *Problem {
	return &Problem{Title: "Not found", Status: http.StatusNotFound, Detail: "There is no such " + what + "."}
}

// IfStale refuses what was changed since it was read; nil while it was not. The
// sentence says what it is now.
func IfStale(read, now int, format string, args ...any) error {
	if read == now {
		return nil
	}
	return Conflict(Stale, format, args...)
}

// Conflict refuses for a reason of the given type.
func Conflict(kind, format string, args ...any) *Problem {
	return &Problem{Type: kind, Title: "Not possible now", Status: http.StatusConflict, Detail: fmt.Sprintf(format, args...)}
}

// Unknown is the refusal of whoever could not show who they are.
func Unknown(kind, format string, args ...any) *Problem {
	return &Problem{Type: kind, Title: "Sign in", Status: http.StatusUnauthorized, Detail: fmt.Sprintf(format, args...)}
}

// IsNotFound tells whether an error is that something is not there.
func IsNotFound(err error) bool {
	var p *Problem
	return errors.As(err, &p) && p.Status == http.StatusNotFound
}

// OrNotFound turns a missing row into NotFound and leaves other errors alone.
func OrNotFound(err error, what string) error {
	if errors.Is(err, gorm.ErrRecordNotFound) {
		return NotFound(what)
	}
	return err
}

// OrInvalid turns a NotFound into an Invalid of the field that named what is
// not there, and leaves other errors alone.
func OrInvalid(err error, field, format string, args ...any) error {
	var p *Problem
	if errors.As(err, &p) && p.Status == http.StatusNotFound {
		return Invalid(field, format, args...)
	}
	return err
}
