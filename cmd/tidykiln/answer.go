package main

import (
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"os"

	"tidykiln/internal/document"
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
	if err := document.DecodeJSON(text, &problem); err != nil {
		return badInput{err}
	}
	return printed(solve(problem))
}

// printed prints what was worked out, or says what was wrong with what was asked.
func printed[A any](solved A, err error) error {
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
