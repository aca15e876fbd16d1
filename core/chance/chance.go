// Package chance plays a plan many times as things really go: steps take longer
// or shorter than planned, removal takes a round more, pieces are spoiled and
// made again, people fall ill. All times are minutes after a common beginning.
package chance

// Studio is what is played: hands, places, and jobs with what is left of them.
type Studio struct {
	Hands  []Hand
	Places []Place
	Jobs   []Job
	// Ill is the chance that somebody does not come on a day, from 0 to 1.
	Ill float64
}

// Hand is somebody with their open hours, in order.
type Hand struct {
	Open []Stretch
	// Slow is how long work takes them, of what is planned; 0 counts as 1.
	Slow float64
}

// Stretch is open hours of one day.
type Stretch struct {
	From, To int
	// Day numbers the days; who is ill is so for all stretches of a day.
	Day int
}

// Job is a lot with the steps still to be done.
type Job struct {
	Steps []Step
	// Rested is the minute before which the first step does not begin, and Held
	// what it holds until then.
	Rested int
	Held   []Use
	// Pieces go through it; Need of them must come out good, the others are spare.
	Pieces, Need int
	// Remake is how pieces that are missing are made again, from their blanks on.
	Remake []Step
}

// Step is work by hand and the rest after it.
type Step struct {
	// Setup and Each are hands-on minutes, once and for each piece.
	Setup, Each float64
	// Not are the hands, by their place in the studio, that leave it to others.
	Not []int
	// Keeps is what each piece takes from the beginning until it has rested and the
	// next step begins, and Uses what the step takes while it is done.
	Keeps, Uses []Use
	// Inside says that it is done while the step before rests.
	Inside bool
	// Planned is when the plan has it: what comes first there is done first.
	Planned int
	// NotBefore holds it back until a minute.
	NotBefore int
	// Pace is how long it really takes, beside what is planned.
	Pace Pace
	// Rest is the wait after it.
	Rest int
	// Yield is the share of pieces that survive it; 0 means all.
	Yield float64
	// Again is the chance that the lot goes through it once more, from so many
	// steps Back on, after its rest.
	Again float64
	Back  int
}

// Pace is the natural logarithm of what a step really took over what was
// planned: its mean and its standard deviation.
type Pace struct{ Mean, Sd float64 }

// mostRemade is how often pieces are made again in one playing, one from the other.
const mostRemade = 3

// takes is how long planned minutes are by a hand, at least one.
func (h *Hand) takes(minutes float64) float64 {
	if h.Slow > 0 {
		minutes *= h.Slow
	}
	return max(1, minutes)
}
