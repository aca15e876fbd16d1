package demo_test

import (
	"context"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"gorm.io/gorm"

	"tidykiln/core/calendar"
	"tidykiln/internal/database"
	"tidykiln/internal/demo"
	"tidykiln/internal/demo/demotest"
	"tidykiln/internal/house"
	"tidykiln/internal/house/housetest"
	"tidykiln/internal/problem"
	"tidykiln/internal/standin"
	"tidykiln/internal/workshop"
)

func TestTheDemoBeginsInAWorkingMorning(t *testing.T) {
	for real, want := range map[string]string{
		"2026-11-26T01:00:00Z": "Thu 26 10:20", // in the night
		"2026-11-26T22:00:00Z": "Thu 26 10:20", // in the evening
		"2026-11-28T12:00:00Z": "Mon 30 10:20", // on a Saturday
		"2026-11-29T23:30:00Z": "Mon 30 10:20", // a Sunday night, in Berlin already Monday
	} {
		at, err := time.Parse(time.RFC3339, real)
		require.NoError(t, err)
		begin, err := demo.Morning(at, "Europe/Berlin")
		require.NoError(t, err)
		berlin, err := time.LoadLocation("Europe/Berlin")
		require.NoError(t, err)
		assert.Equal(t, want, begin.In(berlin).Format("Mon 2 15:04"), real)
	}
	_, err := demo.Morning(time.Now(), "Nowhere/Here")
	assert.Error(t, err)
}

// timed is the demo studio by a clock of its own, and a real clock beneath it that the test moves.
type timed struct {
	*testing.T
	db    *database.DB
	clock *demo.Clock
	rooms *house.House
	time  *demo.Time
	real  time.Time
}

func newTimed(t *testing.T) *timed {
	begin := time.Date(2027, 5, 4, 10, 20, 0, 0, time.UTC) // a Tuesday
	d := &timed{T: t, db: demotest.New(t, begin, "Etc/UTC"), real: time.Date(2026, 11, 26, 1, 0, 0, 0, time.UTC)}
	d.open(begin)
	return d
}

func (d *timed) open(begin time.Time) {
	d.Helper()
	clock, err := demo.OpenClock(d.Context(), d.db, func() time.Time { return d.real }, begin)
	require.NoError(d, err)
	d.clock = clock
	d.rooms = house.New(d.db, clock.Now, &standin.Hygrometer{}, standin.NewPrinter(clock.Now))
	d.time = demo.NewTime(d.db, clock, d.rooms)
}

func (d *timed) shows() string { return d.clock.Now().Format("Mon 2 15:04:05") }

func (d *timed) move(to demo.Where) demo.Moved {
	d.Helper()
	m, err := d.time.Move(d.Context(), demo.Move{To: to, Since: d.clock.Now()})
	require.NoError(d, err)
	return m
}

func TestTheDemosClockRunsOnStandsStillWhileItIsOffAndNeverGoesBack(t *testing.T) {
	d := newTimed(t)
	assert.Equal(t, "Tue 4 10:20:00", d.shows())
	d.real = d.real.Add(90 * time.Second)
	assert.Equal(t, "Tue 4 10:21:30", d.shows())
	d.move(demo.Quarter)
	assert.Equal(t, "Tue 4 10:36:30", d.shows())
	d.real = d.real.Add(9 * time.Hour) // killed since
	d.open(time.Time{})
	assert.Equal(t, "Tue 4 10:36:35", d.shows(), "where it was last noted, and the five seconds that it may have run on")
	d.real = d.real.Add(3 * time.Second) // killed before it was noted again
	d.open(time.Time{})
	assert.Equal(t, "Tue 4 10:36:40", d.shows())
}

func TestTheClockIsMovedToWhatIsReadyNextToClosingAndToTheMorning(t *testing.T) {
	d := newTimed(t)
	today, err := d.rooms.Desk.Today(d.Context())
	require.NoError(t, err)
	require.NotEmpty(t, today.Resting)
	require.Len(t, today.InHand, 1)
	first, inHand := today.Resting[0], today.InHand[0]

	m := d.move(demo.Ready)
	assert.Equal(t, first.Ready, m.Now)
	assert.Empty(t, m.PutDown, "hours are not over yet")
	today, err = d.rooms.Desk.Today(d.Context())
	require.NoError(t, err)
	lots := map[uint64]bool{}
	for _, sitting := range today.Ready {
		for _, r := range sitting.Lots {
			lots[r.LotID] = true
		}
	}
	assert.True(t, lots[first.LotID], "what was waited for is ready for hands")

	m0 := d.move(demo.Closing)
	assert.Equal(t, "Tue 4 15:00:00", d.shows())
	require.Len(t, m0.PutDown, 1, "put down when hours end, and said so")
	assert.Equal(t, []any{inHand.Person, inHand.StepName, "15:00"}, []any{m0.PutDown[0].Person, m0.PutDown[0].StepName, m0.PutDown[0].At.Format("15:04")})
	_, err = d.time.Move(d.Context(), demo.Move{To: demo.Closing, Since: d.clock.Now()})
	housetest.RefusedAs(t, err, problem.Unfit)

	readings := d.readings()
	m = d.move(demo.Opening)
	assert.Equal(t, "Wed 5 09:00:00", d.shows())
	assert.Empty(t, m.PutDown)
	assert.Greater(t, d.readings(), readings+15, "the room's air goes on through the night")
	today, err = d.rooms.Desk.Today(d.Context())
	require.NoError(t, err)
	require.Len(t, today.InHand, 1)
	assert.Nil(t, today.InHand[0].RunningSince)
	until := m0.PutDown[0].At.Sub(*inHand.RunningSince)
	assert.Equal(t, inHand.WorkedSeconds+int(until.Seconds()), today.InHand[0].WorkedSeconds, "worked on until closing, and no longer")
}

// readings is how many hours of the room's air are kept.
func (d *timed) readings() (hours int) {
	require.NoError(d, d.db.Read(context.Background(), func(tx *gorm.DB) error { return tx.Raw("SELECT COUNT(*) FROM room_hours").Scan(&hours).Error }))
	return hours
}

func TestAPressMovesTheClockOnceAndAWeekendIsLeaptOver(t *testing.T) {
	d := newTimed(t)
	before := d.clock.Now()
	d.move(demo.Quarter)
	_, err := d.time.Move(d.Context(), demo.Move{To: demo.Quarter, Since: before})
	housetest.RefusedAs(t, err, problem.Stale)
	assert.Equal(t, "Tue 4 10:35:00", d.shows())

	d.staff(func(p *workshop.Person) {
		p.DaysOff = []calendar.DaysOff{{FirstDay: "2027-05-05", LastDay: "2027-05-08"}}
	})
	assert.Len(t, d.move(demo.Opening).PutDown, 1)
	assert.Equal(t, "Mon 10 09:00:00", d.shows())

	d.staff(func(p *workshop.Person) { p.Hours = nil })
	_, err = d.time.Move(d.Context(), demo.Move{To: demo.Opening, Since: d.clock.Now()})
	housetest.RefusedAs(t, err, problem.Unfit)
	assert.Equal(t, "Mon 10 09:00:00", d.shows(), "nobody has hours: there is no morning to move to")
}

// staff changes everyone who works there.
func (d *timed) staff(change func(*workshop.Person)) {
	d.Helper()
	w, err := d.rooms.Workshop.Get(d.Context())
	require.NoError(d, err)
	for i := range w.People {
		change(&w.People[i])
	}
	_, err = d.rooms.Workshop.Save(d.Context(), w)
	require.NoError(d, err)
}

func TestOutsideTheDemoTimeGoesByItself(t *testing.T) {
	s := housetest.New(t)
	outside := demo.NewTime(s.DB, nil, s.House)
	_, err := outside.Move(s.Ctx, demo.Move{To: demo.Quarter, Since: s.Now})
	housetest.RefusedAs(t, err, problem.Unfit)
	assert.Equal(t, housetest.Monday, s.Now)
}
