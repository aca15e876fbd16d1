// Package fault holds what is wrong with what somebody put in, as a value: the
// path of the field and a message. A structure that holds another says where,
// and the fault goes on with the longer path; nothing is read out of its text.
package fault

import (
	"errors"
	"fmt"
	"strings"
)

// Fault is what is wrong with one field.
type Fault struct {
	// Path leads to the field, such as "steps[2].rest.usual"; empty for the whole.
	Path string
	// Message says what is wrong, to go beside the field.
	Message string
}

// Error is the fault as a command tells it: the path, a colon, the message.
func (f *Fault) Error() string {
	if f.Path == "" {
		return f.Message
	}
	return f.Path + ": " + f.Message
}

// At says what is wrong with the field at a path.
func At(path, format string, args ...any) error {
	return &Fault{path, fmt.Sprintf(format, args...)}
}

// Under is an error of a structure that stands at a path within another; nil
// stays nil, and what is no fault becomes one of the whole structure.
func Under(path string, err error) error {
	if err == nil {
		return nil
	}
	f := Of(err)
	return &Fault{Join(path, f.Path), f.Message}
}

// Of is the fault that an error is, or its text as a fault of the whole.
func Of(err error) *Fault {
	var f *Fault
	if errors.As(err, &f) {
		return f
	}
	return &Fault{Message: err.Error()}
}

// Join is the path of what stands at inner within outer.
func Join(outer, inner string) string {
	if outer == "" || inner == "" || strings.HasPrefix(inner, "[") {
		return outer + inner
	}
	return outer + "." + inner
}

// Renamed is an error with other names for some paths, as a form has them that
// asks for a structure in its own way.
func Renamed(err error, names map[string]string) error {
	if err == nil {
		return nil
	}
	f := Of(err)
	if name, is := names[f.Path]; is {
		return &Fault{name, f.Message}
	}
	return f
}
