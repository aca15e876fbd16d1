package workshop_test

import (
	"context"
	"testing"
	"time"

	"github.com/shopspring/decimal"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"tidykiln/core/calendar"
	"tidykiln/core/habit"
	"tidykiln/internal/database/dbtest"
	"tidykiln/internal/problem"
	"tidykiln/internal/standin"
	"tidykiln/internal/workshop"
)

func area(t *testing.T) *workshop.Area {
	return workshop.New(dbtest.New(t), func() time.Time { return time.Date(2027, 3, 1, 9, 0, 0, 0, time.UTC) }, &standin.Hygrometer{})
}

func weekdays(from, to int) (hours []calendar.Hours) {
	for d := 1; d <= 5; d++ {
		hours = append(hours, calendar.Hours{Weekday: d, FromMinute: from, ToMinute: to})
	}
	return hours
}

func TestAWorkshopIsSavedAsAWhole(t *testing.T) {
	a, ctx := area(t), context.Background()
	w, err := a.Get(ctx)
	require.NoError(t, err)
	assert.Empty(t, w.People)
	assert.Equal(t, habit.Habit{Clock: "24h", FirstWeekday: 1, DateOrder: "dmy", DecimalSign: "point"}, w.Habit, "until somebody says otherwise")
	w.Habit = habit.Habit{Clock: "12h", FirstWeekday: 0, DateOrder: "mdy", DecimalSign: "comma", CurrencySign: "€", SignFirst: true}
	w.Name, w.TimeZone, w.LabourPerHour = "  Reed Quay  ", "Europe/Berlin", decimal.RequireFromString("17.25")
	w.People = []workshop.Person{
		{Name: "Maren", Hours: weekdays(540, 900), DaysOff: []calendar.DaysOff{{FirstDay: "2027-03-05", LastDay: "2027-03-08"}}},
		{Name: "Olin", Hours: []calendar.Hours{}, DaysOff: []calendar.DaysOff{}},
	}
	saved, err := a.Save(ctx, w)
	require.NoError(t, err)
	assert.Equal(t, "Reed Quay", saved.Name)
	assert.Equal(t, w.Habit, saved.Habit)
	assert.Equal(t, "€12,50", saved.Money(decimal.RequireFromString("12.5")))
	assert.Equal(t, w.Version+1, saved.Version)
	require.Len(t, saved.People, 2)
	assert.Len(t, saved.People[0].Hours, 5)
	assert.Equal(t, calendar.Date("2027-03-08"), saved.People[0].DaysOff[0].LastDay)

	saved.People = saved.People[:1]
	left, err := a.Save(ctx, saved)
	require.NoError(t, err)
	assert.Len(t, left.People, 1)
	assert.Equal(t, "17.25", left.LabourPerHour.String())
}

func TestTheFirstOpeningIsWhenTheFirstOfAllIsThere(t *testing.T) {
	w := workshop.Workshop{TimeZone: "Etc/UTC", People: []workshop.Person{{Hours: weekdays(540, 900)}, {Hours: weekdays(600, 900)}}}
	monday := func(hour, minute int) time.Time { return time.Date(2027, 3, 1, hour, minute, 0, 0, time.UTC) }
	for _, c := range []struct {
		from    time.Time
		minutes int
		want    time.Time
	}{
		{monday(9, 10), 10, monday(9, 10)},
		{monday(7, 0), 10, monday(9, 0)},
		{monday(14, 55), 10, monday(24+9, 0)},
		{monday(9, 10), 361, monday(9, 10)},
	} {
		assert.Equal(t, c.want, w.FirstOpening(c.from, c.minutes).UTC(), "%s for %d min", c.from, c.minutes)
		w.People[0], w.People[1] = w.People[1], w.People[0]
		assert.Equal(t, c.want, w.FirstOpening(c.from, c.minutes).UTC(), "whoever is named first")
	}
	assert.Equal(t, monday(9, 0), workshop.Workshop{TimeZone: "Etc/UTC"}.FirstOpening(monday(9, 0), 10), "nobody works: as asked")
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
			w.People[0].Hours = append(w.People[0].Hours, calendar.Hours{Weekday: 1, FromMinute: 600, ToMinute: 660})
		},
		"body.people[0].daysOff[0].lastDay": func(w *workshop.Workshop) {
			w.People[0].DaysOff = []calendar.DaysOff{{FirstDay: "2027-03-08", LastDay: "2027-03-05"}}
		},
		"body.people[0].id": func(w *workshop.Workshop) { w.People[0].ID = 77 },
	} {
		w := good
		w.People = []workshop.Person{{Name: "Maren", Hours: []calendar.Hours{{Weekday: 1, FromMinute: 540, ToMinute: 900}}}}
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

func TestDuesAndSittings(t *testing.T) {
	w := workshop.Workshop{TimeZone: "Europe/Berlin", HandOverMinute: 17 * 60, SittingMinutes: 150,
		People: []workshop.Person{{Hours: []calendar.Hours{{FromMinute: 540, ToMinute: 640}}}}}
	assert.Equal(t, "2027-03-27T16:00:00Z", w.DueAt("2027-03-27").UTC().Format(time.RFC3339))
	assert.Equal(t, "2027-03-28T15:00:00Z", w.DueAt("2027-03-28").UTC().Format(time.RFC3339))
	assert.Equal(t, 100, w.Sitting(), "nobody works longer in one go")
	assert.Equal(t, time.UTC, workshop.Workshop{TimeZone: "no/zone"}.Location())
}
