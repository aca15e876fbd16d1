package backup

import (
	"regexp"
	"slices"
	"time"
)

// How many are kept: all of the last days, and of older ones the last of each week and month.
const (
	daysKept   = 7
	weeksKept  = 4
	monthsKept = 12
)

// nameOf is the name of a backup's file: when it was made, to the second, in UTC.
func nameOf(at time.Time, encrypted bool) string {
	name := "tidykiln-" + at.UTC().Format(nameForm) + ".tar.gz"
	if encrypted {
		name += ".age"
	}
	return name
}

const nameForm = "20060102T150405Z"

var backupName = regexp.MustCompile(`^tidykiln-(\d{8}T\d{6}Z)\.tar\.gz(\.age)?$`)

// madeAt reads a name back; false for any other file.
func madeAt(name string) (time.Time, bool) {
	m := backupName.FindStringSubmatch(name)
	if m == nil {
		return time.Time{}, false
	}
	at, err := time.Parse(nameForm, m[1])
	return at, err == nil
}

// outdated are those of the backups, by name, that are not kept any more: all of the last
// 7 days that have any are kept, the last of each of the last 4 weeks and of the last 12 months
// that have any. Days are those of a place. The newest one is always kept.
func outdated(names []string, in *time.Location) (gone []string) {
	names = slices.Clone(names)
	slices.Sort(names)
	slices.Reverse(names)
	days, weeks, months := map[string]bool{}, map[[2]int]bool{}, map[string]bool{}
	for _, name := range names {
		at, is := madeAt(name)
		if !is {
			continue
		}
		at = at.In(in)
		day, month := at.Format(time.DateOnly), at.Format("2006-01")
		year, number := at.ISOWeek()
		week := [2]int{year, number}
		keep := days[day] || len(days) < daysKept
		if keep {
			days[day] = true
		}
		if !weeks[week] && len(weeks) < weeksKept {
			weeks[week], keep = true, true
		}
		if !months[month] && len(months) < monthsKept {
			months[month], keep = true, true
		}
		if !keep {
			gone = append(gone, name)
		}
	}
	return gone
}
