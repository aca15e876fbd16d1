package orders

import (
	"context"
	"fmt"
	"time"

	"github.com/shopspring/decimal"
	"gorm.io/gorm"

	"tidykiln/core/calendar"
	"tidykiln/internal/customers"
	"tidykiln/internal/database"
	"tidykiln/internal/problem"
)

// Had counts what customers had, by their id.
func Had(tx *gorm.DB, ids []uint64) (map[uint64]customers.Had, error) {
	var rows []struct {
		CustomerID   uint64
		Orders, Open int
		LastOn       time.Time
	}
	err := tx.Model(&Order{}).Select("customer_id, COUNT(*) AS orders, SUM(state = ?) AS open, MAX(taken_at) AS last_on", Open).Where("customer_id IN ?", ids).Group("customer_id").Find(&rows).Error
	if err != nil {
		return nil, fmt.Errorf("counting the orders of customers: %w", err)
	}
	had := map[uint64]customers.Had{}
	for _, r := range rows {
		had[r.CustomerID] = customers.Had{Orders: r.Orders, Open: r.Open, LastOn: &r.LastOn}
	}
	return had, nil
}

// IDsOf are the orders of customers.
func IDsOf(tx *gorm.DB, customers []uint64) (ids []uint64, err error) {
	if err := tx.Model(&Order{}).Where("customer_id IN ?", customers).Order("id").Pluck("id", &ids).Error; err != nil {
		return nil, fmt.Errorf("reading the orders of customers: %w", err)
	}
	return ids, nil
}

// PicturesOf are the pictures that the pieces of orders have.
func PicturesOf(tx *gorm.DB, orders []uint64) (ids []uint64, err error) {
	q := tx.Model(&Want{}).Distinct("artwork_id").Where("artwork_id IS NOT NULL AND order_line_id IN (SELECT id FROM order_lines WHERE order_id IN ?)", orders)
	if err := q.Order("artwork_id").Pluck("artwork_id", &ids).Error; err != nil {
		return nil, fmt.Errorf("reading the pictures of orders: %w", err)
	}
	return ids, nil
}

// OrderHad is an order as it stands among those of its customer.
type OrderHad struct {
	ID      uint64          `json:"id"`
	Number  int             `json:"number"`
	DueOn   calendar.Date   `json:"dueOn" format:"date"`
	State   State           `json:"state" enum:"open,handed_over,cancelled"`
	TakenAt time.Time       `json:"takenAt"`
	What    string          `json:"what"`
	Total   decimal.Decimal `json:"total"`
}

// mostHad bounds the orders that are told of one customer.
const mostHad = 200

// Had is what a customer had, the newest first.
func (a *Area) Had(ctx context.Context, customer uint64) ([]OrderHad, error) {
	return database.Look(ctx, a.db, func(tx *gorm.DB) ([]OrderHad, error) {
		if _, err := customers.Load(tx, customer); err != nil {
			return nil, err
		}
		list := []OrderHad{}
		err := tx.Raw(`SELECT o.id, o.number, o.due_on, o.state, o.taken_at, SUM(l.quantity * l.unit_price) AS total,
				GROUP_CONCAT(CONCAT(l.quantity, ' × ', l.product_name) ORDER BY l.position SEPARATOR ', ') AS what
			FROM orders o JOIN order_lines l ON l.order_id = o.id WHERE o.customer_id = ? GROUP BY o.id ORDER BY o.id DESC LIMIT ?`, customer, mostHad).Scan(&list).Error
		if err != nil {
			return nil, fmt.Errorf("reading what a customer had: %w", err)
		}
		return list, nil
	})
}

// Holding moves orders from a customer to another.
var Holding = customers.Holding{Called: "orders", Move: func(tx *gorm.DB, from, into uint64, only []uint64) (ids []uint64, err error) {
	q := tx.Model(&Order{}).Where("customer_id = ?", from)
	if only != nil {
		q = q.Where("id IN ?", only)
	}
	if err := q.Order("id").Pluck("id", &ids).Error; err != nil || len(ids) == 0 {
		return ids, err
	}
	err = tx.Model(&Order{}).Where("id IN ?", ids).Updates(map[string]any{"customer_id": into, "version": gorm.Expr("version + 1")}).Error
	if err != nil {
		return nil, fmt.Errorf("giving orders to another customer: %w", err)
	}
	return ids, nil
}}

// NoneOpen refuses a customer who has an order under way.
func NoneOpen(tx *gorm.DB, customers []uint64) error {
	var o Order
	if err := tx.Where("customer_id IN ? AND state = ?", customers, Open).Order("number").Limit(1).Find(&o).Error; err != nil {
		return fmt.Errorf("looking for open orders: %w", err)
	}
	if o.ID != 0 {
		return problem.Conflict(problem.InUse, "Order %d is under way: hand it over or cancel it first.", o.Number)
	}
	return nil
}

// erasedLettering stands where somebody's words stood.
const erasedLettering = "…"

// Forgotten is what a person had wanted: the pieces, what stood on them, and their pictures.
type Forgotten struct {
	Orders    []uint64
	Wants     []uint64
	Lettering []string
	Artworks  []uint64
}

// Forget takes what tells of a person out of the orders of a customer, and says what
// they had wanted.
func Forget(tx *gorm.DB, customer uint64, names []string, instead string) (f Forgotten, err error) {
	ids, err := IDsOf(tx, []uint64{customer})
	if err != nil {
		return f, err
	}
	var pieces []Want
	if err := tx.Where("order_line_id IN (SELECT id FROM order_lines WHERE order_id IN ?)", ids).Find(&pieces).Error; err != nil {
		return f, fmt.Errorf("reading what was wanted: %w", err)
	}
	f.Orders = ids
	for _, w := range pieces {
		f.Wants = append(f.Wants, w.ID)
		if w.Lettering != "" {
			f.Lettering = append(f.Lettering, w.Lettering)
		}
		if w.ArtworkID != nil {
			f.Artworks = append(f.Artworks, *w.ArtworkID)
		}
	}
	text := "REGEXP_REPLACE(text, '“[^”]*”', '“" + erasedLettering + "”')"
	var words []any
	for _, n := range names {
		text = "REPLACE(" + text + ", ?, ?)"
		words = append(words, n, instead)
	}
	for _, change := range []struct {
		sql  string
		args []any
	}{
		{"UPDATE orders SET note = '', version = version + 1 WHERE id IN ?", []any{ids}},
		{"UPDATE order_events SET text = " + text + " WHERE order_id IN ? OR text LIKE 'For % now, not %'", append(words, ids)},
		{"UPDATE wants SET artwork_id = NULL, lettering = IF(lettering = '', '', '" + erasedLettering + "') WHERE id IN ?", []any{f.Wants}},
	} {
		if err := tx.Exec(change.sql, change.args...).Error; err != nil {
			return f, fmt.Errorf("forgetting a person's orders: %w", err)
		}
	}
	if err := database.Redact(tx, "orders", ids, "", "note"); err != nil {
		return f, err
	}
	return f, database.Redact(tx, "wants", f.Wants, erasedLettering, "lettering", "note")
}
