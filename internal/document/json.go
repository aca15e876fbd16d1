// Package document reads and writes the files that people take in and out.
package document

import (
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"strings"

	"tidykiln/core/fault"
)

// DecodeJSON reads one JSON value and refuses unknown fields and anything after
// it, with an error that names the field at fault.
func DecodeJSON(text []byte, into any) error {
	d := json.NewDecoder(strings.NewReader(string(text)))
	d.DisallowUnknownFields()
	if err := d.Decode(into); err != nil {
		return jsonFault(text, err)
	}
	if _, err := d.Token(); !errors.Is(err, io.EOF) {
		return errors.New("there is something after its end")
	}
	return nil
}

// jsonFault says in plain words why text could not be read as JSON: with the
// field at fault, or with the line at which it stops making sense.
func jsonFault(text []byte, err error) error {
	var wrongType *json.UnmarshalTypeError
	var senseless *json.SyntaxError
	switch {
	case errors.As(err, &wrongType):
		return fault.At(wrongType.Field, "must be a %s, not a %s", kindName(wrongType.Type.Kind().String()), wrongType.Value)
	case errors.As(err, &senseless):
		return fmt.Errorf("this is not readable as JSON from line %d on", 1+strings.Count(string(text[:min(len(text), int(senseless.Offset))]), "\n"))
	case errors.Is(err, io.EOF), errors.Is(err, io.ErrUnexpectedEOF):
		return errors.New("this is not readable as JSON: it ends before it is whole")
	}
	if name, ok := strings.CutPrefix(err.Error(), "json: unknown field "); ok {
		return fault.At(strings.Trim(name, `"`), "is not a field known here")
	}
	return fmt.Errorf("this is not readable as JSON: %w", err)
}

func kindName(kind string) string {
	switch {
	case strings.HasPrefix(kind, "int"), strings.HasPrefix(kind, "uint"):
		return "whole number"
	case strings.HasPrefix(kind, "float"):
		return "number"
	case kind == "slice", kind == "array":
		return "list"
	case kind == "map", kind == "struct", kind == "ptr":
		return "group of fields"
	}
	return kind
}
