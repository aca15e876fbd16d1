package planning

import (
	"context"
	"time"

	"gorm.io/gorm"

	"tidykiln/core/chance"
	"tidykiln/core/plan"
	"tidykiln/internal/batches"
)

// What tests and benchmarks see of a plan's inside.

// MakeSchedule plans a snapshot anew.
func MakeSchedule(ctx context.Context, s Snapshot) (*Schedule, error) {
	return makeSchedule(ctx, s, nil)
}

// SnapshotNow reads what a plan would be made from.
func (a *Area) SnapshotNow(ctx context.Context) (s Snapshot, err error) {
	err = a.db.Read(ctx, func(tx *gorm.DB) error {
		s, err = a.loadSnapshot(tx, a.now())
		return err
	})
	return s, err
}

// PlacedAnew lays every step that is left of a job one after the other from a moment on.
func (j Job) PlacedAnew(from time.Time) Job {
	j.Placed = nil
	for i := j.First; i < len(j.Recipe.Steps); i++ {
		end := from.Add(30 * time.Minute)
		j.Placed = append(j.Placed, plan.PlannedStep{Job: j.ID, Step: stepID(i), Start: from, End: end})
		from = end.Add(time.Hour)
	}
	return j
}

// Stand lets a schedule be the plan that stands.
func (a *Area) Stand(s *Schedule) {
	m := &making{revision: s.Revision, minute: s.Now.Truncate(time.Minute), loaded: make(chan struct{}), done: make(chan struct{})}
	close(m.loaded)
	a.keeper.newest = m
	a.keeper.end(m, s, nil)
}

// Played is a schedule as it is played, at the pace that nothing was seen of.
func (s *Schedule) Played() chance.Studio { return s.played(batches.Pace{}) }
