package main

import (
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"os"
	"strings"
)

// answer reads a problem from a file, or from standard input for "-", and
// prints what solve makes of it.
func answer[P, A any](args []string, solve func(P) (A, error)) error {
	if len(args) != 1 {
		return badInput{errors.New("name one file, or - for standard input")}
	}
	text, err := readInput(args[0])
	if err != nil {
		return badInput{err}
	}
	var problem P
	if err := decodeStrictly(text, &problem); err != nil {
		return badInput{err}
	}
	solved, err := solve(problem)
	if err != nil {
		return badInput{err}
	}
	out, err := json.MarshalIndent(solved, "", " ")
	if err != nil {
		return err
	}
	_, err = fmt.Println(string(out))
	return err
}

func readInput(name string) ([]byte, error) {
	if name == "-" {
		return io.ReadAll(os.Stdin)
	}
	return os.ReadFile(name)
}

// decodeStrictly reads one JSON value and refuses unknown fields and anything after it.
func decodeStrictly(text []byte, into any) error {
	d := json.NewDecoder(strings.NewReader(string(text)))
	d.DisallowUnknownFields()
	if err := d.Decode(into); err != nil {
		return inPlainWords(err)
	}
	if _, err := d.Token(); !errors.Is(err, io.EOF) {
		return errors.New("there is something after the end of the problem")
	}
	return nil
}

func inPlainWords(err error) error {
	var wrongType *json.UnmarshalTypeError
	if errors.As(err, &wrongType) {
		return fmt.Errorf("%s: must be a %s, not a %s", wrongType.Field, kindName(wrongType.Type.Kind().String()), wrongType.Value)
	}
	if name, ok := strings.CutPrefix(err.Error(), "json: unknown field "); ok {
		return fmt.Errorf("%s: is not a field known here", strings.Trim(name, `"`))
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
