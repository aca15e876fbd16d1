package stores

import (
	"fmt"
	"strings"
	"time"

	"github.com/shopspring/decimal"
	"gorm.io/gorm"

	"tidykiln/internal/problem"
)

// Drawing is what a step of a batch takes of a material: Quantity in all, of
// which the share Spoiled went into pieces that were lost.
type Drawing struct {
	MaterialKey string
	Quantity    decimal.Decimal
	Spoiled     decimal.Decimal
}

// Work is the step that stock is drawn for.
type Work struct {
	BatchID uint64
	RunID   *uint64
	At      time.Time
	Note    string
	// AcceptShort takes what the stores lack as found by a count.
	AcceptShort bool
	// Past is work entered long after: what was counted since has left the books with the count.
	Past bool
}

// Draw takes materials for a step of a batch. Where the stores hold too little
// it asks, unless that is accepted: then what was not on the books is put on
// them by a count first, so that stock is never below nothing.
func (a *Area) Draw(tx *gorm.DB, w Work, drawings []Drawing) error {
	keys := make([]string, len(drawings))
	for i, d := range drawings {
		keys[i] = d.MaterialKey
	}
	materials, err := LoadByKey(tx, keys)
	if err != nil {
		return err
	}
	var lacking []string
	for _, d := range drawings {
		m, known := materials[d.MaterialKey]
		if !known {
			return fmt.Errorf("drawing on the stores: there is no material %s", d.MaterialKey)
		}
		if w.Past && m.CountedAt != nil && m.CountedAt.After(w.At) {
			m.Counted = false
		}
		if short := d.Quantity.Sub(m.OnHand); m.Counted && short.IsPositive() {
			if !w.AcceptShort {
				lacking = append(lacking, fmt.Sprintf("%s: %s %s there, and this took %s", m.Name, quantity(m.OnHand, m.Unit), isOrAre(m.OnHand), quantity(d.Quantity, m.Unit)))
				continue
			}
			if err := a.found(tx, &m, short, "more was there than the stores knew of"); err != nil {
				return err
			}
		}
		if err := draw(tx, &m, w, d); err != nil {
			return err
		}
	}
	if len(lacking) > 0 {
		return problem.Conflict(problem.Short, "By the stores there is too little. %s.", strings.Join(lacking, "; "))
	}
	return nil
}

// draw takes the part for good pieces and the part for lost ones, each with its cause.
func draw(tx *gorm.DB, m *Material, w Work, d Drawing) error {
	for _, part := range []struct {
		cause    Cause
		quantity decimal.Decimal
	}{{CauseBatch, d.Quantity.Sub(d.Spoiled)}, {CauseSpoil, d.Spoiled}} {
		if !part.quantity.IsPositive() {
			continue
		}
		move := Movement{MaterialID: m.ID, Cause: part.cause, Quantity: part.quantity.Neg(), BatchID: &w.BatchID, RunID: w.RunID, At: w.At, Note: w.Note}
		short, err := take(tx, *m, &move)
		if err != nil {
			return err
		}
		if short.IsPositive() {
			return fmt.Errorf("taking %s of %s: %s is missing though there was enough", part.quantity, m.Name, short)
		}
	}
	if !m.Counted {
		return nil
	}
	return settle(tx, m)
}

// GiveBack takes back what a run drew, and before that what was said of the
// same materials since, which rested on it.
func (a *Area) GiveBack(tx *gorm.DB, runID uint64) error {
	standing := func() *gorm.DB {
		return tx.Where("NOT EXISTS (SELECT 1 FROM movements back WHERE back.reverses = movements.id)").Order("id DESC")
	}
	var moves, corrections []Movement
	if err := standing().Where("run_id = ?", runID).Find(&moves).Error; err != nil {
		return fmt.Errorf("reading what a step took: %w", err)
	}
	if len(moves) == 0 {
		return nil
	}
	materials := make([]uint64, len(moves))
	for i, m := range moves {
		materials[i] = m.MaterialID
	}
	err := standing().Where("batch_id = ? AND run_id IS NULL AND reverses IS NULL AND material_id IN ?", moves[0].BatchID, materials).Find(&corrections).Error
	if err != nil {
		return fmt.Errorf("reading what was said of a batch: %w", err)
	}
	for _, m := range append(corrections, moves...) {
		if err := reverse(tx, m, a.now()); err != nil {
			return err
		}
	}
	return nil
}

// isOrAre agrees with a quantity: 1 piece is there, 30 pieces are.
func isOrAre(q decimal.Decimal) string {
	if q.Equal(decimal.NewFromInt(1)) {
		return "is"
	}
	return "are"
}
