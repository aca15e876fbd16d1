package stores

import (
	"context"
	"fmt"
	"strings"

	"github.com/shopspring/decimal"
	"gorm.io/gorm"

	"tidykiln/internal/database"
	"tidykiln/internal/problem"
)

// Inspection is blanks of a purchase that were found to be no good after it was entered.
type Inspection struct {
	NoGood int    `json:"noGood" minimum:"1" maximum:"100000"`
	Note   string `json:"note,omitempty" maxLength:"200"`
}

// Inspect counts blanks of a purchase against its supplier. The good ones bear
// their cost; pieces made before keep what they were said to cost.
func (a *Area) Inspect(ctx context.Context, purchaseID uint64, in Inspection) (m Material, err error) {
	return database.Answer(ctx, a.db, database.Stores, func(tx *gorm.DB) (m Material, err error) {
		var p Purchase
		if err := tx.First(&p, purchaseID).Error; err != nil {
			return m, problem.OrNotFound(err, "purchase")
		}
		if m, err = loadMaterial(tx, p.MaterialID); err != nil {
			return m, err
		}
		noGood := decimal.NewFromInt(int64(in.NoGood))
		switch {
		case p.ReceiptID == nil || m.Kind != Blank:
			return m, problem.Conflict(problem.Unfit, "Only blanks that came from a supplier are looked over for what is no good.")
		case in.NoGood < 1:
			return m, problem.Invalid("noGood", "at least one")
		case noGood.GreaterThan(p.Left) || noGood.Equal(p.Quantity):
			return m, problem.Invalid("noGood", "%s of it are left, and at least one of what came must be good", p.Left)
		}
		note := strings.TrimSpace("no good on arrival. " + strings.TrimSpace(in.Note))
		move := Movement{MaterialID: m.ID, Cause: CausePurchase, Quantity: noGood.Neg(), Counted: true, ReceiptID: p.ReceiptID, At: a.now(), Note: note,
			Parts: []MovementPart{{PurchaseID: p.ID, Quantity: noGood.Neg()}}}
		if err := change(tx, move.Parts); err != nil {
			return m, err
		}
		if err := reject(tx, p.ID, noGood); err != nil {
			return m, err
		}
		if err := addMovement(tx, &move); err != nil {
			return m, err
		}
		if err := settle(tx, &m); err != nil {
			return m, err
		}
		return m, learnLatest(tx, &m)
	})
}

// inspected tells that the movement is blanks found to be no good.
func (m Movement) inspected() bool {
	return m.Cause == CausePurchase && m.Quantity.IsNegative() && m.Reverses == nil
}

// reject moves blanks of a purchase from the good to the rejects, or back when negative.
func reject(tx *gorm.DB, purchaseID uint64, pieces decimal.Decimal) error {
	err := tx.Model(&Purchase{}).Where("id = ?", purchaseID).
		Updates(map[string]any{"rejects": gorm.Expr("rejects + ?", pieces), "quantity": gorm.Expr("quantity - ?", pieces)}).Error
	if err != nil {
		return fmt.Errorf("counting rejects: %w", err)
	}
	return nil
}
