package planning

import (
	"fmt"
	"slices"
	"strconv"
	"strings"
	"time"

	"tidykiln/core/calendar"
	"tidykiln/core/craft"
	"tidykiln/core/measure"
	"tidykiln/core/plan"
)

// Because is why a step of a job starts no sooner, as people say it, and until
// when; empty for what is done or under way.
func (s *Schedule) Because(j Job, p plan.PlannedStep) string {
	text := s.inWords(j, p.Because)
	if p.Until.IsZero() || overThen(p.Because.Kind) || text == "" {
		return text
	}
	return text + " until " + s.momentInWords(p.Until)
}

// overThen tells of reasons that say themselves when they are over.
func overThen(kind plan.Kind) bool {
	switch kind {
	case plan.EndOfStep, plan.FloorOfRest, plan.UsualRest, plan.Hours, plan.OpeningHours, plan.Ceiling:
		return true
	}
	return false
}

// NoPlace is why a job has no place, as people say it; empty when it has one.
func (s *Schedule) NoPlace(j Job) string {
	reason, none := s.unplanned[j.ID]
	if !none {
		return ""
	}
	return s.inWords(j, reason)
}

// inWords is a reason with names in place of ids. This is the one place where
// the plan's reasons are put into people's words.
func (s *Schedule) inWords(j Job, r plan.Reason) string {
	step, after := j.stepName(r.Step), j.stepName(r.After)
	switch r.Kind {
	case plan.Release:
		return "nothing holds it up"
	case plan.EndOfStep:
		return "it follows at once on the end of " + after
	case plan.FloorOfRest:
		return "the shortest safe rest after " + after + s.longerAfter(j, r.After) + " is over then"
	case plan.UsualRest:
		return "the usual rest after " + after + s.longerAfter(j, r.After) + " is over then"
	case plan.WorkInside:
		return "steps inside the rest after " + after
	case plan.InsideRest:
		return "inside the rest after " + after
	case plan.Ceiling:
		return fmt.Sprintf("%s must start within %s of the end of %s", step, measure.Duration(r.Minutes), after)
	case plan.MissedCeiling:
		return "missed ceiling after " + after
	case plan.Hours:
		return s.nameOf(r.Resource) + "’s hours begin then"
	case plan.OpeningHours:
		if isHeld(r) {
			return "it is held there"
		}
		if stage, of := strings.CutPrefix(r.Resource, timesOf); of {
			return "the time you like for " + craft.Stage(stage).Words() + " begins then"
		}
		if slices.Contains(craft.Machines(), craft.Holding(r.Resource)) {
			return s.nameOf(r.Resource) + "’s hours begin then"
		}
		return "working hours begin then"
	case plan.Busy:
		return s.nameOf(r.Resource) + " is busy" + s.with(r.Job)
	case plan.Full:
		return s.nameOf(r.Resource) + " is full"
	case plan.Overfilled:
		return s.nameOf(r.Resource) + " is overfull"
	case plan.KeptApart:
		return fmt.Sprintf("%s and fresh air between spray and heat (%s)", anHour(r.Minutes), strings.TrimPrefix(s.nameOf(r.Resource), "the "))
	case plan.Together:
		if lot := s.with(r.Job); lot != "" {
			return "it is done in one sitting" + lot
		}
		return "it is done in one sitting with like work"
	case plan.Better:
		return "others come out better so"
	case plan.HeldBack:
		return "the pilot piece of its batch goes first"
	case plan.PutDown:
		return "it was put down and waits for hands"
	case plan.Done, plan.UnderWay:
		return ""
	}
	return s.noPlaceInWords(r, step, after)
}

func (s *Schedule) noPlaceInWords(r plan.Reason, step, after string) string {
	if r.Resource == nobodyID {
		return "nobody here does " + step + "; Workshop says who leaves what to others"
	}
	of := s.nameOf(r.Resource)
	if id, _ := s.personOf(r.Resource); id != 0 {
		of += "’s time"
	}
	switch r.Kind {
	case plan.TooMany:
		return fmt.Sprintf("%s needs %d of %s, which has %d", step, r.Units, of, r.Most)
	case plan.TooLong:
		return fmt.Sprintf("%s needs %d min of %s in one go; the longest open interval is %d min", step, r.Minutes, of, r.Most)
	case plan.NoHoursLeft:
		return fmt.Sprintf("%s finds no open hours of %s left", step, of)
	case plan.HeldForever:
		return fmt.Sprintf("%s waits for %s, which is held with no end known", step, of)
	case plan.RestOverfull:
		return fmt.Sprintf("the rest after %s waits for %s, which is overfull with no end known", after, of)
	case plan.NoRoomToRest:
		return fmt.Sprintf("the rest after %s finds no room on %s", after, of)
	case plan.LongerThanRest:
		return fmt.Sprintf("%s takes longer than the last rest, after %s", step, after)
	case plan.NoTimeInside:
		return fmt.Sprintf("%s finds no time inside the rest after %s", step, after)
	case plan.PinnedTooSoon:
		return fmt.Sprintf("%s was begun before the rest after %s was over", step, after)
	}
	return ""
}

func anHour(minutes int) string {
	if minutes == 60 {
		return "an hour"
	}
	return measure.Duration(minutes)
}

// stepName is the name of a step by the plan's id.
func (j Job) stepName(id string) string {
	if i, known := stepIndexOf(id); known && i < len(j.Recipe.Steps) {
		return "“" + j.Recipe.Steps[i].Name + "”"
	}
	return "the last step"
}

// nameOf is what people call a resource.
func (s *Schedule) nameOf(resource string) string {
	if id, name := s.personOf(resource); id != 0 {
		return name
	}
	if over, large := strings.CutPrefix(resource, rackOver); large {
		mm, _ := strconv.ParseFloat(over, 64)
		return "the rack for pieces over " + measure.Length(mm).Format(s.Basis.Workshop.Units)
	}
	return "the " + strings.ReplaceAll(resource, "-", " ")
}

// longerAfter says by how much the rest after a step, by the plan's id, is longer for the air.
func (s *Schedule) longerAfter(j Job, id string) string {
	i, known := stepIndexOf(id)
	if !known {
		i = j.First - 1
	}
	if i < 0 || i >= len(j.Recipe.Steps) {
		return ""
	}
	return s.inThisAir(j.Recipe.Steps[i])
}

// with names the product of a job that has the hands until then.
func (s *Schedule) with(job string) string {
	for _, j := range s.Jobs {
		if j.ID == job {
			return " with " + j.Name
		}
	}
	return ""
}

// personOf is the person who is a resource of the plan; 0 for another resource.
func (s *Schedule) personOf(resource string) (id uint64, name string) {
	for id, name := range s.Names {
		if personID(id) == resource {
			return id, name
		}
	}
	return 0, ""
}

// Who is the name of whoever does a step; empty when nobody in particular.
func (s *Schedule) Who(by string) string {
	_, name := s.personOf(by)
	return name
}

// momentInWords is a moment as people say it at this one: the clock alone
// today, the weekday within a week, else the date.
func (s Snapshot) momentInWords(t time.Time) string {
	t, now := t.In(s.Location()), s.Now.In(s.Location())
	switch days := calendar.DateOf(t, s.Location()); {
	case days == calendar.DateOf(now, s.Location()):
		return s.Basis.Workshop.Habit.Time(t)
	case days < calendar.DateOf(now, s.Location()).Add(7):
		return t.Format("Monday ") + s.Basis.Workshop.Habit.Time(t)
	}
	return s.Basis.Workshop.Habit.DayAndMonth(t)
}

// warnings are what is overfull, in words.
func (s *Schedule) warnings() []string {
	words := []string{}
	for _, o := range s.Overfull {
		what := fmt.Sprintf("%s is overfull by %d", s.nameOf(o.Resource), o.By)
		if o.Resource == rackID {
			what = fmt.Sprintf("the rack is overfull: %d more rest on it than its %d places hold", o.By, s.Basis.Workshop.RackPlaces())
		}
		until := "with no end planned"
		if o.Until != nil {
			until = "until " + s.momentInWords(*o.Until)
		}
		words = append(words, fmt.Sprintf("%s%s, %s. What stands there keeps its places; nothing else is laid on it until then.", strings.ToUpper(what[:1]), what[1:], until))
	}
	return append(words, s.outside()...)
}
