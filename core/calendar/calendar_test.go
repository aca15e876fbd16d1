package calendar_test

import (
	"testing"
	"time"

	"tidykiln/core/fault"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"tidykiln/core/calendar"
)

func TestOpenHoursFollowTheWallClock(t *testing.T) {
	berlin, err := time.LoadLocation("Europe/Berlin")
	require.NoError(t, err)
	p := calendar.Times{Hours: []calendar.Hours{{Weekday: 0, FromMinute: 60, ToMinute: 300}, {Weekday: 6, FromMinute: 540, ToMinute: 900}, {Weekday: 0, FromMinute: 1200, ToMinute: 1440}},
		DaysOff: []calendar.DaysOff{{FirstDay: "2027-04-03", LastDay: "2027-04-04"}}}
	from := time.Date(2027, 3, 27, 0, 0, 0, 0, time.UTC)
	open := p.Open(from, from.AddDate(0, 0, 9), berlin)
	var got []string
	for _, o := range open {
		got = append(got, o[0].UTC().Format("2 15:04")+" to "+o[1].UTC().Format("2 15:04"))
	}
	// On Sunday the 28th clocks go from 02:00 to 03:00: 01:00 to 05:00 has three hours.
	assert.Equal(t, []string{"27 08:00 to 27 14:00", "28 00:00 to 28 03:00", "28 18:00 to 28 22:00"}, got, "the next weekend is off")

	clipped := p.Open(time.Date(2027, 3, 27, 10, 0, 0, 0, time.UTC), time.Date(2027, 3, 27, 11, 0, 0, 0, time.UTC), berlin)
	require.Len(t, clipped, 1)
	assert.Equal(t, time.Hour, clipped[0][1].Sub(clipped[0][0]))
}

// Whatever the zone, and on days when its clocks change, hours are those of the
// weekday that the wall shows there.
func TestHoursFallOnTheirWeekdayInEveryZone(t *testing.T) {
	monday := calendar.Hours{Weekday: 1, FromMinute: 540, ToMinute: 900}
	sunday := calendar.Hours{Weekday: 0, FromMinute: 300, ToMinute: 480}
	p := calendar.Times{Hours: []calendar.Hours{monday, sunday}, DaysOff: []calendar.DaysOff{{FirstDay: "2027-06-14", LastDay: "2027-06-14"}}}
	for _, name := range []string{"Etc/UTC", "Europe/Berlin", "Asia/Tokyo", "Asia/Karachi", "Asia/Kathmandu", "Pacific/Auckland", "Pacific/Kiritimati", "Pacific/Pago_Pago", "America/St_Johns",
		"America/Santiago", "Africa/Cairo", "Asia/Beirut", "Australia/Lord_Howe", "America/Los_Angeles"} {
		in, err := time.LoadLocation(name)
		require.NoError(t, err)
		from := time.Date(2027, 1, 1, 0, 0, 0, 0, in)
		mondays, sundays := 0, 0
		for _, o := range p.Open(from, from.AddDate(1, 0, 0), in) {
			start, end := o[0].In(in), o[1].In(in)
			hours := monday
			if start.Weekday() == time.Sunday {
				hours = sunday
				sundays++
			} else {
				mondays++
			}
			assert.Equal(t, time.Weekday(hours.Weekday), start.Weekday(), "%s %s", name, start)
			assert.Equal(t, hours.FromMinute, start.Hour()*60+start.Minute(), "%s %s", name, start)
			assert.Equal(t, hours.ToMinute, end.Hour()*60+end.Minute(), "%s %s", name, end)
			assert.NotEqual(t, calendar.Date("2027-06-14"), calendar.DateOf(start, in), "a day off")
		}
		assert.Equal(t, 51, mondays, name)
		assert.Equal(t, 52, sundays, name)
	}
}

func TestDatesAreThoseOfThePlace(t *testing.T) {
	berlin, err := time.LoadLocation("Europe/Berlin")
	require.NoError(t, err)
	assert.Equal(t, calendar.Date("2027-03-01"), calendar.Date("2027-02-28").Add(1))
	assert.Equal(t, calendar.Date("2027-03-02"), calendar.DateOf(time.Date(2027, 3, 1, 23, 30, 0, 0, time.UTC), berlin))
	assert.True(t, calendar.Date("nonsense").At(0, time.UTC).IsZero())
	var d calendar.Date
	require.NoError(t, d.Scan(time.Date(2027, 3, 1, 0, 0, 0, 0, time.UTC)))
	assert.Equal(t, calendar.Date("2027-03-01"), d)
	assert.ErrorContains(t, d.Scan("2027-03-01"), "is no date")
}

func TestTimesThatCannotBeNameTheirPlace(t *testing.T) {
	nine := calendar.Hours{Weekday: 1, FromMinute: 540, ToMinute: 900}
	assert.NoError(t, calendar.Times{Hours: []calendar.Hours{nine, {Weekday: 2, FromMinute: 540, ToMinute: 900}}}.Validate())
	assert.Equal(t, "hours[0].toMinute", fault.Of(calendar.Times{Hours: []calendar.Hours{{Weekday: 1, FromMinute: 900, ToMinute: 900}}}.Validate()).Path)
	assert.Equal(t, "hours[1].fromMinute", fault.Of(calendar.Times{Hours: []calendar.Hours{nine, {Weekday: 1, FromMinute: 600, ToMinute: 660}}}.Validate()).Path)
	assert.Equal(t, "daysOff[0].lastDay", fault.Of(calendar.Times{DaysOff: []calendar.DaysOff{{FirstDay: "2027-03-08", LastDay: "2027-03-05"}}}.Validate()).Path)
	assert.Equal(t, 360, calendar.Times{Hours: []calendar.Hours{nine}}.Longest())
}

func TestExtraHoursAreWorkedBesideTheWeeks(t *testing.T) {
	at := func(day, hour int) time.Time { return time.Date(2027, 5, day, hour, 0, 0, 0, time.UTC) }
	p := calendar.Times{Hours: []calendar.Hours{{Weekday: 2, FromMinute: 540, ToMinute: 900}}, DaysOff: []calendar.DaysOff{{FirstDay: "2027-05-06", LastDay: "2027-05-06"}},
		ExtraHours: []calendar.ExtraHours{{Day: "2027-05-06", FromMinute: 600, ToMinute: 660}, {Day: "2027-05-04", FromMinute: 840, ToMinute: 1020}, {Day: "2027-05-04", FromMinute: 420, ToMinute: 480}, {Day: "2027-05-11", FromMinute: 0, ToMinute: 60}}}
	open := p.Open(at(4, 0), at(10, 0), time.UTC)
	assert.Equal(t, [][2]time.Time{{at(4, 7), at(4, 8)}, {at(4, 9), at(4, 17)}, {at(6, 10), at(6, 11)}}, open, "before and after the week's hours, and on a day off")
	assert.NoError(t, p.Validate())
	p.ExtraHours[1].ToMinute = 840
	assert.Equal(t, "extraHours[1].toMinute", fault.Of(p.Validate()).Path)
}
