package trade

import (
	"fmt"
	"time"

	"github.com/shopspring/decimal"
	"gorm.io/gorm"

	"tidykiln/internal/database"
)

func loadTerms(tx *gorm.DB) (t Terms, err error) {
	if err := tx.Take(&t).Error; err != nil {
		return t, fmt.Errorf("reading the terms: %w", err)
	}
	return t, nil
}

// paymentsOf are those of an order, in the order in which they were noted.
func paymentsOf(tx *gorm.DB, order uint64) ([]Payment, error) {
	list := []Payment{}
	if err := tx.Where("order_id = ?", order).Order("id").Find(&list).Error; err != nil {
		return nil, fmt.Errorf("reading the payments: %w", err)
	}
	return list, nil
}

// paidBy is what was paid for orders, less what went back.
func paidBy(tx *gorm.DB, ids []uint64) (map[uint64]decimal.Decimal, error) {
	var rows []struct {
		OrderID uint64
		Paid    decimal.Decimal
	}
	err := tx.Model(&Payment{}).Select("order_id, SUM(IF(kind = 'refund', -amount, amount)) AS paid").
		Where("taken_back_at IS NULL AND order_id IN ?", ids).Group("order_id").Find(&rows).Error
	if err != nil {
		return nil, fmt.Errorf("adding payments up: %w", err)
	}
	paid := map[uint64]decimal.Decimal{}
	for _, r := range rows {
		paid[r.OrderID] = r.Paid
	}
	return paid, nil
}

// settlement is a row of what became of the money of an order.
type settlement struct {
	OrderID uint64 `gorm:"primaryKey;autoIncrement:false"`
	Settlement
	At time.Time
}

// settlementOf is that of an order that was cancelled; one that was cancelled before
// settlements were kept has none, and nothing is kept of it.
func settlementOf(tx *gorm.DB, order uint64) (*Settlement, error) {
	var s settlement
	if err := tx.Where("order_id = ?", order).Limit(1).Find(&s).Error; err != nil {
		return nil, fmt.Errorf("reading how an order was settled: %w", err)
	}
	return &s.Settlement, nil
}

// keptOf is what is kept of orders that were cancelled.
func keptOf(tx *gorm.DB, ids []uint64) (map[uint64]decimal.Decimal, error) {
	var rows []settlement
	if err := tx.Where("order_id IN ?", ids).Find(&rows).Error; err != nil {
		return nil, fmt.Errorf("reading how orders were settled: %w", err)
	}
	kept := map[uint64]decimal.Decimal{}
	for _, s := range rows {
		kept[s.OrderID] = s.Kept
	}
	return kept, nil
}

func keepSettlement(tx *gorm.DB, order uint64, s Settlement, at time.Time) error {
	if err := tx.Create(&settlement{order, s, at}).Error; err != nil {
		return fmt.Errorf("settling an order: %w", err)
	}
	return nil
}

// Forget takes what was written of payments for orders out.
func Forget(tx *gorm.DB, orders []uint64) error {
	if err := tx.Model(&Payment{}).Where("order_id IN ?", orders).Update("note", "").Error; err != nil {
		return fmt.Errorf("forgetting what was written of payments: %w", err)
	}
	return database.Redact(tx, "orders", orders, "", "note")
}
