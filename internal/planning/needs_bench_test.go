package planning

import (
	"fmt"
	"testing"
	"time"

	"github.com/stretchr/testify/require"
	"gorm.io/gorm"

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
	a := &Area{db: db, now: func() time.Time { return now }, kept: s}
	for b.Loop() {
		n, err := a.Needs(b.Context())
		require.NoError(b, err)
		require.NotEmpty(b, n.Materials)
	}
}

func scheduleOf(b *testing.B, db *database.DB, now time.Time) (s *Schedule) {
	var snapshot Snapshot
	require.NoError(b, db.Read(b.Context(), func(tx *gorm.DB) (err error) {
		snapshot, err = loadSnapshot(tx, now)
		return err
	}))
	s, err := makeSchedule(snapshot, nil)
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
