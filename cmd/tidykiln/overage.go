package main

import (
	"errors"

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
	flags := newNumbers("overage")
	var good *int
	var confidence *float64
	flags.whole("good", &good)
	flags.whole("made", &p.Made)
	flags.whole("spoiled", &p.Spoiled)
	flags.decimal("confidence", &confidence)
	flags.decimal("yield", &p.Yield)
	flags.BoolVar(&p.Distinct, "distinct", false, "")
	err = flags.read(args, "--good, --confidence, and --yield or --made and --spoiled")
	switch {
	case err != nil:
		return p, err
	case good == nil:
		return p, errors.New("good: give the number of good pieces wanted")
	case confidence == nil:
		return p, errors.New("confidence: give the chance wanted, over 0 and under 1")
	}
	p.Good, p.Confidence = *good, *confidence
	return p, nil
}
