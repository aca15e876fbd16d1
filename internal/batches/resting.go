package batches

import (
	"fmt"
	"time"

	"gorm.io/gorm"

	"tidykiln/core/craft"
	"tidykiln/core/measure"
	"tidykiln/internal/workshop"
)

// rackFull tells how many places are missing for a step whose pieces rest on a
// rack or the turner after it, beside what rests there and what is in hand for it.
func (a *Area) rackFull(tx *gorm.DB, run Run, l Lot, b Batch) (string, error) {
	rest := b.Recipe.Steps[run.Step].Rest
	if late := a.now().Sub(run.StartedAt) > 30*time.Minute; late || rest == nil || rest.Places(1)+rest.Spindles(1) == 0 {
		return "", nil
	}
	w, err := workshop.Load(tx)
	if err != nil {
		return "", err
	}
	bench, err := LoadBench(tx, a.now())
	if err != nil {
		return "", err
	}
	mine := bench.restingAfter(l, b, run.Step)
	for _, place := range restingPlaces(w) {
		need := place.takenBy(mine)
		taken := 0
		for _, other := range bench.Lots {
			if other.ID != l.ID && other.ClosedAt == nil {
				taken += place.takenBy(bench.resting(other, bench.Batches[other.BatchID]))
			}
		}
		if short := taken + need - place.has; need > 0 && short > 0 {
			return fmt.Sprintf("%s has %d of its %s free, and this lot will rest on %d: %s too few. What stands over is in the way of everything else until it is cleared.",
				place.name, max(0, place.has-taken), measure.Count(place.has, place.unit), need, measure.Count(short, place.unit)), nil
		}
	}
	return "", nil
}

// restingPlace is where pieces over a size rest, or the turner.
type restingPlace struct {
	name, unit string
	over       measure.Length
	turner     bool
	has        int
}

// restingPlaces are the studio's: those for all pieces, those for larger ones, and the turner.
func restingPlaces(w workshop.Workshop) (places []restingPlace) {
	for _, c := range w.RackClasses() {
		name := "The rack"
		if c.Over > 0 {
			name += " for pieces over " + c.Over.Format(w.Units)
		}
		places = append(places, restingPlace{name: name, unit: "place", over: c.Over, has: c.Places})
	}
	return append(places, restingPlace{name: "The turner", unit: "spindle", turner: true, has: w.CountOf(craft.Turner)})
}

// resting is what a lot takes while it rests.
type resting struct {
	places, spindles int
	longest          measure.Length
}

func (p restingPlace) takenBy(r resting) int {
	switch {
	case p.turner:
		return r.spindles
	case p.over == 0 || r.longest > p.over:
		return r.places
	}
	return 0
}

// resting is what a lot takes, or will when the step it has in hand is done.
func (b Bench) resting(l Lot, batch Batch) resting {
	run := b.OpenRun(l.ID)
	if run == nil {
		run = b.LastRun(l)
	}
	if run == nil {
		return resting{}
	}
	return b.restingAfter(l, batch, run.Step)
}

// restingAfter is what a lot takes after a step.
func (b Bench) restingAfter(l Lot, batch Batch, step int) resting {
	rest := batch.Recipe.Steps[step].Rest
	if rest == nil {
		return resting{}
	}
	pieces := len(b.PiecesOf(l.ID))
	return resting{rest.Places(pieces), rest.Spindles(pieces), batch.Blank.Shape.Longest()}
}
