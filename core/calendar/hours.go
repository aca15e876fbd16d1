package calendar

import (
	"fmt"
	"slices"
	"time"

	"tidykiln/core/fault"
)

// Hours is a stretch of a weekday, in minutes of the day.
type Hours struct {
	Weekday    int `json:"weekday" minimum:"0" maximum:"6" doc:"0 is Sunday"`
	FromMinute int `json:"fromMinute" minimum:"0" maximum:"1439"`
	ToMinute   int `json:"toMinute" minimum:"1" maximum:"1440"`
}

// DaysOff are days on which nobody works, both ends included.
type DaysOff struct {
	FirstDay Date `json:"firstDay" format:"date"`
	LastDay  Date `json:"lastDay" format:"date"`
}

// ExtraHours are worked on one day beside those of the week, and on a day off too.
type ExtraHours struct {
	Day        Date `json:"day" format:"date"`
	FromMinute int  `json:"fromMinute" minimum:"0" maximum:"1439"`
	ToMinute   int  `json:"toMinute" minimum:"1" maximum:"1440"`
}

// Times are when somebody works.
type Times struct {
	Hours      []Hours
	DaysOff    []DaysOff
	ExtraHours []ExtraHours
}

// Validate reports the first stretch or days off that cannot be, by its path.
func (t Times) Validate() error {
	for i, h := range t.Hours {
		if h.FromMinute >= h.ToMinute {
			return fault.At(fmt.Sprintf("hours[%d].toMinute", i), "hours must end after they begin")
		}
		for _, other := range t.Hours[:i] {
			if h.Weekday == other.Weekday && h.FromMinute < other.ToMinute && other.FromMinute < h.ToMinute {
				return fault.At(fmt.Sprintf("hours[%d].fromMinute", i), "these hours overlap others of the same day")
			}
		}
	}
	for i, d := range t.DaysOff {
		if d.FirstDay > d.LastDay {
			return fault.At(fmt.Sprintf("daysOff[%d].lastDay", i), "days off must end on or after the day they begin")
		}
	}
	for i, e := range t.ExtraHours {
		if e.FromMinute >= e.ToMinute {
			return fault.At(fmt.Sprintf("extraHours[%d].toMinute", i), "hours must end after they begin")
		}
	}
	return nil
}

// Open lists the stretches between from and to in which somebody works,
// earliest first and apart. Daylight saving is followed: hours are those of the wall clock.
func (t Times) Open(from, to time.Time, in *time.Location) [][2]time.Time {
	open := [][2]time.Time{}
	add := func(day Date, fromMinute, toMinute int) {
		start, end := day.At(fromMinute, in), day.At(toMinute, in)
		if start.Before(from) {
			start = from
		}
		if end.After(to) {
			end = to
		}
		if end.After(start) {
			open = append(open, [2]time.Time{start, end})
		}
	}
	first, last := DateOf(from, in), DateOf(to, in)
	for day := first; day <= last; day = day.Add(1) {
		if t.off(day) {
			continue
		}
		weekday := int(day.At(0, time.UTC).Weekday())
		for _, h := range t.Hours {
			if h.Weekday == weekday {
				add(day, h.FromMinute, h.ToMinute)
			}
		}
	}
	for _, e := range t.ExtraHours {
		if first <= e.Day && e.Day <= last {
			add(e.Day, e.FromMinute, e.ToMinute)
		}
	}
	return apart(open)
}

// apart puts stretches in order, and makes one of those that touch or overlap
// where extra hours lie beside others.
func apart(open [][2]time.Time) [][2]time.Time {
	slices.SortFunc(open, func(a, b [2]time.Time) int { return a[0].Compare(b[0]) })
	merged := open[:0]
	for _, o := range open {
		if n := len(merged); n > 0 && !o[0].After(merged[n-1][1]) {
			if o[1].After(merged[n-1][1]) {
				merged[n-1][1] = o[1]
			}
			continue
		}
		merged = append(merged, o)
	}
	return merged
}

func (t Times) off(day Date) bool {
	return slices.ContainsFunc(t.DaysOff, func(d DaysOff) bool { return d.FirstDay <= day && day <= d.LastDay })
}

// Longest is the longest stretch, in minutes, worked in one go in an ordinary week.
func (t Times) Longest() (minutes int) {
	for _, h := range t.Hours {
		minutes = max(minutes, h.ToMinute-h.FromMinute)
	}
	return minutes
}
