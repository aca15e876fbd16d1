package trade

import (
	"gorm.io/gorm"

	"tidykiln/internal/customers"
	"tidykiln/internal/database"
)

// Sheets are the quotes and the payments, to be taken out.
func Sheets(tx *gorm.DB) ([]database.Sheet, error) { return sheets(tx, "TRUE", "TRUE") }

// SheetsOf are the quotes of customers and the payments for orders, to be given to whose
// they are.
func SheetsOf(tx *gorm.DB, customers, orders []uint64) ([]database.Sheet, error) {
	return sheets(tx, "q.customer_id IN ("+database.Numbers(customers)+")", "p.order_id IN ("+database.Numbers(orders)+")")
}

func sheets(tx *gorm.DB, quotes, payments string) ([]database.Sheet, error) {
	return database.SheetsOf(tx, [][2]string{
		{"quotes", "SELECT q.id, q.number, " + customers.NameOf("q.customer_id") + ` AS customer, q.state, q.made_at, q.stands_until, q.due_on, q.answered_at, q.order_id, q.outlet_name AS sold_at, q.tax_percent, q.tax_in_price, q.note
			FROM quotes q WHERE ` + quotes + " ORDER BY q.id"},
		{"quote_lines", `SELECT l.id, q.number AS quote_number, l.position, l.product_id, l.product_name AS product, l.quantity, l.unit_price, l.lettering
			FROM quote_lines l JOIN quotes q ON q.id = l.quote_id WHERE ` + quotes + " ORDER BY l.id"},
		{"payments", "SELECT p.id, p.order_id, p.kind, p.amount, p.paid_on, p.way, p.note, p.noted_at, p.taken_back_at FROM payments p WHERE " + payments + " ORDER BY p.id"},
		{"returns", "SELECT p.id, p.order_id, p.cause, p.amount, p.cost, p.remade_order_id, p.note, p.noted_at, p.taken_back_at FROM returns p WHERE " + payments + " ORDER BY p.id"},
		{"pieces_returned", "SELECT r.id, r.return_id, r.want_id, r.product_name AS product, r.goes FROM return_pieces r JOIN returns p ON p.id = r.return_id WHERE " + payments + " ORDER BY r.id"},
	})
}
