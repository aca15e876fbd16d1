package stores

import (
	"fmt"

	"github.com/shopspring/decimal"
	"gorm.io/gorm"

	"tidykiln/core/stock"
	"tidykiln/internal/problem"
)

// Used is what a batch took of a material, in all, at the average of its frozen costs.
type Used struct {
	Quantity decimal.Decimal
	UnitCost decimal.Decimal
	// Typed says that somebody has said what was really used.
	Typed bool
}

// UsedBy maps materials to what a batch has taken of them.
func UsedBy(tx *gorm.DB, batchID uint64) (map[uint64]Used, error) {
	var moves []Movement
	if err := tx.Where("batch_id = ?", batchID).Order("id").Find(&moves).Error; err != nil {
		return nil, fmt.Errorf("reading what a batch took: %w", err)
	}
	used, spent := map[uint64]Used{}, map[uint64]decimal.Decimal{}
	for _, m := range moves {
		u := used[m.MaterialID]
		u.Quantity = u.Quantity.Sub(m.Quantity)
		u.Typed = u.Typed || m.RunID == nil && m.Reverses == nil
		spent[m.MaterialID] = spent[m.MaterialID].Sub(m.Quantity.Mul(m.UnitCost))
		if u.Quantity.IsPositive() {
			u.UnitCost = spent[m.MaterialID].DivRound(u.Quantity, precision)
		}
		used[m.MaterialID] = u
	}
	return used, nil
}

// precision is the number of decimals that divisions keep.
const precision = 20

// Correct makes what a batch took of a material, all its steps together, a
// quantity as people write it; 0 when nothing was used.
func (a *Area) Correct(tx *gorm.DB, w Work, materialID uint64, text string) error {
	m, err := loadMaterial(tx, materialID)
	if err != nil {
		return problem.OrInvalid(err, "materialId", "this material is not in the stores")
	}
	really := decimal.Zero
	if !isNone(text) {
		if really, err = m.pack("quantity", text); err != nil {
			return err
		}
	}
	used, err := UsedBy(tx, w.BatchID)
	if err != nil {
		return err
	}
	before, known := used[m.ID]
	if !known {
		return problem.Invalid("materialId", "this batch has taken nothing of %s yet", m.Name)
	}
	by := really.Sub(before.Quantity)
	switch {
	case by.IsPositive():
		return a.Draw(tx, w, []Drawing{{MaterialKey: m.MaterialKey, Quantity: by}})
	case by.IsNegative():
		return giveBackSome(tx, m, w, before, by.Neg())
	}
	return nil
}

// giveBackSome puts a part of what a batch took back where it came from, the
// latest first, at what it cost when it was taken.
func giveBackSome(tx *gorm.DB, m Material, w Work, before Used, quantity decimal.Decimal) error {
	move := Movement{MaterialID: m.ID, Cause: CauseBatch, Quantity: quantity, UnitCost: before.UnitCost.Round(stock.Places), Counted: m.Counted, BatchID: &w.BatchID, At: w.At, Note: w.Note}
	if !m.Counted {
		return addMovement(tx, &move)
	}
	var taken []stock.Taken
	err := tx.Table("movement_parts").Select("purchase_id AS id, -SUM(movement_parts.quantity) AS quantity").
		Joins("JOIN movements ON movements.id = movement_parts.movement_id AND movements.batch_id = ? AND movements.material_id = ?", w.BatchID, m.ID).
		Group("purchase_id").Having("SUM(movement_parts.quantity) < 0").Order("purchase_id DESC").Scan(&taken).Error
	if err != nil {
		return fmt.Errorf("reading where it came from: %w", err)
	}
	left := quantity
	for _, t := range taken {
		if back := decimal.Min(left, t.Quantity); back.IsPositive() {
			move.Parts = append(move.Parts, MovementPart{PurchaseID: t.ID, Quantity: back})
			left = left.Sub(back)
		}
	}
	if left.IsPositive() {
		return problem.Invalid("quantity", "part of it was taken before the stores kept count; count %s instead", m.Name)
	}
	if err := change(tx, move.Parts); err != nil {
		return err
	}
	if err := addMovement(tx, &move); err != nil {
		return err
	}
	return settle(tx, &m)
}
