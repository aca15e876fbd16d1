package batches

import (
	"context"
	"fmt"
	"time"

	"gorm.io/gorm"

	"tidykiln/internal/database"
	"tidykiln/internal/problem"
	"tidykiln/internal/workshop"
)

// Hold keeps a step of a lot where somebody wants it, in the plan: it begins at
// a time, and where they say so by one person.
type Hold struct {
	Step     int       `json:"step" minimum:"0"`
	At       time.Time `json:"at"`
	PersonID *uint64   `json:"personId,omitempty" doc:"who does it; anybody when left out"`
}

// Held is where a lot is held; nil when it is not, or what was held is past.
func (l Lot) Held() *Hold {
	if l.HeldStep == nil || l.HeldAt == nil || *l.HeldStep < l.NextStep || l.ClosedAt != nil {
		return nil
	}
	return &Hold{Step: *l.HeldStep, At: *l.HeldAt, PersonID: l.HeldBy}
}

// Check refuses what cannot be held in a lot of so many steps.
func (h Hold) Check(l Lot, b Batch, w workshop.Workshop, now time.Time) error {
	switch {
	case l.ClosedAt != nil || b.State != Open:
		return problem.Conflict(problem.Moved, "Batch %d, lot %d, has no step left to hold.", b.Number, l.Number)
	case h.Step < l.NextStep || h.Step >= len(b.Recipe.Steps):
		return problem.Invalid("step", "this step is done, or there is none such")
	case b.Recipe.Steps[h.Step].Inside != "":
		return problem.Invalid("step", "a step inside a rest goes with the rest")
	case h.At.Before(now.Add(-time.Minute)):
		return problem.Invalid("at", "this is past")
	case h.At.After(now.Add(farthestHold)):
		return problem.Invalid("at", "this is further away than the plan reaches")
	}
	if h.PersonID == nil {
		return nil
	}
	for _, p := range w.People {
		if p.ID == *h.PersonID {
			return nil
		}
	}
	return problem.Invalid("personId", "nobody of that number works here")
}

// farthestHold is how far ahead a step can be held.
const farthestHold = 100 * 24 * time.Hour

// Hold holds a step of a lot in its place. What was held of the lot before goes free.
func (a *Area) Hold(ctx context.Context, lotID uint64, in Hold) error {
	return a.db.Write(ctx, database.Batches, func(tx *gorm.DB) error { return HoldIn(tx, a.now(), lotID, in) })
}

// HoldIn is Hold within a transaction.
func HoldIn(tx *gorm.DB, now time.Time, lotID uint64, in Hold) error {
	l, b, err := loadLot(tx, lotID)
	if err != nil {
		return err
	}
	w, err := workshop.Load(tx)
	if err != nil {
		return err
	}
	if err := in.Check(l, b, w, now); err != nil {
		return err
	}
	at := in.At.UTC().Truncate(time.Minute)
	l.HeldStep, l.HeldAt, l.HeldBy = &in.Step, &at, in.PersonID
	return saveHold(tx, l)
}

// LetGo lets the plan place a lot as it sees fit.
func (a *Area) LetGo(ctx context.Context, lotID uint64) error {
	return a.db.Write(ctx, database.Batches, func(tx *gorm.DB) error {
		l, _, err := loadLot(tx, lotID)
		if err != nil {
			return err
		}
		l.HeldStep, l.HeldAt, l.HeldBy = nil, nil, nil
		return saveHold(tx, l)
	})
}

func saveHold(tx *gorm.DB, l Lot) error {
	if err := tx.Model(&Lot{}).Where("id = ?", l.ID).Select("HeldStep", "HeldAt", "HeldBy").Updates(&l).Error; err != nil {
		return fmt.Errorf("holding a lot: %w", err)
	}
	return nil
}
