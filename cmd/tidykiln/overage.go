package main

import (
	"cmp"
	"errors"
	"flag"
	"fmt"
	"io"

	"tidykiln/core/measure"

	"tidykiln/core/yield"
)

// overage reads a yield problem from flags and prints how many pieces to start.
func overage(args []string) error {
	p, err := overageProblem(args)
	if err != nil {
		return badInput{err}
	}
	return printed(yield.Compute(p))
}

func overageProblem(args []string) (p yield.Problem, err error) {
	flags := flag.NewFlagSet("overage", flag.ContinueOnError)
	flags.SetOutput(io.Discard)
	var fault error
	number := func(name, is string, read func(text string) error) {
		flags.Func(name, "", func(text string) error {
			err := read(text)
			if err != nil {
				fault = fmt.Errorf("%s: %q is not %s", name, text, is)
			}
			return err
		})
	}
	whole := func(name string, into **int) {
		number(name, "a whole number", func(text string) error {
			read, err := measure.Counted(text)
			if err == nil && !(read.IsInteger() && read.BigInt().IsInt64()) {
				err = errors.New("no whole number")
			}
			n := int(read.IntPart())
			*into = &n
			return err
		})
	}
	decimal := func(name string, into **float64) {
		number(name, "a number", func(text string) error {
			read, err := measure.Number(text)
			v := read.InexactFloat64()
			*into = &v
			return err
		})
	}
	var good *int
	var confidence *float64
	whole("good", &good)
	whole("made", &p.Made)
	whole("spoiled", &p.Spoiled)
	decimal("confidence", &confidence)
	decimal("yield", &p.Yield)
	flags.BoolVar(&p.Distinct, "distinct", false, "")
	err = flags.Parse(args)
	switch {
	case err != nil:
		return p, cmp.Or(fault, err)
	case flags.NArg() > 0:
		return p, fmt.Errorf("%s: give --good, --confidence, and --yield or --made and --spoiled", flags.Arg(0))
	case good == nil:
		return p, errors.New("good: give the number of good pieces wanted")
	case confidence == nil:
		return p, errors.New("confidence: give the chance wanted, over 0 and under 1")
	}
	p.Good, p.Confidence = *good, *confidence
	return p, nil
}
