package demo

import (
	"context"
	"errors"
	"fmt"
	"sync"
	"time"

	"gorm.io/gorm"
	"gorm.io/gorm/clause"

	"tidykiln/core/calendar"
	"tidykiln/internal/database"
)

// Clock is the demo's own: it begins in the middle of a working morning, runs
// on, and can be moved on. It stands still while the demo is not running.
type Clock struct {
	db   *database.DB
	real func() time.Time
	mu   sync.Mutex
	// base is what it showed when the real clock showed since.
	base, since time.Time
}

// standing is the row that keeps it through a restart.
type standing struct {
	ID       uint8 `gorm:"primaryKey"`
	StandsAt time.Time
}

func (standing) TableName() string { return "demo_clock" }

// kept is how often it is noted where the clock stands. A demo that was killed
// goes on so much later, so that its clock never goes back.
const kept = 5 * time.Second

// Morning is when the demo begins: twenty past ten of a weekday, today or the
// next one, by the wall clock of a time zone.
func Morning(real time.Time, timeZone string) (time.Time, error) {
	in, err := time.LoadLocation(timeZone)
	if err != nil {
		return time.Time{}, fmt.Errorf("the time zone of the demo: %w", err)
	}
	day := calendar.DateOf(real, in)
	for day.At(12*60, in).Weekday() == time.Sunday || day.At(12*60, in).Weekday() == time.Saturday {
		day = day.Add(1)
	}
	return day.At(10*60+20, in).UTC(), nil
}

// OpenClock sets the clock going where it stood, or for a new demo at its beginning.
func OpenClock(ctx context.Context, db *database.DB, real func() time.Time, begin time.Time) (*Clock, error) {
	c := &Clock{db: db, real: real}
	var row standing
	err := db.Read(ctx, func(tx *gorm.DB) error { return tx.First(&row, 1).Error })
	switch {
	case errors.Is(err, gorm.ErrRecordNotFound):
		c.set(begin)
		return c, c.keep(ctx)
	case err != nil:
		return nil, fmt.Errorf("reading the demo's clock: %w", err)
	}
	c.set(row.StandsAt.Add(kept))
	return c, c.keep(ctx) // or one that is killed at once, again and again, would go back
}

// Now is what it shows.
func (c *Clock) Now() time.Time {
	c.mu.Lock()
	defer c.mu.Unlock()
	return c.base.Add(c.real().Sub(c.since))
}

// set lets it show a time and run on from there.
func (c *Clock) set(t time.Time) {
	c.mu.Lock()
	defer c.mu.Unlock()
	c.base, c.since = t, c.real()
}

// keep notes where it stands.
func (c *Clock) keep(ctx context.Context) error {
	row := standing{ID: 1, StandsAt: c.Now().UTC()}
	return c.db.Write(ctx, database.Nothing, func(tx *gorm.DB) error {
		return tx.Clauses(clause.OnConflict{UpdateAll: true}).Create(&row).Error
	})
}

// Keep notes now and then where it stands, until ctx ends.
func (c *Clock) Keep(ctx context.Context, report func(error)) {
	tick := time.NewTicker(kept)
	defer tick.Stop()
	for {
		select {
		case <-ctx.Done():
			return
		case <-tick.C:
			if err := c.keep(ctx); err != nil && ctx.Err() == nil {
				report(err)
			}
		}
	}
}
