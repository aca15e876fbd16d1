package planning

import (
	"context"
	"errors"
	"fmt"
	"log/slog"
	"slices"
	"sync"
	"time"

	"gorm.io/gorm"

	"tidykiln/core/plan"
	"tidykiln/internal/database"
	"tidykiln/internal/workshop"
)

// ErrSlow tells that the plan, and nothing else, took longer than an asker waits.
var ErrSlow = errors.New("the plan was not made in time")

// errPassedOver ends a plan that was not begun before a newer one was wanted.
var errPassedOver = errors.New("a newer plan is wanted")

// longestPlanning bounds the making of one plan.
const longestPlanning = 5 * time.Minute

// keeper has the plan that stands. There is one plan for a state of the studio,
// however many ask; one is made at a time, and that of the newest state is
// always made to its end.
type keeper struct {
	mu       sync.Mutex
	standing *Schedule
	newest   *making
	// turn lets one plan be made at a time.
	turn sync.Mutex
	// moves are where steps were that new plans have put elsewhere since somebody looked.
	moves map[stepOf]StepMove
}

// making is a plan on its way. The snapshot is there when loaded is closed,
// schedule or err when done is.
type making struct {
	revision     uint64
	minute       time.Time
	loaded, done chan struct{}
	snapshot     Snapshot
	schedule     *Schedule
	err          error
}

// want is the making of a plan for a state and a minute, begun where there is none.
func (k *keeper) want(revision uint64, now time.Time, plan func(*making)) *making {
	k.mu.Lock()
	defer k.mu.Unlock()
	minute := now.Truncate(time.Minute)
	if m := k.newest; m != nil && m.revision >= revision && m.minute.Equal(minute) {
		return m
	}
	m := &making{revision: revision, minute: minute, loaded: make(chan struct{}), done: make(chan struct{})}
	k.newest = m
	go plan(m)
	return m
}

func (k *keeper) isNewest(m *making) bool {
	k.mu.Lock()
	defer k.mu.Unlock()
	return k.newest == m
}

// end hands the plan, or why there is none, to all who wait for it. After a
// failure the next who asks begins anew.
func (k *keeper) end(m *making, s *Schedule, err error) {
	k.mu.Lock()
	m.schedule, m.err = s, err
	if s != nil {
		k.standing = s
	}
	if err != nil && k.newest == m {
		k.newest = nil
	}
	k.mu.Unlock()
	close(m.done)
}

func (k *keeper) stands() *Schedule {
	k.mu.Lock()
	defer k.mu.Unlock()
	return k.standing
}

// plan makes a plan in its turn, unless a newer one is wanted by then, and
// notes which promises it moves. It goes on when its askers have gone.
func (a *Area) plan(m *making) {
	ctx, cancel := context.WithTimeout(database.By(context.Background(), database.Author{Doing: "Plan anew"}), longestPlanning)
	defer cancel()
	err := a.db.Read(ctx, func(tx *gorm.DB) (err error) {
		m.snapshot, err = a.loadSnapshot(tx, a.now())
		return err
	})
	close(m.loaded)
	if err != nil {
		a.keeper.end(m, nil, fmt.Errorf("planning: %w", err))
		return
	}
	a.keeper.turn.Lock()
	defer a.keeper.turn.Unlock()
	if !a.keeper.isNewest(m) {
		a.keeper.end(m, nil, errPassedOver)
		return
	}
	standing := a.keeper.stands()
	schedule, err := makeSchedule(ctx, m.snapshot, standing)
	if err != nil {
		a.keeper.end(m, nil, fmt.Errorf("planning: %w", err))
		return
	}
	a.keeper.noteMoves(standing, schedule)
	if err := a.notePromises(ctx, schedule); err != nil {
		// The plan is good all the same; the next one notes what this one could not.
		slog.Warn("planning", "what", err)
	}
	a.keeper.end(m, schedule, nil)
}

// Current is the schedule of this minute and state. When it is not made within
// the area's patience, it is by the plan that stands, and says from when.
func (a *Area) Current(ctx context.Context) (*Schedule, error) { return a.current(ctx, a.Patience) }

// fresh is Current without a bound to its patience but the asker's.
func (a *Area) fresh(ctx context.Context) (*Schedule, error) { return a.current(ctx, 0) }

func (a *Area) current(ctx context.Context, patience time.Duration) (*Schedule, error) {
	for {
		now := a.now()
		revision, err := a.db.PlanRevisionNow(ctx)
		if err != nil {
			return nil, err
		}
		s, err := a.await(ctx, a.keeper.want(revision, now, a.plan), patience)
		if errors.Is(err, errPassedOver) {
			continue
		}
		if err != nil {
			return nil, err
		}
		return a.asOf(ctx, s, now)
	}
}

// asOf is the same plan as it shows now: with the clock and the air moved on.
func (a *Area) asOf(ctx context.Context, s *Schedule, now time.Time) (*Schedule, error) {
	if !s.Now.Before(now) {
		return s, nil
	}
	shown := *s
	shown.Now = now
	err := a.db.Read(ctx, func(tx *gorm.DB) (err error) {
		shown.Basis.Room, err = workshop.LoadRoom(tx, now)
		return err
	})
	return &shown, err
}

// await waits for a plan for as long as patience says (0: as long as ctx
// lasts), and then answers by the plan that stands.
func (a *Area) await(ctx context.Context, m *making, patience time.Duration) (*Schedule, error) {
	var over <-chan time.Time
	if patience > 0 {
		timer := time.NewTimer(patience)
		defer timer.Stop()
		over = timer.C
	}
	for {
		select {
		case <-m.done:
			return m.schedule, m.err
		case <-ctx.Done():
			return nil, m.given(ctx)
		case <-over:
		}
		over = nil
		standing := a.keeper.stands()
		if standing == nil {
			continue
		}
		select {
		case <-m.loaded:
		case <-ctx.Done():
			return nil, ctx.Err()
		}
		if m.snapshot.Revision == 0 {
			continue // it could not be read; done says why
		}
		return m.snapshot.by(standing), nil
	}
}

// given tells why there is no plan: until the studio is read, that is the database.
func (m *making) given(ctx context.Context) error {
	select {
	case <-m.loaded:
		return given(ctx)
	default:
		return ctx.Err()
	}
}

// given tells a plan that was not made in time from an asker who has gone.
func given(ctx context.Context) error {
	if errors.Is(ctx.Err(), context.DeadlineExceeded) {
		return ErrSlow
	}
	return ctx.Err()
}

// by is the snapshot with the places that an older plan gave to what is still
// there; what that plan did not know has none yet.
func (s Snapshot) by(standing *Schedule) *Schedule {
	schedule := &Schedule{Snapshot: s, Jobs: slices.Concat(lotJobs(s), demandJobs(s), goalJobs(s)), PlannedAt: standing.PlannedAt, Making: true,
		answer: standing.answer, unplanned: map[string]plan.Reason{}, doneAt: map[uint64]*time.Time{}}
	before := make(map[string]*Job, len(standing.Jobs))
	for i := range standing.Jobs {
		before[standing.Jobs[i].ID] = &standing.Jobs[i]
	}
	for i := range schedule.Jobs {
		j := &schedule.Jobs[i]
		if old, known := before[j.ID]; known {
			j.take(*old)
			if reason, none := standing.unplanned[j.ID]; none {
				schedule.unplanned[j.ID] = reason
			}
		}
		for _, want := range j.Wants {
			schedule.doneAt[want] = j.Done
		}
	}
	return schedule
}

// take gives a job the places that an older plan had for it.
func (j *Job) take(old Job) {
	for _, p := range old.Placed {
		if i := StepIndex(p); i >= j.First && i < len(j.Recipe.Steps) {
			j.Placed = append(j.Placed, p)
		}
	}
	j.Done, j.Pressed, j.Held = old.Done, old.Pressed, old.Held
}

// KeepPlanning makes a plan after each change until ctx ends, so that promises
// that move are noticed though no page is open. What fails is given to report.
func (a *Area) KeepPlanning(ctx context.Context, report func(error)) {
	minute := time.NewTicker(time.Minute)
	defer minute.Stop()
	for {
		changed := a.db.Changed()
		if _, err := a.fresh(ctx); err != nil && ctx.Err() == nil {
			report(err)
		}
		select {
		case <-ctx.Done():
			return
		case <-changed:
		case <-minute.C:
		}
	}
}
