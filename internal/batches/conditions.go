package batches

import (
	"slices"
	"time"

	"gorm.io/gorm"

	"tidykiln/internal/wire"
	"tidykiln/internal/workshop"
)

// Conditions are what a run was done under; nil where nobody knows. They are
// kept for later reckoning: what is not written down with the run cannot be
// brought back. What it drew from which purchases stands in the movements of
// stock, the choices of its recipe in the batch's copy.
type Conditions struct {
	// StartCelsius and StartHumidity are the room's air when it was begun.
	StartCelsius, StartHumidity *float64
	// RestedRun is the run whose rest it ended, RestedMinutes how long that
	// really was, and the others the room's air through it.
	RestedRun                             *uint64
	RestedMinutes                         *int
	RestCelsius, RestLowest, RestHumidity *float64
	// EnteredBy is who pressed, on Device; who did the work is the run's PersonID.
	EnteredBy *uint64
	Device    string
}

// conditionsOf reads what a run of a lot that begins at a moment is done under.
func conditionsOf(tx *gorm.DB, r Run, l Lot, b Batch) (c Conditions, err error) {
	by := wire.Acts(tx.Statement.Context)
	if c.Device = by.Device; by.PersonID != 0 {
		c.EnteredBy = &by.PersonID
	}
	air, err := workshop.LoadAir(tx, r.StartedAt, r.StartedAt)
	if err != nil {
		return c, err
	}
	c.StartCelsius, c.StartHumidity = air.Celsius, air.Humidity
	if b.Recipe.Steps[r.Step].Inside != "" {
		return c, nil // the rest that it lies in goes on
	}
	behind, err := endedRuns(tx, l)
	if err != nil {
		return c, err
	}
	i := slices.IndexFunc(behind, func(last Run) bool { return b.Recipe.Steps[last.Step].Inside == "" })
	if i < 0 {
		return c, nil
	}
	last := behind[i]
	if air, err = workshop.LoadAir(tx, *last.EndedAt, r.StartedAt); err != nil {
		return c, err
	}
	rested := int(max(0, r.StartedAt.Sub(*last.EndedAt)) / time.Minute)
	c.RestedRun, c.RestedMinutes = &last.ID, &rested
	c.RestCelsius, c.RestLowest, c.RestHumidity = air.Celsius, air.Lowest, air.Humidity
	return c, nil
}
