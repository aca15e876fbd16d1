// Package calendar knows the days on which people work: dates, weekly hours and
// days off, by the wall clock of a place, daylight saving included.
package calendar

import (
	"database/sql/driver"
	"fmt"
	"time"
)

// Date is a calendar day of a place, as 2006-01-02. Dates compare as strings.
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
