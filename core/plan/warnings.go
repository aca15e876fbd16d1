package plan

import "fmt"

// warnAboutPins lists what pinned steps break; they stay where they are all the
// same. It looks at the whole plan: what is pinned may be in the way of what is not.
func (b *board) warnAboutPins() (warnings []string) {
	warn := func(format string, args ...any) { warnings = append(warnings, fmt.Sprintf(format, args...)) }
	for _, j := range b.shop.jobs {
		for k, c := range j.links {
			if c.pin == nil {
				continue
			}
			if k > 0 {
				warnAboutRest(j.links[k-1], c, warn)
			}
			b.warnAboutUse(c, warn)
			over, _ := j.restOfPin(k)
			for _, n := range c.room {
				if b.shop.overfull[n.of.no] == nil && b.overfilled(n.of, over) {
					warn("%s: the rest after step %s runs while %s is overfull", j.ID, c.ID, n.of.id)
				}
			}
			for _, in := range c.inside {
				if in.pin != nil {
					b.warnAboutUse(in, warn)
				}
			}
		}
	}
	return warnings
}

func warnAboutRest(before, c *step, warn func(string, ...any)) {
	if before.pin == nil || before.Rest == nil {
		return
	}
	rested := (c.pin.start - before.pin.end) / 60
	switch {
	case rested < moment(before.Rest.Min):
		warn("%s: step %s started %d min after step %s ended; the floor is %d min", c.job.ID, c.ID, rested, before.ID, before.Rest.Min)
	case before.Rest.Max != nil && rested > moment(*before.Rest.Max):
		warn("%s: step %s started %d min after step %s ended; the ceiling is %d min", c.job.ID, c.ID, rested, before.ID, *before.Rest.Max)
	}
}

func (b *board) warnAboutUse(c *step, warn func(string, ...any)) {
	if c.job.Release != nil && c.StartedAt.Before(*c.job.Release) {
		warn("%s: step %s started before the release", c.job.ID, c.ID)
	}
	for _, n := range c.pin.way.needs {
		if n.apart {
			continue
		}
		if n.of.nextOpen(c.pin.start, c.pin.end-c.pin.start) != c.pin.start {
			warn("%s: step %s runs outside the open hours of %s", c.job.ID, c.ID, n.of.id)
		}
		// The pin itself is already held, so nothing more needs to fit.
		if b.overfilled(n.of, c.pin.span) {
			warn("%s: step %s runs while %s is overfull", c.job.ID, c.ID, n.of.id)
		}
	}
}

func (b *board) overfilled(r *resource, over span) bool {
	return over.end > over.start && b.profiles[r.no].most(over) > r.capacity
}
