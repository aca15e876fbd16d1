package demo_test

import (
	"context"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"tidykiln/internal/database"
	"tidykiln/internal/demo"
	"tidykiln/internal/demo/demotest"
	"tidykiln/internal/house"
	"tidykiln/internal/planning"
	"tidykiln/internal/standin"
)

func loaded(t *testing.T, now time.Time, zone string) (*database.DB, *house.House) {
	t.Helper()
	db := demotest.New(t, now, zone)
	return db, house.New(db, func() time.Time { return now }, &standin.Hygrometer{}, standin.NewPrinter(time.Now))
}

// Whenever it is first started, the demo has something in hand, something
// ready, several lots resting and a promise at risk.
func TestTheDemoIsAliveAtAnyHour(t *testing.T) {
	for _, c := range []struct{ at, zone string }{
		{"2027-05-04T10:26:00Z", "Etc/UTC"},
		{"2027-05-01T03:10:00Z", "Etc/UTC"},
		{"2027-05-02T23:59:00Z", "Etc/UTC"},
		{"2027-03-28T00:30:00Z", "Europe/Berlin"},
		{"2027-10-31T01:30:00Z", "Europe/Berlin"},
		{"2027-01-01T04:00:00Z", "Pacific/Auckland"},
	} {
		t.Run(c.at, func(t *testing.T) {
			now, err := time.Parse(time.RFC3339, c.at)
			require.NoError(t, err)
			_, rooms := loaded(t, now, c.zone)
			today, err := rooms.Desk.Today(context.Background())
			require.NoError(t, err)
			require.Len(t, today.InHand, 1)
			assert.NotNil(t, today.InHand[0].RunningSince, "its timer runs")
			assert.NotEmpty(t, today.Ready)
			assert.GreaterOrEqual(t, len(today.Resting), 3)
			assert.NotEmpty(t, today.HandOver)
			assert.NotEmpty(t, today.Wanted)
			rows, err := rooms.Desk.Ledger(context.Background())
			require.NoError(t, err)
			atRisk := 0
			for _, r := range rows {
				if r.Readiness.State == planning.ReadyLate || r.Readiness.State == planning.ReadyTight {
					atRisk++
				}
			}
			assert.GreaterOrEqual(t, atRisk, 1)
			assert.GreaterOrEqual(t, len(rows), 8)
		})
	}
}

func TestADatabaseInUseIsLeftAlone(t *testing.T) {
	now := time.Date(2027, 5, 4, 10, 26, 0, 0, time.UTC)
	db, _ := loaded(t, now, "Etc/UTC")
	told, err := demo.Load(context.Background(), db, demotest.Files(t, db), now, "Etc/UTC")
	require.NoError(t, err)
	assert.False(t, told)
}
