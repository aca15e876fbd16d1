// Package plan places the steps of batches in time: hands only inside opening
// hours, rests through nights, no resource ever overfull. Question and answer
// are the documented formats tidykiln/plan-problem@1 and tidykiln/plan@1
// (docs/calculations.md §3). All durations are minutes.
package plan

import "time"

// Formats of the question and of the answer.
const (
	ProblemFormat = "tidykiln/plan-problem@1"
	AnswerFormat  = "tidykiln/plan@1"
)

// Problem is everything a plan is made from.
type Problem struct {
	Format string `json:"format"`
	// From is the moment planning starts; nothing unpinned starts earlier.
	From time.Time `json:"from"`
	// BudgetMs bounds the search by time, Iterations by count.
	BudgetMs   *int `json:"budgetMs,omitempty"`
	Iterations *int `json:"iterations,omitempty"`
	// JoinWithin is how many minutes after like work a step may still join it
	// without a set-up of its own; nil means 15.
	JoinWithin *int       `json:"joinWithin,omitempty"`
	Resources  []Resource `json:"resources"`
	Jobs       []Job      `json:"jobs"`
}

// Resource is something steps and rests hold: a person, a press, a rack.
type Resource struct {
	ID       string `json:"id"`
	Capacity int    `json:"capacity"`
	// Open holds the intervals in which steps may use it; nil means always, empty never.
	Open [][2]time.Time `json:"open,omitempty"`
}

// Job is one lot going through its recipe.
type Job struct {
	ID      string     `json:"id"`
	Release *time.Time `json:"release,omitempty"`
	Due     *time.Time `json:"due,omitempty"`
	// Weight multiplies lateness; nil means 1.
	Weight *float64 `json:"weight,omitempty"`
	Steps  []Step   `json:"steps"`
}

// Step is hands-on work done in one go.
type Step struct {
	ID      string         `json:"id"`
	Minutes int            `json:"minutes"`
	Uses    map[string]int `json:"uses,omitempty"`
	// OneOf names resources of which the step takes one unit of exactly one.
	OneOf []string `json:"oneOf,omitempty"`
	// MinutesBy are the Minutes, or those left, when one of OneOf does it who is
	// quicker or slower. It is not part of the file format.
	MinutesBy map[string]int `json:"-"`
	// Setup is paid beside Minutes, but where the step joins like work.
	Setup *Setup `json:"setup,omitempty"`
	// Apart names resources that must be idle while the step runs and so many
	// minutes before and after. It is not part of the file format.
	Apart map[string]int `json:"-"`
	// NotBefore holds the step back until a moment; nil: nothing does. What
	// comes before it in its job goes on meanwhile. It is not part of the file format.
	NotBefore *time.Time `json:"-"`
	// Inside names an earlier step within whose rest this one lies.
	Inside string `json:"inside,omitempty"`
	Rest   *Rest  `json:"rest,omitempty"`
	// StartedAt and EndedAt pin a step that is under way or done; By is who did or does it.
	StartedAt *time.Time `json:"startedAt,omitempty"`
	EndedAt   *time.Time `json:"endedAt,omitempty"`
	By        string     `json:"by,omitempty"`
	// MinutesLeft tells that a started step was put down with so much of it
	// left, which is planned like a step of that length.
	MinutesLeft *int `json:"minutesLeft,omitempty"`
}

// Setup is getting a kind of work out and putting it away, paid once a sitting.
type Setup struct {
	Kin     string `json:"kin"`
	Minutes int    `json:"minutes"`
	// Hand names the one of the step's Uses whose sitting counts; empty where it
	// is taken by OneOf, or is the one of them that has hours and capacity 1.
	Hand string `json:"hand,omitempty"`
}

// usualJoinWithin is how many minutes like work may lie apart and still be one sitting.
const usualJoinWithin = 15

// putDown tells that the step was begun and nobody has it in hand.
func (s Step) putDown() bool { return s.MinutesLeft != nil }

// lengthBy is how long the work takes, or what is left of it, when one of OneOf does it.
func (s Step) lengthBy(id string) moment {
	if minutes, own := s.MinutesBy[id]; own {
		return seconds(minutes)
	}
	if s.putDown() {
		return seconds(*s.MinutesLeft)
	}
	return seconds(s.Minutes)
}

// Rest is the wait after a step: Min is never undercut, Max (nil: none) never
// passed, Ideal (nil: Min) kept when no promise is at risk.
type Rest struct {
	Min   int            `json:"min"`
	Ideal *int           `json:"ideal,omitempty"`
	Max   *int           `json:"max,omitempty"`
	Uses  map[string]int `json:"uses,omitempty"`
}

func (r *Rest) ideal() int {
	if r == nil {
		return 0
	}
	if r.Ideal == nil {
		return r.Min
	}
	return *r.Ideal
}

func (r *Rest) uses() map[string]int {
	if r == nil {
		return nil
	}
	return r.Uses
}

// Answer is a plan.
type Answer struct {
	Format    string        `json:"format"`
	Steps     []PlannedStep `json:"steps"`
	Jobs      []PlannedJob  `json:"jobs"`
	Objective Objective     `json:"objective"`
	Unplanned []Unplanned   `json:"unplanned"`
	// Warnings list what pinned steps break.
	Warnings []string `json:"warnings,omitempty"`
	// Overfull lists what pinned steps and rests fill beyond its capacity.
	Overfull []Overfull `json:"-"`
	// Dropped names the jobs in a rest whose ceiling cannot be met any more.
	Dropped []string `json:"-"`
}

// Overfull is a resource of which the jobs under way hold more than there is:
// By how much, until when (nil: no end is planned).
type Overfull struct {
	Resource string
	By       int
	Until    *time.Time
}

// PlannedStep is a step in its place. Because names what made it start no
// sooner, and Until is when that was over; zero when nothing but the job itself did.
type PlannedStep struct {
	Until time.Time `json:"-"`
	Job   string    `json:"job"`
	Step  string    `json:"step"`
	Start time.Time `json:"start"`
	End   time.Time `json:"end"`
	By    string    `json:"by,omitempty"`
	// Joined marks a step done with the like work before it, without a set-up of its own.
	Joined  bool   `json:"joined,omitempty"`
	Because Reason `json:"because"`
}

// PlannedJob says when a job's last rest is over.
type PlannedJob struct {
	Job         string    `json:"job"`
	Done        time.Time `json:"done"`
	LateMinutes int       `json:"lateMinutes"`
}

// Objective holds the sums by which plans are compared, most important first.
type Objective struct {
	WeightedLateMinutes  float64 `json:"weightedLateMinutes"`
	RestShortfallMinutes int     `json:"restShortfallMinutes"`
	CompletionMinutes    int     `json:"completionMinutes"`
	// SetupMinutes are the set-ups paid; nil where no step has one. Sixty times
	// as much weighs with CompletionMinutes.
	SetupMinutes *int `json:"setupMinutes,omitempty"`
}

// Unplanned is a job that could not be placed, and why.
type Unplanned struct {
	Job    string `json:"job"`
	Reason Reason `json:"reason"`
}
