package planning

import (
	"cmp"
	"context"
	"fmt"
	"slices"
	"strings"
	"time"

	"tidykiln/core/calendar"
	"tidykiln/core/craft"
	"tidykiln/core/plan"
	"tidykiln/internal/problem"
	"tidykiln/internal/workshop"
)

// Earlier says what would make a lot ready earlier, the most gained first.
type Earlier struct {
	ReadyAt *time.Time `json:"readyAt,omitempty" doc:"as it is planned"`
	Ways    []Way      `json:"ways" nullable:"false" doc:"empty when nothing that can be relaxed gains anything"`
}

// Way is one thing to relax, and what comes of it.
type Way struct {
	Says        string    `json:"says"`
	ReadyAt     time.Time `json:"readyAt"`
	GainMinutes int       `json:"gainMinutes"`
	// Breaks counts the promises of others that would be broken, or by more than before.
	Breaks  int          `json:"breaks"`
	Suppose Suppositions `json:"suppose"`
}

// Earlier works out, one thing after the other, what would make a lot ready earlier.
func (a *Area) Earlier(ctx context.Context, lotID uint64) (e Earlier, err error) {
	e.Ways = []Way{}
	release, err := a.question(ctx)
	if err != nil {
		return e, err
	}
	defer release()
	s, err := a.fresh(ctx)
	if err != nil {
		return e, err
	}
	j := s.jobOf(lotID)
	if j == nil {
		return e, problem.NotFound("lot at the bench")
	}
	e.ReadyAt = j.Done
	begun := time.Now()
	for _, w := range s.relaxed(*j) {
		if time.Since(begun) > longestLooking {
			break
		}
		then, _, err := a.supposed(ctx, s, w.Suppose)
		if err != nil {
			return e, err
		}
		if s.gains(then, &w, lotID, j.Done) {
			e.Ways = append(e.Ways, w)
		}
	}
	slices.SortStableFunc(e.Ways, func(a, b Way) int {
		return cmp.Or(cmp.Compare(b.GainMinutes, a.GainMinutes), cmp.Compare(a.Breaks, b.Breaks))
	})
	e.Ways = e.Ways[:min(len(e.Ways), mostWays)]
	return e, nil
}

// longestLooking is for how long ways are worked out, the likeliest first: in a
// large studio each takes a plan of seconds.
const longestLooking = 5 * time.Second

// mostWays is how many ways are told.
const mostWays = 4

// leastGain is the least, in minutes, that is worth telling.
const leastGain = 10

// gains works out what a way gains for a lot, and tells whether it is worth telling.
func (s *Schedule) gains(then *Schedule, w *Way, lotID uint64, was *time.Time) bool {
	j := then.jobOf(lotID)
	if j == nil || j.Done == nil {
		return false
	}
	w.ReadyAt, w.GainMinutes = *j.Done, leastGain
	if was != nil {
		w.GainMinutes = int(was.Sub(*j.Done) / time.Minute)
	}
	for _, m := range s.moves(then) {
		if m.Breaks {
			w.Breaks++
		}
	}
	return w.GainMinutes >= leastGain
}

func (s *Schedule) jobOf(lotID uint64) *Job {
	i := slices.IndexFunc(s.Jobs, func(j Job) bool { return j.Lot != nil && j.Lot.ID == lotID })
	if i < 0 {
		return nil
	}
	return &s.Jobs[i]
}

const (
	longerBy  = 120
	latestEnd = 23 * 60
	afternoon = 4 * 60
)

// relaxed are the things that could be relaxed for a job.
func (s *Schedule) relaxed(j Job) (ways []Way) {
	add := func(in Suppositions, format string, args ...any) {
		ways = append(ways, Way{Says: fmt.Sprintf(format, args...), Suppose: in})
	}
	add(Suppositions{First: []uint64{j.Lot.ID}}, "it goes before everything else, at the shortest safe rests")
	if places := s.waitsForRack(j); places > 0 {
		add(Suppositions{Places: places}, "the rack has %d places more", places)
	}
	for _, stage := range waitsForTimes(j) {
		add(Suppositions{AnyTime: []craft.Stage{stage}}, "%s may be done at any time", stage.Words())
	}
	for _, p := range s.Basis.Workshop.People {
		for _, day := range s.nextDays(p, 2) {
			end := s.endOf(p, day)
			longer := calendar.ExtraHours{Day: day, FromMinute: end, ToMinute: min(end+longerBy, latestEnd)}
			if longer.FromMinute < longer.ToMinute {
				add(Suppositions{Comes: []ComesIn{{p.ID, longer}}}, "%s works %s longer %s", p.Name, hoursInWords(longer.ToMinute-longer.FromMinute), s.dayInWords(day))
			}
		}
	}
	if len(s.Basis.Workshop.People) > 0 {
		p := s.Basis.Workshop.People[0]
		for _, day := range s.nextDays(p, 2) {
			end := s.endOf(p, day)
			help := calendar.ExtraHours{Day: day, FromMinute: max(0, end-afternoon), ToMinute: end}
			add(Suppositions{Comes: []ComesIn{{0, help}}}, "a helper comes in for %s %s", hoursInWords(help.ToMinute-help.FromMinute), s.dayInWords(day))
		}
	}
	return ways
}

// waitsForRack is how many places more would let a job rest at once; 0 when
// nothing of it waits for the rack.
func (s *Schedule) waitsForRack(j Job) int {
	for _, p := range j.Placed {
		if (p.Because.Kind == plan.Full || p.Because.Kind == plan.Overfilled) && isRack(p.Because.Resource) {
			return j.Pieces
		}
	}
	return 0
}

// waitsForTimes are the stages whose liked times something of a job waits for.
func waitsForTimes(j Job) (stages []craft.Stage) {
	for _, p := range j.Placed {
		if stage, of := strings.CutPrefix(p.Because.Resource, timesOf); of && !slices.Contains(stages, craft.Stage(stage)) {
			stages = append(stages, craft.Stage(stage))
		}
	}
	return stages
}

// nextDays are the next days on which somebody still has hours.
func (s *Schedule) nextDays(p workshop.Person, most int) (days []calendar.Date) {
	for _, o := range p.Times().Open(s.Now, s.Now.AddDate(0, 0, 14), s.Location()) {
		day := calendar.DateOf(o[0], s.Location())
		if !slices.Contains(days, day) && len(days) < most {
			days = append(days, day)
		}
	}
	return days
}

// endOf is the minute of a day at which somebody's hours end.
func (s *Schedule) endOf(p workshop.Person, day calendar.Date) (end int) {
	for _, o := range p.Times().Open(day.At(0, s.Location()), day.Add(1).At(0, s.Location()), s.Location()) {
		at := o[1].In(s.Location())
		if end = at.Hour()*60 + at.Minute(); end == 0 {
			end = 24 * 60
		}
	}
	return end
}

// dayInWords is a day as people say today when something is.
func (s Snapshot) dayInWords(day calendar.Date) string {
	switch today := calendar.DateOf(s.Now, s.Location()); {
	case day == today:
		return "today"
	case day == today.Add(1):
		return "tomorrow"
	case day < today.Add(7):
		return day.At(12*60, s.Location()).Format("on Monday")
	}
	return "on " + s.Basis.Workshop.Habit.DayAndMonth(day.At(12*60, s.Location()))
}

func hoursInWords(minutes int) string {
	if minutes == 60 {
		return "an hour"
	}
	if minutes%60 == 0 {
		return fmt.Sprintf("%d hours", minutes/60)
	}
	return fmt.Sprintf("%d minutes", minutes)
}
