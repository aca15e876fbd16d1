package planning_test

import (
	"context"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"tidykiln/internal/demo/demotest"
	"tidykiln/internal/house"
	"tidykiln/internal/planning"
	"tidykiln/internal/standin"
)

// Minute by minute the plan goes on from the one that stands, and nobody is
// planned outside their hours.
func TestPlansThatStandKeepToTheHours(t *testing.T) {
	now := busyMorning
	rooms := house.New(demotest.New(t, busyMorning, "Etc/UTC"), func() time.Time { return now }, &standin.Hygrometer{}, standin.NewPrinter(time.Now))
	w, err := rooms.Workshop.Get(context.Background())
	require.NoError(t, err)
	for range 10 {
		p, err := rooms.Planning.Days(context.Background(), "", 7)
		require.NoError(t, err)
		for _, h := range p.Hands {
			if h.State != planning.BarPlanned && h.State != planning.BarTentative {
				continue
			}
			within := false
			for _, person := range w.People {
				if person.ID == h.PersonID {
					open := person.Times().Open(h.Start, h.End, time.UTC)
					within = len(open) == 1 && open[0][0].Equal(h.Start) && open[0][1].Equal(h.End)
				}
			}
			assert.True(t, within, "%s: %s by %s from %s to %s", now.Format("15:04"), h.Name, h.Person, h.Start, h.End)
		}
		now = now.Add(time.Minute)
	}
}
