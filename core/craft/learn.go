package craft

import "math"

// Seen is what the bench has seen of a step: how many set-ups it took (a lot's
// own, or its part of a sitting's), over how many pieces, hands-on minutes in
// all, and how many pieces came through good.
type Seen struct {
	Setups  float64
	Pieces  int
	Minutes float64
	Through int
}

// Lesson is what a step's figures would be by what was seen; nil where the
// recipe's are near enough, or too little was seen.
type Lesson struct {
	MinutesPerPiece *float64
	Yield           *float64
}

// From so many pieces on is what was seen believed, and from such a difference on is it told.
const (
	enoughForMinutes = 12
	enoughForYield   = 20
	minutesOff       = 0.1
	// A timer is tapped a little early or late: so many minutes a sitting say nothing.
	tapMinutes = 2
	yieldOff   = 0.02
)

// Learn sets what was seen of a step against its figures. The set-up stays as
// it is: what more or less was worked is the pieces'. A yield is the mean of
// what it may be by what was seen (Jeffreys' prior), to a thousandth.
func (s Step) Learn(seen Seen) (l Lesson) {
	pieces := float64(seen.Pieces)
	planned := seen.Setups*s.SetupMinutes + pieces*s.MinutesPerPiece
	if seen.Pieces >= enoughForMinutes && math.Abs(seen.Minutes-planned) >= math.Max(minutesOff*planned, tapMinutes*seen.Setups) {
		each := math.Max(0.1, math.Round((seen.Minutes-seen.Setups*s.SetupMinutes)/pieces*10)/10)
		if each != s.MinutesPerPiece {
			l.MinutesPerPiece = &each
		}
	}
	if seen.Pieces >= enoughForYield {
		yield := math.Round((float64(seen.Through)+0.5)/(pieces+1)*1000) / 1000
		if math.Abs(yield-s.Yield) >= yieldOff {
			l.Yield = &yield
		}
	}
	return l
}
