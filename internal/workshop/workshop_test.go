package workshop_test

import (
	"context"
	"testing"
	"time"

	"github.com/shopspring/decimal"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"tidykiln/internal/database/dbtest"
	"tidykiln/internal/problem"
	"tidykiln/internal/standin"
	"tidykiln/internal/workshop"
)

func area(t *testing.T) *workshop.Area {
	return workshop.New(dbtest.New(t), func() time.Time { return time.Date(2027, 3, 1, 9, 0, 0, 0, time.UTC) }, &standin.Hygrometer{})
}

func weekdays(from, to int) (hours []workshop.Hours) {
	for d := 1; d <= 5; d++ {
		hours = append(hours, workshop.Hours{Weekday: d, FromMinute: from, ToMinute: to})
	}
	return hours
}

func TestAWorkshopIsSavedAsAWhole(t *testing.T) {
	a, ctx := area(t), context.Background()
	w, err := a.Get(ctx)
	require.NoError(t, err)
	assert.Empty(t, w.People)
	w.Name, w.TimeZone, w.LabourPerHour = "  Reed Quay  ", "Europe/Berlin", decimal.RequireFromString("17.25")
	w.People = []workshop.Person{
		{Name: "Maren", Hours: weekdays(540, 900), DaysOff: []workshop.DaysOff{{FirstDay: "2027-03-05", LastDay: "2027-03-08"}}},
		{Name: "Olin", Hours: []workshop.Hours{}, DaysOff: []workshop.DaysOff{}},
	}
	saved, err := a.Save(ctx, w)
	require.NoError(t, err)
	assert.Equal(t, "Reed Quay", saved.Name)
	assert.Equal(t, w.Version+1, saved.Version)
	require.Len(t, saved.People, 2)
	assert.Len(t, saved.People[0].Hours, 5)
	assert.Equal(t, workshop.Date("2027-03-08"), saved.People[0].DaysOff[0].LastDay)

	saved.People = saved.People[:1]
	left, err := a.Save(ctx, saved)
	require.NoError(t, err)
	assert.Len(t, left.People, 1)
	assert.Equal(t, "17.25", left.LabourPerHour.String())
}

func TestAStaleWorkshopIsRefused(t *testing.T) {
	a, ctx := area(t), context.Background()
	w, err := a.Get(ctx)
	require.NoError(t, err)
	w.People = []workshop.Person{{Name: "Maren"}}
	_, err = a.Save(ctx, w)
	require.NoError(t, err)
	_, err = a.Save(ctx, w)
	var p *problem.Problem
	require.ErrorAs(t, err, &p)
	assert.Equal(t, problem.Stale, p.Type)
}

func TestABadWorkshopNamesTheField(t *testing.T) {
	a, ctx := area(t), context.Background()
	good, err := a.Get(ctx)
	require.NoError(t, err)
	for field, spoil := range map[string]func(*workshop.Workshop){
		"body.name":                        func(w *workshop.Workshop) { w.Name = " " },
		"body.timeZone":                    func(w *workshop.Workshop) { w.TimeZone = "Mars/Olympus" },
		"body.people[0].name":              func(w *workshop.Workshop) { w.People[0].Name = "" },
		"body.people[0].hours[0].toMinute": func(w *workshop.Workshop) { w.People[0].Hours[0].ToMinute = 100 },
		"body.people[0].hours[1].fromMinute": func(w *workshop.Workshop) {
			w.People[0].Hours = append(w.People[0].Hours, workshop.Hours{Weekday: 1, FromMinute: 600, ToMinute: 660})
		},
		"body.people[0].daysOff[0].lastDay": func(w *workshop.Workshop) {
			w.People[0].DaysOff = []workshop.DaysOff{{FirstDay: "2027-03-08", LastDay: "2027-03-05"}}
		},
		"body.people[0].id": func(w *workshop.Workshop) { w.People[0].ID = 77 },
	} {
		w := good
		w.People = []workshop.Person{{Name: "Maren", Hours: []workshop.Hours{{Weekday: 1, FromMinute: 540, ToMinute: 900}}}}
		spoil(&w)
		_, err := a.Save(ctx, w)
		var p *problem.Problem
		require.ErrorAs(t, err, &p, field)
		require.Len(t, p.Errors, 1, field)
		assert.Equal(t, field, p.Errors[0].Location)
	}
	left, err := a.Get(ctx)
	require.NoError(t, err)
	assert.Equal(t, good, left, "nothing was saved by halves")
}

func TestOpenHoursFollowTheWallClock(t *testing.T) {
	berlin, err := time.LoadLocation("Europe/Berlin")
	require.NoError(t, err)
	p := workshop.Person{Hours: []workshop.Hours{{Weekday: 0, FromMinute: 60, ToMinute: 300}, {Weekday: 6, FromMinute: 540, ToMinute: 900}, {Weekday: 0, FromMinute: 1200, ToMinute: 1440}},
		DaysOff: []workshop.DaysOff{{FirstDay: "2027-04-03", LastDay: "2027-04-04"}}}
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
	monday := workshop.Hours{Weekday: 1, FromMinute: 540, ToMinute: 900}
	sunday := workshop.Hours{Weekday: 0, FromMinute: 300, ToMinute: 480}
	p := workshop.Person{Hours: []workshop.Hours{monday, sunday}, DaysOff: []workshop.DaysOff{{FirstDay: "2027-06-14", LastDay: "2027-06-14"}}}
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
			assert.NotEqual(t, workshop.Date("2027-06-14"), workshop.DateOf(start, in), "a day off")
		}
		assert.Equal(t, 51, mondays, name)
		assert.Equal(t, 52, sundays, name)
	}
}

func TestDuesAndDates(t *testing.T) {
	w := workshop.Workshop{TimeZone: "Europe/Berlin", HandOverMinute: 17 * 60, SittingMinutes: 150,
		People: []workshop.Person{{Hours: []workshop.Hours{{FromMinute: 540, ToMinute: 640}}}}}
	assert.Equal(t, "2027-03-27T16:00:00Z", w.DueAt("2027-03-27").UTC().Format(time.RFC3339))
	assert.Equal(t, "2027-03-28T15:00:00Z", w.DueAt("2027-03-28").UTC().Format(time.RFC3339))
	assert.Equal(t, workshop.Date("2027-03-01"), workshop.Date("2027-02-28").Add(1))
	assert.Equal(t, workshop.Date("2027-03-02"), workshop.DateOf(time.Date(2027, 3, 1, 23, 30, 0, 0, time.UTC), w.Location()))
	assert.Equal(t, 100, w.Sitting(), "nobody works longer in one go")
	assert.Equal(t, time.UTC, workshop.Workshop{TimeZone: "no/zone"}.Location())
	assert.True(t, workshop.Date("nonsense").At(0, time.UTC).IsZero())
}
