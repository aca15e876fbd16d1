package stores

import (
	"gorm.io/gorm"

	"tidykiln/internal/database"
)

// Sheets are the stores, to be taken out.
func Sheets(tx *gorm.DB) ([]database.Sheet, error) {
	return database.SheetsOf(tx, [][2]string{
		{"materials", "SELECT id, material_key, name, kind, unit, unit_cost, latest_cost, counted, on_hand, lead_days, hazard, archived_at FROM materials ORDER BY id"},
		{"suppliers", "SELECT id, name FROM suppliers ORDER BY id"},
		{"purchases", `SELECT p.id, m.name AS material, s.name AS supplier, p.received_on, p.packs, p.pack, p.quantity, m.unit, p.rejects, p.price, p.extra, p.left_quantity, p.opened_at, r.reversed_at
			FROM purchases p JOIN materials m ON m.id = p.material_id LEFT JOIN receipts r ON r.id = p.receipt_id LEFT JOIN suppliers s ON s.id = r.supplier_id ORDER BY p.id`},
		{"movements", `SELECT v.id, m.name AS material, v.at, v.cause, v.quantity, m.unit, v.unit_cost, v.batch_id, v.note, v.reverses
			FROM movements v JOIN materials m ON m.id = v.material_id ORDER BY v.id`},
	})
}
