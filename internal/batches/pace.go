package batches

import (
	"fmt"
	"math"

	"gorm.io/gorm"

	"tidykiln/core/chance"
	"tidykiln/core/craft"
	"tidykiln/internal/database"
	"tidykiln/internal/workshop"
)

// Pace is how work has really gone here, by its kind: how long steps took beside
// what was planned of whoever did them, and how often lots went through them again.
type Pace struct {
	took  map[craft.Do]tally
	again map[craft.Do]tally
}

// tally adds up what was seen: of minutes the logarithm of really over planned.
type tally struct{ n, sum, squares float64 }

func (t tally) with(x float64) tally { return tally{t.n + 1, t.sum + x, t.squares + x*x} }

// What is believed before anything was seen, and as how many steps it counts: a
// step takes what is planned, give or take three tenths, and where a lot may go
// again it does so about one time in seven.
const (
	usualSd    = 0.3
	usualAgain = 0.15
	believed   = 8
	// A timer that was forgotten says little: what took over so many times what was planned counts so.
	mostTimes = 4
)

// Of is how long steps of a kind take beside what is planned.
func (p Pace) Of(do craft.Do) chance.Pace {
	t := p.took[do]
	mean := t.sum / (t.n + believed)
	spread := t.squares - 2*mean*t.sum + t.n*mean*mean
	return chance.Pace{Mean: mean, Sd: math.Sqrt((spread + believed*usualSd*usualSd) / (t.n + believed))}
}

// Again is the chance that a lot goes through a step of a kind once more.
func (p Pace) Again(do craft.Do) float64 {
	t := p.again[do]
	return (t.sum + believed*usualAgain) / (t.n + believed)
}

// pacedFrom is how many finished batches back is looked.
const pacedFrom = 60

// LoadPace reads how work went in the last finished batches.
func LoadPace(tx *gorm.DB) (p Pace, err error) {
	p = Pace{took: map[craft.Do]tally{}, again: map[craft.Do]tally{}}
	var finished []Batch
	if err := tx.Select("id", "recipe").Where("state = ?", Finished).Order("closed_at DESC, id DESC").Limit(pacedFrom).Find(&finished).Error; err != nil {
		return p, fmt.Errorf("reading finished batches: %w", err)
	}
	recipes := map[uint64]craft.Recipe{}
	for _, b := range finished {
		recipes[b.ID] = b.Recipe
	}
	var runs []struct {
		BatchID              uint64
		Step, Pieces         int
		WorkedSeconds, Again int
		SittingID            *uint64
	}
	err = tx.Table("runs").Select("lots.batch_id, runs.step, runs.pieces, "+workshop.AtUsualPace("runs.worked_seconds", "runs.person_id")+" AS worked_seconds, runs.sitting_id, (SELECT COUNT(*) FROM outcomes WHERE outcomes.run_id = runs.id AND outcomes.result = ?) AS again", Again).
		Joins("JOIN lots ON lots.id = runs.lot_id").Where("lots.batch_id IN ? AND runs.ended_at IS NOT NULL", database.IDs(finished, Batch.id)).Scan(&runs).Error
	if err != nil {
		return p, fmt.Errorf("reading how long steps took: %w", err)
	}
	sittings := make([]*uint64, len(runs))
	for i, r := range runs {
		sittings[i] = r.SittingID
	}
	lots, err := lotsIn(tx, sittings)
	if err != nil {
		return p, err
	}
	for _, r := range runs {
		step := recipes[r.BatchID].Steps[r.Step]
		if need := step.NeedTogether(r.Pieces, lots.of(r.SittingID)) * 60; r.WorkedSeconds > 0 && len(step.Parts) == 0 {
			times := min(mostTimes, max(1.0/mostTimes, float64(r.WorkedSeconds)/need))
			p.took[step.Do] = p.took[step.Do].with(math.Log(times))
		}
		went := 0.0
		if r.Again > 0 {
			went = 1
		}
		p.again[step.Do] = p.again[step.Do].with(went)
	}
	return p, nil
}
