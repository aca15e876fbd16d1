package main

import (
	"cmp"
	"errors"
	"flag"
	"fmt"
	"io"

	"tidykiln/core/measure"
)

// numbers are flags that read numbers as they are typed everywhere else. fault is
// what was no number.
type numbers struct {
	*flag.FlagSet
	fault error
}

func newNumbers(command string) *numbers {
	n := &numbers{FlagSet: flag.NewFlagSet(command, flag.ContinueOnError)}
	n.SetOutput(io.Discard)
	return n
}

func (n *numbers) number(name, is string, read func(text string) error) {
	n.Func(name, "", func(text string) error {
		err := read(text)
		if err != nil {
			n.fault = fmt.Errorf("%s: %q is not %s", name, text, is)
		}
		return err
	})
}

func (n *numbers) whole(name string, into **int) {
	n.number(name, "a whole number", func(text string) error {
		read, err := measure.Counted(text)
		if err == nil && !(read.IsInteger() && read.BigInt().IsInt64()) {
			err = errors.New("no whole number")
		}
		v := int(read.IntPart())
		*into = &v
		return err
	})
}

func (n *numbers) decimal(name string, into **float64) {
	n.number(name, "a number", func(text string) error {
		read, err := measure.Number(text)
		v := read.InexactFloat64()
		*into = &v
		return err
	})
}

// read takes the flags; give says which there are, for whoever gave something else.
func (n *numbers) read(args []string, give string) error {
	if err := n.Parse(args); err != nil {
		return cmp.Or(n.fault, err)
	}
	if n.NArg() > 0 {
		return fmt.Errorf("%s: give %s", n.Arg(0), give)
	}
	return nil
}
