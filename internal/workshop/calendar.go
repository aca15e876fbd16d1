package workshop

import (
	"database/sql/driver"
	"fmt"
	"slices"
	"time"
)

// Date is a calendar day of the workshop, as 2006-01-02. Dates compare as strings.
type Date string

// DateOf is the day on which t falls in the location.
func DateOf(t time.Time, in *time.Location) Date { return Date(t.In(in).Format(time.DateOnly)) }

// Scan reads a DATE column.
func (d *Date) Scan(v any) error {
	t, ok := v.(time.Time)
	if !ok {
		return fmt.Errorf("reading a date: %T is no date", v)
	}
	*d = Date(t.Format(time.DateOnly))
	return nil
}

// Value writes a DATE column.
func (d Date) Value() (driver.Value, error) { return string(d), nil }

// At is the moment of a minute of the day, by the wall clock of the location.
// A minute that daylight saving skips is the same stretch after it.
func (d Date) At(minute int, in *time.Location) time.Time {
	day, err := time.Parse(time.DateOnly, string(d))
	if err != nil {
		return time.Time{}
	}
	return time.Date(day.Year(), day.Month(), day.Day(), minute/60, minute%60, 0, 0, in)
}

// Add is the day n days later.
func (d Date) Add(n int) Date {
	return Date(d.At(0, time.UTC).AddDate(0, 0, n).Format(time.DateOnly))
}

// Location is the workshop's time zone; an unknown one, which Save refuses, reads as UTC.
func (w Workshop) Location() *time.Location {
	in, err := time.LoadLocation(w.TimeZone)
	if err != nil {
		return time.UTC
	}
	return in
}

// DueAt is the moment by which what is due on a day must be ready.
func (w Workshop) DueAt(d Date) time.Time { return d.At(w.HandOverMinute, w.Location()) }

// Open lists the stretches between from and to in which the person works,
// earliest first. Daylight saving is followed: hours are those of the wall clock.
func (p Person) Open(from, to time.Time, in *time.Location) [][2]time.Time {
	open := [][2]time.Time{}
	last := DateOf(to, in)
	for day := DateOf(from, in); day <= last; day = day.Add(1) {
		if p.off(day) {
			continue
		}
		weekday := int(day.At(0, time.UTC).Weekday())
		for _, h := range p.Hours {
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

func (p Person) off(day Date) bool {
	return slices.ContainsFunc(p.DaysOff, func(d DaysOff) bool { return d.FirstDay <= day && day <= d.LastDay })
}

// FirstOpening is the first moment, not before one, from which anyone works so
// many minutes in one go; the moment itself when nobody does within a fortnight.
func (w Workshop) FirstOpening(from time.Time, minutes int) time.Time {
	first := from
	for _, p := range w.People {
		for _, open := range p.Open(from, from.AddDate(0, 0, 14), w.Location()) {
			if open[1].Sub(open[0]) < time.Duration(minutes)*time.Minute {
				continue
			}
			if first.Equal(from) && !open[0].Equal(from) || open[0].Before(first) {
				first = open[0]
			}
			break
		}
	}
	return first
}

// Longest is the longest stretch, in minutes, that anyone works in one go in an ordinary week.
func (w Workshop) Longest() int {
	longest := 0
	for _, p := range w.People {
		for _, h := range p.Hours {
			longest = max(longest, h.ToMinute-h.FromMinute)
		}
	}
	return longest
}

// Sitting is the most minutes one step may take: the chosen sitting, or the
// longest stretch anyone works where that is shorter.
func (w Workshop) Sitting() int { return min(w.SittingMinutes, w.Longest()) }
