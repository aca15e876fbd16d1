package trade

import (
	"gorm.io/gorm"

	"tidykiln/internal/database"
)

// Sheets are the payments, to be taken out.
func Sheets(tx *gorm.DB) ([]database.Sheet, error) { return sheets(tx, "TRUE") }

// SheetsOf are the payments for some orders, to be given to whose they are.
func SheetsOf(tx *gorm.DB, orders []uint64) ([]database.Sheet, error) {
	return sheets(tx, "order_id IN ("+database.Numbers(orders)+")")
}

func sheets(tx *gorm.DB, which string) ([]database.Sheet, error) {
	return database.SheetsOf(tx, [][2]string{
		{"payments", "SELECT id, order_id, kind, amount, paid_on, way, note, noted_at, taken_back_at FROM payments WHERE " + which + " ORDER BY id"},
	})
}
