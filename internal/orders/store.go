package orders

import (
	"fmt"
	"time"

	"gorm.io/gorm"
	"gorm.io/gorm/clause"

	"tidykiln/internal/problem"
)

// Load reads an order with its lines and wants.
func Load(tx *gorm.DB, id uint64) (o Order, err error) {
	err = whole(tx).First(&o, id).Error
	return o, problem.OrNotFound(err, "order")
}

// LoadAlone reads an order that nobody else changes until the transaction ends.
func LoadAlone(tx *gorm.DB, id uint64) (Order, error) {
	var locked uint64
	err := tx.Model(&Order{}).Clauses(clause.Locking{Strength: "UPDATE"}).Where("id = ?", id).Pluck("id", &locked).Error
	if err != nil {
		return Order{}, fmt.Errorf("holding an order: %w", err)
	}
	return Load(tx, id)
}

// LoadOpen reads the open orders, soonest due first, and those closed since a moment.
func LoadOpen(tx *gorm.DB, closedSince time.Time) (orders []Order, err error) {
	err = whole(tx).Where("orders.state = ? OR orders.closed_at >= ?", Open, closedSince).Order("orders.due_on, orders.number").Find(&orders).Error
	if err != nil {
		return nil, fmt.Errorf("reading the orders: %w", err)
	}
	return orders, nil
}

func whole(tx *gorm.DB) *gorm.DB {
	byPosition := func(tx *gorm.DB) *gorm.DB { return tx.Order("position") }
	return tx.Joins("Customer").Preload("Lines", byPosition).Preload("Lines.Wants", byPosition)
}

// Events reads what happened to an order.
func Events(tx *gorm.DB, id uint64) (events []Event, err error) {
	if err := tx.Where("order_id = ?", id).Order("at, id").Find(&events).Error; err != nil {
		return nil, fmt.Errorf("reading what happened: %w", err)
	}
	return events, nil
}

// AddEvent notes something that happened to an order.
func AddEvent(tx *gorm.DB, id uint64, at time.Time, format string, args ...any) error {
	if err := tx.Create(&Event{OrderID: id, At: at, Text: fmt.Sprintf(format, args...)}).Error; err != nil {
		return fmt.Errorf("noting what happened: %w", err)
	}
	return nil
}

// Close ends an order.
func Close(tx *gorm.DB, o Order, state State, now time.Time) error {
	return saveOrder(tx, o, map[string]any{"state": state, "closed_at": now})
}

// Reopen opens a closed order again.
func Reopen(tx *gorm.DB, o Order) error {
	return saveOrder(tx, o, map[string]any{"state": Open, "closed_at": nil})
}

// saveOrder writes columns of an order as it was read in this transaction, and moves its version on.
func saveOrder(tx *gorm.DB, o Order, changes map[string]any) error {
	changes["version"] = o.Version + 1
	if err := tx.Model(&Order{}).Where("id = ?", o.ID).Updates(changes).Error; err != nil {
		return fmt.Errorf("saving order %d: %w", o.Number, err)
	}
	return nil
}

// saveWants writes a line and its pieces as they are to be. A piece that is
// wanted no longer is not what a step's outcome was for either.
func saveWants(tx *gorm.DB, e LineEdit) error {
	changes := map[string]any{"quantity": e.Line.Quantity, "unit_price": e.Line.UnitPrice}
	if err := tx.Model(&Line{}).Where("id = ?", e.Line.ID).Updates(changes).Error; err != nil {
		return fmt.Errorf("saving a line: %w", err)
	}
	for _, w := range e.Renamed {
		if err := tx.Model(&Want{}).Where("id = ?", w.ID).Update("lettering", w.Lettering).Error; err != nil {
			return fmt.Errorf("saving a name: %w", err)
		}
	}
	for _, w := range e.Removed {
		if err := tx.Delete(&Want{}, w.ID).Error; err != nil {
			return fmt.Errorf("taking a piece out: %w", err)
		}
	}
	if len(e.Added) > 0 {
		if err := tx.Create(&e.Added).Error; err != nil {
			return fmt.Errorf("adding pieces: %w", err)
		}
	}
	return nil
}

func createOrder(tx *gorm.DB, o *Order) error {
	if err := tx.Model(&Order{}).Select("COALESCE(MAX(number), 1000) + 1").Scan(&o.Number).Error; err != nil {
		return fmt.Errorf("numbering the order: %w", err)
	}
	o.CustomerID = o.Customer.ID
	if err := tx.Omit("Customer").Create(o).Error; err != nil {
		return fmt.Errorf("adding the order: %w", err)
	}
	return nil
}

// SetReturned notes when a piece came back that had been handed over; nil where it did not.
func SetReturned(tx *gorm.DB, want uint64, at *time.Time) error {
	if err := tx.Model(&Want{}).Where("id = ?", want).Update("returned_at", at).Error; err != nil {
		return fmt.Errorf("noting that a piece came back: %w", err)
	}
	return nil
}
