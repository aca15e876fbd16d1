package workshop

import (
	"fmt"
	"slices"
	"strings"

	"tidykiln/core/calendar"
	"tidykiln/core/craft"
	"tidykiln/core/measure"
	"tidykiln/internal/problem"
)

// Rack is somewhere that pieces rest: a shelf in a room, a drying rack, a line.
type Rack struct {
	Name   string `json:"name" minLength:"1" maxLength:"80"`
	Places int    `json:"places" minimum:"1" maximum:"5000"`
	// LongestMm is the longest side of a piece that it takes; nil: any.
	LongestMm *measure.Length `json:"longestMm,omitempty" minimum:"1" maximum:"5000"`
}

// takes tells whether pieces with so long a side fit.
func (r Rack) takes(longest measure.Length) bool {
	return r.LongestMm == nil || longest <= *r.LongestMm
}

// Machine is how many of a place or machine the studio has, spindles of the
// turner, and when it can be used.
type Machine struct {
	Machine craft.Holding `json:"machine" enum:"press,hot-air,spray-place,turner"`
	Count   int           `json:"count" minimum:"0" maximum:"500"`
	// Hours are empty when it can be used at any time.
	Hours []calendar.Hours `json:"hours" maxItems:"28" nullable:"false"`
}

// Preference is when a stage of the work is done, where nothing is late for it:
// between two minutes of the day, or, with LastMinutes, in the last hours of it.
type Preference struct {
	Stage craft.Stage `json:"stage" enum:"prepare,print,lay,remove,seal,finish,spray"`
	// LastMinutes are those before the last hands go home; 0 where minutes of the day count.
	LastMinutes int `json:"lastMinutes" minimum:"0" maximum:"720"`
	FromMinute  int `json:"fromMinute" minimum:"0" maximum:"1439"`
	ToMinute    int `json:"toMinute" minimum:"1" maximum:"1440"`
}

// RackPlaces is how many pieces can rest at once.
func (w Workshop) RackPlaces() (places int) {
	for _, r := range w.Racks {
		places += r.Places
	}
	return places
}

// LargestRack is how many pieces of a blank can rest on one rack: a lot stays together.
func (w Workshop) LargestRack(b craft.Blank) (places int) {
	for _, r := range w.Racks {
		if r.takes(b.Shape.Longest()) {
			places = max(places, r.Places)
		}
	}
	return places
}

// RackClass are the places for pieces over a size: those on racks that take no
// larger ones do not count.
type RackClass struct {
	Over   measure.Length
	Places int
}

// RackClasses are all places, and then those for larger and larger pieces.
// Pieces find room exactly as long as of every class no more are out than it
// has places, since whatever takes a larger piece takes a smaller one too.
func (w Workshop) RackClasses() []RackClass {
	classes := []RackClass{{0, w.RackPlaces()}}
	for _, r := range w.Racks {
		if r.LongestMm != nil && !slices.ContainsFunc(classes, func(c RackClass) bool { return c.Over == *r.LongestMm }) {
			over := *r.LongestMm
			places := 0
			for _, other := range w.Racks {
				if other.LongestMm == nil || *other.LongestMm > over {
					places += other.Places
				}
			}
			classes = append(classes, RackClass{over, places})
		}
	}
	slices.SortFunc(classes, func(a, b RackClass) int { return int(a.Over*100) - int(b.Over*100) })
	return classes
}

// CountOf is how many of a machine there are: one of each, and no turner, where nobody has said.
func (w Workshop) CountOf(h craft.Holding) int {
	if i := w.machine(h); i >= 0 {
		return w.Machines[i].Count
	}
	if h == craft.Turner {
		return 0
	}
	return 1
}

// HoursOf are when a machine can be used; empty: always.
func (w Workshop) HoursOf(h craft.Holding) []calendar.Hours {
	if i := w.machine(h); i >= 0 {
		return w.Machines[i].Hours
	}
	return nil
}

func (w Workshop) machine(h craft.Holding) int {
	return slices.IndexFunc(w.Machines, func(m Machine) bool { return m.Machine == h })
}

// LotSize is the most pieces of a blank that one lot of a recipe holds here.
func (w Workshop) LotSize(r craft.Recipe, b craft.Blank) int {
	return r.LotSize(w.Sitting(), w.LargestRack(b), w.CountOf(craft.Turner))
}

// checkPlaces refuses racks, machines and preferred times that cannot be.
func (w *Workshop) checkPlaces() error {
	if len(w.Racks) == 0 {
		return problem.Invalid("racks", "pieces rest somewhere: name at least one rack or shelf")
	}
	for i := range w.Racks {
		r := &w.Racks[i]
		if r.Name = strings.TrimSpace(r.Name); r.Name == "" {
			return problem.Invalid(fmt.Sprintf("racks[%d].name", i), "give this rack a name")
		}
	}
	if w.Preferences == nil {
		w.Preferences = []Preference{}
	}
	if w.Machines == nil {
		w.Machines = []Machine{}
	}
	for i, m := range w.Machines {
		at := fmt.Sprintf("machines[%d]", i)
		if w.machine(m.Machine) != i {
			return problem.Invalid(at+".machine", "this machine is there twice")
		}
		if err := (calendar.Times{Hours: m.Hours}).Validate(); err != nil {
			return problem.Faulty(at, err)
		}
	}
	for i, p := range w.Preferences {
		if p.LastMinutes == 0 && p.FromMinute >= p.ToMinute {
			return problem.Invalid(fmt.Sprintf("preferences[%d].toMinute", i), "hours must end after they begin")
		}
	}
	return nil
}
