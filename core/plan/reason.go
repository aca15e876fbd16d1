package plan

import "fmt"

// Reason is why a step starts no sooner than it does, or why a job has no
// place. Fields that its kind does not speak of are zero.
type Reason struct {
	Kind Kind
	// Resource is what is closed, full or in use.
	Resource string
	// Step is the step of the job that waits or does not fit, After the one before it.
	Step, After string
	// Job is another job that has the resource until then; empty when several have.
	Job string
	// Minutes are what the step needs in one go, or its ceiling. Units are what
	// it needs of a resource at once.
	Minutes, Units int
	// Most is what there is: minutes in one go, or units at once.
	Most int
}

// Kind tells reasons apart.
type Kind int

// Why a step starts no sooner.
const (
	NoReason      Kind = iota
	Release            // the job's own release, or the beginning of the plan
	EndOfStep          // the step before it ends
	FloorOfRest        // the shortest rest after the step before it
	UsualRest          // the usual rest after it
	WorkInside         // steps that lie inside that rest
	InsideRest         // it lies inside that rest itself
	Ceiling            // a step after it must begin within its ceiling
	MissedCeiling      // the ceiling before it was missed
	Hours              // the hours of the person who does it
	OpeningHours       // the hours of something that it uses
	Busy               // somebody or something of which there is one
	Full               // something of which there are several
	Overfilled         // what the work under way fills beyond what there is
	KeptApart          // spray and heat keep a while apart
	HeldBack           // its NotBefore
	Together           // it is done in one sitting with like work: Job's, of the kin Step
	Better             // nothing holds it: the plan as a whole comes out better so
	PutDown            // it was begun, and waits for hands
	Done               // pinned: it is done
	UnderWay           // pinned: it is in hand
)

// Why a job has no place.
const (
	TooMany        Kind = iota + 100 // it needs more units at once than there are
	TooLong                          // longer in one go than anything is open
	NoHoursLeft                      // no open time is left
	HeldForever                      // what it needs is held with no end known
	RestOverfull                     // its rest needs what is overfull with no end known
	NoRoomToRest                     // its rest finds no room
	LongerThanRest                   // it lies inside the last rest, which is shorter
	NoTimeInside                     // it finds no time inside a rest
	PinnedTooSoon                    // it was begun before the rest before it was over
)

// String is the reason in the short words of the plan's format, by ids.
func (r Reason) String() string {
	switch r.Kind {
	case Release:
		return "release"
	case EndOfStep:
		return "end of " + r.After
	case FloorOfRest:
		return "rest after " + r.After
	case UsualRest:
		return "ideal rest after " + r.After
	case WorkInside:
		return "steps inside the rest after " + r.After
	case InsideRest:
		return "inside the rest after " + r.After
	case Ceiling:
		return fmt.Sprintf("step %s must start within %d min of the end of step %s", r.Step, r.Minutes, r.After)
	case MissedCeiling:
		return "missed ceiling after " + r.After
	case Hours:
		return r.Resource + "'s hours"
	case OpeningHours:
		return "opening hours"
	case Busy:
		return r.Resource + " busy"
	case Full:
		return r.Resource + " full"
	case Overfilled:
		return r.Resource + " overfull"
	case KeptApart:
		return "kept apart from " + r.Resource
	case HeldBack:
		return "held back"
	case Together:
		return "together with " + r.Job
	case Better:
		return "better for all"
	case PutDown:
		return "put down"
	case Done:
		return "done"
	case UnderWay:
		return "under way"
	}
	return r.noPlace()
}

// noPlace is why a job has no place.
func (r Reason) noPlace() string {
	switch r.Kind {
	case TooMany:
		return fmt.Sprintf("step %s needs %d of %s, which has %d", r.Step, r.Units, r.Resource, r.Most)
	case TooLong:
		return fmt.Sprintf("step %s needs %d min of %s in one go; the longest open interval is %d min", r.Step, r.Minutes, r.Resource, r.Most)
	case NoHoursLeft:
		return fmt.Sprintf("step %s finds no open time of %s left", r.Step, r.Resource)
	case HeldForever:
		return fmt.Sprintf("step %s waits for %s, which is held with no end known", r.Step, r.Resource)
	case RestOverfull:
		return fmt.Sprintf("the rest after step %s waits for %s, which is overfull with no end known", r.After, r.Resource)
	case NoRoomToRest:
		return fmt.Sprintf("the rest after step %s finds no room on %s", r.After, r.Resource)
	case LongerThanRest:
		return fmt.Sprintf("step %s takes longer than the last rest, after step %s", r.Step, r.After)
	case NoTimeInside:
		return fmt.Sprintf("step %s finds no time inside the rest after step %s", r.Step, r.After)
	case PinnedTooSoon:
		return fmt.Sprintf("step %s is pinned before the rest after step %s is over", r.Step, r.After)
	}
	return ""
}

// MarshalText writes the short words, which is how answers carry a reason.
func (r Reason) MarshalText() ([]byte, error) { return []byte(r.String()), nil }

// Reasons without a place or a step of their own.
var (
	atRelease = &Reason{Kind: Release}
	heldBack  = &Reason{Kind: HeldBack}
	putDown   = &Reason{Kind: PutDown}
)

// afterStep are the reasons that speak of the rest after a step. They are made
// once a job, and told apart by where they lie.
type afterStep struct {
	end, floor, usual, work, inside, missed, ceiling Reason
}

func reasonsAfter(id string) afterStep {
	return afterStep{
		end:    Reason{Kind: EndOfStep, After: id},
		floor:  Reason{Kind: FloorOfRest, After: id},
		usual:  Reason{Kind: UsualRest, After: id},
		work:   Reason{Kind: WorkInside, After: id},
		inside: Reason{Kind: InsideRest, After: id},
		missed: Reason{Kind: MissedCeiling, After: id},
	}
}
