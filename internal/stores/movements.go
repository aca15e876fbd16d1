package stores

import (
	"context"
	"fmt"
	"slices"
	"strings"
	"time"

	"github.com/shopspring/decimal"
	"gorm.io/gorm"

	"tidykiln/core/measure"
	"tidykiln/core/stock"
	"tidykiln/internal/database"
	"tidykiln/internal/problem"
)

// Cause is why stock changed.
type Cause string

const (
	CausePurchase Cause = "purchase"
	CauseBatch    Cause = "batch"
	CauseSpoil    Cause = "spoil"
	CauseCount    Cause = "count"
	CauseLoss     Cause = "loss"
)

// Movement is a change of stock: Quantity came (or went, when negative), each
// unit at UnitCost, the average of what was left at that moment.
type Movement struct {
	ID         uint64          `json:"id"`
	MaterialID uint64          `json:"-"`
	Cause      Cause           `json:"cause" enum:"purchase,batch,spoil,count,loss"`
	Quantity   decimal.Decimal `json:"quantity"`
	UnitCost   decimal.Decimal `json:"unitCost" seen:"makers"`
	Counted    bool            `json:"counted" doc:"whether stock was kept count of then"`
	BatchID    *uint64         `json:"batchId,omitempty"`
	RunID      *uint64         `json:"-"`
	ReceiptID  *uint64         `json:"receiptId,omitempty"`
	At         time.Time       `json:"at"`
	Note       string          `json:"note"`
	// Reverses is the movement that this one takes back.
	Reverses *uint64        `json:"reverses,omitempty"`
	Parts    []MovementPart `json:"-"`
}

// MovementPart is how much of a movement belongs to one purchase.
type MovementPart struct {
	MovementID uint64 `gorm:"primaryKey"`
	PurchaseID uint64 `gorm:"primaryKey"`
	Quantity   decimal.Decimal
}

// longestNote is what the column of a movement's note holds.
const longestNote = 300

// Counting is a count of what is really there.
type Counting struct {
	// Quantity is as people write it: "380 ml", "½ l", "12"; 0 when nothing is left.
	Quantity string `json:"quantity" minLength:"1" maxLength:"60"`
	Note     string `json:"note,omitempty" maxLength:"200"`
}

// Count corrects a material's stock to what was counted.
func (a *Area) Count(ctx context.Context, id uint64, in Counting) (m Material, err error) {
	return database.Answer(ctx, a.db, database.Stores, func(tx *gorm.DB) (m Material, err error) {
		if m, err = loadMaterial(tx, id); err != nil {
			return m, err
		}
		counted := decimal.Zero
		if !isNone(in.Quantity) {
			if counted, err = m.pack("quantity", in.Quantity); err != nil {
				return m, err
			}
		}
		now := a.now()
		m.Counted, m.CountedAt = true, &now
		return m, a.correct(tx, &m, counted.Sub(m.OnHand), in.Note)
	})
}

// isNone tells whether a counted quantity says that nothing is there.
func isNone(text string) bool {
	number, unit, _ := strings.Cut(strings.TrimSpace(text), " ")
	d, err := measure.Number(number)
	return err == nil && d.IsZero() && !strings.ContainsAny(unit, "0123456789½¼¾⅓⅔⅛⅜⅝⅞⅕")
}

// correct changes the stock by what a count found more or less.
func (a *Area) correct(tx *gorm.DB, m *Material, by decimal.Decimal, note string) error {
	if by.IsPositive() {
		return a.found(tx, m, by, note)
	}
	if by.IsNegative() {
		move := Movement{MaterialID: m.ID, Cause: CauseCount, Quantity: by, At: a.now(), Note: note}
		if _, err := take(tx, *m, &move); err != nil {
			return err
		}
	}
	return settle(tx, m)
}

// mostMoney is the most that a price in the books can be.
var mostMoney = decimal.New(9_999_999_999, 0)

// found adds what a count found more, at what a unit costs.
func (a *Area) found(tx *gorm.DB, m *Material, quantity decimal.Decimal, note string) error {
	day, err := today(tx, a)
	if err != nil {
		return err
	}
	if worth := m.UnitCost.Mul(quantity); worth.GreaterThan(mostMoney) {
		return problem.Invalid("quantity", "at %s a %s that would be worth more than the books can hold: look at the number again", m.UnitCost, m.Unit)
	}
	p := Purchase{MaterialID: m.ID, ReceivedOn: day, Packs: 1, Pack: "found at a count", PackQuantity: quantity, Quantity: quantity, Left: quantity,
		Price: m.UnitCost.Mul(quantity).Round(4), OpenedAt: new(a.now())}
	if err := tx.Create(&p).Error; err != nil {
		return fmt.Errorf("adding what was found: %w", err)
	}
	move := Movement{MaterialID: m.ID, Cause: CauseCount, Quantity: quantity, UnitCost: m.UnitCost, Counted: true, At: a.now(), Note: note,
		Parts: []MovementPart{{PurchaseID: p.ID, Quantity: quantity}}}
	if err := addMovement(tx, &move); err != nil {
		return err
	}
	return settle(tx, m)
}

// take takes the (negative) quantity of a movement from what is held, freezes
// its unit cost and notes it. short is what was not there; then nothing is noted.
func take(tx *gorm.DB, m Material, move *Movement) (short decimal.Decimal, err error) {
	move.UnitCost, move.Counted = m.UnitCost, m.Counted
	if !m.Counted {
		return decimal.Zero, addMovement(tx, move)
	}
	left, err := heldOf(tx, m.ID)
	if err != nil {
		return decimal.Zero, err
	}
	held := left[m.ID]
	taken, short := stock.Take(held, move.Quantity.Neg())
	if short.IsPositive() {
		return short, nil
	}
	if average := stock.UnitCost(held); average.IsPositive() {
		move.UnitCost = average.Round(stock.Places)
	}
	for _, t := range taken {
		move.Parts = append(move.Parts, MovementPart{PurchaseID: t.ID, Quantity: t.Quantity.Neg()})
	}
	if err := change(tx, move.Parts); err != nil {
		return short, err
	}
	if err := noteOpened(tx, held, taken, move.At); err != nil {
		return short, err
	}
	return short, addMovement(tx, move)
}

// noteOpened notes when purchases that were taken from for the first time were opened.
func noteOpened(tx *gorm.DB, held []stock.Held, taken []stock.Taken, at time.Time) error {
	var fresh []uint64
	for _, h := range held {
		if h.OpenedAt == nil && slices.ContainsFunc(taken, func(t stock.Taken) bool { return t.ID == h.ID }) {
			fresh = append(fresh, h.ID)
		}
	}
	if len(fresh) == 0 {
		return nil
	}
	if err := tx.Model(&Purchase{}).Where("id IN ?", fresh).Update("opened_at", at).Error; err != nil {
		return fmt.Errorf("noting what was opened: %w", err)
	}
	return nil
}

// TakingOut is stock that is gone without a batch: gone bad, or lost.
type TakingOut struct {
	Quantity string `json:"quantity" minLength:"1" maxLength:"60"`
	Cause    Cause  `json:"cause" enum:"spoil,loss"`
	Note     string `json:"note,omitempty" maxLength:"200"`
}

// TakeOut notes stock that went bad or was lost.
func (a *Area) TakeOut(ctx context.Context, id uint64, in TakingOut) (m Material, err error) {
	return database.Answer(ctx, a.db, database.Stores, func(tx *gorm.DB) (m Material, err error) {
		if m, err = loadMaterial(tx, id); err != nil {
			return m, err
		}
		if !m.Counted {
			return m, problem.Conflict(problem.Uncounted, "The stock of %s is not kept count of yet. Count it, or enter what you bought.", m.Name)
		}
		out, err := m.pack("quantity", in.Quantity)
		if err != nil {
			return m, err
		}
		short, err := take(tx, m, &Movement{MaterialID: m.ID, Cause: in.Cause, Quantity: out.Neg(), At: a.now(), Note: strings.TrimSpace(in.Note)})
		switch {
		case err != nil:
			return m, err
		case short.IsPositive():
			return m, problem.Invalid("quantity", "by the stores only %s is there; count it first if there is more", quantity(m.OnHand, m.Unit))
		}
		return m, settle(tx, &m)
	})
}

// Reverse takes a movement back, and names the batch it belonged to, if to any.
// A purchase is taken back with its whole receipt, and of several corrections of
// what a batch used the last first.
func (a *Area) Reverse(tx *gorm.DB, id uint64) (m Material, batchID *uint64, err error) {
	var move Movement
	if err := tx.First(&move, id).Error; err != nil {
		return m, nil, problem.OrNotFound(err, "movement")
	}
	switch {
	case move.ReceiptID != nil && !move.inspected():
		return m, nil, problem.Conflict(problem.Elsewhere, "What was bought is taken back with its receipt.")
	case move.RunID != nil:
		return m, nil, problem.Conflict(problem.Elsewhere, "This was used in a step of a batch. Take back that the step was done, or correct what the batch used.")
	}
	if err := lastCorrection(tx, move); err != nil {
		return m, nil, err
	}
	if err := reverse(tx, move, a.now()); err != nil {
		return m, nil, err
	}
	if err := tx.First(&m, move.MaterialID).Error; err != nil {
		return m, nil, fmt.Errorf("reading a material: %w", err)
	}
	return m, move.BatchID, nil
}

// lastCorrection refuses to take back a correction that a later one stands on.
func lastCorrection(tx *gorm.DB, move Movement) error {
	if move.BatchID == nil || move.Reverses != nil {
		return nil
	}
	var later int64
	err := tx.Model(&Movement{}).Where("batch_id = ? AND material_id = ? AND id > ? AND run_id IS NULL AND reverses IS NULL", move.BatchID, move.MaterialID, move.ID).
		Where("NOT EXISTS (SELECT 1 FROM movements AS back WHERE back.reverses = movements.id)").Count(&later).Error
	if err != nil {
		return fmt.Errorf("looking for later corrections: %w", err)
	}
	if later > 0 {
		return problem.Conflict(problem.Elsewhere, "What this batch used was corrected again since. Take the later correction back first.")
	}
	return nil
}

// reverse notes the opposite of a movement.
func reverse(tx *gorm.DB, move Movement, now time.Time) error {
	var m Material
	if err := tx.First(&m, move.MaterialID).Error; err != nil {
		return fmt.Errorf("reading a material: %w", err)
	}
	var again int64
	if err := tx.Model(&Movement{}).Where("reverses = ?", move.ID).Count(&again).Error; err != nil {
		return fmt.Errorf("looking for a reversal: %w", err)
	}
	if again > 0 || move.Reverses != nil {
		return problem.Conflict(problem.TakenBack, "This has been taken back already.")
	}
	var parts []MovementPart
	if err := tx.Where("movement_id = ?", move.ID).Order("purchase_id").Find(&parts).Error; err != nil {
		return fmt.Errorf("reading what a movement took: %w", err)
	}
	if err := mustBeThere(tx, m, parts); err != nil {
		return err
	}
	back := Movement{MaterialID: m.ID, Cause: move.Cause, Quantity: move.Quantity.Neg(), UnitCost: move.UnitCost, Counted: move.Counted,
		BatchID: move.BatchID, ReceiptID: move.ReceiptID, At: now, Note: "taken back", Reverses: &move.ID}
	for _, p := range parts {
		back.Parts = append(back.Parts, MovementPart{PurchaseID: p.PurchaseID, Quantity: p.Quantity.Neg()})
	}
	if move.inspected() {
		if err := reject(tx, parts[0].PurchaseID, move.Quantity); err != nil {
			return err
		}
	}
	if err := change(tx, back.Parts); err != nil {
		return err
	}
	if err := addMovement(tx, &back); err != nil {
		return err
	}
	if err := settle(tx, &m); err != nil {
		return err
	}
	return learnLatest(tx, &m)
}

// mustBeThere refuses to take back what came when some of it has been used since.
func mustBeThere(tx *gorm.DB, m Material, parts []MovementPart) error {
	for _, part := range parts {
		var p Purchase
		if err := tx.First(&p, part.PurchaseID).Error; err != nil {
			return fmt.Errorf("reading a purchase: %w", err)
		}
		if used := part.Quantity.Sub(p.Left); used.IsPositive() {
			return problem.Conflict(problem.Used, "%s of this %s has been used since. Take that back first, or count what is there.", quantity(used, m.Unit), m.Name)
		}
	}
	return nil
}
