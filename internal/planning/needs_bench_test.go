package planning_test

import (
	"fmt"
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"tidykiln/internal/demo/demotest"
	"tidykiln/internal/planning"
)

// What 300 planned batches take from the stores, once they are planned.
func BenchmarkNeedsOfThreeHundredBatches(b *testing.B) {
	rooms := roomsOf(demotest.New(b, busyMorning, "Etc/UTC"))
	s := scheduleOf(b, rooms.Planning)
	var jobs []planning.Job
	for i := range 300 {
		j := s.Jobs[i%len(s.Jobs)]
		j.ID = fmt.Sprintf("many-%d", i)
		jobs = append(jobs, j.PlacedAnew(busyMorning.Add(time.Duration(i)*time.Hour)))
	}
	s.Jobs = jobs
	rooms.Planning.Stand(s)
	for b.Loop() {
		n, err := rooms.Desk.Needs(b.Context())
		require.NoError(b, err)
		require.NotEmpty(b, n.Materials)
	}
}

func scheduleOf(b *testing.B, a *planning.Area) *planning.Schedule {
	snapshot, err := a.SnapshotNow(b.Context())
	require.NoError(b, err)
	s, err := planning.MakeSchedule(b.Context(), snapshot)
	require.NoError(b, err)
	return s
}
