package planning

import (
	"fmt"
	"maps"
	"slices"
	"strings"
	"time"

	"tidykiln/core/calendar"
	"tidykiln/core/craft"
	"tidykiln/core/measure"
	"tidykiln/core/plan"
	"tidykiln/internal/workshop"
)

const (
	rackID = "rack"
	// rackOver begins the name of the places for pieces over a size.
	rackOver = "rack-over-"
	// timesOf begins the name of the times preferred for a stage of the work.
	timesOf  = "times-"
	nobodyID = "nobody"
	// anyNumber is more than is ever done at once.
	anyNumber = 100000
)

func personID(id uint64) string { return fmt.Sprintf("p%d", id) }

// resources are what the studio has, as the plan takes it: its places and people.
func resources(w workshop.Workshop, from time.Time) []plan.Resource {
	until := from.Add(horizon)
	list := placesFor(w, from, until)
	for _, p := range w.People {
		list = append(list, plan.Resource{ID: personID(p.ID), Capacity: 1, Open: p.Times().Open(from, until, w.Location())})
	}
	return append(list, plan.Resource{ID: nobodyID, Capacity: 1, Open: [][2]time.Time{}})
}

// placesFor are what work takes beside people: racks by the size of what they take,
// machines, and the times preferred for stages.
func placesFor(w workshop.Workshop, from, until time.Time) (list []plan.Resource) {
	for _, c := range w.RackClasses() {
		list = append(list, plan.Resource{ID: classID(c), Capacity: c.Places})
	}
	for _, m := range craft.Machines() {
		r := plan.Resource{ID: string(m), Capacity: w.CountOf(m)}
		if hours := w.HoursOf(m); len(hours) > 0 {
			r.Open = calendar.Times{Hours: hours}.Open(from, until, w.Location())
		}
		list = append(list, r)
	}
	for _, stage := range craft.Stages() {
		if prefers(w, stage) {
			list = append(list, plan.Resource{ID: timesOf + string(stage), Capacity: anyNumber, Open: preferred(w, stage, from, until)})
		}
	}
	return list
}

func classID(c workshop.RackClass) string {
	if c.Over == 0 {
		return rackID
	}
	return fmt.Sprintf("%s%g", rackOver, float64(c.Over))
}

// onRacks are the places that pieces of a size take: of all, and of those that
// are large enough.
func onRacks(w workshop.Workshop, longest measure.Length, places int) map[string]int {
	uses := map[string]int{}
	for _, c := range w.RackClasses() {
		if c.Over == 0 || longest > c.Over {
			uses[classID(c)] = places
		}
	}
	return uses
}

// isRack tells whether a resource of the plan is a rack, or the larger ones of them.
func isRack(resource string) bool {
	return resource == rackID || strings.HasPrefix(resource, rackOver)
}

func prefers(w workshop.Workshop, stage craft.Stage) bool {
	return slices.ContainsFunc(w.Preferences, func(p workshop.Preference) bool { return p.Stage == stage })
}

// preferred are the stretches in which a stage of the work is liked to be done.
func preferred(w workshop.Workshop, stage craft.Stage, from, until time.Time) (open [][2]time.Time) {
	in := w.Location()
	for day := calendar.DateOf(from, in); day <= calendar.DateOf(until, in); day = day.Add(1) {
		for _, p := range w.Preferences {
			if p.Stage != stage {
				continue
			}
			stretch := [2]time.Time{day.At(p.FromMinute, in), day.At(p.ToMinute, in)}
			if p.LastMinutes > 0 {
				end := lastHands(w, day)
				stretch = [2]time.Time{end.Add(-time.Duration(p.LastMinutes) * time.Minute), end}
			}
			if stretch[1].After(stretch[0]) {
				open = append(open, stretch)
			}
		}
	}
	return open
}

// lastHands is when the last of a day's hands goes home; its beginning when nobody comes.
func lastHands(w workshop.Workshop, day calendar.Date) time.Time {
	begins, ends := day.At(0, w.Location()), day.Add(1).At(0, w.Location())
	last := begins
	for _, p := range w.People {
		for _, o := range p.Times().Open(begins, ends, w.Location()) {
			if o[1].After(last) {
				last = o[1]
			}
		}
	}
	return last
}

// whoCan are those who do a step, and how long it takes whoever has a pace of their own.
func whoCan(w workshop.Workshop, step craft.Step, minutes int) (ids []string, minutesBy map[string]int) {
	minutesBy = map[string]int{}
	for _, p := range w.People {
		if !p.Does(step) {
			continue
		}
		ids = append(ids, personID(p.ID))
		if own := p.MinutesFor(minutes); own != minutes {
			minutesBy[personID(p.ID)] = own
		}
	}
	if len(ids) == 0 {
		return []string{nobodyID}, nil
	}
	return ids, minutesBy
}

// places are what a step has to itself, when it is liked to be done, and what it
// keeps an hour apart from.
func places(w workshop.Workshop, s craft.Step) (uses, apart map[string]int) {
	uses, apart = map[string]int{}, map[string]int{}
	for _, place := range s.Places() {
		uses[string(place)] = 1
	}
	for _, stage := range s.Stages() {
		if prefers(w, stage) {
			uses[timesOf+string(stage)] = 1
		}
	}
	if s.Flammable() {
		apart[string(craft.HotAir)], apart[string(craft.HeatPress)] = craft.ApartMinutes, craft.ApartMinutes
	}
	if s.Hot() {
		apart[string(craft.SprayPlace)] = craft.ApartMinutes
	}
	return uses, apart
}

// anyTime lets the steps of a job be done outside the times preferred for them;
// false when none of them has any.
func (j *Job) anyTime() bool {
	steps, freed := slices.Clone(j.steps), false
	for i := range steps {
		steps[i].Uses = maps.Clone(steps[i].Uses)
		freed = dropTimes(steps[i].Uses) || freed
	}
	if freed {
		j.steps, j.AnyTime = steps, true
	}
	return freed
}

// dropTimes takes the liked times out of what is taken; false when there are none.
func dropTimes(uses map[string]int) bool {
	all := len(uses)
	maps.DeleteFunc(uses, func(id string, _ int) bool { return strings.HasPrefix(id, timesOf) })
	return len(uses) < all
}

// outside lists, in words, the lots that are planned outside the times
// preferred for their work.
func (s *Schedule) outside() (words []string) {
	var names []string
	for _, j := range s.Jobs {
		if j.AnyTime && !slices.Contains(names, j.Name) {
			names = append(names, j.Name)
		}
	}
	if len(names) == 0 {
		return nil
	}
	slices.Sort(names)
	return []string{fmt.Sprintf("The times you like for some work are not kept for %s: there would be no place, or it would be later than promised.", strings.Join(names, ", "))}
}
