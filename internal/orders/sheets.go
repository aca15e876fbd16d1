package orders

import (
	"gorm.io/gorm"

	"tidykiln/internal/database"
)

// Sheets are the orders and who gave them, to be taken out.
func Sheets(tx *gorm.DB) ([]database.Sheet, error) {
	return database.SheetsOf(tx, [][2]string{
		{"customers", "SELECT id, name FROM customers ORDER BY id"},
		{"orders", `SELECT o.id, o.number, c.name AS customer, o.state, o.due_on, o.days_on_the_way, o.taken_at, o.closed_at, o.outlet_name AS sold_at, o.note
			FROM orders o JOIN customers c ON c.id = o.customer_id ORDER BY o.id`},
		{"order_lines", `SELECT l.id, o.number AS order_number, l.position, l.product_id, l.product_name AS product, l.quantity, l.unit_price, l.unit_cost
			FROM order_lines l JOIN orders o ON o.id = l.order_id ORDER BY l.id`},
		{"pieces_ordered", `SELECT w.id, o.number AS order_number, l.product_name AS product, w.position, w.lettering
			FROM wants w JOIN order_lines l ON l.id = w.order_line_id JOIN orders o ON o.id = l.order_id ORDER BY w.id`},
		{"logbook_of_orders", "SELECT o.number AS order_number, e.at, e.text FROM order_events e JOIN orders o ON o.id = e.order_id ORDER BY e.id"},
	})
}
