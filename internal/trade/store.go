package trade

import (
	"fmt"
	"time"

	"github.com/shopspring/decimal"
	"gorm.io/gorm"

	"tidykiln/core/calendar"
	"tidykiln/internal/database"
	"tidykiln/internal/problem"
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

// CameBetween are the payments of a period, day by day, and what was given back.
func CameBetween(tx *gorm.DB, from, to calendar.Date, most int) (list []Payment, err error) {
	if err := tx.Where("taken_back_at IS NULL AND paid_on BETWEEN ? AND ?", from, to).Order("paid_on, id").Limit(most).Find(&list).Error; err != nil {
		return nil, fmt.Errorf("reading the payments of a period: %w", err)
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

// Forget takes what was written of payments and returns of orders out.
func Forget(tx *gorm.DB, orders []uint64) error {
	if err := tx.Model(&Payment{}).Where("order_id IN ?", orders).Update("note", "").Error; err != nil {
		return fmt.Errorf("forgetting what was written of payments: %w", err)
	}
	if err := tx.Model(&Return{}).Where("order_id IN ?", orders).Update("note", "").Error; err != nil {
		return fmt.Errorf("forgetting what was written of returns: %w", err)
	}
	return database.Redact(tx, "orders", orders, "", "note")
}

// returnsOf are what came back of an order, in the order in which it was noted.
func returnsOf(tx *gorm.DB, order uint64) ([]Return, error) {
	list := []Return{}
	if err := tx.Preload("Pieces").Where("order_id = ?", order).Order("id").Find(&list).Error; err != nil {
		return nil, fmt.Errorf("reading what came back: %w", err)
	}
	return list, nil
}

func loadReturn(tx *gorm.DB, id uint64) (r Return, err error) {
	err = tx.Preload("Pieces").First(&r, id).Error
	return r, problem.OrNotFound(err, "return")
}

func createReturn(tx *gorm.DB, r *Return) error {
	if err := tx.Create(r).Error; err != nil {
		return fmt.Errorf("noting what came back: %w", err)
	}
	return nil
}

// letOff is what was let off of orders.
func letOff(tx *gorm.DB, ids []uint64) (map[uint64]decimal.Decimal, error) {
	var rows []struct {
		OrderID uint64
		Amount  decimal.Decimal
	}
	err := tx.Model(&Return{}).Select("order_id, SUM(amount) AS amount").Where("taken_back_at IS NULL AND order_id IN ?", ids).Group("order_id").Find(&rows).Error
	if err != nil {
		return nil, fmt.Errorf("adding up what was let off: %w", err)
	}
	off := map[uint64]decimal.Decimal{}
	for _, r := range rows {
		off[r.OrderID] = r.Amount
	}
	return off, nil
}
