package batches

import (
	"fmt"
	"time"

	"gorm.io/gorm"

	"tidykiln/core/craft"
	"tidykiln/internal/workshop"
)

// risk says what speaks against beginning a step now, so that it may be begun
// only at accepted risk: water-based work in a cold room, heat within an hour of
// spray or the other way round, and a lay before the pilot piece has been
// through removal. It is empty when nothing does.
func (a *Area) risk(tx *gorm.DB, run Run, l Lot, b Batch) (string, error) {
	step := b.Recipe.Steps[run.Step]
	for _, why := range []func() (string, error){
		func() (string, error) { return a.tooCold(tx, run, step) },
		func() (string, error) { return sprayAndHeat(tx, run, step) },
		func() (string, error) { return pilotFirst(tx, l, b, step) },
		func() (string, error) { return a.rackFull(tx, run, l, b) },
	} {
		if said, err := why(); err != nil || said != "" {
			return said, err
		}
	}
	return "", nil
}

func (a *Area) tooCold(tx *gorm.DB, run Run, step craft.Step) (string, error) {
	late := a.now().Sub(run.StartedAt) > 30*time.Minute
	if late || !step.FormsFilm() {
		return "", nil
	}
	room, err := workshop.LoadRoom(tx, a.now())
	if err != nil {
		return "", err
	}
	rest := 0
	if step.Rest != nil {
		rest = step.Rest.Usual
	}
	return room.Cold(rest), nil
}

// sprayAndHeat looks for the other kind of work going on, or ended within the hour.
func sprayAndHeat(tx *gorm.DB, run Run, step craft.Step) (string, error) {
	if !step.Flammable() && !step.Hot() {
		return "", nil
	}
	var near []Run
	err := tx.Where("lot_id <> ? AND started_at < ? AND (ended_at IS NULL OR ended_at > ?)", run.LotID, run.StartedAt.Add(craft.ApartMinutes*time.Minute), run.StartedAt.Add(-craft.ApartMinutes*time.Minute)).Find(&near).Error
	if err != nil {
		return "", fmt.Errorf("reading what is going on: %w", err)
	}
	for _, r := range near {
		_, b, err := loadLot(tx, r.LotID)
		if err != nil {
			return "", err
		}
		other := b.Recipe.Steps[r.Step]
		if step.Flammable() && other.Hot() || step.Hot() && other.Flammable() {
			return fmt.Sprintf("“%s” of batch %d is less than an hour away. Spray and solvent keep an hour and fresh air from heat: their fumes can catch fire.", other.Name, b.Number), nil
		}
	}
	return "", nil
}

// pilotFirst holds the other lots back from the lay until the pilot is through.
func pilotFirst(tx *gorm.DB, l Lot, b Batch, step craft.Step) (string, error) {
	carries := false
	for _, d := range step.Kinds() {
		carries = carries || d.Carries()
	}
	if b.PilotLot == nil || l.Number == *b.PilotLot || !carries {
		return "", nil
	}
	through, err := pilotThrough(tx, b)
	if err != nil || through {
		return "", err
	}
	return "The pilot piece has not been through removal yet. It shows whether paper, medium and blank get on before the whole lot depends on it.", nil
}

func pilotThrough(tx *gorm.DB, b Batch) (bool, error) {
	var through int64
	err := tx.Table("runs").Joins("JOIN lots ON lots.id = runs.lot_id").
		Where("lots.batch_id = ? AND lots.number = ? AND runs.ended_at IS NOT NULL AND runs.step >= ?", b.ID, b.PilotLot, b.ProofStep).Count(&through).Error
	if err != nil {
		return false, fmt.Errorf("looking for the pilot piece: %w", err)
	}
	return through > 0, nil
}
