package plan

import (
	"maps"
	"slices"
	"time"
)

// shop is a problem looked up once: what stays the same while plans are tried.
type shop struct {
	problem   Problem
	within    moment
	resources []*resource
	byID      map[string]*resource
	jobs      []*job
	steps     []*step // of all jobs, by number
	kins      map[string]int
	// fixed is what pinned steps and the rests between them hold, by resource.
	fixed    []profile
	overfull []*overfull // by resource; nil where there is room
	warnings []string
	// sittings tells that some step has a set-up.
	sittings bool
}

type resource struct {
	no       int
	id       string
	capacity int
	// open is nil when it is always open.
	open *opening
	// hand tells that somebody's sittings go by the order of work on it.
	hand bool
	// The reasons that speak of it: nothing more fits, it is closed to who does a
	// step or to what uses it, and what keeps apart from it waits.
	busy, hours, opening, apart Reason
}

// job is a lot with its times in seconds after From.
type job struct {
	Job
	no      int
	release moment
	due     moment // never when there is none
	weight  float64
	steps   []*step
	links   []*step // those that count for the list order
	// first is the first link that is not pinned.
	first int
	// holds is what the rest after the last step that was begun uses.
	holds map[string]int
	// ceiling is that of the rest it is in; never when there is none.
	ceiling moment
	// left is the least time it still takes: hands and floors.
	left moment
	// hands is how long the steps still to be placed take, and never 0.
	hands moment
	// pinsEnd is when a job whose steps are all pinned is done; never for others.
	pinsEnd moment
	// openEnded is what the rest after the last pinned step holds until the next
	// step is placed.
	openEnded []held
	// floors and usual are the rests by link, at their shortest and as usual.
	floors, usual []moment
	// plain tells that nothing of it can be joined; odd, that a step was begun
	// before one that comes before it.
	plain, odd bool
}

// step is a step with what it takes, after what is said of the rest after it.
type step struct {
	Step
	no, link int
	job      *job
	// length is how long the work takes whoever is quickest.
	length, setup moment
	kin           int // noKin without a set-up
	notBefore     moment
	ways          []way
	min, ideal    moment
	max           moment // never without a ceiling
	room          []need // what the rest holds
	inside        []*step
	// pin is where it lies when it is under way or done.
	pin       *place
	putDownAt moment
	// grace is, by room, until when the rest after it may overfill it: pinned ones only.
	grace []moment
	// dropped tells that the ceiling after it cannot be met any more.
	dropped bool
	after   afterStep
}

const noKin = -1

// way is one of the ways to do a step: by one of several, or without a choice.
type way struct {
	by    *resource // nil without a choice
	hand  *resource // whose sittings count; nil: nobody's
	needs []need
	// length is how long the work takes in this way, and paid that with its set-up.
	length, paid moment
}

// need is what a step takes of a resource, or, with apart, that the resource is
// to be idle while it runs and so long before and after.
type need struct {
	of    *resource
	n     int
	apart bool
	gap   moment
}

type held struct {
	of     *resource
	s      span
	amount int
}

// place is where a step lies. From tie on its hand is kept free for it: what it
// is joined to ended then.
type place struct {
	span
	way    *way
	joined bool
	tie    moment
	// worked is when a pinned step that waited for its hand really went on.
	worked moment
}

func (p place) by() *resource {
	if p.way == nil {
		return nil
	}
	return p.way.by
}

// newShop looks a problem up; inOrder tells that the order of work on every hand
// matters, not on those alone that have sittings.
func newShop(problem Problem, inOrder bool) *shop {
	s := &shop{problem: problem, within: seconds(usualJoinWithin), byID: map[string]*resource{}, kins: map[string]int{}}
	if problem.JoinWithin != nil {
		s.within = seconds(*problem.JoinWithin)
	}
	for i, r := range problem.Resources {
		s.addResource(i, r)
	}
	for _, r := range s.resources {
		r.hand = inOrder && r.capacity == 1 && r.open != nil
	}
	for i, j := range problem.Jobs {
		s.jobs = append(s.jobs, s.newJob(i, j))
	}
	s.holdPins()
	s.findOverfull()
	for _, j := range s.jobs {
		for _, c := range j.links[:j.first] {
			for _, n := range c.room {
				c.grace = append(c.grace, s.graceUntil(n))
			}
		}
		j.hands = 1
		for _, c := range j.steps {
			if c.pin == nil {
				j.hands += c.paid()
			}
		}
		j.plain = s.isPlain(j)
		j.odd = slices.ContainsFunc(j.links[j.first:], func(c *step) bool { return c.pin != nil })
	}
	return s
}

func (s *shop) addResource(no int, r Resource) {
	c := &resource{no: no, id: r.ID, capacity: r.Capacity,
		busy: Reason{Kind: Full, Resource: r.ID}, hours: Reason{Kind: Hours, Resource: r.ID}, opening: Reason{Kind: OpeningHours, Resource: r.ID}, apart: Reason{Kind: KeptApart, Resource: r.ID}}
	if r.Capacity == 1 {
		c.busy.Kind = Busy
	}
	if r.Open != nil {
		c.open = newOpening(r.Open, s.problem.From)
	}
	s.resources, s.byID[r.ID] = append(s.resources, c), c
	s.fixed = append(s.fixed, newProfile())
}

func (s *shop) moment(t time.Time) moment { return ceilSeconds(t.Sub(s.problem.From)) }

func (s *shop) newJob(no int, given Job) *job {
	j := &job{Job: given, no: no, due: never, weight: 1, ceiling: never, pinsEnd: never}
	if given.Release != nil {
		j.release = max(0, s.moment(*given.Release))
	}
	if given.Due != nil {
		j.due = floorSeconds(given.Due.Sub(s.problem.From))
	}
	if given.Weight != nil {
		j.weight = *given.Weight
	}
	byID := map[string]*step{}
	for _, one := range given.Steps {
		c := s.newStep(j, one)
		byID[one.ID] = c
		j.steps, s.steps = append(j.steps, c), append(s.steps, c)
		if one.Inside != "" {
			outer := byID[one.Inside]
			outer.inside, c.link = append(outer.inside, c), outer.link
			continue
		}
		c.link = len(j.links)
		j.links = append(j.links, c)
		j.floors, j.usual = append(j.floors, c.min), append(j.usual, c.ideal)
		if one.StartedAt == nil || one.putDown() {
			j.left += c.length + c.min
		}
	}
	for k, c := range j.links[1:] {
		if before := j.links[k]; before.Rest != nil && before.Rest.Max != nil {
			before.after.ceiling = Reason{Kind: Ceiling, Step: c.ID, After: before.ID, Minutes: *before.Rest.Max}
		}
	}
	return j
}

func (s *shop) newStep(j *job, given Step) *step {
	c := &step{Step: given, no: len(s.steps), job: j, length: never, kin: noKin, notBefore: always, max: never, after: reasonsAfter(given.ID)}
	if given.putDown() {
		c.putDownAt = floorSeconds(given.StartedAt.Sub(s.problem.From))
	}
	if given.NotBefore != nil {
		c.notBefore = s.moment(*given.NotBefore)
	}
	if r := given.Rest; r != nil {
		c.min, c.ideal = seconds(r.Min), seconds(r.ideal())
		if r.Max != nil {
			c.max = seconds(*r.Max)
		}
		c.room = s.needs(r.Uses)
	}
	if given.Setup != nil {
		c.setup, c.kin, s.sittings = seconds(given.Setup.Minutes), s.kin(given.Setup.Kin), true
	}
	hands := given.OneOf
	if len(hands) == 0 {
		hands = []string{""}
	}
	for _, id := range hands {
		c.ways = append(c.ways, s.wayOf(given, id))
		c.length = min(c.length, c.ways[len(c.ways)-1].length)
	}
	return c
}

func (s *shop) kin(name string) int {
	if _, known := s.kins[name]; !known {
		s.kins[name] = len(s.kins)
	}
	return s.kins[name]
}

func (s *shop) needs(uses map[string]int) (needs []need) {
	for _, id := range sortedIDs(uses) {
		if uses[id] > 0 {
			needs = append(needs, need{of: s.byID[id], n: uses[id]})
		}
	}
	return needs
}

// wayOf looks up what a step takes when it is done by one of its OneOf; empty
// where it has none.
func (s *shop) wayOf(given Step, id string) way {
	uses := given.Uses
	if id != "" {
		uses = maps.Clone(uses)
		if uses == nil {
			uses = map[string]int{}
		}
		uses[id]++
	}
	w := way{by: s.byID[id], needs: s.needs(uses), length: given.lengthBy(id)}
	if w.paid = w.length; given.Setup != nil {
		w.paid += seconds(given.Setup.Minutes)
	}
	for _, of := range sortedIDs(given.Apart) {
		w.needs = append(w.needs, need{of: s.byID[of], n: s.byID[of].capacity, apart: true, gap: seconds(given.Apart[of])})
	}
	if w.hand = s.handOf(given, w.by); w.hand != nil && given.Setup != nil {
		w.hand.hand = true
	}
	return w
}

// handOf is whose sittings count for a step: who does it by choice, else the one
// its set-up names, else the one resource among its uses that has hours and
// capacity 1; nil when there is none, or are several.
func (s *shop) handOf(given Step, by *resource) *resource {
	hand := by
	switch {
	case hand != nil:
	case given.Setup != nil && given.Setup.Hand != "":
		hand = s.byID[given.Setup.Hand]
	default:
		for _, id := range sortedIDs(given.Uses) {
			if r := s.byID[id]; given.Uses[id] > 0 && r.open != nil && r.capacity == 1 {
				if hand != nil {
					return nil
				}
				hand = r
			}
		}
	}
	if hand == nil || hand.capacity > 1 {
		return nil
	}
	return hand
}

// isPlain tells that no step still to be placed has a set-up to be spared.
func (s *shop) isPlain(j *job) bool {
	return !slices.ContainsFunc(j.steps, func(c *step) bool { return c.pin == nil && c.kin != noKin })
}

// sortedIDs gives map keys an order that does not change from run to run.
func sortedIDs(uses map[string]int) []string { return slices.Sorted(maps.Keys(uses)) }

// takes tells whether a step may take something.
func (c *step) takes(of *resource) bool {
	if slices.ContainsFunc(c.room, func(n need) bool { return n.of == of }) {
		return true
	}
	return slices.ContainsFunc(c.ways, func(w way) bool {
		return slices.ContainsFunc(w.needs, func(n need) bool { return n.of == of && !n.apart })
	})
}

// paid is how long a step takes with its set-up, whoever is quickest.
func (c *step) paid() moment { return c.length + c.setup }
