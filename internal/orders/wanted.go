package orders

import (
	"fmt"
	"slices"

	"gorm.io/gorm"

	"tidykiln/core/calendar"
	"tidykiln/internal/customers"
	"tidykiln/internal/database"
	"tidykiln/internal/wire"
)

// OpenWant is a piece that an open order wants.
type OpenWant struct {
	WantID      uint64        `json:"wantId"`
	OrderID     uint64        `json:"orderId"`
	OrderNumber int           `json:"orderNumber"`
	Customer    string        `json:"customer"`
	DueOn       calendar.Date `json:"dueOn" format:"date"`
	Lettering   string        `json:"lettering"`
	ArtworkID   *uint64       `json:"artworkId,omitempty"`
	ProductID   uint64        `json:"-"`
	// Number is its place among the pieces of its line, from 1.
	Number int `json:"-"`
}

// Wanted reads the wants of open orders, soonest due first.
func Wanted(tx *gorm.DB) (wants []OpenWant, err error) {
	err = tx.Table("wants").
		Select("wants.id AS want_id, orders.id AS order_id, orders.number AS order_number, " + customers.NameOf("orders.customer_id") + " AS customer, orders.due_on, wants.lettering, wants.artwork_id, order_lines.product_id, wants.position + 1 AS number").
		Joins("JOIN order_lines ON order_lines.id = wants.order_line_id").
		Joins("JOIN orders ON orders.id = order_lines.order_id").
		Where("orders.state = 'open'").
		Order("orders.due_on, orders.number, order_lines.position, wants.position").
		Scan(&wants).Error
	if err != nil {
		return nil, fmt.Errorf("reading what is wanted: %w", err)
	}
	return wants, nil
}

// WantIDs are the order's wants, line by line.
func (o Order) WantIDs() (ids []uint64) {
	for _, l := range o.Lines {
		for _, w := range l.Wants {
			ids = append(ids, w.ID)
		}
	}
	return ids
}

// CameBack tells whether any of its pieces came back after it was handed over.
func (o Order) CameBack() bool {
	return slices.ContainsFunc(o.Lines, func(l Line) bool {
		return slices.ContainsFunc(l.Wants, func(w Want) bool { return w.ReturnedAt != nil })
	})
}

// Pieces is how many pieces the order is for.
func (o Order) Pieces() (n int) {
	for _, l := range o.Lines {
		n += l.Quantity
	}
	return n
}

// Heads reads orders without their lines, soonest due first.
func Heads(tx *gorm.DB, ids []uint64) (heads []Order, err error) {
	if err := tx.Joins("Customer").Where("orders.id IN ?", ids).Order("due_on, number").Find(&heads).Error; err != nil {
		return nil, fmt.Errorf("reading orders: %w", err)
	}
	return heads, nil
}

// Taken is a query for all orders ever taken.
func Taken(tx *gorm.DB) *gorm.DB { return tx.Model(&Order{}).Select("1") }

// Find looks for a text in numbers, customers and lettering, open orders first.
func Find(tx *gorm.DB, text string, most int) (found []wire.Found, err error) {
	name := customers.NameOf("o.customer_id")
	err = tx.Raw(`SELECT 'order' AS kind, o.id, CONCAT(`+name+`, ', order ', o.number) AS title,
			COALESCE((SELECT GROUP_CONCAT(w.lettering ORDER BY w.id SEPARATOR ' / ') FROM wants w JOIN order_lines l ON l.id = w.order_line_id WHERE l.order_id = o.id AND w.lettering LIKE @like), CONCAT('due ', o.due_on)) AS detail
		FROM orders o
		WHERE o.number LIKE @like OR `+name+` LIKE @like OR EXISTS (SELECT 1 FROM wants w JOIN order_lines l ON l.id = w.order_line_id WHERE l.order_id = o.id AND w.lettering LIKE @like)
		ORDER BY o.state = 'open' DESC, o.due_on DESC LIMIT @most`, map[string]any{"like": database.Containing(text), "most": most}).Scan(&found).Error
	if err != nil {
		return nil, fmt.Errorf("finding orders: %w", err)
	}
	return found, nil
}
