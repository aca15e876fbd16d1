package customers

import (
	"gorm.io/gorm"

	"tidykiln/internal/database"
)

// Sheets are the customers, to be taken out.
func Sheets(tx *gorm.DB) ([]database.Sheet, error) { return sheets(tx, "TRUE") }

// SheetsOf are some customers, to be given to whom they are.
func SheetsOf(tx *gorm.DB, ids []uint64) ([]database.Sheet, error) {
	return sheets(tx, "c.id IN ("+database.Numbers(ids)+")")
}

func sheets(tx *gorm.DB, which string) ([]database.Sheet, error) {
	return database.SheetsOf(tx, [][2]string{
		{"customers", "SELECT c.id, c.name, c.email, c.phone, c.other_way, c.likes, c.note, c.merged_into, c.erased_at FROM customers c WHERE " + which + " ORDER BY c.id"},
		{"customer_addresses", "SELECT a.customer_id, a.called, a.`lines` FROM customer_addresses a JOIN customers c ON c.id = a.customer_id WHERE " + which + " ORDER BY a.customer_id, a.position"},
	})
}
