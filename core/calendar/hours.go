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

// Times are when somebody works.
type Times struct {
	Hours   []Hours
	DaysOff []DaysOff
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
	return nil
}

// Open lists the stretches between from and to in which somebody works,
// earliest first. Daylight saving is followed: hours are those of the wall clock.
func (t Times) Open(from, to time.Time, in *time.Location) [][2]time.Time {
	open := [][2]time.Time{}
	last := DateOf(to, in)
	for day := DateOf(from, in); day <= last; day = day.Add(1) {
		if t.off(day) {
			continue
		}
		weekday := int(day.At(0, time.UTC).Weekday())
		for _, h := range t.Hours {
			if h.Weekday != weekday {
				continue
			}
			start, end := day.At(h.FromMinute, in), day.At(h.ToMinute, in)
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
	}
	slices.SortFunc(open, func(a, b [2]time.Time) int { return a[0].Compare(b[0]) })
	return open
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
