package batches

import (
	"context"
	"fmt"
	"time"

	"github.com/shopspring/decimal"
	"gorm.io/gorm"

	"tidykiln/core/craft"
	"tidykiln/internal/database"
	"tidykiln/internal/products"
	"tidykiln/internal/workshop"
)

// Learnt is what the last finished batches of a product have really taken,
// beside what its recipe says now.
type Learnt struct {
	Batches []LearntBatch `json:"batches" nullable:"false" doc:"newest first"`
	// RealCost is of a good piece over all of them; empty while there is none.
	RealCost string       `json:"realCost"`
	Steps    []LearntStep `json:"steps" nullable:"false" doc:"whose figures in the recipe are off"`
}

// LearntBatch is a finished batch and what a good piece of it cost.
type LearntBatch struct {
	ID       uint64    `json:"id"`
	Number   int       `json:"number"`
	ClosedAt time.Time `json:"closedAt"`
	Good     int       `json:"good"`
	RealCost string    `json:"realCost"`
}

// LearntStep is a step with what the recipe says and what was seen; what is
// left out is near enough.
type LearntStep struct {
	StepID              string   `json:"stepId"`
	Name                string   `json:"name"`
	Pieces              int      `json:"pieces" doc:"that went through it"`
	MinutesPerPiece     float64  `json:"minutesPerPiece"`
	Yield               float64  `json:"yield"`
	RealMinutesPerPiece *float64 `json:"realMinutesPerPiece,omitempty"`
	RealYield           *float64 `json:"realYield,omitempty"`
}

// learntFrom is how many batches back is looked.
const learntFrom = 10

// Learnt reads what was learnt about a product from its last finished batches.
func (a *Area) Learnt(ctx context.Context, productID uint64) (l Learnt, err error) {
	l = Learnt{Batches: []LearntBatch{}, Steps: []LearntStep{}}
	err = a.db.Read(ctx, func(tx *gorm.DB) error {
		p, err := products.Load(tx, productID)
		if err != nil {
			return err
		}
		var finished []Batch
		err = tx.Where("product_id = ? AND state = ?", productID, Finished).Order("closed_at DESC, id DESC").Limit(learntFrom).Find(&finished).Error
		if err != nil {
			return fmt.Errorf("reading finished batches: %w", err)
		}
		if err := l.cost(tx, finished); err != nil {
			return err
		}
		seen, err := seenIn(tx, finished)
		if err != nil {
			return err
		}
		l.learn(p.Recipe.Document, seen)
		return nil
	})
	return l, err
}

func (l *Learnt) cost(tx *gorm.DB, finished []Batch) error {
	var costs []struct {
		BatchID  uint64
		Good     int
		UnitCost decimal.NullDecimal
	}
	err := tx.Model(&Piece{}).Select("batch_id, COUNT(*) AS good, MAX(unit_cost) AS unit_cost").
		Where("batch_id IN ? AND finished_at IS NOT NULL", database.IDs(finished, Batch.id)).Group("batch_id").Scan(&costs).Error
	if err != nil {
		return fmt.Errorf("reading what pieces cost: %w", err)
	}
	total, good := decimal.Zero, 0
	for _, b := range finished {
		for _, c := range costs {
			if c.BatchID == b.ID && c.UnitCost.Valid && b.ClosedAt != nil {
				l.Batches = append(l.Batches, LearntBatch{b.ID, b.Number, *b.ClosedAt, c.Good, c.UnitCost.Decimal.StringFixed(2)})
				total, good = total.Add(c.UnitCost.Decimal.Mul(decimal.NewFromInt(int64(c.Good)))), good+c.Good
			}
		}
	}
	if good > 0 {
		l.RealCost = total.DivRound(decimal.NewFromInt(int64(good)), 2).StringFixed(2)
	}
	return nil
}

// seenIn counts, by the id of the step, what batches have seen of it, in minutes
// of somebody at the usual pace. Steps
// that were worked hand in hand cannot be told apart, and are left out.
func seenIn(tx *gorm.DB, finished []Batch) (map[string]craft.Seen, error) {
	var runs []struct {
		BatchID                uint64
		Step, Pieces           int
		WorkedSeconds, Through int
		SittingID              *uint64
	}
	err := tx.Table("runs").Select("lots.batch_id, runs.step, runs.pieces, "+workshop.AtUsualPace("runs.worked_seconds", "runs.person_id")+" AS worked_seconds, runs.sitting_id, (SELECT COUNT(*) FROM outcomes WHERE outcomes.run_id = runs.id AND outcomes.result = ?) AS through", Good).
		Joins("JOIN lots ON lots.id = runs.lot_id").Where("lots.batch_id IN ? AND runs.ended_at IS NOT NULL", database.IDs(finished, Batch.id)).Scan(&runs).Error
	if err != nil {
		return nil, fmt.Errorf("reading the steps of finished batches: %w", err)
	}
	sittings := make([]*uint64, len(runs))
	for i, r := range runs {
		sittings[i] = r.SittingID
	}
	lots, err := lotsIn(tx, sittings)
	if err != nil {
		return nil, err
	}
	recipes := map[uint64]craft.Recipe{}
	for _, b := range finished {
		recipes[b.ID] = b.Recipe
	}
	seen := map[string]craft.Seen{}
	for _, r := range runs {
		step := recipes[r.BatchID].Steps[r.Step]
		if len(step.Parts) > 0 {
			continue
		}
		s := seen[step.ID]
		s.Pieces, s.Through = s.Pieces+r.Pieces, s.Through+r.Through
		s.Setups += 1 / float64(lots.of(r.SittingID))
		s.Minutes += float64(r.WorkedSeconds) / 60
		seen[step.ID] = s
	}
	return seen, nil
}

func (l *Learnt) learn(recipe craft.Recipe, seen map[string]craft.Seen) {
	for _, s := range recipe.Steps {
		lesson := s.Learn(seen[s.ID])
		if lesson.MinutesPerPiece == nil && lesson.Yield == nil {
			continue
		}
		l.Steps = append(l.Steps, LearntStep{StepID: s.ID, Name: s.Name, Pieces: seen[s.ID].Pieces, MinutesPerPiece: s.MinutesPerPiece, Yield: s.Yield,
			RealMinutesPerPiece: lesson.MinutesPerPiece, RealYield: lesson.Yield})
	}
}
