package orders

import (
	"gorm.io/gorm"

	"tidykiln/internal/customers"
	"tidykiln/internal/database"
)

// Sheets are the orders and who gave them, to be taken out.
func Sheets(tx *gorm.DB) ([]database.Sheet, error) { return sheets(tx, "TRUE") }

// SheetsOf are the orders of customers, to be given to whom they are.
func SheetsOf(tx *gorm.DB, ids []uint64) ([]database.Sheet, error) {
	return sheets(tx, "o.customer_id IN ("+database.Numbers(ids)+")")
}

func sheets(tx *gorm.DB, which string) ([]database.Sheet, error) {
	return database.SheetsOf(tx, [][2]string{
		{"orders", "SELECT o.id, o.number, " + customers.NameOf("o.customer_id") + ` AS customer, o.state, o.due_on, o.days_on_the_way, o.taken_at, o.closed_at, o.outlet_name AS sold_at, o.note
			FROM orders o WHERE ` + which + " ORDER BY o.id"},
		{"order_lines", `SELECT l.id, o.number AS order_number, l.position, l.product_id, l.product_name AS product, l.quantity, l.unit_price, l.unit_cost
			FROM order_lines l JOIN orders o ON o.id = l.order_id WHERE ` + which + " ORDER BY l.id"},
		{"pieces_ordered", `SELECT w.id, o.number AS order_number, l.product_name AS product, w.position, w.lettering
			FROM wants w JOIN order_lines l ON l.id = w.order_line_id JOIN orders o ON o.id = l.order_id WHERE ` + which + " ORDER BY w.id"},
		{"logbook_of_orders", "SELECT o.number AS order_number, e.at, e.text FROM order_events e JOIN orders o ON o.id = e.order_id WHERE " + which + " ORDER BY e.id"},
	})
}
