package batches

import (
	"context"
	"fmt"

	"gorm.io/gorm"

	"tidykiln/internal/database"
	"tidykiln/internal/problem"
)

// Undo takes back that a step was done: it is in hand again, put down, and its
// pieces are as before. It is possible until the lot's next step is taken up. A
// lot of a sitting comes back alone.
func (a *Area) Undo(ctx context.Context, runID uint64) error {
	return a.db.Write(ctx, database.Batches|database.Stores|database.Orders, func(tx *gorm.DB) error {
		r, l, b, err := loadRun(tx, runID)
		if err != nil {
			return err
		}
		r.SittingID, r.Share = nil, 1
		return a.undo(tx, r, l, b)
	})
}

func (a *Area) undo(tx *gorm.DB, r Run, l Lot, b Batch) error {
	if err := mayUndo(tx, r, l, b); err != nil {
		return err
	}
	if err := a.stores.GiveBack(tx, r.ID); err != nil {
		return err
	}
	if err := restorePieces(tx, r); err != nil {
		return err
	}
	if err := rejoin(tx, r); err != nil {
		return err
	}
	l.NextStep, l.ClosedAt = r.Step, nil
	if err := saveLot(tx, l); err != nil {
		return err
	}
	r.EndedAt, r.RunningSince, r.RecordedAt = nil, nil, a.now()
	if err := saveRun(tx, &r); err != nil {
		return err
	}
	if b.State == Finished {
		if err := reopen(tx, b); err != nil {
			return err
		}
	}
	return addEvent(tx, b.ID, a.now(), "%s, lot %d: done taken back", b.Recipe.Steps[r.Step].Name, l.Number)
}

// reopen opens a finished batch again; what its pieces cost is open with it.
func reopen(tx *gorm.DB, b Batch) error {
	if err := tx.Model(&Piece{}).Where("batch_id = ?", b.ID).Update("unit_cost", nil).Error; err != nil {
		return fmt.Errorf("taking back what the pieces cost: %w", err)
	}
	return saveBatchState(tx, b, Open, nil)
}

func mayUndo(tx *gorm.DB, r Run, l Lot, b Batch) error {
	if r.EndedAt == nil || b.State == Abandoned {
		return problem.Conflict(problem.TakenBack, "There is nothing to take back.")
	}
	var later int64
	splits := tx.Model(&Lot{}).Select("id").Where("split_from_run = ?", r.ID)
	// A lot's runs are noted in the order of its steps, also those entered late.
	err := tx.Model(&Run{}).Where("lot_id = ? AND id > ? OR lot_id IN (?)", l.ID, r.ID, splits).Count(&later).Error
	if err != nil {
		return fmt.Errorf("looking for later steps: %w", err)
	}
	if later > 0 {
		return problem.Conflict(problem.Elsewhere, "The next step has been taken up since. Take that back first.")
	}
	var gone int64
	err = tx.Table("outcomes").Joins("JOIN pieces ON pieces.id = outcomes.piece_id").
		Where("outcomes.run_id = ? AND pieces.state IN ?", r.ID, []PieceState{PieceHandedOver, PieceGone}).Count(&gone).Error
	if err != nil {
		return fmt.Errorf("looking for pieces that are gone: %w", err)
	}
	if gone > 0 {
		return problem.Conflict(problem.Used, "Some of these pieces have been handed over, or are gone from the shelf.")
	}
	return nil
}

// restorePieces brings the pieces of a run back to work, each with the want it
// served unless something else serves that by now.
func restorePieces(tx *gorm.DB, r Run) error {
	var outcomes []Outcome
	if err := tx.Where("run_id = ?", r.ID).Find(&outcomes).Error; err != nil {
		return fmt.Errorf("reading how the pieces came out: %w", err)
	}
	open, err := Unserved(tx)
	if err != nil {
		return err
	}
	free := map[uint64]bool{}
	for _, w := range open {
		free[w.WantID] = true
	}
	for _, o := range outcomes {
		var p Piece
		if err := tx.First(&p, o.PieceID).Error; err != nil {
			return fmt.Errorf("reading a piece: %w", err)
		}
		p.LotID, p.State, p.FinishedAt = &r.LotID, PieceWorking, nil
		if p.WantID == nil && o.WantID != nil && free[*o.WantID] {
			p.WantID = o.WantID
		}
		if err := SavePieces(tx, []Piece{p}); err != nil {
			return err
		}
	}
	if err := tx.Where("run_id = ?", r.ID).Delete(&Outcome{}).Error; err != nil {
		return fmt.Errorf("taking back how the pieces came out: %w", err)
	}
	return nil
}

// rejoin removes the lot that pieces going again were given.
func rejoin(tx *gorm.DB, r Run) error {
	if err := tx.Where("split_from_run = ?", r.ID).Delete(&Lot{}).Error; err != nil {
		return fmt.Errorf("rejoining a lot: %w", err)
	}
	return nil
}
