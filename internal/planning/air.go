package planning

import (
	"tidykiln/core/craft"
	"tidykiln/core/measure"
	"tidykiln/core/weather"
)

// airStep is what slowed rests, in minutes, are rounded up to, so that a plan
// does not move with every reading.
const airStep = 15

// slowed is a step as the room's air has it, where the studio wants that: its
// rest is lengthened, never beyond its ceiling and never under its floor.
func (s Snapshot) slowed(step craft.Step) craft.Step {
	rest, known := s.inAir(step)
	if !known {
		return step
	}
	long := func(minutes, usual int) int {
		if minutes == usual {
			return usual
		}
		minutes = (minutes + airStep - 1) / airStep * airStep
		if rest.Ceiling != nil {
			minutes = max(usual, min(minutes, *rest.Ceiling))
		}
		return minutes
	}
	rest.Floor, rest.Usual = long(rest.Floor, step.Rest.Floor), long(rest.Usual, step.Rest.Usual)
	step.Rest = &rest
	return step
}

// inAir is the rest after a step by the air now, and one through the night by
// the last day's; not known where there is no reading, and where the studio does
// not mind the air.
func (s Snapshot) inAir(step craft.Step) (rest craft.Rest, known bool) {
	if !s.Basis.Workshop.ColdNights || step.Rest == nil {
		return rest, false
	}
	if day := s.Basis.Room.Day(); step.Rest.Usual >= overnight && len(day) > 0 {
		return weather.Through(day, step), true
	}
	air, known := s.Basis.Room.Air()
	if !known {
		return rest, false
	}
	return air.Stretch(step), true
}

// inThisAir says by how much the usual rest after a step is longer for the air;
// empty when it is not.
func (s Snapshot) inThisAir(step craft.Step) string {
	if step.Rest == nil {
		return ""
	}
	if longer := s.slowed(step).Rest.Usual - step.Rest.Usual; longer > 0 {
		return ", " + measure.Duration(longer) + " longer in this air,"
	}
	return ""
}
