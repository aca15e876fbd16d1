// Package background does work beside the answers: on rows that wait for it, one at a
// time, and each by one server at a time.
package background

import (
	"context"
	"fmt"
	"time"

	"gorm.io/gorm"

	"tidykiln/internal/database"
)

// Claim is what a row that waits says of who has it in hand.
type Claim struct {
	ClaimedUntil *time.Time `json:"-"`
	// Tries is how often it was taken in hand: what ends the server each time is given up.
	Tries int `json:"-"`
}

const (
	// MostTries is how often work on a row is begun.
	MostTries = 3
	// lookAgain is how often a server looks for rows that another took in.
	lookAgain = 10 * time.Second
)

// Queue hands out the rows of T that are in a state, the first that came first.
type Queue[T any] struct {
	db    *database.DB
	now   func() time.Time
	state string
	held  time.Duration
	// came wakes whoever does the work.
	came chan struct{}
}

// NewQueue hands out rows in a state. A server holds one for so long; where it is silent
// longer, another takes the row up.
func NewQueue[T any](db *database.DB, now func() time.Time, state string, held time.Duration) *Queue[T] {
	return &Queue[T]{db, now, state, held, make(chan struct{}, 1)}
}

// Wake tells that a row has come.
func (q *Queue[T]) Wake() {
	select {
	case q.came <- struct{}{}:
	default: // whoever does the work is told already
	}
}

// Keep calls next as rows come, and every few seconds, again and again while it tells
// that there was one, until ctx ends.
func (q *Queue[T]) Keep(ctx context.Context, next func(context.Context) (more bool, err error), report func(error)) {
	look := time.NewTicker(lookAgain)
	defer look.Stop()
	for {
		for more := true; more && ctx.Err() == nil; {
			var err error
			if more, err = next(ctx); err != nil && ctx.Err() == nil {
				report(err)
				break
			}
		}
		select {
		case <-ctx.Done():
			return
		case <-q.came:
		case <-look.C:
		}
	}
}

func (q *Queue[T]) waiting(tx *gorm.DB) *gorm.DB {
	return tx.Model(new(T)).Where("state = ? AND (claimed_until IS NULL OR claimed_until < ?)", q.state, q.now())
}

// Next takes a row in hand; nil where none waits. Its tries are those before.
func (q *Queue[T]) Next(ctx context.Context) (taken *T, err error) {
	// Most looks find nothing: they should not move the revision on.
	waiting, err := database.Look(ctx, q.db, func(tx *gorm.DB) (n int64, err error) { return n, q.waiting(tx).Count(&n).Error })
	if err != nil || waiting == 0 {
		return nil, err
	}
	err = q.db.Write(ctx, database.Nothing, func(tx *gorm.DB) error {
		var next []T
		if err := q.waiting(tx).Order("id").Limit(1).Find(&next).Error; err != nil || len(next) == 0 {
			return err
		}
		row := next[0]
		if err := tx.Model(&row).UpdateColumns(map[string]any{"claimed_until": q.Until(), "tries": gorm.Expr("tries + 1")}).Error; err != nil {
			return fmt.Errorf("taking work in hand: %w", err)
		}
		taken = &next[0]
		return nil
	})
	return taken, err
}

// Until is how long a row stays in hand from now on.
func (q *Queue[T]) Until() time.Time { return q.now().Add(q.held) }
