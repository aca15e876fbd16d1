package workshop

import (
	"slices"
	"time"

	"tidykiln/core/calendar"
	"tidykiln/core/craft"
)

// Location is the workshop's time zone; an unknown one, which Save refuses, reads as UTC.
func (w Workshop) Location() *time.Location {
	in, err := time.LoadLocation(w.TimeZone)
	if err != nil {
		return time.UTC
	}
	return in
}

// DueAt is the moment by which what is due on a day must be ready.
func (w Workshop) DueAt(d calendar.Date) time.Time { return d.At(w.HandOverMinute, w.Location()) }

// Times are when the person works.
func (p Person) Times() calendar.Times {
	return calendar.Times{Hours: p.Hours, DaysOff: p.DaysOff, ExtraHours: p.ExtraHours}
}

// Does tells whether the person does a step: none of it is left to others.
func (p Person) Does(s craft.Step) bool {
	return !slices.ContainsFunc(s.Stages(), func(stage craft.Stage) bool { return slices.Contains(p.Leaves, stage) })
}

// MinutesFor is how long work of so many minutes takes this person, at least one.
func (p Person) MinutesFor(minutes int) int {
	if p.PacePercent == 0 {
		return minutes
	}
	return max(1, (minutes*p.PacePercent+99)/100)
}

// FirstOpening is the first moment, not before one, from which anyone works so
// many minutes in one go; the moment itself when nobody does within a fortnight.
func (w Workshop) FirstOpening(from time.Time, minutes int) time.Time {
	last := from.AddDate(0, 0, 14)
	first := last
	for _, p := range w.People {
		for _, open := range p.Times().Open(from, last, w.Location()) {
			if open[1].Sub(open[0]) < time.Duration(minutes)*time.Minute {
				continue
			}
			if open[0].Before(first) {
				first = open[0]
			}
			break
		}
	}
	if first.Equal(last) {
		return from
	}
	return first
}

// Longest is the longest stretch, in minutes, that anyone works in one go in an ordinary week.
func (w Workshop) Longest() int {
	longest := 0
	for _, p := range w.People {
		longest = max(longest, p.Times().Longest())
	}
	return longest
}

// Sitting is the most minutes one step may take: the chosen sitting, or the
// longest stretch anyone works where that is shorter.
func (w Workshop) Sitting() int { return min(w.SittingMinutes, w.Longest()) }
