package planning

import (
	"fmt"
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"tidykiln/core/plan"
	"tidykiln/internal/database"
	"tidykiln/internal/demo/demotest"
)

// What 300 planned batches take from the stores, once they are planned.
func BenchmarkNeedsOfThreeHundredBatches(b *testing.B) {
	now := time.Date(2027, 5, 4, 10, 26, 0, 0, time.UTC)
	db := demotest.New(b, now, "Etc/UTC")
	s := scheduleOf(b, db, now)
	var jobs []Job
	for i := range 300 {
		j := s.Jobs[i%len(s.Jobs)]
		j.ID = fmt.Sprintf("many-%d", i)
		jobs = append(jobs, placedAnew(j, now.Add(time.Duration(i)*time.Hour)))
	}
	s.Jobs = jobs
	a := New(db, func() time.Time { return now })
	stand(a, s)
	for b.Loop() {
		n, err := a.Needs(b.Context())
		require.NoError(b, err)
		require.NotEmpty(b, n.Materials)
	}
}

func scheduleOf(b *testing.B, db *database.DB, now time.Time) *Schedule {
	s, err := makeSchedule(b.Context(), snapshotOf(b, db, now))
	require.NoError(b, err)
	return s
}

// placedAnew lays every step that is left of a job one after the other from a moment on.
func placedAnew(j Job, from time.Time) Job {
	j.Placed = nil
	for i := j.First; i < len(j.Recipe.Steps); i++ {
		end := from.Add(30 * time.Minute)
		j.Placed = append(j.Placed, plan.PlannedStep{Job: j.ID, Step: stepID(i), Start: from, End: end})
		from = end.Add(time.Hour)
	}
	return j
}

// stand lets a schedule be the plan that stands.
func stand(a *Area, s *Schedule) {
	m := &making{revision: s.Revision, minute: s.Now.Truncate(time.Minute), loaded: make(chan struct{}), done: make(chan struct{})}
	close(m.loaded)
	a.keeper.newest = m
	a.keeper.end(m, s, nil)
}
