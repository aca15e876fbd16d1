package workshop_test

import (
	"context"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"tidykiln/core/craft"
	"tidykiln/core/weather"
	"tidykiln/internal/database/dbtest"
	"tidykiln/internal/house/housetest"
	"tidykiln/internal/problem"
	"tidykiln/internal/standin"
	"tidykiln/internal/workshop"
)

// sensor reads what it is told to.
type sensor struct{ air weather.Air }

func (s *sensor) Read(time.Time) (weather.Air, error) { return s.air, nil }

func TestReadingsAreKeptByTheHourAndGrowOld(t *testing.T) {
	now := time.Date(2027, 3, 1, 9, 10, 0, 0, time.UTC)
	device := &sensor{weather.Air{Celsius: 20, Humidity: 0.5}}
	a, ctx := workshop.New(dbtest.New(t), func() time.Time { return now }, device), context.Background()
	r, err := a.Room(ctx)
	require.NoError(t, err)
	assert.Nil(t, r.Celsius, "not read yet")
	assert.False(t, r.Simulated)
	require.NoError(t, a.KeepReading(ctx))
	now = now.Add(10 * time.Minute)
	device.air = weather.Air{Celsius: 9, Humidity: 0.7}
	require.NoError(t, a.KeepReading(ctx))
	r, err = a.Room(ctx)
	require.NoError(t, err)
	assert.Equal(t, 9.0, *r.Celsius)
	require.Len(t, r.Hours, 1)
	assert.InDelta(t, 14.5, r.Hours[0].Celsius, 1e-9)
	assert.InDelta(t, 0.6, r.Hours[0].Humidity, 1e-9)
	assert.Equal(t, 9.0, *r.Lowest)
	assert.Contains(t, r.Advice, "Under 10 °C")
	assert.Contains(t, r.Cold(0), "9 °C")

	now = now.Add(25 * time.Minute)
	device.air = weather.Air{Celsius: 19, Humidity: 0.5}
	require.NoError(t, a.KeepReading(ctx))
	r, err = a.Room(ctx)
	require.NoError(t, err)
	assert.Contains(t, r.Advice, "fell under 10 °C")
	assert.Empty(t, r.Cold(60))
	assert.Contains(t, r.Cold(720), "through the night", "the night's low counts for a long rest")

	now = now.Add(31 * time.Minute)
	r, err = a.Room(ctx)
	require.NoError(t, err)
	assert.Nil(t, r.Celsius, "a reading of half an hour ago says nothing of now")
	_, err = a.ChangeRoom(ctx, workshop.RoomChange{Raining: true})
	housetest.RefusedAs(t, err, problem.Unfit)
}

func TestTheSimulatedSensorFollowsTheDayAndTheRain(t *testing.T) {
	now := time.Date(2027, 3, 1, 15, 0, 0, 0, time.UTC)
	device := &standin.Hygrometer{}
	a, ctx := workshop.New(dbtest.New(t), func() time.Time { return now }, device), context.Background()
	dry, err := device.Read(now)
	require.NoError(t, err)
	night, err := device.Read(now.Add(-12 * time.Hour))
	require.NoError(t, err)
	assert.Greater(t, dry.Celsius, night.Celsius)
	r, err := a.ChangeRoom(ctx, workshop.RoomChange{Simulating: true, Raining: true})
	require.NoError(t, err)
	assert.True(t, r.Raining && r.Simulated && r.Simulating)
	assert.Greater(t, *r.Humidity, craft.TooDamp)
	assert.Contains(t, r.Advice, "Over 85 % damp")
	assert.Greater(t, r.DrySlower, 2.0)
	r, err = a.ChangeRoom(ctx, workshop.RoomChange{Simulating: true})
	require.NoError(t, err)
	assert.Less(t, *r.Humidity, craft.TooDamp)
	for hour := range 24 * 40 {
		air, err := device.Read(now.Add(time.Duration(hour) * time.Hour))
		require.NoError(t, err)
		assert.True(t, air.Celsius > 15 && air.Celsius < 25 && air.Humidity > 0.4 && air.Humidity < 0.7, "%v", air)
	}
}

func TestASimulatedSensorThatIsOffSaysNothing(t *testing.T) {
	now := time.Date(2027, 3, 1, 15, 0, 0, 0, time.UTC)
	a, ctx := workshop.New(dbtest.New(t), func() time.Time { return now }, &standin.Hygrometer{}), context.Background()
	silent := func(why string) {
		t.Helper()
		require.NoError(t, a.KeepReading(ctx))
		r, err := a.Room(ctx)
		require.NoError(t, err)
		assert.Nil(t, r.Celsius, why)
		assert.Nil(t, r.Lowest, why)
		assert.Empty(t, r.Hours, why)
		assert.Empty(t, r.Advice, why)
		assert.Empty(t, r.Cold(720), why)
	}
	silent("nobody has switched it on")
	r, err := a.ChangeRoom(ctx, workshop.RoomChange{Simulating: true, Raining: true})
	require.NoError(t, err)
	assert.NotEmpty(t, r.Advice)
	_, err = a.ChangeRoom(ctx, workshop.RoomChange{})
	require.NoError(t, err)
	silent("what it had made up goes with it")
}

func TestWatchingKeepsAReadingAtOnceAndStops(t *testing.T) {
	now := time.Date(2027, 3, 1, 15, 0, 0, 0, time.UTC)
	a := workshop.New(dbtest.New(t), func() time.Time { return now }, &standin.Hygrometer{})
	_, err := a.ChangeRoom(context.Background(), workshop.RoomChange{Simulating: true})
	require.NoError(t, err)
	now = now.Add(time.Minute)
	ctx, stop := context.WithCancel(context.Background())
	done := make(chan struct{})
	go func() {
		a.WatchRoom(ctx, func(err error) { assert.NoError(t, err) })
		close(done)
	}()
	require.Eventually(t, func() bool {
		r, err := a.Room(context.Background())
		return err == nil && r.ReadAt != nil && r.ReadAt.Equal(now)
	}, 10*time.Second, 10*time.Millisecond)
	stop()
	<-done
}
