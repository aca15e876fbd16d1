package backup

import (
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"pgregory.net/rapid"
)

// Two years of one backup a night, and what is left at the end of them.
func TestTheLastDaysWeeksAndMonthsAreKept(t *testing.T) {
	var names []string
	begin := time.Date(2026, 1, 1, 3, 0, 0, 0, time.UTC)
	for day := range 730 {
		names = append(names, nameOf(begin.AddDate(0, 0, day), false))
		gone := map[string]bool{}
		for _, name := range outdated(names, time.UTC) {
			gone[name] = true
		}
		var left []string
		for _, name := range names {
			if !gone[name] {
				left = append(left, name)
			}
		}
		names = left
	}
	var days []string
	for _, name := range names {
		at, is := madeAt(name)
		assert.True(t, is)
		days = append(days, at.Format(time.DateOnly))
	}
	assert.Equal(t, []string{
		"2027-01-31", "2027-02-28", "2027-03-31", "2027-04-30", "2027-05-31", "2027-06-30", "2027-07-31", "2027-08-31", "2027-09-30", "2027-10-31", "2027-11-30",
		"2027-12-12", "2027-12-19", "2027-12-25", "2027-12-26", "2027-12-27", "2027-12-28", "2027-12-29", "2027-12-30", "2027-12-31",
	}, days)
}

func TestAllOfADayAreKeptWhileItIsOneOfTheLast(t *testing.T) {
	names := []string{"tidykiln-20270504T030000Z.tar.gz", "tidykiln-20270504T101500Z.tar.gz.age", "notes.txt", "tidykiln-20270504T999999Z.tar.gz"}
	assert.Empty(t, outdated(names, time.UTC), "and what is no backup is nobody's to remove")
}

func TestTheDayIsThatOfTheStudio(t *testing.T) {
	east := time.FixedZone("east", 10*3600)
	var names []string
	for day := range 7 {
		names = append(names, nameOf(time.Date(2027, 5, 1+day, 13, 0, 0, 0, time.UTC), false), nameOf(time.Date(2027, 5, 1+day, 15, 0, 0, 0, time.UTC), false))
	}
	assert.Empty(t, outdated(names, time.UTC), "seven days")
	assert.Equal(t, []string{"tidykiln-20270501T130000Z.tar.gz"}, outdated(names, east), "eight days there")
}

// However they lie, the newest is kept, and no more than 7 days, 4 weeks and 12 months.
func TestTheNewestIsAlwaysKept(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		var names []string
		for _, hours := range rapid.SliceOfNDistinct(rapid.IntRange(0, 24*800), 1, 60, rapid.ID[int]).Draw(t, "hours") {
			names = append(names, nameOf(time.Date(2026, 1, 1, hours, 0, 0, 0, time.UTC), false))
		}
		newest, days := "", map[string]bool{}
		for _, name := range names {
			newest = max(newest, name)
		}
		gone := outdated(names, time.UTC)
		assert.NotContains(t, gone, newest)
		lost := map[string]bool{}
		for _, name := range gone {
			lost[name] = true
		}
		for _, name := range names {
			if !lost[name] {
				days[name[:17]] = true
			}
		}
		assert.LessOrEqual(t, len(days), daysKept+weeksKept+monthsKept)
	})
}
