package orders

import (
	"fmt"
	"time"

	"gorm.io/gorm"

	"tidykiln/internal/database"
	"tidykiln/internal/problem"
)

// Load reads an order with its lines and wants.
func Load(tx *gorm.DB, id uint64) (o Order, err error) {
	err = whole(tx).First(&o, id).Error
	return o, problem.OrNotFound(err, "order")
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

func customerNamed(tx *gorm.DB, name string) (c Customer, err error) {
	if err := tx.Where("name = ?", name).Limit(1).Find(&c).Error; err != nil {
		return c, fmt.Errorf("looking for the customer: %w", err)
	}
	if c.ID != 0 {
		return c, nil
	}
	c.Name = name
	if err := tx.Create(&c).Error; err != nil {
		return c, fmt.Errorf("adding the customer: %w", err)
	}
	return c, nil
}

func customersLike(tx *gorm.DB, text string) (names []string, err error) {
	err = tx.Model(&Customer{}).Where("name LIKE ?", database.Containing(text)).Order("name").Limit(12).Pluck("name", &names).Error
	if err != nil {
		return nil, fmt.Errorf("looking for customers: %w", err)
	}
	if names == nil {
		names = []string{}
	}
	return names, nil
}
