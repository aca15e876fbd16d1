package batches

import (
	"fmt"

	"github.com/shopspring/decimal"
	"gorm.io/gorm"

	"tidykiln/core/craft"
	"tidykiln/core/stock"
	"tidykiln/internal/stores"
)

// drawFor takes from the stores what a step took for its pieces. What went into
// pieces that were lost is kept apart; a blank that has been through the step
// before, reworked or again, is not taken twice.
func (a *Area) drawFor(tx *gorm.DB, r Run, b Batch, outcomes []Outcome, in Done) error {
	step := b.Recipe.Steps[r.Step]
	if len(step.Uses) == 0 || len(outcomes) == 0 {
		return nil
	}
	keys := make([]string, len(step.Uses))
	for i, u := range step.Uses {
		keys[i] = u.Material
	}
	materials, err := stores.LoadByKey(tx, keys)
	if err != nil {
		return err
	}
	first, err := firstOfBatch(tx, r, b)
	if err != nil {
		return err
	}
	again, err := throughBefore(tx, r, b, outcomes)
	if err != nil {
		return err
	}
	var drawings []stores.Drawing
	for _, d := range taken(b, step, materials, len(outcomes), again, first) {
		d.Spoiled = d.Quantity.Mul(decimal.NewFromInt(int64(tallyOf(outcomes)[Spoiled]))).DivRound(decimal.NewFromInt(int64(len(outcomes))), stock.Places)
		drawings = append(drawings, d)
	}
	work := stores.Work{BatchID: b.ID, RunID: &r.ID, At: *r.EndedAt, AcceptShort: in.AcceptShort, Past: in.past, Note: fmt.Sprintf("%s, batch %d", step.Name, b.Number)}
	return a.stores.Draw(tx, work, drawings)
}

// taken is what a step takes for a number of pieces, of which some have been
// through it before, each material once.
func taken(b Batch, step craft.Step, materials stores.Materials, pieces, again int, first bool) (drawings []stores.Drawing) {
	extent := craft.ExtentOf(b.Blank, b.Picture)
	at := map[string]int{}
	for _, u := range step.Uses {
		if b.PrintsTaken && u.OfPrint() {
			continue
		}
		m := materials[u.Material]
		count := pieces
		if m.Kind == stores.Blank {
			count -= again
		}
		quantity := decimal.NewFromFloat(u.Amount(step, extent, m.Supply()).For(count, first)).Round(stock.Places)
		if i, known := at[u.Material]; known {
			drawings[i].Quantity = drawings[i].Quantity.Add(quantity)
			continue
		}
		at[u.Material] = len(drawings)
		drawings = append(drawings, stores.Drawing{MaterialKey: u.Material, Quantity: quantity})
	}
	return drawings
}

// firstOfBatch tells whether no other lot of the batch has been through the step.
func firstOfBatch(tx *gorm.DB, r Run, b Batch) (bool, error) {
	var earlier int64
	err := tx.Model(&Run{}).Joins("JOIN lots ON lots.id = runs.lot_id").
		Where("lots.batch_id = ? AND runs.step = ? AND runs.ended_at IS NOT NULL AND runs.id <> ?", b.ID, r.Step, r.ID).Count(&earlier).Error
	if err != nil {
		return false, fmt.Errorf("looking for earlier lots: %w", err)
	}
	return earlier == 0, nil
}

// throughBefore counts the pieces that have been through the step in an earlier run.
func throughBefore(tx *gorm.DB, r Run, b Batch, outcomes []Outcome) (int, error) {
	ids := make([]uint64, len(outcomes))
	for i, o := range outcomes {
		ids[i] = o.PieceID
	}
	var pieces int64
	err := tx.Table("outcomes").Joins("JOIN runs ON runs.id = outcomes.run_id").
		Where("outcomes.piece_id IN ? AND runs.step = ? AND runs.id <> ?", ids, r.Step, r.ID).Distinct("outcomes.piece_id").Count(&pieces).Error
	if err != nil {
		return 0, fmt.Errorf("looking for pieces that go again: %w", err)
	}
	return int(pieces), nil
}
